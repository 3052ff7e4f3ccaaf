// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/demo_shop.h"

#include "session/session.h"
#include "workshop/harbour.h"

namespace pallix::session {

storage::BookResult<void> fill_with_demo(storage::ShopBook& book) {
    for (const workshop::DemoJob& job : workshop::harbour_jobs())
        if (auto created = book.create_job(job.entries); !created)
            return tl::unexpected(created.error());
    for (const block::Instrument& instrument : workshop::harbour_instruments())
        if (auto saved = book.save_instrument(instrument); !saved)
            return saved;
    return {};
}

} // namespace pallix::session
