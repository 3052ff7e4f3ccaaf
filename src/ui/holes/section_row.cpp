// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/holes/section_row.h"

#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "ui/marks.h"
#include "wording/common/sentences.h"
#include "wording/cylinders/cylinder_words.h"

#include <QPainter>
#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::ui {

using planning::HoleState;

namespace {

constexpr double head_height = 34, wall = 14, number_width = 66; // px at 100 %

const planning::BoringBoard* boring_of(const Context& context) {
    const auto& work = context.session.assessment().cylinders;
    return work ? &work->boring : nullptr;
}
const planning::HoleProgress* hole_of(const Context& context, const block::FeatureId& id) {
    const auto* board = boring_of(context);
    if (!board)
        return nullptr;
    const auto found = std::ranges::find(board->holes, id, &planning::HoleProgress::id);
    return found == board->holes.end() ? nullptr : &*found;
}
const planning::HoneBore* hone_of(const Context& context, const block::FeatureId& id) {
    const auto& work = context.session.assessment().cylinders;
    if (!work)
        return nullptr;
    const auto found = std::ranges::find(work->hone.bores, id, &planning::HoneBore::id);
    return found == work->hone.bores.end() ? nullptr : &*found;
}

QString state_word(HoleState state) {
    switch (state) {
    case HoleState::open:
        return SectionRow::tr("to go");
    case HoleState::unmeasured:
        return SectionRow::tr("measure it");
    case HoleState::under:
        return SectionRow::tr("under: cut again");
    case HoleState::in:
        return SectionRow::tr("in size");
    case HoleState::doubtful:
        return SectionRow::tr("read once more");
    case HoleState::over:
        return SectionRow::tr("over");
    case HoleState::finished:
        return SectionRow::tr("honed");
    }
    return {};
}

/// µm, or tenths of a thou: two digits say what three decimals would.
QString short_stock(const Context& context, double mm) {
    const double unit = context.preferences.unit() == block::Unit::inch ? 0.00254 : 0.001;
    return QString::number(std::lround(mm / unit)).replace(QLatin1Char('-'), QChar(0x2212));
}

} // namespace

// ---- any row ------------------------------------------------------------------------------------------------------

SectionRow::SectionRow(Context context, const QString& name, const QString& spoken, const QString& one, QWidget* parent)
    : Drawing(context, name, spoken, parent) {
    setFocusPolicy(Qt::StrongFocus);
    setToolTip(
        tr("Click %1, or go from one to the next with the arrow keys; Enter answers, T shows the table").arg(one));
}

void SectionRow::show_bank(const std::string& bank) {
    bank_ = bank;
    update();
}

double SectionRow::most_stock(const QRectF& section) const {
    return std::clamp((section.width() - 2 * scaled(wall) - scaled(number_width)) / 2, 4.0, scaled(60) * 1.0);
}

std::vector<Drawing::Thing> SectionRow::things() const {
    std::vector<Thing> all;
    const auto ids = bores();
    const double column = (width() - 16.0) / std::max<double>(1, static_cast<double>(ids.size()));
    for (std::size_t i = 0; i < ids.size(); ++i)
        all.push_back({ids[i],
                       QRectF(8 + column * static_cast<double>(i), scaled(head_height), column,
                              height() - scaled(head_height) - 8),
                       short_name(context_, ids[i]), value_of(ids[i])});
    return all;
}

void SectionRow::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const auto all = things();
    if (all.empty())
        return paint_empty(painter, words().nothing);
    painter.setPen(context_.palette().quiet);
    const QRectF head(16, 8, width() - 32, scaled(20));
    const Words over = words();
    painter.drawText(head, Qt::AlignRight | Qt::AlignVCenter, over.right);
    const double right = painter.fontMetrics().horizontalAdvance(over.right + QStringLiteral("   "));
    write(painter, head.adjusted(0, 0, -right, 0), Qt::AlignLeft | Qt::AlignVCenter, over.left, Type::small);
    for (const Thing& thing : all) {
        const QRectF box = thing.where.adjusted(3, 0, -3, 0);
        paint_frame(painter, box, marked() == thing.id);
        painter.setPen(context_.palette().ink);
        write(painter, QRectF(box.left(), box.top() + 6, box.width(), scaled(24)), Qt::AlignCenter, thing.name,
              Type::number, true);
        paint_section(painter, thing.id, box.adjusted(6, scaled(36), -6, -6));
    }
    paint_focus(painter);
}

