// SPDX-License-Identifier: GPL-3.0-or-later
// First paint against a bare QMainWindow in the same run, and the cost of one step of a dragged cut level.
#include "block/ledger.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "reporting/report.h"
#include "session/background.h"
#include "session/demo_shop.h"
#include "session/preferences.h"
#include "session/session.h"
#include "session/shop_experience.h"
#include "session/shop_model.h"
#include "storage/shop_book.h"
#include "ui/bench_window.h"
#include "ui/decks/decks_view.h"
#include "ui/decks/set_up_page.h"
#include "ui/theme.h"
#include "ui/tunnel/tunnel_view.h"
#include "workshop/harbour.h"
#include "workshop/practice_block.h"
#include "workshop/stand_ins.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QKeyEvent>
#include <QLabel>
#include <QMouseEvent>
#include <QProcess>
#include <QTemporaryDir>
#include <QTimer>
#include <array>
#include <benchmark/benchmark.h>
#include <chrono>
#include <cstdio>
#include <fcntl.h>
#include <fstream>
#include <functional>
#include <termios.h>
#include <thread>
#include <unistd.h>

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
    std::unique_ptr<storage::ShopBook> book =
        std::move(*storage::ShopBook::open(folder.filePath(QStringLiteral("demo.shopbook"))));
    session::Preferences preferences{folder.filePath(QStringLiteral("p.ini"))};
    session::Session session{*book, [] { return std::string("bench"); }};
    session::InstrumentRegister instruments{*book, preferences};
    session::GaugeLink gauge{session};
    session::PracticeWork practice{session};
    ui::Context context{session, preferences, instruments, gauge, practice};
    Bench() { static_cast<void>(session::fill_with_demo(*book)); }
};

const auto paint_bare = QStringLiteral("--paint-bare"), paint_bench = QStringLiteral("--paint-bench");

/// A process of its own, from its first line to the first picture, ms.
void first_paint_in_a_process(benchmark::State& state, const QStringList& arguments) {
    for (auto _ : state) {
        QProcess child;
        child.start(QCoreApplication::applicationFilePath(), arguments);
        child.waitForFinished();
        bool sound = false;
        const double ms = child.readAllStandardOutput().trimmed().toDouble(&sound);
        if (!sound)
            state.SkipWithError("the child process printed no time");
        state.SetIterationTime(ms / 1000);
    }
}

void FirstPaintOfABareMainWindow(benchmark::State& state) {
    first_paint_in_a_process(state, {paint_bare});
}
BENCHMARK(FirstPaintOfABareMainWindow)->Unit(benchmark::kMillisecond)->UseManualTime()->MinTime(1);

/// Fonts, theme, the demo's book opened and the shop list read, the first picture.
void FirstPaintOfTheBench(benchmark::State& state) {
    Bench filled;
    const QString file = filled.book->file();
    filled.book.reset();
    first_paint_in_a_process(state, {paint_bench, file});
}
BENCHMARK(FirstPaintOfTheBench)->Unit(benchmark::kMillisecond)->UseManualTime()->MinTime(1);

int paint_in_this_process(int argc, char** argv) {
    QElapsedTimer clock;
    clock.start();
    QApplication app(argc, argv);
    const QStringList arguments = QApplication::arguments();
    if (arguments.at(1) == paint_bare) {
        QMainWindow window;
        window.setCentralWidget(new QLabel(QStringLiteral("bare"), &window));
        paint_once(window);
    } else {
        auto book = std::move(*storage::ShopBook::open(arguments.at(2)));
        const QTemporaryDir folder;
        session::Preferences preferences(folder.filePath(QStringLiteral("p.ini")));
        session::Session session(*book, [] { return std::string("bench"); });
        ui::load_fonts();
        ui::apply_theme(app, session::Theme::light);
        session::InstrumentRegister instruments(*book, preferences);
        session::GaugeLink gauge(session);
        session::PracticeWork practice(session);
        ui::BenchWindow window({session, preferences, instruments, gauge, practice});
        paint_once(window);
    }
    std::printf("%.3f\n", static_cast<double>(clock.nsecsElapsed()) / 1e6);
    return 0;
}

