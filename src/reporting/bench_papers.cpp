// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/bench_papers.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/coordinates.h"
#include "planning/readings/reading_plan.h"
#include "planning/tunnel/cap_sizes.h"
#include "planning/tunnel/tunnel_study.h"
#include "reporting/block_pictures.h"
#include "reporting/code_picture.h"
#include "reporting/paper.h"
#include "reporting/sheet.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/lifters/lifter_words.h"
#include "wording/readings/readings.h"
#include "wording/report/coordinate_words.h"
#include "wording/tunnel/tunnel_words.h"

#include <algorithm>

namespace pallix::reporting {
namespace {

const char* const with_room = "td { padding-bottom: 7px; }";
const QString blank = QStringLiteral("________");

void bench_head(Sheet& sheet, const PaperSource& s, const QString& what) {
    sheet.add(QStringLiteral("<h1>%1</h1>").arg(q(intake_of(s.state).title)));
    sheet.quiet(QStringLiteral("%1 · lengths in %2 · printed %3")
                    .arg(what, q(s.lengths.unit_name()), s.printed.toHtmlEscaped()));
}

QString finished(const Sheet& sheet, const PaperSource& s) {
    return paper_html(intake_of(s.state).title, sheet.body(), with_room);
}

void caution(Sheet& sheet, const std::string& words) {
    sheet.paragraph(QStringLiteral("<b>%1</b>").arg(q(words)));
}

/// The measuring whose places are still to be read by hand, in the order of the work.
struct ToRead {
    planning::Measuring what{};
    std::string bank;
    std::vector<block::MeasuredAt> places;
};
std::vector<ToRead> places_to_read(const block::JobState& state) {
    using enum planning::Measuring;
    std::vector<ToRead> all;
    const auto& blueprint = *intake_of(state).blueprint;
    const auto add = [&](planning::Measuring what, const std::string& bank) {
        ToRead read{what, bank, {}};
        for (const block::MeasuredAt& at : planning::chosen_places(state, what, bank)) {
            const block::MeasuredPlace* known = readings_of(state).place(at);
            if (!known || known->stale())
                read.places.push_back(at);
        }
        if (!read.places.empty())
            all.push_back(std::move(read));
    };
    for (const planning::Measuring what :
         {main_sizes, saddle_heights, deck_heights, cylinder_sizes, cylinder_walls, piston_heights, lifter_sizes}) {
        if (what == lifter_sizes && blueprint.lifters.empty())
            continue;
        if (!planning::goes_by_bank(what))
            add(what, "");
        else
            for (const block::BankBlueprint& bank : blueprint.banks)
                add(what, bank.id);
    }
    return all;
}

} // namespace

QString cap_sheet_html(const PaperSource& s) {
    Sheet sheet;
    bench_head(sheet, s, QStringLiteral("Cutting caps"));
    const auto study = intake_of(s.state).blueprint ? planning::study_tunnel(s.state) : std::nullopt;
    const bool cuts = study && study->plan.feasible &&
                      std::ranges::any_of(study->plan.cuts, [](const auto& cut) { return cut.cut > 0; });
    if (!cuts) {
        sheet.paragraph(study && !study->plan.feasible
                            ? QStringLiteral("No plan of the tunnel works out within its limits: nothing is to be cut "
                                             "by it.")
                        : study ? QStringLiteral("By the plan of the tunnel no cap is to be cut.")
                                : QStringLiteral("The main tunnel is not known yet: there is no plan to cut by."));
        return finished(sheet, s);
    }
    Sheet::Rows rows;
    for (const planning::CapCut& cut : study->plan.cuts)
        rows += Sheet::row({q(wording::feature_words(*intake_of(s.state).blueprint, cut.id)),
                            q(s.lengths.plain(cut.cut)), blank, blank, blank});
    sheet.table({QString(), QStringLiteral("off the cap's face"), QStringLiteral("thickness before"),
                 QStringLiteral("taken"), QStringLiteral("thickness after")},
                rows);
    QStringList why;
    for (const std::string& sentence : wording::tunnel_plan_sentences(study->plan, s.lengths))
        why << q(sentence);
    sheet.list(why);
    Sheet::Rows sizes;
    const auto& tunnel = tunnel_of(s.state);
    block::TakenCaps planned{s.entries.back().sequence + 1, {}, {}};
    for (const planning::CapCut& cut : study->plan.cuts)
        planned.cut.cuts.emplace_back(cut.id, cut.cut);
    if (tunnel.mains_as_probed())
        planned.before = tunnel.latest->evaluation.mains;
    for (const planning::CapPrediction& size : planning::predict_caps(s.state, planned))
        sizes += Sheet::row({q(wording::place_of_reading(*intake_of(s.state).blueprint, size.at)),
                             q(s.lengths.plain(size.before)), q(s.lengths.plain(size.predicted)), blank});
    sheet.section(QStringLiteral("What the sizes become"),
                  {QString(), QStringLiteral("before"), QStringLiteral("after the cut"), QStringLiteral("read")},
                  sizes);
    sheet.heading(QStringLiteral("On the way"));
    QStringList steps;
    for (const std::string& step : planning::cap_steps())
        steps << QStringLiteral("☐ ") + q(step);
    sheet.list(steps);
    caution(sheet, wording::bore_caution);
    return finished(sheet, s);
}

QString boring_sheet_html(const PaperSource& s) {
    Sheet sheet;
    bench_head(sheet, s, QStringLiteral("Boring"));
    const auto& work = s.assessment.cylinders;
    if (!work) {
        sheet.paragraph(QStringLiteral("No cylinder was measured yet: there is nothing to bore by."));
        return finished(sheet, s);
    }
    const auto& blueprint = *intake_of(s.state).blueprint;
    const auto sheets = planning::coordinate_sheets(s.state, s.assessment);
    const planning::HoleCoordinates nowhere{};
    const auto place_of = [&](const block::FeatureId& id) -> const planning::HoleCoordinates& {
        for (const planning::CoordinateSheet& places : sheets)
            if (const auto hole = std::ranges::find(places.holes, id, &planning::HoleCoordinates::id);
                hole != places.holes.end())
                return *hole;
        return nowhere;
    };
    const auto at = [&](const std::optional<metrology::Vec2>& place, double metrology::Vec2::*way) {
        return place ? q(s.lengths.with_sign((*place).*way)) : QString();
    };
    Sheet::Rows rows;
    QStringList moves;
    for (const planning::HoleProgress& hole : work->boring.holes) {
        const planning::HoleCoordinates& place = place_of(hole.id);
        const planning::CylinderNeed* need = work->study.bore(hole.id);
        const bool next = work->boring.hole == hole.id;
        rows += Sheet::row({q(wording::feature_words(blueprint, hole.id) + (hole.seat ? ", seat of its sleeve" : "")),
                            at(place.found, &metrology::Vec2::x), at(place.found, &metrology::Vec2::y),
                            at(place.target, &metrology::Vec2::x), at(place.target, &metrology::Vec2::y),
                            hole.size ? q(s.lengths.plain(*hole.size)) : QString(), q(s.lengths.plain(hole.target)),
                            next && work->boring.set ? q(s.lengths.plain(*work->boring.set)) : blank, blank});
        if (need)
            if (const std::string words = wording::centre_sentence(s.state, *need, s.lengths); !words.empty())
                moves << q(wording::feature_words(blueprint, hole.id) + ": " + words);
    }
    if (rows.isEmpty()) {
        sheet.paragraph(QStringLiteral("Neither pistons nor a size are known yet: there is nothing to bore to."));
        return finished(sheet, s);
    }
    sheet.table({QString(), QStringLiteral("centre, along"), QStringLiteral("across"), QStringLiteral("target, along"),
                 QStringLiteral("across"), QStringLiteral("now"), QStringLiteral("bore to"), QStringLiteral("set"),
                 QStringLiteral("measured")},
                rows);
    QStringList origins;
    for (const planning::CoordinateSheet& places : sheets)
        if (!places.lifters)
            origins << q(wording::sheet_name(s.state, places) + ": from " + wording::origin_words(s.state, places) +
                         ", + to the rear, + " + wording::plus_across(*blueprint.bank(places.bank)));
    sheet.quiet(origins.join(QStringLiteral(". ")) + QLatin1Char('.'));
    sheet.list(moves);
    caution(sheet, wording::bore_caution);
    return finished(sheet, s);
}

QString reading_sheet_html(const PaperSource& s) {
    Sheet sheet;
    bench_head(sheet, s, QStringLiteral("Readings"));
    const auto all = intake_of(s.state).blueprint ? places_to_read(s.state) : std::vector<ToRead>();
    if (all.empty())
        sheet.paragraph(QStringLiteral("Every place was read since it was last cut."));
    for (const ToRead& read : all) {
        const auto& blueprint = *intake_of(s.state).blueprint;
        const std::string bank = read.bank.empty() ? "" : ", " + wording::bank_name(*blueprint.bank(read.bank));
        sheet.heading(q(wording::measuring_name(read.what) + bank));
        sheet.pictures({Sheet::picture(picture_address(reading_picture(blueprint, read.places, s.picture_scale)), 660)},
                       {QStringLiteral("gauge %1 &nbsp; zero %1 &nbsp; block at %1 °C").arg(blank)});
        // Two places beside one another: a page holds more, and a column is followed by eye.
        Sheet::Rows rows;
        const std::size_t half = (read.places.size() + 1) / 2;
        const auto cells = [&](std::size_t i) {
            return i < read.places.size() ? QStringList{QString::number(i + 1),
                                                        q(wording::place_of_reading(blueprint, read.places[i])), blank}
                                          : QStringList{QString(), QString(), QString()};
        };
        for (std::size_t i = 0; i < half; ++i)
            rows += Sheet::row(cells(i) + cells(i + half), 6);
        sheet.table({}, rows);
    }
    sheet.quiet(
        QStringLiteral("Typed in later: begin that measuring at the reading line; it asks for the places in this "
                       "order."));
    return finished(sheet, s);
}

} // namespace pallix::reporting
