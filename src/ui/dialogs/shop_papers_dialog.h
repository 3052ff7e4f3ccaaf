// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/shop_papers.h"
#include "ui/context.h"

#include <QDialog>

class QLabel;
class QTableWidget;

namespace pallix::ui {

/// How the shop's papers, serials and labels are and how blocks stand in its machines: one table, typed where it
/// stands, with what comes of each line beside it.
class ShopPapersDialog : public QDialog {
    Q_OBJECT
  public:
    explicit ShopPapersDialog(Context context, QWidget* parent = nullptr);
    void accept() override;

  private:
    void fill(const block::ShopPapers& papers);
    [[nodiscard]] block::Result<block::ShopPapers> typed() const;
    void follow(); ///< what was typed: shows what comes of it, or what is wrong
    void read_file();
    void write_file();

    Context context_;
    QTableWidget* table_;
    QLabel* echo_;
};

} // namespace pallix::ui
