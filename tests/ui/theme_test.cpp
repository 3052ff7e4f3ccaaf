// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/theme.h"

#include <QFontDatabase>
#include <QFontInfo>
#include <QFontMetricsF>
#include <cmath>
#include <gtest/gtest.h>

using namespace pallix;
using namespace pallix::ui;

namespace {

/// WCAG 2.1 relative luminance and contrast.
double luminance(const QColor& c) {
    const auto linear = [](double v) { return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
}
double contrast(const QColor& a, const QColor& b) {
    const double x = luminance(a), y = luminance(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

} // namespace

TEST(Contrast, OfBlackOnWhiteIsTwentyOne) {
    EXPECT_NEAR(contrast(Qt::black, Qt::white), 21, 1e-9);
} // WCAG's own example

TEST(Theme, TextIsReadableByDayAndByNight) {
    for (const session::Theme theme : {session::Theme::light, session::Theme::dark}) {
        const Palette& p = palette_of(theme);
        for (const QColor& under : {p.page, p.panel, p.selected})
            for (const QColor& text : {p.ink, p.quiet, p.accent, p.meets, p.cannot_tell, p.fails})
                EXPECT_GE(contrast(text, under), 4.5)
                    << text.name().toStdString() << " on " << under.name().toStdString();
        EXPECT_GE(contrast(p.on_accent, p.accent), 4.5);
        EXPECT_GE(contrast(p.ink, p.field), 4.5);
        EXPECT_GE(contrast(QColor(0x1E, 0x25, 0x2B), p.deck.bright), 4.5);
    }
}

TEST(Theme, TheShippedFontIsUsedAndItsDigitsStandInColumns) {
    load_fonts();
    EXPECT_TRUE(QFontDatabase::families().contains(QStringLiteral("Lato")));
    for (const bool bold : {false, true}) {
        const QFont font = font_of(Type::number, bold);
        EXPECT_EQ(QFontInfo(font).family(), QStringLiteral("Lato"));
        const QFontMetricsF m(font);
        for (char digit = '1'; digit <= '9'; ++digit)
            EXPECT_DOUBLE_EQ(m.horizontalAdvance(QLatin1Char(digit)), m.horizontalAdvance(QLatin1Char('0')));
        EXPECT_LT(m.horizontalAdvance(QLatin1Char('.')), 0.7 * m.horizontalAdvance(QLatin1Char('0')));
    }
}
