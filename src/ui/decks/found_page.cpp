// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/found_page.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/decks/deck_shape.h"
#include "planning/readings/reading_plan.h"
#include "ui/frame/choice.h"

#include "ui/decks/deck_drawing.h"
#include "ui/decks/edge_drawing.h"
#include "ui/frame/echo.h"
#include "ui/frame/plain_label.h"
#include "wording/common/sentences.h"
#include "wording/decks/deck_words.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

using metrology::Vec2;

FoundPage::FoundPage(Context context, QWidget* parent)
    : QWidget(parent), context_(context), drawing_(new DeckDrawing(context, DeckTask::mark_flaw, this)),
      edge_(new EdgeDrawing(context, this)), lines_(new QTableWidget(this)), words_(new PlainLabel(this)),
      kind_(new QComboBox(this)), near_(new QComboBox(this)), depth_(new QLineEdit(this)), note_(new QLineEdit(this)),
      flaws_(new QComboBox(this)), choice_(new QComboBox(this)), decide_(new QPushButton(tr("Decide"), this)),
      tight_(new QPushButton(tr("Pressure test: tight"), this)), leaks_(new QPushButton(tr("leaks"), this)),
      echo_(new Echo(context, QStringLiteral("found-echo"), this)) {
    lines_->setObjectName(QStringLiteral("edge-lines"));
    lines_->setAccessibleName(tr("lines of the straightedge"));
    lines_->setColumnCount(3);
    lines_->setHorizontalHeaderLabels({tr("straightedge"), tr("feelers"), tr("on the map")});
    lines_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    lines_->setSelectionBehavior(QAbstractItemView::SelectRows);
    lines_->setSelectionMode(QAbstractItemView::SingleSelection);
    lines_->setShowGrid(false);
    lines_->setTabKeyNavigation(false);
    lines_->verticalHeader()->hide();
    lines_->verticalHeader()->setDefaultSectionSize(23);
    lines_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    lines_->horizontalHeaderItem(0)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    for (const int c : {1, 2})
        lines_->horizontalHeaderItem(c)->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    lines_->setColumnWidth(1, 132);
    lines_->setColumnWidth(2, 100);
    lines_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    words_->setObjectName(QStringLiteral("found-words"));
    words_->setWordWrap(true);
    words_->setFont(font_of(Type::small));
    words_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    for (const auto kind : {block::FlawKind::crack, block::FlawKind::pit, block::FlawKind::mark})
        add_choice(kind_, kind, qt(wording::flaw_kind_name(kind)));
    kind_->setObjectName(QStringLiteral("flaw-kind"));
    kind_->setAccessibleName(tr("kind of flaw"));
    for (const auto near : {block::FlawNear::open_deck, block::FlawNear::bore, block::FlawNear::valve_seat,
                            block::FlawNear::coolant_hole, block::FlawNear::bolt})
        add_choice(near_, near, qt(wording::flaw_near_words(near)));
    near_->setObjectName(QStringLiteral("flaw-near"));
    near_->setAccessibleName(tr("what the flaw lies at"));
    depth_->setObjectName(QStringLiteral("flaw-depth"));
    depth_->setPlaceholderText(tr("depth, if known"));
    depth_->setFixedWidth(110);
    note_->setObjectName(QStringLiteral("flaw-note"));
    note_->setPlaceholderText(tr("note"));
    flaws_->setObjectName(QStringLiteral("flaws"));
    flaws_->setAccessibleName(tr("flaws of this bank"));
    flaws_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    flaws_->setMinimumContentsLength(18);
    for (const auto choice : {block::FlawChoice::watch, block::FlawChoice::stop_and_pin, block::FlawChoice::sleeve,
                              block::FlawChoice::scrap})
        add_choice(choice_, choice, qt(wording::flaw_choice_name(choice)));
    choice_->setObjectName(QStringLiteral("flaw-choice"));
    decide_->setObjectName(QStringLiteral("flaw-decide"));
    tight_->setObjectName(QStringLiteral("pressure-tight"));
    tight_->setToolTip(tr("Behind a shield, water before air; the note says pressure and time"));
    leaks_->setObjectName(QStringLiteral("pressure-leaks"));

    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(drawing_, 3);
    auto* middle = new QHBoxLayout;
    middle->setSpacing(16);
    auto* left = new QVBoxLayout;
    left->addWidget(edge_, 2);
    left->addWidget(words_, 1);
    middle->addLayout(left, 1);
    middle->addWidget(lines_, 1);
    column->addLayout(middle, 3);
    auto* flaw_row = new QHBoxLayout;
    flaw_row->addWidget(new PlainLabel(tr("mark a"), this));
    flaw_row->addWidget(kind_);
    flaw_row->addWidget(near_);
    flaw_row->addWidget(depth_);
    flaw_row->addWidget(note_, 1);
    column->addLayout(flaw_row);
    auto* decide_row = new QHBoxLayout;
    decide_row->addWidget(flaws_, 1);
    decide_row->addWidget(choice_);
    decide_row->addWidget(decide_);
    decide_row->addSpacing(12);
    decide_row->addWidget(tight_);
    decide_row->addWidget(leaks_);
    column->addLayout(decide_row);
    column->addWidget(echo_);
    connect(lines_, &QTableWidget::currentCellChanged, this, &FoundPage::follow_line);
    connect(drawing_, &DeckDrawing::flaw_drawn, this, &FoundPage::mark);
    connect(decide_, &QPushButton::clicked, this, &FoundPage::decide);
    const auto test = [this](bool tight) {
        if (echo_->took(context_.session.take(block::PressureTested{tight, note_->text().trimmed().toStdString()})))
            note_->clear();
    };
    connect(tight_, &QPushButton::clicked, this, [test] { test(true); });
    connect(leaks_, &QPushButton::clicked, this, [test] { test(false); });
}

