//! The shelf at a moment, and all that the log says of it: what every screen is computed from.

use std::collections::{HashMap, HashSet};
use std::sync::{Arc, OnceLock};

use jiff::Timestamp;
use uuid::Uuid;
use warm_blend_board::{BoardJudgement, BoardReading, KnownTin, LearnedHand, OnShelf, Taught, learn_hand};
use warm_blend_learn::{
    Backtested, BadTin, Ensemble, Estimate, Judged, KeptComponent, LogOf, LoggedReading, Measured, OfShelf,
    Reading, ShelfPaint, Shown, backtest, predicted_mix,
};
use warm_blend_paint::{
    Class, Condition, Look, Material, Millilitres, MixPart, PaintId, Parts, Product, Seen, mix,
};
use warm_blend_spectral::Light;

use crate::memo::Memo;
use crate::pot_words::pot_words;
use crate::{Kept, Refusal, Swatch, Wedge, Workshop};

/// How many of the last readings are looked at to see how true what was said of them had been.
const LAST: usize = 200;

/// How many readings are learnt from at most while somebody waits for a first look: some hundred milliseconds' worth.
const SOON: usize = 500;

/// How many pots of the log are kept as they are seen, about 200 B each.
const POTS: usize = 30_000;

/// What the file holds of the shelf and of what was read.
#[derive(Debug, Clone)]
pub struct ShelfDocuments {
    /// All tins there ever were: mixes and readings may still speak of those that were removed.
    pub tins: Vec<Kept<ShelfPaint>>,
    /// Readings of paints in the order of the log.
    pub readings: Vec<Kept<LoggedReading>>,
    /// Readings of boards in the order they were made.
    pub boards: Vec<Kept<BoardReading>>,
    /// The choices of the workshop.
    pub workshop: Kept<Workshop>,
    /// What was learnt of the readings before; asked for only where nothing is known.
    pub learnt: Vec<KeptComponent>,
}

/// The shelf, and what the log says of it.
#[derive(Debug)]
pub struct ShelfSnapshot {
    tins: Vec<Kept<ShelfPaint>>,
    /// By tin: its place among them.
    by_id: HashMap<Uuid, usize>,
    learnt: Arc<Learnt>,
    readings: Vec<Kept<LoggedReading>>,
    /// By tin: its readings by their places in the log.
    by_paint: HashMap<Uuid, Vec<usize>>,
    boards: Vec<(Kept<BoardReading>, Option<BoardJudgement>)>,
    /// The choices of the workshop.
    pub workshop: Kept<Workshop>,
    house_white: Option<PaintId>,
}

/// Parts to the last bit.
type PartsKey = Vec<(PaintId, u64)>;

/// The same parts have the same.
pub(crate) fn parts_key(of: &[(PaintId, Parts)]) -> PartsKey {
    of.iter().map(|(paint, parts)| (*paint, parts.value().to_bits())).collect()
}

/// What was learnt, and from what: names, stocks and notes are not in it, so they change nothing.
#[derive(Debug)]
struct Learnt {
    tins: Vec<OfShelf>,
    read: Vec<Reading<PaintId>>,
    of_boards: Vec<BoardReading>,
    estimate: Estimate,
    taught: Arc<Taught>,
    /// The paints of boards as they are known without what boards say of them.
    on_boards: HashMap<PaintId, (Class, Ensemble)>,
    /// How mixes and tins look, as far as somebody has looked.
    swatches: Memo<(Look, PartsKey), Option<Swatch>>,
    wedges: Memo<(Look, PartsKey), Option<Wedge>>,
    /// Bands of mixes if what their media do were known.
    bands_by_tins: Memo<(Look, PartsKey), Option<f64>>,
    faces: Memo<(Look, PaintId), String>,
    /// How pots of the log are seen, once somebody has looked for a colour.
    pots: Memo<(Look, PartsKey), Option<Seen>, POTS>,
    /// What had been said of the last readings, once somebody has asked, and what was known of it before.
    predicted: OnceLock<Vec<Backtested>>,
    predicted_before: Vec<Backtested>,
}

