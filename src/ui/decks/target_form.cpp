// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/target_form.h"

#include "block/reading_text.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"

#include "ui/frame/choice.h"

#include "block/shorthand.h"
#include "ui/decks/cutter_dialog.h"
#include "ui/frame/plain_label.h"
#include "wording/common/sentences.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

using block::TargetSchool;

TargetForm::TargetForm(Context context, QWidget* parent)
    : QWidget(parent), context_(context), school_(new QComboBox(this)),
      equal_(new QCheckBox(tr("both banks equal"), this)), height_(new QLineEdit(this)),
      passes_(new QPushButton(tr("Passes…"), this)), cutter_(new QPushButton(tr("Cutter…"), this)),
      echo_(new PlainLabel(this)) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    row->addWidget(new PlainLabel(tr("cut to"), this));
    for (const TargetSchool school : {TargetSchool::least_cut, TargetSchool::blueprint, TargetSchool::height,
                                      TargetSchool::clearance, TargetSchool::ratio})
        add_choice(school_, school, qt(wording::school_name(school)));
    school_->setObjectName(QStringLiteral("target-school"));
    school_->setAccessibleName(tr("target height"));
    school_->setToolTip(
        tr("Least cut: both decks down to the lowest place. Blueprint: its height. Or give one, or let the "
           "mock-up give it: a clearance for the piston that stands highest, a compression ratio."));
    equal_->setObjectName(QStringLiteral("target-equal"));
    height_->setObjectName(QStringLiteral("target-height"));
    height_->setAccessibleName(tr("given deck height"));
    height_->setFixedWidth(130);
    row->addWidget(school_);
    row->addWidget(height_);
    row->addWidget(equal_);
    row->addWidget(echo_, 1);
    row->addWidget(passes_);
    row->addWidget(cutter_);
    cutter_->setObjectName(QStringLiteral("edit-cutter"));
    cutter_->setToolTip(tr("Cutter, speeds and feeds, gasket: what finish to expect, how long a pass takes"));
    connect(cutter_, &QPushButton::clicked, this, &TargetForm::edit_cutter);
    passes_->setToolTip(tr("Depth of witness cut, passes and finishing cut; how many spring passes"));
    connect(school_, &QComboBox::currentIndexChanged, this, &TargetForm::choose);
    connect(equal_, &QCheckBox::toggled, this, &TargetForm::choose);
    connect(height_, &QLineEdit::returnPressed, this, &TargetForm::choose);
    connect(passes_, &QPushButton::clicked, this, &TargetForm::edit_passes);
}

void TargetForm::refresh() {
    filling_ = true;
    const auto& state = context_.session.state();
    const auto& target = decks_of(state).target;
    set_choice(school_, target.school);
    equal_->setChecked(target.equal);
    equal_->setVisible(intake_of(state).blueprint && intake_of(state).blueprint->banks.size() > 1 &&
                       target.school != TargetSchool::blueprint && target.school != TargetSchool::height);
    const bool numbered = target.school != TargetSchool::least_cut && target.school != TargetSchool::blueprint;
    height_->setVisible(numbered);
    const auto l = context_.lengths();
    if (target.school == TargetSchool::height && target.height)
        height_->setText(qt(l.plain(*target.height)));
    if (target.school == TargetSchool::clearance && target.clearance)
        height_->setText(qt(l.plain(*target.clearance)));
    if (target.school == TargetSchool::ratio && target.ratio)
        height_->setText(QString::number(*target.ratio, 'f', 2));
    echo_->clear();
    filling_ = false;
}

void TargetForm::choose() {
    if (filling_ || !context_.session.has_job())
        return;
    const auto& state = context_.session.state();
    block::DeckTargetChosen chosen{choice_in<TargetSchool>(school_), equal_->isChecked(), decks_of(state).target.height,
                                   decks_of(state).target.clearance, decks_of(state).target.ratio};
    const bool numbered = chosen.school != TargetSchool::least_cut && chosen.school != TargetSchool::blueprint;
    if (numbered) {
        if (chosen.school != decks_of(state).target.school && sender() == school_)
            height_->clear(); // another number is meant now
        height_->setVisible(true);
        if (!read_number(chosen))
            return;
    }
    if (const auto done = context_.session.take(chosen); !done)
        echo_->setText(qt(done.error().front().text()));
}

