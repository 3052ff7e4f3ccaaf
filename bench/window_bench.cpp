// SPDX-License-Identifier: GPL-3.0-or-later
// First paint against a bare QMainWindow in the same run, and the cost of one step of a dragged cut level.
#include "session/demo_shop.h"
#include "session/preferences.h"
#include "session/session.h"
#include "storage/shop_book.h"
#include "ui/bench_window.h"
#include "ui/decks/decks_view.h"
#include "ui/theme.h"

#include <QApplication>
#include <QLabel>
#include <QTemporaryDir>
#include <benchmark/benchmark.h>

using namespace pallix;

namespace {

void paint_once(QWidget& window) {
    window.resize(1280, 800);
    window.show();
    QApplication::processEvents();
    benchmark::DoNotOptimize(window.grab());
}

struct Bench {
    QTemporaryDir folder;
    std::unique_ptr<storage::ShopBook> book = std::move(*storage::ShopBook::open(folder.filePath(QStringLiteral("demo.shopbook"))));
    session::Preferences preferences{folder.filePath(QStringLiteral("p.ini"))};
    session::Session session{*book, [] { return std::string("bench"); }};
    ui::Context context{session, preferences};
    Bench() { static_cast<void>(session::fill_with_demo(*book)); }
};

void BareMainWindow(benchmark::State& state) {
    for (auto _ : state) {
        QMainWindow window;
        window.setCentralWidget(new QLabel(QStringLiteral("bare"), &window));
        paint_once(window);
    }
}
BENCHMARK(BareMainWindow)->Unit(benchmark::kMillisecond);

void BenchWindowOnTheDemoShop(benchmark::State& state) {
    Bench bench;
    for (auto _ : state) {
        ui::BenchWindow window(bench.context);
        paint_once(window);
    }
}
BENCHMARK(BenchWindowOnTheDemoShop)->Unit(benchmark::kMillisecond);

/// Everything that happens once at a start: fonts, theme, the book opened and the shop read, the first picture.
void WholeStart(benchmark::State& state) {
    Bench filled;
    const QString file = filled.book->file();
    for (auto _ : state) {
        filled.book.reset();
        auto book = std::move(*storage::ShopBook::open(file));
        session::Session session(*book, [] { return std::string("bench"); });
        ui::load_fonts();
        ui::apply_theme(*qApp, session::Theme::light);
        ui::BenchWindow window({session, filled.preferences});
        paint_once(window);
    }
}
BENCHMARK(WholeStart)->Unit(benchmark::kMillisecond);

void DragTheCutLevel(benchmark::State& state) {
    Bench bench;
    ui::BenchWindow window(bench.context);
    const auto jobs = bench.book->jobs();
    window.open_job((*jobs)[2].id);
    paint_once(window);
    double depth = 0;
    for (auto _ : state) {
        depth = depth > 0.13 ? 0.001 : depth + 0.001;
        window.decks().set_depth(depth);
        window.decks().repaint();
        QApplication::processEvents();
    }
}
BENCHMARK(DragTheCutLevel)->Unit(benchmark::kMillisecond);

void OpenAShopBook(benchmark::State& state) {
    Bench bench;
    for (auto _ : state) {
        session::Session session(*bench.book, [] { return std::string("bench"); });
        const auto jobs = bench.book->jobs();
        benchmark::DoNotOptimize(session.open_job(jobs->front().id));
    }
}
BENCHMARK(OpenAShopBook)->Unit(benchmark::kMillisecond);

} // namespace

int main(int argc, char** argv) {
    if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication app(argc, argv);
    ui::load_fonts();
    ui::apply_theme(app, session::Theme::light);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    return 0;
}
