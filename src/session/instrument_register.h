// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/shop/instrument_care.h"
#include "session/preferences.h"
#include "session/session.h"

#include <QObject>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace pallix::session {

/// The shop's instruments, and which of them is in hand for each kind of measuring. A shop that has registered none
/// starts from one of each kind, their uncertainties not stated.
class InstrumentRegister : public QObject {
    Q_OBJECT
  public:
    InstrumentRegister(storage::ShopBook& book, Preferences& preferences, QObject* parent = nullptr,
                       Session::Clock clock = Session::system_clock());

    [[nodiscard]] const std::vector<block::Instrument>& instruments() const { return instruments_; }
    [[nodiscard]] const block::Instrument* find(const std::string& name) const;
    /// The one last used for this, else the first of the usual kind.
    [[nodiscard]] block::Instrument in_hand(planning::Measuring what) const;

    /// Adds or replaces the instrument of that name; in the book before it is shown. A zero of another size, or set on
    /// something else, was set now.
    [[nodiscard]] Outcome save(const block::Instrument& instrument);
    /// Its zero was set just now.
    /// @param celsius of the gauge, where that is known
    [[nodiscard]] Outcome zero(block::Instrument instrument, double at, const std::string& on,
                               std::optional<double> celsius);
    [[nodiscard]] Outcome remove(const std::string& name);
    void take_in_hand(planning::Measuring what, const std::string& name);

    /// All that happened to it, across jobs; read once until something happens again.
    [[nodiscard]] const block::InstrumentHistory& history(const std::string& name) const;
    /// Something happened to an instrument, in no job: time and person are filled in.
    [[nodiscard]] Outcome note(block::InstrumentEvent event);
    /// Somebody else may have changed the register: it is read again, histories too.
    void look_again();
    /// Ledgers have changed: histories are read again.
    void forget_histories() { histories_.clear(); }
    [[nodiscard]] planning::InstrumentRecord record(const block::Instrument& instrument) const;
    /// Why the zero of what is in hand is not to be trusted.
    [[nodiscard]] std::optional<planning::ZeroDoubt> doubt(const block::Instrument& instrument,
                                                           const block::JobState& state) const;

  Q_SIGNALS:
    void changed();

  private:
    void reload();
    [[nodiscard]] Outcome keep(block::Instrument instrument, bool zeroed);

    storage::ShopBook& book_;
    Preferences& preferences_;
    std::vector<block::Instrument> instruments_;
    bool from_book_ = false; ///< someone has registered instruments
    Session::Clock clock_;
    mutable std::map<std::string, block::InstrumentHistory> histories_; ///< by name, as far as they were asked for
};

} // namespace pallix::session
