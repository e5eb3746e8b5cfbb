//! Whether the parts of a piece belong together.
//!
//! | question | answered from |
//! |---|---|
//! | do adjoining parts contrast as intended? | CIEDE2000 across each edge where two zones meet, against a window |
//! | does one part stand out? | its mean contrast with adjoining parts, against that of the others |
//! | how many families of hue are there, warm or cool? | hues of everything with chroma |
//! | is there a main colour, a second and an accent? | shares of the area |
//! | do recesses look deep? | lightness of recess and field |
//! | does one paint tie the parts together? | the pots |
//! | and in the evening? | all pairs in another light |
//! | who buys it? | chroma by area, contrast of adjoining parts: see [`crate::buyers`] |
//!
//! All thresholds are common practice†, in [`Windows`] and below; the painter may change the windows.

use warm_blend_board::Place;
use warm_blend_paint::{Dimension, HueFamily, PaintId, Units, percentages};
use warm_blend_spectral::{Lab, Light, difference};

use crate::{Intent, Meeting, Scheme, Windows, Zone, ZoneSeen};

/// Two adjoining zones and their contrast.
#[derive(Debug, Clone, PartialEq)]
pub struct Pair {
    /// The zones.
    pub zones: (Zone, Zone),
    /// Length of their common edge, m.
    pub length: f64,
    /// Contrast from across the room, ΔE00.
    pub contrast: f64,
    /// Intended contrast.
    pub intent: Intent,
    /// Least and greatest contrast intended, ΔE00.
    pub window: (f64, f64),
}

/// A contrast compared with its window.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Stands {
    /// Within it.
    In,
    /// Too little contrast.
    Near,
    /// Too much contrast.
    Far,
}

/// Subject of a finding.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum About {
    /// Two adjoining zones.
    Pair,
    /// Two adjoining zones in another light.
    PairIn(Light),
    /// A part that stands out.
    OddOneOut,
    /// Number of families of hue.
    Hues,
    /// Warm or cool.
    Lean,
    /// Main colour, second and accent.
    Balance,
    /// Depth of recesses.
    Depth,
    /// A paint that ties the parts together.
    Tie,
    /// Buyers of such a piece.
    Buyers,
}

/// A fault of a palette, or something worth knowing.
#[derive(Debug, Clone, PartialEq)]
pub struct Finding {
    /// Subject.
    pub about: About,
    /// Weight: the ΔE00 outside the window, or a comparable figure; 0 for information only.
    pub weight: f64,
    /// The finding as text.
    pub what: String,
    /// The figures behind it.
    pub from: String,
    /// Zones concerned.
    pub zones: Vec<Zone>,
}

/// From which chroma on a colour has a hue that counts†.
const COLOURED: f64 = 8.0;
/// More families of hue than this are many†.
const FAMILIES: usize = 3;
/// A part jumps out where its contrast to its neighbours is so many times that of the rest, and so much more†.
const JUMPS: (f64, f64) = (1.7, 9.0);
/// An accent takes at most such a share of the area†.
const ACCENT: f64 = 0.2;
/// From which share on a colour is the main one†.
const MAIN: f64 = 0.4;
/// A recess lighter than its field by more than this, L*, looks inside out†.
const INSIDE_OUT: f64 = 4.0;
/// Colours nearer than this, ΔE00, are one colour of the palette†.
const ONE: f64 = 6.0;

impl Stands {
    /// What the two zones do.
    pub const fn words(self) -> &'static str {
        match self {
            Stands::In => "go together",
            Stands::Near => "look too alike",
            Stands::Far => "clash",
        }
    }
}

impl Pair {
    /// Compares the contrast with its window.
    pub fn stands(&self) -> Stands {
        match self.contrast {
            contrast if contrast < self.window.0 => Stands::Near,
            contrast if contrast > self.window.1 => Stands::Far,
            _ => Stands::In,
        }
    }

    /// Distance outside its window, ΔE00.
    pub fn off(&self) -> f64 {
        (self.window.0 - self.contrast).max(self.contrast - self.window.1).max(0.0)
    }
}

