"""Prints a CSV file as JSON, by Python's own reader, strictly: [[cell, …], …]."""
import csv
import json
import sys

with open(sys.argv[1], newline="", encoding="utf-8") as file:
    print(json.dumps(list(csv.reader(file, strict=True))))
