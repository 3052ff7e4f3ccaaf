// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <locale.h> // NOLINT(modernize-deprecated-headers): newlocale is POSIX

namespace pallix::block {

/// Numbers have a point for as long as this stands, on this thread only: for libraries that read or write them by the
/// locale.
class PointsForNumbers {
  public:
    PointsForNumbers() : plain_(newlocale(LC_NUMERIC_MASK, "C", nullptr)), before_(uselocale(plain_)) {}
    ~PointsForNumbers() {
        uselocale(before_);
        freelocale(plain_);
    }
    PointsForNumbers(const PointsForNumbers&) = delete;
    PointsForNumbers& operator=(const PointsForNumbers&) = delete;

  private:
    locale_t plain_, before_;
};

} // namespace pallix::block
