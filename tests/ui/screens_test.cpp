// SPDX-License-Identifier: GPL-3.0-or-later
// What all screens of the bench have in common, counted on each of them as somebody finds it who does not look at the
// window, or as it is painted.
#include "sanitized.h"
#include "ui/bench_fixture.h"
#include "ui/block/block_drawing.h"
#include "ui/cylinders/cylinders_view.h"
#include "ui/engines/board_page.h"
#include "ui/engines/engines_view.h"
#include "ui/frame/drawn_page.h"
#include "ui/frame/page_buttons.h"
#include "ui/lifters/lifters_view.h"
#include "ui/tunnel/tunnel_view.h"

#include <QAccessible>
#include <QAction>
#include <QFontInfo>
#include <QPaintDevice>
#include <QPaintEngine>
#include <QStackedWidget>
#include <QTextBrowser>
#include <gtest/gtest.h>
#include <map>

using namespace pallix;
using namespace pallix::test;

namespace {

/// Fields in which something can be typed, as the accessibility tree has them.
void count_fields(QAccessibleInterface* from, QStringList& found) {
    if (!from || from->state().invisible)
        return;
    const auto role = from->role();
    if ((role == QAccessible::EditableText || role == QAccessible::SpinBox) && !from->state().readOnly) {
        found << from->text(QAccessible::Name) + QStringLiteral(" (") +
                     (from->object() ? from->object()->objectName() : QString()) + QLatin1Char(')');
        return;
    }
    for (int i = 0; i < from->childCount(); ++i)
        count_fields(from->child(i), found);
}

/// Paints nowhere and remembers in which sizes text would have been painted.
class TextSizes : public QPaintDevice {
  public:
    std::map<int, QStringList> of_size;              ///< px, as they come out on the screen
    std::vector<std::pair<QRectF, QString>> written; ///< where each stands, without what lies under and over letters
    QPaintEngine* paintEngine() const override { return &engine_; }

  protected:
    int metric(PaintDeviceMetric m) const override {
        switch (m) {
        case PdmWidth:
        case PdmHeight:
            return 4000;
        case PdmDpiX:
        case PdmDpiY:
        case PdmPhysicalDpiX:
        case PdmPhysicalDpiY:
            return 96;
        case PdmDepth:
            return 32;
        case PdmDevicePixelRatioScaled:
            return static_cast<int>(devicePixelRatioFScale());
        default:
            return 1;
        }
    }

  private:
    struct Engine : QPaintEngine {
        explicit Engine(TextSizes* sizes) : QPaintEngine(AllFeatures), into(sizes) {}
        bool begin(QPaintDevice*) override { return true; }
        bool end() override { return true; }
        void updateState(const QPaintEngineState&) override {}
        void drawPixmap(const QRectF&, const QPixmap&, const QRectF&) override {}
        void drawPath(const QPainterPath&) override {}
        void drawPolygon(const QPointF*, int, PolygonDrawMode) override {}
        void drawPolygon(const QPoint*, int, PolygonDrawMode) override {}
        void drawTextItem(const QPointF& at, const QTextItem& item) override {
            const double grown = std::sqrt(std::abs(painter()->worldTransform().determinant()));
            into->of_size[static_cast<int>(std::lround(QFontInfo(item.font()).pixelSize() * grown))] << item.text();
            const QRectF letters(at.x(), at.y() - 0.6 * item.ascent(), item.width(), 0.6 * item.ascent());
            if (!item.text().trimmed().isEmpty())
                into->written.emplace_back(painter()->worldTransform().mapRect(letters), item.text());
        }
        Type type() const override { return User; }
        TextSizes* into;
    };
    mutable Engine engine_{this};
};

} // namespace