void DragTheCutLevel(benchmark::State& state) {
    Bench bench;
    ui::BenchWindow window(bench.context);
    const auto jobs = bench.book->jobs();
    window.open_job((*jobs)[2].id);
    window.go_to(ui::Place::decks);
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

/// The tender's deck scanned with a million touches.
const std::string& million_touch_log() {
    static const std::string log = [] {
        workshop::PracticeBlock block{workshop::tender_inline_four(), {}, 0, 0, 0, {}};
        block.decks["C"] = {.offset = 0.08, .rear_over_front = 0.03, .dip = {}, .cut_to = {}};
        workshop::ProbeJob job;
        job.points_along = 1850;
        job.points_across = 1250; // bores take a part of them away
        job.stated_uncertainty = 0.001;
        return workshop::probe(block, job);
    }();
    return log;
}

void open_tender(Bench& bench) {
    static_cast<void>(bench.session.new_job(QStringLiteral("scan"), {},
                                            {"b.json", block::write_blueprint(workshop::tender_inline_four())}));
}

/// Away from the window, with progress: read, evaluate, fold.
void ReadAMillionTouchesInTheBackground(benchmark::State& state) {
    Bench bench;
    open_tender(bench);
    std::size_t touches = 0;
    for (auto _ : state) {
        auto logs = bench.session.logs_to_read(std::vector<block::NamedText>{{"scan.csv", million_touch_log()}}, {});
        if (!session::Session::read_logs(logs))
            state.SkipWithError("the log has a fault");
        touches = decks_of(block::fold(logs.entries, &logs.read)).deck("C").latest->result.touches;
    }
    state.counters["touches"] = static_cast<double>(touches);
}
BENCHMARK(ReadAMillionTouchesInTheBackground)->Unit(benchmark::kMillisecond)->Iterations(2);

/// Taken in while the window is open, read and written beside it: the longest the window is deaf meanwhile.
void TakeAMillionTouchesBesideTheWindow(benchmark::State& state) {
    QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("scan.csv"));
    std::ofstream(file.toStdString(), std::ios::binary) << million_touch_log();
    double longest = 0;
    for (auto _ : state) {
        Bench bench;
        open_tender(bench);
        ui::BenchWindow window(bench.context);
        window.go_to(ui::Place::decks);
        paint_once(window);
        QElapsedTimer since;
        QTimer beat;
        QObject::connect(&beat, &QTimer::timeout, [&] {
            longest = std::max(longest, static_cast<double>(since.nsecsElapsed()) * 1e-6);
            since.start();
        });
        bool done = false;
        QObject::connect(&bench.session, &session::Session::logs_taken, [&done] { done = true; });
        session::Background<session::Session::LogsToRead> reading;
        since.start();
        beat.start(0);
        reading.start(
            [logs = bench.session.logs_to_read(QStringList{file}, {})](const session::Errand&) mutable {
                static_cast<void>(session::Session::read_logs(logs));
                return std::move(logs);
            },
            {[&](session::Session::LogsToRead logs) {
                 static_cast<void>(bench.session.begin_to_take(std::move(logs), true));
             },
             [&](const QString& why) { state.SkipWithError(qPrintable(why)); }});
        while (!done)
            QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        QApplication::processEvents();
    }
    state.counters["longest_ms"] = longest;
}
BENCHMARK(TakeAMillionTouchesBesideTheWindow)->Unit(benchmark::kMillisecond)->Iterations(2);

