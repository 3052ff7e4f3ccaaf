// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/taught.h"

#include "block/delimited.h"
#include "block/evaluation.h"
#include "block/log_dialect.h"
#include "block/number_text.h"
#include "block/probe_log.h"

#include <algorithm>
#include <boost/math/distributions/students_t.hpp>
#include <cmath>
#include <set>

namespace pallix::planning {

using namespace block;

namespace {

/// What one block says of a figure: a value, and how it scatters within the block where it repeats there.
struct Said {
    double value = 0;                ///< mm or rad
    std::optional<double> deviation; ///< standard deviation of the value, mm
    int freedom = 0;
};

using Figures = std::map<std::string, Said>;

Said mean_of(const std::vector<double>& values) {
    Said said;
    for (const double v : values)
        said.value += v / static_cast<double>(values.size());
    if (values.size() < 2)
        return said;
    double squares = 0;
    for (const double v : values)
        squares += (v - said.value) * (v - said.value);
    said.freedom = static_cast<int>(values.size()) - 1;
    said.deviation = std::sqrt(squares / said.freedom / static_cast<double>(values.size()));
    return said;
}

/// A straight row: places against numbers from 0, by least squares.
struct Row {
    Said first, pitch;
};
Row row_of(const std::vector<std::pair<double, double>>& places) {
    const auto n = static_cast<double>(places.size());
    double mx = 0, my = 0, sxx = 0, sxy = 0;
    for (const auto& [x, y] : places) {
        mx += x / n;
        my += y / n;
    }
    for (const auto& [x, y] : places) {
        sxx += (x - mx) * (x - mx);
        sxy += (x - mx) * (y - my);
    }
    Row row;
    row.pitch.value = sxx > 0 ? sxy / sxx : 0;
    row.first.value = my - row.pitch.value * mx;
    row.pitch.freedom = static_cast<int>(places.size()) - 2;
    if (row.pitch.freedom > 0) {
        double squares = 0;
        for (const auto& [x, y] : places) {
            const double off = y - row.first.value - row.pitch.value * x;
            squares += off * off;
        }
        row.pitch.deviation = std::sqrt(squares / row.pitch.freedom / sxx);
    }
    return row;
}

/// Half the width of the interval that holds the truth in 95 %.
std::optional<double> spread_of(const std::vector<Said>& blocks) {
    double deviation = 0;
    int freedom = 0;
    if (blocks.size() > 1) { // whatever the holes of one block have in common is in its value
        std::vector<double> values;
        values.reserve(blocks.size());
        for (const Said& said : blocks)
            values.push_back(said.value);
        const Said mean = mean_of(values);
        deviation = *mean.deviation;
        freedom = mean.freedom;
    } else if (blocks.front().deviation) {
        deviation = *blocks.front().deviation;
        freedom = blocks.front().freedom;
    }
    if (freedom < 1)
        return std::nullopt;
    const boost::math::students_t t(freedom);
    constexpr double upper = 0.975;
    return boost::math::quantile(t, upper) * deviation;
}

class Teacher {
  public:
    Teacher(std::vector<GoodBlock> blocks, const Recipe& base) : blocks_(std::move(blocks)), base_(base), out_{base} {}

    Result<Taught> run() {
        if (blocks_.empty() || blocks_.front().logs.empty())
            return tl::unexpected(Faults{{"probe log", 0, "no block was probed", "a log of a good block"}});
        if (auto common = find_common(); !common)
            return tl::unexpected(common.error());
        if (auto layout = lay_out(); !layout)
            return tl::unexpected(layout.error());
        std::vector<Figures> said;
        // Angles are measured in the first round, and what hangs on them in the next.
        const int rounds = out_.recipe.figures.contains("lifters") ? 4 : out_.recipe.figures.contains("angle") ? 2 : 1;
        for (int round = 0; round < rounds; ++round) {
            said.clear();
            const auto provisional = draw(out_.recipe, "provisional");
            if (!provisional)
                return tl::unexpected(provisional.error());
            for (const GoodBlock& good : blocks_) {
                const auto figures = read_probe_logs(good.logs, *provisional).and_then([&](const ProbeSet& probe) {
                    return evaluate(*provisional, probe, Detail::without_zones).map([&](const Evaluation& e) {
                        return figures_of(*provisional, e);
                    });
                });
                if (!figures)
                    return tl::unexpected(figures.error());
                said.push_back(*figures);
            }
            for (const auto& [key, one] : said.front())
                take(key, said);
        }
        if (out_.recipe.figures.contains("lifters") && !said.front().contains("lifter_angle"))
            out_.understood.emplace_back("lifters were touched at one depth only: that tells no angle");
        for (const char* key : {"bore", "deck_height", "main_size"}) // needed to draw, and known from nowhere
            if (!said.front().contains(key) && base_.figures.count(key) == 0)
                out_.recipe.figures.erase(key);
        out_.understood.push_back(std::to_string(features_.size()) + " features on " + std::to_string(blocks_.size()) +
                                  (blocks_.size() == 1 ? " block" : " blocks"));
        out_.recipe.lines.clear();
        return std::move(out_);
    }

