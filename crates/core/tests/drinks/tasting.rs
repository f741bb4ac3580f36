//! Rows of glasses, run as drinks.

use keen_core::balance::Profile;
use keen_core::cupboard::{Cupboard, Kitchen, MeasuringSet};
use keen_core::drink::{Action, Drink, Step};
use keen_core::quantity::Amount;
use keen_core::quantity::Units;
use keen_core::taste::compare::Method;
use keen_core::taste::find::Finding;
use keen_core::taste::group::{Guest, pitchers};
use keen_core::taste::ideal::Ideal;
use keen_core::taste::ladder::{Ladder, Moves, Row, ladder};
use keen_core::taste::taster::{Avoid, Notices, Taster};
use keen_core::taste::tongue::{Quality, Staircase};
use keen_core::trace::Trace;

pub fn demo(name: &str) -> Drink {
    let path = format!("{}/../../../demo/{name}.json", env!("CARGO_MANIFEST_DIR"));
    let file: serde_json::Value =
        serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    let mut drink: Drink = serde_json::from_value(file["drink"].clone()).unwrap();
    drink.name_steps();
    drink
}

fn row(name: &str, moves: Moves) -> Row {
    Row {
        drink: demo(name),
        moves,
        glasses: 5,
        step: 1.25,
        middle: None,
        sample_ml: 60.0,
        tasters: 5,
        units: Units::AsWritten,
    }
}

const DRINKS: [&str; 10] = [
    "lemon-verbena-lemonade",
    "hibiscus-and-bay-orange-cooler",
    "melon-and-lime-agua-fresca",
    "mandarin-fizz",
    "creamy-whole-lime-cooler",
    "ginger-and-lemongrass-syrup",
    "mint-and-cucumber-water",
    "tamarind-cooler",
    "blackcurrant-vinegar-cordial",
    "rhubarb-and-vanilla-syrup",
];

fn kinds(ids: [&str; 2]) -> Vec<String> {
    ids.map(str::to_owned).to_vec()
}

/// What each glass is as a drink, run by itself, is what stands on the sheet; and what is held, is held.
fn poured_as_told(what: &str, row: &Row, found: &Ladder, cupboard: &Cupboard) {
    assert_eq!(found.glasses.len(), row.glasses as usize, "{what}");
    for glass in &found.glasses {
        assert!(
            glass.drink.check(cupboard).is_empty(),
            "{what}: {:?}",
            glass.drink.check(cupboard)
        );
        let trace = Trace::run(&glass.drink, cupboard);
        let read = trace.outcome().and_then(Profile::of).unwrap();
        let near = |told: f64, is: f64| (told - is).abs() <= 0.01 * is.max(0.01);
        assert!(near(glass.sweetness, read.sweetness_percent), "{what}: {}", glass.name);
        assert!(near(glass.acidity, read.acidity_percent), "{what}: {}", glass.name);
        assert!(near(glass.volume_ml, read.glass_ml), "{what}: {}", glass.name);
        assert!(glass.pours.len() <= 2, "{what}: no more than two pours");
        assert!(glass.pours.iter().all(|p| p.grams > 2.0), "{what}: {:?}", glass.pours);
    }
    for held in &found.held {
        assert!(held.off() < 0.01, "{what}: {} from {} to {}", held.what, held.least, held.most);
    }
    let places: Vec<f64> = found.glasses.iter().filter_map(|g| g.x).collect();
    assert!(places.windows(2).all(|w| w[1] > w[0]), "{what}: {places:?}");
    // What is poured for all tasters is there.
    for (i, jug) in found.jugs.iter().enumerate() {
        let poured = found.glasses.iter().flat_map(|g| &g.pours).filter(|p| p.jug == i);
        let ml: f64 = poured.filter_map(|p| p.amount.as_millilitres()).sum();
        let needed = ml * f64::from(row.tasters);
        assert!(
            jug.volume_ml >= needed,
            "{what}: {} holds {} of {needed}",
            jug.name,
            jug.volume_ml
        );
    }
}

