// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/steps/answer.h"
#include "ui/context.h"

#include <QWidget>
#include <optional>
#include <string>
#include <vector>

class QAbstractButton;
class QButtonGroup;
class QLineEdit;
class QVBoxLayout;

namespace pallix::ui {

/// The few fields of a step's answer, filled with what is proposed; decisions with what follows from each.
class StepForm : public QWidget {
    Q_OBJECT
  public:
    explicit StepForm(Context context, QWidget* parent = nullptr);

    /// @return whether the fields were made anew: another step, or the same afresh
    bool show_step(const planning::Step& step);
    void forget(); ///< the next step is asked afresh, whatever it is
    [[nodiscard]] bool asks() const { return !fields_.empty(); }
    /// The answer as the fields have it; what stands as proposed keeps all its digits.
    /// @return nothing where one of them cannot be read: `complained` says which
    [[nodiscard]] std::optional<planning::Answers> answers(const planning::Step& step);
    /// @return whether there is a field for the caret
    bool take_focus();

  Q_SIGNALS:
    void entered(); ///< Return in a field
    void complained(const QString& words);

  private:
    struct Field {
        planning::Ask ask;
        QLineEdit* edit = nullptr;
        QAbstractButton* tick = nullptr;
        QButtonGroup* choices = nullptr;
        QString filled{}; ///< what was proposed in it
    };
    void build(const planning::Step& step);
    void add_field(const planning::Step& step, const planning::Ask& ask);
    void add_edit(const QString& label, Field& field);
    void add_choices(const planning::Step& step, Field& field);
    [[nodiscard]] bool read(const planning::Step& step, const Field& field, planning::Answers& answers);

    Context context_;
    QVBoxLayout* rows_;
    std::vector<Field> fields_;
    std::string built_for_; ///< the step and its asks that the fields stand for
};

} // namespace pallix::ui
