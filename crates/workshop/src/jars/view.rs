//! Jars for display.

use jiff::civil::Date;
use jiff::tz::TimeZone;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_mixing::{Disposal, Jar, JarSign, JarState, Keeping, PourRecord};
use warm_blend_paint::{Contents, Look, MixPart, Units};

use crate::{Refusal, ShelfSnapshot, Swatch, label};

/// All jars with something in them.
#[derive(Debug, Serialize, ToSchema)]
pub struct JarsView {
    /// Jars, those to see to first, then the latest.
    pub jars: Vec<JarView>,
    /// Number of jars that should be used up soon, tried first or thrown away.
    pub to_see_to: usize,
    /// What can be noticed about a jar.
    pub signs: Vec<JarSignChoice>,
}

/// Something that can be noticed about a jar.
#[derive(Debug, Serialize, ToSchema)]
pub struct JarSignChoice {
    /// `loose-lid` …
    pub id: &'static str,
    /// `Loose lid` …
    pub name: &'static str,
}

/// A jar.
#[derive(Debug, Serialize, ToSchema)]
pub struct JarView {
    /// Id of the pot it was filled from.
    pub id: Uuid,
    /// Short code, as on its label.
    pub code: String,
    /// Name of the mix.
    pub name: Option<String>,
    /// Contents: `3 dove grey : 1 night blue`.
    pub recipe: String,
    /// Contents as parts.
    pub parts: Vec<MixPart>,
    /// Its look; absent if its colour is not known.
    pub swatch: Option<Swatch>,
    /// Amount left, ml.
    pub left_ml: f64,
    /// Amount left as text.
    pub left: String,
    /// Amount that was poured, ml: no more can be left.
    pub poured_ml: f64,
    /// Where it stands.
    pub place: Option<String>,
    /// Client it is kept for.
    pub client: Option<String>,
    /// When it was mixed, RFC 3339.
    pub mixed_at: String,
    /// Last day on which it is expected to be good.
    pub until: String,
    /// `good`, `soon`, `past`, `doubtful` or `spoiled`.
    pub state: &'static str,
    /// What to do about it; absent if it is good.
    pub advice: Option<&'static str>,
    /// What was noticed: `loose-lid` …
    pub signs: Vec<&'static str>,
    /// Amounts taken from it, latest first.
    pub uses: Vec<JarUsed>,
    /// When it was thrown away, RFC 3339.
    pub gone_at: Option<String>,
    /// How to get rid of it.
    pub disposal: &'static str,
    /// Published source of that.
    pub disposal_source: &'static str,
}

/// An amount taken from a jar.
#[derive(Debug, Serialize, ToSchema)]
pub struct JarUsed {
    /// Time, RFC 3339.
    pub at: String,
    /// Amount as text.
    pub amount: String,
}

/// Id of a state.
const fn id(state: JarState) -> &'static str {
    match state {
        JarState::Good => "good",
        JarState::Soon => "soon",
        JarState::Past => "past",
        JarState::Doubtful => "doubtful",
        JarState::Spoiled => "spoiled",
    }
}

/// Pots with something left in a jar, earliest first, with their jars.
pub fn held_in_jars(
    pours: &[Kept<PourRecord>],
) -> impl DoubleEndedIterator<Item = (&Kept<PourRecord>, &Jar)> {
    pours.iter().filter_map(|kept| Some((kept, kept.value.jar().filter(|jar| !jar.is_empty())?)))
}

impl ShelfSnapshot {
    /// Products in a pot.
    pub(crate) fn contents_of(&self, record: &PourRecord) -> Contents {
        let inside = record.inside();
        inside.into_iter().filter_map(|(paint, ml)| Some((self.product(paint)?, ml))).collect()
    }

    /// How a jar keeps, as seen on a day.
    pub(crate) fn keeping(&self, record: &PourRecord, jar: &Jar, today: Date, zone: &TimeZone) -> Keeping {
        let mixed = record.finished_at.unwrap_or(jar.filled_at).to_zoned_datetime(zone.clone()).date();
        Keeping::of(&self.contents_of(record), &jar.signs, mixed, today)
    }

    /// The jar of a pot as seen on a day; `None` if nothing of it is kept.
    pub fn jar(
        &self,
        kept: &Kept<PourRecord>,
        look: Look,
        units: Units,
        (today, zone): (Date, &TimeZone),
    ) -> Result<Option<JarView>, Refusal> {
        let record = &kept.value;
        let Some(jar) = record.jar() else { return Ok(None) };
        let keeping = self.keeping(record, jar, today, zone);
        let disposal = Disposal::of(&self.contents_of(record));
        let used = |ml| units.say_volume(ml);
        let uses =
            jar.uses().iter().rev().map(|one| JarUsed { at: one.at.to_string(), amount: used(one.ml) });
        let text = |name: &warm_blend_paint::Name| name.as_str().to_owned();
        Ok(Some(JarView {
            id: kept.id,
            code: label::code(kept.id),
            name: record.name.as_ref().map(text),
            recipe: self.pot_words(&record.recipe()),
            parts: record.recipe(),
            swatch: self.stirred(&record.parts())?.map(|stirred| Swatch::of(&stirred, look)),
            left_ml: jar.left(),
            left: units.say_volume(jar.left()),
            poured_ml: record.total(),
            place: record.place.as_ref().map(text),
            client: jar.client.as_ref().map(text),
            mixed_at: record.finished_at.unwrap_or(jar.filled_at).to_string(),
            until: keeping.until.to_string(),
            state: id(keeping.state),
            advice: keeping.advice,
            signs: jar.signs.iter().map(|sign| sign.id()).collect(),
            uses: uses.collect(),
            gone_at: jar.gone_at.map(|at| at.to_string()),
            disposal: disposal.words,
            disposal_source: disposal.source,
        }))
    }

    /// All jars with something in them, as seen on a day.
    pub fn jars(
        &self,
        pours: &[Kept<PourRecord>],
        look: Look,
        units: Units,
        day: (Date, &TimeZone),
    ) -> Result<JarsView, Refusal> {
        let view = |(kept, _)| self.jar(kept, look, units, day).transpose();
        let mut jars: Vec<JarView> = held_in_jars(pours).rev().filter_map(view).collect::<Result<_, _>>()?;
        jars.sort_by_key(|jar| jar.state == id(JarState::Good));
        let sign = |sign: JarSign| JarSignChoice { id: sign.id(), name: sign.name() };
        Ok(JarsView {
            to_see_to: jars.iter().filter(|jar| jar.state != id(JarState::Good)).count(),
            jars,
            signs: JarSign::ALL.into_iter().map(sign).collect(),
        })
    }
}
