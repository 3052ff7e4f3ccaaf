// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/import_log_dialog.h"

#include "block/log_dialect.h"
#include "block/probe_log.h"
#include "block/shorthand.h"
#include "block/state/job_state.h"
#include "session/certainty_work.h"
#include "ui/dialogs/fault_list.h"
#include "ui/dialogs/log_assistant.h"
#include "ui/files.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"

#include <QDialogButtonBox>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>

namespace pallix::ui {
namespace {
const auto between_files = QStringLiteral("; ");
}

namespace {

/// By its first bytes: what cannot be read is left to the read that names why.
bool begins_like_ours(const QString& name) {
    constexpr qint64 enough = 20'000;
    QFile file(name);
    return !file.open(QIODevice::ReadOnly) || block::is_probe_log(file.read(enough).toStdString());
}

std::optional<block::Blueprint> blueprint_of_job(const Context& context) {
    const auto& blueprint = intake_of(context.session.state()).blueprint;
    return blueprint ? std::optional(*blueprint) : std::nullopt;
}

} // namespace

ImportLogDialog::ImportLogDialog(Context context, const QStringList& files, QWidget* parent)
    : QDialog(parent), context_(context), files_(new QLineEdit(files.join(between_files), this)),
      uncertainty_(new QLineEdit(this)), echo_(new PlainLabel(this)), faults_(new FaultList(context, this)),
      progress_(new QProgressBar(this)) {
    set_explained(this, QStringLiteral("questions-file"));
    setWindowTitle(tr("Take in probe logs"));
    setMinimumWidth(620);
    files_->setObjectName(QStringLiteral("log-files"));
    files_->setPlaceholderText(tr("one or more .csv files"));
    uncertainty_->setObjectName(QStringLiteral("log-uncertainty"));
    uncertainty_->setPlaceholderText(tr("e.g. 2 µm or 0.5 tenths"));
    auto* form = new QFormLayout;
    form->setVerticalSpacing(12);
    auto* file_row = new QHBoxLayout;
    auto* browse = new QPushButton(tr("C&hoose…"), this);
    browse->setAutoDefault(false);
    file_row->addWidget(files_, 1);
    file_row->addWidget(browse);
    auto* file_label = new PlainLabel(tr("&Logs"), this);
    file_label->setBuddy(files_); // a row with two widgets has none of its own, and would show its &
    form->addRow(file_label, file_row);
    form->addRow(tr("&Standard uncertainty of one touch"), uncertainty_);
    form->addRow(QString(), echo_);
    set_type(echo_, Type::small);
    echo_->setWordWrap(true);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    take_ = buttons->button(QDialogButtonBox::Ok);
    take_->setText(tr("Take in"));
    progress_->setRange(0, 100);
    progress_->setObjectName(QStringLiteral("log-progress"));
    progress_->setAccessibleName(tr("reading the logs"));
    progress_->hide();
    connect(&context_.session, &session::Session::logs_taken, this, &ImportLogDialog::finish);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 24, 24, 16);
    column->setSpacing(16);
    column->addLayout(form);
    column->addWidget(faults_);
    column->addWidget(progress_);
    column->addWidget(buttons);
    connect(browse, &QPushButton::clicked, this, [this] {
        const QStringList chosen =
            QFileDialog::getOpenFileNames(this, tr("Choose probe logs"), files_->text(),
                                          tr("Probe logs (*.csv *.txt *.tsv *.log *.dat);;All files (*)"));
        if (!chosen.isEmpty())
            files_->setText(chosen.join(between_files));
    });
    connect(uncertainty_, &QLineEdit::textChanged, this, &ImportLogDialog::echo_uncertainty);
    connect(files_, &QLineEdit::textChanged, this, &ImportLogDialog::ask_again);
    connect(buttons, &QDialogButtonBox::accepted, this, &ImportLogDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &ImportLogDialog::reject);
    echo_uncertainty();
    (files.isEmpty() ? files_ : uncertainty_)->setFocus();
}

void ImportLogDialog::echo_uncertainty() {
    const QString text = uncertainty_->text().trimmed();
    if (text.isEmpty()) {
        echo_->setText(tr("Left empty, what the log itself states holds; without that no verdict can be given."));
        return;
    }
    const auto mm = block::read_length(text.toStdString(), context_.preferences.unit());
    echo_->setText(mm && *mm > 0 ? tr("understood: %1").arg(qt(context_.lengths().fine(*mm)))
                   : mm          ? tr("It must be greater than 0.")
                                 : qt(mm.error()));
}

