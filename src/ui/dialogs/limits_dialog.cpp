// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/limits_dialog.h"

#include "block/state/intake_state.h"
#include "ui/frame/figure_line.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace pallix::ui {

LimitsDialog::LimitsDialog(Context context, QWidget* parent)
    : QDialog(parent), context_(context), sentence_(new FigureLine(context, wording::FiguresOf::limits, this)),
      keep_(new QPushButton(this)) {
    set_explained(this, QStringLiteral("certainty-verdict"));
    setWindowTitle(tr("Limits of this job"));
    resize(760, 300);
    auto* words = new PlainLabel(this);
    words->setText(tr("The blueprint's own limits go before these. A change has its reason and stands in the ledger; "
                      "what was measured is judged anew by it."));
    words->setWordWrap(true);
    auto* fault = new PlainLabel(this);
    fault->setWordWrap(true);
    auto* close = new QPushButton(tr("Close"), this);
    keep_->setObjectName(QStringLiteral("keep-limits"));
    for (QPushButton* button : {keep_, close})
        button->setAutoDefault(false);
    auto* foot = new QHBoxLayout;
    foot->addWidget(keep_);
    foot->addStretch();
    foot->addWidget(close);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 24, 24, 16);
    column->setSpacing(16);
    column->addWidget(words);
    column->addWidget(sentence_);
    column->addStretch();
    column->addWidget(fault);
    column->addLayout(foot);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    connect(keep_, &QPushButton::clicked, this, [this, fault] {
        const auto kept = context_.session.keep_limits_for_shop();
        fault->setText(kept ? QString() : qt(kept.error().front().text()));
        refresh();
    });
    connect(&context_.session, &session::Session::entries_added, this, &LimitsDialog::refresh);
    refresh();
    sentence_->setFocus();
}

void LimitsDialog::refresh() {
    sentence_->refresh();
    const bool same = context_.session.limits_are_the_shops();
    keep_->setText(same ? tr("They are those of the shop") : tr("&Keep them for the shop"));
    keep_->setEnabled(intake_of(context_.session.state()).limits && !same);
}

} // namespace pallix::ui