#[test]
fn every_glass_of_every_row_is_what_its_sheet_says_and_what_is_held_is_held() {
    let cupboard = Cupboard::builtin();
    let mut rows = 0;
    for name in DRINKS {
        for moves in [
            Moves::Sugar,
            Moves::Acid,
            Moves::Strength,
            Moves::Steep,
            Moves::Sweetener(kinds(["white_sugar", "honey"])),
            Moves::Souring(kinds(["lemon_juice", "citric_acid"])),
        ] {
            let what = format!("{name}, {moves:?}");
            let mut wanted = row(name, moves);
            if wanted.moves.words().is_none() {
                wanted.glasses = 2;
            }
            match ladder(&wanted, cupboard) {
                Ok(found) => {
                    poured_as_told(&what, &wanted, &found, cupboard);
                    rows += 1;
                }
                Err(fault) => {
                    assert!(fault.message.contains("steeps"), "{what}: {}", fault.message);
                }
            }
        }
    }
    println!("{rows} rows");
    assert!(rows >= 55, "{rows}");
}

#[test]
fn rows_of_all_sizes_and_in_other_kitchens() {
    let spoons = Kitchen {
        measuring: MeasuringSet { scale_g: None, jug_ml: None, cups: true, spoons: true },
        ..Kitchen::default()
    };
    let spoons = Cupboard::of(&spoons);
    for (glasses, tasters, sample_ml) in [(3, 1, 60.0), (7, 2, 120.0), (5, 40, 60.0), (4, 6, 30.0)]
    {
        let wanted =
            Row { glasses, tasters, sample_ml, ..row("lemon-verbena-lemonade", Moves::Sugar) };
        let what = format!("{glasses} glasses for {tasters}");
        let found = ladder(&wanted, Cupboard::builtin()).unwrap();
        poured_as_told(&what, &wanted, &found, Cupboard::builtin());
        // Equal steps, as near as can be poured, round the drink.
        let x: Vec<f64> = found.glasses.iter().map(|g| g.x.unwrap()).collect();
        for step in x.windows(2).map(|w| (w[1] - w[0]).exp()) {
            assert!((1.1..1.42).contains(&step), "{what}: {x:?}");
        }
        if sample_ml >= 60.0 && glasses < 7 {
            let found = ladder(&wanted, &spoons).unwrap();
            let said = found.glasses[1].pours[0].amount.to_string();
            assert!(said.contains("sp"), "{what}: {said}");
        }
    }
}

#[test]
fn alcohol_moves_alone() {
    let mut wanted = row("mandarin-fizz", Moves::Spirit);
    let fault = ladder(&wanted, Cupboard::builtin()).unwrap_err();
    assert_eq!(fault.field, "moves");
    wanted.drink.steps.push(Step::new(
        "spirit".into(),
        Action::add("glass", "spirit_40abv", Amount::millilitres(25.0)),
    ));
    let found = ladder(&wanted, Cupboard::builtin()).unwrap();
    poured_as_told("with spirit", &wanted, &found, Cupboard::builtin());
    assert!(found.glasses[4].alcohol > 2.0 * found.glasses[0].alcohol);
    assert!(found.notes.iter().any(|n| n.contains("adults")));
}

