// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/pass_form.h"

#include "block/state/deck_state.h"
#include "planning/common/assessment.h"
#include "session/counted.h"
#include "ui/frame/choice.h"

#include "block/shorthand.h"
#include "ui/frame/echo.h"
#include "ui/frame/plain_label.h"
#include "wording/common/sentences.h"
#include "wording/decks/deck_words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

namespace pallix::ui {

using block::PassKind;

PassTrack::PassTrack(Context context, QWidget* parent) : QWidget(parent), context_(context) {}

void PassTrack::set_bank(const std::string& bank) {
    bank_ = bank;
    update();
}

void PassTrack::paintEvent(QPaintEvent*) {
    const auto* progress = context_.session.assessment().bank(bank_);
    if (!progress)
        return;
    const Palette& p = context_.palette();
    const auto& cuts = decks_of(context_.session.state()).deck(bank_).cuts;
    double whole = 0;
    for (const auto& taken : cuts)
        whole += taken.cut.depth;
    for (const auto& pass : progress->passes)
        whole += pass.depth;
    whole = std::max({whole, progress->plan.cut, 1e-3});
    QPainter painter(this);
    const QRectF rail(0, 4, width() - 1.0, 22);
    double x = rail.left();
    const auto segment = [&](double depth, bool taken) {
        const double w = rail.width() * depth / whole;
        const QRectF r(x, rail.top(), w, rail.height());
        painter.setPen(QPen(p.deck.edge, 1));
        painter.setBrush(taken ? p.deck.bright : QColor(Qt::transparent));
        if (depth > 0)
            painter.drawRect(r);
        if (taken && depth > 0)
            painter.fillRect(r.adjusted(1, rail.height() - 5, 0, 0), p.accent);
        if (w > 42) {
            painter.setPen(taken ? QColor(0x1E, 0x25, 0x2B) : p.ink);
            painter.setFont(font_of(Type::small));
            painter.drawText(r.adjusted(0, -1, 0, taken ? -5 : -1), Qt::AlignCenter,
                             qt(context_.lengths().plain(depth)));
        }
        x += w;
    };
    for (const auto& taken : cuts)
        segment(taken.cut.depth, true);
    for (const auto& pass : progress->passes)
        segment(pass.depth, false);
    // Where the plan ends.
    const double end = rail.left() + rail.width() * progress->plan.cut / whole;
    painter.setPen(QPen(p.ink, 2));
    painter.drawLine(QPointF(end, rail.top() - 3), QPointF(end, rail.bottom() + 4));
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(0, rail.bottom() + 4, width(), 18), Qt::AlignLeft | Qt::AlignVCenter, tr("first touch"));
    painter.drawText(QRectF(0, rail.bottom() + 4, width(), 18), Qt::AlignRight | Qt::AlignVCenter,
                     tr("plan %1").arg(qt(context_.lengths().with_unit(progress->plan.cut))));
}

PassForm::PassForm(Context context, QWidget* parent)
    : QWidget(parent), context_(context), track_(new PassTrack(context, this)), sum_(new PlainLabel(this)),
      kind_(new QComboBox(this)), depth_(new QLineEdit(this)), clean_(new QCheckBox(tr("touched everywhere"), this)),
      rest_(new QCheckBox(tr("the rest is bright"), this)), finish_(new QComboBox(this)), ra_(new QLineEdit(this)),
      log_(new QPushButton(tr("Log the pass"), this)), echo_(new Echo(context, QStringLiteral("pass-echo"), this)) {
    sum_->setFont(font_of(Type::text, true));
    sum_->setObjectName(QStringLiteral("depth-sum"));
    for (const PassKind kind : {PassKind::witness, PassKind::pass, PassKind::finish, PassKind::spring})
        add_choice(kind_, kind, qt(wording::pass_name(kind)));
    kind_->setAccessibleName(tr("kind of pass"));
    kind_->setObjectName(QStringLiteral("pass-kind"));
    depth_->setObjectName(QStringLiteral("pass-depth"));
    depth_->setAccessibleName(tr("depth of the pass"));
    depth_->setToolTip(tr("Infeed since the pass before: 2 thou, 0.05 mm (Ctrl+K goes here)"));
    depth_->setFixedWidth(120);
    clean_->setObjectName(QStringLiteral("pass-clean"));
    rest_->setObjectName(QStringLiteral("pass-rest"));
    rest_->setToolTip(tr("All that stayed dark is painted: then the map learns from the bright places too"));
    finish_->setObjectName(QStringLiteral("pass-finish"));
    finish_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    finish_->setMinimumContentsLength(7);
    finish_->setAccessibleName(tr("how the cutter left it"));
    for (const auto state : {block::CutterState::sharp, block::CutterState::dull, block::CutterState::chatter})
        add_choice(finish_, state, qt(wording::cutter_state_name(state)).remove(tr("cutter ")));
    finish_->setToolTip(tr("How the surface came out: a dull cutter or chatter is noted with the pass"));
    log_->setObjectName(QStringLiteral("log-pass"));
    log_->setToolTip(tr("Ctrl+Return logs it; Ctrl+Z strikes it again"));
    echo_->setMinimumHeight(34);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(sum_);
    column->addWidget(track_);
    auto* row = new QHBoxLayout;
    row->addWidget(kind_, 1);
    row->addWidget(depth_);
    column->addLayout(row);
    auto* second = new QHBoxLayout;
    second->addWidget(clean_);
    second->addWidget(rest_);
    second->addStretch();
    column->addLayout(second);
    auto* third = new QHBoxLayout;
    third->addWidget(finish_, 1);
    third->addWidget(ra_);
    ra_->setObjectName(QStringLiteral("pass-ra"));
    ra_->setAccessibleName(tr("Ra measured, µm"));
    ra_->setPlaceholderText(tr("Ra"));
    ra_->setToolTip(tr("Roughness as measured after the pass; Enter keeps it by itself"));
    ra_->setFixedWidth(64);
    connect(ra_, &QLineEdit::returnPressed, this, &PassForm::log_finish);
    third->addWidget(log_);
    column->addLayout(third);
    column->addWidget(echo_);
    column->addStretch();
    connect(depth_, &QLineEdit::textChanged, this, &PassForm::echo);
    connect(depth_, &QLineEdit::returnPressed, this, &PassForm::log);
    connect(kind_, &QComboBox::currentIndexChanged, this, [this](int kind) {
        const bool spring = static_cast<PassKind>(kind) == PassKind::spring;
        depth_->setEnabled(!spring);
        if (spring)
            depth_->clear();
        echo();
    });
    connect(log_, &QPushButton::clicked, this, &PassForm::log);
}

