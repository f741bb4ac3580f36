//! What everything that is read off a trace must hold to, for any drink, and for everything in the
//! cupboard.

use crate::common::{add, any_drink, drink, serve, squeeze, strain};
use keen_core::balance::{
    Aim, Asked, Bound, Doubt, How, Pitcher, Target, Taste, Word, correct, solve, swap,
};
use keen_core::chance::spread;
use keen_core::cupboard::{Cupboard, Kind, Produce};
use keen_core::drink::{Action, Drink, Press, Step};
use keen_core::keep::{Keeping, cautions};
use keen_core::quantity::{Amount, Grams, Measure, Millilitres, Units};
use keen_core::report::DrinkReport;
use keen_core::scale::measure;
use keen_core::serving::{card, facts};
use keen_core::shop::{Shopping, shop};
use keen_core::study::{Proportion, SyrupAsked, next_steps, syrup};
use keen_core::trace::{NoticeKind, Severity, Trace};
use proptest::prelude::*;
use rand::SeedableRng;
use rand::rngs::StdRng;

/// A sentence as a person writes one.
fn well_said(text: &str) -> Result<(), TestCaseError> {
    prop_assert!(text.chars().next().is_some_and(|c| !c.is_lowercase()), "{text}");
    prop_assert!(text.ends_with(['.', '?', '!', '”']), "{text}");
    for slip in ["NaN", "inf ", " -0", "  ", " ,", "..", " 1 glasses", " 1 minutes", " 1 bottles"] {
        prop_assert!(!text.contains(slip), "{text}");
    }
    Ok(())
}

