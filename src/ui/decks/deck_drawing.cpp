// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/deck_drawing.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/decks/deck_belief.h"
#include "planning/readings/reading_plan.h"
#include "wording/common/sentences.h"
#include "wording/decks/deck_words.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <utility>

namespace pallix::ui {

using metrology::Vec2;
using metrology::Vec3;

namespace {
constexpr double side_margin = 32, top_margin = 30, bottom_margin = 28; // px at 100 %, for the words round the deck
}

DeckDrawing::DeckDrawing(Context context, DeckTask task, QWidget* parent)
    : Drawing(context, task == DeckTask::paint_dark ? QStringLiteral("deck") : QStringLiteral("deck-as-found"),
              tr("deck in plan"), parent),
      task_(task) {
    const bool paints = task == DeckTask::paint_dark;
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setToolTip(paints ? tr("Paint what stayed dark after a pass: drag, the right button wipes; arrow keys and Space do "
                           "the same. Plus and minus change the brush.")
                      : tr("Click a pit or a mark, drag along a crack; arrow keys and Space mark a place"));
    setCursor(Qt::CrossCursor);
}

std::vector<SpokenPart> DeckDrawing::spoken() const {
    std::vector<SpokenPart> parts;
    if (!picture_)
        return parts;
    const block::BankBlueprint& bank = *blueprint_->bank(bank_id_);
    const auto around = [this](Vec2 place) {
        return QRectF(picture_->to_screen(place) - QPointF(14_px, 14_px), QSizeF(28_px, 28_px)).toAlignedRect();
    };
    for (const planning::CornerHeight& c : corners_)
        parts.push_back({qt(wording::corner_words(bank, c.rear, c.positive_v)), qt(off_target(c.height)),
                         around(c.place), false, false});
    for (const block::KnownFlaw& f : flaws_)
        if (f.flaw.bank == bank_id_)
            parts.push_back({qt(wording::flaw_sentence(bank, f, context_.lengths())),
                             {},
                             around(f.flaw.path.front()),
                             false,
                             task_ == DeckTask::mark_flaw});
    return parts;
}

void DeckDrawing::press(std::size_t part) {
    std::size_t i = corners_.size();
    for (const block::KnownFlaw& f : flaws_)
        if (f.flaw.bank == bank_id_ && i++ == part)
            return Q_EMIT flaw_pointed_at(f);
}

QRectF DeckDrawing::deck_area() const {
    return QRectF(rect()).adjusted(scaled(side_margin), scaled(top_margin), -scaled(side_margin),
                                   -scaled(bottom_margin));
}

void DeckDrawing::set_deck(const block::BankBlueprint& bank, const block::SharedPoints& points, bool machined) {
    machined_ = machined;
    const bool same = picture_ && bank.id == bank_id_ &&
                      (points.same(points_) || std::ranges::equal(points, points_, [](Vec3 a, Vec3 b) {
                           return a.x == b.x && a.y == b.y && a.z == b.z;
                       }));
    if (same)
        return;
    if (bank.id != bank_id_) {
        dark_.clear();
        pointer_.reset();
    }
    bank_id_ = bank.id;
    points_ = points;
    blueprint_ = std::make_unique<block::Blueprint>(*intake_of(context_.session.state()).blueprint);
    picture_ = std::make_unique<reporting::DeckPicture>(*blueprint_, *blueprint_->bank(bank_id_), points);
    picture_->lay_out(deck_area());
    update();
}

void DeckDrawing::set_belief(std::shared_ptr<const planning::DeckBelief> belief) {
    belief_ = belief && belief->bank == bank_id_ ? std::move(belief) : nullptr;
    update();
}

void DeckDrawing::set_touched(const block::SharedPoints& touched) {
    touched_ = touched;
    update();
}

void DeckDrawing::set_flaws(std::vector<block::KnownFlaw> flaws) {
    flaws_ = std::move(flaws);
    update();
}

void DeckDrawing::set_line(const std::optional<planning::EdgeLine>& line) {
    line_ = line;
    update();
}

void DeckDrawing::set_brush(double mm) {
    brush_ = std::clamp(mm, 3.0, 40.0);
    update();
}

void DeckDrawing::set_level(double w) {
    level_ = w;
    update();
}

/// Over the target or under it; of a head, from its highest place.
std::string DeckDrawing::off_target(double height) const {
    return context_.lengths().side(height - target_, head_ ? "high" : "over", head_ ? "low" : "under");
}

void DeckDrawing::set_head(bool head) {
    if (head_ != head)
        dark_.clear();
    head_ = head;
    update();
}

void DeckDrawing::set_asked(const std::optional<planning::AskedReading>& asked) {
    asked_ = asked;
    update();
}

void DeckDrawing::set_corners(std::vector<planning::CornerHeight> corners, double target) {
    corners_ = std::move(corners);
    target_ = target;
    update();
}

void DeckDrawing::clear_dark() {
    dark_.clear();
    update();
    Q_EMIT dark_changed();
}

std::optional<double> DeckDrawing::clean_share(double w) const {
    return points_.size() >= 3 ? std::optional(picture_->map().clean_share(w)) : std::nullopt;
}

double DeckDrawing::contour_step() const {
    return context_.preferences.unit() == block::Unit::inch ? block::mm_per_thou / 2 : 0.01;
}

void DeckDrawing::resizeEvent(QResizeEvent*) {
    if (picture_)
        picture_->lay_out(deck_area());
}

void DeckDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (!picture_)
        return;
    picture_->paint(painter, context_.palette().deck,
                    {.level = level_,
                     .contour_step = contour_step(),
                     .dark = dark_,
                     .brush = brush_,
                     .show_points = true,
                     .touched = touched_,
                     .machined = machined_});
    paint_flaws(painter);
    if (line_) {
        painter.setPen(QPen(context_.palette().accent, 3));
        painter.drawLine(picture_->to_screen(line_->from), picture_->to_screen(line_->to));
    }
    paint_words(painter);
    paint_corners(painter);
    paint_asked(painter);
    paint_pointer(painter);
    if (hasFocus()) {
        painter.setPen(QPen(context_.palette().accent, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6_px, 6_px);
    }
}

void DeckDrawing::paint_words(QPainter& painter) {
    const Palette& p = context_.palette();
    const QRectF f = picture_->frame();
    const auto& bank = *blueprint_->bank(bank_id_);
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(f.left() + 120_px, f.top() - 24_px, f.width() - 240_px, 18_px), Qt::AlignCenter,
                     qt(wording::across_word(planning::positive_side(bank))));
    const QString beneath = qt(wording::across_word(planning::negative_side(bank)));
    write(painter, QRectF(f.left() + 120_px, f.bottom() + 6_px, f.width() - 240_px, 18_px), Qt::AlignCenter,
          bank.outline_assumed ? beneath + tr(" · outline not stated: a box round the bores") : beneath, Type::small);
    for (const bool rear : {false, true}) {
        painter.save();
        painter.translate(rear ? f.right() + 16_px : f.left() - 16_px, f.center().y());
        painter.rotate(-90);
        painter.drawText(QRectF(-60_px, -9_px, 120_px, 18_px), Qt::AlignCenter, rear ? tr("rear") : tr("front"));
        painter.restore();
    }
    painter.setPen(p.ink);
    for (const auto& bore : blueprint_->bores)
        if (bore.id.bank == bank_id_ && bore.cylinder)
            painter.drawText(
                QRectF(picture_->to_screen({bore.u, bore.v}) - QPointF(40_px, 10_px), QSizeF(80_px, 20_px)),
                Qt::AlignCenter, tr("cyl %1").arg(*bore.cylinder));
}

