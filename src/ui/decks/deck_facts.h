// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QWidget>

namespace pallix::ui {

/// How one deck lies, in words, and what it was held against, with a shape for each verdict.
class DeckFacts : public QWidget {
    Q_OBJECT
  public:
    explicit DeckFacts(Context context, QWidget* parent = nullptr);
    void set_bank(const std::string& bank);
    QSize minimumSizeHint() const override { return {280, 150}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    struct Line {
        QString text;
        std::optional<planning::StageMark> mark;
        bool strong = false;
    };
    [[nodiscard]] std::vector<Line> lines() const;

    Context context_;
    std::string bank_;
};

} // namespace pallix::ui
