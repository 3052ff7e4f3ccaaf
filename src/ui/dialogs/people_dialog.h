// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/people.h"
#include "ui/context.h"

#include <QDialog>
#include <vector>

class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;

namespace pallix::ui {

/// Who is at the bench, and the people of the shop with their roles and codes. A name that is none of them stands in
/// the ledger as well: a shop of one needs no list.
class PeopleDialog : public QDialog {
    Q_OBJECT
  public:
    explicit PeopleDialog(Context context, QWidget* parent = nullptr);

    void accept() override;

  private:
    void fill();
    void show_person();
    void keep();
    void remove();

    Context context_;
    std::vector<storage::ShopPerson> people_;
    QListWidget* list_;
    QLineEdit *name_, *code_;
    QComboBox* role_;
    QPushButton *keep_, *remove_;
    QLabel* echo_;
};

/// Brings somebody to the bench: who has a code proves it, unless it is a learner.
/// @return whether that person is there now
bool bring_to_bench(const Context& context, const QString& name, QWidget* parent);

} // namespace pallix::ui
