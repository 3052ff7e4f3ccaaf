// SPDX-License-Identifier: GPL-3.0-or-later
// A book that a server keeps: at the shop, or alone with this bench's copy of it.
#include "storage/bench_copy.h"
#include "storage/book_schema.h"
#include "storage/book_server.h"
#include "storage/shop_book.h"
#include "storage/sql.h"

#include <QUuid>
#include <QVariant>

namespace pallix::storage {

/// What stands beside a file, and who has it, is not asked here: the server sees to that.
BookResult<std::unique_ptr<ShopBook>> ShopBook::open_at_server(const QString& address, const QString& copies) {
    const QString connection = QStringLiteral("shop-book-") + QUuid::createUuid().toString(QUuid::Id128);
    static_cast<void>(connection_to(address, connection));
    std::unique_ptr<ShopBook> book(new ShopBook(address, connection, nullptr));
    book->server_ = connection;
    if (!copies.isEmpty())
        book->keep_copy(copies);
    auto done = book->connect_to_server();
    if (!done && done.error().no_answer && book->copy_ && book->copy_->is_of_a_book())
        done = book->go_alone();
    if (done)
        done = book->find_damage();
    if (!done)
        return tl::unexpected(done.error());
    return book;
}

void ShopBook::keep_copy(const QString& folder) {
    auto copy = BenchCopy::open(folder, file_);
    if (!copy) {
        copy_remark_ = QStringLiteral("Nothing can be entered here while the shop's server does not answer: %1")
                           .arg(copy.error().what);
        return;
    }
    copy_ = std::move(*copy);
    copy_remark_ = copy_->remark();
}

BookResult<void> ShopBook::connect_to_server() {
    const QString doing = QStringLiteral("The shop book %1 cannot be opened").arg(file_);
    QSqlDatabase db = QSqlDatabase::database(server_, false);
    const auto set_up = [&]() -> BookResult<void> {
        const auto before = schema_version(db);
        if (!before)
            return tl::unexpected(before.error());
        if (auto done = bring_forward(db, file_); !done)
            return done;
        const auto after = schema_version(db);
        return after && *after > *before ? set_up_server(db) : BookResult<void>();
    };
    db.close();
    return open_durably(db, file_, doing)
        .and_then([&] { return look_at_database(db, file_); })
        .and_then([&] { return while_nobody_else(db, doing, set_up); })
        .and_then([&]() -> BookResult<void> {
            if (!copy_)
                return {};
            auto met = copy_->meet(db);
            copy_remark_ = copy_->remark();
            return met;
        });
}

BookResult<void> ShopBook::go_alone(JobId job, const std::vector<block::Entry>& known) {
    if (!copy_)
        return refused(QStringLiteral("The shop's server does not answer, and this bench keeps no copy of the book."),
                       QStringLiteral("Wait until it answers: nothing can be entered before."));
    const auto uuid = uuids_.find(job);
    auto held = copy_->hold(job, uuid == uuids_.end() ? QString() : uuid->second, known);
    connection_ = copy_->alone();
    return held;
}

void ShopBook::keep_at_hand(JobId job) {
    if (!copy_ || is_alone() || uuids_.contains(job))
        return;
    QSqlQuery query(QSqlDatabase::database(server_, false));
    query.prepare(QStringLiteral("SELECT uuid FROM job WHERE id = ?"));
    query.addBindValue(job);
    if (query.exec() && query.next())
        uuids_[job] = query.value(0).toString();
}

bool ShopBook::is_alone() const {
    return copy_ && connection_ == copy_->alone();
}

BookResult<void> ShopBook::reconnect() {
    auto done = connect_to_server();
    if (done)
        connection_ = server_;
    return done;
}

std::optional<Outbox> ShopBook::outbox() const {
    return copy_ ? std::optional(Outbox(server_, copy_->plain())) : std::nullopt;
}

std::optional<std::int64_t> ShopBook::at_shop_until(JobId job) const {
    if (!is_alone())
        return std::nullopt;
    QSqlQuery query(QSqlDatabase::database(copy_->plain(), false));
    query.prepare(QStringLiteral("SELECT coalesce(max(sequence), 0) FROM entry WHERE job = ?"));
    query.addBindValue(job);
    return query.exec() && query.next() ? query.value(0).toLongLong() : 0;
}

QString ShopBook::copy_file() const {
    return copy_ ? copy_->file() : QString();
}

} // namespace pallix::storage
