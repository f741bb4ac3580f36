//! What is safe: how long histories of all kinds keep, and what has to be discarded.
//!
//! The ceilings are the days that a careful food-safety authority allows; what is told may be fewer, never more.

use keen_core::cupboard::{Cupboard, KeptMixture, Kitchen, VesselKind};
use keen_core::drink::{
    Action, CoolingPlace, Drink, Family, Maceration, Portion, Press, RestingPlace, Warmth,
};
use keen_core::keep::{Bottle, CautionKind, Happened, Keeping, Move, Place, cautions, kept_of};
use keen_core::trace::{NoticeKind, Trace};
use proptest::prelude::*;

use crate::common::{
    add, any_drink, boil, drink, kinds, last, pour, run, serve, squeeze, stand, strain,
};

const TABLE: RestingPlace = RestingPlace::Worktop;
const COLD: RestingPlace = RestingPlace::Refrigerator;

fn keeping(actions: Vec<Action>) -> Keeping {
    of(&drink(actions))
}

fn of(drink: &Drink) -> Keeping {
    Keeping::of(drink, Cupboard::builtin(), &run(drink)).unwrap()
}

fn hours(vessel: &str, hours: f64, place: RestingPlace) -> Action {
    stand(vessel, hours * 60.0, place)
}

fn boiling(into: &str, ml: &str) -> Action {
    Action::Add {
        into: into.into(),
        ingredient: "water".into(),
        amount: ml.parse().unwrap(),
        warmth: Warmth::Boiling,
        cut: Default::default(),
        portions: 1,
    }
}

fn heat(vessel: &str, to_c: f64, minutes: f64) -> Action {
    Action::Heat { vessel: vessel.into(), to_c, minutes, lid: true, until_clear: false }
}

#[test]
fn what_was_left_out_for_too_long_is_to_be_discarded() {
    let milk = |days: f64| {
        vec![
            add("jug", "milk", "500 ml"),
            add("jug", "white_sugar", "40 g"),
            hours("jug", 24.0 * days, TABLE),
        ]
    };
    let cases: Vec<(&str, Vec<Action>)> = vec![
        ("milk three days on the worktop", milk(3.0)),
        ("milk two weeks on the worktop", milk(14.0)),
        ("milk five hours on the worktop", milk(5.0 / 24.0)),
        (
            "boiled rice water after eight warm hours",
            vec![
                add("pot", "water", "1 l"),
                add("pot", "rice_white", "100 g"),
                boil(20.0, true),
                hours("pot", 8.0, TABLE),
                strain("pot", "sieve", "jug", Press::Drained),
            ],
        ),
        (
            "ten litres of mint water that cool overnight",
            vec![
                add("pot", "water", "10 l"),
                add("pot", "mint", "200 g"),
                boil(10.0, true),
                hours("pot", 12.0, TABLE),
                strain("pot", "sieve", "jug", Press::Drained),
            ],
        ),
        (
            "ginger blended with a little honey, three warm days",
            vec![
                add("blender", "ginger_root", "200 g"),
                add("blender", "water", "400 ml"),
                add("blender", "honey", "20 g"),
                Action::Blend { vessel: "blender".into(), seconds: 60.0 },
                hours("blender", 72.0, TABLE),
            ],
        ),
        (
            "melon juice left out for five hours",
            vec![
                add("blender", "cantaloupe", "500 g"),
                Action::Blend { vessel: "blender".into(), seconds: 30.0 },
                hours("blender", 5.0, TABLE),
            ],
        ),
        (
            "raw apple juice ten days in the refrigerator",
            vec![add("jug", "apple_juice", "1 l"), hours("jug", 240.0, COLD)],
        ),
        (
            "old juice that is boiled at last",
            vec![add("pot", "apple_juice", "1 l"), hours("pot", 120.0, TABLE), boil(10.0, true)],
        ),
        (
            "old juice that sugar is stirred into",
            vec![
                add("jug", "apple_juice", "1 l"),
                hours("jug", 120.0, TABLE),
                add("jug", "white_sugar", "900 g"),
            ],
        ),
        (
            "a little old milk in much that is fresh",
            vec![
                add("bowl", "milk", "100 ml"),
                hours("bowl", 12.0, TABLE),
                add("jug", "water", "1 l"),
                squeeze("jug", "lemon_juice", "3 lemons"),
                pour("bowl", "jug", Portion::All),
            ],
        ),
    ];
    for (what, actions) in cases {
        let drink = drink(actions);
        let keeping = of(&drink);
        assert!(keeping.is_to_be_discarded(), "{what}: {} days", keeping.left);
        assert_eq!((keeping.days, keeping.frozen_days), (0, 0), "{what}");
        assert!(keeping.reasons[0].starts_with("Discard it"), "{what}: {:?}", keeping.reasons);
        assert!(
            kinds(&run(&drink)).contains(&NoticeKind::LeftWarm),
            "{what} is noticed at the step"
        );
    }
}