void PassForm::take_focus() {
    depth_->setFocus(Qt::ShortcutFocusReason);
    depth_->selectAll();
}

void PassForm::set_bank(const std::string& bank) {
    bank_ = bank;
    track_->set_bank(bank);
    const auto* progress = context_.session.assessment().bank(bank);
    const auto* feel = context_.session.assessment().feel(bank);
    setEnabled(progress || feel);
    const auto lengths = context_.lengths();
    if (!progress && feel) {
        sum_->setText(tr("%1 taken, by straightedge").arg(qt(lengths.with_unit(feel->taken))));
        set_choice(kind_, feel->next.kind);
        depth_->setText(qt(lengths.with_unit(feel->next.depth)));
        clean_->setChecked(false);
        echo();
    }
    if (!progress)
        return;
    const QString rest = progress->passes.empty() && !progress->stale ? tr("nothing more to cut")
                         : progress->remaining >= -5e-4
                             ? tr("%1 to go").arg(qt(lengths.with_unit(std::max(0.0, progress->remaining))))
                             : tr("%1 below plan").arg(qt(lengths.with_unit(-progress->remaining)));
    sum_->setText(tr("%1 taken, %2").arg(qt(lengths.with_unit(progress->taken)), rest));
    const planning::Pass next =
        progress->passes.empty() ? planning::Pass{PassKind::finish, 0} : progress->passes.front();
    set_choice(kind_, next.kind);
    depth_->setText(next.depth > 0 ? qt(lengths.with_unit(next.depth)) : QString());
    clean_->setChecked(false);
    echo();
}

void PassForm::set_dark(const std::vector<metrology::Vec2>& dark, double brush) {
    dark_ = dark;
    brush_ = brush;
    rest_->setVisible(!dark.empty());
    clean_->setVisible(dark.empty());
    clean_->setEnabled(dark.empty());
    if (!dark.empty())
        clean_->setChecked(false);
    echo();
}

void PassForm::echo() {
    if (dark_.empty())
        echo_->say(tr("Paint what stayed dark on the deck."));
    else
        echo_->say(tr("Painted dark with %1 of the brush.")
                       .arg(session::counted(static_cast<qsizetype>(dark_.size()), tr("dab"), tr("dabs"))));
    if (depth_->text().trimmed().isEmpty())
        return;
    const auto mm = block::read_length(depth_->text().toStdString(), context_.preferences.unit());
    if (!mm)
        echo_->complain(qt(mm.error()));
}

void PassForm::log_finish() {
    bool fine = true;
    const auto um = echo_->number_in(ra_, fine);
    if (!fine || !um)
        return;
    const auto left = choice_in<block::CutterState>(finish_);
    if (echo_->took(context_.session.take(block::FinishNoted{bank_, left, *um / 1000, ""})))
        ra_->clear();
}

void PassForm::log() {
    const auto kind = choice_in<PassKind>(kind_);
    double depth = 0;
    if (kind != PassKind::spring) {
        const auto mm = block::read_length(depth_->text().toStdString(), context_.preferences.unit());
        if (!mm || !(*mm > 0)) {
            echo_->complain(mm ? tr("The depth must be greater than 0; a pass without infeed is a spring pass.")
                               : tr("The depth: %1.").arg(qt(mm.error())));
            depth_->setFocus();
            return;
        }
        depth = *mm;
    }
    const bool clean = clean_->isChecked() && dark_.empty();
    const block::DeckCut cut{bank_, kind, depth, clean, dark_, brush_, rest_->isChecked() && !dark_.empty()};
    const auto left = choice_in<block::CutterState>(finish_);
    std::vector<block::Payload> pass{cut};
    if (left != block::CutterState::sharp)
        pass.emplace_back(block::FinishNoted{bank_, left, {}, ""});
    if (!echo_->took(context_.session.take_all(std::move(pass))))
        return;
    set_choice(finish_, block::CutterState::sharp);
    Q_EMIT logged();
}

} // namespace pallix::ui
