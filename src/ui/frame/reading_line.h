// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/reading_text.h"
#include "planning/readings/gauge_study_plan.h"
#include "planning/readings/reading_plan.h"
#include "ui/context.h"

#include <QWidget>
#include <deque>
#include <map>
#include <optional>
#include <string>
#include <vector>

class QComboBox;
class QLabel;
class QGridLayout;
class QLineEdit;
class QPushButton;

namespace pallix::ui {

class Keypad;

/// What a view lets a person measure.
struct ReadingScope {
    std::vector<planning::Measuring> measurings; ///< the first is the usual one
    std::string bank;                            ///< the one on screen; empty where there is none
    std::optional<block::FeatureId> feature{};   ///< the only one that is read now: the hole on the board
    std::int64_t since = 0;                      ///< entry that readings must be newer than to count as read
    bool operator==(const ReadingScope&) const = default;
};

/// Along the bottom: asks for the next reading in words, takes it in shop shorthand or from a gauge on the line, says
/// what it understood, and asks about a suspicious value before it counts.
class ReadingLine : public QWidget {
    Q_OBJECT
  public:
    explicit ReadingLine(Context context, QWidget* parent = nullptr);

    void set_scope(const ReadingScope& scope);
    void refresh();
    void take_focus();
    void arrange();                                     ///< for keys or for fingers
    [[nodiscard]] block::Instrument instrument() const; ///< in hand
    void take_up(const planning::Step& step); ///< where it is a reading that the view takes: the caret is here

    [[nodiscard]] std::optional<planning::Measuring> measuring() const;
    void measure(planning::Measuring what); ///< one of the scope's
    bool take_simulated(); ///< the gauge of a practice bench reads what is asked for. @return whether it can
    void measure_next();   ///< the next of the scope's, round and round

    void back();               ///< strikes the last reading, to read it again
    void zero_at_target();     ///< the gauge in hand stands zeroed at what is asked for
    void skip();               ///< leaves the place for later
    void once_more();          ///< asks for the last place again: a repeat
    void strike_with_reason(); ///< strikes the last reading and says why
    /// Entry that began the gauge study that is laid out here.
    [[nodiscard]] std::optional<std::int64_t> running_study() const;

  Q_SIGNALS:
    void asks_for(const std::optional<planning::AskedReading>& asked);

  protected:
    void paintEvent(QPaintEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void build_row();
    void fill_choices();
    void ask_next();
    void show_asked();
    [[nodiscard]] std::optional<planning::Measuring> measuring_for(const planning::Step& step) const;
    void echo();
    void take();
    void take_from_gauge();
    void say(const QString& text, const QColor& colour);
    void show_said();
    void change_job();
    void take_soon();
    void take_what_waits();
    void note_what_was_sent();
    void tell_asked();
    [[nodiscard]] QString doubt_of_zero() const;
    void say_what_to_type();
    [[nodiscard]] bool asks_about_zero(const QString& typed);
    void ask_for_study();
    void show_whose_turn();
    [[nodiscard]] QString detail_of_asked() const;
    [[nodiscard]] block::Expected expected() const;
    [[nodiscard]] const block::Entry* last_reading() const;

    Context context_;
    ReadingScope scope_;
    planning::ReadingWish wish_;
    std::optional<planning::AskedReading> asked_;
    std::optional<planning::StudyStanding> study_; ///< that is being read here
    std::string zero_heard_;                       ///< gauge, zero and doubt that were asked about
    bool was_reading_ = false;                     ///< the caret was here when there was nothing more to read
    QString said_;
    QString questioned_; ///< the text that was asked about: entered once more, it counts
    using Sent = std::deque<block::GaugeReading>;
    struct Waiting {
        Sent sent;
        QString typed;
    };
    Sent sent_;                                   ///< readings of a gauge that wait for the field to be free
    bool taking_ = false;                         ///< the next turn of the window takes one
    std::optional<storage::JobId> job_;           ///< that they and what stands in the field belong to
    std::map<storage::JobId, Waiting> elsewhere_; ///< what waits in other jobs
    QLabel* place_;
    QLabel* detail_;
    QLineEdit* field_;
    QLabel* echo_;
    QComboBox* what_;
    QComboBox* tool_;
    QPushButton* back_;
    QPushButton* skip_;
    Keypad* keypad_ = nullptr; ///< once it was wanted
};

} // namespace pallix::ui
