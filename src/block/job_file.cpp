// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/job_file.h"

#include "block/schema.h"

namespace pallix::block {

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
            for (std::size_t i = 0; i < document.root["entries"].size(); ++i) {
                const Json& j = document.root["entries"][i];
                const std::string at = item_address("entries", i);
                const auto expected = static_cast<std::int64_t>(i + 1);
                if (j["sequence"].get<std::int64_t>() != expected)
                    faults.push_back(document.fault(member_address(at, "sequence"),
                                                    at + ".sequence is " + j["sequence"].dump(),
                                                    std::to_string(expected)));
                auto payload = read_payload(j["kind"].get<std::string>(), j["version"], j["payload"].dump());
                if (!payload) {
                    faults.push_back(document.fault(member_address(at, "payload"), payload.error(),
                                                    "the fields of docs/formats.md"));
                    continue;
                }
                entries.push_back({expected, j["time"], j["person"], std::move(*payload)});
            }
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
