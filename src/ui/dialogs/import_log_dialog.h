// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/background.h"
#include "session/session.h"
#include "ui/context.h"

#include <QDialog>
#include <QStringList>

class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;

namespace pallix::ui {

class FaultList;

/// Takes probe logs into the open job, with the uncertainty that whoever probed it states.
class ImportLogDialog : public QDialog {
    Q_OBJECT
  public:
    ImportLogDialog(Context context, const QStringList& files, QWidget* parent = nullptr);

    void accept() override;
    void reject() override; ///< ends a read that is under way, then closes

  private:
    struct Read {
        session::Session::LogsToRead logs;
        session::Outcome done;
    };
    [[nodiscard]] std::optional<session::Session::LogsToRead> to_be_read(std::optional<double> uncertainty);
    void echo_uncertainty();
    void take(session::Session::LogsToRead logs, bool large);
    void end_read(Read read);
    void read_in_background(session::Session::LogsToRead logs);
    void ask_again();
    void finish(const block::Faults& faults);
    void show_busy(bool busy);

    Context context_;
    QLineEdit* files_;
    QLineEdit* uncertainty_;
    QLabel* echo_;
    FaultList* faults_;
    QProgressBar* progress_;
    QPushButton* take_;
    session::Background<Read> reading_;
    QStringList names_;
    bool sure_ = false; ///< the person was asked about what is doubtful
};

} // namespace pallix::ui
