// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/holes/bore_tables.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/lifters/lifter_words.h"

#include <QCoreApplication>
#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::ui {
namespace {

struct Tables {
    Q_DECLARE_TR_FUNCTIONS(Tables)
};

QString text(const Context& context, const std::optional<double>& mm) {
    return mm ? qt(context.lengths().plain(*mm)) : QString();
}

} // namespace

TwinTable size_table(const Context& context) {
    TwinTable t = TwinTable::headed(Tables::tr("cylinder|nominal|worn|anywhere|on the top|on the blueprint"), 1);
    const auto& work = context.session.assessment().cylinders;
    if (!work)
        return t;
    for (const planning::CylinderNeed& n : work->study.each) {
        QStringList row{short_name(context, n.found.id), text(context, n.found.nominal), text(context, n.found.worn)};
        for (const auto school :
             {block::CentreSchool::free, block::CentreSchool::top, block::CentreSchool::blueprint}) {
            const auto need = std::ranges::find_if(n.schools, [school](const auto& s) { return s.school == school; });
            row << (need == n.schools.end() ? QString() : text(context, need->needed_at_most));
        }
        t.rows.push_back(row);
        t.ids.push_back(n.found.id);
    }
    return t;
}

TwinTable boring_table(const Context& context) {
    TwinTable t = TwinTable::headed(Tables::tr("hole|as|to become|tool set|measured|to go|off setting"), 2);
    const auto& work = context.session.assessment().cylinders;
    if (!work)
        return t;
    const auto l = context.lengths();
    for (const planning::HoleProgress& h : work->boring.holes) {
        t.rows.push_back({short_name(context, h.id), h.seat ? Tables::tr("sleeve seat") : Tables::tr("rough bore"),
                          qt(l.plain(h.target)), text(context, h.set), text(context, h.size),
                          h.size ? qt(l.side(h.still(), "to go", "over")) : QString(),
                          h.surplus ? qt(l.side(*h.surplus, "larger", "smaller")) : QString()});
        t.ids.push_back(h.id);
    }
    return t;
}

TwinTable hone_table(const Context& context) {
    TwinTable t = TwinTable::headed(Tables::tr("cylinder|finish|at most|top||middle||bottom||left"), 1);
    const auto& work = context.session.assessment().cylinders;
    if (!work)
        return t;
    const auto l = context.lengths();
    for (const planning::HoneBore& b : work->hone.bores) {
        QStringList row{short_name(context, b.id), qt(l.plain(b.sizes.finish)), qt(l.plain(b.sizes.finish_most))};
        for (const planning::HoneCell& cell : b.cells)
            row << text(context, cell.size);
        while (row.size() < t.heads.size() - 1)
            row << QString();
        row << (b.measured ? qt(l.side(b.most, "left", "over")) : QString());
        t.rows.push_back(row);
        t.ids.push_back(b.id);
    }
    return t;
}

TwinTable sleeve_table(const Context& context) {
    TwinTable t = TwinTable::headed(Tables::tr("cylinder|top||middle||bottom||inside|seat"), 1);
    const auto& work = context.session.assessment().cylinders;
    if (!work)
        return t;
    for (const planning::SleeveWork& s : work->sleeves) {
        const auto& insert = bores_of(context.session.state()).bore(s.bore).insert;
        QStringList row{short_name(context, s.bore)};
        for (std::size_t i = 0; i < 6; ++i)
            row << (insert ? text(context, insert->payload.outside[i]) : QString());
        row << (insert ? text(context, insert->payload.inside) : QString())
            << (s.plan ? text(context, s.plan->seat) : QString());
        t.rows.push_back(row);
        t.ids.push_back(s.bore);
    }
    return t;
}

TwinTable lifter_table(const Context& context, const std::string& bank) {
    TwinTable t = TwinTable::headed(Tables::tr("lifter|becomes|as it is|size|clearance|off across|timing, °|next"), 3);
    const auto& work = context.session.assessment().lifters;
    if (!work)
        return t;
    const auto l = context.lengths();
    const auto across = [&](const block::FeatureId& id, double mm) {
        return qt(wording::across_text(*intake_of(context.session.state()).blueprint->bank(id.bank), mm, l));
    };
    for (const planning::LifterNeed& n : work->study.each) {
        if (n.id.bank != bank)
            continue;
        const auto p = std::ranges::find(work->board.each, n.id, &planning::LifterProgress::id);
        const bool known = p != work->board.each.end();
        QString plan = qt(wording::lifter_choice_name(n.choice));
        if (n.covers == false)
            plan += Tables::tr(" (too small)");
        t.rows.push_back({short_name(context, n.id), plan, qt(wording::lifter_reason_words(n.reason)),
                          text(context, known && p->size ? p->size : n.diameter), text(context, n.clearance),
                          n.error ? across(n.id, n.error->y) : QString(),
                          n.timing ? Tables::tr("%1 %2")
                                         .arg(std::abs(2 * *n.timing / block::radians_per_degree), 0, 'f', 2)
                                         .arg(*n.timing < 0 ? Tables::tr("early") : Tables::tr("late"))
                                   : QString(),
                          known && p->next ? qt(l.plain(p->next->to)) : QString()});
        t.ids.push_back(n.id);
    }
    return t;
}

} // namespace pallix::ui
