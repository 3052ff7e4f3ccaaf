// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/passport.h"

#include "block/digest.h"
#include "block/ledger.h"
#include "block/state/bore_state.h"
#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/decks/balance.h"
#include "planning/decks/deck_belief.h"
#include "planning/tunnel/tunnel_work.h"
#include "reporting/paper.h"
#include "reporting/paper_picture.h"
#include "wording/common/figure_sentences.h"
#include "wording/common/sentences.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/decks/deck_words.h"
#include "wording/lifters/lifter_words.h"
#include "wording/readings/readings.h"

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QPainter>
#include <QPdfWriter>
#include <QSaveFile>
#include <QTextDocument>
#include <algorithm>

namespace pallix::reporting {

using block::DeckState;
using metrology::Verdict;
using planning::BankProgress;

namespace {

QString q(const std::string& text) {
    return QString::fromStdString(text).toHtmlEscaped();
}

/// Writes the sheet section by section.
class Sheet {
  public:
    explicit Sheet(const PassportSource& source) : s_(source), l_(source.lengths) {}

    QString html() {
        head();
        tunnel();
        by_gauge();
        tunnel_work();
        decks(
            QStringLiteral("As found"), [](const DeckState& d) { return d.as_found ? &*d.as_found : nullptr; }, false);
        cuts();
        deck_work();
        mock_up();
        balance();
        cylinders();
        lifters();
        decks(
            QStringLiteral("As left"),
            [](const DeckState& d) { return d.latest && !d.cuts.empty() && !d.stale() ? &*d.latest : nullptr; }, true);
        verdicts();
        answered_for();
        foot();
        return paper_html(intake_of(s_.state).title, body_);
    }

  private:
    void add(const QString& html) { body_ += html + QLatin1Char('\n'); }
    void paragraph(const QString& html) { add(QStringLiteral("<p>%1</p>").arg(html)); }

    /// Its heads stand over every page that it goes on to.
    void table(const QStringList& heads, const QString& rows) {
        add(QStringLiteral("<table width=\"98%\" cellspacing=\"0\">%1<tbody>%2</tbody></table>")
                .arg(heads.isEmpty() ? QString() : QStringLiteral("<thead>%1</thead>").arg(row(heads, "th")), rows));
    }
    /// Nothing where it has no rows.
    void section(const QString& title, const QStringList& heads, const QString& rows) {
        if (rows.isEmpty())
            return;
        heading(title);
        table(heads, rows);
    }
    /// The name of a row, on one line.
    static QString named(const std::string& name) { return q(name).replace(QLatin1Char(' '), QChar::Nbsp); }
    void heading(const QString& words) { add(QStringLiteral("<h2>%1</h2>").arg(words)); }

    static QString row(const QStringList& cells, const char* tag = "td") {
        QString html = QStringLiteral("<tr>");
        for (qsizetype i = 0; i < cells.size(); ++i)
            html += QStringLiteral("<%1%2>%3</%1>")
                        .arg(QString::fromLatin1(tag),
                             i == 0 ? QString() : QStringLiteral(" align=\"right\" class=\"number\""), cells[i]);
        return html + QStringLiteral("</tr>");
    }

    void head() {
        add(QStringLiteral("<h1>%1</h1>").arg(q(intake_of(s_.state).title)));
        const auto& b = intake_of(s_.state).blueprint;
        paragraph(QStringLiteral("%1%2").arg(q(intake_of(s_.state).customer),
                                             b ? QStringLiteral(" · ") + q(b->name) : QString()));
        if (const std::string& identity = card_of(s_.state).card.identity; !identity.empty())
            paragraph(q(identity));
        if (!b)
            return;
        QString datum = QStringLiteral("Datum: main tunnel, clocked by %1 · all lengths in %2")
                            .arg(q(wording::datum_name(*b)), q(l_.unit_name()));
        if (tunnel_of(s_.state).as_found && !tunnel_of(s_.state).as_found->logs.empty() &&
            tunnel_of(s_.state).as_found->logs.front().temperature_c)
            datum += QStringLiteral(" · as found at %1 °C")
                         .arg(*tunnel_of(s_.state).as_found->logs.front().temperature_c, 0, 'f', 1);
        paragraph(QStringLiteral("<span class=\"quiet\">%1</span>").arg(datum));
        for (const block::Amendment& a : intake_of(s_.state).amendments)
            paragraph(QStringLiteral("Blueprint amended in entry %1: %2").arg(a.sequence).arg(q(a.reason)));
    }

