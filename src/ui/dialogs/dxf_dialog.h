// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/drawing/dxf_engine.h"
#include "session/background.h"
#include "ui/context.h"
#include "ui/frame/spoken.h"

#include <QDialog>
#include <optional>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;

namespace pallix::ui {

class FaultList;

/// The circles and runs of a drawing; a click says what circles of a size are, or which cylinder is the front one.
class DxfPicture : public Spoken {
    Q_OBJECT
  public:
    explicit DxfPicture(Context context, QWidget* parent = nullptr);
    void show_drawing(const block::DxfDrawing* drawing, const std::vector<block::DxfGroup>* groups, bool other_end,
                      bool mirrored);
    [[nodiscard]] std::vector<SpokenPart> spoken() const override;
    void press(std::size_t part) override;
    QSize minimumSizeHint() const override { return {600, 320}; }

  Q_SIGNALS:
    void group_pressed(int group);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    [[nodiscard]] QPointF at(metrology::Vec2 p) const;
    void fit();

    Context context_;
    const block::DxfDrawing* drawing_ = nullptr;
    const std::vector<block::DxfGroup>* groups_ = nullptr;
    bool other_end_ = false, mirrored_ = false;
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
    [[nodiscard]] block::DxfPlacing placing() const;

    Context context_;
    QString file_;
    block::Recipe base_;
    block::DxfDrawing drawing_;
    std::vector<block::DxfGroup> groups_;
    std::optional<block::DxfTaken> taken_;
    DxfPicture* picture_;
    QLabel* words_;
    QComboBox* unit_;
    QLineEdit* pitch_;
    QCheckBox *other_end_, *mirrored_, *gasket_;
    QProgressBar* progress_;
    FaultList* faults_;
    QPushButton* take_ = nullptr;
    session::Background<block::Result<block::DxfDrawing>> reading_;
};

} // namespace pallix::ui
