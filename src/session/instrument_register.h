// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/preferences.h"
#include "session/session.h"

#include <QObject>
#include <optional>
#include <vector>

namespace pallix::session {

/// The shop's instruments, and which of them is in hand for each kind of measuring. A shop that has registered none
/// starts from one of each kind, their uncertainties not stated.
class InstrumentRegister : public QObject {
    Q_OBJECT
  public:
    InstrumentRegister(storage::ShopBook& book, Preferences& preferences, QObject* parent = nullptr);

    [[nodiscard]] const std::vector<block::Instrument>& instruments() const { return instruments_; }
    [[nodiscard]] const block::Instrument* find(const std::string& name) const;
    /// The one last used for this, else the first of the usual kind.
    [[nodiscard]] block::Instrument in_hand(planning::Measuring what) const;

    /// Adds or replaces the instrument of that name; in the book before it is shown.
    [[nodiscard]] Outcome save(const block::Instrument& instrument);
    [[nodiscard]] Outcome remove(const std::string& name);
    void take_in_hand(planning::Measuring what, const std::string& name);

  Q_SIGNALS:
    void changed();

  private:
    void reload();

    storage::ShopBook& book_;
    Preferences& preferences_;
    std::vector<block::Instrument> instruments_;
    bool from_book_ = false; ///< someone has registered instruments
};

} // namespace pallix::session
