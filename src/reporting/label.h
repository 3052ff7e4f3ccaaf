// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/paper_source.h"
#include "reporting/save.h"

#include <QImage>

class QPagedPaintDevice;
class QPainter;

namespace pallix::reporting {

/// The label that goes with a block: its code, serial, engine, key sizes and the digest's beginning, as many of them as
/// the label has room for, none smaller than 9 points. Without a serial it says so and has no code.

/// Draws it on the page of a device whose page has the label's size, as the shop has it.
void print_label(const PaperSource& source, QPagedPaintDevice& device);
/// The same as a picture, 300 dots an inch.
[[nodiscard]] QImage label_picture(const PaperSource& source);
[[nodiscard]] Saved save_label_pdf(const PaperSource& source, const QString& file);

} // namespace pallix::reporting
