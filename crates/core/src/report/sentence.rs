//! A step in words.

use super::wording::{
    bottles, coming, garnish, look_for, lower_first, pressing, say_minutes, standing, volume_in,
    what, whole,
};
use crate::chemistry::Component;
use crate::cupboard::{Cupboard, Form, Ingredient, Part, VesselKind};
use crate::drink::{
    Action, CoolingPlace, Cut, Dissolving, Dressing, Drink, Maceration, Portion, Preparation,
    Reduction, Step, Stirring, Vigour,
};
use crate::quantity::{Amount, Measure, format_number};
use crate::trace::Trace;

/// What is done, in a sentence, as a cookbook says it.
pub(crate) fn sentence(drink: &Drink, step: &Step, cupboard: &Cupboard) -> String {
    let note = step.note.trim().trim_end_matches('.');
    if let (Action::Add { into, .. }, "off the heat") = (&step.action, note) {
        let said = without_note(drink, step, cupboard, None);
        let add = lower_first(said.trim_end_matches('.'));
        let pot = drink.vessel(into).map_or_else(|| into.clone(), |v| drink.in_sentence(v));
        let there = [format!(" to {pot}"), format!(" into {pot}")];
        let add = there.iter().find_map(|end| add.strip_suffix(end.as_str())).unwrap_or(&add);
        return format!("Take {pot} off the heat and {add}.");
    }
    // "Torn", "grated": that is how it is put in, and the cook's verb.
    let (manner, rest) = match note.split_once(", ") {
        Some((first, rest)) if Manner::of(first).is_some() => (Manner::of(first), rest),
        None if Manner::of(note).is_some() => (Manner::of(note), ""),
        _ => (None, note),
    };
    let bare = without_note(drink, step, cupboard, manner);
    let front = bare.trim_end_matches('.');
    match rest.chars().next() {
        None => bare,
        Some(first) if first.is_uppercase() => format!("{front}. {rest}."),
        Some(_) => format!("{front}, {rest}."),
    }
}

/// The vessel above which a step is told: the strainer that is strained through, else the one that it ends in.
pub(crate) fn told_at(action: &Action) -> Option<&str> {
    match action {
        Action::Strain { through, .. } => Some(through),
        _ => action.path().last().copied(),
    }
}

/// The sentence as it is told above its vessel, which then needn't be named: "Heat to 95 °C", "Pour in 450 ml water".
pub(super) fn at_its_vessel(drink: &Drink, step: &Step, cupboard: &Cupboard) -> String {
    let whole = sentence(drink, step, cupboard);
    let Some(vessel) = told_at(&step.action).and_then(|id| drink.vessel(id)) else { return whole };
    let the = drink.in_sentence(vessel);
    if let Action::Pour { from, portion: Portion::All, .. } = &step.action
        && let Some(from) = drink.vessel(from)
    {
        return format!("Pour in from {}.", drink.in_sentence(from));
    }
    let into = format!(" into {the}");
    if let (Some(poured), true) = (whole.strip_prefix("Pour "), whole.contains(&into)) {
        return format!("Pour in {}", poured.replacen(&into, "", 1));
    }
    let ends = [" the contents of ", " through ", " into ", " to ", " in ", " on ", " "];
    let named = ends.iter().map(|word| format!("{word}{the}"));
    match named.into_iter().find(|named| whole.contains(named.as_str())) {
        Some(named) => whole.replacen(&named, "", 1),
        None => whole,
    }
}

/// What is done to an ingredient while it is put in.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Manner {
    Torn,
    Grated,
    Sliced,
    Chopped,
    Crushed,
    Bruised,
    Crumbled,
    InStrips,
    Whole,
}

impl Manner {
    fn of(note: &str) -> Option<Self> {
        Some(match note {
            "torn" => Self::Torn,
            "grated" => Self::Grated,
            "sliced" => Self::Sliced,
            "chopped" => Self::Chopped,
            "crushed" => Self::Crushed,
            "bruised" => Self::Bruised,
            "crumbled" => Self::Crumbled,
            "in strips" => Self::InStrips,
            "whole" => Self::Whole,
            _ => return None,
        })
    }

    fn by(cut: Cut) -> Option<Self> {
        Some(match cut {
            Cut::Usual => return None,
            Cut::Whole => Self::Whole,
            Cut::Sliced => Self::Sliced,
            Cut::Chopped => Self::Chopped,
            Cut::Grated => Self::Grated,
            Cut::Bruised => Self::Bruised,
        })
    }

