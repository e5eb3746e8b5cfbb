//! What is left of a finished pot, kept in a jar.
//!
//! Nothing is lost and nothing comes from nowhere: what was poured is what went onto the work when the jar was filled,
//! what was taken from the jar since, and what is left in it.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use strum::VariantArray as _;
use uuid::Uuid;
use warm_blend_paint::{BadMeasure, Name, quantity::in_range};

/// Greatest volume of a pot, ml.
pub(crate) const LARGEST: f64 = 100_000.0;
/// Least that is worth a jar, and least that can be taken from one, ml.
const LEAST: f64 = 0.005;
/// What is shown is rounded: an amount that differs from all there is by no more than this, ml, or by this share of it, is all of it.
const ROUNDED: (f64, f64) = (0.5, 0.05);
/// Below this a jar is empty, ml.
const EMPTY: f64 = 1e-6;

/// What was noticed about a jar.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, strum::VariantArray)]
#[serde(rename_all = "kebab-case")]
pub enum JarSign {
    /// The lid does not close tightly.
    LooseLid,
    /// It stood in frost.
    Frost,
    /// There is a skin on the paint.
    Skin,
    /// It smells sour or foul.
    Smell,
}

/// An amount taken from a jar.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct JarUse {
    /// Chosen by the client, so that a repeated request is recorded once.
    pub id: Uuid,
    /// Time.
    pub at: Timestamp,
    /// Amount, ml.
    pub ml: f64,
}

/// A jar as it is written in a file.
#[derive(Deserialize)]
struct AsWritten {
    filled_at: Timestamp,
    filled: f64,
    #[serde(default)]
    client: Option<Name>,
    #[serde(default)]
    signs: Vec<JarSign>,
    #[serde(default)]
    uses: Vec<JarUse>,
    #[serde(default)]
    gone_at: Option<Timestamp>,
}

impl TryFrom<AsWritten> for Jar {
    type Error = BadJar;

    fn try_from(written: AsWritten) -> Result<Self, BadJar> {
        let AsWritten { filled_at, filled, client, signs, uses, gone_at } = written;
        let filled = in_range(filled, LEAST, LARGEST).map_err(BadJar::Amount)?;
        if uses.len() > Jar::MOST_USES {
            return Err(BadJar::TooOften);
        }
        for one in &uses {
            in_range(one.ml, EMPTY, LARGEST).map_err(BadJar::Amount)?;
        }
        let jar = Self { filled_at, filled, client, signs, uses, gone_at };
        let asked = jar.used();
        if asked > filled + EMPTY {
            return Err(BadJar::MoreThanLeft { asked, left: filled });
        }
        Ok(jar)
    }
}

/// A jar.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(try_from = "AsWritten")]
pub struct Jar {
    /// When it was filled.
    pub filled_at: Timestamp,
    /// Amount that was filled in, ml.
    filled: f64,
    /// Client it is kept for.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub client: Option<Name>,
    /// What was noticed about it.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub signs: Vec<JarSign>,
    /// Amounts taken from it, earliest first.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    uses: Vec<JarUse>,
    /// When it was thrown away, if it was.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub gone_at: Option<Timestamp>,
}

/// What a jar does not allow.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum BadJar {
    /// An amount that no jar holds.
    #[error("amount in ml: {0}")]
    Amount(BadMeasure),
    /// More than can be left of the pot.
    #[error("at most {most:.1} ml can be left of this pot; enter what is really in the jar")]
    MoreThanPoured {
        /// Most that can be left, ml.
        most: f64,
    },
    /// More than is in the jar.
    #[error("can’t take {asked:.1} ml out of {left:.1} ml; take less, or correct what is in the jar")]
    MoreThanLeft {
        /// What was to be taken, ml.
        asked: f64,
        /// What is left, ml.
        left: f64,
    },
    /// Too many uses.
    #[error("the most is {most} entries; correct what is in the jar instead", most = Jar::MOST_USES)]
    TooOften,
    /// The pot is still being poured.
    #[error("finish pouring first, then keep the rest in a jar")]
    StillOpen,
    /// There is no jar.
    #[error("nothing of this pot is kept in a jar")]
    None,
    /// It was thrown away.
    #[error("this jar was thrown away; undo that first")]
    Gone,
}

impl JarSign {
    /// All signs, in the order in which they are offered.
    pub const ALL: [JarSign; JarSign::VARIANTS.len()] = *JarSign::VARIANTS.as_array().unwrap();

