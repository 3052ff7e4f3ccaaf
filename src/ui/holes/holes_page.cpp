// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/holes/holes_page.h"

#include "block/ledger.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/readings/reading_plan.h"
#include "session/counted.h"
#include "ui/frame/plain_label.h"
#include "ui/holes/bore_section.h"
#include "ui/holes/holes_drawing.h"
#include "ui/lifters/timing_fan.h"
#include "wording/common/sentences.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/lifters/lifter_words.h"
#include "wording/readings/readings.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <array>

namespace pallix::ui {

using block::FeatureId;
using block::FeatureKind;

HolesPage::HolesPage(Context context, FeatureKind kind, QWidget* parent)
    : QWidget(parent), context_(context), kind_(kind), empty_(new PlainLabel(this)),
      from_dowel_(new QCheckBox(tr("&from the bank's dowel"), this)), drawing_(new HolesDrawing(context, kind, this)),
      pattern_(new PlainLabel(this)), name_(new PlainLabel(this)), where_(new PlainLabel(this)),
      levels_(new QTableWidget(this)), history_(new PlainLabel(this)), round_(new RoundnessPlot(context, this)),
      section_(new BoreSection(context, this)),
      fan_(kind == FeatureKind::lifter ? new TimingFan(context, this) : nullptr) {
    from_dowel_->setToolTip(tr("Errors from the bank's first dowel as measured, instead of the datum"));
    from_dowel_->setObjectName(QStringLiteral("from-dowel"));
    empty_->setWordWrap(true);
    empty_->setObjectName(QStringLiteral("positions-empty"));
    pattern_->setWordWrap(true);
    pattern_->setObjectName(QStringLiteral("pattern"));
    name_->setFont(font_of(Type::number, true));
    name_->setObjectName(QStringLiteral("hole-name"));
    where_->setWordWrap(true);
    where_->setObjectName(QStringLiteral("hole-where"));
    history_->setFont(font_of(Type::small));
    history_->setWordWrap(true);
    history_->setObjectName(QStringLiteral("hole-history"));
    levels_->setObjectName(QStringLiteral("hole-levels"));
    levels_->setAccessibleName(tr("levels of the marked hole"));
    levels_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    levels_->setSelectionBehavior(QAbstractItemView::SelectRows);
    levels_->setSelectionMode(QAbstractItemView::SingleSelection);
    levels_->setShowGrid(false);
    levels_->setTabKeyNavigation(false);
    levels_->verticalHeader()->hide();
    levels_->verticalHeader()->setDefaultSectionSize(24);
    levels_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);

    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    auto* top = new QHBoxLayout;
    top->addStretch();
    top->addWidget(from_dowel_);
    column->addLayout(top);
    column->addWidget(empty_);
    column->addWidget(drawing_, 1);
    if (fan_)
        column->addWidget(fan_);
    column->addWidget(pattern_);
    column->addWidget(name_);
    column->addWidget(where_);
    auto* foot = new QHBoxLayout;
    foot->setSpacing(16);
    auto* facts = new QVBoxLayout;
    facts->setSpacing(3);
    facts->addWidget(levels_);
    facts->addWidget(history_);
    facts->addStretch();
    foot->addLayout(facts, 1);
    foot->addWidget(section_, 0, Qt::AlignTop);
    foot->addWidget(round_, 0, Qt::AlignTop);
    column->addLayout(foot);
    connect(from_dowel_, &QCheckBox::toggled, this, [this] { fill(); });
    connect(drawing_, &HolesDrawing::pointed_at, this, &HolesPage::mark);
    connect(drawing_, &HolesDrawing::pointed_at, this, &HolesPage::marked);
    connect(levels_, &QTableWidget::currentCellChanged, this, [this](int row) {
        const block::HoleResult* hole = marked_result();
        round_->show_level(hole && row >= 0 && row < static_cast<int>(hole->levels.size())
                               ? std::optional(hole->levels[static_cast<std::size_t>(row)])
                               : std::nullopt);
    });
    setFocusProxy(drawing_);
}

void HolesPage::show_bank(const std::string& bank) {
    bank_ = bank;
    if (intake_of(context_.session.state()).blueprint && intake_of(context_.session.state()).blueprint->bank(bank))
        fill();
}

void HolesPage::mark(const FeatureId& id) {
    marked_ = id;
    drawing_->mark(id);
    fill_hole();
}

void HolesPage::show_asked(const std::optional<planning::AskedReading>& asked) {
    drawing_->set_asked(asked);
}

