// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/named_text.h"

namespace pallix::session {

/// Whether it is a zip, as X3P is, by its first bytes, or is called X3P.
[[nodiscard]] bool is_x3p(const block::NamedText& file);

/// A roughness trace out of an X3P file (ISO 25178-72; its elements from memory): a zip with main.xml, which holds the
/// heights or names the binary that does. Lengths in it are metres.
/// @param file its bytes as text
/// @return the same heights as a trace of ours (docs/formats.md) with a remark of where they are from, or what is
/// wrong: no zip, a checksum that does not agree, a surface instead of a profile, points that were not measured, places
/// that are not evenly spaced
[[nodiscard]] block::Result<block::NamedText> trace_of_x3p(const block::NamedText& file);

} // namespace pallix::session