/// How much is learnt before there is an answer.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Wait {
    /// All that there is to learn.
    ForAll,
    /// Nothing from many readings: they are deferred.
    NotLong,
}

impl Wait {
    /// From how many readings.
    fn most(self) -> usize {
        match self {
            Self::ForAll => usize::MAX,
            Self::NotLong => SOON,
        }
    }
}

impl Learnt {
    fn after(
        before: Option<&Arc<Self>>,
        wait: Wait,
        kept: Vec<KeptComponent>,
        tins: Vec<OfShelf>,
        read: Vec<Reading<PaintId>>,
        of_boards: Vec<BoardReading>,
    ) -> Result<Arc<Self>, BadTin> {
        let same = |before: &Self| {
            (wait == Wait::NotLong || before.estimate.pending_readings() == 0)
                && before.tins == tins
                && before.read == read
                && before.of_boards == of_boards
        };
        if let Some(before) = before.filter(|before| same(before)) {
            return Ok(Arc::clone(before));
        }
        let estimate = match before {
            Some(before) => before.estimate.after(&tins, &read, wait.most())?,
            None => Estimate::recalled(kept, &tins, &read, wait.most())?,
        };
        let on_boards: HashSet<PaintId> =
            of_boards.iter().flat_map(|board| board.painted().paints()).collect();
        let known = |paint| estimate.class(paint).zip(estimate.paint(paint));
        let unchanged = |before: &&Arc<Self>| {
            before.of_boards == of_boards
                && on_boards.iter().all(|paint| match (before.on_boards.get(paint), known(*paint)) {
                    (Some((class, then)), Some((of, now))) => *class == of && now.is_unchanged(then),
                    (then, now) => then.is_none() && now.is_none(),
                })
        };
        let taught = match before.filter(unchanged) {
            Some(before) => Arc::clone(&before.taught),
            None => Arc::new(learn_hand(&of_boards, known)),
        };
        let cloned = |paint| known(paint).map(|(class, known)| (paint, (class, known.clone())));
        let on_boards = on_boards.iter().filter_map(|paint| cloned(*paint)).collect();
        let estimate = estimate.strengthened(&taught.strengths);
        let (swatches, wedges, bands_by_tins, faces, pots, predicted) = Default::default();
        let now = LogOf { paints: &tins, readings: &read };
        let predicted_before =
            before.map_or_else(Vec::new, |before| now.keep(before.backtested(), before.log()));
        Ok(Arc::new(Self {
            tins,
            read,
            of_boards,
            estimate,
            taught,
            on_boards,
            swatches,
            wedges,
            bands_by_tins,
            faces,
            pots,
            predicted,
            predicted_before,
        }))
    }

    fn log(&self) -> LogOf<'_> {
        LogOf { paints: &self.tins, readings: &self.read }
    }

    /// What is known by now of what had been said of the last readings.
    fn backtested(&self) -> &[Backtested] {
        self.predicted.get().unwrap_or(&self.predicted_before)
    }
}

impl ShelfSnapshot {
    /// What documents come to. What has not changed since `before` is not learnt anew. Tins were checked when they were kept.
    ///
    /// Where hundreds of readings would have to be learnt from before there is anything to look at, they are
    /// [deferred](Self::pending_readings).
    pub fn of(documents: ShelfDocuments, before: Option<&Self>) -> Result<Self, BadTin> {
        let whole = before.is_some_and(|before| before.pending_readings() == 0);
        Self::after(documents, before, if whole { Wait::ForAll } else { Wait::NotLong })
    }

    /// From how many readings nothing was learnt yet: their tins are known by their labels and masstones.
    pub fn pending_readings(&self) -> usize {
        self.estimate().pending_readings()
    }

    /// The same, once all of its readings were learnt from; what is said as it was `before` is not learnt anew.
    pub fn learnt_in_full(&self, before: Option<&Self>) -> Result<Self, BadTin> {
        let documents = ShelfDocuments {
            tins: self.tins.clone(),
            readings: self.readings.clone(),
            boards: self.boards.iter().map(|(board, _)| board.clone()).collect(),
            workshop: self.workshop.clone(),
            learnt: Vec::new(),
        };
        Self::after(documents, Some(before.unwrap_or(self)), Wait::ForAll)
    }

