// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/holes/bores_view.h"

namespace pallix::ui {

class DrawnPage;
class SectionRow;

/// The cylinders: where they are, what size they become, and the way there, one page for each part of the work.
class CylindersView : public BoresView {
    Q_OBJECT
  public:
    explicit CylindersView(Context context, QWidget* parent = nullptr);

    enum class Page { found, size, bore, hone, texture, sleeve };
    [[nodiscard]] Page page() const { return static_cast<Page>(page_index()); }
    void show_page(Page page) { show_page_index(static_cast<int>(page)); }
    /// Takes a roughness trace into the marked cylinder. @param file empty: asks for one
    void take_trace(const QString& file);
    /// The page on screen; null for the one of positions.
    [[nodiscard]] DrawnPage* drawn() const;

  protected:
    void fill_page() override;
    [[nodiscard]] std::optional<block::FeatureId> board_wants() const override;

  private:
    std::vector<DrawnPage*> drawn_; ///< from the second page on
    std::vector<SectionRow*> rows_; ///< which show one bank at a time
};

} // namespace pallix::ui
