"""Makes paints whose colour comes from radiative transfer: the data of `crates/sim/tests/data/`.

Run once by hand; nothing at build or test time needs Python.

    python -m venv v && v/bin/pip install miepython==3.3.0 iadpython==0.5.3 numpy==2.4.6
    v/bin/python crates/spectral/data/make_paints.py 1 2 3      # a file for each seed
    v/bin/python crates/spectral/data/make_paints.py theory     # adding-doubling where Kubelka-Munk theory is exact enough
    v/bin/python crates/spectral/data/make_paints.py films      # adding-doubling of thin films under a surface, over diffuse grounds

The engine knows none of this. What it calls K, S and alpha is here:

  powders       complex refractive indices, invented but for titania (rutile, ordinary ray: J. R. DeVore, J. Opt. Soc. Am. 41
                (1951) 416), in log-normal sizes; extinction, albedo and mean cosine by Mie theory in a binder of n = 1.5
                (miepython)
  crowding      titania scatters less per particle the more of it there is: a factor 1 - (phi/phi_max)^(1/3) by its volume
                concentration phi in the dry film, phi_max = 0.74 (F. Fitzwater and J. W. Hook, J. Coat. Technol. 57 (721)
                (1985) 39). Air voids above the critical pigment volume concentration are treated alike.
  film          adding-doubling with Fresnel reflection at a surface of n = 1.5 and a Henyey-Greenstein phase function
                (iadpython), light at right angles, all of the reflected light collected
  surface       of its outer reflection at right angles a share alpha is seen; alpha grows with the pigment volume
                concentration of the mix around the critical one, so it follows no straight line between two paints
  mixing        of wet volumes; tins differ in solids, so the dry film does not hold their powders in the ratio of the parts

A seed draws everything that is invented: indices, sizes, loads, solids, surfaces, recipes. There are two shelves of 44 tins
in each file, one matte and rich in filler ("chalk"), one glossier and rich in binder ("satin"). Tin 0 is the house white.

Rows: shelf, kind, what, 36 reflectances (380-730 nm by 10) times 100 000.
  masstone  tin                    thick, dry
  mix       tin:parts tin:parts .. thick, dry (tints with the house white among them)
  black     tin                    90 um wet over 0.01; white: over 0.80 (below the surface, chart halves as the engine's)
  glaze     tin/base               one part of the tin in four of a clear medium, 40 um wet, over another tin, thick
"""

import csv
import os
import sys
from functools import lru_cache
from multiprocessing import Pool
from pathlib import Path

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # the matrices are small

import iadpython as iad
import miepython
import numpy as np

OUT = Path(__file__).resolve().parents[2] / "sim" / "tests" / "data"
BANDS = np.arange(380, 731, 10)
UM = BANDS / 1000.0
BINDER = 1.5
QUADRATURE = 12
TINS = 44
MIXES = 200  # of two, and of three
GLAZES = 40
DRAWN = 0.090  # mm wet
GLAZED = 0.040
PHI_MAX = 0.74
VOIDS_MAX = 0.74


def edge(height, at, width):
    """Absorption from `height` at short waves to nothing at long ones."""
    return height / (1 + np.exp((BANDS - at) / width))


def bell(height, at, width):
    return height * np.exp(-(((BANDS - at) / width) ** 2) / 2)


def rutile():
    return np.sqrt(5.913 + 0.2441 / (UM**2 - 0.0803))


