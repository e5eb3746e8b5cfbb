//! Mixtures with a medium: glaze, wash, wax, scumble, texture paint, sealer.
//!
//! Ratios and limits are common practice†; the films they leave are given with the techniques.

use warm_blend_paint::Class;

/// Kind of mixture, by what a pot contains besides paint.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum MixtureKind {
    /// Pure paint, or with a little extender.
    Paint,
    /// A slow glaze of glazing liquid, stippled or ragged.
    Glaze,
    /// Scumble for mouldings, wiped.
    Scumble,
    /// A glaze of clear coat, wiped into detail.
    DetailGlaze,
    /// Paint thinned with water, wiped or patted.
    Wash,
    /// Paint in clear wax.
    TintedWax,
    /// Paint in pearl.
    Pearl,
    /// Paint thickened with powder.
    Texture,
    /// A tinted clear coat, brushed and not wiped.
    TintedSealer,
}

/// A usual mixture: parts of paint and of mediums.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Preset {
    /// `wall-glaze` …
    pub id: &'static str,
    /// `Glaze, 4 to 1` …
    pub name: &'static str,
    /// Total parts of paint.
    pub paint: u32,
    /// Parts of each medium.
    pub mediums: &'static [(Class, u32)],
    /// A note for the painter.
    pub note: &'static str,
}

/// A problem with a mixture, and the remedy.
#[derive(Debug, Clone, PartialEq)]
pub struct Warning {
    /// True if it will fail, false if it needs care.
    pub fails: bool,
    /// True if it applies only over an unsealed surface.
    pub needs_seal: bool,
    /// Problem, reason and remedy.
    pub words: &'static str,
}

impl MixtureKind {
    /// Kind of a pot with these amounts of each class, in any unit. The most plentiful medium decides, if it is at least
    /// a fiftieth of the pot.
    pub fn of(inside: &[(Class, f64)]) -> Self {
        const COUNTS: f64 = 0.02;
        let total: f64 = inside.iter().map(|(_, amount)| amount).sum();
        let of =
            |class: Class| inside.iter().filter(|(c, _)| *c == class).map(|(_, amount)| amount).sum::<f64>();
        let kinds = [
            (Class::ClearWax, MixtureKind::TintedWax),
            (Class::TintedWax, MixtureKind::TintedWax),
            (Class::TexturePowder, MixtureKind::Texture),
            (Class::Scumble, MixtureKind::Scumble),
            (Class::GlazingLiquid, MixtureKind::Glaze),
            (Class::ClearCoat, MixtureKind::DetailGlaze),
            (Class::Pearl, MixtureKind::Pearl),
            (Class::Water, MixtureKind::Wash),
        ];
        let most = kinds
            .into_iter()
            .map(|(class, kind)| (of(class), kind))
            .filter(|(amount, _)| *amount > COUNTS * total)
            // The first of equals: scumble thinned with as much water is scumble.
            .fold(None, |most: Option<(f64, MixtureKind)>, (amount, kind)| match most {
                Some((best, _)) if best >= amount => most,
                _ => Some((amount, kind)),
            });
        match most {
            Some((_, MixtureKind::DetailGlaze)) if of(Class::ClearCoat) >= 0.75 * total => {
                MixtureKind::TintedSealer
            }
            Some((_, kind)) => kind,
            None => MixtureKind::Paint,
        }
    }

    /// Name, as a painter says it.
    pub const fn name(self) -> &'static str {
        match self {
            MixtureKind::Paint => "paint",
            MixtureKind::Glaze => "stippled glaze",
            MixtureKind::Scumble => "wiped scumble",
            MixtureKind::DetailGlaze => "wiped detail glaze",
            MixtureKind::Wash => "wiped wash",
            MixtureKind::TintedWax => "tinted wax",
            MixtureKind::Pearl => "pearl glaze",
            MixtureKind::Texture => "texture paint",
            MixtureKind::TintedSealer => "tinted clear coat",
        }
    }
}

