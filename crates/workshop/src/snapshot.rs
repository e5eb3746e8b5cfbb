//! Snapshot of the shelf with everything learned from the log, from which every screen is computed.

use std::collections::{HashMap, HashSet};
use std::sync::{Arc, OnceLock};

use jiff::Timestamp;
use uuid::Uuid;
use warm_blend_board::{BoardJudgement, BoardReading, KnownTin, LearnedHand, OnShelf, Taught, learn_hand};
use warm_blend_documents::{Kept, Workshop, pot_words};
use warm_blend_learn::{
    Backtested, BadTin, Ensemble, Estimate, Judged, KeptComponent, LogOf, LoggedReading, Measured, OfShelf,
    Reading, ShelfPaint, Shown, backtest, predicted_mix,
};
use warm_blend_paint::{
    Class, Condition, Look, Material, Millilitres, MixPart, PaintId, Parts, Product, Seen, mix,
};
use warm_blend_spectral::Light;

use crate::memo::Memo;
use crate::{Refusal, Swatch, Wedge};

/// Number of recent readings used for prediction accuracy.
const LAST: usize = 200;

/// Greatest number of readings learned while somebody waits for a first look: some hundred milliseconds.
const SOON: usize = 500;

/// Number of pots of the log whose colours are kept, about 200 B each.
const POTS: usize = 30_000;

/// Documents that a snapshot is made of.
#[derive(Debug, Clone)]
pub struct ShelfDocuments {
    /// All tins including deleted ones, because mixes and readings may still refer to them.
    pub tins: Vec<Kept<ShelfPaint>>,
    /// Readings of paints, in the order of the log.
    pub readings: Vec<Kept<LoggedReading>>,
    /// Readings of boards, in the order in which they were made.
    pub boards: Vec<Kept<BoardReading>>,
    /// Settings of the workshop.
    pub workshop: Kept<Workshop>,
    /// Stored results of learning; loaded only if there is no earlier snapshot.
    pub learnt: Vec<KeptComponent>,
}

/// The shelf with everything learned from the log.
#[derive(Debug)]
pub struct ShelfSnapshot {
    tins: Vec<Kept<ShelfPaint>>,
    /// Index of each tin.
    by_id: HashMap<Uuid, usize>,
    learnt: Arc<Learnt>,
    readings: Vec<Kept<LoggedReading>>,
    /// Indices of the readings of each tin in the log.
    by_paint: HashMap<Uuid, Vec<usize>>,
    boards: Vec<(Kept<BoardReading>, Option<BoardJudgement>)>,
    /// Settings of the workshop.
    pub workshop: Kept<Workshop>,
    house_white: Option<PaintId>,
}

/// Parts, exact to the last bit.
type PartsKey = Vec<(PaintId, u64)>;

/// Key of a mixture: equal parts have equal keys.
pub(crate) fn parts_key(of: &[(PaintId, Parts)]) -> PartsKey {
    of.iter().map(|(paint, parts)| (*paint, parts.value().to_bits())).collect()
}

/// What was learned, and from what. Names, stocks and notes are not included, so changing them changes nothing.
#[derive(Debug)]
struct Learnt {
    tins: Vec<OfShelf>,
    read: Vec<Reading<PaintId>>,
    of_boards: Vec<BoardReading>,
    estimate: Estimate,
    taught: Arc<Taught>,
    /// The paints of boards as known without the readings of boards.
    on_boards: HashMap<PaintId, (Class, Ensemble)>,
    /// Swatches computed so far.
    swatches: Memo<(Look, PartsKey), Option<Swatch>>,
    wedges: Memo<(Look, PartsKey), Option<Wedge>>,
    /// Bands of mixes if the effect of mediums were known.
    bands_by_tins: Memo<(Look, PartsKey), Option<f64>>,
    faces: Memo<(Look, PaintId), String>,
    /// Colours of pots of the log, computed when first needed.
    pots: Memo<(Look, PartsKey), Option<Seen>, POTS>,
    /// Forecasts of recent readings, computed when first needed, and those of the previous snapshot.
    predicted: OnceLock<Vec<Backtested>>,
    predicted_before: Vec<Backtested>,
}

/// How much is learned before there is an answer.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Wait {
    /// Learns from everything.
    ForAll,
    /// Defers components with many new readings.
    NotLong,
}

impl Wait {
    /// Number of readings from which components are deferred.
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

