// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/measuring_dialogs.h"

#include "block/ledger.h"
#include "block/state/intake_state.h"
#include "planning/readings/reading_plan.h"
#include "ui/dialogs/dialog_end.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"
#include "wording/readings/readings.h"

#include <QHBoxLayout>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {
// ---- reading plan -------------------------------------------------------------------------------------------------

ReadingPlanDialog::ReadingPlanDialog(Context context, planning::Measuring what, const std::string& bank,
                                     QWidget* parent)
    : QDialog(parent), context_(context), what_(what), bank_(bank), list_(new QListWidget(this)),
      echo_(new PlainLabel(this)) {
    set_explained(this, QStringLiteral("reading-line"));
    setWindowTitle(tr("Reading plan: %1").arg(qt(wording::measuring_name(what))));
    resize(520, 520);
    list_->setObjectName(QStringLiteral("plan-places"));
    list_->setAccessibleName(tr("places in their order; Space leaves one out"));
    auto* up = new QPushButton(tr("&Up"), this);
    auto* down = new QPushButton(tr("&Down"), this);
    auto* usual = new QPushButton(tr("As &usual"), this);
    auto* all = new QPushButton(tr("&All of them"), this);
    all->setObjectName(QStringLiteral("plan-all"));
    auto* side = new QVBoxLayout;
    for (QPushButton* button : {up, down, usual, all}) {
        button->setAutoDefault(false);
        side->addWidget(button);
    }
    side->addStretch();
    auto* form = new QHBoxLayout;
    form->addWidget(list_, 1);
    form->addLayout(side);
    end_dialog(this, form, echo_, context_, tr("Read in this order"));
    connect(up, &QPushButton::clicked, this, [this] { move(-1); });
    connect(down, &QPushButton::clicked, this, [this] { move(1); });
    connect(usual, &QPushButton::clicked, this,
            [this] { fill(planning::usual_places(*intake_of(context_.session.state()).blueprint, what_, bank_)); });
    connect(all, &QPushButton::clicked, this,
            [this] { fill(planning::all_places(*intake_of(context_.session.state()).blueprint, what_, bank_)); });
    fill(planning::chosen_places(context_.session.state(), what_, bank_));
}

void ReadingPlanDialog::fill(const std::vector<block::MeasuredAt>& chosen) {
    const auto& blueprint = *intake_of(context_.session.state()).blueprint;
    list_->clear();
    const auto add = [&](const block::MeasuredAt& at, bool in) {
        auto* item = new QListWidgetItem(qt(wording::place_of_reading(blueprint, at)), list_);
        item->setData(Qt::UserRole, qt(at.key()));
        item->setCheckState(in ? Qt::Checked : Qt::Unchecked);
    };
    for (const auto& at : chosen)
        add(at, true);
    for (const auto& at : planning::all_places(blueprint, what_, bank_))
        if (std::ranges::none_of(chosen, [&](const auto& c) { return c.key() == at.key(); }))
            add(at, false);
    list_->setCurrentRow(0);
}

void ReadingPlanDialog::move(int by) {
    const int row = list_->currentRow(), to = row + by;
    if (row < 0 || to < 0 || to >= list_->count())
        return;
    QListWidgetItem* item = list_->takeItem(row);
    list_->insertItem(to, item);
    list_->setCurrentRow(to);
}

void ReadingPlanDialog::accept() {
    block::ReadingPlanChosen plan{planning::plan_name(what_, bank_), {}};
    for (int row = 0; row < list_->count(); ++row)
        if (list_->item(row)->checkState() == Qt::Checked)
            plan.places.push_back(list_->item(row)->data(Qt::UserRole).toString().toStdString());
    if (const auto chosen = context_.session.take(plan); !chosen)
        echo_->setText(qt(chosen.error().front().text()));
    else
        QDialog::accept();
}

} // namespace pallix::ui
