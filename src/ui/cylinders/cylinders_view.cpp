// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/cylinders/cylinders_view.h"

#include "ui/cylinders/bore_page.h"
#include "ui/cylinders/hone_page.h"
#include "ui/cylinders/size_page.h"
#include "ui/cylinders/sleeve_page.h"
#include "ui/cylinders/texture_page.h"
#include "ui/dialogs/ledger_dialog.h"
#include "ui/frame/bank_buttons.h"
#include "ui/frame/page_buttons.h"
#include "ui/holes/holes_page.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

CylindersView::CylindersView(Context context, QWidget* parent)
    : View(parent), context_(context), banks_(new BankButtons(context, this)),
      page_buttons_(new PageButtons({tr("Found"), tr("Size"), tr("Bore"), tr("Hone"), tr("Texture"), tr("Sleeve")},
                                    tr("Ctrl+Shift+Y goes from one to the next"), this)),
      sources_(new QPushButton(tr("Where from"), this)), pages_(new QStackedWidget(this)),
      found_(new HolesPage(context, block::FeatureKind::bore, this)), size_(new SizePage(context, this)),
      bore_(new BorePage(context, this)), hone_(new HonePage(context, this)), texture_(new TexturePage(context, this)),
      sleeve_(new SleevePage(context, this)) {
    setObjectName(QStringLiteral("cylinders"));
    sources_->setObjectName(QStringLiteral("cylinder-sources"));
    sources_->setToolTip(tr("The entries that the marked cylinder's numbers come from (Ctrl+Shift+L)"));
    for (QWidget* page : std::initializer_list<QWidget*>{found_, size_, bore_, hone_, texture_, sleeve_})
        pages_->addWidget(page);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 10);
    column->setSpacing(8);
    auto* top = new QHBoxLayout;
    top->setSpacing(6);
    top->addWidget(page_buttons_); // the route says already that these are the cylinders
    top->addStretch();
    top->addWidget(sources_);
    top->addWidget(banks_);
    column->addLayout(top);
    column->addWidget(pages_, 1);
    setFocusProxy(found_);
    connect(banks_, &BankButtons::chosen, this, &CylindersView::show_bank);
    connect(page_buttons_, &PageButtons::chosen, this, [this](int page) { show_page(static_cast<Page>(page)); });
    connect(sources_, &QPushButton::clicked, this, &CylindersView::show_sources);
    connect(found_, &HolesPage::marked, this, &CylindersView::mark);
    connect(size_, &SizePage::marked, this, &CylindersView::mark);
    connect(bore_, &BorePage::marked, this, &CylindersView::mark);
    connect(hone_, &HonePage::marked, this, &CylindersView::mark);
    refresh();
}

CylindersView::Page CylindersView::page() const {
    return static_cast<Page>(pages_->currentIndex());
}

void CylindersView::show_page(Page page) {
    pages_->setCurrentIndex(static_cast<int>(page));
    setFocusProxy(pages_->currentWidget());
    page_buttons_->press(static_cast<int>(page));
    refresh();
    Q_EMIT scope_changed();
}

void CylindersView::show_next_page() {
    show_page(static_cast<Page>((pages_->currentIndex() + 1) % pages_->count()));
}

std::optional<std::string> CylindersView::bank() const {
    return bank_.empty() ? std::nullopt : std::optional(bank_);
}

void CylindersView::show_bank(const std::string& bank) {
    bank_ = bank;
    banks_->press(bank_);
    if (!marked_ || marked_->bank != bank) {
        const auto& bores = context_.session.state().blueprint->bores;
        const auto first =
            std::ranges::find_if(bores, [&bank](const block::HoleBlueprint& b) { return b.id.bank == bank; });
        marked_ = first == bores.end() ? std::nullopt : std::optional(first->id);
    }
    fill();
    Q_EMIT scope_changed();
}

void CylindersView::show_other_bank() {
    if (context_.session.state().blueprint && !bank_.empty())
        show_bank(banks_->next(bank_));
}

void CylindersView::mark(const block::FeatureId& id) {
    marked_ = id;
    if (id.bank != bank_)
        return show_bank(id.bank);
    fill();
    Q_EMIT scope_changed();
}

void CylindersView::show_asked(const std::optional<planning::AskedReading>& asked) {
    found_->show_asked(asked);
}

void CylindersView::log_go() {
    if (page() == Page::hone)
        return hone_->take_focus();
    show_page(Page::bore);
    bore_->take_focus();
}

void CylindersView::show_sources() {
    if (!marked_)
        return;
    LedgerDialog dialog(context_, planning::sources_of(context_.session.state(), *marked_), this);
    dialog.exec();
}

void CylindersView::refresh() {
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
    // The board's own hole comes to hand: what it asks for is what is shown.
    const auto& work = context_.session.assessment().cylinders;
    if (work && work->bore && (page() == Page::bore || page() == Page::hone || page() == Page::sleeve))
        marked_ = work->bore;
    if (marked_ && state.blueprint->hole(*marked_))
        bank_ = marked_->bank;
    if (!state.blueprint->bank(bank_))
        bank_ = state.blueprint->banks.front().id;
    if (!marked_)
        for (const auto& bore : state.blueprint->bores)
            if (!marked_ && bore.id.bank == bank_)
                marked_ = bore.id;
    banks_->press(bank_);
    fill();
}

/// Only the page on screen is filled: the others follow when they are shown.
void CylindersView::fill() {
    sources_->setEnabled(marked_.has_value());
    switch (page()) {
    case Page::found:
        found_->show_bank(bank_);
        if (marked_)
            found_->mark(*marked_);
        break;
    case Page::size:
        return size_->show_bore(marked_);
    case Page::bore:
        return bore_->show_bore(marked_);
    case Page::hone:
        return hone_->show_bore(marked_);
    case Page::texture:
        return texture_->show_bore(marked_);
    case Page::sleeve:
        return sleeve_->show_bore(marked_);
    }
}

QString CylindersView::help() const {
    return tr(
        "<h2>Cylinders</h2><p><b>As found</b>: the bank from outside, front to the left. The cross is where the "
        "blueprint has a bore, the dot where it is, drawn larger than life; the strong line is the part across the "
        "crankshaft, which turns into side thrust.</p>"
        "<p><b>Size</b>: what every cylinder needs about each centre, against the sizes on offer; who sets the size, "
        "and what it would be without that one. Pits, least walls and decisions are kept here.</p>"
        "<p><b>Bore</b>: one hole at a time, the worst first. Each is measured before the next; a hole that comes out "
        "off the one before it at the same setting stops the work until the edge was looked at.</p>"
        "<p><b>Hone</b>: stock left at three levels, both ways; shape and where to dwell; cross-hatch; the rest of an "
        "aluminium block. <b>Texture</b>: a trace against what the rings want. <b>Sleeve</b>: six readings, seat, "
        "press "
        "force or heat.</p>"
        "<p>Click a cylinder, or the arrow keys. Ctrl+Shift+Y: the next page. Ctrl+B: the other bank. Ctrl+Shift+L: "
        "where its numbers come from. Ctrl+R: the reading line.</p>"
        "<p>Guards, eye protection, no gloves near rotating tools. Limits come from the engine maker and local codes; "
        "the machinist decides.</p>");
}

} // namespace pallix::ui
