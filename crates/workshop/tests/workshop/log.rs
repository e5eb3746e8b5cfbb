//! What documents tell the log, and how a page of it reads.

use std::collections::HashMap;
use std::ops::ControlFlow;

use jiff::{SignedDuration, Timestamp, tz::TimeZone};
use proptest::prelude::*;
use uuid::Uuid;
use warm_blend_board::{Application, Passes, Technique};
use warm_blend_documents::{
    Document, KeptLine, LogKind, LogLine, LogNote, LoggedPot, Names, finds, folded, log_of,
};
use warm_blend_learn::ShelfPaint;
use warm_blend_mixing::{AmountAsEntered, PourAction, PourEvent, PourRecord};
use warm_blend_paint::{
    Class, Colour, Look, MixId, MixPart, Name, Note, PaintId, Parts, Product, SavedMix, Units, WholeParts,
};
use warm_blend_piece::{Age, Zone};
use warm_blend_plan::{Done, LayerWork, RunSheet, Work, WorkingHours};
use warm_blend_spectral::Lab;
use warm_blend_workshop::{LogAsked, LogNoteEntry, Refusal, ShelfSnapshot};

use crate::pile::{BLUE, WHITE, paint, pile, priced};

const SLATE: Uuid = Uuid::from_u128(1);
const BARLEY: Uuid = Uuid::from_u128(2);
const PRIMER: Uuid = Uuid::from_u128(3);
const GONE: Uuid = Uuid::from_u128(99);

struct Known;

impl Names for Known {
    fn name(&self, of: Uuid) -> Option<String> {
        let known = [(SLATE, "slate blue"), (BARLEY, "barley"), (PRIMER, "blocking primer")];
        known.iter().find(|(id, _)| *id == of).map(|(_, name)| (*name).to_owned())
    }

    fn class(&self, of: PaintId) -> Option<Class> {
        Some(if of.0 == PRIMER { Class::Primer } else { Class::Chalk })
    }
}

fn lines_of<T: Document>(value: &T) -> Vec<LogLine> {
    let id = Uuid::from_u128(1000);
    let lines = value.log(id, &Known);
    // From the file it tells the same.
    assert_eq!(log_of(T::KIND, id, &serde_json::to_string(value).unwrap(), &Known).unwrap(), lines);
    lines
}

/// What is said of a field; nothing where it is not refused.
fn about(refusal: &Refusal, pointer: &str) -> String {
    let Refusal::Faults(faults) = refusal else { return String::new() };
    faults.iter().filter(|fault| fault.pointer == pointer).map(|fault| fault.detail.clone()).collect()
}

fn name(text: &str) -> Name {
    Name::new(text).unwrap()
}

fn parts(of: &[(Uuid, u32)]) -> Vec<MixPart> {
    let part = |(paint, parts): &(Uuid, u32)| MixPart {
        paint: PaintId(*paint),
        parts: WholeParts::new(*parts).unwrap(),
    };
    of.iter().map(part).collect()
}

#[test]
fn a_mix_tells_its_parts_and_an_empty_one_nothing() {
    let mix =
        |named: Option<&str>, of: &[(Uuid, u32)]| SavedMix::new(named.map(name), parts(of), None).unwrap();
    let words = |mix: &SavedMix| lines_of(mix).into_iter().map(|line| line.words).collect::<Vec<_>>();
    assert_eq!(
        words(&mix(Some("drift"), &[(SLATE, 5), (BARLEY, 1)])),
        ["Mixed “drift”: 5 slate blue : 1 barley"]
    );
    assert_eq!(words(&mix(None, &[(SLATE, 3)])), ["Mixed slate blue"]);
    assert_eq!(words(&mix(None, &[(SLATE, 1), (GONE, 2)])), ["Mixed 1 slate blue : 2 a deleted paint"]);
    assert_eq!(words(&mix(Some("empty"), &[])), [""; 0]);
    let tin = ShelfPaint::new(name("fern"), Class::Chalk, None);
    assert_eq!(lines_of(&tin)[0].words, "New on the shelf: fern");
}

