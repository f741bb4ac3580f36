//! From one glass to a party: sizes, measures, vessels, shopping, the glass.

use crate::common::{
    add, any_drink, boil, chill, drink, serve, squeeze, stand, strain, with_vessels,
};
use keen_core::balance::{Taste, swap};
use keen_core::chance::spread;
use keen_core::cupboard::{
    Cupboard, Kitchen, Larder, Material, MeasuringSet, OwnProduce, OwnVessel, Reading, VesselKind,
};
use keen_core::drink::{Action, Drink, Law, Press, RestingPlace, Warmth};
use keen_core::quantity::{Amount, Grams, Millilitres, Units};
use keen_core::report::DrinkReport;
use keen_core::scale::{NamedSize, Size, fit, measure, resize, sheet};
use keen_core::serving::{Cooling, card, facts};
use keen_core::shop::{Shopping, ShoppingList, Tool, shop};
use keen_core::trace::{MEASURED_AT, Trace};
use proptest::prelude::*;
use rand::SeedableRng;
use rand::rngs::StdRng;

fn spiced() -> Drink {
    drink(vec![
        add("pot", "water", "1.2 l"),
        add("pot", "hibiscus_dried", "40 g"),
        add("pot", "clove", "6 cloves"),
        boil(8.0, true),
        strain("pot", "sieve", "pitcher", Press::Drained),
        add("pitcher", "white_sugar", "130 g"),
        squeeze("pitcher", "lime_juice", "1 lime"),
        chill("pitcher", 7.0),
        add("glass", "ice", "2 cubes"),
        serve("pitcher", 5, "200 ml"),
    ])
}

fn amount(drink: &Drink, step: usize) -> f64 {
    drink.steps[step].action.amount().unwrap().total()
}

#[test]
fn what_would_run_over_at_a_larger_size_gets_the_kitchens_larger_vessel() {
    let vessels = [
        ("small pot", VesselKind::Pot, "2 l", 1),
        ("jam pot", VesselKind::Pot, "9 l", 1),
        ("stock pot", VesselKind::Pot, "30 l", 1),
        ("tap jar", VesselKind::Pitcher, "8 l", 1),
    ];
    let cupboard = Cupboard::of(&with_vessels(&vessels));
    let of = |sized: &Drink, id: &str| {
        let it = &sized.vessels[sized.vessel(id).unwrap()];
        (it.name.clone(), it.capacity().0)
    };
    let written = spiced();
    let party = resize(&written, &cupboard, &Size::Factor(4.0)).unwrap();
    // Just under five litres that boil: two thirds of a pot, so eight.
    assert_eq!(of(&party, "pot"), (Some("jam pot".into()), 9000.0));
    assert_eq!(of(&party, "pitcher"), (Some("tap jar".into()), 8000.0));
    assert_eq!(of(&party, "sieve"), (None, of(&written, "sieve").1));
    // Told beside the size.
    let size = Size::Factor(4.0);
    let sizes = [NamedSize { name: "party".into(), size }];
    let told =
        sheet(&written, &cupboard, &sizes, Units::Metric).unwrap().columns[0].changes.clone();
    assert!(told.iter().any(|t| t.contains("jam pot") && t.contains("9 l")), "{told:?}");
    // What fits stays what it is, and where nothing is large enough nothing is made up.
    assert_eq!(resize(&written, &cupboard, &Size::Factor(1.1)).unwrap().vessels, written.vessels);
    let huge = resize(&written, &cupboard, &Size::Factor(100.0)).unwrap();
    assert_eq!(huge.vessels, written.vessels);
}

#[test]
fn spices_grow_less_and_glasses_get_the_same() {
    let cupboard = Cupboard::builtin();
    let party = resize(&spiced(), cupboard, &Size::Factor(10.0)).unwrap();
    assert!((amount(&party, 0) - 12_000.0).abs() < 1e-6);
    // 4 x (10 / 4)^0.85 = 8.72 times six cloves.
    // Amounts are noted to seven figures.
    assert!((amount(&party, 2) / 6.0 - 4.0 * 2.5_f64.powf(0.85)).abs() < 1e-6);
    assert_eq!(party.steps[8], spiced().steps[8], "each glass gets its two cubes");
    let mut own = spiced();
    own.steps[2].law = Some(Law::PerVessel);
    own.steps[1].law = Some(Law::Spice(0.5));
    let party = resize(&own, cupboard, &Size::Factor(16.0)).unwrap();
    assert_eq!(amount(&party, 2), 6.0);
    assert!((amount(&party, 1) / 40.0 - 8.0).abs() < 1e-9);
    let mut wrong = spiced();
    wrong.steps[2].law = Some(Law::Spice(9.0));
    assert_eq!(wrong.check(cupboard)[0].field, "steps[2].law.spice");
}

