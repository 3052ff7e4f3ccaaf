// SPDX-License-Identifier: GPL-3.0-or-later
// What a wall's texture is, by trace or tester, and whether more brush makes it better.
#include "block/state/bore_state.h"
#include "planning/cylinders/texture.h"
#include "wording/cylinders/cylinder_words.h"

namespace pallix::wording {
namespace {

constexpr double um = 1e-3; // mm

} // namespace

std::string hatch_sentence(const planning::HatchSeen& hatch) {
    const auto degrees = [](double rad) { return fixed(rad / block::radians_per_degree, 0) + "°"; };
    const std::string said =
        "Cross-hatch seen " + degrees(hatch.seen) + "; speed, stroke and rate make " + degrees(hatch.meant);
    if (hatch.counted_twice)
        return said +
               ": as if a stroke were counted the other way, there and back or one way. Look which the plan says.";
    return said + ". About " + fixed(hatch.rate, 0) + " strokes a minute would make them here.";
}

std::string texture_text(double value, bool is_ratio) {
    return is_ratio ? fixed(100 * value, 1) + " %" : fixed(value / um, 2) + " µm";
}
std::string traces_text(const planning::TextureFinding& f) {
    std::string text =
        f.traces > 1 ? "mean of " + std::to_string(f.traces) + " traces" : "one trace, of its place alone";
    if (f.left_out > 0)
        text += "; " + std::to_string(f.left_out) + " at another cutoff left out";
    if (f.before_cut)
        text += "; from before the last cut";
    return text;
}
std::string range_text(const block::TextureLimits::Range& r, bool is_ratio) {
    if (r.least && r.most)
        return (is_ratio ? fixed(100 * *r.least, 0) : fixed(*r.least / um, 2)) + " to " +
               texture_text(*r.most, is_ratio);
    if (r.least)
        return "at least " + texture_text(*r.least, is_ratio);
    return r.most ? "at most " + texture_text(*r.most, is_ratio) : "";
}

std::string typed_texture_words(const std::vector<planning::TextureCheck>& checks) {
    std::string words;
    for (const planning::TextureCheck& c : checks) {
        words += (words.empty() ? ": " : ", ") + c.name + " " + texture_text(c.value, c.is_ratio);
        if ((c.wanted.least || c.wanted.most) && c.verdict != metrology::Verdict::meets)
            words += " (" + verdict_word(c.verdict) + ", " + range_text(c.wanted, c.is_ratio) + ")";
    }
    return words;
}

std::string texture_advice_sentence(const block::JobState& state, const block::FeatureId& cylinder) {
    auto checks = planning::typed_texture(bores_of(state), cylinder);
    if (checks.empty())
        if (const auto traced = planning::texture_of(bores_of(state), cylinder); traced && !traced->before_cut)
            checks = traced->checks;
    switch (planning::texture_advice(checks)) {
    case planning::TextureAdvice::nothing:
        return "";
    case planning::TextureAdvice::enough:
        return "Its texture is what the rings want: stop, more brush only takes it away.";
    case planning::TextureAdvice::brush:
        return "Its tops are too high: a few more strokes of the brush, then the tester again.";
    case planning::TextureAdvice::coarser_last:
        return "Its valleys are too shallow: no brush makes them. Stop; a coarser last stone would, where there is "
               "stock.";
    case planning::TextureAdvice::cannot_tell:
        break;
    }
    return "Its texture is too near a limit to tell: the tester once more, at other places.";
}

} // namespace pallix::wording
