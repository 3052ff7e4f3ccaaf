// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/entries/deck_entries.h"
#include "block/entries/tunnel_entries.h"
#include "block/reading.h"
#include "metrology/monte_carlo.h"
#include "planning/common/place.h"
#include "planning/tunnel/tunnel_plan.h"
#include "workshop/block_truth.h"
#include "workshop/machines.h"

#include <map>
#include <string>
#include <utility>
#include <vector>

namespace pallix::workshop {

/// A block that is worked on: what a perfect gauge would read, and what the stand-in machines make of it. Lengths mm.
class SimulatedBlock {
  public:
    /// Worn as blocks are.
    SimulatedBlock(const block::Blueprint& blueprint, std::uint64_t seed);
    /// @param truth that fits the blueprint
    /// @param seed of what its machines do
    SimulatedBlock(block::Blueprint blueprint, const BlockTruth& truth, const MachineHabits& machines,
                   std::uint64_t seed);

    [[nodiscard]] const block::Blueprint& blueprint() const { return blueprint_; }
    /// What is truly at a place: sizes of mains, cylinders and lifters, saddles over the line of the end mains, heights
    /// of decks from the tunnel as it is now, the gap under a straightedge along a line of one, a piston below its
    /// deck, the outside of the sleeve that is to go into a cylinder.
    [[nodiscard]] double truth(const block::MeasuredAt& at) const;
    /// How far the axis of a cylinder or lifter bore lies off the blueprint.
    [[nodiscard]] metrology::Vec2 off_its_place(const block::FeatureId& bore) const { return bores_.at(bore).off; }
    /// A log of the whole block as it is, from how it was found.
    /// @param scatter mm, standard, of a touch
    [[nodiscard]] std::string probe(double scatter, metrology::Deviates& draw) const;

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
    /// @param fresh_edge the tool was looked at, or has a new one
    void bore(const block::FeatureId& bore, double setting, bool fresh_edge = false);
    void hone(const block::FeatureId& bore, int strokes, bool brush);
    /// A sleeve or a bush goes in; a sleeve squeezes the cylinders beside it.
    /// @return mm, that it stands proud of its deck
    double press(const block::FeatureId& bore);
    static constexpr double sleeve_wall = 3;   ///< mm, of every sleeve on the shelf
    static constexpr double bush_inside = 0.1; ///< mm under nominal as it comes

    /// How far a main, or the worst of them, is out of its window; 0 and less is good.
    [[nodiscard]] double main_out(const block::MainBlueprint& main) const;
    [[nodiscard]] double mains_out() const;
    /// Twice the largest distance of a main's middle from their common line.
    [[nodiscard]] double straightness() const;
    [[nodiscard]] const std::vector<planning::Housing>& mains() const { return mains_; }
    /// Height of the deck's lowest and highest place from the tunnel as it is.
    struct DeckStand {
        double low = 0, high = 0, taken = 0, needed = 0; ///< mm; what came off, and what had to for it to be clean
        double clean_at = 0;                             ///< its height then
        bool clean = false;
    };
    [[nodiscard]] DeckStand deck(const std::string& bank) const;
    /// Its lowest and highest place across, so far along the crankshaft; from the front.
    struct DeckAcross {
        double u = 0, low = 0, high = 0; ///< heights over nominal from the tunnel as it is
    };
    [[nodiscard]] std::vector<DeckAcross> deck_along(const std::string& bank) const;

  private:
    [[nodiscard]] const block::HoleBlueprint& hole(const block::FeatureId& id) const { return *blueprint_.hole(id); }
    [[nodiscard]] double size(const block::MeasuredAt& at) const;
    [[nodiscard]] double gap(const block::BankBlueprint& bank, const std::string& line) const;
    [[nodiscard]] double from_tunnel(const block::BankBlueprint& bank, metrology::Vec2 place) const;
    double noise(double spread) { return spread * random_.normal(); }

    block::Blueprint blueprint_;
    MachineHabits machines_;
    metrology::Deviates random_; ///< for what the machines do
    std::vector<planning::Housing> mains_;
    std::map<block::FeatureId, block::BarMark> marks_; ///< of the last pass of the bar
    planning::CentreLine line_; ///< through the middles of the mains, from where the block was found
    planning::CentreLine bar_;  ///< where the bar was set up
    double reach_ = -1;         ///< on diameter, of the hone's stones over the middle of the window
    std::vector<double> sharpness_;
    struct Deck {
        DeckTruth form;
        std::vector<std::pair<metrology::Vec2, double>> places; ///< all over its metal, with their heights as found
        double top = 0, cut = 0; ///< where the cutter first touched, how far it went below
        double found_low = 0;
        /// Passes that the block did not lie flat for.
        struct Tilted {
            double cut = 0, rear = 0; ///< how far below, and how much deeper at the rear end
        };
        std::vector<Tilted> tilted;
        int passes = 0;
        [[nodiscard]] double left_at(metrology::Vec2 place, double as_found, const planning::DeckExtent& extent) const;
    };
    std::map<std::string, Deck> decks_;
    std::map<block::FeatureId, BoreTruth> bores_; ///< and lifters
    std::map<block::FeatureId, double> crowns_;   ///< of the pistons, from the tunnel
};

} // namespace pallix::workshop
