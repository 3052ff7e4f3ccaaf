// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <QStringList>
#include <QWidget>
#include <optional>

namespace pallix::ui {

// The small questions of the bench. All words are shown as they stand.

/// @return what was typed, or nothing where the person left it
[[nodiscard]] std::optional<QString> ask_for_text(QWidget* parent, const QString& title, const QString& words,
                                                  const QString& before = {});

/// The same, with what is typed not shown.
[[nodiscard]] std::optional<QString> ask_for_code(QWidget* parent, const QString& title, const QString& words);

/// @param answers one button each; the last one leaves everything as it is, and is what Escape gives
/// @return index of the answer
[[nodiscard]] int ask_which(QWidget* parent, const QString& title, const QString& words, const QStringList& answers);

/// One of many, in a list.
/// @param ok what the button says that takes it
/// @return index of what was chosen, or nothing where the person left it
[[nodiscard]] std::optional<int> ask_which_of(QWidget* parent, const QString& title, const QString& words,
                                              const QStringList& all, const QString& ok);

void tell(QWidget* parent, const QString& title, const QString& words);

} // namespace pallix::ui