#[test]
fn nothing_keeps_longer_than_a_careful_authority_allows() {
    let syrup = |sugar: &str| {
        vec![add("pot", "water", "500 g"), add("pot", "white_sugar", sugar), boil(2.0, true)]
    };
    let sherbet = vec![
        squeeze("jug", "lemon_juice", "6 lemons"),
        add("jug", "white_sugar", "300 g"),
        add("jug", "water", "300 ml"),
    ];
    let cases: Vec<(&str, Vec<Action>, f64, f64)> = vec![
        // What, how, at least so many days, and at most.
        (
            "lemonade",
            vec![
                squeeze("jug", "lemon_juice", "4 lemons"),
                add("jug", "white_sugar", "120 g"),
                add("jug", "water", "1 l"),
            ],
            2.0,
            3.0,
        ),
        ("raw apple juice", vec![add("jug", "apple_juice", "1 l")], 1.5, 3.0),
        ("apple juice boiled", vec![add("pot", "apple_juice", "1 l"), boil(5.0, true)], 3.0, 7.0),
        (
            "apple juice warmed to 60 °C",
            vec![add("pot", "apple_juice", "1 l"), heat("pot", 60.0, 2.0)],
            1.0,
            3.0,
        ),
        (
            "juice under boiling water",
            vec![add("jug", "apple_juice", "250 ml"), boiling("jug", "500 ml")],
            1.0,
            3.0,
        ),
        (
            "melon water",
            vec![
                add("blender", "cantaloupe", "500 g"),
                add("blender", "water", "500 ml"),
                Action::Blend { vessel: "blender".into(), seconds: 30.0 },
            ],
            0.9,
            2.0,
        ),
        (
            "milk and water",
            vec![add("jug", "milk", "300 ml"), add("jug", "water", "300 ml")],
            1.5,
            2.0,
        ),
        ("oat drink", vec![add("jug", "oat_drink", "500 ml")], 1.5, 4.0),
        (
            "hibiscus, boiled",
            vec![
                add("pot", "water", "1 l"),
                add("pot", "hibiscus_dried", "40 g"),
                boil(10.0, true),
                strain("pot", "sieve", "jug", Press::Drained),
            ],
            3.0,
            7.0,
        ),
        (
            "hibiscus, cold-steeped",
            vec![
                add("jug", "water", "1 l"),
                add("jug", "hibiscus_dried", "40 g"),
                hours("jug", 10.0, COLD),
            ],
            1.5,
            3.0,
        ),
        (
            "mint water, cold",
            vec![add("jug", "water", "1 l"), add("jug", "mint", "30 g"), hours("jug", 4.0, COLD)],
            // The jug cools along, and a quarter of a day is used up meanwhile.
            0.8,
            2.0,
        ),
        (
            "mint boiled in water",
            vec![add("pot", "water", "1 l"), add("pot", "mint", "30 g"), boil(5.0, true)],
            2.0,
            4.0,
        ),
        ("syrup one to one", syrup("500 g"), 7.0, 30.0),
        ("syrup two to one", syrup("1000 g"), 20.0, 60.0),
        ("raw lemon sherbet", sherbet, 3.0, 10.0),
        (
            "vinegar, honey and water",
            vec![
                add("jug", "cider_vinegar", "100 ml"),
                add("jug", "honey", "150 g"),
                add("jug", "water", "800 ml"),
            ],
            3.0,
            14.0,
        ),
        (
            "citric acid in sugar water",
            vec![
                add("jug", "water", "1 l"),
                add("jug", "white_sugar", "100 g"),
                add("jug", "citric_acid", "5 g"),
            ],
            3.0,
            7.0,
        ),
        (
            "spirit and syrup",
            vec![add("jug", "spirit_40abv", "500 ml"), add("jug", "simple_syrup_1_1", "200 ml")],
            40.0,
            180.0,
        ),
        (
            "ginger two weeks in honey",
            vec![
                add("jug", "honey", "500 g"),
                add("jug", "ginger_root", "100 g"),
                hours("jug", 336.0, TABLE),
            ],
            -100.0,
            14.0,
        ),
        (
            "peels overnight under sugar, then water",
            vec![
                add("bowl", "lemon_peel", "100 g"),
                add("bowl", "white_sugar", "200 g"),
                Action::Macerate {
                    vessel: "bowl".into(),
                    minutes: 720.0,
                    how: Maceration::Left,
                    place: TABLE,
                },
                add("bowl", "water", "200 ml"),
                strain("bowl", "sieve", "jug", Press::Drained),
            ],
            1.0,
            10.0,
        ),
    ];
    for (what, actions, least, most) in cases {
        let keeping = keeping(actions);
        assert!(
            (least..=most).contains(&keeping.left),
            "{what}: {} days, {:?}",
            keeping.left,
            keeping.reasons
        );
    }
}

