//! What each state looks like on a screen, and how it changes where its films run thicker or thinner.

use warm_blend_board::{AreaState, Place, Present, Stack};
use warm_blend_paint::{Seen, State};
use warm_blend_spectral::Light;

/// A film that pools is so much thicker, and where it runs off as much thinner†.
const POOLS: f64 = 1.8;

/// Linear sRGB channels.
pub(crate) type Linear = [f32; 3];

/// One state on a screen.
#[derive(Debug, Clone, Copy, Default)]
pub(crate) struct Tone {
    pub usual: Linear,
    /// What is added where films pool fully, and where they are thinnest.
    pub thick: Linear,
    pub thin: Linear,
    /// Share of flakes.
    pub lustre: f32,
}

/// The tones of a group's states, in their order.
pub(crate) fn tones(
    stack: &Stack,
    place: Place,
    layers: usize,
    present: &[Present],
    light: Light,
    state: State,
) -> Vec<Tone> {
    let (thicker, thinner) = (stack.with_films(POOLS), stack.with_films(1.0 / POOLS));
    let seen = |stack: &Stack| stack.seen(place, layers, state).states;
    let (usual, thick, thin) = (seen(stack), seen(&thicker), seen(&thinner));
    let tone = |of: &Present| {
        let at = |states: &[AreaState]| {
            let found = states.iter().find(|state| state.present == *of)?;
            Some((Seen::linear(&found.seen, light).map(|c| c as f32), found.lustre as f32))
        };
        let (here, lustre) = at(&usual)?;
        let less = |other: Option<(Linear, f32)>| {
            other.map_or([0.0; 3], |(other, _)| std::array::from_fn(|c| other[c] - here[c]))
        };
        Some(Tone { usual: here, thick: less(at(&thick)), thin: less(at(&thin)), lustre })
    };
    present.iter().map(|of| tone(of).unwrap_or_default()).collect()
}
