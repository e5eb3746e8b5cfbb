//! Files that come in and go out, against what is on the shelf.

use jiff::Timestamp;
use warm_blend_learn::{LoggedReading, ShelfPaint, Source};
use warm_blend_paint::Class;
use warm_blend_spectral::Lab;
use warm_blend_workshop::{FileRead, HowToImport, Import, ImportPlan, Refusal};

use crate::pile::*;

fn how() -> HowToImport {
    HowToImport {
        class: None,
        percent: None,
        source: Some(Source::Reader),
        without_bad: false,
        file: Some("charts.csv".to_owned()),
    }
}

fn planned(pile: &Pile, bytes: &[u8], how: &HowToImport) -> Result<(Import, ImportPlan), Refusal> {
    let shelf = pile.shelf();
    let import = Import::of(FileRead::of(bytes, how)?, &shelf);
    let shown = import.view(&shelf);
    Ok((import, shown))
}

fn brought(pile: &mut Pile, bytes: &[u8]) -> ImportPlan {
    let (import, shown) = planned(pile, bytes, &how()).unwrap();
    import.carry_out(pile).unwrap();
    shown
}

fn exported(pile: &Pile, format: &str) -> Vec<u8> {
    pile.shelf().export(format, "Shelf", Timestamp::UNIX_EPOCH).unwrap().bytes
}

/// A pile without tins.
fn bare() -> Pile {
    let mut bare = Pile::default();
    bare.put(id(100), warm_blend_documents::Workshop::default());
    bare
}

#[test]
fn a_whole_shelf_goes_over_with_its_readings() {
    let mut from = pile();
    from.put(id(300), reading(&[(BLUE, 1.0), (WHITE, 1.0)], Lab { l: 62.0, a: -3.0, b: -9.0 }));
    from.put(id(301), reading(&[(BROWN, 1.0)], Lab { l: 30.0, a: 6.0, b: 12.0 }));
    let file = exported(&from, "json");
    let mut to = bare();
    let shown = brought(&mut to, &file);
    assert_eq!(shown.rows.iter().filter(|row| row.action == "new").count(), 7);
    let tins = |pile: &Pile| -> Vec<ShelfPaint> {
        let mut tins: Vec<ShelfPaint> = pile.all().into_iter().map(|kept| kept.value).collect();
        tins.sort_by(|a, b| a.name.as_str().cmp(b.name.as_str()));
        tins
    };
    assert_eq!(tins(&to), tins(&from));
    assert_eq!(to.all::<LoggedReading>().len(), 2);
    // The same file again is known: nothing is new.
    let again = brought(&mut to, &file);
    assert!(again.rows.iter().all(|row| row.action == "skip"), "{again:?}");
    assert_eq!((to.all::<ShelfPaint>().len(), to.all::<LoggedReading>().len()), (7, 2));
}

/// What was predicted here and comes back teaches nothing.
#[test]
fn an_own_export_teaches_nothing() {
    for format in ["cgats", "cxf", "gpl", "csv"] {
        let mut pile = pile();
        let file = exported(&pile, format);
        let shown = brought(&mut pile, &file);
        assert!(shown.rows.iter().all(|row| row.action != "reading"), "{format}: {shown:?}");
        assert_eq!(pile.all::<LoggedReading>().len(), 0, "{format}");
    }
}

#[test]
fn a_reading_of_a_tin_on_the_shelf_is_logged_and_the_same_again_is_not() {
    let mut pile = pile();
    let file = b"name,L,a,b\nHarbour ,33.5,-2.0,-17.0\nnew grey,55,0,2\nharbour,33.5,-2.0,-17.0\n";
    let (_, shown) = planned(&pile, file, &how()).unwrap();
    let actions: Vec<&str> = shown.rows.iter().map(|row| row.action).collect();
    assert_eq!(actions, ["reading", "new", "skip"]);
    assert_eq!(shown.summary, "1 new, 1 reading of a paint on the shelf, 1 left out");
    brought(&mut pile, file);
    let logged = pile.all::<LoggedReading>();
    assert_eq!(logged.len(), 1);
    assert_eq!(logged[0].value.device.as_ref().map(|name| name.as_str()), Some("charts.csv"));
    let again = brought(&mut pile, file);
    assert!(again.rows.iter().all(|row| row.action == "skip"), "{again:?}");
}

#[test]
fn a_medium_of_that_name_is_left_alone() {
    let shown = planned(&pile(), b"name,L,a,b\nclear wax,80,0,10\n", &how()).unwrap().1;
    assert!(
        shown.rows[0].action == "skip" && shown.rows[0].words.contains("a medium with that name"),
        "{shown:?}"
    );
}

#[test]
fn new_paints_are_of_the_class_that_was_said() {
    let mut pile = pile();
    let latex = HowToImport { class: Some(Class::LatexSatin), ..how() };
    planned(&pile, b"name,hex\nsky,#88aacc\n", &latex).unwrap().0.carry_out(&mut pile).unwrap();
    let sky = pile.all::<ShelfPaint>().into_iter().find(|tin| tin.value.name.as_str() == "sky").unwrap();
    assert_eq!(sky.value.class, Class::LatexSatin);
}

#[test]
fn what_is_said_of_a_file_is_checked() {
    let file = b"name,hex\nsky,#88aacc\n";
    let medium = HowToImport { class: Some(Class::GlazingLiquid), ..how() };
    assert_eq!(pointers(planned(&pile(), file, &medium)), ["?class"]);
    for bytes in [&b"{\"format\": \"another shelf\"}"[..], b"\xff\xfe\x00", b"", b"{"] {
        assert!(matches!(planned(&pile(), bytes, &how()), Err(Refusal::File(_))), "{bytes:?}");
    }
}

/// Reflectance in percent is asked about, not guessed.
#[test]
fn percent_is_asked_about() {
    let bands: Vec<String> = (0..36).map(|i| format!("{}", 380 + 10 * i)).collect();
    let values: Vec<String> = (0..36).map(|i| format!("{}", 30 + i)).collect();
    let file = format!("name,{}\nwall,{}\n", bands.join(","), values.join(","));
    assert_eq!(planned(&pile(), file.as_bytes(), &how()).map(drop), Err(Refusal::Percent(65.0)));
    let percent = HowToImport { percent: Some(true), ..how() };
    assert_eq!(planned(&pile(), file.as_bytes(), &percent).unwrap().1.rows[0].action, "new");
}

#[test]
fn there_are_five_formats() {
    let shelf = pile().shelf();
    for (format, start) in
        [("cgats", "CGATS.17"), ("gpl", "GIMP Palette"), ("csv", "name,"), ("json", "{"), ("cxf", "<?xml")]
    {
        let file = shelf.export(format, "Shelf", Timestamp::UNIX_EPOCH).unwrap();
        assert!(file.bytes.starts_with(start.as_bytes()) && file.name.starts_with("shelf."), "{format}");
    }
    assert!(matches!(shelf.export("docx", "Shelf", Timestamp::UNIX_EPOCH), Err(Refusal::Unknown(_))));
}
