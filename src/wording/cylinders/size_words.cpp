// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/intake_state.h"
#include "planning/cylinders/size_choice.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/readings/readings.h"

namespace pallix::wording {

std::vector<std::string> choice_sentences(const block::JobState& state, const planning::CylinderStudy& study,
                                          const block::FeatureId& bore, const LengthText& l) {
    const planning::SizeChoice c = planning::size_choice(state, study, bore);
    const auto name = [&state](const block::FeatureId& id) { return feature_words(*intake_of(state).blueprint, id); };
    std::vector<std::string> out;
    if (c.others == 0)
        return out;
    if (c.all_at) {
        std::string all = "All at " + oversize_text(*c.all_at, l);
        if (c.more_off > 0)
            all += ": " + l.with_unit(c.more_off) + " more off each of the rest";
        if (c.wall)
            all += "; their thinnest wall is then " + l.with_unit(*c.wall) + ", at " + name(c.wall_of) +
                   (c.thin ? ", thinner than its limit" : "");
        out.push_back(all + ".");
    }
    std::string sleeve = "A sleeve for this one";
    if (c.stay_at)
        sleeve += ": the rest stay at " + oversize_text(*c.stay_at, l);
    for (std::size_t i = 0; i < c.beside.size(); ++i)
        sleeve += (i > 0 ? " and " : "; once it is in, ") + name(c.beside[i]);
    out.push_back(sleeve + (c.beside.empty() ? "." : ", beside it, have to be measured again."));
    return out;
}

} // namespace pallix::wording
