// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/cylinders/trace_drawing.h"

#include "block/ledger.h"
#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "ui/marks.h"
#include "wording/cylinders/cylinder_words.h"

#include <QPainter>
#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::ui {

namespace {

constexpr double um = 1e-3; // mm
constexpr std::size_t first_ratio = 5;
constexpr std::array parameters{"Ra", "Rz", "Rk", "Rpk", "Rvk", "Mr1", "Mr2"};
constexpr std::array ranges{&block::TextureLimits::ra,  &block::TextureLimits::rz,  &block::TextureLimits::rk,
                            &block::TextureLimits::rpk, &block::TextureLimits::rvk, &block::TextureLimits::mr1,
                            &block::TextureLimits::mr2};

} // namespace

TraceDrawing::TraceDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("trace"), tr("roughness profile and its material-ratio curve"), parent) {
    setFocusPolicy(Qt::StrongFocus);
}

std::vector<Drawing::Thing> TraceDrawing::things() const {
    std::vector<Thing> all;
    const auto& blueprint = intake_of(context_.session.state()).blueprint;
    if (!blueprint)
        return all;
    const double column = (width() - 24.0) / std::max<double>(1, static_cast<double>(blueprint->bores.size()));
    for (const block::HoleBlueprint& bore : blueprint->bores)
        all.push_back(
            {bore.id, QRectF(12 + column * static_cast<double>(all.size()), 8, column - 6, scaled(26)),
             short_name(context_, bore.id),
             bores_of(context_.session.state()).bore(bore.id).traces.empty() ? tr("no trace") : tr("has a trace")});
    return all;
}

/// A filter over thousands of points: once for each trace and each change of the limits.
void TraceDrawing::refresh() {
    const auto& state = context_.session.state();
    const auto& kept = bores_of(state).texture_limits;
    std::string from = block::payload_json(kept ? kept->payload : block::TextureLimits{}) +
                       std::to_string(context_.session.job().value_or(0));
    if (marked()) {
        const block::BoreWork& work = bores_of(state).bore(*marked());
        for (const auto& trace : work.traces)
            from += " " + std::to_string(trace.sequence);
        from += " " + std::to_string(work.last_cut());
        from += " " + std::to_string(work.roughness.size());
    }
    if (from == worked_out_for_)
        return update();
    worked_out_for_ = from;
    finding_.reset();
    if (marked())
        finding_ = planning::texture_of(bores_of(state), *marked());
    if (finding_)
        setAccessibleDescription(tr("Rk %1, Rpk %2, Rvk %3")
                                     .arg(qt(wording::texture_text(finding_->checks[2].value, false)),
                                          qt(wording::texture_text(finding_->checks[3].value, false)),
                                          qt(wording::texture_text(finding_->checks[4].value, false))));
    update();
}

void TraceDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    for (const Thing& thing : things()) {
        paint_frame(painter, thing.where, marked() == thing.id);
        painter.setFont(font_of(Type::small, marked() == thing.id));
        painter.setPen(bores_of(context_.session.state()).bore(thing.id).traces.empty() ? p.quiet : p.ink);
        painter.drawText(thing.where, Qt::AlignCenter, thing.name);
    }
    paint_focus(painter);
    if (!finding_) {
        const auto typed = marked() ? planning::typed_texture(bores_of(context_.session.state()), *marked())
                                    : std::vector<planning::TextureCheck>();
        if (!typed.empty())
            return paint_empty(painter,
                               tr("By a tester%1. %2")
                                   .arg(qt(wording::typed_texture_words(typed)),
                                        qt(wording::texture_advice_sentence(context_.session.state(), *marked()))));
        return paint_empty(painter,
                           tr("No trace of this cylinder yet: drop its file here, or Bores, Take in a trace."));
    }
    const auto& curve = finding_->ratio.curve;
    const double low = std::min(curve.back(), std::ranges::min(finding_->shown.heights)),
                 high = std::max(curve.front(), std::ranges::max(finding_->shown.heights));
    const double beside = width() * 0.36, head = scaled(66), foot = scaled(108);
    paint_profile(painter, QRectF(rect()).adjusted(scaled(70), head, -beside - 12, -foot), low, high);
    paint_curve(painter, QRectF(rect()).adjusted(width() - beside + 18, head, -scaled(58), -foot), low, high);
    paint_parameters(painter, QRectF(16, height() - scaled(74), width() - 32, scaled(66)));
}

