// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QDialog>
#include <string>

class QComboBox;
class QLineEdit;
class QPushButton;

namespace pallix::ui {

class FaultList;

/// A new job from a blueprint. Stays open, with the faults in place, until the job is taken or the person gives up.
class NewJobDialog : public QDialog {
    Q_OBJECT
  public:
    /// @param engine of the shelf that is proposed; the first of them where both are empty
    NewJobDialog(Context context, const QString& blueprint_file, const QString& engine, QWidget* parent = nullptr);

    void accept() override;

  private:
    void fill_engines(const QString& proposed, bool by_file);
    [[nodiscard]] session::Outcome open_from_shelf();
    [[nodiscard]] session::Outcome open_from_file();
    Context context_;
    QLineEdit* title_;
    QLineEdit* customer_;
    QComboBox* engine_;
    QLineEdit* file_;
    QWidget* file_row_;
    FaultList* faults_;
    QPushButton* open_ = nullptr;
    std::string asked_; ///< the blueprint that was asked about
};

} // namespace pallix::ui