#[test]
fn four_times_and_a_quarter_of_it_is_the_same_drink() {
    let cupboard = Cupboard::builtin();
    let four = resize(&spiced(), cupboard, &Size::Factor(4.0)).unwrap();
    let back = resize(&four, cupboard, &Size::Factor(0.25)).unwrap();
    for (a, b) in spiced().steps.iter().zip(&back.steps) {
        match (a.action.amount(), b.action.amount()) {
            (Some(a), Some(b)) => assert!((a.total() / b.total() - 1.0).abs() < 1e-9, "{a} {b}"),
            (a, b) => assert_eq!(a, b),
        }
    }
}

#[test]
fn as_much_as_these_limes_allow() {
    let cupboard = Cupboard::builtin();
    let size = Size::AsMuchAs { step: "s6".into(), amount: "6 limes".parse().unwrap() };
    let sized = resize(&spiced(), cupboard, &size).unwrap();
    assert!((amount(&sized, 6) - 6.0).abs() < 1e-6);
    assert!((amount(&sized, 5) - 780.0).abs() < 1e-3);
    assert!(
        matches!(sized.steps[9].action, Action::Serve { glasses: 29..=36, .. }),
        "{:?}",
        sized.steps[9]
    );
    // Cloves grow by a power: 24 of them are not four times the drink, but five and a bit.
    let size = Size::AsMuchAs { step: "s2".into(), amount: "36 cloves".parse().unwrap() };
    let sized = resize(&spiced(), cupboard, &size).unwrap();
    assert!(amount(&sized, 5) / 130.0 > 6.0);
    let wrong = Size::AsMuchAs { step: "s6".into(), amount: "2 glugs".parse().unwrap() };
    assert_eq!(resize(&spiced(), cupboard, &wrong).unwrap_err().field, "size.as_much_as");
}

