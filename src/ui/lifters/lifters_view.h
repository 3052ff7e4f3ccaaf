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
class HolesPage;
class LifterWorkPage;
class PageButtons;

/// The lifters: rows with their errors, sizes and timing, and the work on them.
class LiftersView : public View {
    Q_OBJECT
  public:
    explicit LiftersView(Context context, QWidget* parent = nullptr);
    QString help() const override;
    void refresh() override;

    enum class Page { found, work };
    [[nodiscard]] Page page() const;
    void show_page(Page page);
    void show_next_page();
    [[nodiscard]] std::optional<std::string> bank() const;
    void show_bank(const std::string& bank);
    void show_other_bank();
    void mark(const block::FeatureId& id);
    [[nodiscard]] const std::optional<block::FeatureId>& marked() const { return marked_; }
    void show_asked(const std::optional<planning::AskedReading>& asked);
    void log_go();
    void show_sources();

  Q_SIGNALS:
    void scope_changed(); ///< another bank, page or lifter: the reading line follows

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
    LifterWorkPage* work_;
};

} // namespace pallix::ui
