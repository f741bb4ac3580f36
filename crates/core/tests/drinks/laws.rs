//! Laws of what is read off a whole kitchen: using bottles up, one pitcher for all, what helps.

use keen_core::balance::Profile;
use keen_core::cupboard::{Cupboard, KeptMixture, Kitchen, VesselKind};
use keen_core::drink::Drink;
use keen_core::keep::{Bottle, Happened, Keeping, Move, Place, UseKind, kept_of, use_up};
use keen_core::taste::group::{Fair, Guest, in_the_glass, pitchers};
use keen_core::taste::ideal::Ideal;
use keen_core::taste::taster::Taster;
use keen_core::trace::Trace;
use proptest::prelude::*;

use crate::common::{add, boil, drink, pour, serve, squeeze};
use keen_core::drink::Portion;

fn syrup(sugar: f64) -> Drink {
    let mut syrup = drink(vec![
        add("pot", "water", "500 g"),
        add("pot", "white_sugar", &format!("{sugar:.0} g")),
        boil(3.0, true),
        pour("pot", "bottle", Portion::All),
    ]);
    syrup.name = "Syrup".into();
    syrup
}

fn bottle(of: &Drink, ml: f64) -> (Bottle, Cupboard) {
    let cupboard = Cupboard::builtin();
    let trace = Trace::run(of, cupboard);
    let contents = kept_of(of, &trace).unwrap();
    let mixture = KeptMixture::of("kept_x", &of.name, contents, of, cupboard).unwrap();
    let bottle = Bottle {
        name: of.name.clone(),
        batch: None,
        drink: None,
        vessel: VesselKind::Bottle,
        holds_ml: 1000.0,
        ml,
        place: Place::Refrigerator,
        keeping: Keeping::of(of, cupboard, &trace).unwrap(),
        mixture: mixture.clone(),
        colour: "#ffffff".into(),
        thinned: None,
        alcohol: 0.0,
    };
    (bottle, Cupboard::of(&Kitchen { mixtures: vec![mixture], ..Kitchen::default() }))
}

fn lemonade(sugar: f64) -> Drink {
    drink(vec![
        squeeze("pitcher", "lemon_juice", "5 lemons"),
        add("pitcher", "white_sugar", &format!("{sugar:.0} g")),
        add("pitcher", "water", "1200 g"),
        serve("pitcher", 4, "200 ml"),
    ])
}

fn guest(ratio: f64, sd: f64) -> Guest {
    let taster = Taster {
        name: "one".into(),
        mark: Default::default(),
        avoids: Vec::new(),
        child: false,
        notices_sweet: None,
        notices_sour: None,
    };
    Guest { taster, ideal: Ideal { x: ratio.ln(), sd } }
}