# Name: (n, k, median diameter in um, sd of its ln, load when it is strong).
POWDERS = {
    "titania": (rutile(), edge(0.30, 378, 4.5), 0.24, 0.25, None),
    "filler": (1.59, 2e-6, 1.80, 0.60, None),
    "straw": (2.20, edge(0.17, 492, 17) + bell(0.012, 640, 60) + 0.001, 0.40, 0.35, 0.10),
    "rust": (2.60, edge(0.30, 572, 16) + bell(0.02, 690, 60) + 0.004, 0.30, 0.35, 0.08),
    "umber": (1.95, edge(0.14, 500, 80) + 0.020, 0.60, 0.45, 0.10),
    "slate": (2.00, 0.11 + edge(0.04, 480, 90), 0.50, 0.40, 0.08),
    "soot": (1.75, 0.45 + edge(0.10, 450, 90), 0.16, 0.30, 0.04),
    "bone": (1.62, 0.10 + edge(0.04, 470, 80), 0.80, 0.40, 0.08),
    "lake": (1.55, bell(0.34, 620, 40) + bell(0.26, 695, 34) + bell(0.04, 390, 30) + 0.002, 0.10, 0.30, 0.05),
    "marine": (1.52, bell(0.035, 595, 46) + edge(0.004, 400, 12) + 0.0005, 1.20, 0.50, 0.14),
    "leaf": (1.56, bell(0.30, 645, 40) + bell(0.13, 705, 30) + edge(0.18, 432, 15) + 0.002, 0.11, 0.30, 0.05),
    "moss": (2.30, bell(0.10, 610, 42) + edge(0.12, 470, 26) + 0.010, 0.40, 0.35, 0.10),
    "lemon": (1.72, edge(0.32, 478, 9) + 0.0006, 0.22, 0.30, 0.07),
    "marigold": (1.75, edge(0.34, 540, 11) + 0.0008, 0.22, 0.30, 0.06),
    "scarlet": (1.74, edge(0.32, 590, 10) + 0.0015, 0.20, 0.30, 0.06),
    "rose": (1.60, bell(0.28, 542, 34) + bell(0.13, 500, 40) + bell(0.03, 400, 30) + 0.002, 0.13, 0.30, 0.05),
    "plum": (1.62, bell(0.30, 565, 48) + bell(0.16, 615, 30) + 0.008, 0.12, 0.30, 0.04),
}
COLOURANTS = [name for name, powder in POWDERS.items() if powder[4]]
DARK = ["soot", "bone", "slate", "umber"]


def by_volume(index, diameter, spread):
    """Extinction and scattering per volume of powder, 1/mm, and the mean cosine, by band."""
    nodes, weights = np.polynomial.hermite.hermgauss(9)
    sizes = diameter * np.exp(np.sqrt(2) * spread * nodes)
    volume = np.sum(weights * sizes**3)
    ext, sca, cosine = (np.zeros(len(BANDS)) for _ in range(3))
    for size, weight in zip(sizes, weights):
        for i, um in enumerate(UM):
            q_ext, q_sca, _, g = miepython.efficiencies(index[i], size, um, n_env=BINDER)
            # Cross section over volume: (pi d^2 / 4) / (pi d^3 / 6) = 1.5 / d.
            area = 1.5 * size**2 * weight / volume * 1000
            ext[i] += q_ext * area
            sca[i] += q_sca * area
            cosine[i] += q_sca * area * g
    return ext - sca, sca, cosine / sca


