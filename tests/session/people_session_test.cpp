// SPDX-License-Identifier: GPL-3.0-or-later
// Who is at the bench, who signs, what rings, and where each job of the shop stands.
#include "block/state/card_state.h"
#include "planning/common/assessment.h"
#include "session/demo_shop.h"
#include "session/shop_clocks.h"
#include "session/shop_model.h"
#include "session_fixture.h"

#include <QFile>
#include <QImage>
#include <QSignalSpy>
#include <QTest>
#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::session;
using testing::HasSubstr;

namespace {

class PeopleSession : public test::SessionFixture {
  protected:
    void make_learner() { ASSERT_TRUE(book_->people().keep(QStringLiteral("Marit"), block::Role::learner)); }
    std::string refused(const Outcome& done) { return done ? "" : done.error().front().text(); }
    [[nodiscard]] int told_of_the_bench() const {
        return static_cast<int>(std::ranges::count_if(session_.entries(), [](const block::Entry& e) {
            return std::holds_alternative<block::AtBench>(e.payload);
        }));
    }
};

} // namespace

// A shop of one hears nothing of roles.
TEST_F(PeopleSession, NothingIsToldWithoutALearner) {
    ASSERT_TRUE(book_->people().keep(QStringLiteral("Marit"), block::Role::owner));
    open_small_job();
    ASSERT_TRUE(session_.take(block::StepDone{"washed"}));
    ASSERT_TRUE(session_.bench_changed());
    EXPECT_EQ(told_of_the_bench(), 0);
}

TEST_F(PeopleSession, TheLedgerSaysWhenALearnerComesAndGoes) {
    make_learner();
    open_small_job();
    EXPECT_EQ(told_of_the_bench(), 1) << "on opening";
    ASSERT_TRUE(session_.take(block::StepDone{"washed"}));
    EXPECT_EQ(told_of_the_bench(), 1) << "once";
    EXPECT_TRUE(card_of(session_.state()).learner_at_bench());
    ASSERT_TRUE(book_->people().keep(QStringLiteral("Marit"), block::Role::machinist)); // learned enough
    ASSERT_TRUE(session_.bench_changed());
    EXPECT_FALSE(card_of(session_.state()).learner_at_bench());
    ASSERT_TRUE(session_.undo());
    EXPECT_FALSE(card_of(session_.state()).learner_at_bench()) << "who was there was there: the wash is undone";
    EXPECT_EQ(session_.assessment().steps.find("cleaned/wash")->state, planning::StepState::now);
    ASSERT_TRUE(session_.redo());
    EXPECT_EQ(session_.assessment().steps.find("cleaned/wash")->state, planning::StepState::done);
}

TEST_F(PeopleSession, OnlySomebodyOfTheShopSignsAndProvesIt) {
    auto people = book_->people();
    ASSERT_TRUE(people.keep(QStringLiteral("Jorun"), block::Role::machinist));
    ASSERT_TRUE(people.set_code(QStringLiteral("Jorun"), QStringLiteral("1907")));
    ASSERT_TRUE(people.keep(QStringLiteral("Mira"), block::Role::learner));
    make_learner();
    open_small_job();
    ASSERT_TRUE(session_.take(block::StepDone{"washed"}));
    ASSERT_TRUE(session_.take(block::StepDone{"inspected for cracks, threads, caps and registers"}));
    block::Conditions caps;
    caps.caps_torqued = true;
    ASSERT_TRUE(session_.take(block::ConditionsStated{caps, false}));
    take_log(test::small_log(200.1).text());
    ASSERT_TRUE(session_.take(block::DeckTargetChosen{block::TargetSchool::height, true, 200.0}));
    const planning::Step* now = session_.assessment().steps.now();
    ASSERT_TRUE(now);
    const std::string id = now->id;
    ASSERT_EQ(id.substr(0, 9), "sign_off/") << id;
    const auto sign = [&](const char* by, const char* code) {
        return refused(session_.answer(id, {{"by", std::string(by)}, {"code", std::string(code)}}));
    };
    EXPECT_THAT(sign("", ""), HasSubstr("nobody has signed"));
    EXPECT_THAT(sign("Mira", ""), HasSubstr("cannot sign"));
    EXPECT_THAT(sign("a stranger", ""), HasSubstr("cannot sign"));
    EXPECT_THAT(sign("Jorun", "1908"), HasSubstr("not the code"));
    EXPECT_TRUE(card_of(session_.state()).signed_off.empty());
    EXPECT_EQ(sign("Jorun", "1907"), "");
    ASSERT_EQ(card_of(session_.state()).signed_off.size(), 1u);
    EXPECT_TRUE(card_of(session_.state()).signed_off[0].payload.by_code);
    for (const block::Entry& entry : session_.entries())
        EXPECT_EQ(block::payload_json(entry.payload).find("1907"), std::string::npos) << "a code is in no ledger";
}

