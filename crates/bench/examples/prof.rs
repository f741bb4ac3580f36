use keen_core::{
    balance::*,
    cupboard::Cupboard,
    keep::*,
    report::{DrinkReport, Glance},
    trace::Trace,
};
use std::time::Instant;
fn time<T>(name: &str, mut f: impl FnMut() -> T) {
    for _ in 0..300 {
        f();
    }
    let s = Instant::now();
    for _ in 0..3000 {
        std::hint::black_box(f());
    }
    println!("{name}: {:.1} µs", s.elapsed().as_secs_f64() * 1e6 / 3000.0);
}
fn main() {
    let text = include_str!("../../../demo/lemon-verbena-lemonade.json");
    let c = Cupboard::builtin();
    time("parse", || keen_formats::read_drink(text.as_bytes(), c).unwrap());
    let d = keen_formats::read_drink(text.as_bytes(), c).unwrap();
    time("check", || d.check(c));
    time("trace", || Trace::run(&d, c));
    let t = Trace::run(&d, c);
    time("report.read", || DrinkReport::read(&d, c, &t));
    let r = DrinkReport::read(&d, c, &t);
    time("glance", || Glance::of(&d, c));
    let g = Glance::of(&d, c);
    time("glance json", || serde_json::to_vec(&g).unwrap());
    println!("{} bytes", serde_json::to_vec(&g).unwrap().len());
    time("json", || serde_json::to_vec(&r).unwrap());
    println!("{} bytes", serde_json::to_vec(&r).unwrap().len());
    let l = &t.outcome().unwrap().contents.liquid;
    time("ph", || l.ph());
    time("colour", || l.colour());
    time("volume", || l.volume(keen_core::quantity::Celsius(20.0)));
    time("acidity", || l.acidity_percent());
    time("profile", || Profile::of(t.outcome().unwrap()));
    time("keeping", || Keeping::of(&d, &t));
    time("cautions", || cautions(&d, c, &t));
    time("needed", || {
        (0..d.vessels.len()).map(|v| keen_core::scale::needed_capacity(&d, &t, v).0).sum::<f64>()
    });
    time("fullest", || {
        (0..d.vessels.len()).map(|v| t.fullest(v).map_or(0.0, |x| x.1.mass().0)).sum::<f64>()
    });
    time("after_standing", || {
        t.outcome().unwrap().contents.after_standing(keen_core::quantity::Minutes(60.0))
    });
    time("weigh 6 lemons", || {
        c.weigh(c.ingredient("lemon_juice").unwrap(), &"6 lemons".parse().unwrap())
    });
    time("map", || BalanceMap::of(d.family, Profile::of(t.outcome().unwrap()).as_ref()));
}