#[test]
fn the_same_contents_keep_the_same_whatever_they_are_called() {
    let families =
        [Family::Lemonade, Family::Infusion, Family::FruitWater, Family::Soda, Family::Syrup];
    let keeps = families.map(|family| {
        let juice = Drink {
            family,
            ..drink(vec![add("jug", "apple_juice", "1 l"), add("jug", "water", "100 ml")])
        };
        of(&juice)
    });
    assert!(keeps.iter().all(|keeping| *keeping == keeps[0]), "{keeps:?}");
}

#[test]
fn hot_water_over_raw_juice_leaves_it_raw_and_the_warning_stands() {
    let of_cautions = |drink: &Drink| -> Vec<CautionKind> {
        cautions(drink, Cupboard::builtin(), &run(drink))
            .into_iter()
            .flatten()
            .map(|c| c.kind)
            .collect()
    };
    let scalded = drink(vec![
        add("jug", "apple_juice", "250 ml"),
        boiling("jug", "500 ml"),
        serve("jug", 3, "200 ml"),
    ]);
    let trace = run(&scalded);
    assert!(last(&scalded, &trace, "jug").past.is_raw());
    assert!(of_cautions(&scalded).contains(&CautionKind::Unpasteurised));
    let heated = drink(vec![
        add("pot", "apple_juice", "250 ml"),
        heat("pot", 68.0, 10.0),
        pour("pot", "jug", Portion::All),
        serve("jug", 1, "200 ml"),
    ]);
    let trace = run(&heated);
    assert!(
        last(&heated, &trace, "jug").past.is_heated(),
        "65 °C for ten minutes with three degrees to spare"
    );
    assert!(!of_cautions(&heated).contains(&CautionKind::Unpasteurised));
}

#[test]
fn what_never_was_raw_is_not_called_heated_and_a_cold_brew_is_no_raw_juice() {
    let plain = [
        vec![
            add("jug", "cider_vinegar", "50 ml"),
            add("jug", "honey", "100 g"),
            add("jug", "water", "500 ml"),
        ],
        vec![
            add("jug", "water", "1 l"),
            add("jug", "citric_acid", "4 g"),
            add("jug", "white_sugar", "90 g"),
        ],
    ];
    for actions in plain {
        let drink = drink(actions);
        let trace = run(&drink);
        let jug = last(&drink, &trace, "jug");
        assert!(!jug.past.is_heated() && !jug.past.is_raw());
        assert!(
            !of(&drink).reasons.iter().any(|r| r.contains("heated")),
            "{:?}",
            of(&drink).reasons
        );
    }
    for (what, into) in [("hibiscus_dried", "40 g"), ("rice_white", "100 g")] {
        let cold = drink(vec![
            add("jug", "water", "1 l"),
            add("jug", what, into),
            hours("jug", 8.0, COLD),
            serve("jug", 4, "200 ml"),
        ]);
        let said: Vec<CautionKind> = cautions(&cold, Cupboard::builtin(), &run(&cold))
            .into_iter()
            .flatten()
            .map(|c| c.kind)
            .collect();
        assert!(!said.contains(&CautionKind::Unpasteurised), "{what}");
    }
}

