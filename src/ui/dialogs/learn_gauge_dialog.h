// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/gauge_ear.h"
#include "session/key_device.h"
#include "ui/context.h"

#include <QDialog>

class QComboBox;
class QLabel;
class QLineEdit;
class QPlainTextEdit;
class QPushButton;

namespace pallix::ui {

/// Teaches a gauge: how its line is set, what it sends when *send* is pressed three times, and what of that is the
/// number.
class LearnGaugeDialog : public QDialog {
    Q_OBJECT
  public:
    /// @param before what is taught anew; nothing: a gauge that is not known yet
    LearnGaugeDialog(Context context, const QString& address, const std::optional<block::GaugeProfile>& before,
                     QWidget* parent = nullptr);
    [[nodiscard]] block::GaugeProfile profile() const; ///< as the fields have it
    [[nodiscard]] QString address() const;

  private:
    void accept() override;
    void build(QPushButton* press, QPushButton* ask);
    void fill(const block::GaugeProfile& profile);
    void listen();
    void hear();
    void try_pattern();
    void choose_pedal();

    Context context_;
    session::GaugeEar ear_;
    std::unique_ptr<session::KeyWatch> watch_;
    block::LineEnd end_ = block::LineEnd::newline;
    bool written_ = false; ///< somebody has written the pattern since it is listened to
    QLineEdit *name_, *pattern_, *request_;
    QComboBox *address_, *baud_, *parity_, *bits_, *flow_, *unit_, *pedal_;
    QPlainTextEdit* heard_;
    QLabel *tried_, *echo_;
    QPushButton *listen_, *keep_;
};

} // namespace pallix::ui
