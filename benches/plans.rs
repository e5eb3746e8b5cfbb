//! `cargo bench --bench plans`: how long a plan of more than two hundred steps takes.

use std::hint::black_box;
use std::time::{Duration, Instant};

use jiff::Timestamp;
use uuid::Uuid;
use warm_blend_board::{Application, ByPlace, GroundKind, Technique};
use warm_blend_paint::{Class, MixPart, PaintId, Product, WholeParts};
use warm_blend_piece::Zone;
use warm_blend_plan::{
    Air, Crew, LayerWork, PartSize, Work, WorkingHours, ZoneWork, schedule, steps, wanted,
};

/// Twelve zones, each in paints of its own but for the primer.
fn zones() -> Vec<ZoneWork> {
    let layer = |technique: Technique, paint: u128| LayerWork {
        technique,
        pot: match technique.needs_no_pot() {
            true => Vec::new(),
            false => vec![MixPart {
                paint: PaintId(Uuid::from_u128(paint)),
                parts: WholeParts::new(1).expect("one part"),
            }],
        },
        hand: Application::default(),
        into_wet: technique.goes_into_wet(),
    };
    let of = |(n, zone): (usize, &Zone)| ZoneWork {
        zone: *zone,
        area: 0.4 + 0.1 * n as f64,
        places: ByPlace { field: 0.74, recess: 0.1, edge: 0.16 },
        parts: vec![PartSize { area: 0.1, narrow: 0.3 }; 4 + n],
        taped: 3.0,
        ground: GroundKind::RedStain,
        repairs: Default::default(),
        layers: std::iter::once(layer(Technique::BrushedCoat, 1))
            .chain((0..18).map(|k| {
                let technique = Technique::ALL[(5 * k + n) % Technique::ALL.len()];
                layer(technique, (100 * n + k + 2) as u128)
            }))
            .collect(),
        ages: Vec::new(),
    };
    Zone::ALL[..12].iter().enumerate().map(of).collect()
}

fn main() {
    let chalk = |_: PaintId| Some(Product::from(Class::Chalk));
    let zones = zones();
    let from: Timestamp = "2026-11-27T08:00:00Z".parse().expect("a time");
    let crew = Crew::free(WorkingHours::usual("Europe/Vienna"), true);
    let mut times: Vec<Duration> = Vec::new();
    let mut many = 0;
    for _ in 0..60 {
        let start = Instant::now();
        let left: Vec<Vec<Work>> = zones.iter().map(|zone| wanted(zone, true, &chalk)).collect();
        let steps = steps(black_box(&zones), &left, &chalk, Air::default());
        let plan = schedule(&steps, &crew, from, &|_| None, |_| 1.0);
        black_box(plan.expect("hours"));
        times.push(start.elapsed());
        many = steps.len();
    }
    times.sort();
    println!(
        "plan of {many} steps: median {:.1?}, slowest {:.1?}",
        times[times.len() / 2],
        times[times.len() - 1]
    );
}
