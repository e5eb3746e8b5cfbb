//! The run sheet of the piano: primed and in its second coat of blue, one step of which ran late.

use jiff::{SignedDuration, Timestamp, tz::TimeZone};
use uuid::Uuid;
use warm_blend_board::{Board, Hand, Letter};
use warm_blend_paint::Note;
use warm_blend_piece::Zone;
use warm_blend_plan::{Done, Laid, Rates, RunSheet, Work, WorkingHours};
use warm_blend_store::{Store, StoreError};

use super::shelf::unsound;

const CASE: [Zone; 6] = [Zone::Case, Zone::Sides, Zone::Mouldings, Zone::Fall, Zone::Legs, Zone::Plinth];

/// What it took and what is usual, minutes, and how many hours ago it was over.
type Took = (f64, f64, i64);

pub(super) fn plan(store: &mut Store, piano: Uuid, case: Uuid) -> Result<(), StoreError> {
    let now = Timestamp::now();
    let zone = TimeZone::system();
    let mut sheet = RunSheet::new(piano, WorkingHours::usual(zone.iana_name().unwrap_or("UTC")));
    sheet.rates = Rates { hour: Some(32.0), overhead: Some(0.15), margin: Some(0.1) };
    let board = store.get::<Board>(case)?.value;
    let layers = board.layers(Letter::ALL[1]);
    let coat = |n: usize, coat: u8| -> Result<Work, StoreError> {
        let layer = layers.get(n).ok_or_else(|| unsound("a layer"))?;
        let passes = layer.hand.passes.value();
        let hand =
            if passes > 1 { Hand { passes: Hand::default().passes, ..layer.hand } } else { layer.hand };
        Ok(Work::Layer(Laid {
            technique: layer.technique,
            pot: layer.pot.clone(),
            hand,
            coat: (coat, passes),
        }))
    };
    let mut done = |work: Work, zones: Vec<Zone>, (minutes, usual, ago): Took, note: &str| {
        let at = now.checked_sub(SignedDuration::from_hours(ago)).map_err(|_| unsound("a time"))?;
        let note = Note::new(note).map_err(|_| unsound(note))?;
        sheet.done.push(Done { work, zones, at, minutes: Some(minutes), usual, note });
        Ok::<(), StoreError>(())
    };
    let all = || [&CASE[..], &[Zone::Panels]].concat();
    done(Work::Clean, all(), (50.0, 47.6, 75), "")?;
    done(Work::Rinse, all(), (20.0, 23.4, 74), "")?;
    done(Work::Deglaze, all(), (35.0, 33.7, 72), "")?;
    done(Work::Tape, all(), (45.0, 51.2, 71), "")?;
    done(coat(0, 1)?, all(), (80.0, 70.9, 69), "tinted grey, covers the red well")?;
    done(
        coat(1, 1)?,
        CASE.to_vec(),
        (118.0, 50.2, 25),
        "the fretwork took for ever; a smaller brush next time",
    )?;
    store.furnish(sheet)?;
    Ok(())
}

/// A fortnight from now.
pub(super) fn due() -> Option<jiff::civil::Date> {
    let today = Timestamp::now().to_zoned_datetime(TimeZone::system()).date();
    today.checked_add(jiff::Span::new().days(14)).ok()
}
