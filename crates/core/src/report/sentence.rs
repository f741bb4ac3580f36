//! A step in words.

use super::wording::{
    bottles, coming, garnish, look_for, lower_first, pressing, say_minutes, standing, volume_in,
    what, whole,
};
use crate::chemistry::Component;
use crate::cupboard::{Cupboard, Form, Ingredient, Part, VesselKind};
use crate::drink::{
    Action, CoolingPlace, Cut, Dissolving, Dressing, Drink, Maceration, Portion, Preparation,
    Reduction, RestingPlace, Step, Stirring, Vigour, Warmth,
};
use crate::quantity::{Amount, Degrees, Measure, format_number};
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

/// The method as a cookbook prints it: steps in sentences, and what goes into one vessel in a row in one of them, "Add
/// 190 g white sugar, the juice of 4 limes and 1 l water to the pitcher". With each the positions of its steps.
pub(super) fn method(drink: &Drink, cupboard: &Cupboard) -> Vec<(Vec<usize>, String)> {
    let mut all: Vec<(Vec<usize>, String)> = Vec::new();
    let mut row: Vec<String> = Vec::new();
    let mut into: Option<&str> = None;
    for (index, step) in drink.steps.iter().enumerate() {
        let Some((what, vessel)) = plainly_added(step, cupboard) else {
            all.push((vec![index], sentence(drink, step, cupboard)));
            into = None;
            continue;
        };
        match all.last_mut() {
            Some((steps, told)) if into == Some(vessel) && row.len() < IN_A_ROW => {
                steps.push(index);
                row.push(what);
                let to =
                    drink.vessel(vessel).map_or_else(|| vessel.into(), |v| drink.in_sentence(v));
                *told = format!("Add {} to {to}.", listed(&row));
            }
            _ => {
                all.push((vec![index], sentence(drink, step, cupboard)));
                (row, into) = (vec![what], Some(vessel));
            }
        }
    }
    all
}

/// More than so many ingredients in a sentence are no longer read at a glance.
const IN_A_ROW: usize = 4;

/// What a step adds and where, if it does no more than that.
fn plainly_added<'a>(step: &'a Step, cupboard: &Cupboard) -> Option<(String, &'a str)> {
    let Action::Add { into, ingredient, amount, warmth, cut: Cut::Usual, portions: 0 | 1 } =
        &step.action
    else {
        return None;
    };
    let it = cupboard.ingredient(ingredient)?;
    let plain = step.note.trim().is_empty() && !matches!(it.part, Part::Zest | Part::Peel);
    let said = what(cupboard, ingredient, amount);
    plain.then(|| (coming(*warmth, said, &lower_first(&it.name)), into.as_str()))
}

/// "a, b and c".
fn listed(all: &[String]) -> String {
    match all {
        [front @ .., last] if !front.is_empty() => format!("{} and {last}", front.join(", ")),
        _ => all.concat(),
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
    Telling { drink, cupboard, degrees: cupboard.saying().degrees }.sentence(&step.action, manner)
}

fn lid(on: bool) -> &'static str {
    if on { "covered" } else { "uncovered" }
}

fn stirred(until: Stirring) -> &'static str {
    match until {
        Stirring::Mixed => "",
        Stirring::Clear => " until clear",
        Stirring::Calm => " until it stops fizzing",
    }
}

/// A drink's steps are told with its vessels' names, in the kitchen's measures.
struct Telling<'a> {
    drink: &'a Drink,
    cupboard: &'a Cupboard,
    degrees: Degrees,
}

