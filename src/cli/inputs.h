// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"

#include <string>
#include <vector>

namespace pallix::cli {

constexpr int input_is_wrong = 1;

/// What every command that looks at a block is given.
struct BlockFiles {
    std::string blueprint;
    std::vector<std::string> probes;
};

/// A blueprint, its touches and what they say.
struct MeasuredBlock {
    block::Blueprint blueprint;
    block::ProbeSet probe;
    block::Evaluation evaluation;
};

[[nodiscard]] block::Result<block::NamedText> read_file(const std::string& file);

/// Reads and evaluates; every fault of every file, or the block. Warnings go to standard error.
[[nodiscard]] block::Result<MeasuredBlock> read_block(const BlockFiles& files);

/// One line each on standard error.
void print(const block::Faults& faults, const char* prefix = "");

} // namespace pallix::cli
