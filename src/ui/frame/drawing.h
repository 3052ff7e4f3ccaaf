// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QWidget>

class QPainter;

namespace pallix::ui {

/// What every drawing of the bench has in common: the context it is painted in, a name, a panel to stand on.
class Drawing : public QWidget {
    Q_OBJECT
  public:
    /// @param name for tests and style; @param spoken what a screen reader calls it
    Drawing(Context context, const QString& name, const QString& spoken, QWidget* parent = nullptr);

  protected:
    /// A painter's page: rounded panel, antialiasing on, the text size of drawings.
    void prepare(QPainter& painter) const;
    void paint_focus(QPainter& painter) const; ///< the frame round a drawing that has the keys

    Context context_;
};

} // namespace pallix::ui