    /// Forecasts of recent readings known so far.
    fn backtested(&self) -> &[Backtested] {
        self.predicted.get().unwrap_or(&self.predicted_before)
    }
}

impl ShelfSnapshot {
    /// Makes a snapshot, reusing from `before` what has not changed.
    ///
    /// If hundreds of readings would have to be learned from before anything can be shown, they are
    /// [deferred](Self::pending_readings). Tins must have been checked when they were saved.
    pub fn of(documents: ShelfDocuments, before: Option<&Self>) -> Result<Self, BadTin> {
        let whole = before.is_some_and(|before| before.pending_readings() == 0);
        Self::after(documents, before, if whole { Wait::ForAll } else { Wait::NotLong })
    }

    /// Number of deferred readings; their tins are known by labels and masstones.
    pub fn pending_readings(&self) -> usize {
        self.estimate().pending_readings()
    }

    /// The snapshot with all readings learned from, reusing from `before` what has not changed.
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
                // A reading may contain a paint twice.
                if of_paint.last() != Some(&at) {
                    of_paint.push(at);
                }
            }
        }
        let by_id = tins.iter().enumerate().map(|(at, tin)| (tin.id, at)).collect();
        Ok(Self { tins, by_id, learnt, readings, by_paint, boards, workshop, house_white })
    }

    /// A tin, even if it was deleted.
    pub fn tin(&self, id: Uuid) -> Result<&Kept<ShelfPaint>, Refusal> {
        self.tin_ever(id).ok_or(Refusal::NoTin(id))
    }

    fn tin_ever(&self, id: Uuid) -> Option<&Kept<ShelfPaint>> {
        self.by_id.get(&id).map(|at| &self.tins[*at])
    }

    /// Tins on the shelf, in the order in which they were added.
    pub fn tins(&self) -> impl Iterator<Item = &Kept<ShelfPaint>> {
        self.tins.iter().filter(|tin| !tin.removed)
    }

    /// All tins including deleted ones.
    pub fn tins_ever(&self) -> &[Kept<ShelfPaint>] {
        &self.tins
    }

    /// Name of a tin.
    pub fn name(&self, id: Uuid) -> &str {
        self.tin_ever(id).map_or("a deleted paint", |tin| tin.value.name.as_str())
    }

    /// Contents of a pot: `peat brown`, or `1 peat brown : 4 glazing liquid`; marks tins that were deleted.
    pub fn pot_words(&self, pot: &[MixPart]) -> String {
        let marked = |id: Uuid| match self.tin_ever(id) {
            Some(tin) if tin.removed => format!("{} (no longer on the shelf)", tin.value.name.as_str()),
            _ => self.name(id).to_owned(),
        };
        let parts: Vec<_> = pot.iter().map(|part| (part.parts.value(), marked(part.paint.0))).collect();
        pot_words(&parts)
    }

    /// What a reading is of: `peat brown`, or `1 peat brown : 4 glazing liquid`.
    pub fn reading_words(&self, reading: &Reading<PaintId>) -> String {
        let part = |(paint, parts): &(PaintId, Parts)| {
            ((100.0 * parts.value()).round() / 100.0, self.name(paint.0).to_owned())
        };
        pot_words(&reading.of.iter().map(part).collect::<Vec<_>>())
    }

    /// A tin with its uncertainty.
    pub fn paint(&self, id: Uuid) -> Result<&Ensemble, Refusal> {
        self.learnt.estimate.paint(PaintId(id)).ok_or(Refusal::NoTin(id))
    }

    /// Most probable material of a tin, with its class.
    pub fn material(&self, paint: PaintId) -> Option<KnownTin<'_>> {
        let (class, known) = self.known(paint)?;
        let specials = self.product(paint)?.specials;
        Some(KnownTin { class, specials, material: known.best(), known: Some(known) })
    }

    /// Plausible materials of each paint on the shelf; omits those that are certain.
    pub(crate) fn plausible(&self, shelves: usize) -> HashMap<PaintId, Vec<Material>> {
        let tins = self.tins().map(|tin| PaintId(tin.id));
        tins.filter_map(|paint| Some((paint, self.known(paint)?.1.some(shelves)))).collect()
    }

    /// A tin as it is on one of these plausible shelves; one that is certain is what it is.
    pub(crate) fn plausible_tin<'t>(
        &'t self,
        may_be: &'t HashMap<PaintId, Vec<Material>>,
        shelf: usize,
        paint: PaintId,
    ) -> Option<KnownTin<'t>> {
        let known = self.material(paint)?;
        let material = may_be.get(&paint).and_then(|all| all.get(shelf));
        Some(KnownTin { material: material.unwrap_or(known.material), ..known })
    }

    /// Product in a tin, even if it was deleted.
    pub fn product(&self, paint: PaintId) -> Option<Product> {
        Some(self.tin_ever(paint.0)?.value.product())
    }

    /// Class of a tin, and its ensemble.
    pub fn known(&self, paint: PaintId) -> Option<(Class, &Ensemble)> {
        Some((self.learnt.estimate.class(paint)?, self.learnt.estimate.paint(paint)?))
    }

    /// A mix of these parts with its uncertainty; `None` without parts.
    pub fn stirred(&self, of: &[(PaintId, Parts)]) -> Result<Option<Ensemble>, Refusal> {
        Ok(Ensemble::mix(&self.ensembles(of)?).ok())
    }

    fn ensembles(&self, of: &[(PaintId, Parts)]) -> Result<Vec<(Parts, &Ensemble)>, Refusal> {
        of.iter().map(|(paint, parts)| Ok((*parts, self.paint(paint.0)?))).collect()
    }

    /// 90 % band of a mix, ΔE00, if the effect of mediums were known; `None` without parts.
    pub(crate) fn within_by_tins(&self, of: &[(PaintId, Parts)], look: Look) -> Result<Option<f64>, Refusal> {
        let within = || {
            let mixed = Ensemble::mix_with_known_media(&self.ensembles(of)?).ok();
            Ok(mixed.map(|mixed| mixed.in_state(look.state).doubt(look.light).within))
        };
        self.learnt.bands_by_tins.get_or((look, parts_key(of)), within)
    }

    /// Most probable material of a mix; `None` without parts.
    pub(crate) fn most_probable(&self, of: &[(PaintId, Parts)]) -> Result<Option<Material>, Refusal> {
        let of: Vec<(Parts, &Material)> = of
            .iter()
            .map(|(paint, parts)| Ok((*parts, self.paint(paint.0)?.best())))
            .collect::<Result<_, Refusal>>()?;
        Ok(mix(&of).ok())
    }

    /// Swatch of a mix; `None` without parts.
    pub(crate) fn swatch_of(&self, of: &[(PaintId, Parts)], look: Look) -> Result<Option<Swatch>, Refusal> {
        let reckon = || Ok(self.stirred(of)?.map(|stirred| Swatch::of(&stirred, look)));
        self.learnt.swatches.get_or((look, parts_key(of)), reckon)
    }

    /// Drawdown of the most probable mix, without its band, in a tenth of the time.
    pub(crate) fn wedge_of(&self, of: &[(PaintId, Parts)], look: Look) -> Result<Option<Wedge>, Refusal> {
        let reckon = || Ok(self.most_probable(of)?.map(|mixed| Wedge::of(&mixed, look)));
        self.learnt.wedges.get_or((look, parts_key(of)), reckon)
    }

    /// Flat colour of the most probable mix; `None` without parts.
    pub(crate) fn seen_pot(&self, of: &[(PaintId, Parts)], look: Look) -> Result<Option<Seen>, Refusal> {
        let reckon = || Ok(self.most_probable(of)?.map(|mixed| look.face(&mixed)));
        self.learnt.pots.get_or((look, parts_key(of)), reckon)
    }

    /// Flat colour of a tin.
    pub(crate) fn face_of(&self, tin: PaintId, look: Look) -> Result<String, Refusal> {
        self.learnt.faces.get_or((look, tin), || Ok(look.hex(self.paint(tin.0)?.best())))
    }

    /// Tins that can be painted with, as a board needs them.
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

    /// The estimate.
    pub fn estimate(&self) -> &Estimate {
        &self.learnt.estimate
    }

    /// The estimate as it would be without the reading at an index of the log.
    pub(crate) fn estimate_without(&self, reading: usize) -> Result<Estimate, Refusal> {
        let Learnt { tins, read, estimate, taught, .. } = &*self.learnt;
        let others: Vec<Reading<PaintId>> = [&read[..reading], &read[reading + 1..]].concat();
        let estimate = estimate.after(tins, &others, usize::MAX).map_err(|_| Refusal::Broken)?;
        Ok(estimate.strengthened(&taught.strengths))
    }

    /// Forecasts of recent readings.
    pub(crate) fn backtested(&self) -> Result<&[Backtested], Refusal> {
        let Learnt { predicted, predicted_before, .. } = &*self.learnt;
        if let Some(known) = predicted.get() {
            return Ok(known);
        }
        let reply = backtest(self.learnt.log(), LAST, predicted_before).map_err(|_| Refusal::Broken)?;
        Ok(predicted.get_or_init(|| reply))
    }

    /// Prediction of a mix from earlier readings of its tins; `None` without parts.
    pub(crate) fn predicted_at(
        &self,
        then: Timestamp,
        of: &[(PaintId, Parts)],
    ) -> Result<Option<Ensemble>, Refusal> {
        let until = self.readings.iter().filter(|kept| kept.made_at <= then);
        let read = until.map(|kept| &kept.value.reading);
        predicted_mix(&self.learnt.tins, read, of).map_err(|_| Refusal::Broken)
    }

    /// The painter's hand, learned from boards.
    pub fn hands(&self) -> &LearnedHand {
        &self.learnt.taught.hands
    }

    /// The painter's hand as learned from the first `boards` readings of boards.
    pub(crate) fn hands_after(&self, boards: usize) -> LearnedHand {
        let Learnt { of_boards, on_boards, taught, .. } = &*self.learnt;
        let known = |paint| on_boards.get(&paint).map(|(class, known)| (*class, known));
        if boards >= of_boards.len() {
            taught.hands.clone()
        } else {
            learn_hand(&of_boards[..boards], known).hands
        }
    }

    /// Readings of boards, with their comparison.
    pub fn boards(&self) -> &[(Kept<BoardReading>, Option<BoardJudgement>)] {
        &self.boards
    }

    /// All readings, in the order of the log.
    pub fn logged(&self) -> &[Kept<LoggedReading>] {
        &self.readings
    }

    /// All readings, with their comparison.
    pub fn readings(&self) -> impl DoubleEndedIterator<Item = (&Kept<LoggedReading>, Option<&Judged>)> {
        self.readings.iter().enumerate().map(|(i, kept)| (kept, self.learnt.estimate.judged(i)))
    }

    /// Readings that include a tin.
    pub fn readings_of(&self, paint: Uuid) -> impl Iterator<Item = (&Kept<LoggedReading>, Option<&Judged>)> {
        let places = self.by_paint.get(&paint).map(Vec::as_slice).unwrap_or_default();
        places.iter().map(|at| (&self.readings[*at], self.learnt.estimate.judged(*at)))
    }

    /// Measurements of a tin alone in a thick sample.
    pub fn masstones_of(&self, paint: Uuid) -> impl Iterator<Item = &Measured> {
        self.readings_of(paint).filter_map(|(kept, _)| match &kept.value.reading {
            Reading { of, shown: Shown::Thick(measured), .. } if of.len() == 1 => Some(measured),
            _ => None,
        })
    }

    /// True if a questioned reading concerns this tin: a tint concerns the paint, not the house white in it.
    pub fn asks_about(&self, paint: Uuid, reading: &Kept<LoggedReading>, judged: Option<&Judged>) -> bool {
        let alone = reading.value.reading.of.len() == 1;
        judged.is_some_and(|judged| judged.questioned) && (alone || !self.is_house_white(paint))
    }

    /// The house white, unless it was deleted.
    pub fn house_white(&self) -> Option<PaintId> {
        self.house_white
    }

    /// True if this tin is the house white.
    pub fn is_house_white(&self, paint: Uuid) -> bool {
        self.house_white == Some(PaintId(paint))
    }
}

/// The chosen white, if it is among these tins and not deleted; restoring the tin restores the choice.
pub fn house_white(workshop: &Workshop, tins: &[Kept<ShelfPaint>]) -> Option<PaintId> {
    let at_hand = |white: &PaintId| tins.iter().any(|tin| tin.id == white.0 && !tin.removed);
    workshop.house_white.filter(at_hand)
}

/// A tin as the estimate needs it.
fn of_shelf(tin: &Kept<ShelfPaint>, house_white: Option<PaintId>) -> OfShelf {
    let id = PaintId(tin.id);
    OfShelf { id, facts: tin.value.facts(house_white == Some(id)), at_hand: !tin.removed }
}
