//! Layers over a ground, each of which may cover only part of the area.
//!
//! If layers fall independently, the shares of the states (which layers lie at a spot) are products of their coverages:
//! M. E. Demichel, *Le procédé* 26 (1924) 17. From across the room the eye sees the mean of the states by area: H. E. J.
//! Neugebauer, *Z. wiss. Photogr.* 36 (1937) 73. Within a state the films lie on one another as in
//! [`Optics`](warm_blend_paint::Optics).
//!
//! The topmost film determines the surface, and a seal fills the air in everything below it at that spot. What is wiped
//! on bare wood or bare paint soaks in: see [`Soaks`]. Rough layers have hollows and tips at each kind of place: see
//! [`Level`].
//!
//! Wear takes a spot back to what it was before some layer. Around a worn spot all films are cut at a slant, so each
//! except the topmost shows as a ring as wide as it is thick. If a share s is worn through, the cut takes s (1 − s)†
//! more: as much again where little is worn, and nothing where everything is.

use std::cell::OnceCell;

use warm_blend_paint::{
    BadPaint, FilmState, Material, Microns, Optics, SurfaceReflection, Undersurface, film::FilmTransfer,
};
use warm_blend_spectral::{BANDS, Lab, Light, Reflectance, Xyz, difference};

use super::{
    Below, ByPlace, Deposit, Ground, Level, Place, Share, Soaks, Wood,
    soak::{BareWood, SoakedFilm, into_paint},
};

/// Layers at a spot: bit n for layer n, the lowest being 0.
pub type Present = u64;

/// Greatest number of layers in a stack.
pub const LAYERS: usize = 60;

/// Greatest number of states of a place. Beyond it the smallest are not divided: a layer covers such a spot completely or
/// not at all.
const STATES: usize = 256;

/// Least share of a place that is split.
const LEAST_SPLIT: f64 = 1e-7;

/// Difference below which two colours look the same from a step away, ΔE00†.
const ALIKE: f64 = 2.0;

/// Least share of a place at which a ring is seen†.
const LEAST_RING: f64 = 0.002;

/// Dry film that determines two thirds of the surface, µm†.
const SURFACE: f64 = 3.0;

/// Film at which flakes cover two thirds of their share, µm†.
const FLAKES: f64 = 20.0;

/// How a layer falls relative to an earlier one, if not at random.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize, serde::Deserialize)]
#[serde(rename_all = "lowercase")]
pub enum Meets {
    /// Where the other is not, as far as there is room.
    Avoids,
    /// Where the other is, as far as it reaches.
    Seeks,
}

/// Layers over a ground.
#[derive(Debug, Clone)]
pub struct Stack {
    /// Ground below its surface.
    ground: Undersurface,
    alpha: f64,
    /// Strength of the ground's grain where it is bare, and the wood.
    grain: f64,
    wood: Option<Wood>,
    /// The ground as absorbent wood.
    bare_wood: Option<BareWood>,
    layers: Vec<Laid>,
    /// Depth of the texture, µm: of the ground, and with each layer.
    texture: Vec<f64>,
}

#[derive(Debug, Clone)]
struct Laid {
    effect: Effect,
    print: Deposit,
    meets: Option<(usize, Meets)>,
    /// Depth of the texture of this film alone, µm.
    rough: f64,
    /// True if it cracked as it dried.
    cracked: bool,
}

impl Laid {
    /// A layer that leaves nothing and takes nothing away.
    fn nothing() -> Self {
        let print = Deposit { film: ByPlace::all(Microns::of(0.0)), cover: ByPlace::all(Share::NONE) };
        Self { effect: Effect::Nothing, print, meets: None, rough: 0.0, cracked: false }
    }

    /// True if its thickness is about the same everywhere; what is wiped stays in hollows and closes nothing.
    fn closes(&self) -> bool {
        let Deposit { film, cover } = &self.print;
        cover.field == Share::WHOLE && film.recess.value() < 1.5 * film.field.value()
    }
}