class Screens : public BenchFixture {
  protected:
    /// The smallest, the usual one, a large one; the first alone where a sanitizer watches, to which they are the same.
    static std::vector<QSize> windows() {
        const std::vector<QSize> all{{1024, 700}, {1280, 800}, {2560, 1440}};
        return {all.begin(), test::sanitized ? all.begin() + 1 : all.end()};
    }
    /// Every page of every view, of a V block at work and of one that is further on.
    void walk(const std::function<void(const QString&)>& look) {
        if (!window_)
            open_demo();
        window_->go_to(ui::Place::shop);
        look(QStringLiteral("shop"));
        for (const char* title : {"Puffling, starboard", "Gannet"}) {
            for (const auto& [place, name] :
                 {std::pair(ui::Place::block, "block"), std::pair(ui::Place::tunnel, "tunnel"),
                  std::pair(ui::Place::decks, "decks"), std::pair(ui::Place::cylinders, "cylinders"),
                  std::pair(ui::Place::lifters, "lifters"), std::pair(ui::Place::passport, "passport")}) {
                open_demo_at(title, place);
                walk_pages(QString::fromLatin1(name), look);
            }
        }
    }
    void open_demo_at_decks() {
        open_demo();
        open_demo_at("Puffling, starboard", ui::Place::decks);
    }
    /// No button is too narrow for its words, no text is cut or stands over another.
    void expect_legible(const std::string& where) {
        for (auto* button : window_->findChildren<QAbstractButton*>())
            EXPECT_TRUE(!button->isVisible() || button->text().isEmpty() ||
                        button->width() >= button->minimumSizeHint().width())
                << where << button->text().toStdString();
        for (auto* widget : window_->findChildren<ui::Spoken*>()) {
            if (!widget->isVisible())
                continue;
            TextSizes texts;
            widget->render(&texts, {}, {}, QWidget::RenderFlags());
            for (std::size_t i = 0; i < texts.written.size(); ++i) {
                const auto& [box, words] = texts.written[i];
                EXPECT_TRUE(QRectF(widget->rect()).contains(box))
                    << where << widget->objectName().toStdString() << ": \"" << words.toStdString() << "\" is cut";
                for (std::size_t j = 0; j < i; ++j)
                    EXPECT_FALSE(texts.written[j].first.intersects(box))
                        << where << widget->objectName().toStdString() << ": \"" << words.toStdString() << "\" over \""
                        << texts.written[j].second.toStdString() << "\"";
            }
        }
    }
    void walk_pages(const QString& name, const std::function<void(const QString&)>& look) {
        ui::PageButtons* pages = nullptr;
        for (auto* p : window_->findChildren<ui::PageButtons*>())
            if (p->isVisible())
                pages = p;
        if (!pages)
            return look(name);
        for (auto* button : pages->findChildren<QPushButton*>()) {
            button->click();
            QApplication::processEvents();
            look(name + QStringLiteral(": ") + button->text());
        }
    }
};

TEST_F(Screens, NoneHasMoreThanFourFieldsAndAllTogetherThirty) {
    std::map<QString, qsizetype> most; // of a screen, whichever job is open
    walk([&](const QString& name) {
        QStringList fields;
        count_fields(QAccessible::queryAccessibleInterface(window_.get()), fields);
        EXPECT_LE(fields.size(), 4) << name.toStdString() << ": " << fields.join(QStringLiteral(", ")).toStdString();
        // The block's pages have no field of their own: all of them show the same call.
        auto& n = most[name.startsWith(QStringLiteral("block")) ? QStringLiteral("block") : name];
        n = std::max(n, fields.size());
    });
    qsizetype sum = 0;
    std::string each;
    for (const auto& [name, n] : most) {
        sum += n;
        each += name.toStdString() + " " + std::to_string(n) + "; ";
    }
    EXPECT_LE(sum, 30) << each;
    EXPECT_GE(most.size(), 18U) << each; // all were walked
    EXPECT_GE(sum, 10) << each;          // and fields are found where there are some
}

TEST_F(Screens, NoTextInTheMiddleIsSmallerThanFourteenPixels) {
    walk([&](const QString& name) {
        QWidget* middle = window_->centralWidget()->findChild<QStackedWidget*>()->currentWidget();
        TextSizes sizes;
        middle->render(&sizes);
        EXPECT_FALSE(sizes.of_size.empty()) << name.toStdString();
        for (const auto& [px, texts] : sizes.of_size)
            EXPECT_GE(px, 14) << name.toStdString() << ": " << texts.join(QStringLiteral(" | ")).toStdString();
    });
}

