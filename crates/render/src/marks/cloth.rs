//! Marks of a cloth: bunched and turned between dabs, or a pad that lifts wet paint.

use std::f32::consts::TAU;

use super::field::{Chance, Field, PER_MM, SIDE, bent, between, finer, noise, on_tile, rough, softened, sum};

/// Facets and creases of a bunched cloth, this many mm across; each facet touches more or less firmly and slants.
pub(super) fn facets(mm: f32, seed: u32) -> Field {
    faceted(mm, seed, |to_rim, facet| facet + 0.9 * (-to_rim / 0.16).exp())
}

/// Distance to the next facet, in facets.
pub(super) fn between_facets(mm: f32, seed: u32) -> Field {
    faceted(mm, seed, |to_rim, _| to_rim)
}

/// A field of what each spot has, by how far it is to the next facet, in facets, and how its own touches there.
fn faceted(mm: f32, seed: u32, of: impl Fn(f32, f32) -> f32) -> Field {
    // Facets are large against a pixel: half as fine will do.
    const HALF: usize = SIDE / 2;
    let cells = (SIDE as f32 / (PER_MM * mm)).round().max(5.0) as i32;
    let cell = HALF as f32 / cells as f32;
    let mut chance = Chance::of(seed);
    // As many to a cell as chance has it, one on average, so that no cells are seen.
    let mut by_cell: Vec<Vec<[f32; 5]>> = vec![Vec::new(); (cells * cells) as usize];
    for _ in 0..cells * cells {
        let (x, y) = (HALF as f32 * chance.unit(), HALF as f32 * chance.unit());
        let of = |v: f32| ((v / cell) as i32).min(cells - 1);
        let own = [x, y, chance.either(), chance.either(), chance.either()];
        by_cell[(of(y) * cells + of(x)) as usize].push(own);
    }
    let mut field = vec![0.0; HALF * HALF];
    let span =
        |c: i32| (c as f32 * cell).ceil() as usize..(((c + 1) as f32 * cell).ceil() as usize).min(HALF);
    // A cell beyond the rim is that of the other side, seen so far aside.
    let beyond = |c: i32| (HALF as i32 * c.div_euclid(cells)) as f32;
    for cy in 0..cells {
        for cx in 0..cells {
            let near: Vec<[f32; 5]> = (-2..=2)
                .flat_map(|dy| (-2..=2).map(move |dx| (cx + dx, cy + dy)))
                .flat_map(|(x, y)| {
                    let there = &by_cell[(y.rem_euclid(cells) * cells + x.rem_euclid(cells)) as usize];
                    there.iter().map(move |[u, v, rest @ ..]| {
                        [u + beyond(x), v + beyond(y), rest[0], rest[1], rest[2]]
                    })
                })
                .collect();
            for py in span(cy) {
                for px in span(cx) {
                    let (mut first, mut second, mut value) = (f32::MAX, f32::MAX, 0.0);
                    for [x, y, touches, across, down] in &near {
                        let (dx, dy) = (px as f32 - x, py as f32 - y);
                        let far = dx * dx + dy * dy;
                        if far < first {
                            second = first;
                            first = far;
                            value = 0.7 * touches + (across * dx + down * dy) / cell;
                        } else if far < second {
                            second = far;
                        }
                    }
                    field[py * HALF + px] = of((second.sqrt() - first.sqrt()) / cell, value);
                }
            }
        }
    }
    finer(&field)
}

/// A round dab with a radius in pixels: visits its pixels with the distance from the centre, 0..1, and the offset.
pub(super) fn dab((x, y): (f32, f32), radius: f32, mut visit: impl FnMut(usize, f32, (f32, f32))) {
    let reach = radius.ceil() as i32;
    let (cx, cy) = (x as i32, y as i32);
    for py in cy - reach..=cy + reach {
        let dy = py as f32 - y;
        for px in cx - reach..=cx + reach {
            let dx = px as f32 - x;
            let out = (dx * dx + dy * dy).sqrt() / radius;
            if out < 1.0 {
                visit(on_tile(px, py), out, (dx, dy));
            }
        }
    }
}

/// A glaze dabbed with a bunched cloth that was turned between dabs. High where glaze stays.
pub(super) fn ragged(seed: u32) -> Field {
    let creased = sum(&[(1.0, facets(12.0, seed + 3)), (0.55, facets(5.0, seed + 4))]);
    let cloth = bent(&creased, 1.1, &[(6.0, 1.0)], [seed + 1, seed + 2]);
    let mut field = cloth.clone();
    let mut chance = Chance::of(seed);
    for _ in 0..150 {
        let spot = chance.spot();
        let radius = PER_MM * chance.between(20.0, 34.0);
        let (sin, cos) = (TAU * chance.unit()).sin_cos();
        let (u, v) = chance.spot();
        let pressed = chance.between(-0.25, 0.25);
        dab(spot, radius, |pixel, out, (dx, dy)| {
            let (along, aside) = (dx * cos - dy * sin, dx * sin + dy * cos);
            // Three lobes: cos 3θ of the turned dab.
            let lobes = (along * (along * along - 3.0 * aside * aside)) / (radius * out + 1e-3).powi(3);
            let mask = ((0.86 + 0.12 * lobes - out) / 0.14).clamp(0.0, 1.0);
            if mask > 0.0 {
                let value = between(&cloth, u + along, v + aside) + pressed;
                field[pixel] += mask * (value - field[pixel]);
            }
        });
    }
    sum(&[(1.0, field), (0.12, noise(2.0, 2.0, seed + 5))])
}

/// A ragged glaze, as ranks, softened with a brush.
pub(super) fn softly_brushed(ragged: &[u16], seed: u32) -> Field {
    let ragged: Field = ragged.iter().map(|rank| 1.0 - f32::from(*rank) / 32768.0).collect();
    let soft = softened(&softened(&ragged, 5), 4);
    sum(&[(1.0, soft), (0.06, noise(26.0, 2.0, seed + 9)), (0.05, noise(2.0, 22.0, seed + 10))])
}

/// A wet wash patted with a lint-free pad: each pat lifts some and leaves soft mottles.
pub(super) fn patted(seed: u32) -> Field {
    let mottles = rough(&[(5.0, 0.8), (2.2, 0.6), (1.0, 0.35)], seed + 1);
    let cloth = facets(6.0, seed + 5);
    let mut field: Field = mottles.clone();
    let mut chance = Chance::of(seed);
    for _ in 0..420 {
        let spot = chance.spot();
        let radius = PER_MM * chance.between(9.0, 19.0);
        let (u, v) = chance.spot();
        let lifted = chance.between(-0.9, 0.5);
        let pushed = chance.between(0.1, 0.6);
        dab(spot, radius, |pixel, out, (dx, dy)| {
            let there = on_tile((u + dx) as i32, (v + dy) as i32);
            let mask = 0.85 * (1.0 - out * out).powi(2);
            let value = lifted + 0.6 * mottles[there] + 0.4 * cloth[there];
            // The cloth lifts what it meets, and pushes a little of it to its rim.
            let rim = ((out - 0.86) / 0.07).powi(2);
            field[pixel] += mask * (value - field[pixel]) + pushed * (-rim).exp();
        });
    }
    bent(&field, 1.3, &[(5.0, 1.0), (1.5, 0.3)], [seed + 7, seed + 9])
}
