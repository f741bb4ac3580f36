//! Tasks in a word or two, for where there is little room.

use crate::drink::{Action, CoolingPlace, Dissolving, Maceration, Preparation, Vigour};

/// What is done, in a word or two.
pub(super) fn label(action: &Action) -> &'static str {
    match action {
        Action::Add { .. } => "add",
        Action::Squeeze { .. } => "squeeze",
        Action::Prepare { how, .. } => match how {
            Preparation::Wash => "wash",
            Preparation::Soak => "soak",
            Preparation::Inspect => "pick over",
            Preparation::Peel => "peel",
            Preparation::Chop => "cut up",
            Preparation::Crush => "crush",
        },
        Action::Macerate { how: Maceration::Rubbed, .. } => "rub",
        Action::Macerate { .. } => "leave under sugar",
        Action::Dissolve { how: Dissolving::Microwave, .. } => "warm",
        Action::Dissolve { .. } | Action::Stir { .. } => "stir",
        Action::Mark { .. } => "mark",
        Action::Boil { how: Vigour::Boil, .. } => "boil",
        Action::Boil { .. } => "simmer",
        Action::Reduce { .. } => "boil down",
        Action::Lift { .. } => "lift out",
        Action::Rinse { .. } => "rinse",
        Action::Cover { .. } => "cover",
        Action::Lengthen { .. } => "dilute",
        Action::Bottle { .. } => "bottle",
        Action::Dress { .. } => "garnish",
        Action::Heat { .. } => "heat",
        Action::Infuse { .. } => "steep",
        Action::Blend { .. } => "blend",
        Action::Strain { .. } => "strain",
        Action::Pour { .. } => "pour",
        Action::TopUp { .. } => "top up",
        Action::Cool { place: CoolingPlace::Freezer, .. } => "freeze",
        Action::Cool { place: CoolingPlace::Refrigerator, .. } => "chill",
        Action::Cool { .. } => "cool",
        Action::Serve { .. } => "pour out",
    }
}

/// How much a label tells of what is done: of several things done in a row the most telling are named.
pub(super) fn tells(label: &str) -> u8 {
    match label {
        "add" | "pour" | "mark" | "stir" | "top up" | "lift out" | "cover" => 0,
        "wash" | "pick over" | "rinse" | "garnish" => 1,
        "strain" | "cool" | "chill" | "squeeze" | "dilute" => 2,
        _ => 3,
    }
}
