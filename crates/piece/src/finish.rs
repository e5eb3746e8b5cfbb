//! The finish of a zone and its appearance.

use std::collections::BTreeMap;

use uuid::Uuid;
use warm_blend_board::{
    Application, Board, ByPlace, Family, Ground, GroundKind, HandBias, KnownTin, Layer, LayerId, Letter,
    Passes, Place, PlaceSeen, Stack, Technique, below_the_wax, distinct_colours, lab,
};
use warm_blend_paint::{Class, FilmState, MixPart, PaintId, WholeParts, divisor};
use warm_blend_spectral::{BANDS, Lab, Light, Reflectance};

use crate::{
    Age, Ageing, BadFinish, Band, BlendDirection, Elevation, Extent, Finish, Mark, Over, Scheme, Stencil,
    Zone, ZoneFinish,
};

/// Colours of a zone nearer than this, ΔE00, are one to the eye across a room†.
const ALIKE: f64 = 3.0;

/// Number of steps in which a blend is computed.
pub const STEPS: usize = 13;

/// One finish on a zone.
#[derive(Debug, Clone)]
pub struct Coat {
    /// Its films.
    pub stack: Stack,
    /// Mark of each film.
    pub marks: Vec<Mark>,
}

/// Layers applied to a zone, in order.
#[derive(Debug, Clone, PartialEq)]
pub struct LaidOn {
    /// The ground before.
    pub ground: Ground,
    /// Layers, lowest first.
    pub layers: Vec<Layer>,
    /// Signs of age on top.
    pub ages: Vec<Age>,
}

/// A zone with its finish, or with the steps of a blend.
#[derive(Debug, Clone)]
pub struct FinishedZone {
    /// Coats along the blend, each for an equal length; a single one without a blend.
    pub coats: Vec<Coat>,
    /// Direction of the blend, if there is one.
    pub way: Option<BlendDirection>,
    /// True if it has a finish.
    pub painted: bool,
    /// The pattern on it.
    pub stencil: Option<Stencil>,
    /// Pot of its main colour, if it has one.
    pub main: Vec<MixPart>,
    /// Paints of its colours.
    pub paints: Vec<PaintId>,
}

impl ZoneSeen {
    /// The same appearance in another light.
    pub fn in_light(&self, light: Light) -> Self {
        Self { lab: lab(&self.seen, light), light, ..self.clone() }
    }

    /// Colour at a kind of place.
    pub fn place(&self, place: Place) -> Lab {
        lab(self.places.at(place), self.light)
    }
}

/// Appearance of a zone.
#[derive(Debug, Clone, PartialEq)]
pub struct ZoneSeen {
    /// The zone.
    pub zone: Zone,
    /// Size.
    pub extent: Extent,
    /// True if it has a finish.
    pub painted: bool,
    /// Reflectance from across the room.
    pub seen: Reflectance,
    /// Colour from across the room in the requested light.
    pub lab: Lab,
    /// Reflectance by kind of place.
    pub places: ByPlace<Reflectance>,
    /// The requested light.
    pub light: Light,
    /// The colours that can be told apart, with their shares, largest first.
    pub colours: Vec<(Reflectance, f64)>,
}

/// What is needed besides the piece.
pub struct FinishContext<'a> {
    /// Looks up a tin.
    pub tin: &'a (dyn Fn(PaintId) -> Option<KnownTin<'a>> + Sync),
    /// The painter's hand.
    pub habit: &'a (dyn Fn(Technique) -> HandBias + Sync),
    /// The piece in true proportion.
    pub elevation: &'a Elevation,
    /// Looks up a board.
    pub board: &'a (dyn Fn(Uuid) -> Option<&'a Board> + Sync),
    /// The primer on the shelf for a kind of ground.
    pub primer: &'a (dyn Fn(GroundKind) -> Option<PaintId> + Sync),
}

