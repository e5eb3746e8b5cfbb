//! A shelf of virtual tins: whites, deep colours, strong reds and greens and near-blacks, in every class that has a
//! colour.

use warm_blend_paint::Class::{AcrylicCraft, Chalk, Clay, GelStain, LatexSatin, Mineral, Primer, Shellac};

use crate::{
    Pigment::{
        self, ChalkFiller, LakeBlue, LeafGreen, Lemon, Marigold, MarineBlue, MossOxide, Plum, Rose,
        RustOxide, Scarlet, SkyBlue, Soot, StrawOxide, UmberEarth, WhiteEarth,
    },
    VirtualPaint,
};

type Tin = (&'static str, warm_blend_paint::Class, &'static [(Pigment, f64)], [f64; 2], f64);

/// Name, class, loads of pigments, α and φ, and how rich or lean it is: all loads are multiplied by that, which leaves its
/// colour and changes its strength.
const TINS: [Tin; 44] = [
    ("plaster white", Chalk, &[(WhiteEarth, 0.75), (ChalkFiller, 0.5)], [0.82, 0.33], 1.00),
    (
        "linen white",
        Chalk,
        &[(WhiteEarth, 0.7), (ChalkFiller, 0.4), (StrawOxide, 0.012), (Soot, 0.0004)],
        [0.88, 0.38],
        1.10,
    ),
    (
        "shell",
        Clay,
        &[(WhiteEarth, 0.62), (ChalkFiller, 0.5), (RustOxide, 0.006), (StrawOxide, 0.006)],
        [0.8, 0.42],
        0.47,
    ),
    ("milk glass", LatexSatin, &[(WhiteEarth, 0.8), (SkyBlue, 0.004)], [0.27, 0.05], 1.10),
    ("plain primer", Primer, &[(WhiteEarth, 0.6), (ChalkFiller, 0.8), (Soot, 0.0006)], [0.6, 0.17], 0.99),
    ("barn primer", Primer, &[(RustOxide, 0.32), (ChalkFiller, 0.9), (Soot, 0.01)], [0.6, 0.15], 0.38),
    (
        "fog",
        Chalk,
        &[(WhiteEarth, 0.52), (ChalkFiller, 0.4), (Soot, 0.008), (MarineBlue, 0.01)],
        [0.84, 0.33],
        1.52,
    ),
    (
        "pebble",
        Clay,
        &[(WhiteEarth, 0.45), (ChalkFiller, 0.5), (UmberEarth, 0.05), (Soot, 0.004)],
        [0.86, 0.4],
        0.66,
    ),
    ("oat straw", Chalk, &[(WhiteEarth, 0.5), (StrawOxide, 0.08), (UmberEarth, 0.02)], [0.83, 0.36], 0.41),
    ("cornfield", Chalk, &[(WhiteEarth, 0.3), (StrawOxide, 0.3), (Marigold, 0.03)], [0.85, 0.34], 0.59),
    (
        "mustard jar",
        Mineral,
        &[(WhiteEarth, 0.16), (StrawOxide, 0.45), (UmberEarth, 0.03)],
        [0.62, 0.2],
        0.57,
    ),
    ("lemon peel", AcrylicCraft, &[(Lemon, 0.6), (WhiteEarth, 0.12)], [0.36, 0.06], 1.06),
    ("yolk", AcrylicCraft, &[(Lemon, 0.25), (Marigold, 0.22), (WhiteEarth, 0.06)], [0.42, 0.05], 1.55),
    ("tangerine", LatexSatin, &[(Marigold, 0.5), (Scarlet, 0.1), (WhiteEarth, 0.05)], [0.33, 0.05], 0.62),
    (
        "terracotta pot",
        Chalk,
        &[(RustOxide, 0.22), (WhiteEarth, 0.18), (StrawOxide, 0.1)],
        [0.87, 0.35],
        0.33,
    ),
    ("old brick", Chalk, &[(RustOxide, 0.4), (UmberEarth, 0.1), (WhiteEarth, 0.08)], [0.82, 0.31], 0.43),
    ("kiln red", Mineral, &[(RustOxide, 0.35), (Scarlet, 0.2)], [0.58, 0.22], 1.17),
    ("poppy", AcrylicCraft, &[(Scarlet, 0.8)], [0.4, 0.05], 0.99),
    ("cherry", LatexSatin, &[(Scarlet, 0.45), (Rose, 0.3), (WhiteEarth, 0.02)], [0.28, 0.05], 0.54),
    ("claret", Mineral, &[(Scarlet, 0.25), (Rose, 0.3), (Soot, 0.02)], [0.6, 0.18], 1.28),
    ("rosewater", Chalk, &[(WhiteEarth, 0.5), (Rose, 0.025), (RustOxide, 0.01)], [0.86, 0.36], 0.59),
    ("peony", AcrylicCraft, &[(Rose, 0.35), (WhiteEarth, 0.15)], [0.38, 0.05], 0.88),
    ("plum skin", Chalk, &[(Plum, 0.3), (WhiteEarth, 0.06), (Soot, 0.01)], [0.85, 0.35], 2.49),
    ("heather", Clay, &[(Plum, 0.06), (WhiteEarth, 0.4), (MarineBlue, 0.05)], [0.83, 0.4], 0.51),
    ("iris", AcrylicCraft, &[(MarineBlue, 0.5), (Plum, 0.15), (WhiteEarth, 0.08)], [0.41, 0.05], 1.14),
    ("harbour", Chalk, &[(MarineBlue, 0.35), (WhiteEarth, 0.12), (Soot, 0.02)], [0.85, 0.33], 1.29),
    ("sailcloth blue", Chalk, &[(WhiteEarth, 0.4), (SkyBlue, 0.15), (Soot, 0.006)], [0.86, 0.34], 0.67),
    ("clear sky", LatexSatin, &[(WhiteEarth, 0.45), (SkyBlue, 0.25)], [0.31, 0.05], 0.47),
    (
        "lagoon",
        AcrylicCraft,
        &[(LakeBlue, 0.05), (LeafGreen, 0.04), (WhiteEarth, 0.3), (Soot, 0.004)],
        [0.39, 0.06],
        1.75,
    ),
    ("deep lake", Mineral, &[(LakeBlue, 0.3), (WhiteEarth, 0.1), (Soot, 0.02)], [0.57, 0.2], 1.62),
    (
        "midnight",
        Chalk,
        &[(LakeBlue, 0.12), (MarineBlue, 0.25), (Soot, 0.06), (WhiteEarth, 0.04)],
        [0.84, 0.36],
        1.75,
    ),
    (
        "duck pond",
        Chalk,
        &[(LeafGreen, 0.03), (SkyBlue, 0.06), (WhiteEarth, 0.42), (Soot, 0.004)],
        [0.85, 0.35],
        0.51,
    ),
    (
        "bottle",
        LatexSatin,
        &[(LeafGreen, 0.4), (Lemon, 0.08), (WhiteEarth, 0.02), (Soot, 0.03)],
        [0.3, 0.05],
        1.52,
    ),
    ("grass", AcrylicCraft, &[(LeafGreen, 0.12), (Lemon, 0.4), (WhiteEarth, 0.03)], [0.42, 0.05], 1.08),
    ("moss", Chalk, &[(MossOxide, 0.4), (StrawOxide, 0.12), (WhiteEarth, 0.06)], [0.84, 0.34], 0.86),
    ("sage leaf", Chalk, &[(MossOxide, 0.2), (WhiteEarth, 0.35), (UmberEarth, 0.02)], [0.87, 0.37], 1.48),
    (
        "olive press",
        Clay,
        &[(StrawOxide, 0.25), (Soot, 0.03), (MossOxide, 0.1), (WhiteEarth, 0.05)],
        [0.82, 0.41],
        0.56,
    ),
    ("walnut", Chalk, &[(UmberEarth, 0.5), (RustOxide, 0.08), (WhiteEarth, 0.05)], [0.85, 0.32], 0.66),
    ("bark", Clay, &[(UmberEarth, 0.45), (Soot, 0.03), (WhiteEarth, 0.08)], [0.88, 0.39], 0.38),
    ("chimney", Chalk, &[(Soot, 0.18), (WhiteEarth, 0.12)], [0.83, 0.35], 0.64),
    ("stove black", LatexSatin, &[(Soot, 0.4), (MarineBlue, 0.05)], [0.26, 0.05], 0.57),
    ("ink", AcrylicCraft, &[(Soot, 0.25), (LakeBlue, 0.1)], [0.37, 0.05], 0.40),
    ("amber stain", GelStain, &[(UmberEarth, 0.12), (StrawOxide, 0.05), (RustOxide, 0.03)], [0.3, 0.0], 0.43),
    (
        "knot shellac",
        Shellac,
        &[(WhiteEarth, 0.3), (StrawOxide, 0.04), (UmberEarth, 0.03)],
        [0.12, 0.0],
        1.43,
    ),
];

/// The 44 tins, the house white first.
pub fn tins() -> Vec<VirtualPaint> {
    TINS.iter()
        .map(|(name, class, loads, surface, rich)| {
            let loads: Vec<_> = loads.iter().map(|(pigment, load)| (*pigment, load * rich)).collect();
            VirtualPaint::new(name, *class, &loads, *surface)
        })
        .collect()
}
