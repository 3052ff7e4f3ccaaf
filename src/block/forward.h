// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Names of what is handed on by reference: a header that only passes a job's state along does not hang on what is in
// it.

namespace pallix::block {

struct Blueprint;
class Folded;
struct BoresState;
struct CardState;
struct CrownReading;
struct DeckMeasurement;
struct DeckState;
struct DecksState;
struct EvaluationState;
struct IntakeState;
struct JobState;
struct KnownFlaw;
struct ReadingsState;
struct TakenCut;
struct TunnelState;

} // namespace pallix::block
