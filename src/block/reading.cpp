// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/reading.h"

#include "block/number_text.h"

#include <cmath>

namespace pallix::block {

std::string MeasuredAt::key() const {
    std::string k = feature.text() + " " + quantity_names[static_cast<std::size_t>(quantity)];
    for (const std::string* part : {&level, &direction})
        if (!part->empty())
            k += " " + *part;
    if (is_at_a_place(quantity))
        k += " " + fixed_number(place.x + 0.0, 3) + " " + fixed_number(place.y + 0.0, 3);
    return k;
}

bool is_same_place(const MeasuredAt& a, const MeasuredAt& b) {
    if (a.quantity != b.quantity || a.feature != b.feature || a.level != b.level || a.direction != b.direction)
        return false;
    if (!is_at_a_place(a.quantity) || a.place == b.place)
        return true;
    constexpr double near = 0.01; // mm, more than one digit of the key
    return std::abs(a.place.x - b.place.x) < near && std::abs(a.place.y - b.place.y) < near && a.key() == b.key();
}

} // namespace pallix::block
