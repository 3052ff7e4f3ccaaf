// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/readings/reading_plan.h"
#include "ui/context.h"
#include "ui/view.h"

#include <optional>
#include <string>
#include <vector>

class QLabel;
class QStackedWidget;

namespace pallix::ui {

class BankButtons;
class DrawnPage;
class HolesPage;
class PageButtons;

/// What the views of cylinders and of lifters have in common: pages of which the first is as found, banks, one bore
/// that is marked, and the entries that its numbers come from.
class BoresView : public View {
    Q_OBJECT
  public:
    void refresh() override;
    void show_next_page();
    [[nodiscard]] std::optional<std::string> bank() const;
    void show_bank(const std::string& bank);
    void show_other_bank();
    void mark(const block::FeatureId& id);
    [[nodiscard]] const std::optional<block::FeatureId>& marked() const { return marked_; }
    void show_asked(const std::optional<planning::AskedReading>& asked) override;
    void show_sources(); ///< entries of the ledger that the marked bore's numbers come from

  Q_SIGNALS:
    void scope_changed();                                ///< another bank, page or bore: the reading line follows
    void pointed_at(const pallix::block::FeatureId& id); ///< by a person: the call speaks of it
    void entered();                                      ///< Enter on what is marked

  protected:
    void resizeEvent(QResizeEvent* event) override;
    /// @param kind cylinders or lifters
    BoresView(Context context, block::FeatureKind kind, const QString& heading, const QStringList& pages,
              QWidget* parent);

    void explain_pages(const QStringList& ids); ///< where the manual speaks of each
    void add_page(QWidget* page);
    void add_drawn(DrawnPage* page);
    [[nodiscard]] int page_index() const;
    void show_page_index(int page);
    [[nodiscard]] const std::string& bank_id() const { return bank_; }
    [[nodiscard]] const Context& context() const { return context_; }

    virtual void fill_page() = 0; ///< puts the marked bore on the page on screen; the others follow when they are shown
    /// The bore that the board on this page waits for; nothing where a person looks where they like.
    [[nodiscard]] virtual std::optional<block::FeatureId> board_wants() const = 0;

  private:
    void fill();
    [[nodiscard]] const std::vector<block::HoleBlueprint>& holes() const;

    Context context_;
    block::FeatureKind kind_;
    std::string bank_;
    std::optional<block::FeatureId> marked_;
    std::optional<storage::JobId> job_;
    QLabel* heading_;
    BankButtons* banks_;
    PageButtons* page_buttons_;
    QStackedWidget* pages_;
    HolesPage* found_;
};

} // namespace pallix::ui
