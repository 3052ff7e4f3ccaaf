// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/shop/shop_view.h"

#include "session/counted.h"
#include "ui/dialogs/fault_list.h"
#include "ui/files.h"
#include "ui/frame/drawn_page.h"
#include "ui/frame/line_drawing.h"
#include "ui/frame/page_buttons.h"
#include "ui/frame/plain_label.h"
#include "ui/shop/first_start.h"
#include "ui/shop/forecasts_sheet.h"
#include "ui/shop/job_delegate.h"
#include "ui/shop/machines_sheet.h"
#include "ui/shop/practice_sheet.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QListView>
#include <QPushButton>
#include <QRegularExpression>
#include <QStackedWidget>
#include <QTimer>
#include <QVBoxLayout>
#include <array>

namespace pallix::ui {

ShopView::ShopView(Context context, QWidget* parent)
    : View(parent), context_(context),
      model_(context.session.book(), context.preferences, nullptr, [&s = context.session] { return s.now(); }),
      copy_(new QPushButton(tr("Copy what is sound…"), this)), aside_(new QPushButton(this)), all_(new QCheckBox(this)),
      delivered_(new QCheckBox(this)), search_(new QLineEdit(this)), heading_(new PlainLabel(this)),
      empty_(new PlainLabel(this)), list_(new QListView(this)),
      machines_(new LineDrawing(context, QStringLiteral("machines"), tr("machines of the shop"), this)),
      machines_page_(new DrawnPage(
          context, machines_, std::nullopt, [this] { return machines_->table(tr("which|job|promised")); }, this)),
      forecasts_(new LineDrawing(context, QStringLiteral("forecasts"), tr("how often forecasts held"), this)),
      forecasts_page_(new DrawnPage(
          context, forecasts_, std::nullopt, [this] { return forecasts_->table(tr("whose|how often it held|")); },
          this)),
      practice_(new LineDrawing(context, QStringLiteral("practice"), tr("exercises"), this)),
      practice_page_(new DrawnPage(
          context, practice_, std::nullopt, [this] { return practice_->table(tr("exercise|what is asked|level")); },
          this)),
      first_(new FirstStart(context, this)),
      buttons_(new PageButtons({tr("jobs"), tr("machines"), tr("forecasts"), tr("practice")},
                               tr("Jobs, machines, forecasts, practice: Ctrl+Shift+J"), this)),
      pages_(new QStackedWidget(this)) {
    build();
    const auto stale = [this] { fresh_ = false; };
    connect(&context_.session, &session::Session::job_opened, this, stale);
    connect(&context_.session, &session::Session::entries_added, this, stale);
    connect(list_, &QListView::activated, this, [this](const QModelIndex& index) {
        Q_EMIT job_chosen(index.data(session::ShopModel::job_role).toLongLong());
    });
    connect(machines_, &LineDrawing::line_entered, this,
            [this](const QString& id) { Q_EMIT job_chosen(id.toLongLong()); });
    connect(practice_, &LineDrawing::line_entered, this, [this](const QString& id) {
        const auto theme = workshop::theme_of(id.toStdString());
        if (theme)
            Q_EMIT exercise_wanted(id, level_for(model_, context_.session.at_bench().person, *theme));
        else
            Q_EMIT job_chosen(id.toLongLong());
    });
    connect(first_, &FirstStart::practice_wanted, this, [this] { show_page(Page::practice); });
    connect(first_, &FirstStart::engine_wanted, this, &ShopView::new_engine_wanted);
    connect(first_, &FirstStart::file_wanted, this, &ShopView::file_wanted);
    connect(first_, &FirstStart::harbour_wanted, this, &ShopView::harbour_wanted);
    connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, &ShopView::show_ways_out);
    connect(copy_, &QPushButton::clicked, this, &ShopView::copy_out);
    connect(aside_, &QPushButton::clicked, this, &ShopView::set_aside);
    buttons_->explain(this, {QStringLiteral("view-shop"), QStringLiteral("page-shop-machines"),
                             QStringLiteral("page-shop-forecasts"), QStringLiteral("page-shop-practice")});
    connect(buttons_, &PageButtons::chosen, this, [this](int page) { show_page(static_cast<Page>(page)); });
    connect(search_, &QLineEdit::textChanged, this, [this](const QString& words) {
        model_.search(words);
        refill();
    });
    connect(search_, &QLineEdit::editingFinished, this, [this] { QTimer::singleShot(0, this, &ShopView::refill); });
    connect(search_, &QLineEdit::returnPressed, this, &ShopView::look_up);
    connect(all_, &QCheckBox::toggled, this, [this](bool shown) {
        model_.show_set_aside(shown);
        refill();
    });
    connect(delivered_, &QCheckBox::toggled, this, [this](bool shown) {
        model_.show_delivered(shown);
        refill();
    });
}

