// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/cylinders/hone_page.h"

#include "block/ledger.h"
#include "block/reading_text.h"
#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/common/assessment.h"

#include "ui/frame/choice.h"

#include "ui/cylinders/stock_grid.h"
#include "ui/frame/echo.h"
#include "ui/frame/figure_form.h"
#include "ui/frame/plain_label.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/readings/readings.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QTimer>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

using Kind = FigureForm::Kind;

namespace {

constexpr double matching_temperatures = 2; // K, beyond which it is said (common practice, no source)

/// "150 stone 0.040; 220 stone 0.015": each grit with what it leaves.
QString steps_text(const block::HonePlanChosen& plan, const wording::LengthText& l) {
    QStringList steps;
    for (const auto& s : plan.steps)
        steps << qt(s.grit) + QLatin1Char(' ') + qt(l.plain(s.leaves));
    return steps.join(QStringLiteral("; "));
}

/// @return nothing where a part has no length at its end
std::optional<std::vector<block::HonePlanChosen::Step>> steps_from(const QString& text, block::Unit unit,
                                                                   block::Abrasive abrasive) {
    std::vector<block::HonePlanChosen::Step> steps;
    for (const QString& part : text.split(QLatin1Char(';'), Qt::SkipEmptyParts)) {
        const QString step = part.trimmed();
        const auto space = step.lastIndexOf(QLatin1Char(' '));
        const auto leaves = space > 0 ? block::read_length(step.mid(space + 1).toStdString(), unit)
                                      : tl::expected<double, std::string>(tl::unexpected(std::string()));
        if (!leaves)
            return std::nullopt;
        const std::string grit = step.left(space).trimmed().toStdString();
        steps.push_back({grit, grit.find("brush") == std::string::npos ? abrasive : block::Abrasive::brush, *leaves});
    }
    return steps;
}

} // namespace

