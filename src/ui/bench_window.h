// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/readings/reading_plan.h"
#include "session/shop_clocks.h"
#include "ui/context.h"
#include "ui/frame/call_panel.h"
#include "ui/frame/route_panel.h"

#include <QMainWindow>
#include <QSet>
#include <QStringList>

class QAction;
class QGridLayout;
class QMenu;
class QStackedWidget;

namespace pallix::session {
class ShopLine;
}

namespace pallix::ui {

class CallPanel;
class Bell;
class BlockView;
class EnginesView;
class DecksView;
class PassportView;
class PlaceCard;
class PracticeStrip;
class CylindersView;
class LiftersView;
class ReadingLine;
class ShopView;
class TopBar;
class TunnelView;
class View;
struct ReadingScope;

/// The bench: route on the left, block in the middle, call on the right, reading line at the bottom. Assembles views
/// and hands them changes; each view is built when it is first shown and keeps its own actions.
class BenchWindow : public QMainWindow {
    Q_OBJECT
  public:
    explicit BenchWindow(Context context, QWidget* parent = nullptr);
    ~BenchWindow() override;

    void go_to(Place place);
    [[nodiscard]] Place place() const { return place_; }
    [[nodiscard]] DecksView& decks();
    [[nodiscard]] CylindersView& cylinders();
    [[nodiscard]] LiftersView& lifters();
    [[nodiscard]] TunnelView& tunnel();
    [[nodiscard]] EnginesView& engines();
    [[nodiscard]] BlockView& block();
    [[nodiscard]] ShopView& shop();
    [[nodiscard]] PassportView& passport();
    void read_next(); ///< puts the caret into the reading line
    [[nodiscard]] CallPanel& call() { return *call_; }

    /// How long something may take before a bar is shown, ms.
    void set_patience(int ms) { patience_ = ms; }
    void open_job(storage::JobId job);
    /// Shows what another blueprint, or a recipe of one, would change; asks why, and takes it.
    /// @param file asked for where it is empty
    void amend_blueprint(const QString& file);
    void amend_with(const block::Blueprint& drawn, const QString& name);
    /// Files by menu, drop or command line: blueprints open a new job, logs go into the open one, jobs come in whole.
    void take_files(const QStringList& files);
    void come_forward(const QStringList& files);
    /// Shows what others do at other benches, as it is heard.
    void listen(session::ShopLine& line);
    /// What the program is to be started with again once this window and its book are closed; empty: it is not.
    [[nodiscard]] const QStringList& starts_again_with() const { return starts_again_with_; }
    /// @param engine of the shelf, proposed
    void new_job(const QString& blueprint_file = {}, const QString& engine = {});
    void import_logs(const QStringList& files = {});

  protected:
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    void closeEvent(QCloseEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    [[nodiscard]] std::optional<session::Session::JobToOpen> read_beforehand(storage::JobId job);
    void build_actions(); ///< bench_actions.cpp
    void build_job_menu();
    void build_edit_menu();
    void build_view_menu();
    void build_call_menu();
    void build_deck_actions();
    void build_bore_actions();
    void build_engine_menu();
    void take_trace(const QString& file);
    template <class Drawn>
    void follow_marks(Drawn* view);
    void follow_size();
    void arrange(); ///< for keys or for fingers
    void go_to_feature(const block::FeatureId& id);
    void build_measure_menu();
    QAction* add_action(QMenu* menu, const QString& text, const QKeySequence& keys, std::function<void()> run);
    void fill_recent_files();
    void import_job_file(const QString& file);
    void export_job();
    void back_up_book();
    void restore_book();
    void take_book_in();
    void catch_up(); ///< bench_others.cpp
    void look_at_the_shop();
    void decide_contradiction();
    void send_what_waits();
    void say_of_copy();
    void save_drawing(); ///< what is drawn on the page, as SVG
    void set_person();
    void build_practice_menu();
    void begin_exercise(const QString& theme, int level);
    void begin_own_exercise(const QString& file);
    void begin(const workshop::Exercise& exercise);
    void take_simulated();
    void hold_against_ring();
    void open_truth(bool sure);
    void show_reckoning();
    void open_book_beside(const QStringList& arguments);
    void choose_files();
    void choose_book();
    void choose_server();
    void try_schools();
    void build_people_actions(QMenu* menu);
    void build_sheet_actions(QMenu* menu);
    void show_card();
    void show_kind();
    void study_gauge();
    void take_picture();
    bool done(const session::Outcome& outcome); ///< reports what was refused
    [[nodiscard]] QString explained() const;    ///< where the manual speaks of what is on screen
    [[nodiscard]] QString all_keys() const;
    void show_ledger();
    template <class Dialog, class... Arguments>
    void run_dialog(Arguments&&... arguments);

    View* view_of(Place place);
    void refresh();
    void refresh_actions();
    void show_asked(const std::optional<planning::AskedReading>& asked);
    [[nodiscard]] ReadingScope reading_scope();
    void change_theme();
    void report(const block::Faults& faults);
    void tell_failure(const QString& why);

    Context context_;
    QString said_of_copy_;
    bool deciding_ = false, sends_later_ = false; ///< what contradicts is on screen; the line came back meanwhile
    Place place_ = Place::shop;
    QWidget* whole_;
    TopBar* top_;
    RoutePanel* route_;
    CallPanel* call_;
    ReadingLine* reading_;
    PlaceCard* place_card_;
    PracticeStrip* practice_strip_;
    session::ShopClocks clocks_;
    Bell* bell_;
    QStackedWidget* middle_;
    QGridLayout* frame_ = nullptr;
    ShopView* shop_ = nullptr;
    EnginesView* engines_ = nullptr;
    QStringList starts_again_with_;
    BlockView* block_ = nullptr;
    TunnelView* tunnel_ = nullptr;
    DecksView* decks_ = nullptr;
    CylindersView* cylinders_ = nullptr;
    LiftersView* lifters_ = nullptr;
    PassportView* passport_ = nullptr;
    QMenu* recent_ = nullptr;
    QAction* undo_ = nullptr;
    QAction* redo_ = nullptr;
    QAction* touch_ = nullptr;
    QAction* usual_size_ = nullptr;
    QAction* stop_drawing_ = nullptr;
    std::vector<QAction*> job_actions_; ///< make sense only with a job open
    QSet<QString> told_;                ///< faults of the program
    int patience_ = 150;
};

} // namespace pallix::ui
