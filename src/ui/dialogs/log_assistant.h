// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/log_dialect.h"
#include "block/named_text.h"
#include "ui/context.h"

#include <QDialog>
#include <QStringList>
#include <map>
#include <string>
#include <vector>

class QComboBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QPushButton;

namespace pallix::ui {

class FaultList;
class PlainTable;

/// A probe log of another form: how it was understood, on its first rows; what is not known is asked for. How it is
/// read is kept by name and offered with the next one.
class LogAssistant : public QDialog {
    Q_OBJECT
  public:
    LogAssistant(Context context, block::NamedText log, QWidget* parent = nullptr);
    void accept() override;
    [[nodiscard]] std::string converted() const { return look_.converted ? look_.converted->log : std::string(); }

  private:
    void build();
    void try_what_is_kept();
    void show_look();
    void show_asks();
    void take_asks();

    Context context_;
    block::NamedText log_;
    block::LogMapping mapping_;
    block::LogLook look_;
    QLabel* words_;
    PlainTable* table_;
    QFormLayout* asks_;
    std::map<std::string, QComboBox*> columns_;  ///< of those that are not known
    std::map<std::string, QLineEdit*> features_; ///< by their names' patterns
    QComboBox* unit_;
    QLineEdit* name_;
    FaultList* faults_;
    QPushButton* take_ = nullptr;
};

} // namespace pallix::ui
