//! Things in words: amounts as they are said, what is cut and warmed, garnishes, times.

use crate::cupboard::{Cupboard, Ingredient, Kind, Part};
use crate::drink::{Drink, Press, RestingPlace, Warmth};
use crate::quantity::{Amount, Measure, Millilitres, Term, Units, spell_in_spoons};
use crate::scale;

/// Something by how warm it comes: "boiling water", "500 ml boiling water".
pub(super) fn coming(warmth: Warmth, said: String, name: &str) -> String {
    let word = match warmth {
        Warmth::Usual => return said,
        Warmth::Boiling => "boiling",
        Warmth::Hot => "hot",
        Warmth::Tap => "cold",
        Warmth::Chilled => "chilled",
        Warmth::Frozen => "frozen",
    };
    match said.rsplit_once(name) {
        Some((before, after)) => format!("{before}{word} {name}{after}"),
        None => format!("{word} {said}"),
    }
}

/// What is usually hung on a glass: a sprig, a slice.
pub(super) fn garnish(cupboard: &Cupboard, id: &str) -> String {
    let Some(it) = cupboard.ingredient(id) else { return id.to_owned() };
    let name = lower_first(&it.name);
    let of_piece = |part: &str| {
        let produce = cupboard.produce_of(it).find(|p| p.sizes.iter().any(|s| s.name == part))?;
        Some(format!("a {part} of {}", produce.name.to_lowercase()))
    };
    match it.kind {
        Kind::Herb => of_piece("sprig").unwrap_or_else(|| format!("a sprig of {name}")),
        Kind::Flower => of_piece("head").unwrap_or_else(|| format!("a flower of {name}")),
        Kind::Peel => format!("a strip of {name}"),
        Kind::Zest => format!("some {name}"),
        Kind::Fruit | Kind::Vegetable => match cupboard.produce_of(it).next() {
            // What is larger than a mouthful is sliced.
            Some(produce) if produce.usual().whole.0 > 25.0 => {
                format!("a slice of {}", produce.name.to_lowercase())
            }
            Some(produce) => with_article(&produce.name.to_lowercase()),
            None => format!("some {name}"),
        },
        Kind::Spice => match cupboard.produce_of(it).next() {
            Some(produce) => with_article(&produce.noun(1.0).to_lowercase()),
            None => format!("a pinch of {name}"),
        },
        _ => name,
    }
}

pub(super) fn with_article(noun: &str) -> String {
    let vowel = noun.starts_with(['a', 'e', 'i', 'o', 'u']);
    format!("{} {noun}", if vowel { "an" } else { "a" })
}

/// The fruit that a juice, zest or peel comes from, or that goes in whole: that is what is washed and peeled.
pub(super) fn whole(cupboard: &Cupboard, id: &str) -> Option<String> {
    let it = cupboard.ingredient(id)?;
    if it.part == Part::Flesh {
        return None;
    }
    Some(cupboard.produce_of(it).next()?.plural.clone())
}

pub(super) fn standing(place: RestingPlace) -> &'static str {
    match place {
        RestingPlace::Worktop => "",
        RestingPlace::Refrigerator => " in the refrigerator",
    }
}

pub(super) fn pressing(press: Press) -> &'static str {
    match press {
        Press::Drained => "",
        Press::Pressed => ", pressing with a spoon",
        Press::Wrung => ", wringing it out",
    }
}

pub(super) fn bottles(drink: &Drink, id: &str) -> String {
    drink.vessel(id).map_or_else(String::new, |v| {
        let vessel = &drink.vessels[v];
        format!("{} bottles", say_volume(vessel.capacity()))
    })
}

pub(super) fn say_volume(ml: Millilitres) -> String {
    if ml.0 >= 1000.0 {
        Amount::of(ml.0 / 1000.0, Measure::Litre).rounded().to_string()
    } else {
        Amount::millilitres(ml.0).rounded().to_string()
    }
}

/// What to look for when picking something over.
pub(super) fn look_for(it: &Ingredient) -> &'static str {
    match it.kind {
        Kind::Herb => "discard black or slimy leaves and insects",
        Kind::Flower => "shake out insects, and discard green parts and stalks",
        Kind::Seed | Kind::Grain | Kind::Nut => {
            "discard stones, husks and anything that smells stale"
        }
        Kind::Spice => "discard dust and stalks; it should still smell when rubbed",
        _ => "discard any that are mouldy, split or smell of wine, and cut bruises away",
    }
}

