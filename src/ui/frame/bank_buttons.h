// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QWidget>
#include <string>

class QButtonGroup;
class QHBoxLayout;

namespace pallix::ui {

/// One button for each bank of the open block, one of them pressed; hidden where there is one bank alone.
class BankButtons : public QWidget {
    Q_OBJECT
  public:
    explicit BankButtons(Context context, QWidget* parent = nullptr);

    /// Follows the open blueprint.
    void refresh();
    void press(const std::string& bank);
    /// @return the bank after this one, round and round
    [[nodiscard]] std::string next(const std::string& bank) const;

  Q_SIGNALS:
    void chosen(const std::string& bank);

  private:
    Context context_;
    QHBoxLayout* row_;
    QButtonGroup* group_;
    std::string built_for_; ///< the banks the buttons stand for
};

} // namespace pallix::ui
