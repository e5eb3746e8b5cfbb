//! A tin on the shelf, with what the painter knows of it.

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
    /// Name.
    pub name: Name,
    /// Class of product.
    pub class: Class,
    /// Dry colour; a medium needs none.
    pub masstone: Option<Masstone>,
    /// Where that colour is from.
    #[serde(default)]
    pub source: Source,
    /// Coats it needs; `None` for those of its class.
    pub coats_to_hide: Option<CoatsToHide>,
    /// Price of a tin.
    pub price: Option<Price>,
    /// Amount left.
    pub stock: Option<Millilitres>,
    /// When the tin was opened.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub opened_on: Option<Date>,
    /// Condition.
    #[serde(default)]
    pub condition: Condition,
    /// The warning on the tin.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub safety: Option<Note>,
    /// Facts that only some classes have.
    #[serde(default)]
    pub specials: Specials,
}

impl ShelfPaint {
    /// The product as the rules of the trade see it.
    pub const fn product(&self) -> Product {
        Product { class: self.class, specials: self.specials }
    }

    /// A tin of which only name, class and colour are known.
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

    /// Price of a millilitre, if known; water is free.
    pub fn price_by_ml(&self) -> Option<f64> {
        match self.class {
            Class::Water => Some(self.price.map_or(0.0, |price| price.by_ml())),
            _ => self.price.map(|price| price.by_ml()),
        }
    }

    /// The facts that the estimate uses.
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

    /// This tin, completed from another of the same paint: amounts are added, missing facts filled in.
    pub fn merged_with(mut self, other: &ShelfPaint) -> Self {
        let stock =
            [self.stock, other.stock].into_iter().flatten().map(Millilitres::value).reduce(|a, b| a + b);
        // The sum is limited to what a workshop holds; otherwise the entry does not change.
        self.stock = stock.and_then(|sum| Millilitres::new(sum).ok()).or(self.stock);
        self.masstone = self.masstone.or(other.masstone);
        self.coats_to_hide = self.coats_to_hide.or(other.coats_to_hide);
        self.price = self.price.or(other.price);
        self.safety = self.safety.or_else(|| other.safety.clone());
        self
    }

    /// Mass of a millilitre, g: from the tin, or usual for its class.
    pub fn density(&self) -> f64 {
        self.specials.density.unwrap_or(self.class.density())
    }

    /// Its material: K/S from the masstone, S from the coats to hide or else from the class.
    pub fn material(&self) -> Result<Material, BadPaint> {
        Material::of(self.class, self.masstone, self.coats_to_hide)
    }
}
