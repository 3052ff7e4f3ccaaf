// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/practice/coach.h"
#include "session/background.h"
#include "session/session.h"
#include "workshop/practice/exercise.h"
#include "workshop/practice/result.h"

#include <QObject>
#include <QString>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

namespace pallix::session {

/// The bench of a practice job: while its truth is sealed, gauges send what they read and machines say what they left.
/// Whoever knows the trade stands beside it.
class PracticeWork : public QObject {
    Q_OBJECT
  public:
    explicit PracticeWork(Session& session, QObject* parent = nullptr);
    ~PracticeWork() override;

    /// The open job is practice.
    [[nodiscard]] bool is_practice() const;
    /// And its truth is sealed yet.
    [[nodiscard]] bool running() const { return bench_ != nullptr; }

    /// A new job of an exercise; it is open then.
    [[nodiscard]] Outcome begin(const workshop::Exercise& exercise);
    /// The number that whoever is at the bench has not had of a theme and level.
    [[nodiscard]] std::int64_t next_number(workshop::Theme theme, int level) const;

    /// The number of a copy of the open job that nobody has tried on yet.
    [[nodiscard]] std::int64_t next_copy() const;

    /// What the gauge sends for a place, as it would be typed.
    /// @return nothing where this bench has no gauge for it
    [[nodiscard]] std::optional<QString> reading(const block::MeasuredAt& at);
    [[nodiscard]] block::Instrument instrument(planning::Measuring what) const;
    [[nodiscard]] bool has_probe() const;
    /// The machine probes the block, and its log is taken in.
    [[nodiscard]] Outcome probe();
    /// The gauge is held against a ring of that size, and its zero set by it.
    /// @return how far off it was, mm
    [[nodiscard]] block::Result<double> hold_against_ring(const std::string& instrument, double size);

    /// What is to be remarked on what was done last.
    [[nodiscard]] const std::vector<planning::Remark>& remarks() const { return remarks_; }
    /// The reading that was taken last, where that was the last thing done.
    [[nodiscard]] const std::optional<block::Reading>& last_reading() const { return last_reading_; }

    /// What was struck last had taken metal: the ledger says nothing of it any more, and it is off all the same.
    [[nodiscard]] bool metal_was_struck() const { return metal_was_struck_; }

    /// Ends the exercise: what came of it is reckoned up away from the window's thread, and then the score kept.
    void open_truth();
    [[nodiscard]] bool reckons() const { return reckoning_.running(); }
    /// @return nothing while the truth is sealed, or while it is reckoned up
    [[nodiscard]] std::shared_ptr<const workshop::PracticeResult> result();
    /// Waits for what is reckoned up, if anything is.
    void insist() { reckoning_.insist(); }

  Q_SIGNALS:
    void changed();  ///< another bench, or another remark
    void opened();   ///< the truth, and what came of it is there
    void reckoned(); ///< what came of it, asked for later
    void failed(const QString& why);

  private:
    void take_up_job();
    void before(const std::vector<block::Payload>& payloads);
    void after(int first);
    void reckon(std::function<void()> then);

    Session& session_;
    std::unique_ptr<workshop::PracticeBench> bench_;
    std::vector<planning::Remark> remarks_;
    bool looked_ = false; ///< at what is being taken
    bool metal_was_struck_ = false;
    std::optional<block::Reading> last_reading_;
    std::shared_ptr<const workshop::PracticeResult> result_; ///< once it was asked for
    Background<block::Result<workshop::PracticeResult>> reckoning_;
};

} // namespace pallix::session
