// SPDX-License-Identifier: GPL-3.0-or-later
// The kinds of entries: each belongs to one part of the block, is known by one name, and its choices by theirs.
#include "block/entry_samples.h"

#include <set>

using namespace pallix::block;

namespace {

/// How many parts of the ledger take an entry as theirs.
int parts_taking(const Payload& payload) {
    int parts = 0;
    const auto count = [&](auto kinds) { parts += kinds.take(payload, [](const auto&) {}) ? 1 : 0; };
    std::apply([&](auto... kinds) { (count(kinds), ...); }, PartsOfTheLedger());
    return parts;
}

template <std::size_t N>
void expect_names(const std::array<const char*, N>& names) {
    std::set<std::string> once;
    for (const char* name : names) {
        once.insert(name);
        EXPECT_EQ(std::string(name).find_first_not_of("abcdefghijklmnopqrstuvwxyz_"), std::string::npos) << name;
        EXPECT_STRNE(name, "");
    }
    EXPECT_EQ(once.size(), N) << names[0] << ": a name that stands twice cannot be read back";
}

/// Writes every choice of an entry and reads it back.
/// @param set makes the entry with the choice of that index
template <std::size_t N, class Set>
void expect_round_trip(const std::array<const char*, N>& names, Set set) {
    expect_names(names);
    for (std::size_t i = 0; i < N; ++i) {
        const Payload payload = set(i);
        const std::string json = payload_json(payload);
        EXPECT_NE(json.find('"' + std::string(names[i]) + '"'), std::string::npos) << json;
        const auto again = read_payload(kind_of(payload), 1, json);
        ASSERT_TRUE(again) << json << again.error().front().text();
        EXPECT_EQ(payload_json(*again), json);
    }
    // One past the last is no choice.
    Payload beyond = set(N);
    EXPECT_FALSE(faults_in(beyond).empty()) << names[N - 1] << " is not the last";
}

template <class Entry>
auto with(auto Entry::*member) {
    return [member](std::size_t i) -> Payload {
        Entry entry{};
        for (const Payload& sample : pallix::test::one_of_each())
            if (const auto* one = std::get_if<Entry>(&sample))
                entry = *one;
        entry.*member = static_cast<std::remove_reference_t<decltype(entry.*member)>>(i);
        return entry;
    };
}

} // namespace

TEST(Entries, EachBelongsToOnePart) {
    std::set<std::string> names;
    for (const Payload& payload : pallix::test::one_of_each()) {
        EXPECT_EQ(parts_taking(payload), 1) << kind_of(payload);
        names.insert(kind_of(payload));
    }
    EXPECT_EQ(names.size(), std::variant_size_v<PayloadKinds>) << "two kinds of one name could not be told apart";
}

TEST(Entries, EveryChoiceOfTheTunnelIsReadBack) {
    expect_round_trip(tunnel_method_keys, with(&TunnelCut::method));
    expect_round_trip(tunnel_method_keys, with(&TunnelPolicy::method));
    expect_round_trip(cap_cuts_keys, with(&TunnelPolicy::caps));
    expect_round_trip(given_line_keys, with(&TunnelPolicy::line));
    expect_round_trip(tunnel_pass_keys, with(&TunnelPass::kind));
}

TEST(Entries, EveryChoiceOfTheDecksIsReadBack) {
    expect_round_trip(pass_kind_keys, with(&DeckCut::kind));
    expect_round_trip(target_school_keys, with(&DeckTargetChosen::school));
    expect_round_trip(flaw_kind_keys, with(&FlawMarked::kind));
    expect_round_trip(flaw_near_keys, with(&FlawMarked::near));
    expect_round_trip(flaw_choice_keys, with(&FlawDecided::choice));
    expect_round_trip(cutter_state_keys, with(&FinishNoted::cutter));
    expect_round_trip(gasket_kind_keys, with(&GasketChosen::kind));
}

TEST(Entries, EveryChoiceOfCylindersAndLiftersIsReadBack) {
    expect_round_trip(centre_school_keys, with(&CylinderPlanChosen::centre));
    expect_round_trip(thrust_side_keys, with(&CylinderPlanChosen::thrust));
    expect_round_trip(bore_choice_keys, with(&BoreDecided::choice));
    expect_round_trip(piston_alloy_keys, with(&PistonsStated::alloy));
    expect_round_trip(bore_operation_keys, with(&BoreCut::operation));
    expect_round_trip(lifter_school_keys, with(&LifterPlanChosen::school));
    expect_round_trip(follower_keys, with(&LifterPlanChosen::follower));
    expect_round_trip(lifter_choice_keys, with(&LifterDecided::choice));
    expect_names(abrasive_keys);
}

TEST(Entries, EveryChoiceOfTheRouteIsReadBack) {
    expect_round_trip(rule_keys, with(&GatePassed::rule));
    expect_round_trip(route_preset_keys, with(&RouteChosen::preset));
    expect_names(stage_keys);
}
