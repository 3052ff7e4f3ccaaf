// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/engines/engines_view.h"

#include "planning/common/usual_figures.h"
#include "session/counted.h"
#include "ui/dialogs/ask.h"
#include "ui/dialogs/fault_list.h"
#include "ui/engines/board_page.h"
#include "ui/engines/engine_delegate.h"
#include "ui/frame/page_buttons.h"
#include "ui/frame/plain_label.h"
#include "wording/common/blueprint_words.h"

#include <QCheckBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QListView>
#include <QMenu>
#include <QPushButton>
#include <QStackedWidget>
#include <QStandardItemModel>
#include <QVBoxLayout>
#include <memory>

namespace pallix::ui {

EnginesView::EnginesView(Context context, QWidget* parent)
    : View(parent), context_(context), heading_(new PlainLabel(this)),
      pages_(new PageButtons({tr("Shelf"), tr("Block"), tr("Parts")}, tr("The next page (Ctrl+Shift+E)"), this)),
      stack_(new QStackedWidget(this)), search_(new QLineEdit(this)),
      retired_(new QCheckBox(tr("with retired ones"), this)), list_(new QListView(this)), empty_(new PlainLabel(this)),
      uses_(new PlainLabel(this)), rows_(new QStandardItemModel(this)), board_(new BoardPage(context, this)) {
    build();
    pages_->explain(this, {QStringLiteral("view-engines"), QStringLiteral("page-engines-board"),
                           QStringLiteral("page-engines-parts")});
    connect(pages_, &PageButtons::chosen, this, [this](int page) { show_page(static_cast<Page>(page)); });
    connect(search_, &QLineEdit::textChanged, this, &EnginesView::fill);
    connect(retired_, &QCheckBox::toggled, this, &EnginesView::fill);
    connect(list_, &QListView::activated, this, [this] { open(chosen()); });
    connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, &EnginesView::show_chosen);
    connect(board_, &BoardPage::sheet_wanted, this,
            [this](int sheet) { show_page(sheet == 0 ? Page::block : Page::parts); });
    connect(board_, &BoardPage::changed, this, [this] {
        if (page_ != Page::shelf)
            heading_->setText(amends_                                   ? tr("Amend the blueprint")
                              : board_->board().engine().name().empty() ? tr("An engine without a name")
                                                                        : qt(board_->board().engine().name()));
    });
    if (const QString draft = context_.preferences.draft(); !draft.isEmpty())
        if (auto engine = block::engine_from(draft.toStdString(), "draft"))
            board_->show(std::move(*engine)); // not on the shelf yet: nothing is lost
    connect(&context_.session, &session::Session::job_opened, this, [this] {
        if (amends_ && amends_ != context_.session.job()) { // what was drawn for one job is never given to another
            amends_.reset();
            show_page(page_);
        }
    });
    show_page(Page::shelf);
}

