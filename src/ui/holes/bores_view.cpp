// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/holes/bores_view.h"

#include "planning/cylinders/cylinder_work.h"

#include "block/state/intake_state.h"
#include "planning/common/sources.h"
#include "planning/readings/reading_plan.h"
#include "ui/dialogs/ledger_dialog.h"
#include "ui/frame/bank_buttons.h"
#include "ui/frame/drawn_page.h"
#include "ui/frame/page_buttons.h"
#include "ui/frame/plain_label.h"
#include "ui/holes/holes_page.h"

#include <QHBoxLayout>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

BoresView::BoresView(Context context, block::FeatureKind kind, const QString& heading, const QStringList& pages,
                     QWidget* parent)
    : View(parent), context_(context), kind_(kind), heading_(new PlainLabel(heading, this)),
      banks_(new BankButtons(context, this)),
      page_buttons_(new PageButtons(pages, tr("Ctrl+Shift+Y goes from one to the next"), this)),
      pages_(new QStackedWidget(this)), found_(new HolesPage(context, kind, this)) {
    const bool cylinders = kind == block::FeatureKind::bore;
    setObjectName(cylinders ? QStringLiteral("cylinders") : QStringLiteral("lifters"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 12, 20, 10);
    column->setSpacing(8);
    auto* top = new QHBoxLayout;
    top->setSpacing(6);
    set_type(heading_, Type::title, true);
    top->addWidget(heading_);
    top->addWidget(page_buttons_);
    top->addStretch();
    top->addWidget(banks_);
    column->addLayout(top);
    column->addWidget(pages_, 1);
    add_drawn(found_);
    setFocusProxy(found_);
    connect(banks_, &BankButtons::chosen, this, &BoresView::show_bank);
    connect(page_buttons_, &PageButtons::chosen, this, &BoresView::show_page_index);
}

void BoresView::explain_pages(const QStringList& ids) {
    page_buttons_->explain(this, ids);
}

void BoresView::add_page(QWidget* page) {
    pages_->addWidget(page);
}

void BoresView::add_drawn(DrawnPage* page) {
    add_page(page);
    connect(page, &DrawnPage::marked, this, &BoresView::mark);
    connect(page, &DrawnPage::entered, this, &BoresView::entered);
}

/// The heading goes before a page's button would be cut: the route says it too.
void BoresView::resizeEvent(QResizeEvent* event) {
    View::resizeEvent(event);
    heading_->setVisible(heading_->sizeHint().width() + page_buttons_->sizeHint().width() + banks_->sizeHint().width() +
                             scaled(70) <=
                         width());
}

int BoresView::page_index() const {
    return pages_->currentIndex();
}

void BoresView::show_page_index(int page) {
    pages_->setCurrentIndex(page);
    setFocusProxy(pages_->currentWidget());
    page_buttons_->press(page);
    refresh();
    Q_EMIT scope_changed();
}

void BoresView::show_next_page() {
    show_page_index((pages_->currentIndex() + 1) % pages_->count());
}

const std::vector<block::HoleBlueprint>& BoresView::holes() const {
    const block::Blueprint& b = *intake_of(context_.session.state()).blueprint;
    return kind_ == block::FeatureKind::bore ? b.bores : b.lifters;
}

std::optional<std::string> BoresView::bank() const {
    return bank_.empty() ? std::nullopt : std::optional(bank_);
}

void BoresView::show_bank(const std::string& bank) {
    bank_ = bank;
    banks_->press(bank_);
    if (!marked_ || marked_->bank != bank) {
        const auto first = std::ranges::find_if(holes(), [&bank](const auto& h) { return h.id.bank == bank; });
        marked_ = first == holes().end() ? std::nullopt : std::optional(first->id);
    }
    fill();
    Q_EMIT scope_changed();
}

void BoresView::show_other_bank() {
    if (intake_of(context_.session.state()).blueprint && !bank_.empty())
        show_bank(banks_->next(bank_));
}

void BoresView::mark(const block::FeatureId& id) {
    marked_ = id;
    Q_EMIT pointed_at(id);
    if (id.bank != bank_)
        return show_bank(id.bank);
    fill();
    Q_EMIT scope_changed();
}

void BoresView::show_asked(const std::optional<planning::AskedReading>& asked) {
    found_->show_asked(asked);
}

void BoresView::show_sources() {
    if (!marked_)
        return;
    LedgerDialog dialog(context_, planning::sources_of(context_.session.state(), *marked_), this);
    dialog.exec();
}

void BoresView::refresh() {
    const auto& state = context_.session.state();
    if (!context_.session.has_job() || !intake_of(state).blueprint) {
        bank_.clear();
        marked_.reset();
        return;
    }
    banks_->refresh();
    if (job_ != context_.session.job()) {
        job_ = context_.session.job();
        bank_.clear();
        marked_.reset();
    }
    if (const auto wanted = board_wants())
        marked_ = wanted;
    if (marked_ && intake_of(state).blueprint->hole(*marked_))
        bank_ = marked_->bank;
    if (!intake_of(state).blueprint->bank(bank_))
        bank_ = intake_of(state).blueprint->banks.front().id;
    for (const auto& hole : holes())
        if (!marked_ && hole.id.bank == bank_)
            marked_ = hole.id;
    banks_->press(bank_);
    fill();
}

void BoresView::fill() {
    if (page_index() > 0)
        return fill_page();
    found_->show_bank(bank_);
    if (marked_)
        found_->mark(*marked_);
}

} // namespace pallix::ui
