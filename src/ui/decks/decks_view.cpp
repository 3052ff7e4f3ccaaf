// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/decks_view.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/decks/deck_belief.h"
#include "planning/readings/reading_plan.h"
#include "ui/decks/cut_level_bar.h"
#include "ui/decks/deck_drawing.h"
#include "ui/decks/deck_facts.h"
#include "ui/decks/found_page.h"
#include "ui/decks/mock_up_page.h"
#include "ui/decks/pass_form.h"
#include "ui/decks/set_up_page.h"
#include "ui/decks/target_form.h"
#include "ui/frame/bank_buttons.h"
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
      mock_up_(new MockUpPage(context, this)), target_(new TargetForm(context, this)), empty_(new PlainLabel(this)),
      body_(new QWidget(this)), consequences_(new LivingLines(context, QStringLiteral("consequences"), body_)),
      drawing_(new DeckDrawing(context, DeckTask::paint_dark, body_)), legend_(new PlainLabel(body_)),
      depth_(new PlainLabel(body_)), share_(new PlainLabel(body_)), level_(new CutLevelBar(context, body_)),
      facts_(new DeckFacts(context, body_)), passes_(new PassForm(context, body_)) {
    heading_->setFont(font_of(Type::title, true));
    depth_->setFont(font_of(Type::title, true));
    depth_->setObjectName(QStringLiteral("level-depth"));
    share_->setFont(font_of(Type::title, true));
    share_->setObjectName(QStringLiteral("clean-share"));
    legend_->setFont(font_of(Type::small));
    empty_->setWordWrap(true);
    empty_->setFont(font_of(Type::number));
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
    column->addWidget(empty_);
    column->addWidget(pages_, 1);
    for (QWidget* page : std::initializer_list<QWidget*>{found_, set_up_, body_, mock_up_})
        pages_->addWidget(page);

    auto* body = new QVBoxLayout(body_);
    body->setContentsMargins(0, 0, 0, 0);
    body->setSpacing(4);
    body->addWidget(target_);
    body->addWidget(drawing_, 1);
    body->addWidget(legend_, 0, Qt::AlignHCenter);
    auto* readouts = new QHBoxLayout;
    readouts->addWidget(depth_, 1);
    readouts->addWidget(share_);
    body->addLayout(readouts);
    body->addWidget(level_);
    auto* foot = new QHBoxLayout;
    foot->setSpacing(20);
    facts_->setFixedHeight(212);
    foot->addWidget(facts_, 6);
    foot->addWidget(consequences_, 4);
    foot->addWidget(passes_, 5);
    passes_->setMaximumWidth(300);
    body->addLayout(foot);
    connect(level_, &QAbstractSlider::valueChanged, this, &DecksView::follow_level);
    connect(drawing_, &DeckDrawing::dark_changed, this,
            [this] { passes_->set_dark(drawing_->dark(), drawing_->brush()); });
    connect(passes_, &PassForm::logged, this, [this] { drawing_->clear_dark(); });
    connect(banks_, &BankButtons::chosen, this, &DecksView::show_bank);
    connect(page_buttons_, &PageButtons::chosen, this, [this](int page) { show_page(static_cast<Page>(page)); });
    connect(&context_.session, &session::Session::belief_known, this, [this] {
        if (!bank_.empty() && page() == Page::passes)
            fill_passes();
    });
    setFocusProxy(level_);
    pages_->setCurrentWidget(body_);
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
    if (page == Page::set_up)
        set_up_->take_focus();
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
    const bool measured = known && !assessment.banks.empty();
    pages_->setVisible(known);
    for (QWidget* w : std::initializer_list<QWidget*>{legend_, depth_, share_, level_, consequences_})
        w->setVisible(measured);
    const bool felt = known && !assessment.by_feel.empty();
    passes_->setVisible(measured || felt);
    const bool lacks = assessment.plan.lack != planning::TargetLack::nothing;
    empty_->setVisible(!measured && !felt && (!known || page() == Page::passes));
    target_->setVisible(measured || lacks);
    empty_->setText(assessment.plan.lack == planning::TargetLack::pistons
                        ? tr("The target comes from the mock-up: read the pistons (Ctrl+R, piston to deck).")
                    : assessment.plan.lack == planning::TargetLack::figures
                        ? tr("The target is a compression ratio: give the volumes on the mock-up page.")
                    : lacks ? tr("Give the number to cut to: type it below and press Enter.")
                            : tr("No deck has been measured. Take in a probe log (Ctrl+I, or "
                                 "drop the .csv on this window), or type the "
                                 "heights into the reading line below (Ctrl+R)."));
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
    target_->refresh();
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
        return mock_up_->show_bank(bank_);
    case Page::passes:
        return fill_passes();
    }
}

void DecksView::fill_passes() {
    const auto& blueprint = *intake_of(context_.session.state()).blueprint;
    const planning::BankProgress* progress = context_.session.assessment().bank(bank_);
    facts_->set_bank(bank_);
    passes_->set_bank(bank_);
    const auto& bank = *blueprint.bank(bank_);
    if (!progress) {
        drawing_->set_deck(bank, {});
        drawing_->set_corners({}, bank.deck_height.nominal);
        drawing_->set_flaws(decks_of(context_.session.state()).flaws);
        passes_->set_dark(drawing_->dark(), drawing_->brush());
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
    passes_->set_dark(drawing_->dark(), drawing_->brush());
    legend_->setText(
        tr("corners: height over the target · contours every %1 · straight between touches, hatched: not probed")
            .arg(qt(context_.lengths().with_unit(drawing_->contour_step()))));
    QPalette quiet = legend_->palette();
    quiet.setColor(QPalette::WindowText, context_.palette().quiet);
    legend_->setPalette(quiet);
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
        words << tr("Pistons and volumes of the mock-up would show here what the cut changes.");
    consequences_->set_lines(tr("At this level"), words);
}

void DecksView::focus_level() {
    show_page(Page::passes);
    level_->setFocus(Qt::ShortcutFocusReason);
}
void DecksView::focus_pass() {
    show_page(Page::passes);
    passes_->take_focus();
}
void DecksView::log_pass() {
    passes_->log();
}
void DecksView::show_asked(const std::optional<planning::AskedReading>& asked) {
    drawing_->set_asked(asked);
    found_->show_asked(asked);
}
void DecksView::set_depth(double mm) {
    level_->set_depth(mm);
}

QString DecksView::help() const {
    return tr("<h2>Decks</h2><p>The deck seen from outside, front to the left. Dark iron is untouched, bright metal is "
              "what a cut at the level "
              "reaches; contours show how it lies. Between touches the map runs straight; where nothing was probed it "
              "is hatched.</p>"
              "<p>Ctrl+D then arrow keys: move the cut level. Ctrl+B: the other bank.<br>Ctrl+K: depth of the pass; "
              "Ctrl+Return logs it.<br>"
              "Paint the deck with the mouse, or arrow keys and Space on it: what stayed dark. Say that the rest is "
              "bright, and the map learns from both; it tells where paint and heights contradict each other.<br>"
              "Ctrl+Shift+D: as found (straightedge, flatness, flaws), set-up (feet, stacks, dowel), passes, mock-up "
              "(pistons, compression, heads).<br>"
              "Ctrl+R: the reading line; Ctrl+M: heights, feelers, level or piston to deck. Page Up strikes the last "
              "reading, "
              "Page Down skips a place, Ctrl+Shift+R reads the last one once more.</p>"
              "<p>After the last pass measure again: a verdict needs heights that are still true, and an uncertainty "
              "that was stated.</p>");
}

} // namespace pallix::ui
