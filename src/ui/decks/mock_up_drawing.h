// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/decks/deck_consequences.h"
#include "ui/frame/drawn_page.h"

#include <string>

namespace pallix::ui {

/// Piston, deck, gasket and chamber of the marked cylinder at top dead centre, larger than life, and all the others as
/// a strip: what stands how far below its deck now and as planned, compression, quench.
class MockUpDrawing final : public Drawing {
    Q_OBJECT
  public:
    explicit MockUpDrawing(Context context, QWidget* parent = nullptr);
    [[nodiscard]] TwinTable table() const;
    [[nodiscard]] std::optional<block::FeatureId> first_of(const std::string& bank) const;

  protected:
    [[nodiscard]] std::vector<Thing> things() const override;
    void paintEvent(QPaintEvent* event) override;

  private:
    /// One cylinder as it stands and as the decks are planned.
    struct Cylinder {
        planning::CylinderAfter planned;
        const planning::PistonCrown* crown = nullptr;
        std::optional<double> now; ///< mm below the deck as it is
    };
    [[nodiscard]] std::vector<Cylinder> cylinders() const;
    void paint_strip(QPainter& painter, const std::vector<Cylinder>& all, const QRectF& box);
    void paint_chamber(QPainter& painter, const Cylinder& c, const QRectF& box);
    void paint_numbers(QPainter& painter, const Cylinder& c, const QRectF& box);
};

} // namespace pallix::ui
