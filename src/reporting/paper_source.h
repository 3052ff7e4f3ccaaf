// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/instrument_event.h"
#include "block/ledger.h"
#include "block/shop_papers.h"
#include "planning/common/assessment.h"
#include "planning/shop/work_times.h"
#include "wording/common/lengths.h"

#include <QByteArray>
#include <QString>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace pallix::workshop {
struct PracticeResult;
}

namespace pallix::reporting {

/// What the shop's book adds to a job's papers; a paper that is made from a job's file alone goes without.
struct OfBook {
    block::ShopPapers shop{};
    /// The bytes of a picture that the job keeps, by their digest; empty where they are not at hand.
    std::function<QByteArray(const std::string& sha256)> picture{};
    std::map<std::string, block::InstrumentHistory> histories{}; ///< by the name of the instrument
    std::shared_ptr<const workshop::PracticeResult> practice{}; ///< what came of an exercise; null: not reckoned up yet
    bool practice_awaited = false;                              ///< somebody else reckons it up
    std::optional<planning::HoursLeft> hours{};                 ///< by what the shop's other jobs took
};

/// What the papers of a job are made from.
struct PaperSource {
    const block::JobState& state;
    const planning::Assessment& assessment;
    const std::vector<block::Entry>& entries;
    wording::LengthText lengths;
    int picture_scale = 2; ///< pixels of a picture for one of the layout: 1 for the screen, 2 for paper
    QString printed;       ///< the day it is printed, as it shall stand on the sheet
    OfBook of_book{};

    [[nodiscard]] const block::ShopPapers& shop() const { return of_book.shop; }
};

} // namespace pallix::reporting
