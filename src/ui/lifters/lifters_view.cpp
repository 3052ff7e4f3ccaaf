// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/lifters/lifters_view.h"

#include "ui/dialogs/ledger_dialog.h"
#include "ui/frame/bank_buttons.h"
#include "ui/frame/page_buttons.h"
#include "ui/holes/holes_page.h"
#include "ui/lifters/lifter_work_page.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

LiftersView::LiftersView(Context context, QWidget* parent)
    : View(parent), context_(context), banks_(new BankButtons(context, this)),
      page_buttons_(new PageButtons({tr("As found"), tr("Work")}, tr("Ctrl+Shift+Y goes from one to the next"), this)),
      sources_(new QPushButton(tr("Where from"), this)), pages_(new QStackedWidget(this)),
      found_(new HolesPage(context, block::FeatureKind::lifter, this)), work_(new LifterWorkPage(context, this)) {
    auto* heading = new QLabel(tr("Lifters"), this);
    heading->setFont(font_of(Type::title, true));
    sources_->setObjectName(QStringLiteral("lifter-sources"));
    sources_->setToolTip(tr("The entries that the marked lifter's numbers come from (Ctrl+Shift+L)"));
    pages_->addWidget(found_);
    pages_->addWidget(work_);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 10);
    column->setSpacing(8);
    auto* top = new QHBoxLayout;
    top->addWidget(heading);
    top->addSpacing(8);
    top->addWidget(page_buttons_);
    top->addStretch();
    top->addWidget(sources_);
    top->addWidget(banks_);
    column->addLayout(top);
    column->addWidget(pages_, 1);
    setFocusProxy(found_);
    connect(banks_, &BankButtons::chosen, this, &LiftersView::show_bank);
    connect(page_buttons_, &PageButtons::chosen, this, [this](int page) { show_page(static_cast<Page>(page)); });
    connect(sources_, &QPushButton::clicked, this, &LiftersView::show_sources);
    connect(found_, &HolesPage::marked, this, &LiftersView::mark);
    connect(work_, &LifterWorkPage::marked, this, &LiftersView::mark);
    refresh();
}

LiftersView::Page LiftersView::page() const {
    return static_cast<Page>(pages_->currentIndex());
}

void LiftersView::show_page(Page page) {
    pages_->setCurrentIndex(static_cast<int>(page));
    setFocusProxy(pages_->currentWidget());
    page_buttons_->press(static_cast<int>(page));
    refresh();
    Q_EMIT scope_changed();
}

void LiftersView::show_next_page() {
    show_page(page() == Page::found ? Page::work : Page::found);
}

std::optional<std::string> LiftersView::bank() const {
    return bank_.empty() ? std::nullopt : std::optional(bank_);
}

void LiftersView::show_bank(const std::string& bank) {
    bank_ = bank;
    banks_->press(bank_);
    if (!marked_ || marked_->bank != bank) {
        const auto& lifters = context_.session.state().blueprint->lifters;
        const auto first = std::ranges::find_if(lifters, [&bank](const auto& h) { return h.id.bank == bank; });
        marked_ = first == lifters.end() ? std::nullopt : std::optional(first->id);
    }
    fill();
    Q_EMIT scope_changed();
}

void LiftersView::show_other_bank() {
    if (context_.session.state().blueprint && !bank_.empty())
        show_bank(banks_->next(bank_));
}

void LiftersView::mark(const block::FeatureId& id) {
    marked_ = id;
    if (id.bank != bank_)
        return show_bank(id.bank);
    fill();
    Q_EMIT scope_changed();
}

void LiftersView::show_asked(const std::optional<planning::AskedReading>& asked) {
    found_->show_asked(asked);
}

void LiftersView::log_go() {
    show_page(Page::work);
    work_->take_focus();
}

void LiftersView::show_sources() {
    if (!marked_)
        return;
    LedgerDialog dialog(context_, planning::sources_of(context_.session.state(), *marked_), this);
    dialog.exec();
}

void LiftersView::refresh() {
    const auto& state = context_.session.state();
    if (!context_.session.has_job() || !state.blueprint) {
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
    const auto& work = context_.session.assessment().lifters;
    if (work && work->board.lifter && page() == Page::work)
        marked_ = work->board.lifter;
    if (marked_ && state.blueprint->hole(*marked_))
        bank_ = marked_->bank;
    if (!state.blueprint->bank(bank_))
        bank_ = state.blueprint->banks.front().id;
    if (!marked_)
        for (const auto& lifter : state.blueprint->lifters)
            if (!marked_ && lifter.id.bank == bank_)
                marked_ = lifter.id;
    banks_->press(bank_);
    fill();
}

void LiftersView::fill() {
    sources_->setEnabled(marked_.has_value());
    if (page() == Page::work)
        return work_->show_lifter(bank_, marked_);
    found_->show_bank(bank_);
    if (marked_)
        found_->mark(*marked_);
}

QString LiftersView::help() const {
    return tr(
        "<h2>Lifters</h2><p><b>As found</b>: the bank from outside with its lifter bores in a row below: the cross is "
        "the blueprint's place, the dot where the bore is, drawn larger than life. Beneath, a stem for each valve "
        "leans "
        "as it is late (right) or early: grey as found, blue as planned or as probed since. The spread is what tuning "
        "cannot take out.</p>"
        "<p><b>Work</b>: leave, hone or bush, each with its numbers; whether a bush covers the move; cut by cut to the "
        "seat, the bush, its inside, and the proof by a log taken afterwards.</p>"
        "<p>Click a lifter, or the arrow keys. Ctrl+Shift+Y: the other page. Ctrl+B: the other bank. Ctrl+Shift+L: "
        "where its numbers come from. Ctrl+R: the reading line.</p>");
}

} // namespace pallix::ui