/// Combines two pots in this ratio.
pub fn poured_together(one: &[MixPart], parts: u32, other: &[MixPart], more: u32) -> Option<Vec<MixPart>> {
    let total = |pot: &[MixPart]| pot.iter().map(|part| part.parts.value()).sum::<u32>();
    let (first, second) = (total(one), total(other));
    let mut sums: BTreeMap<PaintId, u32> = BTreeMap::new();
    for (pot, times) in [(one, parts.checked_mul(second)?), (other, more.checked_mul(first)?)] {
        for part in pot {
            let sum = sums.entry(part.paint).or_insert(0);
            *sum = sum.checked_add(part.parts.value().checked_mul(times)?)?;
        }
    }
    let common = sums.values().copied().fold(0, divisor).max(1);
    let part = |(paint, parts): (PaintId, u32)| {
        Some(MixPart { paint, parts: WholeParts::new(parts / common).ok()? })
    };
    sums.into_iter().filter(|(_, parts)| *parts > 0).map(part).collect()
}

/// What plain paint is: two brushed coats.
fn two_coats(pot: &[MixPart]) -> Layer {
    let coat = Layer::new(Technique::BrushedCoat, pot.to_vec());
    let passes = Passes::new(2).unwrap_or(coat.hand.passes);
    // The same each time it is asked for, and not the primer's.
    Layer { id: LayerId(Uuid::from_u128(1)), hand: Application { passes, ..coat.hand }, ..coat }
}

/// The nearest ratio in twelfths, of two pots side by side in a blend.
fn twelfths(share: f64) -> (u32, u32) {
    let more = (12.0 * share).round().clamp(0.0, 12.0) as u32;
    (12 - more, more)
}

impl<'a> FinishContext<'a> {
    /// A zone in a scheme. `main` replaces its main colour, to try another.
    pub fn dress(
        &self,
        zone: Zone,
        scheme: &Scheme,
        ground: Ground,
        over: &[Over],
        main: Option<&[MixPart]>,
    ) -> Result<FinishedZone, BadFinish> {
        let bare = ZoneFinish::of(Finish::Bare);
        let dress = scheme.dress(zone).unwrap_or(&bare);
        dress.wears.check()?;
        let stencil = scheme.stencil(zone);
        let pattern = self.pattern(scheme, zone)?;
        let pattern = pattern.as_slice();
        let over: Vec<&Layer> = over.iter().filter(|over| over.is_on(zone)).map(|over| &over.layer).collect();
        let poured_over =
            over.iter().copied().chain(pattern.iter().map(|(layer, _)| layer)).filter(|layer| !layer.muted);
        let poured_over = poured_over.flat_map(|layer| &layer.pot);
        let own = dress.ground;
        match &dress.wears {
            Finish::Bare => {
                let coat = self.coat(own.unwrap_or(ground), Vec::new(), pattern, &[], &dress.ageing)?;
                let paints = self.colours(pattern.iter().flat_map(|(layer, _)| &layer.pot));
                Ok(FinishedZone {
                    coats: vec![coat],
                    way: None,
                    painted: false,
                    stencil: stencil.cloned(),
                    main: Vec::new(),
                    paints,
                })
            }
            Finish::Strip { board, strip } => {
                let board = self.board_with(*board, *strip)?;
                let mut layers: Vec<Layer> = board.layers(*strip).into_iter().cloned().collect();
                let at = self.main_layer(&layers);
                let usual = at.map_or_else(Vec::new, |at| layers[at].pot.clone());
                if let (Some(at), Some(pot)) = (at, main) {
                    layers[at].pot = pot.to_vec();
                }
                let lying = layers.iter().filter(|layer| !layer.muted);
                let paints = self.colours(lying.flat_map(|layer| &layer.pot).chain(poured_over));
                let ground = own.unwrap_or(ground);
                let layers = self.primed(layers, ground, Some(board.ground));
                let coat = self.coat(ground, layers, pattern, &over, &dress.ageing)?;
                let stencil = stencil.cloned();
                Ok(FinishedZone { coats: vec![coat], way: None, painted: true, stencil, main: usual, paints })
            }
            Finish::Paint { pot } => {
                let ground = own.unwrap_or(ground);
                let layers = self.primed(vec![two_coats(main.unwrap_or(pot))], ground, None);
                let coat = self.coat(ground, layers, pattern, &over, &dress.ageing)?;
                let paints = self.colours(pot.iter().chain(poured_over));
                let (stencil, main) = (stencil.cloned(), pot.clone());
                Ok(FinishedZone { coats: vec![coat], way: None, painted: true, stencil, main, paints })
            }
            Finish::Blend { way, bands } => {
                let coats = (0..STEPS)
                    .map(|step| {
                        let pot = blended(bands, step as f64 / (STEPS - 1) as f64).ok_or(BadFinish::Order)?;
                        let ground = own.unwrap_or(ground);
                        let layers = self.primed(vec![two_coats(&pot)], ground, None);
                        self.coat(ground, layers, pattern, &over, &dress.ageing)
                    })
                    .collect::<Result<_, BadFinish>>()?;
                let paints = self.colours(bands.iter().flat_map(|band| &band.pot).chain(poured_over));
                let (way, stencil) = (Some(*way), stencil.cloned());
                Ok(FinishedZone { coats, way, painted: true, stencil, main: Vec::new(), paints })
            }
        }
    }