fn lemonade() -> Drink {
    drink(vec![
        squeeze("jug", "lemon_juice", "6 lemons"),
        add("jug", "white_sugar", "190 g"),
        add("jug", "water", "1.5 l"),
        serve("jug", 8, "200 ml"),
    ])
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(150))]

    #[test]
    fn what_is_offered_next_can_be_done(drink in any_drink(), at in 0usize..30) {
        let cupboard = Cupboard::builtin();
        for vessel in &drink.vessels {
            let next = next_steps(&drink, cupboard, at, &vessel.id).unwrap();
            for beginning in next.steps {
                let mut tried = drink.clone();
                tried.steps.truncate(at);
                tried.steps.push(Step::new("next".into(), beginning.action));
                tried.vessels.extend(beginning.vessels);
                prop_assert_eq!(tried.check(cupboard), []);
                let trace = Trace::run(&tried, cupboard);
                let nothing = trace.frames.last().unwrap().notices.iter();
                let nothing = nothing.filter(|n| n.kind == NoticeKind::NothingThere).count();
                prop_assert_eq!(nothing, 0, "{:?}", tried.steps.last());
            }
        }
    }

    #[test]
    fn steps_notices_and_cautions_are_said_in_sentences(drink in any_drink()) {
        let cupboard = Cupboard::builtin();
        let report = DrinkReport::of(&drink, cupboard);
        prop_assert_eq!(report.frames.len(), drink.steps.len());
        for frame in &report.frames {
            well_said(&frame.sentence)?;
            for notice in &frame.notices {
                well_said(&notice.message)?;
            }
            prop_assert!(frame.minutes.is_finite() && frame.minutes >= 0.0);
            prop_assert!(frame.hands_on_minutes <= frame.minutes + 1e-9, "{}", frame.sentence);
        }
        let trace = Trace::run(&drink, cupboard);
        for caution in cautions(&drink, cupboard, &trace).iter().flatten() {
            well_said(&caution.message)?;
        }
    }

    #[test]
    fn keeping_is_days_not_years_and_says_why(drink in any_drink()) {
        let trace = Trace::run(&drink, Cupboard::builtin());
        if let Some(keeping) = Keeping::of(&drink, Cupboard::builtin(), &trace) {
            prop_assert!(keeping.days <= 120);
            prop_assert_eq!(keeping.is_to_be_discarded(), keeping.left <= 0.0);
            prop_assert!(!keeping.is_to_be_discarded() || keeping.frozen_days == 0);
            prop_assert!(keeping.reasons.len() >= 2);
            for reason in &keeping.reasons {
                well_said(reason)?;
            }
        }
    }

    /// Facts of a glass add up: what is in it weighs no more than it does, and energy is that of its
    /// parts at the most.
    #[test]
    fn a_label_adds_up(drink in any_drink()) {
        let cupboard = Cupboard::builtin();
        let Some(facts) = facts(&drink, cupboard) else { return Ok(()) };
        let parts = [
            facts.sugars_g, facts.fat_g, facts.protein_g, facts.salt_g, facts.alcohol_g,
        ];
        prop_assert!(parts.iter().all(|p| p.is_finite() && *p >= -1e-9), "{facts:?}");
        prop_assert!(parts.iter().sum::<f64>() < 2.2 * facts.volume_ml.max(0.01), "{facts:?}");
        let least = 4.0 * facts.sugars_g + 9.0 * facts.fat_g + 7.0 * facts.alcohol_g;
        prop_assert!(facts.energy_kcal >= 0.9 * least - 0.1, "{facts:?}");
        prop_assert!((facts.energy_kj - 4.184 * facts.energy_kcal).abs() < 1e-6);
        prop_assert!((0.0..=100.0).contains(&facts.alcohol_percent));
    }

    /// Ice only melts while a glass stands, it warms, and it never gets sweeter.
    #[test]
    fn a_glass_only_gets_thinner(drink in any_drink()) {
        let Ok(Some(card)) = card(&drink, Cupboard::builtin()) else { return Ok(()) };
        // Baking soda that lies there goes on frothing.
        let froths = drink.steps.iter().any(|s| s.action.ingredient() == Some("sodium_bicarbonate"));
        for standing in &card.standing {
            for pair in standing.moments.windows(2) {
                let (before, after) = (&pair[0], &pair[1]);
                prop_assert!(after.minutes > before.minutes);
                prop_assert!(after.ice_g <= before.ice_g + 1e-6, "{}: {pair:?}", standing.name);
                let flatter = after.fizz <= before.fizz * 1.01 + 1e-3;
                prop_assert!(froths || flatter, "{}: {pair:?}", standing.name);
                prop_assert!((-1e-6..=100.0 + 1e-6).contains(&after.watered_percent), "{pair:?}");
            }
        }
        prop_assert!(card.with_spirit.percent >= 0.0 && card.with_spirit.percent <= 100.0);
    }

    /// All that goes into drinks is on the list or at hand, in counts and packs that can be bought.
    #[test]
    fn nothing_is_forgotten_in_the_shop(drinks in prop::collection::vec(any_drink(), 1..4)) {
        let cupboard = Cupboard::builtin();
        let list = shop(&drinks, cupboard, Shopping::default());
        for item in &list.items {
            prop_assert!(item.count.is_finite() && item.count >= 0.0);
            prop_assert!(item.count.fract() == 0.0 || item.weight_g > 0.0, "{item:?}");
            prop_assert!(!item.need.is_empty() && !item.buy.is_empty());
            if let Some(chance) = &item.chance {
                prop_assert!(chance.of_count >= 0.9 - 1e-6, "{item:?}");
                prop_assert!(f64::from(chance.half) <= item.count + 1e-9, "{item:?}");
            }
        }
        for drink in &drinks {
            for line in Trace::run(drink, cupboard).lines.iter().filter(|l| l.grams.0 > 50.0) {
                let it = &cupboard.ingredients()[line.ingredient];
                if line.left_over || it.kind == Kind::Water {
                    continue;
                }
                let fruit = cupboard.produce_of(it).map(|p| p.id.clone()).collect::<Vec<_>>();
                let listed = list.items.iter().any(|i| {
                    i.id == it.id || fruit.iter().any(|f| i.id.starts_with(f.as_str()))
                });
                prop_assert!(listed, "{} isn't among {:?}", it.id, list.items);
            }
        }
    }

    #[test]
    fn a_cloud_lies_round_its_middle(drink in any_drink(), seed in any::<u64>()) {
        let mut chance = StdRng::seed_from_u64(seed);
        let Ok(Some(spread)) = spread(&drink, Cupboard::builtin(), 60, &mut chance) else {
            return Ok(());
        };
        for range in [spread.sweetness, spread.acidity, spread.ratio, spread.brix, spread.volume_ml] {
            prop_assert!(range.low <= range.middle && range.middle <= range.high, "{range:?}");
            prop_assert!(range.low.is_finite() && range.high.is_finite());
        }
        if let Some(cloud) = spread.cloud {
            prop_assert!(cloud.half < cloud.most);
            let length = |s: keen_core::balance::Spot| s.sweetness.hypot(s.acidity);
            prop_assert!(length(cloud.short).is_finite() && length(cloud.long).is_finite());
        }
    }

    /// Whatever is aimed at, amounts stay within their bounds, and what is held stays.
    #[test]
    fn aiming_keeps_to_what_was_said(
        sweetness in 0.5f64..30.0,
        acidity in 0.0f64..3.0,
        most in 1.0f64..12.0,
        held in any::<bool>(),
    ) {
        let cupboard = Cupboard::builtin();
        let drink = lemonade();
        let lemons = Amount::of(most, Measure::Piece("lemons".into()));
        let bound = Bound { step: "s0".into(), least: None, most: Some(lemons) };
        let target =
            Target { sweetness: Some(sweetness), acidity: Some(acidity), ..Target::default() };
        let hold = if held { vec!["s1".to_owned()] } else { Vec::new() };
        let solution = solve(&drink, cupboard, &Aim { target, hold, bounds: vec![bound] }).unwrap();
        let amount = |d: &Drink, i: usize| d.steps[i].action.amount().unwrap().clone();
        let used = amount(&solution.drink, 0).terms()[0].value;
        prop_assert!(used <= most * (1.0 + 1e-6), "{used} of {most}");
        if held {
            prop_assert_eq!(amount(&solution.drink, 1), amount(&drink, 1));
        }
        let taste = Taste::of(Trace::run(&solution.drink, cupboard).outcome().unwrap()).unwrap();
        if solution.reached {
            prop_assert!((taste.sweetness_percent / sweetness - 1.0).abs() < 6e-3);
        } else {
            prop_assert!(!solution.stops.is_empty(), "{solution:?}");
        }
    }

    /// No way of putting a pitcher right runs over, or makes it worse.
    #[test]
    fn what_puts_a_pitcher_right_fits_into_it(
        volume in 200.0f64..3000.0,
        spare in 1.0f64..1.8,
        brix in 2.0f64..18.0,
        acid in 0.05f64..1.5,
        word in prop::sample::select(vec![
            Word::Sweet, Word::NotSweet, Word::Sharp, Word::NotSharp, Word::Strong, Word::Weak,
        ]),
        how in prop::sample::select(vec![How::Touch, How::Clearly, How::Far]),
    ) {
        let capacity = volume * spare;
        let asked = Asked {
            pitcher: Pitcher::Read {
                volume: Amount::millilitres(volume),
                capacity: Amount::millilitres(capacity),
                brix: Some(brix),
                acidity: Some(acid),
                ph: None,
            },
            sweetness: None,
            acidity: None,
            words: vec![Doubt { too: word, how }],
            notices: Default::default(), at_hand: Vec::new(),
        };
        let found = correct(Cupboard::builtin(), &asked).unwrap();
        for way in &found.ways {
            prop_assert!(way.volume_ml <= capacity + 1.0, "{way:?} in {capacity}");
            prop_assert!(way.pour_aside_ml <= volume, "{way:?}");
            prop_assert!(way.additions.iter().all(|a| a.grams > 0.0), "{way:?}");
            if way.reached {
                let sour = (way.acidity - found.acidity_wanted).abs();
                let sweet = (way.sweetness - found.sweetness_wanted).abs();
                prop_assert!(sour < 0.12 * found.acidity_wanted.max(0.08), "{way:?} {found:?}");
                prop_assert!(sweet < 0.1 * found.sweetness_wanted.max(1.0), "{way:?} {found:?}");
            }
        }
    }

    /// A syrup weighs what was put in, less what boiled away, and is as strong as that says.
    #[test]
    fn a_syrup_adds_up(
        sugar in 50.0f64..3000.0,
        parts in 0.3f64..2.0,
        reduce in prop::option::of(40.0f64..72.0),
    ) {
        let asked = SyrupAsked {
            sugar: "white_sugar".into(),
            amount: Amount::grams(sugar),
            proportion: Proportion::ByWeight(parts),
            reduce_to: reduce,
            pot_mm: 200.0,
            back_to: None,
        };
        let Ok(made) = syrup(Cupboard::builtin(), &asked) else { return Ok(()) };
        prop_assert!((made.water_g * parts / sugar - 1.0).abs() < 0.01, "{made:?}");
        let weighs = made.sugar_g + made.water_g - made.boiled_away_g;
        prop_assert!((100.0 * made.sugar_g / weighs - made.brix).abs() < 0.6, "{made:?}");
        prop_assert!((made.volume_ml * made.density - weighs).abs() < 0.02 * weighs, "{made:?}");
        for pair in made.dilutions.windows(2) {
            prop_assert!(pair[1].syrup_ml > pair[0].syrup_ml && pair[1].parts < pair[0].parts);
        }
    }
}