    void tunnel() {
        if (!tunnel_of(s_.state).latest || !s_.assessment.tunnel)
            return;
        const block::Evaluation& e = tunnel_of(s_.state).latest->evaluation;
        heading(QStringLiteral("Main tunnel"));
        paragraph(
            QStringLiteral(
                "Straightness %1 over all (least squares); seen from the side %2, from above %3 (minimum zones).")
                .arg(
                    q(l_.plain(s_.assessment.tunnel->straightness_value) +
                      wording::touched_beside(s_.assessment.tunnel->straightness_value, e.tunnel.straightness_lsq, l_)),
                    q(l_.plain(e.tunnel.straightness_vertical_mz)), q(l_.plain(e.tunnel.straightness_lateral_mz))));
        const auto [small, large] = std::ranges::minmax_element(e.mains, {}, &block::MainResult::diameter);
        paragraph(QStringLiteral("Diameters %1 to %2 — %3.")
                      .arg(q(l_.plain(small->diameter)), q(l_.plain(large->diameter)),
                           q(wording::verdict_word(s_.assessment.tunnel->overall))));
    }

    /// What was measured by hand, with what, and how sure.
    void by_gauge() {
        const planning::GaugeFindings& g = s_.assessment.gauge;
        QString rows;
        for (const auto* bores : {&g.mains, &g.cylinders, &g.lifters})
            for (const planning::BoreFinding& bore : *bores) {
                if (bore.stale)
                    continue;
                const auto value = [](const planning::SizeFinding& f) { return f.place.value; };
                const auto [small, large] = std::ranges::minmax_element(bore.sizes, {}, value);
                const auto u = small->place.standard_uncertainty();
                rows += row({named(wording::feature_words(*intake_of(s_.state).blueprint, bore.id)),
                             q(l_.plain(value(*small))), q(l_.plain(value(*large))), q(l_.plain(bore.out_of_round)),
                             q(l_.plain(bore.taper)), u ? q(l_.fine(*u)) : QStringLiteral("not stated"),
                             q(small->place.instrument), q(wording::verdict_word(bore.verdict))});
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
    void tunnel_work() {
        const auto struck = block::struck(s_.entries);
        QString rows;
        for (std::size_t i = 0; i < s_.entries.size(); ++i) {
            const block::Entry& entry = s_.entries[i];
            const bool work = std::holds_alternative<block::CapsCut>(entry.payload) ||
                              std::holds_alternative<block::TunnelPass>(entry.payload) ||
                              std::holds_alternative<block::StepDone>(entry.payload) ||
                              std::holds_alternative<block::TunnelCut>(entry.payload);
            if (work && !struck[i])
                rows += row({q(wording::entry_sentence(entry, s_.state, l_)), who_and_when(entry)});
        }
        section(QStringLiteral("Work on the tunnel"), {}, rows);
    }

    /// Flaws with what was decided, what passes were expected to take, the set-up and the finish.
    void deck_work() {
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
                    lines << q(wording::bank_name(*intake_of(s_.state).blueprint->bank(b.plan.bank)) + ": " + held);
        for (const BankProgress& b : s_.assessment.banks) {
            const std::string bank = wording::bank_name(*intake_of(s_.state).blueprint->bank(b.plan.bank)) + ": ";
            if (const auto held = planning::depth_held(s_.state, b.plan.bank))
                lines << q(bank + wording::depth_sentence(*held, l_));
            if (const auto held = planning::finish_held(s_.state, b.plan.bank))
                lines << q(bank + wording::finish_sentence(*held));
        }
        for (const auto& [whose, set_up] : decks_of(s_.state).set_ups)
            lines << q(wording::bank_name(*intake_of(s_.state).blueprint->bank(set_up.payload.bank)) + ": " +
                       wording::entry_words(set_up.payload, l_));
        for (const planning::HeadProgress& head : s_.assessment.heads)
            lines << q(wording::head_line(s_.state, head, l_));
        if (decks_of(s_.state).cutter)
            lines << q(wording::entry_words(decks_of(s_.state).cutter->payload, l_));
        if (decks_of(s_.state).gasket)
            lines << q("finish for a " + wording::entry_words(*decks_of(s_.state).gasket, l_));
        for (const auto& finish : decks_of(s_.state).finishes)
            lines << q(wording::bank_name(*intake_of(s_.state).blueprint->bank(finish.payload.bank)) + ": " +
                       wording::entry_words(finish.payload, l_));
        if (lines.isEmpty())
            return;
        add(QStringLiteral("<h2>Found and done on the decks</h2><ul><li>%1</li></ul>")
                .arg(lines.join(QStringLiteral("</li><li>"))));
    }

    /// Piston to deck, compression and quench as the decks now stand.
    void mock_up() {
        QString rows;
        for (const planning::PistonCrown& crown : s_.assessment.crowns) {
            const block::HoleBlueprint& bore = *intake_of(s_.state).blueprint->hole(crown.bore);
            const auto height = block::height_now(decks_of(s_.state).deck(crown.bore.bank), {bore.u, bore.v});
            if (!height)
                continue;
            const double clearance = *height - crown.crown;
            const auto volumes = planning::volumes_of(s_.state, crown);
            rows += row(
                {named(wording::feature_words(*intake_of(s_.state).blueprint, crown.bore)), q(l_.with_sign(clearance)),
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

    void balance() {
        const block::BalanceCard& card = decks_of(s_.state).balance;
        if (!planning::bobweight(card) && !planning::permissible_unbalance(card))
            return;
        add(QStringLiteral("<h2>Balance</h2><p>%1.</p>")
                .arg(q(wording::plain_words(
                    wording::figure_sentence(wording::FiguresOf::balance, s_.state, s_.assessment, {}, l_)))));
    }

    /// Each cylinder from as found to its finished size, sleeves, edges and texture among them.
    void cylinders() {
        const auto& work = s_.assessment.cylinders;
        const bool begun =
            work && std::ranges::any_of(work->study.each, [this](const planning::CylinderNeed& n) {
                return !bores_of(s_.state).bore(n.found.id).cuts.empty() || bores_of(s_.state).bore(n.found.id).decided;
            });
        if (!begun)
            return;
        QString rows;
        QStringList lines;
        for (const planning::CylinderNeed& n : work->study.each) {
            const block::FeatureId& id = n.found.id;
            const auto sizes = planning::bore_sizes(s_.state, id, work->study.oversize);
            const auto now = planning::size_now(s_.state, id);
            const auto b = std::ranges::find(work->hone.bores, id, &planning::HoneBore::id);
            const bool honed = b != work->hone.bores.end() && b->honed;
            rows +=
                row({named(wording::feature_words(*intake_of(s_.state).blueprint, id)), q(l_.plain(n.found.diameter)),
                     q(l_.plain(n.found.worn)), n.sleeved ? QStringLiteral("sleeved") : QStringLiteral("bored"),
                     sizes ? q(l_.plain(sizes->finish)) : QString(), now ? q(l_.plain(now->size)) : QString(),
                     honed && b->measured ? q(l_.plain(b->most - b->least)) : QString(),
                     honed && b->verdict ? q(wording::verdict_word(*b->verdict)) : QStringLiteral("not finished")});
            const std::string name = wording::feature_words(*intake_of(s_.state).blueprint, id) + ": ";
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

    void texture(const std::string& name, const block::FeatureId& cylinder, QStringList& lines) const {
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

    void lifters() {
        const auto& work = s_.assessment.lifters;
        if (!work || !bores_of(s_.state).lifter_plan)
            return;
        QString rows;
        const auto crank = [](double cam) { return q(wording::fixed(2 * cam / block::radians_per_degree, 2)); };
        for (const planning::LifterNeed& n : work->study.each) {
            const auto p = std::ranges::find(work->board.each, n.id, &planning::LifterProgress::id);
            const auto& after = work->board.timings_after;
            const auto timed = std::ranges::find(after, n.id, [](const auto& t) { return t.first; });
            const bool known = p != work->board.each.end();
            rows +=
                row({named(wording::feature_words(*intake_of(s_.state).blueprint, n.id)),
                     q(wording::lifter_choice_name(n.choice)), n.error ? q(l_.plain(norm(*n.error))) : QString(),
                     known && p->position ? q(l_.plain(*p->position)) : QString(),
                     n.timing ? crank(*n.timing) : QString(), timed != after.end() ? crank(timed->second) : QString(),
                     known && p->size ? q(l_.plain(*p->size)) : QString()});
        }
        section(QStringLiteral("Lifters"),
                {QString(), QStringLiteral("plan"), QStringLiteral("off place, found"),
                 QStringLiteral("off place, proven"), QStringLiteral("timing found, ° crank"),
                 QStringLiteral("timing proven"), QStringLiteral("size")},
                rows);
        paragraph(q(wording::entry_words(bores_of(s_.state).lifter_plan->payload, l_)));
        if (const std::string spread = wording::spread_sentence(*work); !spread.empty())
            paragraph(q(spread));
    }

    template <class Choose>
    void decks(const QString& title, Choose choose, bool after) {
        QString rows, pictures;
        for (const BankProgress& b : s_.assessment.banks) {
            const block::DeckMeasurement* m = choose(decks_of(s_.state).deck(b.plan.bank));
            if (!m)
                continue;
            const auto& bank = *intake_of(s_.state).blueprint->bank(b.plan.bank);
            const block::DeckResult& d = m->result;
            rows +=
                row({named(wording::bank_name(bank)), q(l_.plain(d.height_min)), q(l_.plain(d.height_max)),
                     q(l_.plain(d.height_mean)), q(l_.plain(d.flatness_mz)), QString::number(d.touches),
                     m->standard_uncertainty ? q(l_.fine(*m->standard_uncertainty)) : QStringLiteral("not stated")});
            pictures += QStringLiteral("<td><img width=\"330\" src=\"%1\"><br><span class=\"quiet\">%2</span></td>")
                            .arg(paper_picture(s_, bank, d, after), q(wording::bank_name(bank)));
        }
        if (rows.isEmpty())
            return;
        add(QStringLiteral("<h2>Decks, %1</h2>").arg(title.toLower()));
        table({QString(), QStringLiteral("lowest"), QStringLiteral("highest"), QStringLiteral("mean"),
               QStringLiteral("flatness"), QStringLiteral("heights"), QStringLiteral("std. uncertainty")},
              rows);
        add(QStringLiteral("<table><tr>%1</tr></table>").arg(pictures));
    }

    void cuts() {
        QString rows;
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
            rows += row({named(wording::bank_name(*intake_of(s_.state).blueprint->bank(b.plan.bank))),
                         q(l_.plain(b.plan.target)), q(l_.plain(b.plan.cut)), q(l_.plain(b.taken)),
                         passes.join(QStringLiteral(" + ")), QString::number(springs),
                         q(last.person) + QStringLiteral(", ") + q(last.time.substr(0, 10))});
        }
        if (rows.isEmpty())
            return;
        section(QStringLiteral("Cuts"),
                {QString(), QStringLiteral("cut to"), QStringLiteral("planned"), QStringLiteral("taken"),
                 QStringLiteral("passes"), QStringLiteral("spring"), QStringLiteral("who, when")},
                rows);
    }

    void verdicts() {
        const bool any = std::ranges::any_of(s_.assessment.banks, [this](const BankProgress& b) {
            return b.verdict && !decks_of(s_.state).deck(b.plan.bank).cuts.empty();
        });
        if (!any)
            return;
        heading(QStringLiteral("Verdict"));
        for (const BankProgress& b : s_.assessment.banks) {
            if (!b.verdict)
                continue;
            paragraph(QStringLiteral("<span class=\"verdict\">%1: %2</span>")
                          .arg(q(wording::bank_name(*intake_of(s_.state).blueprint->bank(b.plan.bank))),
                               q(wording::verdict_word(b.verdict->verdict))));
            for (const planning::DeckCheck& check : b.verdict->checks)
                paragraph(q(wording::check_sentence(check, l_)));
        }
        if (s_.assessment.pair)
            paragraph(q(wording::pair_sentence(
                *s_.assessment.pair, *intake_of(s_.state).blueprint->bank(s_.assessment.banks[0].plan.bank), l_)));
    }

    /// Rules that were passed, what was not wanted or done elsewhere, who signed, who was learning.
    void answered_for() {
        const auto struck = block::struck(s_.entries);
        QString rows;
        for (std::size_t i = 0; i < s_.entries.size(); ++i) {
            const block::Entry& entry = s_.entries[i];
            const bool told = std::holds_alternative<block::GatePassed>(entry.payload) ||
                              std::holds_alternative<block::ScopeChosen>(entry.payload) ||
                              std::holds_alternative<block::StepSkipped>(entry.payload) ||
                              std::holds_alternative<block::SignedOff>(entry.payload) ||
                              std::holds_alternative<block::AtBench>(entry.payload) ||
                              std::holds_alternative<block::Delivered>(entry.payload);
            if (told && !struck[i])
                rows += row({q(wording::entry_sentence(entry, s_.state, l_)), who_and_when(entry)});
        }
        section(QStringLiteral("Answered for"), {}, rows);
    }

    static QString who_and_when(const block::Entry& entry) {
        return q(entry.person) + QStringLiteral(", ") + q(entry.time.substr(0, 10));
    }

    void foot() {
        QStringList people;
        for (const block::Entry& entry : s_.entries)
            if (const QString person = q(entry.person); !person.isEmpty() && !people.contains(person))
                people << person;
        QString text = QStringLiteral("Worked on by %1, %2 to %3; %4 ledger entries.")
                           .arg(people.join(QStringLiteral(", ")), q(s_.entries.front().time.substr(0, 10)),
                                q(s_.entries.back().time.substr(0, 10)))
                           .arg(s_.entries.size());
        const auto struck = block::struck(s_.entries);
        for (std::size_t i = 0; i < s_.entries.size(); ++i)
            if (const auto* log = std::get_if<block::ProbeLogTaken>(&s_.entries[i].payload); log && !struck[i])
                text += QStringLiteral(" %1 sha256 %2….").arg(q(log->file), q(log->sha256.substr(0, 12)));
        QString digest;
        const std::string whole = block::digest_of(s_.entries);
        for (std::size_t at = 0; at < whole.size(); at += 8)
            digest += q(whole.substr(at, 8)) + QLatin1Char(' ');
        paragraph(QStringLiteral("<span class=\"quiet\">Digest of the ledger up to entry %1: </span><span "
                                 "class=\"quiet digest\">%2</span>")
                      .arg(s_.entries.back().sequence)
                      .arg(digest.trimmed()));
        paragraph(QStringLiteral(
                      "<br><span class=\"quiet\">%1 Printed %2. Limits come from the engine maker and local codes; "
                      "whoever signs decides. Signed:</span> ______________________")
                      .arg(text, s_.printed.toHtmlEscaped()));
    }

    const PassportSource& s_;
    const wording::LengthText& l_;
    QString body_;
};

} // namespace

QString passport_html(const PassportSource& source) {
    return Sheet(source).html();
}

} // namespace pallix::reporting