#[derive(Debug, Clone)]
enum Effect {
    Lays { material: Box<Material>, below: Below },
    TakesAway { down_to: usize },
    Nothing,
}

/// A spot that a layer divides. What the shares leave over is unchanged.
#[derive(Debug, Clone, PartialEq)]
pub struct Split {
    /// What lay there before.
    pub before: Present,
    /// What lies there afterwards, with its share of the spot, 0..=1; from the middle of the layer's marks outwards.
    pub after: Vec<(Present, f64)>,
}

/// A uniform part of a place.
#[derive(Debug, Clone, PartialEq)]
pub struct AreaState {
    /// Layers present.
    pub present: Present,
    /// Share of the place, 0..=1; the shares of all states add up to 1.
    pub share: f64,
    /// Reflectance.
    pub seen: Reflectance,
    /// Share covered by flakes.
    pub lustre: f64,
    /// Share of the surface reflection that reaches the eye: see [`SurfaceReflection`].
    pub alpha: f64,
    /// Height over the ground after drying, µm.
    pub height: f64,
    /// How much of the ground shows through the layers, 0..=1.
    pub see_through: f64,
}

/// Appearance of a kind of place.
#[derive(Debug, Clone, PartialEq)]
pub struct PlaceSeen {
    /// Uniform parts, largest first.
    pub states: Vec<AreaState>,
}

impl PlaceSeen {
    /// Reflectance from across the room: the mean by area.
    pub fn from_afar(&self) -> Reflectance {
        let mut sum = [0.0; BANDS];
        for state in &self.states {
            for (sum, r) in sum.iter_mut().zip(state.seen.bands()) {
                *sum += state.share * r;
            }
        }
        Reflectance::clamped(sum)
    }

    /// The colours that can be told apart, with their shares, largest first. A state closer than `ALIKE` to a larger one
    /// is added to it.
    pub fn colours(&self, light: Light) -> Vec<(Reflectance, f64)> {
        distinct_colours(self.states.iter().map(|state| (state.seen, state.share)), light, ALIKE)
    }
}

/// Merges colours: each that is closer than `alike`, ΔE00, to an earlier one is added to it. Expects and returns the
/// largest shares first.
pub fn distinct_colours(
    colours: impl Iterator<Item = (Reflectance, f64)>,
    light: Light,
    alike: f64,
) -> Vec<(Reflectance, f64)> {
    let mut shown: Vec<(Reflectance, Lab, f64)> = Vec::new();
    for (curve, share) in colours {
        let seen = lab(&curve, light);
        match shown.iter_mut().find(|(_, known, _)| difference(*known, seen).value() < alike) {
            Some((_, _, sum)) => *sum += share,
            None => shown.push((curve, seen, share)),
        }
    }
    shown.sort_by(|one, other| other.2.total_cmp(&one.2));
    shown.into_iter().map(|(curve, _, share)| (curve, share)).collect()
}

/// Lab of a curve in a light.
pub fn lab(curve: &Reflectance, light: Light) -> Lab {
    Lab::of(Xyz::of(curve, light), light.white())
}

impl Stack {
    /// A bare ground.
    pub fn over(ground: &Ground) -> Result<Self, BadPaint> {
        let (seen, sheen) = ground.seen()?;
        let inside = sheen.inside(&seen);
        Ok(Self {
            ground: Undersurface::diffuse(&inside),
            bare_wood: BareWood::of(ground.kind, &inside),
            alpha: sheen.alpha(),
            grain: ground.kind.grain(),
            wood: ground.kind.wood(),
            layers: Vec::new(),
            texture: vec![0.0],
        })
    }

    /// The same stack with this factor on the air in bare wood.
    pub fn with_air_of_wood(mut self, times: f64) -> Self {
        self.bare_wood = self.bare_wood.map(|wood| wood.with_air(times));
        self
    }