#[test]
fn rows_that_cannot_be_are_refused_in_words() {
    let refused = |change: &dyn Fn(&mut Row)| {
        let mut wanted = row("lemon-verbena-lemonade", Moves::Sugar);
        change(&mut wanted);
        ladder(&wanted, Cupboard::builtin()).map(|l| l.held).unwrap_err()
    };
    let one = refused(&|r| r.glasses = 1);
    assert_eq!((one.field.as_str(), one.message.contains("3 to 7")), ("glasses", true));
    assert_eq!(refused(&|r| r.glasses = 8).field, "glasses");
    assert_eq!(refused(&|r| r.step = f64::NAN).field, "step");
    assert_eq!(refused(&|r| r.tasters = 41).field, "tasters");
    assert_eq!(refused(&|r| r.sample_ml = 0.0).field, "sample_ml");
    let alike = refused(&|r| r.moves = Moves::Sweetener(kinds(["honey", "honey"])));
    assert!(alike.message.contains("twice"), "{}", alike.message);
    let sour = refused(&|r| r.moves = Moves::Souring(kinds(["water", "lemon_juice"])));
    assert!(sour.message.contains("isn't sour"), "{}", sour.message);
    let fine = refused(&|r| {
        (r.step, r.glasses, r.sample_ml, r.units) = (1.03, 7, 20.0, Units::Us);
    });
    assert!(fine.message.contains("fine enough"), "{}", fine.message);
    assert_eq!(refused(&|r| r.drink.steps.clear()).field, "drink");
    let sweet = refused(&|r| (r.step, r.glasses) = (2.0, 7));
    assert_eq!(sweet.field, "step");
}

#[test]
fn three_jugs_pour_any_ratio_and_stay_as_strong() {
    let cupboard = Cupboard::builtin();
    for sour in ["lemon_juice", "citric_acid", "lime_juice"] {
        let finding = Finding { sour: sour.into(), units: Units::AsWritten };
        let jugs = finding.jugs(cupboard).unwrap();
        assert_eq!(jugs.jugs.len(), 3);
        for ratio in [7.0, 10.0, 13.0, 16.0, 20.0, 26.0, 34.0] {
            let mixed = finding.glass_at(ratio, cupboard).unwrap();
            let is = mixed.glass.x.unwrap().exp();
            assert!((is / ratio - 1.0).abs() < 0.08, "{sour}: {is} for {ratio}");
            assert!((110.0..130.0).contains(&mixed.glass.volume_ml));
            assert!((5.0..18.5).contains(&mixed.glass.sweetness), "{}", mixed.glass.sweetness);
            let again = finding.glass_of(mixed.spoons, cupboard).unwrap();
            assert_eq!(again, mixed);
        }
    }
    let odd = Finding { sour: "honey".into(), units: Units::AsWritten };
    assert_eq!(odd.jugs(cupboard).unwrap_err().field, "sour");
    let finding = Finding { sour: "lemon_juice".into(), units: Units::AsWritten };
    assert_eq!(finding.glass_of([24, 24, 0], cupboard).unwrap_err().field, "spoons");
}

fn taster(name: &str) -> Taster {
    Taster {
        name: name.into(),
        mark: Default::default(),
        avoids: Vec::new(),
        child: false,
        notices_sweet: None,
        notices_sour: None,
    }
}

#[test]
fn no_step_of_a_row_is_missed_by_somebody_who_sits_there() {
    let part = |part: f64| Some(Notices { part, low: part / 2.0, high: part * 2.0 });
    let coarse = Taster { notices_sweet: part(0.4), ..taster("coarse") };
    let numb = Taster { notices_sweet: part(1.8), ..taster("numb") };
    let seated = |tasters: &[Taster]| {
        let mut row = row("lemon-verbena-lemonade", Moves::Sugar);
        row.seat(tasters);
        (row.tasters, row.step)
    };
    assert_eq!(seated(&[taster("one"), taster("other")]), (2, 1.25));
    assert_eq!(seated(&[taster("one"), coarse]), (2, 1.4));
    assert_eq!(seated(&[numb]), (1, 2.0));
}

