"""Reads ours.cxf and ours.cgats.txt with independent parsers, records what they found, and writes the CxF file anew.

    cargo run -p warm-blend-interchange --example write_samples
    pip install colour-science==0.4.7 colour-cxf==0.1.1
    python3 by_others.py
"""

import csv
from pathlib import Path

import colour
import colour_cxf

HERE = Path(__file__).parent

with open(HERE / "by_others.csv", "w", newline="") as out:
    rows = csv.writer(out, lineterminator="\n")
    cxf = colour_cxf.read_cxf_from_file(str(HERE / "ours.cxf"))
    for found in cxf.resources.object_collection.object_value:
        spectrum = next(value for value in found.color_values.choice if hasattr(value, "start_wl"))
        rows.writerow(["colour-cxf", found.name, *(f"{float(v):.6f}" for v in spectrum.value)])
    for name, sd in colour.read_sds_from_xrite_file(HERE / "ours.cgats.txt").items():
        # It takes the second word for the name, quotes and all.
        rows.writerow(["colour-science", name.strip('"'), *(f"{v:.6f}" for v in sd.values)])

(HERE / "theirs.cxf").write_bytes(colour_cxf.write_cxf(cxf))
