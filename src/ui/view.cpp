// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/view.h"

#include "block/state/intake_state.h"
#include "ui/context.h"

namespace pallix::ui {

QString short_name(const Context& context, const block::FeatureId& id) {
    const auto& blueprint = intake_of(context.session.state()).blueprint;
    const block::HoleBlueprint* hole = blueprint ? blueprint->hole(id) : nullptr;
    return id.kind == block::FeatureKind::bore
               ? QObject::tr("cylinder %1").arg(hole ? hole->cylinder.value_or(id.number) : id.number)
               : QObject::tr("lifter %1").arg(id.number);
}

} // namespace pallix::ui
