// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/shop/shop_view.h"

#include "session/counted.h"
#include "ui/dialogs/fault_list.h"
#include "ui/files.h"
#include "ui/frame/plain_label.h"
#include "ui/shop/job_delegate.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QListView>
#include <QPushButton>
#include <QVBoxLayout>

namespace pallix::ui {

ShopView::ShopView(Context context, QWidget* parent)
    : View(parent), context_(context), model_(context.session.book(), context.preferences),
      copy_(new QPushButton(tr("Copy what is sound…"), this)), aside_(new QPushButton(this)), all_(new QCheckBox(this)),
      heading_(new PlainLabel(this)), empty_(new PlainLabel(this)), list_(new QListView(this)) {
    build();
    const auto stale = [this] { fresh_ = false; };
    connect(&context_.session, &session::Session::job_opened, this, stale);
    connect(&context_.session, &session::Session::entries_added, this, stale);
    connect(list_, &QListView::activated, this, [this](const QModelIndex& index) {
        Q_EMIT job_chosen(index.data(session::ShopModel::job_role).toLongLong());
    });
    connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, &ShopView::show_ways_out);
    connect(copy_, &QPushButton::clicked, this, &ShopView::copy_out);
    connect(aside_, &QPushButton::clicked, this, &ShopView::set_aside);
    connect(all_, &QCheckBox::toggled, this, [this](bool shown) {
        model_.show_set_aside(shown);
        refill();
    });
}

void ShopView::build() {
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
    auto* top = new QHBoxLayout;
    top->addWidget(heading_, 1);
    for (QWidget* w : std::initializer_list<QWidget*>{all_, copy_, aside_, engines, fresh})
        top->addWidget(w);
    empty_->setWordWrap(true);
    empty_->setAlignment(Qt::AlignCenter);
    set_type(empty_, Type::number);
    empty_->setText(tr("No job yet.\n\nDraw your engine first (Ctrl+Alt+N), then open a job of it (Ctrl+N); or drop a "
                       ".pallix-blueprint.json on this window.\n"
                       "A whole job from elsewhere comes in by dropping its .pallix.json file."));
    list_->setObjectName(QStringLiteral("jobs"));
    list_->setAccessibleName(tr("jobs of the shop"));
    list_->setModel(&model_);
    list_->setItemDelegate(new JobDelegate(context_, list_));
    list_->setUniformItemSizes(true);
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 20, 24, 16);
    column->setSpacing(12);
    column->addLayout(top);
    column->addWidget(empty_, 1);
    column->addWidget(list_, 1);
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

void ShopView::refill() {
    const int jobs = model_.rowCount();
    heading_->setText(jobs == 0 ? tr("The shop")
                                : tr("%1 in the shop").arg(session::counted(jobs, tr("job"), tr("jobs"))));
    empty_->setVisible(jobs == 0);
    list_->setVisible(jobs > 0);
    all_->setText(tr("with %1 set aside").arg(session::counted(model_.set_aside(), tr("job"), tr("jobs"))));
    all_->setVisible(model_.set_aside() > 0);
    const int open = context_.session.has_job() ? model_.index_of(*context_.session.job()) : -1;
    if (jobs > 0 && (open >= 0 || !list_->currentIndex().isValid()))
        list_->setCurrentIndex(model_.index(qMax(open, 0)));
    setFocusProxy(list_);
    show_ways_out();
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
