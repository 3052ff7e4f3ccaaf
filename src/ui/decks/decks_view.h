// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/readings/reading_plan.h"
#include "ui/context.h"
#include "ui/view.h"

#include <optional>
#include <string>

class QLabel;
class QPushButton;
class QStackedWidget;

namespace pallix::ui {

class BankButtons;
class CutLevelBar;
class DeckDrawing;
class DrawnPage;
class FoundPage;
class MockUpDrawing;
class PageButtons;
class SetUpPage;

/// The decks, one bank at a time: as found, set up, cut pass by pass with the level to drag, mocked up.
class DecksView : public View {
    Q_OBJECT
  public:
    explicit DecksView(Context context, QWidget* parent = nullptr);
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
    /// Its head's face in the deck's place, on every page but the mock-up.
    void show_head(bool head);
    [[nodiscard]] bool shows_head() const { return head_; }
    void focus_level();
    [[nodiscard]] DrawnPage& passes() { return *passes_; }
    [[nodiscard]] planning::Answers painted(const planning::Step& step) const override;
    void answered() override;
    void show_asked(const std::optional<planning::AskedReading>& asked) override;
    /// Puts the cut level this far below the highest point, mm.
    void set_depth(double mm);

  Q_SIGNALS:
    void bank_changed();
    void step_wanted(const QString& step); ///< something was drawn that a step asks about
    void pointed_at(const pallix::block::FeatureId& id);
    void entered();

  private:
    void fill_bank();
    void fill_passes();
    void fill_head();
    void follow_call();
    void follow_level();
    void tell_consequences(double depth);
    void tell_planned();

    Context context_;
    std::string bank_;
    std::optional<storage::JobId> job_; ///< the job bank_ belongs to
    bool head_ = false;
    bool asked_of_head_ = false; ///< by the reading line, last
    /// What the level bar cuts: whose deck or head, its highest point and where the level rests on it, mm.
    struct Under {
        std::optional<storage::JobId> job;
        std::string bank;
        bool head = false;
        double top = 0, depth = 0;
        bool operator==(const Under&) const = default;
    };
    void rest_level(double depth);
    std::optional<Under> under_;
    double top_ = 0;     ///< w of the highest point of what the level bar cuts, mm
    std::string called_; ///< step that was called last
    QLabel* heading_;
    BankButtons* banks_;
    PageButtons* page_buttons_;
    QPushButton* head_button_;
    QStackedWidget* pages_;
    FoundPage* found_;
    SetUpPage* set_up_;
    MockUpDrawing* cylinders_;
    DrawnPage* mock_up_;
    DeckDrawing* drawing_;
    DrawnPage* passes_;
    QLabel *consequences_, *planned_;
    QLabel* depth_;
    QLabel* share_;
    CutLevelBar* level_;
    std::optional<block::FeatureId> marked_; ///< cylinder of the mock-up
};

} // namespace pallix::ui