/// A gauge that sends ten thousand lines a second, for a second, on a pseudo-terminal: the longest the window is deaf.
void HearTenThousandLinesASecond(benchmark::State& state) {
    constexpr int lines_a_turn = 100, turns = 100; // every 10 ms
    double longest = 0;
    for (auto _ : state) {
        Bench bench;
        open_tender(bench);
        ui::BenchWindow window(bench.context);
        window.go_to(ui::Place::tunnel);
        paint_once(window);
        const int terminal = posix_openpt(O_RDWR | O_NOCTTY);
        if (terminal < 0 || grantpt(terminal) != 0 || unlockpt(terminal) != 0)
            return state.SkipWithError("no pseudo-terminal");
        termios raw{};
        tcgetattr(terminal, &raw);
        cfmakeraw(&raw);
        tcsetattr(terminal, TCSANOW, &raw);
        const auto& plain = workshop::taught_stand_ins().front();
        const QString address = QStringLiteral("serial:") + QString::fromLocal8Bit(ptsname(terminal));
        if (!bench.gauge.open(address, plain.profile))
            return state.SkipWithError("the gauge cannot be heard");
        QElapsedTimer since;
        QTimer beat;
        QObject::connect(&beat, &QTimer::timeout, [&] {
            longest = std::max(longest, static_cast<double>(since.nsecsElapsed()) * 1e-6);
            since.start();
        });
        since.start();
        beat.start(0);
        std::jthread gauge([&] {
            for (int turn = 0; turn < turns; ++turn) {
                std::string text;
                for (int i = 0; i < lines_a_turn; ++i)
                    text += plain.sends(60.0 + i * 1e-4, i);
                if (::write(terminal, text.data(), text.size()) < 0)
                    return;
                std::this_thread::sleep_for(std::chrono::milliseconds(10));
            }
        });
        while (bench.gauge.readings() < lines_a_turn * turns)
            QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        gauge.join();
        bench.gauge.close();
        ::close(terminal);
    }
    state.counters["longest_ms"] = longest;
}
BENCHMARK(HearTenThousandLinesASecond)->Unit(benchmark::kMillisecond)->Iterations(3);

/// One step of the dragged cut level over that scan, painted.
void DragTheCutLevelOverAMillionTouches(benchmark::State& state) {
    Bench bench;
    open_tender(bench);
    static_cast<void>(bench.session.take_probe_logs({{"scan.csv", million_touch_log()}}, {}));
    ui::BenchWindow window(bench.context);
    window.go_to(ui::Place::decks);
    paint_once(window);
    double depth = 0;
    for (auto _ : state) {
        depth = depth > 0.06 ? 0.001 : depth + 0.001;
        window.decks().set_depth(depth);
        window.decks().repaint();
        QApplication::processEvents();
    }
}
BENCHMARK(DragTheCutLevelOverAMillionTouches)->Unit(benchmark::kMillisecond);

/// An entry written while that scan is open: what the window waits for.
void LogANoteBesideAMillionTouches(benchmark::State& state) {
    Bench bench;
    open_tender(bench);
    static_cast<void>(bench.session.take_probe_logs({{"scan.csv", million_touch_log()}}, {}));
    for (auto _ : state)
        static_cast<void>(bench.session.take(block::Note{"n"}));
}
BENCHMARK(LogANoteBesideAMillionTouches)->Unit(benchmark::kMillisecond);

/// A job of the demo, a view of it, and there one key after the other with everything that follows it painted.
template <std::size_t N>
void press_keys(benchmark::State& state, const char* job, ui::Place place, const char* widget,
                const std::array<int, N>& keys, const std::function<void(ui::BenchWindow&)>& prepare = {}) {
    Bench bench;
    ui::BenchWindow window(bench.context);
    const auto jobs = bench.book->jobs();
    for (const auto& row : *jobs)
        if (row.title.startsWith(QLatin1String(job)))
            window.open_job(row.id);
    window.go_to(place);
    if (prepare)
        prepare(window);
    paint_once(window);
    auto* drawing = window.findChild<QWidget*>(QLatin1String(widget));
    if (!drawing || !drawing->isVisible())
        return state.SkipWithError("the drawing is not on screen");
    drawing->setFocus();
    std::size_t i = 0;
    for (auto _ : state) {
        QKeyEvent key(QEvent::KeyPress, keys[i++ % N], Qt::NoModifier);
        QApplication::sendEvent(drawing, &key);
        drawing->repaint();
        QApplication::processEvents();
    }
}

