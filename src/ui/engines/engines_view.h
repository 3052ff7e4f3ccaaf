// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/drawing/engine.h"
#include "planning/common/taught.h"
#include "ui/context.h"
#include "ui/view.h"

#include <optional>
#include <string>
#include <vector>

class QCheckBox;
class QLabel;
class QLineEdit;
class QListView;
class QPushButton;
class QStackedWidget;
class QStandardItemModel;

namespace pallix::ui {

class BoardPage;
class PageButtons;

/// The shop's engines: the shelf, and the drawing board on which one is drawn or changed.
class EnginesView : public View {
    Q_OBJECT
  public:
    enum class Page { shelf, block, parts };

    explicit EnginesView(Context context, QWidget* parent = nullptr);
    void refresh() override;
    void show_page(Page page);
    [[nodiscard]] Page page() const { return page_; }
    [[nodiscard]] BoardPage& board() { return *board_; }

    void begin_new(); ///< an empty board
    void open(const QString& name);
    void take_file(const QString& file); ///< an engine, a recipe or a blueprint onto the board
    /// The open job's blueprint onto the board: what is kept then amends the job.
    void begin_amending();
    void take_dxf(const QString& file); ///< a drawing of its deck, onto what is on the board
    /// A table of its figures or holes, onto what is on the board. @param file asked for where it is empty
    void take_table(const QString& file);
    /// Probe logs of good blocks, one for each. @param files asked for where there are none
    void take_blocks(QStringList files);
    void take_history();  ///< blocks of the shop's own jobs, as they were found
    void paste_table();   ///< the same from the clipboard
    void take_from_job(); ///< the open job's block, as the shop knows it by now
    void keep();
    void save_file();
    /// @param file its ending says what: engine, recipe, blueprint, or the drawing as PDF, SVG or DXF
    void save_as(const QString& file);
    void copy();
    void retire();

  Q_SIGNALS:
    void job_wanted(const QString& engine);
    void amended(const QString& blueprint); ///< its text

  private:
    void build();
    void fill();
    void show_chosen();
    void lay_table(const std::string& bytes, const QString& name);
    void learn_from(const std::vector<planning::GoodBlock>& blocks);
    void offer(const block::Recipe& recipe, QStringList lines, const QStringList& after, const QString& name);
    void save_drawing(const QString& file);
    bool put_on_board(block::Engine engine, const QString& words);
    [[nodiscard]] bool may_leave();
    [[nodiscard]] QString chosen() const;
    void report(const QString& what, const QString& way_out);

    Context context_;
    Page page_ = Page::shelf;
    QLabel* heading_;
    PageButtons* pages_;
    QStackedWidget* stack_;
    QLineEdit* search_;
    QCheckBox* retired_;
    QListView* list_;
    QLabel* empty_;
    QLabel* uses_;
    QStandardItemModel* rows_;
    BoardPage* board_;
    std::vector<QPushButton*> shelf_buttons_, board_buttons_;
    QPushButton *retire_ = nullptr, *keep_ = nullptr;
    std::string kept_;                     ///< the board as it stands on the shelf, or as it was laid there
    QString opened_;                       ///< the engine of the shelf that is on the board
    std::optional<storage::JobId> amends_; ///< the job whose blueprint is on the board
};

} // namespace pallix::ui
