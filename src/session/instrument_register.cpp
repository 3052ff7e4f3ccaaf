// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/instrument_register.h"

#include "block/state/readings_state.h"
#include "planning/common/shop_limits.h"

#include <algorithm>
#include <utility>

namespace pallix::session {

using block::Instrument;

InstrumentRegister::InstrumentRegister(storage::ShopBook& book, Preferences& preferences, QObject* parent,
                                       Session::Clock clock)
    : QObject(parent), book_(book), preferences_(preferences), clock_(std::move(clock)) {
    reload();
}

void InstrumentRegister::reload() {
    const auto saved = book_.instruments();
    from_book_ = saved && !saved->empty();
    const auto usual = block::usual_instruments();
    instruments_ = from_book_ ? *saved : std::vector<Instrument>(usual.begin(), usual.end());
}

void InstrumentRegister::look_again() {
    histories_.clear();
    const std::vector<Instrument> before = std::exchange(instruments_, {});
    reload();
    if (before != instruments_)
        Q_EMIT changed();
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

Outcome InstrumentRegister::save(const Instrument& given) {
    const Instrument* known = find(given.name);
    const bool zeroed = given.zero && (!known || known->zero != given.zero || known->zero_set_on != given.zero_set_on);
    Instrument instrument = given;
    if (zeroed)
        instrument.zero_c.reset(); // that was of the zero before
    return keep(std::move(instrument), zeroed);
}

Outcome InstrumentRegister::zero(Instrument instrument, double at, const std::string& on,
                                 std::optional<double> celsius) {
    instrument.zero = at;
    instrument.zero_set_on = on;
    instrument.zero_c = celsius;
    return keep(std::move(instrument), true);
}

/// @param zeroed its zero was set just now
Outcome InstrumentRegister::keep(Instrument instrument, bool zeroed) {
    if (const auto fault = block::fault_of(instrument))
        return tl::unexpected(block::Faults{{"instrument", 0, *fault, ""}});
    if (zeroed)
        instrument.zero_time = clock_();
    // The first one saved brings the others along, so that the register does not shrink to it.
    std::vector<Instrument> all = from_book_ ? std::vector<Instrument>() : instruments_;
    std::erase_if(all, [&](const Instrument& i) { return i.name == instrument.name; });
    all.push_back(instrument);
    for (const Instrument& i : all)
        if (const auto saved = book_.save_instrument(i); !saved)
            return tl::unexpected(as_faults(saved.error()));
    Outcome noted;
    if (zeroed) {
        block::InstrumentEvent event;
        event.instrument = instrument.name;
        event.what = block::InstrumentHappening::zeroed;
        event.size = instrument.zero;
        event.celsius = instrument.zero_c;
        event.words = instrument.zero_set_on;
        noted = note(std::move(event));
    }
    reload();
    Q_EMIT changed();
    return noted;
}

const block::InstrumentHistory& InstrumentRegister::history(const std::string& name) const {
    const auto [known, fresh] = histories_.try_emplace(name);
    if (fresh)
        if (auto read = book_.instrument_history(name))
            known->second = std::move(*read);
    return known->second;
}

Outcome InstrumentRegister::note(block::InstrumentEvent event) {
    event.time = clock_();
    event.person = preferences_.person().toStdString();
    histories_.erase(event.instrument);
    if (const auto added = book_.instrument_histories().add(event); !added)
        return tl::unexpected(as_faults(added.error()));
    return {};
}

planning::InstrumentRecord InstrumentRegister::record(const Instrument& instrument) const {
    return planning::record_of(instrument, history(instrument.name), clock_());
}

std::optional<planning::ZeroDoubt> InstrumentRegister::doubt(const Instrument& instrument,
                                                             const block::JobState& state) const {
    return planning::doubt_zero(instrument, readings_of(state).conditions, clock_(), planning::limits_of(state),
                                history(instrument.name),
                                book_.is_shared() ? preferences_.person().toStdString() : std::string());
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
