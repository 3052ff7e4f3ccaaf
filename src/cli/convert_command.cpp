// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/convert_command.h"

#include "block/log_dialect.h"
#include "cli/inputs.h"

#include <iostream>

namespace pallix::cli {
namespace {

block::Result<block::LogMapping> mapping_of(const ConvertRequest& request) {
    if (request.mapping.empty())
        return block::LogMapping{};
    return read_file(request.mapping).and_then([](const block::NamedText& text) {
        return block::read_mapping(text.text, text.file);
    });
}

} // namespace

int convert(const ConvertRequest& request) {
    const auto converted = mapping_of(request).and_then([&](const block::LogMapping& mapping) {
        return read_file(request.log).and_then([&](const block::NamedText& text) {
            return block::convert_log(text.text, text.file, mapping);
        });
    });
    if (!converted) {
        print(converted.error());
        return input_is_wrong;
    }
    for (const std::string& line : converted->understood)
        std::cerr << "understood: " << line << '\n';
    std::cout << converted->log;
    return std::cout.flush() ? 0 : input_is_wrong;
}

} // namespace pallix::cli
