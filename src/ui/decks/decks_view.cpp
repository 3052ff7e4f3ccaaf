// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/decks_view.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/decks/deck_belief.h"
#include "planning/decks/deck_consequences.h"
#include "ui/decks/cut_level_bar.h"
#include "ui/decks/deck_drawing.h"
#include "ui/decks/deck_facts.h"
#include "ui/decks/found_page.h"
#include "ui/decks/mock_up_drawing.h"
#include "ui/decks/set_up_page.h"
#include "ui/frame/bank_buttons.h"
#include "ui/frame/drawn_page.h"
#include "ui/frame/page_buttons.h"
#include "ui/frame/plain_label.h"
#include "wording/common/sentences.h"
#include "wording/decks/deck_words.h"

#include <QHBoxLayout>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

DecksView::DecksView(Context context, QWidget* parent)
    : View(parent), context_(context), heading_(new PlainLabel(tr("Decks"), this)),
      banks_(new BankButtons(context, this)),
      page_buttons_(new PageButtons({tr("as found"), tr("set-up"), tr("passes"), tr("mock-up")},
                                    tr("As found, set-up, passes, mock-up: Ctrl+Shift+D goes to the next"), this)),
      pages_(new QStackedWidget(this)), found_(new FoundPage(context, this)), set_up_(new SetUpPage(context, this)),
      cylinders_(new MockUpDrawing(context, this)),
      mock_up_(new DrawnPage(
          context, cylinders_, wording::FiguresOf::mock_up, [this] { return cylinders_->table(); }, this)),
      drawing_(new DeckDrawing(context, DeckTask::paint_dark, this)),
      passes_(new DrawnPage(
          context, drawing_, wording::FiguresOf::decks, [this, context] { return deck_facts(context, bank_); }, this)),
      consequences_(new PlainLabel(this)), planned_(new PlainLabel(this)), depth_(new PlainLabel(this)),
      share_(new PlainLabel(this)), level_(new CutLevelBar(context, this)) {
    set_type(heading_, Type::title, true);
    set_type(depth_, Type::number, true);
    depth_->setObjectName(QStringLiteral("level-depth"));
    set_type(share_, Type::number, true);
    share_->setObjectName(QStringLiteral("clean-share"));
    consequences_->setObjectName(QStringLiteral("consequences"));
    for (QLabel* words : {consequences_, planned_}) {
        set_type(words, Type::small);
        words->setWordWrap(true);
    }
    planned_->setObjectName(QStringLiteral("mock-up-words"));
    mock_up_->add_below(planned_);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 12, 20, 10);
    column->setSpacing(8);
    auto* top = new QHBoxLayout;
    top->addWidget(heading_);
    top->addSpacing(12);
    top->addWidget(page_buttons_);
    top->addStretch();
    top->addWidget(banks_);
    column->addLayout(top);
    column->addWidget(pages_, 1);
    for (QWidget* page : std::initializer_list<QWidget*>{found_, set_up_, passes_, mock_up_})
        pages_->addWidget(page);
    auto* readouts = new QWidget(this);
    auto* row = new QHBoxLayout(readouts);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(depth_, 1);
    row->addWidget(share_);
    for (QWidget* below : std::initializer_list<QWidget*>{readouts, level_, consequences_})
        passes_->add_below(below);
    connect(level_, &QAbstractSlider::valueChanged, this, &DecksView::follow_level);
    connect(banks_, &BankButtons::chosen, this, &DecksView::show_bank);
    connect(page_buttons_, &PageButtons::chosen, this, [this](int page) { show_page(static_cast<Page>(page)); });
    connect(&context_.session, &session::Session::belief_known, this, [this] {
        // Thought about while another page is open; this one may still show the bank of the job before.
        if (isVisible() && !bank_.empty() && page() == Page::passes)
            fill_passes();
    });
    connect(found_, &FoundPage::step_wanted, this, &DecksView::step_wanted);
    connect(mock_up_, &DrawnPage::marked, this, [this](const block::FeatureId& id) {
        marked_ = id;
        mock_up_->show_bore(marked_);
        Q_EMIT pointed_at(id);
    });
    connect(mock_up_, &DrawnPage::entered, this, &DecksView::entered);
    setFocusProxy(level_);
    pages_->setCurrentWidget(passes_);
    page_buttons_->press(static_cast<int>(Page::passes));
    refresh();
}

DecksView::Page DecksView::page() const {
    return static_cast<Page>(pages_->currentIndex());
}

