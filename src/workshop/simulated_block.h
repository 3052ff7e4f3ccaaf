// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/entries/deck_entries.h"
#include "block/entries/tunnel_entries.h"
#include "block/reading.h"
#include "planning/tunnel/tunnel_plan.h"
#include "workshop/machines.h"
#include "workshop/practice_block.h"

#include <map>
#include <random>
#include <string>
#include <utility>
#include <vector>

namespace pallix::workshop {

/// A block that is worked on: what a perfect gauge would read, and what the stand-in machines make of it. Lengths mm.
class SimulatedBlock {
  public:
    /// Worn as blocks are: mains too large and out of line by hundredths, decks that lean, cylinders worn at the top.
    SimulatedBlock(block::Blueprint blueprint, std::uint64_t seed);

    [[nodiscard]] const block::Blueprint& blueprint() const { return blueprint_; }
    /// What is truly at a place: sizes of mains, cylinders and lifters, saddles over the line of the end mains, heights
    /// of decks from the tunnel as it is now, the gap under a straightedge along a line of one, a piston below its
    /// deck, the outside of the sleeve that is to go into a cylinder.
    [[nodiscard]] double truth(const block::MeasuredAt& at) const;
    /// A log of the whole block as it is, from how it was found.
    /// @param scatter mm, standard, of a touch
    [[nodiscard]] std::string probe(double scatter);

    void cut_caps(const std::vector<std::pair<block::FeatureId, double>>& cuts);
    /// Strokes of the line hone; it finds its line itself.
    void hone_tunnel(int strokes);
    /// Sets a bar up on a line that is told from the saddles of the end mains, as gauges know the block.
    void set_up_bar(const planning::CentreLine& line);
    /// One pass of it, its cutter so far out of its surface.
    void bore_tunnel(double protrusion);
    /// What the last pass of it left to see in a main.
    [[nodiscard]] block::BarMark mark_of(const block::FeatureId& main) const { return marks_.at(main); }
    static constexpr double bar = 50;             ///< mm, its diameter
    static constexpr double bore_stroke = 0.0006; ///< mm on diameter that a stroke of the cylinder hone takes
    /// One pass of a surfacer from where it first touched: all passes together so much under the highest place.
    /// @return where it stayed dark, thinned to what a brush of 8 mm paints
    std::vector<metrology::Vec2> cut_deck(const std::string& bank, double depth);
    /// A cylinder that is worn out: by so much larger.
    void wear_out(const block::FeatureId& bore, double by) { bores_.at(bore).size += by; }
    /// A cylinder or a lifter bore, where its blueprint has it.
    void bore(const block::FeatureId& bore, double setting);
    void hone(const block::FeatureId& bore, int strokes, bool brush);
    /// A sleeve or a bush goes in; a sleeve squeezes the cylinders beside it.
    /// @return mm, that it stands proud of its deck
    double press(const block::FeatureId& bore);
    static constexpr double sleeve_wall = 3;   ///< mm, of every sleeve on the shelf
    static constexpr double bush_inside = 0.1; ///< mm under nominal as it comes

    /// How far the worst main is out of its window; 0 and less is good.
    [[nodiscard]] double mains_out() const;
    /// Height of the deck's lowest and highest place from the tunnel as it is.
    struct DeckStand {
        double low = 0, high = 0, taken = 0, needed = 0; ///< mm; what came off, and what had to for it to be clean
        bool clean = false;
    };
    [[nodiscard]] DeckStand deck(const std::string& bank) const;

  private:
    struct BoreTruth {
        double size = 0, taper = 0, oval = 0;
        metrology::Vec2 off; ///< its axis off the blueprint
        /// At "top", "middle" or "bottom", along the crankshaft; across it `oval` more.
        [[nodiscard]] double along(const std::string& level) const {
            return size + (level == "top" ? taper : level == "middle" ? 0.4 * taper : 0);
        }
    };
    [[nodiscard]] const block::HoleBlueprint& hole(const block::FeatureId& id) const { return *blueprint_.hole(id); }
    [[nodiscard]] double size(const block::MeasuredAt& at) const;
    [[nodiscard]] double gap(const block::BankBlueprint& bank, const std::string& line) const;
    [[nodiscard]] double from_tunnel(const block::BankBlueprint& bank, metrology::Vec2 place) const;
    double noise(double spread) { return std::normal_distribution<double>(0, spread)(random_); }

    block::Blueprint blueprint_;
    std::mt19937_64 random_;
    std::vector<planning::Housing> mains_;
    std::map<block::FeatureId, block::BarMark> marks_; ///< of the last pass of the bar
    planning::CentreLine line_; ///< through the middles of the mains, from where the block was found
    planning::CentreLine bar_;  ///< where the bar was set up
    double reach_ = -1;         ///< on diameter, of the hone's stones over the middle of the window
    std::vector<double> sharpness_;
    struct Deck {
        DeckTruth form;
        std::vector<std::pair<metrology::Vec2, double>> places;
        double top = 0, cut = 0; ///< where the cutter first touched, how far it went below
        double found_low = 0;
    };
    std::map<std::string, Deck> decks_;
    std::map<block::FeatureId, BoreTruth> bores_; ///< and lifters
    std::map<block::FeatureId, double> crowns_;   ///< of the pistons, from the tunnel
};

} // namespace pallix::workshop
