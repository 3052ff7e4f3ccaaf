// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"

#include <QWidget>
#include <map>
#include <optional>
#include <string>
#include <vector>

class QGridLayout;
class QLineEdit;

namespace pallix::ui {

class Echo;

/// Labelled fields in a grid, each of a kind of number; filled from the ledger and read as a whole.
class FigureForm : public QWidget {
    Q_OBJECT
  public:
    enum class Kind {
        length,  ///< mm within, shop shorthand in the field
        degrees, ///< rad within
        number,
    };
    using Figures = std::map<std::string, std::optional<double>>; ///< by the field's name

    explicit FigureForm(Context context, QWidget* parent = nullptr);

    void add(int row, int column, const QString& label, const char* name, Kind kind, const QString& tip = {});
    /// A combo or check box among the fields.
    void add_widget(int row, int column, const QString& label, QWidget* widget);
    /// Puts values into the fields when they, the job or the unit differ from what was put there last: what is half
    /// typed stays.
    void fill(const Figures& figures);
    /// @return nothing where a field cannot be read; the echo says which
    [[nodiscard]] std::optional<Figures> read(Echo& echo) const;
    [[nodiscard]] QLineEdit* field(const std::string& name) const;

  Q_SIGNALS:
    void entered(); ///< Return in a field

  private:
    struct Field {
        std::string name;
        Kind kind;
        QLineEdit* edit;
        QString filled{};              ///< the text that stands for…
        std::optional<double> exact{}; ///< …this value: rounding does not creep in by reading it back
    };
    Context context_;
    QGridLayout* grid_;
    std::vector<Field> fields_;
    std::optional<std::string> filled_for_;
};

} // namespace pallix::ui
