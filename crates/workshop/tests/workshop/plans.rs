//! Run sheets without a file: planned, ticked off to the end, among others on the bench, and what they say.

use std::collections::BTreeMap;

use jiff::{SignedDuration, Timestamp};
use proptest::prelude::*;
use uuid::Uuid;
use warm_blend_board::{Board, Ground, GroundKind, Layer, Letter, Strip, Technique};
use warm_blend_documents::Kept;
use warm_blend_mixing::{AmountAsEntered, JarSign, PourAction, PourEvent, PourRecord};
use warm_blend_paint::{Class, Look, MixId, Name, PaintId, Units};
use warm_blend_piece::{Ageing, Finish, Piece, PieceKind, Repair, Zone, ZoneFinish};
use warm_blend_plan::{Brush, BrushRack, Paces, Rates, RunSheet, Spot, WorkingHours};
use warm_blend_workshop::{
    BrushCounted, BrushesNow, ClockSet, Dab, OnTheBench, Planned, Refusal, Room, RunSheetEntry, RunSheetView,
    ShelfSnapshot, StepDone, TouchUp, WashedEntry, WhenAsked, scheme_of,
};

use crate::pile::*;

const BOARD: Uuid = Uuid::from_u128(500);
const CHEST: Uuid = Uuid::from_u128(501);
const STOOL: Uuid = Uuid::from_u128(502);

/// What is planned with: the shelf, a board, two pieces that wear it.
struct Bench {
    shelf: ShelfSnapshot,
    boards: BTreeMap<Uuid, Board>,
    pieces: [Piece; 2],
    sheets: [RunSheet; 2],
    pours: Vec<Kept<PourRecord>>,
    rack: BrushRack,
}

fn layers() -> Vec<Layer> {
    let mut base = Layer::new(Technique::BrushedCoat, components(&[(BLUE, 5), (WHITE, 1)]));
    base.hand.passes = warm_blend_board::Passes::new(2).unwrap();
    vec![
        base,
        Layer::new(Technique::DryBrush, components(&[(YELLOW, 1)])),
        Layer::new(Technique::ClearWax, Vec::new()),
        Layer::new(Technique::TintedWax, components(&[(BROWN, 1), (WAX, 9)])),
    ]
}

fn piece(name: &str, kind: PieceKind, zones: &[Zone]) -> Piece {
    let mut piece = Piece::named(Name::new(name).unwrap());
    piece.form = Some(kind.usual());
    piece.ground = Ground::of(GroundKind::RedStain);
    let mut scheme = scheme_of(&piece, None).unwrap();
    for zone in zones {
        let wears = Finish::Strip { board: BOARD, strip: Letter::ALL[0] };
        scheme.wears.insert(*zone, ZoneFinish { ageing: Ageing::default(), ..ZoneFinish::of(wears) });
    }
    piece.schemes = vec![scheme];
    piece
}

impl Bench {
    fn new(layers: Vec<Layer>) -> Self {
        let strip = Strip { letter: Letter::ALL[0], from: None, layers };
        let board =
            Board::new(Name::new("sample").unwrap(), Ground::of(GroundKind::RedStain), vec![strip]).unwrap();
        let sheet = |piece| RunSheet::new(piece, WorkingHours::usual("Europe/Vienna"));
        Self {
            shelf: pile().shelf(),
            boards: BTreeMap::from([(BOARD, board)]),
            pieces: [
                piece("chest", PieceKind::ChestOfDrawers, &[Zone::Case, Zone::Drawers]),
                piece("stool", PieceKind::Stool, &[Zone::Legs, Zone::Seat]),
            ],
            sheets: [sheet(CHEST), sheet(STOOL)],
            pours: Vec::new(),
            rack: BrushRack::default(),
        }
    }

    fn ask<R>(&self, own: Uuid, at: Timestamp, ask: impl FnOnce(&Planned) -> R) -> R {
        let room = Room { boards: &self.boards, shelf: &self.shelf, look: Look::default() };
        let paces = Paces::learned(std::iter::empty());
        let done = self.sheets.iter().flat_map(|sheet| &sheet.done);
        let unwashed = self.rack.unwashed(done, at, &|paint| self.shelf.product(paint));
        let brushes = BrushesNow { rack: self.rack.clone(), unwashed };
        let asked = WhenAsked { now: at, paces, units: Units::Metric, pours: self.pours.clone(), brushes };
        let [chest, stool] = &self.pieces;
        let bench = [
            OnTheBench { id: CHEST, piece: chest, sheet: &self.sheets[0] },
            OnTheBench { id: STOOL, piece: stool, sheet: &self.sheets[1] },
        ];
        ask(&room.plan(&bench, own, &asked).unwrap())
    }

    fn view(&self, own: Uuid, at: Timestamp) -> RunSheetView {
        self.ask(own, at, |planned| planned.view(1).unwrap())
    }

    fn tick(&mut self, at: Timestamp, step: &str) -> Result<(), Refusal> {
        let said = StepDone { step: step.to_owned(), ..StepDone::default() };
        self.sheets[0] = self.ask(CHEST, at, |planned| planned.ticked(&said, None))?.sheet;
        Ok(())
    }
}

/// A Monday morning.
fn monday() -> Timestamp {
    "2026-11-30T09:00[Europe/Vienna]".parse::<jiff::ZonedDateTime>().unwrap().timestamp()
}

