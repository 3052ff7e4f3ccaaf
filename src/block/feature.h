// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace pallix::block {

enum class FeatureKind { main, cam, dowel, deck, bore, lifter, panrail };

/// "main", "bore", … as files spell it
[[nodiscard]] std::string_view kind_name(FeatureKind kind);

/// A place on the block by its name in files: `main.1`, `cam.2`, `dowel.R.1`, `deck.L`, `bore.R.3`, `panrail`.
struct FeatureId {
    FeatureKind kind{};
    std::string bank; ///< empty where the kind has none
    int number = 0;   ///< from 1 at the front; 0 where the kind has none

    auto operator<=>(const FeatureId&) const = default;

    /// @return the name as files spell it
    [[nodiscard]] std::string text() const;

    /// @return nothing unless the name is spelled exactly as `text` would
    static std::optional<FeatureId> parse(std::string_view name);
};

/// Kinds whose points lie round an inside surface and are fitted by circles, section by section.
constexpr bool is_round(FeatureKind kind) {
    return kind != FeatureKind::deck && kind != FeatureKind::panrail;
}

} // namespace pallix::block
