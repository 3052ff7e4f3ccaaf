// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/route_entries.h"
#include "ui/context.h"

#include <QDialog>
#include <vector>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;

namespace pallix::ui {

/// Which stages a job asks for, and in which order they are gone through: a preset, or moved by hand; for this job, and
/// as the shop or its engine begins.
class RouteDialog : public QDialog {
    Q_OBJECT
  public:
    explicit RouteDialog(Context context, QWidget* parent = nullptr);

  private:
    void accept() override;
    void fill_order(const std::vector<block::Stage>& order);
    [[nodiscard]] block::RouteChosen chosen_route() const;
    [[nodiscard]] QString engine_of_job() const;

    Context context_;
    std::vector<QCheckBox*> wanted_;
    QComboBox* preset_;
    QListWidget* order_;
    QLineEdit* reason_;
    QCheckBox *for_shop_, *for_engine_;
    QString engine_;
    QLabel* echo_;
};

} // namespace pallix::ui
