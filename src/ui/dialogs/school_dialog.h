// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/school_work.h"
#include "ui/context.h"
#include "workshop/practice/exercise.h"

#include <QDialog>
#include <optional>

class QLabel;
class QPushButton;

namespace pallix::ui {

class SchoolDrawing;

/// Tries every way of planning the open job on blocks that it may be, before its metal is touched.
class SchoolDialog : public QDialog {
    Q_OBJECT
  public:
    /// @param copy of the job, to practise on: which says what of it nobody measured
    SchoolDialog(Context context, workshop::Exercise copy, QWidget* parent = nullptr);

    /// Taken where the job is to be planned otherwise; that is in the ledger then.
    /// @return the copy, by the way that was chosen, where that is to be worked on
    [[nodiscard]] const std::optional<workshop::Exercise>& wanted_copy() const { return wanted_; }
    [[nodiscard]] session::SchoolWork& work() { return work_; }

  private:
    void tell();
    void plan_so();
    void work_on_copy();
    [[nodiscard]] const workshop::School& chosen() const;

    Context context_;
    workshop::Exercise copy_;
    std::optional<workshop::Exercise> wanted_;
    session::SchoolWork work_;
    SchoolDrawing* drawing_;
    QLabel* told_;
    QPushButton* plan_;
};

} // namespace pallix::ui
