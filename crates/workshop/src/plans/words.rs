//! What steps are called.

use warm_blend_paint::{Class, PaintId};
use warm_blend_plan::{Laid, Work};

/// What a step is called: `class` says what a tin is, `hardware` whether there is any.
pub(crate) fn work_words(work: &Work, class: impl Fn(PaintId) -> Option<Class>, hardware: bool) -> String {
    let of_layer = |laid: &Laid| {
        let primes = matches!(laid.inside(class).as_slice(), [(Class::Primer | Class::Shellac, _)]);
        let name = if primes { "Prime" } else { laid.technique.name() };
        match laid.coat {
            (_, 1) => name.to_owned(),
            (coat, of) => format!("{name}: {coat} of {of}"),
        }
    };
    match work {
        Work::HardwareOff => "Take the hardware off".to_owned(),
        Work::LeadTest => "Test the old paint for lead".to_owned(),
        Work::Clean => "Clean".to_owned(),
        Work::Rinse => "Rinse".to_owned(),
        Work::Deglaze => "Take the gloss off with a deglosser".to_owned(),
        Work::Scuff => "Scuff-sand".to_owned(),
        Work::Tape => "Tape what stays as it is".to_owned(),
        Work::Layer(laid) => of_layer(laid),
        Work::Age(age) => format!("Age it: {}", age.name().to_lowercase()),
        Work::WaxOff => "Take the wax off".to_owned(),
        Work::ScuffBack => "Scuff what is to be covered".to_owned(),
        Work::HardwareOn if hardware => "Tape off, hardware back on".to_owned(),
        Work::HardwareOn => "Take the tape off".to_owned(),
        Work::Buff => "Buff the wax".to_owned(),
        Work::Rest => "Leave it alone for a day".to_owned(),
    }
}
