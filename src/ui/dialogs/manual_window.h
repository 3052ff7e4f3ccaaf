// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QStringList>

class QLineEdit;
class QListWidget;
class QPushButton;
class QTextBrowser;
class QUrl;

namespace pallix::ui {

/// The manual: what there is on the left, one chapter on the right, words to search by above. Stays open beside the
/// work.
class ManualWindow : public QDialog {
    Q_OBJECT
  public:
    explicit ManualWindow(QWidget* parent = nullptr);
    /// @param id of a section; the beginning where there is no such section
    void show_section(const QString& id);
    [[nodiscard]] const QString& section() const { return section_; }

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;

  private:
    void list_contents();
    void search(const QString& typed);
    void follow(const QUrl& link);
    void step_back();
    void scroll_to_section();
    void print();
    void turn_to(const QString& id); ///< without keeping the way back

    QLineEdit* search_;
    QListWidget* list_;
    QTextBrowser* text_;
    QPushButton* back_;
    QString section_;
    QStringList before_; ///< sections that were left, the newest last
    std::size_t chapter_ = static_cast<std::size_t>(-1);
};

} // namespace pallix::ui