/// The flaw whose beginning a hand means that points there.
const block::KnownFlaw* DeckDrawing::flaw_at(QPointF place) const {
    const double reach = touch() ? touch_height / 2 * scale() : 12_px;
    for (const block::KnownFlaw& f : flaws_)
        if (f.flaw.bank == bank_id_ && QLineF(picture_->to_screen(f.flaw.path.front()), place).length() < reach)
            return &f;
    return nullptr;
}

/// Words on a panel of their own, so that they can be read over whatever lies beneath.
void DeckDrawing::paint_note(QPainter& painter, const QRectF& box, const QString& words, const QColor& colour) const {
    painter.setPen(QPen(context_.palette().hairline, 1));
    painter.setBrush(context_.palette().panel);
    painter.drawRoundedRect(box, 5_px, 5_px);
    painter.setPen(colour);
    painter.drawText(box, Qt::AlignCenter, words);
}

/// A crack as a broken line, a pit as a diamond, a mark as a cross, each with what was decided; undecided ones in the
/// colour of doubt.
void DeckDrawing::paint_flaws(QPainter& painter) {
    const Palette& p = context_.palette();
    for (const block::KnownFlaw& f : flaws_) {
        if (f.flaw.bank != bank_id_)
            continue;
        painter.setPen(QPen(f.decided ? p.accent : p.fails, 2.5,
                            f.flaw.kind == block::FlawKind::crack ? Qt::DashLine : Qt::SolidLine));
        painter.setBrush(Qt::NoBrush);
        QPolygonF run;
        for (const Vec2 at : f.flaw.path)
            run << picture_->to_screen(at);
        if (run.size() > 1)
            painter.drawPolyline(run);
        const QPointF c = run.front();
        if (f.flaw.kind == block::FlawKind::pit)
            painter.drawPolygon(
                QPolygonF{{c - QPointF(0, 7_px), c + QPointF(7_px, 0), c + QPointF(0, 7_px), c - QPointF(7_px, 0)}});
        else if (run.size() == 1) {
            painter.drawLine(c - QPointF(6_px, 6_px), c + QPointF(6_px, 6_px));
            painter.drawLine(c - QPointF(6_px, -6_px), c + QPointF(6_px, -6_px));
        }
        painter.setFont(font_of(Type::small, true));
        const QString words = f.decided ? qt(wording::flaw_choice_name(f.decided->choice)) : tr("decide");
        QRectF box(c + QPointF(12_px, 8_px), QSizeF(painter.fontMetrics().horizontalAdvance(words) + 14_px, 22_px));
        if (box.right() > width() - 4_px)
            box.moveRight(c.x() - 12_px);
        paint_note(painter, box, words, f.decided ? p.accent : p.fails);
    }
    if (pressed_ && pointer_) {
        painter.setPen(QPen(p.fails, 2, Qt::DashLine));
        painter.drawLine(picture_->to_screen(*pressed_), picture_->to_screen(*pointer_));
    }
}

