// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "wording/common/lengths.h"

#include <QByteArray>
#include <QImage>
#include <QString>
#include <vector>

namespace pallix::planning {
struct Assessment;
}

namespace pallix::reporting {

/// What the code on a passport and a label says, in one line of plain text: "serial 26-014; Workboat V6; main 73.990 to
/// 73.998; …; mm; entry 57; digest 0123456789abcdef" (docs/formats.md). Empty where the block has no serial.
[[nodiscard]] std::string code_text(const block::JobState& state, const planning::Assessment& assessment,
                                    const std::vector<block::Entry>& entries, const wording::LengthText& lengths);

/// A text as a QR code (ISO/IEC 18004, by libqrencode), with its quiet zone of four modules.
/// @param module pixels of one
/// @return a null image where the text is longer than any code holds
[[nodiscard]] QImage code_picture(const std::string& text, int module);

[[nodiscard]] QByteArray png_of(const QImage& image);
/// A picture as an address that a page carries within itself.
[[nodiscard]] QString picture_address(const QImage& image);

} // namespace pallix::reporting
