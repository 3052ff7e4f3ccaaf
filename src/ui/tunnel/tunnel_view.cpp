// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/tunnel/tunnel_view.h"

#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/readings/reading_plan.h"
#include "ui/frame/page_buttons.h"
#include "ui/frame/plain_label.h"
#include "ui/marks.h"
#include "ui/tunnel/plan_page.h"
#include "ui/tunnel/tunnel_drawing.h"
#include "ui/tunnel/work_board.h"
#include "wording/common/sentences.h"
#include "wording/readings/readings.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QPainter>
#include <QPushButton>
#include <QStackedWidget>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {
namespace {

constexpr int row_height = 25, most_rows = 8;

QPixmap mark_pixmap(planning::StageMark mark, const Palette& palette, qreal ratio) {
    QPixmap pixmap(QSize(16, 16) * ratio);
    pixmap.setDevicePixelRatio(ratio);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    paint_mark(painter, QRectF(0, 0, 16, 16), mark, palette);
    return pixmap;
}

} // namespace

TunnelView::TunnelView(Context context, QWidget* parent)
    : View(parent), context_(context), heading_(new PlainLabel(tr("Main tunnel"), this)),
      summary_(new PlainLabel(this)), empty_(new PlainLabel(this)), drawing_(new TunnelDrawing(context, this)),
      page_buttons_(new PageButtons({tr("measured"), tr("plan"), tr("board")},
                                    tr("Measured, plan, board: Ctrl+Shift+M goes to the next"), this)),
      pages_(new QStackedWidget(this)), plan_(new PlanPage(context, this)), board_(new WorkBoard(context, this)),
      by_probe_(new QPushButton(tr("by probe"), this)), by_gauge_(new QPushButton(tr("by gauge"), this)),
      table_(new QTableWidget(this)) {
    heading_->setFont(font_of(Type::title, true));
    summary_->setWordWrap(true);
    empty_->setAlignment(Qt::AlignCenter);
    empty_->setFont(font_of(Type::number));
    empty_->setText(tr(
        "The tunnel has not been measured. Take in a probe log (Ctrl+I, or drop the .csv on this window), or read its "
        "sizes with a gauge in the line below (Ctrl+R)."));
    empty_->setWordWrap(true);
    table_->setObjectName(QStringLiteral("mains"));
    table_->setAccessibleName(tr("mains, section by section"));
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setShowGrid(false);
    table_->setTabKeyNavigation(false);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(row_height);
    table_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 14, 20, 12);
    column->setSpacing(8);
    auto* top = new QHBoxLayout;
    top->addWidget(heading_);
    top->addSpacing(12);
    top->addWidget(page_buttons_);
    connect(page_buttons_, &PageButtons::chosen, this, [this](int page) { show_page(static_cast<Page>(page)); });
    top->addStretch();
    auto* sources = new QButtonGroup(this);
    for (QPushButton* button : {by_probe_, by_gauge_}) {
        button->setCheckable(true);
        sources->addButton(button);
        top->addWidget(button);
        connect(button, &QPushButton::toggled, this, [this](bool on) {
            if (on && table_->isVisible())
                fill_table();
        });
    }
    by_probe_->setChecked(true);
    column->addLayout(top);
    auto* found = new QWidget(this);
    auto* found_column = new QVBoxLayout(found);
    found_column->setContentsMargins(0, 0, 0, 0);
    found_column->setSpacing(8);
    found_column->addWidget(summary_);
    found_column->addWidget(empty_);
    found_column->addWidget(drawing_, 1);
    found_column->addWidget(table_);
    pages_->addWidget(found);
    pages_->addWidget(plan_);
    pages_->addWidget(board_);
    column->addWidget(pages_, 1);
    connect(table_, &QTableWidget::currentCellChanged, this,
            [this](int row) { drawing_->mark(by_gauge_->isChecked() ? -1 : row); });
    connect(drawing_, &TunnelDrawing::pointed_at, this, [this](int section) {
        if (by_probe_->isChecked())
            table_->selectRow(section);
    });
    setFocusProxy(table_);
    refresh();
}

