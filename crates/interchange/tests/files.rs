//! Files in and out: round trips, the forms that instruments write, and hostile bytes.

use proptest::prelude::*;
use warm_blend_interchange::{
    BadFile, Format, ImportedFile, Samples, Told, cgats, csv, cxf, gpl, hex, import,
};
use warm_blend_learn::{Measured, Source};
use warm_blend_spectral::{BANDS, Lab, Light, Reflectance, Xyz, difference, wavelength};

fn read(text: &str) -> Result<Vec<warm_blend_interchange::Sample>, BadFile> {
    import(text.as_bytes(), READER).map(|import| import.samples)
}

/// What is wrong with a file, or with the first of its rows that cannot be read.
fn message(text: &str) -> String {
    match import(text.as_bytes(), READER) {
        Ok(file) => {
            file.bad.first().map(|row| format!("line {}: {}", row.line, row.what)).unwrap_or_default()
        }
        Err(error) => error.to_string(),
    }
}

/// Nobody needs to be asked what it was read with.
const READER: Told = Told { percent: None, source: Some(Source::Reader) };

fn any_curve() -> impl Strategy<Value = Measured> {
    proptest::array::uniform32(0.0..1.0f64)
        .prop_map(|bands| Measured::spectrum(Reflectance::from_fn(|i| bands[i.min(31)])))
}

fn any_colour() -> impl Strategy<Value = Measured> {
    (5.0..98.0f64, -60.0..60.0f64, -60.0..60.0f64).prop_map(|(l, a, b)| Measured::Colour(Lab { l, a, b }))
}

fn any_name() -> impl Strategy<Value = String> {
    prop_oneof!["[a-zA-Zéß ]{0,12}[a-zéß&<>']", "[=+@;'\",＝＋－＠\\-]{1,4}[a-z;=\"<>\u{fffd}]{0,6}[a-z]"]
        .prop_map(|name| name.trim().to_owned())
}

