// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/plain_label.h"

#include <QTextLayout>
#include <vector>

namespace pallix::ui {

/// Words as they stand, with a dotted line under those of the trade: resting on one explains it, a click opens the
/// manual at it.
class ExplainedLabel : public PlainLabel {
    Q_OBJECT
  public:
    explicit ExplainedLabel(QWidget* parent = nullptr);
    [[nodiscard]] QString explained_at(const QPoint& at) const; ///< id of the word's section; empty beside words
    [[nodiscard]] QPoint place_of(const QString& id) const;     ///< of the first letter of a word that is explained

  protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

  private:
    struct Word {
        int begin = 0, size = 0;
        QString id;
    };
    void lay_out() const;

    mutable QTextLayout layout_;
    mutable std::vector<Word> words_;
    mutable QString laid_out_; ///< what, and how wide
};

} // namespace pallix::ui
