// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"
#include "ui/frame/plain_label.h"

#include <QLineEdit>
#include <optional>

namespace pallix::ui {

/// The line under a form: what it understood, or what is wrong.
class Echo : public PlainLabel {
    Q_OBJECT
  public:
    Echo(Context context, const QString& name, QWidget* parent = nullptr);
    void say(const QString& text);
    void complain(const QString& text);
    /// Complains where it failed. @return whether it did not
    bool took(const session::Outcome& outcome);
    /// A length as typed; complains and puts the caret there where it cannot be read. @return nothing for an empty
    /// field
    /// @param fine set to false on a fault
    std::optional<double> length_in(QLineEdit* field, bool& fine);
    /// A plain number, the same way.
    /// @param words that may stand behind it, "°"
    std::optional<double> number_in(QLineEdit* field, bool& fine, std::initializer_list<std::string_view> words = {});

  private:
    void show_in(const QString& text, const QColor& colour);
    Context context_;
};

} // namespace pallix::ui
