// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/deck_facts.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/decks/deck_belief.h"
#include "session/belief_work.h"
#include "ui/marks.h"
#include "wording/common/sentences.h"
#include "wording/decks/deck_words.h"
#include "wording/readings/readings.h"

#include <QCoreApplication>

namespace pallix::ui {

namespace {

struct Facts {
    Q_DECLARE_TR_FUNCTIONS(Facts)
};

struct Line {
    QString text;
    std::optional<planning::StageMark> mark;
    bool strong = false;
};

TwinTable table_of(const std::vector<Line>& lines) {
    TwinTable t{{Facts::tr("of this deck"), Facts::tr("stands")}, 2, {}, {}};
    for (const Line& line : lines)
        t.rows.push_back({line.text, line.mark ? qt(wording::stage_word(*line.mark)) : QString()});
    return t;
}

void add_cuts(std::vector<Line>& out, const block::DeckState& deck, const wording::LengthText& lengths) {
    for (const block::TakenCut& taken : deck.cuts)
        out.push_back({Facts::tr("%1, %2 taken%3")
                           .arg(qt(wording::pass_name(taken.cut.kind)), qt(lengths.with_unit(taken.cut.depth)),
                                taken.cut.clean          ? Facts::tr(", touched everywhere")
                                : taken.cut.dark.empty() ? QString()
                                                         : Facts::tr(", dark places painted")),
                       {},
                       false});
}

} // namespace

TwinTable deck_facts(const Context& context, const std::string& bank_id) {
    std::vector<Line> out;
    const auto& assessment = context.session.assessment();
    const planning::BankProgress* b = assessment.bank(bank_id);
    const auto& state = context.session.state();
    std::vector<Line> by_gauge;
    for (const std::string& sentence : wording::deck_gauge_sentences(state, assessment, bank_id, context.lengths()))
        by_gauge.push_back({qt(sentence), {}, false});
    for (const std::string& sentence : wording::doubt_sentences(state, assessment, context.lengths()))
        by_gauge.push_back({qt(sentence), planning::StageMark::cannot_tell, false});
    if (!b)
        return table_of(by_gauge);
    const auto& bank = *intake_of(state).blueprint->bank(bank_id);
    const auto lengths = context.lengths();
    const auto& deck = decks_of(state).deck(bank_id);
    const bool by_hand = deck.latest->source == block::DeckSource::readings;
    out.push_back({b->stale  ? Facts::tr("How it lay before the cut")
                   : by_hand ? Facts::tr("How it lies, by hand")
                             : Facts::tr("How it lies, probed"),
                   {},
                   true});
    if (const auto belief = context.session.belief(bank_id)) {
        if (b->stale || deck.cuts.empty())
            out.push_back({qt(wording::forecast_sentence(*belief, lengths)), {}, false});
        for (const std::string& sentence : wording::contradiction_sentences(bank, *belief, lengths))
            out.push_back({qt(sentence), planning::StageMark::fails, false});
    } else if (context.session.beliefs().running()) {
        out.push_back({Facts::tr("Working out how much must come off…"), {}, false});
    }
    if (const auto held = planning::depth_held(state, bank_id))
        out.push_back({qt(wording::depth_sentence(*held, lengths)),
                       held->disagrees() ? std::optional(planning::StageMark::fails) : std::nullopt, false});
    if (const auto held = planning::finish_held(state, bank_id))
        out.push_back({qt(wording::finish_sentence(*held)), mark_of(held->verdict), false});
    if (const auto outcome = planning::forecast_outcome(state, bank_id))
        if (const std::string sentence = wording::outcome_sentence(*outcome, lengths); !sentence.empty())
            out.push_back({qt(sentence), {}, false});
    if (b->stale) {
        out.push_back({Facts::tr("cut since it was measured"), planning::StageMark::stale, false});
    } else if (b->verdict) {
        const QString which = deck.cuts.empty() ? Facts::tr("As found: %1") : Facts::tr("As cut: %1");
        out.push_back({which.arg(qt(wording::verdict_word(b->verdict->verdict))), mark_of(b->verdict->verdict), true});
        for (const planning::DeckCheck& check : b->verdict->checks)
            out.push_back({qt(wording::check_sentence(check, lengths)), mark_of(check.verdict), false});
    }
    if (assessment.pair)
        out.push_back(
            {qt(wording::pair_sentence(*assessment.pair,
                                       *intake_of(state).blueprint->bank(assessment.banks[0].plan.bank), lengths)),
             mark_of(assessment.pair->verdict), false});
    out.insert(out.end(), by_gauge.begin(), by_gauge.end());
    add_cuts(out, deck, lengths);
    return table_of(out);
}

TwinTable head_facts(const Context& context, const std::string& bank_id) {
    std::vector<Line> out;
    const auto& state = context.session.state();
    if (const planning::HeadProgress* head = context.session.assessment().head(bank_id))
        for (const std::string& sentence : wording::head_sentences(state, *head, context.lengths()))
            out.push_back({qt(sentence), {}, false});
    add_cuts(out, decks_of(state).face(bank_id), context.lengths());
    return table_of(out);
}

block::SharedPoints head_points(const block::BankBlueprint& bank, const planning::HeadProgress* head) {
    if (!head || head->points.empty())
        return {};
    std::vector<metrology::Vec3> points = head->points;
    const double highest = std::ranges::max(points, {}, &metrology::Vec3::z).z;
    for (metrology::Vec3& p : points)
        p.z += bank.deck_height.nominal - highest;
    return points;
}

} // namespace pallix::ui
