// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/convert_command.h"

#include "block/drawing/recipe.h"
#include "block/number_text.h"
#include "block/unnamed/named_log.h"
#include "cli/inputs.h"

#include <iostream>

namespace pallix::cli {
namespace {

struct Converted {
    std::string log;
    block::LogMapping mapping;
};

block::Result<block::LogMapping> mapping_of(const LogReading& reading) {
    if (reading.mapping.empty())
        return block::LogMapping{};
    return read_file(reading.mapping).and_then([](const block::NamedText& text) {
        return block::read_mapping(text.text, text.file);
    });
}

block::Result<std::optional<block::Blueprint>> blueprint_of(const LogReading& reading) {
    if (reading.blueprint.empty())
        return std::optional<block::Blueprint>();
    return read_file(reading.blueprint).and_then([](const block::NamedText& text) {
        return block::blueprint_from(text.text, text.file).map([](block::Blueprint b) {
            return std::optional(std::move(b));
        });
    });
}

/// A line for each run of touches: what it is taken for, and how sure.
void print_names(const block::NamedLog& log, const block::LogLook& look) {
    for (std::size_t i = 0; i < log.groups.size(); ++i) {
        const block::TouchGroup& g = log.groups[i];
        const block::TouchName& name = log.named.names[i];
        std::cerr << "line " << look.touches[g.first].line << ", " << g.count << " touches: "
                  << (name.id ? name.id->text() + (name.level.empty() ? "" : " " + name.level) : "left out");
        if (name.id)
            std::cerr << (name.sure == block::TouchName::Sure::sure ? ", sure" : ", likely");
        if (name.off > 0)
            std::cerr << ", " << block::fixed_number(name.off, 2) << " mm from the blueprint's place";
        std::cerr << '\n';
    }
    for (const std::string& line : log.named.understood)
        std::cerr << "understood: " << line << '\n';
}

block::Result<Converted> converted_by(const block::NamedText& text, const LogReading& reading) {
    const auto mapping = mapping_of(reading);
    if (!mapping)
        return tl::unexpected(mapping.error());
    const auto blueprint = blueprint_of(reading);
    if (!blueprint)
        return tl::unexpected(blueprint.error());
    Converted out{{}, *mapping};
    block::LogLook look = block::look_at_log(text.text, text.file, *mapping);
    const bool may_be_named = *blueprint || reading.by_shape;
    if (!look.converted && may_be_named && !look.touches.empty() && (look.lacks.names || block::has_labels(look))) {
        const block::NamedLog named = block::name_log(look, *mapping, {}, *blueprint ? &**blueprint : nullptr);
        print_names(named, look);
        if (!named.named.open.empty()) {
            block::Faults open;
            for (const std::string& line : named.named.open)
                open.push_back(
                    {text.file, 0, line, "a mapping that says so, or the window, where places are pointed at"});
            return tl::unexpected(std::move(open));
        }
        out.mapping = named.mapping;
        look = block::look_at_log(text.text, text.file, out.mapping);
    }
    if (!look.converted)
        return tl::unexpected(look.converted.error());
    for (const std::string& line : look.converted->understood)
        std::cerr << "understood: " << line << '\n';
    out.log = look.converted->log;
    return out;
}

} // namespace

block::Result<block::NamedText> as_ours(const block::NamedText& log, const LogReading& reading) {
    if (block::is_probe_log(log.text))
        return log;
    return converted_by(log, reading).map([&](const Converted& c) { return block::NamedText{log.file, c.log}; });
}

int convert(const ConvertRequest& request) {
    const auto converted = read_file(request.log).and_then([&](const block::NamedText& text) {
        return converted_by(text, request.reading);
    });
    if (!converted) {
        print(converted.error());
        return input_is_wrong;
    }
    std::cout << (request.suggest ? block::write_mapping(converted->mapping) : converted->log);
    return std::cout.flush() ? 0 : input_is_wrong;
}

} // namespace pallix::cli
