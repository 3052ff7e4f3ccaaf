// SPDX-License-Identifier: GPL-3.0-or-later
// Somebody makes the papers of a job in the window, marks its serial, scans a paper back; and makes them without it.
#include "bench_fixture.h"

#include "block/digest.h"
#include "block/state/card_state.h"
#include "session/demo_shop.h"
#include "ui/passport/passport_view.h"

#include <QComboBox>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QProcess>
#include <QTableWidget>
#include <QTextBrowser>
#include <QXmlStreamReader>

using namespace pallix;
using reporting::PaperKind;

namespace {

class PapersJourney : public test::BenchFixture {
  protected:
    void show(PaperKind kind) { find<QComboBox>("papers")->setCurrentIndex(static_cast<int>(kind)); }
    QString paper() { return find<QTextBrowser>("passport")->toPlainText(); }
    /// Saves through the dialog under that name in the test's own folder.
    QString save_as(const char* name, const std::function<void()>& save) {
        const QString file = folder_.filePath(QString::fromLatin1(name));
        in_dialog([file](QDialog& d) {
            auto* field = d.findChild<QLineEdit*>(QStringLiteral("fileNameEdit"));
            ASSERT_TRUE(field);
            field->setText(file);
            d.accept();
        });
        save();
        return file;
    }
    static QByteArray bytes_of(const QString& file) {
        QFile in(file);
        return in.open(QIODevice::ReadOnly) ? in.readAll() : QByteArray();
    }
};

struct Said {
    int status = -1;
    QString out, err;
};
Said cli(const QStringList& arguments) {
    QProcess process;
    process.start(QStringLiteral(PALLIX_CLI), arguments);
    process.waitForFinished(300000); // under a sanitizer it takes its time
    return {process.exitCode(), QString::fromUtf8(process.readAllStandardOutput()),
            QString::fromUtf8(process.readAllStandardError())};
}

} // namespace

TEST_F(PapersJourney, EveryPaperIsShownAsItWouldBePrinted) {
    open_demo();
    open_demo_at("Gannet", ui::Place::passport);
    for (const auto& [kind, words] : {std::pair(PaperKind::passport, "Main tunnel"),
                                      {PaperKind::customer, "What we found"},
                                      {PaperKind::estimate, "What could turn up"},
                                      {PaperKind::work_sheet, "Typed in later"},
                                      {PaperKind::caps, "Cutting caps"},
                                      {PaperKind::boring, "target, along"},
                                      {PaperKind::readings, "Readings"},
                                      {PaperKind::coordinates, "touch one hole by hand"},
                                      {PaperKind::label, "Label, 62 x 29 mm"},
                                      {PaperKind::data, "ledger"}}) {
        show(kind);
        EXPECT_TRUE(paper().contains(QString::fromLatin1(words))) << words;
    }
}

TEST_F(PapersJourney, CoordinatesGoByTheMachineThatIsChosen) {
    open_demo();
    open_demo_at("Gannet", ui::Place::passport);
    EXPECT_FALSE(find<QComboBox>("machine")->isVisible());
    show(PaperKind::coordinates);
    ASSERT_TRUE(find<QComboBox>("machine")->isVisible());
    EXPECT_FALSE(paper().contains(QStringLiteral("target X")));
    find<QComboBox>("machine")->setCurrentText(QStringLiteral("surfacer"));
    EXPECT_TRUE(paper().contains(QStringLiteral("target X")));
    EXPECT_TRUE(paper().contains(QStringLiteral("surfacer: along, across and up lie along Y -X Z")));
}

TEST_F(PapersJourney, TheSerialIsMarkedAsTheEngraverCanDoIt) {
    open_demo();
    open_demo_at("Gannet", ui::Place::passport);
    ASSERT_TRUE(card_of(session_.state()).serial);
    const std::string serial = card_of(session_.state()).serial->payload.serial;
    EXPECT_TRUE(paper().contains(QStringLiteral("Not marked on the block yet")));
    in_dialog([](QDialog& d) {
        auto* field = d.findChild<QLineEdit*>();
        field->setText(field->text() + QStringLiteral(" ö"));
        QTest::keyClick(field, Qt::Key_Return);
    });
    key(Qt::Key_M, Qt::ControlModifier | Qt::AltModifier);
    EXPECT_TRUE(text_of("passport-echo").contains(QStringLiteral("letters that the engraver can do")));
    in_dialog([&](QDialog& d) {
        auto* field = d.findChild<QLineEdit*>();
        EXPECT_EQ(field->text().toStdString(), serial) << "as the shop's line has it";
        QTest::keyClick(field, Qt::Key_Return);
    });
    key(Qt::Key_M, Qt::ControlModifier | Qt::AltModifier);
    EXPECT_EQ(card_of(session_.state()).serial->payload.engraved, serial);
    EXPECT_TRUE(paper().contains(QStringLiteral("Marked on the block: ")));
    EXPECT_FALSE(find<QPushButton>("serial")->isVisible()) << "nothing is left to be done about it";
    key(Qt::Key_S, Qt::ControlModifier | Qt::AltModifier);
    EXPECT_TRUE(text_of("passport-echo").contains(QStringLiteral("It has one")));
}

