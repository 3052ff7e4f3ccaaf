// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/blueprint_command.h"

#include "block/drawing/recipe.h"
#include "cli/inputs.h"
#include "wording/common/blueprint_words.h"

#include <iostream>

namespace pallix::cli {
namespace {

block::Result<block::Blueprint> read(const BlueprintRequest& request) {
    return read_file(request.file).and_then([](const block::NamedText& text) {
        return block::blueprint_from(text.text, text.file);
    });
}

} // namespace

int draw_blueprint(const BlueprintRequest& request) {
    const auto blueprint = read(request);
    if (!blueprint) {
        print(blueprint.error());
        return input_is_wrong;
    }
    std::cout << block::write_blueprint(*blueprint);
    return std::cout.flush() ? 0 : input_is_wrong;
}

int check_blueprint(const BlueprintRequest& request) {
    const auto blueprint = read(request);
    if (!blueprint) {
        print(blueprint.error());
        return input_is_wrong;
    }
    for (const std::string& sentence : wording::blueprint_sentences(*blueprint, wording::LengthText(request.unit)))
        std::cout << sentence << '\n';
    return std::cout.flush() ? 0 : input_is_wrong;
}

} // namespace pallix::cli