void TunnelView::refresh() {
    const auto& state = context_.session.state();
    const auto& assessment = context_.session.assessment();
    const bool probed = tunnel_of(state).latest.has_value(), gauged = !assessment.gauge.mains.empty();
    const bool known = context_.session.has_job() && intake_of(state).blueprint;
    empty_->setVisible(!probed && !gauged && !assessment.gauge.saddles);
    drawing_->setVisible(known);
    table_->setVisible(probed || gauged);
    by_probe_->setVisible(probed && gauged);
    by_gauge_->setVisible(probed && gauged);
    if (!probed)
        by_gauge_->setChecked(true);
    else if (!gauged)
        by_probe_->setChecked(true);
    QStringList words;
    if (probed)
        words << probed_summary();
    if (known)
        for (const auto& sentences : {wording::tunnel_gauge_sentences(state, assessment, context_.lengths()),
                                      wording::doubt_sentences(state, assessment, context_.lengths())})
            for (const std::string& sentence : sentences)
                words << qt(sentence);
    summary_->setText(words.join(QLatin1Char(' ')));
    summary_->setVisible(!words.isEmpty());
    if (probed || gauged)
        fill_table();
    drawing_->update();
    if (!known && page() != Page::found) { // nothing of another job stays on the screen
        pages_->setCurrentIndex(static_cast<int>(Page::found));
        page_buttons_->press(static_cast<int>(Page::found));
        plan_->refresh();
    }
    if (known && page() == Page::plan)
        plan_->refresh();
    if (known && page() == Page::board)
        board_->refresh();
}

TunnelView::Page TunnelView::page() const {
    return static_cast<Page>(pages_->currentIndex());
}

void TunnelView::show_page(Page page) {
    pages_->setCurrentIndex(static_cast<int>(page));
    page_buttons_->press(static_cast<int>(page));
    refresh();
    if (page == Page::plan)
        plan_->take_focus();
    else if (page == Page::found)
        table_->setFocus();
}

void TunnelView::show_next_page() {
    show_page(static_cast<Page>((pages_->currentIndex() + 1) % pages_->count()));
}

void TunnelView::log_caps() {
    show_page(Page::plan);
    plan_->log_caps();
}

void TunnelView::log_tunnel_go() {
    show_page(Page::board);
    board_->take_focus();
}

QString TunnelView::probed_summary() const {
    const auto& state = context_.session.state();
    const auto l = context_.lengths();
    const auto& t = tunnel_of(state).latest->evaluation.tunnel;
    QString words =
        tr("Straight within %1 over all — %2 against the usual %3. From the side %4, from above %5 (minimum zones).")
            .arg(qt(l.with_unit(t.straightness_lsq)),
                 qt(wording::verdict_word(context_.session.assessment().tunnel->straightness)),
                 qt(l.with_unit(planning::usual_tunnel_straightness)), qt(l.plain(t.straightness_vertical_mz)),
                 qt(l.plain(t.straightness_lateral_mz)));
    words += tr(" Main to main %1 at most — %2 against %3.")
                 .arg(qt(l.with_unit(context_.session.assessment().tunnel->step)),
                      qt(wording::verdict_word(context_.session.assessment().tunnel->step_verdict)),
                      qt(l.plain(planning::usual_tunnel_step)));
    if (tunnel_of(state).probe_stale())
        words = tr("Before it was cut: ") + words;
    if (const auto& cam = tunnel_of(state).latest->evaluation.cam)
        words += tr(" Cam %1 away, %2 from the blueprint.")
                     .arg(qt(l.with_unit(cam->distance)), qt(l.with_sign(cam->distance_error)));
    if (!tunnel_of(state).latest->standard_uncertainty)
        words += tr(" The probe's uncertainty was not stated, so no verdict can be given.");
    if (!tunnel_of(state).latest->remark.empty())
        words += QStringLiteral(" (") + qt(tunnel_of(state).latest->remark) + QStringLiteral(")");
    return words;
}

void TunnelView::show_asked(const std::optional<planning::AskedReading>& asked) {
    drawing_->set_asked(asked);
}

void TunnelView::set_heads(const QStringList& heads, int rows) {
    table_->clear();
    table_->setColumnCount(static_cast<int>(heads.size()));
    table_->setHorizontalHeaderLabels(heads);
    table_->setRowCount(rows);
    table_->setFixedHeight(36 + row_height * std::min(rows, most_rows));
}

void TunnelView::add_verdict(int row, int column, metrology::Verdict verdict) {
    auto* item = new QTableWidgetItem(qt(wording::verdict_word(verdict)));
    item->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    item->setIcon(mark_pixmap(mark_of(verdict), context_.palette(), devicePixelRatioF()));
    table_->setItem(row, column, item);
}

