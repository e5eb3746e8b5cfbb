//! Jars that are near a colour, as they are or with a little added.

use std::ops::ControlFlow;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_mixing::PourRecord;
use warm_blend_paint::{Colour, Look, Measure, MixPart, Units};

use super::held_in_jars;
use crate::correcting::PotToCorrect;
use crate::{AgainstTarget, Checks, Refusal, ShelfSnapshot, label};

/// Number of jars that are offered, and difference beyond which none is, ΔE00: more than that, and it is another paint†.
const OFFERED: usize = 3;
const FAR: f64 = 15.0;
/// Difference below which nothing need be added, ΔE00†.
const THERE: f64 = 1.0;
/// Improvement below which nothing is worth adding, ΔE00†.
const WORTH_IT: f64 = 0.5;
/// Volume below which nothing is worth adding, ml†.
const A_LITTLE: f64 = 1.0;
/// How much larger than the jar the pot is in which something is added.
const ROOM: f64 = 2.0;

/// A colour for which jars are sought.
#[derive(Debug, Deserialize, ToSchema)]
pub struct JarsWanted {
    /// Target colour.
    pub target: Colour,
}

/// A jar that is near a colour.
#[derive(Debug, Serialize, ToSchema)]
pub struct JarNear {
    /// The pot.
    pub id: Uuid,
    /// Short code, as on its label.
    pub code: String,
    /// Name of the mix, or its contents.
    pub name: String,
    /// Contents as parts.
    pub parts: Vec<MixPart>,
    /// Amount left as text.
    pub left: String,
    /// Where it stands.
    pub place: Option<String>,
    /// Client it is kept for.
    pub client: Option<String>,
    /// Its flat colour.
    pub hex: String,
    /// The jar as it is, compared with the target.
    pub judgement: AgainstTarget,
    /// What brings it nearer: `7½ ml barley, 1½ ml fern`; absent if nothing does.
    pub adding: Option<String>,
    /// Comparison with the target afterwards, expected: `likely within 3`.
    pub then: Option<String>,
    /// Contents afterwards, as parts.
    pub then_parts: Vec<MixPart>,
}

impl ShelfSnapshot {
    /// Jars near a colour, the nearest first; `watch` may cancel the search.
    pub fn jars_near(
        &self,
        pours: &[Kept<PourRecord>],
        wanted: &JarsWanted,
        look: Look,
        units: Units,
        watch: impl Fn() -> ControlFlow<()> + Sync,
    ) -> Result<Vec<JarNear>, Refusal> {
        let mut checks = Checks::default();
        let target = checks.colour("/target", &wanted.target);
        let target = checks.done(target)?;
        let mut near = Vec::new();
        for (kept, jar) in held_in_jars(pours).rev() {
            let Some(stirred) = self.stirred(&kept.value.parts())? else { continue };
            let judgement = AgainstTarget::of(stirred.best(), target, look)?;
            if judgement.difference <= FAR {
                near.push((kept, jar, look.hex(stirred.best()), judgement));
            }
        }
        near.sort_by(|one, other| one.3.difference.total_cmp(&other.3.difference));
        near.truncate(OFFERED);
        let offered =
            |(kept, jar, hex, judgement): (&Kept<PourRecord>, &warm_blend_mixing::Jar, _, AgainstTarget)| {
                let parts = kept.value.recipe();
                let mut adding = None;
                if judgement.difference > THERE && jar.left() >= A_LITTLE {
                    let pot = PotToCorrect {
                        components: parts.clone(),
                        amount: jar.left(),
                        measure: Measure::Millilitre,
                        room: Some(ROOM * jar.left()),
                        target: wanted.target.clone(),
                    };
                    // A tin may be gone since: then nothing is offered to add.
                    let ways = self.correct(&pot, look, &watch).map(|found| found.ways).unwrap_or_default();
                    let keeps_all = |way: &crate::PotFix| {
                        way.discard.is_none() && way.judgement.difference < judgement.difference - WORTH_IT
                    };
                    adding = ways.into_iter().find(keeps_all);
                }
                let part = |part: &crate::PotFixPart| format!("{} {}", units.say_drop(part.ml), part.name);
                JarNear {
                    id: kept.id,
                    code: label::code(kept.id),
                    name: match &kept.value.name {
                        Some(name) => name.as_str().to_owned(),
                        None => self.pot_words(&parts),
                    },
                    left: units.say_volume(jar.left()),
                    place: kept.value.place.as_ref().map(|place| place.as_str().to_owned()),
                    client: jar.client.as_ref().map(|client| client.as_str().to_owned()),
                    hex,
                    judgement,
                    adding: adding
                        .as_ref()
                        .map(|way| way.additions.iter().map(part).collect::<Vec<_>>().join(", ")),
                    then: adding.as_ref().map(|way| way.likely.clone()),
                    then_parts: adding.map_or_else(Vec::new, |way| way.components),
                    parts,
                }
            };
        Ok(near.into_iter().map(offered).collect())
    }
}
