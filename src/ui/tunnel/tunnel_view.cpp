// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/tunnel/tunnel_view.h"

#include "block/shorthand.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/tunnel/tunnel_work.h"
#include "ui/dialogs/ask.h"
#include "ui/frame/drawn_page.h"
#include "ui/frame/page_buttons.h"
#include "ui/frame/plain_label.h"
#include "ui/frame/spoken.h"
#include "ui/tunnel/balance_drawing.h"
#include "ui/tunnel/plan_page.h"
#include "ui/tunnel/stock_chart.h"
#include "ui/tunnel/tunnel_drawing.h"
#include "wording/common/sentences.h"
#include "wording/readings/readings.h"
#include "wording/tunnel/tunnel_words.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

TunnelView::TunnelView(Context context, QWidget* parent)
    : View(parent), context_(context), heading_(new PlainLabel(tr("Main tunnel"), this)),
      drawing_(new TunnelDrawing(context, this)),
      page_buttons_(new PageButtons({tr("as found"), tr("plan"), tr("board"), tr("balance")},
                                    tr("As found, plan, board, balance: Ctrl+Shift+M goes to the next"), this)),
      pages_(new QStackedWidget(this)), found_(new DrawnPage(
                                            context, drawing_, std::nullopt, [this] { return measured(); }, this)),
      plan_(new PlanPage(context, this)), chart_(new StockChart(context, this)),
      board_(new DrawnPage(
          context, chart_, std::nullopt, [this] { return chart_->table(); }, this)),
      throw_(new BalanceDrawing(context, this)),
      balance_(new DrawnPage(
          context, throw_, wording::FiguresOf::balance, [this] { return throw_->table(); }, this)),
      summary_(new PlainLabel(this)), board_summary_(new PlainLabel(this)),
      by_probe_(new QPushButton(tr("by probe"), this)), by_gauge_(new QPushButton(tr("by gauge"), this)) {
    set_type(heading_, Type::title, true);
    for (QLabel* words : {summary_, board_summary_}) {
        set_announced(words);
        words->setWordWrap(true);
        set_type(words, Type::text);
    }
    summary_->setObjectName(QStringLiteral("tunnel-words"));
    board_summary_->setObjectName(QStringLiteral("board-words"));
    found_->add_below(summary_);
    board_->add_below(board_summary_);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 12, 20, 10);
    column->setSpacing(8);
    auto* top = new QHBoxLayout;
    top->addWidget(heading_);
    top->addSpacing(12);
    top->addWidget(page_buttons_);
    page_buttons_->explain(this, {QStringLiteral("page-tunnel-found"), QStringLiteral("page-tunnel-plan"),
                                  QStringLiteral("page-tunnel-board"), QStringLiteral("page-tunnel-balance")});
    connect(page_buttons_, &PageButtons::chosen, this, [this](int page) { show_page(static_cast<Page>(page)); });
    top->addStretch();
    auto* sources = new QButtonGroup(this);
    for (QPushButton* button : {by_probe_, by_gauge_}) {
        button->setCheckable(true);
        sources->addButton(button);
        top->addWidget(button);
        connect(button, &QPushButton::toggled, this, [this](bool on) {
            if (on)
                found_->show_bore(marked_);
        });
    }
    by_probe_->setChecked(true);
    column->addLayout(top);
    column->addWidget(pages_, 1);
    for (DrawnPage* page : std::initializer_list<DrawnPage*>{found_, plan_, board_, balance_}) {
        pages_->addWidget(page);
        connect(page, &DrawnPage::marked, this, &TunnelView::mark);
        connect(page, &DrawnPage::entered, this, &TunnelView::entered);
    }
    setFocusProxy(found_);
    refresh();
}

void TunnelView::mark(const block::FeatureId& id) {
    marked_ = id;
    drawn()->show_bore(marked_);
    Q_EMIT pointed_at(id);
}

DrawnPage* TunnelView::drawn() const {
    return static_cast<DrawnPage*>(pages_->currentWidget());
}