#[test]
fn what_each_stirs_in_brings_the_own_glass_near_the_own_ideal() {
    let cupboard = Cupboard::builtin();
    let drink = demo("lemon-verbena-lemonade");
    // The last two have somebody at the table who is far off, towards sharp and towards sweet.
    for ratios in [[11.0_f64, 15.0, 16.0, 24.0], [4.0, 15.0, 15.0, 15.0], [15.0, 15.0, 15.0, 45.0]]
    {
        let guests: Vec<Guest> = ratios
            .map(|ratio| Guest { taster: taster("x"), ideal: Ideal { x: ratio.ln(), sd: 0.1 } })
            .to_vec();
        let shares = pitchers(&drink, &guests, cupboard).unwrap();
        assert_eq!(shares.len(), 1);
        let (sum, far) =
            (shares[0].least_sum.as_ref().unwrap(), shares[0].nobody_left_out.as_ref().unwrap());
        // But for the rounding of amounts.
        assert!(sum.sum <= far.sum + 0.3 && far.largest <= sum.largest + 0.1);
        for pitcher in [sum, far] {
            assert!(pitcher.reached);
            let trace = Trace::run(&pitcher.drink, cupboard);
            let read = trace.outcome().and_then(Profile::of).unwrap();
            assert!((read.ratio.unwrap() / pitcher.ratio - 1.0).abs() < 0.01);
            for guest in &pitcher.guests {
                let Some(adds) = &guest.stirs_in else {
                    assert!(guest.miss.abs() < 1.2, "{guest:?}");
                    continue;
                };
                // Sweeter for those whose ideal is sweeter, sharper for the others; and it brings them nearer.
                let sweetens = ["syrup", "sugar"].iter().any(|s| adds.ingredient.contains(s));
                assert_eq!(guest.miss < 0.0, sweetens, "{guest:?}");
                assert!(adds.grams < 50.0, "nobody stirs {} into a glass", adds.amount);
                let mut glass = pitcher.drink.clone();
                glass.steps.push(Step::new(
                    "own".into(),
                    Action::add("glass", adds.ingredient.clone(), adds.amount.clone()),
                ));
                let own = Trace::run(&glass, cupboard).outcome().and_then(Profile::of).unwrap();
                let left = (own.ratio.unwrap().ln() - guests[guest.guest].ideal.x) / 1.1_f64.ln();
                assert!(left.abs() < guest.miss.abs().min(1.3), "{guest:?}: {left} is left");
            }
        }
    }
}

#[test]
fn who_does_not_take_something_gets_a_pitcher_of_their_own() {
    let cupboard = Cupboard::builtin();
    let mut drink = demo("mint-and-cucumber-water");
    drink.steps.insert(
        drink.steps.len() - 1,
        Step::new(
            "spirit".into(),
            Action::add("pitcher", "spirit_40abv", Amount::millilitres(100.0)),
        ),
    );
    let guest = |taster: Taster| Guest { taster, ideal: Ideal { x: 40_f64.ln(), sd: 0.1 } };
    let child = Taster { child: true, ..taster("a child") };
    let no_honey = Taster { avoids: vec![Avoid::Honey], ..taster("one") };
    let guests = [guest(taster("one")), guest(taster("two")), guest(child), guest(no_honey)];
    let shares = pitchers(&drink, &guests, cupboard).unwrap();
    assert_eq!(shares.len(), 3);
    assert_eq!(shares[0].guests, [0, 1]);
    for share in &shares {
        let pitcher = share.least_sum.as_ref().unwrap();
        for guest in &share.guests {
            let left = guests[*guest].taster.objects_to(&pitcher.drink, cupboard).unwrap();
            assert!(left.is_empty(), "{left:?}");
        }
        assert!(share.shared_until.is_some());
    }
    assert!((shares.iter().map(|s| s.part).sum::<f64>() - 1.0).abs() < 1e-9);
    assert_eq!(pitchers(&drink, &[], cupboard).unwrap_err().field, "tasters");
    // What can't be left out is said.
    let milky = demo("creamy-whole-lime-cooler");
    let no_milk = guest(Taster { avoids: vec![Avoid::Milk], ..taster("one") });
    let shares = pitchers(&milky, &[no_milk], cupboard).unwrap();
    assert!(shares[0].least_sum.is_none() && shares[0].note.is_some());
}

