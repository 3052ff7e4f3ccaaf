// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/engines/board_drawing.h"

#include <QWidget>
#include <optional>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace pallix::ui {

/// The drawing board: the drawing, a field over the number that is being changed, and under it what was understood,
/// what cannot be read and what is asked about.
class BoardPage : public QWidget {
    Q_OBJECT
  public:
    explicit BoardPage(Context context, QWidget* parent = nullptr);

    void show(block::Engine engine); ///< another engine, in the place of this one
    void show_sheet(BoardDrawing::Sheet sheet);
    void edit(const std::string& key);
    void edit_next_missing(bool forward = true);
    [[nodiscard]] planning::Board& board() { return board_; }
    [[nodiscard]] BoardDrawing& drawing() { return *drawing_; }
    void undo();
    void redo();
    void refresh();
    /// Shows what came from elsewhere; Ctrl+Z takes it back.
    void replace(block::Engine engine, const QString& words);
    void set_origin(block::FigureSource source);
    /// Asks why it is right, of the first question that is open.
    /// @return false where the person left it open, or none is
    bool answer_question();
    void say(const QString& words, bool fault = false);

  Q_SIGNALS:
    void changed();
    void sheet_wanted(int sheet); ///< the figure is on the other one

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    bool take_typed();
    void place_field();
    void close_field();
    void keep_draft();
    void show_words();
    [[nodiscard]] QString understood(const std::string& key) const;

    Context context_;
    planning::Board board_;
    BoardDrawing* drawing_;
    QLineEdit* field_;
    QLabel* words_;
    QLabel* asked_;
    QPushButton* right_;
    QComboBox* from_;
    QString remark_;
    bool remark_is_fault_ = false;
};

} // namespace pallix::ui