fn names(view: &RunSheetView) -> Vec<String> {
    view.steps.iter().map(|step| step.name.clone()).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// Ticked off in any order that the sheet allows, it goes on from what is on the piece: what is left is what was left before without
    /// that step, its work is less by just that step's, and at the end nothing is left and the record holds every layer.
    #[test]
    fn ticked_off_to_the_end(choices in proptest::collection::vec(0usize..4, 40), late in 0i64..600) {
        let mut bench = Bench::new(layers());
        let mut at = monday();
        let mut before = bench.view(CHEST, at);
        let mut ticked = 0;
        while !before.steps.is_empty() {
            prop_assert!(ticked < choices.len(), "it ends");
            let ready: Vec<&warm_blend_workshop::StepView> = before.steps.iter().filter(|step| step.ready).collect();
            prop_assert!(!ready.is_empty(), "something can always be begun: {:?}", names(&before));
            let step = ready[choices[ticked] % ready.len()];
            let ends: Timestamp = step.ends.parse().unwrap();
            at = ends.max(at) + SignedDuration::from_mins(late);
            bench.tick(at, &step.id).unwrap();
            let after = bench.view(CHEST, at);
            let mut left: Vec<&str> = before.steps.iter().filter(|other| other.id != step.id).map(|step| step.id.as_str()).collect();
            let mut now: Vec<&str> = after.steps.iter().map(|step| step.id.as_str()).collect();
            left.sort_unstable();
            now.sort_unstable();
            prop_assert_eq!(left, now);
            prop_assert!((before.minutes - step.minutes - after.minutes).abs() < 1.0, "{} {} {}", before.minutes, step.minutes, after.minutes);
            ticked += 1;
            before = after;
        }
        prop_assert!((before.share_done - 1.0).abs() < 1e-9);
        let record = bench.ask(CHEST, at, |planned| planned.record().unwrap());
        prop_assert!(record.finished);
        for zone in &record.zones {
            // Two coats, dry brush, two waxes.
            prop_assert_eq!(zone.layers.len(), 5, "{:?}", zone);
        }
    }
}

/// Common practice: the price is what the tins, the hours and the workshop cost, over what the margin leaves. Here by hand from what the
/// sheet shows, for amounts that do not depend on it.
#[test]
fn the_price_adds_up_from_its_tins() {
    let mut bench = Bench::new(layers());
    bench.sheets[0].rates = Rates { hour: Some(40.0), overhead: Some(0.1), margin: Some(0.2) };
    let cost = bench.view(CHEST, monday()).cost;
    let priced: f64 = cost.tins.iter().filter_map(|tin| tin.cost).sum();
    assert!((priced - cost.materials).abs() < 1e-9, "{priced} {}", cost.materials);
    // The wax has no price: it is named all the same, last.
    let last = cost.tins.last().unwrap();
    assert_eq!((last.name.as_str(), last.cost), ("clear wax", None));
    // harbour costs 12 for 500 ml.
    let blue = cost.tins.iter().find(|tin| tin.name == "harbour").unwrap();
    let ml: f64 = blue.amount.trim_end_matches(" ml").parse().unwrap();
    assert!((blue.cost.unwrap() - ml * 12.0 / 500.0).abs() < 0.03, "{blue:?}");
    let by_hand = (priced + cost.hours * 40.0) * 1.1 / 0.8;
    assert!((cost.price - by_hand).abs() < 1e-6, "{} {by_hand}", cost.price);
}

#[test]
fn what_cannot_be_ticked_says_why() {
    let mut bench = Bench::new(layers());
    let view = bench.view(CHEST, monday());
    let words = |answer: Result<(), Refusal>| format!("{:?}", answer.unwrap_err());
    let last = view.steps.last().unwrap().id.clone();
    assert!(words(bench.tick(monday(), &last)).contains("first"));
    assert!(words(bench.tick(monday(), "deadbeef")).contains("no longer on the run sheet"));
    let said = |minutes: f64, at: &str| StepDone {
        step: view.steps[0].id.clone(),
        minutes: Some(minutes),
        at: Some(at.to_owned()),
        ..StepDone::default()
    };
    for (minutes, at, field) in [
        (f64::NAN, "2026-11-30T07:00:00Z", "/minutes"),
        (-3.0, "2026-11-30T07:00:00Z", "/minutes"),
        (1e9, "2026-11-30T07:00:00Z", "/minutes"),
        (10.0, "2031-01-01T00:00:00Z", "/at"),
        (10.0, "this morning", "/at"),
    ] {
        let refused =
            bench.ask(CHEST, monday(), |planned| planned.ticked(&said(minutes, at), None).map(drop));
        assert_eq!(pointers(refused), [field], "{minutes} {at}");
    }
    let clock = ClockSet { step: last, runs: true };
    assert_eq!(pointers(bench.ask(CHEST, monday(), |planned| planned.clocked(&clock).map(drop))), ["/step"]);
}

/// Only a piece that was begun takes time from another; the one that is due first comes first.
#[test]
fn what_is_begun_and_due_first_comes_first() {
    let mut bench = Bench::new(layers());
    let alone = bench.view(STOOL, monday());
    assert!(alone.elsewhere.is_empty(), "the chest is not begun");
    let first = bench.view(CHEST, monday()).steps[0].id.clone();
    bench.tick(monday(), &first).unwrap();
    let behind = bench.view(STOOL, monday());
    assert!(behind.elsewhere.iter().all(|one| one.name == "chest") && !behind.elsewhere.is_empty());
    assert!(behind.ends >= alone.ends);
    bench.pieces[1].brief.due = Some(jiff::civil::date(2026, 12, 1));
    let ahead = bench.view(STOOL, monday());
    assert_eq!(ahead.ends, alone.ends, "what is due comes first, as if it were alone");
    assert!(ahead.verdict.is_some());
}

