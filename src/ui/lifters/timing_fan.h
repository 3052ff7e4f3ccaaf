// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawing.h"

#include <string>

namespace pallix::ui {

/// A stem for each valve of a bank, leaning as it is late (to the right) or early, larger than life: as found, and as
/// planned or as probed since.
class TimingFan : public Drawing {
    Q_OBJECT
  public:
    explicit TimingFan(Context context, QWidget* parent = nullptr);
    void show_bank(const std::string& bank);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::string bank_;
};

} // namespace pallix::ui
