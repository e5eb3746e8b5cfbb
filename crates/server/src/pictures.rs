//! Pictures as responses, and the reliefs they are drawn on.

use std::{
    sync::{
        Arc,
        atomic::{AtomicU64, Ordering},
    },
    time::Duration,
};

use axum::{
    http::header,
    response::{IntoResponse, Response},
};
use warm_blend_paint::Look;
use warm_blend_piece::{Elevation, Face, Mark, View};
use warm_blend_render::{Closer, Fineness, Front, OnPhoto, Picture, Relief, Shading};

use crate::{
    easel::{Easel, TooMany},
    off_thread::{Asking, DRAWING, while_asked},
    problem::Problem,
    recent::{Bulky, Recent},
    shelf_cache::FileState,
};

/// The renderer with its caches.
#[derive(Debug)]
pub struct Pictures {
    pub plates: Plates,
    pub fronts: Fronts,
    /// Flat pictures of faces: while a piece is turned they stay.
    pub flats: Recent<FlatOf, Picture>,
    /// Photos of pieces, prepared for finishes to be shown on them.
    pub on_photos: Recent<OnPhotoOf, OnPhoto>,
    /// Interactive pictures.
    quick: Easel,
    /// Pictures that take much time or memory, one at a time.
    large: Easel,
    /// Number of pictures drawn.
    drawn: AtomicU64,
}

impl Default for Pictures {
    fn default() -> Self {
        Self {
            plates: Plates::default(),
            fronts: Fronts::default(),
            flats: Recent::within(FLATS),
            on_photos: Recent::within(ON_PHOTOS),
            quick: Easel::of(2),
            large: Easel::of(1),
            drawn: AtomicU64::default(),
        }
    }
}

/// Fine pictures with more pixels than this take a while.
const AT_ONCE: u64 = 200_000;
/// Pictures with more pixels than this take a while and some hundred megabytes.
const MUCH: u64 = 2_000_000;

/// How long the relief of a fine picture is kept for the next.
const LOOKED_AT: Duration = Duration::from_secs(10);

impl Pictures {
    /// Responds with a picture as PNG. A large fine picture uses one thread, so that interactive ones need not wait.
    /// Drawing stops when the client has gone.
    pub async fn answer(
        self: &Arc<Self>,
        (width, height): (u32, u32),
        fineness: Fineness,
        draw: impl FnOnce(&Asking) -> Result<Vec<u8>, Problem> + Send + 'static,
    ) -> Result<Response, Problem> {
        let pixels = u64::from(width) * u64::from(height);
        let fine = fineness == Fineness::Fine && pixels > AT_ONCE;
        let easel = if fine || pixels > MUCH { &self.large } else { &self.quick };
        let turn = easel.turn().await.map_err(|TooMany| Problem::too_many_pictures())?;
        let png = while_asked(move |asking| {
            let drawn = match fine {
                true => DRAWING.run(|| draw(asking)).unwrap_or_else(|| Err(Problem::internal())),
                false => draw(asking),
            };
            // Held until it is drawn, even if nobody waits for it any more.
            drop(turn);
            drawn
        });
        let kind = [(header::CONTENT_TYPE, "image/png"), (header::CACHE_CONTROL, "no-store")];
        let png = png.await?;
        self.drawn.fetch_add(1, Ordering::Relaxed);
        if fineness == Fineness::Fine {
            tokio::spawn(Arc::clone(self).forget_fine());
        }
        Ok((kind, png).into_response())
    }

    /// Frees fine reliefs unless another picture is requested within a while.
    async fn forget_fine(self: Arc<Self>) {
        let drawn = self.drawn.load(Ordering::Relaxed);
        tokio::time::sleep(LOOKED_AT).await;
        if self.drawn.load(Ordering::Relaxed) == drawn {
            self.plates.0.fine.forget();
            self.fronts.0.fine.forget();
            self.flats.forget();
        }
    }
}

/// Recently used reliefs. Fine ones are large and kept only while somebody looks.
#[derive(Debug)]
struct Lately<K, T> {
    quick: Recent<K, T>,
    fine: Recent<K, T>,
}

impl<K: PartialEq, T: Bulky> Lately<K, T> {
    fn get(
        &self,
        of: K,
        fineness: Fineness,
        make: impl FnOnce() -> Result<T, Problem>,
    ) -> Result<Arc<T>, Problem> {
        match fineness {
            Fineness::Quick => self.quick.get(of, make),
            Fineness::Fine => self.fine.get(of, make),
        }
    }
}

