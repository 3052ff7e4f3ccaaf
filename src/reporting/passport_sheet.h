// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/state/intake_state.h"
#include "reporting/paper_source.h"
#include "reporting/sheet.h"
#include "wording/common/sentences.h"

namespace pallix::reporting {

/// "Mira, 2026-03-02"
[[nodiscard]] inline QString who_and_when(const block::Entry& entry) {
    return q(entry.person) + QStringLiteral(", ") + q(entry.time.substr(0, 10));
}

/// The passport on its way, section by section; each part of the block in a file of its own.
class PassportSheet : public Sheet {
  public:
    explicit PassportSheet(const PaperSource& source) : s_(source), l_(source.lengths) {}

    // passport.cpp
    void front();  ///< the first page
    void limits(); ///< and who set them
    void
    answered_for();     ///< rules that were passed, what was not wanted or done elsewhere, who signed, who was learning
    void forecasts();   ///< against what came
    void instruments(); ///< with their last check
    void photographs();
    void foot();
    // passport_block.cpp
    void tunnel();
    void by_gauge();
    void tunnel_work();
    void datum(); ///< camshaft and dowels
    void positions();
    // passport_decks.cpp
    void decks_found();
    void decks_left();
    void cuts();
    void deck_work();
    void mock_up();
    void balance();
    void verdicts();
    // passport_bores.cpp
    void cylinders();
    void lifters();

  private:
    template <class Choose>
    void decks(const QString& title, Choose choose);
    void texture(const std::string& name, const block::FeatureId& cylinder, QStringList& lines) const;
    [[nodiscard]] const block::Blueprint& blueprint() const { return *intake_of(s_.state).blueprint; }
    [[nodiscard]] QString bank_words(const std::string& bank) const { ///< "right bank: "
        return q(wording::bank_name(*blueprint().bank(bank)) + ": ");
    }
    /// Entries of some kinds that were not struck, each with who and when.
    template <class... Kinds>
    [[nodiscard]] Rows rows_of() const {
        const auto struck = block::struck(s_.entries);
        Rows rows;
        for (std::size_t i = 0; i < s_.entries.size(); ++i)
            if (const block::Entry& entry = s_.entries[i];
                !struck[i] && (std::holds_alternative<Kinds>(entry.payload) || ...))
                rows += row({q(wording::entry_sentence(entry, s_.state, l_)), who_and_when(entry)});
        return rows;
    }

    const PaperSource& s_;
    const wording::LengthText& l_;
};

} // namespace pallix::reporting
