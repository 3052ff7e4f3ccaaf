// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/decks/set_up.h"
#include "planning/readings/reading_plan.h"
#include "ui/frame/drawn_page.h"

#include <optional>
#include <string>

class QLabel;

namespace pallix::ui {

/// The block on its feet, tilted larger than life: the deck with what the indicator reads at its corners, and the feet,
/// each with what it has to do. A foot is dragged to where it stands.
class SetUpDrawing final : public Drawing {
    Q_OBJECT
  public:
    explicit SetUpDrawing(Context context, QWidget* parent = nullptr);
    void show_bank(const std::string& bank, bool head);
    void set_asked(const std::optional<planning::AskedReading>& asked);
    QSize minimumSizeHint() const override { return {420, 260}; }
    [[nodiscard]] std::vector<SpokenPart> spoken() const override;
    [[nodiscard]] TwinTable table() const;
    [[nodiscard]] const planning::SetUpLie& lie() const { return lie_; }

  Q_SIGNALS:
    void feet_moved(const pallix::block::SetUpRead& set_up);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    /// The deck as it is seen, tilted: from (u, v) and how high it stands there to the screen, and back at no height.
    struct View {
        QPointF middle;
        double scale = 1, lift = 0; ///< px per mm, in plan and of height
        double slant = 1;           ///< how near together the far side is drawn
        metrology::Vec2 centre;
        [[nodiscard]] QPointF at(metrology::Vec2 place, double height = 0) const;
        [[nodiscard]] metrology::Vec2 place(QPointF screen) const;
    };
    [[nodiscard]] View view() const;
    [[nodiscard]] double tilt_at(metrology::Vec2 place) const; ///< mm above the middle
    void move_foot(std::size_t foot, metrology::Vec2 to);
    [[nodiscard]] std::optional<double> raise_of(std::size_t foot) const; ///< mm
    void paint_leg(QPainter& painter, const View& v, std::size_t foot);
    void paint_foot(QPainter& painter, const View& v, std::size_t foot);
    void paint_corners(QPainter& painter, const View& v);

    std::string bank_;
    void look(block::SetUpRead set_up);
    [[nodiscard]] const block::SetUpRead& set_up() const { return lie_.read; }
    [[nodiscard]] const std::optional<planning::SetUpCorrection>& correction() const { return lie_.correction; }

    bool head_ = false;
    planning::SetUpLie lie_;
    std::optional<planning::AskedReading> asked_;
    std::optional<std::size_t> gripped_;
    std::size_t foot_ = 0; ///< of the keyboard
};

/// Readings at the corners, which foot has to do what, whether the datum is confirmed; and what the machine is set to.
class SetUpPage : public DrawnPage {
    Q_OBJECT
  public:
    explicit SetUpPage(Context context, QWidget* parent = nullptr);
    void show_bank(const std::string& bank, bool head);
    void show_asked(const std::optional<planning::AskedReading>& asked) { set_up_->set_asked(asked); }

  private:
    SetUpPage(Context context, SetUpDrawing* drawing, QWidget* parent);
    void fill_words();

    Context context_;
    std::string bank_;
    bool head_ = false;
    SetUpDrawing* set_up_;
    QLabel* words_;
};

} // namespace pallix::ui