/// Room for the sizes of one screen, and for one fine picture of a large window, bytes.
const QUICK: usize = 16 << 20;
const FINE: usize = 48 << 20;

impl<K: PartialEq, T: Bulky> Default for Lately<K, T> {
    fn default() -> Self {
        Self { quick: Recent::within(QUICK), fine: Recent::within(FINE) }
    }
}

impl Bulky for Relief {
    fn bytes(&self) -> usize {
        self.bytes()
    }
}

impl Bulky for Front {
    fn bytes(&self) -> usize {
        self.bytes()
    }
}

/// Recently drawn reliefs of the panelled board: for drafts, for the screen, and for two strips side by side.
#[derive(Debug, Default)]
pub struct Plates(Lately<((u32, u32), Closer), Relief>);

impl Plates {
    /// Sizes that the board screen requests, and its list.
    const USUAL: [(u32, u32); 2] = [(840, 420), (520, 260)];

    /// Computes marks, and the reliefs that are needed first.
    pub fn warm(&self, marks: impl IntoIterator<Item = Mark>) {
        warm_blend_render::make_ready(marks);
        for (width, height) in Self::USUAL {
            // The usual sizes are valid.
            drop(self.relief((width, height), Closer::WHOLE, Fineness::Quick));
        }
    }

    pub fn relief(
        &self,
        (width, height): (u32, u32),
        closer: Closer,
        fineness: Fineness,
    ) -> Result<Arc<Relief>, Problem> {
        self.0.get(((width, height), closer), fineness, || {
            Relief::panelled(width, height, closer, fineness).map_err(|error| Problem::field("?width", error))
        })
    }
}

/// What a face was prepared from.
#[derive(Debug, PartialEq)]
struct FrontOf {
    face: Face,
    size: (u32, u32),
    closer: Closer,
    /// The photo whose carving it has.
    carved_as: Option<OnPhotoOf>,
}

/// Recently drawn faces: front, side and top, small and large.
#[derive(Debug, Default)]
pub struct Fronts(Lately<FrontOf, Front>);

impl Fronts {
    pub fn front(
        &self,
        elevation: &Elevation,
        view: View,
        size: (u32, u32),
        closer: Closer,
        fineness: Fineness,
        photo: Option<&Photographed>,
    ) -> Result<Arc<Front>, Problem> {
        let face = elevation
            .face(view)
            .ok_or_else(|| Problem::field("?view", "this piece has no such view; use front"))?;
        let carved_as = photo.map(|photo| photo.of.clone());
        self.0.get(FrontOf { face: face.clone(), size, closer, carved_as }, fineness, || {
            let carving = photo.map(|photo| photo.on.carving(view)).unwrap_or_default();
            Front::carved(face, size, closer, fineness, &carving)
                .map_err(|error| Problem::field("?width", error))
        })
    }
}

/// What a flat picture of a face was drawn from.
#[derive(Debug, Clone, PartialEq)]
pub struct FlatOf {
    /// What all faces share: the form of the piece, the layers over everything, the boards.
    pub around: Arc<Vec<u8>>,
    /// What the zones of this face wear.
    pub wears: Vec<u8>,
    pub shelf: FileState,
    pub look: Look,
    pub shading: Shading,
    pub view: View,
    /// Whether with its patterns.
    pub patterned: bool,
    pub size: (u32, u32),
    pub fineness: Fineness,
    /// The photo whose carving it has.
    pub carved_as: Option<OnPhotoOf>,
}

/// Room for the faces of one piece in a large window, bytes.
const FLATS: usize = 24 << 20;

impl Bulky for Picture {
    fn bytes(&self) -> usize {
        self.rgb.len()
    }
}

/// What a photo of a piece was prepared from: its marks and the dimensions of the piece, and its width.
#[derive(Debug, Clone, PartialEq)]
pub struct OnPhotoOf {
    pub marks: Vec<u8>,
    pub width: u32,
}

/// A photo of a piece, prepared.
#[derive(Debug)]
pub struct Photographed {
    pub of: OnPhotoOf,
    pub on: Arc<OnPhoto>,
}

/// Room for one photo at the sizes of one screen, bytes.
const ON_PHOTOS: usize = 40 << 20;

impl Bulky for OnPhoto {
    fn bytes(&self) -> usize {
        self.bytes()
    }
}
