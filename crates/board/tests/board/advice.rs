//! What is said of an order of layers, and the ways back where it went wrong. All of it is common practice.

use warm_blend_board::{
    Advice, AdviceFix, Application, Board, ByPlace, Defect, Dispute, Grit, Ground, GroundKind, HandBias,
    KnownTin, Layer, LayerChange, LearnedHand, Load, Passes, Place, Remedy, RemedySearch, School, Severity,
    Stack, TakeCare, Technique, TextureDepth, Way, advice, cautions,
};
use warm_blend_paint::{Class, FilmState, PaintId, Specials};
use warm_blend_spectral::{Lab, Light, Reflectance, Xyz, difference};
use warm_blend_testing::shelf::{
    A, BROWN, CLAY_BLUE, CLEAR_WAX, CREAM, GEL_STAIN, GLAZING_LIQUID, OXBLOOD, PEARL, PRIMER, Shelf, WHITE,
    board, board_on, pot,
};

fn said_by(shelf: &Shelf, board: &Board) -> Vec<Advice> {
    let tin = |paint| shelf.tin(paint);
    let stack = board.stack(A, tin, |_| HandBias::USUAL).unwrap();
    advice(board, A, tin, &stack, &shelf.on())
}

fn said(board: &Board) -> Vec<Advice> {
    said_by(&Shelf::default(), board)
}

fn coat(paint: u128, passes: u8) -> Layer {
    let mut layer = Layer::new(Technique::BrushedCoat, pot(&[(paint, 1)]));
    layer.hand.passes = Passes::new(passes).unwrap();
    layer
}

#[test]
fn a_glaze_over_clay_type_paint_fails_until_it_is_sealed() {
    let mut layers = vec![
        Layer::new(Technique::BrushedCoat, pot(&[(CLAY_BLUE, 1)])),
        Layer::new(Technique::GlazeWiped, pot(&[(BROWN, 1), (GLAZING_LIQUID, 4)])),
    ];
    let worst = said(&board(layers.clone())).swap_remove(0);
    assert_eq!(worst.severity, Severity::Fails);
    assert!(worst.what.contains("will lift the clay-type paint"));
    assert_eq!(worst.fix, Some(AdviceFix::Below(layers[1].id, Technique::ClearCoat)));
    layers.insert(1, Layer::new(Technique::ClearCoat, vec![]));
    assert!(said(&board(layers)).iter().all(|advice| advice.severity < Severity::Fails));
}

#[test]
fn paint_over_wax_fails_and_wax_over_paint_does_not() {
    let wax = || Layer::new(Technique::TintedWax, pot(&[(BROWN, 1), (CLEAR_WAX, 9)]));
    let coat = || Layer::new(Technique::BrushedCoat, pot(&[(CREAM, 1)]));
    let fails = |layers| said(&board(layers)).iter().any(|advice| advice.what.contains("over wax"));
    assert!(fails(vec![wax(), coat()]));
    assert!(!fails(vec![coat(), wax()]));
    let stains =
        |layers| said(&board(layers)).iter().any(|advice| advice.what.contains("stains the bare paint"));
    assert!(stains(vec![coat(), wax()]));
    assert!(!stains(vec![coat(), Layer::new(Technique::ClearWax, vec![]), wax()]));
}

/// A wax that was bought dark is a wax: paint does not hold on it, and it stains what drinks it in.
#[test]
fn a_wax_bought_dark_is_a_wax() {
    const DARK_WAX: u128 = 20;
    let mut shelf = Shelf::default();
    shelf.add(DARK_WAX, Class::TintedWax, [62, 44, 30]);
    let (coat, wax) = (coat(CREAM, 2), Layer::new(Technique::TintedWax, pot(&[(DARK_WAX, 1)])));
    let what = |layers: &[&Layer]| -> Vec<String> {
        let layers = layers.iter().map(|layer| (*layer).clone()).collect();
        said_by(&shelf, &board(layers)).into_iter().map(|advice| advice.what).collect()
    };
    assert!(what(&[&wax, &coat]).iter().any(|what| what.contains("paint over wax")));
    assert!(what(&[&coat, &wax]).iter().any(|what| what.contains("stains the bare paint")));
    let clear = Layer::new(Technique::ClearWax, vec![]);
    assert!(!what(&[&coat, &clear, &wax]).iter().any(|what| what.contains("stain")));
}