/// Height, clearance or ratio as typed, or as chosen before where nothing is typed.
bool TargetForm::read_number(block::DeckTargetChosen& chosen) {
    const QString typed = height_->text().trimmed();
    std::optional<double>& number = chosen.school == TargetSchool::height      ? chosen.height
                                    : chosen.school == TargetSchool::clearance ? chosen.clearance
                                                                               : chosen.ratio;
    if (typed.isEmpty()) {
        if (number)
            return true;
        echo_->setText(chosen.school == TargetSchool::height      ? tr("type the height and press Enter")
                       : chosen.school == TargetSchool::clearance ? tr("type the clearance (+ below the deck), Enter")
                                                                  : tr("type the ratio and press Enter"));
        height_->setFocus();
        return false;
    }
    if (chosen.school == TargetSchool::ratio) {
        const auto ratio = block::read_number(typed.toStdString());
        const bool sound = ratio && *ratio > 1 && *ratio <= 30;
        if (sound)
            number = *ratio;
        else
            echo_->setText(tr("A ratio from 1 to 30, such as 9.5"));
        return sound;
    }
    if (chosen.school == TargetSchool::clearance) {
        const auto mm = block::read_length(typed.toStdString(), context_.preferences.unit());
        if (!mm || std::abs(*mm) > 5)
            echo_->setText(mm ? tr("A clearance within 5 mm") : qt(mm.error()));
        else
            number = *mm;
        return mm && std::abs(*mm) <= 5;
    }
    const double nominal = intake_of(context_.session.state()).blueprint->banks.front().deck_height.nominal;
    const auto understood = block::read_shorthand(typed.toStdString(), {nominal, 5.0, context_.preferences.unit()});
    if (!understood || understood->suspicion != block::Suspicion::none) {
        echo_->setText(understood ? tr("%1 is far from the blueprint's %2")
                                        .arg(qt(context_.lengths().with_unit(understood->value)),
                                             qt(context_.lengths().with_unit(nominal)))
                                  : qt(understood.error()));
        return false;
    }
    number = understood->value;
    return true;
}

void TargetForm::edit_cutter() {
    double length = 0;
    for (const auto& bank : intake_of(context_.session.state()).blueprint->banks)
        length = std::max(length, planning::deck_extent(bank).length());
    CutterDialog dialog(context_, length, this);
    dialog.exec();
}

void TargetForm::edit_passes() {
    const auto lengths = context_.lengths();
    const block::PassPlanChosen now = decks_of(context_.session.state()).passes.value_or(planning::usual_passes());
    QDialog dialog(this);
    dialog.setWindowTitle(tr("Passes"));
    QLineEdit witness(qt(lengths.with_unit(now.witness))), pass(qt(lengths.with_unit(now.pass))),
        finish(qt(lengths.with_unit(now.finish)));
    QSpinBox springs;
    springs.setRange(0, 9);
    springs.setValue(now.spring_passes);
    PlainLabel fault;
    fault.setWordWrap(true);
    QDialogButtonBox buttons(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    QFormLayout form(&dialog);
    form.setContentsMargins(24, 24, 24, 16);
    form.addRow(tr("&Witness cut"), &witness);
    form.addRow(tr("A &pass at most"), &pass);
    form.addRow(tr("&Finishing cut"), &finish);
    form.addRow(tr("&Spring passes"), &springs);
    form.addRow(&fault);
    form.addRow(&buttons);
    connect(&buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    connect(&buttons, &QDialogButtonBox::accepted, &dialog, [&] {
        const auto unit = context_.preferences.unit();
        const auto w = block::read_length(witness.text().toStdString(), unit),
                   p = block::read_length(pass.text().toStdString(), unit),
                   f = block::read_length(finish.text().toStdString(), unit);
        for (const auto* read : {&w, &p, &f})
            if (!*read) {
                fault.setText(qt(read->error()));
                return;
            }
        const auto done = context_.session.take(block::PassPlanChosen{*w, *p, *f, springs.value()});
        if (done)
            dialog.accept();
        else
            fault.setText(qt(done.error().front().text()));
    });
    dialog.exec();
}

} // namespace pallix::ui
