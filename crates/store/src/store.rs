//! Creating, reading, changing and deleting documents.

use std::{
    cell::RefCell,
    ops::Range,
    path::Path,
    sync::{
        Arc,
        atomic::{AtomicU64, Ordering},
    },
};

use jiff::{SignedDuration, Timestamp};
use rusqlite::trace::{TraceEvent, TraceEventCodes};
use rusqlite::{Connection, Transaction, TransactionBehavior};
use warm_blend_documents::{Document, Documents, Id, Kept, LoggedPot, Revision};
use warm_blend_paint::Name;

use crate::history::{self, Direction, History, HistoryEntry};
use crate::migrate::{is_of_older_form, migrate};
use crate::on_disk::OnDisk;
use crate::rows::{count_users, current, every, every_after, insert, point, put, read, some, users, verify};
use crate::written::{AsOf, changes_of_others};
use crate::{Deed, Depth, Notice, SetAside, StoreError, depth, kinship, log, set_aside};

/// An open workspace file.
#[derive(Debug)]
pub struct Store {
    pub(crate) connection: Connection,
    file: OnDisk,
    /// What a look over the whole file found, once it was taken.
    soundness: Option<Soundness>,
    /// Whether there may be changes in the log that are not in the file.
    pub(crate) logged: bool,
    /// How many changes were in the file itself when the log was last emptied; none where another program may have written since.
    base: Option<i64>,
    /// What SQLite counts up when another program has changed the file.
    others: i64,
    /// What was found when it was opened, and since.
    notices: Vec<Notice>,
    /// True if photos may have lost the last document that refers to them.
    pub(crate) untidy: bool,
    /// What is being asked for.
    deed: Option<Arc<Deed>>,
    /// Who asks for it, if they are named.
    by: Option<Name>,
    /// How many changes were made here since it was opened.
    pub(crate) written: u64,
    /// Number of this opening in the program.
    opening: u64,
    /// Cached pots of the log.
    pub(crate) pots: RefCell<Option<AsOf<Arc<[LoggedPot]>>>>,
}

/// Whether the pages of a file agree with each other.
#[derive(Debug, Clone, PartialEq)]
enum Soundness {
    Sound,
    /// The first fault.
    Damaged(String),
}

/// Number of files that the program has opened.
static OPENINGS: AtomicU64 = AtomicU64::new(0);

/// Files up to this are looked over when they are opened, larger ones before the first change: a gigabyte takes seconds.
const AT_ONCE: u64 = 64 << 20;

/// A photo is brought before the document that will speak of it.
const LOOSE: SignedDuration = SignedDuration::from_hours(1);

/// The log is written back when it is longer, also while somebody works, bytes.
const LONGEST_LOG: u64 = 16 << 20;

impl Store {
    pub(crate) fn over(
        connection: Connection,
        path: &Path,
        notice: Option<Notice>,
    ) -> Result<Self, StoreError> {
        let file = OnDisk::of(path)?;
        let mut store = Self {
            others: changes_of_others(&connection)?,
            connection,
            file,
            soundness: None,
            logged: true,
            base: None,
            notices: notice.into_iter().collect(),
            untidy: true,
            deed: None,
            by: None,
            written: 0,
            opening: OPENINGS.fetch_add(1, Ordering::Relaxed),
            pots: RefCell::default(),
        };
        let older = is_of_older_form(&store.connection)?;
        // A file is looked over before anything is written to it, a new form too.
        if older || store.file.length()? <= AT_ONCE {
            store.look_over()?;
        }
        match store.damage() {
            None => migrate(&mut store.connection)?,
            Some(what) if older => return Err(StoreError::Damaged(what.to_owned())),
            Some(_) => return Ok(store),
        }
        // What a program that was killed left in the log.
        store.write_back()?;
        Ok(store)
    }

