#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Writes X3P files from the standard's elements alone, for the reader's tests.

usage: write_x3p.py KIND FILE
A wave of 1 µm and 0.25 mm, 4 mm long, a point each 2 µm, in metres as the standard has it.
KIND: D, F, L, I (numbers of the binary), list, absolute (places in the binary), or a thing that is wrong:
surface, gap, checksum, xml-checksum, short, uneven, broken, foreign, no-data
"""
import hashlib
import math
import struct
import sys
import zipfile

kind, name = sys.argv[1:]
POINTS, STEP = 2001, 2e-6
heights = [1e-6 * math.sin(2 * math.pi * i * STEP / 0.25e-3) for i in range(POINTS)]
places = [i * STEP + (1e-6 if kind == "uneven" and i == 700 else 0) for i in range(POINTS)]
code = {"F": "f", "L": "i", "I": "h"}.get(kind, "d")
increment = {"L": 1e-13, "I": 1e-10}.get(kind, 1.0)
absolute = kind in ("absolute", "uneven")

data = b""
for x, z in zip(places, heights):
    if absolute:
        data += struct.pack("<d", x)
    data += struct.pack("<" + code, round(z / increment) if code in "ih" else z)
if kind == "short":
    data = data[:-8]
valid = bytearray([255] * ((POINTS + 7) // 8))
valid[100 // 8] &= ~(1 << (100 % 8))
lines = 3 if kind == "surface" else 1

record3 = f"<MatrixDimension><SizeX>{POINTS}</SizeX><SizeY>{lines}</SizeY><SizeZ>1</SizeZ></MatrixDimension>"
if kind == "list":
    record3 += "<DataList>" + "".join(f"<Datum>{z!r}</Datum>" for z in heights) + "</DataList>"
elif kind != "no-data":
    checksum = hashlib.md5(data + (b"x" if kind == "checksum" else b"")).hexdigest()
    record3 += f"<DataLink><PointDataLink>bindata/data.bin</PointDataLink><MD5ChecksumPointData>{checksum}</MD5ChecksumPointData>"
    if kind == "gap":
        record3 += f"<ValidPointsLink>bindata/valid.bin</ValidPointsLink><MD5ChecksumValidPoints>{hashlib.md5(valid).hexdigest()}</MD5ChecksumValidPoints>"
    record3 += "</DataLink>"


def axis(which, how, letter, step):
    return f"<{which}><AxisType>{how}</AxisType><DataType>{letter}</DataType><Increment>{step!r}</Increment><Offset>0</Offset></{which}>"


root = "mesh" if kind == "foreign" else "p:ISO5436_2"
xml = f"""<?xml version="1.0" encoding="UTF-8"?>
<{root} xmlns:p="http://www.opengps.eu/2008/ISO5436_2">
<Record1><Revision>ISO5436 - 2000</Revision><FeatureType>{"SUR" if kind == "surface" else "PRF"}</FeatureType><Axes>
{axis("CX", "A" if absolute else "I", "D", 1.0 if absolute else STEP)}
{axis("CY", "I", "D", 1.0)}
{axis("CZ", "A", {"F": "F", "L": "L", "I": "I"}.get(kind, "D"), increment)}
</Axes></Record1>
<Record2><Date>2026-05-04T08:00:00</Date><Instrument><Manufacturer>invented</Manufacturer></Instrument></Record2>
<Record3>{record3}</Record3>
<Record4><ChecksumFile>md5checksum.hex</ChecksumFile></Record4>
</{root if kind != "broken" else "p:ISO"}>
""".encode()
with zipfile.ZipFile(name, "w", zipfile.ZIP_DEFLATED) as x3p:
    x3p.writestr("main.xml", xml)
    stated = hashlib.md5(xml + (b" " if kind == "xml-checksum" else b"")).hexdigest()
    x3p.writestr("md5checksum.hex", f"{stated} *main.xml\n")
    if kind not in ("list", "no-data"):
        x3p.writestr("bindata/data.bin", data)
    if kind == "gap":
        x3p.writestr("bindata/valid.bin", bytes(valid))
