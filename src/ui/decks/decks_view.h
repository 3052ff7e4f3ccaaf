// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/readings/reading_plan.h"
#include "ui/context.h"
#include "ui/view.h"

#include <optional>
#include <string>

class QLabel;
class QStackedWidget;

namespace pallix::ui {

class BankButtons;
class CutLevelBar;
class DeckDrawing;
class DeckFacts;
class FoundPage;
class LivingLines;
class MockUpPage;
class PageButtons;
class PassForm;
class SetUpPage;
class TargetForm;

/// The decks, one bank at a time: as found, set up, cut pass by pass with the level to drag, mocked up.
class DecksView : public View {
    Q_OBJECT
  public:
    explicit DecksView(Context context, QWidget* parent = nullptr);
    QString help() const override;
    void refresh() override;

    enum class Page { found, set_up, passes, mock_up };
    [[nodiscard]] Page page() const;
    void show_page(Page page);
    void show_next_page();
    [[nodiscard]] FoundPage& found() { return *found_; }

    /// The bank on screen; nothing before a blueprint is there.
    [[nodiscard]] std::optional<std::string> bank() const;
    void show_bank(const std::string& bank);
    void show_other_bank();
    void focus_level();
    void focus_pass();
    void log_pass();
    void show_asked(const std::optional<planning::AskedReading>& asked);
    /// Puts the cut level this far below the highest point, mm.
    void set_depth(double mm);

  Q_SIGNALS:
    void bank_changed();

  private:
    void fill_bank();
    void fill_passes();
    void follow_level();
    void tell_consequences(double depth);

    Context context_;
    std::string bank_;
    std::optional<storage::JobId> job_; ///< the job bank_ belongs to
    QLabel* heading_;
    BankButtons* banks_;
    PageButtons* page_buttons_;
    QStackedWidget* pages_;
    FoundPage* found_;
    SetUpPage* set_up_;
    MockUpPage* mock_up_;
    TargetForm* target_;
    QLabel* empty_;
    QWidget* body_;
    LivingLines* consequences_;
    DeckDrawing* drawing_;
    QLabel* legend_;
    QLabel* depth_;
    QLabel* share_;
    CutLevelBar* level_;
    DeckFacts* facts_;
    PassForm* passes_;
};

} // namespace pallix::ui
