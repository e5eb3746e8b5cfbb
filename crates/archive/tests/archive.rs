//! Archives go round unchanged, and whatever is no whole archive is refused.

use std::io::{Cursor, Read, Write};

use jiff::Timestamp;
use proptest::prelude::*;
use serde_json::{Value, json, value::RawValue};
use uuid::Uuid;
use warm_blend_archive::{Archive, BadArchive, Extra, write};
use warm_blend_documents::{Archived, ArchivedPhoto, ByKind, KINDS};
use zip::{CompressionMethod, ZipArchive, ZipWriter, write::SimpleFileOptions};

type Bytes = Cursor<Vec<u8>>;

fn id(n: u128) -> Uuid {
    Uuid::from_u128(n)
}

fn at(second: i64) -> Timestamp {
    Timestamp::from_second(1_790_000_000 + second).unwrap()
}

fn archived(n: u128, value: &Value) -> Archived {
    let value = RawValue::from_string(value.to_string()).unwrap();
    let changed_at = at(2 * n as i64);
    Archived { id: id(n), deleted: false, made_at: at(n as i64), changed_at, made_by: None, value }
}

fn paint(n: u128, name: &str) -> Archived {
    archived(
        n,
        &json!({"name": name, "class": "chalk", "source": "guess", "condition": "good", "specials": {}}),
    )
}

fn mix(n: u128, of: &[u128]) -> Archived {
    let parts: Vec<_> = of.iter().map(|of| json!({"paint": id(*of), "parts": 2})).collect();
    archived(n, &json!({"name": format!("mix {n}"), "components": parts, "target": null}))
}

fn note(n: u128, photo: Option<u128>) -> Archived {
    let mut value = json!({"at": at(9), "words": "dry by noon"});
    if let Some(photo) = photo {
        value["photo"] = json!(id(photo));
    }
    archived(n, &value)
}

fn jpeg(n: u128) -> Vec<u8> {
    [&[0xFF, 0xD8, 0xFF, 0xE0][..], &n.to_be_bytes()].concat()
}

/// Three paints, a mix of two of them, a note with a photo.
fn workspace() -> (ByKind, Vec<ArchivedPhoto>) {
    let paints = ["bone white", "moss “deep”", "Ürümqi blue"];
    let paints = paints.iter().zip(1..).map(|(name, n)| paint(n, name)).collect();
    let documents = ByKind::from([
        ("paint", paints),
        ("mix", vec![mix(10, &[1, 3])]),
        ("note", vec![note(20, Some(90)), note(21, None)]),
    ]);
    (documents, vec![ArchivedPhoto { id: id(90), made_at: at(0) }])
}

fn packed((documents, photos): &(ByKind, Vec<ArchivedPhoto>)) -> Vec<u8> {
    let extras = [Extra { name: "shelf.csv".to_owned(), bytes: b"name\nbone white\n".to_vec() }];
    let photo = |id: Uuid| Ok(jpeg(id.as_u128()));
    write(Cursor::new(Vec::new()), at(0), documents, photos, photo, &extras).unwrap().into_inner()
}

fn open(bytes: &[u8]) -> Result<Archive<Bytes>, BadArchive> {
    Archive::open(Cursor::new(bytes.to_vec()))
}

fn refused(bytes: &[u8]) -> String {
    open(bytes).expect_err("a refusal").to_string()
}

/// The files of a zip.
fn files(bytes: &[u8]) -> Vec<(String, Vec<u8>)> {
    let mut zip = ZipArchive::new(Cursor::new(bytes)).unwrap();
    let mut all = Vec::new();
    for n in 0..zip.len() {
        let mut file = zip.by_index(n).unwrap();
        let mut bytes = Vec::new();
        file.read_to_end(&mut bytes).unwrap();
        all.push((file.name().unwrap().into_owned(), bytes));
    }
    all
}

fn zipped(files: &[(String, Vec<u8>)]) -> Vec<u8> {
    let options = SimpleFileOptions::default().compression_method(CompressionMethod::Deflated);
    let mut zip = ZipWriter::new(Cursor::new(Vec::new()));
    for (name, bytes) in files {
        zip.start_file(name.as_str(), options).unwrap();
        zip.write_all(bytes).unwrap();
    }
    zip.finish().unwrap().into_inner()
}

/// The archive with one of its files changed; without it where nothing comes back.
fn changed(name: &str, change: impl Fn(&[u8]) -> Option<Vec<u8>>) -> Vec<u8> {
    let mut all = files(&packed(&workspace()));
    assert!(all.iter().any(|(other, _)| other == name), "{name}");
    all = all
        .into_iter()
        .filter_map(|(other, bytes)| {
            let bytes = if other == name { change(&bytes)? } else { bytes };
            Some((other, bytes))
        })
        .collect();
    zipped(&all)
}