/// Only what is left alone rests, however little work another step is; and only a coat of paint is sanded before the next.
#[test]
fn what_is_said_of_a_step_is_so() {
    let glaze = |passes: u8| {
        let mut layer = Layer::new(Technique::GlazeWiped, components(&[(BROWN, 1), (GLAZE, 4)]));
        layer.hand.passes = warm_blend_board::Passes::new(passes).unwrap();
        layer
    };
    let mut all = layers();
    all.truncate(1);
    all.push(glaze(2));
    let bench = Bench::new(all);
    for (own, at) in [(CHEST, monday()), (STOOL, monday())] {
        for step in bench.view(own, at).steps {
            assert_eq!(step.rests, step.name.starts_with("Leave for a day"), "{}", step.name);
            let sands = step.why.is_some_and(|why| why.contains("sand lightly"));
            assert_eq!(sands, step.name == "Brushed coat, 1 of 2", "{}: {:?}", step.name, step.why);
        }
    }
    let mut stained =
        Bench::new(vec![Layer::new(Technique::StainWiped, components(&[(BROWN, 1), (GLAZE, 1)]))]);
    for piece in &mut stained.pieces {
        piece.ground = Ground::of(GroundKind::MidWood);
    }
    let view = stained.view(CHEST, monday());
    let stain = view.steps.iter().find(|step| step.name == "Stain or toner, wiped").unwrap();
    assert!(stain.why.unwrap().contains("mist the wood"), "{:?}", stain.why);
    assert!(stain.wet_edge.is_some() && view.tools.iter().any(|tool| tool.name.starts_with("Mister")));
}

/// What is not known is said, and the plan goes on.
#[test]
fn what_is_taken_for_granted_is_said() {
    let bench = Bench::new(layers());
    let view = bench.view(CHEST, monday());
    let notes = view.notes.join("\n");
    assert!(notes.contains("Not in the cost, no price set: clear wax"), "{notes}");
    assert!(notes.contains("No hourly rate set"), "{notes}");
    assert!(notes.contains("The ground will bleed through"), "{notes}");
    let blue = view.shopping.iter().find(|row| row.name == "harbour").unwrap();
    assert_eq!(blue.buys, if blue.needed > 300.0 { "buy 1 × 500 ml" } else { "enough" });
    let wax = view.shopping.iter().find(|row| row.name == "clear wax").unwrap();
    assert!(wax.cost.is_none() || wax.packs == Some(0), "{wax:?}");
    let schools: Vec<&str> = view.schools.iter().map(|way| way.words).collect();
    assert!(
        schools.contains(&"Dark wax direct") && schools.contains(&"Neither: leave the colour plain"),
        "{schools:?}"
    );
    assert!(view.if_it_stays.is_empty(), "nothing was done yet");

    let sealed = Bench::new(vec![layers().remove(0), Layer::new(Technique::ClearCoat, Vec::new())]);
    let notes = sealed.view(CHEST, monday()).notes.join("\n");
    assert!(notes.contains("No clear coat on the shelf"), "{notes}");
}

/// A week with a tape on it.
#[test]
fn what_may_not_wait_for_a_week() {
    let mut bench = Bench::new(layers());
    let mut at = monday();
    for wanted in ["Remove hardware", "Clean", "Rinse", "Degloss", "Mask what stays unpainted"] {
        let view = bench.view(CHEST, at);
        let Some(step) = view.steps.iter().find(|step| step.name == wanted) else { continue };
        at = step.ends.parse::<Timestamp>().unwrap().max(at);
        bench.tick(at, &step.id).unwrap();
    }
    let view = bench.view(CHEST, at + SignedDuration::from_hours(7 * 24));
    let tape = "replace the tape: old tape tears and lifts paint";
    assert!(view.if_it_stays.contains(&tape), "{:?}", view.if_it_stays);
}

/// How the workshop works comes back as it was entered; what is done stays.
#[test]
fn hours_come_back_as_they_were_entered() {
    let mut bench = Bench::new(layers());
    let first = bench.view(CHEST, monday()).steps[0].id.clone();
    bench.tick(monday(), &first).unwrap();
    let entry = RunSheetEntry {
        helper: true,
        celsius: 16.5,
        humidity: 62.0,
        hour: Some(30.0),
        starts: Some("2026-12-03".to_owned()),
        ..bench.view(CHEST, monday()).entry
    };
    bench.sheets[0] = entry.over(bench.sheets[0].clone()).unwrap();
    assert_eq!(bench.sheets[0].done.len(), 1);
    let view = bench.view(CHEST, monday());
    assert_eq!(
        (view.entry.helper, view.entry.celsius, view.entry.humidity, view.entry.hour),
        (true, 16.5, 62.0, Some(30.0))
    );
    assert_eq!(view.entry.starts.as_deref(), Some("2026-12-02T23:00:00Z"), "midnight in Vienna");
    assert!(view.steps[0].begins.as_str() >= "2026-12-03T08:00:00Z", "{}", view.steps[0].begins);
    for (field, entry) in [
        ("/celsius", RunSheetEntry { celsius: f64::INFINITY, ..view.entry.clone() }),
        ("/humidity", RunSheetEntry { humidity: -1.0, ..view.entry.clone() }),
        ("/hour", RunSheetEntry { hour: Some(f64::NAN), ..view.entry.clone() }),
        ("/starts", RunSheetEntry { starts: Some("2026-13-40".to_owned()), ..view.entry.clone() }),
    ] {
        assert_eq!(pointers(entry.over(bench.sheets[0].clone())), [field]);
    }
}

/// Quiet neutrals find a buyer soon, vivid colours wait for theirs (common practice).
#[test]
fn who_buys_it() {
    let of = |paint: u128| {
        let mut base = Layer::new(Technique::BrushedCoat, components(&[(paint, 1)]));
        base.hand.passes = warm_blend_board::Passes::new(2).unwrap();
        let buyers = Bench::new(vec![base]).view(CHEST, monday()).cost.buyers.expect("it is painted");
        assert!(buyers.from.contains("common practice") && buyers.weight == 0.0);
        buyers.what
    };
    assert!(of(WHITE).starts_with("Quiet"), "{}", of(WHITE));
    assert!(of(YELLOW).starts_with("Vivid"), "{}", of(YELLOW));
}

