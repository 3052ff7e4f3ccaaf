// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/theme.h"

#include "reporting/report.h"
#include "ui/files.h"

#include <QApplication>
#include <QFontDatabase>
#include <QPalette>
#include <QRegularExpression>
#include <QSize>
#include <QStyleFactory>
#include <QWidget>
#include <algorithm>
#include <cmath>

// Resources of a static library are registered from outside any namespace.
static void init_pallix_resources() {
    Q_INIT_RESOURCE(resources);
}

namespace pallix::ui {
namespace {

const Palette day{.page = QColor(0xF3, 0xF1, 0xEA),
                  .panel = QColor(0xFB, 0xFA, 0xF6),
                  .ink = QColor(0x1E, 0x25, 0x2B),
                  .quiet = QColor(0x5B, 0x64, 0x6C),
                  .hairline = QColor(0xD5, 0xD0, 0xC4),
                  .accent = QColor(0x2B, 0x3F, 0x8C),
                  .on_accent = QColor(0xFB, 0xFA, 0xF6),
                  .meets = QColor(0x1B, 0x6E, 0x5A),
                  .cannot_tell = QColor(0x8A, 0x61, 0x00),
                  .fails = QColor(0xA3, 0x30, 0x1F),
                  .field = QColor(0xFF, 0xFF, 0xFF),
                  .selected = QColor(0xE9, 0xEB, 0xF3),
                  .deck = {.page = QColor(0xF3, 0xF1, 0xEA),
                           .iron_low = QColor(0x3F, 0x45, 0x4B),
                           .iron_high = QColor(0x93, 0x96, 0x94),
                           .bright = QColor(0xEC, 0xE9, 0xDF),
                           .bright_line = QColor(0xDB, 0xD7, 0xCA),
                           .contour = QColor(0x2A, 0x2F, 0x34),
                           .edge = QColor(0x1E, 0x25, 0x2B),
                           .blank = QColor(0xC4, 0xBE, 0xB0),
                           .point = QColor(0x2B, 0x3F, 0x8C),
                           .mark = QColor(0xA3, 0x30, 0x1F)}};

const Palette night{.page = QColor(0x16, 0x19, 0x1C),
                    .panel = QColor(0x1E, 0x22, 0x26),
                    .ink = QColor(0xE8, 0xE4, 0xDA),
                    .quiet = QColor(0x9A, 0xA3, 0xAA),
                    .hairline = QColor(0x34, 0x3A, 0x40),
                    .accent = QColor(0x9D, 0xB2, 0xFF),
                    .on_accent = QColor(0x16, 0x19, 0x1C),
                    .meets = QColor(0x5C, 0xC8, 0xA8),
                    .cannot_tell = QColor(0xE0, 0xB0, 0x40),
                    .fails = QColor(0xFF, 0x8A, 0x70),
                    .field = QColor(0x12, 0x15, 0x17),
                    .selected = QColor(0x2A, 0x31, 0x3F),
                    .deck = {.page = QColor(0x16, 0x19, 0x1C),
                             .iron_low = QColor(0x24, 0x28, 0x2C),
                             .iron_high = QColor(0x6C, 0x71, 0x74),
                             .bright = QColor(0xD4, 0xD0, 0xC4),
                             .bright_line = QColor(0xC0, 0xBB, 0xAE),
                             .contour = QColor(0x0E, 0x11, 0x13),
                             .edge = QColor(0xB9, 0xB6, 0xAE),
                             .blank = QColor(0x3E, 0x45, 0x4C),
                             .point = QColor(0x9D, 0xB2, 0xFF),
                             .mark = QColor(0xFF, 0x8A, 0x70)}};

QPalette qt_palette(const Palette& p) {
    QPalette q;
    q.setColor(QPalette::Window, p.page);
    q.setColor(QPalette::WindowText, p.ink);
    q.setColor(QPalette::Base, p.field);
    q.setColor(QPalette::AlternateBase, p.panel);
    q.setColor(QPalette::Text, p.ink);
    q.setColor(QPalette::PlaceholderText, p.quiet);
    q.setColor(QPalette::Button, p.panel);
    q.setColor(QPalette::ButtonText, p.ink);
    q.setColor(QPalette::Highlight, p.accent);
    q.setColor(QPalette::HighlightedText, p.on_accent);
    q.setColor(QPalette::ToolTipBase, p.panel);
    q.setColor(QPalette::ToolTipText, p.ink);
    q.setColor(QPalette::Link, p.accent);
    q.setColor(QPalette::Mid, p.hairline);
    q.setColor(QPalette::Midlight, p.hairline);
    q.setColor(QPalette::Light, p.panel);
    q.setColor(QPalette::Dark, p.hairline);
    q.setColor(QPalette::Shadow, p.hairline);
    for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
        q.setColor(QPalette::Disabled, role, p.quiet);
    return q;
}

/// Lengths of a style sheet at the size everything is shown at; hairlines stay hairlines.
QString in_scale(const QString& sheet) {
    static const QRegularExpression lengths(QStringLiteral("\\b([3-9]|[1-9][0-9]+)px"));
    QString result;
    qsizetype from = 0;
    for (auto found = lengths.globalMatch(sheet); found.hasNext();) {
        const auto match = found.next();
        result += sheet.mid(from, match.capturedStart() - from) + QString::number(scaled(match.captured(1).toInt())) +
                  QStringLiteral("px");
        from = match.capturedEnd();
    }
    return result + sheet.mid(from);
}

QString style_sheet(const Palette& p, session::Theme theme, bool touch) {
    QString sheet =
        shipped_text(QStringLiteral("bench.qss")) + (touch ? shipped_text(QStringLiteral("fingers.qss")) : QString());
    sheet.replace(QStringLiteral("@shade"),
                  theme == session::Theme::dark ? QStringLiteral("night") : QStringLiteral("day"));
    const std::initializer_list<std::pair<const char*, QColor>> names{
        {"@page", p.page},     {"@panel", p.panel},       {"@ink", p.ink},
        {"@quiet", p.quiet},   {"@hairline", p.hairline}, {"@on_accent", p.on_accent},
        {"@accent", p.accent}, {"@field", p.field},       {"@selected", p.selected}};
    for (const auto& [name, colour] : names)
        sheet.replace(QString::fromLatin1(name), colour.name());
    return in_scale(sheet);
}

} // namespace

const Palette& palette_of(session::Theme theme) {
    return theme == session::Theme::dark ? night : day;
}

double scale() {
    return qApp->property("pallix-scale").isValid() ? qApp->property("pallix-scale").toDouble() : 1;
}

bool touch() {
    return qApp->property("pallix-touch").toBool();
}

int scaled(double px) {
    return static_cast<int>(std::lround(px * scale()));
}

QFont font_of(Type type, bool bold) {
    QFont font(QStringLiteral("Lato"));
    font.setPixelSize(scaled(static_cast<int>(type)));
    font.setBold(bold);
    font.setHintingPreference(QFont::PreferNoHinting);
    font.setStyleStrategy(QFont::PreferNoShaping); // a page is painted sooner without pairs being looked up
    return font;
}

void set_type(QWidget* widget, Type type, bool bold) {
    widget->setProperty("pallix-type", static_cast<int>(type));
    widget->setProperty("pallix-bold", bold);
    widget->setFont(font_of(type, bold));
}

void fix_size(QWidget* widget, int width, int height) {
    widget->setProperty("pallix-size", QSize(width, height));
    if (width > 0)
        widget->setFixedWidth(scaled(width));
    if (height > 0)
        widget->setFixedHeight(scaled(touch() ? std::max(height, touch_height) : height));
}

void rescale(QWidget* window) {
    const auto follow = [](QWidget* widget) {
        if (const QVariant size = widget->property("pallix-size"); size.isValid())
            fix_size(widget, size.toSize().width(), size.toSize().height());
        if (const QVariant type = widget->property("pallix-type"); type.isValid())
            widget->setFont(font_of(static_cast<Type>(type.toInt()), widget->property("pallix-bold").toBool()));
    };
    follow(window);
    const auto widgets = window->findChildren<QWidget*>();
    for (QWidget* widget : widgets)
        follow(widget);
}

void load_fonts() {
    init_pallix_resources();
    reporting::load_paper_fonts(); // the bench is set in the type of its papers
}

void apply_theme(QApplication& app, session::Theme theme, double scale, bool touch) {
    app.setProperty("pallix-scale", scale);
    app.setProperty("pallix-touch", touch);
    app.setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
    app.setFont(font_of(Type::text));
    app.setPalette(qt_palette(palette_of(theme)));
    app.setStyleSheet(style_sheet(palette_of(theme), theme, touch));
}

} // namespace pallix::ui
