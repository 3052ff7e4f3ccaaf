// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/found_page.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "ui/decks/deck_drawing.h"
#include "ui/decks/deck_facts.h"
#include "ui/decks/edge_drawing.h"
#include "ui/frame/plain_label.h"
#include "ui/frame/plain_table.h"
#include "ui/frame/spoken.h"
#include "wording/common/sentences.h"
#include "wording/decks/deck_words.h"

#include <QHBoxLayout>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

using metrology::Vec2;

FoundPage::FoundPage(Context context, QWidget* parent)
    : FoundPage(context, new DeckDrawing(context, DeckTask::mark_flaw), parent) {}

FoundPage::FoundPage(Context context, DeckDrawing* drawing, QWidget* parent)
    : DrawnPage(
          context, drawing, std::nullopt, [this] { return lines(); }, parent),
      context_(context), deck_(drawing), edge_(new EdgeDrawing(context, this)), words_(new PlainLabel(this)) {
    words_->setObjectName(QStringLiteral("found-words"));
    words_->setWordWrap(true);
    words_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    set_announced(words_);
    set_type(words_, Type::small);
    auto* below = new QWidget(this);
    auto* row = new QHBoxLayout(below);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(16);
    row->addWidget(edge_, 1);
    row->addWidget(words_, 1);
    add_below(below);
    connect(this, &DrawnPage::row_marked, this, &FoundPage::choose_line);
    connect(deck_, &DeckDrawing::flaw_drawn, this, [this](const std::vector<Vec2>& path) {
        drawn_ = path;
        Q_EMIT step_wanted(QStringLiteral("deck.%1/any/flaw").arg(qt(bank_)));
    });
    connect(deck_, &DeckDrawing::flaw_pointed_at, this, [this](const block::KnownFlaw& flaw) {
        Q_EMIT step_wanted(QStringLiteral("deck.%1/%2flaw/%3")
                               .arg(qt(bank_), flaw.decided ? QStringLiteral("any/") : QString())
                               .arg(flaw.sequence));
    });
}

void FoundPage::show_bank(const std::string& bank_id, bool head) {
    bank_ = bank_id;
    head_ = head;
    const auto& state = context_.session.state();
    const auto& deck = decks_of(state).deck(bank_);
    const auto& bank = *intake_of(state).blueprint->bank(bank_);
    const planning::HeadProgress* of_head = context_.session.assessment().head(bank_);
    const block::SharedPoints points = head_         ? head_points(bank, of_head)
                                       : deck.latest ? deck.latest->result.points
                                                     : block::SharedPoints();
    deck_->set_head(head_);
    deck_->set_deck(bank, points, head_ ? of_head && of_head->cut : !deck.cuts.empty() && !deck.stale());
    deck_->set_corners({}, bank.deck_height.nominal); // what the pointer reads is held against
    deck_->set_level(1e9);
    deck_->set_flaws(head_ ? std::vector<block::KnownFlaw>() : decks_of(state).flaws);
    const reporting::DeckPicture* picture = deck_->picture();
    edges_ = planning::compare_edges(state, bank_, picture && points.size() >= 3 ? &picture->map() : nullptr,
                                     head_ ? block::Quantity::head_gap : block::Quantity::gap);
    fill_words();
    choose_line(line_);
    show_bore(block::FeatureId{block::FeatureKind::deck, bank_, 0});
}

void FoundPage::show_asked(const std::optional<planning::AskedReading>& asked) {
    deck_->set_asked(asked);
}

void FoundPage::choose_line(int line) {
    line_ = std::clamp(line, 0, std::max(0, static_cast<int>(edges_.size()) - 1));
    if (edges_.empty())
        return;
    const planning::EdgeComparison& edge = edges_[static_cast<std::size_t>(line_)];
    edge_->show_edge(edge);
    deck_->set_line(edge.line);
}

TwinTable FoundPage::lines() const {
    const auto l = context_.lengths();
    std::vector<QStringList> rows;
    for (const planning::EdgeComparison& e : edges_) {
        const QString read = !e.goes_in   ? QString()
                             : e.does_not ? tr("%1 to %2").arg(qt(l.plain(*e.goes_in)), qt(l.plain(*e.does_not)))
                                          : tr("%1 and more").arg(qt(l.plain(*e.goes_in)));
        QString mapped =
            e.laid.rests.empty() ? QString() : qt(l.plain(e.laid.gap())) + (e.laid.rocks() ? tr(" rocks") : QString());
        if (e.disagrees(0.01)) // feelers and map tell different things of this line
            mapped = tr("not so: ") + mapped;
        const QString name = qt(e.line.name)
                                 .replace(QStringLiteral("diagonal from front, "), tr("diagonal, front "))
                                 .replace(QStringLiteral("between bores "), tr("across at "));
        rows.push_back({name, read, mapped});
    }
    return {{tr("straightedge"), tr("feelers"), tr("on the map")}, 1, std::move(rows), {}};
}

void FoundPage::fill_words() {
    QStringList words = head_ ? words_of_head() : words_of_deck();
    if (std::ranges::any_of(edges_, [](const auto& e) { return e.goes_in.has_value(); }))
        for (const std::string& s :
             wording::feeler_bound_sentences(planning::flatness_from_feelers(edges_), context_.lengths()))
            words << qt(s);
    words.removeAll(QString());
    words_->setText(!words.isEmpty() ? words.join(QLatin1Char(' '))
                    : head_ ? tr("Lay the straightedge on the head, or run the indicator over it on the machine: "
                                 "Ctrl+M chooses head feelers and head heights.")
                            : tr("Lay the straightedge and type the feelers below (Ctrl+M chooses them), or take "
                                 "in a probe log."));
}

QStringList FoundPage::words_of_head() const {
    QStringList words;
    if (const planning::HeadProgress* head = context_.session.assessment().head(bank_))
        for (const std::string& s : wording::head_sentences(context_.session.state(), *head, context_.lengths()))
            words << qt(s);
    return words;
}

QStringList FoundPage::words_of_deck() const {
    const auto& state = context_.session.state();
    const auto l = context_.lengths();
    const auto& bank = *intake_of(state).blueprint->bank(bank_);
    const auto& deck = decks_of(state).deck(bank_);
    QStringList words;
    if (deck.latest) {
        std::optional<planning::BanksLie> banks;
        for (const auto& other : intake_of(state).blueprint->banks)
            if (other.id != bank_ && decks_of(state).deck(other.id).latest)
                banks = planning::banks_lie(*intake_of(state).blueprint, deck.latest->result,
                                            decks_of(state).deck(other.id).latest->result);
        if (const planning::BankProgress* b = context_.session.assessment().bank(bank_))
            for (const std::string& s : wording::lie_sentences(bank, b->lie, l))
                words << qt(s);
        words << tr("Flat within %1 over all.").arg(qt(l.with_unit(deck.latest->result.flatness_mz)));
        for (const std::string& s :
             wording::shape_sentences(bank, context_.session.local_flatness(bank_),
                                      planning::limits_of(context_.session.state()).local_flatness, banks, l))
            words << qt(s);
        std::vector<Vec2> places;
        for (const auto& p : deck.latest->result.points)
            places.push_back({p.x, p.y});
        words << qt(wording::coverage_sentence(bank, planning::deck_coverage(bank, places), l));
    }
    return words;
}

} // namespace pallix::ui
