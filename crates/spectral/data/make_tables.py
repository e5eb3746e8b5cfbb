"""Makes the weighting tables of `src/light/weights.rs` and the check values of `tests/data/`.

Run once by hand; nothing at build or test time needs Python.

    python -m venv v && v/bin/pip install colour-science==0.4.7 numpy
    v/bin/python crates/spectral/data/make_tables.py

Sources, all as shipped by colour-science 0.4.7 (PyPI):
  CIE 1931 2 degree observer, 1 nm, 360-830 nm        CIE 015:2018, table 1
  A, D50, D65, D75, 5 nm                              CIE 015:2018, tables 5-7
  FL11, 5 nm                                          CIE 015:2018, table 10
  LED-B1, LED-B3, 5 nm                                CIE 015:2018, table 12
  measured reflectances: the CIE 13.3 test colour samples 1-14 (5 nm) and 24 chart patches
  measured by N. Ohta (1997), 380-780 nm by 5 nm.

`src/smoothest/steps.rs` holds a statistic of measured reflectances, not the reflectances: the 99 colour
evaluation samples of CIE 224:2017 (those of IES TM-30), the 14 of CIE 13.3, the 30 of two versions of the colour
quality scale of the US bureau of standards, Ohta's 24 and 30 more chart patches, all as shipped by the
same package (licence: BSD-3-Clause).

Weights (in the manner of ASTM E308 and E2022): the reflectance between two bands is the cubic
Lagrange polynomial through the four nearest bands (a quadratic through three in the first and
the last interval), so every fine-step product S(l) cmf(l) is shared out over the bands it was
interpolated from; then what falls outside 380-730 nm is added to the end bands.
The fine step is 1 nm for A and the daylights (5 nm data joined linearly, ISO/CIE 11664-2), and 5 nm
for the LEDs and the tube, whose published values are 5 nm sums.
"""

import warnings

warnings.filterwarnings("ignore")
from pathlib import Path

import colour
import numpy as np

HERE = Path(__file__).resolve().parent
BANDS = np.arange(380, 731, 10)
FULL = np.arange(360, 781, 10)
LIGHTS = {
    "D65": ("D65", 1),
    "D50": ("D50", 1),
    "D75": ("D75", 1),
    "A": ("A", 1),
    "LED_B1": ("LED-B1", 5),
    "LED_B3": ("LED-B3", 5),
    "FL11": ("FL11", 5),
}
CMFS = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"]


def fine(name, step):
    """Wavelengths, power and observer of a light at its fine step, over 360-780 nm."""
    wl = np.arange(360, 781, step)
    sd = colour.SDS_ILLUMINANTS[name]
    if name == "A":  # Planck at the standard's constants, ISO/CIE 11664-2
        c2, t = 1.435e7, 2848.0
        power = 100 * (560.0 / wl) ** 5 * (np.expm1(c2 / (t * 560)) / np.expm1(c2 / (t * wl)))
    else:
        power = np.interp(wl, sd.wavelengths, sd.values, left=0, right=0)
    i = np.searchsorted(CMFS.wavelengths, wl)
    return wl, power, CMFS.values[i]