#[test]
fn sugar_has_no_cliff() {
    // A tenth of a degree Brix to either side of every mark that a label might name.
    let at = |brix: f64| {
        let sugar = format!("{:.2} g", brix * 10.0);
        let water = format!("{:.2} g", 1000.0 - brix * 10.0);
        keeping(vec![
            add("pot", "water", &water),
            add("pot", "white_sugar", &sugar),
            heat("pot", 90.0, 1.0),
        ])
        .left
    };
    for mark in [30.0, 50.0, 60.0, 65.0, 67.0] {
        let (below, above) = (at(mark - 0.1), at(mark + 0.1));
        assert!(above >= below && above < 1.1 * below, "{mark} °Bx: {below} and {above} days");
    }
}

fn bottle_of(drink: &Drink, cupboard: &Cupboard, id: &str) -> Bottle {
    let trace = Trace::run(drink, cupboard);
    let contents = kept_of(drink, &trace).unwrap();
    Bottle {
        name: drink.name.clone(),
        batch: None,
        drink: None,
        vessel: VesselKind::Bottle,
        holds_ml: 1000.0,
        ml: 900.0,
        place: Place::Refrigerator,
        keeping: Keeping::of(drink, cupboard, &trace).unwrap(),
        mixture: KeptMixture::of(id, &drink.name, contents, drink, cupboard).unwrap(),
        colour: "#ffffff".into(),
        thinned: None,
        alcohol: 0.0,
    }
}

#[test]
fn a_bottle_brings_its_history_into_another_drink() {
    let sherbet = drink(vec![
        squeeze("jug", "lemon_juice", "8 lemons"),
        add("jug", "white_sugar", "400 g"),
        add("jug", "water", "200 ml"),
    ]);
    let bottle = bottle_of(&sherbet, Cupboard::builtin(), "kept_sherbet");
    let with = |bottle: &Bottle| {
        let kitchen = Kitchen { mixtures: vec![bottle.mixture.clone()], ..Kitchen::default() };
        let cupboard = Cupboard::of(&kitchen);
        let other = drink(vec![
            add("pitcher", "kept_sherbet", "300 ml"),
            add("pitcher", "water", "900 ml"),
            serve("pitcher", 4, "200 ml"),
        ]);
        let trace = Trace::run(&other, &cupboard);
        let said: Vec<CautionKind> =
            cautions(&other, &cupboard, &trace).into_iter().flatten().map(|c| c.kind).collect();
        (Keeping::of(&other, &cupboard, &trace).unwrap(), said, trace.last(4).unwrap().1.past)
    };
    let (keeping, said, past) = with(&bottle);
    assert!(past.is_raw() && !past.is_heated(), "raw it was bottled, raw it is poured");
    assert!(said.contains(&CautionKind::Unpasteurised));
    assert!(keeping.left <= 3.0, "{}", keeping.left);
    // With half a day left in the bottle the drink has no more.
    let mut old = bottle.clone();
    old.mixture.past.left = Some(0.5);
    assert!(with(&old).0.left <= 0.5);
    old.mixture.past.left = Some(-1.0);
    assert!(with(&old).0.is_to_be_discarded());
}

#[test]
fn days_in_the_refrigerator_count_before_the_freezer() {
    let juice = drink(vec![add("jug", "apple_juice", "1 l")]);
    let bottle = bottle_of(&juice, Cupboard::builtin(), "kept_juice");
    let at = |at: f64, to: Place| Happened { at, what: Move::Moved { to } };
    let half = bottle.keeping.left / 2.0;
    let frozen = [at(half, Place::Freezer)];
    assert!(bottle.state(&frozen, half + 30.0, None).days_left > 30.0);
    let thawed = [at(half, Place::Freezer), at(half + 60.0, Place::Refrigerator)];
    let state = bottle.state(&thawed, half + 60.0, None);
    assert!((state.days_left - half).abs() < 1e-9, "{}", state.days_left);
    // What was left out is to be discarded, also when it is put into the freezer at last.
    let milk = drink(vec![add("jug", "milk", "500 ml"), hours("jug", 12.0, TABLE)]);
    let milk = bottle_of(&milk, Cupboard::builtin(), "kept_milk");
    let frozen = milk.state(&[at(0.1, Place::Freezer)], 1.0, None);
    assert!(frozen.over && frozen.days_left < 0.0 && frozen.why[0].starts_with("Discard it"));
    // To and fro doesn't fill the freezer's days again.
    let twice = [at(0.0, Place::Freezer), at(80.0, Place::Refrigerator), at(80.0, Place::Freezer)];
    assert!(bottle.state(&twice, 80.0, None).days_left < 11.0);
    // What is past its date is told so wherever it is, and is nothing to be used soon.
    let over = bottle.state(&[], bottle.keeping.left + 0.1, None);
    assert!(over.over && !over.soon && over.why[0].starts_with("Discard it"));
}

