use keen_core::balance::swap;
use keen_core::cupboard::{Cupboard, Form};
use keen_core::drink::{Action, Drink, FieldError};
use keen_core::work::Worktop;
use serde::Serialize;

use crate::read_drink;

/// A drink to start from.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Start {
    /// Stable name.
    pub id: &'static str,
    /// The group of drinks that it belongs to.
    pub group: &'static str,
    /// The school: how it is made.
    pub name: &'static str,
    /// What it is for.
    pub description: &'static str,
    /// The drink, ready to be changed.
    pub drink: Drink,
}

const STARTS: [(&str, &str, &str, &str, &str); 21] = [
    (
        "one_glass",
        "Lemonade",
        "One glass",
        "Lemon, sugar and water by the spoon, stirred in the glass.",
        include_str!("starts/one_glass.json"),
    ),
    (
        "lemonade",
        "Lemonade",
        "Dry sugar",
        "Squeeze citrus, stir in sugar, top up with water.",
        include_str!("starts/lemonade.json"),
    ),
    (
        "lemonade_syrup",
        "Lemonade",
        "Cooked syrup",
        "Equal parts sugar and water, warmed until clear: never gritty.",
        include_str!("starts/lemonade_syrup.json"),
    ),
    (
        "lemonade_rich",
        "Lemonade",
        "Rich syrup",
        "Two parts sugar to one part water, kept in a bottle for the next glasses.",
        include_str!("starts/lemonade_rich.json"),
    ),
    (
        "lemonade_zest",
        "Lemonade",
        "Rubbed zest",
        "Sugar rubbed into the zest by hand: the oil without the pith.",
        include_str!("starts/lemonade_zest.json"),
    ),
    (
        "lemonade_peels",
        "Lemonade",
        "Sugared peels",
        "Peels left under sugar for hours give a syrup of their own.",
        include_str!("starts/lemonade_peels.json"),
    ),
    (
        "hibiscus_boiled",
        "Hibiscus and infusions",
        "Boiled",
        "Dried hibiscus simmered for minutes: the most colour and acid from the least hibiscus.",
        include_str!("starts/hibiscus_boiled.json"),
    ),
    (
        "infusion",
        "Hibiscus and infusions",
        "Poured over",
        "Boiling water poured over and left, strained and sweetened.",
        include_str!("starts/infusion.json"),
    ),
    (
        "hibiscus_cold",
        "Hibiscus and infusions",
        "Cold-steeped",
        "A night in the refrigerator: clear and mild.",
        include_str!("starts/hibiscus_cold.json"),
    ),
    (
        "hibiscus_fresh",
        "Hibiscus and infusions",
        "Fresh calyces",
        "Fresh calyces without their pods, simmered.",
        include_str!("starts/hibiscus_fresh.json"),
    ),
    (
        "fruit_water",
        "Fruit waters",
        "Blended, strained, rinsed",
        "Fruit blended with water, strained, a second water through the pulp.",
        include_str!("starts/fruit_water.json"),
    ),
    (
        "fruit_unstrained",
        "Fruit waters",
        "Blended, not strained",
        "Uses the whole fruit; drink it the same day.",
        include_str!("starts/fruit_unstrained.json"),
    ),
    (
        "fruit_juiced",
        "Fruit waters",
        "Juiced",
        "Pressed juice, diluted and made more sour.",
        include_str!("starts/fruit_juiced.json"),
    ),
    (
        "fruit_cooked",
        "Fruit waters",
        "Cooked with sugar",
        "Fruit simmered with sugar, pressed and rinsed.",
        include_str!("starts/fruit_cooked.json"),
    ),
    (
        "whole_lime",
        "Creamy",
        "Whole limes and condensed milk",
        "A few seconds in the blender, strained, with sweetened milk stirred in.",
        include_str!("starts/whole_lime.json"),
    ),
    (
        "soda_parts",
        "Soda",
        "Soda by parts",
        "A cold base, and soda in the glass at the last second.",
        include_str!("starts/soda_parts.json"),
    ),
    (
        "syrup",
        "Syrups",
        "Fruit syrup",
        "Fruit cooked with sugar and water, strained into a bottle.",
        include_str!("starts/syrup.json"),
    ),
    (
        "root_syrup",
        "Syrups",
        "Root syrup, boiled down",
        "Ginger steeped in water, then boiled down to a mark.",
        include_str!("starts/root_syrup.json"),
    ),
    (
        "petal_syrup",
        "Syrups",
        "Petal syrup",
        "Flowers steeped overnight, then sweetened and made sour.",
        include_str!("starts/petal_syrup.json"),
    ),
    (
        "vinegar_cordial",
        "Syrups",
        "Vinegar cordial",
        "Fruit left in vinegar for two days, strained and sweetened.",
        include_str!("starts/vinegar_cordial.json"),
    ),
    (
        "blank",
        "Blank",
        "Blank",
        "A pitcher and a glass, both empty.",
        include_str!("starts/blank.json"),
    ),
];

/// Drinks to begin from, each one that works as it is.
///
/// # Panics
/// Never: they ship with the program, and a test reads each of them.
#[must_use]
pub fn starting_points() -> Vec<Start> {
    STARTS
        .into_iter()
        .map(|(id, group, name, description, text)| Start {
            id,
            group,
            name,
            description,
            drink: read_drink(text.as_bytes(), Cupboard::builtin())
                .expect("starting points are drinks"),
        })
        .collect()
}

