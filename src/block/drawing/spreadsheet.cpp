// SPDX-License-Identifier: GPL-3.0-or-later
// The only place that knows the libraries of spreadsheets.
#include "block/delimited.h"
#include "block/drawing/table.h"
#include "block/number_text.h"
#include "block/points_for_numbers.h"
#include "block/utf8.h"

#include <algorithm>
#include <ixion/address.hpp>
#include <ixion/model_context.hpp>
#include <memory>
#include <orcus/orcus_ods.hpp>
#include <orcus/orcus_xlsx.hpp>
#include <orcus/spreadsheet/document.hpp>
#include <orcus/spreadsheet/factory.hpp>
#include <orcus/spreadsheet/sheet.hpp>
#include <orcus/zip_archive.hpp>
#include <orcus/zip_archive_stream.hpp>
#include <stdexcept>

namespace pallix::block {
namespace {

constexpr std::size_t largest_table = 32u << 20; // bytes
constexpr int most_rows = 10'000, most_columns = 200;

tl::unexpected<Faults> no_table(const std::string& file, std::string what, std::string expected) {
    return tl::unexpected(Faults{{file, 0, std::move(what), std::move(expected)}});
}

template <class Loader>
Table first_sheet(std::string_view bytes) {
    namespace ss = orcus::spreadsheet;
    const PointsForNumbers points;
    ss::document document({1'048'576, 16'384});
    ss::import_factory factory(document);
    Loader loader(&factory);
    loader.read_stream(bytes);
    document.recalc_formula_cells();
    Table table;
    if (document.get_sheet_count() == 0)
        return table;
    const ixion::abs_range_t range = document.get_sheet(0)->get_data_range();
    const ixion::model_context& cells = document.get_model_context();
    if (!range.valid())
        return table;
    for (int row = range.first.row; row <= std::min(range.last.row, range.first.row + most_rows); ++row) {
        std::vector<std::string>& texts = table.emplace_back();
        for (int column = range.first.column; column <= std::min(range.last.column, range.first.column + most_columns);
             ++column) {
            const ixion::abs_address_t at(0, row, column);
            switch (cells.get_celltype(at)) {
            case ixion::celltype_t::string:
                texts.emplace_back(trimmed(cells.get_string_value(at)));
                break;
            case ixion::celltype_t::numeric:
            case ixion::celltype_t::formula:
                texts.push_back(short_number(cells.get_numeric_value(at)));
                break;
            default:
                texts.emplace_back();
                break;
            }
        }
    }
    for (const auto& row : table)
        for (const std::string& cell : row)
            if (first_not_utf8(cell) != std::string_view::npos)
                throw std::runtime_error("a text of it is no UTF-8");
    return table;
}

/// What the library passes over without a word: texts that stand in the cells themselves, parts named from the root.
bool is_passed_over(std::string_view bytes) {
    orcus::zip_archive_stream_blob stream(reinterpret_cast<const unsigned char*>(bytes.data()), bytes.size());
    orcus::zip_archive archive(&stream);
    archive.load();
    for (std::size_t i = 0; i < archive.get_file_entry_count(); ++i) {
        const std::string_view name = archive.get_file_entry_name(i);
        const bool sheet = name.starts_with("xl/worksheets/") && name.ends_with(".xml");
        if (!sheet && name != "xl/_rels/workbook.xml.rels")
            continue;
        std::vector<unsigned char> entry;
        if (!archive.read_file_entry(name, entry))
            return true;
        const std::string_view text(reinterpret_cast<const char*>(entry.data()), entry.size());
        if (text.find(sheet ? "\"inlineStr\"" : "Target=\"/xl/") != std::string_view::npos)
            return true;
    }
    return false;
}

} // namespace

Result<Table> read_table(std::string_view bytes, const std::string& file) {
    if (bytes.size() > largest_table)
        return no_table(file, "the table is larger than 32 MB", "a sheet of figures");
    try {
        const auto* blob = reinterpret_cast<const unsigned char*>(bytes.data());
        if (bytes.starts_with("PK") && orcus::orcus_xlsx::detect(blob, bytes.size()) && is_passed_over(bytes))
            return no_table(file, "its texts are written in a way that is not read here",
                            "the same saved once more by a spreadsheet program, or as CSV");
        if (bytes.starts_with("PK") && orcus::orcus_xlsx::detect(blob, bytes.size()))
            return first_sheet<orcus::orcus_xlsx>(bytes);
        if (bytes.starts_with("PK") && orcus::orcus_ods::detect(blob, bytes.size()))
            return first_sheet<orcus::orcus_ods>(bytes);
    } catch (const std::exception& error) {
        return no_table(file, std::string("the spreadsheet cannot be read (") + error.what() + ")",
                        "XLSX or ODS as it was saved");
    }
    if (bytes.find('\0') != std::string_view::npos)
        return no_table(file, "it is no table", "XLSX, ODS, or text with columns");
    if (bytes.starts_with("\xEF\xBB\xBF"))
        bytes.remove_prefix(3);
    if (auto faults = faults_of_text({file, std::string(bytes)}); !faults.empty())
        return tl::unexpected(std::move(faults));
    std::vector<std::string> lines;
    for (std::size_t from = 0; from < bytes.size() && lines.size() < most_rows;) {
        const auto end = std::min(bytes.find('\n', from), bytes.size());
        lines.emplace_back(trimmed(bytes.substr(from, end - from)));
        from = end + 1;
    }
    const char delimiter = delimiter_of(lines, "\t;|,", 2);
    Table table;
    for (const std::string& line : lines)
        table.push_back(cells_of(line, delimiter));
    return table;
}

} // namespace pallix::block