void TunnelView::refresh() {
    const auto& state = context_.session.state();
    const auto& assessment = context_.session.assessment();
    const bool known = context_.session.has_job() && intake_of(state).blueprint;
    const bool probed = known && tunnel_of(state).latest, gauged = known && !assessment.gauge.mains.empty();
    pages_->setVisible(known);
    by_probe_->setVisible(probed && gauged && page() == Page::found);
    by_gauge_->setVisible(probed && gauged && page() == Page::found);
    if (!probed)
        by_gauge_->setChecked(true);
    else if (!gauged)
        by_probe_->setChecked(true);
    if (!known) {
        marked_.reset();
        return show_page_of(Page::found);
    }
    QStringList words;
    if (probed)
        words << probed_summary();
    for (const auto& sentences : {wording::tunnel_gauge_sentences(state, assessment, context_.lengths()),
                                  wording::doubt_sentences(state, assessment, context_.lengths())})
        for (const std::string& sentence : sentences)
            words << qt(sentence);
    if (!probed && !gauged && !assessment.gauge.saddles)
        words << tr("The tunnel has not been measured. Take in a probe log (Ctrl+I, or drop the .csv on this window), "
                    "or read its sizes with a gauge in the line below (Ctrl+R).");
    summary_->setText(words.join(QLatin1Char(' ')));
    if (page() == Page::plan)
        return plan_->refresh();
    if (page() == Page::board)
        board_summary_->setText(board_words().join(QLatin1Char(' ')));
    drawn()->show_bore(marked_);
}

TunnelView::Page TunnelView::page() const {
    return static_cast<Page>(pages_->currentIndex());
}

void TunnelView::show_page_of(Page page) {
    pages_->setCurrentIndex(static_cast<int>(page));
    page_buttons_->press(static_cast<int>(page));
    setFocusProxy(pages_->currentWidget());
}

void TunnelView::show_page(Page page) {
    show_page_of(page);
    refresh();
    pages_->currentWidget()->setFocus(Qt::ShortcutFocusReason);
}

void TunnelView::show_next_page() {
    show_page(static_cast<Page>((pages_->currentIndex() + 1) % pages_->count()));
}

planning::Answers TunnelView::painted(const planning::Step& step) const {
    return step.task == planning::Task::cut_caps ? plan_->painted() : planning::Answers();
}

void TunnelView::ask_for_jacks() {
    const auto typed = ask_for_text(this, tr("Jacks and screws"), tr("Where jacks and screws stand along the block:"),
                                    context_.preferences.jacks());
    if (!typed)
        return;
    context_.preferences.set_jacks(*typed);
    refresh();
}

QString TunnelView::probed_summary() const {
    const auto& state = context_.session.state();
    const auto l = context_.lengths();
    const auto& t = tunnel_of(state).latest->evaluation.tunnel;
    const planning::TunnelVerdict& verdict = *context_.session.assessment().tunnel;
    const block::LimitsChosen limits = planning::limits_of(state);
    QString words = tr("Straight within %1 over all — %2 against %3. From the side %4, from above %5 (minimum zones).")
                        .arg(qt(l.with_unit(verdict.straightness_value) +
                                wording::touched_beside(verdict.straightness_value, t.straightness_lsq, l)),
                             qt(wording::verdict_word(context_.session.assessment().tunnel->straightness)),
                             qt(l.with_unit(limits.straightness)), qt(l.plain(t.straightness_vertical_mz)),
                             qt(l.plain(t.straightness_lateral_mz)));
    words += tr(" Main to main %1 at most — %2 against %3.")
                 .arg(qt(l.with_unit(context_.session.assessment().tunnel->step)),
                      qt(wording::verdict_word(context_.session.assessment().tunnel->step_verdict)),
                      qt(l.plain(limits.main_step)));
    if (tunnel_of(state).probe_stale())
        words = tr("Before it was cut: ") + words;
    if (const auto& cam = tunnel_of(state).latest->evaluation.cam)
        words += l.plain(cam->distance_error) == l.plain(0)
                     ? tr(" Cam %1 away, as in the blueprint.").arg(qt(l.with_unit(cam->distance)))
                     : tr(" Cam %1 away, %2 than in the blueprint.")
                           .arg(qt(l.with_unit(cam->distance)), qt(l.side(cam->distance_error, "further", "nearer")));
    if (!tunnel_of(state).latest->standard_uncertainty)
        words += tr(" The probe's uncertainty was not stated, so no verdict can be given.");
    if (!tunnel_of(state).latest->remark.empty())
        words += QStringLiteral(" (") + qt(tunnel_of(state).latest->remark) + QStringLiteral(")");
    return words;
}

