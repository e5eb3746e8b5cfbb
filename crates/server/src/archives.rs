//! The workspace as one open file, and other workspaces taken in from such files.

use std::{
    fs::File,
    io::{self, BufReader, BufWriter, Seek, Write},
    path::{Path, PathBuf},
    sync::Arc,
};

use jiff::Timestamp;
use tempfile::NamedTempFile;
use uuid::Uuid;
use warm_blend_archive::{Archive, Extra, write};
use warm_blend_documents::{ByKind, Kept, KeptLine, LogNote, LogQuery};
use warm_blend_paint::SavedMix;
use warm_blend_piece::Piece;
use warm_blend_plan::RunSheet;
use warm_blend_store::{Comparison, Merged, Moment, Stays, Store, StoreError};

use crate::{Workspace, off_thread::off_thread, problem::Problem, shelf_cache::Remembered, state::UNTITLED};

/// Lines of the log in its table.
const LINES: usize = 100_000;

/// What other programs are shown of a whole workspace.
struct Shown {
    shelf: Arc<Remembered>,
    mixes: Vec<Kept<SavedMix>>,
    log: Vec<KeptLine>,
    title: String,
}

impl Workspace {
    /// Writes an archive of everything, or of one document with all that it needs, to a temporary file.
    pub(crate) async fn archive(&self, only: Option<Uuid>) -> Result<File, Problem> {
        let shown = match only {
            Some(_) => None,
            None => Some(self.shown().await?),
        };
        let moment = self.with(|store| store.moment()).await?;
        off_thread(move || {
            let documents = match only {
                Some(id) => moment.with_all_it_needs(id)?,
                None => moment.documents()?,
            };
            let extras = shown.map_or(Ok(Vec::new()), |shown| shown.extras())?;
            written(&moment, &documents, &extras)
        })
        .await
    }

    async fn shown(&self) -> Result<Shown, Problem> {
        let shelf = self.shelf_in_full().await?;
        self.with(move |store| {
            let pieces = store.all::<Piece>()?;
            let title = pieces.first().map_or("Shelf", |piece| piece.value.name.as_str()).to_owned();
            let (log, _) = store.log(&LogQuery { most: LINES, ..LogQuery::default() })?;
            Ok::<_, StoreError>(Shown { shelf, mixes: store.all()?, log, title })
        })
        .await
    }

    /// What an archive would change, and when it was written.
    pub async fn compare(&self, file: File) -> Result<(Comparison, Timestamp), Problem> {
        let Archive { documents, photos, made_at, .. } = open(file).await?;
        let found = self.with(move |store| store.compare(&documents, &photos)).await?;
        Ok((found, made_at))
    }

    /// Takes an archive in, as one step of undo.
    pub async fn take_in(&self, file: File, stays: Stays) -> Result<Merged, Problem> {
        let archive = open(file).await?;
        self.with(move |store| merge(store, archive, stays)).await
    }

    /// Writes an archive of everything to a new file; returns its size, bytes.
    pub async fn export_to(&self, to: PathBuf) -> Result<u64, Problem> {
        let mut archive = self.archive(None).await?;
        let folder = to.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
        // Under its name once it is whole.
        let mut file = NamedTempFile::new_in(folder).map_err(Problem::disk)?;
        let bytes = io::copy(&mut archive, &mut file).map_err(Problem::disk)?;
        file.as_file().sync_all().map_err(Problem::disk)?;
        file.persist_noclobber(&to).map_err(|error| Problem::disk(error.error))?;
        Ok(bytes)
    }
}

async fn open(file: File) -> Result<Archive<BufReader<File>>, Problem> {
    off_thread(|| Ok(Archive::open(BufReader::new(file))?)).await
}

impl Shown {
    fn extras(self) -> Result<Vec<Extra>, Problem> {
        let Self { shelf, mixes, log, title } = self;
        let files = shelf.for_other_programs(&title, Timestamp::now(), &mixes, &log)?;
        Ok(files.into_iter().map(|file| Extra { name: file.name.to_owned(), bytes: file.bytes }).collect())
    }
}

fn written(moment: &Moment, documents: &ByKind, extras: &[Extra]) -> Result<File, Problem> {
    let to = BufWriter::new(tempfile::tempfile().map_err(Problem::disk)?);
    let photos = moment.photos(documents)?;
    let photo = |id| moment.photo(id).map_err(|error| io::Error::other(error.to_string()).into());
    let mut to = write(to, Timestamp::now(), documents, &photos, photo, extras)
        .map_err(|error| Problem::disk(io::Error::from(error)))?;
    to.flush().map_err(Problem::disk)?;
    let mut file = to.into_inner().map_err(|error| Problem::disk(error.into_error()))?;
    // Read back, before anybody relies on it.
    drop(Archive::open(BufReader::new(&file))?);
    file.rewind().map_err(Problem::disk)?;
    Ok(file)
}

fn merge(store: &mut Store, archive: Archive<BufReader<File>>, stays: Stays) -> Result<Merged, Problem> {
    let Archive { documents, photos, mut files, .. } = archive;
    let brings_pieces =
        documents.get("piece").is_some_and(|pieces| pieces.iter().any(|piece| !piece.deleted));
    let placeholder = if brings_pieces { untouched(store)? } else { None };
    store.together_or(|batch| {
        let merged = batch.merge(&documents, &photos, stays, |id| files.photo(id).map_err(Problem::from))?;
        if let Some(placeholder) = placeholder {
            batch.withdraw::<Piece>(placeholder.id, placeholder.revision)?;
        }
        Ok(merged)
    })
}

/// The piece that every new workspace begins with, if nobody has done anything with it.
fn untouched(store: &Store) -> Result<Option<Kept<Piece>>, StoreError> {
    for piece in store.all::<Piece>()? {
        let is_new = piece.revision == 1 && piece.value.name.as_str() == UNTITLED;
        if is_new && store.count_users::<RunSheet>(piece.id)? + store.count_users::<LogNote>(piece.id)? == 0 {
            return Ok(Some(piece));
        }
    }
    Ok(None)
}
