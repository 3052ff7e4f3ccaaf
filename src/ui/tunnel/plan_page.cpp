// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/tunnel/plan_page.h"

#include "block/reading_text.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/tunnel/tunnel_work.h"
#include "ui/frame/choice.h"
#include "ui/frame/plain_label.h"
#include "ui/tunnel/plan_drawing.h"
#include "wording/tunnel/tunnel_words.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

using block::TunnelMethod;

namespace {

enum class Way { hone, bore_on_datum, bore_through_ends };

} // namespace

PlanPage::PlanPage(Context context, QWidget* parent)
    : QWidget(parent), context_(context), method_(new QComboBox(this)), caps_(new QComboBox(this)),
      drawing_(new PlanDrawing(context, this)), verdict_(new PlainLabel(this)),
      back_(new QPushButton(tr("Back to the plan"), this)), log_(new QPushButton(tr("Caps are cut so"), this)),
      words_(new PlainLabel(this)), schools_(new QTableWidget(this)), echo_(new PlainLabel(this)) {
    add_choice(method_, Way::hone, tr("line hone"));
    add_choice(method_, Way::bore_on_datum, tr("line bore, datum"));
    add_choice(method_, Way::bore_through_ends, tr("line bore, end mains"));
    method_->setObjectName(QStringLiteral("tunnel-school"));
    method_->setAccessibleName(tr("how the tunnel is cut"));
    add_choice(caps_, block::CapCuts::each, tr("each cap its own"));
    add_choice(caps_, block::CapCuts::equal, tr("all caps equal"));
    caps_->setObjectName(QStringLiteral("tunnel-caps"));
    caps_->setAccessibleName(tr("cuts of the caps"));
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    row->addWidget(method_);
    row->addWidget(caps_);
    row->addStretch();
    auto* limits = new QHBoxLayout;
    limits->setSpacing(8);
    const auto labelled = [&](QHBoxLayout* to, const QString& text, QLineEdit*& edit, const char* name) {
        auto* label = new PlainLabel(text, this);
        label->setFont(font_of(Type::small));
        edit = field(name, text);
        to->addWidget(label);
        to->addWidget(edit);
    };
    labelled(row, tr("finished size"), target_, "tunnel-target");
    labelled(row, tr("stock"), stock_, "tunnel-stock");
    limits->addStretch();
    labelled(limits, tr("at most: cap cut"), cap_limit_, "tunnel-cap-limit");
    labelled(limits, tr("rise"), rise_, "tunnel-rise");
    labelled(limits, tr("side step"), side_, "tunnel-side");
    labelled(limits, tr("relief beside the parting line, °"), parting_, "tunnel-parting");
    auto* verdict_row = new QHBoxLayout;
    verdict_->setFont(font_of(Type::number, true));
    verdict_->setObjectName(QStringLiteral("tunnel-plan-verdict"));
    verdict_->setWordWrap(true);
    back_->setToolTip(tr("Forget what was dragged"));
    log_->setObjectName(QStringLiteral("caps-cut"));
    log_->setToolTip(tr("Log the caps as cut by the numbers shown (Ctrl+Shift+Return)"));
    verdict_row->addWidget(verdict_, 1);
    verdict_row->addWidget(back_);
    verdict_row->addWidget(log_);
    words_->setFont(font_of(Type::small));
    words_->setWordWrap(true);
    words_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    words_->setObjectName(QStringLiteral("tunnel-plan-words"));
    schools_->setObjectName(QStringLiteral("tunnel-schools"));
    schools_->setAccessibleName(tr("other ways of doing it"));
    schools_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    schools_->setSelectionBehavior(QAbstractItemView::SelectRows);
    schools_->setSelectionMode(QAbstractItemView::SingleSelection);
    schools_->setShowGrid(false);
    schools_->setTabKeyNavigation(false);
    schools_->verticalHeader()->hide();
    schools_->verticalHeader()->setDefaultSectionSize(22);
    schools_->setFont(font_of(Type::small));
    schools_->setFixedHeight(34 + 22 * 5);
    auto* foot = new QHBoxLayout;
    foot->setSpacing(12);
    foot->addWidget(words_, 4);
    foot->addWidget(schools_, 5, Qt::AlignTop);
    echo_->setObjectName(QStringLiteral("tunnel-plan-echo"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addLayout(row);
    column->addLayout(limits);
    column->addWidget(echo_);
    column->addWidget(drawing_, 1);
    column->addLayout(verdict_row);
    column->addLayout(foot);
    connect(method_, &QComboBox::activated, this, &PlanPage::choose);
    connect(caps_, &QComboBox::activated, this, &PlanPage::choose);
    connect(schools_, &QTableWidget::cellActivated, this, [this](int chosen_row) {
        const auto study = context_.session.tunnel_study();
        if (!study)
            return;
        if (const auto chosen = context_.session.take(study->schools[static_cast<std::size_t>(chosen_row)].policy);
            !chosen)
            say(qt(chosen.error().front().text()), true);
    });
    schools_->setToolTip(tr("Enter or double-click takes that way"));
    connect(drawing_, &PlanDrawing::dragged, this, &PlanPage::follow);
    connect(drawing_, &PlanDrawing::cap_clicked, this, &PlanPage::toggle_replaced);
    connect(back_, &QPushButton::clicked, this, [this] {
        drawing_->back_to_plan();
        follow();
    });
    connect(log_, &QPushButton::clicked, this, &PlanPage::log_caps);
    setFocusProxy(drawing_);
}

QLineEdit* PlanPage::field(const char* name, const QString& what) {
    auto* edit = new QLineEdit(this);
    edit->setObjectName(QString::fromLatin1(name));
    edit->setAccessibleName(what);
    edit->setFont(font_of(Type::small));
    edit->setFixedWidth(68);
    edit->setStyleSheet(QStringLiteral("padding: 2px 4px;"));
    connect(edit, &QLineEdit::returnPressed, this, &PlanPage::choose);
    return edit;
}

void PlanPage::refresh() {
    const auto l = context_.lengths();
    const auto study = context_.session.tunnel_study();
    drawing_->show_study(study);
    for (QWidget* w : std::initializer_list<QWidget*>{verdict_, log_, words_, schools_})
        w->setVisible(study != nullptr);
    if (!study) {
        back_->hide();
        say(tr("The tunnel must be measured before it can be planned: by probe, or sizes and saddle heights by gauge."),
            false);
        return;
    }
    const block::TunnelPolicy& policy = study->policy;
    const QSignalBlocker quiet_method(method_), quiet_caps(caps_);
    set_choice(method_, policy.method == TunnelMethod::hone      ? Way::hone
                        : policy.line == block::GivenLine::datum ? Way::bore_on_datum
                                                                 : Way::bore_through_ends);
    set_choice(caps_, policy.caps);
    target_->setText(policy.target_diameter ? qt(l.plain(*policy.target_diameter)) : QString());
    target_->setPlaceholderText(tr("middle"));
    stock_->setText(qt(l.plain(policy.stock)));
    cap_limit_->setText(qt(l.plain(policy.max_cap_cut)));
    rise_->setText(qt(l.plain(policy.max_rise)));
    side_->setText(qt(l.plain(policy.max_side)));
    parting_->setText(QString::number(policy.parting / block::radians_per_degree, 'g', 4));
    say({}, false);
    QStringList words;
    for (const std::string& sentence : wording::study_sentences(*study, l))
        words << qt(sentence);
    if (study->plan.feasible) {
        const auto& state = context_.session.state();
        const auto c = planning::consequences_of(
            *intake_of(state).blueprint, tunnel_of(state).latest ? &tunnel_of(state).latest->evaluation : nullptr,
            study->housings.mains, study->plan.line);
        for (const std::string& sentence : wording::consequence_sentences(*intake_of(state).blueprint, c, l))
            words << qt(sentence);
    }
    words_->setText(words.join(QLatin1Char(' ')));
    fill_schools();
    follow();
}

void PlanPage::follow() {
    const auto tight = drawing_->tightest();
    const auto known = context_.session.tunnel_study();
    back_->setVisible(drawing_->is_changed());
    if (!tight || !known)
        return;
    const auto l = context_.lengths();
    const bool clean = tight->slack > -1e-6;
    const planning::TunnelStudy& study = *known;
    QString text;
    if (!study.plan.feasible && !drawing_->is_changed())
        text = tr("No plan within the limits");
    else if (clean)
        text = drawing_->is_changed()
                   ? tr("Yours cleans up everywhere, %1 to spare").arg(qt(l.with_unit(std::max(0.0, tight->slack))))
                   : tr("Cleans up everywhere with the least cutting");
    else
        text = tr("Short by %1 at %2").arg(qt(l.with_unit(-tight->slack)), qt(wording::binding_words(tight->at)));
    verdict_->setText(text);
    QPalette p = verdict_->palette();
    p.setColor(QPalette::WindowText, clean && study.plan.feasible ? context_.palette().ink : context_.palette().fails);
    verdict_->setPalette(p);
}

void PlanPage::fill_schools() {
    const auto known = context_.session.tunnel_study();
    const planning::TunnelStudy& study = *known;
    const auto l = context_.lengths();
    schools_->clear();
    schools_->setColumnCount(4);
    schools_->setHorizontalHeaderLabels({tr("other schools"), tr("largest cut"), tr("all cuts"), tr("rise")});
    schools_->setRowCount(static_cast<int>(study.schools.size()));
    for (int row = 0; row < schools_->rowCount(); ++row) {
        const planning::TunnelSchool& school = study.schools[static_cast<std::size_t>(row)];
        double sum = 0;
        for (const planning::CapCut& cut : school.plan.cuts)
            sum += cut.cut;
        const bool feasible = school.plan.feasible;
        const QStringList cells{qt(school.name), feasible ? qt(l.plain(school.plan.max_cap_cut)) : tr("no way"),
                                feasible ? qt(l.plain(sum)) : QString(),
                                feasible ? qt(l.with_sign(school.plan.rise)) : QString()};
        for (int c = 0; c < cells.size(); ++c) {
            auto* item = new QTableWidgetItem(cells[c]);
            item->setTextAlignment((c == 0 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
            schools_->setItem(row, c, item);
        }
    }
    schools_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    for (int c = 1; c < 4; ++c) {
        schools_->horizontalHeader()->setSectionResizeMode(c, QHeaderView::Fixed);
        schools_->setColumnWidth(c, 92);
    }
}

void PlanPage::choose() {
    block::TunnelPolicy policy = tunnel_of(context_.session.state()).tunnel_policy.value_or(block::TunnelPolicy{});
    const auto way = choice_in<Way>(method_);
    policy.method = way == Way::hone ? TunnelMethod::hone : TunnelMethod::bore;
    policy.line = way == Way::bore_through_ends ? block::GivenLine::ends : block::GivenLine::datum;
    policy.caps = choice_in<block::CapCuts>(caps_);
    const auto read = [this](QLineEdit* edit, double& into) {
        const auto mm = block::read_length(edit->text().toStdString(), context_.preferences.unit());
        if (mm)
            into = *mm;
        else
            say(qt(mm.error()), true);
        return mm.has_value();
    };
    policy.target_diameter.reset();
    if (double target = 0; !target_->text().trimmed().isEmpty()) {
        if (!read(target_, target))
            return;
        policy.target_diameter = target;
    }
    if (!read(stock_, policy.stock) || !read(cap_limit_, policy.max_cap_cut) || !read(rise_, policy.max_rise) ||
        !read(side_, policy.max_side))
        return;
    const auto degrees = block::read_number(parting_->text().toStdString(), {"°"});
    if (!degrees || *degrees < 0 || *degrees > 89)
        return say(tr("The relief beside the parting line is an angle from 0 to 89 degrees."), true);
    policy.parting = *degrees * block::radians_per_degree;
    if (const auto chosen = context_.session.take(policy); !chosen)
        say(qt(chosen.error().front().text()), true);
}

void PlanPage::toggle_replaced(const block::FeatureId& main) {
    const auto study = context_.session.tunnel_study();
    if (!study)
        return;
    block::TunnelPolicy policy = study->policy;
    if (std::erase(policy.replaced, main) == 0)
        policy.replaced.push_back(main);
    if (const auto chosen = context_.session.take(policy); !chosen)
        say(qt(chosen.error().front().text()), true);
}

void PlanPage::log_caps() {
    const auto study = context_.session.tunnel_study();
    if (!study)
        return;
    block::CapsCut cut;
    for (std::size_t i = 0; i < study->housings.mains.size(); ++i)
        cut.cuts.emplace_back(study->housings.mains[i].id, drawing_->cuts()[i]);
    if (const auto logged = context_.session.take(cut); !logged)
        say(qt(logged.error().front().text()), true);
}

void PlanPage::take_focus() {
    drawing_->setFocus(Qt::ShortcutFocusReason);
}

void PlanPage::say(const QString& text, bool fault) {
    echo_->setVisible(!text.isEmpty());
    QPalette p = echo_->palette();
    p.setColor(QPalette::WindowText, fault ? context_.palette().fails : context_.palette().quiet);
    echo_->setPalette(p);
    echo_->setText(text);
}

} // namespace pallix::ui