/// What the rings are held against, each with its verdict by shape.
void TraceDrawing::paint_parameters(QPainter& painter, const QRectF& box) {
    const Palette& p = context_.palette();
    const double column = box.width() / static_cast<double>(parameters.size());
    const auto& kept = bores_of(context_.session.state()).texture_limits;
    for (std::size_t i = 0; i < parameters.size(); ++i) {
        const QRectF cell(box.left() + column * static_cast<double>(i), box.top(), column, box.height());
        painter.setFont(font_of(Type::number, true));
        painter.setPen(p.ink);
        painter.drawText(QRectF(cell.left(), cell.top(), cell.width(), scaled(24)), Qt::AlignCenter,
                         qt(wording::texture_text(finding_->checks[i].value, i >= first_ratio)));
        painter.setFont(font_of(Type::small));
        painter.setPen(p.quiet);
        painter.drawText(QRectF(cell.left(), cell.top() + scaled(26), cell.width(), scaled(22)), Qt::AlignCenter,
                         QString::fromLatin1(parameters[i]));
        if (const auto& u = finding_->checks[i].uncertainty)
            painter.drawText(QRectF(cell.left(), cell.top() + scaled(44), cell.width(), scaled(20)), Qt::AlignCenter,
                             tr("±%1").arg(qt(wording::texture_text(2 * *u, i >= first_ratio))));
        if (const auto* range = kept ? &(kept->payload.*ranges[i]) : nullptr; range && (range->least || range->most))
            paint_mark(painter, QRectF(cell.left() + 4, cell.top() + scaled(28), scaled(16), scaled(16)),
                       mark_of(finding_->checks[i].verdict), p);
    }
}

TwinTable TraceDrawing::table() const {
    TwinTable t = TwinTable::headed(tr("parameter|stands|measured|sure to ±"), 2);
    if (finding_)
        for (std::size_t i = 0; i < parameters.size(); ++i)
            t.rows.push_back({QString::fromLatin1(parameters[i]),
                              qt(wording::verdict_word(finding_->checks[i].verdict)),
                              qt(wording::texture_text(finding_->checks[i].value, i >= first_ratio)),
                              finding_->checks[i].uncertainty
                                  ? qt(wording::texture_text(2 * *finding_->checks[i].uncertainty, i >= first_ratio))
                                  : QString()});
    return t;
}

void TraceDrawing::paint_profile(QPainter& painter, const QRectF& room, double low, double high) {
    const Palette& p = context_.palette();
    const auto& z = finding_->shown.heights;
    const auto y_of = [&](double h) { return room.bottom() - (h - low) / (high - low) * room.height(); };
    painter.setPen(QPen(p.hairline, 1));
    painter.drawLine(QPointF(room.left(), y_of(0)), QPointF(room.right(), y_of(0)));
    // One stroke a pixel, from the lowest to the highest height in it: no peak is lost.
    QPolygonF line;
    const auto pixels = static_cast<std::size_t>(std::max(1.0, room.width()));
    for (std::size_t x = 0; x < pixels; ++x) {
        const std::size_t from = x * z.size() / pixels, to = std::max(from + 1, (x + 1) * z.size() / pixels);
        const auto [least, most] = std::minmax_element(z.begin() + static_cast<std::ptrdiff_t>(from),
                                                       z.begin() + static_cast<std::ptrdiff_t>(std::min(to, z.size())));
        const double at = room.left() + static_cast<double>(x);
        line << QPointF(at, y_of(*most)) << QPointF(at, y_of(*least));
    }
    painter.setPen(QPen(p.deck.iron_low, 1));
    painter.drawPolyline(line);
    painter.setPen(p.ink);
    write(painter, QRectF(room.left(), room.top() - scaled(24), room.width(), scaled(20)), Qt::AlignLeft,
          tr("roughness profile; numbers: %1").arg(qt(wording::traces_text(*finding_))), Type::small);
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(
        QRectF(room.left(), room.bottom() + 8, room.width(), 18_px), Qt::AlignRight,
        tr("%1 mm, filtered at %2 mm").arg(finding_->shown.length(), 0, 'f', 1).arg(finding_->cutoff, 0, 'f', 2));
    for (const double h : {high, 0.0, low})
        painter.drawText(QRectF(4, y_of(h) - 9_px, 64_px, 18_px), Qt::AlignRight | Qt::AlignVCenter,
                         qt(wording::fixed(h / um, 1)) + tr(" µm"));
}

