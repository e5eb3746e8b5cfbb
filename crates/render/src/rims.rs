//! Edges of marks: thresholds of their ranks.
//!
//! Across a soft edge coverage falls from full to none. Whatever a pixel shows of a state counts towards its area, and
//! the threshold is chosen so that the total is exact despite the softness. Where wear goes through several films, the
//! rings in between follow each other by rank, each with its own edge.
//!
//! Within a mark the film becomes thicker or thinner from where paint came first towards the edge.

use warm_blend_piece::{DENSE, SHADED, WISPED};

use crate::press::{BINS, Filled, Pressed};

/// Full coverage of a pixel.
pub(crate) const ALL: u8 = 255;

/// A state that a layer does not divide.
pub(crate) const WHOLE: u16 = u16::MAX;

/// Effect of a layer on a state of a group: the resulting states with their shares, from the lowest ranks on.
pub(crate) type Step = Vec<(u16, f64)>;

/// The edge nearest to a bin of ranks.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Rim {
    /// States inside and outside it; [`WHOLE`] for the previous state.
    pub inside: u16,
    outside: u16,
    /// Share of a pixel inside it, and share inside the mark as a whole.
    pub cover: u8,
    pub within: u8,
    /// Thickness of the film.
    pub film: i8,
}

impl Rim {
    /// No mark.
    pub const NONE: Self = Self { inside: WHOLE, outside: WHOLE, cover: 0, within: 0, film: 0 };

    /// The state outside it, given the previous one.
    #[inline]
    pub fn outside(&self, before: u16) -> u16 {
        if self.outside == WHOLE { before } else { self.outside }
    }
}

/// Writes the edges of a mark by bins of ranks: its outer edge and one around each ring. Does nothing for a mark that
/// covers nothing.
pub(crate) fn tell_rims(rims: &mut [Rim], step: &[(u16, f64)], pressed: Option<&Pressed>, lying: &Lying) {
    let (soft, pattern, swells) =
        pressed.map_or((0.0, None, 0.0), |pressed| (pressed.soft, pressed.pattern, pressed.swells));
    let below = lying.below();
    if below[BINS] == 0 {
        return;
    }
    let up_to: Vec<f64> = step
        .iter()
        .scan(0.0, |up_to, (_, share)| {
            *up_to += share;
            Some(*up_to)
        })
        .collect();
    // A rim fades no further than half-way to the next.
    let hard = |share: &f64| below.partition_point(|lies| (*lies as f64) < share * below[BINS] as f64);
    let hard: Vec<f32> = up_to.iter().map(|share| hard(share) as f32).collect();
    let cut = |(nth, share): (usize, &f64)| {
        let near = hard.windows(2).enumerate().filter(|(gap, _)| *gap == nth || gap + 1 == nth);
        let room = near.map(|(_, rims)| 0.5 * (rims[1] - rims[0]) / BINS as f32);
        Cut::of(*share, (lying, &below), room.fold(soft, f32::min), pattern)
    };
    let cuts: Vec<Cut> = up_to.iter().enumerate().map(cut).collect();
    let rim = |bin: usize| {
        let mark = &cuts[cuts.len() - 1];
        let nearest = cuts.iter().position(|cut| cut.cover(bin) > 0).unwrap_or(cuts.len() - 1);
        let outside = step.get(nearest + 1).map_or(WHOLE, |(state, _)| *state);
        let (cover, within) = (cuts[nearest].cover(bin), mark.cover(bin));
        Rim { inside: step[nearest].0, outside, cover, within, film: mark.film(bin, swells) }
    };
    rims.iter_mut().enumerate().for_each(|(bin, to)| *to = rim(bin));
}

/// Amount of a state in each bin of ranks.
pub(crate) struct Lying {
    /// Pixels that show nothing else.
    pub whole: [u32; BINS],
    /// Coverage of pixels on an edge, [`ALL`] for a full one.
    pub rim: [u32; BINS],
}