void TunnelView::show_asked(const std::optional<planning::AskedReading>& asked) {
    drawing_->set_asked(asked);
}

/// What the board says besides the stock itself.
QStringList TunnelView::board_words() const {
    const auto& work = context_.session.tunnel_work();
    const auto& state = context_.session.state();
    const auto l = context_.lengths();
    QStringList words;
    for (const std::string& sentence : wording::prediction_sentences(*intake_of(state).blueprint, work.predictions, l))
        words << qt(sentence);
    if (words.isEmpty() && std::ranges::any_of(work.predictions, [](const auto& p) { return p.after.has_value(); }))
        words << tr("Before less cut is what was found after it.");
    if (work.dwell)
        words << tr("Most stock: %1, %2.")
                     .arg(qt(wording::place_of_reading(*intake_of(state).blueprint, work.dwell->at)),
                          qt(l.with_unit(std::max(0.0, work.dwell->left))));
    if (work.forecast)
        words << tr("The last %1 strokes took %2 where they cut; about %3 strokes more to the aim, %4 before it is "
                    "measured again.")
                     .arg(work.forecast->strokes)
                     .arg(qt(l.with_unit(work.forecast->strokes * work.forecast->per_stroke)))
                     .arg(work.forecast->strokes_left, 0, 'f', 0)
                     .arg(work.forecast->at_once, 0, 'f', 0);
    const QStringList typed = context_.preferences.jacks().split(QLatin1Char(' '), Qt::SkipEmptyParts);
    std::vector<double> numbers;
    for (const QString& word : typed)
        if (const auto mm = block::read_length(word.toStdString(), context_.preferences.unit()))
            numbers.push_back(*mm);
    for (const std::string& sentence : wording::jack_sentences(
             planning::jack_moves(*intake_of(state).blueprint, context_.session.assessment().gauge.sweeps, numbers), l))
        words << qt(sentence);
    return words;
}

TwinTable TunnelView::measured() const {
    return by_gauge_->isChecked() ? gauged() : probed();
}

TwinTable TunnelView::probed() const {
    TwinTable t = TwinTable::headed(tr("main|level|verdict|across|height|diameter|round, zone|from|to"), 3);
    const auto l = context_.lengths();
    if (!tunnel_of(context_.session.state()).latest)
        return t;
    const auto& evaluation = tunnel_of(context_.session.state()).latest->evaluation;
    const auto& verdicts = context_.session.assessment().tunnel->mains;
    for (std::size_t i = 0; i < evaluation.mains.size(); ++i) {
        const block::MainResult& m = evaluation.mains[i];
        const auto& main =
            *std::ranges::find(intake_of(context_.session.state()).blueprint->mains, m.id, &block::MainBlueprint::id);
        t.rows.push_back({tr("main %1").arg(m.id.number), qt(m.level), qt(wording::verdict_word(verdicts[i].verdict)),
                          qt(l.side(m.centre.y, "right", "left")), qt(l.side(m.centre.z, "up", "down")),
                          qt(l.plain(m.diameter)), qt(l.plain(verdicts[i].roundness_value)),
                          main.diameter.lower ? qt(l.plain(*main.diameter.smallest())) : QString(),
                          main.diameter.upper ? qt(l.plain(*main.diameter.largest())) : QString()});
        t.ids.push_back(m.id);
    }
    return t;
}

TwinTable TunnelView::gauged() const {
    TwinTable t{
        {tr("main"), tr("end"), tr("way"), tr("verdict"), tr("size"), tr("reads"), tr("from"), tr("to")}, 4, {}, {}};
    const auto l = context_.lengths();
    for (const auto& main : context_.session.assessment().gauge.mains)
        for (const planning::SizeFinding& s : main.sizes) {
            t.rows.push_back({tr("main %1").arg(main.id.number), qt(s.place.at.level), qt(s.place.at.direction),
                              main.stale ? tr("stale: cut since") : qt(wording::verdict_word(s.verdict)),
                              qt(l.plain(s.place.value)), QString::number(s.place.count), qt(l.plain(*s.limits.lower)),
                              qt(l.plain(*s.limits.upper))});
            t.ids.push_back(main.id);
        }
    return t;
}

} // namespace pallix::ui
