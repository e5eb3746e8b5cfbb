//! Two pieces in progress: the piano, primed and in its second coat of blue, with one late step, and its stool, which can
//! be primed while the piano dries.

use jiff::{Span, Timestamp, tz::TimeZone};
use uuid::Uuid;
use warm_blend_board::{Board, Letter};
use warm_blend_paint::Note;
use warm_blend_piece::Zone;
use warm_blend_plan::{Done, LayerWork, Rates, RunSheet, Work, WorkingHours};
use warm_blend_store::{Store, StoreError};

use super::{days::days_ago, shelf::unsound};

const CASE: [Zone; 6] = [Zone::Case, Zone::Sides, Zone::Mouldings, Zone::Fall, Zone::Legs, Zone::Plinth];

const STOOL: [Zone; 3] = [Zone::Seat, Zone::Apron, Zone::Legs];

/// Real and usual duration in minutes, and when it was finished: days ago, and time of day.
type Took = (f64, f64, i64, (i8, i8));

/// Run sheets of the piano and its stool.
pub(super) fn plans(store: &mut Store, [piano, stool]: [Uuid; 2], case: Uuid) -> Result<(), StoreError> {
    let hours = WorkingHours::usual_by(&TimeZone::system());
    let mut sheet = RunSheet::new(piano, hours);
    sheet.rates = Rates { hour: Some(32.0), overhead: Some(0.15), margin: Some(0.1) };
    let mut beside = sheet.in_the_same_workshop(stool);
    let case = store.get::<Board>(case)?.value;
    let all = [&CASE[..], &[Zone::Panels]].concat();
    for (work, took) in [
        (Work::Clean, (50.0, 47.6, 4, (9, 55))),
        (Work::Rinse, (20.0, 23.4, 4, (10, 20))),
        (Work::Deglaze, (35.0, 33.7, 4, (12, 10))),
        (Work::Tape, (45.0, 51.2, 4, (13, 30))),
    ] {
        tick(&mut sheet, work, &all, took, "")?;
    }
    tick(&mut sheet, coat(&case, 0)?, &all, (80.0, 70.9, 4, (15, 5)), "tinted grey, covers the red well")?;
    let late = "the fretwork took for ever; a smaller brush next time";
    tick(&mut sheet, coat(&case, 1)?, &CASE, (118.0, 50.2, 1, (16, 40)), late)?;
    for (work, took) in [
        (Work::Clean, (9.0, 9.2, 1, (9, 15))),
        (Work::Rinse, (2.0, 1.8, 1, (9, 20))),
        (Work::Deglaze, (8.0, 8.1, 1, (11, 10))),
    ] {
        tick(&mut beside, work, &STOOL, took, "")?;
    }
    store.furnish_on(days_ago(4, (9, 0)), sheet)?;
    store.furnish_on(days_ago(1, (9, 0)), beside)?;
    Ok(())
}

/// The first coat of a layer of a board.
fn coat(board: &Board, layer: usize) -> Result<Work, StoreError> {
    let layer = board.layers(Letter::ALL[1]).get(layer).map(|layer| LayerWork::from(*layer));
    // The contents of tins matter only for stains.
    let first = layer.and_then(|layer| layer.coats(&|_| None).into_iter().next());
    first.map(Work::Layer).ok_or_else(|| unsound("a coat"))
}

fn tick(
    sheet: &mut RunSheet,
    work: Work,
    zones: &[Zone],
    (minutes, usual, ago, at): Took,
    note: &str,
) -> Result<(), StoreError> {
    let at = days_ago(ago, at);
    let note = Note::new(note).map_err(|_| unsound(note))?;
    sheet.done.push(Done {
        work,
        zones: zones.to_vec(),
        at,
        minutes: Some(minutes),
        usual,
        note,
        photo: None,
        by: None,
        from_jars: Vec::new(),
    });
    Ok(())
}

/// The due date: two weeks from today.
pub(super) fn due() -> Option<jiff::civil::Date> {
    let today = Timestamp::now().to_zoned_datetime(TimeZone::system()).date();
    today.checked_add(Span::new().days(14)).ok()
}
