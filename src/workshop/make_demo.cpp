// SPDX-License-Identifier: GPL-3.0-or-later
// Writes the demo's blueprints, probe logs and trace into a folder; assets/demo holds what it writes.
#include "workshop/harbour.h"

#include <filesystem>
#include <fstream>
#include <iostream>

int main(int argc, char** argv) {
    if (argc != 2) {
        std::cerr << "usage: pallix-make-demo FOLDER\n";
        return 2;
    }
    const std::filesystem::path folder(argv[1]);
    std::filesystem::create_directories(folder);
    auto files = pallix::workshop::harbour_files();
    files.push_back(pallix::workshop::harbour_trace());
    for (const auto& file : files) {
        std::ofstream out(folder / file.name, std::ios::binary);
        out << file.text;
        if (!out.flush()) {
            std::cerr << (folder / file.name).string() << ": cannot be written\n";
            return 1;
        }
    }
    return 0;
}
