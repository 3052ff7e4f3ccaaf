// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/tunnel/plan_page.h"

#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "ui/dialogs/fault_list.h"
#include "ui/frame/figure_line.h"
#include "ui/frame/plain_label.h"
#include "ui/frame/spoken.h"
#include "ui/tunnel/plan_drawing.h"
#include "wording/tunnel/tunnel_words.h"

#include <QCoreApplication>
#include <QHBoxLayout>
#include <QPushButton>
#include <algorithm>

namespace pallix::ui {
namespace {

struct Plan {
    Q_DECLARE_TR_FUNCTIONS(Plan)
};

/// The other schools with what they would cut, and below them what loosening a limit buys and what the line changes.
TwinTable plan_table(const Context& context) {
    TwinTable t{
        {Plan::tr("other schools: Enter takes one"), Plan::tr("largest cut"), Plan::tr("all cuts"), Plan::tr("rise")},
        1,
        {},
        {}};
    const auto study = context.session.tunnel_study();
    if (!study)
        return t;
    const auto l = context.lengths();
    for (const planning::TunnelSchool& school : study->schools) {
        double sum = 0;
        for (const planning::CapCut& cut : school.plan.cuts)
            sum += cut.cut;
        const bool feasible = school.plan.feasible;
        t.rows.push_back({qt(school.name), feasible ? qt(l.plain(school.plan.max_cap_cut)) : Plan::tr("no way"),
                          feasible ? qt(l.plain(sum)) : QString(),
                          feasible ? qt(l.side(school.plan.rise, "up", "down")) : QString()});
    }
    for (const std::string& sentence : wording::study_sentences(*study, l))
        t.rows.push_back({qt(sentence)});
    if (!study->plan.feasible)
        return t;
    const auto& state = context.session.state();
    const auto c = planning::consequences_of(*intake_of(state).blueprint,
                                             tunnel_of(state).latest ? &tunnel_of(state).latest->evaluation : nullptr,
                                             study->housings.mains, study->plan.line);
    for (const std::string& sentence : wording::consequence_sentences(*intake_of(state).blueprint, c, l))
        t.rows.push_back({qt(sentence)});
    return t;
}

} // namespace

PlanPage::PlanPage(Context context, QWidget* parent) : PlanPage(context, new PlanDrawing(context), parent) {}

PlanPage::PlanPage(Context context, PlanDrawing* drawing, QWidget* parent)
    : DrawnPage(
          context, drawing, wording::FiguresOf::tunnel, [context] { return plan_table(context); }, parent),
      context_(context), plan_(drawing), verdict_(new PlainLabel(this)),
      back_(new QPushButton(tr("Back to the plan"), this)) {
    set_announced(verdict_);
    set_type(verdict_, Type::number, true);
    verdict_->setObjectName(QStringLiteral("tunnel-plan-verdict"));
    verdict_->setWordWrap(true);
    back_->setToolTip(tr("Forget what was dragged"));
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->addWidget(verdict_, 1);
    line->addWidget(back_);
    add_below(row);
    connect(this, &DrawnPage::row_entered, this, [this](int chosen) {
        const auto study = context_.session.tunnel_study();
        if (study && chosen < static_cast<int>(study->schools.size()))
            take(study->schools[static_cast<std::size_t>(chosen)].policy);
    });
    connect(plan_, &PlanDrawing::dragged, this, &PlanPage::follow);
    connect(plan_, &PlanDrawing::cap_clicked, this, &PlanPage::toggle_replaced);
    connect(back_, &QPushButton::clicked, this, [this] {
        plan_->back_to_plan();
        follow();
    });
}

void PlanPage::refresh() {
    const auto study = context_.session.tunnel_study();
    plan_->show_study(study);
    verdict_->setVisible(study != nullptr);
    show_bore({});
    follow();
}

void PlanPage::follow() {
    const auto tight = plan_->tightest();
    const auto study = context_.session.tunnel_study();
    back_->setVisible(study && plan_->is_changed());
    if (!tight || !study)
        return;
    const auto l = context_.lengths();
    const bool clean = tight->slack > -1e-6;
    QString text;
    if (!study->plan.feasible && !plan_->is_changed())
        text = tr("No plan within the limits");
    else if (clean)
        text = plan_->is_changed()
                   ? tr("Yours cleans up everywhere, %1 to spare").arg(qt(l.with_unit(std::max(0.0, tight->slack))))
                   : tr("Cleans up everywhere with the least cutting");
    else
        text = tr("Short by %1 at %2").arg(qt(l.with_unit(-tight->slack)), qt(wording::binding_words(tight->at)));
    verdict_->setText(text);
    QPalette p = verdict_->palette();
    p.setColor(QPalette::WindowText, clean && study->plan.feasible ? context_.palette().ink : context_.palette().fails);
    verdict_->setPalette(p);
}

void PlanPage::take(const block::TunnelPolicy& policy) {
    if (const auto taken = context_.session.take(policy); !taken)
        show_faults(taken.error(), context_, this);
}

void PlanPage::toggle_replaced(const block::FeatureId& main) {
    const auto study = context_.session.tunnel_study();
    if (!study)
        return;
    block::TunnelPolicy policy = study->policy;
    if (std::erase(policy.replaced, main) == 0)
        policy.replaced.push_back(main);
    take(policy);
}

planning::Answers PlanPage::painted() const {
    planning::Answers cuts;
    const auto study = context_.session.tunnel_study();
    if (study && plan_->is_changed())
        for (std::size_t i = 0; i < study->housings.mains.size(); ++i)
            cuts[study->housings.mains[i].id.text()] = plan_->cuts()[i];
    return cuts;
}

} // namespace pallix::ui