    /// The verb by which it goes in, where there is one: whole things are only added.
    fn verb(self) -> Option<&'static str> {
        Some(match self {
            Self::Torn => "Tear",
            Self::Grated => "Grate",
            Self::Sliced => "Slice",
            Self::Chopped => "Chop",
            Self::Crushed => "Crush",
            Self::Bruised => "Bruise",
            Self::Crumbled => "Crumble",
            Self::InStrips => "Pare",
            Self::Whole => return None,
        })
    }
}

/// "Grate the zest of 4 lemons into the bowl", "Pour 450 ml cold water into the jug", "Add 190 g white sugar to the bowl".
fn added(it: Option<&Ingredient>, what: &str, place: &str, manner: Option<Manner>) -> String {
    if manner == Some(Manner::Whole) {
        return format!("Add {what}, whole, to {place}");
    }
    if manner == Some(Manner::Bruised) {
        return format!("Bruise {what} and add to {place}");
    }
    if manner == Some(Manner::InStrips) {
        return format!("Pare {what} in strips into {place}");
    }
    if let Some(verb) = manner.and_then(Manner::verb) {
        return format!("{verb} {what} into {place}");
    }
    match it {
        Some(it) if it.part == Part::Zest => format!("Grate {what} into {place}"),
        Some(it) if it.part == Part::Peel => format!("Pare {what} into {place}"),
        Some(it) if it.form == Form::Liquid => format!("Pour {what} into {place}"),
        _ => format!("Add {what} to {place}"),
    }
}

