// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QDialog>

class QComboBox;
class QLabel;
class QPushButton;

namespace pallix::ui {

/// A gauge or probe on the line: which one, where to listen, what has arrived.
class GaugeDialog : public QDialog {
    Q_OBJECT
  public:
    explicit GaugeDialog(Context context, QWidget* parent = nullptr);

  private:
    void fill_gauges(const QString& chosen);
    void refresh();
    void switch_connection();
    void learn(bool anew);
    void forget();
    [[nodiscard]] std::optional<block::GaugeProfile> chosen() const; ///< nothing: the gauge protocol
    [[nodiscard]] QString address() const;

    Context context_;
    QComboBox *gauges_, *address_;
    QLabel *state_, *echo_;
    QPushButton *connect_, *take_in_, *change_, *forget_;
    bool sure_ = false; ///< the person was asked about what is doubtful of the log
};

/// Places where a gauge may be, the one used last first; another can be typed.
void fill_ports(QComboBox* ports, const QString& last);
/// What stands in such a list: a port that was chosen, or what was typed.
[[nodiscard]] QString port_in(const QComboBox* ports);

} // namespace pallix::ui
