//! What a pot does at another size, in the freezer, with milk, and when a wait is cut in two.

use crate::common::{add, boil, drink, pour, serve, stand, strain, top_up};
use keen_core::balance::{Aim, Asked, Doubt, How, Pitcher, Profile, Target, Word, correct, solve};
use keen_core::cupboard::Cupboard;
use keen_core::drink::{Action, CoolingPlace, Drink, Portion, Press, RestingPlace, Warmth};
use keen_core::quantity::{Amount, Units};
use keen_core::scale::{NamedSize, Size, resize, sheet};
use keen_core::trace::{NoticeKind, Trace};

fn brix(drink: &Drink) -> f64 {
    let trace = Trace::run(drink, Cupboard::builtin());
    Profile::of(trace.outcome().unwrap()).unwrap().brix
}

fn boiled_syrup() -> Drink {
    drink(vec![
        add("pot", "white_sugar", "400 g"),
        add("pot", "water", "500 ml"),
        boil(12.0, false),
    ])
}

#[test]
fn a_syrup_boiled_by_the_clock_ends_as_thick_at_every_size() {
    let written = boiled_syrup();
    let wanted = brix(&written);
    for factor in [0.5, 2.0, 4.0] {
        let sized = resize(&written, Cupboard::builtin(), &Size::Factor(factor)).unwrap();
        let there = brix(&sized);
        assert!((there - wanted).abs() < 1.2, "{factor} times: {there} for {wanted} °Bx");
    }
    // The amounts as they are, with the minutes of the small one, would end elsewhere.
    let mut large = resize(&written, Cupboard::builtin(), &Size::Factor(4.0)).unwrap();
    large.steps[2].action = boil(12.0, false);
    assert!(brix(&large) < wanted - 2.0, "{}", brix(&large));
}

#[test]
fn what_boils_longer_at_another_size_is_told_and_comes_to_what_was_asked_for() {
    let written = boiled_syrup();
    let size = Size::Volume(Amount::millilitres(2000.0));
    let sizes = vec![NamedSize { name: "large".into(), size }];
    let sheet = sheet(&written, Cupboard::builtin(), &sizes, Units::Metric).unwrap();
    let large = &sheet.columns[0];
    assert!((large.volume_ml / 2000.0 - 1.0).abs() < 0.02, "{}", large.volume_ml);
    assert_eq!(large.changes.len(), 1, "{:?}", large.changes);
    let Action::Boil { minutes, .. } = large.drink.steps[2].action else { panic!() };
    assert!(minutes > 14.0 && large.changes[0].contains(&minutes.to_string()), "{minutes}");
}

#[test]
fn a_target_that_runs_over_is_not_reached() {
    let start = drink(vec![
        add("pitcher", "water", "1 l"),
        add("pitcher", "white_sugar", "100 g"),
        add("pitcher", "lemon_juice", "150 ml"),
    ]);
    let with = |ml: f64| {
        let target = Target { volume_ml: Some(ml), ..Target::default() };
        solve(&start, Cupboard::builtin(), &Aim { target, ..Aim::default() }).unwrap()
    };
    let fits = with(1500.0);
    assert!(fits.reached && fits.stops.is_empty(), "{:?}", fits.stops);
    let over = with(50_000.0);
    assert!(!over.reached, "50 l in a pitcher");
    assert!(over.stops.iter().any(|why| why.contains("itcher")), "{:?}", over.stops);
}

#[test]
fn what_is_too_strong_is_thinned_and_soda_comes_last() {
    let start = drink(vec![
        add("pitcher", "water", "400 ml"),
        add("pitcher", "white_sugar", "120 g"),
        add("pitcher", "lemon_juice", "150 ml"),
    ]);
    let ask = |too: Word| {
        let asked = Asked {
            pitcher: Pitcher::Traced {
                drink: Box::new(start.clone()),
                vessel: "pitcher".into(),
                step: None,
            },
            sweetness: None,
            acidity: None,
            words: vec![Doubt { too, how: How::Clearly }],
            notices: Default::default(),
            at_hand: Vec::new(),
        };
        correct(Cupboard::builtin(), &asked).unwrap().ways
    };
    let thinned = ask(Word::Strong);
    let first: Vec<&str> = thinned[0].additions.iter().map(|a| a.ingredient.as_str()).collect();
    assert_eq!(first, ["water"], "{thinned:?}");
    for word in [Word::Strong, Word::Sharp] {
        let ways = ask(word);
        assert!(ways[0].caution.is_none(), "{ways:?}");
        let soda = ways.iter().position(|w| w.caution.is_some());
        assert!(soda.is_none_or(|at| at == ways.len() - 1), "{ways:?}");
    }
}

