// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/job_file.h"

#include "block/digest.h"
#include "block/schema.h"

namespace pallix::block {

namespace {

/// A version beyond any that there will be stays beyond them all.
std::int64_t whole_number(const Json& j) {
    const auto number = j.get<double>();
    return number < 1e15 ? static_cast<std::int64_t>(number) : std::int64_t{1'000'000'000'000'000};
}

/// A log or trace that was changed in the file is not the one that was taken.
bool is_what_was_taken(const Payload& payload) {
    const auto holds = [](const auto* taken) {
        if (!taken || taken->sha256.empty())
            return true;
        const std::string& text = taken->text;
        return taken->sha256 == sha256_hex(text);
    };
    return holds(std::get_if<ProbeLogTaken>(&payload)) && holds(std::get_if<TraceTaken>(&payload));
}

} // namespace

std::string entry_words(const Entry& entry) {
    return "entry " + std::to_string(entry.sequence) + " (" + kind_of(entry.payload) + ")";
}

std::string write_job(const std::vector<Entry>& entries) {
    Json root{{"format", "pallix-job"}, {"version", 1}, {"entries", Json::array()}};
    for (const Entry& entry : entries)
        root["entries"].push_back({{"sequence", entry.sequence},
                                   {"time", entry.time},
                                   {"person", entry.person},
                                   {"kind", kind_of(entry.payload)},
                                   {"version", version_of(entry.payload)},
                                   {"payload", Json::parse(payload_json(entry.payload))}});
    return root.dump(1) + "\n";
}

Result<std::vector<Entry>> read_job(std::string_view text, const std::string& file) {
    return read_document(text, file, job_schema_text)
        .and_then([](const JsonDocument& document) -> Result<std::vector<Entry>> {
            std::vector<Entry> entries;
            Faults faults;
            const Json& list = document.root["entries"];
            std::vector<std::pair<std::size_t, std::vector<FieldFault>>> unreadable;
            for (std::size_t i = 0; i < list.size() && faults.size() < most_faults; ++i) {
                const Json& j = list[i];
                const std::string at = item_address("entries", i);
                const auto expected = static_cast<std::int64_t>(i + 1);
                if (j["sequence"] != expected)
                    faults.push_back(document.fault(member_address(at, "sequence"),
                                                    at + ".sequence is " + j["sequence"].dump(),
                                                    std::to_string(expected)));
                const auto kind = j["kind"].get<std::string>();
                const auto version = whole_number(j["version"]);
                const std::string json = j["payload"].dump();
                auto payload = read_payload(kind, version, json);
                if (!payload) {
                    unreadable.emplace_back(i, payload.error());
                    payload = UnknownPayload{kind, version, json, payload.error()};
                }
                entries.push_back({expected, j["time"], j["person"], std::move(*payload)});
            }
            // What was struck has no part in the job: it need not be readable.
            const std::vector<bool> out = struck(entries);
            for (const auto& [i, wrong] : unreadable)
                for (const FieldFault& fault : out[i] ? std::vector<FieldFault>() : wrong)
                    faults.push_back(document.fault(
                        member_address(member_address(item_address("entries", i), "payload"), fault.field),
                        entry_words(entries[i]) + ": " +
                            (fault.field.empty() ? fault.what : fault.field + " " + fault.what),
                        fault.expected));
            for (std::size_t i = 0; i < entries.size() && faults.size() < most_faults; ++i)
                if (!out[i] && !is_what_was_taken(entries[i].payload))
                    faults.push_back(document.fault(
                        member_address(member_address(item_address("entries", i), "payload"), "sha256"),
                        entry_words(entries[i]) + ": sha256 is not that of its text", "the text as it was taken"));
            if (faults.empty() && !std::holds_alternative<JobOpened>(entries.front().payload))
                faults.push_back(document.fault(
                    "entries[0]", "the first entry is of kind \"" + kind_of(entries.front().payload) + "\"",
                    "an entry of kind \"job_opened\""));
            if (!faults.empty())
                return tl::unexpected(std::move(faults));
            return entries;
        });
}

} // namespace pallix::block
