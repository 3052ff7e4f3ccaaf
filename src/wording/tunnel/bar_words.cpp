// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/common/phrases.h"
#include "wording/common/pick.h"
#include "wording/tunnel/tunnel_words.h"

#include <array>
#include <map>

namespace pallix::wording {

std::string bar_mark_name(block::BarMark mark) {
    return pick(mark, std::array{"cut all round", "cut in part", "dusted", "untouched"});
}

namespace {

std::string list_of(const std::vector<block::FeatureId>& mains) {
    std::string list = mains.size() == 1 ? "main " : "mains ";
    for (std::size_t i = 0; i < mains.size(); ++i)
        list += (i == 0 ? "" : i + 1 == mains.size() ? " and " : ", ") + std::to_string(mains[i].number);
    return list;
}

std::string half_words(double share) {
    constexpr double nothing = 0.02, all = 0.98;
    return share <= nothing ? "nothing" : share >= all ? "all" : "part";
}

} // namespace

std::vector<std::string> contact_sentences(const std::vector<planning::BarContact>& contacts) {
    std::map<std::string, std::vector<block::FeatureId>> alike;
    for (const planning::BarContact& c : contacts)
        alike[half_words(c.cap) + " of the cap and " + half_words(c.saddle) + " of the saddle"].push_back(c.main);
    std::vector<std::string> out;
    out.reserve(alike.size());
    for (const auto& [what, mains] : alike)
        out.push_back("It is to touch " + what + " of " + list_of(mains) + ".");
    return out;
}

CallText bar_call(const planning::TunnelWork& work) {
    if (work.step == planning::TunnelStep::give_bar)
        return {"Measure the boring bar",
                "",
                {"The cutter's protrusion is half of what the bore is larger than the bar: its diameter is kept with "
                 "the plan."},
                ""};
    if (work.step == planning::TunnelStep::mark)
        return {
            "Look at what the pass left",
            "",
            {"Still to mark: " + list_of(work.to_mark) + ".",
             "Cut all round, in part, dusted or untouched: only a main that was cut all round tells the size of the "
             "tool."},
            "Stop the spindle and see it stopped; wipe the chips out, never by hand."};
    return {
        "In size, and not cut all round: decide",
        "",
        {capitalised(list_of(work.not_clean)) + (work.not_clean.size() == 1 ? " was" : " were") + " not cut all round.",
         "More would make them all larger: the cap again, or go on with a reason."},
        ""};
}

} // namespace pallix::wording
