// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/log_form.h"

#include "block/delimited.h"
#include "block/number_text.h"

#include <algorithm>
#include <array>

namespace pallix::block {
namespace {

bool like_number(const std::string& text) {
    return decimal_text(text, false) || decimal_text(text, true);
}

class FormFinder {
  public:
    FormFinder(std::string_view text, const std::string& file, const LogMapping& mapping) : file_(file), m_(mapping) {
        f_.lines = lines_of(text);
    }

    LogForm found() {
        if (f_.lines.empty()) {
            f_.fault(file_, 0, "the log is empty", "a heading and a row for each touch");
            return std::move(f_);
        }
        find_delimiter();
        f_.rows.reserve(f_.lines.size());
        for (const LogLine& line : f_.lines)
            f_.rows.push_back(cells_of(line.text, delimiter_));
        find_decimal();
        find_columns();
        return std::move(f_);
    }

  private:
    /// The one by which most lines have three numbers; a comma late, as it may be a decimal.
    void find_delimiter() {
        if (!m_.delimiter.empty()) {
            delimiter_ = m_.delimiter == "space" ? ' ' : m_.delimiter == "tab" ? '\t' : m_.delimiter[0];
        } else {
            constexpr std::size_t enough = 200; // lines to judge by
            std::size_t most = 0;
            for (const char candidate : {';', '\t', '|', ',', ' '}) {
                std::size_t lines = 0;
                for (std::size_t i = 0; i < std::min(f_.lines.size(), enough); ++i)
                    lines += std::ranges::count_if(cells_of(f_.lines[i].text, candidate), like_number) >= 3 ? 1 : 0;
                if (lines > most) {
                    most = lines;
                    delimiter_ = candidate;
                }
            }
        }
        f_.understood.push_back("columns separated by " + (delimiter_ == '\t' ? std::string("tabs")
                                                           : delimiter_ == ' '
                                                               ? std::string("blanks")
                                                               : "“" + std::string(1, delimiter_) + "”"));
    }

    void find_decimal() {
        if (m_.decimal.empty()) {
            std::size_t commas = 0, points = 0;
            for (const LogRow& row : f_.rows)
                for (const std::string& field : row) {
                    commas += !decimal_text(field, false) && decimal_text(field, true) ? 1 : 0;
                    points += field.find('.') != std::string::npos && decimal_text(field, false) ? 1 : 0;
                }
            f_.comma = commas > points;
        } else {
            f_.comma = m_.decimal == ",";
        }
        f_.understood.emplace_back(f_.comma ? "decimal comma" : "decimal point");
    }

    /// The headings: the last line before the first row of numbers that names at least three columns.
    void find_columns() {
        const auto numbers = [&](const LogRow& row) {
            return std::ranges::count_if(row,
                                         [&](const std::string& f) { return decimal_text(f, f_.comma).has_value(); });
        };
        f_.first = static_cast<std::size_t>(
            std::ranges::find_if(f_.rows, [&](const LogRow& row) { return numbers(row) >= 3; }) - f_.rows.begin());
        if (f_.first == f_.rows.size())
            return f_.fault(file_, 0, "no line has three numbers", "x, y and z of each touch");
        for (std::size_t i = 0; i < f_.first; ++i)
            if (are_headings(f_.rows[i]))
                f_.headings = i;
        const LogRow* headings = f_.headings ? &f_.rows[*f_.headings] : nullptr;
        for (const char* ours : {"setup", "rotation", "feature", "level", "x", "y", "z"})
            find_column(ours, headings);
        guess_columns();
        if (!headings && m_.columns.empty()) // there is nothing else to go by
            for (const auto& [ours, theirs] : std::exchange(f_.guess, {}))
                take(ours, static_cast<std::size_t>(*finite_number(theirs.substr(1))) - 1, false, theirs);
        const bool all_axes = f_.has("x") && f_.has("y") && f_.has("z");
        for (const char* needed : {"feature", "x", "y", "z"})
            if (!f_.has(needed) && !(needed[0] == 'f' && (all_axes || !m_.program.empty())))
                f_.fault(file_, f_.heading_line(), std::string("no column is known as ") + needed,
                         "a heading of that name, or a mapping that names it");
        if (!m_.unit && headings)
            for (const char* axis : {"x", "y", "z"})
                if (f_.has(axis)) {
                    const std::string heading = plain_word((*headings)[f_.columns.at(axis).index]);
                    if (heading.ends_with("inch") || heading.ends_with("in"))
                        f_.unit = Unit::inch;
                }
        if (m_.unit)
            f_.unit = *m_.unit;
        f_.understood.push_back("unit " + std::string(unit_name(f_.unit)) +
                                (m_.unit || f_.unit == Unit::inch ? "" : ", as none is named"));
    }

    /// Words over at least four columns; over three only where they name x, y and z.
    static bool are_headings(const LogRow& row) {
        if (row.size() < 3 || std::ranges::any_of(row, like_number))
            return false;
        return row.size() > 3 || std::ranges::all_of(row, [](const std::string& cell) {
                   const std::string word = plain_word(without_unit(cell));
                   return std::ranges::any_of(usual_headings(), [&](const UsualHeading& known) {
                       return known.ours[1] == '\0' && std::ranges::find(known.theirs, word) != known.theirs.end();
                   });
               });
    }

