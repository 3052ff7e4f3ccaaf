// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// For the readers of documents: keeps nlohmann's header out of the public ones.

#include "block/fault.h"
#include "block/json.h"
#include "block/json_lines.h"

#include <string_view>

namespace pallix::block {

extern const char* const blueprint_schema_text;
extern const char* const job_schema_text;
extern const char* const policy_schema_text;
extern const char* const recipe_schema_text;
extern const char* const mapping_schema_text;
extern const char* const engine_schema_text;

/// What a text says it is, at its top: "pallix-recipe"; empty where it is no document of ours.
[[nodiscard]] std::string format_of(std::string_view text);

/// A parsed document together with where its values stand.
struct JsonDocument {
    Json root;
    JsonLines lines;
    std::string file;

    [[nodiscard]] Fault fault(const std::string& address, std::string what, std::string expected) const {
        return {file, lines.line(address), std::move(what), std::move(expected)};
    }
};

/// Parses a text and holds it against one of the documented schemas (docs/schema).
/// @param schema_text one of the texts above
[[nodiscard]] Result<JsonDocument> read_document(std::string_view text, const std::string& file,
                                                 const char* schema_text);

} // namespace pallix::block