void TraceDrawing::paint_curve(QPainter& painter, const QRectF& room, double low, double high) {
    const Palette& p = context_.palette();
    const auto& r = finding_->ratio;
    const auto y_of = [&](double h) { return room.bottom() - (h - low) / (high - low) * room.height(); };
    const auto x_of = [&](double m) { return room.left() + m * room.width(); };
    // The core between the line's two ends.
    painter.setPen(Qt::NoPen);
    painter.setBrush(p.selected);
    painter.drawRect(QRectF(QPointF(room.left(), y_of(r.upper)), QPointF(room.right(), y_of(r.lower))));
    painter.setPen(QPen(p.hairline, 1));
    painter.drawLine(room.bottomLeft(), room.bottomRight());
    painter.drawLine(room.topLeft(), room.bottomLeft());
    QPolygonF line;
    constexpr std::size_t most = 400;
    const std::size_t stride = std::max<std::size_t>(1, r.curve.size() / most);
    for (std::size_t i = 0; i < r.curve.size(); i += stride)
        line << QPointF(x_of(static_cast<double>(i) / static_cast<double>(r.curve.size() - 1)), y_of(r.curve[i]));
    line << QPointF(room.right(), y_of(r.curve.back()));
    painter.setPen(QPen(p.accent, 2.2));
    painter.drawPolyline(line);
    painter.setPen(QPen(p.ink, 1.2, Qt::DashLine));
    painter.drawLine(QPointF(room.left(), y_of(r.upper)), QPointF(room.right(), y_of(r.lower)));
    for (const double m : {r.mr1, r.mr2})
        painter.drawLine(QPointF(x_of(m), y_of(m == r.mr1 ? r.upper : r.lower)), QPointF(x_of(m), room.bottom()));
    painter.setFont(font_of(Type::small));
    painter.setPen(p.ink);
    painter.drawText(QRectF(room.left(), room.top() - scaled(24), room.width() + 50, scaled(20)), Qt::AlignLeft,
                     tr("material ratio"));
    painter.drawText(QRectF(x_of(r.mr1) - 60_px, room.bottom() + 8, 120_px, 18_px), Qt::AlignCenter,
                     tr("Mr1 %1").arg(qt(wording::texture_text(r.mr1, true))));
    painter.drawText(QRectF(x_of(r.mr2) - 60_px, room.bottom() + 8, 120_px, 18_px), Qt::AlignCenter,
                     tr("Mr2 %1").arg(qt(wording::texture_text(r.mr2, true))));
    const double middle = (r.upper + r.lower) / 2;
    const std::array<std::pair<double, QString>, 3> names{
        {{r.upper + (high - r.upper) / 2, tr("Rpk")}, {middle, tr("Rk")}, {r.lower - (r.lower - low) / 2, tr("Rvk")}}};
    for (const auto& [h, name] : names)
        painter.drawText(QRectF(room.right() + 6, y_of(h) - 9_px, 46_px, 18_px), Qt::AlignLeft | Qt::AlignVCenter,
                         name);
}

} // namespace pallix::ui
