// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/report_command.h"

#include "block/evaluation_uncertainty.h"
#include "block/job_file.h"
#include "block/state/card_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "cli/book_commands.h"
#include "cli/inputs.h"
#include "metrology/monte_carlo.h"
#include "planning/common/certainty.h"
#include "planning/decks/deck_belief.h"
#include "reporting/paper.h"
#include "reporting/report.h"
#include "session/book_papers.h"
#include "session/preferences.h"
#include "session/session.h"
#include "session/shop_model.h"

#include <QGuiApplication>
#include <QTemporaryDir>
#include <algorithm>
#include <array>
#include <iostream>

namespace pallix::cli {
namespace {

/// A job, wherever it comes from.
struct Source {
    std::string name; ///< for messages
    std::vector<block::Entry> entries;
    std::optional<storage::JobId> job; ///< of the book
};

class Reporter {
  public:
    explicit Reporter(const ReportRequest& request) : r_(request) {}

    int run() {
        if (!r_.book.empty() && !(book_ = open_book(r_.book)))
            return input_is_wrong;
        if (!shop())
            return input_is_wrong;
        if (r_.kind == "estimate" && book_) { // what the shop's other jobs took
            hours_ = std::make_unique<session::ShopModel>(*book_, preferences_);
            hours_->reload();
        }
        if (book_ && r_.all)
            for (const storage::JobRow& job : book_->jobs().value_or(std::vector<storage::JobRow>()))
                of_book(job);
        for (const std::string& called : r_.jobs)
            if (!book_)
                of_file(called);
            else if (const auto job = find_job(*book_, called))
                of_book(*job);
            else
                all_well_ = false;
        return std::cout.flush() && all_well_ ? 0 : input_is_wrong;
    }

  private:
    /// How the shop's papers are: the file's, else the book's.
    bool shop() {
        if (!r_.shop.empty()) {
            const auto read = read_file(r_.shop).and_then(
                [](const block::NamedText& text) { return block::read_shop_papers(text.text, text.file); });
            if (!read)
                return fail(read.error());
            shop_ = *read;
        } else if (book_) {
            shop_ = book_->usual().papers().value_or(block::ShopPapers());
        }
        if (!r_.label.empty()) {
            const auto label = block::read_label(r_.label);
            if (!label)
                return fail(label.error());
            shop_.label = *label;
        }
        if (!r_.machine.empty() && !shop_.machine(r_.machine))
            return fail({{r_.machine, 0, "the shop has no machine of that name", "one of its papers' machines"}});
        return true;
    }
    bool fail(const block::Faults& faults) {
        print(faults);
        all_well_ = false;
        return false;
    }

    void of_file(const std::string& file) {
        auto entries = read_file(file).and_then(
            [](const block::NamedText& text) { return block::read_job(text.text, text.file); });
        if (!entries) {
            fail(entries.error());
            return;
        }
        write({file, std::move(*entries), {}});
    }
    void of_book(const storage::JobRow& job) {
        auto entries = book_->entries(job.id);
        if (!entries) {
            fail(session::as_faults(entries.error()));
            return;
        }
        write({job.title.toStdString(), std::move(*entries), job.id});
    }