TEST_F(Screens, EveryPageIsADrawingOfSixTenthsOfItsHeight) {
    int pages = 0;
    open_demo();
    for (const QSize size : windows()) {
        window_->resize(size);
        walk([&](const QString& name) {
            for (auto* page : window_->findChildren<ui::DrawnPage*>())
                if (page->isVisible()) {
                    ++pages;
                    EXPECT_GE(page->drawing().height(), (size.width() < 1280 ? 5 : 6) * page->height() / 10)
                        << name.toStdString() << " at " << size.width() << " px";
                }
        });
    }
    EXPECT_GE(pages, static_cast<int>(windows().size()) * 2 * 14);
}

TEST_F(Screens, NothingIsCutOffNorWrittenOverAnotherFromTheSmallestWindowToALargeOne) {
    open_demo();
    for (const QSize size : windows()) {
        window_->resize(size);
        QApplication::processEvents();
        walk([&](const QString& screen) {
            const std::string where = screen.toStdString() + " at " + std::to_string(size.width()) + " px, ";
            expect_legible(where);
        });
    }
}

TEST_F(Screens, TheShelfAndTheDrawingBoardAreLegibleAtEverySizeAndInEveryState) {
    open_demo();
    window_->go_to(ui::Place::engines);
    auto& view = window_->engines();
    for (const QSize size : windows()) {
        window_->resize(size);
        for (const char* engine : {"", "ferry V8, 90 degrees", "tender inline four", "workboat V6, 60 degrees"}) {
            view.open(QString::fromLatin1(engine));
            for (const auto page :
                 {ui::EnginesView::Page::shelf, ui::EnginesView::Page::block, ui::EnginesView::Page::parts}) {
                view.show_page(page);
                QApplication::processEvents();
                const std::string where = engine + std::string(" page ") + std::to_string(static_cast<int>(page)) +
                                          " at " + std::to_string(size.width()) + " px, ";
                expect_legible(where);
                QStringList fields;
                count_fields(QAccessible::queryAccessibleInterface(window_.get()), fields);
                EXPECT_LE(fields.size(), 4) << where;
                TextSizes sizes;
                view.render(&sizes);
                for (const auto& [px, texts] : sizes.of_size)
                    EXPECT_GE(px, 14) << where << texts.join(QStringLiteral(" | ")).toStdString();
                if (page != ui::EnginesView::Page::shelf) {
                    EXPECT_GE(view.board().drawing().height(), 6 * view.height() / 10) << where;
                }
            }
        }
    }
}

TEST_F(Screens, OnePageListsAllKeysAndNoTwoActionsShareOne) {
    open_demo_at_decks();
    std::map<QString, QString> action_of;
    QString page;
    in_dialog([&](QDialog& d) {
        page = in<QTextBrowser>(d, "help-text")->toPlainText();
        d.accept();
    });
    key(Qt::Key_F1, Qt::ShiftModifier);
    for (const QAction* action : window_->findChildren<QAction*>()) {
        const QString keys = action->shortcut().toString(QKeySequence::NativeText);
        if (keys.isEmpty())
            continue;
        EXPECT_TRUE(action_of.emplace(keys, action->text()).second)
            << keys.toStdString() << ": " << action->text().toStdString() << " and " << action_of[keys].toStdString();
        EXPECT_TRUE(page.contains(keys)) << keys.toStdString();
    }
    EXPECT_GE(action_of.size(), 40U);
    EXPECT_TRUE(page.contains(QStringLiteral("the table in the drawing's place")));
}

