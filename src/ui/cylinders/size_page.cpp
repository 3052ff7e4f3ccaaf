// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/cylinders/size_page.h"

#include "block/ledger.h"
#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "ui/frame/choice.h"

#include "block/shorthand.h"
#include "ui/cylinders/ladder_drawing.h"
#include "ui/frame/echo.h"
#include "ui/frame/figure_form.h"
#include "ui/frame/plain_label.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/readings/readings.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

using block::BoreChoice;
using block::CentreSchool;

SizePage::SizePage(Context context, QWidget* parent)
    : QWidget(parent), context_(context), ladder_(new LadderDrawing(context, this)), words_(new PlainLabel(this)),
      form_(new FigureForm(context, this)), centre_(new QComboBox(this)), oversize_(new QComboBox(this)),
      thrust_(new QComboBox(this)), walls_(new QComboBox(this)), list_(new QLineEdit(this)),
      name_(new PlainLabel(this)), choice_(new QComboBox(this)), why_(new QLineEdit(this)), pit_(new QLineEdit(this)),
      level_(new QComboBox(this)), side_(new QComboBox(this)),
      echo_(new Echo(context, QStringLiteral("size-echo"), this)) {
    words_->setObjectName(QStringLiteral("size-words"));
    words_->setWordWrap(true);
    for (const auto s : {CentreSchool::free, CentreSchool::top, CentreSchool::blueprint, CentreSchool::limited})
        add_choice(centre_, s, qt(wording::centre_name(s)));
    for (const auto s : {block::ThrustSide::both, block::ThrustSide::left, block::ThrustSide::right})
        add_choice(thrust_, s, qt(wording::thrust_name(s)));
    walls_->addItem(tr("own figures"));
    for (const auto& w : planning::usual_walls())
        walls_->addItem(tr("usual, %1").arg(QString::fromLatin1(w.use)));
    const auto name = [](QWidget* w, const char* id, const QString& spoken) {
        w->setObjectName(QString::fromLatin1(id));
        w->setAccessibleName(spoken);
    };
    name(centre_, "centre", tr("centre of the bores"));
    name(oversize_, "oversize", tr("size decided on"));
    name(thrust_, "thrust", tr("thrust sides"));
    name(walls_, "usual-walls", tr("least walls by use"));
    name(list_, "oversizes", tr("sizes on offer, over nominal"));
    name(choice_, "bore-choice", tr("what becomes of the marked cylinder"));
    name(why_, "bore-why", tr("why"));
    name(pit_, "pit-depth", tr("depth of a pit"));
    name(level_, "pit-level", tr("level of the pit"));
    name(side_, "pit-side", tr("side of the pit"));
    for (QComboBox* box : {centre_, choice_, thrust_, walls_}) { // as wide as the words that matter, not as the longest
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(box == choice_ ? 9 : 12);
    }
    list_->setMinimumWidth(168);
    list_->setToolTip(tr("Over nominal, on diameter, with commas between; 0 stands for the nominal"));
    auto* keep = new QPushButton(tr("&Keep the plan"), this);
    keep->setObjectName(QStringLiteral("keep-cylinder-plan"));
    form_->add_widget(0, 0, tr("centre"), centre_);
    form_->add_widget(0, 1, tr("sizes on offer"), list_);
    form_->add_widget(0, 2, tr("size"), oversize_);
    form_->add(1, 0, tr("margin"), "margin", FigureForm::Kind::length,
               tr("On diameter, on top of what just cleans up"));
    form_->add(1, 1, tr("wall, thrust"), "wall-thrust", FigureForm::Kind::length,
               tr("Least wall on the thrust side after boring; empty: no limit"));
    form_->add(1, 2, tr("wall, other"), "wall-other", FigureForm::Kind::length);
    form_->add_widget(2, 0, tr("thrust sides"), thrust_);
    form_->add_widget(2, 1, tr("walls by use"), walls_);
    form_->add_widget(2, 2, QString(), keep);

    auto* one = new QHBoxLayout;
    one->setSpacing(8);
    name_->setObjectName(QStringLiteral("size-bore"));
    name_->setFont(font_of(Type::text, true));
    for (const auto c : {BoreChoice::with_the_rest, BoreChoice::sleeve, BoreChoice::leave, BoreChoice::scrap})
        add_choice(choice_, c, qt(wording::bore_choice_name(c)));
    why_->setPlaceholderText(tr("why"));
    why_->setMinimumWidth(60);
    auto* decide = new QPushButton(tr("&Decide"), this);
    decide->setObjectName(QStringLiteral("decide-bore"));
    pit_->setPlaceholderText(tr("pit"));
    pit_->setFixedWidth(76);
    level_->addItems({tr("top"), tr("middle"), tr("bottom")});
    side_->addItems({tr("right"), tr("rear"), tr("left"), tr("front")});
    auto* note = new QPushButton(tr("&Note pit"), this);
    note->setObjectName(QStringLiteral("note-pit"));
    one->addWidget(name_);
    one->addWidget(choice_);
    one->addWidget(why_, 1);
    one->addWidget(decide);
    for (QWidget* w : std::initializer_list<QWidget*>{pit_, level_, side_, note})
        one->addWidget(w);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(ladder_, 1);
    column->addWidget(words_);
    column->addLayout(one);
    column->addWidget(form_);
    column->addWidget(echo_);
    setFocusProxy(ladder_);
    connect(ladder_, &LadderDrawing::pointed_at, this, &SizePage::marked);
    connect(keep, &QPushButton::clicked, this, &SizePage::keep_plan);
    connect(form_, &FigureForm::entered, this, &SizePage::keep_plan);
    connect(list_, &QLineEdit::returnPressed, this, &SizePage::keep_plan);
    connect(decide, &QPushButton::clicked, this, &SizePage::decide);
    connect(note, &QPushButton::clicked, this, &SizePage::note_pit);
    connect(pit_, &QLineEdit::returnPressed, this, &SizePage::note_pit);
    connect(walls_, &QComboBox::activated, this, [this](int i) {
        if (i == 0)
            return;
        const auto use = planning::usual_walls()[static_cast<std::size_t>(i - 1)];
        form_->field("wall-thrust")->setText(qt(context_.lengths().plain(use.thrust)));
        form_->field("wall-other")->setText(qt(context_.lengths().plain(use.other)));
    });
}

