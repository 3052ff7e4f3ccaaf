// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/steps/answer.h"
#include "ui/context.h"
#include "ui/frame/route_panel.h"

#include <QTimer>
#include <QWidget>
#include <chrono>
#include <functional>
#include <optional>
#include <string>
#include <vector>

class QLabel;
class QLineEdit;
class QPushButton;

namespace pallix::ui {

class StepForm;

/// On the right, the same on every page: one step, its number, why, and its answer: the few fields it asks for, filled
/// with what is proposed, and one button named by what was done. It speaks of what is called for, of the next step of
/// what is marked, or of one that was picked from the others.
class CallPanel : public QWidget {
    Q_OBJECT
  public:
    /// What the page on screen adds to an answer: places painted on a deck, caps as they were dragged.
    using Painted = std::function<planning::Answers(const planning::Step&)>;

    explicit CallPanel(Context context, QWidget* parent = nullptr);
    void set_painted(Painted painted) { painted_ = std::move(painted); }

    /// @param here the page on screen: it is not named to who stands on it
    void refresh(Place here);
    /// Speaks of the next step of what was marked; of the call where it has none.
    void mark(const std::optional<block::FeatureId>& about);
    void speak_of(const std::string& step); ///< by its id; empty for the call
    void speak_of_the_call();               ///< from the next refresh on
    void answer();                          ///< as the fields have it
    void later();                           ///< the next step that could be done
    void show_others();                     ///< all that could be done, to pick from by typing
    void take_focus();                      ///< the caret into the first field, or onto the button
    [[nodiscard]] std::optional<planning::Step> step() const;
    /// What was done at another bench.
    /// @param another the step spoken of is not the one of a moment ago: for a second nothing answers it
    void say_of_others(const QString& words, bool another) {
        say(words, true);
        if (another)
            settled_.start(std::chrono::seconds(1));
    }

  Q_SIGNALS:
    void contradicted(); ///< somebody else had answered it before
    void answered(const QString& step);
    void place_wanted(Place place); ///< the step is done there
    void logs_wanted();             ///< its answer is a file
    void truth_wanted();            ///< its answer ends an exercise

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void show_words(const planning::Step* step);
    void offer_gate(const planning::Step* step);
    void pass_gate();
    void tell_changes();
    void tell_time();
    void say(const QString& words, bool of_others);
    void complain(const QString& words) { say(words, false); }

    Context context_;
    Painted painted_;
    Place here_ = Place::shop;
    std::optional<block::FeatureId> marked_;
    std::string chosen_; ///< id of the step that was picked; empty for the call
    std::vector<std::string> put_off_;
    bool of_others_ = false; ///< what is said below the fields is news, no complaint
    QLabel *headline_, *number_, *reasons_, *then_, *called_, *caution_, *echo_;
    QWidget* scroll_; ///< of the reasons and what follows
    StepForm* form_;
    QPushButton *answer_, *later_, *other_, *gate_, *back_;
    QLineEdit* why_; ///< of a gate that is passed
    QTimer soon_, clock_, settled_;
};

} // namespace pallix::ui
