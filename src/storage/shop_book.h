// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/instrument.h"
#include "storage/book_beside.h"
#include "storage/book_fault.h"
#include "storage/book_jobs.h"
#include "storage/engine_shelf.h"
#include "storage/heads.h"
#include "storage/instrument_histories.h"
#include "storage/outbox.h"
#include "storage/people.h"
#include "storage/pictures.h"
#include "storage/usual_ways.h"

#include <QLockFile>
#include <QString>
#include <QStringList>
#include <memory>
#include <optional>
#include <vector>

namespace pallix::storage {

class BenchCopy;

struct JobRow {
    JobId id = 0;
    QString title;
    QString opened; ///< UTC, ISO 8601
    qint64 entries = 0;
    QString standing;       ///< what was remembered of it after its last entry; empty where it must be worked out again
    QString damage;         ///< in words; empty where none was found when the book was opened
    bool set_aside = false; ///< out of the list until it is asked for
};

/// What is not as it was written.
struct Damage {
    std::optional<JobId> job; ///< nothing where the job itself is gone, or it is not about one
    QString words;
    bool accepted_by_going_on = false; ///< newest entries are gone, what is left is whole
};

/// The shop book: every job of the shop in one SQLite file, or in a database of a PostgreSQL server. Entries are only
/// ever added; the database refuses to change or delete one, and each is sealed to the one before it by a digest. What
/// `append` has returned from is on the disk (WAL, synchronous FULL): it survives the process. One process writes to a
/// file at a time, guarded by a lock file beside it, and how far each job has come stands in a file apart (`Heads`); a
/// server has many at its tables, one after the other at each job.
class ShopBook {
  public:
    /// Opens or creates the book, brings an older schema forward, checks that it is whole: `damage` tells what is not.
    /// @param file or the address of a server's (`is_at_server`)
    /// @param take_over the lock, from an owner that cannot be asked
    /// @param copies folder where this bench keeps a copy of a server's book, to work with while that does not answer;
    /// empty: none is kept
    [[nodiscard]] static BookResult<std::unique_ptr<ShopBook>> open(const QString& file, bool take_over = false,
                                                                    const QString& copies = {});
    /// Copies what is as it was written, of every job the entries up to the first that is not, into a new book.
    /// @param from is left as it is
    /// @return a line about each job that is not whole
    [[nodiscard]] static BookResult<QStringList> copy_sound(const QString& from, const QString& to);
    ~ShopBook();
    ShopBook(const ShopBook&) = delete;
    ShopBook& operator=(const ShopBook&) = delete;

    /// Or the address, of a server's.
    [[nodiscard]] QString file() const { return file_; }
    /// Others may write to it at the same time.
    [[nodiscard]] bool is_shared() const { return !lock_; }

    /// Who is at the bench, asked whenever something of the shop's own is changed through this book: what the role that
    /// it has for them does not give is refused. Nobody is asked before this was called.
    void works_for(std::function<QString()> person);
    /// @return refused where whoever is at the bench may not
    [[nodiscard]] BookResult<void> may(block::ShopWork work) const;

    /// The line to the server is broken: from here on this bench's copy is read, and what is written into jobs waits in
    /// it. Everything else is refused until the line is back.
    /// @param known all that the shop has of a job, which the copy may not have yet; 0: of none
    /// @return refused where no copy is kept
    [[nodiscard]] BookResult<void> go_alone(JobId job = 0, const std::vector<block::Entry>& known = {});
    [[nodiscard]] bool is_alone() const;
    /// A job is worked at from here on, and can be where the line breaks before the copy has it.
    void keep_at_hand(JobId job);
    /// The server is spoken to again. What waits is sent by whoever can tell what contradicts (`outbox`).
    [[nodiscard]] BookResult<void> reconnect();
    /// What waits for the shop; nothing where no copy is kept.
    [[nodiscard]] std::optional<Outbox> outbox() const;
    /// The last entry of a job that the shop has, as far as this bench knows; nothing while it is at the shop.
    [[nodiscard]] std::optional<std::int64_t> at_shop_until(JobId job) const;
    /// The file of the copy; empty where none is kept.
    [[nodiscard]] QString copy_file() const;
    /// What the person should know of the copy: that none is kept, or that one was put aside; empty where all is well.
    [[nodiscard]] const QString& copy_remark() const { return copy_remark_; }

