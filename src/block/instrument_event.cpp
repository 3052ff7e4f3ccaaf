// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/instrument_event.h"

#include "block/fields_json.h"

namespace pallix::block {

void fields(Fields& f, InstrumentEvent& e) {
    constexpr Range celsius_of_a_gauge{-60, 200};
    f.text("instrument", e.instrument);
    f.choice("what", e.what, instrument_happening_keys);
    f.number("size_mm", e.size, any_length);
    f.number("reading_mm", e.reading, any_length);
    f.number("celsius", e.celsius, celsius_of_a_gauge);
    f.number("spread_mm", e.spread, length_range);
    if (f.left_out("count", e.count == 0))
        e.count = 0;
    else
        f.whole("count", e.count, {0, 1000});
    f.text_if("words", e.words);
    f.demand(!e.instrument.empty(), "instrument", "is empty", "what the shop calls it");
    f.demand(e.what != InstrumentHappening::checked || (e.size && e.reading), "reading_mm", "is missing",
             "the known size and what the instrument made of it");
    f.demand(e.what != InstrumentHappening::repaired || !e.words.empty(), "words", "is empty", "what was done to it");
}

std::string instrument_event_json(const InstrumentEvent& event) {
    return fields_as_json([known = event](Fields& f) mutable { fields(f, known); });
}

tl::expected<InstrumentEvent, std::string> read_instrument_event(std::string_view json) {
    InstrumentEvent event;
    const auto faults = fields_from_json(json, [&](Fields& f) { fields(f, event); });
    if (!faults.empty())
        return tl::unexpected("what happened to an instrument cannot be read: " + faults.front().text());
    return event;
}

std::optional<std::string> fault_of(const InstrumentEvent& event) {
    Checker check;
    InstrumentEvent known = event;
    fields(check, known);
    return check.faults().empty() ? std::nullopt : std::optional(check.faults().front().said());
}

} // namespace pallix::block
