//! What must hold for every drink, however foolish.

use crate::common::{any_drink, drink};
use keen_core::chemistry::{Component, Mixture};
use keen_core::cupboard::Cupboard;
use keen_core::drink::Drink;
use keen_core::drink::{Action, Portion};
use keen_core::quantity::{Amount, AmountError, Measure, Millilitres, round_to_kitchen};
use keen_core::report::DrinkReport;
use keen_core::scale::{Size, resize};
use keen_core::trace::{Contents, Line, Trace};
use proptest::prelude::*;

/// Grams of one component in everything that lies in a vessel.
fn amount_of(contents: &Contents, component: Component) -> f64 {
    contents.liquid[component]
        + contents.crystals.iter().map(|d| d.mixture[component]).sum::<f64>()
        + contents.pieces.iter().map(|p| p.inside[component]).sum::<f64>()
        + contents.ice.iter().map(|d| d.mixture[component]).sum::<f64>()
}

const SPLITS: [Component; 4] =
    [Component::Sucrose, Component::Glucose, Component::Fructose, Component::Water];
const BITTER: [Component; 2] = [Component::Bitterness, Component::BoundBitterness];

fn brought_of(component: Component, lines: &[&Line]) -> f64 {
    let all = Cupboard::builtin().ingredients();
    lines.iter().map(|l| all[l.ingredient].per_gram[component] * l.grams.0).sum()
}