/// The starting point of a lemonade, made sour with another fruit if that is what a taster was asked about.
///
/// # Errors
/// Where that can't take the place of lemon juice.
///
/// # Panics
/// Never: there is such a starting point, and it has lemons.
pub fn lemonade_of(sour: &str, worktop: Worktop<'_>) -> Result<Drink, FieldError> {
    let start = starting_points().into_iter().find(|start| start.id == "lemonade");
    let Start { drink, .. } = start.expect("there is a lemonade to start from");
    let squeezed = drink.steps.iter().find_map(|step| match &step.action {
        Action::Squeeze { ingredient, .. } => Some((step.id.clone(), ingredient.clone())),
        _ => None,
    });
    let (step, lemon) = squeezed.expect("a lemonade has lemons");
    // Acid powder was a stand-in for fruit: its taster gets lemons.
    let fruit = worktop.cupboard().ingredient(sour).is_some_and(|it| it.form == Form::Liquid);
    if !fruit || sour == lemon {
        return Ok(drink);
    }
    swap(&drink, worktop, &step, sour).map(|swapped| swapped.solution.rounded)
}

#[cfg(test)]
mod tests {
    use super::*;
    use keen_core::report::DrinkReport;
    use keen_core::trace::Severity;

    /// The method tells every step once and in order; what goes into one vessel in a row is one sentence, with each of
    /// its amounts.
    #[test]
    fn the_method_joins_what_goes_into_one_vessel() {
        let mut joined = 0;
        for Start { drink, name, .. } in starting_points() {
            let report = DrinkReport::of(&drink, Cupboard::builtin());
            let told: Vec<&String> = report.method.iter().flat_map(|line| &line.steps).collect();
            let steps: Vec<&String> = drink.steps.iter().map(|step| &step.id).collect();
            assert_eq!(told, steps, "{name}");
            for line in report.method.iter().filter(|line| line.steps.len() > 1) {
                joined += 1;
                assert!(
                    line.steps.len() <= 4 && line.sentence.starts_with("Add "),
                    "{}",
                    line.sentence
                );
                assert_eq!(line.sentence.matches(" and ").count(), 1, "{}", line.sentence);
                let alone = report.frames.iter().filter(|frame| line.steps.contains(&frame.step));
                for frame in alone {
                    let amount = frame.sentence.split(' ').nth(1).unwrap();
                    assert!(
                        line.sentence.contains(amount),
                        "{}: {}",
                        frame.sentence,
                        line.sentence
                    );
                }
            }
        }
        assert!(joined >= 5, "{joined}");
    }

    /// Every sentence that the starting points and kept drinks make, as a cook would read it.
    #[test]
    fn every_sentence_reads_as_a_cook_would_say_it() {
        let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/drink-1");
        let kept = std::fs::read_dir(folder).unwrap().map(|file| {
            let text = std::fs::read_to_string(file.unwrap().path()).unwrap();
            read_drink(text.as_bytes(), Cupboard::builtin()).unwrap()
        });
        let drinks = starting_points().into_iter().map(|start| start.drink).chain(kept);
        let mut read = 0;
        for drink in drinks {
            let report = DrinkReport::of(&drink, Cupboard::builtin());
            for frame in &report.frames {
                let more = frame.notices.iter().map(|n| &n.message).chain(&frame.left_over);
                for text in [&frame.sentence].into_iter().chain(more) {
                    for slip in ["for 0 ", "  ", " ,", "..", "NaN", " 1 minutes", " 1 hours"] {
                        assert!(!text.contains(slip), "{}: {text}", drink.name);
                    }
                    let words: Vec<&str> = text.split(' ').collect();
                    let told_apart = |w: &[&str]| w[0] != "the" || w[1] != w[w.len() - 1];
                    let pours = words.windows(5).filter(|w| w[2] == "into" && w[3] == "the");
                    assert!(
                        pours
                            .map(|w| [w[0], w[1], w[4].trim_end_matches('.')])
                            .all(|w| told_apart(&w)),
                        "{}: {text}",
                        drink.name
                    );
                    read += 1;
                }
                // Peel and zest are taken off the fruit, and no fruit is put in for them.
                let peel = (frame.sentence.starts_with("Add")
                    || frame.sentence.starts_with("Pour"))
                    && frame.sentence.contains("lemons")
                    && !frame.sentence.contains(" of ")
                    && !frame.sentence.contains("slices");
                assert!(!peel, "{}: {}", drink.name, frame.sentence);
            }
        }
        assert!(read > 250, "{read}");
    }

    #[test]
    fn each_runs_without_a_complaint_and_tastes_of_its_family() {
        for start in starting_points() {
            let report = DrinkReport::of(&start.drink, Cupboard::builtin());
            for frame in &report.frames {
                let worst = frame.notices.iter().find(|n| n.severity > Severity::Hint);
                assert_eq!(worst, None, "{}: {}", start.id, frame.sentence);
            }
            if start.id == "blank" {
                assert!(report.profile.is_none());
                continue;
            }
            let point = report.map.point.clone().unwrap();
            let typical = report.map.typical;
            assert!(
                (typical.sweetness_from..=typical.sweetness_to).contains(&point.sweetness)
                    && (typical.acidity_from..=typical.acidity_to).contains(&point.acidity),
                "{} lies at {point:?}",
                start.id
            );
        }
    }
}
