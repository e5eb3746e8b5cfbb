//! A scale under the pot: its protocol, and what was added since the last recorded addition.

use std::fmt;
use std::str::FromStr;

/// A line from a scale: `123.4 g steady` or `123.4 g moving`, about ten a second.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ScaleLine {
    /// Weight shown, g; negative while a tared pot is off the scale.
    pub grams: f64,
    /// True if the weight is steady.
    pub steady: bool,
}

/// A line that cannot be parsed.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum BadLine {
    /// No number where the weight should be.
    #[error(
        "can’t read “{0}” from the scale; it should send a weight such as 123.4 g, then steady or moving"
    )]
    Garbled(String),
    /// Another unit than g.
    #[error("the scale is set to “{0}”; set it to grams")]
    Unit(String),
}

/// Heaviest that a scale line may say, g.
const HEAVIEST: f64 = 1e6;

impl FromStr for ScaleLine {
    type Err = BadLine;

    fn from_str(line: &str) -> Result<Self, BadLine> {
        let garbled = || BadLine::Garbled(line.chars().filter(|c| !c.is_control()).take(40).collect());
        let mut words = line.split_ascii_whitespace();
        let grams: f64 = words.next().and_then(|word| word.parse().ok()).ok_or_else(garbled)?;
        match words.next() {
            Some("g") => {}
            Some(unit) if unit.len() < 8 && unit.is_ascii() => return Err(BadLine::Unit(unit.to_owned())),
            _ => return Err(garbled()),
        }
        let steady = match (words.next(), words.next()) {
            (Some("steady"), None) => true,
            (Some("moving"), None) => false,
            _ => return Err(garbled()),
        };
        if grams.is_finite() && grams.abs() <= HEAVIEST { Ok(Self { grams, steady }) } else { Err(garbled()) }
    }
}

impl fmt::Display for ScaleLine {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:.1} g {}", self.grams, if self.steady { "steady" } else { "moving" })
    }
}

/// State of the pan.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Pan {
    /// No lines arrive.
    Silent,
    /// The pot is off the scale.
    Lifted,
    /// The weight is changing.
    Moving,
    /// The weight is steady.
    Steady,
}

/// Why an addition cannot be recorded yet.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum NotYet {
    /// No lines arrive.
    #[error("no signal from the scale; plug it in again, or enter amounts by hand")]
    Silent,
    /// The pot is off the scale.
    #[error("the pot is off the scale: put it back")]
    Lifted,
    /// The weight is changing.
    #[error("the scale has not settled; wait until it is steady")]
    Moving,
    /// Nothing was added.
    #[error("nothing added since the last pour; pour first, then record it")]
    Nothing,
}

/// What was added to the pot since the last recorded addition, by the lines of a scale.
///
/// The pot may be lifted and stirred: a difference when it is back counts. A scale that was silent and then shows less
/// was switched on again: what was added before is kept, even if the pot was off meanwhile, and whether it was put back
/// before or after the scale was switched on. Every recorded addition also removes drift.
#[derive(Debug, Clone, Default)]
pub struct Weighing {
    last: Option<ScaleLine>,
    /// Where the addition at hand began.
    mark: Option<f64>,
    /// What was known when the scale fell silent.
    before_silence: Option<Before>,
    /// What had gone in when the pot last rested on it, g.
    rested: f64,
    /// After the scale was switched on anew while the pot was off: what the pot weighs with all that is in it, g. It may be on the
    /// pan already, or come yet.
    may_come: Option<f64>,
    silent: bool,
}

/// What was known when a scale fell silent.
#[derive(Debug, Clone, Copy)]
struct Before {
    /// What had gone in, g.
    net: f64,
    /// Where the pot was off it: what it showed, and what the pot weighs with all that is in it, g.
    lifted: Option<(f64, f64)>,
}

/// By how much less than at the mark means that the pot is off the scale, g†.
const LIFTED: f64 = 3.0;
/// By how much less it may show after a silence and not have been switched on anew, g†: paint does not leave a pot.
const SAME: f64 = 0.3;
/// Least that counts as an addition: a scale's last digit.
const LEAST: f64 = 0.1;

