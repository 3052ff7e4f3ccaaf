// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/metal.h"

namespace pallix::block {

bool takes_metal(const Payload& payload) {
    return std::holds_alternative<DeckCut>(payload) || std::holds_alternative<CapsCut>(payload) ||
           std::holds_alternative<TunnelPass>(payload) || std::holds_alternative<TunnelCut>(payload) ||
           std::holds_alternative<BoreCut>(payload) || std::holds_alternative<InsertFitted>(payload);
}

} // namespace pallix::block