void DecksView::show_page(Page page) {
    pages_->setCurrentIndex(static_cast<int>(page));
    page_buttons_->press(static_cast<int>(page));
    if (!bank_.empty())
        fill_bank();
}

void DecksView::show_next_page() {
    show_page(static_cast<Page>((pages_->currentIndex() + 1) % pages_->count()));
}

std::optional<std::string> DecksView::bank() const {
    return bank_.empty() ? std::nullopt : std::optional(bank_);
}

void DecksView::show_bank(const std::string& bank) {
    bank_ = bank;
    fill_bank();
    Q_EMIT bank_changed();
}

void DecksView::show_other_bank() {
    if (intake_of(context_.session.state()).blueprint && !bank_.empty())
        show_bank(banks_->next(bank_));
}

void DecksView::refresh() {
    const auto& state = context_.session.state();
    const auto& assessment = context_.session.assessment();
    const bool known = context_.session.has_job() && intake_of(state).blueprint;
    pages_->setVisible(known);
    if (!known) {
        bank_.clear();
        return;
    }
    banks_->refresh();
    if (job_ != context_.session.job()) { // another job: start where its call is
        job_ = context_.session.job();
        bank_.clear();
    }
    if (!intake_of(state).blueprint->bank(bank_))
        bank_ = !assessment.decks.bank.empty() ? assessment.decks.bank : intake_of(state).blueprint->banks.front().id;
    fill_bank();
}

void DecksView::fill_bank() {
    banks_->press(bank_);
    switch (page()) {
    case Page::found:
        return found_->show_bank(bank_);
    case Page::set_up:
        return set_up_->show_bank(bank_);
    case Page::mock_up:
        if (!marked_ || marked_->bank != bank_)
            marked_ = cylinders_->first_of(bank_);
        tell_planned();
        return mock_up_->show_bore(marked_);
    case Page::passes:
        return fill_passes();
    }
}

void DecksView::fill_passes() {
    const auto& blueprint = *intake_of(context_.session.state()).blueprint;
    const planning::BankProgress* progress = context_.session.assessment().bank(bank_);
    const auto& bank = *blueprint.bank(bank_);
    for (QWidget* w : std::initializer_list<QWidget*>{depth_, share_, level_, consequences_})
        w->setVisible(progress != nullptr);
    passes_->show_bore(block::FeatureId{block::FeatureKind::deck, bank_, 0});
    if (!progress) {
        drawing_->set_deck(bank, {});
        drawing_->set_corners({}, bank.deck_height.nominal);
        drawing_->set_flaws(decks_of(context_.session.state()).flaws);
        return;
    }
    const auto& deck = decks_of(context_.session.state()).deck(bank_);
    const block::DeckResult& measured = planning::surface_of(*progress, context_.session.state());
    const auto belief = context_.session.belief(bank_);
    const bool taught = belief && belief->taken > 0 && !progress->to_come;
    drawing_->set_deck(
        bank, taught ? block::SharedPoints(planning::learned_points(*belief, measured.points)) : measured.points,
        !deck.cuts.empty() && !deck.stale());
    drawing_->set_touched(measured.points);
    drawing_->set_belief(belief);
    drawing_->set_flaws(decks_of(context_.session.state()).flaws);
    drawing_->set_corners(progress->corners, progress->plan.target);
    const double taken = deck.depth_since(deck.latest->sequence);
    const double lowest = measured.height_max - measured.height_min,
                 target = measured.height_max - progress->plan.target;
    std::vector<CutLevelBar::Mark> marks{{lowest, tr("lowest place"), false}};
    if (target >= 0)
        marks.push_back({target, tr("target"), true});
    if (taken > 0)
        marks.push_back({taken, tr("cut so far"), true});
    const double blueprint_depth = measured.height_max - bank.deck_height.nominal;
    const double deepest = 1.12 * std::max({lowest, target, taken, 0.02});
    if (std::abs(blueprint_depth - lowest) < 0.06 * deepest) // one name where two would run into each other
        marks.front().name = tr("lowest place, blueprint");
    else if (blueprint_depth > 0 && blueprint_depth < deepest)
        marks.push_back({blueprint_depth, tr("blueprint"), false});
    level_->set_scale(deepest, std::move(marks));
    level_->set_depth(taken);
    follow_level();
}

