// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/book_papers.h"

#include "block/state/readings_state.h"

namespace pallix::session {

reporting::OfBook of_book(const storage::ShopBook& book, const block::JobState& state) {
    reporting::OfBook of;
    of.shop = book.usual().papers().value_or(block::ShopPapers());
    of.picture = [&book](const std::string& sha256) {
        return book.pictures().picture(QString::fromStdString(sha256)).value_or(QByteArray());
    };
    for (const block::TakenReading& reading : readings_of(state).readings)
        if (const std::string& name = reading.reading.instrument.name; !of.histories.contains(name))
            of.histories[name] = book.instrument_history(name).value_or(block::InstrumentHistory());
    return of;
}

} // namespace pallix::session
