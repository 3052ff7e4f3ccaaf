// SPDX-License-Identifier: GPL-3.0-or-later
// The passport's part on cylinders and lifters.
#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "planning/cylinders/texture.h"
#include "reporting/passport_sheet.h"
#include "wording/common/sentences.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/lifters/lifter_words.h"
#include "wording/readings/readings.h"

#include <algorithm>

namespace pallix::reporting {

using metrology::Verdict;

/// Each cylinder from as found to its finished size, sleeves, edges and texture among them.
void PassportSheet::cylinders() {
    const auto& work = s_.assessment.cylinders;
    const bool begun =
        work && std::ranges::any_of(work->study.each, [this](const planning::CylinderNeed& n) {
            return !bores_of(s_.state).bore(n.found.id).cuts.empty() || bores_of(s_.state).bore(n.found.id).decided;
        });
    if (!begun)
        return;
    Rows rows;
    QStringList lines;
    for (const planning::CylinderNeed& n : work->study.each) {
        const block::FeatureId& id = n.found.id;
        const auto sizes = planning::bore_sizes(s_.state, id, work->study.oversize);
        const auto now = planning::size_now(s_.state, id);
        const auto b = std::ranges::find(work->hone.bores, id, &planning::HoneBore::id);
        const bool honed = b != work->hone.bores.end() && b->honed;
        rows += row({q(wording::feature_words(blueprint(), id)), q(l_.plain(n.found.diameter)),
                     q(l_.plain(n.found.worn)), n.sleeved ? QStringLiteral("sleeved") : QStringLiteral("bored"),
                     sizes ? q(l_.plain(sizes->finish)) : QString(), now ? q(l_.plain(now->size)) : QString(),
                     honed && b->measured ? q(l_.plain(b->most - b->least)) : QString(),
                     honed && b->verdict ? q(wording::verdict_word(*b->verdict)) : QStringLiteral("not finished")});
        const std::string name = wording::feature_words(blueprint(), id) + ": ";
        const block::BoreWork& w = bores_of(s_.state).bore(id);
        const auto tell = [&](const auto& taken) { lines << q(name + wording::entry_words(taken.payload, l_)); };
        std::ranges::for_each(w.pits, tell);
        if (w.decided)
            tell(*w.decided);
        if (w.insert)
            tell(*w.insert);
        if (w.fitted)
            tell(*w.fitted);
        std::ranges::for_each(w.steps, tell);
        if (const auto p = std::ranges::find(work->placed, id, &planning::Placed::id); p != work->placed.end())
            lines << q(name + (p->bored ? "as left, " : "as found, ") + wording::place_sentence(s_.state, *p, l_));
        texture(name, id, lines);
        for (const planning::WallAt& wall : n.found.walls)
            if (wall.after)
                lines << q(name + "wall " + wall.level + ", " + wall.direction + " " + l_.plain(wall.before) +
                           " before, " + l_.with_unit(*wall.after) + " after");
    }
    section(QStringLiteral("Cylinders"),
            {QString(), QStringLiteral("found, top"), QStringLiteral("found, worn"), QStringLiteral("done"),
             QStringLiteral("finish"), QStringLiteral("measured"), QStringLiteral("largest − smallest"),
             QStringLiteral("verdict")},
            rows);
    if (bores_of(s_.state).cylinder_plan)
        paragraph(q(wording::entry_words(bores_of(s_.state).cylinder_plan->payload, l_)));
    if (bores_of(s_.state).pistons)
        paragraph(q(wording::entry_words(bores_of(s_.state).pistons->payload, l_)));
    if (!lines.isEmpty())
        add(QStringLiteral("<ul><li>%1</li></ul>").arg(lines.join(QStringLiteral("</li><li>"))));
}

void PassportSheet::texture(const std::string& name, const block::FeatureId& cylinder, QStringList& lines) const {
    if (const auto typed = planning::typed_texture(bores_of(s_.state), cylinder); !typed.empty())
        lines << q(name + "texture by a tester" + wording::typed_texture_words(typed));
    const auto finding = planning::texture_of(bores_of(s_.state), cylinder);
    if (!finding)
        return;
    if (finding->before_cut) {
        lines << q(name + "texture not traced since the last cut");
        return;
    }
    std::string text = name + "texture, " + wording::traces_text(*finding);
    for (const planning::TextureCheck& c : finding->checks) {
        text += ", " + c.name + " " + wording::texture_text(c.value, c.is_ratio);
        if (c.uncertainty)
            text += " ±" + wording::texture_text(2 * *c.uncertainty, c.is_ratio);
        if ((c.wanted.least || c.wanted.most) && c.verdict != Verdict::meets)
            text += " (" + wording::verdict_word(c.verdict) + ")";
    }
    lines << q(text);
}

void PassportSheet::lifters() {
    const auto& work = s_.assessment.lifters;
    if (!work || !bores_of(s_.state).lifter_plan)
        return;
    Rows rows;
    const auto crank = [](double cam) { return q(wording::fixed(2 * cam / block::radians_per_degree, 2)); };
    for (const planning::LifterNeed& n : work->study.each) {
        const auto p = std::ranges::find(work->board.each, n.id, &planning::LifterProgress::id);
        const auto& after = work->board.timings_after;
        const auto timed = std::ranges::find(after, n.id, [](const auto& t) { return t.first; });
        const bool known = p != work->board.each.end();
        rows += row({q(wording::feature_words(blueprint(), n.id)), q(wording::lifter_choice_name(n.choice)),
                     n.error ? q(l_.plain(norm(*n.error))) : QString(),
                     known && p->position ? q(l_.plain(*p->position)) : QString(),
                     n.timing ? crank(*n.timing) : QString(), timed != after.end() ? crank(timed->second) : QString(),
                     known && p->size ? q(l_.plain(*p->size)) : QString()});
    }
    section(QStringLiteral("Lifters"),
            {QString(), QStringLiteral("plan"), QStringLiteral("off place, found"), QStringLiteral("off place, proven"),
             QStringLiteral("timing found, ° crank"), QStringLiteral("timing proven"), QStringLiteral("size")},
            rows);
    paragraph(q(wording::entry_words(bores_of(s_.state).lifter_plan->payload, l_)));
    if (const std::string spread = wording::spread_sentence(*work); !spread.empty())
        paragraph(q(spread));
}

} // namespace pallix::reporting
