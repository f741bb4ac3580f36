//! Bottles as ingredients, and what they are good for.

use keen_core::balance::Profile;
use keen_core::cupboard::{Cupboard, KeptMixture, Kitchen, VesselKind};
use keen_core::drink::{Action, Drink};
use keen_core::keep::{Away, Bottle, Happened, Keeping, Move, Place, UseKind, kept_of, use_up};
use keen_core::trace::Trace;

use proptest::prelude::*;

use crate::common::drink;

fn add(into: &str, ingredient: &str, amount: &str) -> Action {
    Action::add(into, ingredient, amount.parse().unwrap())
}

fn syrup() -> Drink {
    let mut syrup = drink(vec![
        add("pot", "water", "500 ml"),
        add("pot", "white_sugar", "500 g"),
        add("pot", "ginger_root", "100 g"),
        Action::Heat {
            vessel: "pot".into(),
            to_c: 90.0,
            minutes: 20.0,
            lid: true,
            until_clear: false,
        },
        Action::Strain {
            from: "pot".into(),
            through: "sieve".into(),
            into: "bottle".into(),
            press: keen_core::cupboard::Press::Drained,
        },
    ]);
    syrup.name = "Ginger syrup".into();
    syrup.family = keen_core::drink::Family::Syrup;
    syrup
}

fn bottled(of: &Drink, id: &str, ml: f64) -> (Bottle, Kitchen) {
    let cupboard = Cupboard::builtin();
    let trace = Trace::run(of, cupboard);
    let contents = kept_of(of, &trace).unwrap();
    let mixture = KeptMixture::of(id, &of.name, contents, of, cupboard).unwrap();
    let bottle = Bottle {
        name: of.name.clone(),
        batch: None,
        drink: None,
        vessel: VesselKind::Bottle,
        holds_ml: 750.0,
        ml,
        place: Place::Refrigerator,
        keeping: Keeping::of(of, cupboard, &trace).unwrap(),
        mixture: mixture.clone(),
        colour: contents.colour().to_string(),
        thinned: None,
        alcohol: 0.0,
    };
    (bottle, Kitchen { mixtures: vec![mixture], ..Kitchen::default() })
}

/// What is poured from a bottle is what was poured into it.
#[test]
fn a_kept_mixture_is_what_it_was_made_of() {
    let syrup = syrup();
    let (bottle, kitchen) = bottled(&syrup, "kept_a1", 700.0);
    assert_eq!(kitchen.check(), []);
    let cupboard = Cupboard::of(&kitchen);
    let poured = drink(vec![add("jug", &bottle.mixture.id, "200 ml")]);
    assert_eq!(poured.check(&cupboard), []);
    let profile = |drink: &Drink, cupboard: &Cupboard| {
        Trace::run(drink, cupboard).outcome().and_then(Profile::of).unwrap()
    };
    let (there, here) = (profile(&syrup, Cupboard::builtin()), profile(&poured, &cupboard));
    assert!((here.volume_ml - 200.0).abs() < 0.5, "{}", here.volume_ml);
    assert!((there.brix - here.brix).abs() < 0.05, "{} {}", there.brix, here.brix);
    assert!((there.sweetness_percent - here.sweetness_percent).abs() < 0.05);
    assert_eq!(there.colour, here.colour);
    // Without the bottle the drink can't be carried out, and says so.
    assert!(!poured.check(Cupboard::builtin()).is_empty());
    // It is kept and read again as it is.
    let again: Kitchen = serde_json::from_str(&serde_json::to_string(&kitchen).unwrap()).unwrap();
    assert_eq!(again, kitchen);
}

#[test]
fn a_bottle_is_good_for_glasses_for_another_drink_and_for_the_freezer() {
    let (bottle, kitchen) = bottled(&syrup(), "kept_a1", 700.0);
    let cupboard = Cupboard::of(&kitchen);
    let state = bottle.state(&[], 1.0, None);
    let lemonade = drink(vec![
        Action::Squeeze {
            into: "pitcher".into(),
            ingredient: "lemon_juice".into(),
            amount: "6 lemons".parse().unwrap(),
            halves_into: None,
        },
        add("pitcher", "white_sugar", "150 g"),
        Action::TopUp {
            vessel: "pitcher".into(),
            ingredient: "water".into(),
            warmth: Default::default(),
            to: "2 l".parse().unwrap(),
        },
    ]);
    let others = vec![("d1".to_owned(), lemonade.clone())];
    let uses = use_up(&bottle, &state, &others, &cupboard);
    let of = |kind: UseKind| uses.iter().find(|u| u.kind == kind).unwrap();
    let glasses = of(UseKind::Glasses);
    assert!(glasses.message.contains("soda water"), "{}", glasses.message);
    assert!(glasses.takes_ml <= 700.0 && glasses.takes_ml > 500.0, "{}", glasses.takes_ml);
    let glass = glasses.drink.clone().unwrap();
    let profile = Trace::run(&glass, &cupboard).outcome().and_then(Profile::of).unwrap();
    assert!((7.5..10.5).contains(&profile.sweetness_percent), "{}", profile.sweetness_percent);
    // The pitcher is as sweet as with its sugar, and no fuller.
    let sweetens = of(UseKind::Sweetens);
    let made = sweetens.drink.clone().unwrap();
    let (was, is) = (
        Trace::run(&lemonade, &cupboard).outcome().and_then(Profile::of).unwrap(),
        Trace::run(&made, &cupboard).outcome().and_then(Profile::of).unwrap(),
    );
    assert!((is.sweetness_percent / was.sweetness_percent - 1.0).abs() < 0.05);
    assert!((is.volume_ml / was.volume_ml - 1.0).abs() < 0.03);
    assert!(sweetens.takes_ml < 300.0, "{}", sweetens.takes_ml);
    of(UseKind::Freezes);
    // A mouthful sweetens no pitcher, and what is over is good for nothing.
    let little = Bottle { ml: 40.0, ..bottle.clone() };
    let kinds = |b: &Bottle, now: f64| {
        use_up(b, &b.state(&[], now, None), &others, &cupboard)
            .iter()
            .map(|u| u.kind)
            .collect::<Vec<_>>()
    };
    assert!(!kinds(&little, 0.0).contains(&UseKind::Sweetens));
    assert_eq!(kinds(&bottle, 500.0), []);
    let gone = [Happened { at: 1.0, what: Move::Tipped { why: Away::Spilt } }];
    assert_eq!(use_up(&bottle, &bottle.state(&gone, 1.0, None), &others, &cupboard), []);
}

