// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawing.h"

#include <optional>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QTimer;

namespace pallix::ui {

class Echo;
class FigureForm;

/// Stock left in every bore: top, middle and bottom, both ways, as a wall cut open; what is in size by shape and word.
class StockGrid : public Drawing {
    Q_OBJECT
  public:
    explicit StockGrid(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 210}; }
    void mark(const std::optional<block::FeatureId>& id);
    void refresh();

  Q_SIGNALS:
    void pointed_at(const block::FeatureId& id);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void paint_bore(QPainter& painter, const planning::HoneBore& bore, const QRectF& box, double largest);
    [[nodiscard]] const std::vector<planning::HoneBore>& bores() const;
    std::optional<block::FeatureId> marked_;
};

/// The hone's board: stock left, shape, grits, cross-hatch, the rest, what is ticked at the end.
class HonePage : public QWidget {
    Q_OBJECT
  public:
    explicit HonePage(Context context, QWidget* parent = nullptr);
    void show_bore(const std::optional<block::FeatureId>& bore);
    void take_focus();

  Q_SIGNALS:
    void marked(const block::FeatureId& id);

  private:
    QWidget* build_log_row();
    void fill_plan();
    void fill_words();
    void tell_rest();
    void keep_plan();
    void log_honing();
    void tick();
    [[nodiscard]] const planning::HoneBore* bore() const;

    Context context_;
    std::optional<block::FeatureId> bore_;
    StockGrid* grid_;
    QLabel* words_;
    QLabel* name_;
    QLineEdit *strokes_, *load_;
    QComboBox* step_;
    QPushButton *log_, *rest_;
    QLineEdit* minutes_;
    QLabel* clock_;
    QTimer* timer_;
    QComboBox* ticks_;
    QLineEdit *reading_, *seen_;
    FigureForm* form_;
    QComboBox *abrasive_, *counted_;
    QLabel* hatch_;
    QLineEdit* steps_;
    Echo* echo_;
    std::string filled_for_;
};

} // namespace pallix::ui