TEST_F(PeopleSession, PicturesArePngOrJpegAndNotTooLarge) {
    open_small_job();
    const auto file = [this](const char* name, const QByteArray& bytes) {
        const QString path = folder_.filePath(QString::fromLatin1(name));
        QFile out(path);
        EXPECT_TRUE(out.open(QIODevice::WriteOnly));
        out.write(bytes);
        return path;
    };
    EXPECT_THAT(refused(session_.take_picture(file("a.png", "no picture"), "", "")), HasSubstr("no PNG"));
    EXPECT_THAT(refused(session_.take_picture(QStringLiteral("/nowhere.png"), "", "")), HasSubstr("cannot be read"));
    QByteArray large = QByteArray::fromHex("ffd8ff");
    large.resize((20 << 20) + 1);
    EXPECT_THAT(refused(session_.take_picture(file("large.jpg", large), "", "")), HasSubstr("20 MB"));
    EXPECT_TRUE(card_of(session_.state()).pictures.empty());
    const QString good = folder_.filePath(QStringLiteral("deck.png"));
    ASSERT_TRUE(QImage(8, 8, QImage::Format_RGB32).save(good));
    ASSERT_TRUE(session_.take_picture(good, "deck.R", "as it came"));
    ASSERT_EQ(card_of(session_.state()).pictures.size(), 1u);
    const auto& kept = card_of(session_.state()).pictures[0].payload;
    EXPECT_EQ(book_->pictures().picture(QString::fromStdString(kept.sha256))->size(), kept.bytes);
}

// ---- clocks -------------------------------------------------------------------------------------------------------

TEST_F(PeopleSession, AClockRingsWhateverJobIsOpen) {
    at_ = "2026-03-02T09:00:00Z";
    open_small_job();
    ShopClocks clocks(session_, preferences_);
    QSignalSpy rang(&clocks, &ShopClocks::rang);
    clocks.listen();
    ASSERT_TRUE(session_.answer("cleaned/any/soak", {{"minutes", 60.0}}));
    session_.close_job();
    at_ = "2026-03-02T09:59:00Z";
    clocks.listen();
    EXPECT_EQ(rang.count(), 0);
    at_ = "2026-03-02T10:00:00Z";
    clocks.listen();
    ASSERT_EQ(rang.count(), 1);
    EXPECT_EQ(rang[0][1].toString(), QStringLiteral("small"));
    EXPECT_EQ(rang[0][2].toString(), QStringLiteral("soak"));
    EXPECT_FALSE(rang[0][4].toBool());
    clocks.listen();
    EXPECT_EQ(rang.count(), 1) << "once";
}

TEST_F(PeopleSession, ItRingsByItself) {
    at_ = "2026-03-02T09:00:00Z";
    open_small_job();
    ShopClocks clocks(session_, preferences_);
    clocks.listen();
    QSignalSpy rang(&clocks, &ShopClocks::rang);
    ASSERT_TRUE(session_.take(block::ClockSet{"tea", 1.0 / 60, "2026-03-02T09:00:01Z", {}}));
    at_ = "2026-03-02T09:00:02Z"; // a second passes
    EXPECT_TRUE(rang.wait(10000));
}

TEST_F(PeopleSession, WhatRangWhileNobodyWasHereIsToldAtStart) {
    at_ = "2026-03-02T09:00:00Z";
    open_small_job();
    {
        ShopClocks before(session_, preferences_);
        before.listen();
        ASSERT_TRUE(session_.answer("cleaned/any/soak", {{"minutes", 60.0}}));
    }
    at_ = "2026-03-03T07:00:00Z";
    ShopClocks after(session_, preferences_);
    QSignalSpy rang(&after, &ShopClocks::rang);
    after.listen();
    ASSERT_EQ(rang.count(), 1);
    EXPECT_TRUE(rang[0][4].toBool());
    ShopClocks again(session_, preferences_);
    QSignalSpy silent(&again, &ShopClocks::rang);
    again.listen();
    EXPECT_EQ(silent.count(), 0);
}