/// An amount of something as it is said: "190 g white sugar", "the zest of 4 lemons", "4 sprigs of
/// mint", "3 fresh bay leaves".
pub(super) fn what(cupboard: &Cupboard, id: &str, amount: &Amount) -> String {
    let Some(it) = cupboard.ingredient(id) else { return format!("{} {id}", amount.rounded()) };
    let amount = &in_units(cupboard, it, amount);
    let said = amount.rounded().to_string();
    let [Term { value, measure: Measure::Piece(words) }] = amount.terms() else {
        return format!("{said} {}", lower_first(&it.name));
    };
    let Some((produce, _)) = cupboard.piece(it, words) else {
        return format!("{said} of {}", lower_first(&it.name));
    };
    let pieces = if words.is_empty() { format!("{said} {}", produce.noun(*value)) } else { said };
    match it.part {
        Part::Zest => format!("the zest of {pieces}"),
        Part::Peel => format!("the peel of {pieces}"),
        Part::Squeezed => format!("the squeezed halves of {pieces}"),
        Part::Juice => format!("the juice of {pieces}"),
        Part::Whole if it.name.contains("slice") && !pieces.contains("slice") => {
            format!("{pieces}, sliced,")
        }
        _ => {
            let name = produce.name.to_lowercase();
            let (front, last) = name.rsplit_once(' ').unwrap_or(("", &name));
            let says = |word: &str| pieces.to_lowercase().contains(&word[..word.len().min(3)]);
            match pieces.rsplit_once(' ') {
                _ if !front.is_empty() && says(front) => pieces,
                Some((before, noun)) if !front.is_empty() && says(last) => {
                    format!("{before} {front} {noun}")
                }
                _ if says(last) => pieces,
                _ => format!("{pieces} of {name}"),
            }
        }
    }
}

/// An amount in the units in which the kitchen is spoken to. What is counted, and what is left open, stays so.
fn in_units(cupboard: &Cupboard, it: &Ingredient, amount: &Amount) -> Amount {
    let units = cupboard.saying().units;
    let counted = matches!(amount.terms(), [Term { measure: Measure::Piece(_), .. }]);
    let metric =
        |t: &Term| is_metric(&t.measure) || matches!(t.measure, Measure::Gram | Measure::Kilogram);
    let is_so = units == Units::Metric && amount.terms().iter().all(metric);
    if units == Units::AsWritten || is_so || counted || amount.spread().is_some() {
        return amount.clone();
    }
    match cupboard.weigh(it, amount) {
        Ok(weighed) if weighed.grams.0 > 0.0 => {
            scale::measure(cupboard, it, amount, weighed.grams, units).amount
        }
        _ => amount.clone(),
    }
}

/// A volume in the units in which the kitchen is spoken to.
pub(super) fn volume_in(cupboard: &Cupboard, volume: &Amount) -> String {
    let in_cups = |a: &Amount| a.terms().iter().all(|t| !is_metric(&t.measure));
    match (cupboard.saying().units, volume.as_millilitres()) {
        (Units::Us, Some(ml)) if !in_cups(volume) => spell_in_spoons(ml).to_string(),
        (Units::Metric, Some(ml)) if in_cups(volume) => say_volume(Millilitres(ml)),
        _ => volume.rounded().to_string(),
    }
}

fn is_metric(measure: &Measure) -> bool {
    matches!(
        measure,
        Measure::Millilitre | Measure::Centilitre | Measure::Decilitre | Measure::Litre
    )
}

pub(super) fn lower_first(name: &str) -> String {
    let mut letters = name.chars();
    letters.next().map_or_else(String::new, |c| c.to_lowercase().chain(letters).collect())
}

