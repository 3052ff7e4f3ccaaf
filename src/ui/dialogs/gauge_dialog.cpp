// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/gauge_dialog.h"

#include "session/counted.h"
#include "ui/dialogs/learn_gauge_dialog.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

namespace pallix::ui {

void fill_ports(QComboBox* ports, const QString& last) {
    ports->setEditable(true);
    ports->setInsertPolicy(QComboBox::NoInsert);
    for (const session::GaugePort& port : session::gauge_ports())
        ports->addItem(port.words, port.address);
    const int known = ports->findData(last);
    if (known >= 0)
        ports->setCurrentIndex(known);
    else if (!last.isEmpty() || ports->count() == 0)
        ports->setEditText(last);
    ports->lineEdit()->setPlaceholderText(QObject::tr("local:NAME, serial:PATH or keys:PATH"));
}

QString port_in(const QComboBox* ports) {
    const int i = ports->currentIndex();
    const bool chosen = i >= 0 && ports->itemText(i) == ports->currentText();
    return chosen ? ports->itemData(i).toString() : ports->currentText().trimmed();
}

GaugeDialog::GaugeDialog(Context context, QWidget* parent)
    : QDialog(parent), context_(context), gauges_(new QComboBox(this)), address_(new QComboBox(this)),
      state_(new PlainLabel(this)), echo_(new PlainLabel(this)), connect_(new QPushButton(this)),
      take_in_(new QPushButton(this)), change_(new QPushButton(tr("Teach it &anew…"), this)),
      forget_(new QPushButton(tr("&Forget it"), this)) {
    set_explained(this, QStringLiteral("gauges"));
    setWindowTitle(tr("Gauge or probe on the line"));
    setMinimumWidth(scaled(640));
    gauges_->setObjectName(QStringLiteral("gauge-profile"));
    fill_gauges(context_.preferences.last_gauge());
    fill_ports(address_,
               context_.gauge.is_open() ? context_.gauge.address() : context_.preferences.last_gauge_address());
    address_->lineEdit()->setObjectName(QStringLiteral("gauge-address"));
    connect_->setObjectName(QStringLiteral("gauge-connect"));
    state_->setWordWrap(true);
    echo_->setWordWrap(true);
    auto* learn = new QPushButton(tr("&Teach a gauge…"), this);
    learn->setObjectName(QStringLiteral("gauge-learn"));
    change_->setObjectName(QStringLiteral("gauge-anew"));
    forget_->setObjectName(QStringLiteral("gauge-forget"));
    auto* taught = new QHBoxLayout;
    taught->setSpacing(6);
    for (QPushButton* button : {learn, change_, forget_})
        taught->addWidget(button);
    taught->addStretch();
    auto* form = new QFormLayout;
    form->setVerticalSpacing(12);
    form->addRow(tr("&Gauge"), gauges_);
    form->addRow(QString(), taught);
    form->addRow(tr("&Listen on"), address_);
    form->addRow(state_);
    form->addRow(echo_);
    auto* close = new QPushButton(tr("Close"), this);
    take_in_->setText(tr("Take &in what has arrived"));
    for (QPushButton* button : {close, take_in_, learn, change_, forget_})
        button->setAutoDefault(false);
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
    connect(learn, &QPushButton::clicked, this, [this] { this->learn(false); });
    connect(change_, &QPushButton::clicked, this, [this] { this->learn(true); });
    connect(forget_, &QPushButton::clicked, this, &GaugeDialog::forget);
    connect(gauges_, &QComboBox::currentIndexChanged, this, &GaugeDialog::refresh);
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

void GaugeDialog::fill_gauges(const QString& chosen) {
    const QSignalBlocker quiet(gauges_);
    gauges_->clear();
    gauges_->addItem(tr("speaks the gauge protocol of Pallix"));
    for (const block::GaugeProfile& profile : context_.preferences.gauge_profiles())
        gauges_->addItem(qt(profile.name), qt(profile.name));
    gauges_->setCurrentIndex(std::max(0, chosen.isEmpty() ? 0 : gauges_->findData(chosen)));
}

std::optional<block::GaugeProfile> GaugeDialog::chosen() const {
    const auto profiles = context_.preferences.gauge_profiles();
    const auto found =
        std::ranges::find(profiles, gauges_->currentData().toString().toStdString(), &block::GaugeProfile::name);
    return found == profiles.end() ? std::nullopt : std::optional(*found);
}

QString GaugeDialog::address() const {
    return port_in(address_);
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
    if (context_.gauge.answers_when_asked())
        text += tr(" It answers when asked: Ctrl+Space, or its foot switch.");
    if (touches > 0)
        text +=
            tr(" Kept of a log that is not whole yet: %1.").arg(session::counted(touches, tr("touch"), tr("touches")));
    state_->setText(text);
    take_in_->setVisible(touches > 0);
    for (QPushButton* button : {change_, forget_})
        button->setEnabled(chosen().has_value());
}

void GaugeDialog::switch_connection() {
    echo_->clear();
    if (context_.gauge.is_open())
        return context_.gauge.close();
    const auto profile = chosen();
    if (const auto opened = context_.gauge.open(address(), profile); !opened)
        return echo_->setText(qt(opened.error().front().text()));
    context_.preferences.set_last_gauge_address(address());
    context_.preferences.set_last_gauge(profile ? qt(profile->name) : QString());
}

void GaugeDialog::learn(bool anew) {
    if (context_.gauge.is_open())
        context_.gauge.close(); // one program hears a port
    LearnGaugeDialog dialog(context_, address(), anew ? chosen() : std::nullopt, this);
    if (dialog.exec() != QDialog::Accepted)
        return;
    fill_gauges(qt(dialog.profile().name));
    address_->setEditText(dialog.address());
    refresh();
}

void GaugeDialog::forget() {
    if (const auto profile = chosen()) {
        context_.preferences.forget_gauge_profile(profile->name);
        echo_->setText(tr("%1 is forgotten.").arg(qt(profile->name)));
    }
    fill_gauges({});
    refresh();
}

} // namespace pallix::ui