#[test]
fn amounts_in_the_measures_that_there_are() {
    let with = |set: MeasuringSet| Cupboard::of(&Kitchen { measuring: set, ..Kitchen::default() });
    let all = with(MeasuringSet::default());
    let said = |cupboard: &Cupboard, id: &str, written: &str, grams: f64, units: Units| {
        let it = cupboard.ingredient(id).unwrap();
        measure(cupboard, it, &written.parse().unwrap(), Grams(grams), units).amount.to_string()
    };
    let lemon = |ml: f64| ml * 1.031;
    assert_eq!(said(&all, "white_sugar", "190 g", 912.4, Units::AsWritten), "910 g");
    assert_eq!(said(&all, "white_sugar", "190 g", 38.47, Units::Metric), "38 g");
    assert_eq!(
        said(&all, "lemon_juice", "6 lemons", lemon(43.0 * 6.0), Units::AsWritten),
        "6 lemons"
    );
    assert_eq!(
        said(&all, "lemon_juice", "6 lemons", lemon(47.5), Units::AsWritten),
        "1 lemon + 1 tsp"
    );
    assert_eq!(said(&all, "lemon_juice", "6 lemons", lemon(1800.0), Units::AsWritten), "42 lemons");
    assert_eq!(said(&all, "mint", "38 g", 38.47, Units::Metric), "38 g");
    assert_eq!(said(&all, "clove", "6 cloves", 0.08 * 0.9, Units::AsWritten), "1 clove");
    assert_eq!(said(&all, "water", "1 l", 1234.0, Units::Metric), "1.25 l");
    assert_eq!(said(&all, "water", "1 l", 473.2, Units::Us), "2 cups");
    let spoons_only = with(MeasuringSet { scale_g: None, jug_ml: None, cups: false, spoons: true });
    assert_eq!(said(&spoons_only, "white_sugar", "13 g", 13.0, Units::Metric), "1 tbsp");
    assert_eq!(said(&all, "ice", "2 cubes", 21.0 * 1.7, Units::AsWritten), "2 ice cubes");
    let leaves = |grams| said(&all, "bay_leaf", "3 fresh leaves", grams, Units::AsWritten);
    assert_eq!((leaves(0.2), leaves(1.4)), ("1/2 fresh leaf".into(), "3 fresh leaves".into()));
    assert_eq!(said(&all, "lemon_zest", "4 lemons", 5.0 * 4.7, Units::AsWritten), "5 lemons");
    assert_eq!(said(&all, "lemon_zest", "4 lemons", 2.4, Units::AsWritten), "1/2 lemon");
    let large = said(&all, "lemon_juice", "2 large lemons", lemon(31.0), Units::AsWritten);
    assert_eq!(large, "1/2 large lemon");
    // A glass of something that a batch has a gram of.
    let it = all.ingredient("citric_acid").unwrap();
    let tiny = measure(&all, it, &"1 g".parse().unwrap(), Grams(0.02), Units::Metric);
    let stock = tiny.stock.unwrap();
    assert!(stock.contains("5 ml"), "{stock}");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    /// Whatever the kitchen, no ingredient vanishes by rounding, and what can be measured is near.
    #[test]
    fn rounding_never_makes_an_ingredient_vanish(
        grams in 1e-3f64..20_000.0, scale in prop::option::of(0.1f64..10.0),
        jug in prop::option::of(1.0f64..100.0), cups in any::<bool>(), spoons in any::<bool>(),
        id in prop::sample::select(vec!["white_sugar", "lemon_juice", "mint", "clove", "citric_acid", "water", "honey"]),
        units in prop::sample::select(vec![Units::AsWritten, Units::Metric, Units::Us]),
    ) {
        let measuring = MeasuringSet { scale_g: scale, jug_ml: jug, cups, spoons };
        let cupboard = Cupboard::of(&Kitchen { measuring, ..Kitchen::default() });
        let it = cupboard.ingredient(id).unwrap();
        let found = measure(&cupboard, it, &Amount::grams(grams), Grams(grams), units);
        prop_assert!(found.grams.0 > 0.0, "{id}: {}", found.amount);
        prop_assert!(found.amount.to_string().parse::<Amount>().is_ok(), "{}", found.amount);
    }

    /// The plan never fills a vessel beyond its working level, and the goes add up to the whole.
    #[test]
    fn plans_never_overfill_and_never_lose(
        any in any_drink(), factor in 0.2f64..40.0,
        pot in 0.5f64..12.0, jug in 0.3f64..6.0, blender in 0.4f64..3.0, pitchers in 1u32..6,
    ) {
        let litres = |l: f64| format!("{l:.2} l");
        let (pot, jug, blender) = (litres(pot), litres(jug), litres(blender));
        let own = with_vessels(&[
            ("pot", VesselKind::Pot, &pot, 1),
            ("jug", VesselKind::Jug, &jug, 2),
            ("blender", VesselKind::Blender, &blender, 1),
            ("bowl", VesselKind::Bowl, "3 l", 2),
            ("pitcher", VesselKind::Pitcher, "2 l", pitchers),
            ("bottle", VesselKind::Bottle, "1 l", 20),
        ]);
        let cupboard = Cupboard::of(&own);
        let Ok(sized) = resize(&any, &cupboard, &Size::Factor(factor)) else { return Ok(()) };
        let plan = fit(&sized, &cupboard).unwrap();
        for f in &plan.fits {
            for t in &f.taken {
                let working = t.capacity_ml * f.kind.working_level(keen_core::quantity::Celsius(5.0));
                prop_assert!(t.filled_ml <= working.max(t.capacity_ml) + 0.6, "{f:?}");
                prop_assert!(t.last_ml <= t.filled_ml + 0.6 && t.last_ml >= -1e-6, "{f:?}");
            }
            if f.fits && f.needed_ml > 0.0 {
                let room: f64 = f.taken.iter().map(|t| t.capacity_ml * f64::from(t.count)).sum();
                prop_assert!(room > 0.0, "{f:?}");
            }
        }
        if plan.possible && plan.batches > 1 {
            // Each go is run at its size, in the vessels that were taken for it.
            let trace = Trace::run(&plan.batch, &cupboard);
            for f in &plan.fits {
                let Some(taken) = f.taken.first().filter(|_| f.taken.len() == 1 && f.taken[0].count == 1) else { continue };
                let vessel = plan.batch.vessel(&f.vessel).unwrap();
                let waits = sized.steps.iter().any(|s| matches!(&s.action, Action::Serve { from, .. } if *from == f.vessel));
                if waits { continue }
                for (_, c) in trace.states_of(vessel) {
                    let working = f.kind.working_level(c.temperature) * taken.capacity_ml;
                    prop_assert!(c.level().0 <= working * 1.001 + 1.0, "{} in {f:?}", c.level().0);
                }
            }
            let ready = Trace::run(&sized, &cupboard).outcome().map_or(0.0, |o| o.ready.0);
            let together = plan.batch_ml * f64::from(plan.batches);
            prop_assert!((together / ready - 1.0).abs() < 5e-3, "{together} of {ready}");
        }
    }
}

