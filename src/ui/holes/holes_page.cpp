// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/holes/holes_page.h"

#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/readings/reading_plan.h"
#include "ui/frame/plain_label.h"
#include "ui/holes/bore_section.h"
#include "ui/holes/holes_drawing.h"
#include "wording/common/sentences.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/lifters/lifter_words.h"
#include "wording/readings/readings.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <algorithm>
#include <array>

namespace pallix::ui {

using block::FeatureId;
using block::FeatureKind;

HolesPage::HolesPage(Context context, FeatureKind kind, QWidget* parent)
    : HolesPage(context, new HolesDrawing(context, kind), kind, parent) {}

HolesPage::HolesPage(Context context, HolesDrawing* drawing, FeatureKind kind, QWidget* parent)
    : DrawnPage(
          context, drawing, std::nullopt, [this] { return levels(); }, parent),
      context_(context), kind_(kind), drawing_(drawing), from_dowel_(new QCheckBox(tr("&from the bank's dowel"), this)),
      pattern_(new PlainLabel(this)), name_(new PlainLabel(this)), where_(new PlainLabel(this)),
      round_(new RoundnessPlot(context, this)), section_(new BoreSection(context, this)) {
    from_dowel_->setToolTip(tr("Errors from the bank's first dowel as measured, instead of the datum"));
    from_dowel_->setObjectName(QStringLiteral("from-dowel"));
    const auto label = [](QLabel* words, const char* name, Type type, bool bold = false) {
        words->setObjectName(QString::fromLatin1(name));
        words->setWordWrap(true);
        set_type(words, type, bold);
    };
    label(pattern_, "pattern", Type::text);
    label(name_, "hole-name", Type::number, true);
    label(where_, "hole-where", Type::text);
    auto* below = new QWidget(this);
    auto* foot = new QHBoxLayout(below);
    foot->setContentsMargins(0, 0, 0, 0);
    foot->setSpacing(16);
    auto* facts = new QVBoxLayout;
    facts->setSpacing(4);
    for (QWidget* w : std::initializer_list<QWidget*>{pattern_, name_, where_})
        facts->addWidget(w);
    facts->addWidget(from_dowel_);
    facts->addStretch();
    foot->addLayout(facts, 1);
    foot->addWidget(section_, 0, Qt::AlignTop);
    foot->addWidget(round_, 0, Qt::AlignTop);
    add_below(below);
    connect(from_dowel_, &QCheckBox::toggled, this, [this] { fill(); });
}

void HolesPage::show_bank(const std::string& bank) {
    bank_ = bank;
    if (intake_of(context_.session.state()).blueprint && intake_of(context_.session.state()).blueprint->bank(bank))
        fill();
}

void HolesPage::mark(const FeatureId& id) {
    marked_ = id;
    show_bore(marked_);
    fill_hole();
}

void HolesPage::resizeEvent(QResizeEvent* event) {
    DrawnPage::resizeEvent(event);
    fill_hole();
}

void HolesPage::show_asked(const std::optional<planning::AskedReading>& asked) {
    drawing_->set_asked(asked);
}

void HolesPage::fill() {
    const auto& latest = tunnel_of(context_.session.state()).latest;
    const bool probed =
        latest && !(kind_ == FeatureKind::bore ? latest->evaluation.bores : latest->evaluation.lifters).empty();
    from_dowel_->setVisible(probed && kind_ == FeatureKind::bore); // lifters stand by datum and cam
    drawing_->show_bank(bank_, from_dowel_->isChecked());
    pattern_->setText(
        probed ? bank_sentences().join(QStringLiteral("  "))
               : (kind_ == FeatureKind::bore ? tr("No cylinder was probed.") : tr("No lifter bore was probed.")) +
                     tr(" Take in a log that holds them (Ctrl+I); sizes can be read with a gauge in the "
                        "line below (Ctrl+R)."));
    pattern_->setVisible(!pattern_->text().isEmpty());
    const std::vector<FeatureId> holes = drawing_->holes();
    if (!marked_ || std::ranges::find(holes, *marked_) == holes.end())
        marked_ = holes.empty() ? std::nullopt : std::optional(holes.front());
    show_bore(marked_);
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
        if (kind_ == FeatureKind::lifter && p.lifter_sizes.told)
            words
                << tr("Lifter bores grow along the bank (%1 %): wear.").arg(100 * p.lifter_sizes.explained, 0, 'f', 0);
        if (p.dowels)
            words << qt(wording::dowel_pair_sentence(*p.dowels, l));
    }
    return words; // what is in doubt stands on the tunnel's page and in the decks' table
}

const block::HoleResult* HolesPage::result(const FeatureId& id) const {
    const auto& latest = tunnel_of(context_.session.state()).latest;
    if (!latest)
        return nullptr;
    const auto& list = id.kind == FeatureKind::bore ? latest->evaluation.bores : latest->evaluation.lifters;
    const auto found = std::ranges::find(list, id, &block::HoleResult::id);
    return found == list.end() ? nullptr : &*found;
}

