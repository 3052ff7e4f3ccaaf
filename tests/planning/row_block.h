// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/ledger.h"
#include "block/small_block.h"
#include "block/state/fold.h"

namespace pallix::test {

/// An inline block with four cylinders of 80 and two lifters of 22 beside a cam that stands 100 above the mains.
[[nodiscard]] std::string row_blueprint(const std::string& material = "grey_iron");

[[nodiscard]] block::FeatureId bore_id(int number);
[[nodiscard]] block::FeatureId lifter_id(int number);

/// The ledger of a job on that block, entry by entry.
class RowJob {
  public:
    explicit RowJob(const std::string& material = "grey_iron");

    void add(block::Payload payload, const std::string& time = "2026-03-02T09:00:00Z");
    /// Three levels, both ways.
    void sizes(const block::FeatureId& id, double size, const std::string& time = "2026-03-02T09:00:00Z");
    void cut(int bore, block::BoreOperation operation, double target, std::optional<double> setting = {},
             bool new_edge = false);
    [[nodiscard]] block::Folded state() const { return block::fold(entries_); }
    [[nodiscard]] const std::vector<block::Entry>& entries() const { return entries_; }

  private:
    std::vector<block::Entry> entries_;
};

/// One bore at its rough size, torque plate on; pistons of 80.45 with 0.05: finish 80.50.
[[nodiscard]] RowJob rough_bored(const std::string& material = "grey_iron");

/// A bore as a probe has it: two rings, the upper one about `top`, the lower one about `bottom`.
[[nodiscard]] block::HoleResult probed_bore(const block::FeatureId& id, metrology::Vec2 top, double top_diameter,
                                            metrology::Vec2 bottom, double bottom_diameter);

} // namespace pallix::test