impl Lying {
    /// How much lies before each bin, [`ALL`] for a whole pixel.
    fn below(&self) -> Vec<u64> {
        let mut below = vec![0u64; BINS + 1];
        for bin in 0..BINS {
            below[bin + 1] =
                below[bin] + u64::from(self.whole[bin]) * u64::from(ALL) + u64::from(self.rim[bin]);
        }
        below
    }

    pub fn add(&mut self, more: &Self) {
        for bin in 0..BINS {
            self.whole[bin] += more.whole[bin];
            self.rim[bin] += more.rim[bin];
        }
    }
}

impl Default for Lying {
    fn default() -> Self {
        Self { whole: [0; BINS], rim: [0; BINS] }
    }
}

/// Threshold of the ranks of a state.
pub(crate) struct Cut {
    /// Bin at which half is covered, and how many on either side of it until all is, or nothing.
    rim: f32,
    width: f32,
}

impl Cut {
    /// Threshold of a layer that covers everything.
    pub const OF_ALL: Self = Self { rim: BINS as f32, width: 0.5 };

    /// Lays the rim where a share is covered; `soft` is half the rim's width as a share of all ranks. What is repeated lies in its
    /// motifs only.
    fn of(share: f64, (lying, below): (&Lying, &[u64]), soft: f32, pattern: Option<Filled>) -> Self {
        // A rim fades no wider than there is on its narrower side, and within a bin in any case.
        let room = share.min(1.0 - share) as f32;
        let width = (BINS as f32 * soft.min(room)).max(0.5);
        // Of a pattern there is none between the motifs, and of each as much as the paint takes, however many are in the picture.
        let (share, of) = match pattern {
            Some(Filled::FromMiddle) => (DENSE, below[BINS / 2]),
            Some(Filled::InTurn(_)) => (1.0, below[BINS / 2]),
            Some(Filled::InWisps) => (WISPED, below[BINS / 2]),
            Some(Filled::FromEdge) => (SHADED, below[BINS / 2]),
            None => (share, below[BINS]),
        };
        let wanted = (share * of as f64).round() as u64;
        let covered = |cut: &Self| {
            let fades = cut.fades();
            let fading = fades.clone().map(|bin| {
                let cover = cut.cover(bin);
                let rim = if cover > ALL / 2 { lying.rim[bin] } else { 0 };
                u64::from(lying.whole[bin]) * u64::from(cover) + u64::from(rim)
            });
            below[fades.start] + fading.sum::<u64>()
        };
        let (mut low, mut high) = (-width, BINS as f32 + width);
        let mut cut = Self { rim: high, width };
        while high - low > 1.0 / 64.0 {
            cut.rim = 0.5 * (low + high);
            if covered(&cut) < wanted { low = cut.rim } else { high = cut.rim }
        }
        cut.rim = high;
        cut
    }

    /// The bins that are covered in part; those before them are covered.
    fn fades(&self) -> std::ops::Range<usize> {
        let bin = |rank: f32| (rank.max(0.0) as usize).min(BINS);
        bin(self.rim - self.width)..bin(self.rim + self.width + 1.0)
    }

    /// Thickness of the film, −127 to 127, which changes by `swells` from the edge to where paint comes first.
    pub fn film(&self, bin: usize, swells: f32) -> i8 {
        if swells == 0.0 {
            return 0;
        }
        let depth = ((self.rim - bin as f32) / self.rim.max(1.0)).clamp(0.0, 1.0);
        let film = if swells < 0.0 {
            // What dries leaves its rim thickest.
            -swells * (1.5 * (-depth / 0.1).exp() - 0.3)
        } else {
            swells * (1.7 * depth.sqrt() - 1.0)
        };
        (127.0 * film).clamp(-127.0, 127.0) as i8
    }

    /// How much of a pixel is covered.
    fn cover(&self, bin: usize) -> u8 {
        let inside = (self.rim - (bin as f32 + 0.5)) / (2.0 * self.width) + 0.5;
        (f32::from(ALL) * inside + 0.5) as u8
    }
}
