//! Texture of layers: hollows and tips within each kind of place.
//!
//! Paint that is stippled to peaks or brushed in all directions is rough, and affects what follows: a wash, glaze or wax
//! lies thick in the hollows and thin on the tips, a dry brush and gilding catch the tips, sanding opens them first. They
//! do the same in recesses and on edges, only more so. With increasing depth, a hollow moves from its place towards a
//! recess and a tip towards an edge by
//!
//! ```text
//! t = depth / (depth + 60 µm†)
//! ```
//!
//! of the way, films by ratio and shares evenly. Without texture there is no difference. What lies thicker in the hollows
//! than on the tips fills them: a full coat buries fine texture, and a clear wax leaves less for the next layer to stay
//! in.
//!
//! How rough a hand leaves its coats, relative to what the painter sets or what is usual, is learned from readings
//! ([`HandBias`](super::HandBias)).
//!
//! Left out: texture covers a whole place evenly; it does not follow single marks.

use super::{Deposit, Place, Share};
use strum::VariantArray as _;
use warm_blend_paint::Microns;

/// Height of a spot within the texture of a surface.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, strum::VariantArray)]
pub enum Level {
    /// Between the strokes or the peaks.
    Hollow,
    /// Half-way.
    Even,
    /// On the ridges and peaks.
    Tip,
}

/// Depth at which a hollow is half-way to a recess, µm†.
const HALF_WAY: f64 = 60.0;

/// Share of the depth lost when the tips are rubbed off†.
const RUBBED_OFF: f64 = 0.5;

impl Level {
    /// All levels, lowest first.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// Share of the area of a rough place†.
    pub const fn share(self) -> f64 {
        match self {
            Level::Hollow | Level::Tip => 0.3,
            Level::Even => 0.4,
        }
    }

    /// −1, 0 or 1.
    const fn up(self) -> f64 {
        match self {
            Level::Hollow => -1.0,
            Level::Even => 0.0,
            Level::Tip => 1.0,
        }
    }
}

/// How far a hollow moves from its place towards a recess, and a tip towards an edge, on a texture this many µm deep: 0
/// to 1.
fn toward(depth: f64) -> f64 {
    depth / (depth + HALF_WAY)
}

impl Deposit {
    /// Film at a level of a place, and the share of it that is covered, on a texture this many µm deep. Where nothing is
    /// applied to a place, every level of it stays bare.
    pub fn on(&self, place: Place, level: Level, depth: f64) -> (Microns, Share) {
        let (film, cover) = (*self.film.at(place), *self.cover.at(place));
        if level == Level::Even || depth <= 0.0 || cover.value() == 0.0 {
            return (film, cover);
        }
        let own = match place {
            Place::Recess => -1.0,
            Place::Field => 0.0,
            Place::Edge => 1.0,
        };
        let at: f64 = (own + level.up() * toward(depth)).clamp(-1.0, 1.0);
        let end = if at < 0.0 { Place::Recess } else { Place::Edge };
        let (way, flat) = (at.abs(), Place::Field);
        let between = |one: f64, other: f64| one + way * (other - one);
        let (thin, thick) = (self.film.at(flat).value(), self.film.at(end).value());
        let film = match thin > 0.0 && thick > 0.0 {
            true => between(thin.ln(), thick.ln()).exp(),
            false => between(thin, thick),
        };
        let cover = between(self.cover.at(flat).value(), self.cover.at(end).value());
        (Microns::of(film), Share::of(cover))
    }

    /// Depth of a texture once a film lies in it of which the share `stays` remains when dry.
    pub(crate) fn fills(&self, depth: f64, stays: f64) -> f64 {
        let lies = |level| {
            let (film, cover) = self.on(Place::Field, level, depth);
            film.value() * cover.value()
        };
        (depth - stays * (lies(Level::Hollow) - lies(Level::Tip)).max(0.0)).max(0.0)
    }

    /// Depth of a texture once it was rubbed.
    pub(crate) fn rubs(&self, depth: f64) -> f64 {
        let (_, tips) = self.on(Place::Field, Level::Tip, depth);
        depth * (1.0 - RUBBED_OFF * tips.value())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Technique;
    use proptest::prelude::*;

    fn technique() -> impl Strategy<Value = Technique> {
        proptest::sample::select(Technique::ALL.to_vec())
    }

    proptest! {
        /// No texture, no difference.
        #[test]
        fn on_the_smooth_all_levels_are_alike(technique in technique(), place in 0usize..3) {
            let (print, place) = (technique.usual(), Place::ALL[place]);
            for level in Level::ALL {
                prop_assert_eq!(print.on(place, level, 0.0), (*print.film.at(place), *print.cover.at(place)));
            }
        }

        /// The deeper the texture, the more of what is wiped stays in its hollows, and the less on its tips.
        #[test]
        fn deeper_hollows_hold_more(depth in 0.0..800.0f64, more in 1.0..200.0f64) {
            for technique in Technique::ALL.into_iter().filter(|technique| technique.is_wiped()) {
                let print = technique.usual();
                let film = |level, depth| print.on(Place::Field, level, depth).0.value();
                prop_assert!(film(Level::Hollow, depth + more) > film(Level::Hollow, depth));
                prop_assert!(film(Level::Tip, depth + more) < film(Level::Tip, depth));
            }
        }

        /// What catches tips catches more of them, and what is filled is never deeper than it was.
        #[test]
        fn tips_are_caught_and_hollows_filled(technique in technique(), depth in 1.0..800.0f64, stays in 0.0..1.0f64) {
            let print = technique.usual();
            let (_, tips) = print.on(Place::Field, Level::Tip, depth);
            if matches!(technique, Technique::DryBrush | Technique::Gilding | Technique::SandBack) {
                prop_assert!(tips > *print.cover.at(Place::Field));
            }
            prop_assert!((0.0..=depth).contains(&print.fills(depth, stays)));
            prop_assert!((0.0..=depth).contains(&print.rubs(depth)));
        }
    }

    /// A full coat buries what a brush left, not what a stippler drew up; shares go over the whole.
    #[test]
    fn a_coat_buries_fine_texture() {
        let coat = Technique::BrushedCoat.usual();
        let (fine, heavy) = (coat.fills(10.0, 1.0), coat.fills(300.0, 1.0));
        assert!(fine < 6.0 && heavy > 250.0, "{fine} {heavy}");
        assert!((Level::ALL.map(Level::share).iter().sum::<f64>() - 1.0).abs() < 1e-12);
    }

    /// A place that is left out stays bare at every level.
    #[test]
    fn what_is_left_out_stays_bare() {
        let mut print = Technique::TintedWax.usual();
        print.cover.field = Share::NONE;
        for level in Level::ALL {
            assert_eq!(print.on(Place::Field, level, 200.0).1, Share::NONE);
        }
    }
}
