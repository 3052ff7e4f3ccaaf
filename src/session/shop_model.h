// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/common/assessment.h"
#include "planning/shop/kind_memory.h"
#include "planning/shop/standing.h"
#include "session/preferences.h"
#include "session/session.h"
#include "storage/shop_book.h"

#include <QAbstractListModel>
#include <array>
#include <map>
#include <optional>
#include <vector>

namespace pallix::session {

/// The board: the jobs of the shop by what they wait for, each with its called step, hours left and promised day.
class ShopModel : public QAbstractListModel {
    Q_OBJECT
  public:
    enum Role {
        job_role = Qt::UserRole + 1,
        customer_role,
        engine_role,
        waits_role,
        stages_role,
        opened_role,
        readable_role,
        group_role,   ///< what it waits for, in words; empty where the job above waits for the same
        day_role,     ///< when it was promised and whether that will be kept, hours left
        hours_role,   ///< hours left, and how sure
        part_role,    ///< a part that has not come, and when it is due
        late_role,    ///< whether the promised day is over, or will be
        overdue_role, ///< whether that part is
    };

    struct Row {
        storage::JobId id = 0;
        QString title, customer, engine, opened;
        std::array<QString, 2> waits; ///< in mm and in inch: the unit changes without a look into the book
        std::vector<planning::StageState> stages;
        bool readable = true; ///< false: it can be set aside, and what is sound of it copied out
        bool set_aside = false;
        bool hangs_on_time = false; ///< what it says is not remembered: a rest ends by itself
        planning::JobStanding standing{};
        planning::JobHours hours{};
        planning::BlockTraits traits{}; ///< how its block was found
        QString forecasts{};            ///< what was foretold of it and what came, as `forecasts_in` reads it
    };

    ShopModel(storage::ShopBook& book, const Preferences& preferences, QObject* parent = nullptr,
              Session::Clock clock = Session::system_clock());

    void reload(); ///< reads the whole book
    /// Jobs that were set aside are listed or left out.
    void show_set_aside(bool shown);
    [[nodiscard]] int set_aside() const { return set_aside_; } ///< how many are
    /// Jobs that have left the shop are listed or left out.
    void show_delivered(bool shown);
    [[nodiscard]] int delivered() const { return delivered_; } ///< how many have
    /// Only jobs of which every word was written somewhere: title, customer, serial, engine, notes. Delivered ones too.
    void search(const QString& words);
    /// The job that was given a serial last, listed or not. @param typed the serial, or what a scanner types of a paper
    [[nodiscard]] std::optional<storage::JobId> job_of_serial(const QString& typed) const;
    void reload_job(storage::JobId job); ///< one job has changed

    const Row& row(int index) const { return rows_[shown_[static_cast<std::size_t>(index)]]; }
    int index_of(storage::JobId job) const; ///< −1 where it is not listed
    [[nodiscard]] const std::vector<Row>& all() const { return rows_; }

    /// Worked out once for each job until the book is read again.
    [[nodiscard]] const planning::HoursLeft& hours_left(const Row& row) const;
    [[nodiscard]] std::optional<planning::Promise> promise(const Row& row) const;
    /// The hours of every job that was delivered.
    [[nodiscard]] const std::vector<planning::JobHours>& shop_hours() const { return shop_hours_; }
    [[nodiscard]] std::string now() const { return clock_(); }

    int rowCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;

  private:
    [[nodiscard]] Row row_of(const storage::JobRow& job);
    [[nodiscard]] Row worked_out(const storage::JobRow& job) const;
    [[nodiscard]] QString day_of(const Row& row) const;
    [[nodiscard]] QString hours_of(const Row& row) const;
    [[nodiscard]] QString part_of(const Row& row) const;
    [[nodiscard]] bool late(const Row& row) const;
    [[nodiscard]] bool overdue(const Row& row) const;
    void arrange();
    void list_anew();
    void change_unit();

    storage::ShopBook& book_;
    const Preferences& preferences_;
    Session::Clock clock_;
    std::vector<Row> rows_;
    std::vector<std::size_t> shown_; ///< in the order of the board
    std::vector<planning::JobHours> shop_hours_;
    planning::TypedTimes typed_;
    mutable std::map<storage::JobId, planning::HoursLeft> hours_left_;
    double minutes_a_day_ = 0; ///< what is done on a job in a day, of those that were delivered; 0: none was
    QString search_;
    bool all_ = false, with_delivered_ = false;
    int set_aside_ = 0, delivered_ = 0;
};

/// Minutes that somebody typed for kinds of work.
[[nodiscard]] planning::TypedTimes typed_times(const storage::ShopBook& book);
/// What a job waits for, as the board heads it.
[[nodiscard]] QString group_name(planning::WaitsFor waits);

} // namespace pallix::session