  private:
    /// By the names in the rows: which features a log holds.
    static std::set<FeatureId> features_in(const GoodBlock& good) {
        std::set<FeatureId> all;
        for (const NamedText& log : good.logs)
            all.merge(look_at_log(log.text, log.file).features);
        return all;
    }
    /// Of a kind all blocks hold the same places, or it is passed over because some were not probed there at all.
    tl::expected<void, Faults> find_common() {
        std::vector<std::set<FeatureId>> held;
        held.reserve(blocks_.size());
        for (const GoodBlock& good : blocks_)
            held.push_back(features_in(good));
        const auto of = [](const std::set<FeatureId>& all, FeatureKind kind) {
            std::set<FeatureId> own;
            std::ranges::copy_if(all, std::inserter(own, own.end()),
                                 [kind](const FeatureId& f) { return f.kind == kind; });
            return own;
        };
        for (const FeatureKind kind : {FeatureKind::main, FeatureKind::cam, FeatureKind::dowel, FeatureKind::deck,
                                       FeatureKind::bore, FeatureKind::lifter, FeatureKind::panrail}) {
            std::set<FeatureId> first;
            bool on_all = true;
            for (std::size_t i = 0; i < held.size(); ++i) {
                const std::set<FeatureId> own = of(held[i], kind);
                on_all = on_all && !own.empty();
                if (!own.empty() && !first.empty() && own != first)
                    return tl::unexpected(Faults{{blocks_[i].logs.front().file, 0,
                                                  "it holds other features than " + blocks_.front().logs.front().file,
                                                  "logs of the same places on each block"}});
                if (first.empty())
                    first = own;
            }
            if (on_all)
                features_.merge(first);
            else if (!first.empty())
                out_.understood.push_back("passed over, as not every block was probed there: " +
                                          std::string(kind_name(kind)));
        }
        for (GoodBlock& good : blocks_)
            for (NamedText& log : good.logs)
                log.text = common_rows(log.text);
        return {};
    }
    /// A log of the contract's form without the rows of what is passed over.
    [[nodiscard]] std::string common_rows(const std::string& text) const {
        std::string out;
        std::optional<std::size_t> column;
        for (std::size_t from = 0; from < text.size();) {
            const std::size_t end = std::min(text.find('\n', from), text.size() - 1) + 1;
            const std::string line = text.substr(from, end - from);
            from = end;
            const auto cells = line.starts_with('#') ? std::vector<std::string>() : cells_of(line, ',');
            const auto heading = std::ranges::find(cells, "feature");
            if (!column && heading != cells.end())
                column = static_cast<std::size_t>(heading - cells.begin());
            else if (column && *column < cells.size())
                if (const auto id = FeatureId::parse(cells[*column]); id && !features_.contains(*id))
                    continue;
            out += line;
        }
        return out;
    }
    [[nodiscard]] int most(FeatureKind kind) const {
        int n = 0;
        for (const FeatureId& id : features_)
            n = id.kind == kind ? std::max(n, id.number) : n;
        return n;
    }
    [[nodiscard]] bool has(FeatureKind kind) const {
        return std::ranges::any_of(features_, [kind](const FeatureId& id) { return id.kind == kind; });
    }
    void stand_in(const std::string& key, const std::string& typed) {
        if (!out_.recipe.figures.contains(key))
            out_.recipe.figures[key] = typed;
    }

