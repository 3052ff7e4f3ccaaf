// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/ask.h"

#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>

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

void tell(QWidget* parent, const QString& title, const QString& words) {
    static_cast<void>(ask_which(parent, title, words, {QObject::tr("Close")}));
}

} // namespace pallix::ui