impl Preset {
    /// The usual mixtures (common practice).
    pub const ALL: [Preset; 10] = [
        Preset {
            id: "wall-glaze",
            name: "Glaze, 4 to 1",
            paint: 1,
            mediums: &[(Class::GlazingLiquid, 4)],
            note: "Use over a satin base. Workable for about 10 min, dry overnight.",
        },
        Preset {
            id: "scumble",
            name: "Scumble, 1 to 1 to 1",
            paint: 1,
            mediums: &[(Class::Scumble, 1), (Class::Water, 1)],
            note: "For mouldings. Without scumble it dries at once. Wipe the high points.",
        },
        Preset {
            id: "detail-glaze",
            name: "Detail glaze, 1 to 1",
            paint: 1,
            mediums: &[(Class::ClearCoat, 1)],
            note: "Add clear coat until it runs off the stick in a ribbon. Leave a minute, then wipe off with a damp cloth.",
        },
        Preset {
            id: "wash",
            name: "Wash, 1 to 1",
            paint: 1,
            mediums: &[(Class::Water, 1)],
            note: "Brush on, wipe off, repeat. On flat areas, pat with a lint-free cloth.",
        },
        Preset {
            id: "wash-60-40",
            name: "Wash, 60 to 40",
            paint: 3,
            mediums: &[(Class::Water, 2)],
            note: "Drips less than 1 to 1.",
        },
        Preset {
            id: "wax-touch",
            name: "Tinted wax, 1 to 20",
            paint: 1,
            mediums: &[(Class::ClearWax, 20)],
            note: "Mix on a flat plate so it doesn’t marble. Put clear wax on first so you can lift it.",
        },
        Preset {
            id: "wax-strong",
            name: "Tinted wax, 1 to 1",
            paint: 1,
            mediums: &[(Class::ClearWax, 1)],
            note: "The strongest tint wax will take. It should still feel slippery.",
        },
        Preset {
            id: "texture",
            name: "Texture, 2 scoops per cup",
            paint: 8,
            mediums: &[(Class::TexturePowder, 1)],
            note: "Add 2 scoops to 8 fl oz, a little at a time, until it holds a soft peak. Two coats; dry overnight.",
        },
        Preset {
            id: "tinted-sealer",
            name: "Tinted clear coat, 1 to 8",
            paint: 1,
            mediums: &[(Class::ClearCoat, 8)],
            note: "Mainly for metallics. Can’t be wiped back and pools in carving: watch for runs.",
        },
        Preset {
            id: "pearl-glaze",
            name: "Pearl glaze, 1 to 30",
            paint: 1,
            mediums: &[(Class::Pearl, 30)],
            note: "A tiny drop of a strong colour. Each layer makes it stronger.",
        },
    ];

    /// Finds a mixture by its id.
    pub fn find(id: &str) -> Option<Preset> {
        Preset::ALL.into_iter().find(|preset| preset.id == id)
    }

    /// Whole parts of each paint of a pot, then of each medium, for this mixture.
    pub fn parts(&self, paints: &[u32]) -> Vec<u32> {
        let total: u32 = paints.iter().sum();
        let all: Vec<u32> = paints
            .iter()
            .map(|parts| parts * self.paint)
            .chain(self.mediums.iter().map(|(_, parts)| parts * total))
            .collect();
        warm_blend_paint::simplest(&all)
    }
}

