// SPDX-License-Identifier: GPL-3.0-or-later
// What happened to the demo shop's bore gauge over a year.
#include "workshop/harbour.h"

#include "block/times.h"

#include <chrono>

namespace pallix::workshop {

using namespace block;

namespace {

constexpr const char* gauge = "bore gauge, 50 to 100";

InstrumentEvent event(InstrumentHappening what, const char* day, const std::string& words) {
    InstrumentEvent e;
    e.instrument = gauge;
    e.what = what;
    e.words = words;
    e.time = std::string(day) + "T07:40:00Z";
    e.person = "Marit";
    return e;
}
InstrumentEvent check(const char* day, double error) {
    InstrumentEvent e = event(InstrumentHappening::checked, day, "ring 58");
    e.size = 58.0;
    e.reading = 58.0 + error;
    return e;
}
InstrumentEvent zero(const char* day, double celsius) {
    InstrumentEvent e = event(InstrumentHappening::zeroed, day, "micrometer");
    e.size = 58.006;
    e.celsius = celsius;
    return e;
}

} // namespace

InstrumentHistory harbour_gauge_events(int days) {
    InstrumentHistory history{zero("2025-03-10", 19.5),
                              check("2025-03-10", 0),
                              check("2025-06-09", 0.0008),
                              check("2025-09-08", 0.0021),
                              check("2025-11-03", 0.0046),
                              event(InstrumentHappening::repaired, "2025-11-05", "worn tips changed, plunger cleaned"),
                              zero("2025-11-05", 18.0),
                              event(InstrumentHappening::repeated, "2025-11-06", "ring 58"),
                              check("2025-11-10", -0.0003),
                              check("2026-01-12", 0.0006),
                              zero("2026-03-06", 18.5)};
    history[7].spread = 0.0009;
    history[7].count = 8;
    for (InstrumentEvent& e : history)
        if (const auto time = read_time(e.time))
            e.time = time_text(*time + std::chrono::days(days));
    return history;
}

} // namespace pallix::workshop