    /// Layers of the pattern on a zone; empty without one.
    fn pattern(&self, scheme: &Scheme, zone: Zone) -> Result<Vec<(Layer, Mark)>, BadFinish> {
        scheme.stencil(zone).map_or(Ok(Vec::new()), |stencil| stencil.layers(self.elevation, zone))
    }

    fn coat(
        &self,
        ground: Ground,
        layers: Vec<Layer>,
        pattern: &[(Layer, Mark)],
        over: &[&Layer],
        ageing: &Ageing,
    ) -> Result<Coat, BadFinish> {
        let (layers, mut marks) = self.in_their_order(layers, pattern, over, ageing);
        let mut stack = Stack::of_layers(&ground, &layers.iter().collect::<Vec<_>>(), self.tin, self.habit)?;
        marks.extend(ageing.lay_on(&mut stack).into_iter().map(Mark::Aged));
        Ok(Coat { stack, marks })
    }

    /// Layers with the pattern, with what lies over them and with wear, each where it belongs: paint below the wax, wax on top.
    fn in_their_order(
        &self,
        mut layers: Vec<Layer>,
        pattern: &[(Layer, Mark)],
        over: &[&Layer],
        ageing: &Ageing,
    ) -> (Vec<Layer>, Vec<Mark>) {
        let below = |layers: &[Layer]| below_the_wax(layers, self.tin).unwrap_or(layers.len());
        let mut marks: Vec<Mark> = layers.iter().map(Mark::of).collect();
        let patterns = pattern.iter().map(|(layer, mark)| (layer, *mark));
        for (layer, mark) in patterns.chain(over.iter().map(|layer| (*layer, Mark::of(layer)))) {
            let at = if layer.is_waxed(self.tin) { layers.len() } else { below(&layers) };
            layers.insert(at, layer.clone());
            marks.insert(at, mark);
        }
        if let Some(worn) = ageing.worn() {
            let at = below(&layers);
            layers.insert(at, worn);
            marks.insert(at, Mark::Aged(Age::Wear));
        }
        (layers, marks)
    }

