// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/lifters/lifter_work_page.h"

#include "block/ledger.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "ui/frame/choice.h"

#include "ui/frame/echo.h"
#include "ui/frame/figure_form.h"
#include "ui/frame/plain_label.h"
#include "ui/frame/plain_table.h"
#include "ui/lifters/timing_fan.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/lifters/lifter_words.h"
#include "wording/readings/readings.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

using Kind = FigureForm::Kind;

LifterWorkPage::LifterWorkPage(Context context, QWidget* parent)
    : QWidget(parent), context_(context),
      table_(new PlainTable(QStringLiteral("lifter-work"), tr("lifter bores and what becomes of them"),
                            {tr("lifter"), tr("plan"), tr("why"), tr("stands"), tr("size"), tr("clearance"),
                             tr("across"), tr("timing"), tr("next, to")},
                            4, this)),
      fan_(new TimingFan(context, this)), words_(new PlainLabel(this)), name_(new PlainLabel(this)),
      operation_(new QComboBox(this)), to_(new QLineEdit(this)), choice_(new QComboBox(this)),
      why_(new QLineEdit(this)), form_(new FigureForm(context, this)), school_(new QComboBox(this)),
      follower_(new QComboBox(this)), turns_(new QComboBox(this)), keyed_(new QCheckBox(tr("keyed bushes"), this)),
      echo_(new Echo(context, QStringLiteral("lifter-echo"), this)) {
    words_->setObjectName(QStringLiteral("lifter-words"));
    words_->setWordWrap(true);
    name_->setObjectName(QStringLiteral("lifter-name"));
    name_->setFont(font_of(Type::text, true));
    const auto name = [](QWidget* w, const char* id, const QString& spoken) {
        w->setObjectName(QString::fromLatin1(id));
        w->setAccessibleName(spoken);
    };
    name(operation_, "lifter-operation", tr("what is done"));
    name(to_, "lifter-to", tr("to this size"));
    name(choice_, "lifter-choice", tr("what becomes of the marked lifter bore"));
    name(why_, "lifter-why", tr("why"));
    name(school_, "lifter-school", tr("school"));
    name(follower_, "follower", tr("kind of lifter"));
    name(turns_, "cam-turns", tr("way the cam turns"));
    keyed_->setObjectName(QStringLiteral("keyed"));
    for (const auto o : {block::BoreOperation::rough, block::BoreOperation::finish, block::BoreOperation::hone})
        add_choice(operation_, o, qt(wording::operation_name(o)));
    for (const auto c : {block::LifterChoice::leave, block::LifterChoice::hone, block::LifterChoice::bush})
        add_choice(choice_, c, qt(wording::lifter_choice_name(c)));
    for (const auto s : {block::LifterSchool::bush_all, block::LifterSchool::in_limits})
        add_choice(school_, s, qt(wording::lifter_school_name(s)));
    for (QComboBox* box : {school_, follower_, turns_}) {
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(12);
    }
    add_choice(follower_, block::Follower::roller, tr("roller"));
    add_choice(follower_, block::Follower::flat, tr("flat-faced"));
    add_choice(turns_, true, tr("top to the left"));
    add_choice(turns_, false, tr("top to the right"));
    turns_->setToolTip(tr("Seen from the rear: tells early from late"));
    form_->add_widget(0, 0, tr("school"), school_);
    form_->add(0, 1, tr("lifters"), "lifter-size", Kind::length, tr("Diameter of the lifters on hand"));
    form_->add(0, 2, tr("clearance, least"), "lifter-least", Kind::length);
    form_->add(0, 3, tr("most"), "lifter-most", Kind::length);
    form_->add(1, 0, tr("off place, most"), "lifter-position", Kind::length,
               tr("Further off its place it is bushed; empty: its place does not ask for it"));
    form_->add(1, 1, tr("bush outside"), "bush-outside", Kind::length);
    form_->add(1, 2, tr("interference"), "bush-interference", Kind::length,
               tr("The shop's number: shops differ, there is no usual one"));
    form_->add_widget(1, 3, QString(), keyed_);
    form_->add_widget(2, 0, tr("lifter is"), follower_);
    form_->add(2, 1, tr("base radius"), "base-radius", Kind::length, tr("Of the cam's base circle"));
    form_->add(2, 2, tr("roller radius"), "roller-radius", Kind::length);
    form_->add(2, 3, tr("key, °"), "key-angle", Kind::degrees, tr("Index of a keyed bush, from the front towards +v"));
    form_->add_widget(3, 0, tr("cam turns"), turns_);
    form_->add(3, 2, tr("bush height"), "bush-height", Kind::length, tr("Of its top over the boss"));
    auto* keep = new QPushButton(tr("&Keep the plan"), this);
    keep->setObjectName(QStringLiteral("keep-lifter-plan"));
    form_->add_widget(3, 3, QString(), keep);
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    to_->setFixedWidth(84);
    why_->setPlaceholderText(tr("why"));
    auto* log = new QPushButton(tr("&Log it"), this);
    log->setObjectName(QStringLiteral("log-lifter"));
    auto* pressed = new QPushButton(tr("Bush is &in"), this);
    pressed->setObjectName(QStringLiteral("bush-in"));
    auto* decide = new QPushButton(tr("&Decide"), this);
    decide->setObjectName(QStringLiteral("decide-lifter"));
    row->addWidget(name_);
    row->addWidget(operation_);
    row->addWidget(new PlainLabel(tr("to"), this));
    for (QWidget* w : std::initializer_list<QWidget*>{to_, log, pressed})
        row->addWidget(w);
    row->addStretch();
    for (QWidget* w : std::initializer_list<QWidget*>{choice_, why_, decide})
        row->addWidget(w);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(table_);
    column->addWidget(fan_);
    column->addWidget(words_);
    column->addLayout(row);
    column->addStretch();
    column->addWidget(form_);
    column->addWidget(echo_);
    setFocusProxy(table_);
    connect(table_, &PlainTable::currentCellChanged, this, [this](int r) {
        if (r >= 0 && r < static_cast<int>(rows_.size()))
            Q_EMIT marked(rows_[static_cast<std::size_t>(r)]);
    });
    connect(keep, &QPushButton::clicked, this, &LifterWorkPage::keep_plan);
    connect(form_, &FigureForm::entered, this, &LifterWorkPage::keep_plan);
    connect(log, &QPushButton::clicked, this, &LifterWorkPage::log_cut);
    connect(to_, &QLineEdit::returnPressed, this, &LifterWorkPage::log_cut);
    connect(pressed, &QPushButton::clicked, this, &LifterWorkPage::log_pressed);
    connect(decide, &QPushButton::clicked, this, &LifterWorkPage::decide);
}

