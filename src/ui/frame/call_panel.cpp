// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/call_panel.h"

#include "block/job_state.h"
#include "planning/assessment.h"
#include "planning/tunnel_work.h"
#include "wording/cylinder_words.h"
#include "wording/lifter_words.h"
#include "wording/sentences.h"
#include "wording/tunnel_words.h"

#include <QLabel>
#include <QPainter>
#include <QVBoxLayout>

namespace pallix::ui {

CallPanel::CallPanel(Context context, QWidget* parent)
    : QWidget(parent), context_(context), headline_(new QLabel(this)), number_(new QLabel(this)),
      reasons_(new QLabel(this)), caution_(new QLabel(this)) {
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
        label->setTextFormat(Qt::PlainText);
        column->addWidget(label);
        if (label == reasons_)
            column->addStretch();
    }
    headline_->setAccessibleName(tr("what to do now"));
    refresh();
}

namespace {

wording::CallText text_of(const Context& context, CallAbout about) {
    const auto& session = context.session;
    const auto l = context.lengths();
    if (!session.has_job())
        return {"Choose a job",
                "",
                {"Enter opens the one that is marked.", "A new block starts from its blueprint: Job, New job."},
                ""};
    const auto& a = session.assessment();
    if (!session.state().blueprint || !session.state().troubles.empty())
        about = CallAbout::job; // before that is put right, no page has a call of its own
    switch (about) {
    case CallAbout::tunnel:
        return wording::tunnel_call(session.state(), session.tunnel_work(), l);
    case CallAbout::cylinders:
        return wording::cylinder_call(session.state(), a.cylinders ? &*a.cylinders : nullptr, l);
    case CallAbout::lifters:
        return wording::lifter_call(session.state(), a.lifters ? &*a.lifters : nullptr, l);
    case CallAbout::job:
        break;
    }
    return wording::call_text(session.state(), a, l);
}

} // namespace

void CallPanel::refresh(CallAbout about) {
    const wording::CallText call = text_of(context_, about);
    headline_->setText(qt(call.headline));
    number_->setText(qt(call.number));
    number_->setVisible(!call.number.empty());
    QStringList lines;
    for (const std::string& reason : call.reasons)
        lines << qt(reason);
    reasons_->setText(lines.join(QStringLiteral("\n\n")));
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
