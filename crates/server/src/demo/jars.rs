//! What is left of the pots of six weeks, in jars.

use jiff::Span;
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_mixing::{AmountAsEntered, JarSign, PourAction, PourEvent, PourRecord};
use warm_blend_paint::{Measure, MixId, Name, SavedMix};
use warm_blend_store::{Store, StoreError};

use super::{days::days_ago, shelf::unsound};

/// A jar of the demo.
struct OnTheShelf {
    /// Which of the mixes.
    mix: usize,
    /// Days ago it was poured, and at what time.
    poured: (i64, (i8, i8)),
    /// What was poured and what is left, ml.
    ml: (f64, f64),
    place: &'static str,
    client: Option<&'static str>,
    signs: &'static [JarSign],
}

const JARS: [OnTheShelf; 5] = [
    OnTheShelf {
        mix: 0,
        poured: (26, (9, 40)),
        ml: (120.0, 45.0),
        place: "window sill",
        client: None,
        signs: &[JarSign::Skin],
    },
    OnTheShelf {
        mix: 1,
        poured: (24, (10, 10)),
        ml: (240.0, 160.0),
        place: "shelf 1",
        client: None,
        signs: &[],
    },
    OnTheShelf {
        mix: 1,
        poured: (23, (15, 30)),
        ml: (90.0, 60.0),
        place: "unheated shed",
        client: None,
        signs: &[JarSign::Frost],
    },
    OnTheShelf {
        mix: 2,
        poured: (15, (11, 5)),
        ml: (100.0, 70.0),
        place: "shelf 1",
        client: None,
        signs: &[JarSign::LooseLid],
    },
    OnTheShelf {
        mix: 0,
        poured: (2, (16, 30)),
        ml: (600.0, 140.0),
        place: "shelf 2",
        client: Some("Village hall committee"),
        signs: &[],
    },
];

/// How long after pouring what is left goes into a jar, minutes.
const LATER: i64 = 75;

pub(super) fn jars(store: &mut Store, mixes: &[Kept<SavedMix>]) -> Result<(), StoreError> {
    for (n, jar) in (0u128..).zip(JARS) {
        let wrong = || unsound("a jar");
        let mix = mixes.get(jar.mix).ok_or_else(wrong)?;
        let at = days_ago(jar.poured.0, jar.poured.1);
        let total: f64 = mix.value.components().iter().map(|part| f64::from(part.parts.value())).sum();
        let mut pour = PourRecord::begin(MixId(mix.id), &mix.value, Some(jar.ml.0)).map_err(|_| wrong())?;
        for (step, part) in (0u128..).zip(mix.value.components()) {
            let ml = jar.ml.0 * f64::from(part.parts.value()) / total;
            let said = AmountAsEntered::Counted(ml, Measure::Millilitre);
            let action = PourAction::Added { paint: part.paint, ml, said };
            let id = Uuid::from_u128(10 * n + step + 1);
            pour = pour.with(PourEvent { id, at, action }).map_err(|_| wrong())?;
        }
        let named = |text: &str| Name::new(text).map_err(|_| wrong());
        let kept_at = at.checked_add(Span::new().minutes(LATER)).map_err(|_| wrong())?;
        let client = jar.client.map(named).transpose()?;
        let pour = pour.finished(at).map_err(|_| wrong())?.kept_at(Some(named(jar.place)?));
        let pour = pour.in_jar(jar.ml.1, kept_at).map_err(|_| wrong())?;
        let pour = pour.with_jar(|own| (own.client, own.signs) = (client, jar.signs.to_vec()));
        store.furnish_on(at, pour.map_err(|_| wrong())?)?;
    }
    Ok(())
}
