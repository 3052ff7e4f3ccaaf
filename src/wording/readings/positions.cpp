// SPDX-License-Identifier: GPL-3.0-or-later
// Where bores and dowels lie, and what that has in common.
#include "wording/common/phrases.h"
#include "wording/common/sentences.h"
#include "wording/readings/readings.h"

#include <cmath>
#include <numbers>

namespace pallix::wording {

std::string across_words(const block::BankBlueprint& bank, double v, const LengthText& l) {
    return l.with_unit(std::abs(v)) + " " +
           across_word(v >= 0 ? planning::positive_side(bank) : planning::negative_side(bank));
}

std::string along_words(double u, const LengthText& l) {
    return l.with_unit(std::abs(u)) + (u >= 0 ? " to the rear" : " to the front");
}

std::string position_words(const block::BankBlueprint& bank, metrology::Vec2 error, const LengthText& l) {
    return across_words(bank, error.y, l) + " across the crankshaft, " + along_words(error.x, l) + " along it";
}

namespace {

/// What a bank that is turned or stretched has in common besides.
std::string all_one_way(const planning::Pattern& p, const LengthText& l) {
    return norm(p.shift) > 0.01 ? "All one way, by " + l.with_unit(norm(p.shift)) + ", and " : "";
}

/// mm per m, or thou per inch, which is the same number.
std::string per_length(double per_thousand, const LengthText& l) {
    return fixed(per_thousand, 2) + (l.unit() == block::Unit::inch ? " thou per inch" : " mm per m");
}

} // namespace

std::string pattern_sentence(const block::Blueprint& b, const planning::Pattern& p, const LengthText& l) {
    const std::string share = fixed(100 * p.explained, 0) + " % of the scatter";
    switch (p.kind) {
    case planning::PatternKind::none:
        return "No common pattern.";
    case planning::PatternKind::shift:
        return "All one way, by " + l.with_unit(norm(p.shift)) + " (" + share +
               "): the datum, the fixture or a core shift.";
    case planning::PatternKind::rotation:
        return all_one_way(p, l) + "turned by " + per_length(std::abs(p.rotation) * 1000, l) + " (" + share +
               "): the bank was machined turned, or the datum pair is off.";
    case planning::PatternKind::drift:
        return all_one_way(p, l) + "growing along the bank, " + per_length(p.drift, l) + " (" + share +
               "): a pitch error, or heat.";
    case planning::PatternKind::too_few:
        return "Too few holes to tell a common pattern from scatter.";
    case planning::PatternKind::outlier:
        break;
    }
    return "One stands out: " + feature_words(b, p.odd) + ", by " + l.with_unit(norm(p.odd_by)) + " (" + share +
           "): probe it again before it counts.";
}

namespace {
constexpr double worn_dowel = 0.05; // mm; common practice, no source
}

std::string dowel_pair_sentence(const planning::DowelPair& pair, const LengthText& l) {
    return "Dowel pair: turned by " + fixed(std::abs(pair.rotation) * 180 * 60 / std::numbers::pi, 1) +
           "′ against the blueprint, " +
           (l.plain(pair.distance_error) == l.plain(0)
                ? "as far apart as it says"
                : l.side(pair.distance_error, "further apart", "nearer together")) +
           (std::abs(pair.distance_error) > worn_dowel ? ": a worn or damaged dowel shows here." : ".");
}

} // namespace pallix::wording