/// Oil over paint made with water holds, the other way round wants a primer; milk paint chips where it finds no pores.
#[test]
fn oil_and_milk_paint_hold_where_they_hold() {
    const ALKYD: u128 = 20;
    const MILK: u128 = 21;
    let mut shelf = Shelf::default();
    shelf.add(ALKYD, Class::Alkyd, [40, 60, 56]);
    shelf.add(MILK, Class::Milk, [180, 170, 150]);
    let about = |layers: Vec<Layer>, words: &str| {
        said_by(&shelf, &board(layers)).iter().any(|advice| advice.what.contains(words))
    };
    let peels = "may peel off oil-based";
    assert!(about(vec![coat(ALKYD, 1), coat(CREAM, 1)], peels));
    assert!(!about(vec![coat(CREAM, 1), coat(ALKYD, 1)], peels));
    assert!(!about(vec![coat(ALKYD, 1), coat(PRIMER, 1), coat(CREAM, 1)], peels));
    let flakes = "milk paint flakes";
    assert!(about(vec![coat(BROWN, 1), coat(MILK, 1)], flakes), "latex is closed");
    assert!(!about(vec![coat(CREAM, 1), coat(MILK, 1)], flakes), "chalk-type paint is open");
    assert!(!about(vec![coat(BROWN, 1), coat(PRIMER, 1), coat(MILK, 1)], flakes));
    assert!(about(vec![Layer::new(Technique::ClearWax, vec![]), coat(ALKYD, 1)], "paint over wax"));
}

/// A stain wants bare wood, and damp; it lets tannin show, and paint over it does not (common practice).
#[test]
fn a_stain_soaks_into_bare_wood_only() {
    let toner = || Layer::new(Technique::StainWiped, pot(&[(BROWN, 1), (GLAZING_LIQUID, 1)]));
    let about = |kind, layers: Vec<Layer>, words: &str| {
        said(&board_on(kind, layers)).into_iter().find(|advice| advice.what.contains(words))
    };
    let lies = "does not soak in";
    assert!(about(GroundKind::MidWood, vec![toner(), toner()], lies).is_none());
    let mist = about(GroundKind::MidWood, vec![toner()], "damp wood").unwrap();
    assert!(mist.severity == Severity::Note && mist.remedy.contains("mist the wood"));
    for (kind, layers) in [
        (GroundKind::Varnished, vec![toner()]),
        (GroundKind::MidWood, vec![coat(CREAM, 1), toner()]),
        (GroundKind::MidWood, vec![Layer::new(Technique::ClearWax, vec![]), toner()]),
    ] {
        let last = layers.last().unwrap().id;
        let advice = about(kind, layers, lies).unwrap();
        assert_eq!(advice.fix, Some(AdviceFix::Instead(last, Technique::GlazeWiped)));
    }
    let bleeds = "the ground will bleed through";
    assert!(
        about(GroundKind::DarkWood, vec![toner(), Layer::new(Technique::ClearCoat, vec![])], bleeds)
            .is_none()
    );
    assert!(about(GroundKind::DarkWood, vec![toner(), coat(CREAM, 1)], bleeds).is_some());
}

#[test]
fn cautions_stand_at_their_layer_and_say_where_they_are_from() {
    let shelf = Shelf::default();
    let tin = |paint| shelf.tin(paint);
    let layers = vec![
        Layer::new(Technique::BrushedCoat, pot(&[(CREAM, 1)])),
        Layer::new(Technique::SandBack, vec![]),
        Layer::new(Technique::ClearWax, vec![]),
    ];
    let old = board_on(GroundKind::OldPaint, layers.clone());
    let found = cautions(&old, A, tin);
    let lead = found.iter().find(|caution| caution.care.words.contains("lead")).unwrap();
    assert_eq!(lead.layer, layers[1].id);
    assert!(
        lead.care.grave
            && lead.care.source.contains("745")
            && lead.care.words.contains("licensed contractor")
    );
    assert!(
        found
            .iter()
            .any(|caution| caution.layer == layers[2].id && caution.care.words.contains("self-ignite"))
    );
    assert!(cautions(&board(layers), A, tin).iter().all(|caution| !caution.care.words.contains("lead")));
}

fn about<'a>(found: &'a [Advice], words: &str) -> Option<&'a Advice> {
    found.iter().find(|advice| advice.what.contains(words))
}

fn wide(board: &Board) -> Vec<Advice> {
    said_by(&Shelf::wide(), board)
}

fn tin_id(n: u128) -> PaintId {
    PaintId(uuid::Uuid::from_u128(n))
}

