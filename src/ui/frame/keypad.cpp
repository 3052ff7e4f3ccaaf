// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/keypad.h"

#include "ui/theme.h"

#include <QApplication>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QPushButton>
#include <array>

namespace pallix::ui {
namespace {

constexpr int side = 64; // px at 100 %, of a key
constexpr QChar minus(0x2212);

QLineEdit* field_with_caret() {
    return qobject_cast<QLineEdit*>(QApplication::focusWidget());
}

} // namespace

Keypad::Keypad(QWidget* parent) : QWidget(parent) {
    setObjectName(QStringLiteral("keypad"));
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(4);
    constexpr std::array<std::array<int, 2>, 10> digits{
        {{2, 3}, {2, 0}, {2, 1}, {2, 2}, {1, 0}, {1, 1}, {1, 2}, {0, 0}, {0, 1}, {0, 2}}}; // row and column of 0 … 9
    for (std::size_t digit = 0; digit < digits.size(); ++digit) {
        const QString face = QString::number(digit);
        add(digits[digit][0], digits[digit][1], face, face.toLatin1().constData(), [this, face] { type(face); });
    }
    add(0, 3, QStringLiteral("+ −"), "sign", [this] { turn_sign(); });
    add(1, 3, QStringLiteral("."), "point", [this] { type(QStringLiteral(".")); });
    add(0, 4, tr("thou"), "thou", [this] { type(tr(" thou")); });
    add(1, 4, tr("tenths"), "tenths", [this] { type(tr(" tenths")); });
    add(2, 4, tr("mm"), "mm", [this] { type(tr(" mm")); });
    add(0, 5, tr("erase"), "erase", [this] { send(Qt::Key_Backspace); });
    add(1, 5, tr("space"), "space", [this] { type(QStringLiteral(" ")); });
    add(2, 5, tr("Enter"), "enter", [this] { send(Qt::Key_Return); });
}

void Keypad::add(int row, int column, const QString& face, const char* name, std::function<void()> pressed) {
    auto* key = new QPushButton(face, this);
    key->setObjectName(QStringLiteral("key-") + QString::fromLatin1(name));
    key->setFocusPolicy(Qt::NoFocus); // the caret stays where it is
    key->setAutoRepeat(row == 0 && column == 5);
    set_type(key, face.size() == 1 ? Type::call : Type::text, true);
    fix_size(key, side, side);
    static_cast<QGridLayout*>(layout())->addWidget(key, row, column);
    connect(key, &QPushButton::clicked, this, std::move(pressed));
}

void Keypad::type(const QString& text) {
    if (!field_with_caret())
        Q_EMIT field_wanted();
    if (QLineEdit* field = field_with_caret())
        field->insert(text);
}

/// Of what stands in the field: minus, and plus again.
void Keypad::turn_sign() {
    if (!field_with_caret())
        Q_EMIT field_wanted();
    QLineEdit* field = field_with_caret();
    if (!field)
        return;
    QString text = field->hasSelectedText() ? QString() : field->text();
    if (text.startsWith(minus) || text.startsWith(QLatin1Char('-')))
        text.remove(0, 1);
    else
        text.prepend(minus);
    field->setText(text);
}

void Keypad::send(Qt::Key key) {
    if (!QApplication::focusWidget())
        Q_EMIT field_wanted();
    if (QWidget* to = QApplication::focusWidget()) {
        QKeyEvent press(QEvent::KeyPress, key, Qt::NoModifier), release(QEvent::KeyRelease, key, Qt::NoModifier);
        QApplication::sendEvent(to, &press);
        QApplication::sendEvent(to, &release);
    }
}

} // namespace pallix::ui
