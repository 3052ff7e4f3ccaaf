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
#include "ui/frame/figure_line.h"
#include "ui/frame/page_buttons.h"
#include "ui/frame/plain_label.h"
#include "wording/common/sentences.h"
#include "wording/decks/deck_words.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <utility>

namespace pallix::ui {

DecksView::DecksView(Context context, QWidget* parent)
    : View(parent), context_(context), heading_(new PlainLabel(tr("Decks"), this)),
      banks_(new BankButtons(context, this)),
      page_buttons_(new PageButtons({tr("as found"), tr("set-up"), tr("passes"), tr("mock-up")},
                                    tr("As found, set-up, passes, mock-up: Ctrl+Shift+D goes to the next"), this)),
      head_button_(new QPushButton(tr("head"), this)), pages_(new QStackedWidget(this)),
      found_(new FoundPage(context, this)), set_up_(new SetUpPage(context, this)),
      cylinders_(new MockUpDrawing(context, this)),
      mock_up_(new DrawnPage(
          context, cylinders_, wording::FiguresOf::mock_up, [this] { return cylinders_->table(); }, this)),
      drawing_(new DeckDrawing(context, DeckTask::paint_dark, this)),
      passes_(new DrawnPage(
          context, drawing_, wording::FiguresOf::decks,
          [this, context] { return head_ ? head_facts(context, bank_) : deck_facts(context, bank_); }, this)),
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
    top->setSpacing(3); // seven buttons, in the smallest window too
    top->addWidget(heading_);
    top->addSpacing(4);
    top->addWidget(page_buttons_);
    top->addStretch();
    top->addWidget(head_button_);
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
    head_button_->setCheckable(true);
    head_button_->setProperty("narrow", true);
    head_button_->setObjectName(QStringLiteral("show-head"));
    head_button_->setToolTip(plain_tip(tr("The head of this bank in the deck's place (Ctrl+Shift+B)")));
    connect(head_button_, &QPushButton::clicked, this, &DecksView::show_head);
    page_buttons_->explain(this, {QStringLiteral("page-decks-found"), QStringLiteral("page-decks-setup"),
                                  QStringLiteral("page-decks-passes"), QStringLiteral("page-decks-mockup")});
    connect(page_buttons_, &PageButtons::chosen, this, [this](int page) { show_page(static_cast<Page>(page)); });
    connect(&context_.session, &session::Session::belief_known, this, [this] {
        // Thought about while another page is open; this one may still show the bank of the job before.
        if (isVisible() && !bank_.empty() && page() == Page::passes && !head_)
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

void DecksView::show_head(bool head) {
    head_ = head;
    if (!bank_.empty())
        fill_bank();
}

/// Whatever is called next is shown: the deck or the head that it is about.
void DecksView::follow_call() {
    const planning::Step* now = context_.session.assessment().steps.now();
    const std::string called = now ? now->id : "";
    if (called == std::exchange(called_, called) || !now || !now->about ||
        now->about->kind != block::FeatureKind::deck || now->about->bank != bank_)
        return;
    head_ = now->task == planning::Task::cut_head || now->task == planning::Task::level_head ||
            (now->place && block::is_on_head(now->place->quantity));
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
    follow_call();
    fill_bank();
}

void DecksView::fill_bank() {
    banks_->press(bank_);
    head_button_->setChecked(head_);
    head_button_->setEnabled(page() != Page::mock_up);
    switch (page()) {
    case Page::found:
        return found_->show_bank(bank_, head_);
    case Page::set_up:
        return set_up_->show_bank(bank_, head_);
    case Page::mock_up:
        if (!marked_ || marked_->bank != bank_)
            marked_ = cylinders_->first_of(bank_);
        tell_planned();
        return mock_up_->show_bore(marked_);
    case Page::passes:
        return head_ ? fill_head() : fill_passes();
    }
}

void DecksView::fill_passes() {
    const auto& blueprint = *intake_of(context_.session.state()).blueprint;
    const planning::BankProgress* progress = context_.session.assessment().bank(bank_);
    const auto& bank = *blueprint.bank(bank_);
    for (QWidget* w : std::initializer_list<QWidget*>{depth_, share_, level_, consequences_})
        w->setVisible(progress != nullptr);
    drawing_->set_head(false);
    passes_->figures()->speak_of(wording::FiguresOf::decks);
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
    top_ = measured.height_max;
    rest_level(taken);
}

/// A level that somebody has moved stays there, whatever is worked out or written elsewhere meanwhile, until something
/// else lies under it.
void DecksView::rest_level(double depth) {
    const Under now{job_, bank_, head_, top_, depth};
    if (now != under_)
        level_->set_depth(depth);
    under_ = now;
    follow_level();
}

/// The face of the head: where its lowest place lies, and what was painted dark.
void DecksView::fill_head() {
    const auto& bank = *intake_of(context_.session.state()).blueprint->bank(bank_);
    const planning::HeadProgress* head = context_.session.assessment().head(bank_);
    const block::SharedPoints points = head_points(bank, head);
    const bool mapped = points.size() >= 3;
    for (QWidget* w : std::initializer_list<QWidget*>{depth_, share_, level_})
        w->setVisible(mapped);
    drawing_->set_head(true);
    drawing_->set_deck(bank, points, head && head->cut);
    drawing_->set_touched(points);
    drawing_->set_belief(nullptr);
    drawing_->set_flaws({});
    top_ = bank.deck_height.nominal;
    drawing_->set_corners(mapped ? planning::corner_heights(bank, {points.begin(), points.end()})
                                 : std::vector<planning::CornerHeight>(),
                          top_);
    passes_->figures()->speak_of(wording::FiguresOf::head);
    passes_->show_bore(block::FeatureId{block::FeatureKind::deck, bank_, 0});
    QStringList words;
    if (head)
        for (const std::string& s : wording::head_sentences(context_.session.state(), *head, context_.lengths()))
            words << qt(s);
    consequences_->setText(words.isEmpty() ? tr("Nothing was read of this head.") : words.join(QLatin1Char(' ')));
    consequences_->setVisible(true);
    if (!mapped)
        return drawing_->set_level(1e9);
    const double lowest = top_ - std::ranges::min(points, {}, &metrology::Vec3::z).z;
    level_->set_scale(1.12 * std::max(lowest, 0.02), {{lowest, tr("lowest place"), false}});
    rest_level(0);
}

void DecksView::follow_level() {
    if (!head_ && !context_.session.assessment().bank(bank_))
        return;
    const double depth = level_->depth(), height = top_ - depth;
    // At the very top nothing is cut yet: the level only rests on the highest point.
    drawing_->set_level(depth > 0 ? height : height + 1);
    const auto l = context_.lengths();
    const QString below = tr("%1 below the highest point").arg(qt(l.with_unit(depth)));
    depth_->setText(head_ ? below : tr("%1  ·  height %2").arg(below, qt(l.plain(height))));
    if (!head_)
        tell_consequences(depth);
    const auto& deck =
        head_ ? decks_of(context_.session.state()).face(bank_) : decks_of(context_.session.state()).deck(bank_);
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
    if (const std::string chambers = wording::chamber_sentence(head, l); !chambers.empty())
        words << qt(chambers);
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
    const auto task = head_ ? planning::Task::cut_head : planning::Task::cut_deck;
    if (step.task == task && !drawing_->dark().empty())
        return {{"dark", drawing_->dark()}, {"brush", drawing_->brush()}};
    return {};
}

void DecksView::answered() {
    drawing_->clear_dark();
}

void DecksView::show_asked(const std::optional<planning::AskedReading>& asked) {
    if (asked && asked->at.feature.kind == block::FeatureKind::deck) {
        const bool on_head = block::is_on_head(asked->at.quantity);
        if (on_head != std::exchange(asked_of_head_, on_head)) // what is read next is shown
            show_head(on_head);
    }
    drawing_->set_asked(asked);
    found_->show_asked(asked);
    set_up_->show_asked(asked);
}
void DecksView::set_depth(double mm) {
    level_->set_depth(mm);
}

} // namespace pallix::ui