// ---- the board ----------------------------------------------------------------------------------------------------

namespace {

class Board : public PeopleSession {
  protected:
    Board() : shop_(*book_, preferences_, nullptr, [this] { return session_.now(); }) {
        at_ = "2026-03-06T08:00:00Z";
        EXPECT_TRUE(fill_with_demo(*book_));
        shop_.reload();
    }
    [[nodiscard]] const ShopModel::Row& job(const char* title) {
        for (const auto& row : shop_.all())
            if (row.title.startsWith(QLatin1String(title)))
                return row;
        throw std::out_of_range(title);
    }
    void deliver(const char* title) {
        ASSERT_TRUE(session_.open_job(job(title).id));
        ASSERT_TRUE(session_.answer("passport/any/hand_over", {{"to", std::string("its owner")}}));
        shop_.reload();
    }
    ShopModel shop_;
};

} // namespace

TEST_F(Board, JobsStandInTheOrderOfWhatTheyWaitFor) {
    ASSERT_EQ(shop_.rowCount(), 7);
    for (int i = 1; i < shop_.rowCount(); ++i)
        EXPECT_LE(shop_.row(i - 1).standing.waits, shop_.row(i).standing.waits);
    QStringList groups;
    for (int i = 0; i < shop_.rowCount(); ++i)
        if (const QString group = shop_.index(i).data(ShopModel::group_role).toString(); !group.isEmpty())
            groups << group;
    EXPECT_EQ(groups.size(), QSet<QString>(groups.begin(), groups.end()).size()) << "each once";
    EXPECT_TRUE(shop_.index(shop_.index_of(job("Puffling, port").id))
                    .data(ShopModel::part_role)
                    .toString()
                    .contains(QStringLiteral("overdue")));
}

TEST_F(Board, WhatIsRememberedIsWhatWasWorkedOut) {
    const std::vector<ShopModel::Row> first = shop_.all();
    shop_.reload(); // from the cache
    ASSERT_EQ(first.size(), shop_.all().size());
    for (std::size_t i = 0; i < first.size(); ++i) {
        const auto &a = first[i], &b = shop_.all()[i];
        EXPECT_EQ(a.standing.waits, b.standing.waits) << a.title.toStdString();
        EXPECT_EQ(a.standing.fixture, b.standing.fixture);
        EXPECT_EQ(a.standing.left, b.standing.left);
        EXPECT_EQ(a.standing.words, b.standing.words);
        EXPECT_EQ(a.standing.due, b.standing.due);
        EXPECT_EQ(a.hours.minutes, b.hours.minutes);
        EXPECT_EQ(a.hours.done, b.hours.done);
        EXPECT_EQ(a.standing.open, b.standing.open);
    }
}

TEST_F(Board, IsSearchedByAnything) {
    const auto found = [this](const char* words) {
        shop_.search(QString::fromUtf8(words));
        QStringList titles;
        for (int i = 0; i < shop_.rowCount(); ++i)
            titles << shop_.row(i).title.section(QLatin1Char(','), 0, 0);
        return titles.join(QLatin1Char(' '));
    };
    EXPECT_EQ(found("2210"), QStringLiteral("Gannet")) << "by casting";
    EXPECT_EQ(found("chandler"), QString()) << "where a part is is no word of the job";
    EXPECT_EQ(found("Water OIL"), QStringLiteral("Samphire")) << "every word, whatever its case";
    EXPECT_EQ(found("nothing like it"), QString());
    ASSERT_TRUE(session_.open_job(job("Eider").id));
    ASSERT_TRUE(session_.take(block::Note{"Bløt ring, \u00C5smund said"}));
    shop_.reload();
    EXPECT_EQ(found("\u00E5smund BL\u00D8T"), QStringLiteral("Eider")) << "letters of any alphabet";
    deliver("Gannet");
    EXPECT_EQ(found("2210"), QStringLiteral("Gannet")) << "delivered, and never gone";
    EXPECT_FALSE(found("").contains(QStringLiteral("Gannet")));
    shop_.show_delivered(true);
    EXPECT_EQ(shop_.rowCount(), 7);
    EXPECT_EQ(shop_.delivered(), 1);
    EXPECT_TRUE(shop_.index(6).data(ShopModel::day_role).toString().startsWith(QStringLiteral("delivered")));
}
