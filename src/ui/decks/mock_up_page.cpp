// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/mock_up_page.h"

#include "block/ledger.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/units.h"
#include "planning/common/assessment.h"
#include "planning/decks/deck_consequences.h"
#include "ui/frame/echo.h"
#include "ui/frame/plain_label.h"
#include "wording/common/sentences.h"
#include "wording/decks/deck_words.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

using block::EngineFigures;

namespace {

constexpr double mm3_per_cm3 = 1000;

EngineFigures::CamChain& chain_of(EngineFigures& f) {
    if (!f.overhead_chain)
        f.overhead_chain.emplace();
    return *f.overhead_chain;
}
std::optional<double> nonzero(double x) {
    return x > 0 ? std::optional(x) : std::nullopt;
}

} // namespace

MockUpPage::MockUpPage(Context context, QWidget* parent)
    : QWidget(parent), context_(context), table_(new QTableWidget(this)), words_(new PlainLabel(this)),
      steel_(new QCheckBox(tr("steel rods"), this)), take_(new QPushButton(tr("Keep the figures"), this)),
      gap_low_(new QLineEdit(this)), gap_high_(new QLineEdit(this)), head_cut_(new QLineEdit(this)),
      head_chamber_(new QLineEdit(this)), log_head_(new QPushButton(tr("Log the head"), this)),
      echo_(new Echo(context, QStringLiteral("mock-up-echo"), this)) {
    table_->setObjectName(QStringLiteral("mock-up"));
    table_->setAccessibleName(tr("pistons, cylinder by cylinder"));
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setShowGrid(false);
    table_->setTabKeyNavigation(false);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(24);
    table_->setColumnCount(7);
    table_->setHorizontalHeaderLabels({tr("cylinder"), tr("known from"), tr("rock"), tr("to deck now"),
                                       tr("as planned"), tr("compression"), tr("quench")});
    for (int c = 0; c < table_->columnCount(); ++c)
        table_->horizontalHeader()->setSectionResizeMode(c, QHeaderView::Stretch);
    words_->setObjectName(QStringLiteral("mock-up-words"));
    words_->setWordWrap(true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(table_);
    column->addWidget(words_);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(10);
    grid->setVerticalSpacing(6);
    using F = EngineFigures;
    using V = std::optional<double>;
    add_field(grid, 0, 0, tr("stroke"), "stroke",
              {Kind::length, nullptr, [](const F& f) { return f.stroke; }, [](F& f, V x) { f.stroke = x; }});
    add_field(grid, 0, 1, tr("rod"), "rod",
              {Kind::length, nullptr, [](const F& f) { return f.rod; }, [](F& f, V x) { f.rod = x; }});
    add_field(grid, 0, 2, tr("pin to crown"), "pin-height",
              {Kind::length, nullptr, [](const F& f) { return f.pin_height; }, [](F& f, V x) { f.pin_height = x; }});
    add_field(grid, 0, 3, tr("chamber, cm³"), "chamber",
              {Kind::volume, nullptr, [](const F& f) { return f.chamber; }, [](F& f, V x) { f.chamber = x; }});
    add_field(grid, 1, 0, tr("gasket bore"), "gasket-bore",
              {Kind::length, nullptr, [](const F& f) { return f.gasket_bore; }, [](F& f, V x) { f.gasket_bore = x; }});
    add_field(grid, 1, 1, tr("gasket thick"), "gasket-thickness",
              {Kind::length, nullptr, [](const F& f) { return f.gasket_thickness; },
               [](F& f, V x) { f.gasket_thickness = x; }});
    add_field(grid, 1, 2, tr("dish (+), cm³"), "dish",
              {Kind::volume, nullptr, [](const F& f) { return f.dish != 0 ? V(f.dish) : V(); },
               [](F& f, V x) { f.dish = x.value_or(0); }});
    add_field(grid, 1, 3, tr("crevice, cm³"), "crevice",
              {Kind::volume, nullptr, [](const F& f) { return nonzero(f.crevice); },
               [](F& f, V x) { f.crevice = x.value_or(0); }});
    add_field(
        grid, 2, 0, tr("intake valve"), "valve-intake",
        {Kind::length, nullptr, [](const F& f) { return f.valve_intake; }, [](F& f, V x) { f.valve_intake = x; }});
    add_field(
        grid, 2, 1, tr("exhaust valve"), "valve-exhaust",
        {Kind::length, nullptr, [](const F& f) { return f.valve_exhaust; }, [](F& f, V x) { f.valve_exhaust = x; }});
    add_field(
        grid, 2, 2, tr("intake face, °"), "manifold-face",
        {Kind::angle, nullptr, [](const F& f) { return f.manifold_face; }, [](F& f, V x) { f.manifold_face = x; }});
    grid->addWidget(steel_, 2, 6, 1, 2);
    grid->addWidget(take_, 4, 6, 1, 2);
    add_field(grid, 3, 0, tr("teeth, crank"), "teeth-crank",
              {Kind::count, nullptr,
               [](const F& f) { return f.overhead_chain ? nonzero(f.overhead_chain->teeth_crank) : V(); },
               [](F& f, V x) {
                   if (x)
                       chain_of(f).teeth_crank = static_cast<int>(*x);
               }});
    add_field(grid, 3, 1, tr("teeth, cam"), "teeth-cam",
              {Kind::count, nullptr,
               [](const F& f) { return f.overhead_chain ? nonzero(f.overhead_chain->teeth_cam) : V(); },
               [](F& f, V x) {
                   if (x)
                       chain_of(f).teeth_cam = static_cast<int>(*x);
               }});
    add_field(grid, 3, 2, tr("chain pitch"), "chain-pitch",
              {Kind::length, nullptr,
               [](const F& f) { return f.overhead_chain ? nonzero(f.overhead_chain->pitch) : V(); },
               [](F& f, V x) {
                   if (x)
                       chain_of(f).pitch = *x;
               }});
    add_field(grid, 3, 3, tr("crank to cam"), "chain-distance",
              {Kind::length, nullptr,
               [](const F& f) { return f.overhead_chain ? nonzero(f.overhead_chain->distance) : V(); },
               [](F& f, V x) {
                   if (x)
                       chain_of(f).distance = *x;
               }});
    column->addStretch();
    column->addLayout(grid);
    steel_->setObjectName(QStringLiteral("steel-rods"));
    take_->setObjectName(QStringLiteral("keep-figures"));
    auto* head = new QHBoxLayout;
    head->addWidget(new PlainLabel(tr("head: goes in"), this));
    const auto add = [&](QLineEdit* edit, const char* name, const QString& spoken) {
        edit->setObjectName(QString::fromLatin1(name));
        edit->setAccessibleName(spoken);
        edit->setFixedWidth(68);
        head->addWidget(edit);
    };
    add(gap_low_, "head-gap-low", tr("feeler that goes in under the straightedge on the head"));
    head->addWidget(new PlainLabel(tr("does not"), this));
    add(gap_high_, "head-gap-high", tr("feeler that does not go in"));
    head->addWidget(new PlainLabel(tr("cut"), this));
    add(head_cut_, "head-cut", tr("cut off the head"));
    head->addWidget(new PlainLabel(tr("chamber, cm³"), this));
    add(head_chamber_, "head-chamber", tr("chamber after the cut, cm³"));
    log_head_->setObjectName(QStringLiteral("log-head"));
    head->addWidget(log_head_);
    head->addStretch();
    column->addLayout(head);
    column->addWidget(echo_);
    connect(take_, &QPushButton::clicked, this, &MockUpPage::take_figures);
    connect(log_head_, &QPushButton::clicked, this, &MockUpPage::log_head);
}

void MockUpPage::add_field(QGridLayout* grid, int row, int column, const QString& label, const char* name,
                           Field field) {
    field.edit = new QLineEdit(this);
    field.edit->setObjectName(QString::fromLatin1(name));
    field.edit->setAccessibleName(label);
    field.edit->setMinimumWidth(76);
    auto* words = new PlainLabel(label, this);
    words->setFont(font_of(Type::small));
    words->setBuddy(field.edit);
    grid->addWidget(words, row, 2 * column, Qt::AlignRight | Qt::AlignVCenter);
    grid->addWidget(field.edit, row, 2 * column + 1);
    connect(field.edit, &QLineEdit::returnPressed, this, &MockUpPage::take_figures);
    fields_.push_back(field);
}

void MockUpPage::show_bank(const std::string& bank) {
    bank_ = bank;
    fill_figures();
    fill_table();
    fill_words();
}

/// Fields follow the ledger, not what is half typed: they are filled when the entry or the unit has changed.
void MockUpPage::fill_figures() {
    const EngineFigures& f = decks_of(context_.session.state()).figures;
    const auto l = context_.lengths();
    std::string from = l.unit_name() + std::to_string(context_.session.job().value_or(0));
    from += block::payload_json(f);
    if (from == filled_for_)
        return;
    filled_for_ = from;
    for (const Field& field : fields_) {
        const auto value = field.get(f);
        if (!value)
            field.edit->clear();
        else if (field.kind == Kind::length)
            field.edit->setText(qt(l.plain(*value)));
        else if (field.kind == Kind::volume)
            field.edit->setText(QString::number(*value / mm3_per_cm3, 'f', 2));
        else
            field.edit->setText(
                QString::number(field.kind == Kind::angle ? *value / block::radians_per_degree : *value));
    }
    steel_->setChecked(f.steel_rods);
}

void MockUpPage::fill_table() {
    const auto& state = context_.session.state();
    const auto& a = context_.session.assessment();
    const auto l = context_.lengths();
    int row = 0;
    table_->setRowCount(static_cast<int>(a.crowns.size()));
    for (const planning::BankProgress& b : a.banks) {
        const auto planned = planning::deck_consequences(state, a.crowns, b.plan.bank, b.plan.target, b.plan.cut);
        for (const planning::CylinderAfter& c : planned.cylinders) {
            const auto crown = std::ranges::find(a.crowns, c.bore, &planning::PistonCrown::bore);
            const auto* meant = intake_of(state).blueprint->hole(c.bore);
            const auto now = block::height_now(decks_of(state).deck(c.bore.bank), {meant->u, meant->v});
            const QStringList sources{tr("both sides read"), tr("one side only"), tr("its neighbours"), tr("figures")};
            const QStringList cells{tr("%1 · %2")
                                        .arg(c.cylinder)
                                        .arg(qt(wording::bank_name(*intake_of(state).blueprint->bank(c.bore.bank)))),
                                    sources[static_cast<int>(c.source)],
                                    c.source == planning::CrownSource::read ? qt(l.plain(crown->rock)) : QString(),
                                    now ? qt(l.with_sign(*now - crown->crown)) : QString(),
                                    qt(l.with_sign(c.clearance)),
                                    c.ratio ? QString::number(*c.ratio, 'f', 2) : QString(),
                                    c.quench ? qt(l.plain(*c.quench)) : QString()};
            for (int k = 0; k < cells.size(); ++k) {
                auto* item = new QTableWidgetItem(cells[k]);
                item->setTextAlignment((k < 2 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
                table_->setItem(row, k, item);
            }
            ++row;
        }
    }
    table_->setRowCount(row);
    table_->setFixedHeight(40 + 24 * std::clamp(row, 1, 12));
    for (int c = 0; c < table_->columnCount(); ++c)
        table_->horizontalHeaderItem(c)->setTextAlignment((c < 2 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
}

void MockUpPage::fill_words() {
    const auto& state = context_.session.state();
    const auto& a = context_.session.assessment();
    const auto l = context_.lengths();
    QStringList words;
    if (a.crowns.empty())
        words << tr("Crank, one rod and piston per corner at top dead centre: read both sides of the pin in the line "
                    "below (Ctrl+M chooses piston to deck). Positive is below the deck.");
    const auto missing = planning::missing_figures(decks_of(state).figures);
    if (!a.crowns.empty() && !missing.empty()) {
        QStringList list;
        for (const std::string& m : missing)
            list << qt(m);
        words << tr("For the compression ratio still: %1.").arg(list.join(QStringLiteral(", ")));
    }
    if (const planning::BankProgress* b = a.bank(bank_)) {
        const auto planned = planning::deck_consequences(state, a.crowns, bank_, b->plan.target, b->plan.cut);
        QStringList lines;
        for (const std::string& s : wording::consequence_sentences(planned, decks_of(state).figures.steel_rods, l))
            lines << qt(s);
        if (!lines.isEmpty())
            words << tr("As planned (%1 off the deck%2): %3.")
                         .arg(qt(l.with_unit(b->plan.cut)),
                              planned.head_cut > 0 ? tr(", %1 off the head").arg(qt(l.with_unit(planned.head_cut)))
                                                   : QString(),
                              lines.join(QStringLiteral("; ")));
        if (planned.ratio_spread > 0)
            words << tr("Spread over the cylinders %1.").arg(planned.ratio_spread, 0, 'f', 2);
    }
    const planning::HeadState head = planning::head_state(state, bank_);
    if (head.gap_low)
        words << tr("Head: %1 goes in under the straightedge%2.")
                     .arg(qt(l.with_unit(*head.gap_low)),
                          head.gap_high ? tr(", %1 does not").arg(qt(l.plain(*head.gap_high))) : QString());
    if (head.cut_since_chamber > 0)
        words << tr("Its chambers were not measured since %1 came off: taken smaller by the bore's area.")
                     .arg(qt(l.with_unit(head.cut_since_chamber)));
    words_->setText(words.join(QLatin1Char(' ')));
}

void MockUpPage::take_figures() {
    bool fine = true;
    EngineFigures f;
    f.chambers = decks_of(context_.session.state()).figures.chambers;
    for (const Field& field : fields_) {
        std::optional<double> value = field.kind == Kind::length  ? echo_->length_in(field.edit, fine)
                                      : field.kind == Kind::angle ? echo_->number_in(field.edit, fine, {"°"})
                                                                  : echo_->number_in(field.edit, fine);
        if (!fine)
            return;
        if (value && field.kind == Kind::volume)
            *value *= mm3_per_cm3;
        if (value && field.kind == Kind::angle)
            *value *= block::radians_per_degree;
        field.set(f, value);
    }
    f.steel_rods = steel_->isChecked();
    if (echo_->took(context_.session.take(f)))
        echo_->say(tr("Kept."));
}

void MockUpPage::log_head() {
    bool fine = true;
    block::HeadWork work{bank_, echo_->length_in(gap_low_, fine), {}, 0, {}};
    if (fine)
        work.gap_high = echo_->length_in(gap_high_, fine);
    if (fine)
        work.cut = echo_->length_in(head_cut_, fine).value_or(0);
    if (fine)
        if (const auto cm3 = echo_->number_in(head_chamber_, fine))
            work.chamber = *cm3 * mm3_per_cm3;
    if (!fine)
        return;
    if (!echo_->took(context_.session.take(work)))
        return;
    for (QLineEdit* edit : {gap_low_, gap_high_, head_cut_, head_chamber_})
        edit->clear();
    echo_->say(tr("Logged."));
}

} // namespace pallix::ui
