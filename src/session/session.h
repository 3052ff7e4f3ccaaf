// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "block/named_text.h"
#include "block/read_logs.h"
#include "storage/shop_book.h"

#include <QObject>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

namespace pallix::planning {
struct Assessment;
struct Certainty;
struct DeckBelief;
struct LocalFlatness;
struct TunnelStudy;
struct TunnelWork;
} // namespace pallix::planning

namespace pallix::session {

class BeliefWork;
class CertaintyWork;

/// What became of an attempt: nothing, or the faults to show. On faults nothing has changed.
using Outcome = tl::expected<void, block::Faults>;

/// The open job. Every change is an entry that is on the disk before anyone hears of it; the state is always the fold
/// over the entries. Undo and redo are strikes.
class Session : public QObject {
    Q_OBJECT
  public:
    using Clock = std::function<std::string()>; ///< UTC, ISO 8601
    using Person = std::function<std::string()>;

    Session(storage::ShopBook& book, Person person, Clock clock = system_clock(), QObject* parent = nullptr);
    ~Session() override;
    static Clock system_clock();

    storage::ShopBook& book() { return book_; }

    bool has_job() const { return job_.has_value(); }
    std::optional<storage::JobId> job() const { return job_; }
    const std::vector<block::Entry>& entries() const { return entries_; }
    const block::JobState& state() const;
    const planning::Assessment& assessment() const;

    /// @param read logs of that job that were read beforehand, away from the window's thread
    [[nodiscard]] Outcome open_job(storage::JobId job, block::ReadLogs read = {});
    [[nodiscard]] Outcome new_job(const QString& title, const QString& customer, const block::NamedText& blueprint);
    /// Takes in a whole job file as a new job.
    [[nodiscard]] Outcome import_job(const block::NamedText& job_file);
    void close_job();

    /// Entries that belong together, all or none: refused where a field is out of its range or the job's state forbids
    /// one. Every other way into the ledger ends here.
    [[nodiscard]] Outcome take_all(std::vector<block::Payload> payloads);
    [[nodiscard]] Outcome take(block::Payload payload);

    /// Logs that belong together; refused as a whole when one has a fault.
    /// @param standard_uncertainty mm, of one touch, as stated by the person; nothing: as the logs state it, if they do
    [[nodiscard]] Outcome take_probe_logs(const std::vector<block::NamedText>& logs,
                                          std::optional<double> standard_uncertainty);
    /// Reads logs away from the window's thread, so that `take_probe_logs` of the same logs returns at once. Entries,
    /// logs and what was read before are copied in; the result may be kept by the window's thread.
    struct LogsToRead {
        std::vector<block::Entry> entries;
        std::vector<block::NamedText> logs;
        std::optional<double> standard_uncertainty;
        block::ReadLogs read;
        std::vector<block::Payload> payloads;
    };
    [[nodiscard]] LogsToRead logs_to_read(const std::vector<block::NamedText>& logs,
                                          std::optional<double> standard_uncertainty) const;
    /// @return the faults; with none, what is needed to take them in stands in `logs`
    [[nodiscard]] static Outcome read_logs(LogsToRead& logs);
    [[nodiscard]] Outcome take_read_logs(LogsToRead logs);
    /// Keeps a forecast of the removal first, where this is a bank's first pass since it was measured.
    /// @param finish how the surface came out, where that was seen: one entry with the pass, struck with it
    [[nodiscard]] Outcome log_cut(const block::DeckCut& cut, std::optional<block::FinishNoted> finish = {});
    [[nodiscard]] Outcome mark_flaw(const block::FlawMarked& flaw);
    [[nodiscard]] Outcome decide_flaw(const block::FlawDecided& decided);
    [[nodiscard]] Outcome test_pressure(const block::PressureTested& test);
    [[nodiscard]] Outcome fit_cutter(const block::CutterFitted& cutter);
    [[nodiscard]] Outcome note_finish(const block::FinishNoted& finish);
    [[nodiscard]] Outcome choose_gasket(const block::GasketChosen& gasket);
    [[nodiscard]] Outcome read_set_up(const block::SetUpRead& set_up);
    [[nodiscard]] Outcome state_figures(const block::EngineFigures& figures);
    [[nodiscard]] Outcome log_head_work(const block::HeadWork& work);
    /// What is believed of a deck; null while it is being worked out (`belief_known` tells when) or cannot be. Who
    /// draws it may hold on to it.
    [[nodiscard]] std::shared_ptr<const planning::DeckBelief> belief(const std::string& bank);
    [[nodiscard]] BeliefWork& beliefs();
    /// Flatness in a moving window, worked out when it is first asked for after an entry.
    [[nodiscard]] const std::optional<planning::LocalFlatness>& local_flatness(const std::string& bank) const;
    [[nodiscard]] Outcome take_reading(const block::Reading& reading);
    [[nodiscard]] Outcome state_conditions(const block::Conditions& conditions);
    [[nodiscard]] Outcome check_instrument(const block::RingCheck& check);
    [[nodiscard]] Outcome test_repeatability(const block::RepeatabilityTest& test);
    [[nodiscard]] Outcome cut_tunnel(const block::TunnelCut& cut);
    [[nodiscard]] Outcome choose_tunnel_policy(const block::TunnelPolicy& policy);
    [[nodiscard]] Outcome cut_caps(const block::CapsCut& cut);
    [[nodiscard]] Outcome log_tunnel_pass(const block::TunnelPass& pass);
    [[nodiscard]] Outcome tick_step(const std::string& step);
    /// Plan, board and next step of the tunnel; worked out when it is first asked for after an entry.
    [[nodiscard]] const planning::TunnelWork& tunnel_work() const;
    /// The plan with all that explains it; null where the tunnel is not known. Who draws it may hold on to it.
    [[nodiscard]] std::shared_ptr<const planning::TunnelStudy> tunnel_study() const;
    /// Lets the block rest from now on for so many minutes.
    [[nodiscard]] Outcome begin_rest(double minutes);
    /// Minutes until the block has rested; 0 where it has, or none was begun.
    [[nodiscard]] double rest_left() const;
    /// A roughness trace; refused as a whole where it has a fault.
    [[nodiscard]] Outcome take_trace(const block::FeatureId& bore, const block::NamedText& trace);
    [[nodiscard]] Outcome choose_reading_plan(const block::ReadingPlanChosen& plan);

