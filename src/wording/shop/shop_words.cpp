// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/shop/shop_words.h"

#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/steps/shop_steps.h"
#include "planning/steps/steps.h"
#include "wording/common/phrases.h"

#include <algorithm>
#include <array>

namespace pallix::wording {

using block::JobState;
using planning::Step;
using planning::Task;

namespace {

/// "a, b, c" without the empty ones, each after its name where it has one.
class Listed {
  public:
    Listed& add(const char* name, const std::string& value) {
        if (!value.empty())
            words_ += (words_.empty() ? "" : ", ") + (*name ? name + std::string(" ") : std::string()) + value;
        return *this;
    }
    [[nodiscard]] const std::string& words() const { return words_; }

  private:
    std::string words_;
};

std::string use_name(const std::optional<block::Use>& use) {
    return use ? block::use_keys[static_cast<std::size_t>(*use)] : "";
}

std::string waiting_words(const std::optional<block::Stage>& stage) {
    return stage ? stage_name(*stage) : std::string("handing over");
}

std::string words(const block::JobCard& p, const LengthText& l) {
    return "job card: " + Listed()
                              .add("", p.identity)
                              .add("for", p.customer)
                              .add("reached by", p.reach)
                              .add("complaint:", p.complaint)
                              .add("history:", p.history)
                              .add("use", use_name(p.use))
                              .add("fuel", p.fuel)
                              .add("boost", p.boost)
                              .add("gasket", p.gasket)
                              .add("wanted:", p.wanted)
                              .add("oversize on hand", p.oversize ? l.with_unit(*p.oversize) : "")
                              .add("promised for", p.promised)
                              .words();
}
std::string words(const block::PartNoted& p, const LengthText&) {
    return "part: " + part_words(p);
}
std::string words(const block::HoldPlaced& p, const LengthText&) {
    return "waits for " + hold_words(p);
}
std::string words(const block::HoldLifted& p, const LengthText&) {
    return "waits no more (entry " + std::to_string(p.hold) + ")" + (p.note.empty() ? "" : ": " + p.note);
}
std::string words(const block::ClockSet& p, const LengthText&) {
    return "clock: " + p.what + ", " + fixed(p.minutes, 0) + " min, until " + p.until +
           (p.stage ? "; " + stage_name(*p.stage) + " waits" : "");
}
std::string words(const block::Inspected& p, const LengthText&) {
    return inspection_name(p.what) + " looked over" + (p.method.empty() ? "" : " by " + p.method) + ": " +
           (p.found.empty() ? "nothing that matters" : p.found);
}
std::string words(const block::PictureKept& p, const LengthText&) {
    return "picture " + p.file + (p.about.empty() ? "" : " of " + p.about) + (p.words.empty() ? "" : ": " + p.words) +
           " (" + std::to_string((p.bytes + 1023) / 1024) + " kB)";
}
std::string words(const block::AtBench& p, const LengthText&) {
    return "at the bench: " + p.person + ", " + role_name(p.role);
}
std::string words(const block::SignedOff& p, const LengthText&) {
    return p.by + ", " + role_name(p.role) + ", answers for " + signed_words(p.what) +
           (p.by_code ? " (by code)" : " (by name)");
}
std::string words(const block::Delivered& p, const LengthText&) {
    return "delivered" + (p.to.empty() ? "" : " to " + p.to) + (p.note.empty() ? "" : ": " + p.note);
}
std::string words(const block::SerialGiven& p, const LengthText&) {
    return "serial " + p.serial + (p.engraved.empty() ? "" : ", marked on the block as \"" + p.engraved + "\"");
}
std::string words(const block::PracticeBegun& p, const LengthText&) {
    return "practice: " + p.exercise + ", number " + std::to_string(p.number) + "; the block is not there";
}
std::string words(const block::TruthOpened& p, const LengthText&) {
    return "the truth was opened, the exercise is over: " + fixed(p.score, 0) + " of 100";
}
std::string words(const block::Experience& p, const LengthText&) {
    return "the shop's other jobs: " + count_words(p.traits.size(), "trait", "traits") + " of this kind of block, " +
           count_words(p.forecasts.size(), "record", "records") + " of forecasts";
}

/// Of something noted before, by the entry that the step hangs on.
template <class Entry>
const Entry* noted(const std::vector<block::Taken<Entry>>& all, const Step& step) {
    const auto found =
        step.why.empty() ? all.end() : std::ranges::find(all, step.why.front(), &block::Taken<Entry>::sequence);
    return found == all.end() ? nullptr : &found->payload;
}

std::string last_part(const std::string& id) {
    return id.substr(id.rfind('/') + 1);
}

constexpr std::array<std::pair<const char*, const char*>, 7> card_names{{{"block", "serial or casting"},
                                                                         {"customer", "customer"},
                                                                         {"complaint", "complaint, history"},
                                                                         {"use", "use, fuel, boost"},
                                                                         {"gasket", "gasket"},
                                                                         {"wanted", "wanted"},
                                                                         {"promised", "promised for"}}};

std::string card_name(const std::string& key) {
    const auto* found = std::ranges::find_if(card_names, [&key](const auto& one) { return one.first == key; });
    return found == card_names.end() ? key : found->second;
}

} // namespace

std::string entry_words(block::ShopKinds kinds, const block::Payload& entry, const LengthText& l) {
    std::string said;
    kinds.take(entry, [&](const auto& p) { said = words(p, l); });
    return said;
}
std::string entry_words(block::PracticeKinds kinds, const block::Payload& entry, const LengthText& l) {
    std::string said;
    kinds.take(entry, [&](const auto& p) { said = words(p, l); });
    return said;
}

std::string role_name(block::Role role) {
    return block::role_keys[static_cast<std::size_t>(role)];
}

std::string inspection_name(block::Inspection what) {
    constexpr std::array names{"edges", "threads", "caps and registers", "cracks", "walls"};
    static_assert(names.size() == block::inspection_keys.size());
    return names[static_cast<std::size_t>(what)];
}

std::string work_name(planning::Work work) {
    std::string name = planning::work_keys[static_cast<std::size_t>(work)];
    std::ranges::replace(name, '_', ' ');
    return name;
}

std::string signed_words(const std::string& what) {
    constexpr std::array<std::pair<const char*, const char*>, 11> names{{{"cut_caps", "cutting caps"},
                                                                         {"hone_tunnel", "the line hone"},
                                                                         {"bore_tunnel", "the line bar"},
                                                                         {"cut_deck", "cutting a deck"},
                                                                         {"cut_head", "cutting a head"},
                                                                         {"flush_deck", "taking a sleeve flush"},
                                                                         {"bore", "boring a cylinder"},
                                                                         {"hone_bore", "honing a cylinder"},
                                                                         {"press", "fitting a sleeve"},
                                                                         {"cut_lifter", "cutting a lifter bore"},
                                                                         {"press_bush", "pressing a bush"}}};
    const auto* found = std::ranges::find_if(names, [&what](const auto& one) { return one.first == what; });
    return found == names.end() ? "the decision " + what : found->second;
}

std::string part_words(const block::PartNoted& part) {
    return Listed()
        .add("", part.name)
        .add("", part.here ? "here" : "")
        .add("", part.where)
        .add("due", part.here ? "" : part.due)
        .add("for", part.here ? "" : waiting_words(part.stage))
        .words();
}

std::string hold_words(const block::HoldPlaced& hold) {
    return Listed().add("", hold.with).add("", hold.what).add("for", hold.stage ? stage_name(*hold.stage) : "").words();
}

std::string shared_words(const std::string& fixture, std::size_t jobs) {
    std::vector<std::string> parts; // machine, how the block lies, angle
    for (std::size_t at = 0; at <= fixture.size();) {
        const std::size_t end = std::min(fixture.find('/', at), fixture.size());
        parts.push_back(fixture.substr(at, end - at));
        at = end + 1;
    }
    constexpr std::array names{"blocks", "sets of caps", "tunnels", "decks", "rows of lifters", "heads"};
    static_assert(names.size() == planning::set_up_keys.size());
    const auto* lies = std::ranges::find(planning::set_up_keys, parts.size() > 1 ? parts[1] : std::string());
    const std::string what = lies == planning::set_up_keys.end()
                                 ? names[0]
                                 : names[static_cast<std::size_t>(lies - planning::set_up_keys.begin())];
    return count_words(jobs, what, (parts.size() > 2 ? parts[2] + "° " : std::string()) + what) +
           " wait for the same set-up";
}

std::string for_learner(const JobState& state, const std::string& question) {
    return card_of(state).learner_at_bench() ? "Stop, fetch somebody. " + question : question;
}

std::string enough_words(const JobState& state, const block::MeasuredAt& at, const LengthText& l) {
    constexpr std::size_t times = 3;
    constexpr double alike = 2 * 0.00254; // mm; two tenths (common practice, no source)
    const block::MeasuredPlace* place = readings_of(state).place(at);
    if (!card_of(state).learner_at_bench() || !place || place->count < times || place->spread > alike)
        return "";
    return ". Enough: " + count_words(place->count, "reading", "readings") + " within " + l.with_unit(place->spread) +
           ", more changes nothing";
}

std::string shop_headline(const JobState& state, const Step& step) {
    const block::CardState& card = card_of(state);
    switch (step.task) {
    case Task::fill_card:
        return "Job card: " + card_name(last_part(step.id));
    case Task::choose_scope:
        return "What is wanted, and what is not";
    case Task::choose_target:
        return "What the decks are cut to";
    case Task::note_part:
        return "A part or paper that is waited for";
    case Task::part_came: {
        const auto* part = noted(card.parts, step);
        return "It has come: " + (part ? part->name : "");
    }
    case Task::place_hold:
        return "Somebody who is waited for";
    case Task::lift_hold: {
        const auto* hold = noted(card.holds, step);
        return "No longer waited for: " + (hold ? hold->with : "");
    }
    case Task::soak:
        return "Let it soak";
    case Task::set_clock:
        return "Set a clock that rings";
    case Task::inspect_one: {
        const auto* key = std::ranges::find(block::inspection_keys, last_part(step.id));
        return "Look over: " + inspection_name(static_cast<block::Inspection>(key - block::inspection_keys.begin()));
    }
    case Task::sign_off:
        return "Stop, fetch somebody: " + signed_words(step.id.substr(step.id.find('/') + 1));
    case Task::hand_over:
        return step.id.find("/any/") != std::string::npos ? "Hand the block over as it is" : "";
    default:
        return "";
    }
}

std::vector<std::string> shop_reasons(const JobState& state, const Step& step) {
    const block::CardState& card = card_of(state);
    switch (step.task) {
    case Task::choose_scope:
        return {"A stage that is not wanted asks for nothing. One that was done elsewhere passes by its papers: the "
                "reason says which, and stands in the passport."};
    case Task::note_part:
        return {"What waits for it is not called before it is here. Due: a day such as 2026-12-04, or 14 days."};
    case Task::part_came: {
        const auto* part = noted(card.parts, step);
        return part ? std::vector<std::string>{capitalised(part_words(*part)) + "."} : std::vector<std::string>();
    }
    case Task::place_hold:
        return {"Nothing that cannot be undone is called before it is settled."};
    case Task::lift_hold: {
        const auto* hold = noted(card.holds, step);
        return hold ? std::vector<std::string>{capitalised(hold_words(*hold)) + "."} : std::vector<std::string>();
    }
    case Task::soak:
        return {"Washing waits until then, and the clock rings, whatever job is open."};
    case Task::set_clock:
        return {"It rings, whatever job is open; nothing waits for it."};
    case Task::inspect_one:
        if (step.id.ends_with("walls"))
            return {
                "By ultrasound, thrust side and axially; what was read is typed into the line on the cylinders' page."};
        return {"Left empty: nothing that matters. A crack or pit is marked where it is, too."};
    case Task::sign_off:
        return {(card.bench ? card.bench->person : std::string("Who learns")) +
                    " is learning. Somebody who answers for it looks at the set-up and the number, and signs with name "
                    "and code.",
                "Once for each kind that cannot be undone, and for every decision; it stands in the passport."};
    default:
        return {};
    }
}

std::vector<CardLine> card_lines(const JobState& state, const LengthText& l) {
    const block::CardState& card = card_of(state);
    const block::JobCard& c = card.card;
    std::string scope;
    for (const planning::Stage stage : planning::optional_stages)
        if (planning::wanted(state, stage))
            scope += (scope.empty() ? "" : ", ") + stage_name(stage);
    if (const auto& chosen = intake_of(state).scope; chosen && !chosen->payload.reason.empty())
        scope += " (" + chosen->payload.reason + ")";
    const block::DeckTargetChosen& t = decks_of(state).target;
    const std::string target = t.school == block::TargetSchool::height && t.height ? "height " + l.with_unit(*t.height)
                               : t.school == block::TargetSchool::clearance && t.clearance
                                   ? "clearance " + l.with_unit(*t.clearance)
                               : t.school == block::TargetSchool::ratio && t.ratio ? "ratio " + fixed(*t.ratio, 2)
                                                                                   : "";
    const std::vector<std::string> words{
        c.identity,
        Listed().add("", intake_of(state).customer).add("", c.reach).words(),
        Listed().add("", c.complaint).add("", c.history).words(),
        Listed().add("", use_name(c.use)).add("", c.fuel).add("boost", c.boost).words(),
        c.gasket,
        Listed()
            .add("", c.wanted)
            .add("pistons on hand", c.oversize ? "+" + l.with_unit(*c.oversize) + " over nominal" : "")
            .words(),
        c.promised};
    std::vector<CardLine> lines;
    lines.reserve(words.size() + 2);
    for (std::size_t i = 0; i < words.size(); ++i)
        lines.push_back({std::string("received/any/") + card_names[i].first, card_names[i].second, words[i]});
    lines.push_back({"received/any/scope", "stages", scope});
    lines.push_back({"received/any/target", "decks cut to", target});
    return lines;
}

} // namespace pallix::wording