void EnginesView::build() {
    set_type(heading_, Type::title, true);
    auto* top = new QHBoxLayout;
    top->addWidget(heading_, 1);
    const auto button = [this](std::vector<QPushButton*>& group, const QString& text, const char* name,
                               const QString& tip, auto run) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(QString::fromLatin1(name));
        b->setToolTip(plain_tip(tip));
        connect(b, &QPushButton::clicked, this, run);
        group.push_back(b);
        return b;
    };
    button(shelf_buttons_, tr("&New"), "engine-new", tr("An empty drawing board (Ctrl+Alt+N)"),
           [this] { begin_new(); });
    auto* from = new QPushButton(tr("&Take from…"), this);
    from->setObjectName(QStringLiteral("engine-from"));
    auto* ways = new QMenu(from);
    ways->addAction(tr("An engine, a recipe or a &blueprint…"), this, [this] {
        const QString file = QFileDialog::getOpenFileName(this, tr("Onto the drawing board"), {},
                                                          tr("Engines, recipes, blueprints (*.json)"));
        if (!file.isEmpty())
            take_file(file);
    });
    ways->addAction(tr("A &drawing of its deck or gasket (DXF)…"), this, [this] { take_dxf({}); });
    ways->addAction(tr("A &table of its figures or holes…"), this, [this] { take_table({}); });
    ways->addAction(tr("&Good blocks that were probed…"), this, [this] { take_blocks({}); });
    ways->addAction(tr("&Jobs of this shop, as found…"), this, [this] { take_history(); });
    ways->addAction(tr("A table that was &copied"), this, [this] { paste_table(); });
    from->setMenu(ways);
    top->addWidget(from);
    button(shelf_buttons_, tr("&Copy"), "engine-copy", tr("The same under another name"), [this] { copy(); });
    retire_ = button(shelf_buttons_, tr("&Retire"), "engine-retire", tr("Out of this list; its revisions stay"),
                     [this] { retire(); });
    button(shelf_buttons_, tr("&Job of it…"), "engine-job", tr("A job of the marked engine"),
           [this] { Q_EMIT job_wanted(chosen()); });
    keep_ = button(board_buttons_, tr("&Keep"), "board-keep", tr("On the shelf, as its next revision (Ctrl+S)"),
                   [this] { keep(); });
    button(board_buttons_, tr("&Save as a file…"), "board-save", tr("Engine, recipe or blueprint"),
           [this] { save_file(); });
    for (const auto& group : {shelf_buttons_, board_buttons_})
        for (QPushButton* b : group)
            top->addWidget(b);
    top->addWidget(pages_);

    auto* shelf = new QWidget(stack_);
    search_->setObjectName(QStringLiteral("engine-search"));
    search_->setPlaceholderText(tr("search: a name, V, inline, a bore …"));
    search_->setAccessibleName(tr("search the shelf"));
    retired_->setObjectName(QStringLiteral("engine-retired"));
    list_->setObjectName(QStringLiteral("engines"));
    list_->setAccessibleName(tr("engines of the shop"));
    list_->setModel(rows_);
    list_->setItemDelegate(new EngineDelegate(context_, list_));
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    empty_->setWordWrap(true);
    empty_->setAlignment(Qt::AlignCenter);
    set_type(empty_, Type::number);
    uses_->setWordWrap(true);
    set_type(uses_, Type::text);
    auto* line = new QHBoxLayout;
    line->addWidget(search_, 1);
    line->addWidget(retired_);
    auto* shelf_column = new QVBoxLayout(shelf);
    shelf_column->setContentsMargins(0, 0, 0, 0);
    shelf_column->addLayout(line);
    shelf_column->addWidget(list_, 1);
    shelf_column->addWidget(empty_, 1);
    shelf_column->addWidget(uses_);
    stack_->addWidget(shelf);
    stack_->addWidget(board_);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 12, 20, 10);
    column->setSpacing(8);
    column->addLayout(top);
    column->addWidget(stack_, 1);
}

void EnginesView::refresh() {
    if (page_ == Page::shelf)
        fill();
    else
        board_->refresh();
}

void EnginesView::show_page(Page page) {
    page_ = page;
    pages_->press(static_cast<int>(page));
    for (QPushButton* b : shelf_buttons_)
        b->setVisible(page == Page::shelf);
    for (QPushButton* b : board_buttons_)
        b->setVisible(page != Page::shelf);
    keep_->setText(amends_ ? tr("&Amend the job…") : tr("&Keep"));
    stack_->setCurrentIndex(page == Page::shelf ? 0 : 1);
    if (page == Page::shelf) {
        setFocusProxy(list_);
        fill();
        list_->setFocus();
        return;
    }
    setFocusProxy(board_);
    board_->show_sheet(page == Page::block ? BoardDrawing::Sheet::block : BoardDrawing::Sheet::parts);
    board_->refresh();
}

void EnginesView::report(const QString& what, const QString& way_out) {
    show_faults({{"engine", 0, what.toStdString(), way_out.toStdString()}}, context_, this);
}

