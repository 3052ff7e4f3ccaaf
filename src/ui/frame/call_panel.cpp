// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/call_panel.h"

#include "block/ledger.h"
#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/steps/any_time.h"
#include "planning/steps/step_changes.h"
#include "session/wall_time.h"
#include "ui/frame/explained_label.h"
#include "ui/frame/low_scroll.h"
#include "ui/frame/plain_label.h"
#include "ui/frame/spoken.h"
#include "ui/frame/step_form.h"
#include "ui/frame/step_list.h"
#include "ui/manual_help.h"
#include "wording/common/sentences.h"
#include "wording/manual/manual_places.h"
#include "wording/steps/ask_words.h"
#include "wording/steps/change_words.h"
#include "wording/steps/step_words.h"

#include <QHBoxLayout>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

using planning::AskKind;
using planning::Step;
using planning::StepState;

namespace {

constexpr int width_at_100 = 296, longest_reason = 200;

bool can_be_answered(const Step& step) {
    return step.state == StepState::now || step.state == StepState::ready;
}

/// Where a step is done that is not answered by a button, and by which keys.
QString where_else(const Step& step) {
    using enum planning::Task;
    switch (step.task) {
    case mend_ledger:
        return CallPanel::tr("The ledger: Ctrl+L.");
    case read:
    case settle:
    case feel:
        return CallPanel::tr("In the line below (Ctrl+R).");
    case take_log:
    case probe:
    case prove_lifters:
        return CallPanel::tr("Drop the .csv on this window, or Ctrl+I.");
    case measure_insert:
        return step.asks.empty() ? CallPanel::tr("Outside, in the line below: top, middle, bottom, two ways each.")
                                 : QString();
    case mark_flaw:
        return CallPanel::tr("Draw it on the deck: click a pit, drag along a crack.");
    default:
        return {};
    }
}

/// The page where a stage is worked on.
std::optional<Place> place_of(planning::Stage stage) {
    switch (stage) {
    case planning::Stage::tunnel:
        return Place::tunnel;
    case planning::Stage::decks:
    case planning::Stage::mock_up:
        return Place::decks;
    case planning::Stage::cylinders:
        return Place::cylinders;
    case planning::Stage::lifters:
        return Place::lifters;
    case planning::Stage::passport:
        return Place::passport;
    default:
        return std::nullopt;
    }
}

QString page_name(Place place) {
    const auto i = static_cast<std::size_t>(place);
    return CallPanel::tr("To the %1 (F%2)").arg(QLatin1String(place_keys[i])).arg(i + 2);
}

/// Where a step is answered, if that is not here: on the page where it is drawn, so that who answers has seen what he
/// answers for, or on the block, where all of them are.
std::optional<Place> place_elsewhere(const Step& step, Place here) {
    if (step.task == planning::Task::open_truth) // it is shown its page afterwards
        return std::nullopt;
    const auto place = place_of(step.stage);
    return place && *place != here && here != Place::block ? place : std::nullopt;
}

bool asks_for_a_file(const Step& step) {
    return can_be_answered(step) && wording::answer_name(step).empty() && !step.asks.empty() &&
           step.asks[0].kind == AskKind::file;
}

void tint(QWidget* label, const QColor& colour) {
    QPalette p = label->palette();
    p.setColor(QPalette::WindowText, colour);
    label->setPalette(p);
}

/// The first gate in its way that somebody can answer for; what only waits for its turn is none.
const planning::Wait* gate_of(const Step& step) {
    const auto gate = std::ranges::find_if(
        step.waits_for, [](const planning::Wait& w) { return w.rule != block::Rule::order && w.until.empty(); });
    return step.state == StepState::waits && gate != step.waits_for.end() ? &*gate : nullptr;
}

} // namespace

