//! What measuring is worth: makers by a script, in the practice kitchen.

#![allow(clippy::unwrap_used, reason = "a test that cannot go on fails")]

use keen_core::batch::{Happening, Made as AsMade};
use keen_core::cupboard::Cupboard;
use keen_core::drink::Drink;
use keen_instruments::{Made, Maker};

fn five_kinds() -> Vec<Drink> {
    [
        include_str!("../../../demo/lemon-verbena-lemonade.json"),
        include_str!("../../../demo/melon-and-lime-agua-fresca.json"),
        include_str!("../../../demo/hibiscus-and-bay-orange-cooler.json"),
        include_str!("../../../demo/ginger-and-lemongrass-syrup.json"),
        include_str!("../../../demo/tamarind-cooler.json"),
    ]
    .iter()
    .map(|text| keen_formats::read_drink(text.as_bytes(), Cupboard::builtin()).unwrap())
    .collect()
}

fn median(made: &[Made]) -> f64 {
    let mut all: Vec<f64> = made.iter().filter_map(Made::distance).collect();
    all.sort_by(f64::total_cmp);
    all[all.len() / 2]
}

/// Two hundred runs are made by the benchmark `makers`; here are as many as a test may take.
#[test]
fn who_measures_lands_at_most_half_as_far_off_as_who_follows_blindly() {
    let drinks = five_kinds();
    let of = |maker: Maker| -> Vec<Made> {
        (1000..1040)
            .map(|seed| maker.makes(&drinks[seed as usize % 5], Cupboard::builtin(), seed))
            .collect()
    };
    let (measuring, blind) = std::thread::scope(|scope| {
        let blind = scope.spawn(|| of(Maker::Follows));
        (of(Maker::Measures), blind.join().unwrap())
    });
    let (blind, measuring) = (median(&blind), median(&measuring));
    println!("median distance: {blind:.3} blind, {measuring:.3} measuring");
    assert!(measuring <= 0.5 * blind, "{measuring} is more than half of {blind}");
}

#[test]
fn a_script_makes_the_whole_drink_and_the_same_seed_the_same() {
    for drink in five_kinds() {
        let made = Maker::Measures.makes(&drink, Cupboard::builtin(), 3);
        let ends = AsMade::of(&drink, &made.said, Cupboard::builtin());
        assert!(ends.finished && ends.next().is_none(), "{}", drink.name);
        assert_eq!(made.said, Maker::Measures.makes(&drink, Cupboard::builtin(), 3).said);
        assert!(made.said.windows(2).all(|pair| pair[0].at <= pair[1].at));
        // The script may not see more than an instrument shows.
        let blind = Maker::Follows.makes(&drink, Cupboard::builtin(), 3);
        let said = |made: &Made| {
            made.said.iter().filter(|s| matches!(s.what, Happening::Reading { .. })).count()
        };
        assert_eq!(said(&blind), 0);
        assert!(said(&made) > 0, "{}", drink.name);
    }
}
