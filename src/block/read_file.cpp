// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/read_file.h"

#include "block/utf8.h"

#include <fstream>
#include <sstream>

namespace pallix::block {

Result<NamedText> read_file(const std::filesystem::path& file, const std::string& name) {
    std::string shown = name;
    for (auto at = first_not_utf8(shown); at != std::string_view::npos; at = first_not_utf8(shown))
        shown[at] = '?';
    const auto refused = [&shown](std::string what, std::string expected) {
        return tl::unexpected(Faults{{shown, 0, std::move(what), std::move(expected)}});
    };
    if (file.empty())
        return refused("no file was chosen", "the name of a file");
    std::error_code error;
    const auto status = std::filesystem::status(file, error);
    if (!std::filesystem::exists(status))
        return refused("the file cannot be read", "an existing, readable file");
    if (!std::filesystem::is_regular_file(status))
        return refused("this is no file but a folder, a device or a pipe", "an existing, readable file");
    const std::uintmax_t size = std::filesystem::file_size(file, error);
    if (error || size > largest_file)
        return refused("the file has " + std::to_string(size >> 20) + " MB",
                       "at most " + std::to_string(largest_file >> 20) + " MB");
    std::ifstream in(file, std::ios::binary);
    std::string text(size, '\0');
    in.read(text.data(), static_cast<std::streamsize>(size));
    if (!in.is_open() || static_cast<std::uintmax_t>(in.gcount()) != size)
        return refused("the file cannot be read", "an existing, readable file");
    return NamedText{std::move(shown), std::move(text)};
}

} // namespace pallix::block
