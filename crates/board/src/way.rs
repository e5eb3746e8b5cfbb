//! Ways to change a strip: what mends it, and what another school would do. All are common practice†.

/// A way to change a strip.
#[derive(
    Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, strum::IntoStaticStr, strum::VariantArray,
)]
#[strum(serialize_all = "kebab-case")]
pub enum Way {
    /// Lifts wax with clear wax.
    LiftWax,
    /// Wipes a glaze or wash back.
    WipeBack,
    /// A wash of a paler paint.
    PaleWash,
    /// A paler paint, dry-brushed.
    PaleDryBrush,
    /// The base colour, dry-brushed.
    DustBaseColour,
    /// A wash of a greyer paint.
    GreyWash,
    /// A glaze of a greyer paint.
    QuietGlaze,
    /// A wash of a paint near the field.
    WashOverAll,
    /// A stippled glaze of a paint near the field.
    GlazeOverAll,
    /// A metallic wash.
    MetallicWash,
    /// A paler paint on the high points.
    DryBrushDetail,
    /// A darker glaze, wiped.
    GlazeRecesses,
    /// Another hue of the same lightness, dry-brushed.
    DryBrushNearbyHue,
    /// One coat more.
    AnotherCoat,
    /// A clear coat below the wet layer.
    Seal,
    /// The colour in wax instead of water.
    WaxTheColour,
    /// Thinner coats, and more of them.
    ThinCoatsAfterSanding,
    /// A blend in clear glaze.
    BlendInGlaze,
    /// A wet blend kept open with water.
    BlendWithMister,
    /// Dark wax instead of a glaze.
    WaxRecesses,
    /// A glaze instead of dark wax.
    GlazeForWax,
    /// Nothing in the recesses.
    PlainRecesses,
    /// Dark wax without clear wax below.
    DarkWaxDirect,
    /// Clear wax below dark wax.
    ClearWaxFirst,
    /// A clear coat instead of wax.
    ClearCoatForWax,
    /// Wax instead of a clear coat.
    WaxForClearCoat,
    /// Worn before it is glazed.
    DistressBeforeGlaze,
    /// Worn after it is glazed.
    DistressAfterGlaze,
    /// Full coats where it is worn.
    FullCoats,
    /// Thin coats where it is worn.
    ThinCoats,
}

