"""Writes eseries.csv from the general-purpose package `eseries` (PyPI), as an outside check.

    python3 -m venv venv && venv/bin/pip install eseries==1.2.1 && venv/bin/python make.py
"""
import csv
from importlib.metadata import version

from eseries import E3, E6, E12, E24, E48, E96, E192, find_greater_than_or_equal, find_less_than_or_equal, find_nearest, series

KEYS = {"E3": E3, "E6": E6, "E12": E12, "E24": E24, "E48": E48, "E96": E96, "E192": E192}

with open("eseries.csv", "w", newline="") as f:
    w = csv.writer(f, lineterminator="\n")
    w.writerow(["series", "kind", "input", "below", "nearest", "above", "source"])
    source = f"eseries {version('eseries')} (PyPI)"
    for name, key in KEYS.items():
        for v in series(key):
            w.writerow([name, "member", v, "", "", "", source])
        for v in (1.04, 5.0, 33.3, 137, 1618, 27182, 314159, 9_300_000):
            w.writerow([name, "search", v, f"{find_less_than_or_equal(key, v):.6g}", f"{find_nearest(key, v):.6g}", f"{find_greater_than_or_equal(key, v):.6g}", source])
