// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/measuring_dialogs.h"

#include "block/ledger.h"
#include "block/state/intake_state.h"
#include "planning/readings/reading_plan.h"
#include "session/counted.h"
#include "ui/dialogs/dialog_end.h"
#include "ui/frame/plain_label.h"
#include "wording/readings/readings.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

namespace pallix::ui {
// ---- reading plan -------------------------------------------------------------------------------------------------

ReadingPlanDialog::ReadingPlanDialog(Context context, planning::Measuring what, const std::string& bank,
                                     QWidget* parent)
    : QDialog(parent), context_(context), what_(what), bank_(bank), list_(new QListWidget(this)),
      echo_(new PlainLabel(this)) {
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

// ---- gauge on the line --------------------------------------------------------------------------------------------

GaugeDialog::GaugeDialog(Context context, QWidget* parent)
    : QDialog(parent), context_(context), address_(new QLineEdit(this)), state_(new PlainLabel(this)),
      echo_(new PlainLabel(this)), connect_(new QPushButton(this)), take_in_(new QPushButton(this)) {
    setWindowTitle(tr("Gauge or probe on the line"));
    setMinimumWidth(600);
    address_->setObjectName(QStringLiteral("gauge-address"));
    address_->setPlaceholderText(tr("local:NAME of a socket, or serial:PATH of a port"));
    address_->setText(context_.gauge.is_open() ? context_.gauge.address() : context_.preferences.last_gauge_address());
    connect_->setObjectName(QStringLiteral("gauge-connect"));
    state_->setWordWrap(true);
    echo_->setWordWrap(true);
    auto* form = new QFormLayout;
    form->setVerticalSpacing(12);
    form->addRow(tr("&Listen on"), address_);
    form->addRow(state_);
    form->addRow(echo_);
    auto* close = new QPushButton(tr("Close"), this);
    close->setAutoDefault(false);
    take_in_->setAutoDefault(false);
    take_in_->setText(tr("&Take in what has arrived"));
    auto* foot = new QHBoxLayout;
    foot->addWidget(take_in_);
    foot->addStretch();
    foot->addWidget(connect_);
    foot->addWidget(close);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 24, 24, 16);
    column->setSpacing(16);
    column->addLayout(form);
    column->addLayout(foot);
    connect(connect_, &QPushButton::clicked, this, &GaugeDialog::switch_connection);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    connect(take_in_, &QPushButton::clicked, this, [this] {
        const auto taken = context_.gauge.take_in_touches(std::exchange(sure_, false));
        if (taken)
            return;
        sure_ = context_.session.asks();
        echo_->setText(qt(taken.error().front().text()) +
                       (sure_ ? tr(". Once more takes it in all the same.") : QString()));
    });
    connect(&context_.gauge, &session::GaugeLink::changed, this, &GaugeDialog::refresh);
    connect(&context_.gauge, &session::GaugeLink::said, this, [this](const QString& text) { echo_->setText(text); });
    refresh();
}

void GaugeDialog::refresh() {
    const bool open = context_.gauge.is_open();
    const auto touches = static_cast<int>(context_.session.streamed_touches());
    connect_->setText(open ? tr("&Disconnect") : tr("&Connect"));
    QString text = open ? tr("Listening to %1: %2 so far.")
                              .arg(context_.gauge.name().isEmpty() ? context_.gauge.address() : context_.gauge.name(),
                                   session::counted(static_cast<qsizetype>(context_.gauge.readings()), tr("reading"),
                                                    tr("readings")))
                        : tr("Not connected.");
    if (touches > 0)
        text +=
            tr(" Kept of a log that is not whole yet: %1.").arg(session::counted(touches, tr("touch"), tr("touches")));
    state_->setText(text);
    take_in_->setVisible(touches > 0);
}

void GaugeDialog::switch_connection() {
    echo_->clear();
    if (context_.gauge.is_open())
        return context_.gauge.close();
    if (const auto opened = context_.gauge.open(address_->text().trimmed()); !opened)
        echo_->setText(qt(opened.error().front().text()));
    else
        context_.preferences.set_last_gauge_address(address_->text().trimmed());
}

} // namespace pallix::ui
