// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace pallix::ui {

/// Which height the decks are cut to, and in what passes. Every choice is a ledger entry.
class TargetForm : public QWidget {
    Q_OBJECT
  public:
    explicit TargetForm(Context context, QWidget* parent = nullptr);
    void refresh();

  private:
    void choose();
    void edit_passes();
    void edit_cutter();
    bool read_number(block::DeckTargetChosen& chosen);

    Context context_;
    QComboBox* school_;
    QCheckBox* equal_;
    QLineEdit* height_;
    QPushButton *passes_, *cutter_;
    QLabel* echo_;
    bool filling_ = false; ///< fields are being set from the state, not by a person
};

} // namespace pallix::ui