/// Clay-type paint is lifted by a wet layer however it got there: as part of a mix, dry-brushed, or sealed only in places; a closed seal or
/// a closed coat of another paint over it protects it.
#[test]
fn clay_is_lifted_wherever_it_is_bare() {
    let wash = || Layer::new(Technique::WashWiped, pot(&[(WHITE, 1)]));
    let lifts = |layers: Vec<Layer>| about(&wide(&board(layers)), "will lift the clay-type paint").is_some();
    let mixed = Layer::new(Technique::BrushedCoat, pot(&[(CREAM, 2), (CLAY_BLUE, 1)]));
    assert!(lifts(vec![mixed.clone(), wash()]));
    let brushed = Layer::new(Technique::DryBrush, pot(&[(CLAY_BLUE, 1)]));
    assert!(lifts(vec![coat(CREAM, 2), brushed.clone(), wash()]));
    let seal = Layer::new(Technique::ClearCoat, vec![]);
    let mut partial = seal.clone();
    partial.on = ByPlace { field: false, recess: true, edge: true };
    assert!(lifts(vec![mixed.clone(), partial, wash()]));
    assert!(!lifts(vec![mixed.clone(), seal.clone(), wash()]));
    assert!(!lifts(vec![mixed, coat(CREAM, 1), wash()]), "covered by another paint");
    let stippled = Layer::new(Technique::Speckle, pot(&[(CREAM, 1)]));
    assert!(lifts(vec![brushed, stippled, wash()]), "drops leave it bare");
}

/// A resist is worked into wax: paint and clear coat over it fail, and its rags can self-heat.
#[test]
fn a_resist_is_wax() {
    let resist = || Layer::new(Technique::WetWaxResist, pot(&[(WHITE, 1)]));
    let clear = Layer::new(Technique::ClearCoat, vec![]);
    assert!(about(&wide(&board(vec![coat(CREAM, 2), resist(), coat(CREAM, 1)])), "paint over wax").is_some());
    assert!(about(&wide(&board(vec![coat(CREAM, 2), resist(), clear])), "clear coat over wax").is_some());
    assert!(about(&wide(&board(vec![coat(CREAM, 2), resist(), resist()])), "over wax").is_none());
    let shelf = Shelf::wide();
    let found = cautions(&board(vec![coat(CREAM, 2), resist()]), A, |paint| shelf.tin(paint));
    assert!(found.iter().any(|caution| caution.care == TakeCare::RAGS), "{found:?}");
}

/// Stain does not dry over wax; wet distressing needs a paint that water softens, bare.
#[test]
fn stain_over_wax_and_a_wet_cloth_on_what_stays() {
    let wax = || Layer::new(Technique::ClearWax, vec![]);
    let stain = Layer::new(Technique::WashWiped, pot(&[(GEL_STAIN, 1)]));
    assert!(about(&wide(&board(vec![coat(CREAM, 2), wax(), stain.clone()])), "stain over wax").is_some());
    assert!(about(&wide(&board(vec![coat(CREAM, 2), stain])), "stain over wax").is_none());
    let wet = || Layer::new(Technique::WetDistress, vec![]);
    let stays = |layers: Vec<Layer>| {
        let layer = layers.last().unwrap().id;
        let found = wide(&board(layers));
        let advice = about(&found, "does not rub this off")?.clone();
        assert_eq!(advice.fix, Some(AdviceFix::Instead(layer, Technique::SandBack)));
        Some(advice)
    };
    assert!(stays(vec![coat(BROWN, 2), wet()]).is_some());
    assert!(stays(vec![coat(CREAM, 2), wax(), wet()]).is_some(), "sealed");
    assert!(stays(vec![coat(CREAM, 2), wet()]).is_none());
}

/// A seal counts where the wax lies on it, not far below; a strong tint over a clear coat needs no warning.
#[test]
fn a_seal_counts_where_the_wax_lies_on_it() {
    let wax = |parts| Layer::new(Technique::TintedWax, pot(&[(BROWN, 1), (CLEAR_WAX, parts)]));
    let seal = || Layer::new(Technique::ClearCoat, vec![]);
    let stains = |layers: Vec<Layer>| about(&wide(&board(layers)), "stains the bare paint").is_some();
    assert!(stains(vec![coat(CREAM, 1), seal(), coat(CREAM, 1), wax(9)]));
    assert!(!stains(vec![coat(CREAM, 2), seal(), wax(9)]));
    let warned = |layers: Vec<Layer>| about(&wide(&board(layers)), "strong tint").is_some();
    assert!(warned(vec![coat(CREAM, 2), wax(2)]));
    assert!(!warned(vec![coat(CREAM, 2), seal(), wax(2)]));
}

