// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/help_dialog.h"

#include "ui/theme.h"

#include <QPushButton>
#include <QTextBrowser>
#include <QVBoxLayout>

namespace pallix::ui {

HelpDialog::HelpDialog(const QString& html, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Help"));
    resize(scaled(620), scaled(560));
    auto* text = new QTextBrowser(this);
    text->setObjectName(QStringLiteral("help-text"));
    text->setHtml(
        html + tr("<p>Pallix advises; the machinist decides. Limits come from the engine maker and local codes.</p>"));
    auto* close = new QPushButton(tr("Close"), this);
    close->setDefault(true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 16, 16, 16);
    column->addWidget(text);
    column->addWidget(close, 0, Qt::AlignRight);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
}

} // namespace pallix::ui
