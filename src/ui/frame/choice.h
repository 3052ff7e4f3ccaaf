// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QComboBox>

namespace pallix::ui {

// Choices of a box by what they mean, not by their place in its list.

template <class Enum>
void add_choice(QComboBox* box, Enum value, const QString& words) {
    box->addItem(words, static_cast<int>(value));
}
template <class Enum>
[[nodiscard]] Enum choice_in(const QComboBox* box) {
    return static_cast<Enum>(box->currentData().toInt());
}
template <class Enum>
void set_choice(QComboBox* box, Enum value) {
    box->setCurrentIndex(box->findData(static_cast<int>(value)));
}

} // namespace pallix::ui
