// SPDX-License-Identifier: GPL-3.0-or-later
#include "certainty/coverage.h"

#include <cstdlib>
#include <fstream>
#include <iomanip>

namespace pallix::test {

void Held::add(double truth, double low, double high, double oracle) {
    ++all;
    held += truth >= low && truth <= high ? 1 : 0;
    above += truth > high ? 1 : 0;
    width += high - low;
    oracle_width += oracle;
}

void Held::add_promise(bool kept, double more_than_needed) {
    ++all;
    held += kept ? 1 : 0;
    width += more_than_needed;
}

Held& Held::operator+=(const Held& other) {
    all += other.all;
    held += other.held;
    above += other.above;
    width += other.width;
    oracle_width += other.oracle_width;
    return *this;
}

CertaintyTable& CertaintyTable::get() {
    static CertaintyTable table;
    return table;
}

void CertaintyTable::add(const std::string& statement, const std::string& kind, const Held& held) {
    const std::lock_guard lock(mutex_);
    rows_[{statement, kind}] += held;
}

CertaintyTable::~CertaintyTable() {
    const char* path = std::getenv("PALLIX_CERTAINTY_TABLE");
    if (!path)
        return;
    std::ofstream out(path, std::ios::app);
    out << std::fixed;
    for (const auto& [key, h] : rows_) {
        const double n = static_cast<double>(h.all);
        out << "| " << key.first << " | " << key.second << " | " << h.all << " | " << std::setprecision(1)
            << 100 * h.share() << " | " << 100 * static_cast<double>(h.above) / n << " | " << std::setprecision(2)
            << 1000 * h.width / n << " | ";
        if (h.oracle_width > 0)
            out << h.sharpness();
        out << " |\n";
    }
}

std::size_t tries(std::size_t few) {
    const char* times = std::getenv("PALLIX_CERTAINTY");
    few = static_cast<std::size_t>(fewer(static_cast<int>(few)));
    return times ? few * static_cast<std::size_t>(std::max(1, std::atoi(times))) : few;
}

} // namespace pallix::test
