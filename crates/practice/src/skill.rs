//! What is practised.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;

use crate::Difficulty;

/// A skill of the eye.
#[derive(
    Debug,
    Clone,
    Copy,
    PartialEq,
    Eq,
    Hash,
    PartialOrd,
    Ord,
    Serialize,
    Deserialize,
    strum::IntoStaticStr,
    strum::VariantArray,
)]
#[serde(rename_all = "kebab-case")]
#[strum(serialize_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum EyeSkill {
    /// Which of two is lighter, and by how many shades.
    Lighter,
    /// Which of two is warmer.
    Warmer,
    /// In which parts two paints were mixed.
    Parts,
    /// What lies halfway between two colours.
    Halfway,
    /// What a wet colour dries to.
    Drying,
    /// What a colour under a bulb is in daylight.
    Light,
    /// Which of two pairs goes muddy.
    Mud,
    /// Which glaze was 4 : 1.
    Strip,
    /// In which order layers lie.
    Layers,
    /// In which order work is done.
    Steps,
    /// Why something went wrong.
    Trouble,
}

impl EyeSkill {
    /// All skills, in the order in which they are listed.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// `lighter` …
    pub fn id(self) -> &'static str {
        self.into()
    }

    /// Finds a skill by its id.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|skill| skill.id() == id)
    }

    /// Name, as a painter says it.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Lighter => "Lighter or darker",
            Self::Warmer => "Warmer or cooler",
            Self::Parts => "Parts of a mix",
            Self::Halfway => "Halfway between",
            Self::Drying => "Wet to dry",
            Self::Light => "What the light did",
            Self::Mud => "What goes muddy",
            Self::Strip => "Strength of a glaze",
            Self::Layers => "Order of layers",
            Self::Steps => "Order of work",
            Self::Trouble => "What went wrong",
        }
    }

    /// Size of what is to be seen at a level, in the unit of the skill: halves with every two levels from `first`.
    fn size_from(first: f64, least: f64, level: Difficulty) -> f64 {
        (first * 2f64.powf(-f64::from(level.value()) / 2.0)).max(least)
    }

    /// Size of what is to be told apart at a level: L*, ΔE00 or chroma for colours, a ratio's distance from 1 for a glaze, and
    /// for orders how many steps what was exchanged lies apart. The least sizes are still visible on a screen of eight bits.
    pub fn size(self, level: Difficulty) -> f64 {
        match self {
            Self::Lighter => Self::size_from(12.0, 0.7, level),
            Self::Warmer => Self::size_from(14.0, 0.8, level),
            Self::Halfway | Self::Drying | Self::Light => Self::size_from(12.0, 0.9, level),
            Self::Mud => Self::size_from(16.0, 1.5, level),
            Self::Strip => Self::size_from(3.0, 0.25, level),
            Self::Parts => Self::size_from(4.0, 1.0, level).round(),
            Self::Layers | Self::Steps | Self::Trouble => Self::size_from(3.0, 1.0, level).round(),
        }
    }

    /// What somebody with this threshold can do: `sees half a shade`; empty where only right and wrong count. The size of a shade is in
    /// L*; differences of another kind are given as shades of the same size.
    pub fn can(self, level: Difficulty, shade: f64) -> String {
        let size = self.size(level);
        let shades = shades(size / shade);
        match self {
            Self::Lighter => format!("sees {shades}"),
            Self::Warmer | Self::Halfway | Self::Drying | Self::Light => format!("within {shades}"),
            Self::Mud => format!("sees colour dulled by {shades}"),
            Self::Strip => format!("tells 4 : 1 from {} : 1", tenths(4.0 * (1.0 + size))),
            Self::Parts | Self::Layers | Self::Steps | Self::Trouble => String::new(),
        }
    }
}

/// A number of shades as a painter says it: fractions below one and a half, whole shades above.
fn shades(value: f64) -> String {
    match value {
        v if v < 0.225 => "a fifth of a shade".to_owned(),
        v if v < 0.29 => "a quarter of a shade".to_owned(),
        v if v < 0.41 => "a third of a shade".to_owned(),
        v if v < 0.6 => "half a shade".to_owned(),
        v if v < 0.85 => "three quarters of a shade".to_owned(),
        v if v < 1.25 => "a shade".to_owned(),
        v if v < 1.75 => "a shade and a half".to_owned(),
        v => format!("{v:.0} shades"),
    }
}

fn tenths(value: f64) -> String {
    if value < 3.0 { format!("{value:.1}") } else { format!("{value:.0}") }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn questions_never_become_easier_with_the_level() {
        for skill in EyeSkill::ALL {
            let sizes: Vec<f64> = (0..=Difficulty::HARDEST.value())
                .map(|n| skill.size(Difficulty::try_from(n).unwrap()))
                .collect();
            assert!(
                sizes.windows(2).all(|pair| pair[1] <= pair[0]) && sizes[12] > 0.0,
                "{skill:?} {sizes:?}"
            );
            assert_eq!(EyeSkill::find(skill.id()), Some(skill));
        }
    }

    #[test]
    fn differences_are_given_in_shades() {
        let can = |skill: EyeSkill, level: u8| skill.can(Difficulty::try_from(level).unwrap(), 6.0);
        assert_eq!(can(EyeSkill::Lighter, 0), "sees 2 shades");
        assert_eq!(can(EyeSkill::Lighter, 2), "sees a shade");
        assert_eq!(can(EyeSkill::Warmer, 4), "within half a shade");
        assert_eq!(can(EyeSkill::Drying, 12), "within a fifth of a shade");
        assert_eq!(can(EyeSkill::Strip, 4), "tells 4 : 1 from 7 : 1");
        assert_eq!(can(EyeSkill::Parts, 4), "");
    }
}