#[test]
fn a_party_is_fitted_into_a_small_kitchen() {
    let own = with_vessels(&[
        ("big pot", VesselKind::Pot, "9 l", 1),
        ("glass jug", VesselKind::Jug, "2.3 l", 1),
        ("pitcher", VesselKind::Pitcher, "2.5 l", 4),
    ]);
    let cupboard = Cupboard::of(&own);
    let size = Size::Glasses { glasses: 48, size: "200 ml".parse().unwrap() };
    let party = resize(&spiced(), &cupboard, &size).unwrap();
    let plan = fit(&party, &cupboard).unwrap();
    // 10.4 l boiling in a pot that may be two thirds full of 8 l: two goes.
    assert_eq!(plan.batches, 2, "{:?}", plan.fits);
    let pitchers = plan.fits.iter().find(|f| f.vessel == "pitcher").unwrap();
    let held: f64 = pitchers.taken.iter().map(|t| t.capacity_ml * f64::from(t.count)).sum();
    assert!(held >= 9600.0 && pitchers.fits, "{pitchers:?}");
    // The other order: less water in the pot, the rest in the pitcher.
    let instead = plan.instead.unwrap();
    assert!(instead.batches == 1 && instead.message.contains("Hold back"), "{}", instead.message);
    assert_eq!(instead.drink.check(&cupboard), []);
    // A copper pan is large enough, but nothing sour goes into it.
    let mut copper = own.clone();
    copper.vessels.push(OwnVessel {
        name: "jam pan".into(),
        kind: VesselKind::Pot,
        capacity: "20 l".parse().unwrap(),
        diameter_mm: None,
        material: Some(Material::Copper),
        count: 1,
    });
    assert_eq!(fit(&party, &Cupboard::of(&copper)).unwrap().batches, 2);
    let none = fit(&party, Cupboard::builtin()).unwrap();
    assert!(!none.possible && none.fits[0].message.contains("has no pot"));
}

#[test]
fn bottles_are_chosen_and_the_last_ones_fill_is_told() {
    let syrup = drink(vec![
        add("pot", "water", "1.2 kg"),
        add("pot", "white_sugar", "1.2 kg"),
        boil(2.0, true),
        Action::Bottle {
            from: "pot".into(),
            bottle: "bottle".into(),
            headspace: "30 ml".parse().unwrap(),
        },
    ]);
    let own = with_vessels(&[
        ("pot", VesselKind::Pot, "4 l", 1),
        ("swing bottle", VesselKind::Bottle, "750 ml", 6),
    ]);
    let plan = fit(&syrup, &Cupboard::of(&own)).unwrap();
    let bottles = plan.fits.iter().find(|f| f.vessel == "bottle").unwrap();
    assert_eq!(bottles.taken[0].count, 3, "{bottles:?}");
    assert!(bottles.taken[0].last_ml < bottles.taken[0].filled_ml && bottles.fits, "{bottles:?}");
    assert!(bottles.message.contains("the last filled to"), "{}", bottles.message);
}

