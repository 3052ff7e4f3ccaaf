// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/steps/shop_steps.h"

#include "block/ledger.h"
#include "block/shorthand.h"
#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "planning/steps/given.h"
#include "planning/steps/steps.h"

#include <algorithm>
#include <array>

namespace pallix::planning {
namespace {

using namespace block;
using Payloads = std::vector<Payload>;

class ShopAnswer : Given {
  public:
    ShopAnswer(const JobState& state, const Step& step, const Answers& answers, const std::string& at)
        : Given(step, answers), state_(state), at_(at) {}

    std::optional<Payloads> entries() const {
        switch (step_.task) {
        case Task::fill_card:
            return one(card());
        case Task::choose_scope:
            return one(scope());
        case Task::choose_target:
            return one(target());
        case Task::note_part:
            return one(PartNoted{words("part"), false, words_if("where"), day_if_given("due"), waiting()});
        case Task::part_came: {
            PartNoted part = part_of(step_.why.front());
            part.here = true;
            return one(part);
        }
        case Task::place_hold:
            return one(HoldPlaced{words("with"), words_if("what"), waiting()});
        case Task::lift_hold:
            return one(HoldLifted{step_.why.front(), words_if("note")});
        case Task::soak:
            return one(clock("soak", Stage::cleaned));
        case Task::set_clock:
            return one(clock(words("what"), {}));
        case Task::inspect_one:
            ticked("done");
            return one(inspected());
        case Task::sign_off:
            return one(signed_off());
        case Task::open_truth:
            throw Refused{{"job", 0, step_.id + " is answered by what it is reckoned up to",
                           "Open the truth in the window, or pallix-cli practice score --open"}};
        case Task::hand_over:
            return one(Delivered{words_if("to"), words_if("note")});
        default:
            return std::nullopt;
        }
    }

  private:
    template <class Entry>
    static Payloads one(Entry entry) {
        return {Payload(std::move(entry))};
    }

    std::string day_if_given(const char* key) const {
        const std::string typed = words_if(key);
        if (typed.empty())
            return "";
        const auto day = day_typed(typed, at_);
        if (!day)
            throw Refused{{"job", 0, step_.id + ": " + key + " is \"" + typed + "\"",
                           "a day such as 2026-12-04, 14 days or 2 weeks"}};
        return *day;
    }

    std::optional<Stage> waiting() const {
        const auto key = given<std::string>("waiting").value_or("hand_over");
        const auto* found = std::ranges::find(stage_keys, key);
        return found == stage_keys.end() ? std::nullopt : std::optional(static_cast<Stage>(found - stage_keys.begin()));
    }

    JobCard card() const {
        JobCard card;
        for (const auto& [key, line] : {std::pair("identity", &JobCard::identity),
                                        {"customer", &JobCard::customer},
                                        {"reach", &JobCard::reach},
                                        {"complaint", &JobCard::complaint},
                                        {"history", &JobCard::history},
                                        {"fuel", &JobCard::fuel},
                                        {"boost", &JobCard::boost},
                                        {"gasket", &JobCard::gasket},
                                        {"wanted", &JobCard::wanted}})
            card.*line = words_if(key);
        if (const auto use = given<std::string>("use"); use && *use != "not_stated")
            card.use = choice<Use>("use", use_keys);
        card.oversize = if_given("oversize");
        card.promised = day_if_given("promised");
        if (card == JobCard{})
            throw Refused{{"job", 0, step_.id + ": nothing is typed", "a line of the card"}};
        return card;
    }

    ScopeChosen scope() const {
        ScopeChosen scope{{}, words_if("reason")};
        for (const Stage stage : optional_stages)
            if (is_ticked(stage_keys[static_cast<std::size_t>(stage)]))
                scope.stages.push_back(stage);
        const bool all = scope.stages.size() == optional_stages.size();
        scope.stages.push_back(Stage::passport);
        if (!all && scope.reason.empty())
            throw Refused{{"job", 0, step_.id + ": nothing says why a stage is left out",
                           "a reason, such as \"good by the papers of the shop before\": it stands in the passport"}};
        return scope;
    }