    /// Adds a film of a material; a stack has at most [`LAYERS`]. `meets` names an earlier layer that it avoids or seeks.
    pub fn lay(&mut self, material: Material, print: Deposit, below: Below, meets: Option<(usize, Meets)>) {
        self.lay_rough(material, print, below, meets, Microns::of(0.0));
    }

    /// Adds a film with a texture of its own, of depth `own`.
    pub fn lay_rough(
        &mut self,
        material: Material,
        print: Deposit,
        below: Below,
        meets: Option<(usize, Meets)>,
        own: Microns,
    ) {
        let filled = print.fills(self.depth(self.layers.len()), material.stays);
        // Two independent roughnesses.
        let rough = own.value() * print.cover.field.value();
        self.texture.push(filled.hypot(rough));
        let effect = Effect::Lays { material: Box::new(material), below };
        self.layers.push(Laid { effect, print, meets, rough, cracked: false });
    }

    /// Marks the last layer as cracked: what follows lies in its cracks as in a recess.
    pub fn crack(&mut self) {
        if let Some(last) = self.layers.last_mut() {
            last.cracked = true;
        }
    }

    /// Removes a share of everything above the lowest `down_to` layers.
    pub fn take_away(&mut self, print: Deposit, down_to: usize) {
        let down_to = down_to.min(self.layers.len());
        self.texture.push(print.rubs(self.depth(self.layers.len())));
        self.layers.push(Laid {
            effect: Effect::TakesAway { down_to },
            print,
            meets: None,
            rough: 0.0,
            cracked: false,
        });
    }

    /// Lowers ridges by this many µm without wearing anything through.
    pub fn smooth(&mut self, by: f64) {
        self.texture.push((self.depth(self.layers.len()) - by).max(0.0));
        self.layers.push(Laid::nothing());
    }

    /// Adds a placeholder for a hidden layer, which keeps its number.
    pub fn leave_out(&mut self) {
        self.smooth(0.0);
    }

    /// Depth of the texture with the lowest `layers` on, from tip to hollow.
    pub fn texture(&self, layers: usize) -> Microns {
        Microns::of(self.depth(layers))
    }

    fn depth(&self, layers: usize) -> f64 {
        self.texture[layers.min(self.layers.len())]
    }

    /// The roughest of the lowest `layers`; of equals the last.
    pub fn roughest(&self, layers: usize) -> Option<usize> {
        let layers = self.layers[..layers.min(self.layers.len())].iter().enumerate();
        let rough = layers.filter(|(_, laid)| laid.rough > 0.0);
        rough.max_by(|one, other| one.1.rough.total_cmp(&other.1.rough)).map(|(layer, _)| layer)
    }

