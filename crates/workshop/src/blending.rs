//! What lies between colours that are worked into each other.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_learn::Ensemble;
use warm_blend_mixing as bench;
use warm_blend_mixing::{BlendCurve, DoubtfulTin, InDoubt};
use warm_blend_paint::{Look, Material, MixPart};

use crate::mixable::{DoubtfulPot, Mixable};
use crate::{RecipePart, Refusal, ShelfSnapshot};

/// Two to five colours to be worked into each other.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BlendOf {
    /// What is stirred together for each: a paint, or a mix.
    pub colours: Vec<Vec<MixPart>>,
}

/// What lies between colours.
#[derive(Debug, Serialize, ToSchema)]
pub struct Blend {
    /// The ways from each to the next.
    pub paths: Vec<BlendPath>,
    /// Every pair that one brush might carry, and what it would make of it.
    pub pairs: Vec<BrushPair>,
}

/// The way from one colour to the next.
#[derive(Debug, Serialize, ToSchema)]
pub struct BlendPath {
    /// Hex codes from the one to the other, evenly by volume.
    pub colours: Vec<String>,
    /// Its first word: how it runs.
    pub words: String,
    /// Largest step over the mean: 1 where it runs evenly.
    pub uneven: f64,
    /// Share of the second at which it looks half-way.
    pub half_way: f64,
    /// That as parts of the first and of the second.
    pub half_way_parts: [u32; 2],
    /// Which of the two overpowers the other, 0 or 1: it goes in last and least.
    pub overpowers: Option<u8>,
    /// Share of the second where it goes grey, if it does.
    pub mud_at: Option<f64>,
    /// The paint of the shelf that bridges the two best, where one does.
    pub bridge: Option<RecipePart>,
}

/// Two colours on one brush.
#[derive(Debug, Serialize, ToSchema)]
pub struct BrushPair {
    /// Places of the two among the colours.
    pub of: [usize; 2],
    /// What half and half makes.
    pub hex: String,
    /// False where they may share a brush.
    pub apart: bool,
    /// Why, in words.
    pub words: String,
}

impl ShelfSnapshot {
    /// What lies between colours: the way, where it goes grey or turns, what bridges it, which brushes must not meet.
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
