//! A quote as it is asked for: a piece that does not exist yet, in ready finishes from the shelf.

use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{Board, Ground, GroundKind, Letter, Template};
use warm_blend_paint::Name;
use warm_blend_piece::{
    AreaCorrection, BadForm, Carving, Elevation, Finish, Form, Piece, PieceKind, Zone, ZoneFinish,
};

use crate::{Refusal, ShelfSnapshot, scheme_of};

/// Parts that wear the second finish: the first of these that the piece has, with all that belong together.
const ACCENTS: [&[Zone]; 4] =
    [&[Zone::Drawers, Zone::Doors, Zone::Panels], &[Zone::Top], &[Zone::Seat], &[Zone::Mouldings]];

/// What a client asks for.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct QuoteAsked {
    /// Name of the piece; by default its kind.
    #[serde(default)]
    #[schema(example = "Hall chest")]
    pub name: Option<String>,
    /// The client.
    #[serde(default)]
    pub client: Option<String>,
    /// Kind: see `/api/piece/choices`.
    #[schema(value_type = String, example = "chest-of-drawers")]
    pub kind: PieceKind,
    /// Width, mm.
    #[schema(example = 1000.0)]
    pub width: f64,
    /// Height, mm.
    #[schema(example = 900.0)]
    pub height: f64,
    /// Depth, mm.
    #[schema(example = 480.0)]
    pub depth: f64,
    /// How carved its fronts are; as usual for the kind if left out.
    #[serde(default)]
    pub carving: Option<Carving>,
    /// What is on it: see `/api/boards/choices`.
    #[schema(value_type = String, example = "red-stain")]
    pub ground: GroundKind,
    /// One or two ready finishes; the second is for the fronts.
    pub finishes: Vec<FinishAsked>,
}

/// A ready finish.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct FinishAsked {
    /// The finish: see `/api/boards/choices`.
    #[schema(example = "aged")]
    pub template: String,
    /// Its main colour; by default a paint that suits it.
    #[serde(default)]
    pub base: Option<Uuid>,
}

impl QuoteAsked {
    /// Name of the piece.
    fn name(&self) -> Result<Name, Refusal> {
        let given = self.name.as_deref().map(str::trim).filter(|name| !name.is_empty());
        Name::new(given.unwrap_or(self.kind.name())).map_err(|error| Refusal::field("/name", error))
    }

    /// The usual form of its kind at this size.
    pub(super) fn sized(&self) -> Form {
        Form { width: self.width, height: self.height, depth: self.depth, ..self.kind.usual() }
    }

    fn form(&self) -> Result<(Form, Elevation), Refusal> {
        let form = self.sized();
        let wrong = |error: BadForm| Refusal::field(format!("/{}", error.field), error.message);
        Ok((form, form.build().map_err(wrong)?))
    }

    /// The piece, with boards of these ids for its finishes.
    pub fn piece(&self, boards: &[Uuid]) -> Result<Piece, Refusal> {
        let (form, elevation) = self.form()?;
        let mut piece = Piece::named(self.name()?);
        let client = self.client.as_deref().filter(|client| !client.trim().is_empty());
        let client = client.map(Name::new).transpose();
        piece.brief.client = client.map_err(|error| Refusal::field("/client", error))?;
        piece.form = Some(form);
        piece.ground = Ground::of(self.ground);
        let mut zones: Vec<Zone> = elevation.extents().into_keys().filter(|zone| zone.is_painted()).collect();
        zones.retain(|zone| *zone != Zone::Hardware && zone.carried_from().is_none());
        let accents = match boards.len() {
            0 | 1 => Vec::new(),
            _ => accents(&zones).ok_or_else(|| {
                Refusal::field("/finishes/1", "this piece has no part to set apart; use one finish")
            })?,
        };
        if let Some(carved) = self.carving {
            let carve = |zone: &&Zone| {
                carved == Carving::AllOver || ACCENTS[0].contains(zone) || **zone == Zone::Frame
            };
            for zone in zones.iter().filter(carve) {
                piece
                    .corrections
                    .insert(*zone, AreaCorrection { carved: Some(carved), ..AreaCorrection::default() });
            }
        }
        let mut scheme = scheme_of(&piece, None)?;
        for zone in zones {
            let board = boards[usize::from(accents.contains(&zone))];
            scheme.wears.insert(zone, ZoneFinish::of(Finish::Strip { board, strip: Letter::ALL[0] }));
        }
        piece.schemes = vec![scheme];
        piece.check().map_err(|error| Refusal::field(error.pointer, error.message))?;
        Ok(piece)
    }

    /// Where each finish goes, in words: `Case, sides: Aged`.
    pub(super) fn finishes_in_words(&self) -> Vec<String> {
        let name = |asked: &FinishAsked| Template::find(&asked.template).map_or("", |template| template.name);
        match self.finishes.as_slice() {
            [one, fronts] => vec![name(one).to_owned(), format!("{} on the fronts", name(fronts))],
            all => all.iter().map(|asked| name(asked).to_owned()).collect(),
        }
    }
}

impl ShelfSnapshot {
    /// Boards of the finishes of a quote, filled from the shelf.
    pub fn quoted_boards(&self, asked: &QuoteAsked) -> Result<Vec<Board>, Refusal> {
        if !(1..=2).contains(&asked.finishes.len()) {
            return Err(Refusal::field("/finishes", "choose one or two finishes"));
        }
        let board = |(n, finish): (usize, &FinishAsked)| {
            let at = |refusal: Refusal| refusal.within(&format!("/finishes/{n}"));
            let strips = self.strips_of(&finish.template, finish.base).map_err(at)?;
            let name = Template::find(&finish.template).map_or("finish", |template| template.name);
            let name = Name::new(name).map_err(|error| Refusal::field("/finishes", error))?;
            Board::new(name, Ground::of(asked.ground), strips)
                .map_err(|error| Refusal::field("/finishes", error))
        };
        asked.finishes.iter().enumerate().map(board).collect()
    }
}

/// Parts for the second finish, if there are any beside others.
fn accents(zones: &[Zone]) -> Option<Vec<Zone>> {
    let all = ACCENTS
        .iter()
        .map(|group| zones.iter().copied().filter(|zone| group.contains(zone)).collect::<Vec<_>>());
    all.into_iter().find(|found| !found.is_empty() && found.len() < zones.len())
}
