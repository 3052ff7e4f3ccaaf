// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawing.h"

#include <array>
#include <optional>

class QCheckBox;
class QLabel;
class QLineEdit;

namespace pallix::ui {

class Echo;
class FigureForm;

/// A sleeve in its seat, cut open: the step it sits on, how far it stands proud, its six outside readings.
class SleeveDrawing : public Drawing {
    Q_OBJECT
  public:
    explicit SleeveDrawing(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {420, 200}; }
    void show_bore(const std::optional<block::FeatureId>& bore);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::optional<block::FeatureId> bore_;
};

/// From a bore that is to be sleeved to a sleeve that sits: readings, seat, force or heat, flush.
class SleevePage : public QWidget {
    Q_OBJECT
  public:
    explicit SleevePage(Context context, QWidget* parent = nullptr);
    void show_bore(const std::optional<block::FeatureId>& bore);

  private:
    void fill();
    void keep();
    void log_fitted();

    Context context_;
    std::optional<block::FeatureId> bore_;
    SleeveDrawing* drawing_;
    QLabel* words_;
    FigureForm* form_;
    QCheckBox* heated_;
    QLineEdit *proud_, *note_;
    Echo* echo_;
};

} // namespace pallix::ui