QWidget* ShopView::build_top() {
    auto* bar = new QWidget(this);
    set_type(heading_, Type::title, true);
    auto* fresh = new QPushButton(tr("New job…"), this);
    fresh->setToolTip(tr("Open a job from a blueprint (Ctrl+N)"));
    connect(fresh, &QPushButton::clicked, this, &ShopView::new_job_wanted);
    auto* engines = new QPushButton(tr("Engines"), this);
    engines->setObjectName(QStringLiteral("shop-engines"));
    engines->setToolTip(tr("The shelf of engines and the drawing board (F9)"));
    connect(engines, &QPushButton::clicked, this, &ShopView::engines_wanted);
    copy_->setObjectName(QStringLiteral("shop-copy-sound"));
    copy_->setToolTip(tr("Save the entries before the damage as a job file"));
    aside_->setObjectName(QStringLiteral("shop-set-aside"));
    aside_->setToolTip(tr("Out of this list; nothing of the job changes"));
    all_->setObjectName(QStringLiteral("shop-all"));
    delivered_->setObjectName(QStringLiteral("shop-delivered"));
    search_->setObjectName(QStringLiteral("shop-search"));
    search_->setAccessibleName(tr("find a job"));
    search_->setPlaceholderText(tr("find: serial, customer, engine, a word of a note; or scan a paper"));
    search_->setToolTip(tr("Delivered jobs too (Ctrl+F)"));
    search_->setClearButtonEnabled(true);
    auto* lines = new QVBoxLayout(bar);
    lines->setContentsMargins(0, 0, 0, 0);
    auto *top = new QHBoxLayout, *below = new QHBoxLayout;
    top->addWidget(heading_);
    top->addStretch(1);
    for (QWidget* w : {engines, fresh})
        top->addWidget(w);
    below->addWidget(buttons_);
    below->addWidget(search_, 1);
    below->addStretch();
    for (QWidget* w : std::initializer_list<QWidget*>{delivered_, all_, copy_, aside_})
        below->addWidget(w);
    lines->addLayout(top);
    lines->addLayout(below);
    return bar;
}

void ShopView::build() {
    empty_->setWordWrap(true);
    empty_->setAlignment(Qt::AlignCenter);
    set_type(empty_, Type::number);
    list_->setObjectName(QStringLiteral("jobs"));
    list_->setAccessibleName(tr("jobs of the shop"));
    list_->setModel(&model_);
    list_->setItemDelegate(new JobDelegate(context_, list_));
    list_->setUniformItemSizes(true);
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    machines_->set_empty(tr("No job waits for a machine."));
    forecasts_->set_empty(tr("Nothing that was foretold has come yet."));
    auto* jobs = new QWidget(this);
    auto* list = new QVBoxLayout(jobs);
    list->setContentsMargins(0, 0, 0, 0);
    list->addWidget(empty_, 1);
    list->addWidget(first_, 1);
    list->addWidget(list_, 1);
    pages_->addWidget(jobs);
    pages_->addWidget(machines_page_);
    pages_->addWidget(forecasts_page_);
    pages_->addWidget(practice_page_);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 20, 24, 16);
    column->setSpacing(12);
    column->addWidget(build_top());
    column->addWidget(pages_, 1);
}

void ShopView::refresh() {
    if (!fresh_) {
        const QModelIndex before = list_->currentIndex();
        const auto job = before.isValid() ? before.data(session::ShopModel::job_role).toLongLong() : 0;
        model_.reload();
        fresh_ = true;
        if (const int row = model_.index_of(job); row >= 0)
            list_->setCurrentIndex(model_.index(row));
    }
    refill();
}

void ShopView::job_moved(storage::JobId job) {
    if (!fresh_)
        return; // it is all read when it is next shown
    model_.reload_job(job);
    if (isVisible())
        refill();
}

