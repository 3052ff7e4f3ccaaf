// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/ledger_model.h"
#include "session/shop_model.h"
#include "session_fixture.h"

#include "session/demo_shop.h"

#include <QAbstractItemModelTester>
#include <QFont>
#include <QSignalSpy>

using namespace pallix;
using namespace pallix::session;

namespace {

class ModelsTest : public test::SessionFixture {};

} // namespace

TEST_F(ModelsTest, ShopListsEveryJobWithWhatItWaitsFor) {
    ASSERT_TRUE(fill_with_demo(*book_));
    ShopModel model(*book_, preferences_);
    const QAbstractItemModelTester tester(&model, QAbstractItemModelTester::FailureReportingMode::Fatal);
    model.reload();
    ASSERT_EQ(model.rowCount(), 7);
    const auto next = [&model](const char* title) {
        for (int i = 0; i < model.rowCount(); ++i)
            if (model.row(i).title.startsWith(QLatin1String(title)))
                return model.index(i).data(ShopModel::waits_role).toString();
        return QString();
    };
    EXPECT_EQ(next("Gannet"), QStringLiteral("hone cylinder 2 (left bank, bore 1), 0.0009 in"));
    EXPECT_EQ(next("Tystie"), QStringLiteral("cut the caps, 0.0043 in"));
    EXPECT_EQ(next("Lantern"), QStringLiteral("wash the block"));
    EXPECT_EQ(next("Samphire"), QStringLiteral("nothing: print the passport"));
    EXPECT_EQ(model.index(1).data(ShopModel::stages_role).toList().size(), 10);
    EXPECT_TRUE(model.index(1).data(Qt::AccessibleTextRole).toString().contains(QStringLiteral("next: ")));
    EXPECT_EQ(model.index_of(model.row(2).id), 2);
    EXPECT_EQ(model.index_of(999), -1);
}

TEST_F(ModelsTest, ShopFollowsAJobAndTheUnit) {
    open_small_job();
    ShopModel model(*book_, preferences_);
    const QAbstractItemModelTester tester(&model, QAbstractItemModelTester::FailureReportingMode::Fatal);
    model.reload();
    take_log(test::small_log(200.1, 0.15).text());
    QSignalSpy changed(&model, &QAbstractItemModel::dataChanged);
    model.reload_job(*session_.job());
    EXPECT_EQ(changed.count(), 1);
    EXPECT_EQ(model.index(0).data(ShopModel::waits_role), QStringLiteral("deck: witness cut, 0.0010 in"));
    preferences_.set_unit(block::Unit::mm);
    EXPECT_EQ(model.index(0).data(ShopModel::waits_role), QStringLiteral("deck: witness cut, 0.025 mm"));
}

TEST_F(ModelsTest, ShopRecallsWhatItHasWorkedOut) {
    ASSERT_TRUE(fill_with_demo(*book_));
    ShopModel first(*book_, preferences_), second(*book_, preferences_);
    first.reload();
    second.reload(); // from what the first has remembered
    for (int i = 0; i < first.rowCount(); ++i)
        for (const int role : {int(Qt::DisplayRole), int(ShopModel::waits_role), int(ShopModel::customer_role),
                               int(ShopModel::engine_role), int(ShopModel::stages_role), int(ShopModel::opened_role)})
            EXPECT_EQ(first.index(i).data(role), second.index(i).data(role));
}

TEST_F(ModelsTest, LedgerShowsStruckEntriesStruck) {
    LedgerModel model(session_, preferences_);
    const QAbstractItemModelTester tester(&model, QAbstractItemModelTester::FailureReportingMode::Fatal);
    EXPECT_EQ(model.rowCount(), 0);
    open_small_job();
    ASSERT_TRUE(session_.take(block::Note{"first"}));
    ASSERT_TRUE(session_.strike(2, QStringLiteral("wrong")));
    ASSERT_EQ(model.rowCount(), 3);
    const QModelIndex note = model.index(1, LedgerModel::what);
    EXPECT_EQ(note.data(), QStringLiteral("note: first"));
    EXPECT_TRUE(note.data(LedgerModel::struck_role).toBool());
    EXPECT_TRUE(note.data(Qt::FontRole).value<QFont>().strikeOut());
    EXPECT_EQ(model.index(2, LedgerModel::what).data(), QStringLiteral("struck entry 2: wrong"));
    EXPECT_EQ(model.index(1, LedgerModel::person).data(), QStringLiteral("Marit"));
    EXPECT_EQ(model.headerData(LedgerModel::what, Qt::Horizontal, Qt::DisplayRole), QStringLiteral("what"));
}

TEST_F(ModelsTest, PreferencesAreKept) {
    const QString file = folder_.filePath(QStringLiteral("kept.ini"));
    {
        Preferences p(file);
        EXPECT_EQ(p.unit(), block::Unit::inch);
        EXPECT_TRUE(p.clocks_heard().empty());
        EXPECT_TRUE(p.instrument_for(planning::Measuring::feelers).isEmpty());
        QSignalSpy unit(&p, &Preferences::unit_changed);
        p.set_unit(block::Unit::mm);
        p.set_unit(block::Unit::mm);
        EXPECT_EQ(unit.count(), 1);
        p.set_theme(Theme::dark);
        p.set_person(QStringLiteral(" Jorun "));
        p.set_clocks_heard("2026-03-02T09:00:00Z");
        p.set_instrument_for(planning::Measuring::feelers, QStringLiteral("edge 2"));
        for (int i = 0; i < 12; ++i)
            p.add_recent_file(QStringLiteral("f%1").arg(i % 10));
    }
    const Preferences p(file);
    EXPECT_EQ(p.unit(), block::Unit::mm);
    EXPECT_EQ(p.theme(), Theme::dark);
    EXPECT_EQ(p.person(), QStringLiteral("Jorun"));
    EXPECT_EQ(p.clocks_heard(), "2026-03-02T09:00:00Z");
    EXPECT_EQ(p.instrument_for(planning::Measuring::feelers), QStringLiteral("edge 2"));
    EXPECT_TRUE(p.instrument_for(planning::Measuring::deck_heights).isEmpty());
    EXPECT_EQ(p.recent_files().size(), 8);
    EXPECT_EQ(p.recent_files().front(), QStringLiteral("f1"));
}
