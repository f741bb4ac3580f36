//! How fast the drink model runs.

use std::hint::black_box;

use criterion::{Criterion, criterion_group, criterion_main};
use keen_core::balance::{Aim, Target, solve};
use keen_core::belief::{Belief, Candidate, Measurement, Quantity, tells_most};
use keen_core::chance::spread;
use keen_core::cupboard::Cupboard;
use keen_core::drink::{Action, Drink, Preparation, Step};
use keen_core::plan::{Closed, Means, Order, Wanted, plan, plan_with_help};
use keen_core::quantity::{Amount, Units};
use keen_core::report::DrinkReport;
use keen_core::scale::{NamedSize, Size, fit, resize, sheet};
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
    let belief = Belief::before(&prepared);
    let last = drink.steps.len() - 2;
    let pitcher = drink.vessel("pitcher").expect("it is served from a pitcher");
    let readings = [(Quantity::Volume, 1990.0), (Quantity::Brix, 9.6), (Quantity::Acidity, 0.6)]
        .map(|(quantity, value)| Measurement::new(last, pitcher, quantity, value));
    c.bench_function("a reading believed", |b| {
        b.iter(|| belief.after(&prepared, black_box(&readings)))
    });
    let candidates = Quantity::ALL.map(|quantity| Candidate {
        step: last,
        vessel: pitcher,
        quantity,
        error: None,
    });
    c.bench_function("the most telling reading", |b| {
        b.iter(|| tells_most(&belief, &prepared, black_box(&candidates)))
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
    let order = ten_drinks();
    c.bench_function("plan, ten drinks", |b| b.iter(|| plan(black_box(&order), cupboard)));
    c.bench_function("plan with what helps, ten drinks", |b| {
        b.iter(|| plan_with_help(black_box(&order), cupboard))
    });
    let size = Size::Volume(Amount::millilitres(12_000.0));
    c.bench_function("resize", |b| b.iter(|| resize(black_box(&drink), cupboard, &size)));
}

/// The demo's ten drinks and half as many again of their steps, for two cooks on two rings, with nights.
fn ten_drinks() -> Order {
    let files = [
        LEMONADE,
        include_str!("../../../demo/melon-and-lime-agua-fresca.json"),
        include_str!("../../../demo/hibiscus-and-bay-orange-cooler.json"),
        include_str!("../../../demo/rhubarb-and-vanilla-syrup.json"),
        include_str!("../../../demo/ginger-and-lemongrass-syrup.json"),
        include_str!("../../../demo/blackcurrant-vinegar-cordial.json"),
        include_str!("../../../demo/mandarin-fizz.json"),
        include_str!("../../../demo/creamy-whole-lime-cooler.json"),
        include_str!("../../../demo/tamarind-cooler.json"),
        include_str!("../../../demo/mint-and-cucumber-water.json"),
    ];
    let night = |n: i32| {
        let from = f64::from(n) * -1440.0 - 1020.0;
        Closed { from, to: from + 540.0, night: true }
    };
    let drinks = files.iter().enumerate().map(|(i, text)| {
        let mut drink = keen_formats::read_drink(text.as_bytes(), Cupboard::builtin())
            .expect("the demo's drinks are drinks");
        // Fifteen steps each.
        for n in drink.steps.len()..15 {
            let how = Action::Prepare {
                ingredient: "lemon_juice".into(),
                how: Preparation::Wash,
                minutes: None,
            };
            drink.steps.insert(0, Step::new(format!("wash{n}"), how));
        }
        Wanted { id: format!("d{i}"), drink, serve_at: 0.0, water_bath: Vec::new() }
    });
    Order {
        drinks: drinks.collect(),
        means: Means { cooks: 2, rings: 2, refrigerator_l: 60.0 },
        closed: (0..60).map(night).collect(),
        ..Order::default()
    }
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
