// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/practice/practice_words.h"

#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/common/assessment.h"
#include "wording/common/phrases.h"
#include "wording/common/sentences.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/readings/readings.h"
#include "wording/report/outcome_words.h"
#include "wording/steps/step_words.h"

#include <algorithm>
#include <array>
#include <map>

namespace pallix::wording {
namespace {

using planning::Remark;
using planning::RemarkKind;
using workshop::Reckoning;
using workshop::ScorePart;

/// "against the window", by the finding of its place.
const planning::SizeFinding* finding_of(const planning::Assessment& a, const block::MeasuredAt& at) {
    if (const planning::BoreFinding* bore = a.gauge.bore(at.feature))
        for (const planning::SizeFinding& size : bore->sizes)
            if (size.place.at == at)
                return &size;
    return nullptr;
}

std::string against(const metrology::Limits& limits, double value, const LengthText& l) {
    if (limits.upper && value > *limits.upper)
        return l.with_unit(value - *limits.upper) + " over the largest it may be";
    if (limits.lower && value < *limits.lower)
        return l.with_unit(*limits.lower - value) + " under the smallest it may be";
    std::optional<double> nearest;
    for (const auto& limit : {limits.lower, limits.upper})
        if (limit)
            nearest = std::min(nearest.value_or(1e9), std::abs(value - *limit));
    return nearest ? "in its window, " + l.with_unit(*nearest) + " from the nearer end" : "";
}

std::string count_of(std::size_t count, const char* one, const char* many) {
    return std::to_string(count) + " " + (count == 1 ? one : many);
}

} // namespace

std::string about_words(const block::JobState& state, const std::string& about) {
    if (about == "tunnel")
        return "main tunnel";
    const auto& blueprint = intake_of(state).blueprint;
    if (const auto id = block::FeatureId::parse(about); id && blueprint && blueprint->lists(*id))
        return feature_words(*blueprint, *id);
    return about.empty() ? "the block" : about;
}

std::string remark_words(const block::JobState& state, const Remark& remark, const LengthText& l) {
    const std::string what = about_words(state, remark.about);
    const std::string by = remark.by ? " by " + l.with_unit(*remark.by) : "";
    switch (remark.kind) {
    case RemarkKind::against_rule:
        return capitalised(what) + ": gone on though " +
               (remark.rule ? rule_name(*remark.rule) : std::string("a rule")) + ". What comes of it rests on a guess.";
    case RemarkKind::left_out:
        return capitalised(what) + " was left out: what it would have told nobody knows now.";
    case RemarkKind::too_deep:
        return capitalised(what) + ": more than was called for" + by + ". Metal that is off does not come back.";
    case RemarkKind::not_called:
        return capitalised(what) + ": cut though nothing called for it" + by + ".";
    case RemarkKind::asked_about:
        return capitalised(what) + ": that reading was asked about. Look again before it counts; a slip is struck "
                                   "with Ctrl+Z.";
    case RemarkKind::not_needed:
        break;
    }
    return capitalised(what) + ": nothing waits for that reading. It is enough; go on.";
}

std::string reading_meaning(const block::JobState& state, const planning::Assessment& a, const block::Reading& reading,
                            const LengthText& l) {
    std::string said = capitalised(place_of_reading(*intake_of(state).blueprint, reading.at));
    const block::MeasuredPlace* place = readings_of(state).place(reading.at);
    if (const planning::SizeFinding* size = finding_of(a, reading.at); size && place) {
        if (const std::string lies = against(size->limits, size->place.value, l); !lies.empty())
            said += " lies " + lies;
        if (size->place.count > 1)
            said += ", the mean of " + std::to_string(size->place.count);
        if (size->verdict == metrology::Verdict::cannot_tell)
            said += "; too near to tell with this gauge";
    } else if (reading.at.quantity == block::Quantity::saddle)
        said += " stands " + l.side_with_unit(reading.value, "proud of the line", "back from it");
    else if (block::is_bracket(reading.at.quantity) && reading.upper)
        said += ": between " + l.plain(reading.value) + " and " + l.with_unit(*reading.upper) + " under the edge";
    else if (reading.at.quantity == block::Quantity::height)
        if (const auto* bank = intake_of(state).blueprint->bank(reading.at.feature.bank))
            said += " stands " + l.side_with_unit(reading.value - bank->deck_height.nominal, "over its drawing",
                                                  "under its drawing");
    said += ".";
    if (const planning::Step* now = a.steps.now())
        said += " Next: " + step_headline(state, *now, l) + ".";
    return said;
}

std::string score_part_name(ScorePart part) {
    constexpr std::array names{"the block as it is", "metal", "judgement", "readings", "honesty"};
    static_assert(names.size() == workshop::score_part_keys.size());
    return names[static_cast<std::size_t>(part)];
}

std::string school_words(const workshop::School& school) {
    using block::TunnelMethod;
    if (school.plans.empty())
        return "as planned";
    const block::Payload& plan = school.plans.front();
    if (const auto* tunnel = std::get_if<block::TunnelPolicy>(&plan)) {
        if (tunnel->method == TunnelMethod::bore)
            return tunnel->line == block::GivenLine::datum ? "tunnel: bore on the datum" : "tunnel: bore, end mains";
        return tunnel->caps == block::CapCuts::each ? "tunnel: hone, each cap its own" : "tunnel: hone, caps equal";
    }
    if (const auto* cylinders = std::get_if<block::CylinderPlanChosen>(&plan))
        return "cylinders: " + centre_name(cylinders->centre);
    const auto& decks = std::get<block::DeckTargetChosen>(plan);
    return "decks: " + school_name(decks.school) + (decks.equal ? "" : ", each its own");
}

std::string tried_figure_name(workshop::TriedFigure figure) {
    if (figure == &workshop::TriedOnce::cap_cut)
        return "most off a cap";
    if (figure == &workshop::TriedOnce::deck_cut)
        return "most off a deck";
    return figure == &workshop::TriedOnce::size ? "cylinders, over nominal" : "hours";
}

std::string tried_words(const std::vector<workshop::TriedOnce>& tried) {
    const auto good = std::ranges::count_if(tried, &workshop::TriedOnce::good),
               open = std::ranges::count(tried, false, &workshop::TriedOnce::finished);
    return std::to_string(good) + " of " + std::to_string(tried.size()) + " good" +
           (open > 0 ? ", " + std::to_string(open) + " not finished" : "");
}

std::string shape_name(const block::Blueprint& b, const workshop::Shape& shape) {
    const bool several = !shape.bank.empty() && b.banks.size() > 1;
    const std::string bank = several ? bank_name(*b.bank(shape.bank)) + " " : "";
    switch (shape.what) {
    case workshop::ShapeOf::line_upright:
        return "mains, from the side";
    case workshop::ShapeOf::line_sideways:
        return "mains, from above";
    case workshop::ShapeOf::mains:
        return "mains, over mid-window";
    case workshop::ShapeOf::deck:
        return bank + "deck, over nominal";
    case workshop::ShapeOf::cylinders:
        return bank + "cylinders, over nominal";
    case workshop::ShapeOf::lifters:
        break;
    }
    return bank + "lifters, over nominal";
}

std::string score_sentence(const Reckoning& r) {
    const auto good = std::ranges::count(r.left, true, &workshop::PartLeft::good);
    return fixed(r.score(), 0) + " of 100. " + std::to_string(good) + " of " + std::to_string(r.left.size()) +
           " are good in truth" + (r.finished ? "." : "; the work was not finished.");
}

std::vector<std::string> reckoning_sentences(const block::JobState& state, const Reckoning& r, const LengthText& l) {
    std::vector<std::string> all;
    for (const workshop::MetalOff& off : r.metal)
        if (constexpr double hair = 0.005; off.taken > off.knowable + hair)
            all.push_back(capitalised(about_words(state, off.about)) + ": " + l.with_unit(off.taken - off.knowable) +
                          " more came off than had to by all that could be read.");
    // The same of the same part is said once, with all that it took.
    std::vector<std::pair<Remark, std::size_t>> said;
    for (const workshop::RemarkAt& at : r.remarks) {
        if (at.remark.kind == RemarkKind::not_needed || at.remark.kind == RemarkKind::asked_about)
            continue;
        const auto same = std::ranges::find_if(said, [&at](const auto& one) {
            return one.first.kind == at.remark.kind && one.first.rule == at.remark.rule &&
                   one.first.about == at.remark.about;
        });
        if (same == said.end()) {
            said.emplace_back(at.remark, 1);
            continue;
        }
        ++same->second;
        if (at.remark.by)
            same->first.by = same->first.by.value_or(0) + *at.remark.by;
    }
    for (const auto& [remark, times] : said)
        all.push_back(remark_words(state, remark, l) + " (" +
                      (times > 1 ? std::to_string(times) + " times, " : std::string()) +
                      fixed(workshop::cost_of(remark), 0) + (times > 1 ? " points each)" : " points)"));
    for (const workshop::SlipTaken& slip : r.slips)
        if (all.size() < 30)
            all.push_back("Entry " + std::to_string(slip.sequence) + ", " + about_words(state, slip.about) + ": read " +
                          l.side_with_unit(slip.by, "over what it was", "under what it was") + ", and believed.");
    if (r.needless > 0)
        all.push_back(count_of(r.needless, "reading", "readings") + " of " + std::to_string(r.readings) +
                      " changed nothing.");
    for (const workshop::Claim& claim : r.claims)
        if (!claim.honest())
            all.push_back("It was said to " + std::string(claim.said == metrology::Verdict::meets ? "meet" : "fail") +
                          ", and does " + (claim.good ? "meet" : "not") + ": " +
                          told_name(state, {claim.what, claim.bank, {}, {}, false, {}, {}, {}}) + ".");
    return all;
}

} // namespace pallix::wording
