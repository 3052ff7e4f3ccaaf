// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/evaluation.h"
#include "planning/decks/head_work.h"
#include "ui/frame/drawn_page.h"

#include <string>

namespace pallix::ui {

/// How one deck lies, what it was held against, what was taken off it: a line for each.
[[nodiscard]] TwinTable deck_facts(const Context& context, const std::string& bank_id);
/// The same of its head.
[[nodiscard]] TwinTable head_facts(const Context& context, const std::string& bank_id);
/// What was read of a head, from its highest place, as if that lay at the deck's nominal height.
[[nodiscard]] block::SharedPoints head_points(const block::BankBlueprint& bank, const planning::HeadProgress* head);

} // namespace pallix::ui
