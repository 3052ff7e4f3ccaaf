// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/cylinders/cylinders_view.h"

#include "planning/common/assessment.h"
#include "ui/cylinders/ladder_drawing.h"
#include "ui/cylinders/sleeve_drawing.h"
#include "ui/cylinders/trace_drawing.h"
#include "ui/dialogs/fault_list.h"
#include "ui/files.h"
#include "ui/frame/drawn_page.h"
#include "ui/holes/bore_tables.h"
#include "ui/holes/section_row.h"

#include <QFileDialog>

namespace pallix::ui {

CylindersView::CylindersView(Context context, QWidget* parent)
    : BoresView(context, block::FeatureKind::bore, tr("Cylinders"),
                {tr("as found"), tr("size"), tr("bore"), tr("hone"), tr("texture"), tr("sleeve")}, parent) {
    using enum wording::FiguresOf;
    const auto add = [&](Drawing* drawing, wording::FiguresOf figures, DrawnPage::Table table) {
        auto* page = new DrawnPage(context, drawing, figures, std::move(table), this);
        drawn_.push_back(page);
        add_drawn(page);
    };
    rows_ = {new BoringRow(context, this), new HoneRow(context, this)};
    auto* trace = new TraceDrawing(context, this);
    add(new LadderDrawing(context, this), cylinder_size, [context] { return size_table(context); });
    add(rows_[0], boring, [context] { return boring_table(context); });
    add(rows_[1], honing, [context] { return hone_table(context); });
    add(trace, texture, [trace] { return trace->table(); });
    add(new SleeveDrawing(context, this), sleeve, [context] { return sleeve_table(context); });
    refresh();
}

DrawnPage* CylindersView::drawn() const {
    return page_index() > 0 ? drawn_[static_cast<std::size_t>(page_index() - 1)] : nullptr;
}

void CylindersView::take_trace(const QString& wanted) {
    show_page(Page::texture);
    if (!marked())
        return;
    const QString file = wanted.isEmpty() ? QFileDialog::getOpenFileName(this, tr("Take in a roughness trace"), {},
                                                                         tr("Roughness traces (*.csv)"))
                                          : wanted;
    if (file.isEmpty())
        return;
    const auto text = read_text_file(file);
    if (!text)
        return show_faults(text.error(), context(), this);
    if (const auto taken = context().session.take_trace(*marked(), *text); !taken)
        show_faults(taken.error(), context(), this);
}

std::optional<block::FeatureId> CylindersView::board_wants() const {
    const auto& work = context().session.assessment().cylinders;
    const bool on_board = page() == Page::bore || page() == Page::hone || page() == Page::sleeve;
    return work && on_board ? work->bore : std::nullopt;
}

void CylindersView::fill_page() {
    for (SectionRow* row : rows_)
        row->show_bank(bank_id());
    if (DrawnPage* page = drawn())
        page->show_bore(marked());
}

QString CylindersView::help() const {
    return tr(
        "<h2>Cylinders</h2><p><b>As found</b>: the bank from outside, front to the left. The cross is where the "
        "blueprint has a bore, the dot where it is, drawn larger than life; the strong line is the part across the "
        "crankshaft, which turns into side thrust.</p>"
        "<p><b>Size</b>: what every cylinder needs about each centre, against the sizes on offer; who sets the size, "
        "and what it would be without that one.</p>"
        "<p><b>Bore</b>: one hole at a time, the worst first, with the tool in the one that is on. Each is measured "
        "before the next; a hole that comes out off the one before it at the same setting stops the work until the "
        "edge was looked at.</p>"
        "<p><b>Hone</b>: stock left on the walls at three levels; shape and where to dwell. <b>Texture</b>: a trace "
        "against what the rings want. <b>Sleeve</b>: six readings, seat, press force or heat.</p>"
        "<p>What is underlined below a drawing is changed where it stands. What was done is answered in the call on "
        "the right: Enter on a marked cylinder, or Ctrl+Return. A pit, or a decision of your own: other… there.</p>"
        "<p>Click a cylinder, or the arrow keys; T: the table. Ctrl+Shift+Y: the next page. Ctrl+B: the other bank. "
        "Ctrl+Shift+L: "
        "where its numbers come from. Ctrl+R: the reading line.</p>"
        "<p>Guards, eye protection, no gloves near rotating tools. Limits come from the engine maker and local codes; "
        "the machinist decides.</p>");
}

} // namespace pallix::ui
