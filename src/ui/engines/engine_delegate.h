// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QStyledItemDelegate>

namespace pallix::ui {

/// One engine of the shelf: its block seen from the rear, name, what it is, revision and jobs.
class EngineDelegate : public QStyledItemDelegate {
    Q_OBJECT
  public:
    enum Role { name_role = Qt::UserRole + 1, words_role, revision_role, blueprint_role };
    EngineDelegate(Context context, QObject* parent);
    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override;
    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;

  private:
    Context context_;
};

} // namespace pallix::ui
