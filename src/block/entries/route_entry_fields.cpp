// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/entries/entry_fields.h"

namespace pallix::block {
namespace {

void reason(Fields& f, std::string& value) {
    f.text("reason", value);
    f.demand(!value.empty(), "reason", "is empty", "why, in words");
}

void stages(Fields& f, Fields::Key key, std::vector<Stage>& list, Count count) {
    f.list(key, list, count, [&](Stage& stage) { f.choice("", stage, stage_keys); });
    const bool twice = [&] {
        for (std::size_t i = 0; i < list.size(); ++i)
            for (std::size_t j = 0; j < i; ++j)
                if (list[i] == list[j])
                    return true;
        return false;
    }();
    f.demand(!twice, key, "names a stage twice", "each stage once");
}

} // namespace

void fields(Fields& f, GatePassed& p) {
    f.choice("rule", p.rule, rule_keys);
    f.text_if("about", p.about);
    reason(f, p.reason);
}

void fields(Fields& f, RoundOpened& p) {
    f.text("about", p.about);
    f.demand(!p.about.empty(), "about", "is empty", "\"mains\", \"sweep\" or a feature");
    reason(f, p.reason);
}

void fields(Fields& f, ScopeChosen& p) {
    stages(f, "stages", p.stages, {1, stage_keys.size()});
    f.text_if("reason", p.reason);
}

void fields(Fields& f, RouteChosen& p) {
    f.choice("preset", p.preset, route_preset_keys);
    if (!f.left_out("order", p.order.empty()))
        stages(f, "order", p.order, {1, stage_keys.size()});
    else
        p.order.clear();
}

void fields(Fields& f, StepSkipped& p) {
    f.text("step", p.step);
    f.demand(!p.step.empty(), "step", "is empty", "the id of a step");
    reason(f, p.reason);
}

} // namespace pallix::block
