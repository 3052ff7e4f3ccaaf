// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/data_out.h"

#include "block/evaluation_values.h"
#include "block/probe_log.h"
#include "block/propagated.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/outcomes.h"
#include "wording/common/sentences.h"
#include "wording/report/outcome_words.h"

namespace pallix::reporting {
namespace {

Cell number(std::int64_t n) {
    return static_cast<double>(n);
}

CellTable told(const PaperSource& s) {
    CellTable t{"summary",
                {"what", "found least mm", "found most mm", "left least mm", "left most mm", "limit least mm",
                 "limit most mm", "standard uncertainty mm", "verdict"},
                {}};
    for (const planning::Outcome& o : planning::outcomes(s.state, s.assessment)) {
        std::vector<Cell> row{wording::told_name(s.state, o)};
        for (const auto& span : {o.found, o.left}) {
            row.push_back(span ? Cell(span->least) : Cell());
            row.push_back(span ? Cell(span->most) : Cell());
        }
        for (const auto& value : {o.limits.lower, o.limits.upper, o.uncertainty})
            row.push_back(Cell(value));
        row.emplace_back(wording::standing_words(o));
        t.rows.push_back(std::move(row));
    }
    return t;
}

CellTable readings(const PaperSource& s) {
    CellTable t{"readings",
                {"entry",
                 "time",
                 "person",
                 "feature",
                 "quantity",
                 "level",
                 "direction",
                 "u mm",
                 "v mm",
                 "place",
                 "value",
                 "upper value",
                 "typed",
                 "instrument",
                 "standard uncertainty",
                 "drift correction",
                 "temperature correction",
                 "block °C",
                 "gauge °C",
                 "no longer holds because"},
                {}};
    for (const block::TakenReading& r : readings_of(s.state).readings) {
        const block::MeasuredAt& at = r.reading.at;
        const bool placed = block::is_at_a_place(at.quantity);
        t.rows.push_back({number(r.sequence),
                          r.time,
                          r.person,
                          at.feature.text(),
                          std::string(block::quantity_names[static_cast<std::size_t>(at.quantity)]),
                          at.level,
                          at.direction,
                          placed ? Cell(at.place.x) : Cell(),
                          placed ? Cell(at.place.y) : Cell(),
                          r.reading.words,
                          r.value,
                          Cell(r.reading.upper),
                          r.reading.typed,
                          r.reading.instrument.name,
                          Cell(r.fixed),
                          r.drift_correction,
                          r.thermal_correction,
                          Cell(r.reading.conditions.part_c),
                          Cell(r.reading.conditions.gauge_c),
                          r.stale_because});
    }
    return t;
}

/// Touches of all logs that count; a sheet holds a million rows, so more go on to the next.
void add_touches(std::vector<CellTable>& tables, const PaperSource& s) {
    constexpr std::size_t rows_of_a_sheet = 1'000'000;
    const auto sheet = [&tables] {
        std::size_t n = 1;
        for (const CellTable& table : tables)
            n += table.name.starts_with("touches") ? 1 : 0;
        return CellTable{n == 1 ? "touches" : "touches " + std::to_string(n),
                         {"when", "log", "feature", "level", "x mm", "y mm", "z mm", "tip radius mm"},
                         {}};
    };
    CellTable t = sheet();
    const auto& tunnel = tunnel_of(s.state);
    const auto add = [&](const std::string& when, const block::EvaluationState& e) {
        if (!e.probe)
            return;
        for (const block::Section& section : e.probe->sections)
            for (const block::Touch& touch : section.touches) {
                if (t.rows.size() == rows_of_a_sheet) {
                    tables.push_back(std::move(t));
                    t = sheet();
                }
                t.rows.push_back({when, section.log < e.probe->logs.size() ? e.probe->logs[section.log].file : "",
                                  section.feature.text(), section.level, touch.position.x, touch.position.y,
                                  touch.position.z, touch.tip_radius});
            }
    };
    if (tunnel.as_found)
        add("as found", *tunnel.as_found);
    if (tunnel.latest && tunnel.latest->sequence != tunnel.as_found->sequence)
        add("latest", *tunnel.latest);
    tables.push_back(std::move(t));
}

CellTable results(const PaperSource& s) {
    CellTable t{"results", {"when", "entry", "value of", "value", "unit", "standard uncertainty"}, {}};
    const auto add = [&t](const std::string& when, const block::EvaluationState& e) {
        block::each_value(e.evaluation, [&](const block::ValuePlace& place, const block::Field& field) {
            const std::string address = place.address(field.key);
            const bool smooth = field.follows == block::Follows::smoothly;
            const auto u = smooth && e.propagated && e.standard_uncertainty
                               ? e.propagated->of(address, *e.standard_uncertainty)
                               : std::nullopt;
            const char* unit = field.dimension == block::Dimension::length  ? "mm"
                               : field.dimension == block::Dimension::ratio ? "1"
                                                                            : "°";
            t.rows.push_back({when, number(e.sequence), address, field.value, std::string(unit), Cell(u)});
        });
    };
    const auto& tunnel = tunnel_of(s.state);
    if (tunnel.as_found)
        add("as found", *tunnel.as_found);
    if (tunnel.latest && tunnel.latest->sequence != tunnel.as_found->sequence)
        add("latest", *tunnel.latest);
    return t;
}

CellTable ledger(const PaperSource& s) {
    CellTable t{"ledger", {"entry", "time", "person", "kind", "struck", "words", "fields as JSON"}, {}};
    const auto struck = block::struck(s.entries);
    for (std::size_t i = 0; i < s.entries.size(); ++i) {
        const block::Entry& entry = s.entries[i];
        t.rows.push_back({number(entry.sequence), entry.time, entry.person, block::kind_of(entry.payload),
                          std::string(struck[i] ? "struck" : ""),
                          wording::entry_sentence(entry, s.state, wording::LengthText(block::Unit::mm)),
                          block::payload_json(entry.payload)});
    }
    return t;
}

} // namespace

std::vector<CellTable> data_tables(const PaperSource& s) {
    std::vector<CellTable> tables{told(s), readings(s)};
    add_touches(tables, s);
    tables.push_back(results(s));
    tables.push_back(ledger(s));
    return tables;
}

} // namespace pallix::reporting