#[test]
fn a_bare_pot_is_offered_by_nobody_for_what_is_sour() {
    let mut own = with_vessels(&[("camp pot", VesselKind::Pot, "6 l", 1)]);
    own.vessels[0].material = Some(Material::Aluminium);
    let cupboard = Cupboard::of(&own);
    let offered = |drink: &Drink| {
        let report = DrinkReport::of(drink, &cupboard);
        let pot = report.vessels.iter().find(|v| v.id == "pot").unwrap();
        let plan = fit(drink, &cupboard).unwrap();
        let taken = plan.fits.iter().find(|f| f.vessel == "pot").unwrap();
        (pot.own.len(), taken.taken.len())
    };
    assert_eq!(offered(&spiced()), (0, 0));
    let plain = drink(vec![add("pot", "water", "1 l"), add("pot", "white_sugar", "1 kg")]);
    assert_eq!(offered(&plain), (1, 1));
}

#[test]
fn what_goes_into_each_bottle_stays_as_it_is_whatever_the_size() {
    let fizz = drink(vec![
        add("pot", "water", "2.4 l"),
        add("pot", "white_sugar", "160 g"),
        Action::Bottle {
            from: "pot".into(),
            bottle: "bottle".into(),
            headspace: "30 ml".parse().unwrap(),
        },
        add("bottle", "honey", "4 g"),
    ]);
    let cupboard = Cupboard::builtin();
    let honey = |drink: &Drink| {
        let trace = Trace::run(drink, cupboard);
        let all: f64 = trace.lines.iter().filter(|l| l.step == 3).map(|l| l.grams.0).sum();
        (all, trace.many_of(drink, "bottle"))
    };
    let (once, bottles) = honey(&fizz);
    assert!(bottles > 2.0 && (once - 4.0 * bottles).abs() < 1e-6, "{once} g in {bottles}");
    let twice = resize(&fizz, cupboard, &Size::Factor(2.0)).unwrap();
    assert_eq!(twice.steps[3].action.brings().unwrap().amount.unwrap().to_string(), "4 g");
    assert!((honey(&twice).0 / once - 2.0).abs() < 0.01, "{:?} after {once} g", honey(&twice));

    // And in its place comes as much for one bottle, not for all of them.
    let swapped = swap(&fizz, cupboard, "s3", "white_sugar").unwrap().solution.drink;
    let sugar = swapped.steps[3].action.brings().unwrap().amount.unwrap().clone();
    let grams =
        cupboard.weigh(cupboard.ingredient("white_sugar").unwrap(), &sugar).unwrap().grams.0;
    assert!((2.5..4.5).contains(&grams), "{sugar}");
}

#[test]
fn the_strip_of_sizes_is_measurable_and_tastes_the_same() {
    let cupboard = Cupboard::builtin();
    let named = |name: &str, glasses: u32| NamedSize {
        name: name.into(),
        size: Size::Glasses { glasses, size: "200 ml".parse().unwrap() },
    };
    let sizes = [named("1 glass", 1), named("pitcher", 5), named("party", 48)];
    let found = sheet(&spiced(), cupboard, &sizes, Units::Metric).unwrap();
    assert_eq!(found.columns.len(), 3);
    for column in &found.columns {
        let (exact, after) = (column.exact.unwrap(), column.rounded.unwrap());
        let told = exact.sweetness * (1.0 + 0.1 * column.shift.unwrap().sweetness);
        assert!((told - after.sweetness).abs() < 1e-6, "{exact:?} {after:?}");
        assert!(!column.noticeable, "{}: {:?} {:?}", column.name, column.exact, column.rounded);
        assert!((column.glass_ml - 200.0).abs() < 30.0, "{}", column.glass_ml);
    }
    let water = found.rows.iter().find(|r| r.name == "Water").unwrap();
    // The party's pot takes longer to boil than a glass's.
    assert!(found.columns[2].minutes > found.columns[0].minutes, "{:?}", water.cells);
    let cloves = found.rows.iter().find(|r| r.name == "Cloves").unwrap();
    assert!(matches!(cloves.law, Law::Spice(_)) && cloves.law_reason.contains("4×"));
    let wrong = [named("none", 0)];
    assert_eq!(
        sheet(&spiced(), cupboard, &wrong, Units::Metric).unwrap_err().field,
        "sizes[0].size.glasses.glasses"
    );
}

