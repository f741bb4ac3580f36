//! How fast a table of tasters is understood.

use std::hint::black_box;

use criterion::{Criterion, criterion_group, criterion_main};
use keen_core::cupboard::Cupboard;
use keen_core::quantity::Units;
use keen_core::taste::ideal::{Prior, Sip, fit, next_glass};
use keen_core::taste::ladder::{Moves, Row, ladder};
use keen_core::taste::pretend::Pretend;
use rand::SeedableRng;
use rand::rngs::StdRng;

/// Twelve steps with everything: zest, leaves, standing, squeezing, straining, chilling.
const LEMONADE: &str = include_str!("../../../demo/lemon-verbena-lemonade.json");

fn tasting(c: &mut Criterion) {
    let cupboard = Cupboard::builtin();
    let drink = keen_formats::read_drink(LEMONADE.as_bytes(), cupboard)
        .expect("the demo's drink is a drink");
    let kinds = ["lemon_juice", "citric_acid", "lime_juice"].map(str::to_owned).to_vec();
    for (name, moves) in [("sugar", Moves::Sugar), ("what sours", Moves::Souring(kinds))] {
        let row = Row {
            drink: drink.clone(),
            moves,
            glasses: 5,
            step: 1.25,
            middle: None,
            sample_ml: 60.0,
            tasters: 5,
            units: Units::AsWritten,
        };
        c.bench_function(&format!("the pouring sheet of a row, {name}"), |b| {
            b.iter(|| ladder(black_box(&row), cupboard).expect("it can be poured"))
        });
    }
    let mut rng = StdRng::seed_from_u64(4);
    let mut table = |tasters: u32, glasses: u32| -> Vec<Vec<Sip>> {
        (0..tasters)
            .map(|i| {
                let tongue = Pretend::any(2.4 + 0.02 * f64::from(i), &mut rng);
                let at = |glass: u32| 2.3 + 0.223 * f64::from(glass % 5);
                (0..glasses).map(|glass| tongue.says(at(glass), &mut rng)).collect()
            })
            .collect()
    };
    let (large, lone) = (table(40, 20), table(1, 8));
    let prior = Prior::round(16.0);
    c.bench_function("40 tasters with 20 answers each", |b| {
        b.iter(|| fit(black_box(&large), prior))
    });
    c.bench_function("the next glass, after 8", |b| {
        b.iter(|| next_glass(black_box(&lone), 0, prior, (1.8, 3.7)))
    });
}

criterion_group!(benches, tasting);
criterion_main!(benches);
