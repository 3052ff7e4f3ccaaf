// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/reading.h"

#include "block/number_text.h"

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

} // namespace pallix::block
