// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/background.h"

namespace pallix::session {

QThreadPool& background_pool() {
    static QThreadPool pool;
    constexpr int at_once = 8; // more than there is to do: nothing short waits for something long
    pool.setMaxThreadCount(at_once);
    return pool;
}

} // namespace pallix::session
