// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/instrument_dialog.h"
#include "block/reading_text.h"

#include "block/shorthand.h"
#include "block/state/readings_state.h"
#include "metrology/uncertainty.h"
#include "session/study_results.h"
#include "session/wall_time.h"
#include "ui/dialogs/instrument_history.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"
#include "wording/readings/care_words.h"
#include "wording/readings/readings.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QRegularExpression>
#include <QTabWidget>
#include <QVBoxLayout>
#include <cmath>

namespace pallix::ui {

using block::Instrument;
using block::InstrumentKind;

namespace {

bool is_plain(InstrumentKind kind) { // not a length
    return kind == InstrumentKind::thermometer || kind == InstrumentKind::precision_level ||
           kind == InstrumentKind::burette;
}

QPushButton* button(const QString& text, QWidget* parent) {
    auto* b = new QPushButton(text, parent);
    b->setAutoDefault(false);
    return b;
}

} // namespace

InstrumentDialog::InstrumentDialog(Context context, const QString& marked, QWidget* parent)
    : QDialog(parent), context_(context), list_(new QListWidget(this)), pages_(new QTabWidget(this)),
      echo_(new PlainLabel(this)) {
    set_explained(this, QStringLiteral("page-instruments"));
    setWindowTitle(tr("Instruments"));
    resize(980, 680);
    list_->setObjectName(QStringLiteral("instruments"));
    list_->setAccessibleName(tr("instruments of the shop"));
    list_->setFixedWidth(230);
    auto* left = new QVBoxLayout;
    left->addWidget(list_, 1);
    auto* fresh = button(tr("&New"), this);
    auto* gone = button(tr("&Remove"), this);
    auto* below = new QHBoxLayout;
    below->addWidget(fresh);
    below->addWidget(gone);
    left->addLayout(below);
    auto* right = new QVBoxLayout;
    auto* what_it_is = new QWidget(this);
    what_it_is->setLayout(build_form());
    pages_->addTab(what_it_is, tr("What it is"));
    pages_->addTab(build_history(), tr("History"));
    right->addWidget(pages_, 1);
    echo_->setWordWrap(true);
    echo_->setObjectName(QStringLiteral("instrument-echo"));
    right->addWidget(echo_);
    auto* keep = button(tr("&Save"), this);
    keep->setObjectName(QStringLiteral("instrument-save"));
    auto* close = button(tr("Close"), this);
    auto* foot = new QHBoxLayout;
    foot->addStretch();
    foot->addWidget(keep);
    foot->addWidget(close);
    right->addLayout(foot);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 16, 16, 16);
    row->setSpacing(24);
    row->addLayout(left);
    row->addLayout(right, 1);
    connect(list_, &QListWidget::currentRowChanged, this, &InstrumentDialog::show_marked);
    connect(fresh, &QPushButton::clicked, this, &InstrumentDialog::make_new);
    connect(gone, &QPushButton::clicked, this, &InstrumentDialog::remove);
    connect(keep, &QPushButton::clicked, this, &InstrumentDialog::save);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    fill_list(marked);
    uncertainty_->setFocus();
}

QLineEdit* InstrumentDialog::field(const char* name, const QString& hint, void (InstrumentDialog::*entered)()) {
    auto* edit = new QLineEdit(this);
    edit->setObjectName(QString::fromLatin1(name));
    edit->setPlaceholderText(hint);
    connect(edit, &QLineEdit::returnPressed, this, entered);
    return edit;
}

