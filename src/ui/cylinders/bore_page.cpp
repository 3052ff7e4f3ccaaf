// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/cylinders/bore_page.h"

#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/common/assessment.h"
#include "ui/frame/choice.h"

#include "ui/cylinders/hole_strip.h"
#include "ui/frame/echo.h"
#include "ui/frame/figure_form.h"
#include "ui/frame/plain_label.h"
#include "ui/frame/plain_table.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/readings/readings.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <array>

namespace pallix::ui {

using Kind = FigureForm::Kind;

BorePage::BorePage(Context context, QWidget* parent)
    : QWidget(parent), context_(context),
      table_(new PlainTable(QStringLiteral("boring"), tr("holes to bore, the worst first"),
                            {tr("hole"), tr("stands"), tr("as"), tr("to become"), tr("tool set"), tr("measured"),
                             tr("to go"), tr("off setting")},
                            3, this)),
      strip_(new HoleStrip(context, this)), words_(new PlainLabel(this)), form_(new FigureForm(context, this)),
      alloy_(new QComboBox(this)), each_(new QCheckBox(tr("measure every hole before the next"), this)),
      name_(new PlainLabel(this)), to_(new QLineEdit(this)), set_(new QLineEdit(this)), bar_(new QLineEdit(this)),
      fresh_(new QCheckBox(tr("fresh edge"), this)), log_(new QPushButton(tr("&Log the cut"), this)),
      edge_(new QPushButton(tr("Edge looked at"), this)), echo_(new Echo(context, QStringLiteral("bore-echo"), this)) {
    words_->setObjectName(QStringLiteral("bore-words"));
    words_->setWordWrap(true);
    for (const auto a :
         {block::PistonAlloy::cast, block::PistonAlloy::high_silicon_forged, block::PistonAlloy::low_silicon_forged})
        add_choice(alloy_, a, qt(wording::alloy_name(a)));
    alloy_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    alloy_->setMinimumContentsLength(8);
    alloy_->setObjectName(QStringLiteral("alloy"));
    alloy_->setAccessibleName(tr("alloy of the pistons"));
    form_->add_widget(0, 0, tr("pistons"), alloy_);
    form_->add(0, 1, tr("size of all"), "piston", Kind::length,
               tr("As measured at their skirts; empty: the oversize decides"));
    form_->add(0, 2, tr("this one's"), "piston-own", Kind::length,
               tr("Where the marked cylinder's piston was measured by itself"));
    form_->add(0, 3, tr("clearance"), "clearance", Kind::length,
               tr("From the piston maker's sheet, which comes first; empty: the usual one for the alloy"));
    form_->add(1, 0, tr("hone stock"), "hone-stock", Kind::length,
               tr("3 to 5 thou; 2 at the least, to get under what the tool tore"));
    form_->add(1, 1, tr("rough within ±"), "rough-tolerance", Kind::length);
    form_->add(1, 2, tr("largest cut"), "largest-cut", Kind::length, tr("On diameter, of one go"));
    form_->add(1, 3, tr("finish over"), "finish-over", Kind::length,
               tr("How much larger than piston and clearance a finished bore may be"));
    form_->add(2, 0, tr("taper, oval"), "shape", Kind::length, tr("Of a finished bore, at most"));
    auto* keep = new QPushButton(tr("&Keep the figures"), this);
    keep->setObjectName(QStringLiteral("keep-pistons"));
    form_->add_widget(2, 3, QString(), keep);
    each_->setObjectName(QStringLiteral("measure-each"));
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    const auto field = [&](QLineEdit* edit, const char* id, const QString& label, const QString& tip) {
        edit->setObjectName(QString::fromLatin1(id));
        edit->setAccessibleName(label);
        edit->setToolTip(plain_tip(tip));
        edit->setFixedWidth(84);
        row->addWidget(new PlainLabel(label, this));
        row->addWidget(edit);
    };
    name_->setObjectName(QStringLiteral("bore-name"));
    name_->setFont(font_of(Type::text, true));
    row->addWidget(name_);
    field(to_, "bore-to", tr("to"), tr("What this cut shall leave"));
    field(set_, "bore-set", tr("tool set"), tr("Diameter the tool is set to; Return logs the cut"));
    field(bar_, "bore-bar", tr("bar"),
          tr("Diameter of the bar: over bar and cutting edge the micrometer reads half of both"));
    fresh_->setObjectName(QStringLiteral("fresh-edge"));
    log_->setObjectName(QStringLiteral("log-bore"));
    edge_->setObjectName(QStringLiteral("edge-looked-at"));
    row->addWidget(fresh_);
    row->addWidget(log_);
    row->addWidget(edge_);
    row->addStretch();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(table_);
    column->addWidget(strip_, 1);
    column->addWidget(words_);
    column->addLayout(row);
    column->addWidget(each_);
    column->addWidget(form_);
    column->addWidget(echo_);
    setFocusProxy(table_);
    connect(table_, &PlainTable::currentCellChanged, this, [this](int r) {
        if (const auto* b = board(); b && r >= 0 && r < static_cast<int>(b->holes.size()))
            Q_EMIT marked(b->holes[static_cast<std::size_t>(r)].id);
    });
    connect(keep, &QPushButton::clicked, this, &BorePage::keep_figures);
    connect(form_, &FigureForm::entered, this, &BorePage::keep_figures);
    connect(log_, &QPushButton::clicked, this, &BorePage::log_cut);
    connect(set_, &QLineEdit::returnPressed, this, &BorePage::log_cut);
    connect(edge_, &QPushButton::clicked, this, &BorePage::edge_looked_at);
    connect(bar_, &QLineEdit::textChanged, this, &BorePage::fill_words);
    connect(set_, &QLineEdit::textChanged, this, &BorePage::fill_words);
}

const planning::BoringBoard* BorePage::board() const {
    const auto& work = context_.session.assessment().cylinders;
    return work ? &work->boring : nullptr;
}

const planning::HoleProgress* BorePage::hole() const {
    const auto* b = board();
    if (!b || !bore_)
        return nullptr;
    const auto found = std::ranges::find(b->holes, *bore_, &planning::HoleProgress::id);
    return found == b->holes.end() ? nullptr : &*found;
}

void BorePage::show_bore(const std::optional<block::FeatureId>& bore) {
    bore_ = bore;
    strip_->show_bore(bore);
    if (!intake_of(context_.session.state()).blueprint)
        return;
    const auto p = planning::pistons_of(context_.session.state());
    const auto own = bore ? p.sizes.find(*bore) : p.sizes.end();
    form_->fill({{"piston", p.size},
                 {"piston-own", own == p.sizes.end() ? std::nullopt : std::optional(own->second)},
                 {"clearance", p.clearance},
                 {"hone-stock", p.hone_stock},
                 {"rough-tolerance", p.tolerance},
                 {"largest-cut", p.largest_cut},
                 {"finish-over", p.finish_tolerance},
                 {"shape", p.shape}});
    if (!alloy_->hasFocus())
        set_choice(alloy_, p.alloy);
    each_->setChecked(p.measure_each);
    fill_table();
    fill_next();
    fill_words();
}

void BorePage::fill_table() {
    const auto* b = board();
    const auto l = context_.lengths();
    std::vector<QStringList> rows;
    int chosen = -1;
    const QStringList stands{tr("open"), tr("measure it"), tr("under"), tr("in"), tr("over"), tr("honed")};
    const auto text = [&l](const std::optional<double>& mm) { return mm ? qt(l.plain(*mm)) : QString(); };
    if (b)
        for (const planning::HoleProgress& h : b->holes) {
            if (bore_ == h.id)
                chosen = static_cast<int>(rows.size());
            QString now = stands[static_cast<int>(h.state)];
            if (b->hole == h.id && b->step == planning::BoringStep::look_at_edge)
                now = tr("look at the edge");
            rows.push_back({short_name(context_, h.id), now, h.seat ? tr("sleeve seat") : tr("rough bore"),
                            qt(l.plain(h.target)), text(h.set), text(h.size),
                            h.size ? qt(l.with_sign(h.still())) : QString(),
                            h.surplus ? qt(l.with_sign(*h.surplus)) : QString()});
        }
    table_->set_rows(rows, 9);
    const QSignalBlocker quiet(table_);
    if (chosen >= 0)
        table_->selectRow(chosen);
}

/// Offers the next cut of the marked hole, unless somebody is typing.
void BorePage::fill_next() {
    const auto* b = board();
    const auto* h = hole();
    const auto l = context_.lengths();
    name_->setText(bore_ ? short_name(context_, *bore_) : QString());
    edge_->setVisible(b && b->step == planning::BoringStep::look_at_edge);
    const bool next = h && b->hole == h->id && b->to;
    QString to, set;
    if (next) {
        to = qt(l.plain(*b->to));
        set = b->set ? qt(l.plain(*b->set)) : to;
    } else if (h && !h->cuts.empty()) {
        to = set = qt(l.plain(h->cuts.front()));
    }
    const std::string offer = (h ? h->id.text() : "") + to.toStdString() + set.toStdString() +
                              std::to_string(context_.session.entries().size());
    if (offer == offered_for_)
        return;
    offered_for_ = offer;
    to_->setText(to);
    set_->setText(set);
    fresh_->setChecked(false);
}

void BorePage::fill_words() {
    const auto* h = hole();
    const auto l = context_.lengths();
    QStringList words;
    const auto& work = context_.session.assessment().cylinders;
    if (!work)
        words << tr("Measure the cylinders first: as found.");
    else if (!h)
        words << tr("Choose a size or state the pistons: the bores follow from them.");
    else {
        for (const std::string& s : wording::bore_sentences(context_.session.state(), work->study, h->id, l))
            if (s.starts_with("Piston") || s.starts_with("Finish"))
                words << qt(s);
        if (h->cuts.size() > 1) {
            QStringList sizes;
            for (const double size : h->cuts)
                sizes << qt(l.plain(size));
            words << tr("In %1 cuts: %2.").arg(h->cuts.size()).arg(sizes.join(QStringLiteral(", ")));
        }
        if (work->study.bore(h->id)->centre) {
            const auto c = *work->study.bore(h->id)->centre;
            words << tr("Centre: %1 along, %2 across.").arg(qt(l.plain(c.x)), qt(l.with_sign(c.y)));
        }
        if (planning::pistons_of(context_.session.state()).hone_stock < planning::torn_layer)
            words << tr("Less hone stock than 2 thou may not get under what the tool tore.");
        if (!readings_of(context_.session.state()).conditions.caps_torqued)
            words << tr("Caps on and torqued as they will run? State it under Conditions (Ctrl+J).");
        const auto bar = block::read_length(bar_->text().toStdString(), context_.preferences.unit());
        const auto set = block::read_length(set_->text().toStdString(), context_.preferences.unit());
        if (bar && set && *bar > 0 && *bar < *set)
            words << tr("Over bar and edge the micrometer reads %1.").arg(qt(l.with_unit((*bar + *set) / 2)));
    }
    words_->setText(words.join(QLatin1Char(' ')));
}

void BorePage::keep_figures() {
    const auto figures = form_->read(*echo_);
    if (!figures)
        return;
    block::PistonsStated p = planning::pistons_of(context_.session.state());
    p.alloy = choice_in<block::PistonAlloy>(alloy_);
    p.size = figures->at("piston");
    p.clearance = figures->at("clearance");
    p.hone_stock = figures->at("hone-stock").value_or(p.hone_stock);
    p.tolerance = figures->at("rough-tolerance").value_or(p.tolerance);
    p.largest_cut = figures->at("largest-cut").value_or(p.largest_cut);
    p.finish_tolerance = figures->at("finish-over").value_or(p.finish_tolerance);
    p.shape = figures->at("shape").value_or(p.shape);
    p.measure_each = each_->isChecked();
    if (bore_) {
        p.sizes.erase(*bore_);
        if (const auto own = figures->at("piston-own"))
            p.sizes[*bore_] = *own;
    }
    if (echo_->took(context_.session.take(p)))
        echo_->say(tr("Kept."));
}

void BorePage::log_cut() {
    if (!bore_ || !hole())
        return echo_->complain(tr("Mark a hole of the board first."));
    bool fine = true;
    const auto to = echo_->length_in(to_, fine);
    const auto set = fine ? echo_->length_in(set_, fine) : std::nullopt;
    if (!fine)
        return;
    if (!set)
        return echo_->complain(tr("Type what the tool is set to."));
    const block::BoreCut cut{*bore_, block::BoreOperation::rough, to ? to : set, set, fresh_->isChecked(), 0, "", {},
                             ""};
    if (echo_->took(context_.session.take(cut)))
        echo_->say(tr("Logged. Measure the hole before the next: Ctrl+R asks for it."));
}

void BorePage::edge_looked_at() {
    const auto* b = board();
    if (b && b->hole &&
        echo_->took(context_.session.take(block::BoreStepDone{*b->hole, planning::edge_looked_at, {}, ""})))
        echo_->say(tr("Ticked."));
}

void BorePage::take_focus() {
    set_->setFocus();
    set_->selectAll();
}

} // namespace pallix::ui
