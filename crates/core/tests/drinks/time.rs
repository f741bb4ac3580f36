//! Time: it may be cut into parts, it passes for what stands aside, and its length is that of the longest
//! chain of steps.

use crate::common::{add, boil, chill, drink, pour, serve, stand, strain};
use keen_core::chemistry::Component;
use keen_core::cupboard::Cupboard;
use keen_core::drink::{Action, Drink, Maceration, Portion, Press, RestingPlace, Vigour};
use keen_core::trace::{Contents, Trace};
use proptest::prelude::*;

fn end_of(drink: &Drink, vessel: &str) -> Contents {
    let trace = Trace::run(drink, Cupboard::builtin());
    trace.last(drink.vessel(vessel).unwrap()).unwrap().1.clone()
}

/// A wait in the pot.
fn wait(kind: usize, minutes: f64) -> Action {
    let vessel = || "pot".to_owned();
    match kind {
        0 => stand("pot", minutes, RestingPlace::Worktop),
        1 => stand("pot", minutes, RestingPlace::Refrigerator),
        2 => Action::Macerate {
            vessel: vessel(),
            minutes,
            how: Maceration::Left,
            place: RestingPlace::Refrigerator,
        },
        3 => Action::Boil { vessel: vessel(), minutes, how: Vigour::Simmer, lid: true },
        _ => Action::Heat { vessel: vessel(), to_c: 80.0, minutes, lid: false, until_clear: false },
    }
}

/// What there is to compare of two that should be the same.
fn figures(contents: &Contents) -> Vec<(&'static str, f64, f64)> {
    let liquid = &contents.liquid;
    let drawn: f64 = contents.pieces.iter().map(|p| p.drawn * p.put_in.0).sum();
    vec![
        ("water", liquid[Component::Water], 1.0),
        ("acid", liquid.titratable_acid(), 0.02),
        ("sugar", liquid.sugars().0, 0.5),
        ("glucose", liquid[Component::Glucose], 1.5),
        ("gas", liquid[Component::CarbonDioxide], 0.02),
        ("aroma", liquid[Component::Aroma], 0.5),
        ("bitterness", liquid[Component::Bitterness], 0.03),
        ("drawn", drawn, 0.5),
        ("undissolved", contents.undissolved().0, 1.0),
        ("temperature", contents.temperature.0, 0.3),
        ("warm", contents.past.warm.0, 12.0),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(160))]

    #[test]
    fn a_wait_cut_in_two_is_the_same_wait(
        kind in 0usize..5,
        minutes in 4.0f64..600.0,
        cut in 0.1f64..0.9,
        what in prop::sample::select(vec![
            vec![("water", "1 l"), ("hibiscus_dried", "40 g"), ("white_sugar", "100 g")],
            vec![("strawberry", "400 g"), ("white_sugar", "200 g")],
            vec![("raspberry", "300 g"), ("water", "500 g"), ("white_sugar", "150 g")],
            vec![("lemon_peel", "80 g"), ("white_sugar", "100 g")],
            vec![("club_soda", "500 g"), ("simple_syrup_1_1", "100 g")],
            vec![("water", "700 g"), ("white_sugar", "700 g"), ("lemon_juice", "60 g")],
            vec![("water", "800 g"), ("orange_peel", "60 g"), ("black_tea", "8 g")],
        ]),
        start in prop::sample::select(vec![21.0, 60.0, 90.0]),
    ) {
        // Nobody boils a pot for hours that is dry after one, nor peels without water.
        let minutes = if kind >= 3 { minutes.min(40.0) } else { minutes };
        prop_assume!(kind < 3 || what[0].0 != "lemon_peel");
        let made = |waits: &[f64]| {
            let mut actions: Vec<Action> =
                what.iter().map(|(id, amount)| add("pot", id, amount)).collect();
            let to_c = start;
            actions.push(Action::Heat { vessel: "pot".into(), to_c, minutes: 0.0, lid: true, until_clear: false });
            actions.extend(waits.iter().map(|m| wait(kind, *m)));
            end_of(&drink(actions), "pot")
        };
        let (once, twice) = (made(&[minutes]), made(&[minutes * cut, minutes * (1.0 - cut)]));
        for ((name, one, least), (_, two, _)) in figures(&once).into_iter().zip(figures(&twice)) {
            prop_assert!(
                (one - two).abs() <= least + 0.015 * one.abs(),
                "{name}: {one} at once, {two} in parts"
            );
        }
    }
}