/// Two coats of an expensive paint: the first may be of a cheaper one that is close in colour, or tinted to it; the tint is charged. A white
/// below a yellow is no first coat of it, however cheap.
#[test]
fn a_cheaper_first_coat_is_close_in_colour() {
    let mut base = Layer::new(Technique::BrushedCoat, components(&[(YELLOW, 1)]));
    base.hand.passes = warm_blend_board::Passes::new(2).unwrap();
    let mut bench = Bench::new(vec![base.clone()]);
    assert!(bench.view(CHEST, monday()).undercoats.is_empty(), "only white is cheaper");
    let with = |hex: &str| {
        let mut pile = pile();
        pile.tin(6, priced(paint("wall straw", Class::Chalk, hex), 10.0, 1000.0, 900.0));
        pile.shelf()
    };
    bench.shelf = with("#d0ac54");
    let view = bench.view(CHEST, monday());
    let [shown] = view.undercoats.as_slice() else { panic!("{:?}", view.undercoats) };
    assert!(shown.words.starts_with("First coat in wall straw, close to straw"), "{}", shown.words);
    // 36 a litre against 10: what the first coat takes, times the difference.
    let first = view.pots[0].ml / 2.0;
    assert!((shown.saves - first * 0.026).abs() < 0.02, "{} of {first} ml", shown.saves);
    // Farther away it is tinted with the paint itself, and saves less for it.
    bench.shelf = with("#b89a58");
    let tinted = &bench.view(CHEST, monday()).undercoats[0];
    assert!(tinted.words.contains("1 straw : 4 wall straw") && tinted.saves < shown.saves, "{tinted:?}");
    base.pot = components(&[(WHITE, 1)]);
    assert!(Bench::new(vec![base]).view(CHEST, monday()).undercoats.is_empty());
}

/// What lies on the piece is on the record whatever its scheme wants now: a zone that is bare in the new scheme keeps what was painted on
/// it, and wax that was taken off is gone from the record and from the care card.
#[test]
fn the_record_is_what_lies_on_the_piece() {
    let mut bench = Bench::new(layers());
    let mut at = monday();
    let tick_all = |bench: &mut Bench, at: &mut Timestamp| {
        for _ in 0..40 {
            let view = bench.view(CHEST, *at);
            let Some(step) = view.steps.iter().find(|step| step.ready) else { break };
            *at = step.ends.parse::<Timestamp>().unwrap().max(*at) + SignedDuration::from_hours(1);
            bench.tick(*at, &step.id).unwrap();
        }
    };
    tick_all(&mut bench, &mut at);
    let record = |bench: &Bench, at| bench.ask(CHEST, at, |planned| planned.record().unwrap());
    assert!(record(&bench, at).care.iter().any(|line| line.contains("wax white")));
    // The drawers are bare in another scheme, and the case gets a clear coat instead of its waxes.
    bench.pieces[0].schemes[0].wears.remove(&Zone::Drawers);
    let mut own = layers();
    own.truncate(2);
    own.push(Layer::new(Technique::ClearCoat, Vec::new()));
    bench.boards = Bench::new(own).boards;
    let before = bench.view(CHEST, at);
    assert!(names(&before).iter().any(|name| name == "Remove wax"), "{:?}", names(&before));
    tick_all(&mut bench, &mut at);
    let record = record(&bench, at);
    let of = |zone: &str| record.zones.iter().find(|one| one.zone == zone).expect(zone);
    let how = |zone: &str| of(zone).layers.iter().map(|layer| layer.how.as_str()).collect::<Vec<_>>();
    assert_eq!(how("Drawer fronts").len(), 5, "it still wears its old finish");
    let case = how("Case");
    assert!(case.contains(&"Clear coat") && !case.contains(&"Clear wax"), "{case:?}");
    assert!(record.care.iter().any(|line| line.contains("mild soap")), "{:?}", record.care);
}

/// Old paint is tested for lead whatever the board was made on; each zone is prepared for what the piece has there.
#[test]
fn the_ground_is_the_pieces() {
    let mut bench = Bench::new(layers());
    bench.boards.get_mut(&BOARD).unwrap().ground = Ground::of(GroundKind::WhitePrimer);
    for (ground, first) in [
        (GroundKind::OldPaint, "Test for lead"),
        (GroundKind::PaintedMetal, "Test for lead"),
        (GroundKind::OldWax, "Take the old wax off"),
        (GroundKind::Varnished, "Clean"),
    ] {
        bench.pieces[0].ground = Ground::of(ground);
        let view = bench.view(CHEST, monday());
        let prepared = view.steps.iter().find(|step| step.name != "Remove hardware").unwrap();
        assert_eq!(prepared.name, first, "{ground:?}");
    }
    // One zone has something else than the rest.
    bench.pieces[0].ground = Ground::of(GroundKind::PaleWood);
    let drawers = bench.pieces[0].schemes[0].wears.get_mut(&Zone::Drawers).unwrap();
    drawers.ground = Some(Ground::of(GroundKind::OldPaint));
    let view = bench.view(CHEST, monday());
    let test = view.steps.iter().find(|step| step.asks_lead).unwrap();
    assert_eq!(test.zones, ["Drawer fronts"]);
}

