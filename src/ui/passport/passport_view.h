// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"
#include "ui/view.h"

class QLabel;
class QTextBrowser;

namespace pallix::ui {

/// The sheet that goes with the block, as it would be printed now.
class PassportView : public View {
    Q_OBJECT
  public:
    explicit PassportView(Context context, QWidget* parent = nullptr);
    void refresh() override;

    void save(); ///< asks for a name: .pdf or .html
    void preview_print();
    void hold_against_ledger();

  private:
    [[nodiscard]] QString html(int picture_scale) const;

    Context context_;
    QTextBrowser* sheet_;
    QLabel* echo_;
};

} // namespace pallix::ui
