// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/drawing/dxf_engine.h"
#include "session/background.h"
#include "ui/context.h"
#include "ui/frame/spoken.h"

#include <QDialog>
#include <optional>
#include <set>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;
class QToolButton;

namespace pallix::ui {

class FaultList;

/// The circles and runs of a drawing; a click says what circles of a size are, or which cylinder is the front one.
class DxfPicture : public Spoken {
    Q_OBJECT
  public:
    explicit DxfPicture(Context context, QWidget* parent = nullptr);
    void show_drawing(const block::DxfDrawing* drawing, const std::vector<block::DxfGroup>* groups,
                      const block::DxfPlacing& placing);
    [[nodiscard]] std::vector<SpokenPart> spoken() const override;
    void press(std::size_t part) override;
    QSize minimumSizeHint() const override { return {600, 320}; }

    [[nodiscard]] metrology::Vec2 place_of(QPointF at) const; ///< in the drawing

  Q_SIGNALS:
    void group_pressed(int group);                                   ///< as a screen reader presses it
    void pressed(int group, std::size_t circle, metrology::Vec2 at); ///< group −1: no circle stands there

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    [[nodiscard]] QPointF at(metrology::Vec2 p) const;
    void fit();

    Context context_;
    const block::DxfDrawing* drawing_ = nullptr;
    const std::vector<block::DxfGroup>* groups_ = nullptr;
    block::DxfPlacing placing_;
    double scale_ = 1;
    metrology::Vec2 middle_;
};

/// Reads a drawing of a deck or gasket beside the window and shows what was understood before it is taken.
class DxfDialog : public QDialog {
    Q_OBJECT
  public:
    DxfDialog(Context context, const QString& file, block::Recipe base, QWidget* parent = nullptr);
    void accept() override;
    void reject() override;
    [[nodiscard]] bool reading() const { return reading_.running(); }
    [[nodiscard]] const std::optional<block::DxfTaken>& taken() const { return taken_; }

  private:
    void build();
    void read();
    void look_again();
    void change_role(int group);
    void take_press(int group, std::size_t circle, metrology::Vec2 at);
    void show_layers();
    [[nodiscard]] block::DxfPlacing placing() const;

    Context context_;
    QString file_;
    block::Recipe base_;
    block::DxfDrawing drawing_;
    std::vector<block::DxfGroup> groups_;
    std::optional<block::DxfTaken> taken_;
    DxfPicture* picture_;
    QLabel* words_;
    QComboBox *unit_, *press_says_;
    QToolButton* layers_;
    std::set<std::string> without_; ///< layers that are passed over
    std::optional<std::size_t> origin_;
    QLineEdit* pitch_;
    QCheckBox *other_end_, *mirrored_, *gasket_;
    QProgressBar* progress_;
    FaultList* faults_;
    QPushButton* take_ = nullptr;
    session::Background<block::Result<block::DxfDrawing>> reading_;
};

} // namespace pallix::ui
