//! A step in words.

use crate::cupboard::{Cupboard, Kind};
use crate::drink::{Action, CoolingPlace, Drink, Portion, Press, RestingPlace, Step};
use crate::quantity::{Amount, Measure, Term};

pub(super) fn of(drink: &Drink, step: &Step, cupboard: &Cupboard) -> String {
    let bare = without_note(drink, step, cupboard);
    match (bare.strip_suffix('.'), step.note.trim()) {
        (Some(front), note) if !note.is_empty() => format!("{front}: {note}."),
        _ => bare,
    }
}

fn without_note(drink: &Drink, step: &Step, cupboard: &Cupboard) -> String {
    let the = |id: &str| {
        drink.vessel(id).map_or_else(|| format!("“{id}”"), |v| drink.vessels[v].in_sentence())
    };
    let name = |id: &str| {
        cupboard.ingredient(id).map_or_else(|| id.to_owned(), |it| lower_first(&it.name))
    };
    match &step.action {
        Action::Add { into, ingredient, amount } => {
            format!("Put {} into {}.", what(cupboard, ingredient, amount), the(into))
        }
        Action::Squeeze { into, ingredient, amount } => {
            let juice = what(cupboard, ingredient, amount);
            format!("Squeeze {} into {}.", juice.trim_start_matches("the juice of "), the(into))
        }
        Action::Heat { vessel, to_c, minutes, lid } => {
            let hold = if *minutes > 0.0 {
                format!(" and keep it there for {}", say_minutes(*minutes))
            } else {
                String::new()
            };
            let lid = if *lid { ", with the lid on" } else { "" };
            format!("Heat {} to {to_c} °C{hold}, stirring{lid}.", the(vessel))
        }
        Action::Infuse { vessel, minutes, place } => {
            let place = match place {
                RestingPlace::Worktop => "",
                RestingPlace::Refrigerator => " in the refrigerator",
            };
            format!("Let {} stand{place} for {}.", the(vessel), say_minutes(*minutes))
        }
        Action::Blend { vessel, seconds } => {
            format!("Blend what is in {} for {seconds} seconds.", the(vessel))
        }
        Action::Strain { from, through, into, press } => {
            let press = match press {
                Press::Drained => "",
                Press::Pressed => ", pressing with a spoon",
                Press::Wrung => ", wringing it out",
            };
            format!("Strain {} through {} into {}{press}.", the(from), the(through), the(into))
        }
        Action::Pour { from, into, portion } => match portion {
            Portion::All => format!("Pour {} into {}.", the(from), the(into)),
            Portion::Share(share) => {
                format!("Pour {:.0} % of {} into {}.", share * 100.0, the(from), the(into))
            }
            Portion::Volume(volume) => {
                format!("Pour {} from {} into {}.", volume.rounded(), the(from), the(into))
            }
        },
        Action::TopUp { vessel, ingredient, to } => {
            format!("Top up {} with {} to {}.", the(vessel), name(ingredient), to.rounded())
        }
        Action::Cool { vessel, to_c, place } => {
            let place = match place {
                CoolingPlace::Worktop => " on the worktop",
                CoolingPlace::WaterBath => " in cold water",
                CoolingPlace::Refrigerator => " in the refrigerator",
            };
            format!("Cool {} to {to_c} °C{place}.", the(vessel))
        }
        Action::Serve { from, glasses, size, .. } => {
            let glasses =
                if *glasses == 1 { "one glass".to_owned() } else { format!("{glasses} glasses") };
            format!("Pour {glasses} of {} from {}.", size.rounded(), the(from))
        }
    }
}

/// An amount of something as it is said: "190 g white sugar", "the zest of 4 lemons", "4 sprigs of
/// mint", "3 fresh bay leaves".
fn what(cupboard: &Cupboard, id: &str, amount: &Amount) -> String {
    let said = amount.rounded().to_string();
    let Some(it) = cupboard.ingredient(id) else { return format!("{said} {id}") };
    let [Term { value, measure: Measure::Piece(words) }] = amount.terms() else {
        return format!("{said} {}", lower_first(&it.name));
    };
    let Some((produce, _)) = cupboard.piece(it, words) else {
        return format!("{said} {}", it.name);
    };
    let pieces = if words.is_empty() { format!("{said} {}", produce.noun(*value)) } else { said };
    match it.kind {
        Kind::Zest => format!("the zest of {pieces}"),
        Kind::Juice => format!("the juice of {pieces}"),
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

fn lower_first(name: &str) -> String {
    let mut letters = name.chars();
    letters.next().map_or_else(String::new, |c| c.to_lowercase().chain(letters).collect())
}

fn say_minutes(minutes: f64) -> String {
    let whole = minutes.round();
    match whole as u64 {
        1 => "1 minute".to_owned(),
        m if m < 120 => format!("{m} minutes"),
        m if m % 60 == 0 => format!("{} hours", m / 60),
        m => format!("{} h {} min", m / 60, m % 60),
    }
}
