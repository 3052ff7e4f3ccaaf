// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/block/block_view.h"

#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "ui/block/block_drawing.h"
#include "ui/frame/drawn_page.h"
#include "ui/frame/plain_label.h"

#include <QVBoxLayout>

namespace pallix::ui {

BlockView::BlockView(Context context, QWidget* parent)
    : View(parent), context_(context), drawing_(new BlockDrawing(context, this)),
      page_(new DrawnPage(
          context, drawing_, std::nullopt, [this] { return drawing_->table(); }, this)) {
    auto* heading = new PlainLabel(tr("The block"), this);
    set_type(heading, Type::title, true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 12, 20, 10);
    column->setSpacing(8);
    column->addWidget(heading);
    column->addWidget(page_, 1);
    setFocusProxy(page_);
    connect(page_, &DrawnPage::marked, this, [this](const block::FeatureId& id) {
        marked_ = id;
        page_->show_bore(marked_);
    });
    connect(page_, &DrawnPage::entered, this, [this] {
        if (marked_)
            Q_EMIT feature_wanted(*marked_);
    });
    refresh();
}

void BlockView::refresh() {
    if (!context_.session.has_job())
        marked_.reset();
    page_->show_bore(marked_);
}

} // namespace pallix::ui
