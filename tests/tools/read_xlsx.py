"""Prints a workbook as JSON, by openpyxl: {"sheet": [[cell, …], …], …}; formulas as ["formula", text]."""
import json
import sys

import openpyxl

book = openpyxl.load_workbook(sys.argv[1])
print(json.dumps({
    sheet.title: [[["formula", cell.value] if cell.data_type == "f" else cell.value for cell in row]
                  for row in sheet.iter_rows()]
    for sheet in book}))
