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

namespace {

constexpr int route_width = 168, stop_height = 46, least_stop_height = 40; // px at 100 %

} // namespace

RouteStop::RouteStop(Context context, QString name, Place place, QWidget* parent)
    : QAbstractButton(parent), context_(context), name_(std::move(name)), place_(place) {
    set_type(this, Type::number);
    setFocusPolicy(Qt::TabFocus);
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
}

QSize RouteStop::sizeHint() const {
    return {scaled(route_width), scaled(touch() ? touch_height : stop_height)};
}

QSize RouteStop::minimumSizeHint() const {
    return {scaled(route_width), scaled(least_stop_height)};
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
    const bool is_stage = !bare_;
    if (is_stage)
        paint_mark(painter, QRectF(scaled(18), height() / 2.0 - scaled(8), scaled(16), scaled(16)), mark_, p);
    const int left = scaled(is_stage ? 44 : 18);
    painter.setFont(font_of(Type::number, open_here_));
    painter.setPen(isEnabled() ? p.ink : p.quiet);
    const QString word = qt(wording::stage_word(mark_));
    if (word.isEmpty() || !is_stage) {
        painter.drawText(QRect(left, 0, width() - left - 8, height()), Qt::AlignVCenter | Qt::AlignLeft, name_);
    } else {
        painter.drawText(QRect(left, scaled(4), width() - left - 8, scaled(22)), Qt::AlignVCenter | Qt::AlignLeft,
                         name_);
        painter.setFont(font_of(Type::small));
        painter.setPen(mark_colour(mark_, p));
        painter.drawText(QRect(left, scaled(24), width() - left - 8, scaled(18)), Qt::AlignVCenter | Qt::AlignLeft,
                         word);
    }
    if (hasFocus()) {
        painter.setPen(QPen(p.accent, 2));
        painter.drawRect(rect().adjusted(1, 1, -2, -2));
    }
}

RoutePanel::RoutePanel(Context context, QWidget* parent)
    : QWidget(parent), context_(context), shop_(new RouteStop(context, tr("the shop"), Place::shop, this)),
      engines_(new RouteStop(context, tr("engines"), Place::engines, this)),
      block_(new RouteStop(context, tr("the block"), Place::block, this)) {
    fix_size(this, route_width, 0);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 1, 8);
    column->setSpacing(0);
    column->addWidget(shop_);
    column->addWidget(engines_);
    column->addWidget(block_);
    column->addSpacing(8);
    constexpr std::size_t count = block::stage_keys.size();
    const std::array<Place, count> places{Place::block,    Place::block,     Place::block,   Place::tunnel,
                                          Place::decks,    Place::cylinders, Place::lifters, Place::decks,
                                          Place::passport, Place::passport};
    const std::array<const char*, count> shortcuts{"", "", "", "F4", "F5", "F6", "F7", "", "", "F8"};
    for (std::size_t i = 0; i < places.size(); ++i) {
        auto* stop = new RouteStop(context, qt(wording::stage_name(static_cast<Stage>(i))), places[i], this);
        own_page_.push_back(shortcuts[i][0] != '\0');
        if (own_page_.back())
            stop->setToolTip(
                plain_tip(tr("Go to %1 (%2)")
                              .arg(qt(wording::stage_name(static_cast<Stage>(i))), QString::fromLatin1(shortcuts[i]))));
        stages_.push_back(stop);
        column->addWidget(stop);
        if (static_cast<Stage>(i) == Stage::received)
            connect(stop, &RouteStop::clicked, this, &RoutePanel::card_wanted);
        else
            connect(stop, &RouteStop::clicked, this, [this, stop] { Q_EMIT chosen(stop->place()); });
    }
    stages_.front()->setToolTip(tr("Its job card (Ctrl+Shift+C)"));
    shop_->setToolTip(tr("All jobs of the shop (F2)"));
    engines_->setToolTip(tr("The shelf of engines and the drawing board (F9)"));
    block_->setToolTip(tr("The whole block at a glance (F3)"));
    for (RouteStop* stop : {shop_, engines_, block_}) {
        stop->set_bare();
        connect(stop, &RouteStop::clicked, this, [this, stop] { Q_EMIT chosen(stop->place()); });
    }
    column->addStretch();
}

void RoutePanel::set_foot(QWidget* widget) {
    layout()->addWidget(widget);
}

void RoutePanel::refresh(Place here) {
    const bool job = context_.session.has_job();
    shop_->set_state(StageMark::open, here == Place::shop, true);
    engines_->set_state(StageMark::open, here == Place::engines, true);
    engines_->setVisible(!job || here == Place::engines); // at a job its room is the stages'; the shop leads there
    block_->set_state(StageMark::open, here == Place::block, job);
    block_->setVisible(job);
    const auto& stages = context_.session.assessment().stages;
    for (std::size_t i = 0; i < stages_.size(); ++i) {
        const auto stage = static_cast<Stage>(i);
        stages_[i]->set_state(job ? stages[i].mark : StageMark::open,
                              job && own_page_[i] && stages_[i]->place() == here, job);
        // Stages that a job does not ask for take no room.
        const bool always = own_page_[i] || stage == Stage::received || stage == Stage::as_found;
        stages_[i]->setVisible(job && (always || context_.session.assessment().steps.of(stage)));
    }
    update();
}

void RoutePanel::changeEvent(QEvent* event) {
    QWidget::changeEvent(event);
    if (event->type() == QEvent::StyleChange) {
        for (RouteStop* stop : findChildren<RouteStop*>())
            stop->updateGeometry();
    }
}

void RoutePanel::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), context_.palette().panel);
    painter.fillRect(QRect(width() - 1, 0, 1, height()), context_.palette().hairline);
}

} // namespace pallix::ui
