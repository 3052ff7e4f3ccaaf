// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawing.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QVBoxLayout;

namespace pallix::ui {

class Echo;

/// Stock left per main, end and way, as tall as it is; what is in size, too large or no longer true, by shape and word.
class StockChart : public Drawing {
    Q_OBJECT
  public:
    explicit StockChart(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 220}; }
    void refresh();

  protected:
    void paintEvent(QPaintEvent* event) override;
};

/// The board beside the machine: caps, strokes or passes, stock left, when to stop.
class WorkBoard : public QWidget {
    Q_OBJECT
  public:
    explicit WorkBoard(Context context, QWidget* parent = nullptr);
    void refresh();
    void log_pass();
    void take_focus();

  private:
    void fill_steps();

    Context context_;
    QVBoxLayout* steps_;
    StockChart* chart_;
    QLabel* words_;
    QComboBox* kind_;
    QLineEdit *strokes_, *protrusion_;
    QCheckBox* new_cutter_;
    QPushButton* log_;
    QLabel* bar_;
    QLineEdit* bar_size_;
    QLineEdit* jacks_;
    Echo* echo_;
};

} // namespace pallix::ui
