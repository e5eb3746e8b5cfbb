//! Colour of each state on a screen, and its variation where films are thicker or thinner.

use warm_blend_board::{AreaState, Level, Place, Present, Stack};
use warm_blend_paint::{Class, FilmState, Seen};
use warm_blend_spectral::Light;

use crate::Coats;

/// A film that pools is so much thicker, and where it runs off as much thinner†.
const POOLS: f64 = 1.8;

/// Surface reflection of what is dead matt, as chalk-type paint is: the share of it that reaches the eye.
const DEAD_MATT: f64 = Class::Chalk.sheen();

/// From how much of the light on that comes through what lies on wood its grain is seen†.
const CLEAR: f64 = 0.5;

/// Linear sRGB channels.
pub(crate) type Linear = [f32; 3];

/// Appearance of a state on a screen.
#[derive(Debug, Clone, Copy, Default)]
pub(crate) struct Tone {
    pub usual: Linear,
    /// Difference where films pool most, and where they are thinnest.
    pub thick: Linear,
    pub thin: Linear,
    /// Share covered by flakes.
    pub lustre: f32,
    /// Gloss, from 0 (dead matt) to 1.
    pub gloss: f32,
    /// Height of its films above the ground, mm.
    pub height: f32,
    /// True if wood grain shows, bare or through clear films.
    pub bare: bool,
}

/// Tones of the states of a group, in their order.
pub(crate) fn tones(
    coats: &Coats,
    (place, level): (Place, Level),
    present: &[Present],
    light: Light,
    state: FilmState,
) -> Vec<Tone> {
    let Coats { stack, layers, .. } = *coats;
    if !stack.levels(layers).contains(&level) {
        return vec![Tone::default(); present.len()];
    }
    let (thicker, thinner) = (stack.with_films(POOLS), stack.with_films(1.0 / POOLS));
    let seen = |stack: &Stack| stack.seen_at(place, level, layers, state).states;
    let (usual, thick, thin) = (seen(stack), seen(&thicker), seen(&thinner));
    let linear = |state: &AreaState| -> Linear { Seen::linear(&state.seen, light).map(|c| c as f32) };
    let tone = |of: &Present| {
        let at = |states: &[AreaState]| states.iter().find(|state| state.present == *of).map(linear);
        let known = usual.iter().find(|state| state.present == *of)?;
        let here = linear(known);
        let (lustre, gloss) = (known.lustre as f32, (1.0 - known.alpha / DEAD_MATT).clamp(0.0, 1.0) as f32);
        let height = (known.height / 1000.0) as f32;
        let usual = Tone { usual: here, lustre, gloss, height, ..Tone::default() };
        let grain = (stack.grain() * known.see_through) as f32;
        if known.see_through > CLEAR && grain > 0.0 {
            // Dark bands, and light ones between them.
            let by = |change: f32| here.map(|c| c * change);
            return Some(Tone { thick: by(-grain), thin: by(0.4 * grain), bare: true, ..usual });
        }
        let less = |other: Option<Linear>| {
            other.map_or([0.0; 3], |other| std::array::from_fn(|c| other[c] - here[c]))
        };
        Some(Tone { thick: less(at(&thick)), thin: less(at(&thin)), ..usual })
    };
    present.iter().map(|of| tone(of).unwrap_or_default()).collect()
}
