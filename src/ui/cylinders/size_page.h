// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QWidget>
#include <optional>

class QComboBox;
class QLabel;
class QLineEdit;

namespace pallix::ui {

class Echo;
class FigureForm;
class LadderDrawing;

/// Which size, about which centre, who sets it; what was decided on a single cylinder and what pits it has.
class SizePage : public QWidget {
    Q_OBJECT
  public:
    explicit SizePage(Context context, QWidget* parent = nullptr);
    void show_bore(const std::optional<block::FeatureId>& bore);

  Q_SIGNALS:
    void marked(const block::FeatureId& id);

  private:
    void fill_plan();
    void fill_words();
    void keep_plan();
    void decide();
    void note_pit();
    [[nodiscard]] std::optional<std::vector<double>> sizes_in_field();

    Context context_;
    std::optional<block::FeatureId> bore_;
    LadderDrawing* ladder_;
    QLabel* words_;
    FigureForm* form_;
    QComboBox *centre_, *oversize_, *thrust_, *walls_;
    QLineEdit* list_;
    QLabel* name_;
    QComboBox* choice_;
    QLineEdit *why_, *pit_;
    QComboBox *level_, *side_;
    Echo* echo_;
    std::string filled_for_;
};

} // namespace pallix::ui