void FoundPage::show_bank(const std::string& bank_id) {
    bank_ = bank_id;
    const auto& state = context_.session.state();
    const auto& deck = decks_of(state).deck(bank_);
    const auto& bank = *intake_of(state).blueprint->bank(bank_);
    const block::SharedPoints points = deck.latest ? deck.latest->result.points : block::SharedPoints();
    drawing_->set_deck(bank, points, !deck.cuts.empty() && !deck.stale());
    drawing_->set_level(1e9);
    drawing_->set_flaws(decks_of(state).flaws);
    const reporting::DeckPicture* picture = drawing_->picture();
    edges_ = planning::compare_edges(state, bank_, picture && points.size() >= 3 ? &picture->map() : nullptr);
    fill_lines();
    fill_words();
    fill_flaws();
    echo_->say(tr("Click a pit or a mark on the deck, drag along a crack. New ones can show up at every pass."));
}

void FoundPage::show_asked(const std::optional<planning::AskedReading>& asked) {
    drawing_->set_asked(asked);
}

void FoundPage::choose_line(int line) {
    lines_->setCurrentCell(line, 0);
}

void FoundPage::fill_lines() {
    const QSignalBlocker quiet(lines_);
    const auto l = context_.lengths();
    const int before = std::max(0, lines_->currentRow());
    lines_->setRowCount(static_cast<int>(edges_.size()));
    for (int row = 0; row < lines_->rowCount(); ++row) {
        const planning::EdgeComparison& e = edges_[static_cast<std::size_t>(row)];
        const QString read = !e.goes_in   ? QString()
                             : e.does_not ? tr("%1 to %2").arg(qt(l.plain(*e.goes_in)), qt(l.plain(*e.does_not)))
                                          : tr("%1 and more").arg(qt(l.plain(*e.goes_in)));
        const QString mapped =
            e.laid.rests.empty() ? QString() : qt(l.plain(e.laid.gap())) + (e.laid.rocks() ? tr(" rocks") : QString());
        const QString name = qt(e.line.name)
                                 .replace(QStringLiteral("diagonal from front, "), tr("diagonal, front "))
                                 .replace(QStringLiteral("between bores "), tr("across at "));
        const QStringList cells{name, read, mapped};
        for (int c = 0; c < cells.size(); ++c) {
            auto* item = new QTableWidgetItem(cells[c]);
            item->setTextAlignment((c == 0 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
            if (e.disagrees(0.01)) {
                item->setForeground(context_.palette().fails);
                item->setToolTip(tr("Feelers and map tell different things of this line"));
            }
            lines_->setItem(row, c, item);
        }
    }
    lines_->setCurrentCell(std::min(before, lines_->rowCount() - 1), 0);
    follow_line();
}

void FoundPage::follow_line() {
    const auto row = static_cast<std::size_t>(std::max(0, lines_->currentRow()));
    if (row >= edges_.size())
        return;
    edge_->show_edge(edges_[row]);
    drawing_->set_line(edges_[row].line);
}

void FoundPage::fill_words() {
    const auto& state = context_.session.state();
    const auto l = context_.lengths();
    const auto& bank = *intake_of(state).blueprint->bank(bank_);
    const auto& deck = decks_of(state).deck(bank_);
    QStringList words;
    if (deck.latest) {
        std::optional<planning::BanksLie> banks;
        for (const auto& other : intake_of(state).blueprint->banks)
            if (other.id != bank_ && decks_of(state).deck(other.id).latest)
                banks = planning::banks_lie(*intake_of(state).blueprint, deck.latest->result,
                                            decks_of(state).deck(other.id).latest->result);
        if (const planning::BankProgress* b = context_.session.assessment().bank(bank_))
            for (const std::string& s : wording::lie_sentences(bank, b->lie, l))
                words << qt(s);
        words << tr("Flat within %1 over all.").arg(qt(l.with_unit(deck.latest->result.flatness_mz)));
        for (const std::string& s : wording::shape_sentences(bank, context_.session.local_flatness(bank_), banks, l))
            words << qt(s);
        std::vector<Vec2> places;
        for (const auto& p : deck.latest->result.points)
            places.push_back({p.x, p.y});
        words << qt(wording::coverage_sentence(bank, planning::deck_coverage(bank, places), l));
    }
    if (std::ranges::any_of(edges_, [](const auto& e) { return e.goes_in.has_value(); }))
        for (const std::string& s : wording::feeler_bound_sentences(planning::flatness_from_feelers(edges_), l))
            words << qt(s);
    words.removeAll(QString());
    words_->setText(words.isEmpty()
                        ? tr("Lay the straightedge and type the feelers below (Ctrl+M chooses them), or take "
                             "in a probe log.")
                        : words.join(QLatin1Char(' ')));
}

void FoundPage::fill_flaws() {
    const QVariant before = flaws_->currentData();
    flaws_->clear();
    const auto& state = context_.session.state();
    for (const block::KnownFlaw& f : decks_of(state).flaws)
        if (f.flaw.bank == bank_)
            flaws_->addItem(qt(wording::flaw_sentence(*intake_of(state).blueprint->bank(bank_), f, context_.lengths())),
                            QVariant::fromValue<qlonglong>(f.sequence));
    if (const int again = flaws_->findData(before); again >= 0)
        flaws_->setCurrentIndex(again);
    const bool any = flaws_->count() > 0;
    for (QWidget* w : std::initializer_list<QWidget*>{flaws_, choice_, decide_})
        w->setEnabled(any);
    if (!any)
        flaws_->addItem(tr("no flaw marked"));
}

void FoundPage::mark(const std::vector<Vec2>& path) {
    bool fine = true;
    const std::optional<double> depth = echo_->length_in(depth_, fine);
    if (!fine)
        return;
    const auto done = context_.session.take(block::FlawMarked{bank_, choice_in<block::FlawKind>(kind_), path,
                                                              choice_in<block::FlawNear>(near_), depth,
                                                              note_->text().trimmed().toStdString()});
    if (!echo_->took(done))
        return;
    depth_->clear();
    note_->clear();
    flaws_->setCurrentIndex(flaws_->count() - 1);
}

void FoundPage::decide() {
    const auto done = context_.session.take(block::FlawDecided{flaws_->currentData().toLongLong(),
                                                               choice_in<block::FlawChoice>(choice_),
                                                               note_->text().trimmed().toStdString()});
    if (!echo_->took(done))
        return;
    note_->clear();
}

} // namespace pallix::ui