/// Contrasts of all adjoining zones. Zones that wear the same or look the same count as one and are never too close.
pub fn pairs(zones: &[ZoneSeen], meetings: &[Meeting], scheme: &Scheme, windows: &Windows) -> Vec<Pair> {
    let seen = |zone| Some(zones.iter().find(|seen| seen.zone == zone)?.lab);
    pairs_of(seen, meetings, scheme, windows)
}

/// Contrasts for given colours by zone.
pub(super) fn pairs_of(
    seen: impl Fn(Zone) -> Option<Lab>,
    meetings: &[Meeting],
    scheme: &Scheme,
    windows: &Windows,
) -> Vec<Pair> {
    let pair = |meeting: &Meeting| {
        let (one, other) = meeting.zones;
        let contrast = difference(seen(one)?, seen(other)?).value();
        let own =
            scheme.pairs.iter().find(|pair| [(one, other), (other, one)].contains(&(pair.one, pair.other)));
        let intent = own.map_or(scheme.intent, |pair| pair.intent);
        let (least, most) = windows.window(intent);
        let worn = |zone: Zone| scheme.dress(zone).map(|dress| &dress.wears);
        let alike = contrast < 1e-9 || worn(one) == worn(other);
        let window = (if alike { 0.0 } else { least }, most);
        Some(Pair { zones: (one, other), length: meeting.length, contrast, intent, window })
    };
    meetings.iter().filter_map(pair).collect()
}

/// Total distance of pairs outside their windows, ΔE00.
pub fn off(pairs: &[Pair]) -> f64 {
    pairs.iter().map(Pair::off).fold(0.0, |a, b| a + b)
}

/// Findings on a palette, most important first, with lengths in these units.
pub fn findings(zones: &[ZoneSeen], pairs: &[Pair], units: Units) -> Vec<Finding> {
    let mut found = of_palette(zones, pairs);
    found.extend(pairs.iter().filter_map(|pair| of_pair(pair, units)));
    found.sort_by(|a, b| b.weight.total_cmp(&a.weight));
    found
}

/// Findings on the palette as a whole, apart from its pairs.
pub(super) fn of_palette(zones: &[ZoneSeen], pairs: &[Pair]) -> Vec<Finding> {
    let mut found = Vec::new();
    found.extend(jumps_out(zones, pairs));
    found.extend(hues(zones));
    found.extend(balance(zones));
    found.extend(depth(zones));
    found
}

fn named(zone: Zone) -> String {
    zone.name().to_lowercase()
}

fn of_pair(pair: &Pair, units: Units) -> Option<Finding> {
    let (one, other) = pair.zones;
    let (least, most) = pair.window;
    let limit = match pair.stands() {
        Stands::In => return None,
        Stands::Far => format!("at most {most:.0}"),
        Stands::Near => format!("at least {least:.0}"),
    };
    let what = format!("{} and {} {}", one.name(), named(other), pair.stands().words());
    let from = format!(
        "contrast {:.0} (ΔE00 from across the room) along {}; {} allows {limit}",
        pair.contrast,
        units.say(Dimension::Run, pair.length),
        pair.intent.id()
    );
    Some(Finding { about: About::Pair, weight: pair.off(), what, from, zones: vec![one, other] })
}

/// The odd one out: a colour that is not the main one, far from its neighbours where the rest are near theirs, and off.
fn jumps_out(zones: &[ZoneSeen], pairs: &[Pair]) -> Option<Finding> {
    let mean = |of: &dyn Fn(&Pair) -> bool| {
        let (sum, length) = pairs.iter().filter(|pair| of(pair)).fold((0.0, 0.0), |(sum, length), pair| {
            (sum + pair.contrast * pair.length, length + pair.length)
        });
        (length > 0.0).then(|| sum / length)
    };
    let odd = palette(zones.iter()).into_iter().skip(1).filter_map(|(_, _, of)| {
        let within = |pair: &Pair| (of.contains(&pair.zones.0), of.contains(&pair.zones.1));
        let at_its_edge = |pair: &Pair| within(pair).0 != within(pair).1;
        let (own, rest) = (mean(&at_its_edge)?, mean(&|pair| within(pair) == (false, false))?);
        let off = pairs.iter().filter(|pair| at_its_edge(pair)).map(Pair::off).fold(0.0, f64::max);
        (own > JUMPS.0 * rest && own - rest > JUMPS.1 && off > 0.0).then_some((of, own, rest, off))
    });
    let (of, own, rest, off) = odd.max_by(|a, b| (a.1 - a.2).total_cmp(&(b.1 - b.2)))?;
    let names: Vec<String> = of.iter().map(|zone| named(*zone)).collect();
    Some(Finding {
        about: About::OddOneOut,
        // After the pairs that it is off with.
        weight: 0.9 * off,
        what: format!("The odd one out: {}", names.join(", ")),
        from: format!("average contrast with adjoining parts {own:.0}; elsewhere {rest:.0} (ΔE00)"),
        zones: of,
    })
}

