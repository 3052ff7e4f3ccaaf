// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QHash>
#include <QStaticText>
#include <QStyledItemDelegate>

namespace pallix::ui {

/// A job in the shop list: its name, its stages as shapes, what it waits for.
class JobDelegate : public QStyledItemDelegate {
    Q_OBJECT
  public:
    explicit JobDelegate(Context context, QObject* parent = nullptr);
    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override;

  private:
    void paint_stages(QPainter& painter, const QVariantList& marks, const QRect& text) const;

    Context context_;
    mutable QHash<QString, QStaticText> stage_names_; ///< laid out
};

} // namespace pallix::ui
