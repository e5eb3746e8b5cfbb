//! Transitions between colours that are worked into each other.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_learn::Ensemble;
use warm_blend_mixing as bench;
use warm_blend_mixing::{BlendCurve, DoubtfulTin, InDoubt};
use warm_blend_paint::{Look, Material, MixPart};

use crate::mixable::{DoubtfulPot, Mixable};
use crate::{RecipePart, Refusal, ShelfSnapshot};

/// Two to five colours to blend.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BlendOf {
    /// Components of each colour: a paint or a mix.
    pub colours: Vec<Vec<MixPart>>,
}

/// Transitions between colours.
#[derive(Debug, Serialize, ToSchema)]
pub struct Blend {
    /// Transition from each colour to the next.
    pub paths: Vec<BlendPath>,
    /// Every pair that might share a brush, and the result.
    pub pairs: Vec<BrushPair>,
}

/// Transition from one colour to the next.
#[derive(Debug, Serialize, ToSchema)]
pub struct BlendPath {
    /// Colours along the path, evenly spaced by volume.
    pub colours: Vec<String>,
    /// The transition in words.
    pub words: String,
    /// Largest step divided by the mean; 1 if it is even.
    pub uneven: f64,
    /// Share of the second colour that looks half-way.
    pub half_way: f64,
    /// That share as parts of the first and the second.
    pub half_way_parts: [u32; 2],
    /// Index of the colour that overpowers the other, 0 or 1: add it last and sparingly.
    pub overpowers: Option<u8>,
    /// Share of the second colour at which it turns grey, if it does.
    pub mud_at: Option<f64>,
    /// The paint that best bridges the two, if one does.
    pub bridge: Option<RecipePart>,
}

/// Two colours on one brush.
#[derive(Debug, Serialize, ToSchema)]
pub struct BrushPair {
    /// Indices of the two colours.
    pub of: [usize; 2],
    /// Colour of an equal mix.
    pub hex: String,
    /// False if they may share a brush.
    pub apart: bool,
    /// The reason.
    pub words: String,
}

impl ShelfSnapshot {
    /// Transitions between colours: where they turn grey or into another hue, what bridges them, and which brushes to
    /// keep apart.
    pub fn blend(&self, of: &BlendOf, look: Look) -> Result<Blend, Refusal> {
        if !(2..=5).contains(&of.colours.len()) {
            return Err(Refusal::field("/colours", "a blend needs 2 to 5 colours"));
        }
        let pot = |(i, parts): (usize, &Vec<MixPart>)| self.pot(&format!("/colours/{i}"), parts);
        let made = of.colours.iter().enumerate().map(pot).collect::<Result<Vec<_>, _>>()?;
        let used: Vec<Uuid> = of.colours.iter().flatten().map(|part| part.paint.0).collect();
        let mixable = self.mixable(look, &used, |tin| !used.contains(&tin.id))?;
        let colours: Vec<&Material> = made.iter().map(Ensemble::best).collect();
        let pots: Vec<DoubtfulPot> = made.iter().map(DoubtfulPot::of).collect();
        let tins = mixable.doubtful(&[]);
        let way = |pair: &[DoubtfulPot]| path(&mixable, &tins, pair[0].material(), pair[1].material());
        let paths = pots.windows(2).map(way).collect();
        let mut pairs = Vec::new();
        for one in 0..colours.len() {
            for other in one + 1..colours.len() {
                pairs.push(brushes([one, other], colours[one], colours[other], look));
            }
        }
        Ok(Blend { paths, pairs })
    }
}

fn path(mixable: &Mixable<'_>, tins: &[DoubtfulTin<'_>], first: InDoubt, second: InDoubt) -> BlendPath {
    let (one, other) = (first.best, second.best);
    let look = mixable.look;
    let path = BlendCurve::between(one, other, look);
    let codes =
        bench::seen_between(one, other, look).iter().map(|seen| seen.screen.srgb.to_string()).collect();
    let bridge = bench::bridge(first, second, tins, look);
    BlendPath {
        colours: codes,
        words: path.words(),
        uneven: path.uneven,
        half_way: path.half_way,
        half_way_parts: path.half_way_parts().into(),
        overpowers: path.stronger().map(|stronger| match stronger {
            bench::Stronger::First => 0,
            bench::Stronger::Second => 1,
        }),
        mud_at: path.mud.map(|mud| mud.share),
        bridge: bridge.and_then(|at| mixable.parts(&[(at, 1)]).into_iter().next()),
    }
}

fn brushes(of: [usize; 2], one: &Material, other: &Material, look: Look) -> BrushPair {
    let path = BlendCurve::between(one, other, look);
    let seen = bench::seen_between(one, other, look);
    BrushPair {
        of,
        hex: seen.get(seen.len() / 2).map_or(String::new(), |seen| seen.screen.srgb.to_string()),
        apart: path.must_not_meet(),
        words: path.on_one_brush(),
    }
}