/// Colours of a palette: zones that look alike are one. With the share of the area of them all.
fn palette<'a>(zones: impl Iterator<Item = &'a ZoneSeen>) -> Vec<(Lab, f64, Vec<Zone>)> {
    let mut by_area: Vec<&ZoneSeen> = zones.filter(|seen| seen.zone.is_painted()).collect();
    by_area.sort_by(|a, b| b.extent.area.total_cmp(&a.extent.area));
    let all: f64 = by_area.iter().map(|seen| seen.extent.area).fold(0.0, |a, b| a + b);
    let mut colours: Vec<(Lab, f64, Vec<Zone>)> = Vec::new();
    for seen in by_area {
        let share = if all > 0.0 { seen.extent.area / all } else { 0.0 };
        match colours.iter_mut().find(|(lab, ..)| difference(*lab, seen.lab).value() < ONE) {
            Some((_, sum, of)) => {
                *sum += share;
                of.push(seen.zone);
            }
            None => colours.push((seen.lab, share, vec![seen.zone])),
        }
    }
    colours.sort_by(|a, b| b.1.total_cmp(&a.1));
    colours
}

fn hues(zones: &[ZoneSeen]) -> Vec<Finding> {
    let coloured: Vec<&ZoneSeen> = zones.iter().filter(|seen| seen.lab.chroma() > COLOURED).collect();
    let mut families: Vec<HueFamily> = Vec::new();
    for seen in &coloured {
        let family = HueFamily::of(seen.lab);
        if !families.contains(&family) {
            families.push(family);
        }
    }
    let mut found = Vec::new();
    let listed: Vec<String> = families.iter().map(|family| family.id().to_owned()).collect();
    if families.len() > FAMILIES {
        found.push(Finding {
            about: About::Hues,
            weight: 4.0 * (families.len() - FAMILIES) as f64,
            what: format!("Too many hues ({}): keep to {FAMILIES}", families.len()),
            from: listed.join(", "),
            zones: coloured.iter().map(|seen| seen.zone).collect(),
        });
    }
    // Warm is towards 60°, cool towards 240°.
    let lean = |seen: &ZoneSeen| seen.lab.chroma() * (seen.lab.hue() - 60.0).to_radians().cos();
    let area: f64 = zones.iter().map(|seen| seen.extent.area).fold(0.0, |a, b| a + b);
    if area > 0.0 {
        let mean = zones.iter().map(|seen| seen.extent.area * lean(seen)).fold(0.0, |a, b| a + b) / area;
        let word = match mean {
            mean if mean > 3.0 => "Slightly warm",
            mean if mean < -3.0 => "Slightly cool",
            _ => "Warm and cool balance",
        };
        found.push(Finding {
            about: About::Lean,
            weight: 0.0,
            what: word.to_owned(),
            from: format!("warm–cool balance {mean:+.0}, averaged by area (+ warm, − cool)"),
            zones: Vec::new(),
        });
    }
    found
}

fn balance(zones: &[ZoneSeen]) -> Option<Finding> {
    let about = About::Balance;
    let colours = palette(zones.iter().filter(|seen| seen.painted));
    let shares: Vec<f64> = colours.iter().map(|(_, share, _)| *share).collect();
    let shares: Vec<String> = percentages(&shares).iter().map(|share| format!("{share} %")).collect();
    let from = format!("share of the painted area: {}", shares.join(", "));
    let [main, second, rest @ ..] = colours.as_slice() else { return None };
    if main.1 < MAIN && main.1 - second.1 < 0.1 {
        let zones = main.2.iter().chain(&second.2).copied().collect();
        let what = "No colour leads: the two largest cover about the same area".to_owned();
        return Some(Finding { about, weight: 3.0, what, from, zones });
    }
    let loud = rest.iter().find(|(lab, share, _)| {
        *share > ACCENT && lab.chroma() > 1.5 * main.0.chroma().max(second.0.chroma()).max(10.0)
    });
    if let Some((_, share, zones)) = loud {
        let what = format!("Accent too large: {:.0} % of the painted area", 100.0 * share);
        let weight = 100.0 * (share - ACCENT);
        return Some(Finding { about, weight, what, from, zones: zones.clone() });
    }
    Some(Finding {
        about,
        weight: 0.0,
        what: "Main, second and accent colours balance".to_owned(),
        from,
        zones: Vec::new(),
    })
}

