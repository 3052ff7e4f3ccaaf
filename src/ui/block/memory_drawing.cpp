// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/block/memory_drawing.h"

#include "block/state/intake_state.h"
#include "session/counted.h"
#include "wording/shop/memory_words.h"

#include <QPainter>
#include <algorithm>

namespace pallix::ui {
namespace {

constexpr double edge = 20, head = 44, strip_height = 62; // px at 100 %

} // namespace

MemoryDrawing::MemoryDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("kind-memory"), tr("other blocks of this kind"), parent),
      shop_(context.session.book(), context.preferences, nullptr, [&s = context.session] { return s.now(); }) {
    setFocusPolicy(Qt::StrongFocus);
}

void MemoryDrawing::refresh() {
    if (isVisible())
        remember();
    update();
}

void MemoryDrawing::showEvent(QShowEvent* event) {
    shop_.reload();
    remember();
    Drawing::showEvent(event);
}

void MemoryDrawing::remember() {
    memory_.clear();
    blocks_ = 0;
    const auto& blueprint = intake_of(context_.session.state()).blueprint;
    if (!context_.session.has_job() || !blueprint)
        return;
    std::vector<planning::BlockTraits> others;
    for (const session::ShopModel::Row& row : shop_.all())
        if (row.readable && row.engine == qt(blueprint->name) && row.id != *context_.session.job() &&
            !row.traits.empty())
            others.push_back(row.traits);
    blocks_ = others.size();
    memory_ = planning::remember_kind(planning::traits_of(context_.session.state()), others);
    std::ranges::stable_sort(memory_, std::greater(), &planning::TraitMemory::unusual); // what stands out goes first
    say_changed();
}

TwinTable MemoryDrawing::table() const {
    TwinTable twin = TwinTable::headed(tr("trait|what the others say"), 2);
    for (const planning::TraitMemory& m : memory_)
        twin.rows.push_back({qt(wording::trait_name(context_.session.state(), m.what)),
                             qt(wording::memory_sentence(context_.session.state(), m, context_.lengths()))});
    return twin;
}

QRectF MemoryDrawing::box_of(std::size_t i) const {
    return {scaled(edge) * 1.0, scaled(head) + static_cast<double>(i) * scaled(strip_height),
            width() - 2.0 * scaled(edge), scaled(strip_height) * 1.0};
}

/// Every block a ring, the present one filled; mean and spread as a band.
void MemoryDrawing::paint_strip(QPainter& painter, const QRectF& box, const planning::TraitMemory& m) const {
    const Palette& p = context_.palette();
    double low = std::min(0.0, m.others.front()), high = std::max(0.0, m.others.back());
    if (m.present) {
        low = std::min(low, *m.present);
        high = std::max(high, *m.present);
    }
    const double span = std::max(high - low, 1e-3);
    const double middle = box.center().y();
    const auto x = [&](double value) { return box.left() + 8 + (value - low) / span * (box.width() - 16); };
    if (m.mean && m.spread) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(p.selected);
        const double from = std::max(box.left(), x(*m.mean - *m.spread)),
                     to = std::min(box.right(), x(*m.mean + *m.spread));
        painter.drawRect(QRectF(from, middle - scaled(10), to - from, scaled(20)));
        painter.setPen(QPen(p.ink, 2));
        painter.drawLine(QPointF(x(*m.mean), middle - scaled(10)), QPointF(x(*m.mean), middle + scaled(10)));
    }
    painter.setPen(QPen(p.hairline, 1));
    painter.drawLine(QPointF(box.left(), middle), QPointF(box.right(), middle));
    painter.setPen(QPen(p.quiet, 1, Qt::DashLine)); // as the blueprint has it
    painter.drawLine(QPointF(x(0), middle - scaled(14)), QPointF(x(0), middle + scaled(14)));
    painter.setPen(QPen(p.quiet, 1.5));
    painter.setBrush(p.panel);
    for (const double value : m.others)
        painter.drawEllipse(QPointF(x(value), middle), 4_px, 4_px);
    if (!m.present)
        return;
    painter.setPen(QPen(m.unusual ? p.cannot_tell : p.accent, 2));
    painter.setBrush(m.unusual ? p.cannot_tell : p.accent);
    const double at = x(*m.present), size = 6_px;
    painter.drawPolygon(
        QPolygonF({{at, middle - size}, {at + size, middle}, {at, middle + size}, {at - size, middle}}));
}

void MemoryDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    if (memory_.empty()) {
        paint_empty(painter, tr("No other block of this kind was measured here yet."));
        return paint_focus(painter);
    }
    painter.setPen(p.quiet);
    write(painter, QRectF(scaled(edge), scaled(10), width() - 2.0 * scaled(edge), scaled(26)),
          Qt::AlignLeft | Qt::AlignVCenter,
          tr("%1 of this kind · each a ring, this one ◆ · dashed: as the blueprint has it · band: mean and spread")
              .arg(session::counted(static_cast<int>(blocks_), tr("other block"), tr("other blocks"))),
          Type::small);
    std::size_t shown = 0;
    for (; shown < memory_.size(); ++shown) {
        const QRectF box = box_of(shown);
        if (box.bottom() > height() - scaled(20))
            break;
        const planning::TraitMemory& m = memory_[shown];
        const double names = 0.25 * box.width(), strip = 0.32 * box.width();
        painter.setPen(p.ink);
        painter.setFont(font_of(Type::text));
        painter.drawText(QRectF(box.left(), box.top(), names - 8, box.height()),
                         Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap,
                         qt(wording::trait_name(context_.session.state(), m.what)));
        paint_strip(painter, QRectF(box.left() + names, box.top(), strip, box.height()), m);
        painter.setPen(m.unusual ? p.cannot_tell : p.quiet);
        painter.setFont(font_of(Type::small));
        painter.drawText(
            QRectF(box.left() + names + strip + 12, box.top(), box.width() - names - strip - 12, box.height()),
            Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap,
            qt(wording::memory_sentence(context_.session.state(), m, context_.lengths())));
    }
    painter.setPen(p.quiet);
    if (shown < memory_.size())
        write(painter, QRectF(rect()).adjusted(20, 0, -20, -4), Qt::AlignRight | Qt::AlignBottom,
              tr("%1 more: T shows all").arg(memory_.size() - shown), Type::small);
    paint_focus(painter);
}

std::vector<SpokenPart> MemoryDrawing::spoken() const {
    std::vector<SpokenPart> parts;
    for (std::size_t i = 0; i < memory_.size() && box_of(i).bottom() <= height() - scaled(20); ++i)
        parts.push_back({qt(wording::trait_name(context_.session.state(), memory_[i].what)),
                         qt(wording::memory_sentence(context_.session.state(), memory_[i], context_.lengths())),
                         box_of(i).toAlignedRect(), false, false});
    return parts;
}

} // namespace pallix::ui