/// What a tin states counts before its class: a primer that blocks nothing, a stain made with water over clay.
#[test]
fn the_tin_is_believed() {
    let shelf = Shelf::wide();
    let said_of = |paint: PaintId, specials: Specials, board: &Board| {
        let tin = |id| shelf.tin(id).map(|tin| if id == paint { KnownTin { specials, ..tin } } else { tin });
        let stack = board.stack(A, tin, |_| HandBias::USUAL).unwrap();
        advice(board, A, tin, &stack, &shelf.on())
    };
    let primed = board_on(GroundKind::RedStain, vec![coat(PRIMER, 1), coat(CREAM, 2)]);
    assert!(about(&wide(&primed), "bleed through").is_none());
    let weak = Specials { blocks_stains: Some(false), ..Specials::default() };
    assert!(about(&said_of(tin_id(PRIMER), weak, &primed), "bleed through").is_some());
    let stain = Layer::new(Technique::WashWiped, pot(&[(GEL_STAIN, 1)]));
    let over_clay = board(vec![coat(CLAY_BLUE, 2), stain]);
    assert!(about(&wide(&over_clay), "will lift the clay").is_none(), "oil does not wet it");
    let by_water = Specials { solvent_borne: Some(false), ..Specials::default() };
    assert!(about(&said_of(tin_id(GEL_STAIN), by_water, &over_clay), "will lift the clay").is_some());
}

/// Texture and flecks that are too thick crack at any number of passes; sanding between two coats is no coat.
#[test]
fn too_thick_at_any_load_and_sanding_is_no_coat() {
    let loaded = |technique, load, passes| {
        let mut layer = Layer::new(technique, pot(&[(CREAM, 1)]));
        layer.hand.load = Load::new(load).unwrap();
        layer.hand.passes = Passes::new(passes).unwrap();
        wide(&board(vec![coat(WHITE, 2), layer]))
    };
    for passes in [1, 2] {
        assert!(about(&loaded(Technique::TextureCoat, 2.0, passes), "texture this thick").is_some());
        assert!(about(&loaded(Technique::KnifeFlecks, 3.0, passes), "flecks this thick").is_some());
    }
    assert!(about(&loaded(Technique::KnifeFlecks, 1.0, 1), "thick").is_none());
    let bare = |layers| {
        let found = said(&board_on(GroundKind::MidWood, layers));
        about(&found, "over the bare ground").map(|advice| advice.what.clone())
    };
    let sanded = vec![coat(WHITE, 1), Layer::new(Technique::SandBack, vec![]), coat(WHITE, 1)];
    assert_eq!(bare(sanded), bare(vec![coat(WHITE, 2)]));
    assert_ne!(bare(vec![coat(WHITE, 1)]), bare(vec![coat(WHITE, 2)]));
}

/// Pearl has no shade of its own; wear goes down to the colour that was put there for it; one cause is said once.
#[test]
fn pearl_wear_and_one_cause() {
    let pearl = Layer::new(Technique::GlazeStippled, pot(&[(WHITE, 1), (PEARL, 9)]));
    assert!(about(&wide(&board(vec![coat(BROWN, 2), pearl])), "shades from its base").is_none());

    let layers = vec![coat(OXBLOOD, 2), coat(CREAM, 2), Layer::new(Technique::SandBack, vec![])];
    let (hidden, wear) = (layers[0].id, layers[2].id);
    let found = wide(&board_on(GroundKind::PaleWood, layers.clone()));
    let past = about(&found, "past the colour below").unwrap();
    assert_eq!(past.fix, Some(AdviceFix::DownTo(wear, hidden)));
    let mut meant = layers.clone();
    meant[2].down_to = Some(hidden);
    assert!(about(&wide(&board_on(GroundKind::PaleWood, meant)), "past the colour below").is_none());
    let one_colour = vec![coat(CREAM, 2), layers[2].clone()];
    assert!(about(&wide(&board_on(GroundKind::PaleWood, one_colour)), "past the colour below").is_none());

    let mut many = vec![coat(CREAM, 2), Layer::new(Technique::ClearWax, vec![])];
    many.extend((0..6).map(|_| Layer::new(Technique::DryBrush, pot(&[(WHITE, 1)]))));
    let found = wide(&board(many.clone()));
    let over_wax: Vec<_> = found.iter().filter(|advice| advice.what.contains("over wax")).collect();
    assert_eq!(over_wax.len(), 1, "{over_wax:?}");
    assert_eq!(over_wax[0].layer, Some(many[2].id));
}

/// Sanding smooth wears nothing through, at any load, and is no wear to the rules; it makes dust all the same.
#[test]
fn sanding_smooth_wears_nothing_through() {
    let smooth = |load| {
        let mut layer = Layer::new(Technique::SmoothSand, vec![]);
        layer.hand.load = Load::new(load).unwrap();
        layer
    };
    for load in [0.25, 1.0, 4.0] {
        let print = Technique::SmoothSand.print(smooth(load).hand);
        assert!(Place::ALL.iter().all(|place| print.cover.at(*place).value() == 0.0));
    }
    let layers = vec![coat(OXBLOOD, 2), coat(CREAM, 2), smooth(1.0)];
    let (sanded, plain) = (
        board_on(GroundKind::PaleWood, layers.clone()),
        board_on(GroundKind::PaleWood, layers[..2].to_vec()),
    );
    assert_eq!(seen(&sanded), seen(&plain));
    assert!(about(&said(&sanded), "wears through").is_none());
    let shelf = Shelf::default();
    assert!(
        cautions(&sanded, A, |paint| shelf.tin(paint)).iter().any(|caution| caution.care == TakeCare::DUST)
    );
}

