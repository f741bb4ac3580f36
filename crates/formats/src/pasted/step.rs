//! Steps as they are typed beneath the steps that are there: "2 cups hibiscus; boil 10; strain into the pitcher".
//!
//! A quick hand types what a slow one chooses from a palette. What isn't said is what a cook would do next:
//! [`study::next_steps`] says how each step usually begins, in the vessel that is in hand, and the line changes only
//! what it names. A figure without a unit is minutes, or degrees where something is heated. What is typed first goes
//! in, then it is worked on: "boil 500 ml water 10 min" is two steps.

use keen_core::cupboard::{Cupboard, Form, Staple, VesselKind};
use keen_core::drink::{
    Action, CoolingPlace, Drink, Maceration, Press, Reduction, RestingPlace, Step, Vessel, Vigour,
    Warmth, limits,
};
use keen_core::quantity::said::{Word, number, says, time, words};
use keen_core::quantity::{Amount, Measure};
use keen_core::study::{self, Beginning};
use serde::Serialize;

use super::line::{LineThing, things_in};
use super::method::{Doing, doings};
use super::names::Names;
use super::uses::amounts;
use super::verbs::Verb;

/// The typed text as steps.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct TypedSteps {
    /// The steps in order, each with the new vessels that it needs.
    pub steps: Vec<Beginning>,
    /// The vessel in use after these steps.
    pub vessel: String,
    /// The words that weren't understood, as typed.
    pub unread: Vec<String>,
}

/// Longer than this it is a recipe, and pasted.
const MOST: usize = 400;

/// Reads steps that come at a position of a drink, beginning with a vessel in hand.
#[must_use]
pub fn read_steps(
    text: &str,
    drink: &Drink,
    at: usize,
    vessel: &str,
    cupboard: &Cupboard,
) -> TypedSteps {
    let mut bench = Bench {
        cupboard,
        drink: drink.clone(),
        at: at.min(drink.steps.len()),
        vessel: vessel.to_owned(),
        waiting: Vec::new(),
        made: Vec::new(),
    };
    let names = Names::of(cupboard);
    let text: String = text.chars().take(MOST).collect();
    let mut unread = Vec::new();
    for part in text.split([';', '\n']).flat_map(|part| part.split(" then ")) {
        let part = part.trim().trim_end_matches(['.', ',']);
        if !part.is_empty() && !bench.read(part, &names) {
            unread.push(part.to_owned());
        }
    }
    TypedSteps { steps: bench.made, vessel: bench.vessel, unread }
}

/// The drink as it grows while the line is read.
struct Bench<'a> {
    cupboard: &'a Cupboard,
    drink: Drink,
    at: usize,
    /// The vessel in hand.
    vessel: String,
    /// Vessels that the next step brings along.
    waiting: Vec<Vessel>,
    made: Vec<Beginning>,
}

