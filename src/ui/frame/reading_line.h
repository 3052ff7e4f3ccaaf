// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/shorthand.h"
#include "session/reading_plan.h"
#include "ui/context.h"

#include <QWidget>
#include <optional>

class QLabel;
class QLineEdit;
class QPushButton;

namespace pallix::ui {

/// Along the bottom: asks for the next reading in words, takes it in shop shorthand, says what it understood, and asks
/// about a suspicious value before it counts.
class ReadingLine : public QWidget {
    Q_OBJECT
  public:
    explicit ReadingLine(Context context, QWidget* parent = nullptr);

    /// @param bank the deck whose heights are read; nothing where this view reads none
    void set_bank(const std::optional<std::string>& bank);
    void refresh();
    void take_focus();

  Q_SIGNALS:
    void asks_for(const std::optional<session::ReadingAsked>& asked);

  protected:
    void paintEvent(QPaintEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void echo();
    void take();
    void skip();
    void back();
    void state_gauge();
    void say(const QString& text, const QColor& colour);
    [[nodiscard]] block::Expected expected() const;

    Context context_;
    std::optional<std::string> bank_;
    std::optional<session::ReadingAsked> asked_;
    std::vector<std::size_t> skipped_;
    QString questioned_; ///< the text that was asked about: entered once more, it counts
    QLabel* place_;
    QLabel* detail_;
    QLineEdit* field_;
    QLabel* echo_;
    QLabel* gauge_label_;
    QLineEdit* gauge_;
    QPushButton* back_;
    QPushButton* skip_;
};

} // namespace pallix::ui
