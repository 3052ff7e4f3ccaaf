// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/decks_view.h"

#include "ui/decks/cut_level_bar.h"
#include "ui/decks/deck_drawing.h"
#include "ui/decks/deck_facts.h"
#include "ui/decks/pass_form.h"
#include "ui/decks/target_form.h"
#include "ui/frame/bank_buttons.h"
#include "wording/sentences.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

DecksView::DecksView(Context context, QWidget* parent)
    : View(parent), context_(context), heading_(new QLabel(tr("Decks"), this)), banks_(new BankButtons(context, this)),
      target_(new TargetForm(context, this)), empty_(new QLabel(this)), body_(new QWidget(this)),
      drawing_(new DeckDrawing(context, body_)), legend_(new QLabel(body_)), depth_(new QLabel(body_)),
      share_(new QLabel(body_)), level_(new CutLevelBar(context, body_)), facts_(new DeckFacts(context, body_)),
      passes_(new PassForm(context, body_)) {
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
    top->addWidget(banks_);
    top->addSpacing(12);
    top->addWidget(target_, 1);
    column->addLayout(top);
    column->addWidget(empty_);
    column->addWidget(body_, 1);

    auto* body = new QVBoxLayout(body_);
    body->setContentsMargins(0, 0, 0, 0);
    body->setSpacing(4);
    body->addWidget(drawing_, 1);
    body->addWidget(legend_, 0, Qt::AlignHCenter);
    auto* readouts = new QHBoxLayout;
    readouts->addWidget(depth_, 1);
    readouts->addWidget(share_);
    body->addLayout(readouts);
    body->addWidget(level_);
    auto* foot = new QHBoxLayout;
    foot->setSpacing(24);
    facts_->setFixedHeight(184);
    foot->addWidget(facts_, 5);
    foot->addWidget(passes_, 4);
    body->addLayout(foot);
    connect(level_, &QAbstractSlider::valueChanged, this, &DecksView::follow_level);
    connect(drawing_, &DeckDrawing::dark_changed, this, [this] { passes_->set_dark(drawing_->dark()); });
    connect(passes_, &PassForm::logged, this, [this] { drawing_->clear_dark(); });
    connect(banks_, &BankButtons::chosen, this, &DecksView::show_bank);
    setFocusProxy(level_);
    refresh();
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
    if (context_.session.state().blueprint && !bank_.empty())
        show_bank(banks_->next(bank_));
}

void DecksView::refresh() {
    const auto& state = context_.session.state();
    const auto& assessment = context_.session.assessment();
    const bool known = context_.session.has_job() && state.blueprint;
    const bool measured = known && !assessment.banks.empty();
    body_->setVisible(known);
    for (QWidget* w : std::initializer_list<QWidget*>{legend_, depth_, share_, level_, passes_})
        w->setVisible(measured);
    empty_->setVisible(!measured);
    target_->setVisible(measured || assessment.plan.height_missing);
    empty_->setText(assessment.plan.height_missing ? tr("Give the height to cut to: type it above and press Enter.")
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
    if (!state.blueprint->bank(bank_))
        bank_ = !assessment.call.bank.empty() ? assessment.call.bank : state.blueprint->banks.front().id;
    target_->refresh();
    fill_bank();
}

void DecksView::fill_bank() {
    const auto& blueprint = *context_.session.state().blueprint;
    banks_->press(bank_);
    const planning::BankProgress* progress = context_.session.assessment().bank(bank_);
    facts_->set_bank(bank_);
    passes_->set_bank(bank_);
    const auto& bank = *blueprint.bank(bank_);
    if (!progress) {
        drawing_->set_deck(bank, {});
        drawing_->set_corners({}, bank.deck_height.nominal);
        return;
    }
    const auto& deck = context_.session.state().deck(bank_);
    const block::DeckResult& measured = deck.latest->result;
    drawing_->set_deck(bank, measured.points, !deck.cuts.empty() && !deck.stale());
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
    if (blueprint_depth > 0 && blueprint_depth < deepest)
        marks.push_back({blueprint_depth, tr("blueprint"), false});
    level_->set_scale(deepest, std::move(marks));
    level_->set_depth(taken);
    passes_->set_dark(drawing_->dark());
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
    const block::DeckResult& measured = context_.session.state().deck(bank_).latest->result;
    const double depth = level_->depth(), height = measured.height_max - depth;
    // At the very top nothing is cut yet: the level only rests on the highest point.
    drawing_->set_level(depth > 0 ? height : height + 1);
    const auto l = context_.lengths();
    depth_->setText(tr("%1 below the highest point  ·  height %2").arg(qt(l.with_unit(depth)), qt(l.plain(height))));
    const auto& deck = context_.session.state().deck(bank_);
    if (depth == 0 && !deck.cuts.empty() && !deck.stale()) { // nothing is cut since, and all of it is cut metal
        share_->setText(tr("measured on cut metal"));
        return;
    }
    const double share = depth > 0 ? drawing_->clean_share(height).value_or(0) : 0;
    const double shown = share >= 1 ? 100 : std::min(99.0, std::floor(100 * share)); // never 100 % before it is
    share_->setText(tr("clean %1 %").arg(shown, 0, 'f', 0));
}

void DecksView::focus_level() {
    level_->setFocus(Qt::ShortcutFocusReason);
}
void DecksView::focus_pass() {
    passes_->take_focus();
}
void DecksView::log_pass() {
    passes_->log();
}
void DecksView::show_asked(const std::optional<planning::AskedReading>& asked) {
    drawing_->set_asked(asked);
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
              "Click the deck, or arrow keys and Space on it: mark a place that stayed dark.<br>"
              "Ctrl+R: the reading line; Ctrl+M: heights, feelers, level or piston to deck. Page Up strikes the last "
              "reading, "
              "Page Down skips a place, Ctrl+Shift+R reads the last one once more.</p>"
              "<p>After the last pass measure again: a verdict needs heights that are still true, and an uncertainty "
              "that was stated.</p>");
}

} // namespace pallix::ui
