// SPDX-License-Identifier: GPL-3.0-or-later
// A gauge that sends anything at all is learned from, and read by what was learned; profiles as settings have them.
#include "block/gauge_profile.h"
#include "input.h"

#include <boost/algorithm/string.hpp>

using namespace pallix;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string text = fuzz::text(data, size);
    static_cast<void>(block::read_gauge_profiles(text, "settings"));
    static_cast<void>(block::bytes_typed(text));
    std::vector<std::string> sent;
    boost::split(sent, text, boost::is_any_of("|"));
    const auto learnt = block::learn_gauge(sent);
    if (!learnt)
        return 0;
    block::GaugeProfile profile;
    profile.pattern = learnt->pattern;
    if (const auto pattern = block::GaugePattern::of(profile))
        for (const std::string& line : sent)
            static_cast<void>(pattern->read(line));
    return 0;
}
