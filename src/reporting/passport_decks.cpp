// SPDX-License-Identifier: GPL-3.0-or-later
// The passport's part on the decks and what stands over them.
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/decks/balance.h"
#include "planning/decks/compression.h"
#include "planning/decks/deck_belief.h"
#include "planning/decks/deck_record.h"
#include "reporting/passport_sheet.h"
#include "wording/common/figure_sentences.h"
#include "wording/common/sentences.h"
#include "wording/decks/deck_words.h"
#include "wording/readings/readings.h"

#include <algorithm>

namespace pallix::reporting {

using block::DeckState;
using planning::BankProgress;

template <class Choose>
void PassportSheet::decks(const QString& title, Choose choose) {
    Rows rows;
    for (const BankProgress& b : s_.assessment.banks) {
        const block::DeckMeasurement* m = choose(decks_of(s_.state).deck(b.plan.bank));
        if (!m)
            continue;
        const auto& bank = *blueprint().bank(b.plan.bank);
        const block::DeckResult& d = m->result;
        rows += row({q(wording::bank_name(bank)), q(l_.plain(d.height_min)), q(l_.plain(d.height_max)),
                     q(l_.plain(d.height_mean)), q(l_.plain(d.flatness_mz)), QString::number(d.touches),
                     m->standard_uncertainty ? q(l_.fine(*m->standard_uncertainty)) : QStringLiteral("not stated")});
    }
    if (rows.isEmpty())
        return;
    heading(QStringLiteral("Decks, %1").arg(title));
    table({QString(), QStringLiteral("lowest"), QStringLiteral("highest"), QStringLiteral("mean"),
           QStringLiteral("flatness"), QStringLiteral("heights"), QStringLiteral("std. uncertainty")},
          rows);
}

void PassportSheet::cuts() {
    Rows rows;
    for (const BankProgress& b : s_.assessment.banks) {
        const DeckState& deck = decks_of(s_.state).deck(b.plan.bank);
        if (deck.last_cut() == 0)
            continue;
        QStringList passes;
        for (const block::TakenCut& taken : deck.flushes)
            passes << q(l_.plain(taken.cut.depth)) + QStringLiteral(" off a sleeve, flush");
        for (const block::TakenCut& taken : deck.cuts)
            if (taken.cut.kind != block::PassKind::spring)
                passes << q(l_.plain(taken.cut.depth));
        const auto springs = std::ranges::count_if(
            deck.cuts, [](const block::TakenCut& c) { return c.cut.kind == block::PassKind::spring; });
        const block::TakenCut& last = deck.cuts.empty() ? deck.flushes.back() : deck.cuts.back();
        rows += row({q(wording::bank_name(*blueprint().bank(b.plan.bank))), q(l_.plain(b.plan.target)),
                     q(l_.plain(b.plan.cut)), q(l_.plain(b.taken)), passes.join(QStringLiteral(" + ")),
                     QString::number(springs), q(last.person) + QStringLiteral(", ") + q(last.time.substr(0, 10))});
    }
    if (rows.isEmpty())
        return;
    section(QStringLiteral("Cuts"),
            {QString(), QStringLiteral("cut to"), QStringLiteral("planned"), QStringLiteral("taken"),
             QStringLiteral("passes"), QStringLiteral("spring"), QStringLiteral("who, when")},
            rows);
}

/// Flaws with what was decided, what passes were expected to take, the set-up and the finish.
void PassportSheet::deck_work() {
    QStringList lines;
    for (const block::KnownFlaw& f : decks_of(s_.state).flaws)
        if (const auto* bank = intake_of(s_.state).blueprint->bank(f.flaw.bank))
            lines << q(wording::bank_name(*bank) + ", " + wording::flaw_sentence(*bank, f, l_));
        else
            lines << q(wording::flaw_sentence(s_.state, f, l_));
    if (decks_of(s_.state).pressure_test)
        lines << q(wording::entry_words(decks_of(s_.state).pressure_test->payload, l_));
    for (const BankProgress& b : s_.assessment.banks)
        if (const auto outcome = planning::forecast_outcome(s_.state, b.plan.bank))
            if (const std::string held = wording::outcome_sentence(*outcome, l_); !held.empty())
                lines << q(wording::bank_name(*blueprint().bank(b.plan.bank)) + ": " + held);
    for (const BankProgress& b : s_.assessment.banks) {
        const std::string bank = wording::bank_name(*blueprint().bank(b.plan.bank)) + ": ";
        if (const auto held = planning::depth_held(s_.state, b.plan.bank))
            lines << q(bank + wording::depth_sentence(*held, l_));
        if (const auto held = planning::finish_held(s_.state, b.plan.bank))
            lines << q(bank + wording::finish_sentence(*held));
    }
    for (const auto& [whose, set_up] : decks_of(s_.state).set_ups)
        lines << q(wording::bank_name(*blueprint().bank(set_up.payload.bank)) + ": " +
                   wording::entry_words(set_up.payload, l_));
    for (const planning::HeadProgress& head : s_.assessment.heads)
        lines << q(wording::head_line(s_.state, head, l_));
    if (decks_of(s_.state).cutter)
        lines << q(wording::entry_words(decks_of(s_.state).cutter->payload, l_));
    if (decks_of(s_.state).gasket)
        lines << q("finish for a " + wording::entry_words(*decks_of(s_.state).gasket, l_));
    for (const auto& finish : decks_of(s_.state).finishes)
        lines << q(wording::bank_name(*blueprint().bank(finish.payload.bank)) + ": " +
                   wording::entry_words(finish.payload, l_));
    if (lines.isEmpty())
        return;
    add(QStringLiteral("<h2>Found and done on the decks</h2><ul><li>%1</li></ul>")
            .arg(lines.join(QStringLiteral("</li><li>"))));
}

/// Piston to deck, compression and quench as the decks now stand.
void PassportSheet::mock_up() {
    Rows rows;
    for (const planning::PistonCrown& crown : s_.assessment.crowns) {
        const block::HoleBlueprint& bore = *blueprint().hole(crown.bore);
        const auto height = block::height_now(decks_of(s_.state).deck(crown.bore.bank), {bore.u, bore.v});
        if (!height)
            continue;
        const double clearance = *height - crown.crown;
        const auto volumes = planning::volumes_of(s_.state, crown);
        rows += row({q(wording::feature_words(blueprint(), crown.bore)), q(l_.with_sign(clearance)),
                     crown.source == planning::CrownSource::read ? QStringLiteral("read") : QStringLiteral("reckoned"),
                     volumes ? q(wording::ratio_text(volumes->ratio(clearance))) : QString(),
                     decks_of(s_.state).figures.gasket_thickness
                         ? q(l_.plain(*decks_of(s_.state).figures.gasket_thickness + clearance))
                         : QString()});
    }
    section(QStringLiteral("Mock-up"),
            {QString(), QStringLiteral("piston to deck, + below"), QStringLiteral("known"),
             QStringLiteral("compression"), QStringLiteral("quench")},
            rows);
}

void PassportSheet::balance() {
    const block::BalanceCard& card = decks_of(s_.state).balance;
    if (!planning::bobweight(card) && !planning::permissible_unbalance(card))
        return;
    add(QStringLiteral("<h2>Balance</h2><p>%1.</p>")
            .arg(q(wording::plain_words(
                wording::figure_sentence(wording::FiguresOf::balance, s_.state, s_.assessment, {}, l_)))));
}

void PassportSheet::verdicts() {
    const bool any = std::ranges::any_of(s_.assessment.banks, [this](const BankProgress& b) {
        return b.verdict && !decks_of(s_.state).deck(b.plan.bank).cuts.empty();
    });
    if (!any)
        return;
    heading(QStringLiteral("Verdict"));
    for (const BankProgress& b : s_.assessment.banks) {
        if (!b.verdict)
            continue;
        paragraph(QStringLiteral("<span class=\"verdict\">%1, as planned: %2</span>")
                      .arg(q(wording::bank_name(*blueprint().bank(b.plan.bank))),
                           q(wording::verdict_word(b.verdict->verdict))));
        for (const planning::DeckCheck& check : b.verdict->checks)
            paragraph(q(wording::check_sentence(check, l_)));
    }
    if (s_.assessment.pair)
        paragraph(
            q(wording::pair_sentence(*s_.assessment.pair, *blueprint().bank(s_.assessment.banks[0].plan.bank), l_)));
}

void PassportSheet::decks_found() {
    decks(QStringLiteral("as found"), [](const DeckState& d) { return d.as_found ? &*d.as_found : nullptr; });
}

void PassportSheet::decks_left() {
    decks(QStringLiteral("as left"),
          [](const DeckState& d) { return d.latest && !d.cuts.empty() && !d.stale() ? &*d.latest : nullptr; });
}

} // namespace pallix::reporting
