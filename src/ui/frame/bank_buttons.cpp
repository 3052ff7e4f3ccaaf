// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/bank_buttons.h"

#include "block/state/intake_state.h"
#include "wording/common/sentences.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QPushButton>
#include <algorithm>

namespace pallix::ui {

BankButtons::BankButtons(Context context, QWidget* parent)
    : QWidget(parent), context_(context), row_(new QHBoxLayout(this)), group_(new QButtonGroup(this)) {
    row_->setContentsMargins(0, 0, 0, 0);
}

void BankButtons::refresh() {
    const auto& banks = intake_of(context_.session.state()).blueprint->banks;
    std::string wanted;
    for (const auto& bank : banks)
        wanted += bank.id + "|";
    if (wanted == built_for_)
        return;
    built_for_ = wanted;
    for (QAbstractButton* old : group_->buttons())
        delete old;
    for (const auto& bank : banks) {
        auto* button = new QPushButton(qt(wording::bank_name(bank)).section(QLatin1Char(' '), 0, 0), this);
        button->setAccessibleName(qt(wording::bank_name(bank)));
        button->setCheckable(true);
        button->setProperty("narrow", true);
        button->setToolTip(tr("Show this bank (Ctrl+B changes)"));
        group_->addButton(button);
        row_->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, id = bank.id] { Q_EMIT chosen(id); });
    }
    setVisible(banks.size() > 1);
}

void BankButtons::press(const std::string& bank) {
    const auto& banks = intake_of(context_.session.state()).blueprint->banks;
    const auto buttons = group_->buttons();
    for (qsizetype i = 0; i < buttons.size(); ++i)
        buttons[i]->setChecked(banks[static_cast<std::size_t>(i)].id == bank);
}

std::string BankButtons::next(const std::string& bank) const {
    const auto& banks = intake_of(context_.session.state()).blueprint->banks;
    const auto here = std::ranges::find(banks, bank, &block::BankBlueprint::id);
    return here == banks.end() || here + 1 == banks.end() ? banks.front().id : (here + 1)->id;
}

} // namespace pallix::ui