/// A pot tells what is in it, also after some was taken out again, at the time of its last addition, then of when it was finished.
#[test]
fn a_pour_tells_what_is_in_the_pot() {
    let at = |minutes: i64| {
        "2026-11-02T09:00:00Z".parse::<Timestamp>().unwrap() + SignedDuration::from_mins(minutes)
    };
    let mix = SavedMix::new(Some(name("drift")), parts(&[(SLATE, 5), (BARLEY, 1)]), None).unwrap();
    let mut pour = PourRecord::begin(MixId(Uuid::from_u128(7)), &mix, Some(240.0)).unwrap();
    assert_eq!(lines_of(&pour), [], "nothing is in it yet");
    let step = |n: u128, at: Timestamp, action: PourAction| PourEvent { id: Uuid::from_u128(n), at, action };
    let added =
        |paint: Uuid, ml: f64| PourAction::Added { paint: PaintId(paint), ml, said: AmountAsEntered::Touch };
    pour = pour.with(step(1, at(0), added(SLATE, 200.0))).unwrap();
    pour = pour.with(step(2, at(5), added(BARLEY, 40.0))).unwrap();
    let open = &lines_of(&pour)[0];
    assert_eq!(
        (open.words.as_str(), open.detail.as_str()),
        ("Pouring 240 ml of “drift”", "200 ml slate blue, 40 ml barley")
    );
    assert_eq!((open.at, open.mix), (Some(at(5)), Some(Uuid::from_u128(7))));
    pour = pour.with(step(3, at(9), PourAction::TakenOut { ml: 120.0 })).unwrap();
    let closed = &lines_of(&pour.finished(at(20)).unwrap())[0];
    assert_eq!(closed.words, "Poured 120 ml of “drift”");
    assert_eq!(closed.at, Some(at(20)));
    let shares: f64 = closed.pot.iter().map(|(_, parts)| parts.value()).sum();
    assert!((shares - 100.0).abs() < 1e-9, "in percent: {shares}");
}

/// Every step that was ticked off is a line of its own, with where, how long and what was noted.
#[test]
fn a_run_sheet_tells_its_steps() {
    let mut sheet = RunSheet::new(Uuid::from_u128(50), WorkingHours::usual("UTC"));
    let layer = |technique: Technique, of: &[(Uuid, u32)], passes: u8| LayerWork {
        technique,
        pot: parts(of),
        hand: Application { passes: Passes::new(passes).unwrap(), ..Application::default() },
        into_wet: false,
    };
    let chalk = |_: PaintId| Some(Product::from(Class::Chalk));
    let coats: Vec<Work> = layer(Technique::BrushedCoat, &[(SLATE, 5), (BARLEY, 1)], 2)
        .coats(&chalk)
        .into_iter()
        .map(Work::Layer)
        .collect();
    let prime = layer(Technique::BrushedCoat, &[(PRIMER, 1)], 1)
        .coats(&chalk)
        .into_iter()
        .map(Work::Layer)
        .next()
        .unwrap();
    for (work, minutes, note) in [
        (Work::HardwareOff, None, ""),
        (prime, Some(80.4), ""),
        (coats[1].clone(), Some(118.0), "took for ever"),
        (Work::Age(Age::Grime), None, ""),
    ] {
        let at = "2026-11-02T09:00:00Z".parse().unwrap();
        let (zones, note) = (vec![Zone::Case, Zone::Legs], Note::new(note).unwrap());
        sheet.done.push(Done {
            work,
            zones,
            at,
            minutes,
            usual: 60.0,
            note,
            photo: None,
            by: None,
            from_jars: Vec::new(),
        });
    }
    let lines = lines_of(&sheet);
    let words: Vec<&str> = lines.iter().map(|line| line.words.as_str()).collect();
    assert_eq!(
        words,
        [
            "Remove hardware",
            "Prime in blocking primer",
            "Brushed coat, 2 of 2 in 5 slate blue : 1 barley",
            "Ageing: grime"
        ]
    );
    assert_eq!(lines[1].detail, "case, legs; took 80 min");
    assert_eq!(lines[2].detail, "case, legs; took 118 min; “took for ever”");
    assert!(lines.iter().all(|line| line.piece == Some(Uuid::from_u128(50)) && line.at.is_some()));
}

