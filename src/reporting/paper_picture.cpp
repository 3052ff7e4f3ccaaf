// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/paper_picture.h"

#include "block/state/intake_state.h"
#include "reporting/deck_picture.h"

#include <QBuffer>
#include <QImage>
#include <QPainter>

namespace pallix::reporting {
namespace {

/// Ink on paper: the same iron and bright metal as on screen.
DeckColours paper_colours() {
    return {.page = QColor(0xFF, 0xFF, 0xFF),
            .iron_low = QColor(0x5C, 0x60, 0x64),
            .iron_high = QColor(0xA9, 0xAB, 0xA8),
            .bright = QColor(0xF0, 0xEC, 0xE0),
            .bright_line = QColor(0xDC, 0xD6, 0xC6),
            .contour = QColor(0x3A, 0x3E, 0x42),
            .edge = QColor(0x1E, 0x25, 0x2B),
            .blank = QColor(0xC0, 0xBC, 0xB2),
            .point = QColor(0x2B, 0x3F, 0x8C),
            .mark = QColor(0xA3, 0x30, 0x1F)};
}

} // namespace

QString paper_picture(const PassportSource& s, const block::BankBlueprint& bank, const block::DeckResult& deck,
                      bool machined) {
    const planning::DeckExtent e = planning::deck_extent(bank);
    const int width = 330 * s.picture_scale;
    QImage image(width, static_cast<int>(width * e.width() / e.length()) + 8 * s.picture_scale, QImage::Format_RGB32);
    image.fill(Qt::white);
    DeckPicture drawing(*intake_of(s.state).blueprint, bank, deck.points);
    drawing.lay_out(QRectF(image.rect()).adjusted(4, 4, -4, -4));
    QPainter painter(&image);
    drawing.paint(painter, paper_colours(),
                  {.level = deck.height_max + 1,
                   .contour_step = s.lengths.unit() == block::Unit::inch ? 0.0127 : 0.01,
                   .dark = {},
                   .show_points = false,
                   .machined = machined});
    painter.end();
    QByteArray png;
    QBuffer buffer(&png);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, "PNG");
    return QStringLiteral("data:image/png;base64,") + QString::fromLatin1(png.toBase64());
}

} // namespace pallix::reporting
