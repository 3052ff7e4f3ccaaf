// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/paper_picture.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "reporting/code_picture.h"
#include "reporting/deck_picture.h"
#include "wording/common/sentences.h"

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

QString paper_picture(const PaperSource& s, const block::BankBlueprint& bank, const block::DeckResult& deck,
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
    return picture_address(image);
}

void decks_before_and_after(Sheet& sheet, const PaperSource& s) {
    constexpr int wide = 330;
    QStringList images, words;
    const auto row = [&] { // two beside one another
        if (images.size() == 2) {
            sheet.pictures(images, words);
            images.clear();
            words.clear();
        }
    };
    for (const block::BankBlueprint& bank : intake_of(s.state).blueprint->banks) {
        const block::DeckState& deck = decks_of(s.state).deck(bank.id);
        if (!deck.as_found)
            continue;
        const QString name = q(wording::bank_name(bank));
        images << Sheet::picture(paper_picture(s, bank, deck.as_found->result, false), wide);
        words << QStringLiteral("%1 as it came: each line is a step in height").arg(name);
        row();
        if (deck.latest && !deck.cuts.empty() && !deck.stale()) {
            images << Sheet::picture(paper_picture(s, bank, deck.latest->result, true), wide);
            words << QStringLiteral("%1 as it leaves").arg(name);
            row();
        }
    }
    sheet.pictures(images, words);
}

} // namespace pallix::reporting
