//! Names of steps.

use warm_blend_paint::Class;
use warm_blend_plan::{Laid, Tins, Work};

/// Name of a coat of a layer.
pub fn layer_words(laid: &Laid, tins: Tins) -> String {
    let primes =
        laid.contents(tins).is_mostly(|product| matches!(product.class, Class::Primer | Class::Shellac));
    let name = if primes { "Prime".into() } else { laid.technique.named(laid.hand) };
    match laid.coat {
        (_, 1) => name.into_owned(),
        (coat, of) => format!("{name}, {coat} of {of}"),
    }
}

/// Name of a step.
pub fn work_words(work: &Work, tins: Tins) -> String {
    match work {
        Work::HardwareOff => "Remove hardware".to_owned(),
        Work::LeadTest => "Test for lead".to_owned(),
        Work::Dewax => "Take the old wax off".to_owned(),
        Work::Strip => "Strip the old finish".to_owned(),
        Work::GlueDown => "Glue down loose veneer".to_owned(),
        Work::Fill => "Fill dents and holes".to_owned(),
        Work::SandFlush => "Sand the filler flush".to_owned(),
        Work::Drill => "Drill for the new pulls".to_owned(),
        Work::BlockStains => "Block knots and stains".to_owned(),
        Work::Soak => "Soak the hardware".to_owned(),
        Work::Polish => "Polish the hardware".to_owned(),
        Work::Clean => "Clean".to_owned(),
        Work::Rinse => "Rinse".to_owned(),
        Work::Deglaze => "Degloss".to_owned(),
        Work::Scuff => "Scuff-sand".to_owned(),
        Work::Tape => "Mask what stays unpainted".to_owned(),
        Work::Layer(laid) => layer_words(laid, tins),
        Work::Wet(layers) => wet_words(layers, tins),
        Work::Age(age) => format!("Ageing: {}", age.name().to_lowercase()),
        Work::WaxOff => "Remove wax".to_owned(),
        Work::ScuffBack => "Scuff before recoating".to_owned(),
        Work::TapeOff => "Remove tape".to_owned(),
        Work::HardwareOn => "Refit hardware".to_owned(),
        Work::Buff => "Buff the wax".to_owned(),
        Work::Rest => "Leave for a day".to_owned(),
    }
}

/// The lowest of layers that are worked wet, and what goes into it; equal names appear once.
fn wet_words(layers: &[Laid], tins: Tins) -> String {
    let Some((first, into)) = layers.split_first() else { return String::new() };
    let mut names: Vec<String> = Vec::new();
    for name in into.iter().map(|laid| layer_words(laid, tins).to_lowercase()) {
        if !names.contains(&name) {
            names.push(name);
        }
    }
    format!("{}, and into the wet: {}", layer_words(first, tins), names.join(", "))
}
