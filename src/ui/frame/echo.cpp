// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/echo.h"

#include "block/reading_text.h"

namespace pallix::ui {

Echo::Echo(Context context, const QString& name, QWidget* parent) : PlainLabel(parent), context_(context) {
    setObjectName(name);
    set_type(this, Type::small);
    setWordWrap(true);
    setAlignment(Qt::AlignTop | Qt::AlignLeft);
}

void Echo::show_in(const QString& text, const QColor& colour) {
    QPalette p = palette();
    p.setColor(QPalette::WindowText, colour);
    setPalette(p);
    setText(text);
}

void Echo::say(const QString& text) {
    show_in(text, context_.palette().quiet);
}

void Echo::complain(const QString& text) {
    show_in(text, context_.palette().fails);
}

bool Echo::took(const session::Outcome& outcome) {
    if (!outcome)
        complain(qt(outcome.error().front().text()));
    return outcome.has_value();
}

std::optional<double> Echo::length_in(QLineEdit* field, bool& fine) {
    const QString text = field->text().trimmed();
    if (text.isEmpty())
        return std::nullopt;
    if (const auto mm = block::read_length(text.toStdString(), context_.preferences.unit()))
        return *mm;
    else
        complain((field->accessibleName().isEmpty() ? QString() : field->accessibleName() + QStringLiteral(": ")) +
                 qt(mm.error()));
    field->setFocus();
    fine = false;
    return std::nullopt;
}

std::optional<double> Echo::number_in(QLineEdit* field, bool& fine, std::initializer_list<std::string_view> words) {
    const QString text = field->text().trimmed();
    if (text.isEmpty())
        return std::nullopt;
    if (const auto number = block::read_number(text.toStdString(), words))
        return *number;
    complain(tr("%1: “%2” is no number").arg(field->accessibleName(), text));
    field->setFocus();
    fine = false;
    return std::nullopt;
}

} // namespace pallix::ui
