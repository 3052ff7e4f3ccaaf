// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/common/board.h"
#include "ui/frame/drawing.h"

#include <QPolygonF>
#include <string>
#include <vector>

namespace pallix::ui {

/// The block as it is drawn so far: from the rear, its deck, its mains from the side, with dimension lines whose
/// numbers are edited where they stand, and a title block for figures that no line can hold.
class BoardDrawing final : public Drawing {
    Q_OBJECT
  public:
    /// What is shown of an engine: its block, or what goes with it.
    enum class Sheet { block, parts };

    /// @param board outlives the drawing
    BoardDrawing(Context context, const planning::Board& board, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 320}; }
    void refresh() override;
    void show_sheet(Sheet sheet);
    [[nodiscard]] Sheet sheet() const { return sheet_; }

    void show_other_bank();
    /// The sheet without what is only of the screen.
    void paint_sheet(QPainter& painter);

    void set_current(const std::string& key);
    [[nodiscard]] const std::string& current() const { return current_; }
    /// Where a figure's number stands; empty where it is not on this sheet.
    [[nodiscard]] QRectF place_of(const std::string& key) const;
    [[nodiscard]] bool in_table(const QRectF& place) const { return cells_box_.contains(place.center()); }
    [[nodiscard]] std::vector<SpokenPart> spoken() const override;
    void press(std::size_t part) override;

  Q_SIGNALS:
    void figure_chosen(const QString& key);

  protected:
    [[nodiscard]] std::vector<Thing> things() const override;
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    /// A number on the drawing, and how it is led up to.
    struct Spot {
        std::string key;
        QRectF box;
        double name_wide = 0; ///< of one in the title block: px for its name before it
    };
    struct Map {
        QPointF origin;
        double scale = 1;
        [[nodiscard]] QPointF at(double x, double up) const { return origin + scale * QPointF(x, -up); }
    };
    void lay_out();
    [[nodiscard]] QRectF inside(QRectF box) const; ///< the drawing
    void part_spots();
    void lay_out_end(const QRectF& box);
    void lay_out_deck(const QRectF& box);
    void lay_out_side(const QRectF& box);
    void lay_out_crank(const QRectF& box);
    void lay_out_cells(const QRectF& box, const std::vector<std::string>& keys);
    [[nodiscard]] std::vector<std::string> cells() const;
    void dimension(const std::string& key, QPointF from, QPointF to, double away);
    void leader(const std::string& key, QPointF at, QPointF to);
    [[nodiscard]] Map fit(const QRectF& box, const QRectF& mm) const;
    void paint_all(QPainter& painter) const;
    void paint_end(QPainter& painter) const;
    void paint_deck(QPainter& painter) const;
    void paint_side(QPainter& painter) const;
    void paint_crank(QPainter& painter) const;
    void paint_spot(QPainter& painter, const Spot& spot) const;
    void paint_questions(QPainter& painter) const;
    [[nodiscard]] QPointF lifter_place(const block::HoleBlueprint& lifter) const;
    [[nodiscard]] QString text_of(const std::string& key) const;
    [[nodiscard]] const block::Blueprint& b() const { return board_.sketch().blueprint; }
    /// The one whose deck is shown.
    [[nodiscard]] const block::BankBlueprint& bank() const { return b().banks[bank_ % b().banks.size()]; }

    const planning::Board& board_;
    Sheet sheet_ = Sheet::block;
    std::size_t bank_ = 0;
    std::string current_;
    std::vector<Spot> spots_;
    std::vector<QPolygonF> lines_; ///< of the dimensions
    Map end_, deck_, side_, crank_;
    QRectF end_box_, deck_box_, side_box_, cells_box_;
};

} // namespace pallix::ui
