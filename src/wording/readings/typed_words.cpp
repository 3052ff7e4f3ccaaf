// SPDX-License-Identifier: GPL-3.0-or-later
// What is said of a reading as it is typed: what to type, how it was understood, what is asked about it.
#include "wording/common/phrases.h"
#include "wording/readings/readings.h"

#include <cmath>

namespace pallix::wording {

using block::Quantity;

std::string understood_words(const block::Understood& u, Quantity q, const block::Expected& e,
                             const std::string& zero_set_on, const LengthText& l) {
    std::string text = "understood: ";
    if (block::is_bracket(q))
        return text + (u.value > 0 ? l.with_unit(u.value) + " goes in, " : "nothing under ") + l.with_unit(*u.upper) +
               (u.value > 0 ? " does not" : " goes in");
    text += quantity_text(q, u.value, l);
    if (u.by_dial)
        text += ", clockwise is " + std::string(e.clockwise == block::DialSense::smaller ? "smaller" : "larger");
    if (!block::is_length(q) || e.direct)
        return text;
    if (u.relative && e.zero)
        text += ", " + l.plain(std::abs(u.value - *e.zero)) + (u.value < *e.zero ? " smaller" : " larger") +
                " than the zero" + (zero_set_on.empty() ? std::string() : " (" + zero_set_on + ")");
    return text + ", " +
           (l.plain(u.deviation) == l.plain(0) ? "as is expected"
                                               : l.side(u.deviation, "more", "less") + " than is expected");
}

std::string question_about(const block::Understood& u, Quantity q, const block::Expected& e, const LengthText& l) {
    const std::string again = " Enter once more to take it all the same, or type it again.";
    switch (u.suspicion) {
    case block::Suspicion::none:
        return "";
    case block::Suspicion::ten_times:
        if (block::is_bracket(q))
            return "That is ten times more than feelers find: tenths taken for thou?" + again;
        return "That is ten times more than expected: tenths taken for thou? Enter once more to take " +
               (e.direct ? quantity_text(q, u.value, l) : l.side_with_unit(u.deviation, "larger", "smaller")) +
               ", or type it again.";
    case block::Suspicion::other_unit: {
        const LengthText other(l.unit() == block::Unit::mm ? block::Unit::inch : block::Unit::mm);
        return other.with_unit(*u.instead) + "? That would fit. Enter once more to take it so, or type it again.";
    }
    case block::Suspicion::one_turn:
        return "That is one turn of the dial off: slipped zero? " + quantity_text(q, *u.instead, l) + " would fit." +
               again;
    case block::Suspicion::unlike_repeat:
        return "The same place read " + quantity_text(q, *e.repeat, l) + " before, " +
               l.with_unit(std::abs(u.value - *e.repeat)) + " away." + again;
    case block::Suspicion::unlike_neighbours:
        return "The places beside it read about " + quantity_text(q, *e.neighbours, l) + ", " +
               l.with_unit(std::abs(u.value - *e.neighbours)) + " away." + again;
    case block::Suspicion::far:
        break;
    }
    if (!block::is_length(q))
        return "That is " + quantity_text(q, std::abs(u.deviation), l) + " from what is expected." + again;
    return "That is " + l.with_unit(std::abs(u.deviation)) + " from what is expected." + again;
}

std::string what_to_type(Quantity q, const block::Instrument& i, const LengthText& l) {
    switch (q) {
    case Quantity::gap:
    case Quantity::head_gap:
        return l.unit() == block::Unit::inch ? "What goes in, then what does not, in thou: 6 7. Nothing: 0 1."
                                             : "What goes in, then what does not: 0.15 0.20. Nothing: 0 0.05.";
    case Quantity::temperature:
        return "Degrees Celsius, or 68 F.";
    case Quantity::slope:
        return "mm per m, + rising to the rear or outwards (in line: to the right); or thou/ft.";
    case Quantity::saddle:
        return "The saddle against the line of the end mains, whichever way up the block lies: 0.4 thou proud, or 0.4 "
               "thou back (+).";
    case Quantity::sweep:
        return "The indicator, + pushed in.";
    case Quantity::indicator:
        return "The indicator at that corner, + where the block is high.";
    case Quantity::head_height:
        return "The indicator at that place of its face, + where it is high.";
    case Quantity::volume:
        return "Cubic centimetres out of the burette.";
    case Quantity::valve:
        return "How far the valve drops before it meets the piston.";
    case Quantity::piston:
        return "Piston below the deck; − where it stands proud.";
    default:
        break;
    }
    if (block::reads_from_zero(i.kind) && i.zero)
        return i.clockwise == block::DialSense::not_stated
                   ? "The needle: + larger, − smaller than the zero; or the whole value."
                   : "The needle: cw or ccw, + larger, − smaller than the zero; or the whole value.";
    if (block::reads_from_zero(i.kind))
        return "The whole value. Ctrl+H says that it stands zeroed at its target; then the needle will do.";
    return q == Quantity::height ? "A whole height, or its deviation with a sign or in thou, tenths, µm."
                                 : "A whole size, or its deviation with a sign or in thou, tenths, µm.";
}

std::string more_means(Quantity q) {
    switch (q) {
    case Quantity::size:
    case Quantity::outside:
        return "larger";
    case Quantity::wall:
        return "thicker";
    case Quantity::height:
        return "higher";
    case Quantity::saddle:
        return "back of the line";
    case Quantity::sweep:
        return "pushed in";
    case Quantity::indicator:
        return "the block is high";
    case Quantity::head_height:
        return "the head is high";
    case Quantity::piston:
        return "below the deck";
    case Quantity::slope:
        return "rises to the rear, or outwards";
    case Quantity::valve:
        return "drops further";
    case Quantity::gap:
    case Quantity::head_gap:
    case Quantity::volume:
    case Quantity::temperature:
        break;
    }
    return "";
}

} // namespace pallix::wording
