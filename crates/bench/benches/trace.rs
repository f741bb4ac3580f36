//! How fast the drink model runs.

use std::hint::black_box;

use criterion::{Criterion, criterion_group, criterion_main};
use keen_core::balance::{Aim, Target, solve};
use keen_core::chance::spread;
use keen_core::cupboard::Cupboard;
use keen_core::quantity::Amount;
use keen_core::report::DrinkReport;
use keen_core::scale::{Size, resize};
use keen_core::trace::{Nudges, Prepared, Trace};
use rand::SeedableRng;
use rand::rngs::StdRng;

/// Twelve steps with everything: zest, leaves, standing, squeezing, straining, chilling.
const LEMONADE: &str = include_str!("../../../demo/lemon-verbena-lemonade.json");

fn trace(c: &mut Criterion) {
    let cupboard = Cupboard::builtin();
    let drink = keen_formats::read_drink(LEMONADE.as_bytes(), cupboard)
        .expect("the demo's drink is a drink");
    c.bench_function("trace", |b| b.iter(|| Trace::run(black_box(&drink), cupboard)));
    c.bench_function("report", |b| b.iter(|| DrinkReport::of(black_box(&drink), cupboard)));
    let prepared = Prepared::new(&drink, cupboard);
    c.bench_function("run again", |b| b.iter(|| prepared.run(black_box(Nudges::default()))));
    let target = Target { sweetness: Some(11.0), acidity: Some(0.7), ..Target::default() };
    let aim = Aim { target, ..Aim::default() };
    c.bench_function("solve", |b| b.iter(|| solve(black_box(&drink), cupboard, &aim)));
    c.bench_function("spread, 2000 runs", |b| {
        b.iter(|| spread(&drink, cupboard, 2000, &mut StdRng::seed_from_u64(1)))
    });
    let size = Size::Volume(Amount::millilitres(12_000.0));
    c.bench_function("resize", |b| b.iter(|| resize(black_box(&drink), cupboard, &size)));
}

criterion_group!(benches, trace);
criterion_main!(benches);