QFormLayout* InstrumentDialog::build_form() {
    auto* form = new QFormLayout;
    form->setVerticalSpacing(8);
    const auto add = [&](const QString& label, const char* name, const QString& hint) {
        QLineEdit* edit = field(name, hint, &InstrumentDialog::save);
        form->addRow(label, edit);
        return edit;
    };
    name_ = add(tr("Na&me"), "instrument-name", tr("as the shop calls it"));
    kind_ = new QComboBox(this);
    kind_->setObjectName(QStringLiteral("instrument-kind"));
    for (std::size_t k = 0; k < block::instrument_kinds; ++k)
        kind_->addItem(qt(wording::instrument_kind_name(static_cast<InstrumentKind>(k))), static_cast<int>(k));
    form->addRow(tr("&Kind"), kind_);
    resolution_ = add(tr("R&esolution"), "instrument-resolution", tr("one step of its dial: 0.5 thou, 1 µm"));
    uncertainty_ = add(tr("Standard &uncertainty"), "instrument-uncertainty",
                       tr("of one reading, from its last check; empty: no verdicts"));
    turn_ = add(tr("One &turn of the dial"), "instrument-turn", tr("empty without a dial"));
    last_check_ = add(tr("&Last check"), "instrument-check", tr("2026-03-01"));
    check_days_ = add(tr("&Days from check to check"), "instrument-check-days", tr("empty: as you see fit"));
    zero_ = add(tr("&Zero is at"), "instrument-zero", tr("the size it reads 0 at"));
    zero_on_ = add(tr("Zero set &on"), "instrument-zero-on", tr("ring, micrometer, master"));
    clockwise_ = new QComboBox(this);
    clockwise_->setObjectName(QStringLiteral("instrument-clockwise"));
    clockwise_->addItems({tr("not stated"), tr("is smaller"), tr("is larger")});
    form->addRow(tr("Cl&ockwise on its dial"), clockwise_);
    angle_ = add(tr("Lever's an&gle, degrees"), "instrument-angle", tr("against the surface it follows"));
    auto* zeroed = button(tr("It was zeroed &just now"), this);
    zeroed->setObjectName(QStringLiteral("instrument-zero-now"));
    connect(zeroed, &QPushButton::clicked, this, &InstrumentDialog::zero_now);
    form->addRow(QString(), zeroed);
    return form;
}

QWidget* InstrumentDialog::build_history() {
    auto* page = new QWidget(this);
    drawing_ = new InstrumentHistoryDrawing(context_, this);
    events_ = new QListWidget(this);
    events_->setObjectName(QStringLiteral("instrument-events"));
    events_->setAccessibleName(tr("what happened to it, the newest first"));
    events_->setWordWrap(true);
    record_ = new PlainLabel(this);
    record_->setObjectName(QStringLiteral("instrument-record"));
    record_->setWordWrap(true);
    ring_size_ = field("ring-size", tr("size of the ring"), &InstrumentDialog::check_on_ring);
    ring_reading_ = field("ring-reading", tr("what it made of it"), &InstrumentDialog::check_on_ring);
    repeats_ = field("repeats", tr("five or more readings of one place, spaces between"),
                     &InstrumentDialog::test_repeatability);
    repair_ = field("repair", tr("what was done to it"), &InstrumentDialog::log_repair);
    auto* log_check = button(tr("Log the &check"), this);
    auto* log_repeats = button(tr("Log the te&st"), this);
    auto* log_repair = button(tr("Log the re&pair"), this);
    auto* form = new QFormLayout;
    const auto side_by_side = [&](const QString& label, std::initializer_list<QWidget*> widgets) {
        auto* row = new QHBoxLayout;
        for (QWidget* w : widgets)
            row->addWidget(w);
        form->addRow(label, row);
    };
    side_by_side(tr("Check on a known size"), {ring_size_, ring_reading_, log_check});
    side_by_side(tr("Repeatability"), {repeats_, log_repeats});
    side_by_side(tr("Repair"), {repair_, log_repair});
    connect(log_check, &QPushButton::clicked, this, &InstrumentDialog::check_on_ring);
    connect(log_repeats, &QPushButton::clicked, this, &InstrumentDialog::test_repeatability);
    connect(log_repair, &QPushButton::clicked, this, &InstrumentDialog::log_repair);
    auto* column = new QVBoxLayout(page);
    column->addWidget(record_);
    column->addWidget(drawing_, 3);
    column->addWidget(events_, 2);
    column->addLayout(form);
    return page;
}

void InstrumentDialog::show_history_page() {
    pages_->setCurrentIndex(1);
}