TEST_F(PapersJourney, AScannedPaperOpensItsJobAndIsHeldAgainstItsLedger) {
    open_demo();
    open_demo_at("Samphire", ui::Place::passport);
    const auto samphire = session_.job();
    const QString serial = QString::fromStdString(card_of(session_.state()).serial->payload.serial),
                  digest = QString::fromStdString(block::digest_of(session_.entries())).left(16);
    open_demo_at("Gannet", ui::Place::shop);
    const auto scan = [&](const QString& text) {
        key(Qt::Key_F, Qt::ControlModifier);
        auto* search = find<QLineEdit>("shop-search");
        search->setText(text);
        QTest::keyClick(search, Qt::Key_Return); // a scanner ends with Enter
    };
    scan(QStringLiteral("serial %1; Tender; deck 200.1; mm; entry 9; digest %2").arg(serial, digest));
    EXPECT_EQ(session_.job(), samphire);
    EXPECT_TRUE(find<QTextBrowser>("passport")->isVisible());
    EXPECT_TRUE(text_of("passport-echo").contains(QStringLiteral("unaltered up to entry")));
    open_demo_at("Gannet", ui::Place::shop);
    scan(QStringLiteral("serial %1; Tender; deck 200.1; mm; entry 9; digest 0123456789abcdef").arg(serial));
    EXPECT_TRUE(text_of("passport-echo").contains(QStringLiteral("no entry of this ledger")));
    open_demo_at("Gannet", ui::Place::shop);
    scan(serial);
    EXPECT_EQ(session_.job(), samphire) << "typed";
    EXPECT_EQ(find<QLineEdit>("shop-search")->text(), QString()) << "the board is whole again";
}

TEST_F(PapersJourney, TheShopSaysHowItsPapersAre) {
    open_demo();
    open_demo_at("Gannet", ui::Place::passport);
    in_dialog([](QDialog& d) {
        auto* table = d.findChild<QTableWidget*>(QStringLiteral("shop-papers"));
        ASSERT_TRUE(table);
        const auto type = [table](int row, const char* words) {
            table->item(row, 1)->setText(QString::fromUtf8(words));
        };
        EXPECT_EQ(table->item(1, 1)->text(), QStringLiteral("S{yy}-{nnn}"));
        EXPECT_TRUE(table->item(5, 2)->text().contains(QStringLiteral("57 x 32"))) << "what labels are sold as";
        EXPECT_TRUE(table->item(6, 2)->text().contains(QStringLiteral("100 along, 50 across: X 100.000, Y 50.000")));
        type(1, "no number");
        d.accept();
        EXPECT_TRUE(d.isVisible()) << "refused";
        type(1, "T{n}");
        EXPECT_TRUE(table->item(1, 2)->text().contains(QStringLiteral("T1")));
        type(6, "boring mill: Y X Z");
        d.accept();
        EXPECT_TRUE(d.isVisible()) << "a mirror is refused";
        type(6, "boring mill: -X -Y Z");
        type(8, "lathe: Z X Y turn 30");
        d.accept();
    });
    static_cast<ui::PassportView*>(find<QTextBrowser>("passport")->parentWidget())->set_up_papers();
    const block::ShopPapers kept = session_.papers_of_shop();
    EXPECT_EQ(kept.serial_pattern, "T{n}");
    ASSERT_EQ(kept.machines.size(), 3u);
    EXPECT_EQ(block::axes_text(kept.machines[0]), "-X -Y Z");
    EXPECT_EQ(kept.machines[2].machine, "lathe");
}

TEST_F(PapersJourney, PapersAndDrawingsAreSaved) {
    open_demo();
    open_demo_at("Gannet", ui::Place::passport);
    auto* view = static_cast<ui::PassportView*>(find<QTextBrowser>("passport")->parentWidget());
    EXPECT_TRUE(bytes_of(save_as("p.pdf", [view] { view->save(); })).startsWith("%PDF-"));
    show(PaperKind::coordinates);
    EXPECT_TRUE(bytes_of(save_as("c.csv", [view] { view->save(); })).startsWith("\"set-up\""));
    EXPECT_TRUE(text_of("passport-echo").contains(QStringLiteral("saved: ")));
    save_as("c.odt", [view] { view->save(); });
    EXPECT_TRUE(text_of("passport-echo").contains(QStringLiteral("is written as .pdf, .html, .csv, .xlsx, .dxf")));
    for (const ui::Place place :
         {ui::Place::tunnel, ui::Place::block, ui::Place::decks, ui::Place::cylinders, ui::Place::lifters}) {
        window_->go_to(place);
        QApplication::processEvents();
        const QByteArray svg =
            bytes_of(save_as("d.svg", [this] { key(Qt::Key_E, Qt::ControlModifier | Qt::AltModifier); }));
        QXmlStreamReader xml(svg);
        int shapes = 0;
        while (!xml.atEnd())
            if (xml.readNext() == QXmlStreamReader::StartElement)
                ++shapes;
        EXPECT_FALSE(xml.hasError()) << xml.errorString().toStdString();
        EXPECT_GT(shapes, 20) << static_cast<int>(place);
        QFile::remove(folder_.filePath(QStringLiteral("d.svg")));
    }
    window_->go_to(ui::Place::engines);
    in_dialog([](QDialog& d) {
        EXPECT_EQ(d.windowTitle(), QStringLiteral("Nothing is drawn here"));
        d.accept();
    });
    key(Qt::Key_E, Qt::ControlModifier | Qt::AltModifier);
}

