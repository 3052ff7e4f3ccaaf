// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/reckoning.h"

#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "reporting/code_picture.h"
#include "reporting/paper.h"
#include "reporting/sheet.h"
#include "wording/common/phrases.h"
#include "wording/practice/practice_words.h"
#include "workshop/practice/result.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace pallix::reporting {
namespace {

using workshop::PartLeft;
using workshop::Reckoning;

const QColor ink(0x1E, 0x25, 0x2B), soft(0x5B, 0x66, 0x70), good_side(0xE4, 0xEC, 0xE6), bad(0x9A, 0x2F, 0x1F);
constexpr int names = 190, width = 660, line = 22, head = 26, foot = 22; // layout pixels

/// The range that is drawn, mm to either side of the limit.
double range_of(const Reckoning& r) {
    double range = 0.01;
    for (const PartLeft& part : r.left)
        range = std::max({range, std::abs(part.out), std::abs(part.out_was.value_or(0))});
    return std::min(range, 0.25); // what is further out stands at the edge
}

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

} // namespace

QImage truth_picture(const block::JobState& state, const Reckoning& r, const wording::LengthText& l, int scale) {
    const int height = head + line * static_cast<int>(r.left.size()) + foot;
    QImage image(width * scale, height * scale, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.scale(scale, scale);
    QFont font(QStringLiteral("Lato"));
    font.setPixelSize(14);
    painter.setFont(font);
    const double range = range_of(r), left = names, right = width - 12, zero = (left + right) / 2;
    const auto at = [&](double out) { return zero + std::clamp(out / range, -1.0, 1.0) * ((right - left) / 2 - 8); };
    painter.fillRect(QRectF(left, head, zero - left, line * static_cast<double>(r.left.size())), good_side);
    painter.setPen(QPen(ink, 1));
    painter.drawLine(QPointF(zero, head - 4), QPointF(zero, height - foot + 4));
    painter.setPen(soft);
    painter.drawText(QRectF(left, 0, zero - left - 6, head), Qt::AlignRight | Qt::AlignVCenter, QStringLiteral("good"));
    painter.drawText(QRectF(zero + 6, 0, right - zero, head), Qt::AlignLeft | Qt::AlignVCenter,
                     QStringLiteral("out of its limit"));
    painter.drawText(QRectF(zero + 6, height - foot, right - zero, foot), Qt::AlignRight | Qt::AlignVCenter,
                     QString::fromStdString(l.with_unit(range)));
    double y = head;
    for (const PartLeft& part : r.left) {
        painter.setPen(ink);
        painter.drawText(
            QRectF(0, y, names - 8, line), Qt::AlignLeft | Qt::AlignVCenter,
            painter.fontMetrics().elidedText(QString::fromStdString(wording::about_words(state, part.about)),
                                             Qt::ElideMiddle, names - 8));
        const QPointF is(at(part.out), y + line / 2.0);
        if (part.out_was) {
            const QPointF was(at(*part.out_was), is.y());
            painter.setPen(QPen(soft, 1, Qt::DashLine));
            painter.drawLine(was, is);
            painter.setPen(QPen(ink, 1.5));
            painter.setBrush(Qt::white);
            painter.drawEllipse(was, 5, 5);
        }
        painter.setPen(QPen(part.good ? ink : bad, 1.5));
        painter.setBrush(part.good ? ink : bad);
        if (part.good)
            painter.drawEllipse(is, 5, 5);
        else
            painter.drawRect(QRectF(is.x() - 5, is.y() - 5, 10, 10)); // by its shape, not by its colour alone
        y += line;
    }
    return image;
}

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
    if (!result->own.left.empty()) {
        sheet.heading(QStringLiteral("How it truly is"));
        sheet.pictures(
            {Sheet::picture(picture_address(truth_picture(s.state, result->own, s.lengths, s.picture_scale)), width)},
            {QStringLiteral("Much enlarged: hollow as it was found, full as it is left; square what is out")});
    }
    metal(sheet, s, *result);
    QStringList lines;
    for (const std::string& sentence : wording::reckoning_sentences(s.state, result->own, s.lengths))
        lines << q(sentence);
    if (!lines.isEmpty())
        sheet.heading(QStringLiteral("What to do better"));
    constexpr qsizetype on_one_page = 12;
    if (lines.size() > on_one_page) {
        const qsizetype more = lines.size() - on_one_page;
        lines = lines.mid(0, on_one_page);
        lines << QStringLiteral("and %1 more of the kind").arg(more);
    }
    sheet.list(lines);
    return paper_html(intake_of(s.state).title, sheet.body());
}

} // namespace pallix::reporting