const planning::LifterProgress* LifterWorkPage::progress() const {
    const auto& work = context_.session.assessment().lifters;
    if (!work || !lifter_)
        return nullptr;
    const auto found = std::ranges::find(work->board.each, *lifter_, &planning::LifterProgress::id);
    return found == work->board.each.end() ? nullptr : &*found;
}

void LifterWorkPage::show_lifter(const std::string& bank, const std::optional<block::FeatureId>& lifter) {
    bank_ = bank;
    lifter_ = lifter;
    if (!intake_of(context_.session.state()).blueprint)
        return;
    fan_->show_bank(bank);
    fill_table();
    fill_plan();
    fill_words();
}

void LifterWorkPage::fill_table() {
    const auto& work = context_.session.assessment().lifters;
    const auto l = context_.lengths();
    std::vector<QStringList> rows;
    rows_.clear();
    int chosen = -1;
    const QStringList stands{tr("left alone"), tr("to cut"),   tr("measure it"), tr("press the bush"),
                             tr("too large"),  tr("prove it"), tr("proven"),     tr("off its place")};
    const auto text = [&l](const std::optional<double>& mm) { return mm ? qt(l.plain(*mm)) : QString(); };
    if (work)
        for (const planning::LifterNeed& n : work->study.each) {
            if (n.id.bank != bank_)
                continue;
            if (lifter_ == n.id)
                chosen = static_cast<int>(rows.size());
            const auto p = std::ranges::find(work->board.each, n.id, &planning::LifterProgress::id);
            const bool known = p != work->board.each.end();
            QString plan = qt(wording::lifter_choice_name(n.choice));
            if (n.covers == false)
                plan += tr(" (too small)");
            rows_.push_back(n.id);
            rows.push_back({QString::number(n.id.number), plan, qt(wording::lifter_reason_words(n.reason)),
                            known ? stands[static_cast<int>(p->state)] : QString(),
                            text(known && p->size ? p->size : n.diameter), text(n.clearance),
                            n.error ? qt(l.with_sign(n.error->y)) : QString(),
                            n.timing ? QString::number(2 * *n.timing / block::radians_per_degree, 'f', 2)
                                               .replace(QLatin1Char('-'), QChar(0x2212)) +
                                           QStringLiteral("°")
                                     : QString(),
                            known && p->next ? qt(l.plain(p->next->to)) : QString()});
        }
    table_->verticalHeader()->setDefaultSectionSize(22);
    table_->set_rows(rows, 8);
    const QSignalBlocker quiet(table_);
    if (chosen >= 0)
        table_->selectRow(chosen);
}