void SizePage::show_bore(const std::optional<block::FeatureId>& bore) {
    bore_ = bore;
    ladder_->mark(bore);
    ladder_->refresh();
    if (!intake_of(context_.session.state()).blueprint)
        return;
    fill_plan();
    fill_words();
}

void SizePage::fill_plan() {
    const auto plan = planning::cylinder_plan_of(context_.session.state());
    form_->fill({{"margin", plan.margin}, {"wall-thrust", plan.wall_thrust}, {"wall-other", plan.wall}});
    const std::string from =
        block::payload_json(plan) + context_.lengths().unit_name() + std::to_string(context_.session.job().value_or(0));
    if (from == filled_for_)
        return;
    filled_for_ = from;
    set_choice(centre_, plan.centre);
    set_choice(thrust_, plan.thrust);
    QStringList sizes;
    oversize_->clear();
    oversize_->addItem(tr("as planned"));
    for (const double o : plan.oversizes) {
        sizes << qt(context_.lengths().plain(o));
        oversize_->addItem(qt(wording::oversize_text(o, context_.lengths())));
        if (plan.oversize && std::abs(*plan.oversize - o) < 1e-9)
            oversize_->setCurrentIndex(oversize_->count() - 1);
    }
    list_->setText(sizes.join(QStringLiteral(", ")));
}

