// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace pallix::test {

/// Whether a sanitizer watches, which leaves a tenth of the speed: what is drawn by the thousand is then drawn by the
/// hundred.
#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
inline constexpr bool sanitized = true;
#else
inline constexpr bool sanitized = false;
#endif

/// Of what is tried by the hundred to see how often it holds, a tenth: a sanitizer looks at what is done, not how
/// often. Shares of so few are not judged.
constexpr int fewer(int times) {
    constexpr int part = 10;
    return sanitized ? (times + part - 1) / part : times;
}

} // namespace pallix::test
