// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

namespace pallix::block {

/// A text that came from somewhere.
struct NamedText {
    std::string file; ///< as messages shall name it
    std::string text;
};

} // namespace pallix::block
