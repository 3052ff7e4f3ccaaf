// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/school_dialog.h"

#include "session/counted.h"
#include "ui/dialogs/school_drawing.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace pallix::ui {

namespace {

constexpr std::size_t blocks = 10; // enough to see how far it spreads

} // namespace

SchoolDialog::SchoolDialog(Context context, workshop::Exercise copy, QWidget* parent)
    : QDialog(parent), context_(context), copy_(std::move(copy)),
      work_(context.session.entries(), workshop::schools_of(context.session.state()), blocks),
      drawing_(new SchoolDrawing(context, work_, this)), told_(new PlainLabel(this)), plan_(new QPushButton(this)) {
    set_explained(this, QStringLiteral("page-shop-practice"));
    setWindowTitle(tr("Other ways of planning this job"));
    setMinimumSize(920, 620);
    auto* words = new PlainLabel(
        tr("%1 Somebody who follows the calls works on each of ten such blocks, by every way. "
           "A ring is a block, the bar their middle; lengths in %2.")
            .arg(qt(copy_.told.story), context_.lengths().unit() == block::Unit::inch ? tr("inches") : tr("mm")),
        this);
    for (QLabel* label : {static_cast<QLabel*>(words), told_}) {
        label->setWordWrap(true);
        set_type(label, Type::text);
    }
    told_->setObjectName(QStringLiteral("schools-told"));
    set_announced(told_);
    auto* practise = new QPushButton(tr("&Work on a copy so"), this);
    practise->setObjectName(QStringLiteral("schools-copy"));
    auto* close = new QPushButton(tr("Close"), this);
    plan_->setText(tr("&Plan the job so"));
    plan_->setObjectName(QStringLiteral("schools-plan"));
    plan_->setDefault(true);
    auto* end = new QHBoxLayout;
    end->addWidget(told_, 1);
    for (QPushButton* button : {plan_, practise, close})
        end->addWidget(button);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 20, 20, 14);
    column->setSpacing(12);
    column->addWidget(words);
    column->addWidget(drawing_, 1);
    column->addLayout(end);
    connect(plan_, &QPushButton::clicked, this, &SchoolDialog::plan_so);
    connect(practise, &QPushButton::clicked, this, &SchoolDialog::work_on_copy);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(drawing_, &SchoolDrawing::chosen_changed, this, &SchoolDialog::tell);
    connect(&work_, &session::SchoolWork::came, this, &SchoolDialog::tell);
    connect(&work_, &session::SchoolWork::failed, told_, &QLabel::setText);
    drawing_->setFocus();
    tell();
    work_.start();
}

const workshop::School& SchoolDialog::chosen() const {
    return work_.schools()[drawing_->chosen()];
}

void SchoolDialog::tell() {
    plan_->setEnabled(!chosen().plans.empty());
    told_->setText(work_.done() ? tr("Tried on %1.").arg(session::counted(blocks, tr("block"), tr("blocks")))
                                : tr("%1 of %2 blocks tried by every way…").arg(work_.blocks()).arg(work_.times()));
}

void SchoolDialog::plan_so() {
    if (const auto taken = context_.session.take_all(chosen().plans); !taken)
        return told_->setText(qt(taken.error().front().text()));
    accept();
}

void SchoolDialog::work_on_copy() {
    wanted_ = copy_;
    wanted_->plans.insert(wanted_->plans.end(), chosen().plans.begin(), chosen().plans.end());
    accept();
}

} // namespace pallix::ui
