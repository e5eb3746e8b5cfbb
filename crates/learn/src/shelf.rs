//! A paint as it stands on the shelf: what the painter knows of it.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use warm_blend_paint::{
    BadPaint, Class, CoatsToHide, Condition, Masstone, Material, Millilitres, Name, Note, Price, Product,
    Specials,
};

use crate::{Facts, Source};

/// A tin on the shelf.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct ShelfPaint {
    /// What the painter calls it.
    pub name: Name,
    /// What kind of product it is.
    pub class: Class,
    /// Its dry colour; a medium needs none.
    pub masstone: Option<Masstone>,
    /// What that colour was taken from.
    #[serde(default)]
    pub source: Source,
    /// How many coats it needs; where unknown, its class says.
    pub coats_to_hide: Option<CoatsToHide>,
    /// What a tin costs.
    pub price: Option<Price>,
    /// What is left.
    pub stock: Option<Millilitres>,
    /// When the tin was opened.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub opened_on: Option<Date>,
    /// Whether it is still good.
    #[serde(default)]
    pub condition: Condition,
    /// The warning on the tin.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub safety: Option<Note>,
    /// What only some classes have.
    #[serde(default)]
    pub specials: Specials,
}

impl ShelfPaint {
    /// What it is as the rules of the trade see it.
    pub const fn product(&self) -> Product {
        Product { class: self.class, specials: self.specials }
    }

    /// What a tin says when only its name, class and colour are known.
    pub fn new(name: Name, class: Class, masstone: Option<Masstone>) -> Self {
        Self {
            name,
            class,
            masstone,
            source: Source::Chip,
            coats_to_hide: None,
            price: None,
            stock: None,
            opened_on: None,
            condition: Condition::Good,
            safety: None,
            specials: Specials::default(),
        }
    }

    /// Price of a millilitre, where it is known; water comes from the tap.
    pub fn price_by_ml(&self) -> Option<f64> {
        match self.class {
            Class::Water => Some(self.price.map_or(0.0, |price| price.by_ml())),
            _ => self.price.map(|price| price.by_ml()),
        }
    }

    /// What the estimate is reported it.
    pub fn facts(&self, house_white: bool) -> Facts {
        Facts {
            class: self.class,
            masstone: self.masstone,
            source: self.source,
            coats_to_hide: self.coats_to_hide,
            lustre: self.specials.lustre,
            house_white,
        }
    }

    /// This tin with what another of the same paint adds to it: its stock, and what was not written down here.
    pub fn merged_with(mut self, other: &ShelfPaint) -> Self {
        let stock =
            [self.stock, other.stock].into_iter().flatten().map(Millilitres::value).reduce(|a, b| a + b);
        // What two tins hold is no more than the most a workshop does, or stays as it was written down.
        self.stock = stock.and_then(|sum| Millilitres::new(sum).ok()).or(self.stock);
        self.masstone = self.masstone.or(other.masstone);
        self.coats_to_hide = self.coats_to_hide.or(other.coats_to_hide);
        self.price = self.price.or(other.price);
        self.safety = self.safety.or_else(|| other.safety.clone());
        self
    }

    /// Mass of a millilitre, g: as it is written on the tin, or what its class usually has.
    pub fn density(&self) -> f64 {
        self.specials.density.unwrap_or(self.class.density())
    }

    /// Its K, S and surface: K/S from the masstone, S from the coats to hide, or else from the class.
    pub fn material(&self) -> Result<Material, BadPaint> {
        Material::of(self.class, self.masstone, self.coats_to_hide)
    }
}
