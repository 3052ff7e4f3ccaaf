// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/practice_strip.h"

#include "block/state/card_state.h"
#include "ui/frame/plain_label.h"
#include "ui/frame/spoken.h"
#include "wording/practice/practice_words.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QPushButton>

namespace pallix::ui {

PracticeStrip::PracticeStrip(Context context, QWidget* parent)
    : QWidget(parent), context_(context), mark_(new PlainLabel(tr("Practice"), this)), words_(new PlainLabel(this)),
      take_(new QPushButton(tr("Take the reading"), this)), ring_(new QPushButton(tr("Ring"), this)),
      truth_(new QPushButton(this)) {
    setObjectName(QStringLiteral("practice-strip"));
    words_->setObjectName(QStringLiteral("practice-words"));
    set_announced(words_);
    set_type(mark_, Type::number, true);
    set_type(words_, Type::text);
    words_->setWordWrap(true);
    words_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    take_->setObjectName(QStringLiteral("practice-take"));
    take_->setToolTip(tr("The gauge reads what is asked for, or the machine probes (Ctrl+Space)"));
    ring_->setObjectName(QStringLiteral("practice-ring"));
    ring_->setToolTip(tr("Hold the gauge against its ring: its zero is right then (Ctrl+Alt+R)"));
    truth_->setObjectName(QStringLiteral("practice-truth"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(24, 6, 12, 6);
    row->setSpacing(12);
    row->addWidget(mark_);
    row->addWidget(words_, 1);
    for (QPushButton* button : {take_, ring_, truth_})
        row->addWidget(button);
    connect(take_, &QPushButton::clicked, this, &PracticeStrip::reading_wanted);
    connect(ring_, &QPushButton::clicked, this, &PracticeStrip::ring_wanted);
    connect(truth_, &QPushButton::clicked, this, &PracticeStrip::truth_wanted);
    connect(&context_.practice, &session::PracticeWork::changed, this, [this] {
        said_.clear();
        refresh();
    });
    connect(&context_.preferences, &session::Preferences::coach_changed, this, &PracticeStrip::refresh);
}

void PracticeStrip::say(const QString& words) {
    said_ = words;
    refresh();
}

/// What is said by whoever stands beside the bench: the gravest of the remarks, else what the reading means, else what
/// is asked.
QString PracticeStrip::coached() const {
    const block::JobState& state = context_.session.state();
    const auto depth = context_.preferences.coach();
    QStringList said;
    if (context_.practice.metal_was_struck())
        return tr("Struck from the ledger. On this block, as on any, the metal stays off.");
    if (depth != planning::CoachDepth::silent)
        for (const planning::Remark& remark : context_.practice.remarks())
            said << qt(wording::remark_words(state, remark, context_.lengths()));
    if (said.isEmpty() && depth == planning::CoachDepth::explains && context_.practice.last_reading())
        said << qt(wording::reading_meaning(state, context_.session.assessment(), *context_.practice.last_reading(),
                                            context_.lengths()));
    return said.mid(0, 2).join(QLatin1Char(' '));
}

void PracticeStrip::refresh() {
    setVisible(context_.practice.is_practice());
    if (!context_.practice.is_practice())
        return;
    const auto& card = card_of(context_.session.state());
    const bool running = context_.practice.running();
    for (QPushButton* button : {take_, ring_})
        button->setVisible(running);
    truth_->setText(running ? tr("Open the truth…") : tr("The reckoning"));
    truth_->setToolTip(running ? tr("How the block really is; it ends the exercise (Ctrl+Alt+U)")
                               : tr("What came of it (Ctrl+Alt+U)"));
    QString words = said_;
    if (words.isEmpty())
        words = running ? coached() : QString();
    if (words.isEmpty())
        words = running ? tr("%1 %2").arg(qt(card.practice->payload.story), qt(card.practice->payload.wanted))
                        : tr("The truth is open: %1 of 100.").arg(card.truth_opened->payload.score, 0, 'f', 0);
    words_->setText(words);
    update();
}

/// A hatched edge: no work of the shop has one.
void PracticeStrip::paintEvent(QPaintEvent*) {
    const Palette& p = context_.palette();
    QPainter painter(this);
    painter.fillRect(rect(), p.panel);
    painter.fillRect(QRect(0, 0, width(), 1), p.hairline);
    painter.fillRect(QRect(0, 0, scaled(14), height()), QBrush(p.ink, Qt::BDiagPattern));
}

} // namespace pallix::ui
