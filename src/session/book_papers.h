// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "reporting/paper_source.h"
#include "storage/shop_book.h"

namespace pallix::session {

/// What the shop's book adds to the papers of a job: how they are, the job's pictures, the histories of its gauges.
/// @param book outlives what is returned
[[nodiscard]] reporting::OfBook of_book(const storage::ShopBook& book, const block::JobState& state);

} // namespace pallix::session
