//! The colour reader. Only a simulated one ships: it reads virtual tins behind the painter's own, made of invented
//! pigments that the engine never sees.

use std::{
    collections::HashMap,
    sync::{
        Arc, Mutex, PoisonError,
        atomic::{AtomicU64, Ordering},
    },
};

use warm_blend_board::{Board, Letter, Place};
use warm_blend_device::{ColourReader, ReaderTrouble};
use warm_blend_learn::{Measured, PRACTICE_READER, ShelfPaint, Shown};
use warm_blend_paint::{CoatsToHide, FilmState, Microns, PaintId, Parts};
use warm_blend_sim::{SimulatedReader, VirtualHand, VirtualPaint, VirtualSample, Window};

/// A sample for the reader.
#[derive(Debug, Clone)]
pub struct LaidOut {
    /// Tins and parts.
    pub of: Vec<(ShelfPaint, Parts)>,
    /// State of the film.
    pub state: FilmState,
    /// Wet thickness of a drawdown over black and white; `None` for a thick sample.
    pub wet: Option<Microns>,
}

/// The colour reader, shared by all requests.
#[derive(Debug, Clone)]
pub struct ReaderAtHand {
    reader: Arc<Mutex<SimulatedReader>>,
    tins: Arc<Mutex<Tins>>,
    /// Number of board spots read so far; no two are exactly alike.
    spots: Arc<AtomicU64>,
    /// True for the reader of the demo; elsewhere its readings are practice.
    of_demo: bool,
}

/// Seed of the virtual painter.
const PAINTER: u64 = 0xb0a2d;

impl Default for ReaderAtHand {
    fn default() -> Self {
        Self {
            reader: Arc::new(Mutex::new(SimulatedReader::new(0x0a7, true))),
            tins: Arc::default(),
            spots: Arc::default(),
            of_demo: false,
        }
    }
}

/// Virtual tins, which take milliseconds to make up.
#[derive(Debug, Default)]
struct Tins(HashMap<u64, VirtualPaint>);

/// Greatest number of virtual tins kept.
const MOST_TINS: usize = 500;

impl Tins {
    /// The virtual tin behind a painter's own; the same facts give the same tin in every run.
    fn behind(&mut self, tin: &ShelfPaint) -> Option<VirtualPaint> {
        let name = tin.name.as_str();
        let Some(masstone) = tin.masstone else { return VirtualPaint::medium(name, tin.class) };
        let lab = masstone.lab();
        let mut seed = tin.class as u64;
        for part in [lab.l, lab.a, lab.b] {
            // Rounded to a tenth, so that a code and the Lab shown for it give one paint.
            seed = seed.wrapping_mul(1_000_003).wrapping_add(((part + 200.0) * 10.0).round() as u64);
        }
        let coats = tin.coats_to_hide.map_or(0.0, CoatsToHide::value);
        seed = seed.wrapping_mul(1_000_003).wrapping_add((coats * 100.0).round() as u64);
        if self.0.len() >= MOST_TINS {
            self.0.clear();
        }
        let made = self
            .0
            .entry(seed)
            .or_insert_with(|| VirtualPaint::behind(name, tin.class, lab, tin.coats_to_hide, seed));
        Some(made.clone())
    }
}

impl ReaderAtHand {
    /// The reader of the demo, whose tins are invented too.
    pub fn of_demo() -> Self {
        Self { of_demo: true, ..Self::default() }
    }

    /// True if its readings say nothing about the painter's own tins.
    pub fn is_practice(&self) -> bool {
        !self.of_demo
    }

    /// Name recorded with its readings.
    pub fn name(&self) -> String {
        if self.is_practice() {
            return PRACTICE_READER.to_owned();
        }
        self.reader.lock().unwrap_or_else(PoisonError::into_inner).name().to_owned()
    }

    /// Calibrates it on its white tile and cleans its window.
    pub fn calibrate(&self) -> Result<(), ReaderTrouble> {
        let mut reader = self.reader.lock().unwrap_or_else(PoisonError::into_inner);
        reader.set_window(Window::Clean);
        reader.calibrate()
    }

    /// Reads a spot of a strip, painted by a virtual painter, three times.
    pub fn read_board(
        &self,
        board: &Board,
        letter: Letter,
        (place, state): (Place, FilmState),
        tins: &[(PaintId, ShelfPaint)],
    ) -> Result<Measured, ReaderTrouble> {
        let mut known = self.tins.lock().unwrap_or_else(PoisonError::into_inner);
        let behind = |(paint, tin): &(PaintId, ShelfPaint)| Some((*paint, known.behind(tin)?));
        let behind: HashMap<PaintId, VirtualPaint> =
            tins.iter().map(behind).collect::<Option<_>>().ok_or(ReaderTrouble::NothingUnderIt)?;
        drop(known);
        let seed = self.spots.fetch_add(1, Ordering::Relaxed);
        let painted = VirtualHand::new(PAINTER).paint(board, letter, |paint| behind.get(&paint), seed);
        let mut painted = painted.ok_or(ReaderTrouble::NothingUnderIt)?;
        let mut reader = self.reader.lock().unwrap_or_else(PoisonError::into_inner);
        reader.set_window(Window::Clean);
        reader.put_on(painted.spot(place, state));
        reader.read_sample()
    }

    /// Reads a sample at three places, as a spectrum or as a colour; `smeared` first puts a smear of white on the window.
    pub fn read(&self, laid_out: &LaidOut, smeared: bool, spectrum: bool) -> Result<Shown, ReaderTrouble> {
        let mut known = self.tins.lock().unwrap_or_else(PoisonError::into_inner);
        let tins: Vec<(Parts, VirtualPaint)> = laid_out
            .of
            .iter()
            .map(|(tin, parts)| Some((*parts, known.behind(tin)?)))
            .collect::<Option<_>>()
            .ok_or(ReaderTrouble::NothingUnderIt)?;
        drop(known);
        let stirred: Vec<(Parts, &VirtualPaint)> = tins.iter().map(|(parts, tin)| (*parts, tin)).collect();
        let mut reader = self.reader.lock().unwrap_or_else(PoisonError::into_inner);
        reader.set_window(if smeared { Window::Smeared } else { Window::Clean });
        let mut read = |sample: Option<VirtualSample>| {
            reader.put_on(sample.ok_or(ReaderTrouble::NothingUnderIt)?);
            let measured = reader.read_sample()?;
            Ok(if spectrum { measured } else { Measured::Colour(measured.lab()) })
        };
        match laid_out.wet {
            None => Ok(Shown::Thick(read(VirtualSample::thick(&stirred, laid_out.state))?)),
            Some(wet) => {
                let [black, white] =
                    VirtualSample::drawdown(&stirred, wet).ok_or(ReaderTrouble::NothingUnderIt)?;
                Ok(Shown::Drawdown { wet, over_black: read(Some(black))?, over_white: read(Some(white))? })
            }
        }
    }
}
