//! Documents on their way from one workspace to another: nothing is lost, doubled or half written.

use jiff::Timestamp;
use proptest::prelude::*;
use tempfile::TempDir;
use warm_blend_documents::{ArchivedPhoto, ByKind, Document, Id, LogNote, LogQuery, Workshop};
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Class, Masstone, MixPart, Name, Note, PaintId, SavedMix, WholeParts};
use warm_blend_store::{Comparison, Merged, Stays, Store, StoreError};

fn begun() -> (TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("workspace.db")).unwrap();
    (folder, store)
}

fn paint(name: &str) -> ShelfPaint {
    ShelfPaint::new(Name::new(name).unwrap(), Class::Clay, Some(Masstone::Hex("#6c7482".parse().unwrap())))
}

fn mix_of(paints: &[Id]) -> SavedMix {
    let part = |id: &Id| MixPart { paint: PaintId(*id), parts: WholeParts::new(2).unwrap() };
    SavedMix::new(None, paints.iter().map(part).collect(), None).unwrap()
}

fn note(photo: Option<Id>) -> LogNote {
    let words = Some(Note::new("dry by noon").unwrap().unwrap());
    LogNote { at: "2026-12-01T08:00:00Z".parse().unwrap(), words, piece: None, photo, agreed: None }
}

/// What has left a workspace.
fn leaving(store: &Store) -> (ByKind, Vec<ArchivedPhoto>) {
    let moment = store.moment().unwrap();
    let documents = moment.documents().unwrap();
    let photos = moment.photos(&documents).unwrap();
    (documents, photos)
}

fn merge(from: &Store, to: &mut Store, stays: Stays) -> Result<Merged, StoreError> {
    let (documents, photos) = leaving(from);
    let moment = from.moment()?;
    to.together(|batch| batch.merge(&documents, &photos, stays, |id| moment.photo(id)))
}

fn compare(from: &Store, to: &Store) -> Comparison {
    let (documents, photos) = leaving(from);
    to.compare(&documents, &photos).unwrap()
}

/// Everything that leaves a workspace, as text.
fn told(store: &Store) -> Vec<String> {
    let (documents, photos) = leaving(store);
    let each = documents.iter().flat_map(|(kind, of)| of.iter().map(move |one| (kind, one)));
    let of = |(kind, one)| {
        format!("{kind}: {}", serde_json::to_string::<warm_blend_documents::Archived>(one).unwrap())
    };
    let pictures = photos.iter().map(|photo| format!("{photo:?}: {:?}", store.photo(photo.id).unwrap()));
    each.map(of).chain(pictures).collect()
}

fn lines(store: &Store) -> Vec<(Timestamp, String, bool)> {
    let (lines, _) = store.log(&LogQuery { most: 1000, ..LogQuery::default() }).unwrap();
    let mut lines: Vec<_> = lines.into_iter().map(|line| (line.at, line.words, line.removed)).collect();
    lines.sort();
    lines
}

fn names(store: &Store) -> Vec<String> {
    store.all::<ShelfPaint>().unwrap().into_iter().map(|kept| kept.value.name.into()).collect()
}

fn undo(store: &mut Store) {
    let step = store.history().unwrap().undo.unwrap();
    store.undo(step.change).unwrap();
}

fn remove<T: Document>(store: &mut Store, which: usize) {
    if let Some(it) = store.all::<T>().unwrap().get(which) {
        store.remove::<T>(it.id, it.revision).unwrap();
    }
}

#[derive(Debug, Clone)]
enum Act {
    Paint,
    Mix(usize),
    Note(bool),
    ForgetPaint(usize),
    ForgetMix(usize),
    Undo,
}

fn act() -> impl Strategy<Value = Act> {
    prop_oneof![
        3 => Just(Act::Paint),
        3 => (0..4usize).prop_map(Act::Mix),
        2 => any::<bool>().prop_map(Act::Note),
        1 => (0..4usize).prop_map(Act::ForgetPaint),
        1 => (0..4usize).prop_map(Act::ForgetMix),
        2 => Just(Act::Undo),
    ]
}

