// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/reading_line.h"

#include "block/ledger.h"
#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/common/assessment.h"
#include "planning/readings/reading_plan.h"
#include "session/counted.h"
#include "ui/dialogs/ask.h"
#include "ui/frame/keypad.h"
#include "ui/frame/plain_label.h"
#include "ui/frame/spoken.h"
#include "ui/manual_help.h"
#include "wording/common/sentences.h"
#include "wording/manual/manual_places.h"
#include "wording/readings/readings.h"
#include "wording/shop/shop_words.h"

#include <QComboBox>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

namespace pallix::ui {

using planning::Measuring;

namespace {

constexpr int longest_typed = 80; // characters: a key that is held down stops there

} // namespace

ReadingLine::ReadingLine(Context context, QWidget* parent)
    : QWidget(parent), context_(context), place_(new PlainLabel(this)), detail_(new PlainLabel(this)),
      field_(new QLineEdit(this)), echo_(new PlainLabel(this)), what_(new QComboBox(this)), tool_(new QComboBox(this)),
      back_(new QPushButton(tr("Back"), this)), skip_(new QPushButton(tr("Skip"), this)) {
    build_row();
    connect(field_, &QLineEdit::textChanged, this, [this](const QString& text) {
        echo();
        if (text.isEmpty()) // answered or taken back: what the gauge sent meanwhile has its turn
            take_soon();
    });
    connect(field_, &QLineEdit::returnPressed, this, &ReadingLine::take);
    connect(back_, &QPushButton::clicked, this, &ReadingLine::back);
    connect(skip_, &QPushButton::clicked, this, &ReadingLine::skip);
    connect(what_, &QComboBox::activated, this,
            [this](int row) { measure(static_cast<Measuring>(what_->itemData(row).toInt())); });
    connect(tool_, &QComboBox::activated, this, [this](int row) {
        context_.instruments.take_in_hand(wish_.what, tool_->itemData(row).toString().toStdString());
    });
    connect(&context_.instruments, &session::InstrumentRegister::changed, this, &ReadingLine::refresh);
    connect(&context_.preferences, &session::Preferences::person_changed, this, &ReadingLine::refresh);
    connect(&context_.gauge, &session::GaugeLink::reading, this, [this](const block::GaugeReading& reading) {
        sent_.push_back(reading);
        take_soon();
    });
    job_ = context_.session.job();
    connect(&context_.session, &session::Session::job_opened, this, &ReadingLine::change_job);
    connect(&context_.session, &session::Session::remarked, this, [this](const QString& words) {
        echo_->setVisible(true);
        say(words, context_.palette().fails);
    });
    connect(&context_.gauge, &session::GaugeLink::said, this, [this](const QString& message, bool fault) {
        echo_->setVisible(true);
        say(message, fault ? context_.palette().fails : context_.palette().quiet);
    });
}

void ReadingLine::build_row() {
    auto* row = new QGridLayout(this);
    row->setContentsMargins(18, 6, 12, 6);
    row->setHorizontalSpacing(12);
    row->setVerticalSpacing(0);
    auto* words = new QVBoxLayout;
    words->setSpacing(3);
    for (QLabel* heard : {place_, echo_})
        set_announced(heard);
    set_type(place_, Type::number, true);
    place_->setWordWrap(true);
    fix_size(place_, 270, 0);
    set_explained(this, QStringLiteral("reading-line"));
    place_->setObjectName(QStringLiteral("reading-place"));
    set_type(detail_, Type::small);
    words->addStretch();
    words->addWidget(place_);
    words->addWidget(detail_);
    words->addStretch();
    row->addLayout(words, 0, 0);
    set_type(field_, Type::reading);
    fix_size(field_, 230, 58);
    field_->setObjectName(QStringLiteral("reading"));
    field_->setMaxLength(longest_typed);
    field_->setAccessibleName(tr("reading"));
    field_->setToolTip(tr("Type the reading and press Enter (Ctrl+R goes here)"));
    field_->installEventFilter(this);
    echo_->setWordWrap(true);
    echo_->setObjectName(QStringLiteral("echo"));
    auto* choices = new QVBoxLayout;
    choices->setSpacing(4);
    for (QComboBox* box : {what_, tool_}) {
        fix_size(box, 172, 32);
        set_type(box, Type::small);
        choices->addWidget(box);
    }
    what_->setObjectName(QStringLiteral("what-to-measure"));
    what_->setAccessibleName(tr("what to measure"));
    what_->setToolTip(tr("What to measure (Ctrl+M goes to the next)"));
    tool_->setObjectName(QStringLiteral("instrument"));
    tool_->setAccessibleName(tr("instrument in hand"));
    row->addLayout(choices, 0, 4, 3, 1);
    auto* steps = new QVBoxLayout;
    steps->setSpacing(4);
    for (QPushButton* button : {back_, skip_}) {
        fix_size(button, 72, 32);
        set_type(button, Type::small);
        button->setObjectName(button == back_ ? QStringLiteral("reading-back") : QStringLiteral("reading-skip"));
        steps->addWidget(button);
    }
    row->addLayout(steps, 0, 5, 3, 1);
    arrange();
    back_->setToolTip(tr("Strike the last reading and read it again (Page Up)"));
    skip_->setToolTip(tr("Leave this place for later (Page Down)"));
}

/// For fingers the keypad stands in the line, and what is asked, the field and what is said below one another.
void ReadingLine::arrange() {
    auto* row = static_cast<QGridLayout*>(layout());
    row->removeWidget(field_);
    row->removeWidget(echo_);
    row->addWidget(field_, touch() ? 1 : 0, touch() ? 0 : 1);
    row->addWidget(echo_, touch() ? 2 : 0, touch() ? 0 : 2);
    row->setColumnStretch(touch() ? 0 : 2, 1);
    row->setColumnStretch(touch() ? 2 : 0, 0);
    if (touch() && !keypad_) {
        keypad_ = new Keypad(this);
        connect(keypad_, &Keypad::field_wanted, this, &ReadingLine::take_focus);
        row->addWidget(keypad_, 0, 3, 3, 1);
    }
    if (keypad_)
        keypad_->setVisible(touch());
    fix_size(this, 0, touch() ? 216 : 84);
}

void ReadingLine::set_scope(const ReadingScope& scope) {
    if (scope != scope_) {
        wish_.skipped.clear();
        wish_.once_more.reset();
        questioned_.clear();
        if (!scope.measurings.empty() && std::ranges::find(scope.measurings, wish_.what) == scope.measurings.end())
            wish_.what = scope.measurings.front();
    }
    scope_ = scope;
    wish_.bank = scope.bank;
    wish_.feature = scope.feature;
    wish_.since = scope.since;
    refresh();
}

std::optional<Measuring> ReadingLine::measuring() const {
    return scope_.measurings.empty() ? std::nullopt : std::optional(wish_.what);
}

void ReadingLine::measure(Measuring what) {
    if (std::ranges::find(scope_.measurings, what) == scope_.measurings.end())
        return;
    wish_.what = what;
    wish_.skipped.clear();
    wish_.once_more.reset();
    questioned_.clear();
    field_->setText({}); // and what was typed before is forgotten: Ctrl+Z is for the ledger
    refresh();
    take_focus();
}

void ReadingLine::measure_next() {
    const auto here = std::ranges::find(scope_.measurings, wish_.what);
    if (here != scope_.measurings.end())
        measure(here + 1 == scope_.measurings.end() ? scope_.measurings.front() : *(here + 1));
}

void ReadingLine::take_focus() {
    field_->setFocus(Qt::ShortcutFocusReason);
    field_->selectAll();
}

block::Instrument ReadingLine::instrument() const {
    return context_.practice.running() ? context_.practice.instrument(wish_.what)
                                       : context_.instruments.in_hand(wish_.what);
}

block::Expected ReadingLine::expected() const {
    block::Expected e =
        planning::expectation(context_.session.state(), *asked_, instrument(), context_.preferences.unit());
    if (study_) { // nobody is told what was read before
        e.repeat.reset();
        e.neighbours.reset();
    }
    return e;
}

void ReadingLine::fill_choices() {
    const QSignalBlocker quiet_what(what_), quiet_tool(tool_);
    what_->clear();
    for (const Measuring what : scope_.measurings)
        what_->addItem(qt(wording::measuring_name(what)), static_cast<int>(what));
    what_->setCurrentIndex(what_->findData(static_cast<int>(wish_.what)));
    tool_->clear();
    const block::Instrument in_hand = instrument();
    if (context_.practice.running()) // the bench has one of each
        tool_->addItem(qt(in_hand.name), qt(in_hand.name));
    else
        for (const block::Instrument& i : context_.instruments.instruments())
            tool_->addItem(qt(i.name), qt(i.name));
    tool_->setCurrentIndex(tool_->findData(qt(in_hand.name)));
    tool_->setToolTip(
        plain_tip(tr("%1: %2 (Ctrl+G: register)")
                      .arg(qt(in_hand.name), qt(wording::instrument_words(in_hand, context_.lengths())))));
}

/// What the one list asks for comes first; a learner's second reading and the rest of the plan after it.
void ReadingLine::ask_next() {
    const auto& state = context_.session.state();
    asked_ = planning::next_called(state, context_.session.assessment().steps, wish_);
    if (!asked_)
        asked_ = planning::next_reading(state, wish_);
    ask_for_study();
}

void ReadingLine::refresh() {
    asked_.reset();
    study_.reset();
    wish_.every_place_twice = context_.session.has_job() && card_of(context_.session.state()).learner_at_bench();
    const bool reads =
        !scope_.measurings.empty() && context_.session.has_job() && intake_of(context_.session.state()).blueprint;
    if (reads) {
        ask_next();
        if (!asked_ && !study_ && !wish_.skipped.empty()) { // what was skipped comes round again
            wish_.skipped.clear();
            ask_next();
        }
        const planning::Step* now = context_.session.assessment().steps.now();
        if (const auto what = asked_ || study_ || !now ? std::nullopt : measuring_for(*now)) {
            wish_.what = *what; // all of one kind is read: the line goes on with what is called for
            ask_next();
        }
        fill_choices();
    }
    for (QWidget* w : std::initializer_list<QWidget*>{what_, tool_, back_, echo_})
        w->setVisible(reads);
    if (reads && !asked_ && field_->hasFocus()) {
        was_reading_ = true;
        back_->setFocus();
    }
    for (QWidget* w : std::initializer_list<QWidget*>{field_, skip_})
        w->setVisible(asked_.has_value());
    if (asked_ && std::exchange(was_reading_, false) && back_->hasFocus()) // there is again
        field_->setFocus();
    if (asked_)
        show_asked();
    else if (reads && study_)
        show_whose_turn();
    else if (reads) {
        place_->setText(tr("%1: all read").arg(qt(wording::measuring_name(wish_.what))));
        detail_->setText(tr("Ctrl+M: something else · Ctrl+Shift+R: once more"));
        said_.clear();
        echo_->clear();
    } else {
        place_->setText(tr("No reading is asked for here"));
        detail_->setText(context_.session.has_job()
                             ? tr("Tunnel (F4), decks (F5), cylinders (F6) and lifters (F7) read.")
                             : tr("Open a job first."));
    }
    QPalette quiet = detail_->palette();
    quiet.setColor(QPalette::WindowText, context_.palette().quiet);
    detail_->setPalette(quiet);
    update();
    tell_asked();
}

/// What would have to be measured for a step, of what this view takes.
std::optional<Measuring> ReadingLine::measuring_for(const planning::Step& step) const {
    for (const Measuring what : scope_.measurings) {
        if (step.task == planning::Task::feel && what == Measuring::feelers)
            return what;
        planning::ReadingWish wish = wish_;
        wish.what = what;
        const auto called = planning::next_called(context_.session.state(), context_.session.assessment().steps, wish);
        if (called && step.place && called->at.key() == step.place->key())
            return what;
    }
    return std::nullopt;
}

void ReadingLine::take_up(const planning::Step& step) {
    const auto what = measuring_for(step);
    if (what && *what != wish_.what)
        return measure(*what);
    if (what && asked_)
        take_focus();
}

/// The drawing shows the place while someone is reading: otherwise it would only be in the way.
void ReadingLine::tell_asked() {
    Q_EMIT asks_for(field_->hasFocus() ? asked_ : std::nullopt);
}

void ReadingLine::show_asked() {
    const auto& blueprint = *intake_of(context_.session.state()).blueprint;
    place_->setText(qt(wording::place_of_reading(blueprint, asked_->at)));
    detail_->setText(detail_of_asked());
    field_->setPlaceholderText(block::is_bracket(asked_->at.quantity)                ? tr("e.g. 6 7")
                               : asked_->at.quantity == block::Quantity::volume      ? tr("e.g. 66.2")
                               : asked_->at.quantity == block::Quantity::temperature ? tr("e.g. 19.5")
                               : expected().needs_zero
                                   ? tr("e.g. %1").arg(qt(context_.lengths().plain(asked_->expected)))
                                   : tr("e.g. −0.4 thou"));
    if (questioned_.isEmpty())
        echo();
}

void ReadingLine::say(const QString& text, const QColor& colour) {
    QPalette p = echo_->palette();
    p.setColor(QPalette::WindowText, colour);
    echo_->setPalette(p);
    said_ = text;
    show_said();
}

/// What was said, and how many readings of a gauge wait for the field: one count, however many there are.
void ReadingLine::show_said() {
    const bool wait = !sent_.empty() && !field_->text().isEmpty();
    echo_->setText(wait ? tr("%1 From the gauge: %2.")
                              .arg(said_, session::counted(static_cast<qsizetype>(sent_.size()), tr("reading waits"),
                                                           tr("readings wait")))
                        : said_);
}

void ReadingLine::echo() {
    if (!asked_)
        return;
    const Palette& p = context_.palette();
    const block::Instrument tool = instrument();
    if (field_->text().trimmed() != questioned_)
        questioned_.clear(); // typed anew: the question is answered
    if (field_->text().trimmed().isEmpty())
        return say_what_to_type();
    const auto understood = block::read_reading(field_->text().toStdString(), asked_->at.quantity, expected());
    if (understood)
        say(qt(wording::understood_words(*understood, asked_->at.quantity, expected(), tool.zero_set_on,
                                         context_.lengths())),
            p.ink);
    else
        say(qt(understood.error()), p.fails);
}

void ReadingLine::take() {
    if (!asked_)
        return;
    const QString typed = field_->text().trimmed();
    const planning::AskedReading asked = *asked_;
    const block::Quantity quantity = asked.at.quantity;
    const auto understood = block::read_reading(typed.toStdString(), quantity, expected());
    if (!understood) {
        say(qt(understood.error()), context_.palette().fails);
        return;
    }
    const bool asked_before = !questioned_.isEmpty() && questioned_ == typed;
    if (understood->suspicion != block::Suspicion::none && !asked_before) {
        questioned_ = typed;
        set_explained(this, qt(wording::manual_place(understood->suspicion)));
        const std::string question = wording::question_about(*understood, quantity, expected(), context_.lengths());
        say(qt(wording::for_learner(context_.session.state(), question)), context_.palette().cannot_tell);
        return;
    }
    set_explained(this, QStringLiteral("reading-line"));
    if (!asked_before && asks_about_zero(typed))
        return;
    const std::string words = wording::place_of_reading(*intake_of(context_.session.state()).blueprint, asked.at);
    wish_.once_more.reset();
    // The question about the other unit is answered by saying yes to it.
    const double meant =
        understood->suspicion == block::Suspicion::other_unit ? *understood->instead : understood->value;
    const auto taken = context_.session.take(block::Reading{asked.at, words, meant, understood->upper,
                                                            typed.toStdString(), asked_before, instrument(),
                                                            readings_of(context_.session.state()).conditions});
    if (!taken) {
        say(qt(taken.error().front().text()), context_.palette().fails);
        return;
    }
    questioned_.clear();
    field_->setText({});
    refresh();
    const QString value = understood->upper ? tr("%1 to %2")
                                                  .arg(qt(context_.lengths().plain(understood->value)),
                                                       qt(context_.lengths().with_unit(*understood->upper)))
                                            : qt(wording::quantity_text(quantity, meant, context_.lengths()));
    const QString enough = qt(wording::enough_words(context_.session.state(), asked.at, context_.lengths()));
    say(tr("taken: %1, %2").arg(qt(words), value) + enough, context_.palette().quiet);
}

const block::Entry* ReadingLine::last_reading() const {
    const auto& entries = context_.session.entries();
    const auto out = block::struck(entries);
    for (std::size_t i = entries.size(); i-- > 0;) {
        if (out[i] || std::holds_alternative<block::Strike>(entries[i].payload))
            continue;
        return std::holds_alternative<block::Reading>(entries[i].payload) ? &entries[i] : nullptr;
    }
    return nullptr;
}

void ReadingLine::skip() {
    if (!asked_)
        return;
    wish_.skipped.push_back(asked_->at.key());
    wish_.once_more.reset();
    questioned_.clear();
    field_->setText({});
    refresh();
    field_->setFocus();
}

void ReadingLine::back() {
    const block::Entry* last = last_reading();
    if (scope_.measurings.empty())
        return;
    if (!last) {
        say(tr("There is no reading just before this one."), context_.palette().quiet);
        return;
    }
    if (const auto done = context_.session.strike(last->sequence, tr("read again")); !done)
        say(qt(done.error().front().text()), context_.palette().fails);
    field_->setFocus();
}

void ReadingLine::once_more() {
    const block::Entry* last = last_reading();
    if (!last || scope_.measurings.empty()) {
        say(tr("There is no reading to repeat."), context_.palette().quiet);
        return;
    }
    wish_.once_more = std::get<block::Reading>(last->payload).at.key();
    refresh();
    take_focus();
}

void ReadingLine::strike_with_reason() {
    const block::Entry* last = last_reading();
    if (!last || scope_.measurings.empty()) {
        say(tr("There is no reading just before this one."), context_.palette().quiet);
        return;
    }
    const auto sequence = last->sequence;
    const QString sentence = qt(wording::entry_sentence(*last, context_.session.state(), context_.lengths()));
    const auto reason = ask_for_text(this, tr("Strike the last reading"), tr("%1\n\nWhy:").arg(sentence));
    if (!reason)
        return;
    if (const auto done = context_.session.strike(sequence, *reason); !done)
        say(qt(done.error().front().text()), context_.palette().fails);
    field_->setFocus();
}

bool ReadingLine::eventFilter(QObject* watched, QEvent* event) {
    if (watched == field_ && (event->type() == QEvent::FocusIn || event->type() == QEvent::FocusOut))
        QMetaObject::invokeMethod(this, &ReadingLine::tell_asked, Qt::QueuedConnection);
    if (watched == field_ && event->type() == QEvent::KeyPress) {
        switch (static_cast<QKeyEvent*>(event)->key()) {
        case Qt::Key_PageUp:
            back();
            return true;
        case Qt::Key_PageDown:
            skip();
            return true;
        case Qt::Key_Escape:
            field_->clear();
            return true;
        default:
            break;
        }
    }
    return QWidget::eventFilter(watched, event);
}

void ReadingLine::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), context_.palette().panel);
    painter.fillRect(QRect(0, 0, width(), 1), context_.palette().hairline);
}

} // namespace pallix::ui
