//! A stencilled pattern, repeated along the parts of a zone.
//!
//! It lies on flat, sunk, raised or carved parts, centred across and evenly spaced along the longer side; not on parts
//! with others than hardware set into them, nor where it does not fit. Stencilling takes very little paint: the film is
//! that of [`Technique::Stencil`], and some of each motif stays bare.

use serde::{Deserialize, Serialize};
use warm_blend_board::{Application, ByPlace, Deposit, Layer, Motif, Share, Technique};
use warm_blend_paint::MixPart;

use super::{BadFinish, Elevation, Face, Outline, Part, Rect, Shaping, Spacing, Zone, spaced};

/// Share of a motif that is covered†.
pub const DENSE: f64 = 0.85;
/// The gap where nothing else is said, as a share of the motif†.
const GAP: f64 = 0.6;
/// The least and the largest motif, mm.
const SIZES: (f64, f64) = (10.0, 1000.0);
/// Most repeats on one part.
const MOST: u32 = 100;

/// A stencilled pattern on a zone.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Stencil {
    /// Motif, `rosette` …: see `/api/piece/choices`.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub motif: Motif,
    /// Length and width of one repeat, 10 to 1000 mm.
    pub size: f64,
    /// Repeats on each part, 1 to 100; as many as are well spaced if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub repeats: Option<u32>,
    /// Contents of the pot.
    pub pot: Vec<MixPart>,
}

/// Repeats on one part.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Repeats {
    motif: Motif,
    size: f64,
    /// Their spacing.
    pub spacing: Spacing,
    rect: Rect,
}

impl Repeats {
    /// Depth of a point of the face, in mm, inside a motif: 1 at most, 0 outside.
    pub fn depth(&self, x: f64, y: f64) -> f64 {
        let Rect { x: left, y: upper, w, h } = self.rect;
        let (along, across) =
            if w >= h { (x - left, y - upper - h / 2.0) } else { (y - upper, x - left - w / 2.0) };
        let within = along - self.spacing.gap;
        let n = (within / self.spacing.step).floor();
        if n < 0.0 || n >= f64::from(self.spacing.repeats) {
            return 0.0;
        }
        let half = self.size / 2.0;
        let (u, v) = ((within - n * self.spacing.step) / half - 1.0, across / half);
        if u.abs() > 1.0 || v.abs() > 1.0 { 0.0 } else { self.motif.depth(u, v).max(0.0) }
    }
}

impl Stencil {
    /// Checks that it can be cut and painted.
    pub fn check(&self) -> Result<(), BadFinish> {
        if !(SIZES.0..=SIZES.1).contains(&self.size) {
            return Err(BadFinish::StencilSize(self.size));
        }
        if self.repeats.is_some_and(|n| !(1..=MOST).contains(&n)) {
            return Err(BadFinish::StencilRepeats);
        }
        if self.pot.is_empty() { Err(BadFinish::StencilPot) } else { Ok(()) }
    }

    /// Repeats on a part of a face; `None` where it does not go.
    pub fn on(&self, face: &Face, at: usize) -> Option<Repeats> {
        let part = face.parts.get(at)?;
        let (rect, shaping) = (within(part), part.shaping);
        let plain = matches!(shaping, Shaping::Flat | Shaping::Sunk | Shaping::Raised | Shaping::Carved);
        let holds = face.parts.iter().any(|part| part.on == Some(at) && part.zone != Zone::Hardware);
        if !plain || holds || self.size > rect.w.min(rect.h) {
            return None;
        }
        let spacing = spaced(rect.w.max(rect.h), self.size, self.repeats, GAP * self.size).ok()?;
        Some(Repeats { motif: self.motif, size: self.size, spacing, rect })
    }

    /// The pattern as a layer of a zone: the share of the flats that its motifs cover.
    pub(super) fn layer(&self, elevation: &Elevation, zone: Zone) -> Result<Layer, BadFinish> {
        self.check()?;
        let (mut flats, mut motifs) = (0.0, 0.0);
        for face in &elevation.faces {
            for (at, (part, net)) in face.parts.iter().zip(face.net()).enumerate() {
                if part.zone != zone {
                    continue;
                }
                let times = f64::from(face.times);
                flats += times * net.max(0.0) * part.shares().field;
                let n = self.on(face, at).map_or(0.0, |repeats| f64::from(repeats.spacing.repeats));
                motifs += times * n * self.size * self.size * self.motif.share();
            }
        }
        if motifs <= 0.0 {
            return Err(BadFinish::StencilNowhere(self.size));
        }
        // Face areas are mm², as motifs are.
        let field = Share::of(DENSE * (motifs / flats).min(1.0));
        let film = Technique::Stencil.print(Application::default()).film;
        let cover = ByPlace { field, recess: Share::NONE, edge: Share::NONE };
        Ok(Layer { print: Some(Deposit { film, cover }), ..Layer::new(Technique::Stencil, self.pot.clone()) })
    }

