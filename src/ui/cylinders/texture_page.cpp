// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/cylinders/texture_page.h"

#include "block/ledger.h"
#include "block/reading_text.h"
#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "session/counted.h"

#include "ui/files.h"
#include "ui/frame/echo.h"
#include "ui/frame/plain_label.h"
#include "ui/frame/plain_table.h"
#include "ui/marks.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/readings/readings.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::ui {

namespace {

constexpr double um = 1e-3; // mm
using Range = block::TextureLimits::Range;
constexpr std::array ranges{&block::TextureLimits::ra,  &block::TextureLimits::rz,  &block::TextureLimits::rk,
                            &block::TextureLimits::rpk, &block::TextureLimits::rvk, &block::TextureLimits::mr1,
                            &block::TextureLimits::mr2};
constexpr std::size_t first_ratio = 5;

/// What one step of a limit's cell is worth, mm or a ratio.
double cell_unit(std::size_t row) {
    return row >= first_ratio ? 0.01 : um;
}

} // namespace

// ---- drawing ------------------------------------------------------------------------------------------------------

TraceDrawing::TraceDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("trace"), tr("roughness profile and its material-ratio curve"), parent) {}

void TraceDrawing::show_finding(std::optional<planning::TextureFinding> finding) {
    finding_ = std::move(finding);
    if (finding_)
        setAccessibleDescription(tr("Rk %1, Rpk %2, Rvk %3")
                                     .arg(qt(wording::texture_text(finding_->ratio.rk, false)),
                                          qt(wording::texture_text(finding_->ratio.rpk, false)),
                                          qt(wording::texture_text(finding_->ratio.rvk, false))));
    update();
}

void TraceDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    if (!finding_) {
        painter.setFont(font_of(Type::text));
        painter.setPen(p.quiet);
        painter.drawText(rect().adjusted(20, 0, -20, 0), Qt::AlignCenter | Qt::TextWordWrap,
                         tr("No trace of this cylinder yet: take one in, or drop its file here."));
        return;
    }
    const auto& curve = finding_->ratio.curve;
    const double low = std::min(curve.back(), std::ranges::min(finding_->shown.heights)),
                 high = std::max(curve.front(), std::ranges::max(finding_->shown.heights));
    const double beside = width() * 0.36;
    paint_profile(painter, QRectF(rect()).adjusted(66, 34, -beside - 12, -34), low, high);
    paint_curve(painter, QRectF(rect()).adjusted(width() - beside + 18, 34, -58, -34), low, high);
}

void TraceDrawing::paint_profile(QPainter& painter, const QRectF& room, double low, double high) {
    const Palette& p = context_.palette();
    const auto& z = finding_->shown.heights;
    const auto y_of = [&](double h) { return room.bottom() - (h - low) / (high - low) * room.height(); };
    painter.setPen(QPen(p.hairline, 1));
    painter.drawLine(QPointF(room.left(), y_of(0)), QPointF(room.right(), y_of(0)));
    // One stroke a pixel, from the lowest to the highest height in it: no peak is lost.
    QPolygonF line;
    const auto pixels = static_cast<std::size_t>(std::max(1.0, room.width()));
    for (std::size_t x = 0; x < pixels; ++x) {
        const std::size_t from = x * z.size() / pixels, to = std::max(from + 1, (x + 1) * z.size() / pixels);
        const auto [least, most] = std::minmax_element(z.begin() + static_cast<std::ptrdiff_t>(from),
                                                       z.begin() + static_cast<std::ptrdiff_t>(std::min(to, z.size())));
        const double at = room.left() + static_cast<double>(x);
        line << QPointF(at, y_of(*most)) << QPointF(at, y_of(*least));
    }
    painter.setPen(QPen(p.deck.iron_low, 1));
    painter.drawPolyline(line);
    painter.setFont(font_of(Type::small));
    painter.setPen(p.ink);
    painter.drawText(QRectF(room.left(), 8, room.width(), 18), Qt::AlignLeft, tr("roughness profile"));
    painter.setPen(p.quiet);
    painter.drawText(
        QRectF(room.left(), room.bottom() + 8, room.width(), 18), Qt::AlignRight,
        tr("%1 mm, filtered at %2 mm").arg(finding_->shown.length(), 0, 'f', 1).arg(finding_->cutoff, 0, 'f', 2));
    for (const double h : {high, 0.0, low})
        painter.drawText(QRectF(4, y_of(h) - 9, 58, 18), Qt::AlignRight | Qt::AlignVCenter,
                         QString::number(h / um, 'f', 1).replace(QLatin1Char('-'), QChar(0x2212)) + tr(" µm"));
}