fn same(
    component: Component,
    lines: &[&Line],
    vessels: &[Contents],
    count: &dyn Fn(usize) -> f64,
    gone: &Mixture,
    step: usize,
) -> Result<(), TestCaseError> {
    let brought = brought_of(component, lines);
    let held = vessels.iter().enumerate();
    let there: f64 = held.map(|(v, c)| amount_of(c, component) * count(v)).sum();
    prop_assert!(
        (there + gone[component] - brought).abs() < 1e-6 * brought.abs().max(1.0),
        "{component:?} after step {step}: {there} and {} gone of {brought}",
        gone[component]
    );
    Ok(())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(600))]

    /// After every step, what was brought in is what lies in the vessels, and what has gone as steam:
    /// in all, and for each component by itself.
    #[test]
    fn every_gram_is_accounted_for_after_every_step(drink in any_drink()) {
        let cupboard = Cupboard::builtin();
        prop_assert!(drink.check(cupboard).is_empty());
        let trace = Trace::run(&drink, cupboard);
        let mut vessels = vec![Contents::default(); drink.vessels.len()];
        let mut gone = Mixture::EMPTY;
        let mut many = vec![1.0; drink.vessels.len()];
        for frame in &trace.frames {
            for touched in &frame.touched {
                vessels[touched.vessel] = touched.contents.clone();
                many[touched.vessel] = touched.many;
            }
            gone += frame.gone;
            let lines: Vec<_> = trace.lines.iter().filter(|l| l.step <= frame.step).collect();
            let brought: f64 = lines.iter().map(|l| l.grams.0).sum();
            let count = |v: usize| many[v];
            let there: f64 = vessels.iter().enumerate().map(|(v, c)| c.mass().0 * count(v)).sum();
            let tolerance = 1e-6 * brought.max(1.0);
            prop_assert!((there + gone.mass().0 - brought).abs() < tolerance,
                "after step {}: {there} and {} gone of {brought}", frame.step, gone.mass().0);
            for component in Component::ALL {
                // Sugar that splits takes up water, and pulp gives up bitterness: those go together.
                if SPLITS.contains(&component) || BITTER.contains(&component) {
                    continue;
                }
                same(component, &lines, &vessels, &count, &gone, frame.step)?;
            }
            for together in [&SPLITS[..], &BITTER[..]] {
                let brought: f64 = together.iter().map(|c| brought_of(*c, &lines)).sum();
                let there: f64 = together
                    .iter()
                    .flat_map(|c| vessels.iter().enumerate().map(move |(v, held)| (c, v, held)))
                    .map(|(c, v, held)| amount_of(held, *c) * count(v))
                    .sum();
                let off: f64 = together.iter().map(|c| gone[*c]).sum();
                prop_assert!((there + off - brought).abs() < 1e-6 * brought.abs().max(1.0),
                    "{together:?} after step {}: {there} of {brought}", frame.step);
            }
        }
    }

    /// What is written is read again as the same, however odd the number, and so is what was scaled.
    #[test]
    fn amounts_write_back_to_what_they_were(
        value in prop_oneof![0.001f64..0.1, 0.1f64..10.0, 10.0f64..1000.0],
        digits in 0usize..12,
        unit in prop::sample::select(vec!["g", "kg", "ml", "cups", "tsp", "limes", "pinches", "drops", ""]),
        factor in 0.001f64..50.0,
    ) {
        let text = format!("{value:.digits$} {unit}");
        if let Ok(amount) = text.parse::<Amount>() {
            prop_assert_eq!(amount.to_string().parse(), Ok(amount.clone()), "{}", text);
            let said = amount.terms()[0].value;
            let written: f64 = format!("{value:.digits$}").parse().unwrap();
            prop_assert!((said / written - 1.0).abs() < 1e-8, "{text}: {said}");
            let scaled = amount.scaled(factor);
            if scaled.total() > 9e5 || scaled.terms()[0].value > 9e4 {
                return Ok(());
            }
            prop_assert_eq!(scaled.to_string().parse(), Ok(scaled.clone()), "{} times {}", text, factor);
        }
    }

    /// No vessel ever holds less than nothing, or something at no temperature.
    #[test]
    fn contents_are_always_sound(drink in any_drink()) {
        let trace = Trace::run(&drink, Cupboard::builtin());
        for touched in trace.frames.iter().flat_map(|f| &f.touched) {
            let c = &touched.contents;
            prop_assert!(c.liquid.is_sound(), "{:?}", c.liquid);
            prop_assert!(c.pieces.iter().all(|p| p.inside.is_sound() && (0.0..=1.0).contains(&p.drawn)));
            prop_assert!((-18.01..131.0).contains(&c.temperature.0), "{:?}", c.temperature);
            prop_assert!(c.level().0.is_finite() && c.level().0 >= 0.0);
        }
    }

    /// What the lines bring adds up to the whole, whatever happened to it on the way.
    #[test]
    fn shares_add_up(drink in any_drink()) {
        let report = DrinkReport::of(&drink, Cupboard::builtin());
        for share in [
            report.lines.iter().map(|l| l.sweetness_share).sum::<f64>(),
            report.lines.iter().map(|l| l.acid_share).sum::<f64>(),
            report.lines.iter().map(|l| l.water_share).sum::<f64>(),
        ] {
            prop_assert!(share < 1e-9 || (share - 1.0).abs() < 1e-6, "{share}");
        }
    }

    /// What the origins say of a served liquid is what is in it.
    #[test]
    fn origins_tell_what_is_in_the_glass(drink in any_drink()) {
        let trace = Trace::run(&drink, Cupboard::builtin());
        if let Some(outcome) = trace.outcome() {
            let liquid = &outcome.contents.liquid;
            let origins = &outcome.contents.origins;
            let water: f64 = origins.iter().map(|o| o.water.0).sum();
            let sweet: f64 = origins.iter().map(|o| o.sweetness.0).sum();
            let acid: f64 = origins.iter().map(|o| o.acid.0).sum();
            prop_assert!((water - liquid[Component::Water]).abs() < 1e-6 * water.max(1.0));
            prop_assert!((sweet - liquid.sucrose_equivalent().0).abs() < 1e-6 * sweet.max(1.0));
            prop_assert!((acid - liquid.acid_brought().0).abs() < 1e-6 * acid.max(1.0));
        }
    }

    #[test]
    fn once_as_much_is_the_same_drink(drink in any_drink()) {
        let same = resize(&drink, Cupboard::builtin(), &Size::Factor(1.0)).unwrap();
        prop_assert_eq!(same, drink);
    }

    /// A size that is found, is reached.
    #[test]
    fn another_size_ends_at_its_volume(
        sugar in 20.0f64..300.0, lemons in 1.0f64..12.0, water in 200.0f64..3000.0, wanted in 150.0f64..40_000.0,
    ) {
        let cupboard = Cupboard::builtin();
        let drink = drink(vec![
            crate::common::add("pot", "white_sugar", &format!("{sugar:.3} g")),
            crate::common::add("pot", "water", &format!("{water:.3} ml")),
            Action::Heat { vessel: "pot".into(), to_c: 95.0, minutes: 5.0, lid: false, until_clear: false },
            crate::common::add("pot", "hibiscus_dried", "10 g"),
            crate::common::strain("pot", "sieve", "pitcher", keen_core::drink::Press::Drained),
            crate::common::add("pitcher", "lemon_juice", &format!("{lemons:.3} lemons")),
            Action::Pour { from: "pitcher".into(), into: "jug".into(), portion: Portion::All },
        ]);
        let size = Size::Volume(Amount::of(wanted, Measure::Millilitre));
        let scaled = resize(&drink, cupboard, &size).unwrap();
        let found = Trace::run(&scaled, cupboard).outcome().unwrap().volume.0;
        prop_assert!((found / wanted - 1.0).abs() < 1e-3, "{found} for {wanted}");
    }

    /// Every text is an amount or says why it isn't; an amount reads back as itself.
    #[test]
    fn a_drink_that_is_written_down_is_read_again_as_it_was(drink in any_drink()) {
        let text = serde_json::to_string(&drink).unwrap();
        let read: Drink = serde_json::from_str(&text).unwrap();
        // Amounts are written to nine figures, so the second writing is the same as the first.
        prop_assert_eq!(serde_json::to_string(&read).unwrap(), text);
        prop_assert_eq!(read.steps.len(), drink.steps.len());
    }

    #[test]
    fn a_range_is_written_back_and_grows_at_both_ends(
        low in 0.5f64..20.0,
        more in 0.5f64..20.0,
        times in 0.2f64..8.0,
        unit in prop::sample::select(vec!["tbsp", "g", "limes", "l", "parts"]),
    ) {
        let text = format!("{low:.1} to {:.1} {unit}", low + more);
        let amount: Amount = text.parse().unwrap();
        prop_assert_eq!(&amount.to_string().parse::<Amount>().unwrap(), &amount);
        let (least, most) = amount.spread().unwrap();
        prop_assert!(least < 1.0 && most > 1.0, "{} and {}", least, most);
        let scaled = amount.scaled(times);
        prop_assert!((scaled.total() / amount.total() / times - 1.0).abs() < 1e-4, "{}", scaled);
        // Where it changes to another unit it may be said in two, and is then no range any more.
        if let Some((low, high)) = scaled.spread() {
            prop_assert!((low / least - 1.0).abs() < 1e-3 && (high / most - 1.0).abs() < 1e-3);
        }
    }

    #[test]
    fn any_text_is_an_amount_or_an_error(text in "\\PC{0,40}") {
        if let Ok(amount) = text.parse::<Amount>() {
            let again: Amount = amount.to_string().parse().unwrap();
            prop_assert_eq!(again.terms().len(), amount.terms().len());
            for (a, b) in again.terms().iter().zip(amount.terms()) {
                prop_assert!((a.value / b.value - 1.0).abs() < 1e-4 || b.value < 1e-4);
            }
        }
    }

    #[test]
    fn rounding_never_makes_an_amount_vanish(value in 1e-6f64..1e5) {
        for measure in [Measure::Gram, Measure::Cup, Measure::Teaspoon, Measure::Litre,
            Measure::Piece("limes".into()), Measure::Pinch] {
            prop_assert!(round_to_kitchen(value, &measure) > 0.0);
            prop_assert!(Amount::of(value, measure).rounded().total() > 0.0);
        }
    }

    /// Spoons and cups come within half a teaspoon, or 4 %, of what they stand for.
    #[test]
    fn spelling_in_spoons_stays_close(ml in 0.7f64..20_000.0) {
        let spelled = keen_core::quantity::spell_in_spoons(ml).total();
        prop_assert!((spelled - ml).abs() <= (0.04 * ml).max(2.6), "{ml}: {spelled}");
    }
}

