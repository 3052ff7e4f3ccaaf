// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "workshop/harbour.h"
#include "workshop/practice_block.h"

#include <string>

namespace pallix::test {

/// The ferry probed with its lifter bores off their places.
/// @param shift mm across, of every third once, twice and three times; @param bore of every lifter, mm
inline std::string ferry_log(double shift, double bore) {
    workshop::PracticeBlock p{workshop::ferry_v8(), {}, 0, 0, 0.001, {}};
    for (const char* bank : {"R", "L"}) {
        p.decks[bank] = {};
        for (int n = 1; n <= 8; ++n)
            p.holes[{block::FeatureKind::lifter, bank, n}] = {{0, shift * (1 + n % 3)}, {}, bore - 22, 0, 0};
    }
    workshop::ProbeJob job;
    job.noise = 0.0002;
    job.holes = true;
    job.stated_uncertainty = 0.0005;
    return workshop::probe(p, job);
}

} // namespace pallix::test