    fn after(documents: ShelfDocuments, before: Option<&Self>, wait: Wait) -> Result<Self, BadTin> {
        let ShelfDocuments { tins, readings, boards, workshop, learnt: kept } = documents;
        let house_white = house_white(&workshop.value, &tins);
        let read = readings.iter().map(|kept| kept.value.reading.clone()).collect();
        let of_boards = boards.iter().map(|kept| kept.value.clone()).collect();
        let on_shelf = tins.iter().map(|tin| of_shelf(tin, house_white)).collect();
        let before = before.map(|before| &before.learnt);
        let learnt = Learnt::after(before, wait, kept, on_shelf, read, of_boards)?;
        let boards = boards.into_iter().zip(learnt.taught.judged.iter().cloned()).collect();
        let mut by_paint: HashMap<Uuid, Vec<usize>> = HashMap::new();
        for (at, kept) in readings.iter().enumerate() {
            for (paint, _) in &kept.value.reading.of {
                let of_paint = by_paint.entry(paint.0).or_default();
                // A paint may be named twice in one reading.
                if of_paint.last() != Some(&at) {
                    of_paint.push(at);
                }
            }
        }
        let by_id = tins.iter().enumerate().map(|(at, tin)| (tin.id, at)).collect();
        Ok(Self { tins, by_id, learnt, readings, by_paint, boards, workshop, house_white })
    }

    /// A tin, also one that was removed.
    pub fn tin(&self, id: Uuid) -> Result<&Kept<ShelfPaint>, Refusal> {
        self.tin_ever(id).ok_or(Refusal::NoTin(id))
    }

    fn tin_ever(&self, id: Uuid) -> Option<&Kept<ShelfPaint>> {
        self.by_id.get(&id).map(|at| &self.tins[*at])
    }

    /// The tins that are on the shelf, in the order they were added.
    pub fn tins(&self) -> impl Iterator<Item = &Kept<ShelfPaint>> {
        self.tins.iter().filter(|tin| !tin.removed)
    }

    /// All tins there ever were.
    pub fn tins_ever(&self) -> &[Kept<ShelfPaint>] {
        &self.tins
    }

    /// What a tin is called.
    pub fn name(&self, id: Uuid) -> &str {
        self.tin_ever(id).map_or("a deleted paint", |tin| tin.value.name.as_str())
    }

    /// `peat brown`, or `1 peat brown : 4 glazing liquid`; what is no longer on the shelf is marked.
    pub fn pot_words(&self, pot: &[MixPart]) -> String {
        let marked = |id: Uuid| match self.tin_ever(id) {
            Some(tin) if tin.removed => format!("{} (no longer on the shelf)", tin.value.name.as_str()),
            _ => self.name(id).to_owned(),
        };
        let parts: Vec<_> = pot.iter().map(|part| (part.parts.value(), marked(part.paint.0))).collect();
        pot_words(&parts)
    }

    /// A tin as it is known.
    pub fn paint(&self, id: Uuid) -> Result<&Ensemble, Refusal> {
        self.learnt.estimate.paint(PaintId(id)).ok_or(Refusal::NoTin(id))
    }

