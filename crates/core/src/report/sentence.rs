//! A step in words.

use crate::chemistry::Component;
use crate::cupboard::{Cupboard, Ingredient, Kind};
use crate::drink::{
    Action, CoolingPlace, Dissolving, Dressing, Drink, Maceration, Portion, Preparation, Press,
    Reduction, RestingPlace, Step, Vigour,
};
use crate::quantity::{Amount, Measure, Millilitres, Term, format_number};
use crate::trace::Trace;

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
        Action::Add { into, ingredient, amount, portions } => {
            let tasting = if *portions > 1 {
                format!(", in {portions} portions, tasting in between")
            } else {
                String::new()
            };
            let into = if drink.glasses_in(into) > 1 { "each glass".to_owned() } else { the(into) };
            format!("Put {} into {into}{tasting}.", what(cupboard, ingredient, amount))
        }
        Action::Squeeze { into, ingredient, amount, halves_into } => {
            let juice = what(cupboard, ingredient, amount);
            let halves = halves_into
                .as_ref()
                .map_or_else(String::new, |bowl| format!("; keep the halves in {}", the(bowl)));
            let fruit = juice.trim_start_matches("the juice of ");
            format!("Squeeze {fruit} into {}{halves}.", the(into))
        }
        Action::Prepare { ingredient, how, minutes } => {
            let name = whole(cupboard, ingredient).unwrap_or_else(|| name(ingredient));
            let time = minutes.map_or_else(String::new, |m| format!(" for {}", say_minutes(m)));
            match how {
                Preparation::Wash => format!("Wash the {name} under running water{time}."),
                Preparation::Soak => format!("Soak the {name} in cold water{time}, and drain."),
                Preparation::Inspect => {
                    let it = cupboard.ingredient(ingredient);
                    format!("Look over the {name}: {}.", it.map_or("", look_for))
                }
                Preparation::Peel => format!("Peel the {name}{time}."),
                Preparation::Chop => format!("Cut up the {name}{time}."),
                Preparation::Crush => format!("Crush the {name}{time}."),
            }
        }
        Action::Macerate { vessel, minutes, how, place } => match how {
            Maceration::Rubbed => {
                format!(
                    "Rub the sugar in by hand in {} for {}.",
                    the(vessel),
                    say_minutes(*minutes)
                )
            }
            Maceration::Left => format!(
                "Leave {} under the sugar{} for {}.",
                the(vessel),
                standing(*place),
                say_minutes(*minutes)
            ),
        },
        Action::Dissolve { vessel, how } => match how {
            Dissolving::Stirred => {
                format!("Stir {} until nothing is left to dissolve.", the(vessel))
            }
            Dissolving::Microwave => {
                format!("Warm {} in the microwave to 70 °C, and stir.", the(vessel))
            }
        },
        Action::Boil { vessel, minutes, how, lid } => {
            let how = match how {
                Vigour::Gentle => "Keep {} at a bare simmer",
                Vigour::Simmer => "Simmer {}",
                Vigour::Boil => "Boil {}",
            };
            let lid = if *lid { "with the lid on" } else { "with the lid off" };
            format!("{} for {}, {lid}.", how.replace("{}", &the(vessel)), say_minutes(*minutes))
        }
        Action::Reduce { vessel, to, .. } => {
            let to = match to {
                Reduction::Volume(volume) => format!("{} are left", volume.rounded()),
                Reduction::Brix(brix) => format!("it reads {brix} °Bx"),
                Reduction::BoilingAt(t) => format!("it boils at {t} °C"),
            };
            format!("Boil {} down until {to}, with the lid off.", the(vessel))
        }
        Action::Lift { from, ingredient, into } => {
            format!("Lift the {} out of {} into {}.", name(ingredient), the(from), the(into))
        }
        Action::Rinse { vessel, ingredient, amount, into, press } => {
            let water = what(cupboard, ingredient, amount);
            let strains =
                drink.vessel(vessel).is_some_and(|v| drink.vessels[v].kind.strainer().is_some());
            if strains {
                format!(
                    "Pour {water} over what is in {} and on into {}{}.",
                    the(vessel),
                    the(into),
                    pressing(*press)
                )
            } else {
                format!("Rinse {} with {water} and pour that into {}.", the(vessel), the(into))
            }
        }
        Action::Cover { vessel, ingredient, above_mm } => {
            let above = if *above_mm < 1.0 {
                String::new()
            } else {
                format!(", {above_mm:.0} mm above it")
            };
            format!("Just cover what is in {} with {}{above}.", the(vessel), name(ingredient))
        }
        Action::Lengthen { vessel, ingredient, parts } => {
            let parts = format_number(*parts, true);
            let of = if drink.glasses_in(vessel) > 1 {
                "what is in each glass".to_owned()
            } else {
                format!("what is in {}", the(vessel))
            };
            let noun = if parts == "1" { "part" } else { "parts" };
            format!("To 1 part of {of} pour {parts} {noun} of {}.", name(ingredient))
        }
        Action::Bottle { from, bottle, headspace } => {
            format!(
                "Fill {} into {}, leaving {} empty in each.",
                the(from),
                bottles(drink, bottle),
                headspace.rounded()
            )
        }
        Action::Dress { ingredient, how, .. } => match how {
            Dressing::Garnish => format!("Garnish each glass with {}.", name(ingredient)),
            Dressing::Rim => format!("Rim each glass with {}.", name(ingredient)),
        },
        Action::Heat { vessel, to_c, minutes, lid } => {
            let hold = if *minutes > 0.0 {
                format!(" and keep it there for {}", say_minutes(*minutes))
            } else {
                String::new()
            };
            let how = if *lid { "with the lid on" } else { "stirring" };
            format!("Heat {} to {to_c} °C{hold}, {how}.", the(vessel))
        }
        Action::Infuse { vessel, minutes, place, covered } => {
            let covered = if *covered { ", covered," } else { "" };
            let time = say_minutes(*minutes);
            format!("Let {} stand{}{covered} for {time}.", the(vessel), standing(*place))
        }
        Action::Blend { vessel, seconds } => {
            format!("Blend what is in {} for {seconds} seconds.", the(vessel))
        }
        Action::Strain { from, through, into, press } => {
            let press = pressing(*press);
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
            let each =
                if drink.glasses_in(vessel) > 1 { "each glass".to_owned() } else { the(vessel) };
            format!("Top up {each} with {} to {}.", name(ingredient), to.rounded())
        }
        Action::Cool { vessel, to_c, place: CoolingPlace::Freezer, .. } if *to_c < 0.0 => {
            format!("Freeze {} hard at {to_c} °C.", the(vessel))
        }
        Action::Cool { vessel, to_c, place, covered } => {
            let place = match place {
                CoolingPlace::Worktop => " on the worktop",
                CoolingPlace::WaterBath => " in cold water",
                CoolingPlace::Refrigerator => " in the refrigerator",
                CoolingPlace::Freezer => " in the freezer",
            };
            let lid = if *covered { ", covered" } else { "" };
            format!("Cool {} to {to_c} °C{place}{lid}.", the(vessel))
        }
        Action::Serve { from, glasses, size, .. } => {
            let glasses =
                if *glasses == 1 { "one glass".to_owned() } else { format!("{glasses} glasses") };
            format!("Pour {glasses} of {} from {}.", size.rounded(), the(from))
        }
    }
}

