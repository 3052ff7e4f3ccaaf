// SPDX-License-Identifier: GPL-3.0-or-later
// Row by row, the numbers of a passport are those of the evaluation it was made from.
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "paper_tables.h"
#include "planning/common/coordinates.h"
#include "wording/common/sentences.h"
#include "wording/readings/readings.h"

using namespace pallix;
using test::mm;

namespace {

/// The rows under a heading, as far as the next.
std::vector<QStringList> under(const QString& html, const QString& heading) {
    const auto from = html.indexOf(QStringLiteral(">%1</h2>").arg(heading));
    EXPECT_GE(from, 0) << heading.toStdString();
    return test::rows_in(html.mid(from, html.indexOf(QStringLiteral("<h2"), from + 4) - from));
}

std::string cell(const QStringList* row, qsizetype at) {
    return row && at < row->size() ? row->at(at).toStdString() : "no such row";
}

} // namespace

TEST(PassportNumbers, CamshaftAndDowels) {
    const test::Told job(test::ledger_of("Puffling, port"));
    const auto rows = under(reporting::passport_html(test::source_of(job)), QStringLiteral("Camshaft and dowels"));
    const block::Evaluation& e = tunnel_of(job.state).latest->evaluation;
    EXPECT_EQ(cell(test::row_of(rows, "camshaft, distance from the mains, off its size"), 2),
              mm.with_sign(e.cam->distance_error));
    EXPECT_EQ(cell(test::row_of(rows, "camshaft, parallel to the mains within"), 2), mm.plain(e.cam->parallelism));
    ASSERT_EQ(e.dowels.size(), 4u);
    for (const block::DowelResult& dowel : e.dowels) {
        const std::string name = wording::feature_words(*intake_of(job.state).blueprint, dowel.id);
        EXPECT_EQ(cell(test::row_of(rows, name + ", off its place along"), 2), mm.with_sign(dowel.du));
        EXPECT_EQ(cell(test::row_of(rows, name + ", across"), 2), mm.with_sign(dowel.dv));
    }
}

TEST(PassportNumbers, DecksAsFound) {
    const test::Told job(test::ledger_of("Puffling, port"));
    const auto rows = under(reporting::passport_html(test::source_of(job)), QStringLiteral("Decks, as found"));
    for (const block::BankBlueprint& bank : intake_of(job.state).blueprint->banks) {
        const block::DeckResult& found = decks_of(job.state).deck(bank.id).as_found->result;
        const QStringList* row = test::row_of(rows, wording::bank_name(bank));
        EXPECT_EQ(cell(row, 1), mm.plain(found.height_min));
        EXPECT_EQ(cell(row, 2), mm.plain(found.height_max));
        EXPECT_EQ(cell(row, 3), mm.plain(found.height_mean));
        EXPECT_EQ(cell(row, 4), mm.plain(found.flatness_mz));
        EXPECT_EQ(cell(row, 5), std::to_string(found.touches));
    }
}

TEST(PassportNumbers, PlacesOfCylindersAndLifters) {
    const test::Told job(test::ledger_of("Gannet"));
    const QString html = reporting::passport_html(test::source_of(job));
    std::size_t holes = 0;
    for (const planning::CoordinateSheet& sheet : planning::coordinate_sheets(job.state, job.assessment)) {
        const auto& bank = *intake_of(job.state).blueprint->bank(sheet.bank);
        const auto rows =
            under(html, QStringLiteral("Places, %1, %2")
                            .arg(QString::fromStdString(wording::bank_name(bank)),
                                 sheet.lifters ? QStringLiteral("lifters") : QStringLiteral("cylinders")));
        for (const planning::HoleCoordinates& hole : sheet.holes) {
            const QStringList* row = test::row_of(rows, wording::short_feature_words(job.state, hole.id));
            EXPECT_EQ(cell(row, 1), mm.with_sign(hole.found->x - hole.blueprint.x)) << hole.id.text();
            EXPECT_EQ(cell(row, 2), mm.with_sign(hole.found->y - hole.blueprint.y)) << hole.id.text();
            ++holes;
        }
    }
    EXPECT_EQ(holes, 24u);
}

TEST(PassportNumbers, PassesAreTheLedgers) {
    const test::Told job(test::ledger_of("Samphire"));
    const auto rows = under(reporting::passport_html(test::source_of(job)), QStringLiteral("Cuts"));
    const block::DeckState& deck = decks_of(job.state).deck("C");
    std::string passes;
    double sum = 0;
    for (const block::TakenCut& taken : deck.cuts) {
        sum += taken.cut.depth;
        if (taken.cut.kind != block::PassKind::spring)
            passes += (passes.empty() ? "" : " + ") + mm.plain(taken.cut.depth);
    }
    const QStringList* row = test::row_of(rows, "deck");
    EXPECT_EQ(cell(row, 3), mm.plain(sum)) << "taken";
    EXPECT_EQ(cell(row, 4), passes);
}