/// Everything in the cupboard can be put into a pitcher of water by the amount that is offered, and
/// gives no cause for alarm.
#[test]
fn what_the_cupboard_offers_is_sensible() {
    let cupboard = Cupboard::builtin();
    for it in cupboard.ingredients() {
        let amount = cupboard.usual_amount(it);
        let grams = cupboard.weigh(it, &amount).unwrap().grams.0;
        assert!((0.001..600.0).contains(&grams), "{amount} {} weighs {grams} g", it.name);
        let pitcher = drink(vec![
            add("pitcher", "water", "1.5 l"),
            Action::add("pitcher", it.id.clone(), amount.clone()),
        ]);
        let trace = Trace::run(&pitcher, cupboard);
        let alarms: Vec<_> = trace
            .frames
            .iter()
            .flat_map(|f| &f.notices)
            .filter(|n| n.severity == Severity::Stop)
            .collect();
        assert!(alarms.is_empty(), "{amount} {}: {alarms:?}", it.name);
    }
}

/// An amount said in kitchen measures weighs about what it should, whatever it is and in whichever
/// units.
#[test]
fn kitchen_measures_of_everything_weigh_about_what_they_should() {
    let cupboard = Cupboard::builtin();
    for it in cupboard.ingredients() {
        let usual = cupboard.usual_amount(it);
        let grams = cupboard.weigh(it, &usual).unwrap().grams.0;
        for times in [0.5, 1.0, 3.7, 24.0] {
            for units in [Units::AsWritten, Units::Metric, Units::Us] {
                let wanted = grams * times;
                let said = measure(cupboard, it, &usual, Grams(wanted), units);
                let off = said.grams.0 / wanted;
                let loose = if times < 1.0 { 0.4..2.1 } else { 0.78..1.28 };
                assert!(
                    loose.contains(&off) || said.stock.is_some() || wanted < 0.3,
                    "{wanted:.2} g {} said as {} ({:.2} g)",
                    it.name,
                    said.amount,
                    said.grams.0
                );
                // It can be typed in again.
                let again: Amount = said.amount.to_string().parse().unwrap();
                let weighs = cupboard.weigh(it, &again).unwrap().grams.0;
                assert!((weighs / said.grams.0 - 1.0).abs() < 0.02, "{}", said.amount);
            }
        }
    }
}

