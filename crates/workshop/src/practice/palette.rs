//! Paints that questions are made of.

use rand::Rng as _;
use rand_chacha::ChaCha8Rng;
use warm_blend_paint::{CHART, Class, Look, Masstone, Material};
use warm_blend_spectral::Lab;

use super::question::is_shown;
use crate::{Refusal, ShelfSnapshot};

/// Fewest paints of a shelf that questions can be made of.
const ENOUGH: usize = 4;

/// A paint that questions are made of.
pub(super) struct Tin {
    /// Its name.
    pub name: String,
    /// What it most probably is.
    pub material: Material,
    /// Its colour, dry in daylight.
    pub lab: Lab,
}

/// Paints that a screen can show.
pub(super) struct Palette {
    /// At least four.
    pub tins: Vec<Tin>,
    /// True if they are those of the chart.
    pub from_chart: bool,
}

impl Palette {
    /// The paints of a shelf, or those of the chart where it has too few.
    pub fn of(shelf: &ShelfSnapshot) -> Result<Self, Refusal> {
        let own =
            shelf.tins().filter(|tin| !tin.value.class.is_medium() && tin.value.class != Class::Metallic);
        let own = own.map(|tin| {
            let material = shelf.paint(tin.id)?.best().clone();
            Ok(Tin {
                name: tin.value.name.as_str().to_owned(),
                lab: Look::default().lab(&material),
                material,
            })
        });
        let own = own.collect::<Result<Vec<_>, Refusal>>()?;
        let own: Vec<Tin> = own.into_iter().filter(|tin| is_shown(tin.lab)).collect();
        if own.len() >= ENOUGH {
            return Ok(Self { tins: own, from_chart: false });
        }
        Ok(Self::chart())
    }

    /// The colours of the chart, as chalk-type paints.
    pub fn chart() -> Self {
        let of_chart = CHART.into_iter().filter_map(|row| {
            let material = Material::of(Class::Chalk, Some(Masstone::Hex(row.colour)), None).ok()?;
            Some(Tin { name: row.name.to_owned(), lab: Look::default().lab(&material), material })
        });
        Self { tins: of_chart.filter(|tin| is_shown(tin.lab)).collect(), from_chart: true }
    }

    /// A paint by chance.
    pub fn any(&self, chance: &mut ChaCha8Rng) -> &Tin {
        &self.tins[chance.random_range(0..self.tins.len())]
    }

    /// Two different paints by chance.
    pub fn two(&self, chance: &mut ChaCha8Rng) -> (&Tin, &Tin) {
        let one = chance.random_range(0..self.tins.len());
        let other = (one + chance.random_range(1..self.tins.len())) % self.tins.len();
        (&self.tins[one], &self.tins[other])
    }
}
