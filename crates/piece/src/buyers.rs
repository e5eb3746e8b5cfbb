//! How soon a palette finds a buyer: quiet neutrals sell soon and anywhere, vivid colours have to wait for theirs (common
//! practice†).

use crate::ZoneSeen;
use crate::cohesion::{About, Finding, Pair};

/// Up to which mean chroma by area, C*ab, a palette is quiet, and from which it is vivid†.
const CHROMA: (f64, f64) = (18.0, 34.0);
/// From which mean contrast of neighbours, ΔE00, even greys are bold†.
const BOLD: f64 = 38.0;

/// The finding; `None` if nothing is painted.
pub fn buyers(zones: &[ZoneSeen], pairs: &[Pair]) -> Option<Finding> {
    let painted = || zones.iter().filter(|seen| seen.painted);
    let area: f64 = painted().map(|seen| seen.extent.area).sum();
    if area <= 0.0 {
        return None;
    }
    let chroma = painted().map(|seen| seen.extent.area * seen.lab.chroma()).sum::<f64>() / area;
    let length: f64 = pairs.iter().map(|pair| pair.length).sum();
    let contrast = pairs.iter().map(|pair| pair.length * pair.contrast).sum::<f64>() / length.max(1e-9);
    let what = if chroma > CHROMA.1 || contrast > BOLD {
        "Vivid or bold: slow to sell, needs the right buyer"
    } else if chroma > CHROMA.0 {
        "Coloured but calm: sells, though not to everyone"
    } else {
        "Quiet: sells quickly, anywhere"
    };
    let from = format!(
        "average chroma {chroma:.0}, average contrast of adjoining parts {contrast:.0} (ΔE00); common practice"
    );
    Some(Finding { about: About::Buyers, weight: 0.0, what: what.to_owned(), from, zones: Vec::new() })
}
