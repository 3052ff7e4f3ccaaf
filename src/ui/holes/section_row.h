// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawing.h"

#include <string>
#include <vector>

namespace pallix::planning {
struct HoneBore;
}

namespace pallix::ui {

/// Bores cut open, side by side: what all rows of sections have in common.
class SectionRow : public Drawing {
    Q_OBJECT
  public:
    using Drawing::Drawing;
    void show_bank(const std::string& bank);

  protected:
    [[nodiscard]] virtual std::vector<block::FeatureId> bores() const = 0;
    [[nodiscard]] const std::string& bank() const { return bank_; } ///< empty: all of them
    /// Name and value of one, as it is heard.
    [[nodiscard]] virtual QString value_of(const block::FeatureId& id) const = 0;
    virtual void paint_section(QPainter& painter, const block::FeatureId& id, const QRectF& box) = 0;
    [[nodiscard]] virtual QString head_left() const = 0;
    [[nodiscard]] virtual QString head_right() const = 0;
    [[nodiscard]] virtual QString nothing_yet() const = 0;

    [[nodiscard]] std::vector<Thing> things() const override;
    void paintEvent(QPaintEvent* event) override;
    /// Both walls of a section, and what stands on them: `stock` px from top to bottom, left and right alike.
    void paint_walls(QPainter& painter, const QRectF& section, const std::vector<double>& stock) const;
    /// px that stock on one wall may take, so that numbers stand clear of it.
    [[nodiscard]] double most_stock(const QRectF& section) const;

  private:
    std::string bank_;
};

/// Holes to bore, the worst first, with the tool in the one that is on.
class BoringRow final : public SectionRow {
    Q_OBJECT
  public:
    explicit BoringRow(Context context, QWidget* parent = nullptr);

  protected:
    [[nodiscard]] std::vector<block::FeatureId> bores() const override;
    [[nodiscard]] QString value_of(const block::FeatureId& id) const override;
    void paint_section(QPainter& painter, const block::FeatureId& id, const QRectF& box) override;
    [[nodiscard]] QString head_left() const override;
    [[nodiscard]] QString head_right() const override;
    [[nodiscard]] QString nothing_yet() const override;
};

/// Stock left on the walls of every bore, where to dwell, the stones in the one that is on.
class HoneRow final : public SectionRow {
    Q_OBJECT
  public:
    explicit HoneRow(Context context, QWidget* parent = nullptr);

  protected:
    [[nodiscard]] std::vector<block::FeatureId> bores() const override;
    [[nodiscard]] QString value_of(const block::FeatureId& id) const override;
    void paint_section(QPainter& painter, const block::FeatureId& id, const QRectF& box) override;
    [[nodiscard]] QString head_left() const override;
    [[nodiscard]] QString head_right() const override;
    [[nodiscard]] QString nothing_yet() const override;

  private:
    void paint_foot(QPainter& painter, const planning::HoneBore& b, const QRectF& line, bool on);
};

} // namespace pallix::ui
