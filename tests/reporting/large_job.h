// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/ledger.h"
#include "block/small_block.h"

#include <string>
#include <vector>

namespace pallix::test {

/// A block with two rows of twelve cylinders, decked in five hundred passes, whose title is long.
inline std::vector<block::Entry> large_job() {
    std::string bores;
    for (const char* bank : {"R", "L"})
        for (int n = 1; n <= 12; ++n)
            bores += (bores.empty() ? "" : ",") + std::string(R"({"id":"bore.)") + bank + "." + std::to_string(n) +
                     R"(","bank":")" + bank + R"(","u":)" + std::to_string(60 * n - 30) +
                     R"(,"v":0,"diameter":{"nominal":50}})";
    const std::string deck = R"("deck_height":{"nominal":200,"lower":-0.05,"upper":0.05},"deck_flatness":0.05,)"
                             R"("deck_outline":[[0,-50],[720,-50],[720,50],[0,50]]})";
    const std::string blueprint =
        R"({"format":"pallix-blueprint","version":1,"unit":"mm","name":"twenty-four","datum":{"origin_dowel":"dowel.R.1",)"
        R"("clocking":"decks"},"banks":[{"id":"R","angle_deg":30,)" +
        deck + R"(,{"id":"L","angle_deg":-30,)" + deck +
        R"(],"mains":[{"id":"main.1","x":20,"diameter":{"nominal":60}},{"id":"main.2","x":700,"diameter":{"nominal":60}}],)"
        R"("dowels":[{"id":"dowel.R.1","bank":"R","u":0,"v":0,"diameter":{"nominal":12}}],"bores":[)" +
        bores + "]}";
    std::vector<block::Entry> entries;
    const auto add = [&entries](block::Payload payload) {
        entries.push_back(
            {static_cast<std::int64_t>(entries.size() + 1), "2026-03-02T09:00:00Z", "Marit", std::move(payload)});
    };
    add(block::JobOpened{std::string(300, 'W'), "a customer of " + std::string(60, 'i'), "b.json", blueprint});
    add(block::SerialGiven{"S26-100", ""});
    for (const char* bank : {"R", "L"}) {
        for (const double u : {20.0, 360.0, 700.0})
            for (const double v : {-40.0, 40.0})
                add(height_reading({u, v}, 200.6, 0.001, bank));
        for (int i = 0; i < 250; ++i)
            add(block::DeckCut{bank, block::PassKind::pass, 0.001, false, {}});
    }
    return entries;
}

} // namespace pallix::test
