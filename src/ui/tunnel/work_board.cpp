// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/tunnel/work_board.h"

#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/tunnel/tunnel_work.h"
#include "ui/frame/choice.h"

#include "block/shorthand.h"
#include "ui/frame/echo.h"
#include "ui/frame/plain_label.h"
#include "ui/marks.h"
#include "wording/readings/readings.h"
#include "wording/tunnel/tunnel_words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QRegularExpression>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <map>

namespace pallix::ui {

using block::TunnelMethod;
using block::TunnelPassKind;

// ---- chart --------------------------------------------------------------------------------------------------------

StockChart::StockChart(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("stock-chart"), tr("stock left, main by main"), parent) {}

void StockChart::refresh() {
    const auto l = context_.lengths();
    QStringList words;
    for (const planning::StockLeft& s : context_.session.tunnel_work().board)
        words << tr("%1: %2 left")
                     .arg(qt(wording::place_of_reading(*intake_of(context_.session.state()).blueprint, s.at)),
                          qt(l.with_sign(s.left)));
    setAccessibleName(words.join(QStringLiteral(". ")));
    update();
}

void StockChart::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    const auto& board = context_.session.tunnel_work().board;
    painter.setFont(font_of(Type::text));
    painter.setPen(p.quiet);
    if (board.empty()) {
        painter.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap,
                         tr("No size of a main was read yet: Ctrl+R, three ways at both ends."));
        return;
    }
    double up = 0.004, down = 0.002; // mm
    std::map<int, std::vector<const planning::StockLeft*>> mains;
    for (const planning::StockLeft& s : board) {
        up = std::max({up, s.left, s.left - s.to_smallest});
        down = std::max({down, -s.left, s.to_largest - s.left});
        mains[s.at.feature.number].push_back(&s);
    }
    const QRectF room = QRectF(rect()).adjusted(92, 34, -16, -46);
    const double scale = room.height() / (up + down), zero = room.top() + up * scale;
    const auto l = context_.lengths();
    painter.setPen(QPen(p.accent, 1.6)); // the middle of the window
    painter.drawLine(QPointF(room.left() - 6, zero), QPointF(room.right(), zero));
    painter.setFont(font_of(Type::small));
    painter.drawText(QRectF(8, zero - 9, 76, 18), Qt::AlignRight | Qt::AlignVCenter, tr("aim"));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(8, room.top() - 26, 200, 18), Qt::AlignLeft, tr("stock left on diameter"));
    const double column = room.width() / static_cast<double>(mains.size());
    int i = 0;
    for (const auto& [number, places] : mains) {
        const double left = room.left() + column * i++ + 8, cell = (column - 16) / static_cast<double>(places.size());
        // The window: what is in size.
        const planning::StockLeft& any = *places.front();
        const double top = zero - (any.left - any.to_smallest) * scale,
                     bottom = zero + (any.to_largest - any.left) * scale;
        painter.setPen(Qt::NoPen);
        painter.setBrush(p.selected);
        painter.drawRect(QRectF(left, top, column - 16, bottom - top));
        double worst = 0;
        for (std::size_t k = 0; k < places.size(); ++k) {
            const planning::StockLeft& s = *places[k];
            const double y = zero - s.left * scale;
            const bool large = s.to_largest < 0, in_size = !large && s.to_smallest <= 0;
            const QColor colour = s.stale ? p.hairline : large ? p.fails : in_size ? p.meets : p.deck.iron_high;
            const QRectF bar(left + cell * static_cast<double>(k) + 1.5, std::min(y, zero), std::max(3.0, cell - 3),
                             std::max(2.0, std::abs(zero - y)));
            painter.setBrush(colour);
            painter.drawRect(bar);
            if (large) { // a shape of its own: crossed out
                painter.setPen(QPen(p.fails, 1.5));
                painter.drawLine(bar.topLeft(), bar.bottomRight());
                painter.setPen(Qt::NoPen);
            } else if (in_size && !s.stale) {
                painter.setBrush(p.panel);
                painter.drawEllipse(bar.center(), 2, 2);
            }
            worst = std::max(worst, s.left);
        }
        const bool stale = std::ranges::any_of(places, [](const auto* s) { return s->stale; });
        painter.setPen(p.ink);
        painter.setFont(font_of(Type::small, true));
        painter.drawText(QRectF(left - 8, room.bottom() + 6, column, 18), Qt::AlignCenter, tr("main %1").arg(number));
        painter.setFont(font_of(Type::small));
        painter.setPen(stale ? p.cannot_tell : p.ink);
        painter.drawText(QRectF(left - 8, room.bottom() + 23, column, 18), Qt::AlignCenter,
                         stale ? tr("measure again") : tr("%1 left").arg(qt(l.plain(worst))));
    }
    painter.setPen(p.quiet);
    painter.drawText(QRectF(width() - 420, room.top() - 26, 404, 18), Qt::AlignRight,
                     tr("front and rear · upright, 60° left, 60° right · shaded: in size"));
}