/// Paper takes ridges down, the coarser and the longer the more, never below flat; what is wiped on next catches less (common
/// practice: 320 smooths after a glaze).
#[test]
fn paper_takes_ridges_down() {
    let depth = |grit: Option<u16>, load: f64| {
        let mut smooth = Layer::new(Technique::SmoothSand, vec![]);
        smooth.hand.grit = grit.map(|number| Grit::try_from(number).unwrap());
        smooth.hand.load = Load::new(load).unwrap();
        let mut flecks = Layer::new(Technique::KnifeFlecks, pot(&[(CREAM, 1)]));
        flecks.hand.passes = Passes::new(3).unwrap();
        let layers = [coat(OXBLOOD, 2), flecks, smooth];
        let shelf = Shelf::default();
        let all: Vec<&Layer> = layers.iter().collect();
        let ground = Ground { kind: GroundKind::PaleWood, colour: None };
        let stack = Stack::of_layers(&ground, &all, |paint| shelf.tin(paint), |_| HandBias::USUAL).unwrap();
        (stack.texture(2).value(), stack.texture(3).value())
    };
    let (before, usual) = depth(None, 1.0);
    assert!(0.0 < usual && usual < before, "{before} {usual}");
    assert_eq!(depth(Some(320), 1.0).1, usual);
    assert!(depth(Some(220), 1.0).1 < usual && depth(Some(400), 1.0).1 > usual);
    assert!(depth(Some(320), 2.0).1 < usual);
    assert_eq!(depth(Some(220), 4.0).1, (before - 68.0).max(0.0));
}

/// Coarse paper scratches a glaze, not a coat (common practice: 320 and finer after a glaze).
#[test]
fn coarse_paper_scratches_a_glaze() {
    let smoothed = |grit: u16, below: Layer| {
        let mut smooth = Layer::new(Technique::SmoothSand, vec![]);
        smooth.hand.grit = Some(Grit::try_from(grit).unwrap());
        said(&board(vec![coat(CREAM, 2), below, smooth]))
    };
    let glaze = || Layer::new(Technique::GlazeStippled, pot(&[(OXBLOOD, 1), (GLAZING_LIQUID, 4)]));
    assert_eq!(about(&smoothed(220, glaze()), "scratches").unwrap().severity, Severity::Care);
    assert!(about(&smoothed(320, glaze()), "scratches").is_none());
    assert!(about(&smoothed(220, coat(OXBLOOD, 1)), "scratches").is_none());
}

/// What fails on a ground is said of it: paint on laminate and metal without a bonding primer, and over old wax.
#[test]
fn each_ground_has_what_fails_on_it() {
    let on = |ground, layers: Vec<Layer>| wide(&board_on(ground, layers));
    for slick in [GroundKind::Laminate, GroundKind::PolishedMetal, GroundKind::PaintedMetal] {
        let bare = on(slick, vec![coat(CREAM, 2)]);
        assert_eq!(about(&bare, "does not grip").unwrap().severity, Severity::Fails, "{slick:?}");
        assert!(about(&on(slick, vec![coat(PRIMER, 1), coat(CREAM, 2)]), "does not grip").is_none());
    }
    assert!(about(&on(GroundKind::OldWax, vec![coat(CREAM, 2)]), "over old wax").is_some());
    let waxed_again = vec![Layer::new(Technique::ClearWax, vec![])];
    assert!(about(&on(GroundKind::OldWax, waxed_again), "over old wax").is_none());
    for bleeding in [GroundKind::RedWood, GroundKind::KnottyWood, GroundKind::StainedWood] {
        assert!(about(&on(bleeding, vec![coat(CREAM, 2)]), "bleed through").is_some(), "{bleeding:?}");
    }
}

/// A stain-blocking primer over a bleeding ground, tinted so that it saves a coat; with it, nothing is said.
#[test]
fn a_bleeding_ground_asks_for_a_primer_that_saves_a_coat() {
    let bare = board_on(GroundKind::RedStain, vec![coat(CREAM, 2)]);
    let found = said(&bare);
    let bleeds = about(&found, "bleed through").unwrap();
    assert!(bleeds.remedy.contains("covers in"), "{}", bleeds.remedy);
    let Some(AdviceFix::Under(at, pot)) = &bleeds.fix else { panic!("{:?}", bleeds.fix) };
    assert_eq!(pot[0].paint.0.as_u128(), PRIMER);
    let layers = vec![Layer::new(Technique::BrushedCoat, pot.clone()), coat(CREAM, 2)];
    assert_eq!(*at, bare.layers(A)[0].id);
    assert!(about(&said(&board_on(GroundKind::RedStain, layers)), "bleed through").is_none());
    let none = said_by(&Shelf::default().without(Class::Primer), &bare);
    assert_eq!(about(&none, "bleed through").unwrap().fix, None);
}

