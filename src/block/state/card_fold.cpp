// SPDX-License-Identifier: GPL-3.0-or-later
// Job card, parts, people: what the shop says of a job.
#include "block/state/folding.h"

#include <algorithm>

namespace pallix::block {
namespace {

void give(std::string& line, const std::string& value) {
    if (!value.empty())
        line = value;
}

void apply(Folding& f, const JobCard& p) {
    JobCard& card = f.state.card;
    for (const auto line :
         {&JobCard::identity, &JobCard::customer, &JobCard::reach, &JobCard::complaint, &JobCard::history,
          &JobCard::fuel, &JobCard::boost, &JobCard::gasket, &JobCard::wanted, &JobCard::promised})
        give(card.*line, p.*line);
    if (p.use)
        card.use = p.use;
    if (p.oversize)
        card.oversize = p.oversize;
    give(f.state.customer, p.customer);
}

void apply(Folding& f, const PartNoted& part) {
    auto& parts = f.state.parts;
    const auto known = std::ranges::find_if(parts, [&part](const auto& one) { return one.payload.name == part.name; });
    if (known == parts.end())
        parts.push_back({f.entry->sequence, part});
    else
        *known = {f.entry->sequence, part};
}

void apply(Folding& f, const HoldPlaced& hold) {
    f.state.holds.push_back({f.entry->sequence, hold});
}
void apply(Folding& f, const HoldLifted& lifted) {
    std::erase_if(f.state.holds, [&lifted](const auto& hold) { return hold.sequence == lifted.hold; });
}
void apply(Folding& f, const ClockSet& clock) {
    f.state.clocks.push_back({f.entry->sequence, clock});
}
void apply(Folding& f, const Inspected& inspected) {
    f.state.inspected[inspected.what] = {f.entry->sequence, inspected};
}
void apply(Folding& f, const PictureKept& picture) {
    f.state.pictures.push_back({f.entry->sequence, picture});
}
void apply(Folding& f, const AtBench& bench) {
    f.state.bench = bench;
    f.state.people[bench.person] = bench.role;
}
void apply(Folding& f, const SignedOff& signed_off) {
    f.state.signed_off.push_back({f.entry->sequence, signed_off});
    f.state.people[signed_off.by] = signed_off.role;
}
void apply(Folding& f, const Delivered& delivered) {
    f.state.delivered = {f.entry->sequence, delivered};
    f.state.delivered_at = f.entry->time;
}
void apply(Folding& f, const SerialGiven& given) {
    f.state.serial = {f.entry->sequence, given};
}
void apply(Folding& f, const PracticeBegun& begun) {
    f.state.practice = {f.entry->sequence, begun};
}
void apply(Folding& f, const TruthOpened& opened) {
    if (!f.state.truth_opened) // looked at once, looked at for good
        f.state.truth_opened = {f.entry->sequence, opened};
}
void apply(Folding& f, const Experience& experience) {
    f.state.experience = {f.entry->sequence, experience};
}

} // namespace

bool CardState::is_signed_off(const std::string& what) const {
    return std::ranges::any_of(signed_off, [&what](const auto& one) { return one.payload.what == what; });
}

void fold_entry(Folding& f, ShopKinds kinds, const Payload& payload) {
    kinds.take(payload, [&f](const auto& entry) { apply(f, entry); });
}
void fold_entry(Folding& f, PracticeKinds kinds, const Payload& payload) {
    kinds.take(payload, [&f](const auto& entry) { apply(f, entry); });
}

} // namespace pallix::block