/// The next bore of the block, its page and call with it.
void MarkAnotherBore(benchmark::State& state) {
    press_keys(state, "Gannet", ui::Place::cylinders, "positions", std::array{int(Qt::Key_Right), int(Qt::Key_Left)});
}
BENCHMARK(MarkAnotherBore)->Unit(benchmark::kMillisecond);

/// A cap of the tunnel plan cut a step deeper, what gets short worked out.
void DragACapOfThePlan(benchmark::State& state) {
    press_keys(state, "Tystie", ui::Place::tunnel, "tunnel-plan", std::array{int(Qt::Key_Up), int(Qt::Key_Down)},
               [](ui::BenchWindow& window) { window.tunnel().show_page(ui::TunnelView::Page::plan); });
}
BENCHMARK(DragACapOfThePlan)->Unit(benchmark::kMillisecond);

/// A foot under the block, dragged by hand from one place to another and back.
void DragAFoot(benchmark::State& state) {
    Bench bench;
    ui::BenchWindow window(bench.context);
    window.open_job((*bench.book->jobs())[2].id);
    window.go_to(ui::Place::decks);
    window.decks().show_page(ui::DecksView::Page::set_up);
    paint_once(window);
    auto* drawing = window.findChild<ui::SetUpDrawing*>();
    const QRect foot = drawing->spoken().back().where;
    const auto send = [drawing](QEvent::Type type, QPointF at) {
        QMouseEvent event(type, at, drawing->mapToGlobal(at), Qt::LeftButton, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(drawing, &event);
    };
    send(QEvent::MouseButtonPress, QRectF(foot).center());
    int i = 0;
    for (auto _ : state) {
        send(QEvent::MouseMove, QRectF(foot).center() + QPointF(++i % 40, 0));
        drawing->repaint();
        QApplication::processEvents();
    }
}
BENCHMARK(DragAFoot)->Unit(benchmark::kMillisecond);

/// From the ledger to the PDF, as `pallix-cli report` does it: the ferry's, the harbour's longest.
void PrintAPassport(benchmark::State& state) {
    std::vector<workshop::DemoJob> jobs = workshop::harbour_jobs();
    workshop::add_cards(jobs);
    const auto ferry = std::ranges::max_element(jobs, {}, [](const auto& job) { return job.entries.size(); });
    const QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("passport.pdf"));
    for (auto _ : state) {
        const block::Folded folded = block::fold(ferry->entries);
        const planning::Assessment assessment = planning::assess(folded);
        const auto written = reporting::write_paper(
            {folded, assessment, ferry->entries, wording::LengthText(block::Unit::mm), 2, QStringLiteral("2026-03-06")},
            {reporting::PaperKind::passport, QPageSize(QPageSize::A4), ""}, file);
        benchmark::DoNotOptimize(written);
    }
}
BENCHMARK(PrintAPassport)->Unit(benchmark::kMillisecond);

/// The shop list of so many jobs, as at every start but the first.
void ReadTheShopList(benchmark::State& state) {
    Bench bench;
    const auto first = bench.book->jobs();
    const auto entries = bench.book->entries(first->front().id);
    for (auto i = static_cast<std::int64_t>(first->size()); i < state.range(0); ++i)
        static_cast<void>(bench.book->create_job(*entries));
    session::ShopModel(*bench.book, bench.preferences).reload();
    for (auto _ : state) {
        session::ShopModel model(*bench.book, bench.preferences);
        model.reload();
        benchmark::DoNotOptimize(model.rowCount());
    }
}
BENCHMARK(ReadTheShopList)->Arg(4)->Arg(5000)->Unit(benchmark::kMillisecond);

/// A book that scripts/shop-of-jobs has left, named by PALLIX_SHOP_BOOK: every job of it was worked from end to end.
class PlayedShop {
  public:
    explicit PlayedShop(benchmark::State& state) {
        if (auto opened = storage::ShopBook::open(qEnvironmentVariable("PALLIX_SHOP_BOOK", "/nowhere"), true)) {
            book = std::move(*opened);
            session::ShopModel(*book, preferences).reload(); // remembered from here on
        } else {
            state.SkipWithError("PALLIX_SHOP_BOOK names no shop book");
        }
    }
    QTemporaryDir folder;
    session::Preferences preferences{folder.filePath(QStringLiteral("p.ini"))};
    std::unique_ptr<storage::ShopBook> book;
};

