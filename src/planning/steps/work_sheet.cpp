// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/steps/work_sheet.h"

#include "block/digest.h"

#include <algorithm>
#include <cctype>
#include <sstream>

namespace pallix::planning {
namespace {

bool at_once(const Step& step) {
    return (step.state == StepState::now || step.state == StepState::ready) && !step.aside;
}

std::vector<std::string> words_in(const std::string& line) {
    std::istringstream in(line);
    std::vector<std::string> words;
    for (std::string word; in >> word;)
        words.push_back(std::move(word));
    return words;
}

/// Takes the words of a line one after the other, as the asks of a step want them.
class TickReader {
  public:
    TickReader(const Step& step, std::vector<std::string> words, block::Unit bench)
        : step_(step), words_(std::move(words)), bench_(bench) {}

    tl::expected<Tick, std::string> read() {
        Tick tick{step_.id, proposed(step_)};
        for (const Ask& ask : step_.asks)
            if (ask.kind == AskKind::length || ask.kind == AskKind::count)
                if (auto done = read_number(ask, tick.answers); !done)
                    return tl::unexpected(done.error());
        for (const Ask& ask : step_.asks)
            if (ask.kind == AskKind::tick || ask.kind == AskKind::choice)
                read_name(ask, tick.answers);
        for (const Ask& ask : step_.asks)
            if (ask.kind == AskKind::text && at_ < words_.size())
                tick.answers[ask.key] = rest();
        if (at_ < words_.size())
            return tl::unexpected("\"" + rest() + "\" is nothing that this step asks for");
        return tick;
    }

  private:
    [[nodiscard]] std::string rest() {
        std::string all;
        for (; at_ < words_.size(); ++at_)
            all += (all.empty() ? "" : " ") + words_[at_];
        return all;
    }
    static bool begins_number(const std::string& word) {
        return std::isdigit(static_cast<unsigned char>(word.front())) ||
               (word.size() > 1 && (word.front() == '-' || word.front() == '+' || word.front() == '.') &&
                std::isdigit(static_cast<unsigned char>(word[1])));
    }
    /// A number may have its unit apart: "0.0020 in".
    tl::expected<void, std::string> read_number(const Ask& ask, Answers& answers) {
        if (at_ >= words_.size() || !begins_number(words_[at_]))
            return {};
        std::string typed = words_[at_++];
        constexpr std::array units{"mm", "in", "inch", "thou", "µm", "%", "°", "g"};
        if (at_ < words_.size() && std::ranges::find(units, words_[at_]) != units.end())
            typed += " " + words_[at_++];
        const auto value = read_ask(ask, typed, bench_);
        if (!value)
            return tl::unexpected(value.error());
        if (*value)
            answers[ask.key] = **value;
        return {};
    }
    void read_name(const Ask& ask, Answers& answers) {
        if (at_ >= words_.size())
            return;
        if (ask.kind == AskKind::tick && words_[at_] == ask.key) {
            answers[ask.key] = true;
            ++at_;
        } else if (ask.kind == AskKind::choice && std::ranges::find(ask.choices, words_[at_]) != ask.choices.end()) {
            answers[ask.key] = words_[at_++];
        }
    }

    const Step& step_;
    std::vector<std::string> words_;
    block::Unit bench_;
    std::size_t at_ = 0;
};

} // namespace

bool in_one_clamping(const Step& a, const Step& b) {
    const auto bank = [](const Step& s) {
        const bool of_a_bank =
            s.where.set_up == SetUp::deck_up || s.where.set_up == SetUp::lifters_up || s.where.set_up == SetUp::head_up;
        return of_a_bank && s.about ? s.about->bank : std::string();
    };
    return a.where.machine == b.where.machine && a.where.set_up == b.where.set_up && bank(a) == bank(b);
}

std::string sheet_code(const std::string& step_id) {
    constexpr std::string_view letters = "bcdfghkmnprstwxz";
    const std::string digest = block::sha256_hex(step_id);
    std::string code;
    for (std::size_t i = 0; i < 4; ++i) {
        const char c = digest[i];
        code += letters[static_cast<std::size_t>(c >= 'a' ? c - 'a' + 10 : c - '0')];
    }
    return code;
}

std::vector<Batch> batches_of(const StepList& list) {
    std::vector<Batch> batches;
    const auto add = [&batches](const Step& step) {
        const auto same =
            std::ranges::find_if(batches, [&step](const Batch& b) { return in_one_clamping(*b.steps.front(), step); });
        if (same == batches.end())
            batches.push_back({{&step}});
        else
            same->steps.push_back(&step);
    };
    if (const Step* now = list.now())
        add(*now);
    for (const Step& step : list.steps)
        if (at_once(step) && step.state != StepState::now)
            add(step);
    Batch waits;
    for (const Step& step : list.steps)
        if (step.state == StepState::waits && !step.aside)
            waits.steps.push_back(&step);
    if (!waits.steps.empty())
        batches.push_back(std::move(waits));
    return batches;
}

tl::expected<Tick, std::string> read_tick(const StepList& list, const std::string& line, block::Unit bench) {
    std::vector<std::string> words = words_in(line);
    if (words.empty())
        return tl::unexpected(std::string("nothing is typed"));
    std::string code = words.front();
    std::ranges::transform(code, code.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    const Step* found = nullptr;
    for (const Step& step : list.steps)
        if (sheet_code(step.id) == code) {
            if (found)
                return tl::unexpected("two steps are called " + code + ": answer it in the call");
            found = &step;
        }
    if (!found)
        return tl::unexpected("no step of this job is called " + code);
    if (found->state == StepState::done)
        return tl::unexpected(code + " (" + found->id + ") is done already");
    if (found->place)
        return tl::unexpected(code + " (" + found->id + ") is a reading: type it into the line");
    words.erase(words.begin());
    return TickReader(*found, std::move(words), bench).read();
}

} // namespace pallix::planning
