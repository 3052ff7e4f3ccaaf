// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/route_dialogs.h"

#include "block/ledger.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/steps/steps.h"
#include "ui/dialogs/dialog_end.h"
#include "ui/frame/choice.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"
#include "wording/steps/step_words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <array>

namespace pallix::ui {
namespace {

using block::Stage;

constexpr std::array chosen_stages{Stage::tunnel, Stage::decks, Stage::cylinders, Stage::lifters, Stage::mock_up};

/// Stages in their order, moved by dragging or by Alt with the arrow keys.
class StageList : public QListWidget {
  public:
    explicit StageList(QWidget* parent) : QListWidget(parent) {
        setObjectName(QStringLiteral("route-order"));
        setAccessibleName(RouteDialog::tr("order of the stages"));
        setDragDropMode(QAbstractItemView::InternalMove);
        setToolTip(RouteDialog::tr("Drag a stage, or move it by Alt+Up and Alt+Down"));
    }

  protected:
    void keyPressEvent(QKeyEvent* event) override {
        const int by = event->key() == Qt::Key_Up ? -1 : event->key() == Qt::Key_Down ? 1 : 0;
        const int row = currentRow(), to = row + by;
        if (by == 0 || !(event->modifiers() & Qt::AltModifier) || row < 0 || to < 0 || to >= count())
            return QListWidget::keyPressEvent(event);
        insertItem(to, takeItem(row));
        setCurrentRow(to);
    }
};

} // namespace

RouteDialog::RouteDialog(Context context, QWidget* parent)
    : QDialog(parent), context_(context), preset_(new QComboBox(this)), order_(new StageList(this)),
      reason_(new QLineEdit(this)), for_shop_(new QCheckBox(tr("so begin new jobs of the shop"), this)),
      for_engine_(new QCheckBox(this)), echo_(new PlainLabel(this)) {
    set_explained(this, QStringLiteral("step-choose_scope"));
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
    fill_order(planning::route_of(state));
    form->addRow(QString(), order_);
    connect(preset_, &QComboBox::currentIndexChanged, this,
            [this] { fill_order(planning::order_of(choice_in<block::RoutePreset>(preset_))); });
    for_shop_->setObjectName(QStringLiteral("route-shop"));
    form->addRow(QString(), for_shop_);
    engine_ = engine_of_job();
    for_engine_->setObjectName(QStringLiteral("route-engine"));
    for_engine_->setText(tr("so begin new jobs of %1").arg(engine_));
    for_engine_->setVisible(!engine_.isEmpty());
    form->addRow(QString(), for_engine_);
    end_dialog(this, form, echo_, context_, tr("From here on"));
}

/// Received is first and the passport last whatever else is moved.
void RouteDialog::fill_order(const std::vector<Stage>& order) {
    order_->clear();
    for (const Stage stage : order)
        if (stage != Stage::received && stage != Stage::passport) {
            auto* item = new QListWidgetItem(qt(wording::stage_name(stage)), order_);
            item->setData(Qt::UserRole, static_cast<int>(stage));
        }
    order_->setCurrentRow(0);
}

block::RouteChosen RouteDialog::chosen_route() const {
    block::RouteChosen route{choice_in<block::RoutePreset>(preset_), {Stage::received}};
    for (int i = 0; i < order_->count(); ++i)
        route.order.push_back(static_cast<Stage>(order_->item(i)->data(Qt::UserRole).toInt()));
    route.order.push_back(Stage::passport);
    if (route.order == planning::order_of(route.preset))
        route.order.clear();
    return route;
}

/// Of the shelf that the job was opened from; empty where it was a blueprint.
QString RouteDialog::engine_of_job() const {
    const auto* opened = context_.session.entries().empty()
                             ? nullptr
                             : std::get_if<block::JobOpened>(&context_.session.entries().front().payload);
    return opened ? qt(opened->engine) : QString();
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
    const block::RouteChosen route = chosen_route();
    const block::RouteChosen before = intake_of(state).route ? intake_of(state).route->payload : block::RouteChosen{};
    if (route != before)
        payloads.emplace_back(route);
    if (!payloads.empty())
        if (const auto taken = context_.session.take_all(std::move(payloads)); !taken) {
            echo_->setText(qt(taken.error().front().text()));
            return;
        }
    auto usual = context_.session.book().usual();
    for (const auto& [wanted, engine] :
         {std::pair(for_shop_->isChecked(), QString()), {for_engine_->isChecked(), engine_}})
        if (wanted)
            if (const auto kept = usual.keep_route(engine, route); !kept) {
                echo_->setText(kept.error().what);
                return;
            }
    QDialog::accept();
}

} // namespace pallix::ui
