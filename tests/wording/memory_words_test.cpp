// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/shop/memory_words.h"

#include "block/small_block.h"
#include "block/state/fold.h"

#include <gtest/gtest.h>

using namespace pallix;
using planning::Trait;
using planning::TraitMemory;

TEST(MemoryWords, SayWhatIsUsualAndHowManyHaveIt) {
    const wording::LengthText mm(block::Unit::mm);
    TraitMemory m;
    m.what = {Trait::saddle_crown, ""};
    m.others = {0.001, 0.004, 0.005, 0.006, 0.007};
    m.present = 0.02;
    m.mean = 0.005;
    m.spread = 0.002;
    m.same_side = 4;
    m.unusual = true;
    EXPECT_EQ(wording::memory_sentence(block::Folded(), m, mm),
              "usually 0.005 mm back of the line, more or less by 0.002 mm: 4 of 5; this block 0.020 "
              "mm back of the line, further out than 19 of 20 such blocks");
    m.mean.reset();
    m.unusual = false;
    m.others = {-0.004, 0.001};
    EXPECT_EQ(wording::memory_sentence(block::Folded(), m, mm),
              "two blocks so far: 0.004 mm proud of the line, 0.001 mm back of the line; this block 0.020 mm back of "
              "the line");
    m.what = {Trait::deck_shape, "deck.C"};
    m.others = {0.03};
    m.present.reset();
    EXPECT_EQ(wording::memory_sentence(block::Folded(), m, mm), "one block so far: 0.030 mm");
}

TEST(MemoryWords, NameTheBankAndTheCylinder) {
    const block::Folded job = block::fold(
        {{1, "2026-03-02T09:00:00Z", "Marit", block::JobOpened{"t", "c", "b.json", test::small_blueprint()}}});
    EXPECT_EQ(wording::trait_name(job, {Trait::deck_slope, "deck.C"}), "deck: slope to the rear");
    EXPECT_EQ(wording::trait_name(job, {Trait::wear, "bore.C.1"}), "cylinder 1: over nominal");
    EXPECT_EQ(wording::trait_name(job, {Trait::saddle_crown, ""}), "inner mains");
    const wording::LengthText mm(block::Unit::mm);
    EXPECT_EQ(wording::trait_length(job, {Trait::core_shift_along, "deck.C"}, -0.05, mm), "0.050 mm front");
    EXPECT_EQ(wording::trait_length(job, {Trait::core_shift_across, "deck.C"}, 0.05, mm), "0.050 mm right");
    EXPECT_EQ(wording::trait_length(job, {Trait::bank_turn, "deck.C"}, -0.05, mm), "0.050 mm high left");
}