CallPanel::CallPanel(Context context, QWidget* parent)
    : QWidget(parent), context_(context), headline_(new PlainLabel(this)), number_(new PlainLabel(this)),
      reasons_(new ExplainedLabel(this)), then_(new ExplainedLabel(this)), called_(new PlainLabel(this)),
      caution_(new ExplainedLabel(this)), echo_(new PlainLabel(this)), form_(new StepForm(context, this)),
      answer_(new QPushButton(this)), later_(new QPushButton(tr("later"), this)),
      other_(new QPushButton(tr("other…"), this)), gate_(new QPushButton(tr("Go on all the same…"), this)),
      back_(new QPushButton(tr("back to the call"), this)), why_(new QLineEdit(this)) {
    fix_size(this, width_at_100, 0);
    setObjectName(QStringLiteral("call"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 22, 20, 14);
    column->setSpacing(10);
    for (QLabel* heard : {headline_, number_, echo_})
        set_announced(heard);
    headline_->setAccessibleDescription(tr("what to do now"));
    const auto name = [](QWidget* widget, const char* id, Type type, bool bold = false) {
        widget->setObjectName(QString::fromLatin1(id));
        set_type(widget, type, bold);
    };
    name(headline_, "call-headline", Type::call, true);
    name(number_, "call-number", Type::dial, true);
    name(reasons_, "call-reasons", Type::text);
    name(then_, "call-then", Type::small);
    name(called_, "call-called", Type::small);
    name(caution_, "call-caution", Type::small);
    name(echo_, "call-echo", Type::text);
    name(answer_, "call-answer", Type::number, true);
    name(later_, "call-later", Type::text);
    name(other_, "call-other", Type::text);
    name(gate_, "call-gate", Type::text);
    name(back_, "call-back", Type::small);
    name(why_, "call-why", Type::text);
    why_->setAccessibleName(tr("why the rule is passed"));
    why_->setPlaceholderText(tr("why: it stands in the passport"));
    why_->setMaxLength(longest_reason);
    answer_->setDefault(true);
    answer_->setToolTip(tr("Answers as the fields have it (Ctrl+Return)"));
    later_->setToolTip(tr("The next that could be done (Ctrl+Shift+N)"));
    other_->setToolTip(tr("All that could be done (Ctrl+Shift+A)"));
    for (QLabel* label : {headline_, called_, echo_})
        label->setWordWrap(true);
    for (QPushButton* link : {later_, other_, back_})
        link->setFlat(true);
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(2);
    buttons->addWidget(later_);
    buttons->addWidget(other_);
    buttons->addStretch();
    auto* words = new QWidget(this);
    words->setAutoFillBackground(false);
    auto* lines = new QVBoxLayout(words);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(8);
    lines->addWidget(reasons_);
    lines->addWidget(then_);
    lines->addStretch();
    auto* scroll = new LowScroll(this);
    scroll->setWidget(words);
    scroll_ = scroll;
    for (QWidget* w : std::initializer_list<QWidget*>{headline_, number_, scroll_, form_, echo_, answer_})
        column->addWidget(w);
    column->addLayout(buttons);
    for (QWidget* w : std::initializer_list<QWidget*>{why_, gate_, called_, back_})
        column->addWidget(w, 0, w == back_ || w == gate_ ? Qt::AlignLeft : Qt::Alignment());
    column->addStretch();
    column->addWidget(caution_);
    soon_.setSingleShot(true);
    settled_.setSingleShot(true);
    soon_.setInterval(0);
    clock_.setInterval(1000);
    connect(&soon_, &QTimer::timeout, this, &CallPanel::tell_changes);
    connect(&clock_, &QTimer::timeout, this, &CallPanel::tell_time);
    connect(answer_, &QPushButton::clicked, this, &CallPanel::answer);
    connect(form_, &StepForm::entered, this, &CallPanel::answer);
    connect(form_, &StepForm::complained, this, &CallPanel::complain);
    connect(later_, &QPushButton::clicked, this, &CallPanel::later);
    connect(other_, &QPushButton::clicked, this, &CallPanel::show_others);
    connect(back_, &QPushButton::clicked, this, [this] {
        speak_of_the_call();
        refresh(here_);
    });
    connect(gate_, &QPushButton::clicked, this, &CallPanel::pass_gate);
    connect(why_, &QLineEdit::returnPressed, this, &CallPanel::pass_gate);
    refresh(Place::shop);
}

std::optional<Step> CallPanel::step() const {
    if (!context_.session.has_job())
        return std::nullopt;
    const auto& state = context_.session.state();
    const auto& a = context_.session.assessment();
    if (!chosen_.empty())
        if (auto chosen = planning::step_by_id(state, a, chosen_); chosen && chosen->state <= StepState::waits)
            return chosen;
    if (marked_) {
        const Step* best = nullptr;
        for (const Step& s : a.steps.steps)
            if (s.about == marked_ && s.state <= StepState::waits && (!best || s.state < best->state))
                best = &s;
        if (best)
            return *best;
    }
    if (const Step* now = a.steps.now())
        return *now;
    const auto waits = std::ranges::find(a.steps.steps, StepState::waits, &Step::state); // for a time, a part, a person
    return waits == a.steps.steps.end() ? std::nullopt : std::optional(*waits);
}

void CallPanel::mark(const std::optional<block::FeatureId>& about) {
    if (about == marked_)
        return;
    marked_ = about;
    chosen_.clear();
    refresh(here_);
}

void CallPanel::speak_of(const std::string& id) {
    chosen_ = id;
    form_->forget();
    refresh(here_);
}

void CallPanel::speak_of_the_call() {
    marked_.reset();
    chosen_.clear();
}

void CallPanel::refresh(Place here) {
    here_ = here;
    const auto spoken = step();
    if (!chosen_.empty() && (!spoken || spoken->id != chosen_))
        chosen_.clear();
    show_words(spoken ? &*spoken : nullptr);
    if (spoken && form_->show_step(*spoken)) { // what was said of another
        echo_->clear();
        echo_->hide();
    }
    const auto elsewhere = spoken ? place_elsewhere(*spoken, here) : std::nullopt;
    const bool answers = spoken && can_be_answered(*spoken) && !elsewhere;
    form_->setVisible(answers && !wording::answer_name(*spoken).empty() && form_->asks());
    answer_->setText(spoken && asks_for_a_file(*spoken) ? tr("Choose the log…")
                     : answers                          ? qt(wording::answer_name(*spoken))
                     : elsewhere                        ? page_name(*elsewhere)
                                                        : QString());
    answer_->setVisible(!answer_->text().isEmpty());
    later_->setVisible(context_.session.has_job());
    other_->setVisible(context_.session.has_job());
    offer_gate(spoken ? &*spoken : nullptr);
    set_explained(this, spoken ? qt(wording::manual_place(spoken->task)) : QStringLiteral("call"));
    soon_.start();
    tell_time();
    update();
}

void CallPanel::show_words(const Step* spoken) {
    const auto& session = context_.session;
    wording::CallText call;
    const auto is_empty = [this] {
        const auto jobs = context_.session.book().jobs();
        return jobs && jobs->empty();
    };
    if (!session.has_job() && is_empty())
        call = {"Begin",
                "",
                {"Describe your engine, and open a job of it (Ctrl+N).",
                 "Or look round in the harbour workshop first, or practise: neither touches this book."},
                ""};
    else if (!session.has_job())
        call = {"Choose a job",
                "",
                {"Enter opens the one that is marked.",
                 "A new block is a job of an engine: F9 has the shelf, Ctrl+N opens the job."},
                ""};
    else if (spoken)
        call = wording::step_text(session.state(), session.assessment(), *spoken, context_.lengths());
    else
        call = wording::call_text(session.state(), session.assessment(), context_.lengths());
    if (spoken && can_be_answered(*spoken))
        if (const QString keys = where_else(*spoken); !keys.isEmpty())
            call.reasons.push_back(keys.toStdString());
    headline_->setText(qt(call.headline));
    number_->setText(qt(call.number));
    number_->setVisible(!call.number.empty());
    QStringList lines;
    for (const std::string& reason : call.reasons)
        lines << session::with_wall_times(qt(reason));
    reasons_->setText(lines.join(QStringLiteral("\n\n")));
    reasons_->setVisible(!lines.isEmpty());
    caution_->setText(qt(call.caution));
    caution_->setVisible(!call.caution.empty());
    const Step* now = session.has_job() ? session.assessment().steps.now() : nullptr;
    const bool aside = now && spoken && now->id != spoken->id;
    called_->setVisible(aside);
    back_->setVisible(aside);
    if (aside)
        called_->setText(
            tr("Called for: %1").arg(qt(wording::step_headline(session.state(), *now, context_.lengths()))));
    echo_->setVisible(!echo_->text().isEmpty());
    const Palette& p = context_.palette();
    for (const auto& [label, colour] :
         {std::pair(headline_, p.ink), std::pair(number_, p.accent), std::pair(reasons_, p.ink),
          std::pair(then_, p.quiet), std::pair(called_, p.quiet), std::pair(caution_, p.quiet),
          std::pair(echo_, of_others_ ? p.ink : p.fails)})
        tint(label, colour);
}

void CallPanel::answer() {
    const auto spoken = step();
    if (!spoken || settled_.isActive()) // it was another one a moment ago
        return;
    if (asks_for_a_file(*spoken)) {
        Q_EMIT logs_wanted();
        return;
    }
    if (can_be_answered(*spoken) && spoken->task == planning::Task::open_truth) {
        Q_EMIT truth_wanted();
        return;
    }
    if (const auto elsewhere = place_elsewhere(*spoken, here_)) {
        Q_EMIT place_wanted(*elsewhere);
        return;
    }
    if (!can_be_answered(*spoken) || wording::answer_name(*spoken).empty())
        return;
    auto answers = form_->answers(*spoken);
    if (!answers)
        return;
    if (painted_)
        for (auto& [key, value] : painted_(*spoken))
            (*answers)[key] = std::move(value);
    const bool had_keys = isAncestorOf(focusWidget()) || hasFocus();
    const std::string picked = std::exchange(chosen_, {});
    if (const auto taken = context_.session.answer(spoken->id, *answers); !taken) {
        chosen_ = picked;
        refresh(here_);
        if (context_.session.contradiction())
            return Q_EMIT contradicted();
        return complain(qt(taken.error().front().text()).remove(qt("job: " + spoken->id + ": "))); // it stands above
    }
    put_off_.clear();
    form_->forget(); // the next is asked afresh, though it be of the same name
    refresh(here_);
    if (had_keys)
        take_focus();
    Q_EMIT answered(qt(spoken->id)); // whoever hears it may have a better place for the caret
}

void CallPanel::say(const QString& words, bool of_others) {
    of_others_ = of_others;
    tint(echo_, of_others ? context_.palette().ink : context_.palette().fails);
    echo_->setText(words);
    echo_->show();
}

void CallPanel::take_focus() {
    if (!form_->take_focus())
        (answer_->isVisible() ? answer_ : other_)->setFocus(Qt::ShortcutFocusReason);
}

void CallPanel::later() {
    const auto spoken = step();
    if (!spoken)
        return;
    put_off_.push_back(spoken->id);
    const auto next = [this]() -> const Step* {
        for (const Step& s : context_.session.assessment().steps.steps)
            if (can_be_answered(s) && std::ranges::find(put_off_, s.id) == put_off_.end())
                return &s;
        return nullptr;
    };
    const Step* found = next();
    if (!found) { // all of them were put off: round again
        put_off_.clear();
        found = next();
    }
    marked_.reset();
    speak_of(found ? found->id : "");
}

void CallPanel::show_others() {
    if (!context_.session.has_job())
        return;
    const auto spoken = step();
    auto* list = new StepListPopup(context_, spoken ? spoken->about : marked_,
                                   spoken ? spoken->stage : planning::Stage::received, this);
    connect(list, &StepListPopup::picked, this, [this](const QString& id) {
        speak_of(id.toStdString());
        take_focus();
    });
    list->open_under(other_);
}

void CallPanel::offer_gate(const Step* spoken) {
    const planning::Wait* gate = spoken ? gate_of(*spoken) : nullptr;
    gate_->setVisible(gate != nullptr);
    if (!gate) {
        why_->hide();
        why_->clear();
        return;
    }
    gate_->setText(why_->isVisible() ? tr("Go on, with this reason") : tr("Go on all the same…"));
    gate_->setToolTip(plain_tip(qt(wording::rule_name(gate->rule))));
}

/// The first press asks why; the second passes it with the reason.
void CallPanel::pass_gate() {
    const auto spoken = step();
    const planning::Wait* gate = spoken ? gate_of(*spoken) : nullptr;
    if (!gate)
        return;
    if (why_->isHidden()) {
        why_->show();
        why_->setFocus();
        return offer_gate(&*spoken);
    }
    const std::string about = block::stage_keys[static_cast<std::size_t>(spoken->stage)];
    const auto taken =
        context_.session.take(block::GatePassed{gate->rule, about, why_->text().trimmed().toStdString()});
    if (!taken) {
        complain(qt(taken.error().front().text()));
        return why_->setFocus();
    }
}

// ---- what follows -------------------------------------------------------------------------------------------------

/// Where it is done, how long it takes and what else it changes: worked out after the call itself stands there.
void CallPanel::tell_changes() {
    const auto spoken = step();
    QStringList lines;
    if (spoken && spoken->state <= StepState::waits && !intake_of(context_.session.state()).troubles.empty())
        then_->clear();
    else if (spoken) {
        const auto& state = context_.session.state();
        if (const std::string where = wording::where_words(state, *spoken); !where.empty())
            lines << qt(where);
        if (spoken->cannot_be_undone)
            for (const std::string& change : wording::change_words(
                     state, planning::changes_of(state, context_.session.assessment(), *spoken), context_.lengths()))
                lines << QStringLiteral("→ ") + qt(change);
    }
    then_->setText(lines.join(QLatin1Char('\n')));
    then_->setVisible(!lines.isEmpty());
    scroll_->updateGeometry();
}

/// A rest, a soak counts down where it is what the call waits for.
void CallPanel::tell_time() {
    const auto spoken = step();
    std::string until;
    if (spoken)
        for (const planning::Wait& wait : spoken->waits_for)
            until = std::max(until, wait.until);
    const double left = until.empty() ? 0 : context_.session.minutes_left(until);
    if (left > 0) {
        const int seconds = static_cast<int>(std::ceil(left * 60)), minutes = seconds / 60;
        number_->setText(minutes < 60
                             ? tr("%1:%2 left").arg(minutes).arg(seconds % 60, 2, 10, QLatin1Char('0'))
                             : tr("%1 h %2 left").arg(minutes / 60).arg(minutes % 60, 2, 10, QLatin1Char('0')));
        number_->setVisible(true);
    }
    if ((left > 0) != clock_.isActive())
        left > 0 ? clock_.start() : clock_.stop();
}

void CallPanel::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    const Palette& p = context_.palette();
    painter.fillRect(rect(), p.panel);
    painter.fillRect(QRect(0, 0, 1, height()), p.hairline);
    if (caution_->isVisible()) {
        const QRect box = caution_->geometry();
        painter.fillRect(QRect(box.left() - 12, box.top() - 4, 3, box.height() + 8), p.cannot_tell);
    }
}

} // namespace pallix::ui