/// Zest of 4 lemons and the juice of 6: the same fruit gives both. 190 ml of lime juice: nine limes
/// nine times in ten, seven half the time.
#[test]
fn fruit_is_bought_once_for_zest_and_juice_and_with_its_chance() {
    let cupboard = Cupboard::builtin();
    let lemonade = drink(vec![
        add("bowl", "lemon_zest", "4 lemons"),
        squeeze("jug", "lemon_juice", "6 lemons"),
        add("jug", "white_sugar", "190 g"),
        serve("jug", 2, "100 ml"),
    ]);
    let list = shop(std::slice::from_ref(&lemonade), cupboard, Shopping::default());
    let lemons = list.items.iter().find(|i| i.id == "lemon/medium").unwrap();
    let chance = lemons.chance.as_ref().unwrap();
    assert!(lemons.count >= 7.0 && chance.half == 6, "{lemons:?}");
    assert!(chance.of_count >= 0.9 && chance.message.contains("times out of 10"), "{chance:?}");
    assert!(lemons.left_over.as_ref().is_some_and(|l| l.contains("peel")), "{lemons:?}");
    assert!(lemons.need.contains("juice and 20 g of zest"), "{}", lemons.need);
    let press = Shopping { tool: Tool::Press, ..Shopping::default() };
    let fewer = shop(&[lemonade], cupboard, press).items;
    assert!(fewer.iter().find(|i| i.id == "lemon/medium").unwrap().count <= lemons.count);

    let limeade = drink(vec![squeeze("jug", "lime_juice", "190 ml"), serve("jug", 1, "100 ml")]);
    let list = shop(&[limeade], cupboard, Shopping::default());
    let limes = &list.items[0];
    assert_eq!(limes.buy, "9 limes");
    let message = &limes.chance.as_ref().unwrap().message;
    assert!(message.contains("; 8 would") || message.contains("; 7 would"), "{message}");

    // Whole limes give no juice as well, and those that are there needn't be bought.
    let both = drink(vec![
        squeeze("jug", "lime_juice", "190 ml"),
        add("bowl", "lime_whole", "4 limes"),
        serve("jug", 1, "100 ml"),
    ]);
    let kitchen = Kitchen {
        larder: [("lime/medium".into(), Larder { have: 3.0, ..Larder::default() })].into(),
        ..Kitchen::default()
    };
    let list = shop(&[both], &Cupboard::of(&kitchen), Shopping::default());
    let chance = list.items[0].chance.as_ref().unwrap();
    assert_eq!(list.items[0].buy, "10 limes");
    assert!((8..=9).contains(&chance.half), "{chance:?}");
    assert!(chance.message.starts_with("with the 3 you have: enough 9 times out of 10; "));
}

#[test]
fn packs_prices_and_what_is_there() {
    let mut own = Kitchen { currency: "€".into(), ..Kitchen::default() };
    own.larder.insert("white_sugar".into(), Larder { have: 300.0, pack: None, price: Some(1.2) });
    own.larder.insert("lime/medium".into(), Larder { have: 2.0, pack: None, price: Some(0.4) });
    own.larder.insert("hibiscus_dried".into(), Larder { have: 500.0, ..Larder::default() });
    assert_eq!(own.check(), []);
    let cupboard = Cupboard::of(&own);
    let party = resize(&spiced(), &cupboard, &Size::Factor(10.0)).unwrap();
    let list = shop(&[party.clone(), spiced()], &cupboard, Shopping::default());
    let item = |id: &str| list.items.iter().find(|i| i.id == id).unwrap();
    // 1430 g less 300 g: two bags of a kilo.
    assert_eq!((item("white_sugar").count, item("white_sugar").cost), (2.0, Some(2.4)));
    assert_eq!(item("white_sugar").buy, "2 bags of 1 kg");
    assert_eq!(item("hibiscus_dried").count, 0.0);
    assert!(item("ice").buy.contains("of 2 kg"), "{}", item("ice").buy);
    assert!(item("lime/medium").count >= 11.0 - 2.0);
    assert!(list.cost.is_some() && list.unpriced > 0);
    assert_eq!(list.drinks.len(), 2);
    assert!(list.drinks[0].driven_by.is_some());

    // Each pays for what it uses, though both have one name; and what was there had to be bought once.
    let alone = |drink: &Drink| shop(std::slice::from_ref(drink), &cupboard, Shopping::default());
    let cost = |list: &ShoppingList, nth: usize| list.drinks[nth].cost.unwrap();
    for (nth, drink) in [&party, &spiced()].into_iter().enumerate() {
        let own = cost(&alone(drink), 0);
        assert!(
            (cost(&list, nth) / own - 1.0).abs() < 1e-9,
            "{nth}: {} for {own}",
            cost(&list, nth)
        );
    }
    assert!(
        (cost(&list, 0) / cost(&list, 1) - 10.0).abs() < 0.2,
        "ten times as much, ten times dearer"
    );
}

