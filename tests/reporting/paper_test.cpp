// SPDX-License-Identifier: GPL-3.0-or-later
// Papers as somebody else's program reads them back: what stands where on which page (pdftotext, poppler).
#include "reporting/paper.h"

#include "block/digest.h"
#include "read_back.h"
#include "workshop/harbour.h"

#include <algorithm>
#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::reporting;

using test::expect_legible;
using test::Page;
using test::read_back;
using test::Told;
using test::Word;

TEST(Paper, EveryPassportOfTheHarbourIsLegibleOnBothPapersInBothUnits) {
    std::size_t number = 0;
    for (const workshop::DemoJob& told : workshop::harbour_jobs()) {
        const Told job(told.entries);
        for (const auto& [paper, unit] :
             {std::pair(QPageSize::A4, block::Unit::mm), std::pair(QPageSize::Letter, block::Unit::inch)})
            expect_legible(read_back(job.html(unit), foot_of(job.state), paper),
                           "job " + std::to_string(number) + (paper == QPageSize::A4 ? ", A4" : ", Letter"));
        ++number;
    }
}

TEST(Paper, ALongTableGoesOnWithItsHeadsAndNoHeadingStandsAlone) {
    QString rows;
    for (int i = 0; i < 500; ++i)
        rows += QStringLiteral("<tr><td>pass%1</td><td>0.010</td></tr>").arg(i);
    QString filler;
    for (int i = 0; i < 47; ++i) // the next heading would be the last line of the page
        filler += QStringLiteral("<p>line %1</p>").arg(i);
    const auto pages =
        read_back(filler + QStringLiteral("<h2>Passes</h2><table width=\"100%\"><thead><tr><th>which</th>"
                                          "<th>depth</th></tr></thead><tbody>%1</tbody></table>")
                               .arg(rows),
                  {QStringLiteral("x").repeated(300), QStringLiteral("SB-1")}, QPageSize::A4);
    expect_legible(pages, "long");
    ASSERT_GT(pages.size(), 8u);
    std::size_t with_heads = 0, with_rows = 0;
    for (const Page& page : pages) {
        const bool row =
            std::ranges::any_of(page.words, [](const Word& w) { return w.text.startsWith(QStringLiteral("pass")); });
        with_rows += row;
        with_heads += page.has(QStringLiteral("which"));
        if (page.has(QStringLiteral("Passes"))) {
            EXPECT_TRUE(row) << "a heading with nothing under it";
        }
        EXPECT_TRUE(page.has(QStringLiteral("SB-1"))) << "whose it is";
    }
    EXPECT_EQ(with_heads, with_rows);
}

// The harbour's own: under every heading of a page stands something of what it heads.
TEST(Paper, NoSectionOfAPassportBeginsAtTheVeryFoot) {
    for (const workshop::DemoJob& told : workshop::harbour_jobs())
        for (const auto paper : {QPageSize::A4, QPageSize::Letter, QPageSize::A5}) {
            const Told job(told.entries);
            for (const Page& page : read_back(job.html(block::Unit::mm), {}, paper)) {
                double lowest = 0;
                for (const Word& w : page.words)
                    if (w.text != QStringLiteral("page") && w.bottom < page.height - 45)
                        lowest = std::max(lowest, w.top);
                for (const char* title : {"Cylinders", "Lifters", "Cuts", "Verdict", "Balance"})
                    for (const Word& w : page.words)
                        if (w.text == QLatin1String(title) && w.bottom - w.top > 13 && page.words.size() > 12) {
                            EXPECT_LT(w.top, lowest) << title;
                        }
            }
        }
}

TEST(Paper, AnEmptySectionHasNoHeads) {
    for (const workshop::DemoJob& told : workshop::harbour_jobs()) {
        const QString html = Told(told.entries).html(block::Unit::mm);
        EXPECT_FALSE(html.contains(QStringLiteral("<tbody></tbody>")));
        EXPECT_EQ(html.contains(QStringLiteral("quench")), html.contains(QStringLiteral("<h2>Mock-up</h2>")));
    }
}

TEST(Paper, APassportCarriesTheDigestOfItsLedger) {
    const Told job(workshop::harbour_jobs().at(2).entries);
    const auto pages = read_back(job.html(block::Unit::mm), foot_of(job.state), QPageSize::A4);
    const QString digest = QString::fromStdString(block::digest_of(job.entries));
    QString written = pages.back().all().remove(QLatin1Char(' '));
    EXPECT_TRUE(written.contains(digest)) << written.toStdString();
    std::vector<block::Entry> later = job.entries;
    later.push_back({later.back().sequence + 1, later.back().time, "Marit", block::Note{"after the paper"}});
    EXPECT_EQ(block::entry_of_digest(later, digest.toStdString()), job.entries.back().sequence);
    EXPECT_EQ(block::entry_of_digest(later, " " + digest.left(6).toUpper().toStdString() + " " +
                                                digest.mid(6, 6).toStdString()),
              job.entries.back().sequence)
        << "as somebody types it";
    EXPECT_FALSE(block::entry_of_digest(later, digest.left(11).toStdString())) << "too few digits tell nothing";
    later[1].person = "somebody else";
    EXPECT_FALSE(block::entry_of_digest(later, digest.toStdString())) << "altered";
}

TEST(Paper, WhatComesFromElsewhereIsInert) {
    std::vector<block::Entry> told = workshop::harbour_jobs().at(2).entries;
    const std::string evil = "<script>alert(1)</script><img src=\"http://nowhere/x.png\">&<h1>";
    std::get<block::JobOpened>(told.front().payload).title = evil;
    told.push_back(
        {told.back().sequence + 1, told.back().time, evil, block::GatePassed{block::Rule::order, "deck.C", evil}});
    const Told job(told);
    const QString html = job.html(block::Unit::mm);
    EXPECT_FALSE(html.contains(QStringLiteral("<script")));
    EXPECT_FALSE(html.contains(QStringLiteral("<img src=\"http")));
    const auto pages = read_back(html, foot_of(job.state), QPageSize::A4);
    expect_legible(pages, "hostile");
    EXPECT_TRUE(pages.front().all().contains(QStringLiteral("script")));
}
