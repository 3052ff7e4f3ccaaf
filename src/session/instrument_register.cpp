// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/instrument_register.h"

#include <algorithm>

namespace pallix::session {

using block::Instrument;

InstrumentRegister::InstrumentRegister(storage::ShopBook& book, Preferences& preferences, QObject* parent)
    : QObject(parent), book_(book), preferences_(preferences) {
    reload();
}

void InstrumentRegister::reload() {
    const auto saved = book_.instruments();
    from_book_ = saved && !saved->empty();
    const auto usual = block::usual_instruments();
    instruments_ = from_book_ ? *saved : std::vector<Instrument>(usual.begin(), usual.end());
}

const Instrument* InstrumentRegister::find(const std::string& name) const {
    const auto found = std::ranges::find(instruments_, name, &Instrument::name);
    return found == instruments_.end() ? nullptr : &*found;
}

Instrument InstrumentRegister::in_hand(planning::Measuring what) const {
    if (const Instrument* chosen = find(preferences_.instrument_for(what).toStdString()))
        return *chosen;
    const auto kind = planning::usual_instrument(what);
    if (const auto usual = std::ranges::find(instruments_, kind, &Instrument::kind); usual != instruments_.end())
        return *usual;
    const auto all = block::usual_instruments();
    return *std::ranges::find(all, kind, &Instrument::kind);
}

Outcome InstrumentRegister::save(const Instrument& instrument) {
    if (const auto fault = block::fault_of(instrument))
        return tl::unexpected(block::Faults{{"instrument", 0, *fault, ""}});
    // The first one saved brings the others along, so that the register does not shrink to it.
    std::vector<Instrument> all = from_book_ ? std::vector<Instrument>() : instruments_;
    std::erase_if(all, [&](const Instrument& i) { return i.name == instrument.name; });
    all.push_back(instrument);
    for (const Instrument& i : all)
        if (const auto saved = book_.save_instrument(i); !saved)
            return tl::unexpected(as_faults(saved.error()));
    reload();
    Q_EMIT changed();
    return {};
}

Outcome InstrumentRegister::remove(const std::string& name) {
    if (instruments_.size() <= 1)
        return tl::unexpected(
            block::Faults{{"instrument", 0, "the last instrument cannot be removed", "at least one in the register"}});
    if (!from_book_)
        for (const Instrument& i : instruments_)
            if (const auto saved = book_.save_instrument(i); !saved)
                return tl::unexpected(as_faults(saved.error()));
    if (const auto removed = book_.remove_instrument(QString::fromStdString(name)); !removed)
        return tl::unexpected(as_faults(removed.error()));
    reload();
    Q_EMIT changed();
    return {};
}

void InstrumentRegister::take_in_hand(planning::Measuring what, const std::string& name) {
    preferences_.set_instrument_for(what, QString::fromStdString(name));
    Q_EMIT changed();
}

} // namespace pallix::session
