// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/reading.h"

#include <optional>
#include <string>

namespace pallix::test {

/// A blueprint small enough to work out by hand: two mains at x 20 and 120 from the dowel, a cam straight above, one
/// deck 200 high from u 0 to 150, v −50 to 50.
[[nodiscard]] std::string small_blueprint(const std::string& clocking = "cam", const std::string& angle = "0");

/// Writes probe logs touch by touch, already in the block frame (the machine frame then is the block frame).
class LogWriter {
  public:
    explicit LogWriter(std::string head = "# pallix-probe-log: 1\n# unit: mm\n",
                       std::string columns = "setup,feature,level,x,y,z");

    LogWriter& touch(const std::string& feature, metrology::Vec3 p, const std::string& level = "");
    /// A ring about the x axis direction.
    LogWriter& ring_x(const std::string& feature, metrology::Vec3 centre, double radius, int count = 8,
                      const std::string& level = "");
    /// A ring about the z axis direction.
    LogWriter& ring_z(const std::string& feature, metrology::Vec3 centre, double radius, int count = 6);
    /// Deck heights at the four corners and the middle of both ends.
    LogWriter& deck(double height, double rear_over_front = 0, double right_over_left = 0);
    LogWriter& row(const std::string& line);
    [[nodiscard]] const std::string& text() const { return text_; }

  private:
    std::string text_;
};

/// The whole small block, exact.
[[nodiscard]] LogWriter small_log(double deck_height = 200.03, double rear_over_front = 0, double right_over_left = 0);

/// A deck height by hand, with a gauge of that standard uncertainty.
[[nodiscard]] block::Reading height_reading(metrology::Vec2 place, double height, std::optional<double> u = 0.001,
                                            const std::string& bank = "C");
/// A size by hand.
[[nodiscard]] block::Reading size_reading(const std::string& feature, const std::string& level,
                                          const std::string& direction, double size, std::optional<double> u = 0.001);

[[nodiscard]] block::Blueprint read_small_blueprint(const std::string& clocking = "cam",
                                                    const std::string& angle = "0");
[[nodiscard]] block::Result<block::Evaluation>
evaluate_small(const std::string& log, const block::Blueprint& blueprint = read_small_blueprint());

} // namespace pallix::test