fn profile(drink: &Drink, cupboard: &Cupboard) -> Profile {
    Trace::run(drink, cupboard).outcome().and_then(Profile::of).unwrap()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    /// What a bottle is said to be good for, it is good for: there is enough of it, and it tastes as it should.
    #[test]
    fn no_use_of_a_bottle_takes_more_than_is_in_it(sugar in 200.0..900.0_f64, ml in 60.0..900.0_f64, in_drink in 60.0..200.0_f64) {
        let (bottle, cupboard) = bottle(&syrup(sugar), ml);
        let others = vec![("d".to_owned(), lemonade(in_drink))];
        let state = bottle.state(&[], 1.0, None);
        for one in use_up(&bottle, &state, &others, &cupboard) {
            prop_assert!(one.takes_ml <= state.ml, "{}: {} of {}", one.message, one.takes_ml, state.ml);
            let Some(made) = &one.drink else { continue };
            prop_assert_eq!(made.check(&cupboard), vec![]);
            let is = profile(made, &cupboard);
            match one.kind {
                UseKind::Sweetens => {
                    let was = profile(&others[0].1, &cupboard);
                    prop_assert!((is.sweetness_percent / was.sweetness_percent - 1.0).abs() < 0.09);
                }
                UseKind::Glasses => prop_assert!(is.sweetness_percent < 13.5, "{}", is.sweetness_percent),
                UseKind::Freezes => prop_assert!(false, "the freezer makes no drink"),
            }
        }
    }

    /// Time and openings only ever take days away, and nothing is good for anything once it is past its date.
    #[test]
    fn days_only_go_down(sugar in 200.0..900.0_f64, first in 0.0..20.0_f64, later in 0.0..20.0_f64, opened in any::<bool>()) {
        let (bottle, cupboard) = bottle(&syrup(sugar), 500.0);
        let moves: Vec<Happened> = opened.then_some(Happened { at: first / 2.0, what: Move::Opened }).into_iter().collect();
        let (a, b) = (bottle.state(&moves, first, None), bottle.state(&moves, first + later, None));
        prop_assert!(b.days_left <= a.days_left + 1e-9);
        prop_assert!(a.days_left <= bottle.state(&[], first, None).days_left + 1e-9, "opening adds no days");
        prop_assert!(!a.over || b.over);
        if b.over {
            prop_assert_eq!(use_up(&bottle, &b, &[], &cupboard), vec![]);
        }
        // What was seen here shortens, and never lengthens.
        let seen = bottle.state(&moves, first, Some(3.0));
        prop_assert!(seen.days_left <= a.days_left + 1e-9);
        prop_assert!((bottle.state(&moves, first, Some(500.0)).days_left - a.days_left).abs() < 1e-9);
    }

    /// One pitcher for all lies among them; whoever joins draws it towards where they are.
    #[test]
    fn a_pitcher_lies_among_those_who_drink_it(ratios in prop::collection::vec(8.0..30.0_f64, 1..7), sd in 0.05..0.3_f64, joins in 8.0..30.0_f64) {
        let group: Vec<Guest> = ratios.iter().map(|ratio| guest(*ratio, sd)).collect();
        let all: Vec<&Guest> = group.iter().collect();
        let (least, most) = ratios.iter().fold((f64::INFINITY, 0.0_f64), |(l, m), r| (l.min(*r), m.max(*r)));
        for fair in [Fair::LeastSum, Fair::NobodyLeftOut] {
            let place = fair.place(&all).unwrap().exp();
            prop_assert!(place >= least * 0.999 && place <= most * 1.001, "{place}: {least} to {most}");
            // In whatever order they sit.
            let turned: Vec<&Guest> = group.iter().rev().collect();
            prop_assert!((fair.place(&turned).unwrap().exp() / place - 1.0).abs() < 1e-9);
        }
        let before = Fair::LeastSum.place(&all).unwrap();
        let more = guest(joins, sd);
        let with: Vec<&Guest> = all.iter().copied().chain([&more]).collect();
        let after = Fair::LeastSum.place(&with).unwrap();
        let towards = (joins.ln() - before) * (after - before);
        prop_assert!(towards >= -1e-12, "{before} {after} {joins}");
    }
}

#[test]
fn everybody_gets_what_they_would_get_alone_of_the_same_pitcher() {
    let (drink, cupboard) = (lemonade(120.0), Cupboard::builtin());
    let group = [guest(9.0, 0.1), guest(14.0, 0.1), guest(24.0, 0.1)];
    let together = in_the_glass(&drink, &group, cupboard).unwrap();
    for (i, one) in group.iter().enumerate() {
        let alone = in_the_glass(&drink, std::slice::from_ref(one), cupboard).unwrap();
        assert_eq!((&together[i].stirs_in, together[i].miss), (&alone[0].stirs_in, alone[0].miss));
    }
    // Who is far off to either side stirs something in; who is at home in it, nothing.
    let ratio = profile(&drink, cupboard).ratio.unwrap();
    let at_home = in_the_glass(&drink, &[guest(ratio, 0.1)], cupboard).unwrap();
    assert!(at_home[0].stirs_in.is_none() && at_home[0].miss.abs() < 1e-6);
    assert!(together[0].stirs_in.is_some() && together[2].stirs_in.is_some());
    // All of them are in some pitcher, once.
    let shares = pitchers(&drink, &group, cupboard).unwrap();
    let mut seated: Vec<usize> = shares.iter().flat_map(|share| share.guests.clone()).collect();
    seated.sort_unstable();
    assert_eq!(seated, [0, 1, 2]);
}