#[test]
fn a_note_is_a_note_a_photo_or_an_agreement() {
    let now: Timestamp = "2026-11-02T09:00:00Z".parse().unwrap();
    let of = |entry: LogNoteEntry| entry.parse(now);
    let words = |text: &str| Some(text.to_owned());
    let line = |entry: LogNoteEntry| lines_of::<LogNote>(&of(entry).unwrap()).remove(0);
    let plain = line(LogNoteEntry { words: words(" Dries dark. "), ..LogNoteEntry::default() });
    assert_eq!((plain.kind, plain.words.as_str(), plain.at), (LogKind::Note, "Dries dark.", Some(now)));
    let photo = line(LogNoteEntry { photo: Some(SLATE), ..LogNoteEntry::default() });
    assert_eq!((photo.kind, photo.words.as_str(), photo.photo), (LogKind::Note, "Photo", Some(SLATE)));
    let agreed =
        LogNoteEntry { agreed: words("pale trim"), words: words("by telephone"), ..LogNoteEntry::default() };
    let agreed = line(agreed);
    assert_eq!(
        (agreed.kind, agreed.words.as_str(), agreed.detail.as_str()),
        (LogKind::Agreed, "Agreed on “pale trim”", "by telephone")
    );

    let nothing = of(LogNoteEntry::default()).unwrap_err();
    assert!(about(&nothing, "/words").contains("the note is empty"));
    let later =
        LogNoteEntry { words: words("x"), at: words("2026-11-02T09:00:01Z"), ..LogNoteEntry::default() };
    assert!(about(&of(later).unwrap_err(), "/at").contains("in the future"));
    let when = LogNoteEntry { words: words("x"), at: words("last week"), ..LogNoteEntry::default() };
    assert!(about(&of(when).unwrap_err(), "/at").contains("use"));
}

