// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/tunnel/plan_drawing.h"

#include "planning/tunnel/tunnel_work.h"
#include "wording/tunnel/tunnel_words.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace pallix::ui {

using metrology::Vec3;
using planning::Housing;

namespace {
constexpr std::size_t few_points = 16; // by gauge: the readings are shown as dots on the curve

/// A smooth closed curve through radii at clock angles: cubic between them, round the clock.
/// @param radii (angle rad, px), by rising angle
QPolygonF round_through(const std::vector<std::pair<double, double>>& radii, QPointF middle) {
    QPolygonF curve;
    const std::size_t n = radii.size();
    if (n < 3)
        return curve;
    const auto at = [&](std::ptrdiff_t i) {
        const auto whole = static_cast<std::ptrdiff_t>(n);
        const std::ptrdiff_t round = i < 0 ? -1 : i >= whole ? 1 : 0;
        auto place = radii[static_cast<std::size_t>(i - round * whole)];
        place.first += static_cast<double>(round) * 2 * std::numbers::pi;
        return place;
    };
    const auto slope = [&](std::ptrdiff_t i) {
        const auto before = at(i - 1), after = at(i + 1);
        return (after.second - before.second) / (after.first - before.first);
    };
    constexpr int pieces = 12;
    for (std::ptrdiff_t i = 0; i < static_cast<std::ptrdiff_t>(n); ++i) {
        const auto [a0, r0] = at(i);
        const auto [a1, r1] = at(i + 1);
        const double span = a1 - a0, m0 = slope(i) * span,
                     m1 = slope(i + 1 == static_cast<std::ptrdiff_t>(n) ? 0 : i + 1) * span;
        for (int k = 0; k < pieces; ++k) {
            const double t = static_cast<double>(k) / pieces, u = t * t * (3 - 2 * t);
            const double r = r0 + (r1 - r0) * u + m0 * t * (1 - t) * (1 - t) - m1 * t * t * (1 - t);
            const double a = a0 + span * t;
            curve << middle + r * QPointF(std::sin(a), -std::cos(a));
        }
    }
    return curve;
}
} // namespace