HonePage::HonePage(Context context, QWidget* parent)
    : QWidget(parent), context_(context), grid_(new StockGrid(context, this)), words_(new PlainLabel(this)),
      name_(new PlainLabel(this)), strokes_(new QLineEdit(this)), load_(new QLineEdit(this)),
      step_(new QComboBox(this)), log_(new QPushButton(tr("&Log the honing"), this)),
      rest_(new QPushButton(tr("&Rest"), this)), minutes_(new QLineEdit(this)), clock_(new PlainLabel(this)),
      timer_(new QTimer(this)), ticks_(new QComboBox(this)), reading_(new QLineEdit(this)), seen_(new QLineEdit(this)),
      form_(new FigureForm(context, this)), abrasive_(new QComboBox(this)), counted_(new QComboBox(this)),
      hatch_(new PlainLabel(this)), steps_(new QLineEdit(this)),
      echo_(new Echo(context, QStringLiteral("hone-echo"), this)) {
    words_->setObjectName(QStringLiteral("hone-words"));
    words_->setWordWrap(true);
    abrasive_->setObjectName(QStringLiteral("abrasive"));
    abrasive_->setAccessibleName(tr("abrasive"));
    add_choice(abrasive_, block::Abrasive::vitrified, qt(wording::abrasive_name(block::Abrasive::vitrified)));
    add_choice(abrasive_, block::Abrasive::diamond, qt(wording::abrasive_name(block::Abrasive::diamond)));
    counted_->setObjectName(QStringLiteral("counted"));
    counted_->setAccessibleName(tr("what counts as one stroke"));
    add_choice(counted_, true, tr("there and back"));
    add_choice(counted_, false, tr("one way"));
    form_->add_widget(0, 0, tr("abrasive"), abrasive_);
    form_->add(0, 1, tr("rev/min"), "hone-speed", Kind::number);
    form_->add(0, 2, tr("stroke"), "hone-stroke", Kind::length);
    form_->add(0, 3, tr("strokes/min"), "hone-rate", Kind::number);
    form_->add_widget(1, 0, tr("a stroke is"), counted_);
    form_->add(1, 1, tr("wanted, °"), "hone-angle", Kind::number,
               tr("Cross-hatch wanted: tells the strokes per minute for it"));
    auto* keep = new QPushButton(tr("&Keep the plan"), this);
    keep->setObjectName(QStringLiteral("keep-hone-plan"));
    form_->add_widget(1, 3, QString(), keep);
    steps_->setObjectName(QStringLiteral("hone-steps"));
    steps_->setAccessibleName(tr("grits, each with what it leaves"));
    steps_->setToolTip(tr("Each grit and the stock it leaves for the next, with semicolons between"));
    hatch_->setObjectName(QStringLiteral("cross-hatch"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(grid_, 1);
    column->addWidget(words_);
    column->addWidget(build_log_row());
    column->addWidget(form_);
    auto* grits = new QHBoxLayout;
    grits->addWidget(new PlainLabel(tr("grits"), this));
    grits->addWidget(steps_, 1);
    column->addLayout(grits);
    column->addWidget(hatch_);
    column->addWidget(echo_);
    setFocusProxy(grid_);
    timer_->setInterval(1000);
    connect(timer_, &QTimer::timeout, this, &HonePage::tell_rest);
    connect(grid_, &StockGrid::pointed_at, this, &HonePage::marked);
    connect(log_, &QPushButton::clicked, this, &HonePage::log_honing);
    connect(strokes_, &QLineEdit::returnPressed, this, &HonePage::log_honing);
    connect(keep, &QPushButton::clicked, this, &HonePage::keep_plan);
    connect(form_, &FigureForm::entered, this, &HonePage::keep_plan);
    connect(form_->field("hone-angle"), &QLineEdit::textChanged, this, &HonePage::fill_words);
    connect(steps_, &QLineEdit::returnPressed, this, &HonePage::keep_plan);
    connect(rest_, &QPushButton::clicked, this, [this] {
        bool fine = true;
        const auto minutes = echo_->number_in(minutes_, fine);
        if (fine &&
            echo_->took(context_.session.take(planning::rest_begun(context_.session.now(), minutes.value_or(0)))))
            echo_->say(tr("The block rests. Sizes read before, or while it does, do not count."));
    });
}

QWidget* HonePage::build_log_row() {
    auto* rows = new QWidget(this);
    auto* column = new QVBoxLayout(rows);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    auto* first = new QHBoxLayout;
    auto* second = new QHBoxLayout;
    const auto field = [this](QHBoxLayout* row, QLineEdit* edit, const char* id, const QString& label, int wide) {
        edit->setObjectName(QString::fromLatin1(id));
        edit->setAccessibleName(label);
        edit->setFixedWidth(wide);
        row->addWidget(new PlainLabel(label, this));
        row->addWidget(edit);
    };
    name_->setObjectName(QStringLiteral("hone-name"));
    name_->setFont(font_of(Type::text, true));
    first->addWidget(name_);
    field(first, strokes_, "hone-strokes", tr("strokes"), 60);
    step_->setObjectName(QStringLiteral("hone-step"));
    step_->setAccessibleName(tr("grit"));
    first->addWidget(step_);
    field(first, load_, "hone-load", tr("load, %"), 52);
    load_->setToolTip(tr("What the hone's meter showed: even load and feed keep the wall from springing"));
    log_->setObjectName(QStringLiteral("log-hone"));
    first->addWidget(log_);
    first->addStretch();
    first->addWidget(clock_);
    clock_->setObjectName(QStringLiteral("rest-clock"));
    clock_->setFont(font_of(Type::number, true));
    second->addWidget(new PlainLabel(tr("edges"), this));
    ticks_->setObjectName(QStringLiteral("bore-ticks"));
    ticks_->setAccessibleName(tr("step of the marked bore"));
    ticks_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    ticks_->setMinimumContentsLength(10);
    second->addWidget(ticks_);
    field(second, reading_, "tick-reading", tr("reading"), 64);
    field(second, seen_, "tick-seen", tr("or seen"), 84);
    auto* done = new QPushButton(tr("&Tick"), this);
    done->setObjectName(QStringLiteral("tick-bore"));
    second->addWidget(done);
    second->addStretch();
    field(second, minutes_, "rest-minutes", tr("rest, min"), 44);
    rest_->setObjectName(QStringLiteral("start-rest"));
    second->addWidget(rest_);
    connect(done, &QPushButton::clicked, this, &HonePage::tick);
    column->addLayout(first);
    column->addLayout(second);
    return rows;
}

const planning::HoneBore* HonePage::bore() const {
    const auto& work = context_.session.assessment().cylinders;
    if (!work || !bore_)
        return nullptr;
    const auto found = std::ranges::find(work->hone.bores, *bore_, &planning::HoneBore::id);
    return found == work->hone.bores.end() ? nullptr : &*found;
}

void HonePage::show_bore(const std::optional<block::FeatureId>& bore) {
    bore_ = bore;
    grid_->mark(bore);
    grid_->refresh();
    if (!intake_of(context_.session.state()).blueprint)
        return;
    fill_plan();
    fill_words();
    tell_rest();
}

void HonePage::fill_plan() {
    const auto& state = context_.session.state();
    const auto plan = planning::hone_plan_of(state);
    form_->fill({{"hone-speed", plan.speed}, {"hone-stroke", plan.stroke}, {"hone-rate", plan.rate}});
    name_->setText(bore_ ? short_name(context_, *bore_) : QString());
    const std::string from = block::payload_json(plan) + context_.lengths().unit_name() +
                             std::to_string(context_.session.job().value_or(0)) +
                             std::to_string(bores_of(state).bores_cut.size()) + (bore_ ? bore_->text() : "");
    const auto* marked = bore();
    const std::optional<std::size_t> due = marked ? marked->step : std::nullopt;
    if (from == filled_for_) {
        if (due && due != proposed_) // readings have brought the next grit
            step_->setCurrentIndex(static_cast<int>(*due));
        proposed_ = due;
        return;
    }
    filled_for_ = from;
    proposed_ = due;
    steps_->setText(steps_text(plan, context_.lengths()));
    step_->clear();
    for (const auto& s : plan.steps)
        step_->addItem(qt(s.grit));
    if (due)
        step_->setCurrentIndex(static_cast<int>(*due));
    set_choice(abrasive_, plan.steps.front().abrasive == block::Abrasive::diamond ? block::Abrasive::diamond
                                                                                  : block::Abrasive::vitrified);
    set_choice(counted_, plan.there_and_back);
    ticks_->clear();
    for (const std::string& s : planning::bore_steps())
        ticks_->addItem(qt(s));
    const auto& work = context_.session.assessment().cylinders;
    if (minutes_->text().isEmpty() && work)
        minutes_->setText(QString::number(work->hone.rest_minutes > 0 ? work->hone.rest_minutes : 30));
}

void HonePage::fill_words() {
    const auto& state = context_.session.state();
    if (!intake_of(state).blueprint)
        return;
    const auto l = context_.lengths();
    const auto plan = planning::hone_plan_of(state);
    QStringList words;
    if (const auto* b = bore()) {
        words << tr("Finish %1 to %2.").arg(qt(l.plain(b->sizes.finish)), qt(l.with_unit(b->sizes.finish_most)));
        if (b->measured)
            words << qt(wording::shape_sentence(*b, l));
        if (b->step)
            words << tr("Now %1, until %2 is left.")
                         .arg(qt(plan.steps[*b->step].grit), qt(l.with_unit(plan.steps[*b->step].leaves)));
        if (b->honed && !b->rested)
            words << tr("Aluminium: what is read now is warm.");
        const auto& c = readings_of(state).conditions;
        if (c.part_c && c.gauge_c && std::abs(*c.part_c - *c.gauge_c) > matching_temperatures)
            words << tr("Block %1 °C, gauge %2 °C: sizes are brought to 20 °C, better wait until the two match.")
                         .arg(*c.part_c, 0, 'f', 1)
                         .arg(*c.gauge_c, 0, 'f', 1);
    }
    if (bore_)
        for (const auto& s : bores_of(state).bore(*bore_).steps)
            words << qt(wording::entry_words(s.payload, l)) + QLatin1Char('.');
    words_->setText(words.join(QLatin1Char(' ')));
    const double size = bore() ? bore()->sizes.finish
                        : intake_of(state).blueprint->bores.empty()
                            ? 100
                            : intake_of(state).blueprint->bores.front().diameter.nominal;
    const planning::HoneMotion motion{size, plan.speed, plan.stroke, plan.rate, plan.there_and_back};
    QString hatch = tr("Cross-hatch %1° at %2 rev/min and %3 strokes a minute.")
                        .arg(planning::cross_hatch(motion) / block::radians_per_degree, 0, 'f', 0)
                        .arg(plan.speed, 0, 'f', 0)
                        .arg(plan.rate, 0, 'f', 0);
    const auto wanted = block::read_number(form_->field("hone-angle")->text().toStdString(), {"°"});
    if (wanted && *wanted > 0 && *wanted < 170)
        hatch += tr(" For %1°: %2 strokes a minute.")
                     .arg(*wanted, 0, 'f', 0)
                     .arg(planning::rate_for_cross_hatch(motion, *wanted * block::radians_per_degree), 0, 'f', 0);
    hatch_->setText(hatch);
}

void HonePage::tell_rest() {
    const double left = context_.session.rest_left();
    if (left <= 0) {
        timer_->stop();
        clock_->setText(bores_of(context_.session.state()).rest ? tr("rested") : QString());
        return;
    }
    const int seconds = static_cast<int>(std::ceil(left * 60));
    clock_->setText(tr("resting, %1:%2 left").arg(seconds / 60).arg(seconds % 60, 2, 10, QLatin1Char('0')));
    if (!timer_->isActive())
        timer_->start();
}

void HonePage::keep_plan() {
    const auto figures = form_->read(*echo_);
    if (!figures)
        return;
    const auto old = planning::hone_plan_of(context_.session.state());
    const auto abrasive = choice_in<block::Abrasive>(abrasive_);
    block::HonePlanChosen plan = old;
    if (old.steps.front().abrasive != abrasive) {
        plan.steps = planning::usual_hone_plan(abrasive, 100).steps;
    } else if (steps_->text() != steps_text(old, context_.lengths())) { // else all digits stay as they were
        const auto steps = steps_from(steps_->text(), context_.preferences.unit(), abrasive);
        if (!steps) {
            steps_->setFocus();
            return echo_->complain(tr("Grits: each with what it leaves, as in “220 stone 0.015; brush 0”."));
        }
        plan.steps = *steps;
    }
    plan.speed = figures->at("hone-speed").value_or(0);
    plan.stroke = figures->at("hone-stroke").value_or(0);
    plan.rate = figures->at("hone-rate").value_or(0);
    plan.there_and_back = choice_in<bool>(counted_);
    if (echo_->took(context_.session.take(plan)))
        echo_->say(tr("Kept."));
}

void HonePage::log_honing() {
    const auto* b = bore();
    if (!b)
        return echo_->complain(tr("Mark a bore first: click it."));
    bool fine = true;
    const auto strokes = echo_->number_in(strokes_, fine);
    const auto load = fine ? echo_->number_in(load_, fine) : std::nullopt;
    if (!fine)
        return;
    if (!strokes || *strokes < 1)
        return echo_->complain(tr("Type how many strokes it was."));
    const block::BoreCut cut{b->id,
                             block::BoreOperation::hone,
                             b->sizes.finish,
                             {},
                             false,
                             static_cast<int>(std::lround(*strokes)),
                             step_->currentText().toStdString(),
                             load,
                             ""};
    if (!echo_->took(context_.session.take(cut)))
        return;
    strokes_->clear();
    QString said = tr("Logged. Measure top, middle and bottom: Ctrl+R asks for them.");
    if (load && *load > 70)
        said += tr(" A load over 70 % springs and warms the wall.");
    echo_->say(said);
}

void HonePage::tick() {
    if (!bore_)
        return echo_->complain(tr("Mark a bore first: click it."));
    bool fine = true;
    const auto reading = echo_->length_in(reading_, fine);
    if (!fine)
        return;
    if (!reading && seen_->text().trimmed().isEmpty())
        return echo_->complain(tr("A reading, or what was seen: a tick alone proves nothing."));
    const auto steps = planning::bore_steps();
    const block::BoreStepDone done{*bore_, steps[static_cast<std::size_t>(std::max(0, ticks_->currentIndex()))],
                                   reading, seen_->text().trimmed().toStdString()};
    if (!echo_->took(context_.session.take(done)))
        return;
    reading_->clear();
    ticks_->setCurrentIndex((ticks_->currentIndex() + 1) % ticks_->count());
    echo_->say(tr("Ticked."));
}

void HonePage::take_focus() {
    strokes_->setFocus();
    strokes_->selectAll();
}

} // namespace pallix::ui
