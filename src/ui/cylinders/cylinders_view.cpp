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
    explain_pages({QStringLiteral("page-cylinders-found"), QStringLiteral("page-cylinders-size"),
                   QStringLiteral("page-cylinders-bore"), QStringLiteral("page-cylinders-hone"),
                   QStringLiteral("page-cylinders-texture"), QStringLiteral("page-cylinders-sleeve")});
    rows_ = {boring_row(context, this), hone_row(context, this)};
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
                                                                         tr("Roughness traces (*.csv *.x3p)"))
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

} // namespace pallix::ui
