// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/blueprint_command.h"

#include "block/drawing/dxf_engine.h"
#include "block/drawing/dxf_writer.h"
#include "block/drawing/engine.h"
#include "block/drawing/table.h"
#include "block/job_file.h"
#include "cli/inputs.h"
#include "planning/common/taught.h"
#include "wording/common/blueprint_words.h"

#include <iostream>

namespace pallix::cli {
namespace {

block::Result<block::Blueprint> read(const BlueprintRequest& request) {
    return read_file(request.file).and_then([](const block::NamedText& text) {
        return block::blueprint_from(text.text, text.file);
    });
}

/// What stands already; an empty engine where nothing does.
block::Result<block::Engine> engine_under(const std::string& file, block::Unit unit) {
    if (!file.empty())
        return read_file(file).and_then(
            [](const block::NamedText& text) { return block::engine_from(text.text, text.file); });
    block::Engine empty;
    empty.recipe.unit = unit;
    return empty;
}

/// A recipe on standard output, what was understood on standard error; or the faults. @return the exit status
template <class Taken>
int print_taken(const block::Result<Taken>& taken) {
    if (!taken) {
        print(taken.error());
        return input_is_wrong;
    }
    for (const std::string& line : taken->understood)
        std::cerr << line << '\n';
    if constexpr (requires { taken->passed_over; })
        for (const std::string& line : taken->passed_over)
            std::cerr << "passed over: " << line << '\n';
    std::cout << block::write_recipe(taken->recipe);
    return std::cout.flush() ? 0 : input_is_wrong;
}

/// A block as its probe log has it, or as its job found it.
block::Result<planning::GoodBlock> good_block(const block::NamedText& text, const LogReading& reading) {
    if (!text.file.ends_with(".pallix.json"))
        return as_ours(text, reading).map([&](block::NamedText log) {
            return planning::GoodBlock{text.file, {std::move(log)}};
        });
    return block::read_job(text.text, text.file).and_then([&](const std::vector<block::Entry>& entries) {
        auto found = planning::as_found(entries);
        return found ? block::Result<planning::GoodBlock>(std::move(*found))
                     : tl::unexpected(
                           block::Faults{{text.file, 0, "its block was never probed", "a job with a probe log"}});
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

int recipe_from_blocks(const std::vector<std::string>& logs, const LogReading& reading, const std::string& base,
                       block::Unit unit) {
    block::Faults faults;
    std::vector<planning::GoodBlock> blocks;
    for (const std::string& file : logs)
        if (auto good =
                read_file(file).and_then([&](const block::NamedText& text) { return good_block(text, reading); }))
            blocks.push_back(std::move(*good));
        else
            faults.insert(faults.end(), good.error().begin(), good.error().end());
    if (!faults.empty()) {
        print(faults);
        return input_is_wrong;
    }
    const auto taught = engine_under(base, unit).and_then([&](const block::Engine& engine) {
        return planning::taught_by(blocks, engine.recipe);
    });
    return print_taken(taught);
}

int write_drawing(const BlueprintRequest& request, const std::string& file) {
    const auto written =
        read(request).and_then([&](const block::Blueprint& blueprint) { return block::write_dxf(blueprint, file); });
    if (!written)
        print(written.error());
    return written ? 0 : input_is_wrong;
}

int recipe_from_sheet(const std::string& table, const std::string& base, block::Unit unit) {
    const auto taken = engine_under(base, unit).and_then([&](const block::Engine& engine) {
        return read_file(table).and_then([&](const block::NamedText& text) {
            return block::read_table(text.text, text.file).and_then([&](const block::Table& rows) {
                return block::recipe_from_table(rows, engine.recipe, text.file);
            });
        });
    });
    return print_taken(taken);
}

int recipe_from_drawing(const DxfRequest& request) {
    const auto taken = engine_under(request.base, block::Unit::mm).and_then([&](const block::Engine& engine) {
        return read_file(request.drawing).and_then([&](const block::NamedText& text) {
            return block::read_dxf(text.text, text.file, nullptr, {request.without.begin(), request.without.end()})
                .and_then([&](const block::DxfDrawing& drawing) {
                    const block::DxfPlacing placing{request.unit.empty() ? std::nullopt
                                                                         : block::unit_from_name(request.unit),
                                                    request.distance,
                                                    request.other_end,
                                                    request.mirrored,
                                                    request.gasket,
                                                    {},
                                                    {}};
                    return block::recipe_from_dxf(drawing, block::dxf_groups(drawing), placing, engine.recipe,
                                                  text.file);
                });
        });
    });
    return print_taken(taken);
}

} // namespace pallix::cli
