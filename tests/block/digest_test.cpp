// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/digest.h"

#include <gtest/gtest.h>

using namespace pallix::block;

TEST(Digest, IsSha256) {
    // FIPS 180-2, appendix B.1 and B.2
    EXPECT_EQ(sha256_hex("abc"), "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
    EXPECT_EQ(sha256_hex("abcdbcdecdefdefgefghfghighijhijkijkljklmklmnlmnomnopnopq"),
              "248d6a61d20638b8e5c026930c3e6039a33ce45964ff2167f6ecedd419db06c1");
}

// Worked out with Python's hashlib from the rule in docs/formats.md.
TEST(Digest, OfALedgerIsWhatTheDocumentSays) {
    std::vector<Entry> entries{{1, "2026-03-02T09:41:00Z", "Marit", Note{"a"}}};
    EXPECT_EQ(digest_of({}), "");
    EXPECT_EQ(digest_of(entries), "4e75d3699a9dfe7c6a3d85bc75d08c05cda015759ea5291889c7f15baabdebc1");
    entries.push_back({2, "2026-03-02T09:41:00Z", "Åse", Note{"µ"}});
    EXPECT_EQ(digest_of(entries), "66bd514305ab273a523433c48e49cedb623eaec951e64ab983e0196d296b8e95");
}

TEST(Digest, EveryPartOfEveryEntryCounts) {
    const EntryText entry{2, "t", "p", "note", 1, "{}"};
    const std::string digest = digest_after("before", entry);
    for (const EntryText& other : {EntryText{3, "t", "p", "note", 1, "{}"}, EntryText{2, "u", "p", "note", 1, "{}"},
                                   EntryText{2, "t", "q", "note", 1, "{}"}, EntryText{2, "t", "p", "cut", 1, "{}"},
                                   EntryText{2, "t", "p", "note", 2, "{}"}, EntryText{2, "t", "p", "note", 1, "[]"},
                                   EntryText{2, "tp", "", "note", 1, "{}"}})
        EXPECT_NE(digest_after("before", other), digest);
    EXPECT_NE(digest_after("", entry), digest);
}