    /// A block with these features, whatever its sizes.
    tl::expected<void, Faults> lay_out() {
        std::set<std::string> banks;
        for (const FeatureId& id : features_)
            if (!id.bank.empty())
                banks.insert(id.bank);
        if (most(FeatureKind::main) < 2 || banks.empty() || banks.size() > 2)
            return tl::unexpected(
                Faults{{blocks_.front().logs.front().file, 0,
                        "it holds " + std::to_string(most(FeatureKind::main)) + " mains and " +
                            std::to_string(banks.size()) + " banks",
                        "two mains or more, and one bank or two, by names as main.1, deck.R, bore.R.1"}});
        stand_in("layout", banks.size() == 2 ? "v" : "inline");
        if (banks.size() == 2)
            stand_in("angle", "90");
        const std::string names =
            banks.size() == 2 ? (banks.contains("R") ? "R " : *banks.rbegin() + " ") +
                                    (banks.contains("R") && *banks.begin() == "R" ? *banks.rbegin() : *banks.begin())
                              : *banks.begin();
        if (names != "R L" && names != "C")
            stand_in("banks", names);
        const auto count = [&](FeatureKind kind) { return std::to_string(most(kind)); };
        out_.recipe.figures["mains"] = count(FeatureKind::main);
        if (has(FeatureKind::bore))
            out_.recipe.figures["cylinders"] = count(FeatureKind::bore);
        else
            stand_in("cylinders", std::to_string(std::max(1, most(FeatureKind::main) - 1)));
        if (has(FeatureKind::dowel)) {
            out_.recipe.figures["dowels"] = count(FeatureKind::dowel);
            stand_in("dowel_size", "12 mm");
            const auto first = std::ranges::find(features_, FeatureKind::dowel, &FeatureId::kind);
            stand_in("origin", first->text());
        }
        if (const int each = lifters_each(); each > 0) {
            out_.recipe.figures["lifters"] = std::to_string(each);
            stand_in("lifter_size", "22 mm");
            stand_in("lifter_across", "0");
        }
        if (has(FeatureKind::cam)) {
            stand_in("cam", "120 mm");
            stand_in("cam_size", "50 mm");
        } else {
            stand_in("clocking", has(FeatureKind::panrail) ? "panrail" : "decks");
        }
        for (const auto& [key, typed] : std::initializer_list<std::pair<const char*, const char*>>{
                 {"bore", "90 mm"}, {"pitch", "100 mm"}, {"deck_height", "220 mm"}, {"main_size", "60 mm"}})
            stand_in(key, typed);
        return {};
    }

    /// Of one cylinder; 0 where they are not as many at each.
    [[nodiscard]] int lifters_each() const {
        const int all = most(FeatureKind::lifter), cylinders = most(FeatureKind::bore);
        return cylinders > 0 && all % cylinders == 0 ? all / cylinders : 0;
    }

    [[nodiscard]] Figures figures_of(const Blueprint& drawn, const Evaluation& e) const {
        Figures f;
        std::map<int, std::vector<double>> mains; // sections of one main are one place
        std::vector<double> sizes;
        for (const MainResult& main : e.mains) {
            mains[main.id.number].push_back(main.centre.x);
            sizes.push_back(main.diameter);
        }
        std::vector<std::pair<double, double>> places;
        places.reserve(mains.size());
        for (const auto& [number, xs] : mains)
            places.emplace_back(number - 1, mean_of(xs).value);
        const Row row = row_of(places);
        f["first_main"] = row.first;
        f["main_pitch"] = row.pitch;
        f["main_size"] = {
            mean_of(sizes).value, {}, 0}; // what all holes of a block have in common one block does not tell
        if (e.cam)
            f["cam"] = {std::hypot(e.cam->y, e.cam->z), {}, 0};
        std::vector<double> heights;
        for (const DeckResult& deck : e.decks)
            heights.push_back(deck.height_mean);
        if (!heights.empty())
            f["deck_height"] = {mean_of(heights).value, {}, 0};
        if (e.decks.size() == 2) {
            const double right = e.decks[0].bank_angle + e.decks[0].angle_error(),
                         left = e.decks[1].bank_angle + e.decks[1].angle_error();
            f["angle"] = {std::abs(right - left), {}, 0};
        }
        add_bores(e, f);
        add_dowels(e, f);
        if (const int each = lifters_each(); each > 0)
            add_lifters(drawn, e, each, f);
        return f;
    }

    /// Both banks are taken to be one another's mirror image. An angle is only told by lifters touched at two depths.
    static void add_lifters(const Blueprint& drawn, const Evaluation& e, int each, Figures& f) {
        std::map<std::string, std::map<int, std::vector<std::pair<double, double>>>> rows; // by bank and slot
        std::vector<double> sizes, across, angles;
        for (const HoleResult& lifter : e.lifters) {
            const BankBlueprint* bank = drawn.bank(lifter.id.bank);
            const HoleBlueprint* hole = drawn.hole(lifter.id);
            if (!bank || !hole)
                continue;
            const double side = bank->angle < 0 ? -1 : 1;
            rows[lifter.id.bank][(lifter.id.number - 1) % each].emplace_back((lifter.id.number - 1) / each,
                                                                             lifter.centre.x);
            sizes.push_back(lifter.diameter());
            across.push_back(side * lifter.centre.y);
            if (lifter.levels.size() > 1)
                angles.push_back(side * (hole->angle.value_or(bank->angle) + std::atan(lifter.lean.y)));
        }
        if (sizes.empty())
            return;
        f["lifter_size"] = {mean_of(sizes).value, {}, 0};
        f["lifter_across"] = {mean_of(across).value, {}, 0};
        if (!angles.empty())
            f["lifter_angle"] = {mean_of(angles).value, {}, 0};
        std::vector<double> pitches, pairs;
        for (const auto& [bank, slots] : rows)
            for (const auto& [slot, places] : slots) {
                if (places.size() > 1)
                    pitches.push_back(row_of(places).pitch.value);
                if (slot > 0)
                    pairs.push_back((row_of(places).first.value - row_of(slots.begin()->second).first.value) / slot);
            }
        const std::string right = rows.contains("R") ? "R" : rows.begin()->first;
        f["lifter_first"] = row_of(rows[right].begin()->second).first;
        if (!pitches.empty())
            f["lifter_pitch"] = {mean_of(pitches).value, {}, 0};
        if (!pairs.empty())
            f["lifter_pair"] = {mean_of(pairs).value, {}, 0};
    }

