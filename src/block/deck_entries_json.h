// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Internal to the block library: entries about decks as JSON. Readers throw Json::exception on what cannot be.

#include "block/deck_entries.h"
#include "block/ledger_json.h"

namespace pallix::block {

[[nodiscard]] Json to_json(const FlawMarked& p);
[[nodiscard]] FlawMarked flaw_from(const Json& j);
[[nodiscard]] Json to_json(const FlawDecided& p);
[[nodiscard]] FlawDecided flaw_decision_from(const Json& j);
[[nodiscard]] Json to_json(const PressureTested& p);
[[nodiscard]] PressureTested pressure_test_from(const Json& j);
[[nodiscard]] Json to_json(const DeckForecastKept& p);
[[nodiscard]] DeckForecastKept forecast_from(const Json& j);
[[nodiscard]] Json to_json(const CutterFitted& p);
[[nodiscard]] CutterFitted cutter_from(const Json& j);
[[nodiscard]] Json to_json(const FinishNoted& p);
[[nodiscard]] FinishNoted finish_from(const Json& j);
[[nodiscard]] Json to_json(const GasketChosen& p);
[[nodiscard]] GasketChosen gasket_from(const Json& j);
[[nodiscard]] Json to_json(const SetUpRead& p);
[[nodiscard]] SetUpRead set_up_from(const Json& j);
[[nodiscard]] Json to_json(const EngineFigures& p);
[[nodiscard]] EngineFigures figures_from(const Json& j);
[[nodiscard]] Json to_json(const HeadWork& p);
[[nodiscard]] HeadWork head_from(const Json& j);

} // namespace pallix::block
