//! The run sheet of the piano: primed and in its second coat of blue, one step of which ran late.

use jiff::{Span, Timestamp, tz::TimeZone};
use uuid::Uuid;
use warm_blend_board::{Board, Letter};
use warm_blend_paint::Note;
use warm_blend_piece::Zone;
use warm_blend_plan::{Done, LayerWork, Rates, RunSheet, Work, WorkingHours};
use warm_blend_store::{Store, StoreError};

use super::shelf::unsound;

const CASE: [Zone; 6] = [Zone::Case, Zone::Sides, Zone::Mouldings, Zone::Fall, Zone::Legs, Zone::Plinth];

/// What it took and what is usual, minutes, and when it was over: how many days ago, and at what time.
type Took = (f64, f64, i64, (i8, i8));

pub(super) fn plan(store: &mut Store, piano: Uuid, case: Uuid) -> Result<(), StoreError> {
    let zone = TimeZone::system();
    let today = Timestamp::now().to_zoned_datetime(zone.clone()).date();
    let mut sheet = RunSheet::new(piano, WorkingHours::usual_by(&zone));
    sheet.rates = Rates { hour: Some(32.0), overhead: Some(0.15), margin: Some(0.1) };
    let board = store.get::<Board>(case)?.value;
    let layers = board.layers(Letter::ALL[1]);
    let coat = |layer: usize, coat: usize| {
        let layer = layers.get(layer).map(|layer| LayerWork::from(*layer));
        layer.and_then(|layer| layer.coats().nth(coat)).map(Work::Layer).ok_or_else(|| unsound("a coat"))
    };
    let mut done = |work: Work, zones: Vec<Zone>, (minutes, usual, ago, (hour, minute)): Took, note: &str| {
        let day = today.checked_sub(Span::new().days(ago)).map_err(|_| unsound("a day"))?;
        let at = zone.to_ambiguous_timestamp(day.at(hour, minute, 0, 0)).compatible();
        let at = at.map_err(|_| unsound("a time"))?;
        let note = Note::new(note).map_err(|_| unsound(note))?;
        sheet.done.push(Done { work, zones, at, minutes: Some(minutes), usual, note });
        Ok::<(), StoreError>(())
    };
    let all = || [&CASE[..], &[Zone::Panels]].concat();
    done(Work::Clean, all(), (50.0, 47.6, 4, (9, 55)), "")?;
    done(Work::Rinse, all(), (20.0, 23.4, 4, (10, 20)), "")?;
    done(Work::Deglaze, all(), (35.0, 33.7, 4, (12, 10)), "")?;
    done(Work::Tape, all(), (45.0, 51.2, 4, (13, 30)), "")?;
    done(coat(0, 0)?, all(), (80.0, 70.9, 4, (15, 5)), "tinted grey, covers the red well")?;
    done(
        coat(1, 0)?,
        CASE.to_vec(),
        (118.0, 50.2, 1, (16, 40)),
        "the fretwork took for ever; a smaller brush next time",
    )?;
    store.furnish(sheet)?;
    Ok(())
}

/// A fortnight from now.
pub(super) fn due() -> Option<jiff::civil::Date> {
    let today = Timestamp::now().to_zoned_datetime(TimeZone::system()).date();
    today.checked_add(Span::new().days(14)).ok()
}
