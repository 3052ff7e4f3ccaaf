#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Reads a drawing with an independent library (ezdxf) and prints what it holds.

usage: read_dxf.py FILE
"""
import sys

import ezdxf

doc = ezdxf.readfile(sys.argv[1])
print("unit", doc.header.get("$INSUNITS", 0))
print("errors", len(doc.audit().errors))
for circle in doc.modelspace().query("CIRCLE"):
    print("circle", circle.dxf.layer, *(round(v, 6) for v in (circle.dxf.center.x, circle.dxf.center.y, circle.dxf.radius)))
for text in doc.modelspace().query("TEXT"):
    print("text", text.dxf.text)
