// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/page_buttons.h"

#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QPushButton>

namespace pallix::ui {

PageButtons::PageButtons(const QStringList& names, const QString& tip, QWidget* parent)
    : QWidget(parent), group_(new QButtonGroup(this)) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    for (const QString& name : names) {
        auto* button = new QPushButton(name, this);
        button->setCheckable(true);
        button->setProperty("narrow", true);
        button->setToolTip(plain_tip(tip));
        group_->addButton(button, static_cast<int>(group_->buttons().size()));
        row->addWidget(button);
    }
    press(0);
    connect(group_, &QButtonGroup::idClicked, this, &PageButtons::chosen);
}

void PageButtons::press(int page) {
    if (QAbstractButton* button = group_->button(page))
        button->setChecked(true);
    if (view_ && page < explained_.size())
        set_explained(view_, explained_[page]);
}

void PageButtons::explain(QWidget* view, const QStringList& ids) {
    view_ = view;
    explained_ = ids;
    press(std::max(0, group_->checkedId()));
}

} // namespace pallix::ui