/// A board on a primed card over a ground that bleeds: the plan primes it with what the shelf has, and buys it.
#[test]
fn a_primed_card_means_a_primed_piece() {
    let mut bench = Bench::new(layers());
    bench.boards.get_mut(&BOARD).unwrap().ground = Ground::of(GroundKind::WhitePrimer);
    let mut pile = pile();
    pile.tin(7, priced(paint("blocking primer", Class::Primer, "#eceae4"), 20.0, 1000.0, 500.0));
    bench.shelf = pile.shelf();
    let primes = |bench: &Bench| bench.view(CHEST, monday()).steps.iter().any(|step| step.name == "Prime");
    assert!(primes(&bench));
    let view = bench.view(CHEST, monday());
    assert!(view.pots.iter().any(|pot| pot.words.contains("blocking primer")));
    assert!(!view.notes.iter().any(|note| note.contains("bleeds")), "{:?}", view.notes);
    bench.pieces[0].ground = Ground::of(GroundKind::PaleWood);
    assert!(!primes(&bench), "pale wood takes it as it is");
    // A board that was made on the stain itself is painted as it was made.
    bench.pieces[0].ground = Ground::of(GroundKind::RedStain);
    bench.boards.get_mut(&BOARD).unwrap().ground = Ground::of(GroundKind::RedStain);
    assert!(!primes(&bench));
    // A primer that its tin says blocks nothing is none.
    let mut pile = crate::pile::pile();
    let mut weak = priced(paint("wall primer", Class::Primer, "#eceae4"), 20.0, 1000.0, 500.0);
    weak.specials.blocks_stains = Some(false);
    pile.tin(7, weak);
    bench.shelf = pile.shelf();
    bench.boards.get_mut(&BOARD).unwrap().ground = Ground::of(GroundKind::WhitePrimer);
    assert!(!primes(&bench));
}

/// An hour that was typed with its offset is kept.
#[test]
fn a_start_keeps_its_hour() {
    let bench = Bench::new(layers());
    let entry = bench.view(CHEST, monday()).entry;
    let starts = |text: &str| {
        let entry = RunSheetEntry { starts: Some(text.to_owned()), ..entry.clone() };
        entry.over(bench.sheets[0].clone()).unwrap().starts.unwrap().to_string()
    };
    assert_eq!(starts("2026-12-03T10:30:00+01:00"), "2026-12-03T09:30:00Z");
    assert_eq!(starts("2026-12-03T10:30:00Z"), "2026-12-03T10:30:00Z");
    assert_eq!(starts("2026-12-03"), "2026-12-02T23:00:00Z", "midnight in Vienna");
}

/// Hours, days and prices are as sure as the painter's pace: learned steps narrow them.
#[test]
fn ranges_come_from_the_pace() {
    let bench = Bench::new(layers());
    let view = bench.view(CHEST, monday());
    let ready = view.ready_between.clone().unwrap();
    let (first, last) = (ready.first, ready.last);
    assert!(first <= view.ends.clone().unwrap() && view.ends.clone().unwrap() <= last, "{first} {last}");
    let words = view.work_left.unwrap();
    assert!(words.contains(" to ") && words.ends_with(" h"), "{words}");
    let warm_blend_workshop::PriceBetween { least, most } = view.cost.price_between;
    assert!(least <= view.cost.price && view.cost.price <= most);
}

/// Tape only where paint stops at what stays as it is; between two colours only for a painter who tapes rather than cuts in.
#[test]
fn tape_where_paint_stops() {
    let mut bench = Bench::new(layers());
    let taped =
        |bench: &Bench| bench.view(CHEST, monday()).steps.iter().any(|step| step.name.starts_with("Mask"));
    assert!(taped(&bench), "the top stays bare");
    let wears = bench.pieces[0].schemes[0].wears[&Zone::Case].clone();
    for zone in [Zone::Top, Zone::Plinth, Zone::Legs, Zone::Mouldings, Zone::Cornice, Zone::Panels] {
        bench.pieces[0].schemes[0].wears.insert(zone, wears.clone());
    }
    assert!(!taped(&bench), "one finish all over, and knobs come off");
    let band = warm_blend_piece::Band { pot: components(&[(WHITE, 1)]), at: 0.0 };
    let other = warm_blend_piece::Band { pot: components(&[(YELLOW, 1)]), at: 1.0 };
    let blend = Finish::Blend { way: warm_blend_piece::BlendDirection::Down, bands: vec![band, other] };
    bench.pieces[0].schemes[0].wears.insert(Zone::Drawers, ZoneFinish::of(blend));
    assert!(!taped(&bench), "cut in by brush");
    bench.sheets[0].tapes_colours = true;
    assert!(taped(&bench));
}

/// The more a case is carved, the more paint and the more time it takes: all over about twice as long as flat (common practice).
#[test]
fn carving_takes_time_and_paint() {
    let mut bench = Bench::new(layers());
    let mut carved = |carving| {
        for zone in [Zone::Case, Zone::Drawers, Zone::Sides] {
            let correction = warm_blend_piece::AreaCorrection { carved: Some(carving), ..Default::default() };
            bench.pieces[0].corrections.insert(zone, correction);
        }
        let view = bench.view(CHEST, monday());
        (view.minutes, view.pots[0].ml)
    };
    let (flat, all_over) =
        (carved(warm_blend_piece::Carving::Flat), carved(warm_blend_piece::Carving::AllOver));
    assert!((1.6..2.2).contains(&(all_over.0 / flat.0)), "{all_over:?} {flat:?}");
    assert!(all_over.1 > 1.2 * flat.1, "{all_over:?} {flat:?}");
}

/// Each other school is planned as if its layers lay on the board: the same hours, to the minute.
#[test]
fn another_school_costs_what_its_own_board_would() {
    let bench = Bench::new(layers());
    let view = bench.view(CHEST, monday());
    let straight = view.schools.iter().find(|way| way.words == "Dark wax direct").unwrap();
    let mut own = layers();
    own.remove(2);
    let there = Bench::new(own).view(CHEST, monday());
    assert!(
        (view.minutes + straight.minutes - there.minutes).abs() < 0.1,
        "{} {} {}",
        view.minutes,
        straight.minutes,
        there.minutes
    );
    assert_eq!(Some(&straight.ends), there.ends.as_ref());
}