void TraceDrawing::paint_curve(QPainter& painter, const QRectF& room, double low, double high) {
    const Palette& p = context_.palette();
    const auto& r = finding_->ratio;
    const auto y_of = [&](double h) { return room.bottom() - (h - low) / (high - low) * room.height(); };
    const auto x_of = [&](double m) { return room.left() + m * room.width(); };
    // The core between the line's two ends.
    painter.setPen(Qt::NoPen);
    painter.setBrush(p.selected);
    painter.drawRect(QRectF(QPointF(room.left(), y_of(r.upper)), QPointF(room.right(), y_of(r.lower))));
    painter.setPen(QPen(p.hairline, 1));
    painter.drawLine(room.bottomLeft(), room.bottomRight());
    painter.drawLine(room.topLeft(), room.bottomLeft());
    QPolygonF line;
    constexpr std::size_t most = 400;
    const std::size_t stride = std::max<std::size_t>(1, r.curve.size() / most);
    for (std::size_t i = 0; i < r.curve.size(); i += stride)
        line << QPointF(x_of(static_cast<double>(i) / static_cast<double>(r.curve.size() - 1)), y_of(r.curve[i]));
    line << QPointF(room.right(), y_of(r.curve.back()));
    painter.setPen(QPen(p.accent, 2.2));
    painter.drawPolyline(line);
    painter.setPen(QPen(p.ink, 1.2, Qt::DashLine));
    painter.drawLine(QPointF(room.left(), y_of(r.upper)), QPointF(room.right(), y_of(r.lower)));
    for (const double m : {r.mr1, r.mr2})
        painter.drawLine(QPointF(x_of(m), y_of(m == r.mr1 ? r.upper : r.lower)), QPointF(x_of(m), room.bottom()));
    painter.setFont(font_of(Type::small));
    painter.setPen(p.ink);
    painter.drawText(QRectF(room.left(), 8, room.width() + 50, 18), Qt::AlignLeft, tr("material ratio"));
    painter.drawText(QRectF(x_of(r.mr1) - 60, room.bottom() + 8, 120, 18), Qt::AlignCenter,
                     tr("Mr1 %1").arg(qt(wording::texture_text(r.mr1, true))));
    painter.drawText(QRectF(x_of(r.mr2) - 60, room.bottom() + 8, 120, 18), Qt::AlignCenter,
                     tr("Mr2 %1").arg(qt(wording::texture_text(r.mr2, true))));
    const double middle = (r.upper + r.lower) / 2;
    const std::array<std::pair<double, QString>, 3> names{
        {{r.upper + (high - r.upper) / 2, tr("Rpk")}, {middle, tr("Rk")}, {r.lower - (r.lower - low) / 2, tr("Rvk")}}};
    for (const auto& [h, name] : names)
        painter.drawText(QRectF(room.right() + 6, y_of(h) - 9, 46, 18), Qt::AlignLeft | Qt::AlignVCenter, name);
}

// ---- page ---------------------------------------------------------------------------------------------------------

TexturePage::TexturePage(Context context, QWidget* parent)
    : QWidget(parent), context_(context), drawing_(new TraceDrawing(context, this)), words_(new PlainLabel(this)),
      table_(new PlainTable(QStringLiteral("texture"), tr("texture against what the rings want"),
                            {tr("parameter"), tr("stands"), tr("measured"), tr("at least"), tr("at most")}, 2, this)),
      rings_(new QComboBox(this)), echo_(new Echo(context, QStringLiteral("texture-echo"), this)) {
    words_->setObjectName(QStringLiteral("texture-words"));
    words_->setWordWrap(true);
    rings_->setObjectName(QStringLiteral("rings"));
    rings_->setAccessibleName(tr("ring pack"));
    rings_->addItem(tr("as kept with the job"));
    for (const auto& l : planning::usual_texture_limits())
        rings_->addItem(qt(l.rings));
    table_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                            QAbstractItemView::AnyKeyPressed);
    auto* take = new QPushButton(tr("Take in a &trace…"), this);
    take->setObjectName(QStringLiteral("take-trace"));
    auto* keep = new QPushButton(tr("&Keep the limits"), this);
    keep->setObjectName(QStringLiteral("keep-texture"));
    auto* row = new QHBoxLayout;
    row->addWidget(take);
    row->addStretch();
    row->addWidget(new PlainLabel(tr("rings"), this));
    row->addWidget(rings_);
    row->addWidget(keep);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(drawing_, 1);
    column->addWidget(words_);
    column->addWidget(table_);
    column->addLayout(row);
    column->addWidget(echo_);
    connect(take, &QPushButton::clicked, this, [this] { take_trace(); });
    connect(keep, &QPushButton::clicked, this, &TexturePage::keep_limits);
    connect(rings_, &QComboBox::activated, this, [this] { fill(); });
}