void SizePage::fill_words() {
    const auto& state = context_.session.state();
    const auto& work = context_.session.assessment().cylinders;
    const auto l = context_.lengths();
    QStringList words;
    if (work)
        for (const std::string& s : wording::size_sentences(state, work->study, l))
            words << qt(s);
    QString own;
    if (work && bore_) {
        QStringList list;
        for (const std::string& s : wording::bore_sentences(state, work->study, *bore_, l))
            list << qt(s);
        own = list.join(QLatin1Char(' '));
    }
    words_->setText(words.join(QLatin1Char('\n')) + (own.isEmpty() ? QString() : QStringLiteral("\n") + own));
    name_->setText(bore_ ? short_name(context_, *bore_) : QString());
    const auto& decided = bore_ ? bores_of(state).bore(*bore_).decided : std::nullopt;
    if (!choice_->hasFocus())
        choice_->setCurrentIndex(decided ? static_cast<int>(decided->payload.choice) : 0);
}

std::optional<std::vector<double>> SizePage::sizes_in_field() {
    const auto plan = planning::cylinder_plan_of(context_.session.state());
    std::vector<double> sizes;
    const QStringList parts = list_->text().split(QLatin1Char(','), Qt::SkipEmptyParts);
    for (const QString& part : parts) {
        const auto mm = block::read_length(part.trimmed().toStdString(), context_.preferences.unit());
        if (!mm) {
            echo_->complain(tr("sizes on offer: %1").arg(qt(mm.error())));
            list_->setFocus();
            return std::nullopt;
        }
        // A size that stands in the plan already keeps all its digits.
        const auto same = std::ranges::find_if(
            plan.oversizes, [&](double o) { return context_.lengths().plain(o) == context_.lengths().plain(*mm); });
        sizes.push_back(same == plan.oversizes.end() ? *mm : *same);
    }
    std::ranges::sort(sizes);
    return sizes;
}

void SizePage::keep_plan() {
    const auto figures = form_->read(*echo_);
    const auto sizes = figures ? sizes_in_field() : std::nullopt;
    if (!sizes)
        return;
    block::CylinderPlanChosen plan;
    plan.centre = choice_in<CentreSchool>(centre_);
    plan.oversizes = *sizes;
    plan.margin = figures->at("margin").value_or(0);
    plan.wall_thrust = figures->at("wall-thrust");
    plan.wall = figures->at("wall-other");
    plan.thrust = choice_in<block::ThrustSide>(thrust_);
    const auto old = planning::cylinder_plan_of(context_.session.state());
    if (const int i = oversize_->currentIndex(); i > 0 && i <= static_cast<int>(old.oversizes.size()))
        plan.oversize = old.oversizes[static_cast<std::size_t>(i - 1)];
    if (echo_->took(context_.session.take(plan)))
        echo_->say(tr("Kept."));
}

void SizePage::decide() {
    if (!bore_)
        return echo_->complain(tr("Mark a cylinder first: click its row."));
    const block::BoreDecided decided{*bore_, choice_in<BoreChoice>(choice_), why_->text().trimmed().toStdString()};
    if (!echo_->took(context_.session.take(decided)))
        return;
    why_->clear();
    echo_->say(tr("Decided."));
}

void SizePage::note_pit() {
    if (!bore_)
        return echo_->complain(tr("Mark a cylinder first: click its row."));
    bool fine = true;
    const auto depth = echo_->length_in(pit_, fine);
    if (!fine)
        return;
    if (!depth)
        return echo_->complain(tr("Type how deep it is, from the wall beside it."));
    constexpr std::array levels{"top", "middle", "bottom"};
    constexpr std::array sides{"right", "rear", "left", "front"};
    const block::BorePitted pit{*bore_, *depth, levels[static_cast<std::size_t>(level_->currentIndex())],
                                sides[static_cast<std::size_t>(side_->currentIndex())], ""};
    if (!echo_->took(context_.session.take(pit)))
        return;
    pit_->clear();
    echo_->say(tr("Noted."));
}

} // namespace pallix::ui