void HolesPage::fill() {
    const auto& state = context_.session.state();
    const bool probed =
        tunnel_of(state).latest && !(kind_ == FeatureKind::bore ? tunnel_of(state).latest->evaluation.bores
                                                                : tunnel_of(state).latest->evaluation.lifters)
                                        .empty();
    empty_->setVisible(!probed);
    empty_->setText(
        (kind_ == FeatureKind::bore ? tr("No cylinder was probed.") : tr("No lifter bore was probed.")) +
        tr(" Take in a log that holds them (Ctrl+I); sizes can be read with a gauge in the line below (Ctrl+R)."));
    from_dowel_->setVisible(probed && kind_ == FeatureKind::bore); // lifters stand by datum and cam
    drawing_->show_bank(bank_, from_dowel_->isChecked());
    if (fan_)
        fan_->show_bank(bank_);
    pattern_->setText(bank_sentences().join(QStringLiteral("  ")));
    pattern_->setVisible(!pattern_->text().isEmpty());
    const std::vector<FeatureId> holes = drawing_->holes();
    if (!marked_ || std::ranges::find(holes, *marked_) == holes.end())
        marked_ = holes.empty() ? std::nullopt : std::optional(holes.front());
    drawing_->mark(marked_);
    fill_hole();
}

QStringList HolesPage::bank_sentences() const {
    const auto& state = context_.session.state();
    const auto l = context_.lengths();
    QStringList words;
    for (const planning::BankPositions& p : context_.session.assessment().positions) {
        if (p.bank != bank_)
            continue;
        if (kind_ == FeatureKind::bore && !p.cylinder_errors.empty())
            words
                << tr("Cylinders: %1").arg(qt(wording::pattern_sentence(*intake_of(state).blueprint, p.cylinders, l)));
        if (kind_ == FeatureKind::lifter && !p.lifter_errors.empty())
            words << tr("Lifters: %1").arg(qt(wording::pattern_sentence(*intake_of(state).blueprint, p.lifters, l)));
        if (kind_ == FeatureKind::lifter && p.lifter_sizes.explained > 0.7)
            words
                << tr("Lifter bores grow along the bank (%1 %): wear.").arg(100 * p.lifter_sizes.explained, 0, 'f', 0);
        if (p.dowels)
            words << qt(wording::dowel_pair_sentence(*p.dowels, l));
    }
    if (const auto& lifters = context_.session.assessment().lifters; kind_ == FeatureKind::lifter && lifters)
        words << qt(wording::spread_sentence(*lifters));
    constexpr std::size_t most = 3; // the rest stands on the decks' page and in the ledger
    const auto doubts = wording::doubt_sentences(state, context_.session.assessment(), l);
    for (std::size_t i = 0; i < std::min(most, doubts.size()); ++i)
        words << qt(doubts[i]);
    if (doubts.size() > most)
        words << tr("And %1 more to look at.").arg(doubts.size() - most);
    return words;
}

const block::HoleResult* HolesPage::marked_result() const {
    const auto& latest = tunnel_of(context_.session.state()).latest;
    if (!latest || !marked_)
        return nullptr;
    const auto& list = marked_->kind == FeatureKind::bore ? latest->evaluation.bores : latest->evaluation.lifters;
    const auto found = std::ranges::find(list, *marked_, &block::HoleResult::id);
    return found == list.end() ? nullptr : &*found;
}

void HolesPage::fill_hole() {
    for (QWidget* w : std::initializer_list<QWidget*>{name_, where_, levels_, history_, round_, section_})
        w->setVisible(marked_.has_value());
    if (!marked_)
        return;
    const auto& state = context_.session.state();
    const auto l = context_.lengths();
    name_->setText(qt(wording::feature_words(*intake_of(state).blueprint, *marked_)));
    const block::HoleResult* hole = marked_result();
    QString words;
    if (hole) {
        const metrology::Vec2 error = from_dowel_->isChecked() && hole->from_dowel ? *hole->from_dowel : hole->error;
        words = qt(wording::position_words(*intake_of(state).blueprint->bank(bank_), error, l));
        const planning::Certainty* sure = context_.session.certainty_of_latest();
        const auto& list = marked_->kind == FeatureKind::bore ? tunnel_of(state).latest->evaluation.bores
                                                              : tunnel_of(state).latest->evaluation.lifters;
        const std::string address =
            (marked_->kind == FeatureKind::bore ? "bores[" : "lifters[") + std::to_string(hole - list.data()) + "]";
        if (const auto u = sure ? sure->values.of(address + ".dv") : std::nullopt)
            words += tr(" (±%1)").arg(qt(l.fine(2 * *u)));
        if (hole->v_cam)
            words += tr("; %1 from the plane through the cam").arg(qt(l.signed_with_unit(*hole->v_cam)));
        words +=
            tr(".  Cleans up at %1 anywhere, %2 about its top, %3 about the blueprint.")
                .arg(qt(l.plain(hole->clean_free)), qt(l.plain(hole->clean_top)), qt(l.plain(hole->clean_blueprint)));
        if (tunnel_of(state).probe_stale())
            words = tr("Stale, the tunnel was cut since: %1").arg(words);
    } else {
        words = tr("Not probed.");
    }
    where_->setText(words);
    section_->show_bore(*marked_);
    fill_levels();
    history_->setText(history());
}

