// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/set_up_page.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/steps/steps.h"
#include "ui/dialogs/fault_list.h"
#include "ui/frame/plain_label.h"
#include "wording/common/sentences.h"
#include "wording/decks/deck_words.h"
#include "wording/readings/readings.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

using metrology::Vec2;

namespace {

constexpr double flattest = 0.55, steepest = 0.95; // how near together the far side of the deck is drawn
constexpr double leg = 46;                         // px at 100 %, what the feet stand below the deck

} // namespace

SetUpDrawing::SetUpDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("set-up-drawing"), tr("the block on its feet"), parent) {
    setFocusPolicy(Qt::StrongFocus);
    setToolTip(tr("Drag a foot to where it stands; N goes to the next foot, the arrow keys move it"));
}

void SetUpDrawing::show_bank(const std::string& bank, bool head) {
    bank_ = bank;
    head_ = head;
    look(planning::set_up_of(context_.session.state(), bank, head));
    foot_ = std::min(foot_, set_up().feet.empty() ? 0 : set_up().feet.size() - 1);
}

void SetUpDrawing::look(block::SetUpRead set_up) {
    lie_ = planning::set_up_lie(context_.session.state(), std::move(set_up));
    update();
}

void SetUpDrawing::set_asked(const std::optional<planning::AskedReading>& asked) {
    asked_ = asked;
    update();
}

// ---- seen from a corner -------------------------------------------------------------------------------------------

QPointF SetUpDrawing::View::at(Vec2 place, double height) const {
    const double x = place.x - centre.x, y = place.y - centre.y;
    return middle + QPointF(scale * (x + 0.22 * y), -scale * slant * y - lift * height);
}

Vec2 SetUpDrawing::View::place(QPointF screen) const {
    const double y = -(screen.y() - middle.y()) / (scale * slant), x = (screen.x() - middle.x()) / scale - 0.22 * y;
    return {x + centre.x, y + centre.y};
}

SetUpDrawing::View SetUpDrawing::view() const {
    const auto& bank = *intake_of(context_.session.state()).blueprint->bank(bank_);
    planning::DeckExtent e = planning::deck_extent(bank);
    for (const auto& foot : set_up().feet) {
        e.low = {std::min(e.low.x, foot.place.x), std::min(e.low.y, foot.place.y)};
        e.high = {std::max(e.high.x, foot.place.x), std::max(e.high.y, foot.place.y)};
    }
    const QRectF area = QRectF(rect()).adjusted(scaled(124), scaled(52), -scaled(124), -scaled(leg + 52));
    View v;
    v.centre = {(e.low.x + e.high.x) / 2, (e.low.y + e.high.y) / 2};
    v.scale = std::min(area.width() / (e.length() + 0.22 * e.width()), area.height() / (flattest * e.width()));
    v.slant = std::min(steepest, area.height() / (v.scale * e.width()));
    v.middle = area.center();
    double largest = 0.02; // mm
    for (const auto& r : set_up().readings)
        largest = std::max(largest, std::abs(r.height));
    v.lift = scaled(34) / largest;
    return v;
}

double SetUpDrawing::tilt_at(Vec2 place) const {
    if (!correction())
        return 0;
    const auto& bank = *intake_of(context_.session.state()).blueprint->bank(bank_);
    const planning::DeckExtent e = planning::deck_extent(bank);
    return correction()->along * (place.x - (e.low.x + e.high.x) / 2) +
           correction()->across * (place.y - (e.low.y + e.high.y) / 2);
}

void SetUpDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    if (!intake_of(context_.session.state()).blueprint || !intake_of(context_.session.state()).blueprint->bank(bank_))
        return;
    const Palette& p = context_.palette();
    const auto& bank = *intake_of(context_.session.state()).blueprint->bank(bank_);
    const View v = view();
    QPolygonF level, outline;
    for (const Vec2 corner : bank.deck_outline) {
        level << v.at(corner);
        outline << v.at(corner, tilt_at(corner));
    }
    painter.setPen(QPen(p.quiet, 1, Qt::DashLine)); // where it will lie
    painter.setBrush(Qt::NoBrush);
    painter.drawPolygon(level);
    for (std::size_t i = 0; i < set_up().feet.size(); ++i)
        paint_leg(painter, v, i);
    painter.setPen(QPen(p.deck.edge, 1.6));
    QColor metal = p.deck.bright;
    metal.setAlphaF(0.9F);
    painter.setBrush(metal);
    painter.drawPolygon(outline);
    for (const block::HoleBlueprint& bore : intake_of(context_.session.state()).blueprint->bores)
        if (bore.id.bank == bank_) {
            QPolygonF round;
            for (int k = 0; k < 40; ++k) {
                const double a = 2 * M_PI * k / 40, r = bore.diameter.nominal / 2;
                const Vec2 at{bore.u + r * std::cos(a), bore.v + r * std::sin(a)};
                round << v.at(at, tilt_at(at));
            }
            painter.setBrush(p.panel);
            painter.drawPolygon(round);
        }
    for (std::size_t i = 0; i < set_up().feet.size(); ++i)
        paint_foot(painter, v, i);
    paint_corners(painter, v);
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(14_px, height() / 2.0 - 10_px, 70_px, 20_px), Qt::AlignLeft, tr("front"));
    painter.drawText(QRectF(width() - 84.0_px, height() / 2.0 - 10_px, 70_px, 20_px), Qt::AlignRight, tr("rear"));
    painter.drawText(QRectF(14_px, 8_px, width() - 28_px, 20_px), Qt::AlignLeft,
                     tr("tilt drawn larger than life · dashed: level"));
    paint_focus(painter);
}

/// How much a foot is to be raised; nothing where it stays.
std::optional<double> SetUpDrawing::raise_of(std::size_t foot) const {
    const double raise = correction() ? correction()->moves[foot].raise : 0;
    return lie_.to_mend() && !lie_.ease && raise > 5e-4 ? std::optional(raise) : std::nullopt;
}

void SetUpDrawing::paint_leg(QPainter& painter, const View& v, std::size_t i) {
    const bool moves = raise_of(i).has_value();
    const Vec2 place = set_up().feet[i].place;
    painter.setPen(QPen(moves ? context_.palette().accent : context_.palette().deck.edge, moves ? 4 : 2.4));
    painter.drawLine(v.at(place, tilt_at(place)), v.at(place) + QPointF(0, scaled(leg)));
}

/// Over the deck, as if one saw through it: a foot behind it is read too.
void SetUpDrawing::paint_foot(QPainter& painter, const View& v, std::size_t i) {
    const Palette& p = context_.palette();
    const auto& foot = set_up().feet[i];
    const QPointF ground = v.at(foot.place) + QPointF(0, scaled(leg));
    const auto raise = raise_of(i);
    const bool moves = raise.has_value();
    painter.setPen(QPen(moves ? p.accent : p.deck.edge, 2));
    painter.setBrush(gripped_ == i || (hasFocus() && foot_ == i) ? p.selected : p.panel);
    painter.drawPolygon(QPolygonF{ground + QPointF(0, -scaled(8)), ground + QPointF(scaled(13), scaled(8)),
                                  ground + QPointF(-scaled(13), scaled(8))});
    painter.setFont(font_of(Type::number, moves));
    painter.setPen(moves ? p.accent : p.quiet);
    const QString text =
        moves ? tr("%1 ↑ %2").arg(qt(foot.name), qt(context_.lengths().with_unit(*raise))) : qt(foot.name);
    QPolygonF outline;
    for (const Vec2 corner : intake_of(context_.session.state()).blueprint->bank(bank_)->deck_outline)
        outline << v.at(corner, tilt_at(corner));
    const bool far = foot.place.y > v.centre.y; // beside it: below stands the corner's number
    QRectF words(far ? ground.x() + 18_px : ground.x() - 120_px, ground.y() + (far ? -12_px : 9_px), 240_px, 24_px);
    words.moveLeft(std::clamp(words.left(), 4.0_px, width() - 244.0_px));
    const int how = static_cast<int>((far ? Qt::AlignLeft : Qt::AlignHCenter) | Qt::AlignVCenter);
    if (outline.containsPoint(words.center(), Qt::OddEvenFill)) { // over the deck, its edges and bores
        QColor behind = p.deck.bright;
        behind.setAlphaF(0.9F);
        painter.fillRect(painter.boundingRect(words, how, text).adjusted(-3, 0, 3, 0), behind);
    }
    painter.drawText(words, how, text);
}