impl Weighing {
    /// Processes a line.
    pub fn hear(&mut self, line: ScaleLine) {
        self.silent = false;
        self.last = Some(line);
        if !line.steady {
            return;
        }
        let mark = *self.mark.get_or_insert(line.grams);
        if let Some(before) = self.before_silence.take() {
            let still_lifted = before.lifted.is_some_and(|(at, _)| (line.grams - at).abs() <= LIFTED);
            if !still_lifted && line.grams - mark < before.net - SAME {
                self.mark = Some(line.grams - before.net);
                self.may_come = before.lifted.map(|(_, pot)| pot).filter(|pot| *pot > LIFTED);
            }
        } else if let Some(pot) = self.may_come
            && line.grams - mark - self.rested >= pot - LIFTED
        {
            // The pot comes onto a scale that was switched on without it.
            self.mark = Some(mark + pot);
            self.may_come = None;
        }
        if self.pan() == Pan::Steady {
            self.rested = self.net();
        }
    }

    /// Notes that the scale was disconnected.
    pub fn lose(&mut self) {
        if !self.silent && self.last.is_some() {
            let lifted_at = self.last.filter(|_| self.pan() == Pan::Lifted).map(|line| line.grams);
            let net = if lifted_at.is_some() { self.rested } else { self.net() };
            let lifted = lifted_at.zip(self.mark).map(|(at, mark)| (at, mark + net - at));
            self.before_silence.get_or_insert(Before { net, lifted });
        }
        self.silent = true;
    }

    /// State of the pan.
    pub fn pan(&self) -> Pan {
        match self.last {
            _ if self.silent => Pan::Silent,
            None => Pan::Silent,
            Some(line) if self.mark.is_some_and(|mark| line.grams < mark - LIFTED) => Pan::Lifted,
            Some(line) if line.steady && self.mark.is_some() => Pan::Steady,
            Some(_) => Pan::Moving,
        }
    }

    /// Amount added since the last recorded addition, g; while the scale is silent, the last known amount.
    pub fn net(&self) -> f64 {
        match (self.before_silence, self.last, self.mark) {
            (Some(before), ..) if self.silent => before.net,
            (_, Some(line), Some(mark)) => line.grams - mark,
            _ => 0.0,
        }
    }

    /// Amount that can be recorded, g. The next addition starts once it [was taken](Self::taken).
    pub fn addition(&self) -> Result<f64, NotYet> {
        let net = self.net();
        self.rests()?;
        if net < LEAST - 1e-9 {
            return Err(NotYet::Nothing);
        }
        Ok(net)
    }

    /// Notes that this amount, g, was recorded. Anything beyond it, even if added since, belongs to the next addition.
    pub fn taken(&mut self, grams: f64) {
        self.mark = self.mark.map(|mark| mark + grams);
        self.rested -= grams;
        if let Some(before) = &mut self.before_silence {
            before.net -= grams;
        }
    }

    /// Starts an addition now, ignoring what was added before.
    pub fn begin(&mut self) -> Result<(), NotYet> {
        self.rests_anywhere()?;
        self.mark = self.last.map(|line| line.grams);
        (self.before_silence, self.may_come, self.rested) = (None, None, 0.0);
        Ok(())
    }

    fn rests(&self) -> Result<(), NotYet> {
        match self.pan() {
            Pan::Silent => Err(NotYet::Silent),
            Pan::Lifted => Err(NotYet::Lifted),
            Pan::Moving => Err(NotYet::Moving),
            Pan::Steady => Ok(()),
        }
    }

