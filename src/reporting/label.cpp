// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/label.h"

#include "block/digest.h"
#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "reporting/code_picture.h"
#include "wording/practice/practice_words.h"
#include "wording/report/outcome_words.h"

#include <QPainter>
#include <QPdfWriter>
#include <algorithm>

namespace pallix::reporting {
namespace {

constexpr double point = 25.4 / 72; // mm
constexpr double margin = 1.5;      // mm, that no printer prints on

/// In millimetres from the label's top left corner.
void draw(QPainter& painter, const PaperSource& s) {
    const block::LabelSize& label = s.shop().label;
    const QRectF room(margin, margin, label.width - 2 * margin, label.height - 2 * margin);
    QRectF text = room;
    const QImage code = code_picture(code_text(s.state, s.assessment, s.entries, s.lengths), 1);
    if (!code.isNull()) {
        // Beside the words where the label is wide, else over them.
        const double side =
            label.width >= 1.5 * label.height ? room.height() : std::min(room.width(), room.height() * 0.7);
        painter.drawImage(QRectF(room.left(), room.top(), side, side), code);
        if (label.width >= 1.5 * label.height)
            text.setLeft(room.left() + side + 1);
        else
            text.setTop(room.top() + side);
    }
    const auto& serial = card_of(s.state).serial;
    double y = text.top();
    QFont font(QStringLiteral("Lato"));
    font.setPixelSize(100); // a type has whole pixels: drawn large, then made smaller
    const auto fits = [&](const QString& words) {
        return QFontMetricsF(font).horizontalAdvance(words) * 9 * point / 100 <= text.width();
    };
    const auto line = [&](const QString& words, double size, bool bold) {
        const double height = 1.25 * size * point;
        if (words.isEmpty() || y + height > text.bottom() + 0.01)
            return;
        QFont own = font;
        own.setBold(bold);
        const QFontMetricsF metrics(own);
        const double scale = size * point / 100;
        painter.save();
        painter.translate(text.left(), y);
        painter.scale(scale, scale);
        painter.setFont(own);
        painter.drawText(QPointF(0, metrics.ascent()), metrics.elidedText(words, Qt::ElideRight, text.width() / scale));
        painter.restore();
        y += height;
    };
    const auto words = [](const std::string& plain) { return QString::fromStdString(plain); };
    line(words(card_of(s.state).practice ? wording::practice_mark
               : serial                  ? serial->payload.serial
                                         : "no serial"),
         13, true);
    line(
        words(s.lengths.unit_name() + (intake_of(s.state).blueprint ? " · " + intake_of(s.state).blueprint->name : "")),
        9, false); // sizes below may have no room for their unit
    line(words(intake_of(s.state).title), 9, false);
    for (const std::string& size : wording::key_sizes(s.state, s.assessment, s.lengths)) {
        // A number that is cut short would be another one: shorter words, or none.
        const QString whole = words(size + " " + s.lengths.unit_name());
        QString shorter = words(size);
        shorter.replace(QStringLiteral(" to "), QStringLiteral("–"));
        if (fits(whole) || fits(shorter))
            line(fits(whole) ? whole : shorter, 9, false);
    }
    const QString digest = words(block::digest_of(s.entries).substr(0, 16));
    if (fits(digest))
        line(digest, 9, false);
    line(words(s.shop().shop), 9, false);
}

QPageSize page_of(const block::LabelSize& label) {
    return QPageSize(QSizeF(label.width, label.height), QPageSize::Millimeter, QStringLiteral("label"),
                     QPageSize::ExactMatch);
}

} // namespace

void print_label(const PaperSource& s, QPagedPaintDevice& device) {
    device.setPageSize(page_of(s.shop().label));
    device.setPageMargins(QMarginsF(0, 0, 0, 0));
    QPainter painter(&device);
    painter.scale(device.width() / s.shop().label.width, device.height() / s.shop().label.height);
    draw(painter, s);
}

QImage label_picture(const PaperSource& s) {
    constexpr double per_mm = 300 / 25.4;
    QImage image(static_cast<int>(s.shop().label.width * per_mm), static_cast<int>(s.shop().label.height * per_mm),
                 QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.scale(per_mm, per_mm);
    draw(painter, s);
    return image;
}

Saved save_label_pdf(const PaperSource& s, const QString& file) {
    return save_pdf(file, [&s](QPdfWriter& writer) { print_label(s, writer); });
}

} // namespace pallix::reporting