class World:
    def __init__(self, seed):
        self.chance = np.random.default_rng(seed)
        draw = self.chance
        self.powders = {}
        for name, (n, k, diameter, spread, _) in POWDERS.items():
            if name not in ("titania", "filler"):
                n = n * draw.uniform(0.97, 1.03)
                k = np.interp(BANDS + draw.uniform(-12, 12), BANDS, k) * np.exp(draw.normal(0, 0.25))
            diameter = diameter * np.exp(draw.normal(0, 0.08))
            index = np.broadcast_to(n, BANDS.shape) - 1j * np.broadcast_to(k, BANDS.shape)
            self.powders[name] = by_volume(index, diameter, spread)
        air = np.full(len(BANDS), 1.0 - 0j)
        self.air = by_volume(air, 0.20, 0.40)
        self.shelves = {kind: self.shelf(kind) for kind in ("chalk", "satin")}

    def shelf(self, kind):
        draw = self.chance
        tins = []
        for i in range(TINS):
            # Whites, pale tints, mid tones, deep ones, near-blacks.
            sort = "white" if i < 3 else "pale" if i < 14 else "mid" if i < 26 else "deep" if i < 40 else "black"
            titania = {
                "white": draw.uniform(0.08, 0.12),
                "pale": draw.uniform(0.06, 0.10),
                "mid": draw.uniform(0.02, 0.08),
                "deep": draw.uniform(0.0, 0.012),
                "black": 0.0,
            }[sort]
            scale = {"white": 0.0, "pale": 0.05, "mid": 0.30, "deep": 0.9, "black": 1.0}[sort]
            names = list(draw.choice(COLOURANTS, size=draw.integers(1, 4), replace=False))
            if sort == "black":
                names = [DARK[i % 2]] + [n for n in names if n not in DARK][: draw.integers(0, 2)]
            share = draw.dirichlet(np.full(len(names), 1.5))
            if sort == "black":
                share = np.array([0.9] + [0.1] * (len(names) - 1))
            held = {"titania": titania}
            for name, part in zip(names, share):
                black = 0.15 if name == "soot" and sort in ("pale", "mid") else 1.0
                load = POWDERS[name][4] * scale * part * black * np.exp(draw.normal(0, 0.3))
                held[name] = held.get(name, 0) + load
            if sort == "white":
                held = {"titania": titania, names[0]: 0.0004 * draw.uniform()} if i else {"titania": titania}
            used = sum(held.values())
            if kind == "chalk":
                pvc, solids = draw.uniform(0.56, 0.66), draw.uniform(0.38, 0.50)
            else:
                pvc, solids = max(draw.uniform(0.16, 0.26), used), draw.uniform(0.30, 0.42)
            held["filler"] = max(pvc - used, 0.0)
            tins.append({
                "class": kind,
                "held": held,
                "binder": 1 - sum(held.values()),
                "solids": solids,
                "critical": draw.uniform(0.49, 0.55),
                "rough": draw.normal(0, 0.05),
            })
        return tins

    def film(self, parts):
        """Powders, voids and surface of a dry film of so many parts of tins by wet volume."""
        dry = sum(p * tin["solids"] for p, tin in parts)
        wet = sum(p for p, _ in parts)
        of = lambda get: sum(p * tin["solids"] * get(tin) for p, tin in parts) / dry
        held = {name: of(lambda tin, n=name: tin["held"].get(n, 0.0)) for name in POWDERS}
        pvc, critical, rough = sum(held.values()), of(lambda t: t["critical"]), of(lambda t: t["rough"])
        voids = max(0.0, 1 - critical / pvc) if pvc > 0 else 0.0
        absorbs, scatters, forward = (np.full(len(BANDS), 1e-4) for _ in range(3))
        forward = forward * 0
        for name, share in held.items():
            if share <= 0:
                continue
            a, s, g = self.powders[name]
            crowded = 1 - (share / PHI_MAX) ** (1 / 3) if name == "titania" else 1.0
            absorbs = absorbs + share * (1 - voids) * a
            scatters = scatters + share * (1 - voids) * crowded * s
            forward = forward + share * (1 - voids) * crowded * s * g
        if voids > 0:
            _, s, g = self.air
            crowded = 1 - (voids / VOIDS_MAX) ** (1 / 3)
            scatters = scatters + voids * crowded * s
            forward = forward + voids * crowded * s * g
        alpha = 0.22 + 0.66 / (1 + np.exp(-(pvc / critical - 0.85) / 0.10)) + rough
        shrinks = dry / wet / (1 - voids)
        return absorbs, scatters, forward / scatters, float(np.clip(alpha, 0.02, 1)), shrinks


@lru_cache
def angles():
    sample = iad.Sample(n=BINDER, quad_pts=QUADRATURE)
    sample.update_quadrature()
    return sample.nu, sample.twonuw


def layer(a, s, g, thick):
    """A slab without boundaries: reflection and transmission matrices and its quadrature."""
    sample = iad.Sample(a=s / (a + s), b=(a + s) * thick, g=g, n=BINDER, quad_pts=QUADRATURE)
    sample.nu, sample.twonuw = angles()
    reflects, lets = iad.simple_layer_matrices(sample)
    return sample, reflects, lets


def over(sample, reflects, lets, ground):
    """A slab over a ground, which is a reflection matrix."""
    return iad.add_layers(sample, reflects, reflects, lets, lets, ground, ground, 0 * ground, 0 * ground)[0]


def seen(sample, inside, alpha):
    """With its surface, seen at right angles."""
    r01, r10, t01, t10 = iad.boundary_layer(sample, top=True)
    nothing = np.zeros_like(inside)
    whole = iad.add_slide_above(sample, r01, r10, t01, t10, inside, inside, nothing, nothing)[0]
    total = sample.UX1_and_UXU(whole, nothing)[0]
    outer = ((BINDER - 1) / (BINDER + 1)) ** 2
    return total - (1 - alpha) * outer


THICK = 8.0  # mm


def thick(film):
    absorbs, scatters, forward, alpha, _ = film
    curve = []
    for a, s, g in zip(absorbs, scatters, forward):
        sample, reflects, _ = layer(a, s, g, THICK)
        curve.append(seen(sample, reflects, alpha))
    return curve


