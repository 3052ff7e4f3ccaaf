// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/route_dialogs.h"

#include "block/ledger.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/steps/steps.h"
#include "ui/dialogs/dialog_end.h"
#include "ui/frame/choice.h"
#include "ui/frame/plain_label.h"
#include "wording/steps/step_words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QVBoxLayout>
#include <algorithm>
#include <array>

namespace pallix::ui {
namespace {

using block::Stage;

constexpr std::array chosen_stages{Stage::tunnel, Stage::decks, Stage::cylinders, Stage::lifters, Stage::mock_up};

} // namespace

RouteDialog::RouteDialog(Context context, QWidget* parent)
    : QDialog(parent), context_(context), preset_(new QComboBox(this)), reason_(new QLineEdit(this)),
      echo_(new PlainLabel(this)) {
    setWindowTitle(tr("What is wanted, and in which order"));
    setMinimumWidth(560);
    const block::JobState& state = context_.session.state();
    auto* stages = new QVBoxLayout;
    stages->setSpacing(8);
    for (const Stage stage : chosen_stages) {
        const QString name = qt(wording::stage_name(stage));
        auto* box = new QCheckBox(name, this);
        box->setObjectName(QStringLiteral("wanted-") +
                           QString::fromLatin1(block::stage_keys[static_cast<std::size_t>(stage)]));
        box->setChecked(planning::wanted(state, stage));
        wanted_.push_back(box);
        stages->addWidget(box);
    }
    preset_->setObjectName(QStringLiteral("route-preset"));
    for (std::size_t i = 0; i < block::route_preset_keys.size(); ++i)
        add_choice(preset_, static_cast<block::RoutePreset>(i),
                   qt(wording::route_name(static_cast<block::RoutePreset>(i))));
    set_choice(preset_,
               intake_of(state).route ? intake_of(state).route->payload.preset : block::RoutePreset::mains_first);
    reason_->setObjectName(QStringLiteral("scope-reason"));
    reason_->setPlaceholderText(tr("why the others are left out: good by its papers, done elsewhere"));
    if (intake_of(state).scope)
        reason_->setText(qt(intake_of(state).scope->payload.reason));
    auto* form = new QFormLayout;
    form->setVerticalSpacing(12);
    form->addRow(tr("Wanted"), stages);
    form->addRow(tr("&Reason"), reason_);
    form->addRow(tr("&Order"), preset_);
    end_dialog(this, form, echo_, context_, tr("From here on"));
}

void RouteDialog::accept() {
    block::ScopeChosen scope;
    for (std::size_t i = 0; i < wanted_.size(); ++i)
        if (wanted_[i]->isChecked())
            scope.stages.push_back(chosen_stages[i]);
    scope.reason = reason_->text().trimmed().toStdString();
    const bool whole = scope.stages.size() == chosen_stages.size();
    if (!whole && scope.reason.empty()) {
        echo_->setText(tr("Say why a stage is left out: it stands in the passport."));
        reason_->setFocus();
        return;
    }
    if (scope.stages.empty()) {
        echo_->setText(tr("At least one stage is wanted."));
        return;
    }
    const block::JobState& state = context_.session.state();
    std::vector<block::Payload> payloads;
    if (intake_of(state).scope ? !(intake_of(state).scope->payload == scope) : !whole)
        payloads.emplace_back(std::move(scope));
    const auto preset = choice_in<block::RoutePreset>(preset_);
    const auto before =
        intake_of(state).route ? intake_of(state).route->payload.preset : block::RoutePreset::mains_first;
    if (preset != before)
        payloads.emplace_back(block::RouteChosen{preset, {}});
    if (!payloads.empty())
        if (const auto taken = context_.session.take_all(std::move(payloads)); !taken) {
            echo_->setText(qt(taken.error().front().text()));
            return;
        }
    QDialog::accept();
}

} // namespace pallix::ui
