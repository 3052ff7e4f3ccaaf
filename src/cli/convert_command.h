// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/log_dialect.h"
#include "block/named_text.h"

#include <string>

namespace pallix::cli {

/// How a shop's own logs are to be read.
struct LogReading {
    std::string mapping;   ///< a file; empty: everything is found in the log
    std::string blueprint; ///< a file; touches without names are laid on it
    bool by_shape = false; ///< without a blueprint they are named by the shape of blocks in general
};

struct ConvertRequest {
    std::string log; ///< "-" is standard input
    LogReading reading;
    bool suggest = false; ///< print the mapping that would be used, not the log
};

/// Prints a shop's own log as one of the contract's form, and on standard error how it was understood.
/// @return the exit status
int convert(const ConvertRequest& request);

/// A log of another form in the contract's; one of that form as it stands. What was understood goes to standard error.
[[nodiscard]] block::Result<block::NamedText> as_ours(const block::NamedText& log, const LogReading& reading);

} // namespace pallix::cli
