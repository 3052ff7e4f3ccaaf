// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/lifters/lifters_view.h"

#include "planning/common/assessment.h"
#include "ui/frame/drawn_page.h"
#include "ui/holes/bore_tables.h"
#include "ui/lifters/lifter_row.h"

namespace pallix::ui {

LiftersView::LiftersView(Context context, QWidget* parent)
    : BoresView(context, block::FeatureKind::lifter, tr("Lifters"), {tr("as found"), tr("work")}, parent),
      row_(lifter_row(context, this)), work_(new DrawnPage(
                                           context, row_, wording::FiguresOf::lifters,
                                           [this, context] { return lifter_table(context, bank_id()); }, this)) {
    explain_pages({QStringLiteral("page-lifters-found"), QStringLiteral("page-lifters-work")});
    add_drawn(work_);
    refresh();
}

std::optional<block::FeatureId> LiftersView::board_wants() const {
    const auto& work = context().session.assessment().lifters;
    return work && page() == Page::work ? work->board.lifter : std::nullopt;
}

void LiftersView::fill_page() {
    row_->show_bank(bank_id());
    work_->show_bore(marked());
}

} // namespace pallix::ui