void DeckDrawing::paint_corners(QPainter& painter) {
    const Palette& p = context_.palette();
    const QRectF f = picture_->frame();
    painter.setFont(font_of(Type::number, true));
    painter.setPen(p.ink);
    for (const auto& corner : corners_) {
        const QString text = qt(off_target(corner.height));
        const double x = corner.rear ? f.right() - 110_px : f.left(),
                     y = corner.positive_v ? f.top() - 28_px : f.bottom() + 3_px;
        painter.drawText(QRectF(x, y, 110_px, 24_px), corner.rear ? Qt::AlignRight : Qt::AlignLeft, text);
    }
}

/// Where the next reading is wanted: a place, a line of the straightedge, a cylinder.
void DeckDrawing::paint_asked(QPainter& painter) {
    if (!asked_ || asked_->at.feature.bank != bank_id_ || block::is_on_head(asked_->at.quantity) != head_)
        return;
    painter.setPen(QPen(context_.palette().accent, 3));
    painter.setBrush(Qt::NoBrush);
    const block::MeasuredAt& at = asked_->at;
    if (block::is_at_a_place(at.quantity)) {
        const QPointF middle = picture_->to_screen(at.place);
        painter.drawEllipse(middle, 13_px, 13_px);
        for (const double angle : {45.0, 135.0, 225.0, 315.0}) {
            const QPointF d(std::cos(angle * M_PI / 180), std::sin(angle * M_PI / 180));
            painter.drawLine(middle + 13_px * d, middle + 20_px * d);
        }
    } else if (block::is_bracket(at.quantity)) {
        paint_feelers(painter, at.direction);
    } else if (at.quantity == block::Quantity::slope) {
        const QRectF f = picture_->frame().adjusted(20_px, 14_px, -20_px, -14_px);
        if (at.direction == "along")
            painter.drawLine(QPointF(f.left(), f.center().y()), QPointF(f.right(), f.center().y()));
        else
            painter.drawLine(QPointF(f.center().x(), f.top()), QPointF(f.center().x(), f.bottom()));
    } else if (const auto* bore = blueprint_->hole(at.feature)) {
        const double radius = bore->diameter.nominal / 2 * picture_->pixels_per_mm();
        painter.drawEllipse(picture_->to_screen({bore->u, bore->v}), radius, radius);
    }
}