TEST_F(Screens, GlovesFindEveryButtonAndAKeypadThatTypes) {
    open_demo_at_decks();
    EXPECT_EQ(window_->findChild<QWidget*>(QStringLiteral("keypad")), nullptr);
    preferences_.set_touch(true);
    QApplication::processEvents();
    for (const auto* button : window_->findChildren<QAbstractButton*>())
        if (button->isVisible() && button->property("pallix-type").toInt() != static_cast<int>(ui::Type::number)) {
            EXPECT_GE(button->height(), 64) << button->text().toStdString();
            EXPECT_GE(button->width(), 64) << button->text().toStdString();
        }
    for (const auto* field : window_->findChildren<QLineEdit*>())
        EXPECT_TRUE(!field->isVisible() || field->height() >= 56) << field->objectName().toStdString();
    EXPECT_EQ(window_->size(), QSize(1280, 800)); // and all of it fits
    const auto press = [this](const char* name) { find<QPushButton>(name)->click(); };
    if (QWidget* focused = QApplication::focusWidget())
        focused->clearFocus(); // wherever the call has put the caret by now
    for (const char* name : {"key-1", "key-point", "key-5", "key-thou", "key-sign", "key-erase"})
        press(name);
    EXPECT_EQ(find<QLineEdit>("reading")->text(), QStringLiteral("−1.5 tho")) << "no field had the caret: a reading";
    for (int i = 0; i < 4; ++i)
        press("key-erase");
    press("key-tenths");
    press("key-sign");
    EXPECT_EQ(find<QLineEdit>("reading")->text(), QStringLiteral("1.5 tenths"));
    const auto before = session_.entries().size();
    key(Qt::Key_H, Qt::ControlModifier); // zeroed at its target
    press("key-enter");
    ASSERT_EQ(session_.entries().size(), before + 1);
    const auto& reading = std::get<block::Reading>(session_.entries().back().payload);
    EXPECT_EQ(reading.typed, "1.5 tenths");
    find<QLineEdit>("ask-depth")->setFocus(); // and into whatever field has the caret
    find<QLineEdit>("ask-depth")->selectAll();
    press("key-2");
    EXPECT_EQ(find<QLineEdit>("ask-depth")->text(), QStringLiteral("2"));
    preferences_.set_touch(false);
    EXPECT_TRUE(window_->findChild<QWidget*>(QStringLiteral("keypad"))->isHidden());
}

TEST_F(Screens, AllOfItFollowsTheSizeAndNothingIsCutOffInASmallWindow) {
    open_demo_at_decks();
    const auto headline = [this] { return find<QLabel>("call-headline")->font().pixelSize(); };
    EXPECT_EQ(headline(), 24);
    preferences_.set_size(0.8);
    EXPECT_EQ(headline(), 19);
    preferences_.set_size(2);
    EXPECT_EQ(headline(), 26) << "no larger than what fits: 800 px are 1.1 times 700";
    window_->resize(1400, 1400);
    QApplication::processEvents();
    EXPECT_NEAR(headline(), 24 * 1.35, 1);
    EXPECT_EQ(find<QLineEdit>("reading")->height(), static_cast<int>(std::lround(58 * 1.35)));
    preferences_.set_size(1);
    window_->resize(1024, 700);
    QApplication::processEvents();
    EXPECT_EQ(window_->size(), QSize(1024, 700)) << "from there on it fits";
    EXPECT_EQ(headline(), 24);
}

// A click beside everything once led to whatever was marked before.
TEST_F(Screens, OnTheBlockAClickLeadsOnOnlyWhereSomethingIs) {
    open_demo_at_decks();
    window_->go_to(ui::Place::block);
    auto* block = find<ui::BlockDrawing>("block");
    block->setFocus();
    key(Qt::Key_Right); // something is marked
    QTest::mouseClick(block, Qt::LeftButton, {}, QPoint(2, block->height() / 2));
    EXPECT_EQ(window_->place(), ui::Place::block);
    for (const ui::SpokenPart& part : block->spoken())
        if (part.name.startsWith(QStringLiteral("cylinder 3"))) {
            QTest::mouseClick(block, Qt::LeftButton, {}, part.where.center());
            break;
        }
    EXPECT_EQ(window_->place(), ui::Place::cylinders);
    EXPECT_EQ(window_->cylinders().marked(), (block::FeatureId{block::FeatureKind::bore, "R", 2}));
}
