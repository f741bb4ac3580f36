//! How fast the drink model runs.

use std::hint::black_box;

use criterion::{Criterion, criterion_group, criterion_main};
use keen_core::balance::{Aim, Target, solve};
use keen_core::chance::spread;
use keen_core::cupboard::Cupboard;
use keen_core::drink::{Action, Drink, Step};
use keen_core::quantity::Amount;
use keen_core::report::DrinkReport;
use keen_core::scale::{NamedSize, Size, Units, fit, resize, sheet};
use keen_core::shop::{Shopping, shop};
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
    let party = thirty_lines(&drink);
    let sizes = [1.0, 8.0, 200.0]
        .map(|factor| NamedSize { name: factor.to_string(), size: Size::Factor(factor) });
    c.bench_function("sheet, 30 lines at 200 times", |b| {
        b.iter(|| sheet(&party, cupboard, &sizes, Units::Metric))
    });
    c.bench_function("vessels, 30 lines at 200 times", |b| {
        let large = resize(&party, cupboard, &sizes[2].size).expect("it can be had");
        b.iter(|| fit(&large, cupboard))
    });
    c.bench_function("shopping", |b| {
        b.iter(|| shop(std::slice::from_ref(&party), cupboard, Shopping::default()))
    });
    let size = Size::Volume(Amount::millilitres(12_000.0));
    c.bench_function("resize", |b| b.iter(|| resize(black_box(&drink), cupboard, &size)));
}

/// The drink with spices and sugars until it has thirty lines.
fn thirty_lines(drink: &Drink) -> Drink {
    let mut long = drink.clone();
    let more = ["clove", "honey", "citric_acid", "mint", "orange_juice", "white_sugar"];
    for i in 0..25 {
        let action = Action::add("bowl", more[i % more.len()], Amount::grams(1.0 + i as f64));
        long.steps.insert(2, Step::new(format!("more{i}"), action));
    }
    long
}

criterion_group!(benches, trace);
criterion_main!(benches);