/// Amounts in drops, and the tins they are of.
fn counted(dab: &Dab) -> Vec<(f64, String)> {
    let one = |words: &String| {
        let (count, of) = words.split_once(' ').unwrap();
        (count.parse().unwrap(), of.split_once(' ').unwrap().1.to_owned())
    };
    dab.drops.iter().map(one).collect()
}

/// The chest with everything ticked off, and how a spot of it is mended.
fn mended(layers: Vec<Layer>, pours: &[Kept<PourRecord>], spot: Spot) -> TouchUp {
    let mut bench = Bench { pours: pours.to_vec(), ..Bench::new(layers) };
    let mut at = monday();
    while let Some(step) = bench.view(CHEST, at).steps.into_iter().find(|step| step.ready) {
        at = step.ends.parse::<Timestamp>().unwrap().max(at) + SignedDuration::from_mins(5);
        bench.tick(at, &step.id).unwrap();
    }
    bench.ask(CHEST, at, |planned| planned.touch_up(spot).unwrap())
}

/// The layers of the part in their order, each drying before the next; what is mixed anew says how far off it may be.
#[test]
fn a_chip_is_mended_layer_by_layer() {
    let chip = mended(layers(), &[], Spot::Chip);
    let names: Vec<&str> = chip.parts.iter().map(|part| part.name).collect();
    // The sides wear what the front wears.
    assert_eq!(names, ["Case", "Sides", "Drawer fronts"]);
    let dabs = &chip.parts[0].dabs;
    let painted: Vec<&Dab> = dabs.iter().filter(|dab| dab.amount.is_some()).collect();
    // Two coats, dry brush, clear wax, tinted wax; wax last.
    assert_eq!(painted.len(), 5, "{dabs:#?}");
    assert!(painted[4].how.to_lowercase().contains("wax"));
    let drops = ["5 drops harbour", "1 drop chimney white"];
    assert_eq!(
        (painted[0].drops.as_slice(), painted[1].drops.as_slice()),
        (&drops.map(String::from)[..], &drops.map(String::from)[..])
    );
    assert!(painted[0].within.is_some_and(|within| within > 0.5) && painted[0].jar.is_none());
    assert!(painted[0].dries.is_some() && dabs.last().unwrap().dries.is_none());
    // A palm takes 25 times as much.
    let palm = mended(layers(), &[], Spot::Palm);
    let all = |touch: &TouchUp| {
        counted(touch.parts[0].dabs.iter().find(|dab| dab.amount.is_some()).unwrap())
            .iter()
            .map(|(n, _)| n)
            .sum::<f64>()
    };
    assert_eq!((all(&chip), all(&palm) > 12.0), (6.0, true));
}

/// A pot of blue and white.
fn pot(n: u128, amounts: &[(u128, f64)], finished: bool) -> Kept<PourRecord> {
    let mut record = PourRecord::begin(MixId(id(50)), &mix(&[(BLUE, 5), (WHITE, 1)]), Some(100.0)).unwrap();
    for (k, (paint, ml)) in amounts.iter().enumerate() {
        let said = AmountAsEntered::Weighed(*ml);
        let action = PourAction::Added { paint: PaintId(id(*paint)), ml: *ml, said };
        record = record.with(PourEvent { id: id(10 * n + k as u128), at: monday(), action }).unwrap();
    }
    if finished {
        record = record.finished(monday()).unwrap();
    }
    Kept { id: id(n), revision: 1, removed: false, made_at: monday(), changed_at: monday(), value: record }
}

/// What is left of such a pot, in a jar.
fn jar(n: u128, ml: f64, client: Option<&str>, signs: &[JarSign]) -> Kept<PourRecord> {
    let Kept { value, .. } = pot(n, &[(BLUE, 500.0), (WHITE, 100.0)], true);
    let value = value.in_jar(ml, monday()).unwrap();
    let client = client.map(|name| Name::new(name).unwrap());
    let value = value.with_jar(|jar| (jar.client, jar.signs) = (client, signs.to_vec())).unwrap();
    Kept { value, ..pot(n, &[], false) }
}

/// Repairs are steps of their own where they belong, with their cautions and tools, and wait until glue and filler are hard.
#[test]
fn repairs_are_planned() {
    let mut bench = Bench::new(layers());
    bench.pieces[0].repairs =
        BTreeMap::from([(Zone::Case, [Repair::Strip, Repair::LooseVeneer, Repair::Fill].into())]);
    let view = bench.view(CHEST, monday());
    let at = |name: &str| {
        view.steps
            .iter()
            .position(|step| step.name == name)
            .unwrap_or_else(|| panic!("{name}: {:?}", names(&view)))
    };
    let order = [
        "Test for lead",
        "Strip the old finish",
        "Glue down loose veneer",
        "Fill dents and holes",
        "Sand the filler flush",
        "Scuff-sand",
    ];
    assert!(order.map(at).is_sorted(), "{:?}", names(&view));
    let words =
        |name: &str| view.steps[at(name)].care.iter().map(|care| care.words).collect::<Vec<_>>().join(" ");
    assert!(
        words("Strip the old finish").contains("lead") && words("Strip the old finish").contains("solvent")
    );
    assert!(words("Sand the filler flush").to_lowercase().contains("dust"));
    let tools: Vec<&str> = view.tools.iter().map(|tool| tool.name).collect();
    assert!(
        tools.iter().any(|name| name.contains("clamps"))
            && tools.iter().any(|name| name.contains("Stripper"))
    );
    let minutes = |one: &str, next: &str| {
        let time = |text: &str| text.parse::<Timestamp>().unwrap();
        time(&view.steps[at(next)].begins).duration_since(time(&view.steps[at(one)].ends)).as_mins()
    };
    // Common practice: glue overnight, filler two hours.
    assert!(minutes("Glue down loose veneer", "Fill dents and holes") >= 12 * 60);
    assert!(minutes("Fill dents and holes", "Sand the filler flush") >= 120);
    // The drawers are not stripped, and keep their gloss to be dulled.
    assert!(at("Degloss") > 0);

    let mut at = monday();
    let mut ticked = Vec::new();
    while let Some(step) = bench.view(CHEST, at).steps.into_iter().find(|step| step.ready) {
        at = step.ends.parse::<Timestamp>().unwrap().max(at) + SignedDuration::from_mins(5);
        bench.tick(at, &step.id).unwrap();
        ticked.push(step.name);
    }
    assert_eq!(ticked.iter().filter(|name| *name == "Strip the old finish").count(), 1, "{ticked:?}");
}

