// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/common/stages.h"
#include "ui/frame/drawing.h"
#include "ui/frame/drawn_page.h"

#include <QPixmap>
#include <QString>
#include <optional>
#include <vector>

namespace pallix::ui {

/// A line of a sheet: what it is called, what stands there.
struct SheetLine {
    QString id;    ///< what marking it means; empty: a heading, or nothing to mark
    QString name;  ///< at the left
    QString words; ///< empty: a gap to be filled
    std::optional<planning::StageMark> mark{};
    QString aside{}; ///< at the right
    bool heading = false;
    QPixmap picture{}; ///< shown small, below the words
};

/// A sheet of paper with lines on it, in two columns where there is room: the job card, the machines of the shop. A
/// line is marked by pointing or by the arrow keys; Enter takes it up.
class LineDrawing final : public Drawing {
    Q_OBJECT
  public:
    LineDrawing(Context context, const QString& name, const QString& spoken, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 320}; }

    void show_lines(std::vector<SheetLine> lines);
    /// What is written over the middle while there are none.
    void set_empty(const QString& words) { empty_ = words; }
    [[nodiscard]] const QString& marked_line() const { return marked_line_; }
    void mark_line(const QString& id);
    [[nodiscard]] TwinTable table(const QString& heads) const;
    [[nodiscard]] std::vector<SpokenPart> spoken() const override;
    void press(std::size_t part) override;

  Q_SIGNALS:
    void line_marked(const QString& id);
    void line_entered(const QString& id);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    struct Laid {
        std::size_t line = 0;
        QRectF box;
    };
    [[nodiscard]] std::vector<Laid> laid_out() const;
    [[nodiscard]] double height_of(const SheetLine& line, double width) const;
    void paint_line(QPainter& painter, const SheetLine& line, const QRectF& box) const;
    [[nodiscard]] std::vector<std::size_t> markable() const;

    std::vector<SheetLine> lines_;
    QString marked_line_, empty_;
};

} // namespace pallix::ui
