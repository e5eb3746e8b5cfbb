//! The pieces of the demo: the piano, in two schemes, and its stool.

use std::collections::BTreeMap;

use jiff::Span;
use uuid::Uuid;
use warm_blend_board::{Letter, Motif, Share};
use warm_blend_paint::{Currency, Masstone, MixPart, Name, Note, PaintId, WholeParts};
use warm_blend_piece::{
    Ageing, Brief, CardKind, Fade, Finish, Form, Intent, Likely, MarkedCard, MarkedFace, PairIntent, Piece,
    PieceKind, PiecePhoto, Quote, Scheme, Stencil, View, Zone, ZoneFinish,
};
use warm_blend_sim::Interior;
use warm_blend_spectral::Light;
use warm_blend_store::{Store, StoreError};

use super::{
    days::days_ago,
    shelf::{DemoShelf, tin, unsound},
};

/// The stool, in the colours of the case.
const STOOL: [Worn; 3] =
    [(Zone::Seat, 1, 0, 0.4, 0.3), (Zone::Apron, 0, 1, 0.15, 0.35), (Zone::Legs, 0, 1, 0.3, 0.5)];

/// Zone, board, strip, wear, grime.
type Worn = (Zone, usize, usize, f64, f64);

/// The first scheme: pale panels in a blue case, whose finish is carried round the sides.
const PALE: [Worn; 6] = [
    (Zone::Case, 0, 1, 0.1, 0.35),
    (Zone::Panels, 1, 0, 0.0, 0.3),
    (Zone::Fall, 0, 1, 0.15, 0.25),
    (Zone::Legs, 0, 1, 0.25, 0.45),
    (Zone::Mouldings, 0, 2, 0.1, 0.5),
    (Zone::Plinth, 0, 1, 0.25, 0.65),
];

/// The second scheme: pale trim on blue.
const TRIMMED: [Worn; 6] = [
    (Zone::Case, 0, 1, 0.1, 0.35),
    (Zone::Panels, 0, 0, 0.0, 0.3),
    (Zone::Fall, 0, 0, 0.15, 0.25),
    (Zone::Legs, 0, 1, 0.25, 0.45),
    (Zone::Mouldings, 1, 0, 0.1, 0.5),
    (Zone::Plinth, 1, 0, 0.25, 0.65),
];

/// The piano and the stool.
pub(super) fn pieces(store: &mut Store, shelf: &DemoShelf, boards: &[Uuid]) -> Result<[Uuid; 2], StoreError> {
    let named = |text: &str| Name::new(text).map_err(|_| unsound(text));
    let code = |text: &str| text.parse().map(Masstone::Hex).map_err(|_| unsound(text));
    let scheme = |name: &str, worn: &[Worn]| {
        let wears = worn
            .iter()
            .map(|(zone, board, strip, wear, grime)| {
                let share = |amount: f64| Share::new(amount).map_err(|_| unsound(name));
                let board = *boards.get(*board).ok_or_else(|| unsound(name))?;
                let ageing = Ageing { wear: share(*wear)?, grime: share(*grime)?, ..Ageing::default() };
                let wears = Finish::Strip { board, strip: Letter::ALL[*strip] };
                Ok((*zone, ZoneFinish { ageing, ..ZoneFinish::of(wears) }))
            })
            .collect::<Result<BTreeMap<_, _>, StoreError>>()?;
        Ok::<_, StoreError>(Scheme {
            name: named(name)?,
            wears,
            over: Vec::new(),
            intent: Intent::Quiet,
            // The top stays dark on purpose.
            pairs: [Zone::Case, Zone::Sides]
                .map(|other| PairIntent { one: Zone::Top, other, intent: Intent::Bold })
                .into(),
        })
    };
    // The white of the panels appears again on the fall.
    let one = WholeParts::new(1).map_err(|_| unsound("one part"))?;
    let pot = vec![MixPart { paint: PaintId(tin(shelf, "oat white")?.id), parts: one }];
    // Strongest in the middle of the fall, nearly gone at both ends.
    let fade = Some(Fade { weakest: 0.25, along: 0.5, across: None, patchy: 0.35 });
    let border = Stencil { gap: Some(0.0), fade, ..Stencil::new(Motif::Wave, 80.0, pot) };
    let mut pale = scheme("pale panels", &PALE)?;
    pale.wears.entry(Zone::Fall).and_modify(|fall| fall.stencil = Some(border));
    let mood = "Stately but tired: as if it had stood in the hall for a hundred years and been polished.";
    let piece = Piece {
        brief: Brief {
            client: Some(named("Village hall committee")?),
            mood: Note::new(mood).ok().flatten(),
            targets: vec![code("#66737c")?, code("#e3d8c0")?],
            photo: None,
            budget: Some(1400.0),
            hours: Some(60.0),
            due: super::plan::due(),
            lights: vec![Light::Daylight, Light::Bulb],
        },
        form: Some(Form { panels: 3, moulding: 34.0, carved: true, ..PieceKind::UprightCase.usual() }),
        schemes: vec![pale, scheme("pale trim", &TRIMMED)?],
        photos: vec![photographed(store)?],
        quote: Some(quoted()?),
        ..Piece::named(named("Upright piano and stool, village hall")?)
    };
    let stool = Piece {
        brief: piece.brief.clone(),
        form: Some(PieceKind::Stool.usual()),
        schemes: vec![scheme("pale seat", &STOOL)?],
        ..Piece::named(named("Stool, village hall")?)
    };
    let begun = |minute| days_ago(42, (10, minute));
    Ok([store.furnish_on(begun(15), piece)?.id, store.furnish_on(begun(40), stool)?.id])
}

/// What the committee was told six weeks ago, and said yes to.
fn quoted() -> Result<Quote, StoreError> {
    let ready_by = super::plan::due().ok_or_else(|| unsound("a due date"))?;
    Ok(Quote {
        at: days_ago(41, (16, 20)),
        hours: Likely { least: 15.0, likely: 18.5, most: 23.0 },
        sum: Likely { least: 700.0, likely: 850.0, most: 1020.0 },
        deposit: 255.0,
        currency: Currency::new("EUR").ok(),
        ready_from: ready_by.checked_sub(Span::new().days(4)).map_err(|_| unsound("a date"))?,
        ready_by,
        accepted_by: Name::new("Village hall committee").ok(),
        accepted_at: Some(days_ago(20, (9, 10))),
    })
}

/// The piano as it stands in the hall, with its faces and the card marked.
fn photographed(store: &mut Store) -> Result<PiecePhoto, StoreError> {
    let hall = Interior::find("piano-in-hall").ok_or_else(|| unsound("hall"))?;
    let face = |view, corners| MarkedFace { view, corners };
    Ok(PiecePhoto {
        photo: store.keep_photo(hall.photo)?,
        faces: vec![
            face(View::Front, [[0.2933, 0.2031], [0.7368, 0.1940], [0.7113, 0.5341], [0.3208, 0.6226]]),
            face(View::Side, [[0.2602, 0.1945], [0.2933, 0.2031], [0.3208, 0.6226], [0.2863, 0.5384]]),
            face(View::Top, [[0.2602, 0.1945], [0.6351, 0.1884], [0.7368, 0.1940], [0.2933, 0.2031]]),
        ],
        card: Some(MarkedCard { kind: CardKind::White, colour: None, x: 0.54, y: 0.321, radius: 0.0095 }),
        hidden: Vec::new(),
    })
}