    [[nodiscard]] const std::vector<Damage>& damage() const { return damage_; }
    /// The person goes on with what is left where newest entries are gone.
    [[nodiscard]] BookResult<void> accept_loss();
    /// Brings everything into the one file, so that a plain copy of it is whole. When there is nothing else to do.
    void tidy();

    /// @param opened sequence 1, a JobOpened; further entries may follow
    [[nodiscard]] BookResult<JobId> create_job(const std::vector<block::Entry>& entries);

    /// Adds entries to a job, all or none. Their sequences continue the job's without a gap.
    /// @param step that they answer, and that was open; empty for none
    [[nodiscard]] BookResult<void> append(JobId job, const std::vector<block::Entry>& entries,
                                          const std::string& step = {});

    /// The book as another thread reads and writes it. What it has written is acknowledged here; until then nothing
    /// else may be appended to that job.
    [[nodiscard]] BookBeside beside() const;
    void acknowledge(const Written& written);

    /// @return refused where one is not what was written
    [[nodiscard]] BookResult<std::vector<block::Entry>> entries(JobId job) const;
    /// Those that were added after one, by whomever. @param sequence of the last that is known
    [[nodiscard]] BookResult<std::vector<block::Entry>> entries_after(JobId job, std::int64_t sequence) const;
    /// The entries up to the first that is not what was written.
    [[nodiscard]] BookResult<std::vector<block::Entry>> sound_entries(JobId job) const;
    /// @param reader who remembers standings, and in which version: those of another reader are left out
    [[nodiscard]] BookResult<std::vector<JobRow>> jobs(const QString& reader = {}) const; ///< newest first

    /// Remembers where a job stands after so many entries, so that a long shop list need not fold every ledger. A
    /// cache: it can be thrown away, and a failure to write it is no failure.
    void remember_standing(JobId job, qint64 entries, const QString& reader, const QString& standing);

    /// A clock that was set with a job, or a rest that was begun.
    struct Clock {
        JobId job = 0;
        QString title; ///< of the job
        std::string what, until;
    };
    /// Of all jobs that were not set aside, those that end after that time and were not struck.
    /// @param after UTC, ISO 8601
    [[nodiscard]] BookResult<std::vector<Clock>> clocks(const std::string& after) const;

    /// A serial that was given to a job.
    struct Serial {
        JobId job = 0;
        std::string serial;
    };
    /// Of all jobs, those that were set aside too, in the order they were given; struck ones as well: no number is
    /// given twice.
    [[nodiscard]] BookResult<std::vector<Serial>> serials() const;

    /// An exercise that a job practises.
    struct Practised {
        JobId job = 0;
        std::string exercise;
        std::int64_t number = 0, level = 0;
    };
    /// Of all jobs, those that were set aside too.
    [[nodiscard]] BookResult<std::vector<Practised>> exercises() const;

    /// Takes a job out of the list, or back into it; nothing of it changes.
    [[nodiscard]] BookResult<void> set_aside(JobId job, bool aside);

    [[nodiscard]] EngineShelf engines() const { return EngineShelf(connection_, permit()); }
    [[nodiscard]] People people() const { return People(connection_, permit()); }
    [[nodiscard]] UsualWays usual() const { return UsualWays(connection_, permit()); }
    [[nodiscard]] Pictures pictures() const { return Pictures(connection_); }
    [[nodiscard]] InstrumentHistories instrument_histories() const { return InstrumentHistories(connection_); }

    /// The shop's instruments, by name.
    [[nodiscard]] BookResult<std::vector<block::Instrument>> instruments() const;
    /// Adds an instrument or replaces the one of that name: readings keep their own copy.
    [[nodiscard]] BookResult<void> save_instrument(const block::Instrument& instrument);
    [[nodiscard]] BookResult<void> remove_instrument(const QString& name);
    /// All that happened to it, in the ledgers of all jobs and outside of them, by time.
    [[nodiscard]] BookResult<block::InstrumentHistory> instrument_history(const std::string& instrument) const;

