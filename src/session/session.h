// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/drawing/engine.h"
#include "block/fault.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "block/named_text.h"
#include "block/state/read_logs.h"
#include "planning/steps/answer.h"
#include "storage/shop_book.h"

#include <QObject>
#include <QStringList>
#include <QTimer>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <vector>

namespace pallix::block {
struct ReadWatch;
}
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

    [[nodiscard]] Outcome open_job(storage::JobId job);
    /// A job that is read away from the window's thread before it is opened.
    struct JobToOpen {
        storage::JobId job = 0;
        storage::BookBeside book;
        std::vector<block::Entry> entries{};
        block::ReadLogs read{};
    };
    [[nodiscard]] JobToOpen job_to_open(storage::JobId job) const;
    /// @param watch of whoever waits: then its logs are read too; may be null
    [[nodiscard]] static Outcome read_job(JobToOpen& job, const block::ReadWatch* watch = nullptr);
    [[nodiscard]] Outcome open_job(JobToOpen job);
    /// @param sure the person was asked about what is doubtful of the blueprint
    [[nodiscard]] Outcome new_job(const QString& title, const QString& customer, const block::NamedText& blueprint,
                                  bool sure = false);
    /// What this job's limits are is what jobs of the shop begin with from now on. The others stay as they are.
    [[nodiscard]] Outcome keep_limits_for_shop();
    [[nodiscard]] bool limits_are_the_shops() const;
    /// What the shop's limits are to a job that begins with them; nothing where it has set none.
    [[nodiscard]] std::optional<block::LimitsChosen> limits_of_shop() const;
    /// How the shop's papers and marks are; the usual where nobody has said so.
    [[nodiscard]] block::ShopPapers papers_of_shop() const;
    /// What the next block of the shop is called by its pattern.
    [[nodiscard]] block::Result<std::string> next_serial() const;
    /// Calls the open job's block so. @param serial one that no other job has; empty: the next by the shop's pattern
    [[nodiscard]] Outcome give_serial(const std::string& serial = {});
    /// Its line stands on the block now: in letters that the shop's engraver can do.
    [[nodiscard]] Outcome mark_serial(const std::string& line);
    /// A new job of an engine: its block, and what its jobs begin with.
    /// @param revision of the shelf; 0 where it is not on it
    [[nodiscard]] Outcome new_job(const QString& title, const QString& customer, const block::Engine& engine,
                                  int revision);
    /// A new job with these entries and no others: practice, which begins for everybody with the same.
    [[nodiscard]] Outcome begin_job(std::vector<block::Payload> opening);
    /// Takes in a whole job file as a new job.
    [[nodiscard]] Outcome import_job(const block::NamedText& job_file);
    void close_job();
    /// What a new job begins with of what the shop's other jobs teach.
    using Teacher = std::function<block::Experience(const std::string& engine)>;
    void learn_from(Teacher teacher) { teacher_ = std::move(teacher); }

    /// The time by the session's clock: UTC, ISO 8601.
    [[nodiscard]] std::string now() const { return clock_(); }

    /// Entries that belong together, all or none, with a forecast before a deck's first pass and a first go of the
    /// hone: refused where a field is out of its range or the job's state forbids one. Every other way into the ledger
    /// ends here.
    [[nodiscard]] Outcome take_all(std::vector<block::Payload> payloads);
    [[nodiscard]] Outcome take(block::Payload payload);

    /// What would differ with another blueprint, in the blueprint and in what follows for the job; nothing is written.
    /// @return the faults where it cannot be amended so
    [[nodiscard]] block::Result<std::vector<std::string>> if_amended(const block::BlueprintAmended& amended,
                                                                     block::Unit unit) const;

    /// What answers with the person: the machines of a practice bench.
    using Machines = std::function<planning::Answers(const planning::Step& step, planning::Answers answers)>;
    /// Who looks on: at what is being taken, before any of it is in the ledger.
    using Onlooker = std::function<void(const std::vector<block::Payload>& payloads)>;
    void work_with(Machines machines, Onlooker onlooker) {
        machines_ = std::move(machines);
        onlooker_ = std::move(onlooker);
    }
    /// Answers a step of the list.
    [[nodiscard]] Outcome answer(const std::string& step, const planning::Answers& answers);

    /// Others have added to the open job, of a book that is shared: what they did comes in, and everything is worked
    /// out anew. Nothing where nobody has.
    [[nodiscard]] Outcome catch_up();
    /// An answer, and what somebody else had written when it came.
    struct Contradiction {
        std::vector<block::Entry> theirs;
        std::vector<block::Payload> mine;
        qint64 part = 0; ///< of what waits for the shop; 0: it was refused just now
    };
    /// The last answer was refused for that; both stand side by side until it is decided.
    [[nodiscard]] const std::optional<Contradiction>& contradiction() const { return contradiction_; }
    /// Mine is taken as well, after theirs; refused where the job does not allow it any more.
    [[nodiscard]] Outcome take_mine_as_well();
    void leave_theirs();
    /// What waits for the shop goes on waiting, and is asked about when the job is opened again.
    void decide_later() { contradiction_.reset(); }

    /// The server does not answer any more: the open job goes on from what this bench knows of it.
    void go_alone();
    /// What came of sending what was entered while the line to the shop was broken.
    struct Delivered {
        std::vector<block::Entry> theirs; ///< what others wrote to the open job meanwhile
        block::Faults faults;             ///< that kept something back
    };
    /// Sends what waits, in order, each once. What contradicts what others did meanwhile is held back with all that
    /// followed it in its job; of the open job it is asked about (`contradiction`).
    Delivered deliver();
    /// The last entry of the open job that the shop has; nothing where it has all.
    [[nodiscard]] std::optional<std::int64_t> at_shop_until() const;

    /// What was refused last was a question: it can be taken all the same.
    [[nodiscard]] bool asks() const { return asks_; }

    /// Logs that belong together; refused as a whole when one has a fault.
    /// @param standard_uncertainty mm, of one touch, as stated by the person; nothing: as the logs state it, if they do
    /// @param sure as with `take_read_logs`
    [[nodiscard]] Outcome take_probe_logs(std::vector<block::NamedText> logs,
                                          std::optional<double> standard_uncertainty, bool sure = false);
    /// Logs that are read away from the window's thread, and what came of it. Texts are shared.
    struct LogsToRead {
        std::vector<block::Entry> entries;
        QStringList files; ///< to be read first
        std::vector<block::ProbeLogTaken> logs;
        std::optional<double> standard_uncertainty;
        block::ReadLogs read;
        block::Faults doubts{}; ///< what should be asked about before they are taken
    };
    /// @param originals of logs that were made from others, by the name of the file; kept beside them
    [[nodiscard]] LogsToRead logs_to_read(std::vector<block::NamedText> logs,
                                          std::optional<double> standard_uncertainty,
                                          const std::map<std::string, std::string>& originals = {}) const;
    [[nodiscard]] LogsToRead logs_to_read(const QStringList& files, std::optional<double> standard_uncertainty) const;
    /// @param watch of whoever waits; may be null
    /// @return the faults; with none, what is needed to take them in stands in `logs`
    [[nodiscard]] static Outcome read_logs(LogsToRead& logs, const block::ReadWatch* watch = nullptr);
    /// @param sure the person was asked about what is doubtful of them; else that is what they are refused for
    [[nodiscard]] Outcome take_read_logs(LogsToRead logs, bool sure = false);
    /// The same, written away from the window's thread: `logs_taken` tells when it is on the disk. Whatever else is to
    /// be added to the job waits for it.
    [[nodiscard]] Outcome begin_to_take(LogsToRead logs, bool sure = false);
    /// What is believed of a deck; null while it is being worked out (`belief_known` tells when) or cannot be. Who
    /// draws it may hold on to it.
    [[nodiscard]] std::shared_ptr<const planning::DeckBelief> belief(const std::string& bank);
    [[nodiscard]] BeliefWork& beliefs();
    /// Flatness in a moving window, worked out when it is first asked for after an entry.
    [[nodiscard]] const std::optional<planning::LocalFlatness>& local_flatness(const std::string& bank) const;
    /// Plan, board and next step of the tunnel; worked out when it is first asked for after an entry.
    [[nodiscard]] const planning::TunnelWork& tunnel_work() const;
    /// The plan with all that explains it; null where the tunnel is not known. Who draws it may hold on to it.
    [[nodiscard]] std::shared_ptr<const planning::TunnelStudy> tunnel_study() const;
    /// Minutes until that time; 0 where it is over.
    /// @param until UTC, ISO 8601; empty: the next time that some step waits for, 0 where none does
    [[nodiscard]] double minutes_left(const std::string& until = {}) const;
    /// Somebody else is at the bench, or has another role: the open job's ledger says so where it matters.
    [[nodiscard]] Outcome bench_changed();
    /// Who is at the bench, with the role that the shop's book has for them.
    [[nodiscard]] block::AtBench at_bench() const;
    /// Puts a picture to the job; it is kept whole.
    /// @param about a feature, a step or "flaw/7"; empty: the job
    [[nodiscard]] Outcome take_picture(const QString& file, const std::string& about, const std::string& words);
    /// A roughness trace; refused as a whole where it has a fault.
    [[nodiscard]] Outcome take_trace(const block::FeatureId& bore, const block::NamedText& trace);

    /// Lines of a log that a probe is sending: on the disk before this returns, not yet part of the job they came for.
    [[nodiscard]] Outcome stream_lines(storage::JobId job, const QStringList& lines);
    /// Rows of touches that wait for their log to be taken in.
    [[nodiscard]] std::size_t streamed_touches() const;
    /// Takes the waiting lines in as one log; they go on waiting where it has a fault.
    /// @param sure as with `take_read_logs`
    [[nodiscard]] Outcome take_stream(const QString& name, bool sure = false);
    /// Writes the waiting lines into the ledger as a note and waits for none any more.
    [[nodiscard]] Outcome keep_stream_as_note();
    void drop_stream();

    /// Draws uncertainties in the background from here on, and holds verdicts against them.
    void draw_certainty();
    [[nodiscard]] CertaintyWork& certainty();
    [[nodiscard]] const planning::Certainty* certainty_of_latest() const;
    [[nodiscard]] Outcome strike(std::int64_t sequence, const QString& reason);

    /// The entry undo would strike, or redo would bring back.
    [[nodiscard]] const block::Entry* undo_target() const;
    [[nodiscard]] const block::Entry* redo_target() const;
    [[nodiscard]] Outcome undo();
    [[nodiscard]] Outcome redo();

  Q_SIGNALS:
    void remarked(const QString& words); ///< something that the person should know, though nothing was refused
    void logs_taken(const pallix::block::Faults& faults); ///< what `begin_to_take` began is done; empty: taken
    void job_opened();                                    ///< another job, or none
    void entries_added(int first); ///< index of the first new entry; state and assessment are up to date
    void others_wrote(int first);  ///< said after that, where it was somebody else at another bench
    void delivered();              ///< what waited for the shop was sent, or some of it
    void belief_known();           ///< of a deck, by `belief`
    void time_passed();            ///< what waited for a time waits no more; the assessment says so
    void depths_known();           ///< the assessment now holds what decks are believed to take
    void certainty_known();        ///< the assessment now holds drawn uncertainties

  private:
    [[nodiscard]] Outcome create_job(block::JobOpened opened, const std::string& engine,
                                     std::vector<block::Payload> more);
    [[nodiscard]] Outcome open_new(const std::vector<block::Entry>& entries);
    [[nodiscard]] std::size_t group_of(std::int64_t sequence) const;
    [[nodiscard]] Outcome append(std::vector<block::Payload> payloads);
    [[nodiscard]] storage::BookResult<void> write_from(std::size_t first);
    [[nodiscard]] Outcome after_others();
    [[nodiscard]] std::optional<storage::BookFault> deliver_part(const storage::Outbox& outbox,
                                                                 const storage::Part& part, Delivered& delivered,
                                                                 std::set<storage::JobId>& held);
    void read_anew();
    [[nodiscard]] bool is_as_shop_has_it() const;
    [[nodiscard]] Outcome take_now(std::vector<block::Payload> payloads);
    [[nodiscard]] block::Result<std::vector<block::Payload>>
    payloads_of(const std::string& step, const planning::Answers& answers, const std::string& now) const;
    void write_beside(std::vector<block::Entry> more, block::ReadLogs read);
    [[nodiscard]] bool is_mine(const block::Entry& entry) const;
    void keep_forecasts(std::vector<block::Payload>& payloads);
    [[nodiscard]] Outcome ask_about(LogsToRead& logs, bool sure);
    [[nodiscard]] block::Entry entry_of(block::Payload payload, std::int64_t sequence, std::string time) const;
    void refresh();
    void take_over(block::Folded state, planning::Assessment assessment);
    void look_anew(planning::Assessment assessment); ///< the state has taken an entry in
    void wait_for_rest();
    [[nodiscard]] const planning::Certainty* certainty_of(const block::JobState& state) const;
    [[nodiscard]] planning::Assessment assessed(const block::JobState& state, const std::string& at) const;
    void look_at_clock(const std::string& now);
    /// What the ledger has to say of who is at the bench before anything else is said; nothing where it knows.
    [[nodiscard]] std::optional<block::AtBench> bench_to_tell() const;
    [[nodiscard]] Outcome proved(planning::Answers& answers) const;

    storage::ShopBook& book_;
    Person person_;
    Clock clock_;
    Teacher teacher_;
    Machines machines_;
    Onlooker onlooker_;
    std::optional<storage::JobId> job_;
    std::vector<block::Entry> entries_;
    block::ReadLogs read_logs_;
    struct Worked; ///< what is worked out from the entries
    std::unique_ptr<Worked> worked_;
    bool draws_certainty_ = false;
    bool asks_ = false;
    std::optional<Contradiction> contradiction_;
    std::string answering_; ///< the step that is answered now and was open; empty for none
    /// Lines that wait for their log, counted.
    struct Streamed {
        storage::JobId job;
        qsizetype lines = 0, head = 0; ///< head: remarks before the header row
        bool in_head = true;
        void add(const QStringList& more);
    };
    mutable std::optional<Streamed> streamed_;
    QTimer rest_; ///< fires when the block has rested
    QTimer idle_; ///< the book is tidied when nothing has been written for a while
};

/// @return the file's bytes under its own name, or the one fault that says why not
[[nodiscard]] block::Result<block::NamedText> read_text_file(const QString& file);

/// Book faults as the faults a view shows.
[[nodiscard]] block::Faults as_faults(const storage::BookFault& fault);

} // namespace pallix::session
