#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Writes the same sheet of figures and holes as XLSX (by hand, after ECMA-376; or by openpyxl, which writes texts into
the cells) or ODS (by hand, after OASIS OpenDocument 1.2).

usage: write_sheet.py xlsx|openpyxl|ods FILE
"""
import sys
import zipfile
from xml.sax.saxutils import escape

import openpyxl

ROWS = [
    ["Sheet of the lugger", None, None],
    ["layout", "inline", None],
    ["bore", "79 H7", None],
    ["deck height", 8.0394, "in"],
    [None, None, None],
    ["size [in]", "along [mm]", "hole"],
    [2.3228, 0, "main 1"],
    [2.3228, 88, "main 2"],
    [2.3228, 176.5, "main 3"],
    [None, 44, "bore 1"],
    [None, 132, "bore 2"],
]


def xlsx(name):
    texts = []

    def cell(v, row, column):
        at = f'r="{"ABC"[column]}{row + 1}"'
        if v is None:
            return ""
        if isinstance(v, str):
            if v not in texts:
                texts.append(v)
            return f'<c {at} t="s"><v>{texts.index(v)}</v></c>'
        return f"<c {at}><v>{v}</v></c>"

    head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>'
    main = 'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"'
    office = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
    package = "http://schemas.openxmlformats.org/package/2006"
    types = "application/vnd.openxmlformats-officedocument.spreadsheetml"
    rows = "".join(f'<row r="{r + 1}">' + "".join(cell(v, r, c) for c, v in enumerate(row)) + "</row>"
                   for r, row in enumerate(ROWS))
    shared = "".join(f"<si><t>{escape(t)}</t></si>" for t in texts)
    parts = {
        "[Content_Types].xml": f'<Types xmlns="{package}/content-types"><Default Extension="rels" '
        f'ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" '
        f'ContentType="{types}.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" '
        f'ContentType="{types}.worksheet+xml"/><Override PartName="/xl/sharedStrings.xml" '
        f'ContentType="{types}.sharedStrings+xml"/></Types>',
        "_rels/.rels": f'<Relationships xmlns="{package}/relationships"><Relationship Id="rId1" '
        f'Type="{office}/officeDocument" Target="xl/workbook.xml"/></Relationships>',
        "xl/workbook.xml": f'<workbook {main} xmlns:r="{office}"><sheets><sheet name="Sheet1" sheetId="1" r:id="rId1"/>'
        "</sheets></workbook>",
        "xl/_rels/workbook.xml.rels": f'<Relationships xmlns="{package}/relationships"><Relationship Id="rId1" '
        f'Type="{office}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="rId2" '
        f'Type="{office}/sharedStrings" Target="sharedStrings.xml"/></Relationships>',
        "xl/worksheets/sheet1.xml": f"<worksheet {main}><sheetData>{rows}</sheetData></worksheet>",
        "xl/sharedStrings.xml": f'<sst {main} count="{len(texts)}" uniqueCount="{len(texts)}">{shared}</sst>',
    }
    with zipfile.ZipFile(name, "w", zipfile.ZIP_DEFLATED) as z:
        for part, text in parts.items():
            z.writestr(part, head + text)


def by_openpyxl(name):
    book = openpyxl.Workbook()
    for row in ROWS:
        book.active.append(row)
    book.save(name)


def ods(name):
    def cell(v):
        if v is None:
            return "<table:table-cell/>"
        kind = "string" if isinstance(v, str) else "float"
        value = "" if kind == "string" else f' office:value="{v}"'
        return (f'<table:table-cell office:value-type="{kind}"{value}>'
                f"<text:p>{escape(str(v))}</text:p></table:table-cell>")

    body = "".join("<table:table-row>" + "".join(map(cell, row)) + "</table:table-row>" for row in ROWS)
    content = (
        '<?xml version="1.0" encoding="UTF-8"?><office:document-content '
        'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" '
        'xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" '
        'xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" office:version="1.2">'
        f'<office:body><office:spreadsheet><table:table table:name="Sheet1">{body}</table:table>'
        "</office:spreadsheet></office:body></office:document-content>")
    manifest = (
        '<?xml version="1.0" encoding="UTF-8"?><manifest:manifest '
        'xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.2">'
        '<manifest:file-entry manifest:full-path="/" '
        'manifest:media-type="application/vnd.oasis.opendocument.spreadsheet"/>'
        '<manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>')
    with zipfile.ZipFile(name, "w") as z:
        z.writestr("mimetype", "application/vnd.oasis.opendocument.spreadsheet", zipfile.ZIP_STORED)
        z.writestr("content.xml", content)
        z.writestr("META-INF/manifest.xml", manifest)


{"xlsx": xlsx, "openpyxl": by_openpyxl, "ods": ods}[sys.argv[1]](sys.argv[2])
