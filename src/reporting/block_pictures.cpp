// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/block_pictures.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace pallix::reporting {
namespace {

const QColor ink(0x1E, 0x25, 0x2B), faint(0xA9, 0xAB, 0xA8), blue(0x2B, 0x3F, 0x8C), rust(0xA3, 0x30, 0x1F);
constexpr int width = 660; // of the layout

QFont type(double size) {
    QFont font(QStringLiteral("Lato"));
    font.setPixelSize(static_cast<int>(size));
    return font;
}

/// A bank in plan on a picture: the front to the left, nothing mirrored.
struct Plan {
    metrology::Vec2 low, high;
    double per_mm = 1;
    int height = 0;
    explicit Plan(const block::BankBlueprint& bank, int tallest) {
        using metrology::Vec2;
        const auto [left, right] = std::ranges::minmax(bank.deck_outline, {}, &Vec2::x);
        const auto [below, above] = std::ranges::minmax(bank.deck_outline, {}, &Vec2::y);
        low = {left.x, below.y};
        high = {right.x, above.y};
        per_mm = std::min((width - 12) / std::max(high.x - low.x, 1.0), tallest / std::max(high.y - low.y, 1.0));
        height = static_cast<int>((high.y - low.y) * per_mm) + 12;
    }
    [[nodiscard]] QPointF at(metrology::Vec2 place) const {
        return {6 + (place.x - low.x) * per_mm, height - 6 - (place.y - low.y) * per_mm};
    }
    void draw(QPainter& painter, const block::BankBlueprint& bank) const {
        QPolygonF outline;
        for (const metrology::Vec2 corner : bank.deck_outline)
            outline << at(corner);
        painter.setPen(QPen(faint, 1.2));
        painter.setBrush(Qt::NoBrush);
        painter.drawPolygon(outline);
    }
};

QImage blank_picture(int height, int scale) {
    QImage image(width * scale, height * scale, QImage::Format_RGB32);
    image.fill(Qt::white);
    return image;
}

void number(QPainter& painter, QPointF at, const QString& words) {
    painter.setPen(ink);
    painter.drawText(QRectF(at - QPointF(40, 9), QSizeF(80, 18)), Qt::AlignCenter, words);
}

/// "1–6": places of one hole follow one another.
QString numbers(std::size_t first, std::size_t last) {
    return first == last ? QString::number(first) : QStringLiteral("%1–%2").arg(first).arg(last);
}

struct Centre {
    double x = 0;
    metrology::Vec2 off; ///< (sideways, up) of the line through the ends
};
std::vector<Centre> centres(const block::Evaluation& e) {
    std::vector<Centre> all;
    if (e.mains.size() < 2)
        return all;
    const metrology::Vec3 a = e.mains.front().centre, z = e.mains.back().centre;
    for (const block::MainResult& main : e.mains) {
        const double share = z.x != a.x ? (main.centre.x - a.x) / (z.x - a.x) : 0;
        all.push_back(
            {main.centre.x, {main.centre.y - a.y - share * (z.y - a.y), main.centre.z - a.z - share * (z.z - a.z)}});
    }
    return all;
}

} // namespace

QImage tunnel_picture(const block::Evaluation* before, const block::Evaluation& now, int scale) {
    constexpr int row = 70;
    QImage image = blank_picture(2 * row, scale);
    const auto found = before ? centres(*before) : std::vector<Centre>();
    const auto left = centres(now);
    if (left.empty())
        return image;
    double most = 1e-6;
    for (const auto* all : {&found, &left})
        for (const Centre& c : *all)
            most = std::max({most, std::abs(c.off.x), std::abs(c.off.y)});
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.scale(scale, scale);
    painter.setFont(type(12.5));
    const double first = left.front().x, span = std::max(left.back().x - first, 1.0), name = 90;
    const auto draw = [&](int which, double metrology::Vec2::*way, const QString& words) {
        const double middle = which * row + row / 2.0;
        const auto at = [&](const Centre& c) {
            return QPointF(name + 14 + (c.x - first) / span * (width - name - 28),
                           middle - c.off.*way / most * (row / 2.0 - 12));
        };
        painter.setPen(QPen(faint, 1));
        painter.drawLine(QPointF(name, middle), QPointF(width, middle));
        painter.setPen(ink);
        painter.drawText(QRectF(0, which * row, name, row), Qt::AlignVCenter | Qt::AlignLeft, words);
        for (const auto& [all, pen] :
             {std::pair(&found, QPen(rust, 1.4, Qt::DashLine)), std::pair(&left, QPen(blue, 2))}) {
            QPolygonF line;
            for (const Centre& c : *all)
                line << at(c);
            painter.setPen(pen);
            painter.drawPolyline(line);
            painter.setPen(QPen(pen.color(), 1.4));
            for (const QPointF& p : line)
                painter.drawEllipse(p, 3.4, 3.4);
        }
    };
    draw(0, &metrology::Vec2::y, QStringLiteral("from the side"));
    draw(1, &metrology::Vec2::x, QStringLiteral("from above"));
    return image;
}

