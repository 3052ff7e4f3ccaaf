// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <functional>

namespace pallix::ui {

/// Keys for a finger in a glove, beside the reading line: what is needed to type a reading, and no more. They type into
/// whatever field has the caret; where none has, a reading is meant.
class Keypad : public QWidget {
    Q_OBJECT
  public:
    explicit Keypad(QWidget* parent = nullptr);

  Q_SIGNALS:
    void field_wanted(); ///< something is typed and no field has the caret

  private:
    void add(int row, int column, const QString& face, const char* name, std::function<void()> pressed);
    void type(const QString& text);
    void turn_sign();
    void send(Qt::Key key);
};

} // namespace pallix::ui