    /// A tin as it is most likely, with its class.
    pub fn material(&self, paint: PaintId) -> Option<KnownTin<'_>> {
        let (class, known) = self.known(paint)?;
        let specials = self.product(paint)?.specials;
        Some(KnownTin { class, specials, material: known.best(), known: Some(known) })
    }

    /// What each paint of the shelf may be, by plausible shelf; nothing of what is not in doubt.
    pub(crate) fn plausible(&self, shelves: usize) -> HashMap<PaintId, Vec<Material>> {
        let tins = self.tins().map(|tin| PaintId(tin.id));
        tins.filter_map(|paint| Some((paint, self.known(paint)?.1.some(shelves)))).collect()
    }

    /// The product in a tin, whether or not it is still on the shelf.
    pub fn product(&self, paint: PaintId) -> Option<Product> {
        Some(self.tin_ever(paint.0)?.value.product())
    }

    /// A tin as it is known, with its class.
    pub fn known(&self, paint: PaintId) -> Option<(Class, &Ensemble)> {
        Some((self.learnt.estimate.class(paint)?, self.learnt.estimate.paint(paint)?))
    }

    /// The mix of some paints as they are known; none of nothing.
    pub fn stirred(&self, of: &[(PaintId, Parts)]) -> Result<Option<Ensemble>, Refusal> {
        Ok(Ensemble::mix(&self.ensembles(of)?).ok())
    }

    fn ensembles(&self, of: &[(PaintId, Parts)]) -> Result<Vec<(Parts, &Ensemble)>, Refusal> {
        of.iter().map(|(paint, parts)| Ok((*parts, self.paint(paint.0)?))).collect()
    }

    /// The 90 % band of a mix, ΔE00, if what its media do to its paints were known; none of nothing.
    pub(crate) fn within_by_tins(&self, of: &[(PaintId, Parts)], look: Look) -> Result<Option<f64>, Refusal> {
        let within = || {
            let mixed = Ensemble::mix_with_known_media(&self.ensembles(of)?).ok();
            Ok(mixed.map(|mixed| mixed.in_state(look.state).doubt(look.light).within))
        };
        self.learnt.bands_by_tins.get_or((look, parts_key(of)), within)
    }

    /// The same as it is most likely.
    pub(crate) fn most_probable(&self, of: &[(PaintId, Parts)]) -> Result<Option<Material>, Refusal> {
        let of: Vec<(Parts, &Material)> = of
            .iter()
            .map(|(paint, parts)| Ok((*parts, self.paint(paint.0)?.best())))
            .collect::<Result<_, Refusal>>()?;
        Ok(mix(&of).ok())
    }

    /// How such a mix looks; none of nothing.
    pub(crate) fn swatch_of(&self, of: &[(PaintId, Parts)], look: Look) -> Result<Option<Swatch>, Refusal> {
        let reckon = || Ok(self.stirred(of)?.map(|stirred| Swatch::of(&stirred, look)));
        self.learnt.swatches.get_or((look, parts_key(of)), reckon)
    }

    /// The same as it is most likely, which takes a tenth of the time.
    pub(crate) fn wedge_of(&self, of: &[(PaintId, Parts)], look: Look) -> Result<Option<Wedge>, Refusal> {
        let reckon = || Ok(self.most_probable(of)?.map(|mixed| Wedge::of(&mixed, look)));
        self.learnt.wedges.get_or((look, parts_key(of)), reckon)
    }

    /// How the flat colour of a pot is seen as it is most likely; none of nothing.
    pub(crate) fn seen_pot(&self, of: &[(PaintId, Parts)], look: Look) -> Result<Option<Seen>, Refusal> {
        let reckon = || Ok(self.most_probable(of)?.map(|mixed| look.face(&mixed)));
        self.learnt.pots.get_or((look, parts_key(of)), reckon)
    }

    /// The flat colour of a tin.
    pub(crate) fn face_of(&self, tin: PaintId, look: Look) -> Result<String, Refusal> {
        self.learnt.faces.get_or((look, tin), || Ok(look.hex(self.paint(tin.0)?.best())))
    }

    /// Tins that can be painted with, as a board sees them.
    pub fn on_shelf(&self) -> Vec<OnShelf> {
        let on_shelf = |tin: &Kept<ShelfPaint>| {
            Some(OnShelf {
                paint: PaintId(tin.id),
                class: tin.value.class,
                lab: self.paint(tin.id).ok()?.best().seen_lab(Light::Daylight),
                left: tin.value.stock.map_or(0.0, Millilitres::value),
            })
        };
        self.tins().filter(|tin| tin.value.condition != Condition::Off).filter_map(on_shelf).collect()
    }

    /// What is known of the paints.
    pub fn estimate(&self) -> &Estimate {
        &self.learnt.estimate
    }

    /// What had been said of the last readings before they were taken.
    pub(crate) fn backtested(&self) -> Result<&[Backtested], Refusal> {
        let Learnt { predicted, predicted_before, .. } = &*self.learnt;
        if let Some(known) = predicted.get() {
            return Ok(known);
        }
        let reply = backtest(self.learnt.log(), LAST, predicted_before).map_err(|_| Refusal::Broken)?;
        Ok(predicted.get_or_init(|| reply))
    }

    /// What was said of a mix by what had been read of its tins until then; none of nothing.
    pub(crate) fn predicted_at(
        &self,
        then: Timestamp,
        of: &[(PaintId, Parts)],
    ) -> Result<Option<Ensemble>, Refusal> {
        let until = self.readings.iter().filter(|kept| kept.made_at <= then);
        let read = until.map(|kept| &kept.value.reading);
        predicted_mix(&self.learnt.tins, read, of).map_err(|_| Refusal::Broken)
    }

    /// The hand that paints, as boards show it.
    pub fn hands(&self) -> &LearnedHand {
        &self.learnt.taught.hands
    }

    /// The hand as the first `boards` readings of boards had shown it.
    pub(crate) fn hands_after(&self, boards: usize) -> LearnedHand {
        let Learnt { of_boards, on_boards, taught, .. } = &*self.learnt;
        let known = |paint| on_boards.get(&paint).map(|(class, known)| (*class, known));
        if boards >= of_boards.len() {
            taught.hands.clone()
        } else {
            learn_hand(&of_boards[..boards], known).hands
        }
    }

    /// Readings of boards, with how they stand to the rest.
    pub fn boards(&self) -> &[(Kept<BoardReading>, Option<BoardJudgement>)] {
        &self.boards
    }

    /// All readings in the order of the log.
    pub fn logged(&self) -> &[Kept<LoggedReading>] {
        &self.readings
    }

    /// All readings with how they stand to the rest.
    pub fn readings(&self) -> impl DoubleEndedIterator<Item = (&Kept<LoggedReading>, Option<&Judged>)> {
        self.readings.iter().enumerate().map(|(i, kept)| (kept, self.learnt.estimate.judged(i)))
    }

    /// Those that speak of a tin.
    pub fn readings_of(&self, paint: Uuid) -> impl Iterator<Item = (&Kept<LoggedReading>, Option<&Judged>)> {
        let places = self.by_paint.get(&paint).map(Vec::as_slice).unwrap_or_default();
        places.iter().map(|at| (&self.readings[*at], self.learnt.estimate.judged(*at)))
    }

    /// What was read of a tin alone, laid on thick.
    pub fn masstones_of(&self, paint: Uuid) -> impl Iterator<Item = &Measured> {
        self.readings_of(paint).filter_map(|(kept, _)| match &kept.value.reading {
            Reading { of, shown: Shown::Thick(measured), .. } if of.len() == 1 => Some(measured),
            _ => None,
        })
    }

    /// Whether a reading asks about this tin: a tint asks about the paint, not about the house white in it.
    pub fn asks_about(&self, paint: Uuid, reading: &Kept<LoggedReading>, judged: Option<&Judged>) -> bool {
        let alone = reading.value.reading.of.len() == 1;
        judged.is_some_and(|judged| judged.questioned) && (alone || !self.is_house_white(paint))
    }

    /// The house white, as long as it is on the shelf.
    pub fn house_white(&self) -> Option<PaintId> {
        self.house_white
    }

    /// Whether it is this tin.
    pub fn is_house_white(&self, paint: Uuid) -> bool {
        self.house_white == Some(PaintId(paint))
    }
}

/// The white that was chosen, as long as it is among these tins and not removed: one that is put back is it again.
pub fn house_white(workshop: &Workshop, tins: &[Kept<ShelfPaint>]) -> Option<PaintId> {
    let at_hand = |white: &PaintId| tins.iter().any(|tin| tin.id == white.0 && !tin.removed);
    workshop.house_white.filter(at_hand)
}

/// A tin as an estimate sees it.
fn of_shelf(tin: &Kept<ShelfPaint>, house_white: Option<PaintId>) -> OfShelf {
    let id = PaintId(tin.id);
    OfShelf { id, facts: tin.value.facts(house_white == Some(id)), at_hand: !tin.removed }
}