PlanDrawing::PlanDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("tunnel-plan"),
              tr("tunnel plan: sections of the mains and the line through them"), parent) {
    setToolTip(tr("Drag a cap or the line to see what gets short; Left and Right choose a cap, Up and Down cut it; "
                  "double-click a cap that is replaced"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
}

void PlanDrawing::show_study(std::shared_ptr<const planning::TunnelStudy> study) {
    study_ = std::move(study);
    back_to_plan();
}

void PlanDrawing::back_to_plan() {
    changed_ = false;
    line_ = study_ ? study_->plan.line : planning::CentreLine{};
    cuts_.assign(study_ ? study_->housings.mains.size() : 0, 0.0);
    if (study_)
        for (std::size_t i = 0; i < study_->plan.cuts.size() && i < cuts_.size(); ++i)
            cuts_[i] = study_->plan.cuts[i].cut;
    marked_ = std::min(marked_, cuts_.empty() ? 0 : cuts_.size() - 1);
    find_scale();
    update();
}

/// Of the strip with the line below, px.
double PlanDrawing::line_height() const {
    return std::max(96.0_px, height() * 0.3);
}

QPointF PlanDrawing::section_middle(std::size_t main) const {
    const double n = static_cast<double>(study_->housings.mains.size());
    return {width() * (static_cast<double>(main) + 0.5) / n, (height() - line_height()) / 2 + 4_px};
}

double PlanDrawing::section_radius() const {
    const double n = static_cast<double>(std::max<std::size_t>(study_->housings.mains.size(), 1));
    return std::min(width() / n * 0.42, (height() - line_height() - 70_px) * 0.36);
}

/// How far a point of the old surface stays inside the finished bore.
double PlanDrawing::slack_of(const Housing& h, Vec3 p, double cut) const {
    return planning::room_at(h, p, cut, line_) - planning::stock_at(study_->policy, p.z / std::hypot(p.y, p.z));
}

void PlanDrawing::find_scale() {
    double largest = 0.005; // mm
    if (study_)
        for (const Housing& h : study_->housings.mains)
            for (const Vec3 p : h.points)
                largest = std::max(largest, std::abs(h.target_diameter / 2 - std::hypot(p.y, p.z)));
    for (const double cut : cuts_)
        largest = std::max(largest, cut);
    factor_ = 24 / std::min(largest, 0.2);
    double off = 0.005; // mm, of the line or of a middle from the old line
    if (study_)
        for (const Housing& h : study_->housings.mains)
            off = std::max(off, std::abs(line_.z(h.mean_x())));
    if (study_ && study_->followed)
        for (const planning::HoneLine::Middle& m : study_->followed->middles)
            off = std::max({off, std::abs(m.z), std::abs(m.z + cuts_[m.main] / 2)});
    strip_reach_ = off;
}

/// px per mm of the line's strip.
double PlanDrawing::strip_factor() const {
    return (line_height() / 2 - 44_px) / strip_reach_;
}

std::optional<PlanDrawing::Tightest> PlanDrawing::tightest() const {
    if (!study_)
        return std::nullopt;
    std::optional<Tightest> tight;
    for (std::size_t i = 0; i < study_->housings.mains.size(); ++i) {
        const Housing& h = study_->housings.mains[i];
        for (const Vec3 p : h.points) {
            const double dz = p.z / std::hypot(p.y, p.z);
            const bool replaced = std::ranges::find(study_->policy.replaced, h.id) != study_->policy.replaced.end();
            if (std::abs(std::asin(dz)) < study_->policy.parting || (p.z < 0 && replaced))
                continue;
            if (const double s = slack_of(h, p, cuts_[i]); !tight || s < tight->slack)
                tight = Tightest{s, {h.id, p.z < 0, std::atan2(p.y, p.z), p.x}};
        }
    }
    return tight;
}

void PlanDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    if (!study_)
        return paint_empty(painter, tr("The tunnel must be measured before it can be planned: by probe, or sizes and "
                                       "saddle heights by gauge."));
    for (std::size_t i = 0; i < study_->housings.mains.size(); ++i)
        paint_section(painter, i);
    painter.setFont(font_of(Type::text));
    paint_line(painter);
    paint_focus(painter);
}

void PlanDrawing::paint_section(QPainter& painter, std::size_t main) {
    const Palette& p = context_.palette();
    const Housing& h = study_->housings.mains[main];
    const QPointF middle = section_middle(main);
    const double radius = section_radius();
    const bool replaced = std::ranges::find(study_->policy.replaced, h.id) != study_->policy.replaced.end();
    // The finished circle is the measure: a point stands inside it by its slack, larger than life.
    struct Place {
        double clock;
        QPointF at;
        double slack;
        bool cap, used;
    };
    std::vector<Place> ring;
    for (const Vec3 q : h.points) {
        const double clock = std::atan2(q.y, q.z), dz = std::cos(clock);
        const double slack = slack_of(h, q, cuts_[main]);
        const double r = radius - std::clamp(slack * factor_, -18.0_px, radius * 0.6);
        ring.push_back({clock, middle + r * QPointF(std::sin(clock), -std::cos(clock)), slack, q.z < 0,
                        std::abs(std::asin(dz)) >= study_->policy.parting && !(q.z < 0 && replaced)});
    }
    std::ranges::sort(ring, {}, &Place::clock);
    std::vector<std::pair<double, double>> radii;
    for (const Place& place : ring)
        radii.emplace_back(place.clock, QLineF(middle, place.at).length());
    const QPolygonF old = round_through(radii, middle);
    QPainterPath metal, finished;
    finished.addEllipse(middle, radius, radius);
    metal.addPolygon(old);
    metal.closeSubpath();
    painter.fillPath(finished.subtracted(metal), p.deck.bright); // comes off
    painter.setPen(QPen(p.deck.edge, 1.2));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolygon(old);
    painter.setPen(QPen(p.accent, 2));
    painter.drawEllipse(middle, radius, radius);
    painter.setPen(QPen(p.quiet, 1, Qt::DashLine)); // the parting line
    painter.drawLine(middle - QPointF(radius + 8_px, 0), middle + QPointF(radius + 8_px, 0));
    for (const Place& place : ring) {
        if (!place.used)
            continue;
        const bool is_short = place.slack < -1e-6, binds = std::abs(place.slack) <= 1e-5;
        painter.setPen(Qt::NoPen);
        painter.setBrush(is_short ? p.fails : binds ? p.accent : p.deck.edge);
        const double size = is_short || binds ? 5 : ring.size() <= few_points ? 3.5 : 1.8;
        painter.drawEllipse(place.at, size, size);
    }
    if (study_->followed && !changed_)
        paint_metal_off(painter, main);
    painter.setFont(font_of(Type::number, marked_ == main && hasFocus()));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(middle.x() - 70_px, middle.y() - radius - 42_px, 140_px, 24_px), Qt::AlignCenter,
                     tr("main %1").arg(h.id.number));
    painter.setFont(font_of(Type::number, true));
    painter.setPen(p.ink);
    painter.drawText(QRectF(middle.x() - 80_px, middle.y() + radius + 16_px, 160_px, 24_px), Qt::AlignCenter,
                     replaced ? tr("cap replaced") : tr("cap %1").arg(qt(context_.lengths().plain(cuts_[main]))));
}

