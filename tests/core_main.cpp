// SPDX-License-Identifier: GPL-3.0-or-later
// The core's tests run under whatever locale the environment asks for, as the core does beside a window.
#include <clocale>
#include <gtest/gtest.h>

int main(int argc, char** argv) {
    testing::InitGoogleTest(&argc, argv);
    std::setlocale(LC_ALL, "");
    return RUN_ALL_TESTS();
}
