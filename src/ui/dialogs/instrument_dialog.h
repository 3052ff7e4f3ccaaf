// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QDialog>

class QComboBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QListWidget;

namespace pallix::ui {

/// The shop's instruments: what they are, how sure, what their zero was set on; checks and repeatability tests of the
/// one that is marked.
class InstrumentDialog : public QDialog {
    Q_OBJECT
  public:
    /// @param marked name of the instrument to start with
    InstrumentDialog(Context context, const QString& marked, QWidget* parent = nullptr);

  private:
    QFormLayout* build_form();
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
    QLineEdit *ring_size_ = nullptr, *ring_reading_ = nullptr, *repeats_ = nullptr;
    QLabel* echo_;
};

} // namespace pallix::ui