TEST_F(PapersJourney, ABookIsListedExportedBackedUpAndPrintedWithoutTheWindow) {
    const QString file = folder_.filePath(QStringLiteral("harbour.shopbook"));
    {
        auto book = storage::ShopBook::open(file);
        ASSERT_TRUE(book);
        ASSERT_TRUE(session::fill_with_past(**book));
        ASSERT_TRUE(session::fill_with_demo(**book));
        const Said busy = cli({QStringLiteral("jobs"), QStringLiteral("--book"), file});
        EXPECT_EQ(busy.status, 1) << "while it is open elsewhere";
        EXPECT_FALSE(busy.err.isEmpty());
    }
    const QStringList of_book{QStringLiteral("--book"), file};
    const Said listed = cli(QStringList{QStringLiteral("jobs")} + of_book);
    EXPECT_EQ(listed.status, 0) << listed.err.toStdString();
    EXPECT_EQ(listed.out.count(QLatin1Char('\n')), 14);
    EXPECT_TRUE(listed.out.contains(QStringLiteral("S26-004\tGannet, island ferry")));
    EXPECT_EQ(cli(QStringList{QStringLiteral("check")} + of_book).status, 0);
    const Said backup = cli(QStringList{QStringLiteral("backup"), QStringLiteral("--out"),
                                        folder_.filePath(QStringLiteral("copy.shopbook"))} +
                            of_book);
    EXPECT_EQ(backup.status, 0) << backup.err.toStdString();
    EXPECT_EQ(
        cli({QStringLiteral("check"), QStringLiteral("--book"), folder_.filePath(QStringLiteral("copy.shopbook"))})
            .status,
        0);

    const Said back = cli(QStringList{QStringLiteral("import"), QStringLiteral("--from"),
                                      folder_.filePath(QStringLiteral("copy.shopbook"))} +
                          of_book);
    EXPECT_EQ(back.status, 0) << back.err.toStdString();
    EXPECT_TRUE(back.out.startsWith(QStringLiteral("New: 0 jobs. Gone on: 0 jobs. Held nothing new: 14 jobs.")))
        << back.out.toStdString() << "every job of a copy is the one that is here";

    const Said exported = cli(QStringList{QStringLiteral("export"), QStringLiteral("--job"), QStringLiteral("S26-004"),
                                          QStringLiteral("--out"), folder_.filePath(QStringLiteral("jobs"))} +
                              of_book);
    EXPECT_EQ(exported.status, 0) << exported.err.toStdString();
    const Said checked = cli({QStringLiteral("check"), QStringLiteral("--job"), exported.out.trimmed()});
    EXPECT_EQ(checked.status, 0) << checked.err.toStdString();

    const QString papers = folder_.filePath(QStringLiteral("{job}.pdf"));
    const Said printed = cli(QStringList{QStringLiteral("report"), QStringLiteral("--all"), QStringLiteral("--kind"),
                                         QStringLiteral("customer"), QStringLiteral("--out"), papers} +
                             of_book);
    EXPECT_EQ(printed.status, 0) << printed.err.toStdString();
    EXPECT_EQ(printed.out.count(QLatin1Char('\n')), 14);
    EXPECT_TRUE(QFileInfo::exists(folder_.filePath(QStringLiteral("S26-004.pdf"))));
    const Said estimate =
        cli(QStringList{QStringLiteral("report"), QStringLiteral("--job"), QStringLiteral("Puffling, port engine"),
                        QStringLiteral("--kind"), QStringLiteral("estimate"), QStringLiteral("--out"),
                        folder_.filePath(QStringLiteral("e.html"))} +
            of_book);
    EXPECT_EQ(estimate.status, 0) << estimate.err.toStdString();
    EXPECT_TRUE(bytes_of(folder_.filePath(QStringLiteral("e.html"))).contains("of 10 such jobs here"));
    const Said nobody =
        cli(QStringList{QStringLiteral("report"), QStringLiteral("--job"), QStringLiteral("nobody"),
                        QStringLiteral("--kind"), QStringLiteral("passport"), QStringLiteral("--out"), papers} +
            of_book);
    EXPECT_EQ(nobody.status, 1);
    EXPECT_TRUE(nobody.err.contains(QStringLiteral("no job of the book is called so")));
}
