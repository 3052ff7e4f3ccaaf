// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/block/block_view.h"

#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "ui/block/block_drawing.h"
#include "ui/block/card_sheet.h"
#include "ui/block/memory_drawing.h"
#include "ui/frame/drawn_page.h"
#include "ui/frame/page_buttons.h"
#include "ui/frame/plain_label.h"

#include <QHBoxLayout>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace pallix::ui {

BlockView::BlockView(Context context, QWidget* parent)
    : View(parent), context_(context), drawing_(new BlockDrawing(context, this)),
      page_(new DrawnPage(
          context, drawing_, std::nullopt, [this] { return drawing_->table(); }, this)),
      card_(new LineDrawing(context, QStringLiteral("job-card"), tr("job card"), this)),
      card_page_(new DrawnPage(
          context, card_, std::nullopt, [this] { return card_->table(tr("line|what is known|when")); }, this)),
      memory_(new MemoryDrawing(context, this)),
      memory_page_(new DrawnPage(
          context, memory_, std::nullopt, [this] { return memory_->table(); }, this)),
      buttons_(new PageButtons({tr("drawing"), tr("job card"), tr("its kind")},
                               tr("The block, its job card (Ctrl+Shift+C), others of its kind (Ctrl+Shift+K)"), this)),
      pages_(new QStackedWidget(this)) {
    auto* heading = new PlainLabel(tr("The block"), this);
    set_type(heading, Type::title, true);
    auto* top = new QHBoxLayout;
    top->addWidget(heading);
    top->addSpacing(12);
    top->addWidget(buttons_);
    top->addStretch();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 12, 20, 10);
    column->setSpacing(8);
    column->addLayout(top);
    column->addWidget(pages_, 1);
    pages_->addWidget(page_);
    pages_->addWidget(card_page_);
    pages_->addWidget(memory_page_);
    setFocusProxy(page_);
    buttons_->explain(
        this, {QStringLiteral("view-block"), QStringLiteral("page-block-card"), QStringLiteral("page-block-kind")});
    connect(buttons_, &PageButtons::chosen, this, [this](int page) { show_page(static_cast<Page>(page)); });
    connect(page_, &DrawnPage::marked, this, [this](const block::FeatureId& id) {
        marked_ = id;
        page_->show_bore(marked_);
    });
    connect(page_, &DrawnPage::entered, this, [this] {
        if (marked_)
            Q_EMIT feature_wanted(*marked_);
    });
    connect(card_, &LineDrawing::line_marked, this, &BlockView::step_marked);
    connect(card_, &LineDrawing::line_entered, this, &BlockView::step_entered);
    buttons_->press(0);
    refresh();
}

void BlockView::refresh() {
    if (!context_.session.has_job())
        marked_.reset();
    page_->show_bore(marked_);
    if (shown() == Page::card) {
        card_->show_lines(card_sheet(context_));
        card_page_->show_bore({});
    } else if (shown() == Page::memory)
        memory_page_->show_bore({});
}

void BlockView::show_page(Page page) {
    buttons_->press(static_cast<int>(page));
    pages_->setCurrentIndex(static_cast<int>(page));
    refresh();
    setFocusProxy(pages_->currentWidget());
    pages_->currentWidget()->setFocus();
}

BlockView::Page BlockView::shown() const {
    return static_cast<Page>(pages_->currentIndex());
}

/// Who fills the card goes from gap to gap.
void BlockView::answered() {
    if (shown() != Page::card)
        return;
    const std::vector<SheetLine> sheet = card_sheet(context_);
    bool after = false;
    for (const SheetLine& line : sheet) {
        if (after && !line.id.isEmpty() && line.words.isEmpty())
            return card_->mark_line(line.id);
        after = after || line.id == card_->marked_line();
    }
}

} // namespace pallix::ui
