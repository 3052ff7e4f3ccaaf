// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/hours_dialog.h"

#include "session/shop_model.h"
#include "ui/dialogs/dialog_end.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"
#include "wording/shop/shop_words.h"

#include <QHeaderView>
#include <QLocale>
#include <QTableWidget>
#include <optional>

namespace pallix::ui {
namespace {

constexpr int name_column = 0, own_column = 1, typed_column = 2;

QTableWidgetItem* fixed_item(const QString& words) {
    auto* item = new QTableWidgetItem(words);
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
    return item;
}

} // namespace

HoursDialog::HoursDialog(Context context, const std::vector<planning::JobHours>& shop, QWidget* parent)
    : QDialog(parent), context_(context), table_(new QTableWidget(this)), echo_(new PlainLabel(this)) {
    set_explained(this, QStringLiteral("view-shop"));
    setWindowTitle(tr("How long work takes here"));
    setMinimumSize(620, 560);
    const planning::TypedTimes typed = session::typed_times(context_.session.book());
    table_->setObjectName(QStringLiteral("usual-minutes"));
    table_->setAccessibleName(tr("minutes by kind of work"));
    table_->setColumnCount(3);
    table_->setRowCount(static_cast<int>(planning::work_keys.size()));
    table_->setHorizontalHeaderLabels({tr("work"), tr("in this shop"), tr("usual, minutes")});
    table_->verticalHeader()->hide();
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    for (int row = 0; row < table_->rowCount(); ++row) {
        const auto work = static_cast<planning::Work>(row);
        const planning::UsualTime known = planning::usual_time(shop, work, {});
        const QString own =
            known.jobs == 0 ? tr("too few jobs")
                            : tr("%1 min, by %2 jobs").arg(QLocale().toString(known.minutes, 'f', 1)).arg(known.jobs);
        const auto given = typed.find(work);
        const double usual = given == typed.end() ? planning::usual_minutes(work) : given->second;
        table_->setItem(row, name_column, fixed_item(qt(wording::work_name(work))));
        table_->setItem(row, own_column, fixed_item(own));
        table_->setItem(row, typed_column, new QTableWidgetItem(QLocale().toString(usual, 'g', 6)));
    }
    auto* column = new QVBoxLayout;
    column->addWidget(table_);
    end_dialog(this, column, echo_, context_, tr("Keep"));
}

/// All or nothing; what is as common practice has it is not kept.
void HoursDialog::accept() {
    std::vector<std::optional<double>> typed;
    for (int row = 0; row < table_->rowCount(); ++row) {
        bool is_number = false;
        const QString text = table_->item(row, typed_column)->text().trimmed();
        const double minutes = QLocale().toDouble(text, &is_number);
        if (!text.isEmpty() && !(is_number && minutes > 0 && minutes <= storage::longest_usual)) {
            echo_->setText(tr("\"%1\" is no time for a piece of work: minutes, at most a week.").arg(text));
            return table_->setCurrentCell(row, typed_column);
        }
        const bool as_usual = text.isEmpty() || minutes == planning::usual_minutes(static_cast<planning::Work>(row));
        typed.push_back(as_usual ? std::nullopt : std::optional(minutes));
    }
    auto usual = context_.session.book().usual();
    for (std::size_t i = 0; i < typed.size(); ++i)
        if (const auto kept = usual.keep_minutes(planning::work_keys[i], typed[i]); !kept)
            return echo_->setText(kept.error().what);
    QDialog::accept();
}

} // namespace pallix::ui
