// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/step_form.h"

#include "planning/common/assessment.h"
#include "ui/frame/plain_label.h"
#include "wording/steps/ask_words.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QRadioButton>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

using planning::AskKind;
using planning::Step;

namespace {

constexpr int longest_answer = 200;

} // namespace

StepForm::StepForm(Context context, QWidget* parent)
    : QWidget(parent), context_(context), rows_(new QVBoxLayout(this)) {
    rows_->setContentsMargins(0, 0, 0, 0);
    rows_->setSpacing(6);
}

void StepForm::forget() {
    built_for_.clear();
}

/// What is proposed is put into the fields when the step or what it proposes is another; what is half typed stays.
bool StepForm::show_step(const Step& step) {
    std::string key = step.id + context_.lengths().unit_name() + std::to_string(context_.session.job().value_or(0)) +
                      context_.palette().ink.name().toStdString();
    for (const planning::Ask& ask : step.asks)
        key += " " + ask.key + (ask.kind == AskKind::choice ? std::to_string(ask.proposed.value_or(-1)) : ask.stands);
    const bool anew = key != built_for_;
    if (anew) {
        built_for_ = key;
        build(step);
    }
    for (Field& field : fields_) {
        const auto ask = std::ranges::find(step.asks, field.ask.key, &planning::Ask::key);
        if (ask == step.asks.end())
            continue;
        field.ask = *ask;
        if (!field.edit || field.ask.kind == AskKind::text)
            continue;
        const QString proposed = qt(wording::proposed_text(*ask, context_.lengths()));
        if (field.edit->text() == field.filled && proposed != field.filled)
            field.edit->setText(proposed);
        field.filled = proposed;
    }
    return anew;
}

void StepForm::build(const Step& step) {
    fields_.clear();
    while (QLayoutItem* item = rows_->takeAt(0)) {
        if (QWidget* old = item->widget()) { // it may be the sender of what is being answered
            old->hide(); // a layout may be about to show it, and without a parent it would be a window
            old->setParent(nullptr);
            old->deleteLater();
        }
        delete item;
    }
    for (const planning::Ask& ask : step.asks)
        add_field(step, ask);
    const auto rows = findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly);
    for (QWidget* row : rows)
        row->show(); // at once: the caret may go there before the next event
}

void StepForm::add_field(const Step& step, const planning::Ask& ask) {
    const QString label = qt(wording::ask_name(step, ask));
    Field field{ask};
    switch (ask.kind) {
    case AskKind::tick:
        if (ask.proposed && ask.key == step.asks.front().key)
            return; // the button says that it was done
        field.tick = new QCheckBox(label, this);
        field.tick->setChecked(ask.proposed.value_or(0) != 0);
        field.tick->setObjectName(QStringLiteral("ask-") + qt(ask.key));
        set_type(field.tick, Type::text);
        rows_->addWidget(field.tick);
        break;
    case AskKind::choice:
        add_choices(step, field);
        break;
    case AskKind::place: { // on the drawing
        auto* words = new PlainLabel(label, this);
        set_type(words, Type::text);
        words->setEnabled(false);
        rows_->addWidget(words);
        return;
    }
    case AskKind::file:
        return;
    case AskKind::length:
    case AskKind::count:
    case AskKind::text:
        add_edit(label, field);
        break;
    }
    fields_.push_back(std::move(field));
}

void StepForm::add_edit(const QString& label, Field& field) {
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    auto* words = new PlainLabel(label, row);
    set_type(words, Type::text);
    field.edit = new QLineEdit(row);
    field.edit->setObjectName(QStringLiteral("ask-") + qt(field.ask.key));
    field.edit->setMaxLength(longest_answer);
    field.edit->setAccessibleName(label);
    if (field.ask.kind == AskKind::text)
        field.edit->setText(qt(field.ask.stands));
    field.edit->setCursorPosition(0); // a long one is read from its beginning
    if (field.ask.key == "code")
        field.edit->setEchoMode(QLineEdit::Password);
    set_type(field.edit, Type::number);
    words->setBuddy(field.edit);
    line->addWidget(words);
    line->addWidget(field.edit, 1);
    rows_->addWidget(row);
    connect(field.edit, &QLineEdit::returnPressed, this, &StepForm::entered);
}

/// Decisions stand below one another, each with what follows from it.
void StepForm::add_choices(const Step& step, Field& field) {
    field.choices = new QButtonGroup(this);
    for (std::size_t i = 0; i < field.ask.choices.size(); ++i) {
        const std::string& key = field.ask.choices[i];
        auto* button = new QRadioButton(qt(wording::choice_name(step, field.ask, key)), this);
        button->setObjectName(QStringLiteral("ask-") + qt(field.ask.key) + QLatin1Char('-') + qt(key));
        set_type(button, Type::text);
        field.choices->addButton(button, static_cast<int>(i));
        button->setChecked(field.ask.proposed == static_cast<double>(i));
        rows_->addWidget(button);
        const QString follows = qt(wording::choice_consequence(context_.session.state(), context_.session.assessment(),
                                                               step, key, context_.lengths()));
        if (follows.isEmpty())
            continue;
        auto* words = new PlainLabel(follows, this);
        words->setWordWrap(true);
        words->setIndent(scaled(24));
        words->setEnabled(false);
        set_type(words, Type::small);
        button->setAccessibleDescription(follows);
        rows_->addWidget(words);
    }
}

std::optional<planning::Answers> StepForm::answers(const Step& step) {
    planning::Answers answers = planning::proposed(step);
    for (const Field& field : fields_)
        if (!read(step, field, answers))
            return std::nullopt;
    return answers;
}

bool StepForm::read(const Step& step, const Field& field, planning::Answers& answers) {
    const std::string& key = field.ask.key;
    const QString name = qt(wording::ask_name(step, field.ask));
    if (field.tick) {
        answers[key] = field.tick->isChecked();
        return true;
    }
    if (field.choices) {
        const int chosen = field.choices->checkedId();
        if (chosen < 0) {
            Q_EMIT complained(tr("Choose: %1.").arg(name));
            field.choices->button(0)->setFocus();
            return false;
        }
        answers[key] = field.ask.choices[static_cast<std::size_t>(chosen)];
        return true;
    }
    if (field.ask.kind == AskKind::text) {
        if (const QString words = field.edit->text().trimmed(); !words.isEmpty() && words != qt(field.ask.stands))
            answers[key] = words.toStdString();
        return true;
    }
    if (field.edit->text() == field.filled && field.ask.proposed)
        return true; // as proposed, to all its digits
    const auto value = planning::read_ask(field.ask, field.edit->text().toStdString(), context_.preferences.unit());
    if (!value || (!*value && field.ask.needed())) {
        Q_EMIT complained(name + QStringLiteral(": ") + (value ? tr("nothing is typed") : qt(value.error())));
        field.edit->setFocus();
        field.edit->selectAll();
        return false;
    }
    answers.erase(key);
    if (*value)
        answers[key] = **value;
    return true;
}

bool StepForm::take_focus() {
    if (isHidden())
        return false;
    for (const Field& field : fields_) {
        QAbstractButton* checked = field.choices ? field.choices->checkedButton() : nullptr;
        QWidget* first = field.edit      ? static_cast<QWidget*>(field.edit)
                         : field.choices ? (checked ? checked : field.choices->button(0))
                                         : nullptr;
        if (!first)
            continue;
        first->setFocus(Qt::ShortcutFocusReason);
        if (field.edit)
            field.edit->selectAll();
        return true;
    }
    return false;
}

} // namespace pallix::ui