/// The fruit that a juice, zest or peel comes from: that is what is washed and peeled.
fn whole(cupboard: &Cupboard, id: &str) -> Option<String> {
    let it = cupboard.ingredient(id)?;
    if !matches!(it.kind, Kind::Juice | Kind::Zest | Kind::Peel) {
        return None;
    }
    Some(cupboard.produce_of(it).next()?.plural.clone())
}

fn standing(place: RestingPlace) -> &'static str {
    match place {
        RestingPlace::Worktop => "",
        RestingPlace::Refrigerator => " in the refrigerator",
    }
}

fn pressing(press: Press) -> &'static str {
    match press {
        Press::Drained => "",
        Press::Pressed => ", pressing with a spoon",
        Press::Wrung => ", wringing it out",
    }
}

fn bottles(drink: &Drink, id: &str) -> String {
    drink.vessel(id).map_or_else(String::new, |v| {
        let vessel = &drink.vessels[v];
        format!("bottles of {}", say_volume(vessel.capacity()))
    })
}

fn say_volume(ml: Millilitres) -> String {
    if ml.0 >= 1000.0 {
        Amount::of(ml.0 / 1000.0, Measure::Litre).rounded().to_string()
    } else {
        Amount::millilitres(ml.0).rounded().to_string()
    }
}

/// What to look for when looking something over.
fn look_for(it: &Ingredient) -> &'static str {
    match it.kind {
        Kind::Herb => "take out black or slimy leaves and insects",
        Kind::Flower => "shake out insects, take off green parts and stalks",
        Kind::Seed | Kind::Grain | Kind::Nut => "take out stones, husks and what smells stale",
        Kind::Spice => "take out dust and stalks; it should still smell when rubbed",
        _ => "take out what is mouldy, split or smells of wine, and cut bruises away",
    }
}

/// What a step leaves over that a cook could use.
pub(super) fn left_over(
    drink: &Drink,
    trace: &Trace,
    step: usize,
    cupboard: &Cupboard,
) -> Option<String> {
    match &drink.steps[step].action {
        Action::Squeeze { ingredient, halves_into: None, .. } => {
            let it = cupboard.ingredient(ingredient)?;
            let line = trace.lines.iter().find(|l| l.step == step)?;
            let zest = cupboard.ingredient(&ingredient.replace("_juice", "_zest"))?;
            let pieces = match line.pieces {
                Some(pieces) => pieces,
                None => cupboard.in_pieces(it, line.grams)?.terms()[0].value,
            };
            let count = Amount::of(pieces.max(0.25), Measure::Piece(String::new()));
            let grams = cupboard.weigh(zest, &count).ok()?.grams.0;
            (grams >= 1.0).then(|| {
                format!(
                    "The fruit also has about {grams:.0} g of {} on it: grate it off first, if you                      want it. The halves can be kept for a pot.",
                    lower_first(&zest.name)
                )
            })
        }
        Action::Strain { through, .. } => {
            let kept = trace.after(step, drink.vessel(through)?)?;
            let solid: f64 = kept.pieces.iter().map(|p| p.inside.mass().0).sum();
            let wet = kept.mass().0;
            (wet > 15.0 && solid + kept.liquid[Component::Insoluble] > 1.0).then(|| {
                let sugar = kept.liquid.sugars().0;
                let tail = if sugar > 3.0 {
                    format!(" and {sugar:.0} g of sugar in it; a second water wins part of it back")
                } else {
                    String::new()
                };
                let wet = if wet < 1000.0 {
                    format!("{wet:.0} g")
                } else {
                    format!("{:.2} kg", wet / 1000.0)
                };
                format!("{wet} stay behind{tail}.")
            })
        }
        _ => None,
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
