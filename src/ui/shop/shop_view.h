// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/shop_model.h"
#include "ui/context.h"
#include "ui/view.h"

class QCheckBox;
class QLabel;
class QListView;
class QPushButton;

namespace pallix::ui {

/// All jobs of the shop: where each stands, what it waits for.
class ShopView : public View {
    Q_OBJECT
  public:
    explicit ShopView(Context context, QWidget* parent = nullptr);
    void refresh() override;

  Q_SIGNALS:
    void job_chosen(storage::JobId job);
    void new_job_wanted();
    void engines_wanted();

  private:
    void build();
    void refill();
    void show_ways_out();
    void set_aside();
    void copy_out();
    [[nodiscard]] const session::ShopModel::Row* marked() const;

    Context context_;
    session::ShopModel model_;
    bool fresh_ = false; ///< nothing has been written since it was filled
    QPushButton* copy_;  ///< what can be read of a job that is damaged
    QPushButton* aside_;
    QCheckBox* all_; ///< also what was set aside
    QLabel* heading_;
    QLabel* empty_;
    QListView* list_;
};

} // namespace pallix::ui
