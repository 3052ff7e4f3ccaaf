// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/new_job_dialog.h"

#include "ui/dialogs/fault_list.h"
#include "ui/files.h"
#include "ui/frame/plain_label.h"

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <utility>

namespace pallix::ui {

NewJobDialog::NewJobDialog(Context context, const QString& blueprint_file, QWidget* parent)
    : QDialog(parent), context_(context), title_(new QLineEdit(this)), customer_(new QLineEdit(this)),
      file_(new QLineEdit(blueprint_file, this)), faults_(new FaultList(context, this)) {
    setWindowTitle(tr("New job"));
    setMinimumWidth(600);
    title_->setObjectName(QStringLiteral("job-title"));
    file_->setObjectName(QStringLiteral("blueprint-file"));
    title_->setPlaceholderText(tr("which block: boat and engine, car and owner"));
    file_->setPlaceholderText(tr("a .pallix-blueprint.json, or a .pallix-recipe.json to draw it from"));
    auto* form = new QFormLayout;
    form->setVerticalSpacing(12);
    form->addRow(tr("&Job"), title_);
    form->addRow(tr("&Customer"), customer_);
    auto* file_row = new QHBoxLayout;
    auto* browse = new QPushButton(tr("C&hoose…"), this);
    browse->setAutoDefault(false);
    file_row->addWidget(file_, 1);
    file_row->addWidget(browse);
    auto* file_label = new PlainLabel(tr("&Blueprint"), this);
    file_label->setBuddy(file_); // a row with two widgets has none of its own, and would show its &
    form->addRow(file_label, file_row);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    open_ = buttons->button(QDialogButtonBox::Ok);
    open_->setText(tr("Open the job"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 24, 24, 16);
    column->setSpacing(16);
    column->addLayout(form);
    column->addWidget(faults_);
    column->addWidget(buttons);
    connect(browse, &QPushButton::clicked, this, [this] {
        const QString chosen = QFileDialog::getOpenFileName(this, tr("Choose a blueprint"), file_->text(),
                                                            tr("Blueprints and recipes (*.json)"));
        if (!chosen.isEmpty())
            file_->setText(chosen);
    });
    connect(buttons, &QDialogButtonBox::accepted, this, &NewJobDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &NewJobDialog::reject);
}

void NewJobDialog::accept() {
    if (title_->text().trimmed().isEmpty()) {
        faults_->show_faults({{"job", 0, "it has no name", "a name to find it by, such as the boat and engine"}});
        title_->setFocus();
        return;
    }
    const auto text = read_text_file(file_->text().trimmed());
    const auto opened = text.and_then([this](const block::NamedText& t) {
        const bool sure = std::exchange(asked_, {}) == t.text; // the same once more, after a question
        const auto done = context_.session.new_job(title_->text(), customer_->text(), t, sure);
        if (!done && context_.session.asks())
            asked_ = t.text;
        return done;
    });
    open_->setText(asked_.empty() ? tr("Open the job") : tr("Open it all the same"));
    if (!opened) {
        faults_->show_faults(opened.error());
        file_->setFocus();
        return;
    }
    context_.preferences.add_recent_file(file_->text().trimmed());
    QDialog::accept();
}

} // namespace pallix::ui