def drawn(film, wet, ground):
    absorbs, scatters, forward, alpha, shrinks = film
    curve = []
    for i, (a, s, g) in enumerate(zip(absorbs, scatters, forward)):
        sample, reflects, lets = layer(a, s, g, wet * shrinks)
        curve.append(seen(sample, over(sample, reflects, lets, ground(i, reflects)), alpha))
    return curve


def flat(level):
    return lambda _, like: np.full_like(like, level)


def thick_below(film):
    absorbs, scatters, forward, _, _ = film
    return lambda i, _: layer(absorbs[i], scatters[i], forward[i], THICK)[1]


@lru_cache
def world(seed):
    return World(seed)


MEDIUM = {"class": "medium", "held": {}, "binder": 1.0, "solids": 0.30, "critical": 0.52, "rough": 0.0}


def made(job):
    seed, shelf, kind, what = job
    here = world(seed)
    tins = here.shelves[shelf]
    if kind in ("masstone", "mix"):
        parts = [(float(p), tins[int(t)]) for t, p in (one.split(":") for one in what.split())]
        curve = thick(here.film(parts))
    elif kind in ("black", "white"):
        film = here.film([(1.0, tins[int(what)])])
        curve = drawn(film, DRAWN, flat(0.01 if kind == "black" else 0.80))
    else:
        tin, base = (int(n) for n in what.split("/"))
        glaze = here.film([(1.0, tins[tin]), (4.0, MEDIUM)])
        curve = drawn(glaze, GLAZED, thick_below(here.film([(1.0, tins[base])])))
    return [shelf, kind, what] + [round(100_000 * float(r)) for r in curve]


def jobs(seed):
    draw = np.random.default_rng([seed, 7])
    for shelf in ("chalk", "satin"):
        for tin in range(TINS):
            yield seed, shelf, "masstone", f"{tin}:1"
        for white in (1, 4):
            for tin in range(1, TINS):
                yield seed, shelf, "mix", f"{tin}:1 0:{white}"
        for n in (2, 3):
            for _ in range(MIXES):
                chosen = draw.choice(TINS, size=n, replace=False)
                yield seed, shelf, "mix", " ".join(f"{tin}:{draw.integers(1, 7)}" for tin in chosen)
        for kind in ("black", "white"):
            for tin in range(TINS):
                yield seed, shelf, kind, str(tin)
        for _ in range(GLAZES):
            tin, base = draw.choice(TINS, size=2, replace=False)
            yield seed, shelf, "glaze", f"{tin}/{base}"


def paints(seed):
    with Pool(2) as pool:
        rows = list(pool.imap(made, jobs(seed), chunksize=8))
    path = OUT / f"radiative-{seed}.csv"
    with path.open("w", newline="") as file:
        csv.writer(file, lineterminator="\n").writerows(rows)
    print(path, len(rows))


def theory():
    """Diffuse light on slabs of isotropic scatterers without a surface: where K = 2 mu_a and S = 3/4 mu_s hold best."""
    path = OUT / "adding-doubling.csv"
    with path.open("w", newline="") as file:
        write = csv.writer(file, lineterminator="\n")
        for albedo in (0.9, 0.95, 0.99, 0.995, 0.999, 0.9999):
            for thickness in (5.0, 10.0, 20.0, 50.0, 1000.0):
                sample = iad.Sample(a=albedo, b=thickness, g=0.0, n=1.0, quad_pts=32)
                _, _, reflected, passed = sample.rt()
                write.writerow([albedo, thickness, round(float(reflected), 6), round(float(passed), 6)])


def films():
    """40 um of what absorbs and scatters so much, under a surface of n = 1.5 without outer reflection, over a diffuse ground."""
    path = OUT / "films.csv"
    with path.open("w", newline="") as file:
        write = csv.writer(file, lineterminator="\n")
        for absorbs in (0.5, 2.0, 8.0, 30.0):
            for scatters in (0.5, 4.0, 30.0):  # times 1 - g
                for forward in (0.0, 0.8):
                    for ground in (0.05, 0.4, 0.85):
                        sample, reflects, lets = layer(absorbs, scatters / (1 - forward), forward, GLAZED)
                        r = seen(sample, over(sample, reflects, lets, np.full_like(reflects, ground)), 0.0)
                        write.writerow([absorbs, scatters, forward, ground, round(float(r), 6)])


if __name__ == "__main__":
    OUT.mkdir(parents=True, exist_ok=True)
    for what in sys.argv[1:]:
        {"theory": theory, "films": films}.get(what, lambda: paints(int(what)))()