    /// Rests, with the pot or without: another pot may be put on.
    fn rests_anywhere(&self) -> Result<(), NotYet> {
        match (self.silent, self.last) {
            (false, Some(line)) if line.steady => Ok(()),
            (false, Some(_)) => Err(NotYet::Moving),
            _ => Err(NotYet::Silent),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn steady(grams: f64) -> ScaleLine {
        ScaleLine { grams, steady: true }
    }

    #[test]
    fn lines_of_other_scales_are_refused_with_a_reason() {
        assert_eq!("123.4 g steady".parse(), Ok(steady(123.4)));
        assert_eq!("-0.1 g moving".parse(), Ok(ScaleLine { grams: -0.1, steady: false }));
        assert_eq!("12.0 oz steady".parse::<ScaleLine>(), Err(BadLine::Unit("oz".to_owned())));
        for bad in [
            "",
            "steady",
            "nan g steady",
            "inf g steady",
            "1e9 g steady",
            "12 g",
            "12 g steady now",
            "\u{7}x",
        ] {
            assert!(matches!(bad.parse::<ScaleLine>(), Err(BadLine::Garbled(_))), "{bad}");
        }
    }

    #[test]
    fn a_pot_is_lifted_stirred_and_put_back() {
        let mut weighing = Weighing::default();
        assert_eq!((weighing.pan(), take(&mut weighing)), (Pan::Silent, Err(NotYet::Silent)));
        weighing.hear(steady(250.0));
        assert_eq!(take(&mut weighing), Err(NotYet::Nothing));
        weighing.hear(ScaleLine { grams: 262.0, steady: false });
        assert_eq!(take(&mut weighing), Err(NotYet::Moving));
        weighing.hear(steady(262.4));
        weighing.hear(steady(0.0));
        assert_eq!((weighing.pan(), take(&mut weighing)), (Pan::Lifted, Err(NotYet::Lifted)));
        weighing.hear(steady(262.3));
        assert!((take(&mut weighing).unwrap() - 12.3).abs() < 1e-9);
        assert_eq!(take(&mut weighing), Err(NotYet::Nothing));
    }

    /// Records what has gone in.
    fn take(weighing: &mut Weighing) -> Result<f64, NotYet> {
        let grams = weighing.addition()?;
        weighing.taken(grams);
        Ok(grams)
    }

    /// The pot is lifted, the scale is switched on anew, and the pot is put back: before that, or after.
    #[test]
    fn a_lifted_pot_and_a_scale_switched_on_anew_forget_nothing() {
        for put_back_first in [true, false] {
            let mut weighing = Weighing::default();
            weighing.hear(steady(0.0));
            weighing.hear(steady(40.0));
            weighing.hear(steady(-210.0));
            weighing.lose();
            // It shows nought when it is switched on, whatever stands on it.
            weighing.hear(steady(0.0));
            if !put_back_first {
                weighing.hear(ScaleLine { grams: 100.0, steady: false });
                weighing.hear(steady(250.0));
            }
            assert!((weighing.net() - 40.0).abs() < 1e-9, "{put_back_first}: {}", weighing.net());
            let more = if put_back_first { 5.0 } else { 255.0 };
            weighing.hear(steady(more));
            assert!((take(&mut weighing).unwrap() - 45.0).abs() < 1e-9, "{put_back_first}");
        }
    }

    /// What is poured between a look and the record of it is of the next addition.
    #[test]
    fn what_was_recorded_is_taken_and_no_more() {
        let mut weighing = Weighing::default();
        weighing.hear(steady(0.0));
        weighing.hear(steady(12.0));
        let looked = weighing.addition().unwrap();
        weighing.hear(steady(15.0));
        weighing.taken(looked);
        assert!((weighing.addition().unwrap() - 3.0).abs() < 1e-9);
    }

    #[test]
    fn what_went_in_survives_a_scale_that_is_switched_on_anew() {
        let mut weighing = Weighing::default();
        weighing.hear(steady(0.0));
        weighing.hear(steady(40.0));
        weighing.lose();
        assert_eq!((weighing.pan(), weighing.net()), (Pan::Silent, 40.0));
        weighing.hear(steady(0.2));
        assert!((weighing.net() - 40.0).abs() < 1e-9);
        weighing.hear(steady(5.2));
        assert!((take(&mut weighing).unwrap() - 45.0).abs() < 1e-9);
        // The same one that only stuttered goes on where it was.
        weighing.lose();
        weighing.hear(steady(6.2));
        assert!((take(&mut weighing).unwrap() - 1.0).abs() < 1e-9);
    }

    proptest! {
        #[test]
        fn a_line_comes_back_as_it_was_written(tenths in -99999i32..99999, steady: bool) {
            let line = ScaleLine { grams: f64::from(tenths) / 10.0, steady };
            prop_assert_eq!(line.to_string().parse(), Ok(line));
        }

        #[test]
        fn no_text_makes_it_stumble(text in "\\PC{0,60}") {
            let _ = text.parse::<ScaleLine>();
        }

        /// However often the pot is lifted and the scale falls silent: the additions come to what was poured.
        #[test]
        fn additions_come_to_what_was_poured(pours in proptest::collection::vec((0.5..80.0f64, any::<bool>(), any::<bool>(), any::<bool>()), 1..12), pot in 50.0..400.0f64) {
            let mut weighing = Weighing::default();
            let (mut on, mut zero, mut taken) = (pot, 0.0, 0.0);
            weighing.hear(steady(on));
            for (grams, lift, silence, restart) in &pours {
                on += grams;
                weighing.hear(ScaleLine { grams: on - zero, steady: false });
                weighing.hear(steady(on - zero));
                if *lift {
                    weighing.hear(steady(-zero));
                    weighing.hear(steady(on - zero));
                }
                if *silence {
                    weighing.lose();
                    if *restart {
                        zero = on;
                    }
                    weighing.hear(steady(on - zero));
                }
                taken += take(&mut weighing).unwrap();
            }
            let poured: f64 = pours.iter().map(|(grams, ..)| grams).sum();
            prop_assert!((taken - poured).abs() < 1e-6, "{} of {}", taken, poured);
        }
    }
}