impl Bench<'_> {
    /// Whether a part of the line was understood.
    fn read(&mut self, part: &str, names: &Names<'_>) -> bool {
        let lower = part.to_lowercase();
        let words = words(&lower);
        let things = things_in(&words, names);
        if words.first().is_some_and(|w| w.is(&["rinse"]))
            || says(&words, &["second"]) && says(&words, &["water"])
        {
            return self.rinse(&words, &things);
        }
        let all = doings(&words, names);
        if let (true, Some((minutes, _, _))) = (all.is_empty() && things.is_empty(), time(&words)) {
            return self.steep(Some(minutes), says(&words, &["fridge", "refrigerator"]));
        }
        if all.is_empty() {
            if let Some(kind) = named_vessel(&words) {
                self.take(kind);
            }
            return self.put(&things);
        }
        let mut understood = false;
        for (i, doing) in all.iter().enumerate() {
            // What the line names goes in with the first thing that is done.
            let things = if i == 0 { things.as_slice() } else { &[] };
            let bare = if all.len() == 1 { bare_number(&words) } else { None };
            understood |= self.carry_out(doing, &words, things, bare);
        }
        understood
    }

    fn carry_out(
        &mut self,
        doing: &Doing,
        words: &[Word],
        things: &[LineThing],
        bare: Option<f64>,
    ) -> bool {
        let minutes = doing.minutes.or(bare).map(|m| m.clamp(0.0, limits::MINUTES));
        let goes_on = matches!(doing.verb, Verb::Strain | Verb::Pour | Verb::Serve | Verb::Bottle);
        if let (Some(kind), false) = (doing.vessel, goes_on) {
            self.take(kind);
        }
        if matches!(doing.verb, Verb::Boil(_) | Verb::Heat | Verb::Reduce) {
            self.take_to_the_pot();
        }
        let named = match doing.verb {
            Verb::Lift | Verb::TopUp | Verb::Serve | Verb::Bottle => &[],
            Verb::Put | Verb::Squeeze | Verb::Prepare | Verb::Pour => things,
            // "Steep 20 with the mint" speaks of mint that is in it already.
            _ if things.iter().any(|thing| thing.said) => things,
            _ => &[],
        };
        let put = self.put(named);
        let done = match doing.verb {
            Verb::Put | Verb::Squeeze | Verb::Prepare => false,
            Verb::Pour => !put && self.pour(doing.vessel),
            Verb::Stir => self.stir(doing, named),
            Verb::Boil(how) => self.boil(minutes, how, doing.covered),
            Verb::Heat => self.heat(doing, bare),
            Verb::Reduce => self.reduce(doing),
            Verb::Steep | Verb::Macerate => self.steep(minutes, doing.refrigerator),
            Verb::Rub => self.rub(minutes),
            Verb::Blend => self.blend(doing.minutes.map(|m| m * 60.0).or(bare)),
            Verb::Strain => self.strain(doing),
            Verb::Cool | Verb::Chill | Verb::Freeze => self.cool(doing, minutes),
            Verb::TopUp => self.top_up(doing, words, things),
            Verb::Lift => self.lift(things),
            Verb::Bottle => self.usual(|a| matches!(a, Action::Bottle { .. })),
            Verb::Serve => self.serve(words, doing.amount.as_ref()),
        };
        put || done
    }

    /// How a step usually begins, if it makes sense now.
    fn begin(&self, wanted: impl Fn(&Action) -> bool) -> Option<Beginning> {
        let next = study::next_steps(&self.drink, self.cupboard, self.at, &self.vessel)?;
        next.steps.into_iter().find(|beginning| wanted(&beginning.action))
    }

    /// As it usually begins, with nothing else said.
    fn usual(&mut self, wanted: impl Fn(&Action) -> bool) -> bool {
        let Some(Beginning { action, vessels }) = self.begin(wanted) else { return false };
        self.push(action, vessels)
    }

    /// The next step, and the vessel in hand after it.
    fn push(&mut self, action: Action, mut vessels: Vec<Vessel>) -> bool {
        vessels.splice(0..0, std::mem::take(&mut self.waiting));
        for vessel in &vessels {
            if self.drink.vessel(&vessel.id).is_none() {
                self.drink.vessels.push(vessel.clone());
            }
        }
        self.vessel = match &action {
            Action::Strain { into, .. }
            | Action::Pour { into, .. }
            | Action::Rinse { into, .. }
            | Action::Add { into, .. }
            | Action::Squeeze { into, .. } => into.clone(),
            Action::Serve { glass, .. } => glass.clone(),
            Action::Bottle { bottle, .. } => bottle.clone(),
            _ => self.vessel.clone(),
        };
        self.drink.steps.insert(self.at, Step::new(String::new(), action.clone()));
        self.drink.name_steps();
        self.at += 1;
        self.made.push(Beginning { action, vessels });
        true
    }

    /// A vessel of a kind: one that the drink has, or a new one.
    fn vessel_of(&mut self, kind: VesselKind) -> String {
        if let Some(known) = self.drink.vessels.iter().find(|vessel| vessel.kind == kind) {
            return known.id.clone();
        }
        let next = study::next_steps(&self.drink, self.cupboard, self.at, &self.vessel);
        let made = next.and_then(|next| next.vessels.into_iter().find(|v| v.kind == kind));
        let made = made.unwrap_or_else(|| Vessel::new(kind.name().to_lowercase(), kind));
        self.drink.vessels.push(made.clone());
        self.waiting.push(made.clone());
        made.id
    }

    fn kind_in_hand(&self) -> Option<VesselKind> {
        self.drink.vessel(&self.vessel).map(|i| self.drink.vessels[i].kind)
    }

    /// Takes another vessel in hand.
    fn take(&mut self, kind: VesselKind) {
        if self.kind_in_hand() != Some(kind) {
            self.vessel = self.vessel_of(kind);
        }
    }

    /// What is heated stands in a pot: what is in hand is poured there.
    fn take_to_the_pot(&mut self) {
        if self.kind_in_hand().is_some_and(VesselKind::can_be_heated) {
            return;
        }
        let poured = self.begin(|a| matches!(a, Action::Pour { .. }));
        let pot = self.vessel_of(VesselKind::Pot);
        match poured.map(|beginning| beginning.action) {
            Some(Action::Pour { from, portion, .. }) => {
                self.push(Action::Pour { from, into: pot, portion }, Vec::new());
            }
            _ => self.vessel = pot,
        }
    }

    fn put(&mut self, things: &[LineThing]) -> bool {
        for thing in things {
            let (into, ingredient) = (self.vessel.clone(), thing.ingredient.clone());
            let amount = thing.amount.clone();
            let action = if thing.squeezed
                && amount.terms().iter().any(|t| matches!(t.measure, Measure::Piece(_)))
            {
                Action::Squeeze { into, ingredient, amount, halves_into: None }
            } else {
                let (warmth, cut) = (thing.warmth, thing.cut);
                Action::Add { into, ingredient, amount, warmth, cut, portions: 1 }
            };
            self.push(action, Vec::new());
        }
        !things.is_empty()
    }

    fn pour(&mut self, to: Option<VesselKind>) -> bool {
        let Some(Beginning { action, mut vessels }) =
            self.begin(|a| matches!(a, Action::Pour { .. }))
        else {
            return false;
        };
        let Action::Pour { from, mut into, portion } = action else { return false };
        if let Some(kind) = to {
            vessels.clear();
            into = self.vessel_of(kind);
        }
        from != into && self.push(Action::Pour { from, into, portion }, vessels)
    }

    fn stir(&mut self, doing: &Doing, put: &[LineThing]) -> bool {
        let dissolves = |thing: &LineThing| {
            let it = self.cupboard.ingredient(&thing.ingredient);
            it.is_some_and(|it| it.form == Form::Crystals)
        };
        if doing.clear || put.iter().any(dissolves) {
            return self.usual(|a| matches!(a, Action::Dissolve { .. }));
        }
        self.usual(|a| matches!(a, Action::Stir { .. }))
    }

    fn boil(&mut self, said: Option<f64>, vigour: Vigour, covered: bool) -> bool {
        let Some(Beginning { action, vessels }) = self.begin(|a| matches!(a, Action::Boil { .. }))
        else {
            return false;
        };
        let Action::Boil { vessel, minutes, lid, .. } = action else { return false };
        let minutes = said.unwrap_or(minutes);
        let lid = covered || lid && vigour != Vigour::Boil;
        self.push(Action::Boil { vessel, minutes, how: vigour, lid }, vessels)
    }

    fn heat(&mut self, doing: &Doing, bare: Option<f64>) -> bool {
        let Some(Beginning { action, vessels }) = self.begin(|a| matches!(a, Action::Heat { .. }))
        else {
            return false;
        };
        let Action::Heat { vessel, to_c, minutes, lid, .. } = action else { return false };
        // No drink is heated above its boiling point: then degrees Fahrenheit were meant.
        let celsius = |figure: f64| if figure > 115.0 { (figure - 32.0) / 1.8 } else { figure };
        let to_c = doing.to_c.or(bare.map(celsius)).unwrap_or(to_c).clamp(25.0, 110.0);
        let minutes = doing.minutes.unwrap_or(minutes);
        let until_clear = doing.clear;
        self.push(Action::Heat { vessel, to_c, minutes, lid, until_clear }, vessels)
    }

    fn reduce(&mut self, doing: &Doing) -> bool {
        let Some(Beginning { action, vessels }) =
            self.begin(|a| matches!(a, Action::Reduce { .. }))
        else {
            return false;
        };
        let Action::Reduce { vessel, to, how } = action else { return false };
        let volume = doing.amount.clone().filter(|a| a.as_millilitres().is_some());
        let half = match &to {
            Reduction::Volume(half) => half.as_millilitres(),
            _ => None,
        };
        let share = doing.down_to.zip(half).map(|(share, half)| {
            Amount::millilitres((half * 2.0 * share / 10.0).round().max(1.0) * 10.0)
        });
        let to = match (doing.to_brix, volume.or(share)) {
            (Some(brix), _) => Reduction::Brix(brix),
            (None, Some(volume)) => Reduction::Volume(volume),
            (None, None) => to,
        };
        self.push(Action::Reduce { vessel, to, how }, vessels)
    }

    /// Liquid draws from what lies in it; sugar draws from what lies dry under it.
    fn steep(&mut self, said: Option<f64>, cold: bool) -> bool {
        let steeps = |a: &Action| matches!(a, Action::Infuse { .. });
        let beginning =
            self.begin(steeps).or_else(|| self.begin(|a| matches!(a, Action::Macerate { .. })));
        let Some(Beginning { mut action, vessels }) = beginning else { return false };
        if let Action::Infuse { minutes, place, .. } | Action::Macerate { minutes, place, .. } =
            &mut action
        {
            *minutes = said.unwrap_or(*minutes);
            if cold {
                *place = RestingPlace::Refrigerator;
            }
        }
        self.push(action, vessels)
    }

    fn rub(&mut self, said: Option<f64>) -> bool {
        let beginning = self.begin(|a| matches!(a, Action::Macerate { .. }));
        let Some(Beginning { action, vessels }) = beginning else { return false };
        let Action::Macerate { vessel, place, .. } = action else { return false };
        let (minutes, how) = (said.unwrap_or(4.0), Maceration::Rubbed);
        self.push(Action::Macerate { vessel, minutes, how, place }, vessels)
    }

    fn blend(&mut self, said: Option<f64>) -> bool {
        if self.begin(|a| matches!(a, Action::Blend { .. })).is_none() {
            return false;
        }
        if !matches!(
            self.kind_in_hand(),
            Some(VesselKind::Blender | VesselKind::Jug | VesselKind::Pot)
        ) {
            let poured = self.pour(Some(VesselKind::Blender));
            debug_assert!(poured, "what can be blended can be poured");
        }
        let (vessel, seconds) = (self.vessel.clone(), said.unwrap_or(30.0).clamp(1.0, 600.0));
        self.push(Action::Blend { vessel, seconds }, Vec::new())
    }

    fn strain(&mut self, doing: &Doing) -> bool {
        let beginning = self.begin(|a| matches!(a, Action::Strain { .. }));
        let Some(Beginning { action, mut vessels }) = beginning else { return false };
        let Action::Strain { from, mut through, mut into, .. } = action else { return false };
        if let Some(kind) = doing.vessel {
            vessels.retain(|vessel| vessel.id != into);
            into = self.vessel_of(kind);
        }
        if doing.cloth {
            vessels.retain(|vessel| vessel.id != through);
            through = self.vessel_of(VesselKind::Cloth);
        }
        let press = match (doing.pressed, doing.cloth) {
            (true, true) => Press::Wrung,
            (true, false) => Press::Pressed,
            (false, _) => Press::Drained,
        };
        from != into && self.push(Action::Strain { from, through, into, press }, vessels)
    }

    /// A second water, through what stayed in the strainer and on to where its liquid went.
    fn rinse(&mut self, words: &[Word], things: &[LineThing]) -> bool {
        let strained = self.drink.steps[..self.at].iter().rev().find_map(|step| {
            let Action::Strain { through, into, press, .. } = &step.action else { return None };
            Some((through.clone(), into.clone(), *press))
        });
        let Some((vessel, into, press)) = strained else { return false };
        let liquid = things.iter().find(|thing| {
            let it = self.cupboard.ingredient(&thing.ingredient);
            it.is_some_and(|it| it.form == Form::Liquid)
        });
        let action = Action::Rinse {
            vessel,
            ingredient: liquid.map_or_else(
                || self.cupboard.staple(Staple::Water).id.clone(),
                |thing| thing.ingredient.clone(),
            ),
            amount: liquid
                .map(|thing| thing.amount.clone())
                .or_else(|| amounts(words, 0..0))
                .filter(|amount| amount.as_millilitres().is_some())
                .unwrap_or_else(|| Amount::millilitres(150.0)),
            warmth: liquid.map_or(Warmth::Usual, |thing| thing.warmth),
            through: None,
            into,
            press,
        };
        self.push(action, Vec::new())
    }

    fn cool(&mut self, doing: &Doing, said: Option<f64>) -> bool {
        // Fruit that stands cold for hours draws.
        if doing.verb == Verb::Chill && said.is_some_and(|minutes| minutes >= 60.0) {
            return self.steep(said, true);
        }
        let beginning = self.begin(|a| matches!(a, Action::Cool { .. }));
        let Some(Beginning { action, vessels }) = beginning else { return false };
        let Action::Cool { vessel, to_c, place, covered } = action else { return false };
        let (to_c, place) = match doing.verb {
            Verb::Cool if !doing.refrigerator => (22.0, CoolingPlace::Worktop),
            Verb::Freeze => (2.0, CoolingPlace::Freezer),
            _ => (to_c, place),
        };
        let to_c = doing.to_c.unwrap_or(to_c);
        let covered = covered || doing.covered;
        self.push(Action::Cool { vessel, to_c, place, covered }, vessels)
    }

    /// To a line, or in every glass to its parts.
    fn top_up(&mut self, doing: &Doing, words: &[Word], things: &[LineThing]) -> bool {
        let liquid = things.first();
        let parts = liquid.and_then(|thing| {
            let terms = thing.amount.terms();
            let [term] = terms else { return None };
            (term.measure == Measure::Part).then_some(term.value)
        });
        if let Some(parts) = parts.or(says(words, &["each", "glass"]).then_some(3.0)) {
            let beginning = self.begin(|a| matches!(a, Action::Lengthen { .. }));
            let Some(Beginning { action, vessels }) = beginning else { return false };
            let Action::Lengthen { vessel, ingredient, warmth, .. } = action else { return false };
            let ingredient = liquid.map_or(ingredient, |thing| thing.ingredient.clone());
            return self.push(Action::Lengthen { vessel, ingredient, warmth, parts }, vessels);
        }
        let said = doing
            .amount
            .clone()
            .or_else(|| liquid.filter(|thing| thing.said).map(|thing| thing.amount.clone()));
        let beginning = self.begin(|a| matches!(a, Action::TopUp { .. }));
        let Some(Beginning { action, vessels }) = beginning else { return false };
        let Action::TopUp { vessel, ingredient, warmth, to } = action else { return false };
        let ingredient = liquid.map_or(ingredient, |thing| thing.ingredient.clone());
        let to = said.filter(|amount| amount.as_millilitres().is_some()).unwrap_or(to);
        self.push(Action::TopUp { vessel, ingredient, warmth, to }, vessels)
    }

    fn lift(&mut self, things: &[LineThing]) -> bool {
        let beginning = self.begin(|a| matches!(a, Action::Lift { .. }));
        let Some(Beginning { action, vessels }) = beginning else { return false };
        let Action::Lift { from, ingredient, into } = action else { return false };
        let ingredient = things.first().map_or(ingredient, |thing| thing.ingredient.clone());
        self.push(Action::Lift { from, ingredient, into }, vessels)
    }

    /// "Serve", "serve 6 glasses of 200 ml".
    fn serve(&mut self, words: &[Word], said: Option<&Amount>) -> bool {
        let beginning = self.begin(|a| matches!(a, Action::Serve { .. }));
        let Some(Beginning { action, vessels }) = beginning else { return false };
        let Action::Serve { from, glass, glasses, size } = action else { return false };
        let counted = words.iter().position(|w| w.is(&["glass"])).and_then(|at| {
            let (many, used) = number(words.get(at.checked_sub(1)?..at)?)?;
            (used == 1 && many.low >= 1.0).then_some(many.low.round() as u32)
        });
        let glasses = counted.unwrap_or(glasses).min(1000);
        let size = said.filter(|a| a.as_millilitres().is_some()).cloned().unwrap_or(size);
        self.push(Action::Serve { from, glass, glasses, size }, vessels)
    }
}