QImage places_picture(const block::Blueprint& blueprint, const planning::CoordinateSheet& sheet, int scale) {
    using metrology::Vec2;
    const block::BankBlueprint& bank = *blueprint.bank(sheet.bank);
    const Plan plan(bank, 10 * width);
    QImage image = blank_picture(plan.height, scale);
    double most = 1e-6, bore = 0;
    for (const planning::HoleCoordinates& hole : sheet.holes) {
        bore = std::max(bore, hole.nominal);
        for (const auto& at : {hole.found, hole.as_left})
            if (at)
                most = std::max(most, norm(*at - hole.blueprint));
    }
    const double larger = bore / 4 / most;
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.scale(scale, scale);
    const auto at = [&plan](Vec2 place) { return plan.at(place); };
    plan.draw(painter, bank);
    for (const planning::HoleCoordinates& hole : sheet.holes) {
        const Vec2 meant = hole.blueprint + sheet.origin_at;
        const double radius = hole.nominal / 2 * plan.per_mm;
        painter.setPen(QPen(faint, 1));
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(at(meant), radius, radius);
        painter.drawLine(at(meant) - QPointF(5, 0), at(meant) + QPointF(5, 0));
        painter.drawLine(at(meant) - QPointF(0, 5), at(meant) + QPointF(0, 5));
        const auto mark = [&](const std::optional<Vec2>& place, const QPen& pen, const QBrush& brush) {
            if (!place)
                return;
            const QPointF to = at(meant + larger * (*place - hole.blueprint));
            painter.setPen(pen);
            painter.drawLine(at(meant), to);
            painter.setBrush(brush);
            painter.drawEllipse(to, 4, 4);
        };
        mark(hole.found, QPen(rust, 1.4, Qt::DashLine), Qt::NoBrush);
        mark(hole.as_left, QPen(blue, 1.8), QBrush(blue));
    }
    return image;
}

QImage reading_picture(const block::Blueprint& blueprint, const std::vector<block::MeasuredAt>& places, int scale) {
    const bool mains = places.front().feature.kind == block::FeatureKind::main;
    constexpr int row = 110;
    const block::BankBlueprint* bank = mains ? nullptr : blueprint.bank(places.front().feature.bank);
    if (!mains && !bank)
        return blank_picture(1, 1);
    const Plan plan(bank ? *bank : blueprint.banks.front(), 200);
    QImage image = blank_picture(mains ? row : plan.height, scale);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.scale(scale, scale);
    painter.setFont(type(12.5));
    const auto middle = [&](const block::FeatureId& id) {
        if (mains) {
            const auto main = std::ranges::find(blueprint.mains, id, &block::MainBlueprint::id);
            const auto index = static_cast<double>(main - blueprint.mains.begin());
            return QPointF((index + 0.5) * width / static_cast<double>(blueprint.mains.size()), row / 2.0);
        }
        const block::HoleBlueprint* hole = blueprint.hole(id);
        return hole ? plan.at({hole->u, hole->v}) : plan.at(0.5 * (plan.low + plan.high));
    };
    if (bank) {
        plan.draw(painter, *bank);
        for (const block::HoleBlueprint& bore : blueprint.bores)
            if (bore.id.bank == bank->id)
                painter.drawEllipse(middle(bore.id), bore.diameter.nominal / 2 * plan.per_mm,
                                    bore.diameter.nominal / 2 * plan.per_mm);
    } else {
        painter.setPen(QPen(faint, 1.2));
        for (const block::MainBlueprint& main : blueprint.mains) {
            painter.drawEllipse(middle(main.id), row / 2.0 - 8, row / 2.0 - 8);
            const QPointF side(row / 2.0 - 2, 0);
            painter.drawLine(middle(main.id) - side, middle(main.id) + side); // the parting line
        }
    }
    for (std::size_t i = 0; i < places.size();) {
        std::size_t last = i;
        const bool own = block::is_at_a_place(places[i].quantity);
        while (!own && last + 1 < places.size() && places[last + 1].feature == places[i].feature)
            ++last;
        number(painter, own ? plan.at(places[i].place) : middle(places[i].feature), numbers(i + 1, last + 1));
        i = last + 1;
    }
    return image;
}

} // namespace pallix::reporting
