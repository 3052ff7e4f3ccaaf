#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Writes drawings of decks with an independent library (ezdxf), for the reader's tests.

usage: write_dxf.py KIND VERSION FILE
An invented deck, in mm: four bores of 82 at 94, dowels of 12 at (-30, -40) and (300, -40) from the first bore, an outline
340 by 130 whose corners are rounded by 15, ten bolts of 11.
"""
import math
import sys

import ezdxf

BORES = [(94.0 * i, 0.0) for i in range(4)]
DOWELS = [(-30.0, -40.0), (300.0, -40.0)]
BOLTS = [(-47.0 + 94.0 * i, side * 52.0) for i in range(5) for side in (-1, 1)]
LEFT, RIGHT, HALF, ROUND = -55.0, 337.0, 65.0, 15.0


def deck(space, k=1.0, outline="lines"):
    for x, y in BORES:
        space.add_circle((k * x, k * y), k * 41)
    for x, y in DOWELS:
        space.add_circle((k * x, k * y), k * 6)
    for x, y in BOLTS:
        space.add_circle((k * x, k * y), k * 5.5)
    l, r, h, c = (k * v for v in (LEFT, RIGHT, HALF, ROUND))
    if outline == "lines":  # shuffled, some the other way round
        space.add_line((r, h - c), (r, -h + c))
        space.add_arc((l + c, h - c), c, 90, 180)
        space.add_line((l + c, -h), (r - c, -h))
        space.add_line((r - c, h), (l + c, h))
        space.add_arc((r - c, -h + c), c, 270, 360)
        space.add_line((l, -h + c), (l, h - c))
        space.add_arc((l + c, -h + c), c, 180, 270)
        space.add_arc((r - c, h - c), c, 0, 90)
    else:
        b = math.tan(math.pi / 8)
        points = [(l + c, -h, 0), (r - c, -h, b), (r, -h + c, 0), (r, h - c, b), (r - c, h, 0), (l + c, h, b),
                  (l, h - c, 0), (l, -h + c, b)]
        if outline == "old":
            space.add_polyline2d(points, format="xyb", close=True)
        else:
            space.add_lwpolyline(points, format="xyb", close=True)


def main():
    kind, version, name = sys.argv[1:]
    doc = ezdxf.new(version)
    space = doc.modelspace()
    doc.header["$INSUNITS"] = 4
    if kind == "lines":
        deck(space)
    elif kind == "polyline":
        deck(space, outline="old" if version == "R12" else "light")
        space.add_text("DECK, GROUND")
    elif kind == "inch":
        doc.header["$INSUNITS"] = 1
        deck(space, 1 / 25.4)
    elif kind == "no_unit":
        doc.header["$INSUNITS"] = 0
        deck(space)
    elif kind in ("inserted", "mirrored"):  # a block within a block, turned by 30 degrees; seen from below
        inner = doc.blocks.new("DECK", base_point=(10, 20))
        deck(inner)
        outer = doc.blocks.new("SHEET")
        outer.add_blockref("DECK", (5, 5))
        scale = {"xscale": 1 if kind == "inserted" else -1}
        space.add_blockref("SHEET", (400, -70), dxfattribs={"rotation": 30, **scale})
    elif kind == "many":  # hatching as lines drawn one by one
        deck(space)
        for i in range(50000):
            space.add_line((1000 + i, 0), (1000 + i + 0.4, 7))
    elif kind == "halves":  # circles as two half circles
        deck(space)
        for e in list(space.query("CIRCLE")):
            (x, y, _), r = e.dxf.center, e.dxf.radius
            space.delete_entity(e)
            space.add_lwpolyline([(x - r, y, 1), (x + r, y, 1)], format="xyb", close=True)
    elif kind == "empty":
        pass
    else:
        sys.exit(f"no such kind: {kind}")
    doc.saveas(name)


main()
