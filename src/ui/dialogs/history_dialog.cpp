// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/history_dialog.h"

#include "block/drawing/recipe.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"

#include <QDialogButtonBox>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

HistoryDialog::HistoryDialog(Context context, const QString& engine, QWidget* parent)
    : QDialog(parent), list_(new QListWidget(this)) {
    set_explained(this, QStringLiteral("page-engines-board"));
    setWindowTitle(tr("Learn from this shop's own jobs"));
    setMinimumSize(640, 420);
    list_->setObjectName(QStringLiteral("history-jobs"));
    list_->setAccessibleName(tr("blocks that were probed as found"));
    auto* words =
        new PlainLabel(tr("Tick blocks that were sound as found: worn or bored ones teach their wear."), this);
    words->setWordWrap(true);
    set_type(words, Type::text);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    take_ = buttons->button(QDialogButtonBox::Ok);
    take_->setText(tr("Learn from them"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 20, 20, 14);
    column->addWidget(words);
    column->addWidget(list_, 1);
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(list_, &QListWidget::itemChanged, this, &HistoryDialog::show_state);
    fill(context, engine);
    show_state();
}

void HistoryDialog::fill(const Context& context, const QString& engine) {
    const auto jobs = context.session.book().jobs();
    if (!jobs)
        return;
    struct Found {
        planning::GoodBlock good;
        QString words;
        bool same;
    };
    std::vector<Found> all;
    for (const auto& job : *jobs) {
        const auto entries = context.session.book().entries(job.id);
        if (!entries || entries->empty())
            continue;
        auto good = planning::as_found(*entries);
        const auto* opened = std::get_if<block::JobOpened>(&entries->front().payload);
        if (!good || !opened)
            continue;
        const auto blueprint = block::blueprint_from(opened->blueprint, opened->blueprint_file);
        const QString name = qt(!opened->engine.empty() ? opened->engine : blueprint ? blueprint->name : std::string());
        all.push_back({std::move(*good), tr("%1 · %2 · %3").arg(job.title, name, job.opened.left(10)),
                       !engine.isEmpty() && name == engine});
    }
    std::ranges::stable_sort(all, std::ranges::greater(), &Found::same);
    for (Found& found : all) {
        auto* item = new QListWidgetItem(found.words, list_);
        item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
        item->setCheckState(found.same ? Qt::Checked : Qt::Unchecked);
        blocks_.push_back(std::move(found.good));
    }
    list_->setCurrentRow(0);
}

void HistoryDialog::show_state() {
    take_->setEnabled(!chosen().empty());
}

std::vector<planning::GoodBlock> HistoryDialog::chosen() const {
    std::vector<planning::GoodBlock> ticked;
    for (int i = 0; i < list_->count() && i < static_cast<int>(blocks_.size()); ++i)
        if (list_->item(i)->checkState() == Qt::Checked)
            ticked.push_back(blocks_[static_cast<std::size_t>(i)]);
    return ticked;
}

} // namespace pallix::ui
