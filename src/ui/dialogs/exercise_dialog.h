// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"
#include "workshop/practice/own_exercise.h"

#include <QDialog>
#include <optional>

class QComboBox;
class QLabel;
class QLineEdit;
class QPlainTextEdit;
class QPushButton;

namespace pallix::ui {

class ExerciseDrawing;

/// An exercise of the shop's own: a block of an engine with what is wrong with it, typed or pulled in the drawing, and
/// a story. It is kept as a file, to be shared, or begun at once.
class ExerciseDialog : public QDialog {
    Q_OBJECT
  public:
    explicit ExerciseDialog(Context context, QWidget* parent = nullptr);

    /// What is to be begun; nothing where it was closed.
    [[nodiscard]] const std::optional<workshop::Exercise>& wanted() const { return wanted_; }

  private:
    void fill_engines();
    [[nodiscard]] workshop::OwnExercise typed() const;
    void show_typed();
    void tell(const block::Faults& faults);
    void save();
    void begin();

    Context context_;
    std::optional<workshop::Exercise> exercise_, wanted_; ///< as typed, where that has no fault; to be begun
    QComboBox* engine_;
    QLineEdit* title_;
    QPlainTextEdit* story_;
    QPlainTextEdit* errors_;
    ExerciseDrawing* drawing_;
    QLabel* told_;
    QPushButton *save_, *begin_;
};

} // namespace pallix::ui