/// Recesses should not be lighter than the field around them, unless that is meant.
fn depth(zones: &[ZoneSeen]) -> Vec<Finding> {
    zones
        .iter()
        .filter_map(|seen| {
            let (recess, field) = (seen.place(Place::Recess).l, seen.place(Place::Field).l);
            let lighter = recess - field;
            (lighter > INSIDE_OUT).then(|| Finding {
                about: About::Depth,
                weight: 0.3 * (lighter - INSIDE_OUT),
                what: format!("{} looks inside out: recesses lighter than the flat", seen.zone.name()),
                from: format!("L* {recess:.0} in the recess, L* {field:.0} on the flat"),
                zones: vec![seen.zone],
            })
        })
        .collect()
}

impl Finding {
    /// How much of it is new: its weight, less the weight of the same fault before.
    pub(super) fn beyond(&self, before: &[Finding]) -> f64 {
        let same = |other: &&Finding| {
            let everywhere = matches!(self.about, About::OddOneOut | About::Hues | About::Balance);
            self.about == other.about && (everywhere || self.zones == other.zones)
        };
        let was = before.iter().filter(same).map(|other| other.weight).fold(0.0, f64::max);
        (self.weight - was).max(0.0)
    }
}

/// Pairs that are within their window in the current light but not in another.
pub(super) fn elsewhere(now: &[Pair], then: &[Pair], light: Light) -> Vec<Finding> {
    let leaves = |(now, then): (&Pair, &Pair)| {
        let off = then.off();
        (now.off() <= 0.0 && off > 0.5).then(|| {
            let (one, other) = then.zones;
            let how = then.stands().words();
            Finding {
                about: About::PairIn(light),
                weight: off,
                what: format!(
                    "{} and {} {how} under {}",
                    one.name(),
                    named(other),
                    light.name().to_lowercase()
                ),
                from: format!(
                    "contrast {:.0} there, {:.0} in the current light (ΔE00)",
                    then.contrast, now.contrast
                ),
                zones: vec![one, other],
            }
        })
    };
    now.iter().zip(then).filter_map(leaves).collect()
}

/// The paint that ties most parts together, by the contents of their pots.
pub fn shared_paint(zones: &[(Zone, Vec<PaintId>)], name: impl Fn(PaintId) -> String) -> Option<Finding> {
    let painted: Vec<&(Zone, Vec<PaintId>)> = zones.iter().filter(|(_, paints)| !paints.is_empty()).collect();
    if painted.len() < 2 {
        return None;
    }
    let with = |paint: PaintId| -> Vec<Zone> {
        painted.iter().filter(|(_, paints)| paints.contains(&paint)).map(|(zone, _)| *zone).collect()
    };
    let mut paints: Vec<PaintId> = painted.iter().flat_map(|(_, paints)| paints.iter().copied()).collect();
    paints.sort_unstable();
    paints.dedup();
    let (paint, tied) =
        paints.into_iter().map(|paint| (paint, with(paint))).max_by_key(|(_, tied)| tied.len())?;
    let from = format!("in {} of {} painted parts", tied.len(), painted.len());
    let about = About::Tie;
    Some(if tied.len() > 1 {
        Finding {
            about,
            weight: 0.0,
            what: format!("{} ties them together", capital(&name(paint))),
            from,
            zones: tied,
        }
    } else {
        let what = "No paint is shared: mix a little of one part’s paint into another to tie them together"
            .to_owned();
        Finding { about, weight: 2.0, what, from, zones: Vec::new() }
    })
}

fn capital(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}