/// "Into the pot", "in the jug": where what is named goes.
fn named_vessel(words: &[Word]) -> Option<VesselKind> {
    let at = words.iter().rposition(|w| w.is(&["in", "into", "to"]))?;
    super::verbs::vessel(&words[at..])
}

/// A figure at the end that has no unit: "boil 10", "heat to 80".
fn bare_number(words: &[Word]) -> Option<f64> {
    (1..words.len()).find_map(|from| {
        let (many, used) = number(&words[from..])?;
        (from + used == words.len()).then_some(many.low)
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use keen_core::trace::Trace;

    fn blank(kind: VesselKind) -> Drink {
        let id = kind.name().to_lowercase();
        let json = format!(
            r#"{{"name":"Typed","family":"infusion","vessels":[{{"id":"{id}","kind":"{id}"}}],"steps":[]}}"#
        );
        serde_json::from_str(&json).unwrap()
    }

    /// The drink that a cook types line by line, beginning in a vessel.
    fn typed(kind: VesselKind, lines: &[&str]) -> Drink {
        let mut drink = blank(kind);
        let mut vessel = drink.vessels[0].id.clone();
        for line in lines {
            let at = drink.steps.len();
            let read = read_steps(line, &drink, at, &vessel, Cupboard::builtin());
            assert_eq!(read.unread, [""; 0], "{line}");
            for Beginning { action, vessels } in read.steps {
                drink.vessels.extend(vessels);
                drink.steps.push(Step::new(String::new(), action));
            }
            drink.name_steps();
            vessel = read.vessel;
        }
        drink
    }

    /// What is done and where, in a word each.
    fn told(drink: &Drink) -> Vec<String> {
        let trace = Trace::run(drink, Cupboard::builtin());
        assert!(trace.outcome().is_some(), "{drink:?}");
        let one = |step: &Step| {
            let json = serde_json::to_value(&step.action).unwrap();
            let (name, what) = json.as_object().unwrap().iter().next().unwrap();
            let part = |key: &str| match &what[key] {
                serde_json::Value::String(text) => format!(" {text}"),
                serde_json::Value::Null => String::new(),
                other => format!(" {other}"),
            };
            ["ingredient", "amount", "into", "vessel", "minutes", "to_c", "to", "parts", "glasses"]
                .iter()
                .fold(name.clone(), |line, key| line + &part(key))
        };
        drink.steps.iter().map(one).collect()
    }

    #[test]
    fn a_hibiscus_that_is_boiled_and_sweetened_in_the_glass() {
        let drink = typed(
            VesselKind::Pot,
            &[
                "1 l water",
                "40 g hibiscus",
                "1 cinnamon stick",
                "boil 10",
                "steep 20",
                "strain into the pitcher",
                "chill",
                "serve 4 glasses",
                "1 tbsp sugar",
                "stir",
            ],
        );
        assert_eq!(
            told(&drink),
            [
                "add water 1 l pot",
                "add hibiscus_dried 40 g pot",
                "add cinnamon_stick 1 stick pot",
                "boil pot 10.0",
                "infuse pot 20.0",
                "strain pitcher",
                "cool pitcher 7.0",
                "serve 4",
                "add white_sugar 1 tbsp glass",
                "stir glass",
            ]
        );
    }

    #[test]
    fn peels_under_sugar_overnight_and_simmered() {
        let drink = typed(
            VesselKind::Bowl,
            &[
                "peel of 4 lemons; 200 g sugar",
                "leave overnight",
                "500 ml water",
                "simmer 5 min",
                "strain into the jug and press",
                "juice of 4 lemons",
                "top up with water to 1.5 l",
            ],
        );
        assert_eq!(
            told(&drink),
            [
                "add lemon_peel 4 lemons bowl",
                "add white_sugar 200 g bowl",
                "macerate bowl 600.0",
                "add water 500 ml bowl",
                "pour pot",
                "boil pot 5.0",
                "strain jug",
                "squeeze lemon_juice 4 lemons jug",
                "top_up water jug 1.5 l",
            ]
        );
    }

    #[test]
    fn an_agua_fresca_that_is_strained_with_a_second_water() {
        let drink = typed(
            VesselKind::Blender,
            &[
                "1 kg melon, 500 ml water",
                "blend 40",
                "strain into the pitcher",
                "rinse with 200 ml water",
                "3 limes, juiced",
                "stir in 60 g sugar",
            ],
        );
        let all = told(&drink);
        assert!(all[0].starts_with("add ") && all[0].ends_with("1 kg blender"), "{all:?}");
        assert_eq!(
            all[1..],
            [
                "add water 500 ml blender",
                "blend blender",
                "strain pitcher",
                "rinse water 200 ml pitcher fine_sieve",
                "squeeze lime_juice 3 limes pitcher",
                "add white_sugar 60 g pitcher",
                "dissolve pitcher",
            ]
        );
        assert!(matches!(drink.steps[2].action, Action::Blend { seconds, .. } if seconds == 40.0));
    }

    #[test]
    fn other_ways_of_saying_it() {
        let one = |line: &str| {
            let drink =
                typed(VesselKind::Pot, &["1 l water", "300 g sugar", "2 sticks cinnamon", line]);
            told(&drink).last().cloned().unwrap()
        };
        assert_eq!(one("heat to 80"), "heat pot 0.0 80.0");
        assert_eq!(one("heat to 176 °F"), "heat pot 0.0 80.0");
        assert_eq!(one("Bring to the boil"), "boil pot 10.0");
        assert_eq!(one("simmer for an hour and a half"), "boil pot 90.0");
        assert_eq!(one("reduce to 700 ml"), r#"reduce pot {"volume":"700 ml"}"#);
        assert_eq!(one("let it steep in the fridge for 8 hours"), "infuse pot 480.0");
        assert_eq!(one("cool"), "cool pot 22.0");
        assert_eq!(one("stir until dissolved"), "dissolve pot");
        assert_eq!(one("lift out the cinnamon"), "lift cinnamon_stick bowl");
        assert_eq!(one("pour into the jug"), "pour jug");
        assert_eq!(one("top each glass with 2 parts soda"), "lengthen club_soda pot 2.0");
        assert_eq!(one("serve 6 glasses of 200 ml"), "serve 6");
        assert_eq!(one("overnight"), "infuse pot 600.0");
        let rinsed = typed(VesselKind::Pot, &["1 l water; 2 limes, sliced", "strain;rinse 200 ml"]);
        assert_eq!(told(&rinsed).last().unwrap(), "rinse water 200 ml pitcher fine_sieve");
    }

    /// Nothing is made up: what can't be done with what is in hand is left to be typed again.
    #[test]
    fn what_is_not_understood_or_makes_no_sense_is_said() {
        let unread = |line: &str| {
            let read = read_steps(line, &blank(VesselKind::Bowl), 0, "bowl", Cupboard::builtin());
            assert!(read.steps.is_empty(), "{line}: {:?}", read.steps);
            read.unread
        };
        for line in ["strain", "boil 10", "rinse with 200 ml water", "a spare tyre", "blend"] {
            assert_eq!(unread(line), [line]);
        }
        let read = read_steps(
            "2 lemons; hum a tune",
            &blank(VesselKind::Bowl),
            0,
            "bowl",
            Cupboard::builtin(),
        );
        assert_eq!((read.steps.len(), read.unread), (1, vec!["hum a tune".to_owned()]));
    }
}
