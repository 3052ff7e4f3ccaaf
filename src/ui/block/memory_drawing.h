// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/shop/kind_memory.h"
#include "session/shop_model.h"
#include "ui/frame/drawn_page.h"

#include <vector>

namespace pallix::ui {

/// What the shop's other blocks of this kind were like: a strip for each trait, with every block on it and the present
/// one marked, and what that says in words.
class MemoryDrawing final : public Drawing {
    Q_OBJECT
  public:
    explicit MemoryDrawing(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 320}; }
    void refresh() override; ///< the other blocks are those of when it came on screen
    [[nodiscard]] TwinTable table() const;
    [[nodiscard]] std::vector<SpokenPart> spoken() const override;
    [[nodiscard]] const std::vector<planning::TraitMemory>& memory() const { return memory_; }

  protected:
    void paintEvent(QPaintEvent* event) override;
    void showEvent(QShowEvent* event) override;

  private:
    void remember();
    [[nodiscard]] QRectF box_of(std::size_t i) const;
    void paint_strip(QPainter& painter, const QRectF& box, const planning::TraitMemory& memory) const;

    session::ShopModel shop_;
    std::vector<planning::TraitMemory> memory_;
    std::size_t blocks_ = 0; ///< others of this kind
};

} // namespace pallix::ui
