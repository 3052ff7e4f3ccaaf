// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/evaluation.h"
#include "reporting/passport.h"

#include <QString>

namespace pallix::reporting {

/// A deck as it stands on paper, as a source for an HTML image.
[[nodiscard]] QString paper_picture(const PassportSource& source, const block::BankBlueprint& bank,
                                    const block::DeckResult& deck, bool machined);

} // namespace pallix::reporting
