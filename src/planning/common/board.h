// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/drawing/engine.h"
#include "planning/common/blueprint_check.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// Something that looks wrong on the board, until somebody says why it is right.
struct BoardQuestion {
    BlueprintDoubt doubt;
    std::string id;
    std::string why; ///< as it was answered; empty: open
};

/// The drawing board: an engine whose figures are typed one after the other, and what is drawn of it meanwhile.
///
/// A figure is named by its key in the recipe, hole by hole too ("bore.R.2/along"), or by its address among the usual
/// figures ("engine_figures/stroke_mm").
class Board {
  public:
    explicit Board(block::Engine engine = {});

    [[nodiscard]] const block::Engine& engine() const { return engine_; }
    [[nodiscard]] const block::Sketch& sketch() const { return sketch_; }
    [[nodiscard]] const std::vector<BoardQuestion>& questions() const { return questions_; }
    [[nodiscard]] std::size_t open_questions() const;
    /// Everything that there must be is there and can be read.
    [[nodiscard]] bool whole() const { return sketch_.whole() && usual_wrong_.empty(); }

    [[nodiscard]] std::string typed(const std::string& key) const;
    [[nodiscard]] block::FigureOrigin origin(const std::string& key) const;
    /// Why a figure cannot be read; empty where it can.
    [[nodiscard]] std::string wrong(const std::string& key) const;
    [[nodiscard]] bool needed(const std::string& key) const; ///< there must be one, and is none

    /// Whether it says anything of such a block: angles of banks for a V, lifters where there are any.
    [[nodiscard]] bool relevant(const std::string& key) const;

    /// Types a figure. @param from where it comes from; empty text takes it back
    void type(const std::string& key, const std::string& text, block::FigureSource from);
    void set_origin(const std::string& key, const block::FigureOrigin& origin);
    void set_unit(block::Unit unit); ///< of the numbers that name none: they keep their digits
    void answer(const std::string& question, const std::string& why);
    void replace(block::Engine engine); ///< by what came from elsewhere; can be undone
    [[nodiscard]] bool undo();
    [[nodiscard]] bool redo();

    /// All figures in the order of a maker's sheet, the block's and what goes with it.
    [[nodiscard]] static const std::vector<std::string>& keys();
    /// The figures of one hole, bearing or deck, for what is irregular.
    [[nodiscard]] static std::vector<std::string> keys_of(const block::FeatureId& id);
    [[nodiscard]] static bool is_usual(const std::string& key);
    /// Beside its number, and in full.
    [[nodiscard]] static std::string brief_of(const std::string& key);
    [[nodiscard]] static std::string words_of(const std::string& key);
    [[nodiscard]] static std::vector<std::string> choices_of(const std::string& key);
    /// The next that is still missing after this one, round the sheet; the next relevant one where none is.
    [[nodiscard]] std::string next_missing(const std::string& key, bool forward = true) const;
    /// The next relevant one, missing or not.
    [[nodiscard]] std::string next(const std::string& key, bool forward = true) const;

    /// What a hole's own figure is while nobody has stated one: as it is drawn, in the recipe's unit.
    [[nodiscard]] std::string drawn(const std::string& key) const;

  private:
    void remember();
    void redraw();

    block::Engine engine_;
    block::Sketch sketch_;
    std::vector<BoardQuestion> questions_;
    std::map<std::string, std::string> usual_wrong_;
    std::vector<block::Engine> before_, after_;
};

} // namespace pallix::planning