void HolesPage::fill_levels() {
    const auto l = context_.lengths();
    const block::HoleResult* hole = marked_result();
    const planning::BoreFinding* gauged = context_.session.assessment().gauge.bore(*marked_);
    const QStringList heads{tr("level"), tr("along"), tr("across"), tr("size"), tr("round"), tr("gauge")};
    QStringList rows; // levels by probe, then those only a gauge has seen
    if (hole)
        for (const auto& level : hole->levels)
            rows << qt(level.level);
    if (gauged)
        for (const auto& s : gauged->sizes)
            if (!rows.contains(qt(s.place.at.level)))
                rows << qt(s.place.at.level);
    levels_->clear();
    levels_->setColumnCount(static_cast<int>(heads.size()));
    levels_->setHorizontalHeaderLabels(heads);
    levels_->setRowCount(static_cast<int>(rows.size()));
    levels_->setFixedHeight(34 + 24 * std::clamp(static_cast<int>(rows.size()), 1, 3));
    for (int row = 0; row < rows.size(); ++row) {
        QStringList cells{rows[row], {}, {}, {}, {}, {}};
        if (hole && row < static_cast<int>(hole->levels.size())) {
            const auto& level = hole->levels[static_cast<std::size_t>(row)];
            cells = {rows[row],
                     qt(l.plain(level.centre.x)),
                     qt(l.with_sign(level.centre.y)),
                     qt(l.plain(level.diameter)),
                     qt(l.plain(level.roundness_mz)),
                     {}};
        }
        if (gauged) {
            QStringList sizes;
            for (const auto& s : gauged->sizes)
                if (qt(s.place.at.level) == rows[row])
                    sizes << qt(s.place.at.direction + " " + l.plain(s.place.value));
            cells[5] = (gauged->stale ? tr("stale: ") : QString()) + sizes.join(QStringLiteral(", "));
        }
        for (int c = 0; c < cells.size(); ++c) {
            auto* item = new QTableWidgetItem(cells[c]);
            item->setToolTip(plain_tip(cells[c]));
            item->setTextAlignment((c == 0 || c == 5 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
            levels_->setItem(row, c, item);
        }
    }
    constexpr std::array widths{56, 62, 62, 62, 54, 0};
    for (int c = 0; c < levels_->columnCount(); ++c) {
        const int width = widths[static_cast<std::size_t>(c)];
        levels_->horizontalHeader()->setSectionResizeMode(c, width == 0 ? QHeaderView::Stretch : QHeaderView::Fixed);
        if (width > 0)
            levels_->setColumnWidth(c, width);
        levels_->horizontalHeaderItem(c)->setTextAlignment((c == 0 || c == 5 ? Qt::AlignLeft : Qt::AlignRight) |
                                                           Qt::AlignVCenter);
    }
    levels_->setCurrentCell(rows.isEmpty() ? -1 : 0, 0);
    round_->show_level(hole ? std::optional(hole->levels.front()) : std::nullopt);
}

/// The entries of the ledger this hole comes from, the newest first.
QString HolesPage::history() const {
    const int most = kind_ == FeatureKind::bore ? 3 : 1; // beside the fan there is less room
    const auto& state = context_.session.state();
    const auto out = block::struck(context_.session.entries());
    std::vector<std::int64_t> probed;
    for (const block::TakenLogs& logs : tunnel_of(state).logs)
        if (std::ranges::binary_search(logs.features, *marked_))
            probed.insert(probed.end(), logs.sequences.begin(), logs.sequences.end());
    QStringList lines;
    int more = 0;
    for (std::size_t i = context_.session.entries().size(); i-- > 0;) {
        const block::Entry& entry = context_.session.entries()[i];
        const auto* reading = std::get_if<block::Reading>(&entry.payload);
        const bool mine =
            (reading && reading->at.feature == *marked_) || std::ranges::find(probed, entry.sequence) != probed.end();
        if (!mine)
            continue;
        if (lines.size() >= most) {
            ++more;
            continue;
        }
        lines << tr("%1  %2%3")
                     .arg(entry.sequence)
                     .arg(qt(wording::entry_sentence(entry, state, context_.lengths())),
                          out[i] ? tr(" (struck)") : QString());
    }
    if (more > 0)
        lines << tr("and %1 before (Ctrl+L: ledger)").arg(session::counted(more, tr("entry"), tr("entries")));
    return lines.join(QLatin1Char('\n'));
}

} // namespace pallix::ui
