// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/inputs.h"

#include "block/read_file.h"

#include <iostream>
#include <sstream>

namespace pallix::cli {
namespace {

/// Gathers the values of several inputs and the faults of those that failed.
template <class T>
bool take(block::Result<T> result, std::vector<T>& values, block::Faults& faults) {
    if (result)
        values.push_back(std::move(*result));
    else
        faults.insert(faults.end(), result.error().begin(), result.error().end());
    return result.has_value();
}

} // namespace

block::Result<block::NamedText> read_file(const std::string& file) {
    if (file == "-") {
        std::ostringstream all;
        all << std::cin.rdbuf();
        return block::NamedText{"standard input", all.str()};
    }
    return block::read_file(file, file);
}

void print(const block::Faults& faults, const char* prefix) {
    for (const block::Fault& fault : faults)
        std::cerr << prefix << fault.text() << '\n';
}

block::Result<MeasuredBlock> read_block(const BlockFiles& files) {
    block::Faults faults;
    std::vector<block::Blueprint> blueprint;
    std::vector<block::NamedText> logs, blueprint_text;
    if (take(read_file(files.blueprint), blueprint_text, faults))
        take(block::read_blueprint(blueprint_text.front().text, files.blueprint), blueprint, faults);
    for (const std::string& file : files.probes)
        take(read_file(file), logs, faults);
    if (!faults.empty())
        return tl::unexpected(std::move(faults));
    auto probe = block::read_probe_logs(logs, blueprint.front());
    if (!probe)
        return tl::unexpected(std::move(probe.error()));
    auto evaluation = block::evaluate(blueprint.front(), *probe);
    if (!evaluation)
        return tl::unexpected(std::move(evaluation.error()));
    print(probe->warnings, "warning: ");
    return MeasuredBlock{std::move(blueprint.front()), std::move(*probe), std::move(*evaluation)};
}

} // namespace pallix::cli