/// More certainty takes more fruit, never less; more fruit never makes it less certain.
#[test]
fn certainty_costs_fruit() {
    let cupboard = Cupboard::builtin();
    let squeezed = |p: &&Produce| p.usual().juice_yield().is_some();
    let mut seen = 0;
    for produce in cupboard.produce().iter().filter(squeezed) {
        let known = produce.usual().juice_yield().unwrap();
        let wanted = Millilitres(known.mean() * 7.3);
        let counts = [0.5, 0.7, 0.9, 0.97].map(|chance| known.pieces_for(wanted, chance));
        assert!(counts.is_sorted(), "{}: {counts:?}", produce.name);
        assert!((7..=9).contains(&counts[0]), "{}: {counts:?}", produce.name);
        let chances: Vec<f64> = (5..12).map(|n| known.chance_of(f64::from(n), wanted)).collect();
        assert!(chances.is_sorted(), "{}: {chances:?}", produce.name);
        seen += 1;
    }
    assert!(seen >= 6, "{seen} kinds are squeezed");
}

/// Any sweetener can stand in for sugar and any sour juice for lemon, at the same sweetness and
/// acidity, and what is swapped back is what it was.
#[test]
fn sweeteners_and_juices_stand_in_for_each_other() {
    let cupboard = Cupboard::builtin();
    let before = Taste::of(Trace::run(&lemonade(), cupboard).outcome().unwrap()).unwrap();
    let sweet = ["honey", "agave_syrup", "maple_syrup", "demerara", "simple_syrup_2_1"];
    for other in sweet {
        let swapped = swap(&lemonade(), cupboard, "s1", other).unwrap();
        let taste = Taste::of(Trace::run(&swapped.solution.drink, cupboard).outcome().unwrap());
        let taste = taste.unwrap();
        assert!(
            (taste.sweetness_percent / before.sweetness_percent - 1.0).abs() < 0.01,
            "{other}: {taste:?}"
        );
        assert!(other != "honey" || !swapped.changes.is_empty(), "honey has a taste of its own");
        let back = swap(&swapped.solution.drink, cupboard, "s1", "white_sugar").unwrap();
        let sugar = back.solution.drink.steps[1].action.amount().unwrap();
        let it = cupboard.ingredient("white_sugar").unwrap();
        let grams = cupboard.weigh(it, sugar).unwrap().grams.0;
        assert!((grams - 190.0).abs() < 6.0, "{other}: back to {grams} g");
    }
    for other in ["lime_juice", "citric_acid"] {
        let swapped = swap(&lemonade(), cupboard, "s0", other).unwrap();
        let trace = Trace::run(&swapped.solution.drink, cupboard);
        let taste = Taste::of(trace.outcome().unwrap()).unwrap();
        assert!(
            (taste.acidity_percent / before.acidity_percent - 1.0).abs() < 0.01,
            "{other}: {taste:?}"
        );
    }
    assert_eq!(swap(&lemonade(), cupboard, "s9", "honey").unwrap_err().field, "step");
    assert_eq!(swap(&lemonade(), cupboard, "s1", "moondust").unwrap_err().field, "ingredient");
}

