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

} // namespace pallix::test
