// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/holes/bores_view.h"

namespace pallix::ui {

class BorePage;
class HonePage;
class SizePage;
class SleevePage;
class TexturePage;

/// The cylinders: where they are, what size they become, and the way there, one page for each part of the work.
class CylindersView : public BoresView {
    Q_OBJECT
  public:
    explicit CylindersView(Context context, QWidget* parent = nullptr);
    QString help() const override;

    enum class Page { found, size, bore, hone, texture, sleeve };
    [[nodiscard]] Page page() const { return static_cast<Page>(page_index()); }
    void show_page(Page page) { show_page_index(static_cast<int>(page)); }
    void log_go() override; ///< caret into the cut or the strokes
    [[nodiscard]] TexturePage& texture() { return *texture_; }

  protected:
    void fill_page() override;
    [[nodiscard]] std::optional<block::FeatureId> board_wants() const override;

  private:
    SizePage* size_;
    BorePage* bore_;
    HonePage* hone_;
    TexturePage* texture_;
    SleevePage* sleeve_;
};

} // namespace pallix::ui