def lagrange(wl):
    """Weights of the FULL grid in the reflectance at `wl`."""
    row = np.zeros(len(FULL))
    j = int(np.clip((wl - FULL[0]) // 10, 0, len(FULL) - 2))
    first = 0 if j == 0 else len(FULL) - 3 if j == len(FULL) - 2 else j - 1
    nodes = range(first, first + (3 if j in (0, len(FULL) - 2) else 4))
    for a in nodes:
        row[a] = np.prod([(wl - FULL[b]) / (FULL[a] - FULL[b]) for b in nodes if b != a])
    return row


def weights(name, step):
    """36 x 3 weights; their sums are the XYZ of the light, Y = 1."""
    wl, power, cmf = fine(name, step)
    product = power[:, None] * cmf
    table = np.array([lagrange(w) for w in wl]).T @ product
    table /= product[:, 1].sum()
    lo, hi = np.searchsorted(FULL, 380), np.searchsorted(FULL, 730)
    out = table[lo : hi + 1].copy()
    out[0] += table[:lo].sum(axis=0)
    out[-1] += table[hi + 1 :].sum(axis=0)
    return out


def reflectances():
    """Named measured reflectances on 380-780 nm by 5 nm."""
    from colour.quality.datasets.tcs import SDS_TCS

    wl = np.arange(380, 781, 5)
    out = {}
    for name, sd in SDS_TCS["CIE 1995"].items():
        out[name] = np.interp(wl, sd.wavelengths, sd.values)
    ohta = next(v for k, v in colour.SDS_COLOURCHECKERS.items() if k.endswith("N Ohta"))
    for n, sd in enumerate(ohta.values(), 1):
        assert list(sd.wavelengths) == list(wl)
        out[f"Ohta {n}"] = sd.values
    return wl, out


def bandpass(values):
    """What an instrument of 10 nm triangular bandpass reads: takes out the rounding noise of 5 nm data."""
    padded = np.pad(values, 1, mode="edge")
    return padded[:-2] / 4 + padded[1:-1] / 2 + padded[2:] / 4


def integrate(wl5, values, name, step):
    """Lab by direct summation at the fine step, with no 10 nm table anywhere."""
    wl, power, cmf = fine(name, step)
    keep = (wl >= 380) & (wl <= 780)
    wl, power, cmf = wl[keep], power[keep], cmf[keep]
    sd = colour.SpectralDistribution(dict(zip(wl5, values)))
    r = values if step == 5 else sd.interpolate(colour.SpectralShape(380, 780, 1)).values
    product = power[:, None] * cmf
    white = product.sum(axis=0) / product[:, 1].sum()
    xyz = (product * r[:, None]).sum(axis=0) / product[:, 1].sum()
    lab = colour.XYZ_to_Lab(xyz, colour.XYZ_to_xy(white))
    return xyz, lab


def steps():
    """The covariance of the steps of z = artanh(2R - 1) from band to band, over all measured surfaces.

    Not centred: no colour is more likely than another. What two steps share is halved, because 194 surfaces do not
    tell 595 correlations.
    """
    from colour.quality import cfi2017
    from colour.quality.datasets.tcs import SDS_TCS
    from colour.quality.datasets.vs import SDS_VS

    ces = cfi2017.load_TCS_CIE2017(colour.SpectralShape(380, 780, 5))
    curves = [np.interp(BANDS, ces.wavelengths, column) for column in ces.values.T]
    charts = [v for k, v in colour.SDS_COLOURCHECKERS.items() if k.endswith("N Ohta") or k == "PMC"]
    for one in [SDS_TCS["CIE 1995"], *SDS_VS.values(), *charts]:
        curves += [np.interp(BANDS, sd.wavelengths, sd.values) for sd in one.values()]
    curves = np.array([c for c in curves if c.min() > 0.003])
    step = np.diff(np.arctanh(2 * np.clip(curves, 0.002, 0.985) - 1), axis=1)
    covariance = step.T @ step / len(step)
    covariance = 0.5 * covariance + 0.5 * np.diag(np.diag(covariance))
    print(len(curves), "surfaces")
    rs = [
        "//! How z = artanh(2R − 1) changes from band to band over measured surfaces: the covariance of its 35 steps, times 10⁴.",
        "//!",
        "//! Made by `data/make_tables.py`, which says of which surfaces; do not edit.",
        "",
        "use crate::BANDS;",
        "",
        "#[rustfmt::skip]",
        "pub(super) const COVARIANCE: [[f64; BANDS - 1]; BANDS - 1] = [",
    ]
    rs += [f"    [{', '.join(f'{1e4 * v:.2f}' for v in row)}]," for row in covariance]
    out = HERE.parent / "src" / "smoothest"
    out.mkdir(parents=True, exist_ok=True)
    (out / "steps.rs").write_text("\n".join(rs + ["];"]) + "\n")


def main():
    steps()
    rs = [
        "//! Weighting tables: 36 bands, 380-730 nm by 10 nm, columns X, Y, Z, normalised so that ΣY = 1.",
        "//!",
        "//! Made by `data/make_tables.py` (colour-science 0.4.7 data of CIE 015:2018, folded in the manner of",
        "//! ASTM E308); do not edit.",
        "",
        "use crate::BANDS;",
        "",
    ]
    for const, (name, step) in LIGHTS.items():
        rs.append(f"pub(super) const {const}: [[f64; 3]; BANDS] = [")
        rs += [f"    [{', '.join(f'{v:.10e}' for v in row)}]," for row in weights(name, step)]
        rs.append("];")
        rs.append("")
    out = HERE.parent / "src" / "light"
    out.mkdir(parents=True, exist_ok=True)
    (out / "weights.rs").write_text("\n".join(rs).rstrip() + "\n")

    wl5, raw = reflectances()
    for kind, measured in {"raw": raw, "smooth": {n: bandpass(v) for n, v in raw.items()}}.items():
        check(kind, wl5, measured)


def check(kind, wl5, measured):
    """Writes the bands of `measured`, and their colours by direct summation, for the Rust tests."""
    data = HERE.parent / "tests" / "data"
    lines = ["# made by data/make_tables.py: name, then reflectance at 380-730 nm by 10 nm"]
    for n, v in measured.items():
        lines.append(",".join([n] + [f"{x:.6f}" for x in v[::2][:36]]))
    (data / f"{kind}_reflectances.csv").write_text("\n".join(lines) + "\n")

    lines = ["# made by data/make_tables.py: light, name, X, Y, Z (white Y = 1), L*, a*, b* by 1 or 5 nm summation"]
    for const, (name, step) in LIGHTS.items():
        table, gaps = weights(name, step), []
        for n, v in measured.items():
            xyz, lab = integrate(wl5, v, name, step)
            lines.append(",".join([name, n] + [f"{x:.6f}" for x in xyz] + [f"{x:.5f}" for x in lab]))
            mine = (table * v[::2][:36, None]).sum(axis=0)
            gaps.append(float(colour.delta_E(lab, colour.XYZ_to_Lab(mine, colour.XYZ_to_xy(table.sum(axis=0))))))
        print(f"{kind:6} {name:6} dE00 median {np.median(gaps):.3f} worst {np.max(gaps):.3f}")
    (data / f"{kind}_colours.csv").write_text("\n".join(lines) + "\n")


main()