    /// Levels that differ with the lowest `layers` on; a single one if all is smooth.
    pub fn levels(&self, layers: usize) -> &'static [Level] {
        let rough = self.texture[..=layers.min(self.layers.len())].iter().any(|depth| *depth > 0.0);
        if rough { &Level::ALL } else { &[Level::Even] }
    }

    /// How much darker than the mean the darkest bands of the ground's grain are, as a share; 0 if it is not wood.
    pub fn grain(&self) -> f64 {
        self.grain
    }

    /// The grain that shows where the ground is bare; `None` if it is not wood.
    pub fn wood(&self) -> Option<Wood> {
        self.wood
    }

    /// Number of layers.
    pub fn len(&self) -> usize {
        self.layers.len()
    }

    /// True if the ground is bare.
    pub fn is_empty(&self) -> bool {
        self.layers.is_empty()
    }

    /// The same stack with this factor on all films.
    pub fn with_films(&self, times: f64) -> Self {
        let mut stack = self.clone();
        for laid in &mut stack.layers {
            let film = laid.print.film;
            laid.print.film = ByPlace::from_fn(|place| Microns::of(film.at(place).value() * times));
        }
        stack
    }

    /// Material of a layer; `None` if it takes paint away or is hidden.
    pub fn material(&self, layer: usize) -> Option<&Material> {
        match &self.layers.get(layer)?.effect {
            Effect::Lays { material, .. } => Some(material),
            Effect::TakesAway { .. } | Effect::Nothing => None,
        }
    }

    /// By layer, how it divides what lay at a level of a place before it; spots it leaves alone are not listed.
    pub fn splits(&self, place: Place, level: Level) -> Vec<Vec<Split>> {
        let mut states = vec![(0, 1.0)];
        (0..self.layers.len())
            .map(|layer| {
                let splits = self.split(layer, (place, level), &states);
                states = divided(&states, &splits);
                splits
            })
            .collect()
    }

    fn split(&self, layer: usize, (place, level): (Place, Level), states: &[(Present, f64)]) -> Vec<Split> {
        let Laid { effect, print, meets, .. } = &self.layers[layer];
        let cover = print.on(place, level, self.depth(layer)).1.value();
        let after = |before: Present, share: f64| match effect {
            Effect::Lays { .. } => vec![(before | 1 << layer, share)],
            Effect::TakesAway { down_to } => self.worn((place, level), *down_to, before, share),
            Effect::Nothing => Vec::new(),
        };
        let (where_other_is, elsewhere) = match meets {
            Some((other, meets)) => {
                let other = states.iter().filter(|(present, _)| present >> other & 1 == 1);
                meets.shares(cover, other.map(|(_, share)| share).sum())
            }
            None => (cover, cover),
        };
        let cover_of = |before: Present| match meets {
            Some((other, _)) if before >> other & 1 == 1 => where_other_is,
            _ => elsewhere,
        };
        let mut splits: Vec<Split> = states
            .iter()
            .map(|(before, _)| Split { before: *before, after: after(*before, cover_of(*before)) })
            .collect();
        // The largest splits first, as long as there is room; the rest completely or not at all.
        let share = |split: &Split| split.after.first().map_or(0.0, |(_, share)| *share);
        let smaller = |i: usize| share(&splits[i]).min(1.0 - share(&splits[i])) * states[i].1;
        let mut order: Vec<(usize, f64)> = (0..states.len()).map(|i| (i, smaller(i))).collect();
        order.sort_by(|one, other| other.1.total_cmp(&one.1));
        let room = STATES.saturating_sub(states.len());
        let divides = |nth: usize, smaller: f64| nth < room && smaller >= LEAST_SPLIT;
        // Rings take the remaining room.
        let divided = order.iter().enumerate().filter(|(nth, (_, smaller))| divides(*nth, *smaller));
        let mut room_for_rings = room - divided.count();
        // What undivided spots are owed is given to them in turn, so that the layer covers its total share.
        let mut owed = 0.0;
        for (nth, (i, smaller)) in order.into_iter().enumerate() {
            let (split, of_all) = (&mut splits[i], states[i].1);
            if divides(nth, smaller) {
                split.after.truncate(1 + room_for_rings);
                room_for_rings -= split.after.len() - 1;
                continue;
            }
            owed += share(split) * of_all;
            let whole = owed >= 0.5 * of_all;
            split.after.truncate(usize::from(whole));
            for (_, share) in &mut split.after {
                *share = 1.0;
                owed -= of_all;
            }
        }
        splits
            .retain(|split| split.after.iter().any(|(after, share)| *share > 0.0 && *after != split.before));
        splits
    }

    /// A spot of which a share is worn down to the lowest `down_to` layers: surrounded by rings of the layers in between,
    /// lowest first.
    fn worn(
        &self,
        (place, level): (Place, Level),
        down_to: usize,
        before: Present,
        share: f64,
    ) -> Vec<(Present, f64)> {
        let below = |layer: usize| before & ((1 << layer) - 1);
        let mut after = vec![(below(down_to), share)];
        let films: Vec<(usize, f64)> = (down_to..self.layers.len())
            .filter(|layer| before >> layer & 1 == 1)
            .filter_map(|layer| {
                let stays = self.material(layer)?.stays;
                let (film, _) = self.layers[layer].print.on(place, level, self.depth(layer));
                Some((layer, film.value() * stays))
            })
            .collect();
        let all: f64 = films.iter().map(|(_, film)| film).sum();
        let aslant = share * (1.0 - share) / all.max(f64::MIN_POSITIVE);
        let rings = films.windows(2).map(|ring| (below(ring[1].0), aslant * ring[0].1));
        after.extend(rings.filter(|(_, ring)| *ring >= LEAST_RING));
        after
    }

    /// Appearance of a kind of place, all its levels together, with the lowest `layers` on and the whole in a state.
    pub fn seen(&self, place: Place, layers: usize, state: FilmState) -> PlaceSeen {
        let levels = self.levels(layers);
        let part = |level: &Level| {
            let share = if levels.len() > 1 { level.share() } else { 1.0 };
            let states = self.seen_at(place, *level, layers, state).states.into_iter();
            states.map(move |state| AreaState { share: share * state.share, ..state })
        };
        let mut states: Vec<AreaState> = levels.iter().flat_map(part).collect();
        states.sort_by(|one, other| other.share.total_cmp(&one.share));
        PlaceSeen { states }
    }

    /// Appearance of one level of a rough place.
    pub fn seen_at(&self, place: Place, level: Level, layers: usize, state: FilmState) -> PlaceSeen {
        let layers = layers.min(self.layers.len());
        let mut states = vec![(0, 1.0)];
        for layer in 0..layers {
            states = divided(&states, &self.split(layer, (place, level), &states));
        }
        let sheet = |n: usize, place: Place| {
            let (film, _) = self.layers[n].print.on(place, level, self.depth(n));
            Sheets::of(&self.layers[n], film, state)
        };
        let on_crack =
            |n: usize| !self.layers[n].closes() && self.layers[..n].iter().any(|laid| laid.cracked);
        let both = |n: usize| (sheet(n, place), if on_crack(n) { sheet(n, Place::Recess) } else { None });
        let sheets: Vec<(Option<Sheets>, Option<Sheets>)> = (0..layers).map(both).collect();
        let mut soaked = Vec::new();
        let spot = |spot| self.spot(&sheets, &mut soaked, spot, state);
        let mut states: Vec<AreaState> = states.into_iter().map(spot).collect();
        states.sort_by(|one, other| other.share.total_cmp(&one.share));
        PlaceSeen { states }
    }

    /// True if a layer lies in a crack at a spot: in one of the last cracked coat below it, unless that was sanded or
    /// closed by another coat.
    fn is_in_crack(&self, layer: usize, present: Present) -> bool {
        let mut below = self.layers[..layer].iter().enumerate().rev();
        let tells = |laid: &Laid| match laid.effect {
            Effect::Lays { .. } => laid.cracked || laid.closes(),
            Effect::TakesAway { .. } => true,
            Effect::Nothing => false,
        };
        let last = below.find(|(_, laid)| tells(laid));
        last.is_some_and(|(n, laid)| laid.cracked && present >> n & 1 == 0)
    }

    /// Composes one spot from the ground up.
    fn spot(
        &self,
        sheets: &[(Option<Sheets>, Option<Sheets>)],
        known: &mut Vec<(SoakedAs, SoakedFilm)>,
        (present, share): (Present, f64),
        state: FilmState,
    ) -> AreaState {
        let here = sheets.iter().enumerate().filter(|(n, _)| present >> n & 1 == 1);
        let lying = here.filter_map(|(n, (usual, in_crack))| {
            let in_crack = in_crack.as_ref().filter(|_| self.is_in_crack(n, present));
            Some((n, in_crack.or(usual.as_ref())?))
        });
        let lying: Vec<(usize, &Sheets)> = lying.collect();
        // Number of layers, including the ground, below which air is filled.
        let filled = match state {
            FilmState::Dry => {
                lying.iter().rposition(|(_, sheets)| sheets.below.seals).map_or(0, |top| top + 1)
            }
            FilmState::Wet | FilmState::Sealed | FilmState::Buffed => usize::MAX,
        };
        let soaked = self.soaked(&lying);
        let (mut inside, mut alpha, mut lustre) =
            (self.ground_with(&soaked.into_wood, filled > 0), self.alpha, 0.0);
        let (mut height, mut see_through) = (0.0, 1.0);
        for (at, (n, sheets)) in lying.iter().enumerate() {
            let filled = at + 1 < filled;
            let sheet = match &sheets.milky {
                Some(milky) if at + 1 == lying.len() => milky,
                _ if filled => sheets.filled(),
                _ => &sheets.bare,
            };
            match soaked.into_paint.get(at).copied().flatten() {
                Some((by, deep)) => {
                    let how = SoakedAs { film: *n, x: sheets.x, by, deep, filled };
                    self.soaked_film(known, how).lay_over(&mut inside);
                }
                None => sheet.lay_over(&mut inside),
            }
            alpha = match sheets.below.seals {
                // Its own surface replaces a duller one, however thin it is: as in [`Material::in_state`].
                true => alpha.min(sheets.alpha),
                false => alpha + (sheets.alpha - alpha) * sheets.makes_surface,
            };
            lustre = lustre * sheet.lets_through() + sheets.lustre;
            height += sheets.height;
            see_through *= sheet.lets_through().powi(2);
        }
        let alpha = match state {
            FilmState::Wet => 0.0,
            _ => alpha.min(state.seal().unwrap_or(1.0)),
        };
        let seen = SurfaceReflection::new(alpha).seen(&inside);
        AreaState { present, share, seen, lustre: lustre.min(1.0), alpha, height, see_through }
    }

    /// The ground below its surface, with these layers soaked in.
    fn ground_with(&self, layers: &[usize], filled: bool) -> Undersurface {
        match &self.bare_wood {
            Some(wood) if filled || !layers.is_empty() => {
                let by: Vec<&Material> = layers.iter().filter_map(|layer| self.material(*layer)).collect();
                wood.soaked(&by, filled)
            }
            _ => self.ground.clone(),
        }
    }

    /// Where the colours of the layers at a spot have soaked in.
    fn soaked(&self, lying: &[(usize, &Sheets)]) -> Soaked {
        let mut soaked = Soaked::default();
        for (at, (n, sheets)) in lying.iter().enumerate() {
            if sheets.below.soaks == Soaks::Nowhere {
                continue;
            }
            let mut through = 0.0;
            // Downwards through what is open.
            let stopped = lying[..at].iter().enumerate().rev().any(|(below, (layer, film))| {
                if film.below.seals {
                    return true;
                }
                if soaked.into_wood.contains(layer) {
                    return false;
                }
                let open = self.material(*layer).filter(|_| sheets.below.soaks == Soaks::IntoPores);
                let deep = open.map_or(0.0, |material| into_paint(material, film.height, through));
                if deep > 0.0 {
                    soaked.into_paint.resize(lying.len(), None);
                    soaked.into_paint[below] = Some((*n, deep));
                }
                through += deep;
                deep < film.height || deep == 0.0
            });
            if !stopped && self.bare_wood.is_some() {
                soaked.into_wood.push(*n);
            }
        }
        soaked
    }

    /// A film with a soaked top, computed once for each place.
    fn soaked_film<'a>(&self, known: &'a mut Vec<(SoakedAs, SoakedFilm)>, how: SoakedAs) -> &'a SoakedFilm {
        let at = known.iter().position(|(other, _)| *other == how).unwrap_or_else(|| {
            let nothing = Material::closed(Optics::NONE, SurfaceReflection::new(0.0));
            let of = |layer: usize| self.material(layer).unwrap_or(&nothing);
            let film = SoakedFilm::of(of(how.film), how.x, how.filled, of(how.by), how.deep);
            known.push((how, film));
            known.len() - 1
        });
        &known[at].1
    }
}