void SectionRow::paint_walls(QPainter& painter, const QRectF& s, const std::vector<double>& stock) const {
    const Palette& p = context_.palette();
    const double thick = scaled(wall);
    painter.setPen(Qt::NoPen);
    painter.setBrush(p.deck.iron_high);
    painter.drawRect(QRectF(s.left(), s.top(), thick, s.height()));
    painter.drawRect(QRectF(s.right() - thick, s.top(), thick, s.height()));
    if (stock.size() < 2)
        return;
    QPolygonF left{QPointF(s.left() + thick, s.top())}, right{QPointF(s.right() - thick, s.top())};
    for (std::size_t i = 0; i < stock.size(); ++i) {
        const double y = s.top() + s.height() * static_cast<double>(i) / static_cast<double>(stock.size() - 1);
        left << QPointF(s.left() + thick + stock[i], y);
        right << QPointF(s.right() - thick - stock[i], y);
    }
    left << QPointF(s.left() + thick, s.bottom());
    right << QPointF(s.right() - thick, s.bottom());
    QColor fill = p.accent;
    fill.setAlphaF(0.25F);
    painter.setPen(QPen(p.accent, 1.2));
    painter.setBrush(fill);
    painter.drawPolygon(left);
    painter.drawPolygon(right);
}

namespace {

// ---- boring -------------------------------------------------------------------------------------------------------

class BoringRow final : public SectionRow {
  public:
    BoringRow(Context context, QWidget* parent)
        : SectionRow(context, QStringLiteral("boring"), tr("holes to bore, the worst first"), tr("a hole"), parent) {}

  protected:
    [[nodiscard]] Words words() const override;
    [[nodiscard]] std::vector<block::FeatureId> bores() const override;
    [[nodiscard]] QString value_of(const block::FeatureId& id) const override;
    void paint_section(QPainter& painter, const block::FeatureId& id, const QRectF& box) override;
};

std::vector<block::FeatureId> BoringRow::bores() const {
    std::vector<block::FeatureId> ids;
    if (const auto* board = boring_of(context_))
        for (const auto& hole : board->holes)
            if (bank().empty() || hole.id.bank == bank())
                ids.push_back(hole.id);
    return ids;
}

QString BoringRow::value_of(const block::FeatureId& id) const {
    const auto* h = hole_of(context_, id);
    if (!h)
        return {};
    const auto l = context_.lengths();
    QString words = state_word(h->state);
    if (h->size && h->state != HoleState::unmeasured)
        words += tr(", %1 to go").arg(qt(l.with_unit(h->still())));
    return words + tr(", to become %1").arg(qt(l.with_unit(h->target)));
}

BoringRow::Words BoringRow::words() const {
    return {tr("left to take off either wall, larger than life · worst first"), tr("seen from the rear"),
            context_.session.assessment().cylinders
                ? tr("Choose a size or state the pistons below: the bores follow from them.")
                : tr("No cylinder was measured yet: take in a probe log (Ctrl+I), or read sizes (Ctrl+R).")};
}

void BoringRow::paint_section(QPainter& painter, const block::FeatureId& id, const QRectF& box) {
    const auto* h = hole_of(context_, id);
    const auto* board = boring_of(context_);
    if (!h || !board)
        return;
    const Palette& p = context_.palette();
    const auto l = context_.lengths();
    const bool known = h->size && h->state != HoleState::unmeasured && h->state != HoleState::open;
    const auto* need = context_.session.assessment().cylinders->study.bore(id);
    const double from = known ? *h->size : need ? need->found.worn : h->target;
    const double still = h->state == HoleState::finished ? 0 : h->target - from;
    double largest = 0.01; // mm, the most that any hole is to lose
    for (const auto& each : board->holes)
        if (const auto* found = context_.session.assessment().cylinders->study.bore(each.id))
            largest = std::max(largest, each.target - each.size.value_or(found->found.worn));
    const double foot = scaled(74);
    const QRectF section(box.left() + 2, box.top(), box.width() - 4, std::max(20.0, box.height() - foot));
    const double px = std::clamp(still / largest, 0.0, 1.0) * most_stock(section) + (still > 0 ? 3 : 0);
    paint_walls(painter, section, {px, px});
    if (board->hole == id && (board->step == planning::BoringStep::bore ||
                              board->step == planning::BoringStep::cut_again)) { // the bar stands in it
        const double half = section.width() / 2 - scaled(wall);
        const QRectF bar(section.center().x() - half * 0.36, section.top() - 4, half * 0.72, section.height() * 0.34);
        painter.setPen(QPen(p.deck.edge, 1.2));
        painter.setBrush(p.deck.iron_low);
        painter.drawRect(bar);
        painter.setBrush(p.accent);
        const double edge = section.left() + scaled(wall) + px;
        painter.drawPolygon(QPolygonF{QPointF(bar.left(), bar.bottom() - 16), QPointF(edge, bar.bottom() - 11),
                                      QPointF(bar.left(), bar.bottom() - 6)});
    }
    const QColor colour = h->state == HoleState::over    ? p.fails
                          : h->state == HoleState::in    ? p.meets
                          : h->state == HoleState::under ? p.accent
                                                         : p.ink;
    painter.setPen(colour);
    painter.setFont(font_of(Type::title, true));
    const QRectF middle(section.left() + scaled(wall), section.center().y() - scaled(4),
                        section.width() - 2 * scaled(wall), scaled(26));
    painter.drawText(middle, Qt::AlignCenter,
                     h->state == HoleState::finished     ? tr("✓")
                     : h->state == HoleState::unmeasured ? QString()
                                                         : qt(l.plain(std::abs(still))));
    painter.setFont(font_of(Type::small, h->state != HoleState::open));
    painter.drawText(middle.translated(0, scaled(26)), Qt::AlignCenter | Qt::TextDontClip, state_word(h->state));
    painter.setPen(p.ink);
    painter.setFont(font_of(Type::number, board->hole == id));
    const QRectF line(box.left(), section.bottom() + scaled(6), box.width(), scaled(22));
    painter.drawText(line, Qt::AlignCenter, tr("→ %1").arg(qt(l.plain(h->target))));
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    QString below = h->seat ? tr("sleeve seat") : tr("rough bore");
    if (h->cuts.size() > 1)
        below = tr("in %1 cuts").arg(h->cuts.size());
    painter.drawText(line.translated(0, scaled(22)), Qt::AlignCenter, below);
    if (h->set)
        painter.drawText(line.translated(0, scaled(42)), Qt::AlignCenter,
                         h->surplus
                             ? tr("set %1, %2").arg(qt(l.plain(*h->set)), qt(l.side(*h->surplus, "larger", "smaller")))
                             : tr("set %1").arg(qt(l.plain(*h->set))));
}

// ---- honing -------------------------------------------------------------------------------------------------------

class HoneRow final : public SectionRow {
  public:
    HoneRow(Context context, QWidget* parent)
        : SectionRow(context, QStringLiteral("honing"), tr("stock left in every bore"), tr("a bore"), parent) {}