#[test]
fn readings_move_what_is_bought_and_can_be_undone() {
    let reading = |pieces: f64, juice_ml: f64, acidity: Option<f64>| Reading {
        batch: None,
        produce: "lime/medium".into(),
        pieces,
        juice_ml,
        brix: None,
        acidity,
        day: "2026-06-21".into(),
    };
    let mut own = Kitchen { readings: vec![reading(7.0, 140.0, Some(6.2))], ..Kitchen::default() };
    assert_eq!(own.check(), []);
    let limes =
        |cupboard: &Cupboard| cupboard.size_named("lime/medium").unwrap().1.juice_yield().unwrap();
    let cupboard = Cupboard::of(&own);
    // Of 27 ml each, a lot of seven that gave 20 ml each: a third of the way.
    assert!((limes(&cupboard).mean() - 24.7727).abs() < 1e-3);
    let juice = cupboard.ingredient("lime_juice").unwrap();
    let before = Cupboard::builtin().ingredient("lime_juice").unwrap().per_gram.titratable_acid();
    // One lot, read to 4 %, where lots differ by 11 %.
    let counts = 1.0 / (0.75 + (0.04_f64 / 0.11).powi(2));
    let expected = ((4.0 * (100.0 * before).ln() + counts * 6.2_f64.ln()) / (4.0 + counts)).exp();
    assert!((juice.per_gram.titratable_acid() * 100.0 - expected).abs() < 0.02);
    let needed = |c: &Cupboard| limes(c).pieces_for(Millilitres(190.0), 0.9);
    assert!(needed(&cupboard) > needed(Cupboard::builtin()));
    own.readings.clear();
    assert_eq!(limes(&Cupboard::of(&own)), limes(Cupboard::builtin()));
    own.readings.push(reading(0.0, 140.0, None));
    own.readings.push(Reading { produce: "mint/leaf".into(), ..reading(3.0, 10.0, None) });
    let fields: Vec<String> = own.check().into_iter().map(|e| e.field).collect();
    assert_eq!(fields, ["readings[0].pieces", "readings[1].produce"]);
}

#[test]
fn the_card_tells_order_parts_and_what_ice_does() {
    let fizz = drink(vec![
        squeeze("jug", "lemon_juice", "6 lemons"),
        add("jug", "simple_syrup_2_1", "220 ml"),
        strain("jug", "sieve", "pitcher", Press::Drained),
        chill("pitcher", 5.0),
        add("glass", "ice", "3 cubes"),
        serve("pitcher", 4, "100 ml"),
        Action::Lengthen {
            vessel: "glass".into(),
            ingredient: "club_soda".into(),
            parts: 1.5,
            warmth: Warmth::Usual,
        },
    ]);
    let found = card(&fizz, Cupboard::builtin()).unwrap().unwrap();
    assert_eq!(found.order.len(), 3);
    assert!(found.order[0].contains("3 ice cubes to each glass"), "{:?}", found.order);
    assert_eq!(found.parts.as_deref(), Some("1 part base, 1 1/2 parts soda water"));
    assert!(found.jug.as_ref().unwrap().contains("400 ml base"), "{:?}", found.jug);
    let standing =
        |cooling: Cooling| &found.standing.iter().find(|s| s.cooling == cooling).unwrap().moments;
    let written = standing(Cooling::AsWritten);
    assert_eq!(written.iter().map(|m| m.minutes).collect::<Vec<_>>(), [0.0, 10.0, 20.0, 30.0]);
    assert!(written.windows(2).all(|w| w[1].ice_g <= w[0].ice_g && w[1].fizz <= w[0].fizz));
    assert!(written[3].watered_percent > written[0].watered_percent);
    let (chilled, warm, own) = (
        standing(Cooling::ChilledWithIce),
        standing(Cooling::WarmOverIce),
        standing(Cooling::OwnIce),
    );
    assert!(warm[0].watered_percent > chilled[0].watered_percent, "warm drinks melt more ice");
    assert!(own[3].watered_percent < 1.0, "cubes of the drink don't water it: {own:?}");
    assert_eq!(found.tastes.len(), 4);
    let other = found.tastes.iter().filter_map(|t| t.add.as_deref()).collect::<Vec<_>>();
    assert!(other.iter().any(|a| a.contains("lemon juice") || a.contains("syrup")), "{other:?}");
    assert!(found.with_spirit.percent > 2.0 && found.with_spirit.message.contains("children"));
    let water = drink(vec![add("jug", "water", "1 l")]);
    assert_eq!(card(&water, Cupboard::builtin()), Ok(None));
}