void DecksView::follow_level() {
    const planning::BankProgress* progress = context_.session.assessment().bank(bank_);
    if (!progress)
        return;
    const block::DeckResult& measured = planning::surface_of(*progress, context_.session.state());
    const double depth = level_->depth(), height = measured.height_max - depth;
    // At the very top nothing is cut yet: the level only rests on the highest point.
    drawing_->set_level(depth > 0 ? height : height + 1);
    const auto l = context_.lengths();
    depth_->setText(tr("%1 below the highest point  ·  height %2").arg(qt(l.with_unit(depth)), qt(l.plain(height))));
    tell_consequences(depth);
    const auto& deck = decks_of(context_.session.state()).deck(bank_);
    if (depth == 0 && !deck.cuts.empty() && !deck.stale()) { // nothing is cut since, and all of it is cut metal
        share_->setText(tr("measured on cut metal"));
        return;
    }
    const double share = depth > 0 ? drawing_->clean_share(height).value_or(0) : 0;
    const double shown = share >= 1 ? 100 : std::min(99.0, std::floor(100 * share)); // never 100 % before it is
    share_->setText(tr("clean %1 %").arg(shown, 0, 'f', 0));
}

/// What the deck at the level does to what is bolted to it.
void DecksView::tell_consequences(double depth) {
    const auto& state = context_.session.state();
    const auto& a = context_.session.assessment();
    const planning::BankProgress& progress = *a.bank(bank_);
    const double height = planning::surface_of(progress, state).height_max - depth;
    const auto& deck = decks_of(state).deck(bank_);
    const double before = progress.taken - deck.depth_since(deck.latest->sequence);
    const auto lines =
        wording::consequence_sentences(planning::deck_consequences(state, a.crowns, bank_, height, before + depth),
                                       decks_of(state).figures.steel_rods, context_.lengths());
    QStringList words;
    for (const std::string& line : lines)
        words << qt(line);
    if (words.isEmpty())
        words << tr("pistons and volumes of the mock-up would show what the cut changes");
    consequences_->setText(tr("At this level: ") + words.join(QStringLiteral("; ")));
}

/// What the planned deck does to what is bolted to it, and the head as it is.
void DecksView::tell_planned() {
    const auto& state = context_.session.state();
    const auto& a = context_.session.assessment();
    const auto l = context_.lengths();
    QStringList words;
    if (const planning::BankProgress* b = a.bank(bank_)) {
        const auto planned = planning::deck_consequences(state, a.crowns, bank_, b->plan.target, b->plan.cut);
        QStringList lines;
        for (const std::string& s : wording::consequence_sentences(planned, decks_of(state).figures.steel_rods, l))
            lines << qt(s);
        if (!lines.isEmpty())
            words << tr("As planned (%1 off the deck%2): %3.")
                         .arg(qt(l.with_unit(b->plan.cut)),
                              planned.head_cut > 0 ? tr(", %1 off the head").arg(qt(l.with_unit(planned.head_cut)))
                                                   : QString(),
                              lines.join(QStringLiteral("; ")));
        if (planned.ratio_spread > 0)
            words << tr("Spread over the cylinders %1.").arg(planned.ratio_spread, 0, 'f', 2);
    }
    const planning::HeadState head = planning::head_state(state, bank_);
    if (head.gap_low)
        words << tr("Head: %1 goes in under the straightedge%2.")
                     .arg(qt(l.with_unit(*head.gap_low)),
                          head.gap_high ? tr(", %1 does not").arg(qt(l.plain(*head.gap_high))) : QString());
    if (head.cut_since_chamber > 0)
        words << tr("Its chambers were not measured since %1 came off: taken smaller by the bore's area.")
                     .arg(qt(l.with_unit(head.cut_since_chamber)));
    planned_->setText(words.join(QLatin1Char(' ')));
    planned_->setVisible(!words.isEmpty());
}

void DecksView::focus_level() {
    show_page(Page::passes);
    level_->setFocus(Qt::ShortcutFocusReason);
}

/// What stayed dark on this bank belongs to its pass, a line that was drawn to the flaw.
planning::Answers DecksView::painted(const planning::Step& step) const {
    if (!step.about || step.about->bank != bank_)
        return {};
    if (step.task == planning::Task::mark_flaw)
        return {{"path", found_->drawn()}};
    if (step.task == planning::Task::cut_deck && !drawing_->dark().empty())
        return {{"dark", drawing_->dark()}, {"brush", drawing_->brush()}};
    return {};
}

void DecksView::answered() {
    drawing_->clear_dark();
}

void DecksView::show_asked(const std::optional<planning::AskedReading>& asked) {
    drawing_->set_asked(asked);
    found_->show_asked(asked);
    set_up_->show_asked(asked);
}
void DecksView::set_depth(double mm) {
    level_->set_depth(mm);
}

} // namespace pallix::ui