/// What stands in jars is used before anything is mixed: the pot, and the tins it takes, are less by just that. Jars of other clients stay,
/// and so does what stood in frost; the price is the same.
#[test]
fn jars_are_used_first() {
    let without = Bench::new(layers()).view(CHEST, monday());
    let with = |pours: Vec<Kept<PourRecord>>| {
        let mut bench = Bench { pours, ..Bench::new(layers()) };
        bench.pieces[0].brief.client = Some(Name::new("Ina Holm").unwrap());
        bench.view(CHEST, monday())
    };
    let needed =
        |view: &RunSheetView, name: &str| view.shopping.iter().find(|row| row.name == name).unwrap().needed;
    let blue = &without.pots.iter().find(|pot| pot.words == "5 harbour : 1 chimney white").unwrap();
    assert!((blue.jars.len(), blue.to_mix_ml) == (0, blue.ml) && blue.ml > 130.0, "{blue:?}");

    let some = with(vec![
        jar(700, 90.0, None, &[]),
        jar(701, 30.0, Some("Ina Holm"), &[JarSign::LooseLid]),
        jar(702, 400.0, Some("Somebody else"), &[]),
        jar(703, 400.0, None, &[JarSign::Frost]),
        pot(704, &[(BLUE, 500.0), (WHITE, 100.0)], true),
    ]);
    let now = some.pots.iter().find(|pot| pot.words == blue.words).unwrap();
    let used: Vec<(Uuid, f64)> = now.jars.iter().map(|jar| (jar.pour, jar.ml)).collect();
    assert_eq!(used, [(id(700), 90.0), (id(701), 30.0)]);
    assert!((now.to_mix_ml - (blue.ml - 120.0)).abs() < 1e-9 && now.ml == blue.ml);
    // 120 ml at five to one.
    for (tin, less) in [("harbour", 100.0), ("chimney white", 20.0)] {
        assert!((needed(&without, tin) - needed(&some, tin) - less).abs() < 1e-9, "{tin}");
    }
    assert_eq!(some.cost.price, without.cost.price);

    let all = with(vec![jar(700, 590.0, None, &[])]);
    let now = all.pots.iter().find(|pot| pot.words == blue.words).unwrap();
    assert_eq!((now.to_mix_ml, &now.to_mix, now.amounts.len()), (0.0, &None, 0));
    assert!((now.jars[0].ml - blue.ml).abs() < 1e-9);
}

/// For a spot, the jar that is most likely to be good comes first, if there is enough in it; a spoiled one is not offered.
#[test]
fn a_spot_is_mended_from_the_best_jar() {
    let first = |pours: &[Kept<PourRecord>]| {
        let touch = mended(layers(), pours, Spot::Palm);
        touch.parts.into_iter().next().unwrap().dabs.into_iter().find_map(|dab| dab.jar)
    };
    let (good, skin) = (jar(700, 40.0, None, &[]), jar(701, 40.0, None, &[JarSign::Skin]));
    let (sour, little) = (jar(702, 40.0, None, &[JarSign::Smell]), jar(703, 0.05, None, &[]));
    let best = first(&[good, skin.clone(), sour.clone(), little.clone()]).unwrap();
    assert_eq!((best.pour, best.left.as_deref(), best.advice), (id(700), Some("40 ml"), None));
    let next = first(&[skin, sour.clone(), little.clone()]).unwrap();
    assert!(next.pour == id(701) && next.advice.is_some_and(|advice| advice.contains("skin")));
    assert!(first(&[sour, little]).is_none());
}

/// A finished pot of the same recipe is named instead, the latest first; one that is still open or of another recipe is not.
#[test]
fn the_pot_it_was_painted_from_comes_first() {
    let pours = [
        pot(600, &[(BLUE, 100.0), (WHITE, 20.0)], true),
        pot(601, &[(BLUE, 50.0), (WHITE, 10.2)], true),
        pot(602, &[(BLUE, 50.0), (WHITE, 30.0)], true),
        pot(603, &[(BLUE, 50.0), (WHITE, 10.0)], false),
    ];
    let touch = mended(layers(), &pours, Spot::Chip);
    let first = touch.parts[0].dabs.iter().find(|dab| dab.amount.is_some()).unwrap();
    assert_eq!(first.jar.as_ref().unwrap().pour, id(601), "{first:?}");
    assert_eq!(first.within, None);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(12))]

    /// Drops keep the ratio of the pot exactly, and there is enough for the spot but not a whole measure more.
    #[test]
    fn drops_keep_the_ratio(blue in 1u32..9, white in 1u32..9, palm: bool) {
        let mut layers = layers();
        layers[0].pot = components(&[(BLUE, blue), (WHITE, white)]);
        let touch = mended(layers, &[], if palm { Spot::Palm } else { Spot::Chip });
        let first = touch.parts[0].dabs.iter().find(|dab| dab.amount.is_some()).unwrap();
        let counted = counted(first);
        prop_assert_eq!(counted[0].0 * f64::from(white), counted[1].0 * f64::from(blue));
        // A drop is a twentieth of a millilitre (common practice).
        let ml = (counted[0].0 + counted[1].0) / 20.0;
        let amount = first.amount.as_ref().unwrap();
        prop_assert_eq!(amount == "less than a drop", !palm, "{}", amount);
        let needed: f64 = amount.trim_end_matches(" ml").parse().unwrap_or(0.05);
        let measure = f64::from(blue + white) / 20.0;
        prop_assert!(ml >= needed - 0.05 && ml < needed + measure + 0.05, "{} {}", ml, needed);
    }
}