/// What an archive says of its documents, as text.
fn told(documents: &ByKind) -> Vec<(String, String)> {
    let each = documents.iter().flat_map(|(kind, of)| of.iter().map(move |one| (*kind, one)));
    each.map(|(kind, one)| (kind.to_owned(), serde_json::to_string(one).unwrap())).collect()
}

#[test]
fn what_is_written_is_read() {
    let workspace = workspace();
    let mut archive = open(&packed(&workspace)).unwrap();
    assert_eq!(archive.made_at, at(0));
    assert_eq!(told(&archive.documents), told(&workspace.0));
    assert_eq!(archive.photos, workspace.1);
    assert_eq!(archive.files.photo(id(90)).unwrap(), jpeg(90));
    // The same workspace makes the same file.
    assert_eq!(packed(&workspace), packed(&workspace));
}

/// Every name is one that any zip tool can unpack where it likes: relative, without a step up (APPNOTE 6.3.10, 4.4.17.1).
#[test]
fn it_is_a_plain_zip_with_a_schema_for_every_kind() {
    let all = files(&packed(&workspace()));
    let names: Vec<&str> = all.iter().map(|(name, _)| name.as_str()).collect();
    assert_eq!(names[..2], ["manifest.json", "README.txt"]);
    assert!(names.iter().all(|name| !name.starts_with('/') && !name.contains("..") && !name.contains('\\')));
    for kind in KINDS {
        assert!(names.contains(&format!("documents/{kind}.json").as_str()), "{kind}");
        assert!(names.contains(&format!("schemas/{kind}.schema.json").as_str()), "{kind}");
    }
    assert!(names.contains(&"views/shelf.csv"));
}

/// An independent validator of JSON Schema (the crate `jsonschema`) accepts what is written, and not what was changed.
#[test]
fn what_is_written_is_valid_by_its_own_schemas() {
    let all = files(&packed(&workspace()));
    let file = |name: &str| -> Value {
        serde_json::from_slice(&all.iter().find(|(other, _)| other == name).unwrap().1).unwrap()
    };
    for kind in KINDS {
        let validator = jsonschema::validator_for(&file(&format!("schemas/{kind}.schema.json"))).unwrap();
        let mut documents = file(&format!("documents/{kind}.json"));
        assert!(validator.is_valid(&documents), "{kind}");
        if let Some(first) = documents.get_mut(0) {
            first["made_at"] = json!(7);
            assert!(!validator.is_valid(&documents), "{kind}");
        }
    }
    let manifest = jsonschema::validator_for(&file("schemas/manifest.schema.json")).unwrap();
    assert!(manifest.is_valid(&file("manifest.json")));
}