    /// Layers of a zone from the ground up, as a painter applies them; empty on a bare zone without a pattern. A blend is
    /// a coat of its first colour with each further colour worked into the one before.
    pub fn laid_on(&self, zone: Zone, scheme: &Scheme, ground: Ground) -> Result<LaidOn, BadFinish> {
        let bare = ZoneFinish::of(Finish::Bare);
        let dress = scheme.dress(zone).unwrap_or(&bare);
        dress.wears.check()?;
        let pattern = self.pattern(scheme, zone)?;
        let over: Vec<&Layer> =
            scheme.over.iter().filter(|over| over.is_on(zone)).map(|over| &over.layer).collect();
        let ground = dress.ground.unwrap_or(ground);
        let (layers, over) = match &dress.wears {
            Finish::Bare => (Vec::new(), Vec::new()),
            Finish::Strip { board, strip } => {
                let board = self.board_with(*board, *strip)?;
                let layers = board.layers(*strip).into_iter().cloned().collect();
                (self.primed(layers, ground, Some(board.ground)), over)
            }
            Finish::Paint { pot } => (self.primed(vec![two_coats(pot)], ground, None), over),
            Finish::Blend { bands, .. } => {
                let put = |(n, band): (usize, &Band)| {
                    let technique = if n == 0 { Technique::BrushedCoat } else { Technique::WetBlend };
                    Layer::new(technique, band.pot.clone())
                };
                (self.primed(bands.iter().enumerate().map(put).collect(), ground, None), over)
            }
        };
        let (mut layers, _) = self.in_their_order(layers, pattern.as_ref(), &over, &dress.ageing);
        layers.retain(|layer| !layer.muted);
        let ages = dress.ageing.there().map(|(age, _)| age).filter(|age| *age != Age::Wear).collect();
        Ok(LaidOn { ground, layers, ages })
    }

    /// Layers over the ground of the piece: what bleeds, and what paint does not grip, is primed below a finish whose board lay on a
    /// primed `card`, or that has no board, unless it brings its own primer. Without a primer on the shelf it stays as it is.
    fn primed(&self, mut layers: Vec<Layer>, ground: Ground, card: Option<Ground>) -> Vec<Layer> {
        let was_primed = card.is_none_or(|card| card.kind.is_primed());
        let first = layers.iter().find(|layer| !layer.muted && !layer.technique.takes_away());
        let paints = first.is_some_and(|layer| {
            let primes = layer.contents(self.tin).is_mostly(|product| {
                product.blocks_stains() || matches!(product.class, Class::Primer | Class::Shellac)
            });
            !primes && matches!(layer.technique.family(), Family::Coat | Family::Blend)
        });
        if let Some(paint) = (self.primer)(ground.kind)
            && was_primed
            && paints
            && ground.kind.needs_primer()
            && let Ok(parts) = WholeParts::new(1)
        {
            let primer = Layer::new(Technique::BrushedCoat, vec![MixPart { paint, parts }]);
            // The same each time it is asked for.
            layers.insert(0, Layer { id: LayerId(Uuid::nil()), ..primer });
        }
        layers
    }

    /// A board that has this strip.
    fn board_with(&self, board: Uuid, strip: Letter) -> Result<&'a Board, BadFinish> {
        let board = (self.board)(board).ok_or(BadFinish::NoBoard)?;
        match board.strip(strip) {
            Some(_) => Ok(board),
            None => Err(BadFinish::NoStrip(board.name.as_str().to_owned(), strip)),
        }
    }

    /// The tins that give what is in some pots its colour, each once.
    fn colours<'p>(&self, parts: impl Iterator<Item = &'p MixPart>) -> Vec<PaintId> {
        let makes = |paint: &PaintId| (self.tin)(*paint).is_some_and(|tin| tin.class.makes_colours());
        let mut paints: Vec<PaintId> = parts.map(|part| part.paint).filter(makes).collect();
        paints.sort_unstable();
        paints.dedup();
        paints
    }

    /// The layer that gives a strip its colour: the last closed coat of paint.
    fn main_layer(&self, layers: &[Layer]) -> Option<usize> {
        let paints = |layer: &Layer| {
            let inside = layer.inside(self.tin);
            inside.iter().any(|(class, _)| class.makes_colours())
        };
        layers
            .iter()
            .rposition(|layer| !layer.muted && layer.technique.family() == Family::Coat && paints(layer))
    }
}