/// What the hone takes off the middle of either half, inside the bore.
void PlanDrawing::paint_metal_off(QPainter& painter, std::size_t main) {
    if (main >= study_->forecast.size())
        return;
    const planning::HoneForecast& f = study_->forecast[main];
    const QPointF middle = section_middle(main);
    const double radius = section_radius();
    const auto write = [&](double y, double off) {
        painter.drawText(QRectF(middle.x() - radius, y - 11_px, 2 * radius, 22_px), Qt::AlignCenter,
                         tr("%1 off").arg(qt(context_.lengths().plain(off))));
    };
    painter.setFont(font_of(Type::text));
    painter.setPen(context_.palette().ink);
    write(middle.y() - radius * 0.55, f.saddle);
    write(middle.y() + radius * 0.55, f.cap);
}

QPointF PlanDrawing::line_handle(bool rear) const {
    const Housing& h = rear ? study_->housings.mains.back() : study_->housings.mains.front();
    return {section_middle(rear ? study_->housings.mains.size() - 1 : 0).x(), on_strip(line_.z(h.mean_x()))};
}

/// Where a height of the line's strip is drawn, px.
double PlanDrawing::on_strip(double z) const {
    return height() - line_height() / 2 - z * strip_factor();
}

/// The middles that lead the mandrel: as found, and with the cap cut half as much higher.
void PlanDrawing::paint_middles(QPainter& painter) {
    const Palette& p = context_.palette();
    for (const planning::HoneLine::Middle& m : study_->followed->middles) {
        const double apart = std::clamp(m.x - study_->housings.mains[m.main].mean_x(), -1.0, 1.0) * 12_px;
        const double x = section_middle(m.main).x() + apart, found = on_strip(m.z),
                     led = on_strip(m.z + cuts_[m.main] / 2);
        painter.setPen(QPen(p.quiet, 1));
        painter.drawLine(QPointF(x, found), QPointF(x, led));
        painter.setBrush(p.panel);
        painter.drawEllipse(QPointF(x, found), 4_px, 4_px);
        painter.setBrush(p.ink);
        painter.drawRect(QRectF(x - 4_px, led - 4_px, 8_px, 8_px));
    }
}

/// A hone follows: the line is what the caps make of it.
void PlanDrawing::follow_caps() {
    if (study_->followed)
        line_ = study_->followed->with(cuts_);
    changed_ = true;
    update();
    Q_EMIT dragged();
}

void PlanDrawing::paint_line(QPainter& painter) {
    const Palette& p = context_.palette();
    const double middle = on_strip(0);
    painter.setPen(QPen(p.quiet, 1, Qt::DashDotLine));
    painter.drawLine(QPointF(90_px, middle), QPointF(width() - 20_px, middle));
    painter.drawText(QRectF(12_px, middle - 11_px, 76_px, 22_px), Qt::AlignLeft | Qt::AlignVCenter, tr("old line"));
    const QPointF front = line_handle(false), rear = line_handle(true);
    painter.setPen(QPen(p.accent, 2.4));
    const QPointF beyond{20_px, (rear.y() - front.y()) / std::max(1.0, rear.x() - front.x()) * 20_px};
    painter.drawLine(front - beyond, rear + beyond);
    if (study_->followed) {
        paint_middles(painter);
    } else {
        painter.setBrush(p.accent);
        painter.setPen(QPen(p.panel, 1.5));
        for (const QPointF at : {front, rear})
            painter.drawEllipse(at, 7_px, 7_px);
    }
    painter.setPen(p.ink);
    const auto l = context_.lengths();
    for (const Housing& h : study_->housings.mains) {
        const auto i = static_cast<std::size_t>(&h - study_->housings.mains.data());
        const QString rise = qt(l.side(line_.z(h.mean_x()), "up", "down"));
        painter.drawText(QRectF(section_middle(i).x() - 50_px, height() - 26_px, 100_px, 22_px), Qt::AlignCenter, rise);
    }
    painter.setPen(p.quiet);
    if (study_->followed)
        painter.drawText(QRectF(12_px, height() - line_height() - 6_px, width() - 210_px, 22_px), Qt::AlignLeft,
                         tr("the hone's line · ○ middle as found · ■ middle with the cap cut"));
    painter.drawText(
        QRectF(width() - 190_px, height() - line_height() - 6_px, 178_px, 22_px), Qt::AlignRight,
        tr("drawn × %1")
                .arg(factor_ * study_->housings.mains.front().target_diameter / 2 / section_radius() / 10, 0, 'f', 0) +
            QStringLiteral("0"));
}