#[test]
fn what_is_no_archive_is_refused() {
    assert!(refused(b"").contains("no archive"));
    assert!(refused(b"SQLite format 3\0 and so on").contains("no archive"));
    assert!(
        refused(&zipped(&[("letter.txt".to_owned(), b"Dear all".to_vec())])).contains("no manifest.json")
    );
    let of = |change: &dyn Fn(&mut Value)| {
        changed("manifest.json", |bytes| {
            let mut manifest: Value = serde_json::from_slice(bytes).unwrap();
            change(&mut manifest);
            Some(manifest.to_string().into_bytes())
        })
    };
    assert!(
        refused(&of(&|manifest| manifest["format"] = json!("a diary"))).contains("no archive of Warm Blend")
    );
    assert!(refused(&of(&|manifest| manifest["version"] = json!(2))).contains("Update the program"));
    // A newer version is named even if the rest of it is unknown.
    let newer =
        changed("manifest.json", |_| Some(br#"{"format": "warm-blend archive", "version": 7}"#.to_vec()));
    assert!(refused(&newer).contains("version 7 of the format"));
    assert!(
        refused(&of(&|manifest| manifest["documents"] = json!(99)))
            .contains("99 documents are listed, 6 are there")
    );
}

#[test]
fn what_is_incomplete_is_refused() {
    assert!(
        refused(&changed("photos/00000000-0000-0000-0000-00000000005a.jpg", |_| None))
            .contains("it is missing")
    );
    let text = |_: &[u8]| Some(b"<html>".to_vec());
    assert!(
        refused(&changed("photos/00000000-0000-0000-0000-00000000005a.jpg", text)).contains("it is no JPEG")
    );
    assert!(
        refused(&changed("documents/note.json", |_| None)).contains("6 documents are listed, 4 are there")
    );
    let (mut documents, photos) = workspace();
    documents.insert("mix", vec![mix(10, &[1, 4])]);
    let refusal = refused(&packed(&(documents.clone(), photos.clone())));
    assert!(refusal.contains("the archive is incomplete: the mix"), "{refusal}");
    // A mix of a mix is no mix of paints.
    documents.insert("mix", vec![mix(10, &[1, 20])]);
    assert!(refused(&packed(&(documents.clone(), photos.clone()))).contains("incomplete"));
    documents.insert("mix", vec![mix(1, &[1])]);
    assert!(refused(&packed(&(documents.clone(), photos.clone()))).contains("is there twice"));
    documents.insert("mix", vec![archived(10, &json!({"name": "x", "components": "all of them"}))]);
    assert!(refused(&packed(&(documents, photos))).contains("documents/mix.json in the archive is damaged"));
}

/// A file of zeros shrinks to a thousandth; it is not unpacked to the end.
#[test]
fn a_zip_bomb_is_defused() {
    let bomb = changed("manifest.json", |_| Some(vec![b' '; 200 << 20]));
    assert!(bomb.len() < 2 << 20);
    assert!(refused(&bomb).contains("manifest.json is larger than anything an archive holds"));
}

/// Names that lead out of a folder are names of nothing that is looked for, and nothing is put on the disk anyway.
#[test]
fn strange_names_are_left_alone() {
    let workspace = workspace();
    let mut all = files(&packed(&workspace));
    for name in
        ["../../etc/passwd", "/etc/passwd", "documents/../../x.json", "photos/x.jpg", "C:\\x", "\u{202e}gpj"]
    {
        all.push((name.to_owned(), b"x".to_vec()));
    }
    assert_eq!(told(&open(&zipped(&all)).unwrap().documents), told(&workspace.0));
}

proptest! {
    /// Every number stays what it was to its last figure, and every name to its last sign.
    #[test]
    fn any_workspace_goes_round(
        names in prop::collection::vec("[^\\p{C}\\s][^\\p{C}]{0,20}[^\\p{C}\\s]", 1..8),
        prices in prop::collection::vec(1e-3..1e6f64, 8),
        photos in 0..4u128,
    ) {
        let paints = names.iter().zip(prices).zip(1..).map(|((name, price), n)| {
            archived(n, &json!({
                "name": name, "class": "chalk", "source": "guess", "condition": "good", "specials": {},
                "price": {"amount": price, "tin": 500.0},
            }))
        });
        let notes = (0..photos).map(|n| note(100 + n, Some(200 + n))).collect();
        let documents = ByKind::from([("paint", paints.collect()), ("note", notes)]);
        let photos: Vec<_> = (0..photos).map(|n| ArchivedPhoto { id: id(200 + n), made_at: at(n as i64) }).collect();
        let bytes = packed(&(documents.clone(), photos.clone()));
        // Names are checked as they are when they are typed, so some are refused.
        if let Ok(archive) = open(&bytes) {
            prop_assert_eq!(told(&archive.documents), told(&documents));
            prop_assert_eq!(archive.photos, photos);
        }
    }

    /// A file that broke off is refused, wherever it broke off.
    #[test]
    fn half_an_archive_is_refused(share in 0.0..1.0f64) {
        let whole = packed(&workspace());
        let cut = (share * (whole.len() - 1) as f64) as usize;
        prop_assert!(open(&whole[..cut]).is_err());
    }

    /// A flipped bit is refused, or lies where nothing is read from: never another workspace.
    #[test]
    fn a_flipped_bit_changes_nothing(at in any::<prop::sample::Index>(), bit in 0..8u8) {
        let workspace = workspace();
        let mut bytes = packed(&workspace);
        let at = at.index(bytes.len());
        bytes[at] ^= 1 << bit;
        if let Ok(mut archive) = open(&bytes) {
            prop_assert_eq!(told(&archive.documents), told(&workspace.0));
            prop_assert_eq!(archive.files.photo(id(90)).unwrap(), jpeg(90));
        }
    }

    /// Any bytes at all, and any bytes in the place of a file, make no more trouble than a sentence.
    #[test]
    fn any_bytes_are_survived(bytes in prop::collection::vec(any::<u8>(), 0..600), which in 0..3usize) {
        prop_assert!(open(&bytes).is_err());
        let name = ["manifest.json", "documents/paint.json", "documents/mix.json"][which];
        let garbled = changed(name, |_| Some(bytes.clone()));
        prop_assert!(open(&garbled).is_err());
    }
}