impl Way {
    /// `lift-wax` …
    pub fn id(self) -> &'static str {
        self.into()
    }

    /// What to do. A way that adds a pot ends before its contents.
    pub const fn words(self) -> &'static str {
        self.row().0
    }

    /// Why it helps, or what speaks for and against it.
    pub const fn why(self) -> &'static str {
        self.row().1
    }

    /// The question that it answers, if painters disagree on it.
    pub const fn answers(self) -> Option<Dispute> {
        Some(match self {
            Self::BlendInGlaze | Self::BlendWithMister => Dispute::Blending,
            Self::WaxRecesses | Self::GlazeForWax | Self::PlainRecesses => Dispute::Recesses,
            Self::DarkWaxDirect | Self::ClearWaxFirst => Dispute::DarkWax,
            Self::ClearCoatForWax | Self::WaxForClearCoat => Dispute::TopCoat,
            Self::DistressBeforeGlaze | Self::DistressAfterGlaze => Dispute::Distress,
            Self::FullCoats | Self::ThinCoats => Dispute::Coats,
            _ => return None,
        })
    }

    const fn row(self) -> (&'static str, &'static str) {
        match self {
            Self::LiftWax => (
                "Lift fresh wax with clear wax; use fine steel wool once it has set",
                "clear wax dissolves fresh wax, and a cloth picks it up",
            ),
            Self::WipeBack => {
                ("Wipe it back firmly before it sets", "wiping clears the flat and leaves the recesses")
            }
            Self::PaleWash => ("A thin wash of", "a thin pale film over everything lightens and mutes"),
            Self::PaleDryBrush => ("Dry-brush it with", "lighter high points lift the whole piece"),
            Self::DustBaseColour => {
                ("Dust the base colour back over it", "the base colour pulls the accent back in")
            }
            Self::GreyWash => ("A thin wash of", "a greyish film over everything tones down every colour"),
            Self::QuietGlaze => ("A wiped glaze of", "a quiet glaze tones down what is under it"),
            Self::WashOverAll => ("A thin wash of", "one thin film over everything ties the parts together"),
            Self::GlazeOverAll => {
                ("A stippled glaze of", "a glaze over everything mutes it but lets the layers show")
            }
            Self::MetallicWash => ("A metallic wash of", "metal sits well between two colours"),
            Self::DryBrushDetail => {
                ("Dry-brush the detail with", "a paler highlight makes the detail stand out")
            }
            Self::GlazeRecesses => ("A wiped glaze of", "dark recesses make the high points look lighter"),
            Self::DryBrushNearbyHue => {
                ("Dry-brush a nearby hue:", "a nearby hue adds interest without going lighter or darker")
            }
            Self::AnotherCoat => (
                "Let it dry, then add another thin coat",
                "a dark ground shows through one coat, and porous paint dries paler",
            ),
            Self::Seal => (
                "Touch in the base, seal it, then repeat the layer",
                "water in the next layer can’t soften sealed paint",
            ),
            Self::WaxTheColour => (
                "Touch in the base, then put the colour on as tinted wax",
                "wax contains no water, so it won’t lift the paint",
            ),
            Self::ThinCoatsAfterSanding => (
                "Sand it flat, then repeat in thin coats",
                "thin coats dry right through; a thick one skins over and cracks",
            ),
            Self::BlendInGlaze => (
                "Blend them in clear glaze",
                "thinner film, long open time; more clear glaze re-opens a section; dries overnight",
            ),
            Self::BlendWithMister => (
                "Keep them wet with a mister",
                "thicker film, dries at once: quick for small areas, but drags as it dries",
            ),
            Self::WaxRecesses => (
                "Dark wax instead of glaze",
                "stays workable, and clear wax lifts it; paint won’t stick over it",
            ),
            Self::GlazeForWax => (
                "Glaze instead of wax",
                "workable for about 10 min, then permanent; paint and clear coat stick over it",
            ),
            Self::PlainRecesses => (
                "Neither: leave the colour plain",
                "nothing to go wrong, but no depth: only shadow shows the carving",
            ),
            Self::DarkWaxDirect => ("Dark wax direct", "darker, and permanent on bare chalk-type paint"),
            Self::ClearWaxFirst => {
                ("Clear wax first", "forgiving: a little clear wax lifts the dark wax off")
            }
            Self::ClearCoatForWax => (
                "Clear coat instead of wax",
                "hard and wipeable; looks like a film, and must never go over wax",
            ),
            Self::WaxForClearCoat => {
                ("Wax instead of clear coat", "soft, buffed feel; needs renewing, and only wax goes over it")
            }
            Self::DistressBeforeGlaze => {
                ("Distress before the glaze", "the glaze tones the bare wood too: older, quieter edges")
            }
            Self::DistressAfterGlaze => {
                ("Distress after the glaze", "bare edges stay fresh and sharp; 320 grit is enough")
            }
            Self::FullCoats => ("Full coats", "crisp and even, but more to rub off where you want it worn"),
            Self::ThinCoats => {
                ("Thin coats, to rub back", "less to rub off later, but the ground shows a little all over")
            }
        }
    }
}

/// A question that painters answer differently.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, strum::IntoStaticStr)]
#[strum(serialize_all = "kebab-case")]
pub enum Dispute {
    /// How a blend is made.
    Blending,
    /// What deepens the recesses.
    Recesses,
    /// Whether dark wax needs clear wax below.
    DarkWax,
    /// What comes last.
    TopCoat,
    /// When it is worn.
    Distress,
    /// How full coats are that will be worn.
    Coats,
}

impl Dispute {
    /// `dark-wax` …
    pub fn id(self) -> &'static str {
        self.into()
    }

    /// The question.
    pub const fn question(self) -> &'static str {
        match self {
            Self::Blending => "How do two colours meet?",
            Self::Recesses => "What goes in the recesses?",
            Self::DarkWax => "Dark wax direct, or clear wax first?",
            Self::TopCoat => "Wax or clear coat on top?",
            Self::Distress => "Distress before or after the glaze?",
            Self::Coats => "Full coats, or thin ones to rub back?",
        }
    }
}