void HolesPage::fill_hole() {
    for (QWidget* w : std::initializer_list<QWidget*>{name_, where_, section_})
        w->setVisible(marked_.has_value());
    round_->setVisible(marked_ && width() > scaled(600)); // before the words beside it grow into the drawing
    if (!marked_)
        return;
    name_->setText(qt(wording::feature_words(*intake_of(context_.session.state()).blueprint, *marked_)));
    where_->setText(where());
    section_->show_bore(*marked_);
    const block::HoleResult* hole = result(*marked_);
    const auto worst = hole ? std::ranges::max_element(hole->levels, {}, &block::HoleLevel::roundness_mz)
                            : std::vector<block::HoleLevel>::const_iterator();
    round_->show_level(hole && worst != hole->levels.end() ? std::optional(*worst) : std::nullopt);
}

/// Where the marked hole lies, and at which sizes it cleans up.
QString HolesPage::where() const {
    const auto& state = context_.session.state();
    const auto l = context_.lengths();
    const block::HoleResult* hole = result(*marked_);
    if (!hole)
        return tr("Not probed.");
    const metrology::Vec2 error = from_dowel_->isChecked() && hole->from_dowel ? *hole->from_dowel : hole->error;
    QString words = hole->place_known ? qt(wording::position_words(*intake_of(state).blueprint->bank(bank_), error, l))
                                      : tr("The blueprint does not say where it should be");
    if (const auto& work = context_.session.assessment().cylinders; work && !from_dowel_->isChecked())
        if (const auto p = std::ranges::find(work->placed, *marked_, &planning::Placed::id);
            p != work->placed.end() && p->limited())
            words = qt(wording::place_sentence(state, *p, l));
    const planning::Certainty* sure = context_.session.certainty_of_latest();
    const bool cylinder = marked_->kind == FeatureKind::bore;
    const auto& list =
        cylinder ? tunnel_of(state).latest->evaluation.bores : tunnel_of(state).latest->evaluation.lifters;
    const std::string address = (cylinder ? "bores[" : "lifters[") + std::to_string(hole - list.data()) + "]";
    if (const auto u = sure && hole->place_known ? sure->values.of(address + ".dv") : std::nullopt)
        words += tr(" (±%1)").arg(qt(l.fine(2 * *u)));
    if (hole->v_cam)
        words += tr("; %1 of the plane through the cam")
                     .arg(qt(wording::across_text(*intake_of(state).blueprint->bank(bank_), *hole->v_cam, l)));
    words += tr(".  Cleans up at %1 anywhere, %2 about its top")
                 .arg(qt(l.plain(hole->clean_free)), qt(l.plain(hole->clean_top)));
    words += hole->place_known ? tr(", %1 about the blueprint.").arg(qt(l.plain(hole->clean_blueprint)))
                               : QStringLiteral(".");
    return tunnel_of(state).probe_stale() ? tr("Stale, the tunnel was cut since: %1").arg(words) : words;
}

/// Every level of every hole of the bank: by probe, then what only a gauge has seen.
TwinTable HolesPage::levels() const {
    TwinTable t = TwinTable::headed(tr("hole|level|along|across the crankshaft|size|round|gauge"), 2);
    const auto l = context_.lengths();
    for (const FeatureId& id : drawing_->holes()) {
        const block::HoleResult* hole = result(id);
        const planning::BoreFinding* gauged = context_.session.assessment().gauge.bore(id);
        QStringList names;
        if (hole)
            for (const auto& level : hole->levels)
                names << qt(level.level);
        if (gauged)
            for (const auto& s : gauged->sizes)
                if (!names.contains(qt(s.place.at.level)))
                    names << qt(s.place.at.level);
        for (int row = 0; row < names.size(); ++row) {
            QStringList cells{short_name(context_, id), names[row], {}, {}, {}, {}, {}};
            if (hole && row < static_cast<int>(hole->levels.size())) {
                const auto& level = hole->levels[static_cast<std::size_t>(row)];
                cells[2] = qt(l.plain(level.centre.x));
                cells[3] = qt(wording::across_text(*intake_of(context_.session.state()).blueprint->bank(id.bank),
                                                   level.centre.y, l));
                cells[4] = qt(l.plain(level.diameter));
                cells[5] = qt(l.plain(level.roundness_mz));
            }
            QStringList sizes;
            if (gauged)
                for (const auto& s : gauged->sizes)
                    if (qt(s.place.at.level) == names[row])
                        sizes << qt(s.place.at.direction + " " + l.plain(s.place.value));
            cells[6] = (gauged && gauged->stale ? tr("stale: ") : QString()) + sizes.join(QStringLiteral(", "));
            t.rows.push_back(cells);
            t.ids.push_back(id);
        }
    }
    return t;
}

} // namespace pallix::ui
