// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/tunnel/tunnel_view.h"

#include "ui/marks.h"
#include "ui/tunnel/tunnel_drawing.h"
#include "wording/sentences.h"

#include <QHeaderView>
#include <QLabel>
#include <QPainter>
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
    : View(parent), context_(context), heading_(new QLabel(tr("Main tunnel, as probed"), this)),
      summary_(new QLabel(this)), empty_(new QLabel(this)), drawing_(new TunnelDrawing(context, this)),
      table_(new QTableWidget(this)) {
    heading_->setFont(font_of(Type::title, true));
    summary_->setWordWrap(true);
    empty_->setAlignment(Qt::AlignCenter);
    empty_->setFont(font_of(Type::number));
    empty_->setText(
        tr("The tunnel has not been measured.\n\nTake in a probe log: Ctrl+I, or drop the .csv file on this window."));
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
    column->addWidget(heading_);
    column->addWidget(summary_);
    column->addWidget(empty_, 1);
    column->addWidget(drawing_, 1);
    column->addWidget(table_);
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) { drawing_->mark(row); });
    connect(drawing_, &TunnelDrawing::pointed_at, this, [this](int main) { table_->selectRow(main); });
    setFocusProxy(table_);
    refresh();
}

void TunnelView::refresh() {
    const auto& state = context_.session.state();
    const bool measured = state.latest.has_value();
    empty_->setVisible(!measured);
    drawing_->setVisible(measured);
    table_->setVisible(measured);
    summary_->setVisible(measured);
    if (!measured)
        return;
    const auto l = context_.lengths();
    const auto& t = state.latest->evaluation.tunnel;
    QString words =
        tr("Straight within %1 over all — %2 against the usual %3. From the side %4, from above %5 (minimum zones).")
            .arg(qt(l.with_unit(t.straightness_lsq)),
                 qt(wording::verdict_word(context_.session.assessment().tunnel->straightness)),
                 qt(l.with_unit(planning::usual_tunnel_straightness)), qt(l.plain(t.straightness_vertical_mz)),
                 qt(l.plain(t.straightness_lateral_mz)));
    if (const auto& cam = state.latest->evaluation.cam)
        words += tr(" Cam %1 away, %2 from the blueprint.")
                     .arg(qt(l.with_unit(cam->distance)), qt(l.with_sign(cam->distance_error)));
    if (!state.latest->standard_uncertainty)
        words += tr(" The probe's uncertainty was not stated, so no verdict can be given.");
    if (!state.latest->remark.empty())
        words += QStringLiteral(" (") + qt(state.latest->remark) + QStringLiteral(")");
    summary_->setText(words);
    fill_table();
    drawing_->update();
}

void TunnelView::fill_table() {
    const auto l = context_.lengths();
    const auto& evaluation = context_.session.state().latest->evaluation;
    const auto& verdicts = context_.session.assessment().tunnel->mains;
    const QStringList heads{tr("main"),     tr("level"),       tr("across"), tr("height"),
                            tr("diameter"), tr("round, zone"), tr("window"), tr("verdict")};
    const int before = table_->currentRow();
    table_->clear();
    table_->setColumnCount(static_cast<int>(heads.size()));
    table_->setHorizontalHeaderLabels(heads);
    table_->setRowCount(static_cast<int>(evaluation.mains.size()));
    table_->setFixedHeight(36 + row_height * std::min(table_->rowCount(), most_rows));
    for (int row = 0; row < table_->rowCount(); ++row) {
        const auto i = static_cast<std::size_t>(row);
        const block::MainResult& m = evaluation.mains[i];
        const auto& main =
            *std::ranges::find(context_.session.state().blueprint->mains, m.id, &block::MainBlueprint::id);
        const QStringList cells{
            QString::number(m.id.number),
            qt(m.level),
            qt(l.with_sign(m.centre.y)),
            qt(l.with_sign(m.centre.z)),
            qt(l.plain(m.diameter)),
            qt(l.plain(m.roundness_mz)),
            tr("%1 to %2").arg(qt(l.plain(main.diameter.smallest())), qt(l.plain(main.diameter.largest()))),
            qt(wording::verdict_word(verdicts[i].verdict))};
        for (int c = 0; c < cells.size(); ++c) {
            auto* item = new QTableWidgetItem(cells[c]);
            item->setTextAlignment((c == 1 || c == 7 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
            if (c == 7)
                item->setIcon(mark_pixmap(mark_of(verdicts[i].verdict), context_.palette(), devicePixelRatioF()));
            table_->setItem(row, c, item);
        }
    }
    constexpr std::array widths{56, 64, 84, 84, 92, 96, 0, 124};
    for (int c = 0; c < table_->columnCount(); ++c) {
        const int width = widths[static_cast<std::size_t>(c)];
        table_->horizontalHeader()->setSectionResizeMode(c, width == 0 ? QHeaderView::Stretch : QHeaderView::Fixed);
        if (width > 0)
            table_->setColumnWidth(c, width);
        table_->horizontalHeaderItem(c)->setTextAlignment((c == 1 || c == 7 ? Qt::AlignLeft : Qt::AlignRight) |
                                                          Qt::AlignVCenter);
    }
    table_->setCurrentCell(std::clamp(before, 0, table_->rowCount() - 1), 0);
}

QString TunnelView::help() const {
    return tr("<h2>Main tunnel</h2><p>Everything is measured from the mains. The dash-dotted line is the datum: the "
              "straight line that "
              "fits all section centres best. Dots are the section centres, drawn larger than life across; the bar "
              "says how much.</p>"
              "<p>Point at a dot, or go through the table with the arrow keys, to see which is which.</p>");
}

} // namespace pallix::ui
