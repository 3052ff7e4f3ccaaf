// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"
#include "ui/view.h"

#include <optional>

class QStackedWidget;

namespace pallix::ui {

class BlockDrawing;
class DrawnPage;
class LineDrawing;
class MemoryDrawing;
class PageButtons;

/// The first view of a job: the whole block at a glance, and its job card. Pointing leads on to the page of what is
/// pointed at, or to the step that fills a line of the card.
class BlockView : public View {
    Q_OBJECT
  public:
    enum class Page { block, card, memory };

    explicit BlockView(Context context, QWidget* parent = nullptr);
    void refresh() override;
    void answered() override; ///< the next gap of the card is marked
    [[nodiscard]] DrawnPage& page() { return *page_; }
    [[nodiscard]] LineDrawing& card() { return *card_; }
    [[nodiscard]] MemoryDrawing& memory() { return *memory_; }
    void show_page(Page page);
    [[nodiscard]] Page shown() const;

  Q_SIGNALS:
    void feature_wanted(const pallix::block::FeatureId& id);
    void step_marked(const QString& step);
    void step_entered();

  private:
    Context context_;
    std::optional<block::FeatureId> marked_;
    BlockDrawing* drawing_;
    DrawnPage* page_;
    LineDrawing* card_;
    DrawnPage* card_page_;
    MemoryDrawing* memory_;
    DrawnPage* memory_page_;
    PageButtons* buttons_;
    QStackedWidget* pages_;
};

} // namespace pallix::ui
