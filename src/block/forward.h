// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Names of what is handed on by reference: a header that only passes a job's state along does not hang on what is in
// it.

namespace pallix::block {

struct Blueprint;
struct CrownReading;
struct DeckMeasurement;
struct DeckState;
struct EvaluationState;
struct JobState;
struct KnownFlaw;
struct TakenCut;

} // namespace pallix::block
