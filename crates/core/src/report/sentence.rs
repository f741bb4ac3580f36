//! A step in words.

use crate::cupboard::Cupboard;
use crate::drink::{Action, CoolingPlace, Drink, Portion, Press, RestingPlace, Step};
use crate::quantity::Dimension;

pub(super) fn of(drink: &Drink, step: &Step, cupboard: &Cupboard) -> String {
    let the = |id: &str| {
        drink.vessel(id).map_or_else(|| format!("“{id}”"), |v| drink.vessels[v].in_sentence())
    };
    let name = |id: &str| {
        cupboard.ingredient(id).map_or_else(|| id.to_owned(), |it| lower_first(&it.name))
    };
    match &step.action {
        Action::Add { into, ingredient, amount } => {
            format!("Put {} {} into {}.", amount.rounded(), name(ingredient), the(into))
        }
        Action::Squeeze { into, ingredient, amount } => {
            let counted = amount.terms().iter().all(|t| t.measure.dimension() == Dimension::Count);
            if counted {
                format!("Squeeze {} into {}.", amount.rounded(), the(into))
            } else {
                format!("Squeeze {} of {} into {}.", amount.rounded(), name(ingredient), the(into))
            }
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
