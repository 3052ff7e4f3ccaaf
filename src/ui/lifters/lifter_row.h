// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/holes/section_row.h"

namespace pallix::ui {

/// The lifter bores of a bank, cut open: what becomes of each, its seat, its bush, its inside, and below how its valve
/// is timed.
class LifterRow final : public SectionRow {
    Q_OBJECT
  public:
    explicit LifterRow(Context context, QWidget* parent = nullptr);

  protected:
    [[nodiscard]] std::vector<block::FeatureId> bores() const override;
    [[nodiscard]] QString value_of(const block::FeatureId& id) const override;
    void paint_section(QPainter& painter, const block::FeatureId& id, const QRectF& box) override;
    [[nodiscard]] QString head_left() const override;
    [[nodiscard]] QString head_right() const override;
    [[nodiscard]] QString nothing_yet() const override;

  private:
    void paint_timing(QPainter& painter, const block::FeatureId& id, const QRectF& box);
};

} // namespace pallix::ui
