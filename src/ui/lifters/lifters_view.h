// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/holes/bores_view.h"

namespace pallix::ui {

class DrawnPage;
class SectionRow;

/// The lifters: rows with their errors, sizes and timing, and the work on them.
class LiftersView : public BoresView {
    Q_OBJECT
  public:
    explicit LiftersView(Context context, QWidget* parent = nullptr);

    enum class Page { found, work };
    [[nodiscard]] Page page() const { return static_cast<Page>(page_index()); }
    void show_page(Page page) { show_page_index(static_cast<int>(page)); }
    [[nodiscard]] DrawnPage& work() const { return *work_; }

  protected:
    void fill_page() override;
    [[nodiscard]] std::optional<block::FeatureId> board_wants() const override;

  private:
    SectionRow* row_;
    DrawnPage* work_;
};

} // namespace pallix::ui
