// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/new_job_dialog.h"

#include "ui/dialogs/fault_list.h"
#include "ui/files.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <utility>

namespace pallix::ui {

NewJobDialog::NewJobDialog(Context context, const QString& blueprint_file, const QString& engine, QWidget* parent)
    : QDialog(parent), context_(context), title_(new QLineEdit(this)), customer_(new QLineEdit(this)),
      engine_(new QComboBox(this)), file_(new QLineEdit(blueprint_file, this)), file_row_(new QWidget(this)),
      faults_(new FaultList(context, this)) {
    set_explained(this, QStringLiteral("first-engine"));
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
    engine_->setObjectName(QStringLiteral("job-engine"));
    engine_->setAccessibleName(tr("engine of the shelf"));
    form->addRow(tr("&Engine"), engine_);
    auto* file_row = new QHBoxLayout(file_row_);
    file_row->setContentsMargins(0, 0, 0, 0);
    auto* browse = new QPushButton(tr("C&hoose…"), this);
    browse->setAutoDefault(false);
    file_row->addWidget(file_, 1);
    file_row->addWidget(browse);
    auto* file_label = new PlainLabel(tr("&Blueprint"), this);
    file_label->setBuddy(file_); // a row with two widgets has none of its own, and would show its &
    form->addRow(file_label, file_row_);
    connect(engine_, &QComboBox::currentIndexChanged, this, [this, file_label] {
        const bool by_file = engine_->currentData().toString().isEmpty();
        file_row_->setVisible(by_file);
        file_label->setVisible(by_file);
    });
    fill_engines(engine, !blueprint_file.isEmpty());
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
    const bool shelf = !engine_->currentData().toString().isEmpty();
    const auto opened = shelf ? open_from_shelf() : open_from_file();
    open_->setText(asked_.empty() ? tr("Open the job") : tr("Open it all the same"));
    if (!opened) {
        faults_->show_faults(opened.error());
        (shelf ? static_cast<QWidget*>(engine_) : file_)->setFocus();
        return;
    }
    if (!shelf)
        context_.preferences.add_recent_file(file_->text().trimmed());
    QDialog::accept();
}

/// The shelf first; what is not on it comes from a file.
void NewJobDialog::fill_engines(const QString& proposed, bool by_file) {
    if (const auto rows = context_.session.book().engines().rows())
        for (const storage::ShelfRow& row : *rows)
            if (!row.retired || row.name == proposed)
                engine_->addItem(tr("%1, revision %2").arg(row.name).arg(row.revision), row.name);
    engine_->addItem(tr("from a file"), QString());
    const int found = engine_->findData(proposed);
    engine_->setCurrentIndex(by_file ? engine_->count() - 1 : proposed.isEmpty() || found < 0 ? 0 : found);
    Q_EMIT engine_->currentIndexChanged(engine_->currentIndex());
}

session::Outcome NewJobDialog::open_from_shelf() {
    const QString name = engine_->currentData().toString();
    const auto shelf = context_.session.book().engines();
    const auto engine = shelf.engine(name);
    if (!engine)
        return tl::unexpected(session::as_faults(engine.error()));
    int revision = 0;
    if (const auto rows = shelf.rows())
        for (const storage::ShelfRow& row : *rows)
            if (row.name == name)
                revision = row.revision;
    return context_.session.new_job(title_->text(), customer_->text(), *engine, revision);
}

session::Outcome NewJobDialog::open_from_file() {
    return read_text_file(file_->text().trimmed()).and_then([this](const block::NamedText& t) {
        const bool sure = std::exchange(asked_, {}) == t.text; // the same once more, after a question
        const auto done = context_.session.new_job(title_->text(), customer_->text(), t, sure);
        if (!done && context_.session.asks())
            asked_ = t.text;
        return done;
    });
}

} // namespace pallix::ui