fn same(one: &Measured, other: &Measured) -> bool {
    match (one, other) {
        (Measured::Spectrum(one), Measured::Spectrum(other)) => {
            (0..BANDS).all(|i| (one.bands()[i] - other.bands()[i]).abs() < 1e-6)
        }
        (Measured::Colour(one), Measured::Colour(other)) => difference(*one, *other).value() < 1e-3,
        _ => false,
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    #[test]
    fn spectra_go_out_and_come_back(curves in proptest::collection::vec((any_name(), any_curve()), 1..6)) {
        let files = [
            (Format::Cgats, cgats(Samples::Predictions, &curves).into_bytes()),
            (Format::Cxf, cxf(Samples::Predictions, &curves, "2026-01-01T00:00:00Z").unwrap()),
        ];
        for (format, bytes) in files {
            let ImportedFile { format: found, predicted, samples, .. } = import(&bytes, Told::default()).unwrap();
            prop_assert_eq!((found, predicted), (format, true));
            prop_assert_eq!(samples.len(), curves.len());
            for (sample, (name, curve)) in samples.iter().zip(&curves) {
                prop_assert_eq!(sample.name.trim(), name.trim());
                prop_assert!(same(&sample.measured, curve) && sample.notes.is_empty(), "{:?}", sample.notes);
            }
        }
    }

    #[test]
    fn colours_go_out_and_come_back(colours in proptest::collection::vec((any_name(), any_colour()), 1..6)) {
        let rows: Vec<Vec<String>> = colours.iter().map(|(name, measured)| {
            let Lab { l, a, b } = measured.lab();
            vec![name.clone(), l.to_string(), a.to_string(), b.to_string()]
        }).collect();
        let files = [
            cgats(Samples::Predictions, &colours).into_bytes(),
            cxf(Samples::Predictions, &colours, "2026-01-01T00:00:00Z").unwrap(),
            csv(&["name", "L", "a", "b"], &rows).unwrap(),
        ];
        for bytes in files {
            let samples = import(&bytes, READER).unwrap().samples;
            prop_assert_eq!(samples.len(), colours.len());
            for (sample, (name, colour)) in samples.iter().zip(&colours) {
                prop_assert!(same(&sample.measured, colour));
                prop_assert_eq!(&sample.name, name);
            }
        }
        // A palette keeps 8-bit codes.
        let ImportedFile { format, predicted, samples, .. } = import(gpl("shelf", &colours).as_bytes(), Told::default()).unwrap();
        prop_assert_eq!((format, predicted), (Format::Gpl, true));
        for (sample, (name, colour)) in samples.iter().zip(&colours) {
            prop_assert_eq!(hex(&sample.measured), hex(colour));
            prop_assert_eq!(&sample.name, name);
        }
    }

    #[test]
    fn mutated_files_never_panic(which in 0usize..4, at in 0usize..4000, byte: u8, cut in 0usize..6000) {
        let curves = vec![("one".to_owned(), Measured::spectrum(Reflectance::grey(0.4))), ("two".to_owned(), Measured::spectrum(Reflectance::grey(0.2)))];
        let mut bytes = match which {
            0 => cgats(Samples::Predictions, &curves).into_bytes(),
            1 => cxf(Samples::Predictions, &curves, "now").unwrap(),
            2 => csv(&["name", "hex"], &[vec!["a".into(), "#aabbcc".into()]]).unwrap(),
            _ => gpl("x", &curves).into_bytes(),
        };
        let at = at % bytes.len();
        bytes[at] = byte;
        bytes.truncate(cut.max(1));
        let _ = import(&bytes, Told::default());
    }

    #[test]
    fn any_text_is_a_file_or_a_message(text in "\\PC{0,200}") {
        if let Err(error) = read(&text) {
            prop_assert!(error.to_string().len() > 10);
        }
    }
}

/// By 20 nm from 400 to 700, as a cheap instrument writes it: resampled and extended, and said to be.
#[test]
fn other_steps_are_resampled_and_said() {
    let bands: Vec<u32> = (400..=700).step_by(20).collect();
    let head: Vec<String> = bands.iter().map(|nm| format!("nm{nm}")).collect();
    let values: Vec<String> = bands.iter().map(|nm| (f64::from(*nm) / 1000.0).to_string()).collect();
    let samples = read(&format!("name,{}\nslope,{}\n", head.join(","), values.join(","))).unwrap();
    let Measured::Spectrum(curve) = &samples[0].measured else { panic!("a curve") };
    for i in 2..=32 {
        assert!((curve.bands()[i] - f64::from(wavelength(i)) / 1000.0).abs() < 1e-12);
    }
    assert_eq!((curve.bands()[0], curve.bands()[BANDS - 1]), (0.4, 0.7));
    let notes = samples[0].notes.join("; ");
    assert!(notes.contains("20 nm to 10 nm") && notes.contains("taken as level"), "{notes}");
}

#[test]
fn what_is_no_curve_is_refused_with_its_line() {
    assert!(message("name,400,500,600,650,700\nfive,0.1,0.2,0.3,0.3,0.4\n").contains("line 2: "));
    let bands: Vec<u32> = (380..=730).step_by(10).collect();
    let file = |value: &str| {
        let head: Vec<String> = bands.iter().map(u32::to_string).collect();
        let mut values = vec!["0.4".to_owned(); bands.len()];
        values[7] = value.to_owned();
        format!("name,{}\nx,{}\n", head.join(","), values.join(","))
    };
    assert!(read(&file("0.4")).is_ok());
    assert!(message(&file("-0.3")).contains("reflectance at 450 nm is -0.3"));
    assert!(message(&file("1.4")).contains("reflectance at 450 nm is 1.4"));
    assert!(message(&file("NaN")).contains("is not a number"));
    assert!(message(&file("grey")).contains("line 2: “grey” is not a number"));
    assert!(
        message("name,500,510,520,530,540,550,560,570\nx,.1,.1,.1,.1,.1,.1,.1,.1")
            .contains("at least 420 to 680")
    );
}

#[test]
fn percent_is_asked_about() {
    let bands: Vec<u32> = (380..=730).step_by(10).collect();
    let line = |values: f64| vec![values.to_string(); bands.len()].join(";");
    let head = bands.iter().map(u32::to_string).collect::<Vec<_>>().join(";");
    let text = format!("name;{head}\nx;{}\n", line(42.0));
    assert!(matches!(read(&text), Err(BadFile::Percent { line: 2, .. })));
    let samples = import(text.as_bytes(), Told { percent: Some(true), source: None }).unwrap().samples;
    assert!(same(&samples[0].measured, &Measured::spectrum(Reflectance::grey(0.42))));
    let fractions = import(text.as_bytes(), Told { percent: Some(false), source: None }).unwrap();
    assert!(fractions.samples.is_empty() && fractions.bad[0].what.contains("between 0 and 1"));
}

#[test]
fn spreadsheets_of_any_country_are_read() {
    let samples = read("\u{feff}Name;L*;a*;b*\r\n\"oat; white\";88,9;0,2;12,1\r\n\r\n").unwrap();
    assert_eq!((samples.len(), samples[0].name.as_str(), samples[0].line), (1, "oat; white", 2));
    assert!(same(&samples[0].measured, &Measured::Colour(Lab { l: 88.9, a: 0.2, b: 12.1 })));
    assert!(message("paint,price\nx,3\n").contains("no colour column"));
    assert!(message("hex\n#aabbcc\n").contains("including “name”"));
    assert!(message("name,hex\nx\n").contains("line 2: 1 cells for 2 columns"));
    assert!(message("name,hex\nx,#12\n").contains("line 2: a hex code has"));
    assert!(message("name,L,a,b\nx,150,0,0\n").contains("line 2: L* 150"));
    assert!(
        matches!(import(&[0x50, 0x4b, 3, 4, 0], Told::default()), Err(BadFile::Whole(why)) if why.contains("archive"))
    );
    assert!(
        matches!(import(&[0xff, 0xfe, 0x41, 0], Told::default()), Err(BadFile::Whole(why)) if why.contains("UTF-16"))
    );
    assert!(matches!(import(b"name,hex\n\xff\xff", Told::default()), Err(BadFile::Line { line: 2, .. })));
}

/// What cannot be read keeps nothing else out, and says all that is wrong at once.
#[test]
fn a_bad_row_is_one_row() {
    let csv = "name,hex\noat,#e9e4d6\nmoss,#12\nfern\nsea,#9cb0a8\n";
    let palette = "GIMP Palette\n233 228 214\toat\n300 0 0\tmoss\nred 0 0\tfern\n156 176 168\tsea\n";
    let head = "CGATS.17\nBEGIN_DATA_FORMAT\nSAMPLE_NAME LAB_L LAB_A LAB_B\nEND_DATA_FORMAT\nBEGIN_DATA\n";
    let cgats = format!("{head}oat 90 0 7\nmoss 50 x 0\nfern 50\nsea 70 -7 2\nEND_DATA\n");
    let lab = |name: &str, l: &str| {
        format!(
            "<Object Name=\"{name}\"><ColorValues><ColorCIELab><L>{l}</L><A>0</A><B>0</B></ColorCIELab></ColorValues></Object>"
        )
    };
    let objects = [("oat", "90"), ("moss", "much"), ("fern", "900"), ("sea", "70")];
    let objects: String = objects.iter().map(|(name, l)| lab(name, l)).collect();
    let cxf = format!("<CxF><Resources><ObjectCollection>{objects}</ObjectCollection></Resources></CxF>");
    for file in [csv, palette, &cgats, &cxf] {
        let read = import(file.as_bytes(), READER).unwrap();
        let names: Vec<&str> = read.samples.iter().map(|sample| sample.name.as_str()).collect();
        assert_eq!(names, ["oat", "sea"], "{file}");
        let bad: Vec<&str> = read.bad.iter().map(|row| row.name.as_str()).collect();
        assert_eq!(bad, ["moss", "fern"], "{file}");
        assert!(read.bad.iter().all(|row| !row.what.is_empty() && row.line > 0));
    }
}

/// L\*a\*b\* of a table may be of anything: a person is asked. Codes are of chips, and curves of an instrument.
#[test]
fn a_table_that_does_not_say_what_read_it_is_asked_about() {
    let lab = |file: &str| import(file.as_bytes(), Told::default()).map(|file| file.samples[0].source);
    assert_eq!(lab("name,L,a,b\noat,90,0,7\n"), Err(BadFile::Source { line: 2 }));
    assert_eq!(lab("name,L,a,b,source\noat,90,0,7,photo\n"), Ok(Source::Photo));
    assert_eq!(lab("name,hex\noat,#e9e4d6\n"), Ok(Source::Chip));
    let chip = Told { percent: None, source: Some(Source::Chip) };
    assert_eq!(import(b"name,L,a,b\noat,90,0,7\n", chip).unwrap().samples[0].source, Source::Chip);
}

#[test]
fn a_picture_is_no_table() {
    for head in [&b"\x89PNG\r\n\x1a\n"[..], b"\xff\xd8\xff\xe0..JFIF", b"....ftypheic", b"II*\0...."] {
        let refused = import(head, Told::default());
        assert!(
            matches!(&refused, Err(BadFile::Whole(why)) if why.contains("this is a picture")),
            "{refused:?}"
        );
    }
}

/// A white under D50 is the white in daylight; another illuminant and the 10° observer are said.
#[test]
fn other_lights_and_observers_are_said() {
    let file = |light: &str, observer: &str| {
        format!(
            "CGATS.17\nILLUMINATION_NAME \"{light}\"\nOBSERVER \"{observer}\"\nBEGIN_DATA_FORMAT\nSAMPLE_NAME LAB_L LAB_A LAB_B\nEND_DATA_FORMAT\nBEGIN_DATA\nwhite 100 0 0\ntan 60 10 25\nEND_DATA\n"
        )
    };
    let samples = read(&file("D50", "2 degree")).unwrap();
    assert!(same(&samples[0].measured, &Measured::Colour(Lab { l: 100.0, a: 0.0, b: 0.0 })));
    assert!(samples[1].notes[0].contains("D50"));
    assert!(read(&file("D65", "10")).unwrap()[0].notes[0].contains("10°"));
    assert!(message(&file("Moon", "2")).contains("MOON"));
    let cut =
        "CGATS.17\nBEGIN_DATA_FORMAT\nSAMPLE_NAME LAB_L LAB_A LAB_B\nEND_DATA_FORMAT\nBEGIN_DATA\nx 50 0 0\n";
    assert!(message(cut).contains("line 6: "));
    assert!(message("BEGIN_DATA_FORMAT\nSAMPLE_NAME LAB_L LAB_A LAB_B\nEND_DATA_FORMAT\nBEGIN_DATA\nx 50 1\nEND_DATA\n").contains("line 5: 3 values for 4 fields"));
    assert!(message("<CxF><Resources>").contains("not closed"));
    assert!(message(&"<a>".repeat(100)).contains("too deep"));
}

/// Lab that is read equals Lab of the spectrum that was written: one definition of daylight.
#[test]
fn lab_of_a_written_curve_is_its_own() {
    let curve = Reflectance::from_fn(|i| 0.1 + i as f64 / 60.0);
    let lab = Lab::of(Xyz::of(&curve, Light::Daylight), Light::Daylight.white());
    assert!(difference(Measured::spectrum(curve).lab(), lab).value() < 1e-12);
}

/// What `tests/data/by_others.py` says that colour-cxf 0.1.1 and colour-science 0.4.7 read in the files we wrote is what we wrote,
/// and what colour-cxf writes is read here.
#[test]
fn others_read_ours_and_we_read_theirs() {
    let ours = import(include_bytes!("data/ours.cxf"), Told::default()).unwrap().samples;
    let written = import(include_bytes!("data/ours.cgats.txt"), Told::default()).unwrap().samples;
    let bands =
        |line: &str| -> Vec<f64> { line.split(',').skip(2).map(|cell| cell.parse().unwrap()).collect() };
    let recorded = include_str!("data/by_others.csv");
    for (reader, samples) in [("colour-cxf", &ours), ("colour-science", &written)] {
        let lines: Vec<&str> =
            recorded.lines().filter(|line| line.starts_with(&format!("{reader},"))).collect();
        assert_eq!(lines.len(), samples.len(), "{reader}");
        for (line, sample) in lines.iter().zip(samples) {
            assert_eq!(line.split(',').nth(1), Some(sample.name.as_str()));
            let read = Measured::spectrum(Reflectance::new(bands(line).try_into().unwrap()).unwrap());
            assert!(same(&read, &sample.measured), "{line}");
        }
    }
    let theirs = import(include_bytes!("data/theirs.cxf"), Told::default()).unwrap();
    // Who made it comes through another program.
    assert!(theirs.predicted);
    let theirs = theirs.samples;
    assert_eq!(theirs.len(), ours.len());
    for (theirs, ours) in theirs.iter().zip(&ours) {
        assert!(theirs.name == ours.name && same(&theirs.measured, &ours.measured));
    }
}

/// What a sample was read with: curves and Lab come from an instrument, codes from a chip, and a column may say otherwise.
#[test]
fn samples_say_what_they_were_read_with() {
    let source = |text: &str| read(text).unwrap()[0].source;
    assert_eq!(source("name,hex\nx,#8a9aa3\n"), Source::Chip);
    assert_eq!(source("name,L,a,b\nx,62,-3,-7\n"), Source::Reader);
    assert_eq!(source("name,hex,L,a,b\nx,#8a9aa3,62,-3,-7\n"), Source::Reader);
    assert_eq!(source("name,L,a,b,source\nx,62,-3,-7,guess\n"), Source::Guess);
    assert_eq!(source("name,hex,source\nx,#8a9aa3,somewhere\n"), Source::Chip);
    assert_eq!(source("GIMP Palette\n1 2 3 night\n"), Source::Chip);
    assert_eq!(
        source(&cgats(Samples::Predictions, &[("x".to_owned(), Measured::spectrum(Reflectance::grey(0.4)))])),
        Source::Reader
    );
}

/// Files from earlier versions said who wrote them, not that they are predictions; another program's name is none.
#[test]
fn own_files_are_known_by_their_maker() {
    let of = |text: &str| import(text.as_bytes(), Told::default()).unwrap().predicted;
    let body = "BEGIN_DATA_FORMAT\nSAMPLE_NAME LAB_L LAB_A LAB_B\nEND_DATA_FORMAT\nBEGIN_DATA\n\"ORIGINATOR\" 40 0 0\nEND_DATA\n";
    assert!(of(&format!("CGATS.17\nORIGINATOR \"Warm Blend\"\n{body}")));
    assert!(!of(&format!("CGATS.17\nORIGINATOR \"a meter\"\n{body}")));
    assert!(!of(body));
    let ours = String::from_utf8(
        cxf(
            Samples::Predictions,
            &[("Warm Blend".to_owned(), Measured::spectrum(Reflectance::grey(0.4)))],
            "now",
        )
        .unwrap(),
    )
    .unwrap();
    assert!(of(&ours));
    assert!(!of(&ours.replace("Creator>Warm Blend<", "Creator>a meter<")));
}

/// No cell begins what a spreadsheet would compute, however it divides the lines.
#[test]
fn a_spreadsheet_is_given_no_formula() {
    for name in [
        "=1+1",
        "+1 day",
        "-rust",
        "@now",
        "＝1",
        "blue;=1",
        "blue,+1",
        "'=1",
        "a\t=1",
        "\u{200b}=1",
        "|calc",
        "a|=1",
        "'\u{feff}\u{200b}+1",
    ] {
        let bytes = csv(&["name", "hex"], &[vec![name.to_owned(), "#aabbcc".to_owned()]]).unwrap();
        let text = String::from_utf8(bytes).unwrap();
        let line = text.lines().nth(1).unwrap();
        for cell in line.split([';', ',', '\t', '"']) {
            let shown = cell.trim_start_matches(['\u{200b}', '\u{feff}']);
            assert!(!shown.starts_with(['=', '+', '-', '@', '|', '＝']), "{name}: {line}");
        }
        assert_eq!(read(&text).unwrap()[0].name, name);
    }
    // A number is a number.
    let text = String::from_utf8(csv(&["a"], &[vec!["-4.5".to_owned()]]).unwrap()).unwrap();
    assert_eq!(text.lines().nth(1), Some("-4.5"));
}

/// XML has no place for some characters that a name may have: the file is sound without them.
#[test]
fn a_cxf_file_is_sound_whatever_the_names_are() {
    for name in ["a\u{ffff}b", "\u{fffe}", "<&\"'>]]>", "a\u{85}b\u{7f}", "\u{10ffff}"] {
        let samples = [(name.to_owned(), Measured::spectrum(Reflectance::grey(0.4)))];
        let bytes = cxf(Samples::Predictions, &samples, "now").unwrap();
        let text = std::str::from_utf8(&bytes).unwrap();
        assert!(!text.contains(['\u{fffe}', '\u{ffff}']));
        assert_eq!(import(&bytes, Told::default()).unwrap().samples.len(), 1, "{name:?}");
    }
}