#[test]
fn amounts_in_kitchen_language() {
    for (text, total, again) in [
        ("1 1/2 cups", 354.882, "1 1/2 cups"),
        ("1½ cups", 354.882, "1 1/2 cups"),
        ("¾ tsp", 3.69669, "3/4 tsp"),
        ("2 tbsp + 1 tsp", 34.5025, "2 tbsp + 1 tsp"),
        ("2 tbsp and 1 tsp", 34.5025, "2 tbsp + 1 tsp"),
        ("0,5 l", 500.0, "0.5 l"),
        (".5 l", 500.0, "0.5 l"),
        ("220g", 220.0, "220 g"),
        ("2 lb", 907.18474, "2 lb"),
        ("half a cup", 118.294, "1/2 cup"),
        ("a pinch of", 0.30806, "1 pinch"),
        ("3 large limes", 3.0, "3 large limes"),
        ("7", 7.0, "7"),
    ] {
        let amount: Amount = text.parse().unwrap_or_else(|e| panic!("{text}: {e}"));
        assert!((amount.total() - total).abs() < 1e-3, "{text}: {}", amount.total());
        assert_eq!(amount.to_string(), again);
    }
}

#[test]
fn amounts_that_are_none_say_why() {
    let error = |text: &str| text.parse::<Amount>().unwrap_err();
    assert_eq!(error(" "), AmountError::Empty);
    assert!(matches!(error("some sugar"), AmountError::NoNumber(_)));
    assert!(matches!(error("-3 g"), AmountError::Negative(_)));
    assert!(matches!(error("0.0000001 g"), AmountError::TooLittle(_)));
    assert!(matches!(error("0 g"), AmountError::Zero(_)));
    assert!(matches!(error("NaN g"), AmountError::NoNumber(_)));
    assert!(matches!(error("1e9 g"), AmountError::Unreadable(_)));
    assert!(matches!(error("1000000000 g"), AmountError::TooMuch(_)));
    assert!(matches!(error("99999 l"), AmountError::TooMuch(_)));
    assert!(matches!(error("1,000 g"), AmountError::Ambiguous(_)));
    assert!(matches!(error("1/0 cup"), AmountError::Unreadable(_)));
    assert!(matches!(error("1 2 cups"), AmountError::Unreadable(_)));
    assert_eq!(error(&"9".repeat(200)), AmountError::TooLong);
}

#[test]
fn scaled_amounts_are_said_as_a_cook_would() {
    for (text, factor, scaled) in [
        ("1 tbsp", 16.0, "1 cup"),
        ("1 cup", 0.125, "2 tbsp"),
        ("1 tsp", 6.0, "2 tbsp"),
        ("500 ml", 12.0, "6 l"),
        ("1 l", 0.25, "250 ml"),
        ("3 limes", 4.0, "12 limes"),
        ("800 g", 5.0, "4 kg"),
    ] {
        let amount: Amount = text.parse().unwrap();
        assert_eq!(amount.scaled(factor).rounded().to_string(), scaled, "{factor} x {text}");
    }
    assert_eq!(Millilitres(3.0).min(Millilitres(2.0)), Millilitres(2.0));
}
