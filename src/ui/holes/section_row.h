// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawing.h"

#include <string>
#include <vector>

namespace pallix::ui {

/// Bores cut open, side by side: what all rows of sections have in common.
class SectionRow : public Drawing {
    Q_OBJECT
  public:
    /// @param name,spoken as of any drawing; @param one what is pointed at: "a hole"
    SectionRow(Context context, const QString& name, const QString& spoken, const QString& one, QWidget* parent);
    void show_bank(const std::string& bank);

  protected:
    struct Words {
        QString left, right; ///< over the row
        QString nothing;     ///< where there is none yet
    };
    [[nodiscard]] virtual Words words() const = 0;
    [[nodiscard]] virtual std::vector<block::FeatureId> bores() const = 0;
    [[nodiscard]] const std::string& bank() const { return bank_; } ///< empty: all of them
    /// Name and value of one, as it is heard.
    [[nodiscard]] virtual QString value_of(const block::FeatureId& id) const = 0;
    virtual void paint_section(QPainter& painter, const block::FeatureId& id, const QRectF& box) = 0;

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
[[nodiscard]] SectionRow* boring_row(Context context, QWidget* parent);
/// Stock left on the walls of every bore, where to dwell, the stones in the one that is on.
[[nodiscard]] SectionRow* hone_row(Context context, QWidget* parent);

} // namespace pallix::ui