fn carry_out(store: &mut Store, act: &Act, n: usize) {
    match act {
        Act::Paint => drop(store.make(paint(&format!("tin {n}"))).unwrap()),
        Act::Mix(which) => {
            let shelf = store.all::<ShelfPaint>().unwrap();
            let of: Vec<Id> = shelf.iter().skip(*which).take(2).map(|kept| kept.id).collect();
            if !of.is_empty() {
                store.make(mix_of(&of)).unwrap();
            }
        }
        Act::Note(false) => drop(store.make(note(None)).unwrap()),
        Act::Note(true) => {
            let photo = store.keep_photo(&[n as u8; 300]).unwrap();
            store.make(note(Some(photo))).unwrap();
        }
        Act::ForgetPaint(which) => remove::<ShelfPaint>(store, *which),
        Act::ForgetMix(which) => remove::<SavedMix>(store, *which),
        Act::Undo => {
            if store.history().unwrap().undo.is_some() {
                undo(store);
            }
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(32))]

    /// Taken into an empty file, a workspace is the same to the last sign, with its log; taken in again it changes nothing; and one step
    /// of undo takes it out.
    #[test]
    fn any_workspace_arrives_as_it_left(acts in prop::collection::vec(act(), 1..20)) {
        let ((_one, mut from), (_other, mut to)) = (begun(), begun());
        acts.iter().enumerate().for_each(|(n, act)| carry_out(&mut from, act, n));
        let found = compare(&from, &to);
        let done = merge(&from, &mut to, Stays::Newer).unwrap();
        prop_assert_eq!((found.new.len(), found.photos), (done.added, done.photos));
        prop_assert_eq!(told(&to), told(&from));
        prop_assert_eq!(lines(&to), lines(&from));
        let again = compare(&from, &to);
        prop_assert!(again.new.is_empty() && again.different.is_empty() && again.photos == 0);
        prop_assert_eq!(merge(&from, &mut to, Stays::Theirs).unwrap(), Merged::default());
        if done.added > 0 {
            undo(&mut to);
            prop_assert_eq!(names(&to), Vec::<String>::new());
            // What was taken out can be taken in again.
            merge(&from, &mut to, Stays::Newer).unwrap();
            prop_assert_eq!(names(&to), names(&from));
        }
    }

    /// A file that cannot be read halfway, or a disk that is full: what was there is there, and nothing else.
    #[test]
    fn nothing_is_half_written(acts in prop::collection::vec(act(), 1..12), pages in 0..12i64) {
        let ((_one, mut from), (_other, mut to)) = (begun(), begun());
        acts.iter().enumerate().for_each(|(n, act)| carry_out(&mut from, act, n));
        (0..12).for_each(|_| carry_out(&mut from, &Act::Note(true), 7));
        to.make(paint("mine")).unwrap();
        let before = (told(&to), lines(&to), to.history().unwrap());
        let (documents, photos) = leaving(&from);
        let mut asked = 0;
        let broken = to.together(|batch| {
            batch.merge(&documents, &photos, Stays::Theirs, |id| {
                asked += 1;
                if asked > 9 { Err(StoreError::Dangling(id)) } else { Ok(vec![0; 5000]) }
            })
        });
        prop_assert!(broken.is_err());
        prop_assert_eq!(&(told(&to), lines(&to), to.history().unwrap()), &before);
        to.limit_pages_for_tests(pages).unwrap();
        let full = to.together(|batch| batch.merge(&documents, &photos, Stays::Theirs, |_| Ok(vec![0; 50_000])));
        prop_assert!(matches!(full, Err(StoreError::Full)), "{full:?}");
        prop_assert_eq!((told(&to), lines(&to), to.history().unwrap()), before);
    }
}

/// Two workspaces have changed the same tin: the one that was changed last stays, or the one that is asked for.
#[test]
fn what_both_have_changed_is_chosen() {
    for (stays, expected) in [(Stays::Mine, "mine"), (Stays::Theirs, "theirs"), (Stays::Newer, "theirs")] {
        let ((_one, mut from), (_other, mut to)) = (begun(), begun());
        let tin = from.make(paint("first")).unwrap();
        merge(&from, &mut to, Stays::Newer).unwrap();
        to.change(tin.id, 1, paint("mine")).unwrap();
        from.change(tin.id, 1, paint("theirs")).unwrap();
        let found = compare(&from, &to);
        assert_eq!((found.new.len(), found.same), (0, 0));
        let [differs] = &found.different[..] else { panic!("{found:?}") };
        assert_eq!((differs.of.name.as_deref(), differs.deleted), (Some("theirs"), false));
        assert!(differs.theirs > differs.mine);
        merge(&from, &mut to, stays).unwrap();
        assert_eq!(names(&to), [expected]);
        if stays != Stays::Mine {
            undo(&mut to);
            assert_eq!(names(&to), ["mine"]);
        }
        // And the other way round it is the older one.
        if stays == Stays::Newer {
            to.change(tin.id, to.get::<ShelfPaint>(tin.id).unwrap().revision, paint("mine, later")).unwrap();
            merge(&from, &mut to, Stays::Newer).unwrap();
            assert_eq!(names(&to), ["mine, later"]);
        }
    }
}

