//! Things in words: amounts as they are said, what is cut and warmed, garnishes, times.

use crate::cupboard::{Cupboard, Ingredient, Kind, Part};
use crate::drink::{Cut, Drink, Press, RestingPlace, Warmth};
use crate::quantity::{Amount, Measure, Millilitres, Term};

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

pub(super) fn cut_as(cut: Cut) -> &'static str {
    match cut {
        Cut::Usual => "",
        Cut::Whole => ", whole,",
        Cut::Sliced => ", sliced,",
        Cut::Chopped => ", chopped,",
        Cut::Grated => ", grated,",
        Cut::Bruised => ", bruised,",
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
        format!("bottles of {}", say_volume(vessel.capacity()))
    })
}

pub(super) fn say_volume(ml: Millilitres) -> String {
    if ml.0 >= 1000.0 {
        Amount::of(ml.0 / 1000.0, Measure::Litre).rounded().to_string()
    } else {
        Amount::millilitres(ml.0).rounded().to_string()
    }
}

/// What to look for when looking something over.
pub(super) fn look_for(it: &Ingredient) -> &'static str {
    match it.kind {
        Kind::Herb => "take out black or slimy leaves and insects",
        Kind::Flower => "shake out insects, take off green parts and stalks",
        Kind::Seed | Kind::Grain | Kind::Nut => "take out stones, husks and what smells stale",
        Kind::Spice => "take out dust and stalks; it should still smell when rubbed",
        _ => "take out what is mouldy, split or smells of wine, and cut bruises away",
    }
}

/// An amount of something as it is said: "190 g white sugar", "the zest of 4 lemons", "4 sprigs of
/// mint", "3 fresh bay leaves".
pub(super) fn what(cupboard: &Cupboard, id: &str, amount: &Amount) -> String {
    let said = amount.rounded().to_string();
    let Some(it) = cupboard.ingredient(id) else { return format!("{said} {id}") };
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