fn without_note(drink: &Drink, step: &Step, cupboard: &Cupboard, manner: Option<Manner>) -> String {
    let the =
        |id: &str| drink.vessel(id).map_or_else(|| format!("“{id}”"), |v| drink.in_sentence(v));
    let name = |id: &str| {
        cupboard.ingredient(id).map_or_else(|| id.to_owned(), |it| lower_first(&it.name))
    };
    let degrees = cupboard.saying().degrees;
    let lid = |on: bool| if on { "covered" } else { "uncovered" };
    match &step.action {
        Action::Add { into, ingredient, amount, warmth, cut, portions } => {
            let tasting = if *portions > 1 {
                format!(" in {portions} portions, tasting each time")
            } else {
                String::new()
            };
            let place =
                if drink.glasses_in(into) > 1 { "each glass".to_owned() } else { the(into) };
            let what = what(cupboard, ingredient, amount);
            let what = coming(*warmth, what, &name(ingredient));
            let it = cupboard.ingredient(ingredient);
            let said = added(it, &what, &place, Manner::by(*cut).or(manner));
            format!("{said}{tasting}.")
        }
        Action::Squeeze { into, ingredient, amount, halves_into } => {
            let juice = what(cupboard, ingredient, amount);
            let halves = halves_into
                .as_ref()
                .map_or_else(String::new, |bowl| format!(", and keep the halves in {}", the(bowl)));
            let fruit = juice.trim_start_matches("the juice of ");
            format!("Squeeze {fruit} into {}{halves}.", the(into))
        }
        Action::Prepare { ingredient, how, minutes } => {
            let name = whole(cupboard, ingredient).unwrap_or_else(|| name(ingredient));
            let time = minutes.map_or_else(String::new, |m| format!(" for {}", say_minutes(m)));
            match how {
                Preparation::Wash => format!("Wash the {name}{time}."),
                Preparation::Soak => format!("Soak the {name} in cold water{time}, then drain."),
                Preparation::Inspect => {
                    let it = cupboard.ingredient(ingredient);
                    format!("Pick over the {name}: {}.", it.map_or("", look_for))
                }
                Preparation::Peel => format!("Peel the {name}{time}."),
                Preparation::Chop => format!("Chop the {name}{time}."),
                Preparation::Crush => format!("Crush the {name}{time}."),
            }
        }
        Action::Macerate { vessel, minutes, how, place } => match how {
            Maceration::Rubbed => format!(
                "Rub the sugar in with your fingers in {} for {}.",
                the(vessel),
                say_minutes(*minutes)
            ),
            Maceration::Left => format!(
                "Press everything in {} down into the sugar, cover and leave{} for {}.",
                the(vessel),
                standing(*place),
                say_minutes(*minutes)
            ),
        },
        Action::Dissolve { vessel, how } => match how {
            Dissolving::Stirred => format!("Stir {} until everything has dissolved.", the(vessel)),
            Dissolving::Microwave => {
                format!(
                    "Warm {} in the microwave to {}, then stir.",
                    the(vessel),
                    degrees.say(70.0)
                )
            }
        },
        Action::Boil { vessel, minutes, how, lid: on } => {
            if *minutes < 0.5 {
                return format!("Bring {} to the boil, {}.", the(vessel), lid(*on));
            }
            let (verb, gently) = match how {
                Vigour::Gentle => ("Simmer", " very gently"),
                Vigour::Simmer => ("Simmer", ""),
                Vigour::Boil => ("Boil", ""),
            };
            let time = say_minutes(*minutes);
            format!("{verb} {}{gently}, {}, for {time}.", the(vessel), lid(*on))
        }
        Action::Reduce { vessel, to, .. } => {
            let to = match to {
                Reduction::Volume(volume) => format!("to {}", volume_in(cupboard, volume)),
                Reduction::Brix(brix) => format!("until it reads {brix} °Bx"),
                Reduction::BoilingAt(t) => format!("until it boils at {}", degrees.say(*t)),
                Reduction::Mark => "to the mark".to_owned(),
            };
            format!("Boil {} down, uncovered, {to}.", the(vessel))
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
                    "Pour another {water} through the pulp in {} into {}{}.",
                    the(vessel),
                    the(into),
                    pressing(*press)
                )
            } else {
                let through = through.as_ref().map_or_else(String::new, |sieve| {
                    format!(" through the pulp in {}", the(sieve))
                });
                format!(
                    "Rinse {} with {water} and pour it{through} into {}{}.",
                    the(vessel),
                    the(into),
                    pressing(*press)
                )
            }
        }
        Action::Cover { vessel, ingredient, above_mm, warmth } => {
            let above = if *above_mm < 1.0 {
                "just cover".to_owned()
            } else {
                format!("cover by {above_mm:.0} mm")
            };
            let with = coming(*warmth, name(ingredient), &name(ingredient));
            format!("Add {with} to {} to {above}.", the(vessel))
        }
        Action::Lengthen { vessel, ingredient, parts, warmth } => {
            let parts = format_number(*parts, true);
            let noun = if parts == "1" { "part" } else { "parts" };
            let with = coming(*warmth, name(ingredient), &name(ingredient));
            if drink.glasses_in(vessel) > 1 {
                format!("Top up each glass with {with}: {parts} {noun} to 1 part of the drink.")
            } else {
                format!("Dilute {} with {with}: {parts} {noun} to 1 part.", the(vessel))
            }
        }
        Action::Bottle { from, bottle, headspace } => {
            format!(
                "Pour {} into {}, leaving {} headspace.",
                the(from),
                bottles(drink, bottle),
                volume_in(cupboard, headspace)
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
            Stirring::Clear => format!("Stir {} until clear.", the(vessel)),
            Stirring::Calm => format!("Stir {} until it stops fizzing.", the(vessel)),
        },
        Action::Mark { vessel } => format!("Mark the level on {}.", the(vessel)),
        Action::Heat { vessel, to_c, minutes, lid: on, until_clear } => {
            let how = if *on { "covered" } else { "stirring" };
            if *until_clear {
                return format!("Heat {} until clear, {how}.", the(vessel));
            }
            let hold = if *minutes >= 0.5 {
                format!(" and hold it there for {}", say_minutes(*minutes))
            } else {
                String::new()
            };
            format!("Heat {} to {}{hold}, {how}.", the(vessel), degrees.say(*to_c))
        }
        Action::Infuse { vessel, minutes, place, covered } => {
            let covered = if *covered { ", covered" } else { "" };
            if *minutes < 0.5 {
                return format!("Leave {} for a moment.", the(vessel));
            }
            let time = say_minutes(*minutes);
            format!("Leave {}{} for {time}{covered}.", the(vessel), standing(*place))
        }
        Action::Blend { vessel, seconds } => {
            let place = the(vessel);
            let blender =
                drink.vessel(vessel).is_some_and(|v| drink.vessels[v].kind == VesselKind::Blender);
            if blender {
                format!("Blend for {seconds} seconds.")
            } else {
                format!("Blend the contents of {place} for {seconds} seconds.")
            }
        }
        Action::Strain { from, through, into, press } => {
            let press = pressing(*press);
            format!("Strain {} through {} into {}{press}.", the(from), the(through), the(into))
        }
        Action::Pour { from, into, portion } => match portion {
            Portion::All => format!("Pour {} into {}.", the(from), the(into)),
            Portion::Share(share) if (share - 0.5).abs() < 1e-9 => {
                format!("Pour half of {} into {}.", the(from), the(into))
            }
            Portion::Share(share) => {
                format!("Pour {:.0} % of {} into {}.", share * 100.0, the(from), the(into))
            }
            Portion::Volume(volume) => {
                format!(
                    "Pour {} from {} into {}.",
                    volume_in(cupboard, volume),
                    the(from),
                    the(into)
                )
            }
        },
        Action::TopUp { vessel, ingredient, to, warmth } => {
            let each =
                if drink.glasses_in(vessel) > 1 { "each glass".to_owned() } else { the(vessel) };
            let with = coming(*warmth, name(ingredient), &name(ingredient));
            format!("Top up {each} with {with} to {}.", volume_in(cupboard, to))
        }
        Action::Cool { vessel, to_c, place: CoolingPlace::Freezer, .. } if *to_c < 0.0 => {
            format!("Freeze {} until hard ({}).", the(vessel), degrees.say(*to_c))
        }
        Action::Cool { vessel, to_c, place, covered } => {
            let lid = if *covered { ", covered" } else { "" };
            // A hand bears about 45 °C.
            let until = match *to_c {
                t if (44.0..=46.0).contains(&t) => "until cool enough to touch".to_owned(),
                t => format!("to {}", degrees.say(t)),
            };
            let it = the(vessel);
            match place {
                CoolingPlace::Worktop => format!("Leave {it} to cool{lid}, {until}."),
                CoolingPlace::WaterBath => format!("Cool {it} in cold water {until}{lid}."),
                CoolingPlace::Refrigerator => {
                    format!("Chill {it} in the refrigerator {until}{lid}.")
                }
                CoolingPlace::Freezer => format!("Chill {it} in the freezer {until}{lid}."),
            }
        }
        Action::Serve { from, glasses, size, .. } => {
            let glasses =
                if *glasses == 1 { "one glass".to_owned() } else { format!("{glasses} glasses") };
            format!("Pour {glasses} of {} from {}.", volume_in(cupboard, size), the(from))
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
                    "The fruit also has about {grams:.0} g of {}: grate it off first if you want it. \
                     You can keep the squeezed halves for a syrup.",
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
                    format!(", with {sugar:.0} g sugar. Rinse with a little water to recover some")
                } else {
                    String::new()
                };
                let wet = if wet < 1000.0 {
                    format!("{wet:.0} g")
                } else {
                    format!("{:.2} kg", wet / 1000.0)
                };
                format!("About {wet} stays in the strainer{tail}.")
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
                format!("About {off:.0} g of peel, stones and ends come off, leaving {used:.0} g.",)
            })
        }
        _ => None,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::drink::{Family, Press, RestingPlace, Vessel, Warmth};

    #[test]
    fn above_its_vessel_a_step_needs_no_name_for_it() {
        let vessels = [
            ("pot", VesselKind::Pot),
            ("sieve", VesselKind::FineSieve),
            ("jug", VesselKind::Jug),
            ("pitcher", VesselKind::Pitcher),
        ];
        let add = |into: &str, id: &str, amount: &str| {
            Action::add(into.to_owned(), id, amount.parse::<Amount>().unwrap())
        };
        let all = [
            (add("pot", "water", "1 l"), "Pour in 1 l water."),
            (add("pot", "white_sugar", "190 g"), "Add 190 g white sugar."),
            (
                Action::Heat {
                    vessel: "pot".into(),
                    to_c: 95.0,
                    minutes: 0.0,
                    lid: true,
                    until_clear: false,
                },
                "Heat to 95 °C, covered.",
            ),
            (
                Action::Infuse {
                    vessel: "pot".into(),
                    minutes: 20.0,
                    place: RestingPlace::Worktop,
                    covered: true,
                },
                "Leave for 20 minutes, covered.",
            ),
            (
                Action::Strain {
                    from: "pot".into(),
                    through: "sieve".into(),
                    into: "jug".into(),
                    press: Press::Drained,
                },
                "Strain the pot into the jug.",
            ),
            (
                Action::Pour { from: "jug".into(), into: "pitcher".into(), portion: Portion::All },
                "Pour in from the jug.",
            ),
            (
                Action::TopUp {
                    vessel: "pitcher".into(),
                    ingredient: "water".into(),
                    warmth: Warmth::Usual,
                    to: "2 l".parse().unwrap(),
                },
                "Top up with water to 2 l.",
            ),
        ];
        let steps = all.iter().enumerate().map(|(i, (a, _))| Step::new(format!("s{i}"), a.clone()));
        let drink = Drink {
            name: "Told".into(),
            family: Family::Lemonade,
            note: String::new(),
            part: None,
            vessels: vessels.map(|(id, kind)| Vessel::new(id, kind)).to_vec(),
            steps: steps.collect(),
        };
        for (step, (_, told)) in drink.steps.iter().zip(&all) {
            assert_eq!(at_its_vessel(&drink, step, Cupboard::builtin()), *told);
        }
        assert_eq!(told_at(&drink.steps[4].action), Some("sieve"));
    }
}
