// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"
#include "ui/view.h"

#include <optional>

namespace pallix::ui {

class BlockDrawing;
class DrawnPage;

/// The first view of a job: the whole block at a glance. Pointing leads on to the page of what is pointed at.
class BlockView : public View {
    Q_OBJECT
  public:
    explicit BlockView(Context context, QWidget* parent = nullptr);
    void refresh() override;
    [[nodiscard]] DrawnPage& page() { return *page_; }

  Q_SIGNALS:
    void feature_wanted(const pallix::block::FeatureId& id);

  private:
    Context context_;
    std::optional<block::FeatureId> marked_;
    BlockDrawing* drawing_;
    DrawnPage* page_;
};

} // namespace pallix::ui