void InstrumentDialog::show_history(const Instrument& i) {
    context_.instruments.forget_histories(); // ledgers may have changed since
    const planning::InstrumentRecord record = context_.instruments.record(i);
    const block::InstrumentHistory& history = context_.instruments.history(i.name);
    record_->setText(qt(wording::record_sentence(record, context_.lengths())));
    drawing_->show_history(i, history, record);
    events_->clear();
    for (auto event = history.rbegin(); event != history.rend(); ++event) {
        QString said =
            tr("%1  %2").arg(session::wall_time(event->time), qt(wording::event_words(*event, context_.lengths())));
        if (const auto study = session::study_result(context_.session.book(), *event))
            said += QStringLiteral(". ") + qt(wording::study_sentence(*study, context_.lengths()));
        if (!event->person.empty())
            said += QStringLiteral(" · ") + qt(event->person);
        events_->addItem(said);
    }
}

void InstrumentDialog::fill_list(const QString& marked) {
    list_->clear();
    for (const Instrument& i : context_.instruments.instruments()) {
        auto* item = new QListWidgetItem(qt(i.name), list_);
        const planning::InstrumentRecord record = context_.instruments.record(i);
        item->setToolTip(plain_tip(qt(wording::due_words(record))));
        if (record.overdue)
            item->setForeground(context_.palette().fails);
    }
    const auto found = list_->findItems(marked, Qt::MatchExactly);
    list_->setCurrentItem(found.isEmpty() ? list_->item(0) : found.front());
}

InstrumentKind InstrumentDialog::chosen_kind() const {
    return static_cast<InstrumentKind>(kind_->currentData().toInt());
}

namespace {

/// A number as it is, with the sign that people here write.
QString plain_text(double value) {
    return QString::number(value).replace(QLatin1Char('.'), QLatin1Char(wording::decimal_sign()));
}

} // namespace

QString InstrumentDialog::number_text(double value, InstrumentKind kind) const {
    return is_plain(kind) ? plain_text(value) : qt(context_.lengths().fine(value));
}

void InstrumentDialog::show_marked() {
    const QListWidgetItem* item = list_->currentItem();
    const Instrument* i = item ? context_.instruments.find(item->text().toStdString()) : nullptr;
    if (!i)
        return;
    const auto number = [&](double value) { return value == 0 ? QString() : number_text(value, i->kind); };
    name_->setText(qt(i->name));
    kind_->setCurrentIndex(kind_->findData(static_cast<int>(i->kind)));
    resolution_->setText(number(i->resolution));
    uncertainty_->setText(number(i->standard_uncertainty.value_or(0)));
    turn_->setText(number(i->turn));
    last_check_->setText(qt(i->last_check));
    zero_->setText(i->zero ? qt(context_.lengths().with_unit(*i->zero)) : QString());
    zero_on_->setText(qt(i->zero_set_on));
    clockwise_->setCurrentIndex(static_cast<int>(i->clockwise));
    angle_->setText(i->contact_angle == 0 ? QString() : plain_text(i->contact_angle / block::radians_per_degree));
    check_days_->setText(i->check_days == 0 ? QString() : QString::number(i->check_days));
    show_history(*i);
    say(qt(wording::instrument_words(*i, context_.lengths())), false);
}

void InstrumentDialog::make_new() {
    list_->setCurrentRow(-1);
    for (QLineEdit* edit : {name_, resolution_, uncertainty_, turn_, last_check_, check_days_, zero_, zero_on_, angle_})
        edit->clear();
    clockwise_->setCurrentIndex(0);
    name_->setFocus();
    say(tr("Give it a name, state what is known of it, and save."), false);
}

bool InstrumentDialog::read(QLineEdit* edit, InstrumentKind kind, std::optional<double>& value) {
    const QString text = edit->text().trimmed();
    value.reset();
    if (text.isEmpty())
        return true;
    if (is_plain(kind)) {
        const auto number = block::read_number(text.toStdString(), {"°c", "c", "mm/m"});
        if (number)
            value = *number;
        else
            say(qt(number.error()), true);
        return number.has_value();
    }
    const auto mm = block::read_length(text.toStdString(), context_.preferences.unit());
    if (mm)
        value = *mm;
    else
        say(qt(mm.error()), true);
    if (!mm)
        edit->setFocus();
    return mm.has_value();
}

