// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/route_panel.h"

#include "ui/frame/plain_label.h"

#include "planning/common/assessment.h"
#include "ui/marks.h"
#include "wording/common/sentences.h"

#include <QPainter>
#include <QVBoxLayout>
#include <array>

namespace pallix::ui {

using planning::Stage;
using planning::StageMark;

RouteStop::RouteStop(Context context, QString name, Place place, QWidget* parent)
    : QAbstractButton(parent), context_(context), name_(std::move(name)), place_(place) {
    setFocusPolicy(Qt::TabFocus);
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void RouteStop::set_state(StageMark mark, bool open_here, bool enabled) {
    mark_ = mark;
    open_here_ = open_here;
    setEnabled(enabled);
    const QString word = qt(wording::stage_word(mark));
    setAccessibleName(word.isEmpty() ? name_ : name_ + QStringLiteral(", ") + word);
    update();
}

void RouteStop::paintEvent(QPaintEvent*) {
    const Palette& p = context_.palette();
    QPainter painter(this);
    if (open_here_) {
        painter.fillRect(rect(), p.selected);
        painter.fillRect(QRect(0, 0, 4, height()), p.accent);
    } else if (underMouse() && isEnabled()) {
        painter.fillRect(rect(), p.page);
    }
    const bool is_stage = place_ != Place::shop;
    if (is_stage)
        paint_mark(painter, QRectF(18, height() / 2.0 - 8, 16, 16), mark_, p);
    const int left = is_stage ? 46 : 18;
    painter.setFont(font_of(Type::number, open_here_));
    painter.setPen(isEnabled() ? p.ink : p.quiet);
    const QString word = qt(wording::stage_word(mark_));
    if (word.isEmpty() || !is_stage) {
        painter.drawText(QRect(left, 0, width() - left - 8, height()), Qt::AlignVCenter | Qt::AlignLeft, name_);
    } else {
        painter.drawText(QRect(left, 5, width() - left - 8, 22), Qt::AlignVCenter | Qt::AlignLeft, name_);
        painter.setFont(font_of(Type::small));
        painter.setPen(mark_colour(mark_, p));
        painter.drawText(QRect(left, 25, width() - left - 8, 18), Qt::AlignVCenter | Qt::AlignLeft, word);
    }
    if (hasFocus()) {
        painter.setPen(QPen(p.accent, 2));
        painter.drawRect(rect().adjusted(1, 1, -2, -2));
    }
}

RoutePanel::RoutePanel(Context context, QWidget* parent)
    : QWidget(parent), context_(context), shop_(new RouteStop(context, tr("The shop"), Place::shop, this)) {
    setFixedWidth(184);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 1, 8);
    column->setSpacing(0);
    column->addWidget(shop_);
    column->addSpacing(16);
    constexpr std::size_t count = block::stage_keys.size();
    const std::array<Place, count> places{Place::tunnel,   Place::tunnel,    Place::tunnel,  Place::tunnel,
                                          Place::decks,    Place::cylinders, Place::lifters, Place::decks,
                                          Place::passport, Place::passport};
    const std::array<const char*, count> shortcuts{"", "", "", "F3", "F4", "F6", "F7", "", "", "F5"};
    for (std::size_t i = 0; i < places.size(); ++i) {
        auto* stop = new RouteStop(context, qt(wording::stage_name(static_cast<Stage>(i))), places[i], this);
        shortcuts_.push_back(shortcuts[i][0] != '\0');
        if (shortcuts_.back())
            stop->setToolTip(
                plain_tip(tr("Go to %1 (%2)")
                              .arg(qt(wording::stage_name(static_cast<Stage>(i))), QString::fromLatin1(shortcuts[i]))));
        stages_.push_back(stop);
        column->addWidget(stop);
        connect(stop, &RouteStop::clicked, this, [this, stop] { Q_EMIT chosen(stop->place()); });
    }
    shop_->setToolTip(tr("All jobs of the shop (F2)"));
    connect(shop_, &RouteStop::clicked, this, [this] { Q_EMIT chosen(Place::shop); });
    column->addStretch();
}

void RoutePanel::refresh(Place here) {
    const bool job = context_.session.has_job();
    shop_->set_state(StageMark::open, here == Place::shop, true);
    const auto& stages = context_.session.assessment().stages;
    for (std::size_t i = 0; i < stages_.size(); ++i) {
        const auto stage = static_cast<Stage>(i);
        const bool has_place = shortcuts_[i];
        stages_[i]->set_state(job ? stages[i].mark : StageMark::open, job && has_place && stages_[i]->place() == here,
                              job && has_place);
        stages_[i]->setFocusPolicy(has_place ? Qt::TabFocus : Qt::NoFocus);
        // Stages that a job does not ask for take no room.
        const bool always = has_place || stage == Stage::received || stage == Stage::as_found;
        stages_[i]->setVisible(job && (always || context_.session.assessment().steps.of(stage)));
    }
    update();
}

void RoutePanel::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), context_.palette().panel);
    painter.fillRect(QRect(width() - 1, 0, 1, height()), context_.palette().hairline);
}

} // namespace pallix::ui
