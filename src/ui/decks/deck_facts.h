// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/common/stages.h"
#include "ui/context.h"

#include <QStringList>
#include <QWidget>

namespace pallix::ui {

/// How one deck lies, in words, and what it was held against, with a shape for each verdict.
class DeckFacts : public QWidget {
    Q_OBJECT
  public:
    explicit DeckFacts(Context context, QWidget* parent = nullptr);
    void set_bank(const std::string& bank);
    QSize minimumSizeHint() const override { return {220, 150}; }

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

/// Lines of text that change at every step of a drag: painted, so that no layout has to follow them.
class LivingLines : public QWidget {
    Q_OBJECT
  public:
    LivingLines(Context context, const QString& name, QWidget* parent = nullptr);
    /// @param title strong, above the lines
    void set_lines(const QString& title, const QStringList& lines);
    [[nodiscard]] QString text() const; ///< all of it, line by line
    QSize minimumSizeHint() const override { return {170, 150}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Context context_;
    QString title_;
    QStringList lines_;
};

} // namespace pallix::ui