    void write(const Source& job) {
        const block::Folded state = block::fold(job.entries);
        if (!intake_of(state).blueprint) {
            block::Faults faults;
            for (const block::Trouble& trouble : intake_of(state).troubles)
                faults.push_back({job.name, 0, trouble.words, ""});
            fail(faults.empty() ? block::Faults{{job.name, 0, "it has no blueprint", "a job that was opened with one"}}
                                : faults);
            return;
        }
        const std::string at = r_.at.empty() ? session::Session::system_clock()() : r_.at;
        const bool plans = r_.kind != "passport" && r_.kind != "customer" && r_.kind != "label" && r_.kind != "data";
        const bool judges = r_.kind == "passport" || r_.kind == "customer" || r_.kind == "data";
        const auto certainty = judges ? drawn(state) : std::nullopt;
        const planning::Assessment assessment =
            planning::assess(state, certainty ? &*certainty : nullptr, at,
                             plans ? planning::clean_depths(state) : planning::CleanDepths());
        reporting::PaperSource source{state,       assessment,
                                      job.entries, wording::LengthText(r_.unit),
                                      3,           QString::fromStdString(at.substr(0, at.find('T')))};
        if (book_)
            source.of_book = session::of_book(*book_, state);
        source.of_book.shop = shop_;
        if (hours_ && job.job)
            if (const auto row = std::ranges::find(hours_->all(), *job.job, &session::ShopModel::Row::id);
                row != hours_->all().end())
                source.of_book.hours = hours_->hours_left(*row);
        const auto kind =
            std::ranges::find(reporting::paper_keys, r_.kind, [](const char* key) { return std::string(key); });
        const reporting::PaperWish wish{static_cast<reporting::PaperKind>(kind - reporting::paper_keys.begin()),
                                        reporting::paper_named(QString::fromStdString(r_.paper)), r_.machine};
        const auto written = reporting::write_paper(source, wish, QString::fromStdString(file_of(state)));
        if (!written) {
            std::cerr << written.error().toStdString() << '\n';
            all_well_ = false;
            return;
        }
        for (const QString& file : *written)
            std::cout << file.toStdString() << '\n';
    }

    /// How sure the newest log's zones and extremes are, as the window draws it: verdicts are the same here and there.
    static std::optional<planning::Certainty> drawn(const block::JobState& state) {
        const auto& latest = tunnel_of(state).latest;
        if (!latest || !latest->standard_uncertainty || !latest->probe)
            return std::nullopt;
        auto values = block::uncertainties_of(*intake_of(state).blueprint, *latest->probe,
                                              {*latest->standard_uncertainty, true}, metrology::MonteCarloRun());
        return values ? std::optional(planning::Certainty{latest->sequence, std::move(*values)}) : std::nullopt;
    }

    /// The name with "{job}" filled in: the serial where there is one, else the title; a second of the same name gets
    /// its number behind it.
    std::string file_of(const block::JobState& state) {
        std::string name = r_.out;
        const std::string gap = "{job}";
        const auto at = name.find(gap);
        if (at == std::string::npos)
            return name;
        const auto& serial = card_of(state).serial;
        std::string called = file_name_of(serial ? serial->payload.serial : intake_of(state).title);
        const std::size_t times = static_cast<std::size_t>(std::ranges::count(used_, called));
        used_.push_back(called);
        if (times > 0)
            called += " " + std::to_string(times + 1);
        return name.replace(at, gap.size(), called);
    }

    const ReportRequest& r_;
    std::unique_ptr<storage::ShopBook> book_;
    QTemporaryDir folder_;
    session::Preferences preferences_{folder_.filePath(QStringLiteral("preferences.ini"))};
    std::unique_ptr<session::ShopModel> hours_;
    block::ShopPapers shop_;
    std::vector<std::string> used_;
    bool all_well_ = true;
};

} // namespace

int report(const ReportRequest& request) {
    if (const bool many = request.all || request.jobs.size() > 1;
        many && request.out.find("{job}") == std::string::npos) {
        print({{request.out, 0, "it is one file for many jobs", "\"{job}\" in its name, such as papers/{job}.pdf"}});
        return input_is_wrong;
    }
    qputenv("QT_QPA_PLATFORM", "offscreen");             // papers need type, and no display
    if (qEnvironmentVariableIsEmpty("QT_LOGGING_RULES")) // nor a session, which Qt would remark on
        qputenv("QT_LOGGING_RULES", "default.warning=false");
    std::string name = "pallix-cli";
    std::array arguments{name.data()};
    int count = 1;
    const QGuiApplication application(count, arguments.data());
    reporting::load_paper_fonts();
    return Reporter(request).run();
}

} // namespace pallix::cli