void InstrumentDialog::save() {
    Instrument i;
    if (const Instrument* known = context_.instruments.find(name_->text().trimmed().toStdString()))
        i = *known; // what has no field stays
    const InstrumentKind kind = chosen_kind();
    std::optional<double> resolution, turn;
    if (!read(resolution_, kind, resolution) || !read(uncertainty_, kind, i.standard_uncertainty) ||
        !read(turn_, kind, turn) || !read(zero_, InstrumentKind::bore_gauge, i.zero))
        return;
    i.name = name_->text().trimmed().toStdString();
    i.kind = kind;
    i.resolution = resolution.value_or(0);
    i.turn = turn.value_or(0);
    i.last_check = last_check_->text().trimmed().toStdString();
    i.zero_set_on = zero_on_->text().trimmed().toStdString();
    i.clockwise = static_cast<block::DialSense>(clockwise_->currentIndex());
    if (const QString typed = angle_->text().trimmed(); typed.isEmpty()) {
        i.contact_angle = 0;
    } else if (const auto degrees = block::read_number(typed.toStdString(), {"°", "deg"})) {
        i.contact_angle = *degrees * block::radians_per_degree;
    } else {
        angle_->setFocus();
        return say(tr("The lever's angle: %1; expected degrees, such as 12.5.").arg(qt(degrees.error())), true);
    }
    if (const QString typed = check_days_->text().trimmed(); typed.isEmpty()) {
        i.check_days = 0;
    } else if (const auto days = block::read_number(typed.toStdString(), {"days", "day", "d"});
               days && *days >= 1 && *days <= 3660) {
        i.check_days = static_cast<int>(std::lround(*days));
    } else {
        check_days_->setFocus();
        return say(tr("Days from check to check are 1 to 3660, or nothing."), true);
    }
    const auto saved = context_.instruments.save(i);
    if (saved)
        fill_list(qt(i.name));
    say(saved, tr("Saved. Readings already taken keep what was known then."));
}

void InstrumentDialog::remove() {
    const QListWidgetItem* item = list_->currentItem();
    if (!item)
        return;
    const auto removed = context_.instruments.remove(item->text().toStdString());
    if (removed)
        fill_list({});
    say(removed, tr("Removed from the register; readings taken with it keep their copy."));
}

const Instrument* InstrumentDialog::marked() const {
    return context_.instruments.find(name_->text().trimmed().toStdString());
}

/// In the open job's ledger, where its readings may lean on it; with none open in the instrument's own history.
void InstrumentDialog::check_on_ring() {
    std::optional<double> size, reading;
    const Instrument* i = marked();
    if (!i)
        return say(tr("Save the instrument first."), true);
    if (!read(ring_size_, InstrumentKind::bore_gauge, size) || !size)
        return say(tr("The size of the ring is wanted first."), true);
    const block::Expected expected{*size, 0.5, context_.preferences.unit()};
    const auto understood = block::read_shorthand(ring_reading_->text().toStdString(), expected);
    if (!understood)
        return say(qt(understood.error()), true);
    block::InstrumentEvent event;
    event.instrument = i->name;
    event.what = block::InstrumentHappening::checked;
    event.size = *size;
    event.reading = understood->value;
    const bool in_job = context_.session.has_job();
    const auto logged = in_job ? context_.session.take(block::RingCheck{i->name, *size, understood->value})
                               : context_.instruments.note(event);
    if (logged) {
        ring_size_->clear();
        ring_reading_->clear();
        Instrument checked = *i;
        checked.last_check = context_.session.now().substr(0, 10);
        if (const auto saved = context_.instruments.save(checked); !saved)
            return say(saved, {});
        show_history(checked);
        last_check_->setText(qt(checked.last_check));
    }
    const QString reads = qt(context_.lengths().side_with_unit(understood->deviation, "too much", "too little"));
    say(logged,
        in_job
            ? tr("Logged: it reads %1. The drift since its last check is spread over the readings between.").arg(reads)
            : tr("Logged: it reads %1.").arg(reads));
}

