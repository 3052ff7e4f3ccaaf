// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/readings/measuring.h"
#include "ui/context.h"

#include <QDialog>

class QLabel;
class QLineEdit;
class QSpinBox;

namespace pallix::ui {

/// Lays out a gauge study: who reads, how often, how many of the places that the reading line is at. The line then asks
/// for each reading in its turn.
class StudyDialog : public QDialog {
    Q_OBJECT
  public:
    StudyDialog(Context context, planning::Measuring what, const std::string& bank, const block::Instrument& gauge,
                QWidget* parent = nullptr);
    void accept() override;

  private:
    void tell();
    [[nodiscard]] block::GaugeStudyBegun study() const;

    Context context_;
    planning::Measuring what_;
    std::string bank_;
    std::string gauge_;
    std::vector<std::string> keys_; ///< of the places that can be parts
    QLineEdit* people_;
    QSpinBox *parts_, *trials_;
    QLabel *told_, *fault_;
};

} // namespace pallix::ui
