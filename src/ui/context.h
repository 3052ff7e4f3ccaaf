// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/gauge_link.h"
#include "session/instrument_register.h"
#include "session/practice_work.h"
#include "session/preferences.h"
#include "session/session.h"
#include "ui/theme.h"
#include "wording/common/lengths.h"
#include "wording/readings/readings.h"

#include <QString>
#include <string>

namespace pallix::ui {

/// What every part of the window is given: nothing in it is global.
struct Context {
    session::Session& session;
    session::Preferences& preferences;
    session::InstrumentRegister& instruments;
    session::GaugeLink& gauge;
    session::PracticeWork& practice;

    [[nodiscard]] const Palette& palette() const { return palette_of(preferences.theme()); }
    [[nodiscard]] wording::LengthText lengths() const { return wording::LengthText(preferences.unit()); }
};

inline QString qt(const std::string& text) {
    return QString::fromStdString(text);
}

/// "cylinder 3", "lifter 2": for a place that says which bank it is on.
inline QString short_name(const Context& context, const block::FeatureId& id) {
    return qt(wording::short_feature_words(context.session.state(), id));
}

} // namespace pallix::ui
