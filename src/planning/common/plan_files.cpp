// SPDX-License-Identifier: GPL-3.0-or-later
// Policies in, plans out.
#include "block/schema.h"
#include "planning/common/correction_plan.h"

#include <algorithm>
#include <array>

namespace pallix::planning {
namespace {

using block::Json;

/// Takes what the schema has passed; lengths come in the file's unit.
class PolicyReader {
  public:
    PolicyReader(const block::JsonDocument& document, const block::Blueprint& blueprint)
        : document_(document), blueprint_(blueprint),
          mm_(block::mm_per(*block::unit_from_name(document.root.value("unit", "mm")))) {}

    block::Result<PlanPolicy> read() {
        PlanPolicy policy;
        if (document_.root.contains("tunnel"))
            read_tunnel(document_.root["tunnel"], policy.tunnel);
        if (document_.root.contains("decks"))
            read_decks(document_.root["decks"], policy.decks);
        if (document_.root.contains("bores"))
            read_bores(document_.root["bores"], policy.bores);
        if (!faults_.empty())
            return tl::unexpected(std::move(faults_));
        return policy;
    }

  private:
    void length(const Json& j, const char* key, double& into) const {
        if (j.contains(key))
            into = j[key].get<double>() * mm_;
    }

    /// The schema has seen to it that it is one of them.
    template <class Enum, std::size_t N>
    static void choice(const Json& j, const char* key, Enum& into, const std::array<const char*, N>& keys) {
        if (j.contains(key))
            into = static_cast<Enum>(std::ranges::find(keys, j[key].get<std::string>()) - keys.begin());
    }

    void read_tunnel(const Json& j, TunnelPolicy& t) const {
        choice(j, "method", t.method, block::tunnel_method_keys);
        if (j.contains("target_diameter"))
            t.target_diameter = j["target_diameter"].get<double>() * mm_;
        length(j, "stock", t.stock);
        t.parting = j.value("parting_deg", 0.0) * block::radians_per_degree;
        choice(j, "caps", t.caps, block::cap_cuts_keys);
        length(j, "max_cap_cut", t.max_cap_cut);
        length(j, "max_rise", t.max_rise);
        length(j, "max_side", t.max_side);
        choice(j, "line", t.line, block::given_line_keys);
    }

    void read_decks(const Json& j, block::DeckTargetChosen& d) {
        choice(j, "school", d.school, block::target_school_keys);
        d.equal = j.value("equal", true);
        if (j.contains("height"))
            d.height = j["height"].get<double>() * mm_;
        if (d.school == block::TargetSchool::height && !d.height)
            faults_.push_back(document_.fault("decks", "decks.school is \"height\" and no height is given",
                                              "decks.height, a length greater than 0"));
    }

    void read_bores(const Json& j, BoresPolicy& b) {
        choice(j, "centre", b.centre, block::centre_school_keys);
        if (b.centre == CentreSchool::limited)
            b.centre = CentreSchool::top;
        if (j.contains("oversizes"))
            for (const Json& oversize : j["oversizes"])
                b.oversizes.push_back(oversize.get<double>() * mm_);
        length(j, "margin", b.margin);
        if (!j.contains("pits"))
            return;
        for (const auto& [name, depth] : j["pits"].items()) {
            const auto id = block::FeatureId::parse(name);
            if (!id || id->kind != block::FeatureKind::bore || !blueprint_.lists(*id))
                faults_.push_back(document_.fault(block::member_address("bores.pits", name),
                                                  "bores.pits names \"" + name + "\"", "a bore of the blueprint"));
            else
                b.pits[*id] = depth.get<double>() * mm_;
        }
    }

    const block::JsonDocument& document_;
    const block::Blueprint& blueprint_;
    double mm_;
    block::Faults faults_;
};

Json number_or_null(const std::optional<double>& value, double unit) {
    return value ? Json(*value / unit) : Json(nullptr);
}

Json tunnel_json(const CorrectionPlan& plan, double unit) {
    const TunnelPlan& t = plan.tunnel;
    Json j{{"feasible", t.feasible}, {"method", block::tunnel_method_keys[static_cast<std::size_t>(t.method)]}};
    if (!t.feasible) {
        constexpr std::array names{"target_diameter", "max_cap_cut", "max_rise", "max_side"};
        Json limits = Json::array();
        for (const TunnelLimit limit : t.limits_to_give)
            limits.push_back(names[static_cast<std::size_t>(limit)]);
        j["left_out"] = t.left_out;
        j["short_by"] = number_or_null(t.short_by, unit);
        j["limits"] = limits;
        return j;
    }
    j["line"] = {{"y0", t.line.y0 / unit}, {"yk", t.line.yk}, {"z0", t.line.z0 / unit}, {"zk", t.line.zk}};
    if (t.method == block::TunnelMethod::bore)
        j["lift"] = t.lift / unit;
    Json cuts = Json::array(), binding = Json::array();
    for (const CapCut& cut : t.cuts)
        cuts.push_back({{"id", cut.id.text()}, {"cut", cut.cut / unit}});
    for (const BindingPoint& b : t.binding)
        binding.push_back({{"id", b.id.text()},
                           {"side", b.cap ? "cap" : "saddle"},
                           {"clock_deg", b.clock / block::radians_per_degree}});
    j["cap_cuts"] = cuts;
    j["max_cap_cut"] = t.max_cap_cut / unit;
    j["rise"] = t.rise / unit;
    j["roll_deg"] = plan.roll / block::radians_per_degree;
    j["left_out"] = t.left_out;
    j["binding"] = binding;
    return j;
}

} // namespace

block::Result<PlanPolicy> read_policy(std::string_view text, const std::string& file,
                                      const block::Blueprint& blueprint) {
    return block::read_document(text, file, block::policy_schema_text)
        .and_then([&](const block::JsonDocument& document) { return PolicyReader(document, blueprint).read(); });
}

std::string plan_json(const CorrectionPlan& plan, block::Unit unit) {
    const double mm = block::mm_per(unit);
    Json j{{"format", "pallix-plan"}, {"version", 1}, {"unit", block::unit_name(unit)}};
    j["tunnel"] = tunnel_json(plan, mm);
    Json decks = Json::array();
    for (const DeckCorrection& d : plan.decks)
        decks.push_back({{"id", d.id.text()},
                         {"target_height", d.target / mm},
                         {"low", d.low / mm},
                         {"high", d.high / mm},
                         {"cut", d.cut() / mm},
                         {"cleans", d.cleans()},
                         {"short_by", d.short_by / mm}});
    j["decks"] = decks;
    Json each = Json::array();
    for (const BoreNeed& b : plan.bores.each)
        each.push_back({{"id", b.id.text()},
                        {"clean", b.clean / mm},
                        {"needed", b.needed / mm},
                        {"oversize", number_or_null(b.oversize, mm)}});
    j["bores"] = {{"oversize", number_or_null(plan.bores.oversize, mm)},
                  {"set_by", plan.bores.set_by ? Json(plan.bores.set_by->text()) : Json(nullptr)},
                  {"each", each}};
    return j.dump(2) + "\n";
}

} // namespace pallix::planning
