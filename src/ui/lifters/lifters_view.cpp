// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/lifters/lifters_view.h"

#include "planning/common/assessment.h"
#include "ui/frame/drawn_page.h"
#include "ui/holes/bore_tables.h"
#include "ui/lifters/lifter_row.h"

namespace pallix::ui {

LiftersView::LiftersView(Context context, QWidget* parent)
    : BoresView(context, block::FeatureKind::lifter, tr("Lifters"), {tr("as found"), tr("work")}, parent),
      row_(new LifterRow(context, this)), work_(new DrawnPage(
                                              context, row_, wording::FiguresOf::lifters,
                                              [this, context] { return lifter_table(context, bank_id()); }, this)) {
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

QString LiftersView::help() const {
    return tr(
        "<h2>Lifters</h2><p><b>As found</b>: the bank from outside with its lifter bores in a row below: the cross is "
        "the blueprint's place, the dot where the bore is, drawn larger than life.</p>"
        "<p><b>Work</b>: leave, hone or bush, each with its numbers; whether a bush covers the move; cut by cut to the "
        "seat, the bush, its inside, and the proof by a log taken afterwards. Beneath, a stem for each valve leans as "
        "it is late (right) or early: grey as found, blue as planned or as probed since. The spread is what tuning "
        "cannot take out.</p>"
        "<p>Click a lifter, or the arrow keys; T: the table; Enter: its answer in the call. Ctrl+Shift+Y: the other "
        "page. Ctrl+B: the other bank. Ctrl+Shift+L: "
        "where its numbers come from. Ctrl+R: the reading line.</p>");
}

} // namespace pallix::ui
