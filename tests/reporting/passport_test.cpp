// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/digest.h"
#include "block/ledger.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "reporting/paper.h"
#include "reporting/passport.h"

#include "reference_data.h"
#include "reporting/deck_picture.h"
#include "session/session.h"
#include "workshop/harbour.h"

#include <QFile>
#include <QImage>
#include <QPainter>
#include <QTemporaryDir>
#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::reporting;

namespace {

struct Job {
    std::vector<block::Entry> entries;
    block::Folded state;
    planning::Assessment assessment;

    /// @param more done to it besides
    explicit Job(std::size_t index, const std::vector<block::Payload>& more = {})
        : entries(told(workshop::harbour_jobs().at(index).entries, more)), state(block::fold(entries)),
          assessment(planning::assess(state)) {}
    static std::vector<block::Entry> told(std::vector<block::Entry> all, const std::vector<block::Payload>& more) {
        for (const block::Payload& payload : more)
            all.push_back({all.back().sequence + 1, all.back().time, all.back().person, payload});
        return all;
    }
    QString html(block::Unit unit = block::Unit::mm) const {
        return passport_html({state, assessment, entries, wording::LengthText(unit), 1, QStringLiteral("2026-03-05")});
    }
};

constexpr std::size_t port = 0, tender = 2, smack = 4, ferry = 5, ketch = 6;

} // namespace

TEST(Passport, TellsAsFoundCutsAndAsLeft) {
    const Job job(tender);
    const QString html = job.html();
    const auto& found = decks_of(job.state).deck("C").as_found->result;
    const auto& left = decks_of(job.state).deck("C").latest->result;
    const wording::LengthText mm(block::Unit::mm);
    for (const std::string& part :
         {std::string("Samphire, tender"), std::string("Decks, as found"), std::string("Decks, as left"),
          std::string("Cuts"), std::string("deck, as planned: meets"), mm.plain(found.height_min),
          mm.plain(left.height_min), mm.plain(job.assessment.banks[0].taken), std::string("Marit"),
          std::string("2026-02-26"), std::string("Printed 2026-03-05"),
          block::sha256_hex(std::get<block::ProbeLogTaken>(job.entries[1].payload).text.str()).substr(0, 12)})
        EXPECT_TRUE(html.contains(QString::fromStdString(part))) << part;
    EXPECT_TRUE(html.contains(QStringLiteral("deck as it came")));
    EXPECT_TRUE(html.contains(QStringLiteral("deck as it leaves")));
}

TEST(Passport, TellsOfAHeadThatWasWorkedOn) {
    std::vector<block::Payload> done;
    done.emplace_back(block::SetUpRead{"C", "head", {}, {{"front", {0, 0}}, {"rear", {300, 0}}}});
    block::Reading felt;
    felt.at = {{block::FeatureKind::deck, "C", 0}, block::Quantity::head_gap, "", "middle", {}};
    felt.value = 0.11;
    felt.upper = 0.13;
    done.emplace_back(felt);
    block::DeckCut pass{"C", block::PassKind::pass, 0.15, true, {}};
    pass.head = true;
    const QString before = Job(tender, done).html();
    EXPECT_TRUE(before.contains(QStringLiteral("set-up of the head, read on the head, on two feet")));
    EXPECT_TRUE(before.contains(QStringLiteral("0.110 mm goes in under the straightedge (middle)")));
    done.emplace_back(pass);
    const QString html = Job(tender, done).html();
    EXPECT_TRUE(html.contains(QStringLiteral("head of the deck: 0.150 mm off the head in all.")));
    EXPECT_FALSE(html.contains(QStringLiteral("0.110 mm goes in"))) << "the face is another one";
}

TEST(Passport, ShowsInchOnRequest) {
    const Job job(tender);
    EXPECT_TRUE(
        job.html(block::Unit::inch)
            .contains(QString::fromStdString(wording::LengthText(block::Unit::inch)
                                                 .plain(decks_of(job.state).deck("C").latest->result.height_min))));
}

TEST(Passport, BeforeTheCutSaysNoMoreThanItKnows) {
    const QString html = Job(port).html();
    EXPECT_TRUE(html.contains(QStringLiteral("as found")));
    EXPECT_FALSE(html.contains(QStringLiteral("Decks, as left")));
    EXPECT_FALSE(html.contains(QStringLiteral("as it leaves")));
    EXPECT_FALSE(html.contains(QStringLiteral("<h2>Verdict")));
    const QString untouched = Job(ketch).html();
    EXPECT_TRUE(untouched.contains(QStringLiteral("Nothing was measured yet.")));
    EXPECT_FALSE(untouched.contains(QStringLiteral("<h2>Decks")));
}

TEST(Passport, TellsTheWorkOnTheTunnelWithoutWhatWasStruck) {
    Job job(tender);
    EXPECT_FALSE(job.html().contains(QStringLiteral("Work on the tunnel")));
    std::int64_t next = job.entries.back().sequence;
    const auto add = [&](block::Payload payload) {
        job.entries.push_back({++next, "2026-03-04T09:00:00Z", "Oda", std::move(payload)});
    };
    add(block::CapsCut{{{{block::FeatureKind::main, "", 2}, 0.031}}});
    add(block::TunnelPass{block::TunnelPassKind::strokes, 37, {}, false});
    add(block::TunnelPass{block::TunnelPassKind::strokes, 91, {}, false});
    add(block::Strike{next, "counted twice"});
    job.state = block::fold(job.entries);
    const QString html = job.html();
    for (const char* part :
         {"Work on the tunnel", "caps cut: 2 by 0.031 mm", "line hone, 37 strokes", "Oda, 2026-03-04"})
        EXPECT_TRUE(html.contains(QString::fromLatin1(part))) << part;
    EXPECT_FALSE(html.contains(QStringLiteral("91 strokes")));
}