/// The straightedge's lines: the one that is asked for strong, those that were read with their bracket.
void DeckDrawing::paint_feelers(QPainter& painter, const std::string& asked) {
    const Palette& p = context_.palette();
    const auto l = context_.lengths();
    painter.setFont(font_of(Type::small, true));
    for (const planning::EdgeLine& line : planning::edge_lines(*blueprint_, bank_id_)) {
        const QPointF from = picture_->to_screen(line.from), to = picture_->to_screen(line.to);
        const bool now = line.name == asked;
        painter.setPen(QPen(p.accent, now ? 3 : 1, now ? Qt::SolidLine : Qt::DashLine));
        painter.drawLine(from, to);
        const block::MeasuredPlace* read = readings_of(context_.session.state())
                                               .place({{block::FeatureKind::deck, bank_id_, 0},
                                                       head_ ? block::Quantity::head_gap : block::Quantity::gap,
                                                       "",
                                                       line.name,
                                                       {}});
        if (!read || read->stale() || !read->upper)
            continue;
        const QString text = tr("%1 to %2").arg(qt(l.plain(read->value)), qt(l.plain(*read->upper)));
        // A third along, so that lines that cross do not write over each other.
        QRectF box(QPointF(), QSizeF(painter.fontMetrics().horizontalAdvance(text) + 12_px, 20_px));
        box.moveCenter(from + 0.34 * (to - from));
        paint_note(painter, box, text, p.ink);
    }
}

void DeckDrawing::paint_pointer(QPainter& painter) {
    if (!pointer_)
        return;
    const Palette& p = context_.palette();
    const QPointF at = picture_->to_screen(*pointer_);
    const auto height = picture_->map().height_at(*pointer_);
    painter.setPen(QPen(p.accent, 1.4));
    painter.drawLine(at - QPointF(10_px, 0), at + QPointF(10_px, 0));
    painter.drawLine(at - QPointF(0, 10_px), at + QPointF(0, 10_px));
    if (!height)
        return;
    const QString off = qt(off_target(*height));
    QString text = head_ ? off : tr("%1  (%2)").arg(qt(context_.lengths().plain(*height)), off);
    if (belief_) // what is known between touches, with its doubt
        text += tr("  ±%1").arg(qt(context_.lengths().plain(2 * belief_->deviation_at(*pointer_))));
    painter.setFont(font_of(Type::text));
    const QSizeF size(painter.fontMetrics().horizontalAdvance(text) + 16, 24);
    QRectF box(at + QPointF(14_px, -32_px), size);
    if (box.right() > width() - 4_px)
        box.moveRight(at.x() - 14);
    if (box.top() < 2)
        box.moveTop(at.y() + 12);
    paint_note(painter, box, text, p.ink);
}

