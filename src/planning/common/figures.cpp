// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/figures.h"

#include "block/reading_text.h"
#include "block/shorthand.h"
#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/shop_limits.h"
#include "planning/cylinders/boring.h"
#include "planning/cylinders/cylinder_plan.h"
#include "planning/cylinders/honing.h"
#include "planning/cylinders/texture.h"
#include "planning/decks/milling.h"
#include "planning/decks/pass_plan.h"
#include "planning/lifters/lifter_plan.h"
#include "planning/tunnel/tunnel_study.h"
#include "planning/tunnel/tunnel_work.h"

#include <algorithm>
#include <array>
#include <sstream>

namespace pallix::planning {

using namespace block;

namespace {

constexpr double mm3_per_cm3 = 1000, um_per_mm = 1000;
/// From here on a length is a size, which is typed in shorthand and asked about where it is far from what stands.
constexpr double smallest_size = 5; // mm
constexpr double far_off = 0.1;     // of the size

std::string field_in(std::string_view address, const std::optional<FeatureId>& marked) {
    std::string field(address.substr(std::min(address.size(), address.find('/') + 1)));
    if (const auto star = field.find('*'); star != std::string::npos)
        field.replace(star, 1, marked ? marked->text() : "");
    return field;
}

FigureUnit unit_of(const std::string& field, const FieldValue& value, std::string_view kind) {
    switch (value.kind) {
    case FieldKind::choice:
        return FigureUnit::choice;
    case FieldKind::flag:
        return FigureUnit::flag;
    case FieldKind::text:
        return FigureUnit::text;
    case FieldKind::numbers:
        return FigureUnit::lengths;
    case FieldKind::whole:
        return FigureUnit::number;
    case FieldKind::number:
        break;
    }
    const auto has = [&field](std::string_view part) { return field.find(part) != std::string::npos; };
    if (kind == entry_kind<TextureLimits>)
        return field.starts_with("mr") ? FigureUnit::share : FigureUnit::roughness;
    if (has("_mm3"))
        return FigureUnit::volume;
    if (field.ends_with("_rad")) // a radius is a length
        return FigureUnit::angle;
    if (field.starts_with("ra_"))
        return FigureUnit::roughness;
    return field.ends_with("_mm") || has("_mm.") || has("_mm[") ? FigureUnit::length : FigureUnit::number;
}

double inside(FigureUnit unit, double outside) {
    switch (unit) {
    case FigureUnit::roughness:
        return outside / um_per_mm;
    case FigureUnit::volume:
        return outside * mm3_per_cm3;
    case FigureUnit::angle:
        return outside * radians_per_degree;
    case FigureUnit::share:
        return outside / 100;
    default:
        return outside;
    }
}

using Read = tl::expected<FieldValue, std::string>;

Read read_size(const std::string& typed, double stands, Unit bench, bool sure) {
    const auto read = read_shorthand(typed, {stands, far_off * stands, bench});
    if (!read)
        return tl::unexpected(read.error());
    if (read->suspicion != block::Suspicion::none && !sure)
        return tl::unexpected("\"" + typed + "\" is far from what stands there. Once more if it is meant");
    return FieldValue{.number = read->value};
}

Read read_figure(const Figure& figure, const std::string& typed, Unit bench, bool sure) {
    if (figure.unit == FigureUnit::text)
        return FieldValue{.kind = FieldKind::text, .text = typed};
    if (figure.unit == FigureUnit::lengths) {
        FieldValue list{.kind = FieldKind::numbers};
        std::istringstream parts(typed);
        for (std::string part;
             std::getline(parts, part, bench == Unit::mm && typed.find(';') != std::string::npos ? ';' : ',');) {
            const auto mm = read_length(part, bench);
            if (!mm)
                return tl::unexpected(mm.error());
            list.numbers.push_back(*mm);
        }
        std::ranges::sort(list.numbers);
        return list;
    }
    if (typed.empty())
        return FieldValue{.kind = figure.value.kind};
    if (figure.unit == FigureUnit::length) {
        if (figure.value.number && *figure.value.number >= smallest_size)
            return read_size(typed, *figure.value.number, bench, sure);
        return read_length(typed, bench).map([](double mm) { return FieldValue{.number = mm}; });
    }
    return read_number(typed, {"°", "µm", "cm³", "%", "deg"}).map([&](double number) {
        return FieldValue{.kind = figure.value.kind, .number = inside(figure.unit, number)};
    });
}

Result<Payload> refused(std::string_view address, std::string what) {
    return tl::unexpected(Faults{{std::string(address), 0, std::move(what), ""}});
}

/// "150 stone 0.040; 220 stone 0.015; brush 0": each grit with what it leaves.
Result<Payload> with_grits(HonePlanChosen plan, const std::string& typed, Unit bench) {
    const Abrasive usual = plan.steps.front().abrasive == Abrasive::diamond ? Abrasive::diamond : Abrasive::vitrified;
    std::vector<HonePlanChosen::Step> steps;
    std::istringstream parts(typed);
    for (std::string part; std::getline(parts, part, ';');) {
        const auto first = part.find_first_not_of(' '), last = part.find_last_not_of(' ');
        if (first == std::string::npos)
            continue;
        const std::string step = part.substr(first, last - first + 1);
        const auto space = step.rfind(' ');
        const auto leaves = space == std::string::npos
                                ? tl::expected<double, std::string>(tl::unexpected(std::string()))
                                : read_length(step.substr(space + 1), bench);
        if (!leaves)
            return refused("hone_plan/steps", "each grit with what it leaves, as in \"220 stone 0.015; brush 0\"");
        const std::string grit = step.substr(0, space);
        steps.push_back({grit, grit.find("brush") == std::string::npos ? usual : Abrasive::brush, *leaves});
        // What stands there already keeps all its digits.
        for (const HonePlanChosen::Step& old : plan.steps)
            if (old.grit == grit && std::abs(old.leaves - *leaves) < 5e-4)
                steps.back() = old;
    }
    plan.steps = std::move(steps);
    return Payload(plan);
}

/// "20 40 9.525 180": teeth of the crank's wheel and the cam's, pitch, distance; empty for none.
Result<Payload> with_chain(EngineFigures figures, const std::string& typed, Unit bench) {
    std::istringstream words(typed);
    std::vector<std::string> parts;
    for (std::string part; words >> part;)
        parts.push_back(part);
    figures.overhead_chain.reset();
    if (parts.empty())
        return Payload(figures);
    constexpr const char* expected = "teeth of crank and cam, pitch, distance, as in \"20 40 9.525 180\"";
    if (parts.size() != 4)
        return refused("engine_figures/overhead_chain", expected);
    const auto crank = read_number(parts[0]), cam = read_number(parts[1]);
    const auto pitch = read_length(parts[2], bench), distance = read_length(parts[3], bench);
    if (!crank || !cam || !pitch || !distance)
        return refused("engine_figures/overhead_chain", expected);
    figures.overhead_chain =
        EngineFigures::CamChain{static_cast<int>(*crank), static_cast<int>(*cam), *pitch, *distance};
    return Payload(figures);
}

// Of a dry sleeve, mm on diameter: one to one and a half thou in iron (common practice, no source), tighter and heated
// in aluminium (from memory). Both stand in the sentence of figures, to be changed there.
constexpr double usual_interference_iron = 1.25 * 0.0254, usual_interference_aluminium = 2 * 0.0254;

InsertMeasured insert_of(const JobState& state, const FeatureId& bore) {
    const auto& known = bores_of(state).bore(bore).insert;
    InsertMeasured insert = known ? known->payload : InsertMeasured{};
    insert.bore = bore;
    constexpr std::array levels{"top", "middle", "bottom"};
    constexpr std::array ways{"one way", "the other way"};
    for (std::size_t i = 0; i < insert.outside.size(); ++i) // by the line: newer than what was kept
        if (const auto* read =
                readings_of(state).place(MeasuredAt{bore, Quantity::outside, levels[i / 2], ways[i % 2], {}});
            read && !read->stale())
            insert.outside[i] = read->value;
    if (known || !intake_of(state).blueprint)
        return insert;
    insert.interference = usual_interference_iron;
    if (intake_of(state).blueprint->material == Material::aluminium) {
        insert.parent_modulus = 71000; // N/mm², from memory
        insert.parent_poisson = 0.33;
        insert.interference = usual_interference_aluminium;
    }
    return insert;
}

} // namespace

std::string kind_in(std::string_view address) {
    return std::string(address.substr(0, address.find('/')));
}

double outside(FigureUnit unit, double value) {
    return value / inside(unit, 1);
}

std::optional<Payload> standing(const JobState& state, std::string_view kind, const std::optional<FeatureId>& marked) {
    if (kind == entry_kind<LimitsChosen>)
        return Payload(limits_of(state));
    if (kind == entry_kind<TunnelPolicy>)
        return Payload(tunnel_policy_of(state));
    if (kind == entry_kind<DeckTargetChosen>)
        return Payload(decks_of(state).target);
    if (kind == entry_kind<PassPlanChosen>)
        return Payload(decks_of(state).passes.value_or(usual_passes()));
    if (kind == entry_kind<CutterFitted>)
        return Payload(decks_of(state).cutter ? decks_of(state).cutter->payload : usual_cutter);
    if (kind == entry_kind<GasketChosen>)
        return Payload(
            decks_of(state).gasket.value_or(GasketChosen{GasketKind::composition, usual_ra(GasketKind::composition)}));
    if (kind == entry_kind<EngineFigures>)
        return Payload(decks_of(state).figures);
    if (kind == entry_kind<BalanceCard>)
        return Payload(decks_of(state).balance);
    if (kind == entry_kind<CylinderPlanChosen>)
        return Payload(cylinder_plan_of(state));
    if (kind == entry_kind<PistonsStated>)
        return Payload(pistons_of(state));
    if (kind == entry_kind<HonePlanChosen>)
        return Payload(hone_plan_of(state));
    if (kind == entry_kind<TextureLimits>)
        return Payload(bores_of(state).texture_limits ? bores_of(state).texture_limits->payload : TextureLimits{});
    if (kind == entry_kind<LifterPlanChosen>)
        return Payload(lifter_plan_of(state));
    if (kind == entry_kind<InsertMeasured> && marked)
        return Payload(insert_of(state, *marked));
    return std::nullopt;
}

std::optional<Figure> figure_at(const JobState& state, std::string_view address,
                                const std::optional<FeatureId>& marked) {
    const std::string kind = kind_in(address), field = field_in(address, marked);
    const auto stands = standing(state, kind, marked);
    if (!stands)
        return std::nullopt;
    if (kind == entry_kind<InsertMeasured> && std::ranges::count(still_lacking(*stands), field) > 0)
        return Figure{std::string(address), FigureUnit::length, {}};
    if (address == "hone_plan/steps")
        return Figure{std::string(address), FigureUnit::grits, {.kind = FieldKind::text}};
    if (address == "engine_figures/overhead_chain")
        return Figure{std::string(address), FigureUnit::chain, {.kind = FieldKind::text}};
    const auto value = field_at(*stands, field);
    return value ? std::optional(Figure{std::string(address), unit_of(field, *value, kind), *value}) : std::nullopt;
}

Result<Payload> set_figure(const JobState& state, std::string_view address, const std::optional<FeatureId>& marked,
                           const std::string& typed, Unit bench, bool sure, const Payload* draft) {
    auto figure = figure_at(state, address, marked);
    if (!figure)
        return refused(address, "is no figure of this job");
    Payload stands = draft ? *draft : *standing(state, kind_in(address), marked);
    if (auto* limits = std::get_if<LimitsChosen>(&stands); limits && !draft)
        limits->reason.clear(); // each change has its own
    if (draft)
        figure->value = field_at(*draft, field_in(address, marked)).value_or(figure->value);
    if (figure->unit == FigureUnit::grits)
        return with_grits(std::get<HonePlanChosen>(stands), typed, bench);
    if (figure->unit == FigureUnit::chain)
        return with_chain(std::get<EngineFigures>(stands), typed, bench);
    const Read read = read_figure(*figure, typed, bench, sure);
    if (!read)
        return refused(address, read.error());
    return with_field(stands, field_in(address, marked), *read);
}

Result<Payload> choose_figure(const JobState& state, std::string_view address, const std::optional<FeatureId>& marked,
                              std::size_t choice) {
    if (address == "texture_limits/rings") {
        const auto usual = usual_texture_limits();
        return choice < usual.size() ? Result<Payload>(Payload(usual[choice])) : refused(address, "is no ring pack");
    }
    const auto figure = figure_at(state, address, marked);
    if (!figure || (figure->unit != FigureUnit::choice && figure->unit != FigureUnit::flag))
        return refused(address, "is no choice of this job");
    FieldValue value = figure->value;
    value.number = static_cast<double>(choice);
    Payload chosen = with_field(*standing(state, kind_in(address), marked), field_in(address, marked), value);
    if (auto* gasket = std::get_if<GasketChosen>(&chosen); gasket && address == "gasket/gasket")
        gasket->ra_at_most = usual_ra(gasket->kind); // another gasket wants another face
    return chosen;
}

std::vector<std::string> still_lacking(const Payload& entry) {
    if (const auto* limits = std::get_if<LimitsChosen>(&entry))
        return limits->reason.empty() ? std::vector<std::string>{"reason"} : std::vector<std::string>{};
    const auto* insert = std::get_if<InsertMeasured>(&entry);
    if (!insert)
        return {};
    std::vector<std::string> lacking;
    for (std::size_t i = 0; i < insert->outside.size(); ++i)
        if (insert->outside[i] <= 0)
            lacking.push_back("outside_mm[" + std::to_string(i) + "]");
    for (const auto& [field, value] :
         {std::pair("inside_mm", insert->inside), std::pair("length_mm", insert->length),
          std::pair("interference_mm", insert->interference), std::pair("parent_outside_mm", insert->parent_outside)})
        if (value <= 0)
            lacking.emplace_back(field);
    return lacking;
}

} // namespace pallix::planning
