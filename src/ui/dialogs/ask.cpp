// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/ask.h"

#include "ui/frame/plain_label.h"
#include "ui/theme.h"

#include <QDialog>
#include <QDialogButtonBox>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMessageBox>
#include <QPushButton>
#include <QVBoxLayout>

namespace pallix::ui {

namespace {

std::optional<QString> typed(QWidget* parent, const QString& title, const QString& words, const QString& before,
                             QLineEdit::EchoMode echo) {
    QInputDialog dialog(parent);
    dialog.setWindowTitle(title);
    dialog.setLabelText(words);
    dialog.setTextValue(before);
    dialog.setTextEchoMode(echo);
    for (QLabel* label : dialog.findChildren<QLabel*>())
        label->setTextFormat(Qt::PlainText);
    return dialog.exec() == QDialog::Accepted ? std::optional(dialog.textValue()) : std::nullopt;
}

} // namespace

std::optional<QString> ask_for_text(QWidget* parent, const QString& title, const QString& words,
                                    const QString& before) {
    return typed(parent, title, words, before, QLineEdit::Normal);
}

std::optional<QString> ask_for_code(QWidget* parent, const QString& title, const QString& words) {
    return typed(parent, title, words, {}, QLineEdit::Password);
}

int ask_which(QWidget* parent, const QString& title, const QString& words, const QStringList& answers) {
    QMessageBox box(parent);
    box.setWindowTitle(title);
    box.setTextFormat(Qt::PlainText);
    box.setText(words);
    QList<QPushButton*> buttons;
    for (const QString& answer : answers)
        buttons << box.addButton(answer, answer == answers.back() ? QMessageBox::RejectRole : QMessageBox::AcceptRole);
    box.setDefaultButton(buttons.back());
    box.setEscapeButton(buttons.back());
    box.exec();
    for (qsizetype i = 0; i < buttons.size(); ++i)
        if (box.clickedButton() == buttons[i])
            return static_cast<int>(i);
    return static_cast<int>(answers.size()) - 1;
}

std::optional<int> ask_which_of(QWidget* parent, const QString& title, const QString& words, const QStringList& all,
                                const QString& ok) {
    QDialog dialog(parent);
    dialog.setWindowTitle(title);
    dialog.setMinimumSize(520, 400);
    auto* label = new PlainLabel(words, &dialog);
    label->setWordWrap(true);
    set_type(label, Type::text);
    auto* list = new QListWidget(&dialog);
    list->setAccessibleName(title);
    list->addItems(all);
    list->setCurrentRow(0);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, &dialog);
    buttons->button(QDialogButtonBox::Ok)->setText(ok);
    auto* column = new QVBoxLayout(&dialog);
    column->setContentsMargins(20, 20, 20, 14);
    column->setSpacing(12);
    column->addWidget(label);
    column->addWidget(list, 1);
    column->addWidget(buttons);
    QObject::connect(buttons, &QDialogButtonBox::accepted, &dialog, &QDialog::accept);
    QObject::connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    QObject::connect(list, &QListWidget::itemActivated, &dialog, &QDialog::accept);
    list->setFocus();
    if (dialog.exec() != QDialog::Accepted || list->currentRow() < 0)
        return std::nullopt;
    return list->currentRow();
}

void tell(QWidget* parent, const QString& title, const QString& words) {
    static_cast<void>(ask_which(parent, title, words, {QObject::tr("Close")}));
}

} // namespace pallix::ui
