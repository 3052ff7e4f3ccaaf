// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/assessment.h"
#include "ui/marks.h"

#include <QImage>
#include <QPainter>
#include <cmath>
#include <gtest/gtest.h>
#include <map>

using namespace pallix;
using namespace pallix::ui;
using planning::StageMark;

TEST(Marks, DifferInShapeNotOnlyInColour) {
    std::map<std::vector<bool>, int> shapes;
    const Palette& p = palette_of(session::Theme::light);
    for (const StageMark mark : {StageMark::open, StageMark::current, StageMark::done, StageMark::meets,
                                 StageMark::cannot_tell, StageMark::fails, StageMark::stale}) {
        QImage image(32, 32, QImage::Format_RGB32);
        image.fill(Qt::white);
        QPainter painter(&image);
        paint_mark(painter, QRectF(0, 0, 32, 32), mark, p);
        painter.end();
        std::vector<bool> shape;
        int inked = 0;
        for (int y = 0; y < 32; ++y)
            for (int x = 0; x < 32; ++x) {
                shape.push_back(image.pixelColor(x, y).lightness() < 200);
                inked += shape.back() ? 1 : 0;
            }
        EXPECT_GT(inked, 20) << static_cast<int>(mark);
        ++shapes[shape];
    }
    EXPECT_EQ(shapes.size(), 7U);
}

TEST(Exaggeration, IsRoundAndFits) {
    for (double largest = 0.0005; largest < 2; largest *= 1.7)
        for (const double unit : {1.0, 25.4}) {
            const Exaggeration e = exaggeration_for(largest, 40, 1.7, unit);
            const double mantissa = e.factor / std::pow(10, std::floor(std::log10(e.factor * 1.0000001)));
            EXPECT_TRUE(std::abs(mantissa - 1) < 1e-6 || std::abs(mantissa - 2) < 1e-6 || std::abs(mantissa - 5) < 1e-6)
                << e.factor;
            EXPECT_LE(largest * 1.7 * e.factor, 40 * 1.0001);
            EXPECT_GT(largest * 1.7 * e.factor, 40 / 2.6);
            EXPECT_NEAR(e.bar_pixels, e.bar * 1.7 * e.factor, 1e-9);
            EXPECT_LE(e.bar_pixels, 80 * 1.0001);
        }
}