void ShopView::refill() {
    const int jobs = model_.rowCount();
    const bool searched = !search_->text().trimmed().isEmpty();
    heading_->setText(
        jobs == 0 && !searched
            ? tr("The shop")
            : (searched ? tr("%1 found") : tr("%1 in the shop")).arg(session::counted(jobs, tr("job"), tr("jobs"))));
    empty_->setText(
        searched ? tr("No job has these words.\n\nEvery word is looked for: in titles, on job cards, in notes.")
                 : tr("No job is open in this shop: those that were delivered or set aside are shown by the buttons "
                      "above."));
    const bool first = model_.all().empty();
    first_->setVisible(jobs == 0 && first && !searched);
    empty_->setVisible(jobs == 0 && !first_->isVisibleTo(this));
    list_->setVisible(jobs > 0);
    constexpr std::size_t at_a_glance = 12; // fewer jobs nobody looks for, unless they ask (Ctrl+F)
    search_->setVisible(searched || search_->hasFocus() || model_.all().size() > at_a_glance);
    all_->setText(tr("with %1 set aside").arg(session::counted(model_.set_aside(), tr("job"), tr("jobs"))));
    all_->setVisible(model_.set_aside() > 0);
    delivered_->setText(tr("with %1 delivered").arg(model_.delivered()));
    delivered_->setVisible(model_.delivered() > 0);
    if (shown() == Page::machines)
        machines_->show_lines(machines_sheet(model_, context_.preferences.unit()));
    if (shown() == Page::forecasts)
        forecasts_->show_lines(forecasts_sheet(model_));
    if (shown() == Page::practice)
        practice_->show_lines(practice_sheet(model_, context_.session.at_bench().person));
    const int open = context_.session.has_job() ? model_.index_of(*context_.session.job()) : -1;
    if (jobs > 0 && (open >= 0 || !list_->currentIndex().isValid()))
        list_->setCurrentIndex(model_.index(qMax(open, 0)));
    const std::array<QWidget*, 4> of_pages{list_, machines_page_, forecasts_page_, practice_page_};
    setFocusProxy(of_pages.at(static_cast<std::size_t>(shown())));
    show_ways_out();
}

void ShopView::show_page(Page page) {
    buttons_->press(static_cast<int>(page));
    pages_->setCurrentIndex(static_cast<int>(page));
    refill();
    focusProxy()->setFocus();
}

void ShopView::show_next_page() {
    show_page(static_cast<Page>((pages_->currentIndex() + 1) % pages_->count()));
}

ShopView::Page ShopView::shown() const {
    return static_cast<Page>(pages_->currentIndex());
}

std::vector<reporting::DayLine> ShopView::day() const {
    std::vector<reporting::DayLine> lines;
    for (int i = 0; i < model_.rowCount(); ++i) {
        const QModelIndex index = model_.index(i);
        const session::ShopModel::Row& row = model_.row(i);
        if (!row.readable)
            continue;
        QStringList who{row.customer, row.engine};
        who.removeAll(QString());
        lines.push_back({row.title, who.join(QStringLiteral(" · ")), session::group_name(row.standing.waits),
                         index.data(session::ShopModel::waits_role).toString(),
                         QStringList{index.data(session::ShopModel::part_role).toString(),
                                     index.data(session::ShopModel::hours_role).toString()}
                             .join(QStringLiteral("  "))
                             .trimmed(),
                         index.data(session::ShopModel::day_role).toString(),
                         index.data(session::ShopModel::late_role).toBool()});
    }
    return lines;
}

/// The job of a serial, typed or scanned off a paper; else the first that was found.
void ShopView::look_up() {
    const QString typed = search_->text();
    if (const auto job = model_.job_of_serial(typed)) {
        search_->clear();
        static const QRegularExpression digest(QStringLiteral("digest ([0-9a-f]{12,64})"));
        if (const auto found = digest.match(typed); found.hasMatch())
            Q_EMIT paper_scanned(*job, found.captured(1));
        else
            Q_EMIT job_chosen(*job);
    } else if (model_.rowCount() > 0)
        Q_EMIT job_chosen(model_.row(0).id);
}

std::optional<planning::HoursLeft> ShopView::hours_left(storage::JobId job) const {
    const auto row = std::ranges::find(model_.all(), job, &session::ShopModel::Row::id);
    return row == model_.all().end() ? std::nullopt : std::optional(model_.hours_left(*row));
}

void ShopView::search() {
    show_page(Page::jobs);
    search_->show();
    search_->setFocus(Qt::ShortcutFocusReason);
    search_->selectAll();
}

const session::ShopModel::Row* ShopView::marked() const {
    const QModelIndex index = list_->currentIndex();
    return index.isValid() && index.row() < model_.rowCount() ? &model_.row(index.row()) : nullptr;
}

/// For a job that cannot be opened, and one that was set aside.
void ShopView::show_ways_out() {
    const auto* row = marked();
    copy_->setVisible(row && !row->readable);
    aside_->setVisible(row && (!row->readable || row->set_aside));
    aside_->setText(row && row->set_aside ? tr("Take back") : tr("Set aside"));
}

void ShopView::set_aside() {
    const auto* row = marked();
    if (!row)
        return;
    if (const auto done = context_.session.book().set_aside(row->id, !row->set_aside); !done)
        return show_faults(session::as_faults(done.error()), context_, this);
    fresh_ = false;
    refresh();
}

void ShopView::copy_out() {
    const auto* row = marked();
    if (!row)
        return;
    const auto entries = context_.session.book().sound_entries(row->id);
    if (!entries)
        return show_faults(session::as_faults(entries.error()), context_, this);
    if (entries->empty())
        return show_faults({{row->title.toStdString(), 0, "nothing of it is sound", "a backup of the book"}}, context_,
                           this);
    save_job(*entries, row->title, context_, this);
}

} // namespace pallix::ui