    /// Spacing for each length of part, once: `5 of 120 mm, 50 mm between and at the ends`.
    pub fn spread(&self, elevation: &Elevation, zone: Zone) -> Vec<Spacing> {
        let mut spread: Vec<Spacing> = Vec::new();
        for face in &elevation.faces {
            for (at, part) in face.parts.iter().enumerate() {
                if let Some(repeats) = (part.zone == zone).then(|| self.on(face, at)).flatten()
                    && !spread.iter().any(|known| {
                        known.repeats == repeats.spacing.repeats
                            && (known.gap - repeats.spacing.gap).abs() < 0.5
                    })
                {
                    spread.push(repeats.spacing);
                }
            }
        }
        spread
    }
}

/// The rectangle of a part that a pattern lies in: below most of an arch, in the middle of an oval.
fn within(Part { rect, outline, .. }: &Part) -> Rect {
    match outline {
        Outline::Square => *rect,
        Outline::RoundTop => {
            let arch = (0.35 * rect.w).min(0.5 * rect.h);
            Rect { y: rect.y + arch, h: rect.h - arch, ..*rect }
        }
        Outline::Oval => {
            let (aside, above) = (0.15 * rect.w, 0.15 * rect.h);
            Rect { x: rect.x + aside, y: rect.y + above, w: rect.w - 2.0 * aside, h: rect.h - 2.0 * above }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{PieceKind, View};
    use proptest::prelude::*;

    fn stencil(motif: Motif, size: f64, repeats: Option<u32>) -> Stencil {
        let paint = warm_blend_paint::PaintId(uuid::Uuid::from_u128(1));
        Stencil {
            motif,
            size,
            repeats,
            pot: vec![MixPart { paint, parts: warm_blend_paint::WholeParts::new(1).unwrap() }],
        }
    }

    proptest! {
        /// Counted point by point, motifs on a part take what their number and share say.
        #[test]
        fn repeats_take_their_share_of_a_part(at in 0usize..Motif::ALL.len(), size in 20.0..160.0f64, n in prop::option::of(1u32..6)) {
            let stencil = stencil(Motif::ALL[at], size, n);
            let mut form = PieceKind::ChestOfDrawers.usual();
            form.drawers = 3;
            let elevation = form.build().unwrap();
            let face = elevation.face(View::Front).unwrap();
            let drawer = face.parts.iter().position(|part| part.zone == Zone::Drawers).unwrap();
            let Some(repeats) = stencil.on(face, drawer) else { return Ok(()) };
            let rect = face.parts[drawer].rect;
            // Points of the additive recurrence of the plastic number: a grid would fall in with the veins of leaves.
            const POINTS: usize = 200_000;
            let inside = (0..POINTS)
                .map(|i| (i as f64 + 0.5) / 1.324_717_957_244_746)
                .map(|p| (p.fract(), (p / 1.324_717_957_244_746).fract()))
                .filter(|(x, y)| repeats.depth(rect.x + x * rect.w, rect.y + y * rect.h) > 0.0)
                .count() as f64 / POINTS as f64;
            let shown = f64::from(repeats.spacing.repeats) * size * size * stencil.motif.share() / (rect.w * rect.h);
            prop_assert!((inside - shown).abs() < 0.05 * shown + 0.002, "{inside} {shown}");
            prop_assert!(repeats.spacing.gap >= 0.0);
        }
    }

    #[test]
    fn what_cannot_be_is_refused() {
        let elevation = PieceKind::ChestOfDrawers.usual().build().unwrap();
        let layer = |stencil: Stencil, zone| stencil.layer(&elevation, zone);
        for size in [0.0, -1.0, f64::NAN, 1e9] {
            assert!(matches!(
                layer(stencil(Motif::Ring, size, None), Zone::Drawers),
                Err(BadFinish::StencilSize(_))
            ));
        }
        assert_eq!(layer(stencil(Motif::Ring, 40.0, Some(0)), Zone::Drawers), Err(BadFinish::StencilRepeats));
        let nowhere = layer(stencil(Motif::Ring, 900.0, None), Zone::Drawers).unwrap_err();
        assert!(nowhere.to_string().contains("smaller"), "{nowhere}");
        let empty = Stencil { pot: vec![], ..stencil(Motif::Ring, 40.0, None) };
        assert_eq!(layer(empty, Zone::Drawers), Err(BadFinish::StencilPot));
        assert!(layer(stencil(Motif::Ring, 40.0, None), Zone::Drawers).is_ok());
    }
}
