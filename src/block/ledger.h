// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/cylinder_entries.h"
#include "block/entries/deck_entries.h"
#include "block/entries/job_entries.h"
#include "block/entries/lifter_entries.h"
#include "block/entries/practice_entries.h"
#include "block/entries/reading_entries.h"
#include "block/entries/route_entries.h"
#include "block/entries/shop_entries.h"
#include "block/entries/tunnel_entries.h"

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <tl/expected.hpp>
#include <tuple>
#include <type_traits>
#include <utility>
#include <variant>
#include <vector>

namespace pallix::block {

// What a person did. An entry never changes; a wrong one is struck by a later one and stays readable.

/// Every part of a job with its kinds of entries.
using PartsOfTheLedger = std::tuple<JobKinds, ReadingKinds, TunnelKinds, DeckKinds, CylinderKinds, LifterKinds,
                                    RouteKinds, ShopKinds, PracticeKinds, Kinds<UnknownPayload>>;
using AllKinds = decltype(std::apply([](auto... kinds) { return (kinds + ...); }, PartsOfTheLedger()));
using PayloadKinds = AllKinds::Variant;

/// One of these kinds. Copying and destroying forty of them is compiled once, not in every file that holds an entry.
class Payload : public PayloadKinds {
  public:
    Payload();
    /// Any kind of entry. Said so plainly, as the variant's own way of finding out which kind is meant costs a compiler
    /// more than all the rest.
    template <class Kind>
    requires(AllKinds::has<Kind>) Payload(Kind kind) : PayloadKinds(std::in_place_type<Kind>, std::move(kind)) {}
    ~Payload();
    Payload(const Payload&);
    Payload(Payload&&) noexcept;
    Payload& operator=(const Payload&);
    Payload& operator=(Payload&&) noexcept;
};

struct Entry {
    std::int64_t sequence = 0; ///< from 1 within the job, without gaps
    std::string time;          ///< UTC, ISO 8601, "2026-03-02T09:41:00Z"
    std::string person;
    Payload payload;
};

[[nodiscard]] std::string kind_of(const Payload& payload);
[[nodiscard]] std::int64_t version_of(const Payload& payload);

/// Payloads as the shop book and job files keep them.
[[nodiscard]] std::string payload_json(const Payload& payload);

/// @return the payload; an unknown kind or a newer version as UnknownPayload; every fault where a known one is broken
[[nodiscard]] tl::expected<Payload, std::vector<FieldFault>> read_payload(std::string_view kind, std::int64_t version,
                                                                          std::string_view json);

/// What is wrong with an entry that was made in the program, by the same ranges that files are read with.
/// @param payload is walked through in place and left as it is
[[nodiscard]] std::vector<FieldFault> faults_in(Payload& payload);

/// @return for each entry, whether it is struck (by a strike that is not struck itself)
[[nodiscard]] std::vector<bool> struck(const std::vector<Entry>& entries);

} // namespace pallix::block
