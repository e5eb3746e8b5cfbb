//! Notes of the piano's painter from six weeks.

use uuid::Uuid;
use warm_blend_documents::LogNote;
use warm_blend_paint::{Name, Note};
use warm_blend_store::{Store, StoreError};

use super::{days::days_ago, shelf::unsound};

/// Days ago, time of day, whether on the piano, text.
type Written = (i64, (i8, i8), bool, &'static str);

const NOTES: [Written; 8] = [
    (
        42,
        (17, 10),
        true,
        "Looked at it in the hall: north windows, a bulb over the keys. They want it quiet, as if it had always stood there.",
    ),
    (40, (12, 30), false, "The slate blue is the new tin, not last year's. It reads a little greener."),
    (33, (16, 45), true, "Toasted straw is too warm beside the blue. Leave it for the stool, if at all."),
    (
        26,
        (15, 20),
        true,
        "Board for the case: strip B dried darker than I thought, the wax helps. Leaned it against the piano.",
    ),
    (
        21,
        (18, 0),
        true,
        "Showed the committee both boards under the bulb. Only one of them liked the pale trim.",
    ),
    (9, (9, 30), false, "Cold in the workshop, 12 degrees. The primer can wait until the heater is mended."),
    (1, (17, 20), true, "First blue on. Looks thin and chalky, as a first coat does. Do not panic."),
    (1, (18, 5), true, "Touched up a spot: case. Two drops of the blue on the corner the trolley caught."),
];

pub(super) fn notes(store: &mut Store, [piano, _]: [Uuid; 2]) -> Result<(), StoreError> {
    for (ago, time, of_piano, words) in NOTES {
        let at = days_ago(ago, time);
        let words = Note::new(words).map_err(|_| unsound(words))?;
        let piece = of_piano.then_some(piano);
        store.furnish_on(at, LogNote { at, words, piece, photo: None, agreed: None })?;
    }
    let at = days_ago(20, (9, 15));
    let agreed = Name::new("pale panels").ok();
    let words = Note::new("Agreed by phone; the top stays dark.").ok().flatten();
    store.furnish_on(at, LogNote { at, words, piece: Some(piano), photo: None, agreed })?;
    Ok(())
}