/// Brass handles that stay brass have steps of their own beside the piece: off, soaked over night, rinsed, polished, on again when the
/// paint is dry; what is asked of a drawer front is not asked of them.
#[test]
fn hardware_has_its_own_steps() {
    let mut bench = Bench::new(layers());
    bench.pieces[0].repairs = BTreeMap::from([
        (Zone::Hardware, [Repair::Soak, Repair::Polish, Repair::Fill].into()),
        (Zone::Drawers, [Repair::NewPulls, Repair::Bleeds].into()),
    ]);
    let view = bench.view(CHEST, monday());
    let at = |name: &str| {
        let found = view.steps.iter().position(|step| step.name == name);
        found.unwrap_or_else(|| panic!("{name}: {:?}", names(&view)))
    };
    let order = ["Remove hardware", "Soak the hardware", "Polish the hardware", "Refit hardware"];
    assert!(order.map(at).is_sorted(), "{:?}", names(&view));
    for alone in ["Soak the hardware", "Polish the hardware"] {
        assert_eq!(view.steps[at(alone)].zones, ["Hardware"]);
    }
    let day = |name: &str| view.steps[at(name)].begins.split_once('T').unwrap().0.to_owned();
    assert!(day("Polish the hardware") > day("Soak the hardware"), "it soaks over night");
    let drawers = [
        "Fill dents and holes",
        "Sand the filler flush",
        "Drill for the new pulls",
        "Block knots and stains",
    ];
    assert!(drawers.map(at).is_sorted(), "{:?}", names(&view));
    assert!(drawers.iter().all(|name| view.steps[at(name)].zones == ["Drawer fronts"]), "{:?}", names(&view));
    assert!(at("Block knots and stains") < view.steps.iter().position(|step| step.pot.is_some()).unwrap());
}

/// Each day lists its brushes, one for each colour; with one flat brush it says what to wash out in between, and with no dry brush that one
/// is missing. What was used is to be washed by a time, until it is.
#[test]
fn brushes_are_listed_by_day() {
    let mut two_coats = layers();
    two_coats.insert(1, Layer::new(Technique::BrushedCoat, components(&[(BROWN, 1)])));
    let mut bench = Bench::new(two_coats);
    let view = bench.view(CHEST, monday());
    assert!(view.brushes.days.iter().all(|day| day.needs.iter().all(|need| need.notes.is_empty())));
    let flats = |view: &RunSheetView| -> Vec<usize> {
        let needs = view.brushes.days.iter().flat_map(|day| &day.needs);
        needs.filter(|need| need.brush == Brush::Flat).map(|need| need.colours.len()).collect()
    };
    assert!(flats(&view).contains(&2), "two colours on one day");
    for brush in Brush::ALL {
        let counted =
            BrushCounted { brush: *brush, good: f64::from(u8::from(*brush == Brush::Flat)), worn: 0.0 };
        bench.rack = counted.over(bench.rack).unwrap();
    }
    let few = bench.view(CHEST, monday());
    assert_eq!(flats(&few), flats(&view), "as many colours as before");
    for need in few.brushes.days.iter().flat_map(|day| &day.needs) {
        let notes = need.notes.join(" ");
        match need.brush {
            Brush::Flat => assert_eq!(need.colours.len() > 1, notes.contains("wash out"), "{notes}"),
            _ => assert!(notes.contains("missing"), "{notes}"),
        }
    }
    let many = BrushCounted { brush: Brush::Wax, good: 100.0, worn: 0.0 }.over(bench.rack.clone());
    assert!(format!("{:?}", many.unwrap_err()).contains("at most 99"));

    // The first coat was brushed at nine.
    let coat = few.steps.iter().find(|step| step.pot.is_some()).unwrap().name.clone();
    let mut now = monday();
    while bench.sheets[0].done.iter().all(|done| done.work.layers().is_empty()) {
        let view = bench.view(CHEST, now);
        let next = view.steps.iter().find(|step| step.ready).unwrap().id.clone();
        bench.tick(now, &next).unwrap();
        now += SignedDuration::from_hours(1);
    }
    let soon = bench.view(CHEST, now);
    let [unwashed] = soon.brushes.unwashed.as_slice() else { panic!("{:?}", soon.brushes.unwashed) };
    assert!(!unwashed.late && unwashed.with.contains("water") && coat.starts_with("Brushed coat"));
    let late = bench.view(CHEST, now + SignedDuration::from_hours(9));
    assert!(late.brushes.unwashed[0].late);
    bench.rack = unwashed.mark.over(bench.rack.clone()).unwrap();
    assert!(bench.view(CHEST, now).brushes.unwashed.is_empty());
    let wrong = WashedEntry { used: "yesterday".to_owned(), ..unwashed.mark.clone() };
    assert!(wrong.over(BrushRack::default()).is_err());
}