    /// Lines a probe is sending for a job, each on the disk before this returns; they wait here until the log is whole.
    [[nodiscard]] BookResult<void> append_stream(JobId job, const QStringList& lines);
    [[nodiscard]] BookResult<QStringList> stream(JobId job) const;
    [[nodiscard]] BookResult<void> clear_stream(JobId job);

    /// What came of taking another book in.
    struct TakenIn {
        int fresh = 0;      ///< jobs that were not here
        int longer = 0;     ///< that went on there
        int known = 0;      ///< that held nothing new
        QStringList parted; ///< titles of those that went on differently here and there: theirs is a job of its own now
        QStringList engines; ///< that came onto the shelf
        int instruments = 0;
    };
    /// Takes in the jobs of another book, such as a whole shop's archive: the same job twice is one, by its id and the
    /// chain of its digests. Engines and instruments of names that are not here come along; ways and people of this
    /// shop stay as they are. The other book is left as it is.
    /// @return refused where the other is damaged, open elsewhere, or this one
    [[nodiscard]] BookResult<TakenIn> take_in(const QString& other);

    /// A copy of the whole book, taken while it is open; read again and compared before it gets its name.
    [[nodiscard]] BookResult<void> back_up(const QString& to_file) const;

    /// What came of copying a whole book.
    struct Copied {
        qint64 jobs = 0, entries = 0; ///< that stand there now
        qint64 fresh = 0;             ///< entries that were not there
        std::string digest;           ///< of all that stands in the one and in the other
    };
    /// Copies this book into another, of the one engine or the other, which is empty or holds an earlier copy: then it
    /// goes on where that one stopped. Every entry is held against the chain of its job, here and there.
    [[nodiscard]] BookResult<Copied> copy_into(ShopBook& other) const;
    [[nodiscard]] BookResult<Copied> fill_from(QSqlDatabase& from);
    /// Of all that the shop keeps in it, the same for the same in another book: whoever keeps it, in whatever order.
    [[nodiscard]] BookResult<std::string> digest() const;

  private:
    [[nodiscard]] BookResult<JobId> create(const QString& uuid, const std::vector<block::Entry>& entries);
    /// The digest of a job's entry; empty where it has none of that number.
    [[nodiscard]] std::string digest_at(JobId job, std::int64_t sequence) const;
    [[nodiscard]] BookResult<void> take_in_job(const ShopBook& other, const JobRow& row, TakenIn& taken);
    ShopBook(QString file, QString connection, std::unique_ptr<QLockFile> lock);
    [[nodiscard]] static BookResult<std::unique_ptr<ShopBook>> open_at_server(const QString& address,
                                                                              const QString& copies);
    [[nodiscard]] BookResult<void> connect_to_server();
    void keep_copy(const QString& folder);
    [[nodiscard]] QString where_streams_wait() const;
    [[nodiscard]] Permit permit() const {
        return [this](block::ShopWork work) { return may(work); };
    }
    [[nodiscard]] BookResult<void> set_up(bool fresh);
    [[nodiscard]] BookResult<void> find_damage();
    /// How far each job has come is what its entries say.
    [[nodiscard]] BookResult<void> take_heads_of_book();

    QString file_;
    QString connection_; ///< that is read and written now
    QString server_;     ///< that to the server; empty where the book is a file
    std::unique_ptr<BenchCopy> copy_;
    QString copy_remark_;
    std::map<JobId, QString> uuids_;  ///< of jobs that were at hand here: the copy may not have them yet
    std::unique_ptr<QLockFile> lock_; ///< none where a server keeps the book
    Heads heads_;
    Heads::Known known_; ///< what the heads' file said, and what was acknowledged since
    std::vector<Damage> damage_;
    std::function<QString()> person_;
    mutable std::optional<QString> gave_first_code_; ///< to an owner, or could have, in this sitting
};

/// What came of it, in a sentence or two.
[[nodiscard]] QString words_of(const ShopBook::TakenIn& taken);

} // namespace pallix::storage
