// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QDialog>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QSpinBox;

namespace pallix::ui {

class Echo;

/// The cutter, how it is driven, and which gasket its finish is for; says what comes of it while it is typed.
class CutterDialog : public QDialog {
    Q_OBJECT
  public:
    CutterDialog(Context context, double deck_length, QWidget* parent = nullptr);

  private:
    [[nodiscard]] block::CutterFitted typed(bool& fine);
    void follow();
    void accept() override;

    Context context_;
    double deck_length_; ///< mm
    QLineEdit *diameter_, *nose_, *speed_, *feed_, *finish_speed_, *finish_feed_, *ra_;
    QSpinBox* teeth_;
    QCheckBox* new_inserts_;
    QComboBox* gasket_;
    QLabel *rough_, *fine_;
    Echo* echo_;
};

} // namespace pallix::ui
