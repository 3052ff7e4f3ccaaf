// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QDialog>

class QComboBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QListWidget;
class QTabWidget;

namespace pallix::ui {

class InstrumentHistoryDrawing;

/// The shop's instruments: what they are, how sure, what their zero was set on; and what happened to the one that is
/// marked, across jobs: checks, zeros, repeatability tests, repairs, when it is to be checked again.
class InstrumentDialog : public QDialog {
    Q_OBJECT
  public:
    /// @param marked name of the instrument to start with
    InstrumentDialog(Context context, const QString& marked, QWidget* parent = nullptr);
    void show_history_page();

  private:
    QFormLayout* build_form();
    QWidget* build_history();
    void show_history(const block::Instrument& instrument);
    void log_repair();
    void zero_now();
    [[nodiscard]] const block::Instrument* marked() const;
    QLineEdit* field(const char* name, const QString& hint, void (InstrumentDialog::*entered)());
    void fill_list(const QString& marked);
    void show_marked();
    void make_new();
    void save();
    void remove();
    void check_on_ring();
    void test_repeatability();
    /// Reads a field; an empty one is nothing. @return false after telling what is wrong with it
    bool read(QLineEdit* field, block::InstrumentKind kind, std::optional<double>& value);
    void say(const QString& text, bool fault);
    void say(const session::Outcome& outcome, const QString& done);
    [[nodiscard]] block::InstrumentKind chosen_kind() const;
    [[nodiscard]] QString number_text(double value, block::InstrumentKind kind) const;

    Context context_;
    QListWidget* list_;
    QComboBox* kind_ = nullptr;
    QComboBox* clockwise_ = nullptr;
    QLineEdit *name_ = nullptr, *resolution_ = nullptr, *uncertainty_ = nullptr, *turn_ = nullptr,
              *last_check_ = nullptr, *zero_ = nullptr, *zero_on_ = nullptr, *angle_ = nullptr;
    QLineEdit *check_days_ = nullptr, *ring_size_ = nullptr, *ring_reading_ = nullptr, *repeats_ = nullptr,
              *repair_ = nullptr;
    QTabWidget* pages_;
    InstrumentHistoryDrawing* drawing_ = nullptr;
    QListWidget* events_ = nullptr;
    QLabel* record_ = nullptr;
    QLabel* echo_;
};

} // namespace pallix::ui