    static void add_bores(const Evaluation& e, Figures& f) {
        std::map<std::string, std::vector<std::pair<double, double>>> banks;
        std::vector<double> sizes;
        for (const HoleResult& bore : e.bores) {
            banks[bore.id.bank].emplace_back(bore.id.number - 1, bore.centre.x);
            sizes.push_back(bore.diameter());
        }
        if (banks.empty())
            return;
        const std::string right = banks.contains("R") ? "R" : banks.begin()->first;
        std::vector<double> pitches;
        std::vector<Row> rows;
        for (const auto& [bank, places] : banks)
            if (places.size() > 1) {
                rows.push_back(row_of(places));
                pitches.push_back(rows.back().pitch.value);
            }
        if (rows.size() == 1)
            f["pitch"] = rows.front().pitch;
        else if (rows.size() > 1)
            f["pitch"] = {mean_of(pitches).value, {}, 0};
        f["bore"] = {mean_of(sizes).value, {}, 0};
        f["first_bore"] = row_of(banks[right]).first;
        for (const auto& [bank, places] : banks)
            if (bank != right)
                f["stagger"] = {row_of(places).first.value - f["first_bore"].value, {}, 0};
    }

    static void add_dowels(const Evaluation& e, Figures& f) {
        std::vector<double> sizes, across;
        std::map<int, double> along;
        for (const DowelResult& dowel : e.dowels) {
            sizes.push_back(dowel.diameter);
            if (dowel.id.bank == e.dowels.front().id.bank) {
                along[dowel.id.number] = dowel.u;
                across.push_back(dowel.v);
            }
        }
        if (sizes.empty())
            return;
        f["dowel_size"] = {mean_of(sizes).value, {}, 0};
        f["dowel_across"] = {mean_of(across).value, {}, 0};
        if (along.size() > 1)
            f["dowel_apart"] = {std::next(along.begin())->second - along.begin()->second, {}, 0};
    }

    /// The figure as the blocks have it together. Limits that stand behind a size already stay those of the sheet.
    void take(const std::string& key, const std::vector<Figures>& blocks) {
        std::vector<Said> said;
        std::vector<double> values;
        said.reserve(blocks.size());
        values.reserve(blocks.size());
        for (const Figures& figures : blocks)
            said.push_back(figures.at(key));
        for (const Said& one : said)
            values.push_back(one.value);
        const double mean = mean_of(values).value;
        const bool angle = key == "angle" || key == "lifter_angle";
        const double shown = angle ? mean / radians_per_degree : mean / mm_per(out_.recipe.unit);
        const double one = angle ? 1e6 : 1e5;
        out_.recipe.figures[key] = short_number(std::round(shown * one) / one);
        out_.recipe.origins[key] = {FigureSource::measured, static_cast<int>(blocks.size()),
                                    angle ? std::nullopt : spread_of(said)};
    }

    std::vector<GoodBlock> blocks_; ///< what all of them hold
    const Recipe& base_;
    Taught out_;
    std::set<FeatureId> features_;
};

} // namespace

std::optional<GoodBlock> as_found(const std::vector<Entry>& entries) {
    const std::vector<bool> gone = struck(entries);
    GoodBlock found;
    for (std::size_t i = 0; i < entries.size(); ++i) {
        const auto* opened = std::get_if<JobOpened>(&entries[i].payload);
        const auto* log = std::get_if<ProbeLogTaken>(&entries[i].payload);
        if (opened)
            found.name = opened->title;
        if (!log || gone[i])
            continue;
        if (!found.logs.empty() && !log->continues)
            break;
        found.logs.push_back({found.name + ", " + log->file, log->text.str()});
    }
    return found.logs.empty() ? std::nullopt : std::optional(std::move(found));
}

Result<Taught> taught_by(const std::vector<GoodBlock>& blocks, const Recipe& base) {
    return Teacher(blocks, base).run();
}

} // namespace pallix::planning
