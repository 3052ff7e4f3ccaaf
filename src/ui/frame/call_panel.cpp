// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/call_panel.h"

#include "planning/common/assessment.h"
#include "ui/dialogs/fault_list.h"
#include "ui/frame/plain_label.h"
#include "wording/steps/step_words.h"

#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace pallix::ui {

CallPanel::CallPanel(Context context, QWidget* parent)
    : QWidget(parent), context_(context), headline_(new PlainLabel(this)), number_(new PlainLabel(this)),
      reasons_(new PlainLabel(this)), caution_(new PlainLabel(this)), answer_(new QPushButton(this)) {
    setFixedWidth(296);
    setObjectName(QStringLiteral("call"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 24, 20, 16);
    column->setSpacing(12);
    headline_->setFont(font_of(Type::call, true));
    number_->setFont(font_of(Type::dial, true));
    reasons_->setFont(font_of(Type::text));
    caution_->setFont(font_of(Type::small));
    headline_->setObjectName(QStringLiteral("call-headline"));
    number_->setObjectName(QStringLiteral("call-number"));
    reasons_->setObjectName(QStringLiteral("call-reasons"));
    caution_->setObjectName(QStringLiteral("call-caution"));
    for (QLabel* label : {headline_, number_, reasons_, caution_}) {
        label->setWordWrap(label != number_);
        column->addWidget(label);
        if (label == reasons_) {
            column->addWidget(answer_);
            column->addStretch();
        }
    }
    headline_->setAccessibleName(tr("what to do now"));
    answer_->setObjectName(QStringLiteral("call-answer"));
    connect(answer_, &QPushButton::clicked, this, [this] {
        const planning::Step* now = context_.session.assessment().steps.now();
        if (!now)
            return;
        if (const auto taken = context_.session.answer(now->id, planning::proposed(*now)); !taken)
            show_faults(taken.error(), context_, this);
    });
    refresh(Place::shop);
}

namespace {

/// Where a step is answered in this window: its page and its keys.
QString keys_for(const planning::Step& step, Place here) {
    using enum planning::Task;
    switch (step.task) {
    case mend_ledger:
        return CallPanel::tr("The ledger: Ctrl+L.");
    case take_log:
    case probe:
    case prove_lifters:
        return CallPanel::tr("Drop the .csv on this window, or Ctrl+I.");
    case state_caps:
    case torque_caps:
    case put_plate_on:
        return CallPanel::tr("Conditions: Ctrl+J.");
    case finish_tunnel:
        return CallPanel::tr("Tunnel done: Ctrl+Shift+T.");
    default:
        break;
    }
    Place page = Place::tunnel;
    QString name = CallPanel::tr("On the page Tunnel (F3)");
    switch (step.stage) {
    case planning::Stage::tunnel:
        break;
    case planning::Stage::decks:
    case planning::Stage::mock_up:
        page = Place::decks;
        name = CallPanel::tr("On the page Decks (F4)");
        break;
    case planning::Stage::cylinders:
        page = Place::cylinders;
        name = CallPanel::tr("On the page Cylinders (F6)");
        break;
    case planning::Stage::lifters:
        page = Place::lifters;
        name = CallPanel::tr("On the page Lifters (F7)");
        break;
    case planning::Stage::passport:
        return here == Place::passport ? QString() : CallPanel::tr("Passport: F5.");
    default:
        return {};
    }
    const bool line = step.task == read || step.task == settle || step.task == feel;
    if (here == page)
        return line ? CallPanel::tr("In the line below (Ctrl+R).") : QString();
    return name + (line ? CallPanel::tr(", in the line below (Ctrl+R).") : QStringLiteral("."));
}

wording::CallText text_of(const Context& context, Place here) {
    const auto& session = context.session;
    if (!session.has_job())
        return {"Choose a job",
                "",
                {"Enter opens the one that is marked.", "A new block starts from its blueprint: Job, New job."},
                ""};
    wording::CallText call = wording::call_text(session.state(), session.assessment(), context.lengths());
    if (const planning::Step* now = session.assessment().steps.now())
        if (const QString keys = keys_for(*now, here); !keys.isEmpty())
            call.reasons.push_back(keys.toStdString());
    return call;
}

} // namespace

void CallPanel::refresh(Place here) {
    const wording::CallText call = text_of(context_, here);
    headline_->setText(qt(call.headline));
    number_->setText(qt(call.number));
    number_->setVisible(!call.number.empty());
    QStringList lines;
    for (const std::string& reason : call.reasons)
        lines << qt(reason);
    reasons_->setText(lines.join(QStringLiteral("\n\n")));
    const planning::Step* now = context_.session.has_job() ? context_.session.assessment().steps.now() : nullptr;
    const QString done = now ? qt(wording::answer_name(*now)) : QString();
    answer_->setText(done);
    answer_->setVisible(!done.isEmpty());
    caution_->setText(qt(call.caution));
    caution_->setVisible(!call.caution.empty());
    const auto tint = [](QLabel* label, const QColor& colour) {
        QPalette p = label->palette();
        p.setColor(QPalette::WindowText, colour);
        label->setPalette(p);
    };
    tint(headline_, context_.palette().ink);
    tint(number_, context_.palette().accent);
    tint(reasons_, context_.palette().ink);
    tint(caution_, context_.palette().quiet);
    update();
}

void CallPanel::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    const Palette& p = context_.palette();
    painter.fillRect(rect(), p.panel);
    painter.fillRect(QRect(0, 0, 1, height()), p.hairline);
    if (caution_->isVisible()) {
        const QRect box = caution_->geometry();
        painter.fillRect(QRect(box.left() - 12, box.top() - 4, 3, box.height() + 8), p.cannot_tell);
    }
}

} // namespace pallix::ui