void TunnelView::fill_table() {
    const int before = table_->currentRow();
    const bool gauged = by_gauge_->isChecked();
    if (gauged)
        fill_gauged();
    else
        fill_probed();
    // The window takes what the others leave; words stand left, numbers right.
    const std::vector<int> widths =
        gauged ? std::vector<int>{56, 64, 92, 92, 64, 0, 124} : std::vector<int>{56, 64, 84, 84, 92, 96, 0, 124};
    const auto is_word = [&](int c) { return c == 1 || c == table_->columnCount() - 1 || (gauged && c == 2); };
    for (int c = 0; c < table_->columnCount(); ++c) {
        const int width = widths[static_cast<std::size_t>(c)];
        table_->horizontalHeader()->setSectionResizeMode(c, width == 0 ? QHeaderView::Stretch : QHeaderView::Fixed);
        if (width > 0)
            table_->setColumnWidth(c, width);
        const auto side = (is_word(c) ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter;
        table_->horizontalHeaderItem(c)->setTextAlignment(side);
        for (int row = 0; row < table_->rowCount(); ++row)
            if (QTableWidgetItem* item = table_->item(row, c))
                item->setTextAlignment(side);
    }
    table_->setCurrentCell(std::clamp(before, 0, table_->rowCount() - 1), 0);
}

void TunnelView::fill_probed() {
    const auto l = context_.lengths();
    const auto& evaluation = tunnel_of(context_.session.state()).latest->evaluation;
    const auto& verdicts = context_.session.assessment().tunnel->mains;
    set_heads({tr("main"), tr("level"), tr("across"), tr("height"), tr("diameter"), tr("round, zone"), tr("window"),
               tr("verdict")},
              static_cast<int>(evaluation.mains.size()));
    for (int row = 0; row < table_->rowCount(); ++row) {
        const block::MainResult& m = evaluation.mains[static_cast<std::size_t>(row)];
        const auto& main =
            *std::ranges::find(intake_of(context_.session.state()).blueprint->mains, m.id, &block::MainBlueprint::id);
        const QStringList cells{
            QString::number(m.id.number),
            qt(m.level),
            qt(l.with_sign(m.centre.y)),
            qt(l.with_sign(m.centre.z)),
            qt(l.plain(m.diameter)),
            qt(l.plain(m.roundness_mz)),
            tr("%1 to %2").arg(qt(l.plain(main.diameter.smallest())), qt(l.plain(main.diameter.largest())))};
        for (int c = 0; c < cells.size(); ++c)
            table_->setItem(row, c, new QTableWidgetItem(cells[c]));
        add_verdict(row, static_cast<int>(cells.size()), verdicts[static_cast<std::size_t>(row)].verdict);
    }
}

void TunnelView::fill_gauged() {
    const auto l = context_.lengths();
    const auto& mains = context_.session.assessment().gauge.mains;
    int rows = 0;
    for (const auto& main : mains)
        rows += static_cast<int>(main.sizes.size());
    set_heads({tr("main"), tr("end"), tr("way"), tr("size"), tr("reads"), tr("window"), tr("verdict")}, rows);
    int row = 0;
    for (const auto& main : mains)
        for (const planning::SizeFinding& s : main.sizes) {
            const QStringList cells{QString::number(main.id.number),
                                    qt(s.place.at.level),
                                    qt(s.place.at.direction),
                                    qt(l.plain(s.place.value)),
                                    QString::number(s.place.count),
                                    tr("%1 to %2").arg(qt(l.plain(*s.limits.lower)), qt(l.plain(*s.limits.upper)))};
            for (int c = 0; c < cells.size(); ++c)
                table_->setItem(row, c, new QTableWidgetItem(cells[c]));
            if (main.stale)
                table_->setItem(row, 6, new QTableWidgetItem(tr("stale: cut since")));
            else
                add_verdict(row, 6, s.verdict);
            table_->item(row, 6)->setToolTip(
                plain_tip(qt(s.place.sureness ? wording::settling_sentence(s.settling, l)
                                              : std::string("The gauge's uncertainty was not stated (Ctrl+G)."))));
            ++row;
        }
}

QString TunnelView::help() const {
    return tr(
        "<h2>Main tunnel</h2><p>Everything is measured from the mains. The dash-dotted line is the datum: the "
        "straight line that "
        "fits all section centres best. Dots are the section centres, drawn larger than life across; the bar "
        "says how much.</p>"
        "<p>Point at a dot, or go through the table with the arrow keys, to see which is which.</p>"
        "<p>Ctrl+R: the reading line; Ctrl+M: sizes, saddle heights or bar sweep. Ctrl+Shift+T: the tunnel was cut; "
        "what was measured from the old one is stale from then on.</p>"
        "<p>Ctrl+Shift+M: as found, plan, board. On the plan drag a cap or the line, or choose a cap with Left and "
        "Right and cut it with Up and Down; R marks a replaced cap. Cutting a cap's face brings the cap nearer, so the "
        "hole is too small at the cap and the new round hole has to sit higher: that is why cutting caps raises the "
        "crankshaft. Ctrl+Shift+Return logs the caps as cut, Ctrl+Shift+K goes to strokes or passes.</p>");
}

} // namespace pallix::ui