/// What was deleted there stays here; what was deleted here comes back only if it is asked for or was changed there since.
#[test]
fn a_deletion_does_not_travel() {
    let ((_one, mut from), (_other, mut to)) = (begun(), begun());
    let (kept, gone) = (from.make(paint("kept")).unwrap(), from.make(paint("gone")).unwrap());
    merge(&from, &mut to, Stays::Newer).unwrap();
    from.remove::<ShelfPaint>(kept.id, 1).unwrap();
    to.remove::<ShelfPaint>(gone.id, 1).unwrap();
    assert_eq!(merge(&from, &mut to, Stays::Newer).unwrap(), Merged::default());
    assert_eq!(names(&to), ["kept"]);
    assert!(compare(&from, &to).different[0].deleted);
    assert_eq!(merge(&from, &mut to, Stays::Theirs).unwrap().changed, 1);
    assert_eq!(names(&to), ["kept", "gone"]);
    // Deleted in both, and changed here before: not even the version from there brings it back.
    to.change(kept.id, 1, paint("kept, changed")).unwrap();
    to.remove::<ShelfPaint>(kept.id, 2).unwrap();
    assert_eq!(merge(&from, &mut to, Stays::Theirs).unwrap(), Merged::default());
    assert_eq!(names(&to), ["gone"]);
}

/// A workspace has one set of choices: those of an archive are taken where nothing was chosen.
#[test]
fn the_choices_of_the_workshop_stay_one() {
    let ((_one, mut from), (_other, mut to)) = (begun(), begun());
    let white = from.make(paint("house white")).unwrap();
    let chosen = Workshop { house_white: Some(PaintId(white.id)), ..Workshop::default() };
    from.furnish(chosen.clone()).unwrap();
    to.furnish(Workshop::default()).unwrap();
    merge(&from, &mut to, Stays::Mine).unwrap();
    let all = to.all::<Workshop>().unwrap();
    assert_eq!(all.iter().map(|kept| &kept.value).collect::<Vec<_>>(), [&chosen]);
    let other = to.make(paint("another white")).unwrap();
    let mine = Workshop { house_white: Some(PaintId(other.id)), ..Workshop::default() };
    to.change(all[0].id, all[0].revision, mine.clone()).unwrap();
    assert_eq!(compare(&from, &to).different.len(), 1);
    merge(&from, &mut to, Stays::Mine).unwrap();
    assert_eq!(to.all::<Workshop>().unwrap()[0].value, mine);
}

/// An id that stands for a tin here and for a mix there is no version of anything.
#[test]
fn an_id_of_another_kind_is_refused() {
    let ((_one, mut from), (_other, mut to)) = (begun(), begun());
    let tin = from.make(paint("one")).unwrap();
    to.furnish_as(tin.id, Timestamp::now(), note(None)).unwrap();
    let (documents, photos) = leaving(&from);
    assert!(matches!(to.compare(&documents, &photos), Err(StoreError::Misfit { .. })));
    assert!(matches!(merge(&from, &mut to, Stays::Theirs), Err(StoreError::Misfit { .. })));
    assert!(names(&to).is_empty());
}

/// One mix is handed on with its paints, and with nothing else.
#[test]
fn one_thing_travels_with_what_it_needs() {
    let (_folder, mut store) = begun();
    let tins: Vec<Id> = ["a", "b", "c"].map(|name| store.make(paint(name)).unwrap().id).into();
    let mix = store.make(mix_of(&tins[..2])).unwrap();
    store.make(mix_of(&tins[2..])).unwrap();
    store.make(note(None)).unwrap();
    let taken = store.moment().unwrap().with_all_it_needs(mix.id).unwrap();
    let ids: Vec<(&str, Vec<Id>)> =
        taken.iter().map(|(kind, of)| (*kind, of.iter().map(|one| one.id).collect())).collect();
    assert_eq!(ids, [("mix", vec![mix.id]), ("paint", tins[..2].to_vec())]);
    assert!(matches!(store.moment().unwrap().with_all_it_needs(Id::nil()), Err(StoreError::Unknown { .. })));
}