void DeckDrawing::toggle_dark(Vec2 place) {
    const bool painted = std::ranges::any_of(dark_, [&](Vec2 d) { return norm(d - place) < brush_; });
    brush_at(place, painted);
}

void DeckDrawing::brush_at(Vec2 place, bool wipe) {
    if (wipe)
        std::erase_if(dark_, [&](Vec2 d) { return norm(d - place) < brush_; });
    else if (planning::on_metal(*blueprint_, *blueprint_->bank(bank_id_), place) &&
             std::ranges::none_of(dark_, [&](Vec2 d) { return norm(d - place) < brush_ / 2; }))
        dark_.push_back(place); // dabs a half radius apart cover a stroke
    update();
    Q_EMIT dark_changed();
}

void DeckDrawing::mousePressEvent(QMouseEvent* event) {
    setFocus();
    if (!picture_)
        return;
    const Vec2 at = picture_->to_deck(event->position());
    if (task_ == DeckTask::mark_flaw) {
        if (event->button() == Qt::LeftButton)
            pressed_ = at;
        return;
    }
    painting_ = true;
    brush_at(at, event->button() == Qt::RightButton);
}

void DeckDrawing::mouseMoveEvent(QMouseEvent* event) {
    if (!picture_)
        return;
    const bool over = picture_->frame().contains(event->position());
    pointer_ = over ? std::optional(picture_->to_deck(event->position())) : std::nullopt;
    if (painting_ && pointer_ && event->buttons() != Qt::NoButton)
        brush_at(*pointer_, event->buttons().testFlag(Qt::RightButton));
    update();
}

void DeckDrawing::mouseReleaseEvent(QMouseEvent* event) {
    painting_ = false;
    if (!picture_ || !pressed_)
        return;
    const Vec2 from = *std::exchange(pressed_, std::nullopt), to = picture_->to_deck(event->position());
    update();
    if (norm(to - from) * picture_->pixels_per_mm() > 6) // less is a trembling hand
        Q_EMIT flaw_drawn({from, to});
    else if (const block::KnownFlaw* flaw = flaw_at(event->position()))
        Q_EMIT flaw_pointed_at(*flaw);
    else
        Q_EMIT flaw_drawn({from});
}

void DeckDrawing::leaveEvent(QEvent*) {
    pointer_.reset();
    update();
}

void DeckDrawing::keyPressEvent(QKeyEvent* event) {
    if (!picture_)
        return QWidget::keyPressEvent(event);
    const QRectF f = picture_->frame();
    if (!pointer_)
        pointer_ = picture_->to_deck(f.center());
    const double step = (event->modifiers() & Qt::ShiftModifier ? 2 : 10) / picture_->pixels_per_mm();
    switch (event->key()) {
    case Qt::Key_Left:
        pointer_->x -= step;
        break;
    case Qt::Key_Right:
        pointer_->x += step;
        break;
    case Qt::Key_Up:
        pointer_->y += step;
        break;
    case Qt::Key_Down:
        pointer_->y -= step;
        break;
    case Qt::Key_Space:
        if (task_ == DeckTask::paint_dark)
            toggle_dark(*pointer_);
        else if (const block::KnownFlaw* flaw = flaw_at(picture_->to_screen(*pointer_)))
            Q_EMIT flaw_pointed_at(*flaw);
        else
            Q_EMIT flaw_drawn({*pointer_});
        break;
    case Qt::Key_Plus:
    case Qt::Key_Minus:
        set_brush(brush_ + (event->key() == Qt::Key_Plus ? 2 : -2));
        break;
    default:
        return QWidget::keyPressEvent(event);
    }
    const Vec2 low = picture_->to_deck(f.bottomLeft()), high = picture_->to_deck(f.topRight());
    pointer_ = Vec2{std::clamp(pointer_->x, low.x, high.x), std::clamp(pointer_->y, low.y, high.y)};
    update();
}

} // namespace pallix::ui
