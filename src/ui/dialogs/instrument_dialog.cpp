// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/instrument_dialog.h"
#include "block/reading_text.h"

#include "block/shorthand.h"
#include "metrology/uncertainty.h"
#include "ui/frame/plain_label.h"
#include "wording/readings/readings.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QRegularExpression>
#include <QVBoxLayout>

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
    : QDialog(parent), context_(context), list_(new QListWidget(this)), echo_(new PlainLabel(this)) {
    setWindowTitle(tr("Instruments"));
    resize(880, 600);
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
    right->addLayout(build_form());
    right->addStretch();
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
    zero_ = add(tr("&Zero is at"), "instrument-zero", tr("the size it reads 0 at"));
    zero_on_ = add(tr("Zero set &on"), "instrument-zero-on", tr("ring, micrometer, master"));
    clockwise_ = new QComboBox(this);
    clockwise_->setObjectName(QStringLiteral("instrument-clockwise"));
    clockwise_->addItems({tr("not stated"), tr("is smaller"), tr("is larger")});
    form->addRow(tr("Cl&ockwise on its dial"), clockwise_);
    angle_ = add(tr("Lever's an&gle, degrees"), "instrument-angle", tr("against the surface it follows"));
    ring_size_ = field("ring-size", tr("size of the ring"), &InstrumentDialog::check_on_ring);
    ring_reading_ = field("ring-reading", tr("what it made of it"), &InstrumentDialog::check_on_ring);
    repeats_ = field("repeats", tr("five or more readings of one place, spaces between"),
                     &InstrumentDialog::test_repeatability);
    auto* log_check = button(tr("Log the &check"), this);
    auto* log_repeats = button(tr("Log the te&st"), this);
    const auto side_by_side = [&](const QString& label, std::initializer_list<QWidget*> widgets) {
        auto* row = new QHBoxLayout;
        for (QWidget* w : widgets)
            row->addWidget(w);
        form->addRow(label, row);
    };
    side_by_side(tr("Check on a known size"), {ring_size_, ring_reading_, log_check});
    side_by_side(tr("Repeatability"), {repeats_, log_repeats});
    connect(log_check, &QPushButton::clicked, this, &InstrumentDialog::check_on_ring);
    connect(log_repeats, &QPushButton::clicked, this, &InstrumentDialog::test_repeatability);
    return form;
}

void InstrumentDialog::fill_list(const QString& marked) {
    list_->clear();
    for (const Instrument& i : context_.instruments.instruments())
        list_->addItem(qt(i.name));
    const auto found = list_->findItems(marked, Qt::MatchExactly);
    list_->setCurrentItem(found.isEmpty() ? list_->item(0) : found.front());
}

InstrumentKind InstrumentDialog::chosen_kind() const {
    return static_cast<InstrumentKind>(kind_->currentData().toInt());
}

QString InstrumentDialog::number_text(double value, InstrumentKind kind) const {
    return is_plain(kind) ? QString::number(value) : qt(context_.lengths().fine(value));
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
    angle_->setText(i->contact_angle == 0 ? QString() : QString::number(i->contact_angle / block::radians_per_degree));
    say(qt(wording::instrument_words(*i, context_.lengths())), false);
}

void InstrumentDialog::make_new() {
    list_->setCurrentRow(-1);
    for (QLineEdit* edit : {name_, resolution_, uncertainty_, turn_, last_check_, zero_, zero_on_, angle_})
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

void InstrumentDialog::check_on_ring() {
    std::optional<double> size, reading;
    if (!read(ring_size_, InstrumentKind::bore_gauge, size) || !size)
        return say(tr("The size of the ring is wanted first."), true);
    const block::Expected expected{*size, 0.5, context_.preferences.unit()};
    const auto understood = block::read_shorthand(ring_reading_->text().toStdString(), expected);
    if (!understood)
        return say(qt(understood.error()), true);
    const auto logged =
        context_.session.take(block::RingCheck{name_->text().trimmed().toStdString(), *size, understood->value});
    if (logged) {
        ring_size_->clear();
        ring_reading_->clear();
    }
    say(logged, tr("Logged: it reads %1. The drift since its last check is spread over the readings between.")
                    .arg(qt(context_.lengths().side_with_unit(understood->deviation, "too much", "too little"))));
}

void InstrumentDialog::test_repeatability() {
    const Instrument* i = context_.instruments.find(name_->text().trimmed().toStdString());
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
    auto logged = context_.session.take(block::RepeatabilityTest{i->name, "one place", readings});
    if (!logged)
        return say(logged, {});
    const auto found = metrology::repeatability(readings);
    Instrument tested = *i;
    tested.repeatability = found.standard_deviation;
    tested.repeatability_readings = found.count;
    const auto saved = context_.instruments.save(tested);
    repeats_->clear();
    say(saved, tr("Logged: one reading scatters by %1 (s of %2).")
                   .arg(qt(context_.lengths().fine(found.standard_deviation)))
                   .arg(found.count));
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
