// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"

#include "block/fields_json.h"

#include <algorithm>

namespace pallix::block {
namespace {

template <class Entry>
constexpr bool is_known = !std::is_same_v<Entry, UnknownPayload>;

/// Calls `run` with an empty entry of each known kind until it answers true.
template <class Run, std::size_t... I>
bool any_kind(Run run, std::index_sequence<I...>) {
    const auto one = [&run]<class Entry>(Entry entry) {
        if constexpr (is_known<Entry>) {
            static_assert(!entry_kind<Entry>.empty(), "every kind of entry has a name in files");
            return run(std::move(entry));
        }
        return false;
    };
    return (one(std::variant_alternative_t<I, PayloadKinds>{}) || ...);
}

/// What a payload that is not even JSON is kept as in a job file.
std::string wrapped(const std::string& text) {
    return fields_as_json([&text](Fields& f) {
        std::string kept = text;
        f.text("unreadable", kept, long_text);
    });
}

} // namespace

Payload::Payload() = default;
Payload::~Payload() = default;
Payload::Payload(const Payload&) = default;
Payload::Payload(Payload&&) noexcept = default;
Payload& Payload::operator=(const Payload&) = default;
Payload& Payload::operator=(Payload&&) noexcept = default;

std::string kind_of(const Payload& payload) {
    return std::visit(
        []<class Entry>(const Entry& entry) {
            if constexpr (is_known<Entry>)
                return std::string(entry_kind<Entry>);
            else
                return entry.kind;
        },
        payload);
}

std::int64_t version_of(const Payload& payload) {
    const auto* unknown = std::get_if<UnknownPayload>(&payload);
    return unknown ? unknown->version : 1;
}

std::string payload_json(const Payload& payload) {
    return std::visit(
        []<class Entry>(Entry entry) {
            if constexpr (is_known<Entry>)
                return fields_as_json([&entry](Fields& f) { fields(f, entry); });
            else
                return is_json(entry.json) ? entry.json : wrapped(entry.json);
        },
        payload);
}

tl::expected<Payload, std::vector<FieldFault>> read_payload(std::string_view kind, std::int64_t version,
                                                            std::string_view json) {
    std::vector<FieldFault> faults;
    Payload payload;
    const auto read = [&]<class Entry>(Entry entry) {
        if (kind != entry_kind<Entry>)
            return false;
        faults = fields_from_json(json, [&entry](Fields& f) { fields(f, entry); });
        payload = std::move(entry);
        return true;
    };
    const bool known = version == 1 && any_kind(read, std::make_index_sequence<std::variant_size_v<PayloadKinds>>());
    if (!known) {
        if (!is_json(json))
            return tl::unexpected(std::vector<FieldFault>{{"", "is not well-formed JSON", "an object"}});
        return UnknownPayload{std::string(kind), version, std::string(json)};
    }
    if (!faults.empty())
        return tl::unexpected(std::move(faults));
    return payload;
}

std::vector<FieldFault> faults_in(Payload& payload) {
    return std::visit(
        []<class Entry>(Entry& entry) -> std::vector<FieldFault> {
            if constexpr (is_known<Entry>) {
                Checker checker;
                fields(checker, entry);
                return checker.faults();
            } else {
                return entry.faults;
            }
        },
        payload);
}

std::vector<bool> struck(const std::vector<Entry>& entries) {
    std::vector<bool> out(entries.size(), false);
    // From the last to the first: a strike counts only when no later strike has taken it out.
    for (std::size_t i = entries.size(); i-- > 0;) {
        const auto* strike = std::get_if<Strike>(&entries[i].payload);
        if (!strike || out[i])
            continue;
        const auto end = entries.begin() + static_cast<std::ptrdiff_t>(i);
        const auto found =
            std::lower_bound(entries.begin(), end, strike->sequence,
                             [](const Entry& e, std::int64_t sequence) { return e.sequence < sequence; });
        if (found != end && found->sequence == strike->sequence)
            out[static_cast<std::size_t>(found - entries.begin())] = true;
    }
    return out;
}

} // namespace pallix::block
