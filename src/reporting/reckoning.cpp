// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/reckoning.h"

#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "reporting/code_picture.h"
#include "reporting/paper.h"
#include "reporting/sheet.h"
#include "reporting/truth_picture.h"
#include "wording/common/phrases.h"
#include "wording/practice/practice_words.h"
#include "workshop/practice/result.h"

#include <QPainter>
#include <algorithm>
#include <set>

namespace pallix::reporting {
namespace {

using workshop::Reckoning;

constexpr int width = 660; // layout pixels

QString rounded(double score) {
    return QString::fromStdString(wording::fixed(score, 0));
}

void scores(Sheet& sheet, const workshop::PracticeResult& result) {
    Sheet::Rows rows;
    for (std::size_t i = 0; i < result.own.parts.size(); ++i)
        rows += Sheet::row({q(wording::score_part_name(static_cast<workshop::ScorePart>(i))),
                            rounded(workshop::score_part_most[i]), rounded(result.own.parts[i]),
                            rounded(result.player.parts[i])});
    rows += Sheet::row({QStringLiteral("together"), QStringLiteral("100"), rounded(result.own.score()),
                        rounded(result.player.score())});
    sheet.table({QStringLiteral("part"), QStringLiteral("of"), QStringLiteral("you"), QStringLiteral("the player")},
                rows);
}

void metal(Sheet& sheet, const PaperSource& s, const workshop::PracticeResult& result) {
    Sheet::Rows rows;
    for (const workshop::MetalOff& off : result.own.metal) {
        const auto same = std::ranges::find(result.player.metal, off.about, &workshop::MetalOff::about);
        rows += Sheet::row({q(wording::about_words(s.state, off.about)), q(s.lengths.plain(off.taken)),
                            q(s.lengths.plain(off.knowable)), q(s.lengths.plain(off.needed)),
                            same == result.player.metal.end() ? QString() : q(s.lengths.plain(same->taken))});
    }
    sheet.section(QStringLiteral("Metal that came off, %1").arg(q(s.lengths.unit_name())),
                  {QStringLiteral("where"), QStringLiteral("taken"), QStringLiteral("had to, by all that can be read"),
                   QStringLiteral("had to, in truth"), QStringLiteral("the player took")},
                  rows);
}

/// Sentences that go on the page below so many panels: one row of them is as high as five lines, some of which wrap.
qsizetype room_for_remarks(std::size_t panels) {
    constexpr qsizetype without = 24, of_a_row = 5, least = 2, most = 12;
    const auto rows = static_cast<qsizetype>(panels + 1) / 2;
    return std::clamp(without - of_a_row * rows, least, most);
}

QImage truth_image(const PaperSource& s, const Reckoning& r) {
    std::set<std::string> out;
    for (const workshop::PartLeft& part : r.left)
        if (!part.good)
            out.insert(part.about);
    QStringList names;
    for (const workshop::Shape& shape : r.shapes)
        names << q(wording::shape_name(*intake_of(s.state).blueprint, shape));
    TruthPicture picture(r.shapes, names, out);
    QFont font(QStringLiteral("Lato"));
    font.setPixelSize(14);
    const double height = picture.height(font.pixelSize());
    QImage image(width * s.picture_scale, static_cast<int>(height * s.picture_scale), QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.scale(s.picture_scale, s.picture_scale);
    picture.paint(painter, QRectF(0, 0, width, height),
                  {Qt::white, QColor(0x1E, 0x25, 0x2B), QColor(0x5B, 0x66, 0x70), QColor(0xC9, 0xCB, 0xC8),
                   QColor(0xE4, 0xEC, 0xE6), QColor(0x9A, 0x2F, 0x1F)},
                  font, s.lengths);
    return image;
}

} // namespace

QString reckoning_html(const PaperSource& s) {
    Sheet sheet;
    const auto& card = card_of(s.state);
    sheet.add(QStringLiteral("<h1>%1</h1>").arg(q(intake_of(s.state).title)));
    if (!card.practice || !card.truth_opened) {
        sheet.paragraph(card.practice
                            ? QStringLiteral("The truth of this block is sealed. Opening it ends the exercise.")
                            : QStringLiteral("This block is no practice: nobody knows how it truly is."));
        return paper_html(intake_of(s.state).title, sheet.body());
    }
    std::shared_ptr<const workshop::PracticeResult> result = s.of_book.practice;
    if (!result && s.of_book.practice_awaited) {
        sheet.paragraph(QStringLiteral("It is being reckoned up…"));
        return paper_html(intake_of(s.state).title, sheet.body());
    }
    if (!result)
        if (auto reckoned = workshop::result_of(s.entries))
            result = std::make_shared<const workshop::PracticeResult>(std::move(*reckoned));
    if (!result) {
        sheet.paragraph(QStringLiteral("It cannot be reckoned up: the seal of its truth is broken."));
        return paper_html(intake_of(s.state).title, sheet.body());
    }
    std::string person;
    for (const block::Entry& entry : s.entries)
        if (entry.sequence == card.truth_opened->sequence)
            person = entry.person;
    const block::PracticeBegun& begun = card.practice->payload;
    sheet.quiet(QStringLiteral("%1 · level %2, number %3 · %4 · %5 of work by the clock; it counts for nothing")
                    .arg(q(wording::practice_mark))
                    .arg(begun.level)
                    .arg(begun.number)
                    .arg(q(person), q(wording::fixed(result->own.minutes, 0) + " min")));
    sheet.paragraph(QStringLiteral("<span class=\"verdict\">%1</span>").arg(q(wording::score_sentence(result->own))));
    scores(sheet, *result);
    if (!result->own.shapes.empty()) {
        sheet.heading(QStringLiteral("How it truly is"));
        sheet.pictures(
            {Sheet::picture(picture_address(truth_image(s, result->own)), width)},
            {QStringLiteral("Larger than life, the front to the left: hollow and dashed as it was found, full as it is "
                            "left; shaded what it may be, square and red what is out")});
    }
    metal(sheet, s, *result);
    QStringList lines;
    for (const std::string& sentence : wording::reckoning_sentences(s.state, result->own, s.lengths))
        lines << q(sentence);
    if (!lines.isEmpty())
        sheet.heading(QStringLiteral("What to do better"));
    const qsizetype on_one_page = room_for_remarks(result->own.shapes.size());
    if (lines.size() > on_one_page) {
        const qsizetype more = lines.size() - on_one_page;
        lines = lines.mid(0, on_one_page);
        lines << QStringLiteral("and %1 more of the kind").arg(more);
    }
    sheet.list(lines);
    return paper_html(intake_of(s.state).title, sheet.body());
}

} // namespace pallix::reporting