#[test]
fn the_first_coat_is_never_the_colour() {
    let over = |passes| said(&board_on(GroundKind::MidWood, vec![coat(WHITE, passes)]));
    let found = over(1);
    let thin = about(&found, "one coat over the bare ground").unwrap();
    assert!(matches!(thin.fix, Some(AdviceFix::Again(_))) && thin.severity == Severity::Note);
    assert!(about(&over(6), "over the bare ground").is_none());
}

#[test]
fn much_water_asks_for_a_bonding_primer() {
    let wash = Layer::new(Technique::WashDripped, pot(&[(WHITE, 1)]));
    let on = |ground| said(&board_on(ground, vec![coat(CREAM, 2), wash.clone()]));
    assert_eq!(about(&on(GroundKind::OldPaint), "very wet layer").unwrap().layer, Some(wash.id));
    assert!(about(&on(GroundKind::WhitePrimer), "very wet layer").is_none());
}

#[test]
fn thick_work_needs_the_night_and_contrast_its_steps() {
    let texture = Layer::new(Technique::TextureCoat, pot(&[(CREAM, 1)]));
    let dry = |paint| Layer::new(Technique::DryBrush, pot(&[(paint, 1)]));
    let found = said(&board(vec![texture, dry(WHITE)]));
    assert!(about(&found, "overnight").is_some());
    assert!(about(&said(&board(vec![coat(OXBLOOD, 2), dry(WHITE)])), "shades in one step").is_some());
    assert!(about(&said(&board(vec![coat(CREAM, 2), dry(WHITE)])), "shades in one step").is_none());
}

/// Strokes that are left to stand are reported, take the night, and crack where they are put on at once as high as peaks (common
/// practice).
#[test]
fn standing_strokes_are_told_of() {
    let rough = |texture: f64, passes: u8| {
        let texture = Some(TextureDepth::new(texture).unwrap());
        let hand = Application { texture, passes: Passes::new(passes).unwrap(), ..Application::default() };
        Layer { hand, ..coat(CREAM, 1) }
    };
    let wash = || Layer::new(Technique::WashWiped, pot(&[(WHITE, 1)]));
    let found = |layer: Layer| said(&board(vec![layer, wash()]));
    assert!(about(&found(rough(20.0, 1)), "standing brush strokes").is_none());
    assert!(about(&found(rough(20.0, 1)), "overnight").is_none());
    let stands = found(rough(150.0, 1));
    assert_eq!(about(&stands, "standing brush strokes").unwrap().severity, Severity::Note);
    assert!(about(&stands, "overnight").is_some() && about(&stands, "will crack").is_none());
    assert_eq!(about(&found(rough(600.0, 1)), "will crack").unwrap().severity, Severity::Fails);
    assert!(about(&found(rough(600.0, 2)), "will crack").is_none(), "in two coats");
    // A wax has no texture of its own, whatever is said of it.
    let hand = Application { texture: Some(TextureDepth::new(900.0).unwrap()), ..Application::default() };
    assert_eq!(Technique::TintedWax.rough(hand).value(), 0.0);
}

/// A coat so thick that it is drawn with cracks is reported, and put on usually it is not (common practice: thin coats).
#[test]
fn a_coat_that_cracks_is_told_of() {
    for technique in [Technique::BrushedCoat, Technique::RolledCoat] {
        let reply = [1.0, 1.4, 1.7, 2.6, 3.2, 4.0].map(|load| {
            let hand = Application { load: Load::new(load).unwrap(), ..Application::default() };
            let layer = Layer { hand, ..Layer::new(technique, pot(&[(CREAM, 1)])) };
            let reply = about(&said(&board(vec![layer.clone()])), "will run and crack").is_some();
            assert_eq!(reply, layer.is_cracked(), "{technique:?} {load}");
            reply
        });
        assert!(!reply[0] && reply[5] && reply.is_sorted(), "{technique:?}: {reply:?}");
    }
}

fn ways(board: &Board, trouble: Defect) -> Vec<Remedy> {
    let shelf = Shelf::default();
    let (on, hands) = (shelf.on(), LearnedHand::default());
    let mending = RemedySearch { board, letter: A, shelf: &on, tin: |paint| shelf.tin(paint), hands: &hands };
    mending.ways(trouble).unwrap()
}

