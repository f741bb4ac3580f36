//! A step in words.

use super::wording::{
    bottles, coming, cut_as, garnish, look_for, lower_first, pressing, say_minutes, standing, what,
    whole,
};
use crate::chemistry::Component;
use crate::cupboard::{Cupboard, Part};
use crate::drink::{
    Action, CoolingPlace, Dissolving, Dressing, Drink, Maceration, Portion, Preparation, Reduction,
    Step, Stirring, Vigour,
};
use crate::quantity::{Amount, Measure, format_number};
use crate::trace::Trace;

/// What is done, in a sentence.
pub(crate) fn sentence(drink: &Drink, step: &Step, cupboard: &Cupboard) -> String {
    let bare = without_note(drink, step, cupboard);
    match (bare.strip_suffix('.'), step.note.trim()) {
        (Some(front), note) if !note.is_empty() => format!("{front}: {note}."),
        _ => bare,
    }
}

fn without_note(drink: &Drink, step: &Step, cupboard: &Cupboard) -> String {
    let the =
        |id: &str| drink.vessel(id).map_or_else(|| format!("“{id}”"), |v| drink.in_sentence(v));
    let name = |id: &str| {
        cupboard.ingredient(id).map_or_else(|| id.to_owned(), |it| lower_first(&it.name))
    };
    match &step.action {
        Action::Add { into, ingredient, amount, warmth, cut, portions } => {
            let tasting = if *portions > 1 {
                format!(", in {portions} portions, tasting in between")
            } else {
                String::new()
            };
            let into = if drink.glasses_in(into) > 1 { "each glass".to_owned() } else { the(into) };
            let cut = cut_as(*cut);
            let what = what(cupboard, ingredient, amount);
            let what = coming(*warmth, what, &name(ingredient));
            format!("Put {what}{cut} into {into}{tasting}.")
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
            if *minutes < 0.5 {
                return format!("Bring {} to the boil, {lid}.", the(vessel));
            }
            format!("{} for {}, {lid}.", how.replace("{}", &the(vessel)), say_minutes(*minutes))
        }
        Action::Reduce { vessel, to, .. } => {
            let to = match to {
                Reduction::Volume(volume) => format!("{} are left", volume.rounded()),
                Reduction::Brix(brix) => format!("it reads {brix} °Bx"),
                Reduction::BoilingAt(t) => format!("it boils at {t} °C"),
                Reduction::Mark => {
                    return format!(
                        "Boil {} back down to the mark, with the lid off.",
                        the(vessel)
                    );
                }
            };
            format!("Boil {} down until {to}, with the lid off.", the(vessel))
        }
        Action::Lift { from, ingredient, into } => {
            format!("Lift the {} out of {} into {}.", name(ingredient), the(from), the(into))
        }
        Action::Rinse { vessel, ingredient, amount, warmth, through, into, press } => {
            let water = what(cupboard, ingredient, amount);
            let water = coming(*warmth, water, &name(ingredient));
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
                let through = through.as_ref().map_or_else(String::new, |sieve| {
                    format!(" through what is in {}{}", the(sieve), pressing(*press))
                });
                format!(
                    "Rinse {} with {water} and pour that{through} into {}.",
                    the(vessel),
                    the(into)
                )
            }
        }
        Action::Cover { vessel, ingredient, above_mm, warmth } => {
            let above = if *above_mm < 1.0 {
                String::new()
            } else {
                format!(", {above_mm:.0} mm above it")
            };
            let with = coming(*warmth, name(ingredient), &name(ingredient));
            format!("Just cover what is in {} with {with}{above}.", the(vessel))
        }
        Action::Lengthen { vessel, ingredient, parts, warmth } => {
            let parts = format_number(*parts, true);
            let of = if drink.glasses_in(vessel) > 1 {
                "what is in each glass".to_owned()
            } else {
                format!("what is in {}", the(vessel))
            };
            let noun = if parts == "1" { "part" } else { "parts" };
            let with = coming(*warmth, name(ingredient), &name(ingredient));
            format!("To 1 part of {of} pour {parts} {noun} of {with}.")
        }
        Action::Bottle { from, bottle, headspace } => {
            format!(
                "Fill {} into {}, leaving {} empty in each.",
                the(from),
                bottles(drink, bottle),
                headspace.rounded()
            )
        }
        Action::Dress { glass, ingredient, how, amount } => {
            let each = if drink.glasses_in(glass) > 1 { "each glass" } else { "the glass" };
            match (how, amount) {
                (Dressing::Garnish, Some(amount)) => {
                    format!("Garnish {each} with {}.", what(cupboard, ingredient, amount))
                }
                (Dressing::Garnish, None) => {
                    format!("Garnish {each} with {}.", garnish(cupboard, ingredient))
                }
                (Dressing::Rim, Some(amount)) => {
                    format!("Rim {each} with {}.", what(cupboard, ingredient, amount))
                }
                (Dressing::Rim, None) => format!("Rim {each} with {}.", name(ingredient)),
            }
        }
        Action::Stir { vessel, until } => match until {
            Stirring::Mixed => format!("Stir {}.", the(vessel)),
            Stirring::Clear => format!("Stir {} until it is clear.", the(vessel)),
            Stirring::Calm => format!("Stir {} until the bubbling stops.", the(vessel)),
        },
        Action::Mark { vessel } => {
            format!("Mark on {} how high it stands.", the(vessel))
        }
        Action::Heat { vessel, to_c, minutes, lid, until_clear } => {
            let how = if *lid { "with the lid on" } else { "stirring" };
            if *until_clear {
                return format!("Heat {} until it is clear, {how}.", the(vessel));
            }
            let hold = if *minutes >= 0.5 {
                format!(" and keep it there for {}", say_minutes(*minutes))
            } else {
                String::new()
            };
            format!("Heat {} to {to_c} °C{hold}, {how}.", the(vessel))
        }
        Action::Infuse { vessel, minutes, place, covered } => {
            let covered = if *covered { ", covered," } else { "" };
            let time = say_minutes(*minutes);
            if *minutes < 0.5 {
                return format!("Let {} stand a moment.", the(vessel));
            }
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
        Action::TopUp { vessel, ingredient, to, warmth } => {
            let each =
                if drink.glasses_in(vessel) > 1 { "each glass".to_owned() } else { the(vessel) };
            let with = coming(*warmth, name(ingredient), &name(ingredient));
            format!("Top up {each} with {with} to {}.", to.rounded())
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
            // A hand bears about 45 °C.
            let until = match *to_c {
                t if (44.0..=46.0).contains(&t) => " until it can be touched".to_owned(),
                t => format!(" to {t} °C"),
            };
            format!("Cool {}{until}{place}{lid}.", the(vessel))
        }
        Action::Serve { from, glasses, size, .. } => {
            let glasses =
                if *glasses == 1 { "one glass".to_owned() } else { format!("{glasses} glasses") };
            format!("Pour {glasses} of {} from {}.", size.rounded(), the(from))
        }
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
                    "The fruit also has about {grams:.0} g of {} on it: grate it off first, if you \
                     want it. The halves can be kept for a pot.",
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
        Action::Prepare { ingredient, how: Preparation::Peel | Preparation::Chop, .. } => {
            // What paring takes off, of the fruit that is used whole or for its flesh.
            let it = cupboard.ingredient(ingredient).filter(|it| it.part == Part::Flesh)?;
            let size = cupboard.produce_of(it).next()?.usual();
            let used: f64 = trace
                .lines
                .iter()
                .filter(|l| cupboard.ingredients()[l.ingredient].id == it.id)
                .map(|l| l.grams.0)
                .sum();
            let off = used / size.edible - used;
            (off > 0.05 * used && off >= 5.0).then(|| {
                format!(
                    "About {off:.0} g of peel, stones and ends come off; {used:.0} g are used.",
                )
            })
        }
        _ => None,
    }
}