/// Warnings for a pot with these amounts of each class (common practice).
pub fn warnings(inside: &[(Class, f64)]) -> Vec<Warning> {
    let total: f64 = inside.iter().map(|(_, amount)| amount).sum::<f64>().max(f64::MIN_POSITIVE);
    let share = |class: Class| {
        inside.iter().filter(|(c, _)| *c == class).map(|(_, amount)| amount).sum::<f64>() / total
    };
    let [tinted, clear, water, glazing, powder] =
        [Class::TintedWax, Class::ClearWax, Class::Water, Class::GlazingLiquid, Class::TexturePowder]
            .map(share);
    let all_paint = inside.iter().filter(|(c, _)| !c.is_medium()).map(|(_, amount)| amount).sum::<f64>();
    let (wax, paint) = (tinted + clear, all_paint / total - tinted);
    let metal = share(Class::Metallic);
    let kind = MixtureKind::of(inside);
    let fails = |words| Warning { fails: true, needs_seal: false, words };
    let care = |words| Warning { fails: false, needs_seal: false, words };
    let mut all = Vec::new();
    if wax > 0.02 {
        if paint > 0.505 {
            all.push(fails(
                "Too much paint: it stays tacky and won’t buff. Add wax until it feels slippery.",
            ));
        } else if paint + tinted > 0.15 {
            let words =
                "A strong tint in wax stains permanently: only over a surface that is already sealed.";
            all.push(Warning { needs_seal: true, ..care(words) });
        }
        if water > 0.02 {
            all.push(fails("Water and wax don’t mix. Thin the paint first, or leave out the water."));
        }
        if metal > 0.0 {
            all.push(care("Metal flakes settle in wax: keep stirring, and try it on a board first."));
        }
    }
    if water > 0.65 && wax <= 0.02 {
        all.push(fails("Too much water: the dry paint will dust off. Use less, or seal it straight away."));
    }
    if kind == MixtureKind::Glaze && paint > 1.0 / 3.0 {
        all.push(care("Over a third paint: it hides the base and sets fast. Add glazing liquid."));
    }
    if glazing > 0.02 && share(Class::Clay) + share(Class::Chalk) < 0.01 && paint < 0.04 {
        all.push(care("Very little colour: it will need several layers."));
    }
    if powder > 0.2 {
        all.push(fails("Will crack: over 4 scoops per cup. Add paint, or use two thin coats."));
    }
    if kind == MixtureKind::TintedSealer {
        all.push(care("Can’t be wiped back, and pools in carving: watch for runs."));
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn mixed(preset: &Preset) -> Vec<(Class, f64)> {
        let parts = preset.parts(&[1]);
        let classes = std::iter::once(Class::Chalk).chain(preset.mediums.iter().map(|(class, _)| *class));
        classes.zip(parts).map(|(class, parts)| (class, f64::from(parts))).collect()
    }

    /// Every usual mixture is what it is called, and fails in nothing.
    #[test]
    fn the_usual_mixtures_are_sound() {
        for preset in Preset::ALL {
            let pot = mixed(&preset);
            assert_ne!(MixtureKind::of(&pot), MixtureKind::Paint, "{}", preset.name);
            assert!(
                warnings(&pot).iter().all(|warning| !warning.fails),
                "{}: {:?}",
                preset.name,
                warnings(&pot)
            );
        }
        let kind = |id: &str| MixtureKind::of(&mixed(&Preset::find(id).unwrap()));
        assert_eq!(kind("wall-glaze"), MixtureKind::Glaze);
        assert_eq!(kind("scumble"), MixtureKind::Scumble);
        assert_eq!(kind("wash-60-40"), MixtureKind::Wash);
        assert_eq!(kind("wax-strong"), MixtureKind::TintedWax);
        assert_eq!(kind("tinted-sealer"), MixtureKind::TintedSealer);
        assert!(Preset::find("gravy").is_none());
    }

    /// A gallon of glazing liquid and a quart of paint; two scoops to 8 fl oz (common practice).
    #[test]
    fn the_trades_ratios() {
        let glaze = Preset::find("wall-glaze").unwrap();
        assert_eq!(glaze.parts(&[1]), [1, 4]);
        assert_eq!(glaze.parts(&[3, 1]), [3, 1, 16]);
        let texture = Preset::find("texture").unwrap();
        let [cup, scoop] =
            [warm_blend_paint::Measure::Cup, warm_blend_paint::Measure::Scoop].map(|m| m.millilitres());
        assert!((cup / (2.0 * scoop) - f64::from(texture.paint)).abs() < 0.01);
    }

    #[test]
    fn limits_are_said() {
        let shown =
            |pot: &[(Class, f64)]| warnings(pot).iter().map(|w| w.words).collect::<Vec<_>>().join(" ");
        assert!(shown(&[(Class::Chalk, 3.0), (Class::ClearWax, 1.0)]).contains("tacky"));
        assert!(shown(&[(Class::Chalk, 1.0), (Class::Water, 4.0)]).contains("dust off"));
        assert!(shown(&[(Class::Chalk, 2.0), (Class::TexturePowder, 1.0)]).contains("Will crack"));
        assert!(shown(&[(Class::Metallic, 1.0), (Class::ClearWax, 8.0)]).contains("flakes"));
        assert!(shown(&[(Class::Chalk, 1.0)]).is_empty());
    }

    proptest! {
        /// The paints keep their ratio among themselves, and all of them theirs to the medium.
        #[test]
        fn a_preset_keeps_the_colour(paints in proptest::collection::vec(1u32..20, 1..4), at in 0..Preset::ALL.len()) {
            let preset = Preset::ALL[at];
            let parts = preset.parts(&paints);
            let all: u32 = parts[..paints.len()].iter().sum();
            let largest = *parts.iter().max().unwrap();
            prop_assume!(largest < 999);
            for (was, is) in paints.iter().zip(&parts) {
                prop_assert_eq!(was * parts[0], is * paints[0]);
            }
            for ((_, wanted), is) in preset.mediums.iter().zip(&parts[paints.len()..]) {
                prop_assert_eq!(wanted * all, is * preset.paint);
            }
        }

        /// More water never makes a sounder wash.
        #[test]
        fn warnings_do_not_go_away(water in 0.1..10.0f64) {
            let fails = |water| warnings(&[(Class::Chalk, 1.0), (Class::Water, water)]).iter().filter(|w| w.fails).count();
            prop_assert!(fails(water * 1.5) >= fails(water));
        }
    }
}