#[test]
fn usual_drinks_raise_no_alarm() {
    let quiet: Vec<(&str, Vec<Action>)> = vec![
        (
            "peels under sugar, overnight",
            vec![
                add("bowl", "lemon_peel", "100 g"),
                add("bowl", "white_sugar", "200 g"),
                Action::Macerate {
                    vessel: "bowl".into(),
                    minutes: 720.0,
                    how: Maceration::Left,
                    place: TABLE,
                },
            ],
        ),
        (
            "a pot that cools",
            vec![
                add("pot", "water", "1 l"),
                add("pot", "hibiscus_dried", "40 g"),
                boil(10.0, true),
                hours("pot", 2.0, TABLE),
                strain("pot", "sieve", "jug", Press::Drained),
            ],
        ),
        (
            "mint tea that cools",
            vec![
                add("pot", "water", "1 l"),
                boil(2.0, true),
                add("pot", "mint", "30 g"),
                heat("pot", 90.0, 5.0),
                hours("pot", 1.5, TABLE),
            ],
        ),
        (
            "a sour syrup left overnight",
            vec![
                add("pot", "water", "300 ml"),
                add("pot", "white_sugar", "500 g"),
                add("pot", "citric_acid", "25 g"),
                boil(3.0, true),
                hours("pot", 12.0, TABLE),
            ],
        ),
        (
            "petals overnight in the refrigerator",
            vec![
                boiling("jug", "600 ml"),
                add("jug", "rose_petals", "60 g"),
                hours("jug", 12.0, COLD),
            ],
        ),
    ];
    for (what, actions) in quiet {
        let drink = drink(actions);
        let trace = run(&drink);
        assert!(!kinds(&trace).contains(&NoticeKind::LeftWarm), "{what}: {:?}", of(&drink).reasons);
        assert!(!kinds(&trace).contains(&NoticeKind::Bitter), "{what} is called bitter");
    }
}

#[test]
fn peels_under_sugar_are_not_called_bitter_and_boiled_pith_is() {
    let under = drink(vec![
        add("bowl", "lemon_peel", "100 g"),
        add("bowl", "white_sugar", "200 g"),
        Action::Macerate {
            vessel: "bowl".into(),
            minutes: 720.0,
            how: Maceration::Left,
            place: TABLE,
        },
    ]);
    let told = keen_core::study::steeping(&under, Cupboard::builtin(), "s2").unwrap().unwrap();
    assert_eq!(told.bitter_after, None);
    let boiled = drink(vec![
        add("pot", "water", "500 ml"),
        add("pot", "lemon_peel", "100 g"),
        boil(60.0, true),
    ]);
    let told = keen_core::study::steeping(&boiled, Cupboard::builtin(), "s2").unwrap().unwrap();
    assert!(told.bitter_after.is_some());
}

