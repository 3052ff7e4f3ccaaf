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

class Echo;

/// The planned depth as a bar of passes: filled where taken, outlined where still to come.
class PassTrack : public QWidget {
    Q_OBJECT
  public:
    explicit PassTrack(Context context, QWidget* parent = nullptr);
    void set_bank(const std::string& bank);
    QSize sizeHint() const override { return {300, 50}; }
    QSize minimumSizeHint() const override { return {200, 50}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Context context_;
    std::string bank_;
};

/// Logs one pass: what it was, how deep, whether it touched everywhere.
class PassForm : public QWidget {
    Q_OBJECT
  public:
    explicit PassForm(Context context, QWidget* parent = nullptr);

    void set_bank(const std::string& bank); ///< fills in the pass that is next
    /// @param brush mm, radius of each place
    void set_dark(const std::vector<metrology::Vec2>& dark, double brush);
    void take_focus();
    void log();
    void log_finish(); ///< roughness as measured, on its own

  Q_SIGNALS:
    void logged();

  private:
    void echo();

    Context context_;
    std::string bank_;
    std::vector<metrology::Vec2> dark_;
    double brush_ = block::DeckCut::default_brush;
    PassTrack* track_;
    QLabel* sum_;
    QComboBox* kind_;
    QLineEdit* depth_;
    QCheckBox* clean_;
    QCheckBox* rest_;
    QComboBox* finish_;
    QLineEdit* ra_;
    QPushButton* log_;
    Echo* echo_;
};

} // namespace pallix::ui