impl Telling<'_> {
    fn sentence(&self, action: &Action, manner: Option<Manner>) -> String {
        let the = |id: &str| self.the(id);
        match action {
            Action::Add { .. } => self.add(action, manner),
            Action::Squeeze { into, ingredient, amount, halves_into } => {
                self.squeeze(ingredient, amount, into, halves_into.as_deref())
            }
            Action::Prepare { ingredient, how, minutes } => {
                self.prepare(ingredient, *how, *minutes)
            }
            Action::Macerate { vessel, minutes, how, place } => {
                self.macerate(vessel, *minutes, *how, *place)
            }
            Action::Dissolve { vessel, how: Dissolving::Stirred } => {
                format!("Stir {} until everything has dissolved.", the(vessel))
            }
            Action::Dissolve { vessel, how: Dissolving::Microwave } => {
                let warm = self.degrees.say(70.0);
                format!("Warm {} in the microwave to {warm}, then stir.", the(vessel))
            }
            Action::Boil { vessel, minutes, how, lid: on } => {
                self.boil(vessel, *minutes, *how, *on)
            }
            Action::Reduce { vessel, to, .. } => {
                format!("Boil {} down, uncovered, {}.", the(vessel), self.down_to(to))
            }
            Action::Lift { from, ingredient, into } => {
                let name = self.name(ingredient);
                format!("Lift the {name} out of {} into {}.", the(from), the(into))
            }
            Action::Rinse { .. } => self.rinse(action),
            Action::Cover { vessel, ingredient, above_mm, warmth } => {
                self.cover(vessel, &self.coming(*warmth, ingredient), *above_mm)
            }
            Action::Lengthen { vessel, ingredient, parts, warmth } => {
                self.lengthen(vessel, *parts, &self.coming(*warmth, ingredient))
            }
            Action::Bottle { from, bottle, headspace } => {
                let left = volume_in(self.cupboard, headspace);
                let bottles = bottles(self.drink, bottle);
                format!("Pour {} into {bottles}, leaving {left} headspace.", the(from))
            }
            Action::Dress { glass, ingredient, how, amount } => {
                self.dress(glass, ingredient, *how, amount.as_ref())
            }
            Action::Stir { vessel, until } => format!("Stir {}{}.", the(vessel), stirred(*until)),
            Action::Mark { vessel } => format!("Mark the level on {}.", the(vessel)),
            Action::Heat { vessel, to_c, minutes, lid: on, until_clear } => {
                let to = (!until_clear).then_some(*to_c);
                self.heat(vessel, to, *minutes, *on)
            }
            Action::Infuse { vessel, minutes, place, covered } => {
                self.infuse(vessel, *minutes, *place, *covered)
            }
            Action::Blend { vessel, seconds } => match self.kind(vessel) {
                Some(VesselKind::Blender) => format!("Blend for {seconds} seconds."),
                _ => format!("Blend the contents of {} for {seconds} seconds.", the(vessel)),
            },
            Action::Strain { from, through, into, press } => {
                let press = pressing(*press);
                format!("Strain {} through {} into {}{press}.", the(from), the(through), the(into))
            }
            Action::Pour { from, into, portion } => {
                format!("Pour {} into {}.", self.portion(portion, from), the(into))
            }
            Action::TopUp { vessel, ingredient, to, warmth } => {
                let (with, to) = (self.coming(*warmth, ingredient), volume_in(self.cupboard, to));
                format!("Top up {} with {with} to {to}.", self.each(vessel))
            }
            Action::Cool { vessel, to_c, place, covered } => {
                self.cool(vessel, *to_c, *place, *covered)
            }
            Action::Serve { from, glasses, size, .. } => self.serve(from, *glasses, size),
        }
    }

    fn cover(&self, vessel: &str, with: &str, above_mm: f64) -> String {
        let above = match above_mm {
            mm if mm < 1.0 => "just cover".to_owned(),
            mm => format!("cover by {mm:.0} mm"),
        };
        format!("Add {with} to {} to {above}.", self.the(vessel))
    }

    fn infuse(&self, vessel: &str, minutes: f64, place: RestingPlace, covered: bool) -> String {
        let vessel = self.the(vessel);
        if minutes < 0.5 {
            return format!("Leave {vessel} for a moment.");
        }
        let covered = if covered { ", covered" } else { "" };
        format!("Leave {vessel}{} for {}{covered}.", standing(place), say_minutes(minutes))
    }

    fn serve(&self, from: &str, glasses: u32, size: &Amount) -> String {
        let glasses = match glasses {
            1 => "one glass".to_owned(),
            many => format!("{many} glasses"),
        };
        let size = volume_in(self.cupboard, size);
        format!("Pour {glasses} of {size} from {}.", self.the(from))
    }

    fn squeeze(
        &self,
        ingredient: &str,
        amount: &Amount,
        into: &str,
        halves: Option<&str>,
    ) -> String {
        let juice = what(self.cupboard, ingredient, amount);
        let fruit = juice.trim_start_matches("the juice of ");
        let keep = |bowl| format!(", and keep the halves in {}", self.the(bowl));
        let halves = halves.map(keep).unwrap_or_default();
        format!("Squeeze {fruit} into {}{halves}.", self.the(into))
    }

    fn macerate(&self, vessel: &str, minutes: f64, how: Maceration, at: RestingPlace) -> String {
        let (vessel, time) = (self.the(vessel), say_minutes(minutes));
        match how {
            Maceration::Rubbed => {
                format!("Rub the sugar in with your fingers in {vessel} for {time}.")
            }
            Maceration::Left => format!(
                "Press everything in {vessel} down into the sugar, cover and leave{} for {time}.",
                standing(at),
            ),
        }
    }

    fn lengthen(&self, vessel: &str, parts: f64, with: &str) -> String {
        let parts = format_number(parts, true);
        let noun = if parts == "1" { "part" } else { "parts" };
        if self.drink.glasses_in(vessel) > 1 {
            format!("Top up each glass with {with}: {parts} {noun} to 1 part of the drink.")
        } else {
            format!("Dilute {} with {with}: {parts} {noun} to 1 part.", self.the(vessel))
        }
    }

    /// Heated to a temperature, or until what is in it is clear.
    fn heat(&self, vessel: &str, to_c: Option<f64>, minutes: f64, covered: bool) -> String {
        let (the, how) = (self.the(vessel), if covered { "covered" } else { "stirring" });
        let Some(to) = to_c else { return format!("Heat {the} until clear, {how}.") };
        let hold = match minutes {
            m if m >= 0.5 => format!(" and hold it there for {}", say_minutes(m)),
            _ => String::new(),
        };
        format!("Heat {the} to {}{hold}, {how}.", self.degrees.say(to))
    }

    /// What is poured in, as warm as it comes.
    fn coming(&self, warmth: Warmth, ingredient: &str) -> String {
        coming(warmth, self.name(ingredient), &self.name(ingredient))
    }

    fn the(&self, id: &str) -> String {
        self.drink.vessel(id).map_or_else(|| format!("“{id}”"), |v| self.drink.in_sentence(v))
    }

    /// The vessel, or each glass where there are several.
    fn each(&self, vessel: &str) -> String {
        if self.drink.glasses_in(vessel) > 1 { "each glass".to_owned() } else { self.the(vessel) }
    }

    fn kind(&self, vessel: &str) -> Option<VesselKind> {
        self.drink.vessel(vessel).map(|v| self.drink.vessels[v].kind)
    }

    fn name(&self, id: &str) -> String {
        self.cupboard.ingredient(id).map_or_else(|| id.to_owned(), |it| lower_first(&it.name))
    }

    fn add(&self, action: &Action, manner: Option<Manner>) -> String {
        let Action::Add { into, ingredient, amount, warmth, cut, portions } = action else {
            return String::new();
        };
        let tasting = match portions {
            0 | 1 => String::new(),
            many => format!(" in {many} portions, tasting each time"),
        };
        let what = what(self.cupboard, ingredient, amount);
        let what = coming(*warmth, what, &self.name(ingredient));
        let it = self.cupboard.ingredient(ingredient);
        let said = added(it, &what, &self.each(into), Manner::by(*cut).or(manner));
        format!("{said}{tasting}.")
    }

    fn prepare(&self, ingredient: &str, how: Preparation, minutes: Option<f64>) -> String {
        let name = whole(self.cupboard, ingredient).unwrap_or_else(|| self.name(ingredient));
        let time = minutes.map_or_else(String::new, |m| format!(" for {}", say_minutes(m)));
        match how {
            Preparation::Wash => format!("Wash the {name}{time}."),
            Preparation::Soak => format!("Soak the {name} in cold water{time}, then drain."),
            Preparation::Inspect => {
                let it = self.cupboard.ingredient(ingredient);
                format!("Pick over the {name}: {}.", it.map_or("", look_for))
            }
            Preparation::Peel => format!("Peel the {name}{time}."),
            Preparation::Chop => format!("Chop the {name}{time}."),
            Preparation::Crush => format!("Crush the {name}{time}."),
        }
    }

    fn boil(&self, vessel: &str, minutes: f64, how: Vigour, on: bool) -> String {
        let (vessel, lid) = (self.the(vessel), lid(on));
        if minutes < 0.5 {
            return format!("Bring {vessel} to the boil, {lid}.");
        }
        let (verb, gently) = match how {
            Vigour::Gentle => ("Simmer", " very gently"),
            Vigour::Simmer => ("Simmer", ""),
            Vigour::Boil => ("Boil", ""),
        };
        format!("{verb} {vessel}{gently}, {lid}, for {}.", say_minutes(minutes))
    }

    fn down_to(&self, to: &Reduction) -> String {
        match to {
            Reduction::Volume(volume) => format!("to {}", volume_in(self.cupboard, volume)),
            Reduction::Brix(brix) => format!("until it reads {brix} °Bx"),
            Reduction::BoilingAt(t) => format!("until it boils at {}", self.degrees.say(*t)),
            Reduction::Mark => "to the mark".to_owned(),
        }
    }

    /// Through what stayed in a strainer, or what clings to a vessel.
    fn rinse(&self, action: &Action) -> String {
        let Action::Rinse { vessel, ingredient, amount, warmth, through, into, press } = action
        else {
            return String::new();
        };
        let water = what(self.cupboard, ingredient, amount);
        let water = coming(*warmth, water, &self.name(ingredient));
        let (from, into, press) = (self.the(vessel), self.the(into), pressing(*press));
        if self.kind(vessel).is_some_and(|kind| kind.strainer().is_some()) {
            return format!("Pour another {water} through the pulp in {from} into {into}{press}.");
        }
        let through = through
            .as_ref()
            .map_or_else(String::new, |sieve| format!(" through the pulp in {}", self.the(sieve)));
        format!("Rinse {from} with {water} and pour it{through} into {into}{press}.")
    }

    fn dress(
        &self,
        glass: &str,
        ingredient: &str,
        how: Dressing,
        amount: Option<&Amount>,
    ) -> String {
        let each = if self.drink.glasses_in(glass) > 1 { "each glass" } else { "the glass" };
        let verb = match how {
            Dressing::Garnish => "Garnish",
            Dressing::Rim => "Rim",
        };
        let with = match (how, amount) {
            (_, Some(amount)) => what(self.cupboard, ingredient, amount),
            (Dressing::Garnish, None) => garnish(self.cupboard, ingredient),
            (Dressing::Rim, None) => self.name(ingredient),
        };
        format!("{verb} {each} with {with}.")
    }

    fn portion(&self, portion: &Portion, from: &str) -> String {
        let from = self.the(from);
        match portion {
            Portion::All => from,
            Portion::Share(share) if (share - 0.5).abs() < 1e-9 => format!("half of {from}"),
            Portion::Share(share) => format!("{:.0} % of {from}", share * 100.0),
            Portion::Volume(volume) => {
                format!("{} from {from}", volume_in(self.cupboard, volume))
            }
        }
    }

    fn cool(&self, vessel: &str, to_c: f64, place: CoolingPlace, covered: bool) -> String {
        let it = self.the(vessel);
        if place == CoolingPlace::Freezer && to_c < 0.0 {
            return format!("Freeze {it} until hard ({}).", self.degrees.say(to_c));
        }
        let lid = if covered { ", covered" } else { "" };
        // A hand bears about 45 °C.
        let until = match to_c {
            t if (44.0..=46.0).contains(&t) => "until cool enough to touch".to_owned(),
            t => format!("to {}", self.degrees.say(t)),
        };
        match place {
            CoolingPlace::Worktop => format!("Leave {it} to cool{lid}, {until}."),
            CoolingPlace::WaterBath => format!("Cool {it} in cold water {until}{lid}."),
            CoolingPlace::Refrigerator => format!("Chill {it} in the refrigerator {until}{lid}."),
            CoolingPlace::Freezer => format!("Chill {it} in the freezer {until}{lid}."),
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