    /// Lines of a log that a probe is sending: on the disk before this returns, not yet part of the job.
    [[nodiscard]] Outcome stream_lines(const QStringList& lines);
    /// Rows of touches that wait for their log to be taken in.
    [[nodiscard]] std::size_t streamed_touches() const;
    /// Takes the waiting lines in as one log; they go on waiting where it has a fault.
    [[nodiscard]] Outcome take_stream(const QString& name);
    /// Writes the waiting lines into the ledger as a note and waits for none any more.
    [[nodiscard]] Outcome keep_stream_as_note();
    void drop_stream();

    /// Draws uncertainties in the background from here on, and holds verdicts against them.
    void draw_certainty();
    [[nodiscard]] CertaintyWork& certainty();
    [[nodiscard]] const planning::Certainty* certainty_of_latest() const;
    [[nodiscard]] Outcome choose_target(const block::DeckTargetChosen& target);
    [[nodiscard]] Outcome choose_passes(const block::PassPlanChosen& passes);
    [[nodiscard]] Outcome add_note(const QString& text);
    [[nodiscard]] Outcome strike(std::int64_t sequence, const QString& reason);

    /// The entry undo would strike, or redo would bring back.
    [[nodiscard]] const block::Entry* undo_target() const;
    [[nodiscard]] const block::Entry* redo_target() const;
    [[nodiscard]] Outcome undo();
    [[nodiscard]] Outcome redo();

  Q_SIGNALS:
    void job_opened();             ///< another job, or none
    void entries_added(int first); ///< index of the first new entry; state and assessment are up to date
    void belief_known();           ///< of a deck, by `belief`
    void certainty_known();        ///< the assessment now holds drawn uncertainties

  private:
    [[nodiscard]] std::size_t group_of(std::int64_t sequence) const;
    [[nodiscard]] Outcome append(std::vector<block::Payload> payloads);
    [[nodiscard]] block::Entry entry_of(block::Payload payload, std::int64_t sequence, std::string time) const;
    void refresh();

    storage::ShopBook& book_;
    Person person_;
    Clock clock_;
    std::optional<storage::JobId> job_;
    std::vector<block::Entry> entries_;
    block::ReadLogs read_logs_;
    struct Worked; ///< what is worked out from the entries
    std::unique_ptr<Worked> worked_;
    bool draws_certainty_ = false;
};

/// Book faults as the faults a view shows.
[[nodiscard]] block::Faults as_faults(const storage::BookFault& fault);
[[nodiscard]] std::string sha256_hex(const std::string& text);

} // namespace pallix::session