    /// What the columns that are not known may be: one of words, and as many of numbers as there are axes to be found,
    /// besides one that counts.
    void guess_columns() {
        std::vector<std::size_t> numbers, words;
        const LogRow& row = f_.rows[f_.first];
        for (std::size_t i = 0; i < row.size(); ++i)
            if (std::ranges::none_of(f_.columns, [i](const auto& c) { return c.second.index == i; }))
                (decimal_text(row[i], f_.comma) ? numbers : words).push_back(i);
        std::vector<const char*> axes;
        for (const char* axis : {"x", "y", "z"})
            if (!f_.has(axis))
                axes.push_back(axis);
        if (numbers.size() == axes.size() + 1 && counts(numbers.front()))
            numbers.erase(numbers.begin());
        const auto name = [&](std::size_t i) {
            const bool headed = f_.headings && i < f_.rows[*f_.headings].size() && !f_.rows[*f_.headings][i].empty();
            return headed ? f_.rows[*f_.headings][i] : "#" + std::to_string(i + 1);
        };
        if (numbers.size() != axes.size())
            return;
        for (std::size_t i = 0; i < axes.size(); ++i)
            f_.guess[axes[i]] = name(numbers[i]);
        if (words.size() == 1 && !f_.has("feature"))
            f_.guess["feature"] = name(words.front());
    }

    /// Whether a column numbers the touches.
    [[nodiscard]] bool counts(std::size_t column) const {
        constexpr std::size_t enough = 20;
        for (std::size_t i = f_.first; i + 1 < f_.rows.size() && i < f_.first + enough; ++i) {
            const auto here = column < f_.rows[i].size() ? finite_number(f_.rows[i][column]) : std::nullopt;
            const auto next = column < f_.rows[i + 1].size() ? finite_number(f_.rows[i + 1][column]) : std::nullopt;
            if (here && next && *next != *here + 1)
                return false;
        }
        return true;
    }

    void find_column(const std::string& ours, const LogRow* headings) {
        const std::size_t width = f_.rows[f_.first].size();
        const auto stated = m_.columns.find(ours);
        if (stated != m_.columns.end()) {
            std::string heading = stated->second;
            const bool turned = heading.starts_with('-');
            if (turned)
                heading.erase(0, 1);
            if (heading.starts_with('#')) {
                const auto n = finite_number(heading.substr(1));
                if (n && *n >= 1 && *n <= static_cast<double>(width))
                    return take(ours, static_cast<std::size_t>(*n) - 1, turned, heading);
            } else if (headings) {
                const auto found = std::ranges::find_if(
                    *headings, [&](const std::string& h) { return h == heading || without_unit(h) == heading; });
                if (found != headings->end())
                    return take(ours, static_cast<std::size_t>(found - headings->begin()), turned, *found);
            }
            return f_.fault(file_, 0, "there is no column " + heading,
                            "a heading of the log, or # and a number from 1");
        }
        if (!headings)
            return;
        const auto& theirs = std::ranges::find(usual_headings(), ours, [](const UsualHeading& k) {
                                 return std::string(k.ours);
                             })->theirs;
        for (std::size_t i = 0; i < headings->size(); ++i)
            if (std::ranges::find(theirs, plain_word(without_unit((*headings)[i]))) != theirs.end())
                return take(ours, i, false, (*headings)[i]);
    }

    void take(const std::string& ours, std::size_t index, bool turned, const std::string& heading) {
        f_.columns[ours] = {index, turned, heading};
        f_.understood.push_back(ours + " from " + (turned ? "−" : "") + "“" + heading + "”");
    }

    const std::string& file_;
    const LogMapping& m_;
    LogForm f_;
    char delimiter_ = ',';
};

} // namespace

std::string LogForm::cell(const LogRow& row, const char* column) const {
    const auto found = columns.find(column);
    return found == columns.end() || found->second.index >= row.size() ? std::string() : row[found->second.index];
}

std::map<std::string, std::string> LogForm::column_names() const {
    std::map<std::string, std::string> names;
    for (const auto& [ours, column] : columns)
        names[ours] = (column.turned ? "-" : "") + column.heading;
    return names;
}

std::vector<std::string> LogForm::heading_words() const {
    std::vector<std::string> all;
    const std::size_t width = first < rows.size() ? rows[first].size() : 0;
    for (std::size_t i = 0; i < width; ++i) {
        const bool named = headings && i < rows[*headings].size() && !rows[*headings][i].empty();
        all.push_back(named ? rows[*headings][i] : "#" + std::to_string(i + 1));
    }
    return all;
}

std::vector<LogRow> LogForm::first_rows() const {
    constexpr std::size_t most = 12;
    const std::size_t from = std::min(headings.value_or(0), rows.size());
    return {rows.begin() + static_cast<std::ptrdiff_t>(from),
            rows.begin() + static_cast<std::ptrdiff_t>(std::min(rows.size(), from + most))};
}

void LogForm::fault(const std::string& file, int line, std::string what, std::string expected) {
    constexpr std::size_t most = 100;
    if (faults.size() < most)
        faults.push_back({file, line, std::move(what), std::move(expected)});
}

LogForm form_of(std::string_view text, const std::string& file, const LogMapping& mapping) {
    return FormFinder(text, file, mapping).found();
}

} // namespace pallix::block
