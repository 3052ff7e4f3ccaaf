// SPDX-License-Identifier: GPL-3.0-or-later
// What a block is called, from its first day until somebody looks it up years later.
#include "block/state/card_state.h"
#include "session_fixture.h"

#include "session/shop_model.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::session;
using testing::HasSubstr;

namespace {

class Serials : public test::SessionFixture {
  protected:
    void keep(const std::string& pattern) {
        block::ShopPapers papers;
        papers.serial_pattern = pattern;
        const auto kept = book_->usual().keep_papers(papers);
        ASSERT_TRUE(kept) << kept.error().what.toStdString();
    }
    std::string serial() const {
        const auto& given = card_of(session_.state()).serial;
        return given ? given->payload.serial : "";
    }
    static std::string why(const Outcome& outcome) { return outcome ? "" : outcome.error().front().text(); }
};

} // namespace

TEST_F(Serials, ANewJobHasTheNextOnceTheShopHasAPattern) {
    open_small_job();
    EXPECT_EQ(serial(), "") << "nobody has said how serials go here";
    keep("K{yy}-{nn}");
    open_small_job();
    EXPECT_EQ(serial(), "K26-01");
    open_small_job();
    EXPECT_EQ(serial(), "K26-02");
    at_ = "2027-01-04T08:00:00Z";
    open_small_job();
    EXPECT_EQ(serial(), "K27-01");
}

TEST_F(Serials, IsGivenToAnOlderJobAndToNoTwo) {
    open_small_job();
    EXPECT_TRUE(session_.give_serial());
    EXPECT_EQ(serial(), "26-001") << "the usual pattern";
    open_small_job();
    EXPECT_THAT(why(session_.give_serial("26-001")), HasSubstr("is another job's"));
    EXPECT_THAT(why(session_.give_serial("2 6")), HasSubstr("more than letters, digits and signs"));
    EXPECT_THAT(why(session_.give_serial("a;b")), HasSubstr("more than letters, digits and signs"));
    EXPECT_EQ(serial(), "");
    EXPECT_TRUE(session_.give_serial("LH-7"));
    EXPECT_EQ(serial(), "LH-7");
    EXPECT_TRUE(session_.undo());
    EXPECT_EQ(serial(), "");
    EXPECT_TRUE(session_.give_serial());
    EXPECT_EQ(serial(), "26-002");
}

TEST_F(Serials, ANumberThatWasStruckIsNotGivenAgain) {
    open_small_job();
    ASSERT_TRUE(session_.give_serial());
    ASSERT_TRUE(session_.undo());
    ASSERT_TRUE(session_.give_serial());
    EXPECT_EQ(serial(), "26-002");
}

TEST_F(Serials, IsMarkedInLettersThatTheEngraverHas) {
    open_small_job();
    EXPECT_THAT(why(session_.mark_serial("26-001")), HasSubstr("has none yet"));
    ASSERT_TRUE(session_.give_serial());
    EXPECT_THAT(why(session_.mark_serial("26-001 ±")), HasSubstr("letters that the engraver can do"));
    EXPECT_THAT(why(session_.mark_serial(std::string(25, 'A'))), HasSubstr("has 25 letters"));
    EXPECT_TRUE(session_.mark_serial("26-001 b84"));
    EXPECT_EQ(card_of(session_.state()).serial->payload.engraved, "26-001 B84");
    EXPECT_EQ(serial(), "26-001");
}

TEST_F(Serials, FindsItsJobTypedOrScanned) {
    ShopModel model(*book_, preferences_);
    open_small_job();
    ASSERT_TRUE(session_.give_serial());
    const auto first = session_.job();
    open_small_job();
    ASSERT_TRUE(session_.give_serial("26-0011"));
    model.reload();
    EXPECT_EQ(model.job_of_serial(QStringLiteral("26-001")), first) << "not the one that begins alike";
    EXPECT_EQ(model.job_of_serial(QStringLiteral(" serial 26-001; small; mm; entry 2; digest 0123456789abcdef\r")),
              first);
    EXPECT_FALSE(model.job_of_serial(QStringLiteral("26-002")));
    EXPECT_FALSE(model.job_of_serial(QString()));
    model.search(QStringLiteral("serial 26-001; small; mm; entry 2; digest 0123456789abcdef"));
    EXPECT_EQ(model.rowCount(), 2) << "both have it in their words";
    model.search(QStringLiteral("26-0011"));
    EXPECT_EQ(model.rowCount(), 1);
}

TEST_F(Serials, TheShopsPapersAreKeptAndGoIntoASoundCopy) {
    block::ShopPapers papers;
    papers.shop = "Harbour";
    papers.serial_pattern = "H{n}";
    papers.machines = {*block::read_axes("surfacer", "Y -X Z")};
    ASSERT_TRUE(book_->usual().keep_papers(papers));
    EXPECT_EQ(session_.papers_of_shop(), papers);
    papers.serial_pattern = "without a number";
    const auto refused = book_->usual().keep_papers(papers);
    ASSERT_FALSE(refused);
    EXPECT_TRUE(refused.error().what.contains(QStringLiteral("has no one number")));
    EXPECT_EQ(session_.papers_of_shop().serial_pattern, "H{n}");
    const QString backup = folder_.filePath(QStringLiteral("backup.shopbook")),
                  copy = folder_.filePath(QStringLiteral("copy.shopbook"));
    ASSERT_TRUE(book_->back_up(backup));
    const auto copied = storage::ShopBook::copy_sound(backup, copy);
    ASSERT_TRUE(copied) << copied.error().what.toStdString();
    const auto other = storage::ShopBook::open(copy);
    ASSERT_TRUE(other);
    EXPECT_EQ((*other)->usual().papers()->shop, "Harbour");
}
