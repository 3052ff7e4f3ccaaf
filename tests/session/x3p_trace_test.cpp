// SPDX-License-Identifier: GPL-3.0-or-later
// X3P files written by Python's own zip and struct from the elements of the standard.
#include "session/x3p_trace.h"

#include "block/profile_trace.h"
#include "block/state/bore_state.h"
#include "planning/row_block.h"
#include "session_fixture.h"

#include <cmath>
#include <numbers>

using namespace pallix;

namespace {

class X3p : public test::SessionFixture {
  protected:
    block::NamedText written(const std::string& kind) {
        const std::string file = folder_.filePath(QStringLiteral("wall.x3p")).toStdString();
        const std::string command =
            std::string("/usr/bin/python3 ") + PALLIX_TOOLS + "/write_x3p.py " + kind + " " + file;
        EXPECT_EQ(std::system(command.c_str()), 0); // NOLINT(concurrency-mt-unsafe): one thread
        auto text = session::read_text_file(QString::fromStdString(file));
        EXPECT_TRUE(text);
        return text.value_or(block::NamedText{});
    }
    std::string said_of(const std::string& kind) {
        const auto trace = session::trace_of_x3p(written(kind));
        EXPECT_FALSE(trace) << kind;
        return trace ? "" : trace.error().front().text();
    }
};

} // namespace

TEST_F(X3p, EveryKindOfNumberReadsAsTheSameWave) {
    for (const char* kind : {"D", "F", "L", "I", "list", "absolute"}) {
        const auto text = session::trace_of_x3p(written(kind));
        ASSERT_TRUE(text) << kind << text.error().front().text();
        const auto trace = block::read_trace(*text);
        ASSERT_TRUE(trace) << kind;
        ASSERT_EQ(trace->profile.heights.size(), 2001U) << kind;
        EXPECT_NEAR(trace->profile.step, 0.002, 1e-12) << kind;
        const double rounding = std::string(kind) == "I" ? 0.51e-7 : 1e-9; // mm: half of 10^-10 m
        for (std::size_t i = 0; i < trace->profile.heights.size(); ++i)
            ASSERT_NEAR(trace->profile.heights[i],
                        0.001 * std::sin(2 * std::numbers::pi * 0.002 * static_cast<double>(i) / 0.25), rounding)
                << kind << " " << i;
    }
}

TEST_F(X3p, IsTakenIntoTheLedgerAsATraceOfOurs) {
    ASSERT_TRUE(session_.new_job(QStringLiteral("row"), QStringLiteral("nobody"), {"row.json", test::row_blueprint()}));
    ASSERT_TRUE(session_.take_trace(test::bore_id(1), written("D")));
    const auto& traces = bores_of(session_.state()).bore(test::bore_id(1)).traces;
    ASSERT_EQ(traces.size(), 1U);
    EXPECT_EQ(traces[0].payload.file, "wall.x3p");
    EXPECT_TRUE(traces[0].payload.text.starts_with("# pallix-trace: 1\n# from wall.x3p, SHA-256 "));
    EXPECT_TRUE(block::read_trace({"kept", traces[0].payload.text}));
}

TEST_F(X3p, WhatIsWrongIsNamedAndNothingIsTaken) {
    const auto expect = [this](const char* kind, const char* words) {
        const std::string said = said_of(kind);
        EXPECT_NE(said.find(words), std::string::npos) << kind << ": " << said;
    };
    expect("surface", "it holds a surface (SUR) of 3 lines, expected one profile (PRF)");
    expect("gap", "point 101 was not measured");
    expect("checksum", "bindata/data.bin does not agree with its checksum");
    expect("xml-checksum", "main.xml does not agree with its checksum");
    expect("short", "bindata/data.bin holds 16000 bytes, expected 16008 for 2001 points");
    expect("uneven", "point 701: the step to this point differs from the others");
    expect("broken", "main.xml, line");
    expect("foreign", "its outermost element is \"mesh\", expected ISO5436_2");
    expect("no-data", "0 points are listed of 2001");
    EXPECT_EQ(session::trace_of_x3p({"x.x3p", "PK\x03\x04 and no more"}).error().front().text(),
              "x.x3p: this is no X3P file, or a part of it is missing, expected a zip with main.xml");
}

TEST_F(X3p, IsToldByItsBytesOrByItsName) {
    block::NamedText renamed = written("D");
    renamed.file = "wall.bin";
    EXPECT_TRUE(session::is_x3p(renamed));
    EXPECT_TRUE(session::is_x3p({"WALL.X3P", "something else"})) << "and is then refused as what it says it is";
    EXPECT_FALSE(session::is_x3p({"wall.trace.csv", "# pallix-trace: 1"}));
}

TEST_F(X3p, HostileBytesAreRefusedOrReadAndNeverMore) {
    const block::NamedText whole = written("D");
    std::size_t refused = 0;
    for (std::size_t i = 0; i < 400; ++i) {
        block::NamedText harmed = whole;
        const std::size_t at = i * 7919 % harmed.text.size();
        harmed.text[at] = static_cast<char>(harmed.text[at] ^ (1 << (i % 8)));
        refused += session::trace_of_x3p(harmed) ? 0 : 1;
        harmed.text.resize(at);
        EXPECT_FALSE(session::trace_of_x3p(harmed)) << "cut at " << at;
    }
    EXPECT_GT(refused, 350U) << "a checksum stands over nearly every byte";
}