/// What the indicator reads at the corners; the one that is asked for strong.
void SetUpDrawing::paint_corners(QPainter& painter, const View& v) {
    const Palette& p = context_.palette();
    const auto& bank = *intake_of(context_.session.state()).blueprint->bank(bank_);
    const planning::DeckExtent extent = planning::deck_extent(bank);
    for (const block::DeckPlace& corner : block::deck_places(bank)) {
        const QPointF c = v.at(corner.place, tilt_at(corner.place));
        const auto read =
            std::ranges::find_if(set_up().readings, [&](const auto& r) { return norm(r.place - corner.place) < 1e-3; });
        const bool asked = asked_ && asked_->at.key() == planning::corner_reading(bank_, corner, head_).key();
        painter.setPen(asked ? QPen(p.accent, 3) : QPen(Qt::NoPen));
        painter.setBrush(asked ? p.panel : p.deck.point);
        painter.drawEllipse(c, asked ? 12_px : 5_px, asked ? 12_px : 5_px);
        painter.setFont(font_of(Type::title, true));
        painter.setPen(asked ? p.accent : p.ink);
        const bool left = !corner.rear;
        const QString words = read == set_up().readings.end()
                                  ? asked ? tr("?") : QString()
                                  : qt(context_.lengths().side(read->height, "high", "low"));
        const auto side = (left ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter | Qt::TextDontClip;
        // Outside the deck's edge, where no line runs through it.
        const double edge = v.at({left ? extent.low.x : extent.high.x, corner.place.y}).x();
        const QRectF beside(left ? edge - scaled(124) : edge + scaled(8), c.y() - scaled(14), scaled(116), scaled(28));
        painter.drawText(beside, side, words);
        if (lie_.ease && lie_.ease->rear == corner.rear && lie_.ease->positive_v == corner.positive_v) {
            painter.setFont(font_of(Type::number, true));
            painter.setPen(p.accent);
            const double wide = scaled(180), y = beside.top() + (corner.positive_v ? -scaled(44) : scaled(40));
            painter.drawText(QRectF(left ? scaled(6) : width() - scaled(6) - wide, y, wide, beside.height()),
                             (left ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter,
                             tr("ease ↑ %1").arg(qt(context_.lengths().with_unit(lie_.ease->by))));
        }
    }
}

// ---- feet ---------------------------------------------------------------------------------------------------------

void SetUpDrawing::mousePressEvent(QMouseEvent* event) {
    setFocus();
    gripped_.reset();
    const View v = view();
    for (std::size_t i = 0; i < set_up().feet.size(); ++i)
        if (QLineF(v.at(set_up().feet[i].place) + QPointF(0, scaled(leg)), event->position()).length() < scaled(22)) {
            gripped_ = foot_ = i;
            update();
        }
}

void SetUpDrawing::mouseMoveEvent(QMouseEvent* event) {
    if (gripped_ && event->buttons() & Qt::LeftButton)
        move_foot(*gripped_, view().place(event->position() - QPointF(0, scaled(leg))));
}

void SetUpDrawing::mouseReleaseEvent(QMouseEvent*) {
    if (std::exchange(gripped_, std::nullopt))
        Q_EMIT feet_moved(set_up());
    update();
}

void SetUpDrawing::move_foot(std::size_t foot, Vec2 to) {
    constexpr double least = 1; // mm, as exactly as anybody says where a foot stands
    block::SetUpRead moved = set_up();
    moved.feet[foot].place = {std::round(to.x / least) * least, std::round(to.y / least) * least};
    look(std::move(moved));
}

void SetUpDrawing::keyPressEvent(QKeyEvent* event) {
    const int key = event->key();
    if (key == Qt::Key_N && !set_up().feet.empty()) {
        foot_ = (foot_ + 1) % set_up().feet.size();
        say_changed();
        return update();
    }
    const Vec2 way = key == Qt::Key_Left    ? Vec2{-1, 0}
                     : key == Qt::Key_Right ? Vec2{1, 0}
                     : key == Qt::Key_Up    ? Vec2{0, 1}
                     : key == Qt::Key_Down  ? Vec2{0, -1}
                                            : Vec2{0, 0};
    if ((way.x == 0 && way.y == 0) || set_up().feet.empty())
        return Drawing::keyPressEvent(event);
    const double step = event->modifiers() & Qt::ShiftModifier ? 1 : 10; // mm
    move_foot(foot_, set_up().feet[foot_].place + step * way);
    Q_EMIT feet_moved(set_up());
}

std::vector<SpokenPart> SetUpDrawing::spoken() const {
    std::vector<SpokenPart> parts;
    if (!intake_of(context_.session.state()).blueprint || !intake_of(context_.session.state()).blueprint->bank(bank_))
        return parts;
    const auto& bank = *intake_of(context_.session.state()).blueprint->bank(bank_);
    const View v = view();
    const auto l = context_.lengths();
    const auto box = [](QPointF c) { return QRectF(c.x() - 14_px, c.y() - 14_px, 28_px, 28_px).toAlignedRect(); };
    for (const auto& r : set_up().readings) {
        const auto corners = block::deck_places(bank);
        const auto found = std::ranges::find_if(corners, [&](const auto& c) { return norm(c.place - r.place) < 1e-3; });
        parts.push_back(
            {found == corners.end() ? tr("a place") : qt(wording::corner_words(bank, found->rear, found->positive_v)),
             qt(l.side_with_unit(r.height, "high", "low")), box(v.at(r.place)), false, false});
    }
    for (std::size_t i = 0; i < set_up().feet.size(); ++i)
        parts.push_back({qt(set_up().feet[i].name),
                         correction() ? tr("raise %1").arg(qt(l.with_unit(correction()->moves[i].raise))) : QString(),
                         box(v.at(set_up().feet[i].place) + QPointF(0, scaled(leg))), i == foot_, false});
    return parts;
}

TwinTable SetUpDrawing::table() const {
    TwinTable t = TwinTable::headed(tr("foot|along|across|raise"), 1);
    const block::BankBlueprint* bank = intake_of(context_.session.state()).blueprint->bank(bank_);
    if (!bank)
        return t;
    const auto l = context_.lengths();
    for (std::size_t i = 0; i < set_up().feet.size(); ++i) {
        const auto& foot = set_up().feet[i];
        t.rows.push_back({qt(foot.name), qt(l.plain(foot.place.x)), qt(wording::across_text(*bank, foot.place.y, l)),
                          correction() ? qt(l.plain(correction()->moves[i].raise)) : QString()});
    }
    return t;
}

// ---- page ---------------------------------------------------------------------------------------------------------

SetUpPage::SetUpPage(Context context, QWidget* parent) : SetUpPage(context, new SetUpDrawing(context), parent) {}

SetUpPage::SetUpPage(Context context, SetUpDrawing* drawing, QWidget* parent)
    : DrawnPage(
          context, drawing, wording::FiguresOf::cutter, [drawing] { return drawing->table(); }, parent),
      context_(context), set_up_(drawing), words_(new PlainLabel(this)) {
    set_type(words_, Type::text);
    words_->setObjectName(QStringLiteral("set-up-words"));
    words_->setWordWrap(true);
    add_below(words_);
    connect(set_up_, &SetUpDrawing::feet_moved, this, [this](const block::SetUpRead& set_up) {
        if (const auto taken = context_.session.take(set_up); !taken)
            show_faults(taken.error(), context_, this);
    });
}

void SetUpPage::show_bank(const std::string& bank, bool head) {
    bank_ = bank;
    head_ = head;
    set_up_->show_bank(bank, head);
    fill_words();
    show_bore({});
}

void SetUpPage::fill_words() {
    const auto& state = context_.session.state();
    const auto& a = context_.session.assessment();
    QStringList words;
    const planning::SetUpLie& lie = set_up_->lie();
    for (const std::string& s :
         wording::set_up_sentences(*intake_of(state).blueprint->bank(bank_), lie, context_.lengths()))
        words << qt(s);
    if (words.isEmpty())
        words << (head_
                      ? tr("Read the corners of its face in the line below (Ctrl+M chooses head heights), and drag the "
                           "feet to where they stand. Head clamped, hoist slack, no one under it.")
                      : tr("Read at least three corners in the line below (Ctrl+M chooses the set-up), or both sides "
                           "of one station, or lay a precision level along and across; drag the feet to where they "
                           "stand. Block clamped, hoist slack, no one under it."));
    else if (lie.to_mend() && lie.correction && !lie.ease) {
        const auto pieces =
            planning::pieces_on_hand(context_.preferences.stack_pieces().toStdString(), context_.preferences.unit());
        for (const planning::FootMove& foot : lie.correction->moves)
            if (foot.raise > planning::level_enough / 2)
                words << qt(wording::stack_sentence(foot, planning::stack_for(foot.raise, pieces), context_.lengths()));
    }
    if (head_)
        return words_->setText(words.join(QLatin1Char(' ')));
    const bool ticked = std::ranges::any_of(
        tunnel_of(state).steps, [this](const auto& s) { return s.second == planning::datum_confirmed(bank_); });
    const auto positions = std::ranges::find(a.positions, bank_, &planning::BankPositions::bank);
    if (positions != a.positions.end() && positions->dowels)
        words << qt(wording::dowel_pair_sentence(*positions->dowels, context_.lengths()));
    else if (!ticked)
        words << tr("After rolling: indicate this bank's dowel before its first cut.");
    if (ticked)
        words << tr("The datum is confirmed.");
    words_->setText(words.join(QLatin1Char(' ')));
}

} // namespace pallix::ui
