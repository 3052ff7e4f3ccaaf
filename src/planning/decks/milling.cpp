// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/milling.h"

#include <cmath>
#include <numbers>

namespace pallix::planning {

MillingData milling_data(const block::CutterFitted& cutter, double speed, double feed, double length) {
    MillingData m;
    m.rpm = 1000 * speed / (std::numbers::pi * cutter.diameter);
    m.feed_per_rev = feed * cutter.teeth;
    m.feed_rate = m.feed_per_rev * m.rpm;
    if (cutter.nose_radius > 0) {
        const double f2 = m.feed_per_rev * m.feed_per_rev;
        m.rt = f2 / (8 * cutter.nose_radius);
        m.ra = f2 / (18 * std::numbers::sqrt3 * cutter.nose_radius);
    }
    m.minutes = m.feed_rate > 0 ? (length + cutter.diameter) / m.feed_rate : 0;
    return m;
}

MillingData milling_for(const block::CutterFitted& cutter, block::PassKind kind, double length) {
    const bool fine = kind == block::PassKind::finish || kind == block::PassKind::spring;
    return fine ? milling_data(cutter, cutter.finish_speed, cutter.finish_feed, length)
                : milling_data(cutter, cutter.speed, cutter.feed, length);
}

double usual_ra(block::GasketKind gasket) {
    switch (gasket) {
    case block::GasketKind::composition:
        return 0.0022;
    case block::GasketKind::multilayer_steel:
        return 0.0008;
    case block::GasketKind::soft_copper:
        break;
    }
    return 0.0016;
}

} // namespace pallix::planning