/// Pot of a blend at a position from 0 to 1: the two colours next to it, weighted by distance.
pub fn blended(bands: &[Band], at: f64) -> Option<Vec<MixPart>> {
    let (first, last) = (bands.first()?, bands.last()?);
    let bounded = at.max(first.at).min(last.at);
    let next = bands.iter().position(|band| band.at >= bounded)?.max(1);
    let (one, other) = (&bands[next - 1], &bands[next]);
    let (parts, more) = twelfths((bounded - one.at) / (other.at - one.at));
    match (parts, more) {
        (_, 0) => Some(one.pot.clone()),
        (0, _) => Some(other.pot.clone()),
        // Parts beyond counting: the nearer of the two.
        _ => poured_together(&one.pot, parts, &other.pot, more)
            .or_else(|| Some(if parts > more { one.pot.clone() } else { other.pot.clone() })),
    }
}

impl FinishedZone {
    /// What each coat looks like at each kind of place.
    fn seen(&self, state: FilmState) -> impl Iterator<Item = (Place, PlaceSeen)> {
        let coats = self.coats.iter();
        coats.flat_map(move |coat| {
            Place::ALL.map(|place| (place, coat.stack.seen(place, coat.stack.len(), state)))
        })
    }

    /// By kind of place, from across the room: the mean of its coats.
    fn by_place<'s>(&self, seen: impl Iterator<Item = &'s (Place, PlaceSeen)>) -> ByPlace<Reflectance> {
        let each = 1.0 / self.coats.len() as f64;
        let mut sums = [[0.0; BANDS]; Place::ALL.len()];
        for (place, seen) in seen {
            for (sum, r) in sums[*place as usize].iter_mut().zip(seen.from_afar().bands()) {
                *sum += each * r;
            }
        }
        ByPlace::from_fn(|place| Reflectance::clamped(sums[place as usize]))
    }

    /// Colour from across the room for these shares of field, recess and edge.
    pub fn lab(&self, places: &ByPlace<f64>, light: Light, state: FilmState) -> Lab {
        let seen: Vec<_> = self.seen(state).collect();
        lab(&over_places(&self.by_place(seen.iter()), places), light)
    }

    /// Appearance as a zone, without telling its colours apart.
    pub(super) fn look_from_afar(
        &self,
        zone: Zone,
        extent: Extent,
        shares: &ByPlace<f64>,
        light: Light,
        state: FilmState,
    ) -> ZoneSeen {
        let seen: Vec<_> = self.seen(state).collect();
        self.zone_of(&seen, zone, extent, shares, light)
    }

    /// Appearance as a zone for these shares of field, recess and edge.
    pub fn look(
        &self,
        zone: Zone,
        extent: Extent,
        shares: &ByPlace<f64>,
        light: Light,
        state: FilmState,
    ) -> ZoneSeen {
        let seen: Vec<_> = self.seen(state).collect();
        let each = 1.0 / self.coats.len() as f64;
        let mut colours: Vec<(Reflectance, f64)> = seen
            .iter()
            .flat_map(|(place, seen)| {
                let here = each * shares.at(*place);
                seen.colours(light).into_iter().map(move |(curve, share)| (curve, share * here))
            })
            .collect();
        colours.sort_by(|a, b| b.1.total_cmp(&a.1));
        ZoneSeen {
            colours: distinct_colours(colours.into_iter(), light, ALIKE),
            ..self.zone_of(&seen, zone, extent, shares, light)
        }
    }

    fn zone_of(
        &self,
        seen: &[(Place, PlaceSeen)],
        zone: Zone,
        extent: Extent,
        shares: &ByPlace<f64>,
        light: Light,
    ) -> ZoneSeen {
        let places = self.by_place(seen.iter());
        let seen = over_places(&places, shares);
        let (lab, painted) = (lab(&seen, light), self.painted);
        ZoneSeen { zone, extent, painted, seen, lab, places, light, colours: Vec::new() }
    }
}

/// The mean over the kinds of places by their shares.
fn over_places(seen: &ByPlace<Reflectance>, shares: &ByPlace<f64>) -> Reflectance {
    Reflectance::from_fn(|i| {
        Place::ALL.iter().map(|place| shares.at(*place) * seen.at(*place).bands()[i]).sum()
    })
}
