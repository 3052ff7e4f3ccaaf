// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/study_dialog.h"

#include "planning/readings/gauge_study_plan.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"
#include "wording/readings/readings.h"

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

namespace pallix::ui {

StudyDialog::StudyDialog(Context context, planning::Measuring what, const std::string& bank,
                         const block::Instrument& gauge, QWidget* parent)
    : QDialog(parent), context_(context), what_(what), bank_(bank), gauge_(gauge.name), people_(new QLineEdit(this)),
      parts_(new QSpinBox(this)), trials_(new QSpinBox(this)), told_(new PlainLabel(this)),
      fault_(new PlainLabel(this)) {
    set_explained(this, QStringLiteral("certainty-sources"));
    setWindowTitle(tr("Gauge study"));
    setMinimumWidth(520);
    for (const block::MeasuredAt& at : planning::study_places(context_.session.state(), what_, bank_))
        keys_.push_back(at.key());
    QStringList names;
    if (const auto people = context_.session.book().people().all())
        for (const storage::ShopPerson& person : *people)
            names << person.name;
    people_->setObjectName(QStringLiteral("study-people"));
    people_->setText(names.join(QStringLiteral(", ")));
    people_->setPlaceholderText(tr("two or more names, commas between"));
    parts_->setObjectName(QStringLiteral("study-parts"));
    parts_->setRange(2, qBound(2, static_cast<int>(keys_.size()), 50));
    parts_->setValue(10); // as many as is usual (AIAG, Measurement Systems Analysis)
    trials_->setObjectName(QStringLiteral("study-trials"));
    trials_->setRange(2, 10);
    trials_->setValue(3);
    auto* form = new QFormLayout;
    form->addRow(tr("Who &reads"), people_);
    form->addRow(tr("&Places, of %1").arg(qt(wording::measuring_name(what_))), parts_);
    form->addRow(tr("&Times each"), trials_);
    for (QLabel* label : {told_, fault_})
        label->setWordWrap(true);
    fault_->setObjectName(QStringLiteral("study-fault"));
    QPalette red = fault_->palette();
    red.setColor(QPalette::WindowText, context_.palette().fails);
    fault_->setPalette(red);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    buttons->button(QDialogButtonBox::Ok)->setText(tr("Begin"));
    connect(buttons, &QDialogButtonBox::accepted, this, &StudyDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &StudyDialog::reject);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 24, 24, 16);
    column->setSpacing(14);
    column->addLayout(form);
    column->addWidget(told_);
    column->addWidget(fault_);
    column->addWidget(buttons);
    connect(people_, &QLineEdit::textChanged, this, &StudyDialog::tell);
    for (QSpinBox* box : {parts_, trials_}) {
        box->setButtonSymbols(QAbstractSpinBox::NoButtons); // typed, or by the arrow keys
        connect(box, &QSpinBox::valueChanged, this, &StudyDialog::tell);
    }
    tell();
}

block::GaugeStudyBegun StudyDialog::study() const {
    block::GaugeStudyBegun study;
    study.instrument = gauge_;
    study.plan = planning::plan_name(what_, bank_);
    const auto parts = static_cast<std::size_t>(parts_->value());
    // Spread over all there are, so that the parts differ as the work does.
    for (std::size_t i = 0; i < std::min(parts, keys_.size()); ++i)
        study.places.push_back(keys_[i * keys_.size() / std::min(parts, keys_.size())]);
    for (const QString& name : people_->text().split(QLatin1Char(','), Qt::SkipEmptyParts))
        if (!name.trimmed().isEmpty())
            study.people.push_back(name.trimmed().toStdString());
    study.trials = trials_->value();
    return study;
}

void StudyDialog::tell() {
    const block::GaugeStudyBegun begun = study();
    const auto all = begun.places.size() * begun.people.size() * static_cast<std::size_t>(begun.trials);
    told_->setText(tr("%1: %2 readings. The reading line asks for each in its turn, every round in another order; what "
                      "was read before is not shown.")
                       .arg(qt(gauge_))
                       .arg(all));
    fault_->clear();
}

void StudyDialog::accept() {
    if (const auto taken = context_.session.take(study()); !taken)
        return fault_->setText(qt(taken.error().front().text()));
    context_.instruments.forget_histories();
    QDialog::accept();
}

} // namespace pallix::ui
