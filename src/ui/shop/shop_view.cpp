// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/shop/shop_view.h"

#include "session/counted.h"
#include "ui/shop/job_delegate.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListView>
#include <QPushButton>
#include <QVBoxLayout>

namespace pallix::ui {

ShopView::ShopView(Context context, QWidget* parent)
    : View(parent), context_(context), model_(context.session.book(), context.preferences), heading_(new QLabel(this)),
      empty_(new QLabel(this)), list_(new QListView(this)) {
    heading_->setFont(font_of(Type::title, true));
    auto* fresh = new QPushButton(tr("New job…"), this);
    fresh->setToolTip(tr("Open a job from a blueprint (Ctrl+N)"));
    auto* top = new QHBoxLayout;
    top->addWidget(heading_, 1);
    top->addWidget(fresh);
    empty_->setWordWrap(true);
    empty_->setAlignment(Qt::AlignCenter);
    empty_->setFont(font_of(Type::number));
    empty_->setText(
        tr("No job yet.\n\nStart one from a blueprint: Ctrl+N, or drop a .pallix-blueprint.json file on this window.\n"
           "A whole job from elsewhere comes in by dropping its .pallix.json file."));
    list_->setObjectName(QStringLiteral("jobs"));
    list_->setAccessibleName(tr("jobs of the shop"));
    list_->setModel(&model_);
    list_->setItemDelegate(new JobDelegate(context_, list_));
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 20, 24, 16);
    column->setSpacing(12);
    column->addLayout(top);
    column->addWidget(empty_, 1);
    column->addWidget(list_, 1);
    const auto choose = [this](const QModelIndex& index) {
        Q_EMIT job_chosen(index.data(session::ShopModel::job_role).toLongLong());
    };
    connect(list_, &QListView::activated, this, choose);
    connect(fresh, &QPushButton::clicked, this, &ShopView::new_job_wanted);
}

void ShopView::refresh() {
    const QModelIndex before = list_->currentIndex();
    model_.reload();
    const int jobs = model_.rowCount();
    heading_->setText(jobs == 0 ? tr("The shop")
                                : tr("%1 in the shop").arg(session::counted(jobs, tr("job"), tr("jobs"))));
    empty_->setVisible(jobs == 0);
    list_->setVisible(jobs > 0);
    const int open = context_.session.has_job() ? model_.index_of(*context_.session.job()) : -1;
    const int row = open >= 0 ? open : before.isValid() ? qMin(before.row(), jobs - 1) : 0;
    if (jobs > 0)
        list_->setCurrentIndex(model_.index(row));
    setFocusProxy(list_);
}

QString ShopView::help() const {
    return tr(
        "<h2>The shop</h2><p>Every job with its stages and what it waits for. Arrow keys mark a job, Enter opens "
        "it.</p>"
        "<p>Shapes: a dash is not begun; a point is where the work is; a bar is done; a dot between two limits meets; "
        "a ring on a limit can't be told yet; a cross fails; an open ring was cut since it was measured.</p>");
}

} // namespace pallix::ui