void LifterWorkPage::fill_plan() {
    const auto& state = context_.session.state();
    const auto p = planning::lifter_plan_of(state);
    form_->fill({{"lifter-size", p.lifter},
                 {"lifter-least", p.clearance_least},
                 {"lifter-most", p.clearance_most},
                 {"lifter-position", p.position},
                 {"bush-outside", p.bush_outside},
                 {"bush-interference", p.interference},
                 {"base-radius", p.base_radius},
                 {"roller-radius", p.roller_radius},
                 {"key-angle", p.key_angle},
                 {"bush-height", p.height}});
    const std::string from = block::payload_json(p) + std::to_string(context_.session.job().value_or(0));
    if (from != filled_for_) {
        filled_for_ = from;
        set_choice(school_, p.school);
        set_choice(follower_, p.follower);
        set_choice(turns_, p.cam_turns_left);
        keyed_->setChecked(p.keyed);
    }
    name_->setText(lifter_ ? short_name(context_, *lifter_) : QString());
    const auto* now = progress();
    const std::string offer = (lifter_ ? lifter_->text() : "") + std::to_string(context_.session.entries().size());
    if (offer == offered_for_)
        return;
    offered_for_ = offer;
    to_->setText(now && now->next ? qt(context_.lengths().plain(now->next->to)) : QString());
    if (now && now->next)
        set_choice(operation_, now->next->operation);
    const auto& work = context_.session.assessment().lifters;
    if (const auto* n = work && lifter_ ? work->study.lifter(*lifter_) : nullptr)
        set_choice(choice_, n->choice);
}

void LifterWorkPage::fill_words() {
    const auto& work = context_.session.assessment().lifters;
    QStringList words;
    if (!work)
        words << tr("No lifter bore was measured yet: take in a probe log (Ctrl+I), or read sizes (Ctrl+R).");
    else {
        if (lifter_)
            for (const std::string& s :
                 wording::lifter_sentences(context_.session.state(), *work, *lifter_, context_.lengths()))
                words << qt(s);
    }
    words_->setText(words.join(QLatin1Char(' ')));
}

void LifterWorkPage::keep_plan() {
    const auto f = form_->read(*echo_);
    if (!f)
        return;
    block::LifterPlanChosen p;
    p.school = choice_in<block::LifterSchool>(school_);
    p.lifter = f->at("lifter-size");
    p.clearance_least = f->at("lifter-least");
    p.clearance_most = f->at("lifter-most");
    p.position = f->at("lifter-position");
    p.bush_outside = f->at("bush-outside");
    p.interference = f->at("bush-interference");
    p.follower = choice_in<block::Follower>(follower_);
    p.base_radius = f->at("base-radius");
    p.roller_radius = f->at("roller-radius");
    p.cam_turns_left = choice_in<bool>(turns_);
    p.keyed = keyed_->isChecked();
    p.key_angle = f->at("key-angle");
    p.height = f->at("bush-height");
    if (echo_->took(context_.session.take(p)))
        echo_->say(tr("Kept."));
}

void LifterWorkPage::decide() {
    if (!lifter_)
        return echo_->complain(tr("Mark a lifter bore first."));
    if (!echo_->took(context_.session.take(block::LifterDecided{*lifter_, choice_in<block::LifterChoice>(choice_),
                                                                why_->text().trimmed().toStdString()})))
        return;
    why_->clear();
    echo_->say(tr("Decided."));
}

void LifterWorkPage::log_cut() {
    if (!lifter_)
        return echo_->complain(tr("Mark a lifter bore first."));
    bool fine = true;
    const auto to = echo_->length_in(to_, fine);
    if (!fine)
        return;
    if (!to)
        return echo_->complain(tr("Type the size it was cut to."));
    const block::BoreCut cut{*lifter_, choice_in<block::BoreOperation>(operation_), to, {}, false, 0, "", {}, ""};
    if (echo_->took(context_.session.take(cut)))
        echo_->say(tr("Logged. Measure it before it is cut again."));
}

void LifterWorkPage::log_pressed() {
    const auto* p = progress();
    if (!p)
        return echo_->complain(tr("Keep a plan first."));
    const auto plan = planning::lifter_plan_of(context_.session.state());
    if (echo_->took(context_.session.take(
            block::InsertFitted{*lifter_, 0, plan.keyed ? plan.key_angle : std::nullopt, plan.height, ""})))
        echo_->say(tr("Logged. Its inside comes next, at the blueprint's place."));
}

void LifterWorkPage::take_focus() {
    to_->setFocus();
    to_->selectAll();
}

} // namespace pallix::ui