#[test]
fn nobody_is_told_to_add_what_they_avoid() {
    let cupboard = Cupboard::builtin();
    let avoiding = |avoids: Vec<Avoid>, ratio: f64| Guest {
        taster: Taster { avoids, ..taster("one") },
        ideal: Ideal { x: ratio.ln(), sd: 0.1 },
    };
    let id = |id: &str| Avoid::Ingredient(id.into());
    let honeyed = crate::common::drink(vec![
        crate::common::squeeze("jug", "lemon_juice", "5 lemons"),
        crate::common::add("jug", "honey", "180 g"),
        crate::common::add("jug", "mint", "20 g"),
        crate::common::add("jug", "water", "1 l"),
    ]);
    let cases = [
        (honeyed.clone(), vec![Avoid::Honey, id("white_sugar")]),
        (honeyed.clone(), vec![id("mint")]),
        (honeyed.clone(), vec![id("lemon_juice"), Avoid::Honey]),
        (demo("lemon-verbena-lemonade"), vec![id("white_sugar")]),
        (demo("mint-and-cucumber-water"), vec![Avoid::Honey]),
    ];
    for (drink, avoids) in cases {
        for ratio in [6.0, 60.0] {
            let guest = avoiding(avoids.clone(), ratio);
            let shares = pitchers(&drink, std::slice::from_ref(&guest), cupboard).unwrap();
            for pitcher in [&shares[0].least_sum, &shares[0].nobody_left_out].into_iter().flatten()
            {
                let objects = guest.taster.objects_to(&pitcher.drink, cupboard).unwrap();
                assert!(objects.is_empty(), "{avoids:?} in {objects:?}");
                for adds in pitcher.guests.iter().filter_map(|it| it.stirs_in.as_ref()) {
                    let it = cupboard.ingredient(&adds.ingredient).unwrap();
                    assert!(guest.taster.takes(it), "{avoids:?}: told to stir in {}", it.name);
                }
            }
            // Of the pitcher as it is they stir in nothing that they avoid, and nothing where it isn't theirs.
            let glass = &keen_core::taste::group::in_the_glass(
                &drink,
                std::slice::from_ref(&guest),
                cupboard,
            )
            .unwrap()[0];
            let objects = guest.taster.objects_to(&drink, cupboard).unwrap();
            assert_eq!(glass.not_for_them, objects);
            assert!(objects.is_empty() || glass.stirs_in.is_none(), "{glass:?}");
        }
    }
    // Mint is no sweetener: nothing sweet comes in its place.
    let shares = pitchers(&honeyed, &[avoiding(vec![id("mint")], 15.0)], cupboard).unwrap();
    let steps = &shares[0].least_sum.as_ref().unwrap().drink.steps;
    assert_eq!(steps.len(), 3);
    assert!(!format!("{steps:?}").contains("white_sugar"));
    // What is made of something is that for who avoids it: a syrup of white sugar.
    let syrup = cupboard.ingredient("simple_syrup_1_1").unwrap();
    assert!(id("white_sugar").is_in(syrup) && !id("honey").is_in(syrup));
}

#[test]
fn stairs_are_poured_in_spoons_and_told_by_their_trace() {
    for quality in [Quality::Sweetness, Quality::Acidity] {
        let stairs = Staircase { quality, method: Method::Pairs };
        let figure = |glass: &keen_core::taste::ladder::Glass| match quality {
            Quality::Sweetness => glass.sweetness,
            Quality::Acidity => glass.acidity,
        };
        let mut before = 0.0;
        for stair in 0..10 {
            let [plain, strong] = stairs.glasses(stair, Cupboard::builtin()).unwrap();
            let part = figure(&strong) / figure(&plain) - 1.0;
            assert!((part - Staircase::part(stair)).abs() < 0.02 + 0.05 * part, "{stair}: {part}");
            assert!(part > before);
            before = part;
        }
    }
}
