// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/common/taught.h"
#include "ui/context.h"

#include <QDialog>
#include <vector>

class QListWidget;
class QPushButton;

namespace pallix::ui {

/// Which of the shop's blocks are to teach an engine: those that were probed as found, of the same engine first and
/// ticked.
class HistoryDialog : public QDialog {
    Q_OBJECT
  public:
    HistoryDialog(Context context, const QString& engine, QWidget* parent = nullptr);
    [[nodiscard]] std::vector<planning::GoodBlock> chosen() const;

  private:
    void fill(const Context& context, const QString& engine);
    void show_state();

    std::vector<planning::GoodBlock> blocks_; ///< in the list's order
    QListWidget* list_;
    QPushButton* take_ = nullptr;
};

} // namespace pallix::ui
