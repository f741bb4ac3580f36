//! What measuring is worth: two hundred drinks a practice batch by each of two makers.

use keen_core::cupboard::Cupboard;
use keen_core::drink::Drink;
use keen_instruments::{Made, Maker};

const RUNS: u64 = 200;
const DRINKS: [&str; 5] = [
    include_str!("../../../demo/lemon-verbena-lemonade.json"),
    include_str!("../../../demo/melon-and-lime-agua-fresca.json"),
    include_str!("../../../demo/hibiscus-and-bay-orange-cooler.json"),
    include_str!("../../../demo/ginger-and-lemongrass-syrup.json"),
    include_str!("../../../demo/tamarind-cooler.json"),
];

fn median(mut all: Vec<f64>) -> f64 {
    all.sort_by(f64::total_cmp);
    all.get(all.len() / 2).copied().unwrap_or(f64::NAN)
}

fn main() {
    let cupboard = Cupboard::builtin();
    let drinks: Vec<Drink> = DRINKS
        .iter()
        .map(|text| keen_formats::read_drink(text.as_bytes(), cupboard).expect("a demo's drink"))
        .collect();
    let all = |maker: Maker| -> Vec<(usize, Made)> {
        (0..RUNS)
            .map(|seed| {
                let kind = (seed % drinks.len() as u64) as usize;
                (kind, maker.makes(&drinks[kind], cupboard, seed))
            })
            .collect()
    };
    let (blind, measuring) = (all(Maker::Follows), all(Maker::Measures));
    let far = |made: &[(usize, Made)], kind: Option<usize>| {
        let of_kind = made.iter().filter(|(k, _)| kind.is_none_or(|kind| kind == *k));
        median(of_kind.filter_map(|(_, made)| made.distance()).collect())
    };
    println!("how far from the target, in noticeable steps (median):");
    for (kind, drink) in drinks.iter().enumerate() {
        let (a, b) = (far(&blind, Some(kind)), far(&measuring, Some(kind)));
        println!("  {:32} {a:.2} as written, {b:.2} measuring", drink.name);
    }
    let (a, b) = (far(&blind, None), far(&measuring, None));
    println!("  {:32} {a:.2} as written, {b:.2} measuring: {:.2} of it", "all", b / a);
    let readings: usize = measuring.iter().map(|(_, m)| m.report.readings.len()).sum();
    let inside: usize = measuring.iter().map(|(_, m)| m.report.inside).sum();
    println!(
        "{inside} of {readings} readings fell inside nine in ten; {:.1} expected ({:.1} %)",
        0.9 * readings as f64,
        100.0 * inside as f64 / readings as f64
    );
}