pub(super) fn say_minutes(minutes: f64) -> String {
    let whole = minutes.round();
    match whole as u64 {
        1 => "1 minute".to_owned(),
        m if m < 120 => format!("{m} minutes"),
        m if m % 60 == 0 => format!("{} hours", m / 60),
        m => format!("{} h {} min", m / 60, m % 60),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn cupboard() -> &'static Cupboard {
        Cupboard::builtin()
    }

    #[test]
    fn amounts_are_said_by_what_is_taken_of_the_thing() {
        for (id, amount, said) in [
            ("lemon_juice", "6 lemons", "the juice of 6 lemons"),
            ("lemon_juice", "250 ml", "250 ml lemon juice"),
            ("lemon_zest", "3 lemons", "the zest of 3 lemons"),
            ("lemon_peel", "6 lemons", "the peel of 6 lemons"),
            ("lemon_halves", "4 lemons", "the squeezed halves of 4 lemons"),
            ("lime_whole", "4 limes", "4 limes"),
            ("lemon_slices", "2 lemons", "2 lemons, sliced,"),
            ("lemon_slices", "4 slices", "4 slices of lemon"),
            ("mint", "1 bunch", "1 bunch of mint"),
            ("ginger_root", "2 inches of ginger", "2 inches of ginger"),
            ("condensed_milk_sweet", "1 can", "1 can of condensed milk"),
            ("bay_leaf", "3 fresh leaves", "3 fresh bay leaves"),
            ("ice", "3 cubes", "3 ice cubes"),
            ("white_sugar", "1 to 3 tbsp", "1 to 3 tbsp white sugar"),
        ] {
            assert_eq!(what(cupboard(), id, &amount.parse().unwrap()), said, "{id}");
        }
    }

    #[test]
    fn amounts_are_said_in_the_units_that_a_kitchen_wants() {
        let spoken = |units| {
            let saying = crate::quantity::Saying { units, ..Default::default() };
            Cupboard::builtin().clone().said_in(saying)
        };
        let (us, metric) = (spoken(Units::Us), spoken(Units::Metric));
        for (id, amount, in_us, in_metric) in [
            ("white_sugar", "200 g", "1 cup white sugar", "200 g white sugar"),
            ("water", "475 ml", "2 cups water", "475 ml water"),
            ("water", "12 l", "3 gallons + 2 3/4 cups water", "12 l water"),
            ("white_sugar", "1 cup", "1 cup white sugar", "200 g white sugar"),
            ("lemon_juice", "6 lemons", "the juice of 6 lemons", "the juice of 6 lemons"),
        ] {
            let said = |cupboard| what(cupboard, id, &amount.parse().unwrap());
            assert!(said(&us).starts_with(in_us), "{amount}: {}", said(&us));
            assert!(said(&metric).starts_with(in_metric), "{}", said(&metric));
        }
        let line = |cupboard, text: &str| volume_in(cupboard, &text.parse().unwrap());
        assert_eq!(line(&us, "2 l"), "2 quarts + 1/2 cup");
        assert_eq!(line(&metric, "2 cups"), "475 ml");
        assert_eq!(line(cupboard(), "2 cups"), "2 cups");
    }

    #[test]
    fn warmth_stands_before_the_thing_and_not_before_its_amount() {
        let water = |warmth| coming(warmth, "1 l water".into(), "water");
        assert_eq!(water(Warmth::Usual), "1 l water");
        assert_eq!(water(Warmth::Boiling), "1 l boiling water");
        assert_eq!(water(Warmth::Tap), "1 l cold water");
        assert_eq!(coming(Warmth::Frozen, "6 limes".into(), "whole lime"), "frozen 6 limes");
    }

    #[test]
    fn garnishes_are_named_as_a_cook_would() {
        for (id, said) in [
            ("mint", "a sprig of mint"),
            ("lemon_whole_flesh", "a slice of lemon"),
            ("strawberry", "a strawberry"),
            ("cinnamon_stick", "a cinnamon stick"),
            ("orange_peel", "a strip of orange peel"),
            ("cherries_in_syrup", "a cherry"),
            ("apple", "a slice of apple"),
        ] {
            let found = garnish(cupboard(), id);
            assert!(found.starts_with(said), "{id}: {found}");
        }
        assert_eq!(with_article("orange"), "an orange");
    }

    #[test]
    fn times_are_said_in_minutes_and_hours() {
        let said = [0.6, 1.0, 12.4, 119.0, 120.0, 150.0].map(say_minutes);
        assert_eq!(
            said,
            ["1 minute", "1 minute", "12 minutes", "119 minutes", "2 hours", "2 h 30 min"]
        );
    }

    #[test]
    fn what_is_washed_and_peeled_is_the_fruit() {
        assert_eq!(whole(cupboard(), "lemon_zest").as_deref(), Some("lemons"));
        assert_eq!(whole(cupboard(), "lime_whole").as_deref(), Some("limes"));
        assert_eq!(whole(cupboard(), "cantaloupe"), None);
    }
}