#[test]
fn milk_curdles_by_how_sour_and_how_hot_it_is() {
    let told = |milk: &str, warmth: Warmth, acid: &str| {
        let poured = Action::Add {
            into: "jug".into(),
            ingredient: milk.into(),
            amount: "500 ml".parse().unwrap(),
            warmth,
            cut: Default::default(),
            portions: 1,
        };
        let drink = drink(vec![poured, add("jug", "citric_acid", acid)]);
        let trace = Trace::run(&drink, Cupboard::builtin());
        trace.frames.iter().flat_map(|f| &f.notices).any(|n| n.kind == NoticeKind::Curdles)
    };
    assert!(!told("milk", Warmth::Chilled, "0.2 g"), "hardly sour");
    assert!(told("milk", Warmth::Hot, "1.8 g"), "hot and a little sour");
    assert!(!told("milk", Warmth::Chilled, "1.8 g"), "the same cold");
    assert!(!told("yogurt", Warmth::Chilled, "1 g"), "yogurt has set already");
}

#[test]
fn a_pitcher_that_froze_is_still_that_drink() {
    let freeze = Action::Cool {
        vessel: "pitcher".into(),
        to_c: -12.0,
        place: CoolingPlace::Freezer,
        covered: true,
    };
    let steps = |last: Option<Action>| {
        let all = vec![
            add("jug", "lemon_juice", "200 ml"),
            add("jug", "white_sugar", "120 g"),
            add("jug", "water", "800 ml"),
            pour("jug", "pitcher", Portion::All),
        ];
        drink(all.into_iter().chain(last).collect())
    };
    let read = |drink: &Drink| {
        let trace = Trace::run(drink, Cupboard::builtin());
        let outcome = trace.outcome().unwrap();
        let profile = Profile::of(outcome).unwrap();
        (drink.vessels[outcome.vessel].id.clone(), profile.volume_ml, profile.brix)
    };
    let (liquid, frozen) = (read(&steps(None)), read(&steps(Some(freeze))));
    assert_eq!(frozen.0, "pitcher");
    assert!((frozen.1 / liquid.1 - 1.0).abs() < 0.01, "{frozen:?} for {liquid:?}");
    assert!((frozen.2 - liquid.2).abs() < 0.1, "{frozen:?} for {liquid:?}");
}

#[test]
fn a_wait_cut_in_two_smells_the_same() {
    let waits = |parts: &[f64]| {
        let mut steps = vec![
            Action::Add {
                into: "pot".into(),
                ingredient: "water".into(),
                amount: "1 l".parse().unwrap(),
                warmth: Warmth::Boiling,
                cut: Default::default(),
                portions: 1,
            },
            add("pot", "mint", "30 g"),
        ];
        steps.extend(parts.iter().map(|m| stand("pot", *m, RestingPlace::Worktop)));
        let trace = Trace::run(&drink(steps), Cupboard::builtin());
        Profile::of(trace.outcome().unwrap()).unwrap().aroma_per_l
    };
    let once = waits(&[40.0]);
    for parts in [&[20.0, 20.0][..], &[5.0, 35.0], &[10.0; 4]] {
        let cut = waits(parts);
        assert!((cut / once - 1.0).abs() < 0.001, "{parts:?}: {cut} for {once}");
    }
}

#[test]
fn a_drink_topped_up_in_the_glass_keeps_its_boil() {
    let written = drink(vec![
        add("pot", "white_sugar", "200 g"),
        add("pot", "water", "600 ml"),
        boil(8.0, true),
        top_up("pot", "water", "1 l"),
        serve("pot", 4, "200 ml"),
    ]);
    let sized = resize(&written, Cupboard::builtin(), &Size::Factor(3.0)).unwrap();
    assert_eq!(sized.steps[2].action, written.steps[2].action, "with the lid on nothing changes");
}

/// Work by hand of the last step, minutes.
fn by_hand(actions: Vec<Action>) -> f64 {
    Trace::run(&drink(actions), Cupboard::builtin()).frames.last().unwrap().hands_on.0
}

#[test]
fn work_by_hand_grows_with_the_load() {
    let wrung = |fruit: &str, water: &str| {
        let mut actions = vec![add("pot", "raspberry", fruit), add("pot", "water", water)];
        actions.push(boil(10.0, true));
        actions.push(strain("pot", "cloth", "pitcher", Press::Wrung));
        by_hand(actions)
    };
    let (small, large) = (wrung("400 g", "600 g"), wrung("20 kg", "30 l"));
    assert!((2.0..8.0).contains(&small), "{small}");
    assert!(large > 20.0 && large < 50.0 * small, "{large}");
    let peel = by_hand(vec![add("jug", "pineapple_peel", "400 g")]);
    assert!((3.0..8.0).contains(&peel), "the peel of one pineapple: {peel} min");
}

/// At both ends: what stays behind in a pot and on a sieve is believable.
#[test]
fn what_stays_behind_is_a_film_at_a_glass_and_at_fifty_litres() {
    for (water, sugar, least, most) in [("180 g", "20 g", 2.0, 8.0), ("45 kg", "5 kg", 40.0, 150.0)]
    {
        let parts = drink(vec![
            add("pot", "water", water),
            add("pot", "white_sugar", sugar),
            strain("pot", "sieve", "pitcher", Press::Drained),
        ]);
        let trace = Trace::run(&parts, Cupboard::builtin());
        let left: f64 = ["pot", "sieve"]
            .iter()
            .filter_map(|id| trace.last(parts.vessel(id).unwrap()))
            .map(|(_, contents)| contents.mass().0)
            .sum();
        assert!((least..most).contains(&left), "{left} g of {water}");
    }
}
