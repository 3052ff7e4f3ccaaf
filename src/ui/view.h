// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/readings/reading_plan.h"
#include "planning/steps/answer.h"

#include <QWidget>

namespace pallix::ui {

/// A view fills the middle of the bench. It is built when it is first shown and keeps its own actions.
class View : public QWidget {
    Q_OBJECT
  public:
    using QWidget::QWidget;
    virtual void refresh() = 0; ///< state, unit or theme has changed
    /// What is painted or dragged on this view and belongs to the answer of a step.
    [[nodiscard]] virtual planning::Answers painted(const planning::Step& /*step*/) const { return {}; }
    virtual void show_asked(const std::optional<planning::AskedReading>& /*asked*/) {} ///< what the line asks for
    virtual void answered() {} ///< a step was: what was painted for it is in the ledger
};

} // namespace pallix::ui