  protected:
    [[nodiscard]] Words words() const override;
    [[nodiscard]] std::vector<block::FeatureId> bores() const override;
    [[nodiscard]] QString value_of(const block::FeatureId& id) const override;
    void paint_section(QPainter& painter, const block::FeatureId& id, const QRectF& box) override;

  private:
    void paint_foot(QPainter& painter, const planning::HoneBore& b, const QRectF& line, bool on);
};

std::vector<block::FeatureId> HoneRow::bores() const {
    std::vector<block::FeatureId> ids;
    if (const auto& work = context_.session.assessment().cylinders)
        for (const auto& bore : work->hone.bores)
            if (bank().empty() || bore.id.bank == bank())
                ids.push_back(bore.id);
    return ids;
}

QString HoneRow::value_of(const block::FeatureId& id) const {
    const auto* b = hone_of(context_, id);
    if (!b)
        return {};
    return b->measured ? qt(wording::shape_sentence(*b, context_.lengths())) +
                             tr(" %1 left at the most").arg(qt(context_.lengths().with_unit(b->most)))
                       : tr("to be measured");
}

HoneRow::Words HoneRow::words() const {
    return {context_.preferences.unit() == block::Unit::inch
                ? tr("stock left on diameter, tenths of a thou, the worse of both ways")
                : tr("stock left on diameter, µm, the worse of both ways"),
            tr("walls larger than life"),
            tr("Nothing to hone yet: measure the cylinders, and state the pistons or choose a size.")};
}

/// The shape it has become, and what to do about it.
void HoneRow::paint_foot(QPainter& painter, const planning::HoneBore& b, const QRectF& line, bool on) {
    const Palette& p = context_.palette();
    constexpr std::array shapes{"even", "tight top", "tight bottom", "barrel", "waist", "oval"};
    const bool too_large = b.measured && b.sizes.finish - b.least > b.sizes.finish_most;
    const bool even = b.shape == planning::BoreShape::even;
    painter.setFont(font_of(Type::number, !even));
    painter.setPen(b.measured && !even ? p.fails : p.quiet);
    painter.drawText(line, Qt::AlignCenter | Qt::TextDontClip,
                     b.measured ? QString::fromLatin1(shapes[static_cast<std::size_t>(b.shape)]) : tr("measure it"));
    painter.setFont(font_of(Type::small));
    QString below = !b.dwell.empty() ? tr("dwell at the %1").arg(qt(b.dwell)) : QString();
    QColor colour = p.quiet;
    if (b.verdict && (b.most <= 0 || too_large)) {
        below = b.rested || too_large ? qt(wording::verdict_word(*b.verdict)) : tr("warm");
        colour = b.rested ? mark_colour(mark_of(*b.verdict), p) : p.cannot_tell;
    }
    painter.setPen(colour);
    painter.drawText(line.translated(0, scaled(22)), Qt::AlignCenter | Qt::TextDontClip, below);
    if (on && b.step) {
        painter.setPen(p.accent);
        painter.drawText(
            line.translated(0, scaled(40)), Qt::AlignCenter | Qt::TextDontClip,
            tr("%1 in hand").arg(qt(planning::hone_plan_of(context_.session.state()).steps[*b.step].grit)));
    }
}

void HoneRow::paint_section(QPainter& painter, const block::FeatureId& id, const QRectF& box) {
    const auto* b = hone_of(context_, id);
    if (!b)
        return;
    const Palette& p = context_.palette();
    const auto& board = context_.session.assessment().cylinders->hone;
    double largest = 0.02; // mm
    for (const auto& each : board.bores)
        for (const auto& cell : each.cells)
            if (cell.size)
                largest = std::max(largest, cell.left);
    const double foot = scaled(66);
    const QRectF section(box.left() + 2, box.top(), box.width() - 4, std::max(20.0, box.height() - foot));
    constexpr std::size_t levels = 3;
    std::array<std::optional<double>, levels> left;
    for (std::size_t i = 0; i < b->cells.size() && i / 2 < levels; ++i)
        if (b->cells[i].size) {
            std::optional<double>& worst = left[i / 2];
            worst = worst ? std::max(*worst, b->cells[i].left) : b->cells[i].left;
        }
    std::vector<double> stock;
    for (const auto& level : left)
        if (level)
            stock.push_back(std::clamp(*level / largest, 0.0, 1.0) * most_stock(section));
    paint_walls(painter, section, stock.size() == levels ? stock : std::vector<double>());
    const bool on = board.bore == id && board.step == planning::HoneStep::hone;
    if (on && stock.size() == levels) { // the stones stand where it is tight
        const double at = b->dwell == "top" ? 0.2 : b->dwell == "bottom" ? 0.8 : 0.5, tall = section.height() * 0.26;
        const double y = section.top() + section.height() * at - tall / 2, in = scaled(wall);
        const double px = stock[b->dwell == "top" ? 0 : b->dwell == "bottom" ? 2 : 1];
        painter.setPen(Qt::NoPen);
        painter.setBrush(p.accent);
        painter.drawRect(QRectF(section.left() + in + px + 1, y, scaled(8), tall));
        painter.drawRect(QRectF(section.right() - in - px - 1 - scaled(8), y, scaled(8), tall));
    }
    painter.setPen(QPen(p.quiet, 1, Qt::DashLine));
    const double x = section.center().x();
    for (int gap = 0; gap < 2; ++gap) {
        const double from = section.top() + section.height() * gap / 2 + scaled(26);
        painter.drawLine(QPointF(x, from), QPointF(x, from + section.height() / 2 - scaled(40)));
    }
    for (std::size_t i = 0; i < levels; ++i) {
        const QRectF at(section.left(),
                        section.top() + (section.height() - scaled(26)) * static_cast<double>(i) / (levels - 1),
                        section.width(), scaled(26));
        painter.setFont(font_of(Type::title, marked() == id));
        if (!left[i]) {
            painter.setPen(p.quiet);
            painter.drawText(at, Qt::AlignCenter, tr("–"));
            continue;
        }
        const bool over = b->sizes.finish - *left[i] > b->sizes.finish_most;
        painter.setPen(over ? p.fails : *left[i] <= 0 ? p.meets : p.ink);
        painter.drawText(at, Qt::AlignCenter,
                         short_stock(context_, *left[i]) + (over            ? tr(" ✕")
                                                            : *left[i] <= 0 ? tr(" ✓")
                                                                            : QString()));
    }
    paint_foot(painter, *b, QRectF(box.left(), section.bottom() + scaled(6), box.width(), scaled(22)), on);
}

} // namespace

SectionRow* boring_row(Context context, QWidget* parent) {
    return new BoringRow(context, parent);
}
SectionRow* hone_row(Context context, QWidget* parent) {
    return new HoneRow(context, parent);
}

} // namespace pallix::ui