/// 100 ml lemon juice, 50 g sugar, milk: sugars, salt and what stands on a label.
#[test]
fn label_facts_are_those_of_a_glass() {
    let shake = drink(vec![
        add("jug", "milk", "500 g"),
        add("jug", "white_sugar", "50 g"),
        add("jug", "table_salt", "1 g"),
        stand("jug", 5.0, RestingPlace::Refrigerator),
        serve("jug", 2, "200 ml"),
    ]);
    let found = facts(&shake, Cupboard::builtin()).unwrap();
    let trace = Trace::run(&shake, Cupboard::builtin());
    let outcome = trace.outcome().unwrap();
    let share = outcome.contents.liquid.mass().0 / 551.0;
    // Milk 4.8 % lactose and 43 mg sodium in 100 g; salt 39.3 % sodium.
    assert!((found.sugars_g - (50.0 + 24.0) * share).abs() < 1.5, "{}", found.sugars_g);
    let salt = (500.0 * 0.00043 + 1.0 * 0.393) * 2.5 * share;
    assert!((found.salt_g / salt - 1.0).abs() < 0.05, "{} and {salt}", found.salt_g);
    assert_eq!(found.allergens, ["milk"]);
    assert_eq!(found.ingredients[..2], ["whole milk", "white sugar"]);
    assert!((found.volume_ml - outcome.contents.liquid.volume(MEASURED_AT).0).abs() < 1e-9);
    assert!(Taste::of(outcome).is_some());
}

/// Own figures of juice decide what is bought and how the drink scatters, and a line in millilitres before
/// one in pieces doesn't hide that pieces vary.
#[test]
fn own_juice_is_shopped_for_and_the_first_line_decides_nothing() {
    let limeade = drink(vec![squeeze("jug", "lime_juice", "190 ml"), serve("jug", 1, "100 ml")]);
    let count = |kitchen: &Kitchen| {
        shop(std::slice::from_ref(&limeade), &Cupboard::of(kitchen), Shopping::default()).items[0]
            .count
    };
    let own = OwnProduce { juice_ml: Some(13.5), ..OwnProduce::default() };
    let half = Kitchen { produce: [("lime/medium".into(), own)].into(), ..Kitchen::default() };
    let (usual, dry) = (count(&Kitchen::default()), count(&half));
    assert!((dry / usual - 2.0).abs() < 0.2, "{usual} limes and {dry} that give half");
    let wide = |lines: [Action; 2]| {
        let mut actions = lines.to_vec();
        actions.extend([add("jug", "white_sugar", "100 g"), add("jug", "water", "1 l")]);
        let mut chance = StdRng::seed_from_u64(9);
        let found =
            spread(&drink(actions), Cupboard::builtin(), 500, &mut chance).unwrap().unwrap();
        found.acidity.high / found.acidity.low
    };
    let (ml, pieces) =
        (squeeze("jug", "lemon_juice", "20 ml"), squeeze("jug", "lemon_juice", "1 lemon"));
    let (before, after) = (wide([ml.clone(), pieces.clone()]), wide([pieces, ml]));
    assert!((before / after - 1.0).abs() < 0.05, "{before} and {after}");
}
