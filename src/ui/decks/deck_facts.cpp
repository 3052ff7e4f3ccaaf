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

#include <QPainter>

namespace pallix::ui {

DeckFacts::DeckFacts(Context context, QWidget* parent) : QWidget(parent), context_(context) {
    setObjectName(QStringLiteral("deck-facts"));
}

void DeckFacts::set_bank(const std::string& bank) {
    bank_ = bank;
    QStringList words;
    for (const Line& line : lines())
        words << line.text;
    setAccessibleName(words.join(QStringLiteral(". ")));
    update();
}

std::vector<DeckFacts::Line> DeckFacts::lines() const {
    std::vector<Line> out;
    const auto& assessment = context_.session.assessment();
    const planning::BankProgress* b = assessment.bank(bank_);
    const auto& state = context_.session.state();
    std::vector<Line> by_gauge;
    for (const std::string& sentence : wording::deck_gauge_sentences(state, assessment, bank_, context_.lengths()))
        by_gauge.push_back({qt(sentence), {}, false});
    for (const std::string& sentence : wording::doubt_sentences(state, assessment, context_.lengths()))
        by_gauge.push_back({qt(sentence), planning::StageMark::cannot_tell, false});
    if (!b)
        return by_gauge;
    const auto& bank = *intake_of(state).blueprint->bank(bank_);
    const auto lengths = context_.lengths();
    const auto& deck = decks_of(state).deck(bank_);
    const bool by_hand = deck.latest->source == block::DeckSource::readings;
    out.push_back({b->stale  ? tr("How it lay before the cut")
                   : by_hand ? tr("How it lies, by hand")
                             : tr("How it lies, probed"),
                   {},
                   true});
    if (const auto belief = context_.session.belief(bank_)) {
        if (b->stale || deck.cuts.empty())
            out.push_back({qt(wording::forecast_sentence(*belief, lengths)), {}, false});
        for (const std::string& sentence : wording::contradiction_sentences(bank, *belief, lengths))
            out.push_back({qt(sentence), planning::StageMark::fails, false});
    } else if (context_.session.beliefs().running()) {
        out.push_back({tr("Working out how much must come off…"), {}, false});
    }
    if (const auto held = planning::depth_held(state, bank_))
        out.push_back({qt(wording::depth_sentence(*held, lengths)),
                       held->disagrees() ? std::optional(planning::StageMark::fails) : std::nullopt, false});
    if (const auto held = planning::finish_held(state, bank_))
        out.push_back({qt(wording::finish_sentence(*held)), mark_of(held->verdict), false});
    if (const auto outcome = planning::forecast_outcome(state, bank_))
        if (const std::string sentence = wording::outcome_sentence(*outcome, lengths); !sentence.empty())
            out.push_back({qt(sentence), {}, false});
    if (b->stale) {
        out.push_back({tr("cut since it was measured"), planning::StageMark::stale, false});
    } else if (b->verdict) {
        const QString which = deck.cuts.empty() ? tr("As found: %1") : tr("As cut: %1");
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
    return out;
}

void DeckFacts::paintEvent(QPaintEvent*) {
    const Palette& p = context_.palette();
    QPainter painter(this);
    int y = 0;
    for (const Line& line : lines()) {
        const int left = line.mark ? 22 : 0;
        painter.setFont(font_of(line.strong ? Type::text : Type::small, line.strong));
        const QRect room(left, y, width() - left, 200);
        const QRect used = painter.boundingRect(room, Qt::AlignLeft | Qt::TextWordWrap, line.text);
        if (line.mark)
            paint_mark(painter, QRectF(2, y + 2, 13, 13), *line.mark, p);
        painter.setPen(p.ink);
        painter.drawText(room, Qt::AlignLeft | Qt::TextWordWrap, line.text);
        y += used.height() + (line.strong ? 4 : 3);
    }
}

LivingLines::LivingLines(Context context, const QString& name, QWidget* parent) : QWidget(parent), context_(context) {
    setObjectName(name);
}

void LivingLines::set_lines(const QString& title, const QStringList& lines) {
    if (title == title_ && lines == lines_)
        return;
    title_ = title;
    lines_ = lines;
    setAccessibleName(text());
    update();
}

QString LivingLines::text() const {
    return (QStringList{title_} + lines_).join(QLatin1Char('\n'));
}

void LivingLines::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setPen(context_.palette().ink);
    int y = 0;
    const auto paint = [&](const QString& line, const QFont& font) {
        painter.setFont(font);
        QRect used;
        painter.drawText(QRect(0, y, width(), 200), Qt::AlignLeft | Qt::TextWordWrap, line, &used);
        y += used.height() + 2;
    };
    paint(title_, font_of(Type::text, true));
    for (const QString& line : lines_)
        paint(line, font_of(Type::small));
}

} // namespace pallix::ui