fn seen(board: &Board) -> ByPlace<Lab> {
    let shelf = Shelf::default();
    let stack = board.stack(A, |paint| shelf.tin(paint), |_| HandBias::USUAL).unwrap();
    ByPlace::from_fn(|place| lab(&stack.seen(place, stack.len(), FilmState::Dry).from_afar()))
}

fn lab(curve: &Reflectance) -> Lab {
    Lab::of(Xyz::of(curve, Light::Daylight), Light::Daylight.white())
}

fn waxed() -> Board {
    let wax = Layer::new(Technique::TintedWax, pot(&[(BROWN, 1), (CLEAR_WAX, 1)]));
    board(vec![coat(CREAM, 2), wax])
}

/// Every way back from a trouble that is not a colour cures it: a coat that hides already is not laid again, what is sealed is not
/// sealed again, and what is as thin as can be is not thinned.
#[test]
fn what_cures_nothing_is_not_told() {
    let thin = |load: f64| {
        let mut thin = coat(CREAM, 1);
        thin.hand.load = Load::new(load).unwrap();
        board(vec![coat(OXBLOOD, 2), thin])
    };
    assert!(ways(&thin(1.0), Defect::WashedOut).iter().any(|way| way.way == Way::AnotherCoat));
    assert!(ways(&board(vec![coat(OXBLOOD, 9)]), Defect::WashedOut).is_empty());

    let cracked = ways(&thin(0.4), Defect::Cracked);
    let [LayerChange::Instead(thinner)] = &cracked[0].changes[..] else { panic!("{cracked:?}") };
    assert_eq!(thinner.hand.load.value(), Load::LEAST);
    assert!(ways(&thin(Load::LEAST), Defect::Cracked).is_empty());

    let wash = || Layer::new(Technique::WashWiped, pot(&[(BROWN, 1)]));
    let seal = || Layer::new(Technique::ClearCoat, vec![]);
    let open = board(vec![coat(CLAY_BLUE, 2), wash()]);
    assert!(ways(&open, Defect::Lifted).iter().any(|way| way.way == Way::Seal));
    let sealed = board(vec![coat(CLAY_BLUE, 2), seal(), wash()]);
    assert!(ways(&sealed, Defect::Lifted).iter().all(|way| way.way != Way::Seal));
}

/// What a wax is, is its whole pot: in whichever order it was written down.
#[test]
fn a_wax_is_judged_by_its_whole_pot() {
    for of in [[(BROWN, 1), (CLEAR_WAX, 1)], [(CLEAR_WAX, 1), (BROWN, 1)]] {
        let waxed = board(vec![coat(CREAM, 2), Layer::new(Technique::TintedWax, pot(&of))]);
        let found = ways(&waxed, Defect::TooDark);
        assert!(found.iter().any(|way| way.way == Way::LiftWax), "{found:?}");
    }
}

#[test]
fn a_wax_too_dark_is_lifted_or_washed_over() {
    let before = seen(&waxed());
    let found = ways(&waxed(), Defect::TooDark);
    let lifted = found.iter().find(|way| way.way == Way::LiftWax).unwrap();
    assert!(matches!(&lifted.changes[..], [LayerChange::Instead(layer)] if layer.hand.wipe.value() > 0.5));
    for way in &found {
        let gained: f64 =
            Place::ALL.iter().map(|place| lab(way.after.at(*place)).l - before.at(*place).l).sum();
        assert!(gained > 0.0, "{:?}", way.way);
    }
}

/// The layers of the strip once a way is taken.
fn done(board: &Board, way: &Remedy) -> Vec<Layer> {
    let mut layers: Vec<Layer> = board.layers(A).into_iter().cloned().collect();
    for change in &way.changes {
        let place = |id| layers.iter().position(|other| other.id == id).unwrap();
        match change {
            LayerChange::Put(layer, None) => layers.push(layer.clone()),
            LayerChange::Put(layer, Some(above)) => layers.insert(place(*above), layer.clone()),
            LayerChange::Instead(layer) => {
                let at = place(layer.id);
                layers[at] = layer.clone();
            }
            LayerChange::Take(id) => drop(layers.remove(place(*id))),
        }
    }
    layers
}

fn other_schools(board: &Board) -> Vec<School> {
    let shelf = Shelf::default();
    let (on, hands) = (shelf.on(), LearnedHand::default());
    let mending = RemedySearch { board, letter: A, shelf: &on, tin: |paint| shelf.tin(paint), hands: &hands };
    mending.schools().unwrap()
}