#[test]
fn a_pot_that_was_boiled_first_stands_aside_until_the_other_is_ready() {
    let pot_first = drink(vec![
        add("pot", "water", "1 l"),
        boil(0.0, true),
        add("bowl", "strawberry", "200 g"),
        add("bowl", "white_sugar", "100 g"),
        stand("bowl", 120.0, RestingPlace::Worktop),
        pour("pot", "bowl", Portion::All),
    ]);
    let bowl_first = drink(vec![
        add("bowl", "strawberry", "200 g"),
        add("bowl", "white_sugar", "100 g"),
        stand("bowl", 120.0, RestingPlace::Worktop),
        add("pot", "water", "1 l"),
        boil(0.0, true),
        pour("pot", "bowl", Portion::All),
    ]);
    let (cooled, hot) = (end_of(&pot_first, "bowl"), end_of(&bowl_first, "bowl"));
    assert!(cooled.temperature.0 < 50.0, "{:?}", cooled.temperature);
    assert!(hot.temperature.0 > 75.0, "{:?}", hot.temperature);
    // Either takes two hours, not two and what the pot needs.
    for way in [&pot_first, &bowl_first] {
        let minutes = Trace::run(way, Cupboard::builtin()).minutes.0;
        assert!((120.0..126.0).contains(&minutes), "{minutes}");
    }
}

#[test]
fn ice_and_soda_wait_for_the_pitcher_and_not_the_other_way_round() {
    let cold = drink(vec![
        add("pitcher", "simple_syrup_1_1", "300 ml"),
        add("pitcher", "lemon_juice", "250 ml"),
        add("pitcher", "water", "800 ml"),
        chill("pitcher", 6.0),
        add("glass", "ice", "60 g"),
        serve("pitcher", 4, "200 ml"),
    ]);
    let glass = end_of(&cold, "glass");
    assert!(glass.ice_mass().0 > 30.0, "{} g", glass.ice_mass().0);
}

#[test]
fn the_whole_time_is_the_longest_chain_and_never_less_than_the_work() {
    let night = drink(vec![
        add("bowl", "lemon_peel", "60 g"),
        add("bowl", "white_sugar", "200 g"),
        stand("bowl", 720.0, RestingPlace::Worktop),
        strain("bowl", "sieve", "pitcher", Press::Pressed),
        add("pot", "water", "1 l"),
        add("pot", "hibiscus_dried", "30 g"),
        boil(10.0, true),
        stand("pot", 60.0, RestingPlace::Worktop),
        strain("pot", "cloth", "pitcher", Press::Drained),
    ]);
    let trace = Trace::run(&night, Cupboard::builtin());
    let all: f64 = trace.frames.iter().map(|f| f.minutes.0).sum();
    assert!((720.0..740.0).contains(&trace.minutes.0), "{}", trace.minutes.0);
    assert!(all > 790.0, "one after the other {all}");
    let work = drink((0..40).map(|_| add("jug", "water", "10 ml")).collect());
    let trace = Trace::run(&work, Cupboard::builtin());
    assert!(trace.minutes >= trace.hands_on());
}

/// Two litres in an open pot, from the boil: 80 to 130 g in two hours, 4 to 6 % until it is cool, and
/// nothing under a lid.
#[test]
fn what_stands_open_loses_steam() {
    let lost = |minutes: f64, covered: bool| {
        let drink = drink(vec![
            add("pot", "water", "2 kg"),
            Action::Heat {
                vessel: "pot".into(),
                to_c: 99.0,
                minutes: 0.0,
                lid: true,
                until_clear: false,
            },
            Action::Infuse { vessel: "pot".into(), minutes, place: RestingPlace::Worktop, covered },
        ]);
        Trace::run(&drink, Cupboard::builtin()).frames[2].gone[Component::Water]
    };
    assert!((80.0..130.0).contains(&lost(120.0, false)), "{}", lost(120.0, false));
    assert!((80.0..120.0).contains(&lost(600.0, false)), "{}", lost(600.0, false));
    assert!(lost(600.0, true) < 1.0);
}

/// A sour syrup of 60 °Bx that cools on the worktop: what splits is the integral over the way down,
/// not the rate at its mean temperature.
#[test]
fn sugar_splits_along_the_way_down() {
    let sour = |parts: usize| {
        let mut actions = vec![
            add("pot", "white_sugar", "1.2 kg"),
            add("pot", "water", "800 g"),
            add("pot", "citric_acid", "12 g"),
            Action::Heat {
                vessel: "pot".into(),
                to_c: 90.0,
                minutes: 0.0,
                lid: true,
                until_clear: false,
            },
        ];
        let each = 360.0 / parts as f64;
        actions.extend((0..parts).map(|_| stand("pot", each, RestingPlace::Worktop)));
        end_of(&drink(actions), "pot").invert_share()
    };
    let (once, finely) = (sour(1), sour(24));
    assert!((0.4..0.9).contains(&once), "{once}");
    assert!((once / finely - 1.0).abs() < 0.03, "{once} at once, {finely} in parts");
}
