// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/ledger_dialog.h"

#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLineEdit>
#include <QPushButton>
#include <QTableView>
#include <algorithm>

namespace pallix::ui {

LedgerDialog::LedgerDialog(Context context, QWidget* parent)
    : QDialog(parent), context_(context), model_(context.session, context.preferences), table_(new QTableView(this)),
      words_(new QLineEdit(this)), strike_(new QPushButton(tr("&Strike the marked entry"), this)),
      all_(new QPushButton(tr("Show a&ll"), this)), echo_(new PlainLabel(this)) {
    set_explained(this, QStringLiteral("page-ledger"));
    setWindowTitle(tr("Ledger"));
    resize(860, 520);
    table_->setModel(&model_);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setShowGrid(false);
    table_->setWordWrap(false);
    table_->setTabKeyNavigation(false);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(32);
    table_->horizontalHeader()->setStretchLastSection(true);
    table_->setColumnWidth(session::LedgerModel::number, 56);
    table_->setColumnWidth(session::LedgerModel::time, 150);
    table_->setColumnWidth(session::LedgerModel::person, 110);
    words_->setPlaceholderText(tr("reason for striking, or the words of a note"));
    words_->setObjectName(QStringLiteral("ledger-words"));
    auto* note = new QPushButton(tr("Add as &note"), this);
    auto* close = new QPushButton(tr("Close"), this);
    all_->hide();
    for (QPushButton* button : {strike_, note, close, all_})
        button->setAutoDefault(false);
    auto* row = new QHBoxLayout;
    row->addWidget(words_, 1);
    row->addWidget(strike_);
    row->addWidget(note);
    row->addWidget(all_);
    row->addWidget(close);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 16, 16, 16);
    column->addWidget(table_, 1);
    column->addWidget(echo_);
    column->addLayout(row);
    connect(strike_, &QPushButton::clicked, this, &LedgerDialog::strike);
    connect(note, &QPushButton::clicked, this, &LedgerDialog::add_note);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    table_->selectRow(model_.rowCount() - 1);
    table_->scrollToBottom();
}

LedgerDialog::LedgerDialog(Context context, const std::vector<std::int64_t>& only, QWidget* parent)
    : LedgerDialog(context, parent) {
    set_explained(this, QStringLiteral("page-ledger"));
    setWindowTitle(tr("Where the numbers come from"));
    show_only(only);
    all_->show();
    connect(all_, &QPushButton::clicked, this, [this] {
        for (int row = 0; row < model_.rowCount(); ++row)
            table_->showRow(row);
        all_->hide();
    });
}

void LedgerDialog::show_only(const std::vector<std::int64_t>& only) {
    for (int row = 0; row < model_.rowCount(); ++row) {
        const auto sequence = model_.index(row, 0).data(session::LedgerModel::sequence_role).toLongLong();
        table_->setRowHidden(row, std::ranges::find(only, sequence) == only.end());
        if (!table_->isRowHidden(row))
            table_->selectRow(row);
    }
    if (only.empty())
        echo_->setText(tr("Nothing was entered about it yet."));
}

void LedgerDialog::say(const session::Outcome& outcome) {
    QPalette p = echo_->palette();
    p.setColor(QPalette::WindowText, outcome ? context_.palette().quiet : context_.palette().fails);
    echo_->setPalette(p);
    echo_->setText(outcome ? QString() : qt(outcome.error().front().text()));
    if (outcome)
        words_->clear();
    table_->selectRow(model_.rowCount() - 1);
    table_->scrollToBottom();
}

void LedgerDialog::strike() {
    const QModelIndex marked = table_->currentIndex();
    if (!marked.isValid() || words_->text().trimmed().isEmpty()) {
        echo_->setText(tr("Mark an entry and give the reason: it stays readable with it."));
        words_->setFocus();
        return;
    }
    say(context_.session.strike(marked.data(session::LedgerModel::sequence_role).toLongLong(), words_->text()));
}

void LedgerDialog::add_note() {
    say(context_.session.take(block::Note{words_->text().trimmed().toStdString()}));
}

} // namespace pallix::ui
