// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/reading_plan.h"
#include "ui/context.h"
#include "ui/view.h"

#include <optional>
#include <string>

class QPushButton;
class QStackedWidget;

namespace pallix::ui {

class BankButtons;
class BorePage;
class HolesPage;
class HonePage;
class PageButtons;
class SizePage;
class SleevePage;
class TexturePage;

/// The cylinders: where they are, what size they become, and the way there, one page for each part of the work.
class CylindersView : public View {
    Q_OBJECT
  public:
    explicit CylindersView(Context context, QWidget* parent = nullptr);
    QString help() const override;
    void refresh() override;

    enum class Page { found, size, bore, hone, texture, sleeve };
    [[nodiscard]] Page page() const;
    void show_page(Page page);
    void show_next_page();
    [[nodiscard]] std::optional<std::string> bank() const;
    void show_bank(const std::string& bank);
    void show_other_bank();
    void mark(const block::FeatureId& id);
    [[nodiscard]] const std::optional<block::FeatureId>& marked() const { return marked_; }
    void show_asked(const std::optional<planning::AskedReading>& asked);
    void log_go();       ///< caret into the cut or the strokes
    void show_sources(); ///< entries of the ledger that the marked cylinder's numbers come from
    [[nodiscard]] TexturePage& texture() { return *texture_; }

  Q_SIGNALS:
    void scope_changed(); ///< another bank, page or cylinder: the reading line follows

  private:
    void fill();

    Context context_;
    std::string bank_;
    std::optional<block::FeatureId> marked_;
    std::optional<storage::JobId> job_;
    BankButtons* banks_;
    PageButtons* page_buttons_;
    QPushButton* sources_;
    QStackedWidget* pages_;
    HolesPage* found_;
    SizePage* size_;
    BorePage* bore_;
    HonePage* hone_;
    TexturePage* texture_;
    SleevePage* sleeve_;
};

} // namespace pallix::ui