void PlanDrawing::mousePressEvent(QMouseEvent* event) {
    setFocus();
    if (!study_)
        return;
    const QPointF at = event->position();
    grip_ = Grip::none;
    grip_y_ = at.y();
    for (const bool rear : {false, true})
        if (!study_->followed && QLineF(line_handle(rear), at).length() < 14_px) {
            grip_ = rear ? Grip::rear : Grip::front;
            const Housing& h = rear ? study_->housings.mains.back() : study_->housings.mains.front();
            grip_value_ = line_.z(h.mean_x());
            return;
        }
    for (std::size_t i = 0; i < cuts_.size(); ++i) {
        const QPointF d = at - section_middle(i);
        if (std::hypot(d.x(), d.y()) < section_radius() + 16 && d.y() > 0) {
            grip_ = Grip::cap;
            gripped_ = marked_ = i;
            grip_value_ = cuts_[i];
            update();
            return;
        }
    }
}

void PlanDrawing::mouseMoveEvent(QMouseEvent* event) {
    if (grip_ == Grip::none || !(event->buttons() & Qt::LeftButton))
        return;
    const double up = (grip_y_ - event->position().y()) / (grip_ == Grip::cap ? factor_ : strip_factor()); // mm
    if (grip_ == Grip::cap) {
        cuts_[gripped_] = std::max(0.0, grip_value_ + up);
    } else {
        const double x0 = study_->housings.mains.front().mean_x(), x1 = study_->housings.mains.back().mean_x();
        double z0 = line_.z(x0), z1 = line_.z(x1);
        (grip_ == Grip::front ? z0 : z1) = grip_value_ + up;
        line_.zk = (z1 - z0) / (x1 - x0);
        line_.z0 = z0 - line_.zk * x0;
    }
    follow_caps();
}

void PlanDrawing::mouseReleaseEvent(QMouseEvent*) {
    grip_ = Grip::none;
}

void PlanDrawing::mouseDoubleClickEvent(QMouseEvent* event) {
    if (!study_)
        return;
    for (std::size_t i = 0; i < cuts_.size(); ++i)
        if (QLineF(section_middle(i), event->position()).length() < section_radius() + 16_px) {
            const block::FeatureId id = study_->housings.mains[i].id;
            Q_EMIT cap_clicked(id); // the study may be another one after this
            return;
        }
}

void PlanDrawing::nudge(double um) {
    cuts_[marked_] = std::max(0.0, cuts_[marked_] + um / 1000);
    follow_caps();
}

void PlanDrawing::keyPressEvent(QKeyEvent* event) {
    if (!study_ || cuts_.empty())
        return QWidget::keyPressEvent(event);
    const double step = context_.preferences.unit() == block::Unit::inch ? 2.54 : 1; // a tenth, or a micrometre
    switch (event->key()) {
    case Qt::Key_Left:
        marked_ = marked_ > 0 ? marked_ - 1 : cuts_.size() - 1;
        break;
    case Qt::Key_Right:
        marked_ = (marked_ + 1) % cuts_.size();
        break;
    case Qt::Key_Up:
        return nudge(step);
    case Qt::Key_Down:
        return nudge(-step);
    case Qt::Key_R:
        Q_EMIT cap_clicked(block::FeatureId(study_->housings.mains[marked_].id));
        return;
    default:
        return QWidget::keyPressEvent(event);
    }
    update();
}

} // namespace pallix::ui
