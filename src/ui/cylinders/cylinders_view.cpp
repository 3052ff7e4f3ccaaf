// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/cylinders/cylinders_view.h"

#include "planning/common/assessment.h"
#include "ui/cylinders/bore_page.h"
#include "ui/cylinders/hone_page.h"
#include "ui/cylinders/size_page.h"
#include "ui/cylinders/sleeve_page.h"
#include "ui/cylinders/texture_page.h"

namespace pallix::ui {

CylindersView::CylindersView(Context context, QWidget* parent)
    : BoresView(context, block::FeatureKind::bore, QString(), // six pages need the room; the route says where we are
                {tr("Found"), tr("Size"), tr("Bore"), tr("Hone"), tr("Texture"), tr("Sleeve")}, parent),
      size_(new SizePage(context, this)), bore_(new BorePage(context, this)), hone_(new HonePage(context, this)),
      texture_(new TexturePage(context, this)), sleeve_(new SleevePage(context, this)) {
    for (QWidget* page : std::initializer_list<QWidget*>{size_, bore_, hone_, texture_, sleeve_})
        add_page(page);
    connect(size_, &SizePage::marked, this, &CylindersView::mark);
    connect(bore_, &BorePage::marked, this, &CylindersView::mark);
    connect(hone_, &HonePage::marked, this, &CylindersView::mark);
    refresh();
}

void CylindersView::log_go() {
    if (page() == Page::hone)
        return hone_->take_focus();
    show_page(Page::bore);
    bore_->take_focus();
}

std::optional<block::FeatureId> CylindersView::board_wants() const {
    const auto& work = context().session.assessment().cylinders;
    const bool on_board = page() == Page::bore || page() == Page::hone || page() == Page::sleeve;
    return work && on_board ? work->bore : std::nullopt;
}

void CylindersView::fill_page() {
    switch (page()) {
    case Page::found:
        break;
    case Page::size:
        return size_->show_bore(marked());
    case Page::bore:
        return bore_->show_bore(marked());
    case Page::hone:
        return hone_->show_bore(marked());
    case Page::texture:
        return texture_->show_bore(marked());
    case Page::sleeve:
        return sleeve_->show_bore(marked());
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