/// Straining through finer mesh and pressing less keeps more back, for every strainer alike.
#[test]
fn harder_pressing_gives_more_and_cloudier() {
    let cupboard = Cupboard::builtin();
    let through = |strainer: &str, press: Press| {
        let drink = drink(vec![
            add("blender", "cantaloupe", "800 g"),
            add("blender", "water", "500 ml"),
            Action::Blend { vessel: "blender".into(), seconds: 40.0 },
            strain("blender", strainer, "pitcher", press),
        ]);
        let trace = Trace::run(&drink, cupboard);
        let liquid = trace.after(3, drink.vessel("pitcher").unwrap()).unwrap().liquid;
        let pulp = liquid[keen_core::chemistry::Component::Insoluble] / liquid.mass().0;
        (liquid.mass().0, pulp)
    };
    for strainer in ["colander", "sieve", "cloth"] {
        let [drained, pressed, wrung] =
            [Press::Drained, Press::Pressed, Press::Wrung].map(|p| through(strainer, p).0);
        assert!(drained < pressed && pressed < wrung, "{strainer}: {drained} {pressed} {wrung}");
    }
    let pulp = ["colander", "sieve", "cloth"].map(|s| through(s, Press::Drained).1);
    assert!(pulp[0] > pulp[1] && pulp[1] > pulp[2], "{pulp:?}");
}

/// What there is stands in the tables: the code asks for what an ingredient is, or is taken for.
#[test]
fn no_ingredient_is_named_in_the_code() {
    fn sources(folder: &std::path::Path, found: &mut Vec<std::path::PathBuf>) {
        for entry in folder.read_dir().unwrap().flatten() {
            let path = entry.path();
            if path.is_dir() {
                sources(&path, found);
            } else if path.extension().is_some_and(|e| e == "rs") && !path.ends_with("tests.rs") {
                found.push(path);
            }
        }
    }
    let mut all = Vec::new();
    sources(std::path::Path::new(concat!(env!("CARGO_MANIFEST_DIR"), "/../src")), &mut all);
    assert!(all.len() > 50);
    // "ice" and "milk" are words as well; what has two words is a name.
    let named: Vec<String> = Cupboard::builtin()
        .ingredients()
        .iter()
        .filter(|it| it.id.contains('_'))
        .map(|it| format!("\"{}\"", it.id))
        .collect();
    for path in all {
        let text = std::fs::read_to_string(&path).unwrap();
        let code = text.split("#[cfg(test)]").next().unwrap();
        let code = code.lines().filter(|line| !line.trim_start().starts_with("//"));
        for line in code {
            let name = named.iter().find(|name| line.contains(name.as_str()));
            assert!(name.is_none(), "{}: {line}", path.display());
        }
    }
}
