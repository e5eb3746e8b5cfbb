//! The colour reader at hand. Only a simulated one ships: it reads virtual tins that stand behind the painter's own, made
//! of invented pigments, whose inside the engine never sees.

use std::sync::{Arc, Mutex, PoisonError};

use warm_blend_finish::device::{ColourReader, ReaderTrouble};
use warm_blend_finish::learn::{Measured, Shown};
use warm_blend_finish::{Microns, Parts, ShelfPaint, State};
use warm_blend_sim::{Sample, SimulatedReader, VirtualPaint, Window};
use warm_blend_store::{Id, Kept};

/// What is laid out for the reader.
#[derive(Debug, Clone)]
pub struct LaidOut {
    /// The tins and their parts.
    pub of: Vec<(Kept<ShelfPaint>, Parts)>,
    /// Wet, dry or sealed.
    pub state: State,
    /// Wet thickness of a drawdown over black and white; None of a thick sample.
    pub wet: Option<Microns>,
}

/// A reader that requests take turns with.
#[derive(Debug, Clone)]
pub struct ReaderAtHand {
    reader: Arc<Mutex<SimulatedReader>>,
}

impl Default for ReaderAtHand {
    fn default() -> Self {
        Self { reader: Arc::new(Mutex::new(SimulatedReader::new(0x0a7, true))) }
    }
}

/// The same id gives the same virtual tin, in every run.
fn seed(id: Id) -> u64 {
    let whole = id.as_u128();
    (whole ^ (whole >> 64)) as u64
}

fn behind(tin: &Kept<ShelfPaint>) -> Option<VirtualPaint> {
    let name = tin.value.name.as_str();
    match tin.value.masstone {
        Some(masstone) => Some(VirtualPaint::behind(name, tin.value.class, masstone.lab(), seed(tin.id))),
        None => VirtualPaint::medium(name, tin.value.class),
    }
}

impl ReaderAtHand {
    /// Its name.
    pub fn name(&self) -> String {
        self.reader.lock().unwrap_or_else(PoisonError::into_inner).name().to_owned()
    }

    /// Sets it right on its white tile and wipes its window.
    pub fn calibrate(&self) -> Result<(), ReaderTrouble> {
        let mut reader = self.reader.lock().unwrap_or_else(PoisonError::into_inner);
        reader.set_window(Window::Clean);
        reader.calibrate()
    }

    /// Reads a sample at three places; `smeared` puts a smear of white on the window first. A spectrum, or only the colour.
    pub fn read(&self, laid_out: &LaidOut, smeared: bool, spectrum: bool) -> Result<Shown, ReaderTrouble> {
        let tins: Vec<(Parts, VirtualPaint)> = laid_out
            .of
            .iter()
            .map(|(tin, parts)| Some((*parts, behind(tin)?)))
            .collect::<Option<_>>()
            .ok_or(ReaderTrouble::NothingUnderIt)?;
        let stirred: Vec<(Parts, &VirtualPaint)> = tins.iter().map(|(parts, tin)| (*parts, tin)).collect();
        let mut reader = self.reader.lock().unwrap_or_else(PoisonError::into_inner);
        reader.set_window(if smeared { Window::Smeared } else { Window::Clean });
        let mut read = |sample: Option<Sample>| {
            reader.put_on(sample.ok_or(ReaderTrouble::NothingUnderIt)?);
            let measured = reader.read_sample()?;
            Ok(if spectrum { measured } else { Measured::Colour(measured.lab()) })
        };
        match laid_out.wet {
            None => Ok(Shown::Thick(read(Sample::thick(&stirred, laid_out.state))?)),
            Some(wet) => {
                let [black, white] = Sample::drawdown(&stirred, wet).ok_or(ReaderTrouble::NothingUnderIt)?;
                Ok(Shown::Drawdown { wet, over_black: read(Some(black))?, over_white: read(Some(white))? })
            }
        }
    }
}
