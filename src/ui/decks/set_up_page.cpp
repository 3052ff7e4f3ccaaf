// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/set_up_page.h"

#include "block/shorthand.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/common/place.h"
#include "planning/steps/steps.h"
#include "ui/frame/echo.h"
#include "ui/frame/plain_label.h"
#include "wording/common/sentences.h"
#include "wording/decks/deck_words.h"
#include "wording/readings/readings.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QRegularExpression>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

using metrology::Vec2;

// ---- drawing ------------------------------------------------------------------------------------------------------

SetUpDrawing::SetUpDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("set-up-drawing"), tr("the block's set-up in plan"), parent) {}

void SetUpDrawing::show_set_up(const std::string& bank, const block::SetUpRead& set_up) {
    bank_ = bank;
    set_up_ = set_up;
    correction_ = planning::correct_set_up(set_up);
    update();
}

void SetUpDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const auto& state = context_.session.state();
    if (!intake_of(state).blueprint || !intake_of(state).blueprint->bank(bank_))
        return;
    const Palette& p = context_.palette();
    const auto l = context_.lengths();
    const auto& bank = *intake_of(state).blueprint->bank(bank_);
    // Everything that has a place must fit: the deck, and feet beside it.
    planning::DeckExtent e = planning::deck_extent(bank);
    for (const auto& foot : set_up_.feet) {
        e.low = {std::min(e.low.x, foot.place.x), std::min(e.low.y, foot.place.y)};
        e.high = {std::max(e.high.x, foot.place.x), std::max(e.high.y, foot.place.y)};
    }
    const QRectF area = QRectF(rect()).adjusted(90, 40, -90, -44);
    const double scale = std::min(area.width() / e.length(), area.height() / e.width());
    const auto at = [&](Vec2 q) {
        return area.center() +
               QPointF((q.x - (e.low.x + e.high.x) / 2) * scale, ((e.low.y + e.high.y) / 2 - q.y) * scale);
    };
    QPolygonF outline;
    for (const Vec2 corner : bank.deck_outline)
        outline << at(corner);
    painter.setPen(QPen(p.deck.edge, 1.6));
    painter.setBrush(p.deck.bright);
    painter.drawPolygon(outline);
    painter.setPen(p.quiet);
    painter.drawText(QRectF(0, 4, width(), 18), Qt::AlignCenter,
                     qt(wording::across_word(planning::positive_side(bank))));
    painter.drawText(QRectF(0, height() - 22, width(), 18), Qt::AlignCenter,
                     qt(wording::across_word(planning::negative_side(bank))));
    painter.drawText(QRectF(6, height() / 2.0 - 9, 60, 18), Qt::AlignLeft, tr("front"));
    painter.drawText(QRectF(width() - 66, height() / 2.0 - 9, 60, 18), Qt::AlignRight, tr("rear"));
    painter.setFont(font_of(Type::number, true));
    for (const auto& r : set_up_.readings) {
        const QPointF c = at(r.place);
        painter.setPen(Qt::NoPen);
        painter.setBrush(p.deck.point);
        painter.drawEllipse(c, 4, 4);
        painter.setPen(p.ink);
        const bool left = c.x() < width() / 2.0;
        painter.drawText(QRectF(left ? c.x() + 8 : c.x() - 108, c.y() - 10, 100, 20),
                         (left ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter, qt(l.with_sign(r.height)));
    }
    for (std::size_t i = 0; i < set_up_.feet.size(); ++i) {
        const QPointF c = at(set_up_.feet[i].place);
        painter.setPen(QPen(p.accent, 2));
        painter.setBrush(p.panel);
        painter.drawPolygon(QPolygonF{{c + QPointF(0, -9), c + QPointF(10, 8), c + QPointF(-10, 8)}});
        const double raise = correction_ ? correction_->moves[i].raise : 0;
        const bool moves = correction_ && correction_->spread > planning::level_enough && raise > 5e-4;
        QString text = qt(set_up_.feet[i].name);
        if (moves)
            text += tr(" ↑ %1").arg(qt(l.with_unit(raise)));
        painter.setPen(moves ? p.accent : p.quiet);
        const bool above = c.y() < height() / 2.0;
        QRectF words(c.x() - 90, above ? c.y() - 30 : c.y() + 9, 180, 20);
        words.moveLeft(std::clamp(words.left(), 4.0, width() - 184.0));
        painter.drawText(words, Qt::AlignCenter, text);
    }
}

