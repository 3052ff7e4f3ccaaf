// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawn_page.h"

#include <map>
#include <vector>

namespace pallix::planning {
struct StockLeft;
}

namespace pallix::ui {

/// Stock left per main, end and way, as tall as it is; what is in size, too large or no longer true, by shape and word.
class StockChart final : public Drawing {
    Q_OBJECT
  public:
    explicit StockChart(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 220}; }
    [[nodiscard]] TwinTable table() const;

  protected:
    [[nodiscard]] std::vector<Thing> things() const override;
    void paintEvent(QPaintEvent* event) override;

  private:
    [[nodiscard]] std::map<int, std::vector<const planning::StockLeft*>> mains() const;
    [[nodiscard]] QRectF room() const;
};

} // namespace pallix::ui
