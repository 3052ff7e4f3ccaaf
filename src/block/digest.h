// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/ledger.h"

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::block {

/// SHA-256 (FIPS 180-4) of a text, 64 hexadecimal digits.
[[nodiscard]] std::string sha256_hex(std::string_view text);

/// An entry as it is kept, to the byte.
struct EntryText {
    std::int64_t sequence = 0;
    std::string_view time, person, kind;
    std::int64_t version = 1;
    std::string_view payload;
};

/// The digest of an entry holds that of the entry before it, so that no entry can change, go, come or change places
/// without every later digest changing too (docs/formats.md, digest).
/// @param before digest of the entry before it; empty for the first
[[nodiscard]] std::string digest_after(std::string_view before, const EntryText& entry);

/// @return the digest of the last entry: it stands for the whole ledger; empty for an empty one
[[nodiscard]] std::string digest_of(const std::vector<Entry>& entries);

/// Which entry a digest is of: a paper that carries it tells of an unaltered ledger up to there.
/// @param typed as it stands on paper: spaces and capitals do not matter, twelve digits from its beginning are enough
/// @return its sequence; nothing where it is no digest of this ledger, or too short to tell
[[nodiscard]] std::optional<std::int64_t> entry_of_digest(const std::vector<Entry>& entries, std::string_view typed);

} // namespace pallix::block
