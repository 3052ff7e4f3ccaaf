// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/work_sheet.h"
#include "session/shop_model.h"
#include "ui/context.h"
#include "ui/view.h"

class QCheckBox;
class QLabel;
class QLineEdit;
class QListView;
class QPushButton;
class QStackedWidget;

namespace pallix::ui {

class DrawnPage;
class LineDrawing;
class FirstStart;
class PageButtons;

/// The board: all jobs of the shop by what they wait for; its machines with what is on them; how often forecasts held.
class ShopView : public View {
    Q_OBJECT
  public:
    enum class Page { jobs, machines, forecasts, practice };

    explicit ShopView(Context context, QWidget* parent = nullptr);
    void refresh() override;
    void show_page(Page page);
    void show_next_page();
    [[nodiscard]] Page shown() const;
    [[nodiscard]] std::vector<reporting::DayLine> day() const; ///< for the sheet of the day
    [[nodiscard]] const std::vector<planning::JobHours>& hours() const { return model_.shop_hours(); }
    /// What is left of a job; nothing where it is not in the book.
    [[nodiscard]] std::optional<planning::HoursLeft> hours_left(storage::JobId job) const;
    void reread() { fresh_ = false; }   ///< when it is next shown
    void job_moved(storage::JobId job); ///< somebody else has added to it
    void search();                      ///< puts the caret into the field

  Q_SIGNALS:
    void job_chosen(storage::JobId job);
    void paper_scanned(storage::JobId job, const QString& digest); ///< of that job, with its digest's beginning
    void new_job_wanted();
    void engines_wanted();
    void new_engine_wanted();
    void file_wanted();
    void harbour_wanted();
    void exercise_wanted(const QString& theme, int level);

  private:
    void build();
    [[nodiscard]] QWidget* build_top();
    void refill();
    void look_up();
    void show_ways_out();
    void set_aside();
    void copy_out();
    [[nodiscard]] const session::ShopModel::Row* marked() const;

    Context context_;
    session::ShopModel model_;
    bool fresh_ = false; ///< nothing has been written since it was filled
    QPushButton* copy_;  ///< what can be read of a job that is damaged
    QPushButton* aside_;
    QCheckBox* all_;       ///< also what was set aside
    QCheckBox* delivered_; ///< also what has left the shop
    QLineEdit* search_;
    QLabel* heading_;
    QLabel* empty_;
    QListView* list_;
    LineDrawing* machines_;
    DrawnPage* machines_page_;
    LineDrawing* forecasts_;
    DrawnPage* forecasts_page_;
    LineDrawing* practice_;
    DrawnPage* practice_page_;
    FirstStart* first_; ///< what an empty book shows
    PageButtons* buttons_;
    QStackedWidget* pages_;
};

} // namespace pallix::ui