    /// Damage found so far. A damaged file can be read but is not written.
    pub fn damage(&self) -> Option<&str> {
        match &self.soundness {
            Some(Soundness::Damaged(what)) => Some(what),
            Some(Soundness::Sound) | None => None,
        }
    }

    /// Notices for the painter.
    pub fn notices(&self) -> Vec<Notice> {
        let damage = self.damage().map(|what| Notice::Damaged(what.to_owned()));
        damage.into_iter().chain(self.notices.iter().cloned()).collect()
    }

    fn look_over(&mut self) -> Result<(), StoreError> {
        if self.soundness.is_none() {
            let found =
                self.connection.pragma_query_value(None, "quick_check", |row| row.get::<_, String>(0));
            self.soundness = Some(match found.map_err(StoreError::from) {
                Ok(found) if found == "ok" => Soundness::Sound,
                Ok(found) => Soundness::Damaged(found),
                Err(StoreError::Damaged(what)) => Soundness::Damaged(what),
                Err(error) => return Err(error),
            });
        }
        Ok(())
    }

    /// A deep check, including rows against indexes, to run beside other work; see [`Store::heed`].
    pub fn deep_look(&self) -> impl FnOnce() -> Result<Depth, StoreError> + Send + 'static {
        let path = self.file.path().to_owned();
        move || depth::look(&path)
    }

    /// Acts on the result of a deep check: a damaged file is no longer written, and a faulty index is rebuilt after the
    /// file was copied.
    pub fn heed(&mut self, found: Depth) -> Result<(), StoreError> {
        match found {
            Depth::Sound => Ok(()),
            Depth::Damaged(what) => {
                self.soundness = Some(Soundness::Damaged(what));
                Ok(())
            }
            Depth::Indexes(what) => self.reindex(what),
        }
    }

    fn reindex(&mut self, what: String) -> Result<(), StoreError> {
        self.may_be_written()?;
        self.write_back()?;
        let copy = self.file.copy(".before-reindex.db")?;
        self.connection.execute_batch("REINDEX")?;
        match depth::look(self.file.path())? {
            Depth::Sound => self.notices.push(Notice::Reindexed { what, copy }),
            Depth::Indexes(what) | Depth::Damaged(what) => self.soundness = Some(Soundness::Damaged(what)),
        }
        Ok(())
    }

    /// That the file is sound, and still the one that was opened.
    pub(crate) fn may_be_written(&mut self) -> Result<(), StoreError> {
        self.look_over()?;
        if let Some(what) = self.damage() {
            return Err(StoreError::Damaged(what.to_owned()));
        }
        self.is_in_place()
    }

    /// That the file is still the one that was opened. Where it is not, all of it is put beside where it was.
    pub(crate) fn is_in_place(&self) -> Result<(), StoreError> {
        if self.file.is_there() { Ok(()) } else { Err(self.file.gone(&self.connection)) }
    }

    /// Attributes all following changes to this request, see [`Deed`], and to whom it comes from.
    pub fn on_behalf_of(&mut self, deed: Option<Arc<Deed>>, by: Option<Name>) {
        self.deed = deed;
        self.by = by;
    }

    /// Its path.
    pub(crate) fn path(&self) -> &Path {
        self.file.path()
    }

    /// A number that is larger for every file that the program opens, also for another in the place of the same.
    pub fn opening(&self) -> u64 {
        self.opening
    }

    /// Number of changes since this program opened the file.
    pub fn written(&self) -> u64 {
        self.written
    }

    /// Makes several changes in one transaction, as one step of undo.
    pub fn together<R>(
        &mut self,
        work: impl FnOnce(&mut ChangeSet<'_>) -> Result<R, StoreError>,
    ) -> Result<R, StoreError> {
        self.together_or(work)
    }

    /// Makes several changes in one transaction; an error of the work rolls them back.
    pub fn together_or<R, E: From<StoreError>>(
        &mut self,
        work: impl FnOnce(&mut ChangeSet<'_>) -> Result<R, E>,
    ) -> Result<R, E> {
        let by = self.by.clone();
        self.write(|change| {
            let mut batch = ChangeSet { change, by, first: None };
            let done = work(&mut batch)?;
            if batch.first.is_some() {
                history::forget(change)?;
            }
            Ok(done)
        })
    }

    /// Creates a document.
    pub fn make<T: Document>(&mut self, value: T) -> Result<Kept<T>, StoreError> {
        self.together(|batch| batch.make(value))
    }

    /// Creates a document that belongs to every workspace and cannot be undone.
    pub fn furnish<T: Document>(&mut self, value: T) -> Result<Kept<T>, StoreError> {
        self.furnish_as(Id::now_v7(), Timestamp::now(), value)
    }

    /// Creates such a document with a fixed id, so that random draws based on it are the same in every such workspace.
    pub fn furnish_as<T: Document>(
        &mut self,
        id: Id,
        at: Timestamp,
        value: T,
    ) -> Result<Kept<T>, StoreError> {
        self.write(|change| insert(change, id, (at, None), value))
    }

    /// Creates such a document as of a given time.
    pub fn furnish_on<T: Document>(&mut self, at: Timestamp, value: T) -> Result<Kept<T>, StoreError> {
        let (seconds, nanos) = (at.as_second().max(0) as u64, at.subsec_nanosecond().max(0) as u32);
        let id = Id::new_v7(uuid::Timestamp::from_unix(uuid::NoContext, seconds, nanos));
        self.furnish_as(id, at, value)
    }

    /// Reads a document, even if it was deleted.
    pub fn get<T: Document>(&self, id: Id) -> Result<Kept<T>, StoreError> {
        read(&self.connection, id)
    }

    /// All documents of a kind, in the order in which they were created.
    pub fn all<T: Document>(&self) -> Result<Vec<Kept<T>>, StoreError> {
        every(&self.connection, "AND removed = 0")
    }

    /// Part of the documents of a kind, from the first or from the latest; `range` is computed from their number.
    pub fn some<T: Document>(
        &self,
        latest_first: bool,
        which: impl FnOnce(usize) -> Range<usize>,
    ) -> Result<Vec<Kept<T>>, StoreError> {
        some(&self.connection, "AND removed = 0", latest_first, which)
    }

    /// All documents of a kind, reading only what changed since `known`.
    pub fn all_after<T: Document + Clone>(&self, known: &[Kept<T>]) -> Result<Vec<Kept<T>>, StoreError> {
        every_after(&self.connection, "AND removed = 0", known)
    }

    /// All documents of a kind including deleted ones, in the order in which they were created.
    pub fn all_ever<T: Document>(&self) -> Result<Vec<Kept<T>>, StoreError> {
        every(&self.connection, "")
    }

    /// A number that differs after every change to documents of a kind, including undo.
    pub fn state<T: Document>(&self) -> Result<i64, StoreError> {
        let mut query = self
            .connection
            .prepare_cached("SELECT COALESCE(SUM(revision), 0) FROM document WHERE kind = ?1")?;
        Ok(query.query_row([T::KIND], |row| row.get(0))?)
    }

    /// Reports every SQL statement as it starts.
    pub fn trace_statements(&self, report: fn(TraceEvent<'_>)) {
        self.connection.trace_v2(TraceEventCodes::SQLITE_TRACE_STMT, Some(report));
    }

    /// Changes a document that has the revision seen. Writing the same value does nothing.
    pub fn change<T: Document>(&mut self, id: Id, seen: Revision, value: T) -> Result<Kept<T>, StoreError> {
        self.together(|batch| batch.change(id, seen, value))
    }

    /// Deletes a document, which can still be read by its id.
    pub fn remove<T: Document>(&mut self, id: Id, seen: Revision) -> Result<Kept<T>, StoreError> {
        self.together(|batch| batch.remove(id, seen))
    }

    /// Documents of a kind that refer to this one.
    pub fn users<T: Document>(&self, used: Id) -> Result<Vec<Kept<T>>, StoreError> {
        users(&self.connection, used)
    }

    /// Number of documents of a kind that refer to this one.
    pub fn count_users<T: Document>(&self, used: Id) -> Result<usize, StoreError> {
        count_users::<T>(&self.connection, used)
    }

    /// Checks that everything a value refers to exists or existed, for values that are not saved.
    pub fn verify_references<T: Document>(&self, value: &T) -> Result<(), StoreError> {
        verify(&self.connection, &value.uses(), &[])
    }

    /// Unusable entries, in the order in which they were created.
    pub fn set_aside(&self) -> Result<Vec<SetAside>, StoreError> {
        set_aside::all(&self.connection)
    }

    /// Permanently deletes an unusable entry, if it still exists.
    pub fn delete_set_aside(&mut self, id: Id) -> Result<(), StoreError> {
        self.write(|change| set_aside::delete(change, id))
    }

    /// What undo and redo would do.
    pub fn history(&self) -> Result<History, StoreError> {
        History::of(&self.connection)
    }

    /// Undoes the newest change, provided it is the expected one: somebody else may have made another since.
    pub fn undo(&mut self, meant: i64) -> Result<HistoryEntry, StoreError> {
        self.write(|change| history::walk(change, Direction::Back, meant))
    }

    /// Redoes the change undone last, provided it is the expected one.
    pub fn redo(&mut self, meant: i64) -> Result<HistoryEntry, StoreError> {
        self.write(|change| history::walk(change, Direction::Forth, meant))
    }

    /// Limits the growth of the file to this many pages, to simulate a full disk.
    #[doc(hidden)]
    pub fn limit_pages_for_tests(&self, more: i64) -> Result<(), StoreError> {
        let pages: i64 = self.connection.pragma_query_value(None, "page_count", |row| row.get(0))?;
        self.connection.pragma_update(None, "max_page_count", pages + more)?;
        Ok(())
    }

    /// Runs a change as one transaction, which is on disk completely or not at all when this returns.
    pub(crate) fn write<R, E: From<StoreError>>(
        &mut self,
        work: impl FnOnce(&Transaction<'_>) -> Result<R, E>,
    ) -> Result<R, E> {
        self.may_be_written()?;
        // Immediate: the lock is taken before anything is read, so that what was read is still so when written.
        let change = self
            .connection
            .transaction_with_behavior(TransactionBehavior::Immediate)
            .map_err(StoreError::from)?;
        if let Some(deed) = &self.deed {
            deed.enter(&change)?;
        }
        let done = work(&change)?;
        change
            .execute("UPDATE mark SET changes = changes + 1, base = COALESCE(?1, base)", [self.base])
            .and_then(|_| change.commit())
            .map_err(StoreError::from)?;
        if let Some(deed) = &self.deed {
            deed.done();
        }
        self.written += 1;
        self.logged = true;
        self.untidy = true;
        // What was changed is kept: what goes wrong from here is tried again.
        drop(self.look_for_others());
        if self.file.log_length() > LONGEST_LOG {
            drop(self.write_back());
        }
        Ok(done)
    }

    /// Whether another program has changed the file since it was asked.
    fn look_for_others(&mut self) -> Result<(), StoreError> {
        let others = changes_of_others(&self.connection)?;
        if others != self.others {
            self.others = others;
            if !self.notices.contains(&Notice::Shared) {
                self.notices.push(Notice::Shared);
            }
        }
        Ok(())
    }

    /// Work for idle times: deletes photos unused for an hour and writes the log back.
    pub fn tidy(&mut self) -> Result<(), StoreError> {
        self.free_photos(Timestamp::now() - LOOSE)?;
        self.write_back()
    }

    /// Writes the log back to the file and empties it, so that a copy of the file is complete. Does nothing if the log is
    /// empty or another program is reading the file.
    pub fn write_back(&mut self) -> Result<(), StoreError> {
        if self.logged && self.damage().is_none() && self.file.is_there() {
            let changes = kinship::mark(&self.connection)?.map(|mark| mark.changes);
            let busy: bool =
                self.connection.query_row("PRAGMA wal_checkpoint(TRUNCATE)", [], |row| row.get(0))?;
            self.logged = busy;
            if !busy {
                self.base = changes;
            }
        }
        Ok(())
    }
}

/// Changes made together: see [`Store::together`].
#[derive(Debug)]
pub struct ChangeSet<'a> {
    pub(crate) change: &'a Transaction<'a>,
    /// Who makes them.
    by: Option<Name>,
    /// The first line of history it has written.
    first: Option<i64>,
}

impl ChangeSet<'_> {
    /// Creates a document.
    pub fn make<T: Document>(&mut self, value: T) -> Result<Kept<T>, StoreError> {
        let kept = insert(self.change, Id::now_v7(), (Timestamp::now(), self.by.as_ref()), value)?;
        self.record(kept.id, None, Some(&serde_json::to_string(&kept.value)?))?;
        Ok(kept)
    }

    /// Reads a document, even if it was deleted.
    pub fn get<T: Document>(&self, id: Id) -> Result<Kept<T>, StoreError> {
        read(self.change, id)
    }

    /// Documents of a kind that refer to this one.
    pub fn users<T: Document>(&self, used: Id) -> Result<Vec<Kept<T>>, StoreError> {
        users(self.change, used)
    }

    /// Changes a document that has the revision seen. Writing the same value does nothing.
    pub fn change<T: Document>(&mut self, id: Id, seen: Revision, value: T) -> Result<Kept<T>, StoreError> {
        let before = current::<T>(self.change, id, seen)?;
        if before.removed {
            return Err(StoreError::Removed { kind: T::KIND });
        }
        let (old, new) = (serde_json::to_string(&before.value)?, serde_json::to_string(&value)?);
        if old == new {
            return Ok(before);
        }
        put(self.change, id, &new, false)?;
        point(self.change, id, &value.uses())?;
        self.record(id, Some(&old), Some(&new))?;
        read(self.change, id)
    }

    /// Deletes a document, which can still be read by its id.
    pub fn remove<T: Document>(&mut self, id: Id, seen: Revision) -> Result<Kept<T>, StoreError> {
        let before = current::<T>(self.change, id, seen)?;
        if before.removed {
            return Ok(before);
        }
        let body = serde_json::to_string(&before.value)?;
        put(self.change, id, &body, true)?;
        self.record(id, Some(&body), None)?;
        read(self.change, id)
    }

    /// Deletes a document as if it had never been made: the log says nothing of it.
    pub fn withdraw<T: Document>(&mut self, id: Id, seen: Revision) -> Result<(), StoreError> {
        self.remove::<T>(id, seen)?;
        log::forget(self.change, id)
    }

    pub(crate) fn record(
        &mut self,
        id: Id,
        before: Option<&str>,
        after: Option<&str>,
    ) -> Result<(), StoreError> {
        self.first = Some(history::record(self.change, id, before, after, self.first)?);
        Ok(())
    }
}

impl Documents for ChangeSet<'_> {
    type Error = StoreError;

    fn get<T: Document>(&self, id: Id) -> Result<Kept<T>, StoreError> {
        self.get(id)
    }

    fn users<T: Document>(&self, of: Id) -> Result<Vec<Kept<T>>, StoreError> {
        self.users(of)
    }

    fn make<T: Document>(&mut self, value: T) -> Result<Kept<T>, StoreError> {
        self.make(value)
    }

    fn change<T: Document>(&mut self, id: Id, seen: Revision, value: T) -> Result<Kept<T>, StoreError> {
        self.change(id, seen, value)
    }

    fn remove<T: Document>(&mut self, id: Id, seen: Revision) -> Result<(), StoreError> {
        self.remove::<T>(id, seen).map(drop)
    }
}