#[test]
fn each_caution_comes_up_where_it_applies_and_a_usual_drink_raises_none_of_them() {
    use CautionKind as C;
    let of = |actions: Vec<Action>| -> Vec<CautionKind> {
        let drink = drink(actions);
        cautions(&drink, Cupboard::builtin(), &run(&drink))
            .into_iter()
            .flatten()
            .map(|c| c.kind)
            .collect()
    };
    let usual = of(vec![
        add("pot", "water", "1 l"),
        add("pot", "white_sugar", "100 g"),
        add("pot", "cardamom_green", "2 g"),
        boil(5.0, true),
        Action::Cool {
            vessel: "pot".into(),
            to_c: 20.0,
            place: CoolingPlace::WaterBath,
            covered: true,
        },
        pour("pot", "pitcher", Portion::All),
        add("pitcher", "citric_acid", "4 g"),
        serve("pitcher", 4, "200 ml"),
    ]);
    let cases: Vec<(C, Vec<Action>)> = vec![
        (C::Medicines, vec![add("jug", "grapefruit_juice", "200 ml")]),
        (C::PoisonousParts, vec![add("pot", "rhubarb", "500 g")]),
        (C::PoisonousParts, vec![add("jug", "elderflower", "30 g")]),
        (C::PoisonousParts, vec![add("pot", "apricot", "500 g")]),
        (C::PoisonousParts, vec![add("jug", "almond_essence", "2 ml")]),
        (C::Caffeine, vec![add("jug", "black_tea", "8 g")]),
        (C::Caffeine, vec![add("jug", "tonic_water", "200 ml")]),
        (C::Soak, vec![add("jug", "chia_seed", "20 g")]),
        (C::Sun, vec![squeeze("jug", "lime_juice", "4 limes")]),
        (C::Herbs, vec![add("pot", "cinnamon_stick", "5 g")]),
        (C::Herbs, vec![add("pot", "saffron", "0.2 g")]),
        (C::Milk, vec![add("jug", "milk", "200 ml")]),
        (
            C::ColdGlass,
            vec![add("pot", "water", "1 l"), boil(1.0, true), pour("pot", "jug", Portion::All)],
        ),
        (
            C::HotSugar,
            vec![
                add("pot", "white_sugar", "900 g"),
                add("pot", "water", "100 ml"),
                boil(10.0, false),
            ],
        ),
        (
            C::SealedFerment,
            vec![
                add("jug", "apple_juice", "900 ml"),
                add("jug", "white_sugar", "50 g"),
                Action::Bottle {
                    from: "jug".into(),
                    bottle: "bottle".into(),
                    headspace: "30 ml".parse().unwrap(),
                },
            ],
        ),
        (
            C::LowAcid,
            vec![add("jug", "water", "1 l"), add("jug", "mint", "40 g"), hours("jug", 3.0, TABLE)],
        ),
        (C::Unpasteurised, vec![add("jug", "apple_juice", "500 ml"), serve("jug", 2, "200 ml")]),
    ];
    for (kind, actions) in cases {
        assert!(!usual.contains(&kind), "{kind:?} for a usual drink");
        assert!(of(actions).contains(&kind), "{kind:?} is missing");
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(120))]

    /// Whatever is done to something that has to be discarded, it stays that.
    #[test]
    fn nothing_brings_days_back(drink_ in any_drink(), then in 0..5_usize) {
        let mut old = drink_;
        old.steps.retain(|step| !matches!(step.action, Action::Serve { .. }));
        let more = match then {
            0 => add("jug", "white_sugar", "500 g"),
            1 => add("jug", "citric_acid", "20 g"),
            2 => add("jug", "spirit_40abv", "1 l"),
            3 => Action::Cool { vessel: "jug".into(), to_c: -18.0, place: CoolingPlace::Freezer, covered: true },
            _ => hours("jug", 1.0, COLD),
        };
        let jug = old.vessel("jug").unwrap();
        let cupboard = Cupboard::builtin();
        let rotten = hours("jug", 24.0 * 40.0, TABLE);
        let next = old.steps.len();
        old.steps.push(keen_core::drink::Step::new(format!("x{next}"), add("jug", "milk", "100 ml")));
        old.steps.push(keen_core::drink::Step::new(format!("y{next}"), rotten));
        old.steps.push(keen_core::drink::Step::new(format!("z{next}"), more));
        let trace = Trace::run(&old, cupboard);
        let kept = trace.last(jug).unwrap().1;
        prop_assume!(kept.liquid.mass().0 > 10.0);
        let served = Drink { steps: old.steps.clone(), ..old.clone() };
        if let Some(keeping) = Keeping::of(&served, cupboard, &trace)
            && std::ptr::eq(kept_of(&served, &trace).unwrap(), kept)
        {
            prop_assert!(keeping.left <= 0.0 || kept.past.left > 0.0, "{keeping:?}");
        }
    }

    /// Every keeping time has its reasons, whole days that agree with it, and an end.
    #[test]
    fn every_keeping_time_agrees_with_itself(drink in any_drink()) {
        let trace = Trace::run(&drink, Cupboard::builtin());
        if let Some(keeping) = Keeping::of(&drink, Cupboard::builtin(), &trace) {
            prop_assert!(keeping.left <= 120.0);
            prop_assert!(f64::from(keeping.days) <= (keeping.left + 0.1).max(0.0));
            prop_assert!(!keeping.reasons.is_empty());
            prop_assert!(keeping.warm_day > 1.0 && keeping.warm_day < 13.0, "{}", keeping.warm_day);
        }
    }
}
