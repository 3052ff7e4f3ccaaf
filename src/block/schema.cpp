// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/schema.h"

#include "block/guarded_json.h"

#include <algorithm>
#include <set>
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validator.hpp>

namespace pallix::block {
namespace {

using PlainJson = nlohmann::json; // valijson's adapter knows this one

/// The part of a schema that describes a value, found along the value's path.
const PlainJson* describing(const PlainJson& schema, const std::vector<std::string>& path) {
    const PlainJson* at = &schema;
    const auto follow = [&schema](const PlainJson* node) {
        while (node && node->contains("$ref")) {
            const std::string ref = (*node)["$ref"].get<std::string>(); // "#/definitions/size"
            node = &schema.at(nlohmann::json::json_pointer(ref.substr(1)));
        }
        return node;
    };
    for (const std::string& step : path) {
        at = follow(at);
        if (at->contains("properties") && (*at)["properties"].contains(step))
            at = &(*at)["properties"][step];
        else if (at->contains("items"))
            at = &(*at)["items"];
        else
            return nullptr;
    }
    return follow(at);
}

std::string description(const PlainJson& schema, const std::vector<std::string>& path) {
    const PlainJson* node = describing(schema, path);
    return node && node->contains("description") ? (*node)["description"].get<std::string>() : std::string();
}

/// valijson names a place as {"<root>", "[banks]", "[0]"}.
std::vector<std::string> path_of(const std::vector<std::string>& context) {
    std::vector<std::string> path;
    for (std::size_t i = 1; i < context.size(); ++i)
        path.push_back(context[i].substr(1, context[i].size() - 2));
    return path;
}

std::string address_of(const std::vector<std::string>& path) {
    std::string address;
    for (const std::string& step : path) {
        const bool index = !step.empty() && std::ranges::all_of(step, [](char c) { return c >= '0' && c <= '9'; });
        address = index ? address.append("[").append(step).append("]") : member_address(address, step);
    }
    return address;
}

/// A value as a message shows it: short.
std::string shown(const PlainJson& value) {
    if (value.is_object())
        return "an object";
    if (value.is_array())
        return "a list of " + std::to_string(value.size());
    std::string text = value.dump();
    if (text.size() > 60)
        text = text.substr(0, 57) + "...";
    return text;
}

const PlainJson& value_at(const PlainJson& root, const std::vector<std::string>& path) {
    const PlainJson* at = &root;
    for (const std::string& step : path)
        at = at->is_array() ? &at->at(std::stoul(step)) : &at->at(step);
    return *at;
}

Faults schema_faults(const JsonDocument& document, const char* schema_text) {
    const PlainJson schema_json = PlainJson::parse(schema_text);
    valijson::Schema schema;
    valijson::SchemaParser(valijson::SchemaParser::kDraft7)
        .populateSchema(valijson::adapters::NlohmannJsonAdapter(schema_json), schema);
    const PlainJson plain = document.root;
    valijson::ValidationResults results;
    valijson::Validator(valijson::Validator::kStrongTypes)
        .validate(schema, valijson::adapters::NlohmannJsonAdapter(plain), &results);

    Faults faults;
    std::set<std::string> told;
    for (const auto& error : results) {
        if (faults.size() == most_faults)
            break;
        std::vector<std::string> path = path_of(error.context);
        if (error.description.starts_with("Failed to validate item") ||
            error.description.starts_with("Failed to validate against schema associated with property"))
            continue; // the cause within it is an error of its own
        const std::string address = address_of(path);
        const std::string place = address.empty() ? "the file" : address;
        constexpr std::string_view missing = "Missing required property '";
        if (error.description.starts_with(missing)) {
            const std::string key =
                error.description.substr(missing.size(), error.description.rfind('\'') - missing.size());
            path.push_back(key);
            faults.push_back(document.fault(address, std::string(place).append(" has no \"").append(key).append("\""),
                                            description(schema_json, path)));
        } else if (told.insert(address).second) {
            faults.push_back(
                document.fault(address, place + " is " + shown(value_at(plain, path)), description(schema_json, path)));
        }
    }
    std::ranges::stable_sort(faults, {}, &Fault::line);
    return faults;
}

} // namespace

std::string format_of(std::string_view text) {
    if (trouble_with_json(text))
        return {};
    const Json root = Json::parse(text, nullptr, false);
    return root.is_object() && root.contains("format") && root["format"].is_string() ? root["format"].get<std::string>()
                                                                                     : std::string();
}

Result<JsonDocument> read_document(std::string_view text, const std::string& file, const char* schema_text) {
    if (const auto trouble = trouble_with_json(text))
        return tl::unexpected(Faults{{file, line_of_byte(text, trouble->byte), trouble->what, trouble->expected}});
    try {
        JsonDocument document{Json::parse(text), JsonLines(text), file};
        if (Faults faults = schema_faults(document, schema_text); !faults.empty())
            return tl::unexpected(std::move(faults));
        return document;
    } catch (const Json::exception&) { // a number no double holds
        return tl::unexpected(Faults{{file, 1, "a number is outside what a computer number holds", "finite numbers"}});
    }
}

} // namespace pallix::block