namespace {

/// "V 90°, 8 cylinders of 92 mm, 5 mains, grey iron"
QString engine_words(const block::Blueprint& b, const block::Recipe& recipe, const Context& context) {
    const auto figure = [&](const char* key) {
        const auto found = recipe.figures.find(key);
        return found == recipe.figures.end() ? QString() : qt(found->second);
    };
    QString layout = figure("layout");
    if (layout == QStringLiteral("v"))
        layout = QObject::tr("V %1°").arg(figure("angle"));
    QStringList words{layout};
    if (!b.bores.empty())
        words << QObject::tr("%1 of %2")
                     .arg(session::counted(static_cast<int>(b.bores.size()), QObject::tr("cylinder"),
                                           QObject::tr("cylinders")),
                          qt(context.lengths().with_unit(b.bores.front().diameter.nominal)));
    words << session::counted(static_cast<int>(b.mains.size()), QObject::tr("main"), QObject::tr("mains"));
    QString material = figure("material").isEmpty() ? QStringLiteral("grey iron") : figure("material");
    words << material.replace(QLatin1Char('_'), QLatin1Char(' '));
    return words.join(QStringLiteral(", "));
}

} // namespace

void EnginesView::fill() {
    const QString before = chosen();
    rows_->clear();
    const auto shelf = context_.session.book().engines();
    const auto rows = shelf.rows();
    if (!rows) {
        empty_->setText(rows.error().what);
        return;
    }
    int hidden = 0;
    for (const storage::ShelfRow& row : *rows) {
        const auto engine = shelf.engine(row.name, row.revision);
        if (!engine)
            continue;
        if (row.retired && !retired_->isChecked()) {
            ++hidden;
            continue;
        }
        auto blueprint = std::make_shared<const block::Blueprint>(block::sketch(engine->recipe).blueprint);
        const QString words = engine_words(*blueprint, engine->recipe, context_);
        if (const QString wanted = search_->text().trimmed();
            !wanted.isEmpty() && !(row.name + QLatin1Char(' ') + words).contains(wanted, Qt::CaseInsensitive))
            continue;
        auto* item = new QStandardItem(row.name);
        item->setData(row.name, EngineDelegate::name_role);
        item->setData(words, EngineDelegate::words_role);
        item->setData(
            tr("revision %1%2").arg(row.revision).arg(row.retired ? tr(", retired") : QString()) +
                (row.jobs > 0 ? tr(" · %1").arg(session::counted(row.jobs, tr("job"), tr("jobs"))) : QString()),
            EngineDelegate::revision_role);
        item->setData(QVariant::fromValue(std::move(blueprint)), EngineDelegate::blueprint_role);
        item->setData(tr("%1, %2").arg(row.name, words), Qt::AccessibleTextRole);
        item->setData(row.retired, Qt::UserRole + 10);
        rows_->appendRow(item);
        if (row.name == before)
            list_->setCurrentIndex(item->index());
    }
    const bool any = rows_->rowCount() > 0;
    list_->setVisible(any);
    empty_->setVisible(!any);
    retired_->setVisible(hidden > 0 || retired_->isChecked());
    empty_->setText(
        search_->text().isEmpty()
            ? tr("No engine on the shelf yet.\n\nDraw one from its maker's sheet: Ctrl+Alt+N. Or drop an engine, "
                 "a recipe or a blueprint on this page.")
            : tr("No engine of the shelf is like that."));
    if (any && !list_->currentIndex().isValid())
        list_->setCurrentIndex(rows_->index(0, 0));
    if (page_ == Page::shelf)
        heading_->setText(any ? session::counted(rows_->rowCount(), tr("engine"), tr("engines")) : tr("Engines"));
    show_chosen();
}

QString EnginesView::chosen() const {
    return list_->currentIndex().data(EngineDelegate::name_role).toString();
}

void EnginesView::show_chosen() {
    const QString name = chosen();
    for (QPushButton* b : shelf_buttons_)
        b->setEnabled(b->objectName() == QStringLiteral("engine-new") || !name.isEmpty());
    retire_->setText(list_->currentIndex().data(Qt::UserRole + 10).toBool() ? tr("Take &back") : tr("&Retire"));
    QStringList jobs;
    if (const auto uses = context_.session.book().engines().uses(name); uses && !name.isEmpty())
        for (const storage::EngineUse& use : *uses)
            jobs << tr("%1 (revision %2)").arg(use.job).arg(use.revision);
    uses_->setVisible(!jobs.isEmpty());
    uses_->setText(tr("Used by: %1.").arg(jobs.join(QStringLiteral(", "))));
}

