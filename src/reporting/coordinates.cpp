// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/coordinates.h"

#include "block/drawing/dxf_writer.h"
#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "planning/common/coordinates.h"
#include "reporting/paper.h"
#include "reporting/sheet.h"
#include "wording/readings/readings.h"
#include "wording/report/coordinate_words.h"

#include <cmath>

namespace pallix::reporting {
namespace {

using metrology::Vec2;
using planning::CoordinateSheet;
using planning::HoleCoordinates;

/// A value of a table: in the unit of the paper, to a ten-thousandth of a millimetre, which no machine holds.
double in_unit(double mm, block::Unit unit) {
    const double per = unit == block::Unit::inch ? 1e5 : 1e4;
    return std::round(mm / block::mm_per(unit) * per) / per;
}

/// What columns there are: of a hole the place for each head.
struct Column {
    std::string head;
    std::function<std::optional<double>(const HoleCoordinates&)> value; ///< mm
};

std::vector<Column> columns(const CoordinateSheet& sheet, const block::MachineAxes* machine) {
    std::vector<Column> all;
    const auto places = [&](const std::string& name, const auto& place) {
        all.push_back({name + " along", [place](const HoleCoordinates& h) {
                           const auto at = place(h);
                           return at ? std::optional(at->x) : std::nullopt;
                       }});
        all.push_back({name + " across", [place](const HoleCoordinates& h) {
                           const auto at = place(h);
                           return at ? std::optional(at->y) : std::nullopt;
                       }});
    };
    places("found", [](const HoleCoordinates& h) { return h.found; });
    places("blueprint", [](const HoleCoordinates& h) { return std::optional(h.blueprint); });
    places("target", [](const HoleCoordinates& h) { return h.target; });
    if (machine) {
        const block::MachineAxes axes = *machine;
        for (std::size_t axis = 0; axis < 3; ++axis)
            if (axis != axes.axis[2]) // the one the spindle lies along
                all.push_back({"target " + std::string(1, "XYZ"[axis]), [axes, axis](const HoleCoordinates& h) {
                                   if (!h.target)
                                       return std::optional<double>();
                                   const metrology::Vec3 at = block::in_machine(axes, {h.target->x, h.target->y, 0});
                                   return std::optional(axis == 0 ? at.x : axis == 1 ? at.y : at.z);
                               }});
    }
    all.push_back({"diameter found", [](const HoleCoordinates& h) { return h.found_diameter; }});
    all.push_back({"bore to", [](const HoleCoordinates& h) { return h.target_diameter; }});
    const auto back = [&](const std::string& name, const auto& place) {
        if (std::ranges::any_of(sheet.holes, [&](const auto& hole) { return place(hole).has_value(); }))
            places(name, place);
    };
    back("left", [](const HoleCoordinates& h) { return h.as_left; });
    back("left less target", [](const HoleCoordinates& h) { return h.off_target(); });
    return all;
}

/// Letters and digits alone: what names of layers and sheets may be made of.
std::string plain_name(const std::string& words, char between) {
    std::string name;
    for (const char c : words)
        if (std::isalnum(static_cast<unsigned char>(c)) != 0)
            name += c;
        else if (!name.empty() && name.back() != between)
            name += between;
    return name.substr(0, 31);
}

Saved save_dxf(const PaperSource& s, const block::MachineAxes* machine, const QString& file) {
    block::DrawnHoles drawn;
    const auto flat = [machine](Vec2 place) {
        if (!machine)
            return place;
        const metrology::Vec3 at = block::in_machine(*machine, {place.x, place.y, 0});
        switch (machine->axis[2]) { // seen along the spindle
        case 0:
            return Vec2{at.y, at.z};
        case 1:
            return Vec2{at.z, at.x};
        default:
            return Vec2{at.x, at.y};
        }
    };
    for (const CoordinateSheet& sheet : planning::coordinate_sheets(s.state, s.assessment)) {
        const std::string name = plain_name(sheet.bank + (sheet.lifters ? "_LIFTERS" : "_CYLINDERS"), '_');
        for (const HoleCoordinates& hole : sheet.holes) {
            const double size = hole.found_diameter.value_or(hole.nominal);
            drawn.circles.push_back({flat(hole.blueprint), hole.nominal, name + "_BLUEPRINT"});
            if (hole.found)
                drawn.circles.push_back({flat(*hole.found), size, name + "_FOUND"});
            if (hole.target)
                drawn.circles.push_back({flat(*hole.target), hole.target_diameter.value_or(size), name + "_TARGET"});
            if (hole.as_left)
                drawn.circles.push_back({flat(*hole.as_left), hole.target_diameter.value_or(size), name + "_LEFT"});
            drawn.words.push_back({flat(hole.blueprint), hole.id.text(), name + "_NAMES"});
        }
    }
    return save_made(file, [&](const QString& draft) -> Saved {
        if (const auto written = block::write_dxf(drawn, s.lengths.unit(), draft.toStdString()); !written)
            return tl::unexpected(QString::fromStdString(written.error().front().what));
        return {};
    });
}

} // namespace

std::vector<CellTable> coordinate_tables(const PaperSource& s, const block::MachineAxes* machine) {
    std::vector<CellTable> tables;
    const std::string unit = " " + s.lengths.unit_name();
    for (const CoordinateSheet& sheet : planning::coordinate_sheets(s.state, s.assessment)) {
        CellTable table{plain_name(wording::sheet_name(s.state, sheet), ' '), {"hole", "origin", "machine"}, {}};
        const auto all = columns(sheet, machine);
        for (const Column& column : all)
            table.heads.push_back(column.head + unit);
        for (const HoleCoordinates& hole : sheet.holes) {
            std::vector<Cell> row{hole.id.text(), wording::origin_words(s.state, sheet),
                                  machine ? machine->machine + ": " + block::axes_text(*machine) : std::string()};
            for (const Column& column : all) {
                const auto value = column.value(hole);
                row.push_back(value ? Cell(in_unit(*value, s.lengths.unit())) : Cell());
            }
            table.rows.push_back(std::move(row));
        }
        tables.push_back(std::move(table));
    }
    return tables;
}

QString coordinates_html(const PaperSource& s, const block::MachineAxes* machine) {
    Sheet page(Sheet::lying);
    page.add(QStringLiteral("<h1>%1</h1>").arg(q(intake_of(s.state).title)));
    page.quiet(QStringLiteral("Coordinates · lengths in %1 · printed %2")
                   .arg(q(s.lengths.unit_name()), s.printed.toHtmlEscaped()));
    page.paragraph(QStringLiteral("<b>%1</b>").arg(q(wording::coordinates_caution)));
    const auto sheets = planning::coordinate_sheets(s.state, s.assessment);
    if (sheets.empty())
        page.paragraph(QStringLiteral("The blueprint names no hole whose place is known."));
    for (const CoordinateSheet& sheet : sheets) {
        const block::BankBlueprint& bank = *intake_of(s.state).blueprint->bank(sheet.bank);
        const auto all = columns(sheet, machine);
        QStringList heads{QString()};
        for (const Column& column : all)
            heads << q(column.head);
        Sheet::Rows rows;
        for (const HoleCoordinates& hole : sheet.holes) {
            QStringList cells{q(wording::short_feature_words(s.state, hole.id))};
            for (const Column& column : all) {
                const auto value = column.value(hole);
                cells << (value ? q(s.lengths.plain(*value)) : QString());
            }
            rows += Sheet::row(cells);
        }
        page.section(q(wording::sheet_name(s.state, sheet)), heads, rows);
        page.quiet(q(
            "From " + wording::origin_words(s.state, sheet) + ": + to the rear, + " + wording::plus_across(bank) + "." +
            (machine ? " " + machine->machine + ": along, across and up lie along " + block::axes_text(*machine) + "."
                     : std::string())));
    }
    return paper_html(intake_of(s.state).title, page.body());
}

Saved save_coordinates(const PaperSource& s, const block::MachineAxes* machine, const QString& file) {
    if (file.endsWith(QStringLiteral(".dxf"), Qt::CaseInsensitive))
        return save_dxf(s, machine, file);
    const auto tables = coordinate_tables(s, machine);
    if (tables.empty())
        return tl::unexpected(
            QStringLiteral("%1 cannot be written: the blueprint names no hole whose place is known").arg(file));
    if (file.endsWith(QStringLiteral(".xlsx"), Qt::CaseInsensitive))
        return save_xlsx(tables, file);
    // One heading for all: a file has one kind of rows. Columns that a set-up has not are empty in it.
    CellTable whole{"coordinates", {"set-up"}, {}};
    for (const CellTable& table : tables)
        for (const std::string& head : table.heads)
            if (std::ranges::find(whole.heads, head) == whole.heads.end())
                whole.heads.push_back(head);
    for (const CellTable& table : tables)
        for (const auto& row : table.rows) {
            std::vector<Cell> cells(whole.heads.size());
            cells.front() = table.name;
            for (std::size_t i = 0; i < row.size(); ++i)
                cells[static_cast<std::size_t>(std::ranges::find(whole.heads, table.heads[i]) - whole.heads.begin())] =
                    row[i];
            whole.rows.push_back(std::move(cells));
        }
    return save_bytes(csv_of(whole), file);
}

} // namespace pallix::reporting
