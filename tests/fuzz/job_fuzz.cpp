// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/job_file.h"
#include "block/ledger.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "input.h"
#include "planning/common/assessment.h"
#include "wording/common/sentences.h"
#include "wording/steps/step_words.h"

using namespace pallix;

/// A job that is taken can be folded, judged, said and written again.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto entries = block::read_job(fuzz::text(data, size), "job");
    if (!entries)
        return 0;
    const block::Folded state = block::fold(*entries);
    const planning::Assessment assessment = planning::assess(state);
    const wording::LengthText lengths(block::Unit::mm);
    static_cast<void>(wording::call_text(state, assessment, lengths));
    for (const block::Entry& entry : *entries)
        static_cast<void>(wording::entry_sentence(entry, state, lengths));
    if (intake_of(state).troubles.empty() && !block::read_job(block::write_job(*entries), "again"))
        __builtin_trap();
    return 0;
}
