// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawing.h"

#include <optional>

namespace pallix::ui {

/// One bore opened across the crankshaft: its levels about the blueprint's axis, the lean of its own, the walls beside
/// it. Sideways it is drawn larger than life.
class BoreSection : public Drawing {
    Q_OBJECT
  public:
    explicit BoreSection(Context context, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {190, 180}; }
    void show_bore(const block::FeatureId& id);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    [[nodiscard]] const block::HoleResult* hole() const;
    std::optional<block::FeatureId> id_;
};

} // namespace pallix::ui
