// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/lifters/lifters_view.h"

#include "planning/common/assessment.h"
#include "ui/lifters/lifter_work_page.h"

namespace pallix::ui {

LiftersView::LiftersView(Context context, QWidget* parent)
    : BoresView(context, block::FeatureKind::lifter, tr("Lifters"), {tr("As found"), tr("Work")}, parent),
      work_(new LifterWorkPage(context, this)) {
    add_page(work_);
    connect(work_, &LifterWorkPage::marked, this, &LiftersView::mark);
    refresh();
}

void LiftersView::log_go() {
    show_page(Page::work);
    work_->take_focus();
}

std::optional<block::FeatureId> LiftersView::board_wants() const {
    const auto& work = context().session.assessment().lifters;
    return work && page() == Page::work ? work->board.lifter : std::nullopt;
}

void LiftersView::fill_page() {
    work_->show_lifter(bank_id(), marked());
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
