// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/entries/memory_entries.h"

namespace pallix::block {
namespace {

constexpr Range jobs_range{0, 1e6};

void fields(Fields& f, UsualTrait& t) {
    f.choice("trait", t.trait, trait_keys);
    f.text_if("about", t.about);
    f.number("mean_mm", t.mean, any_length);
    f.number("spread_mm", t.spread, length_range);
    f.whole("blocks", t.blocks, {2, 1e6});
}

void fields(Fields& f, ForecastRecord& r) {
    f.choice("kind", r.kind, forecast_keys);
    f.text_if("gauge", r.gauge);
    f.text_if("person", r.person);
    f.whole("made", r.made, jobs_range);
    f.whole("held", r.held, jobs_range);
    f.number("widen", r.widen, {1, ForecastRecord::widest});
    f.demand(r.held <= r.made, "held", "is more than were made", "at most as many as were made");
}

} // namespace

void fields(Fields& f, Experience& p) {
    f.list("traits", p.traits, {0, 1000}, [&](UsualTrait& t) { fields(f, t); });
    f.list("forecasts", p.forecasts, {0, 1000}, [&](ForecastRecord& r) { fields(f, r); });
}

} // namespace pallix::block
