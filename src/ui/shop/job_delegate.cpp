// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/shop/job_delegate.h"

#include "planning/common/assessment.h"
#include "session/shop_model.h"
#include "ui/marks.h"
#include "wording/common/sentences.h"

#include <QPainter>
#include <algorithm>
#include <vector>

namespace pallix::ui {

using session::ShopModel;

JobDelegate::JobDelegate(Context context, QObject* parent) : QStyledItemDelegate(parent), context_(context) {}

QSize JobDelegate::sizeHint(const QStyleOptionViewItem& option, const QModelIndex&) const {
    return {option.rect.width(), scaled(112)};
}

/// The stages in a row, each its own shape and name; closer together where they are many.
void JobDelegate::paint_stages(QPainter& painter, const QVariantList& marks, const QRect& text) const {
    const Palette& p = context_.palette();
    painter.setFont(font_of(Type::small));
    struct Stop {
        planning::StageMark mark;
        QStaticText name;
    };
    std::vector<Stop> stops;
    double words = 0;
    for (qsizetype i = 0; i < marks.size(); ++i) {
        const auto mark = static_cast<planning::StageMark>(marks[i].toInt());
        const auto stage = static_cast<planning::Stage>(i);
        using enum planning::Stage;
        if (mark == planning::StageMark::open && (stage == cleaned || stage == mock_up || stage == finish))
            continue; // asked for by few jobs, and by this one not now
        const QString name = qt(wording::stage_name(stage));
        QStaticText& laid_out = stage_names_[name]; // the same on every row
        if (laid_out.text().isEmpty())
            laid_out = QStaticText(name);
        laid_out.prepare(painter.transform(), painter.font());
        words += laid_out.size().width() + scaled(20);
        stops.push_back({mark, laid_out});
    }
    const double room = stops.empty() ? 0 : (text.width() - words) / static_cast<double>(stops.size());
    const double between = std::clamp(room, 4_px, 22_px);
    double x = text.left();
    const int y = text.top() + scaled(50);
    for (const Stop& stop : stops) {
        paint_mark(painter, QRectF(x, y + 1, 14_px, 14_px), stop.mark, p);
        painter.setPen(stop.mark == planning::StageMark::open ? p.quiet : p.ink);
        painter.drawStaticText(QPointF(x + scaled(20), y - 1), stop.name);
        x += scaled(20) + stop.name.size().width() + between;
    }
}

void JobDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
    const Palette& p = context_.palette();
    painter->save();
    const QRect r = option.rect;
    const bool chosen = option.state & QStyle::State_Selected;
    if (chosen) {
        painter->fillRect(r, p.selected);
        painter->fillRect(QRect(r.left(), r.top(), scaled(4), r.height()), p.accent);
    }
    painter->fillRect(QRect(r.left(), r.bottom(), r.width(), 1), p.hairline);

    const int margin = scaled(124); // where the board says what a job waits for
    const QString group = index.data(ShopModel::group_role).toString();
    if (!group.isEmpty() && index.row() > 0)
        painter->fillRect(QRect(r.left(), r.top(), r.width(), 2), p.quiet);
    painter->setPen(p.quiet);
    painter->setFont(font_of(Type::text, true));
    painter->drawText(QRect(r.left() + scaled(16), r.top() + scaled(12), margin - scaled(24), r.height()),
                      Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, group);
    const QRect text = r.adjusted(margin, scaled(12), -scaled(24), -scaled(12));
    painter->setPen(p.ink);
    painter->setFont(font_of(Type::title, true));
    painter->drawText(text, Qt::AlignLeft | Qt::AlignTop, index.data(Qt::DisplayRole).toString());
    painter->setFont(font_of(Type::small));
    painter->setPen(p.quiet);
    QStringList who{index.data(ShopModel::customer_role).toString(), index.data(ShopModel::engine_role).toString()};
    who.removeAll(QString());
    painter->drawText(text.adjusted(0, scaled(28), 0, 0), Qt::AlignLeft | Qt::AlignTop,
                      who.join(QStringLiteral("  ·  ")));
    const QString day = index.data(ShopModel::day_role).toString();
    painter->setPen(index.data(ShopModel::late_role).toBool() ? p.fails : p.quiet);
    painter->drawText(text.adjusted(0, scaled(4), 0, 0), Qt::AlignRight | Qt::AlignTop,
                      day.isEmpty() ? tr("since %1").arg(index.data(ShopModel::opened_role).toString().left(10)) : day);

    painter->setPen(index.data(ShopModel::overdue_role).toBool() ? p.fails : p.quiet);
    painter->drawText(text.adjusted(0, scaled(28), 0, 0), Qt::AlignRight | Qt::AlignTop,
                      index.data(ShopModel::part_role).toString());
    paint_stages(*painter, index.data(ShopModel::stages_role).toList(), text);
    painter->setFont(font_of(Type::text));
    const bool readable = index.data(ShopModel::readable_role).toBool();
    painter->setPen(readable ? p.accent : p.fails);
    const QString words = index.data(ShopModel::waits_role).toString();
    const QString waits = readable ? tr("next: %1").arg(words) : words;
    const QString hours = index.data(ShopModel::hours_role).toString();
    const int taken = hours.isEmpty() ? 0 : QFontMetrics(font_of(Type::small)).horizontalAdvance(hours) + scaled(12);
    const QRect foot(text.left(), text.bottom() - scaled(19), text.width(), scaled(22));
    painter->drawText(foot.adjusted(0, 0, -taken, 0), Qt::AlignLeft | Qt::AlignVCenter,
                      painter->fontMetrics().elidedText(waits, Qt::ElideRight, foot.width() - taken));
    painter->setFont(font_of(Type::small));
    painter->setPen(p.quiet);
    painter->drawText(foot, Qt::AlignRight | Qt::AlignVCenter, hours);
    if (option.state & QStyle::State_HasFocus) {
        painter->setPen(QPen(p.accent, 1.5));
        painter->drawRect(r.adjusted(1, 1, -2, -2));
    }
    painter->restore();
}

} // namespace pallix::ui
