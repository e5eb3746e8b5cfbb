//! The contents of a pot as the rules of the trade see them: products and parts, without colours.

use crate::{Base, Class, Specials};

/// A product: its class, and what its tin states where that differs.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Product {
    /// Kind of product.
    pub class: Class,
    /// What the tin itself states.
    pub specials: Specials,
}

/// Products in a pot with their parts by volume, in the order in which they were poured.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Contents(Vec<(Product, f64)>);

impl From<Class> for Product {
    /// A product whose tin states nothing beyond its class.
    fn from(class: Class) -> Self {
        Self { class, specials: Specials::default() }
    }
}

impl Product {
    /// What thins it, as the tin states; otherwise as usual for its class†.
    pub fn base(&self) -> Base {
        match (self.class.base(), self.specials.solvent_borne) {
            (_, Some(false)) => Base::Water,
            (Base::Water, Some(true)) => Base::Oil,
            (usual, _) => usual,
        }
    }

    /// True if it dries by giving off solvent rather than water, as the tin states; otherwise as usual for its class†.
    pub fn is_solvent_borne(&self) -> bool {
        self.base() != Base::Water
    }

    /// True if it keeps tannin and old stain from bleeding through, as the tin states; otherwise true of primer and
    /// shellac†.
    pub fn blocks_stains(&self) -> bool {
        self.specials.blocks_stains.unwrap_or(matches!(self.class, Class::Primer | Class::Shellac))
    }
}

impl FromIterator<(Product, f64)> for Contents {
    fn from_iter<T: IntoIterator<Item = (Product, f64)>>(parts: T) -> Self {
        Self(parts.into_iter().collect())
    }
}

impl From<Option<Class>> for Contents {
    /// One product by its class; an empty pot for `None`.
    fn from(class: Option<Class>) -> Self {
        class.into_iter().map(|class| (Product::from(class), 1.0)).collect()
    }
}

impl From<&[(Class, f64)]> for Contents {
    /// Parts by class, of tins that state nothing beyond it.
    fn from(parts: &[(Class, f64)]) -> Self {
        parts.iter().map(|(class, parts)| (Product::from(*class), *parts)).collect()
    }
}

impl Contents {
    /// Parts by class.
    pub fn classes(&self) -> Vec<(Class, f64)> {
        self.0.iter().map(|(product, parts)| (product.class, *parts)).collect()
    }

    /// True if the pot holds any of a class.
    pub fn has(&self, class: Class) -> bool {
        self.0.iter().any(|(product, _)| product.class == class)
    }

    /// True if the pot holds any wax, clear or coloured.
    pub fn has_wax(&self) -> bool {
        self.0.iter().any(|(product, _)| product.class.is_wax())
    }

    /// Share, 0 to 1, of products that satisfy a condition in what remains once water has evaporated; 0 for an empty pot.
    pub fn share(&self, of: impl Fn(&Product) -> bool) -> f64 {
        let sum = |of: &dyn Fn(&Product) -> bool| -> f64 {
            self.0.iter().filter(|(product, _)| of(product)).map(|(_, parts)| parts).sum()
        };
        let all = sum(&|product| product.class != Class::Water);
        if all > 0.0 { sum(&|product| product.class != Class::Water && of(product)) / all } else { 0.0 }
    }

    /// True if products that satisfy a condition make up more than half of what remains once water has evaporated.
    pub fn is_mostly(&self, of: impl Fn(&Product) -> bool) -> bool {
        self.share(of) > 0.5
    }

    /// True if it dries by giving off solvent.
    pub fn is_solvent_borne(&self) -> bool {
        self.is_mostly(Product::is_solvent_borne)
    }

    /// True if it keeps tannin and old stain from bleeding through.
    pub fn blocks_stains(&self) -> bool {
        self.is_mostly(Product::blocks_stains)
    }

    /// The class with the most parts; the first of equals.
    pub fn main_class(&self) -> Option<Class> {
        let parts = |class| self.0.iter().filter(|(product, _)| product.class == class).map(|(_, p)| p).sum();
        let mut best: Option<(Class, f64)> = None;
        for (Product { class, .. }, _) in &self.0 {
            let sum: f64 = parts(*class);
            if best.is_none_or(|(_, most)| sum > most) {
                best = Some((*class, sum));
            }
        }
        best.map(|(class, _)| class)
    }

    /// Longest open time that any tin in it states, minutes.
    pub fn open_minutes(&self) -> Option<f64> {
        self.0.iter().filter_map(|(product, _)| product.specials.open_minutes).reduce(f64::max)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        /// Shares of a condition and of its opposite make the whole, whatever is poured; water counts for neither.
        #[test]
        fn shares_make_the_whole(parts in proptest::collection::vec((0..Class::ALL.len(), 0.1..9.0f64), 1..6)) {
            let pot: Contents = parts.iter().map(|(at, n)| (Product::from(Class::ALL[*at]), *n)).collect();
            let dry = parts.iter().any(|(at, _)| Class::ALL[*at] != Class::Water);
            let sum = pot.share(Product::is_solvent_borne) + pot.share(|product| !product.is_solvent_borne());
            let whole = f64::from(u8::from(dry));
            prop_assert!((sum - whole).abs() < 1e-12);
            prop_assert!(pot.main_class().is_some());
        }
    }

    /// A tin is believed before its class: a water-based wax, a primer that blocks nothing.
    #[test]
    fn the_tin_is_believed_before_its_class() {
        let stated = |class, solvent_borne, blocks_stains| Product {
            class,
            specials: Specials { solvent_borne, blocks_stains, ..Specials::default() },
        };
        assert!(Product::from(Class::ClearWax).is_solvent_borne());
        assert!(!stated(Class::ClearWax, Some(false), None).is_solvent_borne());
        assert!(Product::from(Class::Primer).blocks_stains());
        assert!(!stated(Class::Primer, None, Some(false)).blocks_stains());
        let pot: Contents = [(stated(Class::Primer, Some(true), None), 3.0), (Class::Water.into(), 9.0)]
            .into_iter()
            .collect();
        assert!(pot.is_solvent_borne() && pot.blocks_stains() && pot.main_class() == Some(Class::Water));
        assert_eq!(Contents::default().main_class(), None);
    }
}