// ---- board --------------------------------------------------------------------------------------------------------

WorkBoard::WorkBoard(Context context, QWidget* parent)
    : QWidget(parent), context_(context), steps_(new QVBoxLayout), chart_(new StockChart(context, this)),
      words_(new PlainLabel(this)), kind_(new QComboBox(this)), strokes_(new QLineEdit(this)),
      protrusion_(new QLineEdit(this)), new_cutter_(new QCheckBox(tr("new cutter"), this)),
      log_(new QPushButton(tr("Log it"), this)), bar_(new PlainLabel(this)), bar_size_(new QLineEdit(this)),
      jacks_(new QLineEdit(this)), echo_(new Echo(context, QStringLiteral("board-echo"), this)) {
    kind_->setObjectName(QStringLiteral("pass-kind"));
    add_choice(kind_, TunnelPassKind::strokes, tr("hone strokes"));
    add_choice(kind_, TunnelPassKind::caps_only, tr("caps-only pass"));
    add_choice(kind_, TunnelPassKind::establishing, tr("establishing pass"));
    add_choice(kind_, TunnelPassKind::final_pass, tr("final pass"));
    strokes_->setObjectName(QStringLiteral("strokes"));
    strokes_->setPlaceholderText(tr("strokes"));
    strokes_->setFixedWidth(96);
    protrusion_->setObjectName(QStringLiteral("protrusion"));
    protrusion_->setPlaceholderText(tr("cutter out by"));
    protrusion_->setFixedWidth(120);
    bar_size_->setObjectName(QStringLiteral("bar-size"));
    bar_size_->setPlaceholderText(tr("bar diameter"));
    bar_size_->setFixedWidth(120);
    jacks_->setObjectName(QStringLiteral("jacks"));
    jacks_->setPlaceholderText(tr("jacks at x, x"));
    jacks_->setToolTip(
        tr("Where jacks and screws stand along the block: after a bar sweep at both end mains it says how much "
           "to move which"));
    jacks_->setFixedWidth(110);
    log_->setObjectName(QStringLiteral("log-tunnel-pass"));
    words_->setWordWrap(true);
    words_->setObjectName(QStringLiteral("board-words"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(chart_, 1);
    column->addWidget(words_);
    auto* row = new QHBoxLayout;
    row->addWidget(kind_);
    row->addWidget(strokes_);
    row->addWidget(protrusion_);
    row->addWidget(bar_size_);
    row->addWidget(bar_);
    row->addWidget(jacks_);
    row->addWidget(new_cutter_);
    row->addStretch();
    row->addWidget(log_);
    column->addLayout(row);
    column->addWidget(echo_);
    steps_->setSpacing(2);
    column->addLayout(steps_);
    const auto by_kind = [this] {
        const bool hone = choice_in<TunnelPassKind>(kind_) == TunnelPassKind::strokes;
        strokes_->setVisible(hone);
        for (QWidget* w : std::initializer_list<QWidget*>{protrusion_, bar_size_, bar_, jacks_, new_cutter_})
            w->setVisible(!hone);
    };
    connect(kind_, &QComboBox::currentIndexChanged, this, by_kind);
    connect(log_, &QPushButton::clicked, this, &WorkBoard::log_pass);
    connect(strokes_, &QLineEdit::returnPressed, this, &WorkBoard::log_pass);
    connect(protrusion_, &QLineEdit::returnPressed, this, &WorkBoard::log_pass);
    connect(bar_size_, &QLineEdit::textChanged, this, [this](const QString& text) {
        const auto bar = block::read_length(text.toStdString(), context_.preferences.unit());
        const auto& work = context_.session.tunnel_work();
        if (!bar || work.board.empty())
            return bar_->clear();
        const double wanted = work.board.front().size + work.board.front().left;
        bar_->setText(tr("→ set %1").arg(qt(context_.lengths().with_unit(planning::cutter_protrusion(wanted, *bar)))));
    });
    connect(jacks_, &QLineEdit::editingFinished, this, &WorkBoard::refresh);
    by_kind();
}

void WorkBoard::refresh() {
    const auto& work = context_.session.tunnel_work();
    const auto& state = context_.session.state();
    const auto l = context_.lengths();
    chart_->refresh();
    QStringList words;
    for (const std::string& sentence : wording::prediction_sentences(*intake_of(state).blueprint, work.predictions, l))
        words << qt(sentence);
    if (words.isEmpty() && std::ranges::any_of(work.predictions, [](const auto& p) { return p.after.has_value(); }))
        words << tr("Before less cut is what was found after it.");
    if (work.dwell)
        words << tr("Most stock: %1, %2.")
                     .arg(qt(wording::place_of_reading(*intake_of(state).blueprint, work.dwell->at)),
                          qt(l.with_unit(std::max(0.0, work.dwell->left))));
    if (work.forecast)
        words << tr("The last %1 strokes took %2; about %3 strokes more to the aim.")
                     .arg(work.forecast->strokes)
                     .arg(qt(l.with_unit(work.forecast->strokes * work.forecast->per_stroke)))
                     .arg(work.forecast->strokes_left, 0, 'f', 0);
    std::vector<double> stations;
    for (const QString& word : jacks_->text().split(QRegularExpression(QStringLiteral("[\\s;]+")), Qt::SkipEmptyParts))
        if (const auto mm = block::read_length(word.toStdString(), context_.preferences.unit()))
            stations.push_back(*mm);
    for (const std::string& sentence : wording::jack_sentences(
             planning::jack_moves(*intake_of(state).blueprint, context_.session.assessment().gauge.sweeps, stations),
             l))
        words << qt(sentence);
    if (work.next_protrusion)
        words << tr("Next setting of the cutter: %1.").arg(qt(l.with_unit(*work.next_protrusion)));
    words_->setText(words.join(QLatin1Char(' ')));
    const bool boring = work.method == TunnelMethod::bore;
    if (!strokes_->hasFocus() && !protrusion_->hasFocus())
        set_choice(kind_, !boring                                  ? TunnelPassKind::strokes
                          : tunnel_of(state).tunnel_passes.empty() ? TunnelPassKind::caps_only
                          : work.establishing_due                  ? TunnelPassKind::establishing
                                                                   : TunnelPassKind::final_pass);
    fill_steps();
}

void WorkBoard::fill_steps() {
    while (QLayoutItem* item = steps_->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    const auto& state = context_.session.state();
    for (const std::string& step : planning::cap_steps()) {
        auto* box = new QCheckBox(qt(step), this);
        box->setFont(font_of(Type::small));
        const bool done = std::ranges::any_of(tunnel_of(state).steps, [&](const auto& s) { return s.second == step; });
        box->setChecked(done);
        box->setEnabled(!done);
        connect(
            box, &QCheckBox::clicked, this, [this, step] { echo_->took(context_.session.take(block::StepDone{step})); },
            Qt::QueuedConnection); // the boxes are made anew
        steps_->addWidget(box);
    }
}

void WorkBoard::log_pass() {
    block::TunnelPass pass;
    pass.kind = choice_in<TunnelPassKind>(kind_);
    if (pass.kind == TunnelPassKind::strokes) {
        bool sound = false;
        pass.strokes = strokes_->text().trimmed().toInt(&sound);
        if (!sound)
            return echo_->complain(tr("“%1” is no number of strokes.").arg(strokes_->text()));
    } else if (!protrusion_->text().trimmed().isEmpty()) {
        const auto mm = block::read_length(protrusion_->text().toStdString(), context_.preferences.unit());
        if (!mm)
            return echo_->complain(qt(mm.error()));
        pass.protrusion = *mm;
    }
    pass.new_cutter = pass.kind != TunnelPassKind::strokes && new_cutter_->isChecked();
    if (!echo_->took(context_.session.take(pass)))
        return;
    strokes_->clear();
    protrusion_->clear();
    new_cutter_->setChecked(false);
    echo_->say(tr("Logged. Sizes from before it hold no longer."));
}

void WorkBoard::take_focus() {
    (choice_in<TunnelPassKind>(kind_) == TunnelPassKind::strokes ? strokes_ : protrusion_)
        ->setFocus(Qt::ShortcutFocusReason);
}

} // namespace pallix::ui
