// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/common/block_face.h"
#include "ui/frame/drawn_page.h"

#include <string>
#include <vector>

namespace pallix::planning {
struct Assessment;
}

namespace pallix::ui {

/// The whole block: from the rear with banks, tunnel, cam and lifters at their true angles, the tunnel from the side,
/// the decks unfolded; every feature in the state it is in, by shape and tone, the one that decides with its number.
class BlockDrawing final : public Drawing {
    Q_OBJECT
  public:
    explicit BlockDrawing(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 320}; }
    void refresh() override;
    /// The block as found instead of as it is, while a key is held.
    void show_as_found(bool found);
    [[nodiscard]] bool shows_as_found() const { return as_found_; }
    [[nodiscard]] TwinTable table() const;
    void press(std::size_t part) override;

  protected:
    void mouseReleaseEvent(QMouseEvent* event) override;
    [[nodiscard]] std::vector<Thing> things() const override;
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void keyReleaseEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    struct Panels {
        QRectF end, side;
        std::vector<QRectF> decks; ///< in the blueprint's order
        QRectF stages;
    };
    [[nodiscard]] Panels panels() const;
    /// What one part of the work is at, and where it stands below the block.
    struct StageCell {
        QString stage;
        planning::StageMark mark = {};
        QString text;
        QRectF name, words; ///< from the upper left corner of them all
    };
    /// From millimetres of a view to the screen.
    struct Map {
        QPointF origin;
        double scale = 1;
        [[nodiscard]] QPointF at(double x, double up) const { return origin + scale * QPointF(x, -up); }
    };
    [[nodiscard]] Map end_map(const QRectF& box) const;
    [[nodiscard]] Map deck_map(const QRectF& box, const std::string& bank) const;
    [[nodiscard]] const planning::Face* face(const block::FeatureId& id) const;
    [[nodiscard]] const std::vector<planning::Face>& faces() const { return as_found_ ? found_ : now_; }
    [[nodiscard]] QString number_of(const planning::Face& face) const;
    [[nodiscard]] QString words_of(const planning::Face& face) const;
    [[nodiscard]] QString name_of(const block::FeatureId& id) const;
    void set_line(QPainter& painter, const planning::Face* face, double width) const;

    void paint_end(QPainter& painter, const QRectF& box);
    void paint_bank(QPainter& painter, const Map& map, const std::string& bank);
    void paint_bank_words(QPainter& painter, const QRectF& box);
    void paint_side(QPainter& painter, const QRectF& box);
    [[nodiscard]] std::optional<std::vector<double>> mains_off_line() const;
    void paint_deck(QPainter& painter, const QRectF& box, const std::string& bank);
    void paint_hole(QPainter& painter, const planning::Face& face, QPointF middle, double radius, const QString& name);
    [[nodiscard]] std::vector<StageCell> stage_cells(double width) const;
    [[nodiscard]] double stages_height(double width) const; ///< so that nothing they say is cut off
    void paint_stages(QPainter& painter, const QRectF& box);

    bool as_found_ = false;
    std::vector<planning::Face> now_, found_;
    std::optional<std::size_t> found_for_; ///< how many entries the block as found was worked out from
};

} // namespace pallix::ui
