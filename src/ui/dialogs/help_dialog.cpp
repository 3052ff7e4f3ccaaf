// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/help_dialog.h"

#include <QPushButton>
#include <QTextBrowser>
#include <QVBoxLayout>

namespace pallix::ui {

HelpDialog::HelpDialog(const QString& view_help, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Help"));
    resize(560, 520);
    auto* text = new QTextBrowser(this);
    text->setObjectName(QStringLiteral("help-text"));
    text->setHtml(
        view_help +
        tr("<h3>Everywhere</h3><p>F2 shop · F3 block · F4 tunnel · F5 decks · F6 cylinders · F7 lifters · F8 "
           "passport<br>"
           "Ctrl+N new job · Ctrl+I take in probe logs · Ctrl+L ledger<br>"
           "Ctrl+Z strikes the last entry, Ctrl+Shift+Z brings it back<br>"
           "Ctrl+U inch or millimetres · Ctrl+T day or night</p>"
           "<p>Pallix advises; the machinist decides. Limits come from the engine maker and local codes.</p>"));
    auto* close = new QPushButton(tr("Close"), this);
    close->setDefault(true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 16, 16, 16);
    column->addWidget(text);
    column->addWidget(close, 0, Qt::AlignRight);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
}

} // namespace pallix::ui