TEST(Passport, NamesAreEscaped) {
    Job job(tender);
    intake_of(job.state).title = "<b>A & B</b>";
    EXPECT_TRUE(job.html().contains(QStringLiteral("&lt;b&gt;A &amp; B&lt;/b&gt;")));
}

TEST(Passport, SavesHtmlAndSaysWhatCannotBeWritten) {
    const QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("p.html"));
    const QString html = Job(tender).html();
    ASSERT_TRUE(save_paper_html(html, file));
    EXPECT_EQ(test::read_file(file.toStdString()), html.toStdString());
    const auto nowhere = save_paper_html(html, folder.filePath(QStringLiteral("no/such/p.html")));
    ASSERT_FALSE(nowhere);
    EXPECT_TRUE(nowhere.error().contains(QStringLiteral("cannot be written")));
    EXPECT_FALSE(save_paper_pdf(html, {}, QPageSize(QPageSize::A4), folder.filePath(QStringLiteral("no/such/p.pdf"))));
}

TEST(DeckPicture, IsNotMirroredAndGoesThereAndBack) {
    const block::Blueprint b = workshop::workboat_v6();
    DeckPicture picture(b, *b.bank("L"), {{0, -70, 241}, {300, -70, 241}, {0, 70, 241.1}, {300, 70, 241}});
    picture.lay_out(QRectF(0, 0, 900, 400));
    // Seen from outside: u to the right, v up.
    EXPECT_LT(picture.to_screen({0, 0}).x(), picture.to_screen({100, 0}).x());
    EXPECT_GT(picture.to_screen({0, 0}).y(), picture.to_screen({0, 50}).y());
    const auto back = picture.to_deck(picture.to_screen({123, -45}));
    EXPECT_NEAR(back.x, 123, 1e-9);
    EXPECT_NEAR(back.y, -45, 1e-9);
}

TEST(DeckPicture, IsBrightWhereTheCutReachesAndIronWhereItDoesNot) {
    const block::Blueprint b = workshop::workboat_v6();
    DeckPicture picture(
        b, *b.bank("R"),
        {{-20, -70, 241.0}, {380, -70, 241.1}, {-20, 70, 241.0}, {380, 70, 241.1}}); // rises to the rear
    picture.lay_out(QRectF(0, 0, 900, 400));
    const DeckColours colours{.page = Qt::white,
                              .iron_low = Qt::black,
                              .iron_high = Qt::darkGray,
                              .bright = Qt::yellow,
                              .bright_line = Qt::yellow,
                              .contour = Qt::black,
                              .edge = Qt::blue,
                              .blank = Qt::green,
                              .point = Qt::red,
                              .mark = Qt::red};
    QImage image(900, 400, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    picture.paint(painter, colours,
                  {.level = 241.05, .contour_step = 1, .dark = {}, .show_points = false, .machined = false});
    painter.end();
    const auto at = [&](double u) { return image.pixelColor(picture.to_screen({u, 60}).toPoint()); };
    EXPECT_EQ(at(330), QColor(Qt::yellow));
    EXPECT_NE(at(60), QColor(Qt::yellow));
    EXPECT_EQ(image.pixelColor(picture.to_screen({b.bores[0].u, 0}).toPoint()), QColor(Qt::white))
        << "a bore is a hole";
}

TEST(Passport, TellsOfCylindersSleevesAndLifters) {
    const QString bored = Job(smack).html();
    for (const char* part :
         {"<h2>Cylinders</h2>", "sleeved", "broken ring land", "interference 0.033 mm", "82.500", "not finished"})
        EXPECT_TRUE(bored.contains(QString::fromUtf8(part))) << part;
    EXPECT_FALSE(bored.contains(QStringLiteral("<h2>Lifters</h2>"))) << "it has none";
    const QString honed = Job(ferry).html();
    for (const char* part : {"<h2>Cylinders</h2>", "<h2>Lifters</h2>", "bush every one",
                             "texture, one trace, of its place alone, Ra ", "Rvk ", "Timing spread at the crankshaft"})
        EXPECT_TRUE(honed.contains(QString::fromUtf8(part))) << part;
    EXPECT_FALSE(Job(port).html().contains(QStringLiteral("<h2>Cylinders</h2>"))) << "found, and nothing done";
}

// Whoever went on against a rule said why, and the sheet shows it; so does it who signed for whom.
TEST(Passport, TellsWhoAnsweredForWhat) {
    const Job job(tender,
                  {block::JobCard{"casting T-4", "", "", "", "", {}, "", "", "", "", {}, ""},
                   block::ScopeChosen{{block::Stage::decks, block::Stage::passport}, "tunnel good by its papers"},
                   block::GatePassed{block::Rule::doubt, "decks", "the customer takes it so"},
                   block::AtBench{"Mira", block::Role::learner},
                   block::SignedOff{"cut_deck", "Jorun", block::Role::machinist, true}});
    const QString html = job.html();
    for (const char* part : {"casting T-4", "tunnel good by its papers", "the customer takes it so", "Mira, learner",
                             "Jorun, machinist, answers for cutting a deck (by code)"})
        EXPECT_TRUE(html.contains(QLatin1String(part))) << part;
    EXPECT_FALSE(Job(tender).html().contains(QStringLiteral("Answered for"))) << "where nobody had to";
}
