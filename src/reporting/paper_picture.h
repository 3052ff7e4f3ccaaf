// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/evaluation.h"
#include "reporting/paper_source.h"
#include "reporting/sheet.h"

#include <QString>

namespace pallix::reporting {

/// A deck as it stands on paper, as a source for an HTML image.
[[nodiscard]] QString paper_picture(const PaperSource& source, const block::BankBlueprint& bank,
                                    const block::DeckResult& deck, bool machined);

/// Each deck as it came and, where it was cut and measured since, as it leaves.
void decks_before_and_after(Sheet& sheet, const PaperSource& source);

} // namespace pallix::reporting
