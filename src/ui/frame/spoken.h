// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QRect>
#include <QString>
#include <QWidget>
#include <vector>

class QLabel;

namespace pallix::ui {

/// Something painted that a person can point at, as a screen reader hears it.
struct SpokenPart {
    QString name;          ///< "cylinder 3"
    QString value;         ///< "+0.012 mm, fails"
    QRect where;           ///< in the widget
    bool marked = false;   ///< the one that is marked
    bool pressable = true; ///< pressing it does something
};

/// A widget that paints what it shows. Each thing it paints is a child of it for whoever does not look at the screen.
class Spoken : public QWidget {
    Q_OBJECT
  public:
    using QWidget::QWidget;
    [[nodiscard]] virtual std::vector<SpokenPart> spoken() const { return {}; }
    virtual void press(std::size_t /*part*/) {}

  protected:
    void say_changed(); ///< to whoever listens: what is marked, or its value, is another
};

/// Words that are heard as soon as they are other ones: what to do now, what was understood, a verdict.
void set_announced(QLabel* label);

/// Tells Qt how painted things are heard; to be called once before the first window.
void install_spoken();

} // namespace pallix::ui