void ReadTheBoardOfPlayedJobs(benchmark::State& state) {
    PlayedShop shop(state);
    for (auto _ : state) {
        session::ShopModel model(*shop.book, shop.preferences);
        model.reload();
        benchmark::DoNotOptimize(model.rowCount());
    }
}
BENCHMARK(ReadTheBoardOfPlayedJobs)->Unit(benchmark::kMillisecond);

void FindAPlayedJob(benchmark::State& state) {
    PlayedShop shop(state);
    if (!shop.book)
        return;
    session::ShopModel model(*shop.book, shop.preferences);
    model.reload();
    for (auto _ : state) {
        model.search(QStringLiteral("SB-1042"));
        benchmark::DoNotOptimize(model.rowCount());
        model.search({});
    }
}
BENCHMARK(FindAPlayedJob)->Unit(benchmark::kMillisecond);

/// What a new job of an engine begins with: the board read, its kind and all forecasts counted.
void LearnFromPlayedJobs(benchmark::State& state) {
    PlayedShop shop(state);
    const std::string engine = workshop::workboat_v6().name;
    for (auto _ : state)
        benchmark::DoNotOptimize(
            session::experience_of_shop(*shop.book, shop.preferences, session::Session::system_clock(), engine));
}
BENCHMARK(LearnFromPlayedJobs)->Unit(benchmark::kMillisecond);

/// Ctrl+U with the shop list on screen, painted.
void ChangeTheUnitOverManyJobs(benchmark::State& state) {
    Bench bench;
    for (int i = 0; i < state.range(0); ++i)
        static_cast<void>(bench.book->create_job(
            {{1, "2026-03-02T09:41:00Z", "x", block::JobOpened{"job " + std::to_string(i), "", "b.json", "{}"}}}));
    ui::BenchWindow window(bench.context);
    paint_once(window);
    for (auto _ : state) {
        bench.preferences.set_unit(bench.preferences.unit() == block::Unit::mm ? block::Unit::inch : block::Unit::mm);
        window.grab();
    }
}
BENCHMARK(ChangeTheUnitOverManyJobs)->Arg(5000)->Unit(benchmark::kMillisecond);

/// One reading more in a job that has many: written, worked out, announced.
void TakeAReadingInALongJob(benchmark::State& state) {
    Bench bench;
    open_tender(bench);
    const std::string main = intake_of(bench.session.state()).blueprint->mains.front().id.text();
    const auto reading = [&](double value) {
        block::Reading r;
        r.at.feature = intake_of(bench.session.state()).blueprint->mains.front().id;
        r.at.level = "front";
        r.at.direction = "upright";
        r.value = value;
        r.words = main + ", front, upright";
        return r;
    };
    std::vector<block::Payload> many;
    for (int i = 0; i < state.range(0); ++i)
        many.emplace_back(reading(60 + 1e-4 * (i % 7)));
    if (const auto taken = bench.session.take_all(std::move(many)); !taken)
        return state.SkipWithError(taken.error().front().text().c_str());
    for (auto _ : state)
        if (const auto taken = bench.session.take(reading(60.0003)); !taken)
            return state.SkipWithError(taken.error().front().text().c_str());
}
BENCHMARK(TakeAReadingInALongJob)->Arg(100)->Arg(20000)->Unit(benchmark::kMillisecond);

} // namespace

int main(int argc, char** argv) {
    if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    if (argc > 1 && QString::fromLocal8Bit(argv[1]).startsWith(QStringLiteral("--paint-")))
        return paint_in_this_process(argc, argv);
    QApplication app(argc, argv);
    ui::load_fonts();
    ui::apply_theme(app, session::Theme::light);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    return 0;
}