void InstrumentDialog::test_repeatability() {
    const Instrument* i = marked();
    if (!i)
        return say(tr("Save the instrument first."), true);
    std::vector<double> readings;
    for (const QString& word :
         repeats_->text().split(QRegularExpression(QStringLiteral("[\\s;]+")), Qt::SkipEmptyParts)) {
        const auto mm = block::read_length(word.toStdString(), context_.preferences.unit());
        if (!mm)
            return say(qt(mm.error()), true);
        readings.push_back(*mm);
    }
    if (readings.size() < 2)
        return say(tr("At least two readings of one place are wanted, better five or more."), true);
    const auto found = metrology::repeatability(readings);
    block::InstrumentEvent event;
    event.instrument = i->name;
    event.what = block::InstrumentHappening::repeated;
    event.spread = found.standard_deviation;
    event.count = static_cast<std::int64_t>(found.count);
    const auto logged = context_.session.has_job()
                            ? context_.session.take(block::RepeatabilityTest{i->name, "one place", readings})
                            : context_.instruments.note(event);
    if (!logged)
        return say(logged, {});
    Instrument tested = *i;
    tested.repeatability = found.standard_deviation;
    tested.repeatability_readings = found.count;
    const auto saved = context_.instruments.save(tested);
    repeats_->clear();
    show_history(tested);
    say(saved, tr("Logged: one reading scatters by %1 (s of %2).")
                   .arg(qt(context_.lengths().fine(found.standard_deviation)))
                   .arg(found.count));
}

/// What was known of it before holds no longer.
void InstrumentDialog::log_repair() {
    const Instrument* i = marked();
    if (!i)
        return say(tr("Save the instrument first."), true);
    block::InstrumentEvent event;
    event.instrument = i->name;
    event.what = block::InstrumentHappening::repaired;
    event.words = repair_->text().trimmed().toStdString();
    if (event.words.empty())
        return say(tr("What was done to it is wanted first."), true);
    if (const auto noted = context_.instruments.note(event); !noted)
        return say(noted, {});
    Instrument repaired = *i;
    repaired.repeatability.reset();
    repaired.repeatability_readings = 0;
    const auto saved = context_.instruments.save(repaired);
    repair_->clear();
    show_history(repaired);
    say(saved, tr("Logged. Zero it anew and check it before it measures again; its last test no longer counts."));
}

void InstrumentDialog::zero_now() {
    const Instrument* i = marked();
    std::optional<double> at;
    if (!i)
        return say(tr("Save the instrument first."), true);
    if (!block::reads_from_zero(i->kind))
        return say(tr("It reads no deviations from a zero."), true);
    if (!read(zero_, InstrumentKind::bore_gauge, at) || !at)
        return say(tr("The size it reads 0 at is wanted first."), true);
    std::optional<double> celsius;
    if (context_.session.has_job())
        celsius = readings_of(context_.session.state()).conditions.gauge_c;
    const std::string name = i->name;
    const auto saved = context_.instruments.zero(*i, *at, zero_on_->text().trimmed().toStdString(), celsius);
    if (saved)
        fill_list(qt(name));
    say(saved, tr("It stands zeroed at %1 from now on.").arg(qt(context_.lengths().with_unit(*at))));
}

void InstrumentDialog::say(const QString& text, bool fault) {
    QPalette p = echo_->palette();
    p.setColor(QPalette::WindowText, fault ? context_.palette().fails : context_.palette().quiet);
    echo_->setPalette(p);
    echo_->setText(text);
}

void InstrumentDialog::say(const session::Outcome& outcome, const QString& done) {
    say(outcome ? done : qt(outcome.error().front().text()), !outcome);
}

} // namespace pallix::ui