/// Soaked colours at a spot.
#[derive(Default)]
struct Soaked {
    /// Layers that soaked into the wood, in order.
    into_wood: Vec<usize>,
    /// By layer at the spot: the layer that soaked into it and how deep, µm of dry film; empty if none did.
    into_paint: Vec<Option<(usize, f64)>>,
}

/// A film, what soaked into it, and how far.
#[derive(Clone, Copy, PartialEq)]
struct SoakedAs {
    film: usize,
    x: Microns,
    by: usize,
    deep: f64,
    filled: bool,
}

/// A layer's film at a place, in its possible states.
struct Sheets<'a> {
    material: &'a Material,
    bare: FilmTransfer,
    /// With filled air, if that is needed and not already so.
    filled: OnceCell<FilmTransfer>,
    is_filled: bool,
    /// The film when it is wet and on top.
    milky: Option<FilmTransfer>,
    x: Microns,
    below: Below,
    alpha: f64,
    /// Share of the surface that it determines.
    makes_surface: f64,
    lustre: f64,
    /// Dry thickness, µm.
    height: f64,
}

impl<'a> Sheets<'a> {
    fn of(laid: &'a Laid, x: Microns, state: FilmState) -> Option<Self> {
        let Effect::Lays { material, below } = &laid.effect else { return None };
        let settles = |by: f64| 1.0 - (-x.value() * material.stays / by).exp();
        let filled = || material.in_state(FilmState::Sealed).optics.sheet(x);
        Some(Self {
            material,
            bare: if state == FilmState::Dry { material.optics.sheet(x) } else { filled() },
            filled: OnceCell::new(),
            is_filled: state != FilmState::Dry,
            milky: (state == FilmState::Wet).then(|| material.in_state(FilmState::Wet).optics.sheet(x)),
            x,
            below: *below,
            alpha: material.sheen.alpha(),
            makes_surface: settles(SURFACE),
            lustre: material.lustre * settles(FLAKES),
            height: x.value() * material.stays,
        })
    }

