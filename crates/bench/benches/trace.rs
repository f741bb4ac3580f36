//! How fast the drink model runs.

use std::hint::black_box;

use criterion::{Criterion, criterion_group, criterion_main};
use keen_core::cupboard::Cupboard;
use keen_core::quantity::Amount;
use keen_core::report::DrinkReport;
use keen_core::scale::{Size, resize};
use keen_core::trace::Trace;

/// Twelve steps with everything: zest, leaves, standing, squeezing, straining, chilling.
const LEMONADE: &str = include_str!("../../../demo/lemon-verbena-lemonade.json");

fn trace(c: &mut Criterion) {
    let cupboard = Cupboard::builtin();
    let drink = keen_formats::read_drink(LEMONADE.as_bytes()).expect("the demo's drink is a drink");
    c.bench_function("trace", |b| b.iter(|| Trace::run(black_box(&drink), cupboard)));
    c.bench_function("report", |b| b.iter(|| DrinkReport::of(black_box(&drink), cupboard)));
    let size = Size::Volume(Amount::millilitres(12_000.0));
    c.bench_function("resize", |b| b.iter(|| resize(black_box(&drink), cupboard, &size)));
}

criterion_group!(benches, trace);
criterion_main!(benches);
