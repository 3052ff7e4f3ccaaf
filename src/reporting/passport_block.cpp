// SPDX-License-Identifier: GPL-3.0-or-later
// The passport's part on what everything is measured from: tunnel, camshaft, dowels, places.
#include "block/propagated.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/coordinates.h"
#include "reporting/block_pictures.h"
#include "reporting/code_picture.h"
#include "reporting/passport_sheet.h"
#include "wording/common/sentences.h"
#include "wording/readings/readings.h"
#include "wording/report/coordinate_words.h"

#include <algorithm>

namespace pallix::reporting {

/// Main by main as it was found and as it is.
void PassportSheet::tunnel() {
    const block::TunnelState& t = tunnel_of(s_.state);
    if (!t.latest || !s_.assessment.tunnel)
        return;
    const block::Evaluation& e = t.latest->evaluation;
    first_heading(QStringLiteral("Main tunnel"));
    paragraph(
        QStringLiteral(
            "Straightness %1 over all (least squares); seen from the side %2, from above %3 (minimum zones).")
            .arg(q(l_.plain(s_.assessment.tunnel->straightness_value) +
                   wording::touched_beside(s_.assessment.tunnel->straightness_value, e.tunnel.straightness_lsq, l_)),
                 q(l_.plain(e.tunnel.straightness_vertical_mz)), q(l_.plain(e.tunnel.straightness_lateral_mz))));
    const auto [small, large] = std::ranges::minmax_element(e.mains, {}, &block::MainResult::diameter);
    paragraph(QStringLiteral("Diameters %1 to %2 — %3.")
                  .arg(q(l_.plain(small->diameter)), q(l_.plain(large->diameter)),
                       q(wording::verdict_word(s_.assessment.tunnel->overall))));
    if (!t.mains_as_probed())
        paragraph(QStringLiteral("Worked on since it was probed: %1.").arg(q(t.mains_round_because)));
    const bool worked = t.last_work_on_mains() > t.as_found->sequence && t.mains_as_probed();
    if (worked) {
        const block::TunnelResult& found = t.as_found->evaluation.tunnel;
        paragraph(QStringLiteral("As found %1 over all; seen from the side %2, from above %3.")
                      .arg(q(l_.plain(found.straightness_lsq)), q(l_.plain(found.straightness_vertical_mz)),
                           q(l_.plain(found.straightness_lateral_mz))));
    }
    const auto& mains_found = t.as_found->evaluation.mains;
    Rows rows;
    for (std::size_t i = 0; i < e.mains.size(); ++i) {
        const block::MainResult& main = e.mains[i];
        const auto before = std::ranges::find_if(
            mains_found, [&main](const auto& m) { return m.id == main.id && m.level == main.level; });
        const auto u =
            t.latest->propagated && t.latest->mains_uncertainty()
                ? t.latest->propagated->of("mains[" + std::to_string(i) + "].diameter", *t.latest->mains_uncertainty())
                : std::nullopt;
        const auto verdict = std::ranges::find(s_.assessment.tunnel->mains, i, &planning::MainVerdict::index);
        rows += row(
            {q(wording::feature_words(blueprint(), main.id) + (main.level.empty() ? "" : ", " + main.level)),
             worked && before != mains_found.end() ? q(l_.plain(before->diameter)) : QString(),
             q(l_.plain(main.diameter)), u ? q(l_.fine(*u)) : QStringLiteral("not stated"),
             q(l_.plain(main.roundness_mz)), q(l_.with_sign(main.centre.z)), q(l_.with_sign(main.centre.y)),
             verdict != s_.assessment.tunnel->mains.end() ? q(wording::verdict_word(verdict->verdict)) : QString()});
    }
    table({QString(), QStringLiteral("found"), worked ? QStringLiteral("left") : QStringLiteral("diameter"),
           QStringLiteral("std. uncertainty"), QStringLiteral("roundness"), QStringLiteral("up"),
           QStringLiteral("sideways"), QStringLiteral("verdict")},
          rows);
    pictures({picture(picture_address(tunnel_picture(worked ? &t.as_found->evaluation : nullptr, e, s_.picture_scale)),
                      660)},
             {worked ? QStringLiteral("Centres of the mains from the side and from above: dashed as found, solid as "
                                      "left, much enlarged")
                     : QStringLiteral("Centres of the mains from the side and from above, much enlarged")});
}

/// What was measured by hand, with what, and how sure.
void PassportSheet::by_gauge() {
    const planning::GaugeFindings& g = s_.assessment.gauge;
    Rows rows;
    for (const auto* bores : {&g.mains, &g.cylinders, &g.lifters})
        for (const planning::BoreFinding& bore : *bores) {
            if (bore.stale)
                continue;
            const auto value = [](const planning::SizeFinding& f) { return f.place.value; };
            const auto [small, large] = std::ranges::minmax_element(bore.sizes, {}, value);
            const auto u = small->place.standard_uncertainty();
            rows += row({q(wording::feature_words(blueprint(), bore.id)), q(l_.plain(value(*small))),
                         q(l_.plain(value(*large))), q(l_.plain(bore.out_of_round)), q(l_.plain(bore.taper)),
                         u ? q(l_.fine(*u)) : QStringLiteral("not stated"), q(small->place.instrument),
                         q(wording::verdict_word(bore.verdict))});
        }
    if (rows.isEmpty())
        return;
    section(QStringLiteral("Sizes by gauge"),
            {QString(), QStringLiteral("smallest"), QStringLiteral("largest"), QStringLiteral("out of round"),
             QStringLiteral("taper"), QStringLiteral("std. uncertainty"), QStringLiteral("gauge"),
             QStringLiteral("verdict")},
            rows);
    paragraph(QStringLiteral("<span class=\"quiet\">%1</span>")
                  .arg(q(wording::conditions_words(readings_of(s_.state).conditions))));
}

/// Caps cut, strokes, passes and what was ticked on the way, in order, with who and when.
void PassportSheet::tunnel_work() {
    section(QStringLiteral("Work on the tunnel"), {},
            rows_of<block::CapsCut, block::TunnelPass, block::StepDone, block::TunnelCut>());
}

void PassportSheet::datum() {
    const block::TunnelState& t = tunnel_of(s_.state);
    if (!t.latest)
        return;
    const block::Evaluation &found = t.as_found->evaluation, &now = t.latest->evaluation;
    const auto sure = [&](const std::string& address) {
        const auto u = t.latest->propagated && t.latest->standard_uncertainty
                           ? t.latest->propagated->of(address, *t.latest->standard_uncertainty)
                           : std::nullopt;
        return u ? q(l_.fine(*u)) : QStringLiteral("not stated");
    };
    Rows rows;
    if (now.cam) {
        const auto before = [&](auto value) { return found.cam ? q(l_.with_sign(value(*found.cam))) : QString(); };
        rows += row({QStringLiteral("camshaft, distance from the mains, off its size"),
                     before([](const auto& c) { return c.distance_error; }), q(l_.with_sign(now.cam->distance_error)),
                     sure("cam.distance")});
        rows += row({QStringLiteral("camshaft, parallel to the mains within"),
                     found.cam ? q(l_.plain(found.cam->parallelism)) : QString(), q(l_.plain(now.cam->parallelism)),
                     QString()});
    }
    for (std::size_t i = 0; i < now.dowels.size(); ++i) {
        const block::DowelResult& dowel = now.dowels[i];
        if (!dowel.place_known)
            continue;
        const auto before = std::ranges::find(found.dowels, dowel.id, &block::DowelResult::id);
        const std::string name = wording::feature_words(blueprint(), dowel.id);
        const std::string at = "dowels[" + std::to_string(i) + "].";
        for (const auto& [way, error, key] : {std::tuple(", off its place along", &block::DowelResult::du, "u"),
                                              {", across", &block::DowelResult::dv, "v"}})
            rows += row({q(name + way), before == found.dowels.end() ? QString() : q(l_.with_sign((*before).*error)),
                         q(l_.with_sign(dowel.*error)), sure(at + key)});
    }
    section(QStringLiteral("Camshaft and dowels"),
            {QString(), QStringLiteral("found"), QStringLiteral("by the last log"), QStringLiteral("std. uncertainty")},
            rows);
}

/// Where cylinders and lifters lie, both ways, from the blueprint and from the origin dowel.
void PassportSheet::positions() {
    const auto sheets = planning::coordinate_sheets(s_.state, s_.assessment);
    const auto* cylinders = s_.assessment.cylinders ? &*s_.assessment.cylinders : nullptr;
    for (const planning::CoordinateSheet& sheet : sheets) {
        Rows rows;
        for (const planning::HoleCoordinates& hole : sheet.holes) {
            if (!hole.found && !hole.as_left)
                continue;
            const auto off = [&](const std::optional<metrology::Vec2>& at, double metrology::Vec2::*way) {
                return at ? q(l_.with_sign((*at - hole.blueprint).*way)) : QString();
            };
            std::string verdict;
            std::optional<metrology::Vec2> u;
            if (cylinders && !sheet.lifters)
                if (const auto p = std::ranges::find(cylinders->placed, hole.id, &planning::Placed::id);
                    p != cylinders->placed.end()) {
                    verdict = p->limited() ? wording::verdict_word(p->verdict()) : "no limit";
                    u = p->uncertainty;
                }
            rows += row({q(wording::short_feature_words(s_.state, hole.id)), off(hole.found, &metrology::Vec2::x),
                         off(hole.found, &metrology::Vec2::y), off(hole.as_left, &metrology::Vec2::x),
                         off(hole.as_left, &metrology::Vec2::y),
                         u ? q(l_.fine(std::max(u->x, u->y))) : QStringLiteral("not stated"), q(verdict)});
        }
        const block::BankBlueprint& bank = *blueprint().bank(sheet.bank);
        section(QStringLiteral("Places, %1, %2")
                    .arg(q(wording::bank_name(bank)),
                         sheet.lifters ? QStringLiteral("lifters") : QStringLiteral("cylinders")),
                {QString(), QStringLiteral("found, along"), QStringLiteral("across"), QStringLiteral("left, along"),
                 QStringLiteral("across"), QStringLiteral("std. uncertainty"), QStringLiteral("verdict")},
                rows);
        if (rows.isEmpty())
            continue;
        quiet(q("Off the blueprint's place, counted from " + wording::origin_words(s_.state, sheet) +
                ": + to the rear, + " + wording::plus_across(bank) + "."));
        if (!sheet.lifters)
            pictures({picture(picture_address(places_picture(blueprint(), sheet, s_.picture_scale)), 660)},
                     {QStringLiteral("Where the cylinders lie against the blueprint, errors much enlarged: hollow as "
                                     "found, full as left")});
    }
}

} // namespace pallix::reporting