void ImportLogDialog::accept() {
    std::optional<double> uncertainty;
    if (const QString text = uncertainty_->text().trimmed(); !text.isEmpty()) {
        const auto mm = block::read_length(text.toStdString(), context_.preferences.unit());
        if (!mm || !(*mm > 0)) {
            uncertainty_->setFocus(); // the reason stands beside the field
            return;
        }
        uncertainty = *mm;
    }
    names_.clear();
    qint64 size = 0;
    for (const QString& name : files_->text().split(QLatin1Char(';'), Qt::SkipEmptyParts)) {
        names_ << name.trimmed();
        size += QFileInfo(names_.back()).size();
    }
    constexpr qint64 small = 300'000; // bytes: read before a progress bar could be drawn
    auto made = to_be_read(uncertainty);
    if (!made)
        return;
    session::Session::LogsToRead to_read = std::move(*made);
    if (size > small)
        return read_in_background(std::move(to_read));
    if (const auto read = session::Session::read_logs(to_read); !read)
        return finish(read.error());
    take(std::move(to_read), false);
}

/// Logs of our own form by their files; where one is of another, all of them as texts, that one as it was converted.
/// @return nothing where the person left a log of another form
std::optional<session::Session::LogsToRead> ImportLogDialog::to_be_read(std::optional<double> uncertainty) {
    const QStringList files = names_.isEmpty() ? QStringList{QString()} : names_;
    std::vector<block::NamedText> logs;
    std::map<std::string, std::string> originals;
    for (const QString& file : files) {
        auto text = begins_like_ours(file) ? block::Result<block::NamedText>(tl::unexpected(block::Faults{}))
                                           : read_text_file(file);
        if (!text)
            continue; // ours, or a fault that the read will name
        LogAssistant assistant(context_, *text, blueprint_of_job(context_), this);
        if (assistant.exec() != QDialog::Accepted)
            return std::nullopt;
        originals[text->file] = text->text;
        logs.push_back({text->file, assistant.converted()});
    }
    if (logs.empty())
        return context_.session.logs_to_read(files, uncertainty);
    for (const QString& file : files) {
        auto text = read_text_file(file);
        if (!text) {
            faults_->show_faults(text.error());
            return std::nullopt;
        }
        if (!originals.contains(text->file))
            logs.push_back(std::move(*text));
    }
    return context_.session.logs_to_read(std::move(logs), uncertainty, originals);
}

void ImportLogDialog::read_in_background(session::Session::LogsToRead logs) {
    show_busy(true);
    reading_.start(
        [logs = std::move(logs)](const session::Errand& errand) {
            Read read{logs, {}};
            const block::ReadWatch watch{errand.progress, errand.cancelled};
            read.done = session::Session::read_logs(read.logs, &watch);
            return read;
        },
        {[this](Read read) { end_read(std::move(read)); },
         [this](const QString& why) {
             finish({{"log", 0, "it cannot be worked out (" + why.toStdString() + ")", "a log of this block"}});
         },
         [this](double share) { progress_->setValue(static_cast<int>(share * progress_->maximum())); }});
}

void ImportLogDialog::end_read(Read read) {
    if (!read.done)
        return finish(read.done.error());
    progress_->setRange(0, 0); // writing takes as long as the disk takes
    take(std::move(read.logs), true);
}

/// What is doubtful of the logs is shown first; asked for once more, they are taken as they are.
/// @param large written in the background too
void ImportLogDialog::take(session::Session::LogsToRead logs, bool large) {
    const auto taken = large ? context_.session.begin_to_take(std::move(logs), sure_)
                             : context_.session.take_read_logs(std::move(logs), sure_);
    if (!taken && context_.session.asks()) {
        sure_ = true;
        take_->setText(tr("Take them all the same"));
        echo_->setText(tr("These numbers are not what was to be expected. Is it the right log, in the right unit?"));
    }
    if (!taken || !large)
        finish(taken ? block::Faults{} : taken.error());
}

/// Other files, other doubts.
void ImportLogDialog::ask_again() {
    sure_ = false;
    take_->setText(tr("Take in"));
}

/// With faults the dialog stays and shows them; without, everything is taken in and it closes.
void ImportLogDialog::finish(const block::Faults& faults) {
    show_busy(false);
    faults_->show_faults(faults);
    if (!faults.empty())
        return;
    for (const QString& name : names_)
        context_.preferences.add_recent_file(name);
    QDialog::accept();
}

void ImportLogDialog::show_busy(bool busy) {
    progress_->setVisible(busy);
    progress_->setRange(0, 100);
    progress_->setValue(0);
    for (QWidget* w : std::initializer_list<QWidget*>{files_, uncertainty_, take_})
        w->setEnabled(!busy);
}

void ImportLogDialog::reject() {
    if (progress_->isVisible() && !reading_.running())
        return;               // it is being written
    if (reading_.running()) { // the first time only the read ends
        reading_.cancel();
        show_busy(false);
        echo_->setText(tr("The read was ended; nothing was taken in."));
        return;
    }
    QDialog::reject();
}

} // namespace pallix::ui
