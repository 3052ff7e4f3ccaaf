// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/shop_model.h"
#include "ui/context.h"
#include "ui/view.h"

class QLabel;
class QListView;

namespace pallix::ui {

/// All jobs of the shop: where each stands, what it waits for.
class ShopView : public View {
    Q_OBJECT
  public:
    explicit ShopView(Context context, QWidget* parent = nullptr);
    QString help() const override;
    void refresh() override;

  Q_SIGNALS:
    void job_chosen(storage::JobId job);
    void new_job_wanted();

  private:
    Context context_;
    session::ShopModel model_;
    QLabel* heading_;
    QLabel* empty_;
    QListView* list_;
};

} // namespace pallix::ui