    DeckTargetChosen target() const {
        DeckTargetChosen target = decks_of(state_).target;
        const std::array<std::pair<const char*, TargetSchool>, 3> ways{
            {{"ratio", TargetSchool::ratio}, {"clearance", TargetSchool::clearance}, {"height", TargetSchool::height}}};
        const auto typed =
            std::ranges::count_if(ways, [this](const auto& way) { return answers_.contains(way.first); });
        for (const auto& [key, school] : ways) {
            const auto value = if_given(key);
            auto& stands = school == TargetSchool::ratio       ? target.ratio
                           : school == TargetSchool::clearance ? target.clearance
                                                               : target.height;
            if (!value || (typed > 1 && stands == value)) // what stood there before is no choice
                continue;
            stands = value;
            target.school = school;
            return target;
        }
        throw Refused{{"job", 0, step_.id + ": nothing is typed", "a height, a clearance or a ratio"}};
    }

    const PartNoted& part_of(std::int64_t sequence) const {
        const auto& parts = card_of(state_).parts;
        const auto found = std::ranges::find(parts, sequence, &Taken<PartNoted>::sequence);
        if (found == parts.end())
            throw Refused{{"job", 0, "no part stands in entry " + std::to_string(sequence), "a part that was noted"}};
        return found->payload;
    }

    ClockSet clock(std::string what, std::optional<Stage> stage) const {
        const double m = number("minutes");
        return {std::move(what), m, later(at_, m), stage};
    }

    Inspected inspected() const {
        const auto* what = std::ranges::find(inspection_keys, step_.id.substr(step_.id.rfind('/') + 1));
        return {static_cast<Inspection>(what - inspection_keys.begin()), words_if("method"), words_if("found")};
    }

    SignedOff signed_off() const {
        const CardState& card = card_of(state_);
        const std::string by = words("by");
        const auto known = card.people.find(by);
        const bool other =
            (!card.bench || card.bench->person != by) && (known == card.people.end() || known->second != Role::learner);
        if (!other)
            throw Refused{{"job", 0, by + " cannot sign this", "somebody else, who is no learner"}};
        SignedOff entry{step_.id.substr(step_.id.find('/') + 1), by, Role::machinist, is_ticked("by_code")};
        if (const auto role = given<std::string>("role"))
            entry.role = static_cast<Role>(std::ranges::find(role_keys, *role) - role_keys.begin());
        return entry;
    }

    const JobState& state_;
    const std::string& at_;
};

} // namespace

std::optional<Payloads> shop_answer(const JobState& state, const Step& step, const Answers& answers,
                                    const std::string& at) {
    return ShopAnswer(state, step, answers, at).entries();
}

std::optional<std::string> day_typed(const std::string& typed, const std::string& at) {
    if (const auto day = read_day(typed))
        return day_text(*day);
    const auto today = read_time(at);
    std::string number = typed;
    int days_each = 1;
    for (const auto& [unit, days] : {std::pair("weeks", 7), {"week", 7}, {"days", 1}, {"day", 1}})
        if (number.ends_with(unit)) {
            number = number.substr(0, number.size() - std::string_view(unit).size());
            days_each = days;
            break;
        }
    const bool counted = number.size() < typed.size() || number.starts_with("+");
    while (number.ends_with(' '))
        number.pop_back();
    if (number.starts_with("+"))
        number.erase(0, 1);
    const bool digits = !number.empty() && number.size() <= 3 &&
                        std::ranges::all_of(number, [](char c) { return c >= '0' && c <= '9'; });
    if (!today || !counted || !digits)
        return std::nullopt;
    return day_text(std::chrono::floor<std::chrono::days>(*today) + std::chrono::days(std::stoi(number) * days_each));
}

} // namespace pallix::planning