    fn filled(&self) -> &FilmTransfer {
        match self.is_filled {
            true => &self.bare,
            false => {
                self.filled.get_or_init(|| self.material.in_state(FilmState::Sealed).optics.sheet(self.x))
            }
        }
    }
}

impl Meets {
    /// Shares to cover where the other layer lies and elsewhere, for a total of `cover`; the other lies on `there`.
    fn shares(self, cover: f64, there: f64) -> (f64, f64) {
        // As much of one part as possible, and the rest on the other.
        let first = |part: f64| {
            let on_it = cover.min(part);
            let rest = if part < 1.0 { (cover - on_it) / (1.0 - part) } else { 0.0 };
            (if part > 0.0 { on_it / part } else { 0.0 }, rest.clamp(0.0, 1.0))
        };
        match self {
            Meets::Seeks => first(there),
            Meets::Avoids => {
                let (elsewhere, where_other_is) = first(1.0 - there);
                (where_other_is, elsewhere)
            }
        }
    }
}

/// States after a layer has divided them, with equal ones merged.
fn divided(states: &[(Present, f64)], splits: &[Split]) -> Vec<(Present, f64)> {
    let mut after: Vec<(Present, f64)> = Vec::with_capacity(states.len() + splits.len());
    for (before, share) in states {
        match splits.iter().find(|split| split.before == *before) {
            Some(split) => {
                after.extend(split.after.iter().map(|(present, part)| (*present, share * part)));
                let left = 1.0 - split.after.iter().map(|(_, part)| part).sum::<f64>();
                if left > 0.0 {
                    after.push((*before, share * left));
                }
            }
            None => after.push((*before, *share)),
        }
    }
    after.sort_by_key(|(present, _)| *present);
    after.dedup_by(|next, kept| {
        let alike = next.0 == kept.0;
        if alike {
            kept.1 += next.1;
        }
        alike
    });
    after
}
