// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/report.h"
#include "ui/context.h"
#include "ui/view.h"

#include <functional>
#include <optional>

class QComboBox;
class QLabel;
class QPushButton;
class QTextBrowser;

namespace pallix::ui {

/// The papers of the job as they would be printed now, the passport first.
class PassportView : public View {
    Q_OBJECT
  public:
    explicit PassportView(Context context, QWidget* parent = nullptr);
    void refresh() override;

    /// What is left of the job by what the shop's other jobs took, for the estimate.
    using Hours = std::function<std::optional<planning::HoursLeft>()>;
    void set_hours(Hours hours) { hours_ = std::move(hours); }

    void show_paper(reporting::PaperKind kind);
    void save(); ///< asks for a name; its ending says the form
    void preview_print();
    void hold_against_ledger(); ///< asks for the digest of a paper
    void hold(const QString& digest);
    void give_serial();
    void mark_serial(); ///< asks for the line that was marked
    void set_up_papers();

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    [[nodiscard]] QWidget* build_top();
    void lay_out(); ///< the paper that was made, for the room that there is
    [[nodiscard]] reporting::PaperKind kind() const;
    [[nodiscard]] reporting::PaperWish wish() const;
    [[nodiscard]] reporting::PaperSource source(int picture_scale) const;
    void show_serial();
    void say(const QString& words);
    void fill_machines();

    Context context_;
    Hours hours_;
    QString html_;
    QComboBox* kinds_;
    QComboBox* machine_;
    QPushButton* save_;
    QPushButton* print_;
    QPushButton* serial_;
    QTextBrowser* sheet_;
    QLabel* echo_;
};

} // namespace pallix::ui
