// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/book_commands.h"

#include "block/job_file.h"
#include "block/state/card_state.h"
#include "block/state/fold.h"
#include "cli/inputs.h"
#include "reporting/report.h"
#include "reporting/save.h"
#include "storage/book_server.h"

#include <QDir>
#include <QFileInfo>
#include <iostream>
#include <nlohmann/json.hpp>

namespace pallix::cli {
namespace {

void tell(const QString& words) {
    std::cerr << words.toStdString() << '\n';
}
void tell(const storage::BookFault& fault) {
    tell(fault.what + QLatin1Char(' ') + fault.way_out);
}

/// The serial that a job was given last; empty where it has none, or cannot be read.
std::map<storage::JobId, std::string> serials_of(const storage::ShopBook& book) {
    std::map<storage::JobId, std::string> all;
    if (const auto given = book.serials())
        for (const auto& one : *given)
            all[one.job] = one.serial;
    return all;
}

} // namespace

std::unique_ptr<storage::ShopBook> open_book(const std::string& file) {
    const QString name = QString::fromStdString(file);
    if (!storage::is_at_server(name) && !QFileInfo::exists(name)) { // opening would make a new one
        print({{file, 0, "there is no such file", "a shop book"}});
        return nullptr;
    }
    return open_or_begin_book(file);
}

std::unique_ptr<storage::ShopBook> open_or_begin_book(const std::string& name) {
    auto book = storage::ShopBook::open(QString::fromStdString(name));
    if (!book) {
        tell(book.error());
        return nullptr;
    }
    return std::move(*book);
}

std::optional<storage::JobRow> find_job(const storage::ShopBook& book, const std::string& called) {
    const auto jobs = book.jobs();
    if (!jobs) {
        tell(jobs.error());
        return std::nullopt;
    }
    const auto serials = serials_of(book);
    std::vector<storage::JobRow> found;
    for (const storage::JobRow& job : *jobs) {
        const auto serial = serials.find(job.id);
        if (std::to_string(job.id) == called || (serial != serials.end() && serial->second == called) ||
            job.title.toStdString() == called)
            found.push_back(job);
    }
    if (found.size() == 1)
        return found.front();
    print({{called, 0, found.empty() ? "no job of the book is called so" : "more than one job of the book is called so",
            "a job's number, serial or title, as pallix-cli jobs lists them"}});
    return std::nullopt;
}

std::string file_name_of(const std::string& title) {
    return reporting::file_name_of(QString::fromStdString(title)).toStdString();
}

int list_jobs(const BookRequest& request) {
    const auto book = open_book(request.book);
    if (!book)
        return input_is_wrong;
    const auto jobs = book->jobs();
    if (!jobs) {
        tell(jobs.error());
        return input_is_wrong;
    }
    const auto serials = serials_of(*book);
    nlohmann::ordered_json all = nlohmann::ordered_json::array();
    for (const storage::JobRow& job : *jobs) {
        const auto serial = serials.find(job.id);
        const std::string given = serial == serials.end() ? "" : serial->second;
        if (request.as_json)
            all.push_back({{"number", job.id},
                           {"serial", given},
                           {"title", job.title.toStdString()},
                           {"opened", job.opened.toStdString()},
                           {"entries", job.entries},
                           {"set_aside", job.set_aside},
                           {"damage", job.damage.toStdString()}});
        else
            std::cout << job.id << '\t' << (given.empty() ? "-" : given) << '\t' << job.title.toStdString() << '\t'
                      << job.entries << " entries" << (job.set_aside ? ", set aside" : "")
                      << (job.damage.isEmpty() ? "" : ", damaged: " + job.damage.toStdString()) << '\n';
    }
    if (request.as_json)
        std::cout << all.dump(2) << '\n';
    return std::cout.flush() ? 0 : input_is_wrong;
}

int export_jobs(const BookRequest& request) {
    const auto book = open_book(request.book);
    if (!book)
        return input_is_wrong;
    std::vector<storage::JobRow> wanted;
    bool all_well = true;
    if (request.jobs.empty()) {
        if (const auto jobs = book->jobs())
            wanted = *jobs;
    } else {
        for (const std::string& called : request.jobs)
            if (auto job = find_job(*book, called))
                wanted.push_back(*job);
            else
                all_well = false;
    }
    const QDir folder(QString::fromStdString(request.out));
    if (!folder.mkpath(QStringLiteral("."))) {
        print({{request.out, 0, "it cannot be made", "a folder that may be written"}});
        return input_is_wrong;
    }
    for (const storage::JobRow& job : wanted) {
        const auto entries = book->entries(job.id);
        if (!entries) {
            tell(entries.error());
            all_well = false;
            continue;
        }
        // Two jobs may have one title.
        const QString file = folder.filePath(
            QStringLiteral("%1 %2.pallix.json").arg(QString::number(job.id), reporting::file_name_of(job.title)));
        if (const auto saved = reporting::save_bytes(QByteArray::fromStdString(block::write_job(*entries)), file);
            !saved) {
            tell(saved.error());
            all_well = false;
        } else
            std::cout << file.toStdString() << '\n';
    }
    return std::cout.flush() && all_well ? 0 : input_is_wrong;
}

int back_up(const BookRequest& request) {
    const auto book = open_book(request.book);
    if (!book)
        return input_is_wrong;
    if (const auto done = book->back_up(QString::fromStdString(request.out)); !done) {
        tell(done.error());
        return input_is_wrong;
    }
    std::cout << request.out << '\n';
    return std::cout.flush() ? 0 : input_is_wrong;
}

int import_book(const BookRequest& request) {
    const auto book = open_book(request.book);
    if (!book)
        return input_is_wrong;
    const auto taken = book->take_in(QString::fromStdString(request.from));
    if (!taken) {
        tell(taken.error());
        return input_is_wrong;
    }
    std::cout << storage::words_of(*taken).toStdString() << '\n';
    return std::cout.flush() ? 0 : input_is_wrong;
}

int copy_book(const BookRequest& request) {
    const auto from = open_book(request.from);
    const auto to = from ? open_or_begin_book(request.book) : nullptr;
    if (!to)
        return input_is_wrong;
    for (const storage::Damage& damage : from->damage())
        tell(damage.words);
    if (!from->damage().empty())
        return input_is_wrong;
    const auto copied = from->copy_into(*to);
    if (!copied) {
        tell(copied.error());
        return input_is_wrong;
    }
    std::cout << request.book << " holds what " << request.from << " holds: " << copied->jobs << " jobs, "
              << copied->entries << " entries, " << copied->fresh << " of them new\ndigest " << copied->digest << '\n';
    return std::cout.flush() ? 0 : input_is_wrong;
}

int print_digest(const BookRequest& request) {
    const auto book = open_book(request.book);
    if (!book)
        return input_is_wrong;
    const auto digest = book->digest();
    if (!digest) {
        tell(digest.error());
        return input_is_wrong;
    }
    std::cout << *digest << '\n';
    return std::cout.flush() ? 0 : input_is_wrong;
}

int check_book(const BookRequest& request) {
    const auto book = open_book(request.book);
    if (!book)
        return input_is_wrong;
    for (const storage::Damage& damage : book->damage())
        tell(damage.words);
    if (!book->damage().empty())
        return input_is_wrong;
    const auto jobs = book->jobs();
    qint64 entries = 0;
    for (const storage::JobRow& job : jobs.value_or(std::vector<storage::JobRow>()))
        entries += job.entries;
    std::cout << request.book << " is as it was written: " << (jobs ? jobs->size() : 0) << " jobs, " << entries
              << " entries\n";
    return std::cout.flush() ? 0 : input_is_wrong;
}

} // namespace pallix::cli