/// Every answer of another school is one that this strip does not give, does what it is shown to do, and leads back: the
/// question is asked of what it makes too, but where it leaves the layer out.
#[test]
fn what_another_school_does_can_be_seen_and_turned_back() {
    let glaze = Layer::new(Technique::GlazeWiped, pot(&[(BROWN, 1), (GLAZING_LIQUID, 4)]));
    let blend = Layer::new(Technique::WetBlend, pot(&[(CLAY_BLUE, 1)]));
    let wear = Layer::new(Technique::SandBack, vec![]);
    let wax = Layer::new(Technique::ClearWax, vec![]);
    let glazed = board(vec![coat(CREAM, 2), blend, glaze, wear, wax]);
    let questions =
        |board: &Board| other_schools(board).iter().map(|school| school.dispute).collect::<Vec<_>>();
    assert_eq!(questions(&glazed).len(), 5);
    assert!(questions(&waxed()).contains(&Dispute::DarkWax));
    assert!(questions(&board(vec![])).is_empty());
    for start in [glazed, waxed()] {
        for School { dispute, ways } in other_schools(&start) {
            for way in ways {
                let made = board(done(&start, &way));
                let after = seen(&made);
                for place in Place::ALL {
                    assert!(
                        difference(*after.at(place), lab(way.after.at(place))).value() < 1e-9,
                        "{:?}",
                        way.way
                    );
                }
                assert!(!way.changes.is_empty(), "{:?}", way.way);
                assert!(
                    questions(&made).contains(&dispute) || way.way == Way::PlainRecesses,
                    "{:?}",
                    way.way
                );
            }
        }
    }
}

/// Common practice: a glaze over the bared wood tones it too.
#[test]
fn distress_before_the_glaze_makes_darker_edges() {
    let glaze = Layer::new(Technique::GlazeStippled, pot(&[(BROWN, 1), (GLAZING_LIQUID, 1)]));
    let start = board(vec![coat(OXBLOOD, 1), coat(CREAM, 2), glaze, Layer::new(Technique::SandBack, vec![])]);
    let asked = other_schools(&start);
    let school = asked.iter().find(|school| school.dispute == Dispute::Distress).unwrap();
    assert_eq!(school.ways[0].way, Way::DistressBeforeGlaze);
    assert!(lab(&school.ways[0].after.edge).l < seen(&start).edge.l);
}

/// A way is shown by what it would do: put on the board it does just that.
#[test]
fn what_is_told_is_what_it_does() {
    let board = waxed();
    for trouble in Defect::ALL {
        for way in ways(&board, trouble) {
            let layers = done(&board, &way);
            let after = seen(&warm_blend_testing::shelf::board(layers));
            for place in Place::ALL {
                assert!(
                    difference(*after.at(place), lab(way.after.at(place))).value() < 1e-9,
                    "{:?}",
                    way.way
                );
            }
        }
    }
}

/// A way back never leads to what fails: paint over wax least of all.
#[test]
fn no_way_back_leads_to_what_fails() {
    let waxed_glaze = board(vec![
        coat(CREAM, 2),
        Layer::new(Technique::ClearCoat, vec![]),
        Layer::new(Technique::GlazeWiped, pot(&[(BROWN, 1), (GLAZING_LIQUID, 4)])),
        Layer::new(Technique::ClearWax, vec![]),
    ]);
    for start in [waxed(), waxed_glaze] {
        assert!(said(&start).iter().all(|advice| advice.severity < Severity::Fails));
        for trouble in Defect::ALL {
            for way in ways(&start, trouble) {
                let found = said(&board(done(&start, &way)));
                let fails = found.iter().find(|advice| advice.severity == Severity::Fails);
                assert_eq!(fails, None, "{:?}", way.way);
            }
        }
    }
}

#[test]
fn each_trouble_has_a_way_back() {
    let mut loud = Layer::new(Technique::DryBrush, pot(&[(OXBLOOD, 1)]));
    loud.hand.load = Load::new(2.0).unwrap();
    let glaze = Layer::new(Technique::GlazeWiped, pot(&[(BROWN, 1), (GLAZING_LIQUID, 4)]));
    let boards = [
        (Defect::TooBright, board(vec![coat(CREAM, 2), loud.clone()])),
        (Defect::JumpsOut, board(vec![coat(CREAM, 2), loud])),
        (Defect::Dull, board(vec![coat(CLAY_BLUE, 2)])),
        (Defect::WashedOut, board_on(GroundKind::RedStain, vec![coat(CREAM, 1)])),
        (Defect::Lifted, board(vec![coat(CLAY_BLUE, 2), glaze])),
        (Defect::Cracked, board(vec![Layer::new(Technique::TextureCoat, pot(&[(CREAM, 1)]))])),
    ];
    for (trouble, board) in boards {
        let found = ways(&board, trouble);
        assert!(!found.is_empty() && found.len() <= 4, "{}", trouble.name());
        assert!(found.iter().all(|way| !way.changes.is_empty() && !way.way.why().is_empty()));
        assert_eq!(serde_json::to_value(trouble).unwrap(), trouble.id());
    }
}