// ---- page ---------------------------------------------------------------------------------------------------------

SetUpPage::SetUpPage(Context context, QWidget* parent)
    : QWidget(parent), context_(context), drawing_(new SetUpDrawing(context, this)), surface_(new QComboBox(this)),
      words_(new PlainLabel(this)), take_(new QPushButton(tr("Keep the set-up"), this)), wanted_(new QLineEdit(this)),
      pieces_(new QLineEdit(this)), stack_(new PlainLabel(this)), dowel_(new PlainLabel(this)),
      confirm_(new QPushButton(tr("Datum confirmed on its dowel"), this)),
      echo_(new Echo(context, QStringLiteral("set-up-echo"), this)) {
    for (const auto& [name, words] : {std::pair("deck", tr("deck")), {"plate", tr("plate")}, {"bar", tr("bar")}})
        surface_->addItem(words, QString::fromLatin1(name));
    surface_->setObjectName(QStringLiteral("set-up-surface"));
    surface_->setAccessibleName(tr("what the indicator reads on"));
    words_->setObjectName(QStringLiteral("set-up-words"));
    words_->setFont(font_of(Type::number, true));
    words_->setWordWrap(true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(drawing_, 1);
    column->addWidget(words_);
    auto* forms = new QHBoxLayout;
    forms->setSpacing(28);
    auto* corners = new QGridLayout;
    corners->setVerticalSpacing(6);
    corners->addWidget(new PlainLabel(tr("indicator, + is high, on the"), this), 0, 0);
    corners->addWidget(surface_, 0, 1);
    for (std::size_t i = 0; i < readings_.size(); ++i) {
        corner_names_[i] = new PlainLabel(this);
        readings_[i] = new QLineEdit(this);
        readings_[i]->setObjectName(QStringLiteral("set-up-reading-%1").arg(i + 1));
        readings_[i]->setFixedWidth(120);
        corners->addWidget(corner_names_[i], static_cast<int>(i) + 1, 0);
        corners->addWidget(readings_[i], static_cast<int>(i) + 1, 1);
        connect(readings_[i], &QLineEdit::textChanged, this, &SetUpPage::follow);
        connect(readings_[i], &QLineEdit::returnPressed, this, [this, i] {
            if (i + 1 < readings_.size())
                readings_[i + 1]->setFocus();
            else
                take();
        });
    }
    forms->addLayout(corners);
    auto* feet = new QGridLayout;
    feet->setVerticalSpacing(6);
    feet->addWidget(new PlainLabel(tr("foot, jack, screw"), this), 0, 0);
    feet->addWidget(new PlainLabel(tr("along"), this), 0, 1);
    feet->addWidget(new PlainLabel(tr("across"), this), 0, 2);
    for (std::size_t i = 0; i < foot_u_.size(); ++i) {
        const QString number = QString::number(i + 1);
        foot_names_[i] = new QLineEdit(tr("foot %1").arg(number), this);
        foot_u_[i] = new QLineEdit(this);
        foot_v_[i] = new QLineEdit(this);
        foot_names_[i]->setObjectName(QStringLiteral("foot-name-") + number);
        foot_u_[i]->setObjectName(QStringLiteral("foot-u-") + number);
        foot_v_[i]->setObjectName(QStringLiteral("foot-v-") + number);
        foot_u_[i]->setAccessibleName(tr("foot %1 along").arg(number));
        foot_v_[i]->setAccessibleName(tr("foot %1 across").arg(number));
        foot_u_[i]->setToolTip(tr("From the origin dowel, + to the rear; leave the third foot empty for two feet"));
        foot_v_[i]->setToolTip(tr("From the crankshaft's plane; the drawing shows which way"));
        int c = 0;
        for (QLineEdit* field : {foot_names_[i], foot_u_[i], foot_v_[i]}) {
            feet->addWidget(field, static_cast<int>(i) + 1, c++);
            connect(field, &QLineEdit::textChanged, this, &SetUpPage::follow);
        }
    }
    feet->addWidget(take_, 4, 0, 1, 3);
    forms->addLayout(feet);
    column->addLayout(forms);
    auto* stack = new QHBoxLayout;
    stack->addWidget(new PlainLabel(tr("stack for"), this));
    wanted_->setObjectName(QStringLiteral("stack-wanted"));
    wanted_->setFixedWidth(100);
    stack->addWidget(wanted_);
    stack->addWidget(new PlainLabel(tr("from"), this));
    pieces_->setObjectName(QStringLiteral("stack-pieces"));
    pieces_->setText(context_.preferences.stack_pieces());
    pieces_->setCursorPosition(0);
    pieces_->setToolTip(tr("Blocks and shims on hand, each once, in the bench's unit or with one: 25 mm 10 mm 2 thou"));
    stack->addWidget(pieces_, 1);
    column->addLayout(stack);
    stack_->setObjectName(QStringLiteral("stack-words"));
    column->addWidget(stack_);
    auto* datum = new QHBoxLayout;
    dowel_->setObjectName(QStringLiteral("dowel-words"));
    dowel_->setWordWrap(true);
    confirm_->setObjectName(QStringLiteral("confirm-dowel"));
    datum->addWidget(dowel_, 1);
    datum->addWidget(confirm_);
    column->addLayout(datum);
    column->addWidget(echo_);
    take_->setObjectName(QStringLiteral("keep-set-up"));
    connect(take_, &QPushButton::clicked, this, &SetUpPage::take);
    connect(surface_, &QComboBox::currentIndexChanged, this, &SetUpPage::follow);
    connect(wanted_, &QLineEdit::textChanged, this, &SetUpPage::fill_stack);
    connect(pieces_, &QLineEdit::textChanged, this, [this](const QString& text) {
        context_.preferences.set_stack_pieces(text);
        fill_stack();
    });
    connect(confirm_, &QPushButton::clicked, this,
            [this] { echo_->took(context_.session.take(block::StepDone{planning::datum_confirmed(bank_)})); });
}

void SetUpPage::take_focus() {
    readings_[0]->setFocus(Qt::ShortcutFocusReason);
}

void SetUpPage::show_bank(const std::string& bank_id) {
    const auto& state = context_.session.state();
    const auto& bank = *intake_of(state).blueprint->bank(bank_id);
    const auto places = block::deck_places(bank);
    const auto l = context_.lengths();
    for (std::size_t i = 0; i < places.size(); ++i) {
        corner_names_[i]->setText(qt(wording::corner_words(bank, places[i].rear, places[i].positive_v)));
        readings_[i]->setAccessibleName(corner_names_[i]->text());
    }
    // What was kept of this bank, or where feet usually stand.
    if (bank_ != bank_id || unit_ != context_.preferences.unit()) {
        bank_ = bank_id;
        unit_ = context_.preferences.unit();
        const std::array<QSignalBlocker, 4> quiet{QSignalBlocker(readings_[0]), QSignalBlocker(readings_[1]),
                                                  QSignalBlocker(readings_[2]), QSignalBlocker(readings_[3])};
        const auto kept = decks_of(state).set_ups.find(bank_id);
        const planning::DeckExtent e = planning::deck_extent(bank);
        std::vector<block::SetUpRead::Foot> feet{{"front left", {e.low.x + 30, e.low.y}},
                                                 {"front right", {e.low.x + 30, e.high.y}},
                                                 {"rear", {e.high.x - 30, 0}}};
        if (kept != decks_of(state).set_ups.end())
            feet = kept->second.payload.feet;
        for (std::size_t i = 0; i < readings_.size(); ++i) {
            readings_[i]->clear();
            if (kept != decks_of(state).set_ups.end())
                for (const auto& r : kept->second.payload.readings)
                    if (norm(r.place - places[i].place) < 1e-3)
                        readings_[i]->setText(qt(l.with_sign(r.height)));
        }
        for (std::size_t i = 0; i < foot_u_.size(); ++i) {
            foot_names_[i]->setText(i < feet.size() ? qt(feet[i].name) : QString());
            foot_u_[i]->setText(i < feet.size() ? qt(l.plain(feet[i].place.x)) : QString());
            foot_v_[i]->setText(i < feet.size() ? qt(l.with_sign(feet[i].place.y)) : QString());
        }
    }
    follow();
    fill_stack();
    fill_dowel();
}

std::optional<block::SetUpRead> SetUpPage::typed(bool& fine) {
    block::SetUpRead s{bank_, surface_->currentData().toString().toStdString(), {}, {}};
    const auto places = block::deck_places(*intake_of(context_.session.state()).blueprint->bank(bank_));
    const auto length = [&](const QLineEdit* field) -> std::optional<double> {
        if (field->text().trimmed().isEmpty())
            return std::nullopt;
        const auto mm = block::read_length(field->text().toStdString(), context_.preferences.unit());
        if (!mm) {
            fine = false;
            echo_->complain(field->accessibleName() + QStringLiteral(": ") + qt(mm.error()));
            return std::nullopt;
        }
        return *mm;
    };
    for (std::size_t i = 0; i < readings_.size(); ++i)
        if (const auto mm = length(readings_[i]))
            s.readings.push_back({places[i].place, *mm});
    for (std::size_t i = 0; i < foot_u_.size(); ++i)
        if (const auto u = length(foot_u_[i]), v = length(foot_v_[i]); u && v)
            s.feet.push_back({foot_names_[i]->text().trimmed().toStdString(), {*u, *v}});
    return s;
}

void SetUpPage::follow() {
    if (bank_.empty())
        return;
    bool fine = true;
    echo_->say(tr("Level until the corners agree within half a thou; after rolling the block confirm the datum on this "
                  "bank's dowel. Block clamped, hoist slack, no one under it."));
    const auto set_up = typed(fine);
    drawing_->show_set_up(bank_, *set_up);
    const auto correction = fine ? planning::correct_set_up(*set_up) : std::nullopt;
    QStringList words;
    if (correction)
        for (const std::string& s : wording::set_up_sentences(*correction, context_.lengths()))
            words << qt(s);
    else
        words << tr("Read at least three corners, and say where the feet stand.");
    words_->setText(words.join(QLatin1Char(' ')));
    take_->setEnabled(correction.has_value());
}

void SetUpPage::take() {
    bool fine = true;
    const auto set_up = typed(fine);
    if (fine && echo_->took(context_.session.take(*set_up)))
        echo_->say(tr("Kept."));
}

void SetUpPage::fill_stack() {
    const auto l = context_.lengths();
    const QString typed = wanted_->text().trimmed();
    if (typed.isEmpty())
        return stack_->clear();
    const auto wanted = block::read_length(typed.toStdString(), context_.preferences.unit());
    if (!wanted || *wanted < 0 || *wanted > 300)
        return stack_->setText(wanted ? tr("A stack from 0 to 300 mm.") : qt(wanted.error()));
    std::vector<double> pieces;
    // "25 mm 10 mm 2 thou": a number with the unit that follows it.
    static const QRegularExpression piece(QStringLiteral("([0-9.]+)\\s*(mm|in|thou|\"|t|µm)?"));
    auto found = piece.globalMatch(pieces_->text());
    while (found.hasNext()) {
        const auto match = found.next();
        const QString text =
            match.captured(1) + (match.captured(2).isEmpty() ? QString() : QLatin1Char(' ') + match.captured(2));
        if (const auto mm = block::read_length(text.toStdString(), context_.preferences.unit()); mm && *mm > 0)
            pieces.push_back(*mm);
    }
    const planning::Stack stack = planning::stack_for(*wanted, pieces);
    QStringList list;
    for (const double mm : stack.pieces)
        list << qt(l.plain(mm));
    stack_->setText(list.isEmpty() ? tr("Nothing on hand comes near it.")
                                   : tr("%1 = %2, off by %3")
                                         .arg(list.join(QStringLiteral(" + ")), qt(l.with_unit(stack.height)),
                                              qt(l.with_sign(stack.height - *wanted))));
}

void SetUpPage::fill_dowel() {
    const auto& state = context_.session.state();
    const auto& unconfirmed = context_.session.assessment().unconfirmed_banks;
    const std::string step = "datum confirmed on the dowel, bank " + bank_;
    const bool ticked = std::ranges::any_of(tunnel_of(state).steps, [&](const auto& s) { return s.second == step; });
    const auto positions =
        std::ranges::find(context_.session.assessment().positions, bank_, &planning::BankPositions::bank);
    QString text;
    if (positions != context_.session.assessment().positions.end() && positions->dowels)
        text = qt(wording::dowel_pair_sentence(*positions->dowels, context_.lengths()));
    else if (std::ranges::find(unconfirmed, bank_) != unconfirmed.end())
        text = tr("Measured after the block was rolled, and this bank's dowels were not probed.");
    else
        text = tr("After rolling: indicate this bank's dowel before its first cut.");
    dowel_->setText(ticked ? text + tr(" Confirmed.") : text);
    confirm_->setEnabled(!ticked);
}

} // namespace pallix::ui
