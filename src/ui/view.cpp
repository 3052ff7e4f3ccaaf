// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/view.h" // gives moc a place to put the base class