fn line(id: i64, at: Timestamp, kind: LogKind, piece: Option<Uuid>) -> KeptLine {
    KeptLine {
        id,
        document: Uuid::from_u128(id as u128),
        kind,
        at,
        words: format!("line {id}"),
        detail: String::new(),
        piece,
        pot: Vec::new(),
        mix: None,
        board: None,
        photo: None,
        removed: false,
        by: None,
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    /// A page holds each line once, in its order, under its day on the clock; groups are of one kind on one piece and one day, and only
    /// those of more than three have a title.
    #[test]
    fn a_page_tells_every_line_once(lines in proptest::collection::vec((0i64..400, 0usize..4, proptest::option::of(0u128..3)), 0..60)) {
        let zone = TimeZone::get("America/New_York").unwrap();
        let start: Timestamp = "2026-10-25T04:00:00Z".parse().unwrap();
        let mut lines: Vec<KeptLine> = (0i64..).zip(lines).map(|(id, (hours, kind, piece))| {
            let at = start + SignedDuration::from_hours(hours);
            line(id, at, LogKind::ALL[kind], piece.map(Uuid::from_u128))
        }).collect();
        lines.sort_by_key(|line| std::cmp::Reverse((line.at, line.id)));
        let pieces: HashMap<Uuid, String> = (0u128..2).map(|n| (Uuid::from_u128(n), format!("piece {n}"))).collect();
        let shelf = pile().shelf();
        let page = shelf.log_page(lines.clone(), None, &pieces, (&zone, Look::default(), Units::Metric)).unwrap();
        let entries: Vec<(i64, &str)> = page.days.iter().flat_map(|day| day.groups.iter().flat_map(move |group| {
            group.entries.iter().map(move |entry| (entry.id, day.day.as_str()))
        })).collect();
        prop_assert_eq!(entries.len(), lines.len());
        for ((id, day), line) in entries.iter().zip(&lines) {
            prop_assert_eq!(*id, line.id);
            prop_assert_eq!(*day, line.at.to_zoned_datetime(zone.clone()).date().to_string());
        }
        prop_assert!(page.days.windows(2).all(|two| two[0].day > two[1].day));
        for group in page.days.iter().flat_map(|day| &day.groups) {
            let first = &group.entries[0];
            prop_assert!(group.entries.iter().all(|entry| entry.kind == first.kind && entry.piece == first.piece));
            prop_assert_eq!(group.title.is_some(), group.entries.len() > 3);
        }
    }

    /// Folding a folded text changes nothing, and every text is found by each of its words and by their beginnings.
    #[test]
    fn a_text_is_found_by_its_own_words(text in "[\\PC]{0,40}") {
        let words = folded(&text);
        prop_assert_eq!(&folded(&words.join(" ")), &words);
        for word in &words {
            prop_assert!(finds(std::slice::from_ref(word), &text));
            let begins: String = word.chars().take(2).collect();
            prop_assert!(finds(&[begins], &text));
        }
    }

    /// Whatever is asked, it is a question or says which field is wrong.
    #[test]
    fn any_question_is_read_or_refused(search in "\\PC{0,30}", kinds in "[a-z,-]{0,20}", from in "[0-9-]{0,12}") {
        let asked = LogAsked { search: Some(search), kinds: Some(kinds), from: Some(from), ..LogAsked::default() };
        if let Err(refused) = asked.read(&TimeZone::UTC) {
            prop_assert!(!about(&refused, "?kinds").is_empty() || !about(&refused, "?from").is_empty());
        }
    }
}

/// A pot whose parts are no longer whole is made again in whole parts that come to within two hundredths.
#[test]
fn a_pot_as_it_was_poured_is_made_again() {
    let shelf = pile().shelf();
    let tins: Vec<Uuid> =
        shelf.tins().filter(|tin| tin.value.class.makes_colours()).map(|tin| tin.id).collect();
    let pot =
        vec![(PaintId(tins[0]), Parts::new(83.1).unwrap()), (PaintId(tins[1]), Parts::new(16.9).unwrap())];
    let poured = KeptLine { pot, ..line(1, Timestamp::UNIX_EPOCH, LogKind::Pour, None) };
    let made = shelf.make_again(&poured, Look::default()).unwrap();
    let share = f64::from(made.then[0].parts.value())
        / f64::from(made.then.iter().map(|part| part.parts.value()).sum::<u32>());
    assert!((share - 0.831).abs() < 0.01, "{:?}", made.then);
    assert!(made.same && made.missing.is_empty() && made.recipe == made.then);
    assert_eq!(made.like_from, "from what is known of its paints today");
    let nothing = line(2, Timestamp::UNIX_EPOCH, LogKind::Note, None);
    assert!(shelf.make_again(&nothing, Look::default()).is_err());
}

/// Where a tin is used up, what is poured instead is what Match would put first: what is likeliest to come near.
#[test]
fn what_is_poured_instead_is_the_likeliest() {
    let mut pile = pile();
    let part = |tin, parts| (PaintId(Uuid::from_u128(tin)), Parts::new(parts).unwrap());
    let pot = vec![part(BLUE, 1.0), part(WHITE, 3.0)];
    let poured = KeptLine { pot, ..line(1, Timestamp::UNIX_EPOCH, LogKind::Pour, None) };
    let like = pile.shelf().make_again(&poured, Look::default()).unwrap().like;
    pile.tin(BLUE, priced(paint("harbour", Class::Chalk, "#2f4b66"), 12.0, 500.0, 0.0));
    let shelf = pile.shelf();
    let made = shelf.make_again(&poured, Look::default()).unwrap();
    assert!(!made.same && made.missing[0].ends_with("is used up"), "{:?}", made.missing);
    let target = Colour { hex: None, lab: Some(like.lab) };
    let wanted = serde_json::json!({ "target": target, "without": [Uuid::from_u128(BLUE)] });
    let wanted = serde_json::from_value(wanted).unwrap();
    let found = shelf.find(&wanted, Look::default(), || ControlFlow::Continue(())).unwrap();
    let first = &found.recipes[0];
    let poured: Vec<_> = made.recipe.iter().map(|part| (part.paint.0, part.parts.value())).collect();
    let found: Vec<_> = first.parts.iter().map(|part| (part.paint, part.parts)).collect();
    assert_eq!((poured.len(), &made.likely), (found.len(), &first.likely));
    assert!(found.iter().all(|part| poured.contains(part)), "{poured:?} for {found:?}");
}

/// What was read of the tins after a pot was poured is shown, and nothing that was read before.
#[test]
fn what_was_learned_since_is_told() {
    let mut pile = pile();
    for (n, lab) in [(300, [66.0, -3.0, -9.0]), (301, [65.8, -2.9, -9.1])] {
        let [l, a, b] = lab;
        pile.put(Uuid::from_u128(n), crate::pile::reading(&[(BLUE, 1.0), (WHITE, 3.0)], Lab { l, a, b }));
    }
    let shelf = pile.shelf();
    let part = |tin, parts| (PaintId(Uuid::from_u128(tin)), Parts::new(parts).unwrap());
    let pot = vec![part(BLUE, 1.0), part(WHITE, 3.0)];
    // What is in the pile was made in the first moment of all.
    let poured = |at: i64| KeptLine {
        pot: pot.clone(),
        ..line(1, Timestamp::from_second(at).unwrap(), LogKind::Pour, None)
    };
    let since = |at| shelf.make_again(&poured(at), Look::default()).unwrap().since;
    assert!(since(-60)[0].ends_with(" was read twice"), "{:?}", since(-60));
    assert!(since(60).is_empty());
    // Of the mix it was said what is said of it where nothing was read; now it is known better, and to be darker.
    let answer = |shelf: &ShelfSnapshot, at| shelf.make_again(&poured(at), Look::default()).unwrap();
    let unread = answer(&self::pile().shelf(), -60);
    let made = answer(&shelf, -60);
    let said = made.said_then.unwrap();
    assert_eq!(said.expected.hex, unread.now.wedge.face.hex);
    assert!((said.within - unread.now.within).abs() < 0.01 && made.now.within < 0.5 * said.within);
    assert_eq!(said.words, "clearly darker and warmer");
    assert!(said.difference > 0.5, "{}", said.difference);
    assert!(unread.said_then.is_none() && answer(&shelf, 60).said_then.is_none());
}

#[test]
fn kinds_are_found_by_their_ids() {
    for kind in LogKind::ALL {
        assert_eq!(LogKind::find(kind.id()), Some(kind));
        assert_eq!(serde_json::to_value(kind).unwrap(), kind.id());
        assert!(!kind.many().is_empty());
    }
    assert_eq!(LogKind::find("party"), None);
}

/// Pots by their colour: each once however often it was mixed, the nearest first, the pot itself before all others; a line without a pot is
/// not among them.
#[test]
fn pots_are_told_by_their_nearness() {
    let shelf = pile().shelf();
    let tins: Vec<Uuid> =
        shelf.tins().filter(|tin| tin.value.class.makes_colours()).map(|tin| tin.id).collect();
    let pot = |line: i64, of: &[(usize, f64)]| {
        let part = |(at, parts): &(usize, f64)| (PaintId(tins[*at]), Parts::new(*parts).unwrap());
        LoggedPot { line, of: of.iter().map(part).collect() }
    };
    let pots = [
        pot(5, &[(4, 1.0)]),
        pot(3, &[(0, 1.0), (1, 1.0)]),
        pot(2, &[(0, 3.0), (2, 1.0)]),
        pot(1, &[(0, 1.0), (1, 1.0)]),
        pot(0, &[]),
    ];
    let mixed = |pot: &LoggedPot| KeptLine {
        pot: pot.of.clone(),
        ..line(pot.line, Timestamp::UNIX_EPOCH, LogKind::Mix, None)
    };
    let look = Look::default();
    let third = shelf
        .log_page(vec![mixed(&pots[2])], None, &HashMap::new(), (&TimeZone::UTC, look, Units::Metric))
        .unwrap();
    let hex = third.days[0].groups[0].entries[0].swatch.as_ref().unwrap().face.hex.clone();
    let found = shelf.like(&Colour { hex: Some(hex), lab: None }, &pots, look).unwrap();
    assert_eq!(found.iter().map(|one| one.line).collect::<std::collections::BTreeSet<_>>(), [2, 3, 5].into());
    assert_eq!(found[0].line, 2);
    assert!(found[0].difference < 0.5 && found.is_sorted_by(|a, b| a.difference <= b.difference));
    let nonsense = Colour { hex: Some("teal".to_owned()), lab: None };
    assert!(!about(&shelf.like(&nonsense, &[], look).unwrap_err(), "/hex").is_empty());
}

/// How true it was: nothing read, nothing said; of what was read every figure is one that a plain loop counts.
#[test]
fn how_true_it_was_is_counted() {
    let mut pile = pile();
    assert_eq!(pile.shelf().truth().unwrap().words, "No predictions checked by a reading yet.");
    for (n, lab) in [(300, [72.0, -3.0, -9.0]), (301, [70.5, -2.5, -9.5]), (302, [20.0, 40.0, 30.0])] {
        let [l, a, b] = lab;
        pile.put(Uuid::from_u128(n), crate::pile::reading(&[(BLUE, 1.0), (WHITE, 3.0)], Lab { l, a, b }));
    }
    let truth = pile.shelf().truth().unwrap();
    assert_eq!(truth.readings.len(), 3);
    let held = truth.readings.iter().filter(|one| one.difference <= one.within).count();
    assert_eq!((truth.held, truth.worst.len()), (held, (3 - held).min(3)));
    assert!(!truth.readings[2].held, "a far red out of blue and white: {:?}", truth.readings[2]);
    assert!(truth.worst[0].words.contains("than predicted"), "{:?}", truth.worst[0]);
    assert!(truth.readings[1].within < truth.readings[0].within, "what was read makes the next one surer");
    // The far red is asked about: it is no mix of this shelf, and two say nothing of how mixes come out.
    assert_eq!(truth.mixes, None);
    pile.put(
        Uuid::from_u128(303),
        crate::pile::reading(&[(BLUE, 1.0), (WHITE, 3.0)], Lab { l: 71.0, a: -2.8, b: -9.2 }),
    );
    let mixes = pile.shelf().truth().unwrap().mixes.expect("three");
    assert!(mixes.starts_with("Half of the 3 mixes"), "{mixes}");
}
