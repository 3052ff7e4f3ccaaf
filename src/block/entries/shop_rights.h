// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/shop_entries.h"

namespace pallix::block {

/// What can be changed of a shop's book beside the ledgers of its jobs.
enum class ShopWork {
    job_list,    ///< jobs set aside, or back
    engines,     ///< revisions, and which are no longer wanted; another shop's book taken in
    log_forms,   ///< how logs of other forms are read
    instruments, ///< the register, but for what comes of measuring: zeros, checks, tests
    limits,      ///< of the whole shop
    usual_ways,  ///< routes, minutes, papers
    people       ///< who is who
};

/// The least role that it takes. What a learner does in a job is guarded there (`planning::guard_learner`).
constexpr Role role_for(ShopWork work) {
    return work < ShopWork::limits ? Role::machinist : Role::owner;
}
constexpr bool suffices(Role role, Role least) {
    return role <= least; // the owner first
}

} // namespace pallix::block
