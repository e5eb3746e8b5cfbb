//! The two boards of the demo: one for the case, one for its trim and the stool.

use uuid::Uuid;
use warm_blend_board::{
    Application, Board, Branch, Ground, GroundKind, Layer, Letter, Load, Passes, Strip, Technique,
};
use warm_blend_paint::{MixPart, Name, PaintId, WholeParts};
use warm_blend_store::{Store, StoreError};

use super::{
    days::days_ago,
    shelf::{DemoShelf, tin, unsound},
};

/// Technique, pot, passes, load of the brush.
type Put = (Technique, &'static [(&'static str, u32)], u8, f64);

const CASE: [Put; 7] = [
    (Technique::BrushedCoat, &[("blocking primer", 1)], 1, 1.0),
    (Technique::BrushedCoat, &[("slate blue", 5), ("barley", 1)], 2, 1.0),
    (Technique::ClearCoat, &[], 1, 1.0),
    (Technique::GlazeWiped, &[("peat brown", 1), ("glazing liquid", 4)], 1, 1.0),
    (Technique::DryBrush, &[("slate blue", 1), ("duck egg", 2)], 1, 1.0),
    (Technique::DryBrush, &[("duck egg", 1)], 1, 0.5),
    (Technique::SandBack, &[], 1, 0.25),
];

/// The differences between strips A, B and C.
const WAXES: [Put; 3] = [
    (Technique::ClearWax, &[], 1, 1.0),
    (Technique::TintedWax, &[("peat brown", 1), ("clear wax", 9)], 1, 1.0),
    (Technique::TintedWax, &[("oat white", 1), ("clear wax", 6)], 1, 1.0),
];

const TRIM: [Put; 6] = [
    (Technique::BrushedCoat, &[("blocking primer", 1)], 1, 1.0),
    (Technique::BrushedCoat, &[("oxblood", 1)], 1, 1.0),
    (Technique::BrushedCoat, &[("oat white", 1)], 2, 1.0),
    (Technique::DryBrush, &[("barley", 1)], 1, 1.0),
    (Technique::WetDistress, &[], 1, 0.6),
    (Technique::ClearWax, &[], 1, 1.0),
];

pub(super) fn boards(store: &mut Store, shelf: &DemoShelf) -> Result<Vec<Uuid>, StoreError> {
    let layers = |puts: &[Put]| puts.iter().map(|put| layer(put, shelf)).collect::<Result<Vec<_>, _>>();
    let [a, b, c, ..] = Letter::ALL;
    let mut case = vec![Strip { letter: a, from: None, layers: layers(&CASE)? }];
    case[0].layers.push(layer(&WAXES[0], shelf)?);
    for (letter, wax) in [b, c].into_iter().zip(&WAXES[1..]) {
        let from = Some(Branch { strip: a, after: CASE.len() });
        case.push(Strip { letter, from, layers: vec![layer(wax, shelf)?] });
    }
    let mut trim = layers(&TRIM)?;
    // Rubbed through to the red below the white, not to the wood.
    trim[4].down_to = Some(trim[1].id);
    let trim = vec![Strip { letter: a, from: None, layers: trim }];
    [("aged drift blue for the case", case), ("rubbed oat white for the trim", trim)]
        .into_iter()
        .zip([27, 24])
        .map(|((name, strips), ago)| {
            let name = Name::new(name).map_err(|_| unsound(name))?;
            let ground = Ground::of(GroundKind::RedStain);
            let board = Board::new(name, ground, strips).map_err(|_| unsound("a board"))?;
            Ok(store.furnish_on(days_ago(ago, (11, 30)), board)?.id)
        })
        .collect()
}

fn layer((technique, pot, passes, load): &Put, shelf: &DemoShelf) -> Result<Layer, StoreError> {
    let part = |(paint, parts): &(&str, u32)| {
        let parts = WholeParts::new(*parts).map_err(|_| unsound(paint))?;
        Ok(MixPart { paint: PaintId(tin(shelf, paint)?.id), parts })
    };
    let pot = pot.iter().map(part).collect::<Result<Vec<_>, StoreError>>()?;
    let unusual = |_| unsound("a hand");
    let passes = Passes::new(*passes).map_err(|_| unsound("a hand"))?;
    let hand = Application { passes, load: Load::new(*load).map_err(unusual)?, ..Application::default() };
    Ok(Layer { hand, ..Layer::new(*technique, pot) })
}
