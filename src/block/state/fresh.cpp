// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/fresh.h"

#include "block/state/job_state.h"

#include <algorithm>
#include <array>
#include <cstdlib>

namespace pallix::block {
namespace {

bool is_main(const MeasuredAt& at) {
    return at.feature.kind == FeatureKind::main;
}
bool is_sweep(const MeasuredAt& at) {
    return at.quantity == Quantity::sweep;
}
bool is_set_up(const MeasuredAt& at) {
    return at.quantity == Quantity::sweep || at.quantity == Quantity::indicator || at.quantity == Quantity::slope;
}
bool is_of_head(const MeasuredAt& at) {
    return is_on_head(at.quantity) || at.quantity == Quantity::volume || at.quantity == Quantity::valve;
}
RoundEnd head_cut_since(const std::string& bank) {
    return {"the head was cut since",
            [bank](const MeasuredAt& at) { return at.feature.bank == bank && is_of_head(at); }};
}
bool is_size_or_wall(const MeasuredAt& at) {
    return at.quantity == Quantity::size || at.quantity == Quantity::wall;
}

/// What each kind of entry ends; most end nothing.
struct Ends {
    const JobState& state;
    using Rounds = std::vector<RoundEnd>;

    template <class Entry>
    Rounds operator()(const Entry&) const {
        return {};
    }

    Rounds operator()(const DeckCut& cut) const {
        if (cut.head)
            return {head_cut_since(cut.bank)};
        return {{"the deck was cut since", [bank = cut.bank](const MeasuredAt& at) {
                     return at.feature.bank == bank && !is_on_head(at.quantity) &&
                            (at.feature.kind == FeatureKind::deck || at.quantity == Quantity::piston ||
                             at.quantity == Quantity::valve);
                 }}};
    }
    Rounds operator()(const HeadWork& work) const {
        return work.cut > 0 ? Rounds{head_cut_since(work.bank)} : Rounds{};
    }

    /// Said to be done after it was measured as it now is, nothing is measured twice.
    Rounds operator()(const TunnelCut&) const {
        const bool mains_too = !state.tunnel_worked();
        return {{"the tunnel was cut since", [mains_too](const MeasuredAt& at) {
                     return (mains_too && is_main(at)) || at.quantity == Quantity::height ||
                            at.quantity == Quantity::piston;
                 }}};
    }
    /// A saddle stands where it stood.
    Rounds operator()(const CapsCut&) const {
        return {{"the caps were cut since",
                 [](const MeasuredAt& at) { return is_main(at) && at.quantity != Quantity::saddle; }}};
    }
    Rounds operator()(const TunnelPass&) const { return {{"the tunnel was worked on since", is_main}}; }

    /// Caps that come off and go on again do not come back to where they were.
    Rounds operator()(const ConditionsStated& stated) const {
        const auto now = stated.conditions.caps_torqued, before = state.conditions.caps_torqued;
        if (now == false && before != false && !stated.also_before)
            return {{"the caps came off since", is_main}};
        return {};
    }

    Rounds operator()(const StepDone& done) const {
        if (moves_the_block(done.step))
            return {{"the block was moved since", is_set_up}};
        if (done.step.starts_with(head_levelled))
            return {
                {"the head was levelled since", [bank = done.step.substr(head_levelled.size())](const MeasuredAt& at) {
                     return at.feature.bank == bank && at.quantity == Quantity::head_height;
                 }}};
        return {};
    }
    Rounds operator()(const RoundOpened& round) const {
        const std::string because = "read anew: " + round.reason;
        if (round.about == round_of_mains)
            return {{because, is_main}};
        if (round.about == round_of_sweep)
            return {{because, is_sweep}};
        return {{because, [about = round.about](const MeasuredAt& at) { return at.feature.text() == about; }}};
    }

    Rounds operator()(const BoreDecided& decided) const {
        return {{"another sleeve was chosen since", [bore = decided.bore](const MeasuredAt& at) {
                     return at.feature == bore && at.quantity == Quantity::outside;
                 }}};
    }
    Rounds operator()(const BoreCut& cut) const {
        return {{"the bore was cut since",
                 [bore = cut.bore](const MeasuredAt& at) { return at.feature == bore && is_size_or_wall(at); }}};
    }
    /// What is pressed in pushes the metal beside it: neighbours in the row are measured again.
    Rounds operator()(const InsertFitted& fitted) const {
        const FeatureId bore = fitted.bore; // and what was read of it outside is told no more
        Rounds rounds{{"a sleeve or bush was fitted since", [bore](const MeasuredAt& at) {
                           return at.feature == bore && (is_size_or_wall(at) || at.quantity == Quantity::outside);
                       }}};
        if (bore.kind == FeatureKind::bore)
            rounds.push_back({"the bore beside it was sleeved since", [bore](const MeasuredAt& at) {
                                  return at.feature.kind == FeatureKind::bore && at.feature.bank == bore.bank &&
                                         std::abs(at.feature.number - bore.number) == 1 &&
                                         at.quantity == Quantity::size;
                              }});
        return rounds;
    }
    /// Sizes read in a bore that is still warm from the hone are not what it will be.
    Rounds operator()(const RestBegun&) const {
        return {{still_warm, [&job = state](const MeasuredAt& at) {
                     return at.quantity == Quantity::size && job.honed_last(at.feature);
                 }}};
    }
};

} // namespace

std::vector<RoundEnd> rounds_ended_by(const Payload& entry, const JobState& before) {
    return std::visit(Ends{before}, entry);
}

bool moves_the_block(const std::string& step) {
    constexpr std::array words{"screws turned", "jacks turned",   "block moved",
                               "block rolled",  "block levelled", "block clamped"};
    return std::ranges::any_of(words, [&step](const char* word) { return step.starts_with(word); });
}

} // namespace pallix::block