#[test]
fn a_mixture_that_nobody_made_is_refused() {
    let (_, kitchen) = bottled(&syrup(), "kept_a1", 700.0);
    let with = |edit: fn(&mut KeptMixture)| {
        let mut odd = kitchen.clone();
        edit(&mut odd.mixtures[0]);
        odd.check()
    };
    assert!(!with(|m| m.id = "white_sugar".into()).is_empty());
    assert!(!with(|m| m.name = String::new()).is_empty());
    assert!(!with(|m| m.per_gram.clear()).is_empty());
    assert!(!with(|m| m.per_gram.values_mut().for_each(|v| *v *= 3.0)).is_empty());
    assert!(!with(|m| m.per_gram.values_mut().for_each(|v| *v = f64::NAN)).is_empty());
}

/// Anything that happens to a bottle, some days after what happened before.
fn moves() -> impl Strategy<Value = Vec<Happened>> {
    let what = prop_oneof![
        Just(Move::Opened),
        (0.0..500.0).prop_map(|ml| Move::Poured { ml, what_for: String::new() }),
        prop_oneof![Just(Place::Refrigerator), Just(Place::Freezer), Just(Place::Cupboard)]
            .prop_map(|to| Move::Moved { to }),
        Just(Move::Emptied),
        Just(Move::Tipped { why: Away::WentOff }),
        (0..6_usize).prop_map(|of| Move::TakenBack { of }),
    ];
    proptest::collection::vec((0.0..9.0, what), 0..10).prop_map(|all| {
        let mut at = 0.0;
        all.into_iter()
            .map(|(days, what)| {
                at += days;
                Happened { at, what }
            })
            .collect()
    })
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 64, ..ProptestConfig::default() })]

    /// There is never less than nothing and never more than was put there; its date comes nearer by the day, and
    /// what was learnt here never makes it later.
    #[test]
    fn a_bottle_only_grows_emptier_and_older(moves in moves(), wait in 0.1..40.0_f64, seen in 1.0..60.0_f64) {
        let (bottle, _) = bottled(&syrup(), "kept_1", 700.0);
        let end = moves.last().map_or(0.0, |m| m.at);
        let now = bottle.state(&moves, end, None);
        prop_assert!((0.0..=700.0).contains(&now.ml) && (0.0..=1.0).contains(&now.fill), "{now:?}");
        prop_assert!(now.days_left.is_finite() && now.use_by.is_finite(), "{now:?}");
        prop_assert_eq!(now.gone, now.ml < 1.0, "{:?}", now);
        prop_assert_eq!(now.over, now.days_left < 0.0);
        let later = bottle.state(&moves, end + wait, None);
        prop_assert!((later.days_left - (now.days_left - wait)).abs() < 1e-6, "{now:?} then {later:?}");
        prop_assert!((later.use_by - now.use_by).abs() < 1e-6, "the date stays where it is");
        prop_assert_eq!(later.ml, now.ml);
        let learnt = bottle.state(&moves, end, Some(seen));
        if now.place != Place::Freezer {
            prop_assert!(learnt.days_left <= now.days_left + 1e-9, "{now:?} learnt {learnt:?}");
        }
    }

    /// What is taken back did not happen; and opening or warming a bottle never makes it keep longer.
    #[test]
    fn what_is_done_to_a_bottle_makes_its_days_fewer(at in 0.0..5.0_f64, later in 0.5..5.0_f64) {
        let (bottle, _) = bottled(&syrup(), "kept_1", 700.0);
        let left = |what: &[Move]| {
            let moves: Vec<Happened> =
                what.iter().map(|what| Happened { at, what: what.clone() }).collect();
            bottle.state(&moves, at + later, None)
        };
        let untouched = left(&[]);
        let opened = left(&[Move::Opened]);
        let warm = left(&[Move::Moved { to: Place::Cupboard }]);
        let both = left(&[Move::Opened, Move::Moved { to: Place::Cupboard }]);
        prop_assert!(opened.use_by < untouched.use_by && warm.use_by < untouched.use_by);
        prop_assert!(both.use_by < opened.use_by && both.use_by < warm.use_by);
        let taken_back = left(&[Move::Opened, Move::TakenBack { of: 0 }]);
        prop_assert!((taken_back.use_by - untouched.use_by).abs() < 1e-9);
        prop_assert_eq!((taken_back.opened, &taken_back.why), (None, &untouched.why));
        let frozen = left(&[Move::Moved { to: Place::Freezer }]);
        prop_assert!(frozen.days_left > both.days_left);
    }
}
