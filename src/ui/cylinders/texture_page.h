// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/cylinders/texture.h"
#include "ui/frame/drawing.h"

#include <optional>

class QComboBox;
class QLabel;

namespace pallix::ui {

class Echo;
class PlainTable;

/// A roughness profile and beside it its material-ratio curve with the straight line through its flattest part.
class TraceDrawing : public Drawing {
    Q_OBJECT
  public:
    explicit TraceDrawing(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 220}; }
    void show_finding(std::optional<planning::TextureFinding> finding);
    [[nodiscard]] const std::optional<planning::TextureFinding>& finding() const { return finding_; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void paint_profile(QPainter& painter, const QRectF& room, double low, double high);
    void paint_curve(QPainter& painter, const QRectF& room, double low, double high);
    std::optional<planning::TextureFinding> finding_;
};

/// The wall under the stylus: a trace is read, worked out, and held against what the rings want.
class TexturePage : public QWidget {
    Q_OBJECT
  public:
    explicit TexturePage(Context context, QWidget* parent = nullptr);
    void show_bore(const std::optional<block::FeatureId>& bore);
    void take_trace(const QString& file = {}); ///< asks for a file where none is given

  private:
    void fill();
    void keep_limits();
    [[nodiscard]] block::TextureLimits limits_shown() const;

    Context context_;
    std::optional<block::FeatureId> bore_;
    TraceDrawing* drawing_;
    QLabel* words_;
    PlainTable* table_;
    QComboBox* rings_;
    Echo* echo_;
    std::string worked_out_for_;
};

} // namespace pallix::ui