void TexturePage::show_bore(const std::optional<block::FeatureId>& bore) {
    bore_ = bore;
    if (intake_of(context_.session.state()).blueprint)
        fill();
}

block::TextureLimits TexturePage::limits_shown() const {
    const auto usual = planning::usual_texture_limits();
    if (const int i = rings_->currentIndex(); i > 0)
        return usual[static_cast<std::size_t>(i - 1)];
    const auto& kept = bores_of(context_.session.state()).texture_limits;
    return kept ? kept->payload : block::TextureLimits{};
}

void TexturePage::fill() {
    const auto& state = context_.session.state();
    const block::TextureLimits limits = limits_shown();
    const auto trace = bore_ ? bores_of(state).bore(*bore_).trace : std::nullopt;
    const std::string from = (trace ? std::to_string(trace->sequence) : "") + block::payload_json(limits) +
                             std::to_string(context_.session.job().value_or(0));
    if (from != worked_out_for_) { // a filter over thousands of points: once for each trace
        worked_out_for_ = from;
        std::optional<planning::TextureFinding> finding;
        if (trace)
            if (const auto read = block::read_trace({trace->payload.file, trace->payload.text}))
                finding = planning::judge_texture(*read, limits);
        drawing_->show_finding(std::move(finding));
    }
    drawing_->update();
    const auto& finding = drawing_->finding();
    constexpr std::array names{"Ra", "Rz", "Rk", "Rpk", "Rvk", "Mr1", "Mr2"};
    std::vector<QStringList> rows;
    for (std::size_t i = 0; i < ranges.size(); ++i) {
        const Range& r = limits.*ranges[i];
        const auto cell = [&](const std::optional<double>& x) {
            return x ? QString::number(*x / cell_unit(i), 'f', i >= first_ratio ? 0 : 2) : QString();
        };
        const bool wanted = r.least || r.most;
        QString stands;
        if (finding && wanted)
            stands = qt(wording::verdict_word(finding->checks[i].verdict));
        rows.push_back({tr("%1, %2").arg(QString::fromLatin1(names[i]), i >= first_ratio ? tr("%") : tr("µm")), stands,
                        finding ? qt(wording::texture_text(finding->checks[i].value, i >= first_ratio)) : QString(),
                        cell(r.least), cell(r.most)});
    }
    table_->set_rows(rows, 7);
    for (int row = 0; row < table_->rowCount(); ++row)
        for (int c = 0; c < 3; ++c)
            table_->item(row, c)->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
    QStringList words;
    if (bore_)
        words << qt(wording::feature_words(*intake_of(state).blueprint, *bore_)) + QLatin1Char('.');
    if (finding)
        words << tr("Rz over %1. ")
                     .arg(session::counted(static_cast<qsizetype>(finding->roughness.lengths), tr("length"),
                                           tr("lengths")));
    if (!limits.rings.empty())
        words << tr("Wanted for %1: the ring maker's sheet comes first, double-click a limit to change it.")
                     .arg(qt(limits.rings));
    else
        words << tr("No limits were stated: choose the rings, or type limits into the table.");
    words_->setText(words.join(QLatin1Char(' ')));
}

void TexturePage::take_trace(const QString& wanted) {
    if (!bore_)
        return echo_->complain(tr("Mark a cylinder first."));
    const QString file = wanted.isEmpty() ? QFileDialog::getOpenFileName(this, tr("Take in a roughness trace"), {},
                                                                         tr("Roughness traces (*.csv)"))
                                          : wanted;
    if (file.isEmpty())
        return;
    const auto text = read_text_file(file);
    if (!text)
        return echo_->complain(qt(text.error().front().text()));
    if (echo_->took(context_.session.take_trace(*bore_, *text)))
        echo_->say(tr("Taken in."));
}

void TexturePage::keep_limits() {
    block::TextureLimits limits = limits_shown();
    for (int row = 0; row < table_->rowCount(); ++row) {
        const auto i = static_cast<std::size_t>(row);
        Range range;
        for (const int c : {3, 4}) {
            const QString text = table_->item(row, c)->text().trimmed();
            if (text.isEmpty())
                continue;
            const auto x = block::read_number(text.toStdString());
            if (!x) {
                table_->setCurrentCell(row, c);
                return echo_->complain(tr("%1: “%2” is no number").arg(table_->item(row, 0)->text(), text));
            }
            (c == 3 ? range.least : range.most) = *x * cell_unit(i);
        }
        limits.*ranges[i] = range;
    }
    if (limits.rings.empty())
        limits.rings = tr("own limits").toStdString();
    if (!echo_->took(context_.session.take(limits)))
        return;
    rings_->setCurrentIndex(0);
    fill();
    echo_->say(tr("Kept with the job."));
}

} // namespace pallix::ui
