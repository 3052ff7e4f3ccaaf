// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/people_dialog.h"

#include "ui/dialogs/ask.h"
#include "ui/dialogs/dialog_end.h"
#include "ui/dialogs/fault_list.h"
#include "ui/frame/choice.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"
#include "wording/shop/shop_words.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QListWidget>

namespace pallix::ui {

using block::Role;

PeopleDialog::PeopleDialog(Context context, QWidget* parent)
    : QDialog(parent), context_(context), list_(new QListWidget(this)), name_(new QLineEdit(this)),
      code_(new QLineEdit(this)), role_(new QComboBox(this)), keep_(new QPushButton(tr("&Keep in the shop"), this)),
      remove_(new QPushButton(tr("No longer in the shop"), this)), echo_(new PlainLabel(this)) {
    set_explained(this, QStringLiteral("page-people"));
    setWindowTitle(tr("Who is at the bench"));
    setMinimumWidth(600);
    list_->setObjectName(QStringLiteral("people"));
    list_->setAccessibleName(tr("people of the shop"));
    name_->setObjectName(QStringLiteral("person-name"));
    name_->setPlaceholderText(tr("name or initials, as they shall stand in the ledger"));
    role_->setObjectName(QStringLiteral("person-role"));
    code_->setObjectName(QStringLiteral("person-code"));
    code_->setEchoMode(QLineEdit::Password);
    keep_->setObjectName(QStringLiteral("person-keep"));
    remove_->setObjectName(QStringLiteral("person-remove"));
    for (std::size_t i = 0; i < block::role_keys.size(); ++i)
        add_choice(role_, static_cast<Role>(i), qt(wording::role_name(static_cast<Role>(i))));
    auto* form = new QFormLayout;
    form->setVerticalSpacing(12);
    form->addRow(tr("&Name"), name_);
    form->addRow(tr("&Role"), role_);
    form->addRow(tr("New &code"), code_);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(keep_);
    buttons->addWidget(remove_);
    buttons->addStretch();
    form->addRow(buttons);
    auto* both = new QHBoxLayout;
    both->addWidget(list_, 2);
    both->addLayout(form, 3);
    end_dialog(this, both, echo_, context_, tr("At the bench"));
    connect(list_, &QListWidget::currentRowChanged, this, &PeopleDialog::show_person);
    connect(list_, &QListWidget::itemActivated, this, &PeopleDialog::accept);
    connect(keep_, &QPushButton::clicked, this, &PeopleDialog::keep);
    connect(remove_, &QPushButton::clicked, this, &PeopleDialog::remove);
    name_->setText(context_.preferences.person());
    fill();
}

void PeopleDialog::fill() {
    const QString wanted = name_->text();
    if (auto people = context_.session.book().people().all())
        people_ = std::move(*people);
    list_->clear();
    for (std::size_t i = 0; i < people_.size(); ++i) {
        QString line = tr("%1 — %2").arg(people_[i].name, qt(wording::role_name(people_[i].role)));
        if (people_[i].has_code)
            line += tr(", code");
        if (i < 9)
            line += tr("   Ctrl+%1").arg(i + 1);
        list_->addItem(line);
        if (people_[i].name == wanted)
            list_->setCurrentRow(static_cast<int>(i));
    }
    list_->setVisible(!people_.empty());
    remove_->setVisible(!people_.empty());
}

void PeopleDialog::show_person() {
    const int row = list_->currentRow();
    if (row < 0 || row >= static_cast<int>(people_.size()))
        return;
    const storage::ShopPerson& person = people_[static_cast<std::size_t>(row)];
    name_->setText(person.name);
    set_choice(role_, person.role);
    code_->clear();
    code_->setPlaceholderText(person.has_code ? tr("as it is") : tr("none"));
    echo_->clear();
}

void PeopleDialog::keep() {
    auto people = context_.session.book().people();
    const QString name = name_->text().trimmed();
    auto kept = people.keep(name, choice_in<Role>(role_));
    if (kept && !code_->text().isEmpty())
        kept = people.set_code(name, code_->text());
    echo_->setText(kept ? QString() : kept.error().what + QLatin1Char(' ') + kept.error().way_out);
    code_->clear();
    fill();
}

void PeopleDialog::remove() {
    const auto gone = context_.session.book().people().remove(name_->text().trimmed());
    echo_->setText(gone ? QString() : gone.error().what + QLatin1Char(' ') + gone.error().way_out);
    fill();
}

void PeopleDialog::accept() {
    const QString name = name_->text().trimmed();
    if (name.isEmpty()) {
        echo_->setText(tr("Nobody is named."));
        return name_->setFocus();
    }
    if (bring_to_bench(context_, name, this))
        QDialog::accept();
}

bool bring_to_bench(const Context& context, const QString& name, QWidget* parent) {
    const auto people = context.session.book().people();
    const auto person = people.find(name);
    if (name != context.preferences.person() && person && person->has_code && person->role != Role::learner) {
        const auto code =
            ask_for_code(parent, QObject::tr("Who is at the bench"), QObject::tr("The code of %1:").arg(name));
        if (!code)
            return false;
        if (!people.proves(name, *code)) {
            tell(parent, QObject::tr("Who is at the bench"), QObject::tr("This is not the code of %1.").arg(name));
            return false;
        }
    }
    context.preferences.set_person(name);
    if (const auto told = context.session.bench_changed(); !told)
        show_faults(told.error(), context, parent);
    return true;
}

} // namespace pallix::ui
