// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QDialog>
#include <QDialogButtonBox>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace pallix::ui {

/// Form above, what is wrong beneath it, the two buttons at the end.
inline void end_dialog(QDialog* dialog, QLayout* form, QLabel* echo, const Context& context, const QString& ok) {
    echo->setWordWrap(true);
    QPalette p = echo->palette();
    p.setColor(QPalette::WindowText, context.palette().fails);
    echo->setPalette(p);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, dialog);
    buttons->button(QDialogButtonBox::Ok)->setText(ok);
    auto* column = new QVBoxLayout(dialog);
    column->setContentsMargins(24, 24, 24, 16);
    column->setSpacing(16);
    column->addLayout(form);
    column->addWidget(echo);
    column->addWidget(buttons);
    QObject::connect(buttons, &QDialogButtonBox::accepted, dialog, &QDialog::accept);
    QObject::connect(buttons, &QDialogButtonBox::rejected, dialog, &QDialog::reject);
}

} // namespace pallix::ui
