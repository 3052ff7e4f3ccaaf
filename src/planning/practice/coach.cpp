// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/practice/coach.h"

#include "planning/common/assessment.h"
#include "planning/tunnel/tunnel_study.h"

#include <algorithm>
#include <initializer_list>

namespace pallix::planning {
namespace {

using namespace block;

constexpr double hair = 0.005; ///< mm more than called for that nobody remarks on (common practice, no source)

bool could_be_done(const Step& step) {
    return step.state == StepState::now || step.state == StepState::ready;
}

class Coach {
  public:
    explicit Coach(const Assessment& assessment) : a_(assessment) {}

    std::vector<Remark> on(const Payload& entry) {
        std::visit([this](const auto& e) { look(e); }, static_cast<const PayloadKinds&>(entry));
        return std::move(remarks_);
    }

  private:
    void look(const GatePassed& p) {
        const bool called = std::ranges::any_of(a_.steps.steps, [&p](const Step& step) {
            const bool of_it = p.about.empty() || (step.about && step.about->text() == p.about) ||
                               p.about == stage_keys[static_cast<std::size_t>(step.stage)];
            return could_be_done(step) && step.kind == StepKind::decide && of_it;
        });
        if (!called && p.rule != Rule::sign_off) // the list itself asks for that decision
            say({RemarkKind::against_rule, p.rule, p.about});
    }
    void look(const StepSkipped& p) { say({RemarkKind::left_out, {}, p.step}); }
    void look(const Reading& r) {
        if (r.confirmed)
            say({RemarkKind::asked_about, {}, r.at.feature.text()});
        const bool wanted = std::ranges::any_of(a_.steps.steps, [&](const Step& step) {
            const bool felt = step.task == Task::feel && is_bracket(r.at.quantity) && step.about &&
                              step.about->bank == r.at.feature.bank;
            const bool of_a_round = step.task == Task::settle && step.about == r.at.feature;
            return could_be_done(step) && (felt || of_a_round || step.place == r.at);
        });
        if (!wanted)
            say({RemarkKind::not_needed, {}, r.at.feature.text()});
    }
    void look(const DeckCut& p) {
        if (!p.head)
            held({Task::cut_deck, Task::flush_deck}, FeatureId{FeatureKind::deck, p.bank, 0}, p.depth);
    }
    void look(const CapsCut& p) {
        const Step* step = called({Task::cut_caps}, {});
        if (!step)
            return say({RemarkKind::not_called, {}, "tunnel", most(p)});
        double over = 0;
        if (a_.tunnel_work.study)
            for (const CapCut& planned : a_.tunnel_work.study->plan.cuts)
                for (const auto& [id, cut] : p.cuts)
                    if (id == planned.id)
                        over = std::max(over, cut - planned.cut);
        if (over > hair)
            say({RemarkKind::too_deep, {}, "tunnel", over});
    }
    void look(const TunnelPass& p) {
        const Step* step = called({Task::hone_tunnel, Task::bore_tunnel}, {});
        if (!step)
            return say({RemarkKind::not_called, {}, "tunnel"});
        const auto strokes = std::ranges::find(step->asks, "strokes", &Ask::key);
        const bool asked = strokes != step->asks.end() && strokes->proposed;
        constexpr double a_few = 1.25;
        if (asked && p.strokes > a_few * *strokes->proposed + 1)
            say({RemarkKind::too_deep, {}, "tunnel"});
        if (p.protrusion && step->number && 2 * (*p.protrusion - *step->number) > hair)
            say({RemarkKind::too_deep, {}, "tunnel", 2 * (*p.protrusion - *step->number)});
    }
    void look(const BoreCut& p) {
        const Step* step = called({Task::bore, Task::hone_bore, Task::cut_lifter}, p.bore);
        if (!step)
            return say({RemarkKind::not_called, {}, p.bore.text()});
        const auto strokes = std::ranges::find(step->asks, "strokes", &Ask::key);
        constexpr double a_few = 1.25;
        if (strokes != step->asks.end() && strokes->proposed && p.strokes > a_few * *strokes->proposed + 1)
            say({RemarkKind::too_deep, {}, p.bore.text()});
        const auto setting = std::ranges::find(step->asks, "setting", &Ask::key);
        const auto aim = setting != step->asks.end() && setting->proposed ? setting->proposed : step->number;
        if (p.setting && aim && *p.setting - *aim > hair)
            say({RemarkKind::too_deep, {}, p.bore.text(), *p.setting - *aim});
    }
    template <class Other>
    void look(const Other&) {}

    void held(std::initializer_list<Task> tasks, const FeatureId& about, double depth) {
        const Step* step = called(tasks, about);
        if (!step)
            say({RemarkKind::not_called, {}, about.text(), depth});
        else if (step->number && depth - *step->number > hair)
            say({RemarkKind::too_deep, {}, about.text(), depth - *step->number});
    }
    /// @param about nothing: whatever it is about
    [[nodiscard]] const Step* called(std::initializer_list<Task> tasks, const std::optional<FeatureId>& about) const {
        const auto found = std::ranges::find_if(a_.steps.steps, [&](const Step& step) {
            return could_be_done(step) && std::ranges::find(tasks, step.task) != tasks.end() &&
                   (!about || step.about == about);
        });
        return found == a_.steps.steps.end() ? nullptr : &*found;
    }
    static double most(const CapsCut& p) {
        double most = 0;
        for (const auto& [id, cut] : p.cuts)
            most = std::max(most, cut);
        return most;
    }
    void say(Remark remark) { remarks_.push_back(std::move(remark)); }

    const Assessment& a_;
    std::vector<Remark> remarks_;
};

} // namespace

std::vector<Remark> remarks_on(const Assessment& before, const Payload& entry) {
    return Coach(before).on(entry);
}

} // namespace pallix::planning