/// What is on the board and not on the shelf is asked about before something else is put there.
bool EnginesView::may_leave() {
    const std::string now = block::write_engine(board_->board().engine());
    if (now == kept_ || board_->board().engine() == block::Engine{})
        return true;
    return ask_which(this, tr("The drawing board is not empty"), tr("What is drawn on it is not on the shelf."),
                     {tr("Put it away"), tr("Leave it there")}) == 0;
}

/// @return false where the person left what is there
bool EnginesView::put_on_board(block::Engine engine, const QString& words) {
    if (!may_leave())
        return false;
    amends_.reset();
    opened_.clear();
    kept_ = block::write_engine(engine);
    board_->show(std::move(engine));
    context_.preferences.set_draft({});
    show_page(Page::block);
    board_->say(words);
    return true;
}

void EnginesView::begin_new() {
    block::Engine engine;
    engine.recipe.unit = context_.preferences.unit();
    if (put_on_board(std::move(engine), {}))
        board_->edit("name");
}

void EnginesView::open(const QString& name) {
    if (name.isEmpty())
        return;
    auto engine = context_.session.book().engines().engine(name);
    if (!engine)
        return report(engine.error().what, engine.error().way_out);
    if (put_on_board(std::move(*engine), {}))
        opened_ = name;
}

void EnginesView::begin_amending() {
    auto engine = planning::engine_of(context_.session.entries());
    if (!engine)
        return show_faults(engine.error(), context_, this);
    engine->usual.clear(); // those are entries of the job
    if (!put_on_board(std::move(*engine),
                      tr("The job's blueprint. What would change is shown before anything is amended.")))
        return;
    amends_ = context_.session.job();
    show_page(page_);
}

void EnginesView::take_from_job() {
    auto engine = planning::engine_of(context_.session.entries());
    if (!engine)
        return show_faults(engine.error(), context_, this);
    if (put_on_board(std::move(*engine), tr("As the open job knows it. Ctrl+S keeps it on the shelf.")))
        kept_.clear();
}

void EnginesView::copy() {
    auto engine = context_.session.book().engines().engine(chosen());
    if (!engine)
        return report(engine.error().what, engine.error().way_out);
    const auto name = ask_for_text(this, tr("Copy an engine"), tr("What the copy is called:"), chosen());
    if (!name || name->trimmed().isEmpty() || name->trimmed() == chosen())
        return;
    engine->recipe.figures["name"] = name->trimmed().toStdString();
    if (put_on_board(std::move(*engine), tr("A copy. Ctrl+S keeps it on the shelf.")))
        kept_.clear();
}

void EnginesView::retire() {
    const bool back = list_->currentIndex().data(Qt::UserRole + 10).toBool();
    if (const auto done = context_.session.book().engines().retire(chosen(), !back); !done)
        return report(done.error().what, done.error().way_out);
    fill();
}

void EnginesView::keep() {
    const planning::Board& board = board_->board();
    if (!board.whole()) {
        board_->edit(board.next_missing({}));
        return board_->say(tr("Something that there must be is missing, or cannot be read."), true);
    }
    while (board.open_questions() > 0)
        if (!board_->answer_question())
            return board_->say(tr("Not kept: a question is open."), true);
    if (amends_) {
        const auto drawn = block::draw(board.engine().recipe, board.engine().name());
        if (drawn)
            Q_EMIT amended(qt(drawn->source));
        return;
    }
    if (board.engine().name().empty()) {
        board_->edit("name");
        return board_->say(tr("What does the shop call it?"), true);
    }
    auto shelf = context_.session.book().engines();
    if (const QString name = qt(board.engine().name()).trimmed(); name != opened_ && shelf.engine(name))
        if (ask_which(this, tr("There is such an engine"), tr("“%1” stands on the shelf already.").arg(name),
                      {tr("Keep this as its next revision"), tr("Give it another name")}) != 0)
            return board_->edit("name");
    const auto revision = shelf.keep(board.engine(), qt(context_.session.now()), context_.preferences.person());
    if (!revision)
        return report(revision.error().what, revision.error().way_out);
    kept_ = block::write_engine(board.engine());
    opened_ = qt(board.engine().name()).trimmed();
    context_.preferences.set_draft({});
    board_->say(tr("Kept as revision %1. Ctrl+N opens a job of it.").arg(*revision));
    fill();
}

} // namespace pallix::ui