    /// Id: `loose-lid`.
    pub const fn id(self) -> &'static str {
        match self {
            JarSign::LooseLid => "loose-lid",
            JarSign::Frost => "frost",
            JarSign::Skin => "skin",
            JarSign::Smell => "smell",
        }
    }

    /// Name on the screen.
    pub const fn name(self) -> &'static str {
        match self {
            JarSign::LooseLid => "Loose lid",
            JarSign::Frost => "Stood in frost",
            JarSign::Skin => "Skin on top",
            JarSign::Smell => "Smells off",
        }
    }
}

impl Jar {
    /// Greatest number of uses.
    pub const MOST_USES: usize = 300;

    /// Fills a jar with some of what was poured, ml.
    pub(crate) fn filled(ml: f64, poured: f64, at: Timestamp) -> Result<Self, BadJar> {
        let filled = up_to(ml, poured)?;
        Ok(Self { filled_at: at, filled, client: None, signs: Vec::new(), uses: Vec::new(), gone_at: None })
    }

    /// Corrects what is left in it, ml, of a pot of so much.
    pub(crate) fn corrected(self, left: f64, poured: f64) -> Result<Self, BadJar> {
        let used = self.used();
        Ok(Self { filled: up_to(left, poured - used)? + used, ..self })
    }

    /// Takes some out. Repeating a use changes nothing.
    pub(crate) fn with_use(mut self, taken: JarUse) -> Result<Self, BadJar> {
        if self.uses.iter().any(|known| known.id == taken.id) {
            return Ok(self);
        }
        if self.gone_at.is_some() {
            return Err(BadJar::Gone);
        }
        if self.uses.len() >= Self::MOST_USES {
            return Err(BadJar::TooOften);
        }
        let left = self.left();
        let ml = in_range(taken.ml, LEAST, f64::MAX).map_err(BadJar::Amount)?;
        let ml = if (ml - left).abs() <= rounded(left) { left } else { ml };
        if ml > left || left <= EMPTY {
            return Err(BadJar::MoreThanLeft { asked: ml, left });
        }
        self.uses.push(JarUse { ml, ..taken });
        Ok(self)
    }

    /// Undoes a use, if it is known.
    pub(crate) fn without_use(mut self, taken: Uuid) -> Self {
        self.uses.retain(|known| known.id != taken);
        self
    }

    /// Amount that was filled in, ml.
    pub fn filled_ml(&self) -> f64 {
        self.filled
    }

    /// Amounts taken from it, earliest first.
    pub fn uses(&self) -> &[JarUse] {
        &self.uses
    }

    fn used(&self) -> f64 {
        self.uses.iter().map(|one| one.ml).sum::<f64>().max(0.0)
    }

    /// Amount left in it, ml; 0 once it was thrown away.
    pub fn left(&self) -> f64 {
        match self.gone_at {
            Some(_) => 0.0,
            None => (self.filled - self.used()).max(0.0),
        }
    }

    /// True if there is nothing in it, or it was thrown away.
    pub fn is_empty(&self) -> bool {
        self.left() <= EMPTY
    }
}

fn rounded(ml: f64) -> f64 {
    ROUNDED.0.min(ROUNDED.1 * ml)
}

/// An amount that is no more than what there can be.
fn up_to(ml: f64, most: f64) -> Result<f64, BadJar> {
    let ml = in_range(ml, LEAST, f64::MAX).map_err(BadJar::Amount)?;
    if ml > most + rounded(most) {
        Err(BadJar::MoreThanPoured { most: most.max(0.0) })
    } else {
        Ok(ml.min(most))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// What a file says of a jar is checked like what a painter enters.
    #[test]
    fn a_jar_that_cannot_be_is_not_read() {
        let read =
            |jar: &str| serde_json::from_str::<Jar>(jar).map(|jar| jar.left()).map_err(|e| e.to_string());
        let at = r#""filled_at":"2026-11-30T09:00:00Z""#;
        let taken = |ml: &str| {
            format!(r#""uses":[{{"id":"{}","at":"2026-11-30T09:00:00Z","ml":{ml}}}]"#, Uuid::nil())
        };
        assert_eq!(read(&format!(r#"{{{at},"filled":40,{}}}"#, taken("15"))), Ok(25.0));
        // As exactly as it was written, also where it is nearly all.
        assert_eq!(read(&format!(r#"{{{at},"filled":15.25,{}}}"#, taken("15"))), Ok(0.25));
        assert!(read(&format!(r#"{{{at},"filled":40,{}}}"#, taken("41"))).is_err());
        for wrong in ["-1", "0", "1e300", "null", "\"40\""] {
            assert!(read(&format!(r#"{{{at},"filled":{wrong}}}"#)).is_err(), "{wrong}");
            assert!(read(&format!(r#"{{{at},"filled":40,{}}}"#, taken(wrong))).is_err(), "{wrong}");
        }
        assert!(read(&format!(r#"{{{at},"filled":40,"signs":["rust"]}}"#)).is_err());
    }
}
