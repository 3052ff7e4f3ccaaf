// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/sealed_text.h"

#include <gtest/gtest.h>
#include <string>

using namespace pallix::block;

TEST(SealedText, OpensAsItWasAndNotOtherwise) {
    for (const std::string& text : {std::string(), std::string("a"), std::string("ab"), std::string("main 3 up 0.02"),
                                    std::string(10000, 'x') + std::string(1, '\0') + "ü"}) {
        const std::string sealed = sealed_text(text);
        EXPECT_EQ(opened_text(sealed), text);
        EXPECT_EQ(sealed, sealed_text(text));
        if (text.size() > 2) {
            EXPECT_EQ(sealed.find(text), std::string::npos) << "nobody reads it by looking";
        }
        std::string changed = sealed;
        changed[changed.size() / 2] = changed[changed.size() / 2] == 'A' ? 'B' : 'A';
        EXPECT_FALSE(opened_text(changed));
    }
    for (const char* none : {"", "====", "no seal", "AAAA", "AAAAAAAAAAAAAAAAAAAAAAAA"})
        EXPECT_FALSE(opened_text(none)) << none;
}
