// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/instrument_event.h"
#include "block/ledger.h"
#include "block/shop_papers.h"
#include "workshop/practice_block.h"

#include <string>
#include <vector>

namespace pallix::workshop {

/// The demo: a harbour repair shop that keeps a few workboats going. Shop, boats, people, engines and figures are
/// invented; each job stands at another place of its route.
struct DemoFile {
    std::string name;
    std::string text;
};

/// As the shop states it for the touches of its probe.
inline constexpr double harbour_touch_uncertainty = 0.0012; // mm

/// Blueprints and probe logs, as they are shipped in assets/demo.
[[nodiscard]] std::vector<DemoFile> harbour_files();

struct DemoJob {
    std::vector<block::Entry> entries;
};

/// The shop's register of instruments.
[[nodiscard]] std::vector<block::Instrument> harbour_instruments();

/// What happened to its bore gauge over a year: it drifted, was repaired, and holds since.
/// @param days later than the demo has it
[[nodiscard]] block::InstrumentHistory harbour_gauge_events(int days);

/// The jobs of the demo shop book, made from the files above.
[[nodiscard]] std::vector<DemoJob> harbour_jobs();

/// Engines of the workboats that were decked and delivered in the months before: what the shop remembers of their kind.
[[nodiscard]] std::vector<DemoJob> harbour_past();

/// Their job cards, parts and holds, as the shop wrote them on the last day of them all.
void add_cards(std::vector<DemoJob>& jobs);
/// How its papers, serials and machines are.
[[nodiscard]] block::ShopPapers harbour_papers();
/// The day on which the demo is looked at: the one after its last entry.
inline constexpr const char* harbour_today = "2026-03-06";
/// The same so many days later.
void shift_days(std::vector<DemoJob>& jobs, int days);

/// The engines of the demo without their faults.
[[nodiscard]] block::Blueprint workboat_v6();
[[nodiscard]] block::Blueprint tender_inline_four();
[[nodiscard]] block::Blueprint ferry_v8();

/// What the stand-in stylus says of the ferry's first cylinder: a trace as files hold it.
[[nodiscard]] DemoFile harbour_trace();

} // namespace pallix::workshop
