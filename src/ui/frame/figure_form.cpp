// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/figure_form.h"

#include "block/units.h"
#include "ui/frame/echo.h"
#include "ui/frame/plain_label.h"
#include "ui/theme.h"

#include <QGridLayout>
#include <QLineEdit>
#include <algorithm>

namespace pallix::ui {

FigureForm::FigureForm(Context context, QWidget* parent)
    : QWidget(parent), context_(context), grid_(new QGridLayout(this)) {
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setHorizontalSpacing(6);
    grid_->setVerticalSpacing(6);
}

void FigureForm::add(int row, int column, const QString& label, const char* name, Kind kind, const QString& tip) {
    auto* edit = new QLineEdit(this);
    edit->setObjectName(QString::fromLatin1(name));
    edit->setAccessibleName(label);
    edit->setToolTip(plain_tip(tip));
    edit->setMinimumWidth(72);
    edit->setMaximumWidth(110);
    add_widget(row, column, label, edit);
    connect(edit, &QLineEdit::returnPressed, this, &FigureForm::entered);
    fields_.push_back({name, kind, edit});
}

void FigureForm::add_widget(int row, int column, const QString& label, QWidget* widget) {
    auto* words = new PlainLabel(label, this);
    words->setFont(font_of(Type::small));
    words->setBuddy(widget);
    grid_->addWidget(words, row, 2 * column, Qt::AlignRight | Qt::AlignVCenter);
    grid_->addWidget(widget, row, 2 * column + 1);
}

void FigureForm::fill(const Figures& figures) {
    const auto l = context_.lengths();
    std::string from = l.unit_name() + std::to_string(context_.session.job().value_or(0));
    for (const auto& [name, value] : figures)
        from += ";" + name + (value ? std::to_string(*value) : "");
    if (from == filled_for_)
        return;
    filled_for_ = from;
    for (Field& f : fields_) {
        const auto found = figures.find(f.name);
        if (found == figures.end())
            continue;
        const auto& value = found->second;
        if (!value)
            f.edit->clear();
        else if (f.kind == Kind::length)
            f.edit->setText(qt(l.plain(*value)));
        else
            f.edit->setText(QString::number(f.kind == Kind::degrees ? *value / block::radians_per_degree : *value));
        f.filled = f.edit->text();
        f.exact = value;
    }
}

std::optional<FigureForm::Figures> FigureForm::read(Echo& echo) const {
    Figures figures;
    bool fine = true;
    for (const Field& f : fields_) {
        if (f.edit->text() == f.filled) {
            figures[f.name] = f.exact;
            continue;
        }
        auto value = f.kind == Kind::length    ? echo.length_in(f.edit, fine)
                     : f.kind == Kind::degrees ? echo.number_in(f.edit, fine, {"°"})
                                               : echo.number_in(f.edit, fine);
        if (!fine)
            return std::nullopt;
        if (value && f.kind == Kind::degrees)
            *value *= block::radians_per_degree;
        figures[f.name] = value;
    }
    return figures;
}

QLineEdit* FigureForm::field(const std::string& name) const {
    const auto found = std::ranges::find(fields_, name, &Field::name);
    return found == fields_.end() ? nullptr : found->edit;
}

} // namespace pallix::ui
