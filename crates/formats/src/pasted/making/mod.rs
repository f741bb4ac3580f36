//! From what goes in and what is done to a drink: in which vessels, in which order, as a cook would.
//!
//! The text seldom says in which vessel something is done, and forgets to say when half of the list goes in. What
//! is being worked on is the vessel **in hand**; heat takes it to the pot, a blender to the blender, a strainer
//! to the jug. What stands aside meanwhile is poured together at the end, and what the text forgot goes in there.

mod doings;
mod finish;
mod resolve;

pub(super) use resolve::{only_served, resolve};

use std::collections::BTreeMap;

use keen_core::balance::Profile;
use keen_core::cupboard::{Cupboard, Form, Ingredient, Kind, Press, VesselKind};
use keen_core::drink::{
    Action, CoolingPlace, Dissolving, Drink, Family, Maceration, Portion, Reduction, RestingPlace,
    Step, Stirring, Vessel, Vigour, Warmth, limits,
};
use keen_core::quantity::{Amount, Dimension, Measure};
use keen_core::trace::Trace;

use super::item::{Item, kitchen_round};
use super::list;
use super::method::Doing;
use super::names::{Found, Names};
use super::outcome::{Differs, StepGuess, Sure};
use super::uses::{self, Share};
use super::verbs::Verb;

/// Something that goes in, with what is only needed here.
#[derive(Debug, Clone)]
pub(super) struct Entry {
    pub(super) key: String,
    pub(super) line: usize,
    pub(super) item: Item,
    /// What it is for: "syrup".
    pub(super) group: Option<String>,
    pub(super) left_out: bool,
    /// Whether no list has it, but a sentence of the method.
    pub(super) told: bool,
}

/// What names the next thing that is read from a line.
pub(super) fn next_key(entries: &[Entry], line: usize) -> String {
    format!("{line}.{}", entries.iter().filter(|e| e.line == line).count())
}

impl Entry {
    /// The ingredient that it is, where the cupboard knows it.
    fn known<'c>(&self, cupboard: &'c Cupboard) -> Option<&'c Ingredient> {
        cupboard.ingredient(self.item.ingredient.as_deref()?)
    }

    /// Whether a sentence means it. What is told twice is two things, each by its own words.
    fn is_named_by(&self, one: &uses::Use) -> bool {
        self.item.ingredient.as_deref() == Some(one.found.id.as_str())
            && (!self.told || !one.tells || self.item.words == one.words)
    }
}

/// A doing, and the line that it was read from.
#[derive(Debug, Clone)]
pub(super) struct Done {
    pub(super) line: usize,
    pub(super) doing: Doing,
}

/// What the recipe says that it makes.
#[derive(Debug, Clone, Default, PartialEq)]
pub(super) struct Makes {
    pub(super) glasses: Option<u32>,
    pub(super) volume: Option<Amount>,
    /// The whole by weight: "5 kg".
    pub(super) grams: Option<f64>,
    pub(super) glass: Option<Amount>,
}

/// A drink that was made from a text.
pub(super) struct Made {
    pub(super) drink: Drink,
    pub(super) differs: Vec<Differs>,
    pub(super) guesses: Vec<StepGuess>,
    /// What could not be done, for the note.
    pub(super) left: Vec<String>,
    /// The line, and what is done there in short.
    pub(super) read: Vec<(usize, String)>,
}

struct Cook<'a> {
    cupboard: &'a Cupboard,
    entries: &'a [Entry],
    drink: Drink,
    /// The vessel in hand.
    at: Option<String>,
    /// Vessels with something in them, in the order in which they came to hold it.
    holding: Vec<String>,
    /// How much of each entry is still to go in, 0 to 1.
    left: Vec<f64>,
    guesses: BTreeMap<usize, String>,
    /// Whether something hot is in hand.
    hot: bool,
    chilled: bool,
    /// For each entry the last doing that names it.
    claims: Vec<Option<usize>>,
    /// The doing that is carried out.
    now: usize,
    /// What was washed and cut, and waits for where it goes.
    prepared: Vec<usize>,
    /// Whether it is put up in bottles.
    bottled: bool,
    read: Vec<(usize, String)>,
}

/// Makes the drink.
pub(super) fn make(
    entries: &[Entry],
    done: &[Done],
    makes: &Makes,
    title: Option<&str>,
    which: Option<usize>,
    cupboard: &Cupboard,
) -> Made {
    let name: String = title
        .unwrap_or("A pasted recipe")
        .chars()
        .filter(|c| !c.is_control())
        .take(limits::NAME)
        .collect();
    let name =
        if name.trim().is_empty() { "A pasted recipe".to_owned() } else { name.trim().to_owned() };
    let drink = Drink {
        name,
        family: Family::Lemonade,
        note: String::new(),
        part: None,
        vessels: Vec::new(),
        steps: Vec::new(),
    };
    let mut cook = Cook {
        cupboard,
        entries,
        drink,
        at: None,
        holding: Vec::new(),
        left: entries
            .iter()
            .map(|e| f64::from(u8::from(e.item.ingredient.is_some() && !e.left_out)))
            .collect(),
        guesses: BTreeMap::new(),
        hot: false,
        chilled: false,
        claims: entries.iter().map(|e| claim(e, done)).collect(),
        now: 0,
        prepared: Vec::new(),
        bottled: done.iter().any(|d| d.doing.verb == Verb::Bottle),
        read: Vec::new(),
    };
    cook.part(makes);
    let mut differs = Vec::new();
    let line_to = cook.line_to(makes, which, done, &mut differs);
    for (now, done) in done.iter().enumerate() {
        cook.now = now;
        let before = cook.drink.steps.len();
        cook.carry_out(&done.doing, line_to.as_ref());
        if cook.drink.steps.len() > before && done.doing.loose {
            cook.guess(cook.drink.steps.len() - 1, "The recipe gives only a rough time.");
        }
        cook.read.extend(shorts(&done.doing).map(|s| (done.line, s)));
    }
    cook.finish(makes, line_to.as_ref());
    let (guesses, read) = (std::mem::take(&mut cook.guesses), std::mem::take(&mut cook.read));
    let mut drink = cook.drink;
    drink.name_steps();
    let known: Vec<StepGuess> = guesses
        .into_iter()
        .filter_map(|(at, why)| Some(StepGuess { step: drink.steps.get(at)?.id.clone(), why }))
        .collect();
    let mut left = mend(&mut drink, cupboard);
    if done.iter().any(|d| d.doing.verb == Verb::Freeze) {
        left.push("Freeze it at the end.".into());
    }
    let guesses =
        known.into_iter().filter(|g| drink.steps.iter().any(|s| s.id == g.step)).collect();
    Made { drink, differs, guesses, left, read }
}

/// The last doing that names a thing; what was made of it ("the melon juice") counts only where nothing else does. "The
/// syrup ingredients" names all of that part, and its water is no other part's.
fn claim(entry: &Entry, done: &[Done]) -> Option<usize> {
    let of_part = done.iter().rposition(|d| d.doing.everything && is_of_part(entry, &d.doing));
    if of_part.is_some() {
        return of_part;
    }
    let last = |made_of_it: bool| {
        done.iter().rposition(|d| {
            let names =
                d.doing.uses.iter().any(|u| entry.is_named_by(u) && (made_of_it || !u.of_it()));
            names && !matches!(d.doing.verb, Verb::Prepare | Verb::Serve)
        })
    };
    let prepared = done.iter().any(|d| {
        d.doing.verb == Verb::Prepare && d.doing.uses.iter().any(|u| entry.is_named_by(u))
    });
    last(false).or_else(|| last(true).filter(|_| !prepared))
}

/// Whether a thing stands under the heading that a doing names: "the syrup ingredients".
fn is_of_part(entry: &Entry, doing: &Doing) -> bool {
    entry
        .group
        .as_deref()
        .zip(doing.group.as_deref())
        .is_some_and(|(group, named)| group.contains(named))
}

/// What is left of a litre after two cups: 527 ml, and not 526.824.
fn in_three_figures(amount: Amount) -> Amount {
    let [one] = amount.terms() else { return amount };
    if one.value <= 0.0 {
        return amount;
    }
    let unit = 10_f64.powf(one.value.log10().floor() - 2.0);
    let value = (one.value / unit).round() * unit;
    let text = format!("{value:.4}");
    Amount::of(text.parse().unwrap_or(value), one.measure.clone())
}

/// What is done, in a word and its time.
fn shorts(doing: &Doing) -> Option<String> {
    let word = match doing.verb {
        Verb::Rub => "rub",
        Verb::Macerate => "leave under sugar",
        Verb::Boil(Vigour::Boil) => "boil",
        Verb::Boil(_) => "simmer",
        Verb::Heat => "heat",
        Verb::Reduce => "boil down",
        Verb::Steep => "let stand",
        Verb::Strain => "strain",
        Verb::Blend => "blend",
        Verb::Cool => "cool",
        Verb::Chill => "chill",
        Verb::Freeze => "freeze",
        Verb::Stir => "stir",
        Verb::Squeeze => "squeeze",
        Verb::TopUp => "top up",
        Verb::Bottle => "bottle",
        Verb::Pour | Verb::Put => "put in",
        Verb::Serve => "serve",
        Verb::Lift | Verb::Prepare => return None,
    };
    Some(match doing.minutes {
        Some(minutes) if minutes < 1.0 => format!("{word} {:.0} s", minutes * 60.0),
        Some(minutes) => format!("{word} {minutes:.0} min"),
        None => word.to_owned(),
    })
}

/// Takes out what can't be carried out after all, and says so.
fn mend(drink: &mut Drink, cupboard: &Cupboard) -> Vec<String> {
    let mut left = Vec::new();
    for _ in 0..limits::STEPS {
        let faults = drink.check(cupboard);
        let Some(fault) = faults.first() else { break };
        let step = fault
            .field
            .strip_prefix("steps[")
            .and_then(|rest| rest.split_once(']'))
            .and_then(|(n, _)| n.parse::<usize>().ok());
        match step {
            Some(at) if at < drink.steps.len() => {
                drink.steps.remove(at);
                left.push(format!("We couldn't use this step as we read it: {}", fault.message));
            }
            _ if fault.field.starts_with("vessels") => {
                let used: Vec<String> = drink.vessels.iter().map(|v| v.id.clone()).collect();
                let text = serde_json::to_string(&drink.steps).unwrap_or_default();
                let before = drink.vessels.len();
                drink.vessels.retain(|v| text.contains(&format!("\"{}\"", v.id)));
                if drink.vessels.len() == before {
                    drink
                        .vessels
                        .iter_mut()
                        .for_each(|v| (v.capacity, v.diameter_mm) = (None, None));
                    if used.is_empty() {
                        break;
                    }
                    if drink.check(cupboard).first() == Some(fault) {
                        break;
                    }
                }
            }
            _ if fault.field.starts_with("part") => drink.part = Some(Amount::millilitres(100.0)),
            _ => {
                drink.steps.truncate(drink.steps.len().saturating_sub(1));
                if drink.steps.is_empty() {
                    break;
                }
            }
        }
    }
    left.dedup();
    left
}

impl Cook<'_> {
    fn item(&self, entry: usize) -> &Item {
        &self.entries[entry].item
    }

    fn ingredient(&self, entry: usize) -> Option<&Ingredient> {
        self.entries[entry].known(self.cupboard)
    }

    fn kind(&self, entry: usize) -> Option<Kind> {
        self.ingredient(entry).map(|it| it.kind)
    }

    fn guess(&mut self, step: usize, why: &str) {
        self.guesses.entry(step).or_insert_with(|| why.to_owned());
    }

    fn push(&mut self, action: Action) {
        if self.drink.steps.len() < limits::STEPS {
            self.drink.steps.push(Step::new(String::new(), action));
        }
    }

    /// The id of the vessel of a kind, which is taken from the shelf if need be.
    fn vessel(&mut self, kind: VesselKind) -> String {
        let id = match kind {
            VesselKind::Pot => "pot",
            VesselKind::Bowl => "bowl",
            VesselKind::Blender => "blender",
            VesselKind::Pitcher => "pitcher",
            VesselKind::FineSieve => "fine_sieve",
            VesselKind::Cloth => "cloth",
            VesselKind::Bottle => "bottle",
            VesselKind::Glass => "glass",
            _ => "jug",
        };
        if self.drink.vessel(id).is_none() {
            self.drink.vessels.push(Vessel::new(id, kind));
        }
        id.to_owned()
    }

    fn holds(&self, vessel: &str) -> bool {
        self.holding.iter().any(|v| v == vessel)
    }

    fn now_holds(&mut self, vessel: &str) {
        if !self.holds(vessel) {
            self.holding.push(vessel.to_owned());
        }
    }

    fn pour(&mut self, from: &str, into: &str) {
        if from != into && self.holds(from) {
            self.push(Action::Pour { from: from.into(), into: into.into(), portion: Portion::All });
            self.holding.retain(|v| v != from);
            self.now_holds(into);
        }
    }

    /// Takes what is in hand to a vessel of that kind.
    fn go_to(&mut self, kind: VesselKind) -> String {
        let of_kind =
            |at: &String| self.drink.vessel(at).is_some_and(|v| self.drink.vessels[v].kind == kind);
        if let Some(at) = self.at.clone().filter(of_kind) {
            return at;
        }
        let to = self.vessel(kind);
        if let Some(at) = self.at.clone() {
            self.pour(&at, &to);
        }
        self.at = Some(to.clone());
        to
    }

    /// The vessel in hand, or one of that kind if there is none.
    fn here(&mut self, or: VesselKind) -> String {
        match &self.at {
            Some(at) => at.clone(),
            None => {
                let id = self.vessel(or);
                self.at = Some(id.clone());
                id
            }
        }
    }

    /// What one part is, where the recipe is written in parts: such that all of them make a pitcher, or what it
    /// says that it makes.
    fn part(&mut self, makes: &Makes) {
        let parts: f64 = self
            .entries
            .iter()
            .filter_map(|e| e.item.amount.as_ref())
            .flat_map(|a| a.terms().iter())
            .filter(|t| t.measure == Measure::Part)
            .map(|t| t.value)
            .sum();
        if parts > 0.0 {
            let volume = makes.volume.as_ref().and_then(Amount::as_millilitres);
            let glasses = makes.glasses.map(|n| f64::from(n) * 200.0);
            let ml = volume.or(glasses).unwrap_or(1000.0) / parts;
            self.drink.part = Some(Amount::millilitres(kitchen_round(ml.clamp(5.0, 5000.0))));
        }
    }

    /// The line that is filled up to, where something fills: as the list says, or as much as the recipe makes.
    fn line_to(
        &mut self,
        makes: &Makes,
        which: Option<usize>,
        done: &[Done],
        differs: &mut Vec<Differs>,
    ) -> Option<Amount> {
        let listed = self.entries.iter().find(|e| e.item.fills).and_then(|e| e.item.amount.clone());
        let topped = done
            .iter()
            .find(|d| {
                d.doing.verb == Verb::TopUp
                    && d.doing.uses.iter().all(|u| !matches!(u.share, Share::Amount(_)))
            })
            .and_then(|d| d.doing.amount.clone());
        let listed = listed.or(topped);
        let glass = makes.glass.as_ref().and_then(Amount::as_millilitres).unwrap_or(250.0);
        let said = makes
            .volume
            .clone()
            .or_else(|| makes.glasses.map(|n| Amount::millilitres(f64::from(n) * glass)));
        match (listed, said) {
            (Some(listed), Some(said)) => {
                let (a, b) = (listed.as_millilitres()?, said.as_millilitres()?);
                // A glass is 150 to 300 ml: so many glasses say only about how much there is.
                let room = if makes.volume.is_some() { 0.1 } else { 0.4 };
                if (a / b - 1.0).abs() <= room || (b / a - 1.0).abs() <= room {
                    return Some(listed);
                }
                let which = which.unwrap_or(0).min(1);
                let glasses = makes.glasses.filter(|_| makes.volume.is_none());
                differs.push(Differs {
                    key: "makes".into(),
                    message: match glasses {
                        Some(n) => format!("The recipe fills up to {listed} but serves {n} glasses, which would be {said}."),
                        None => format!("The recipe fills up to {listed} but says it makes {said}."),
                    },
                    choices: vec![listed.to_string(), said.to_string()],
                    chosen: which,
                });
                Some(if which == 1 { said } else { listed })
            }
            (listed, said) => listed.or(said).or_else(|| self.usual_line()),
        }
    }

    /// "Soda to fill", and nowhere how far: what is measured out tells a glass from a pitcher.
    fn usual_line(&self) -> Option<Amount> {
        self.entries.iter().find(|e| e.item.fills)?;
        let measured = self.entries.iter().filter(|e| !e.item.fills && !e.item.garnish);
        let ml: f64 =
            measured.filter_map(|e| e.item.amount.as_ref().and_then(Amount::as_millilitres)).sum();
        Some(Amount::millilitres(match ml {
            ml if ml < 130.0 => 250.0,
            ml if ml < 600.0 => 1000.0,
            _ => 2000.0,
        }))
    }

    /// What goes in of an entry, and where.
    fn put(&mut self, entry: usize, share: f64, vessel: &str) {
        if let Some(amount) = self.take(entry, share) {
            self.put_amount(entry, amount, vessel);
        }
    }

    /// Takes a share of an entry, and tells how much that is; nothing if none is left, or if it isn't known.
    fn take(&mut self, entry: usize, share: f64) -> Option<Amount> {
        let share = share.min(self.left[entry]);
        let amount = self.item(entry).amount.clone().filter(|_| share > 1e-6)?;
        self.ingredient(entry)?;
        self.left[entry] -= share;
        if self.left[entry] < 0.02 {
            self.left[entry] = 0.0;
        }
        Some(if share > 0.999 { amount } else { in_three_figures(amount.scaled(share)) })
    }

    fn put_amount(&mut self, entry: usize, amount: Amount, vessel: &str) {
        let Some(it) = self.ingredient(entry).cloned() else { return };
        let item = self.item(entry).clone();
        let pieces = amount.terms().iter().any(|t| t.measure.dimension() == Dimension::Count);
        if pieces && self.cupboard.can_be_squeezed(&it) {
            self.push(Action::Squeeze {
                into: vessel.into(),
                ingredient: it.id.clone(),
                amount,
                halves_into: None,
            });
        } else {
            self.push(Action::Add {
                into: vessel.into(),
                ingredient: it.id.clone(),
                amount,
                warmth: item.warmth,
                cut: item.cut,
                portions: 1,
            });
        }
        if item.warmth == Warmth::Boiling || item.warmth == Warmth::Hot {
            self.hot = true;
        }
        self.now_holds(vessel);
    }

    /// "To every litre 600 g of sugar": as often as there is a litre.
    fn put_by_what_is_there(&mut self, entry: usize, times: f64, vessel: &str) {
        let Some(amount) = self.item(entry).amount.clone() else { return };
        // Pieces by halves, all else as a scale shows it.
        let many = amount.terms().iter().any(|t| t.measure.dimension() == Dimension::Count);
        let scaled = match amount.terms() {
            [one] if many => {
                Amount::of((one.value * times * 2.0).round().max(1.0) / 2.0, one.measure.clone())
            }
            [one] => Amount::of(kitchen_round(one.value * times), one.measure.clone()),
            _ => amount.scaled(times),
        };
        let from = self.drink.steps.len();
        self.put_amount(entry, scaled, vessel);
        self.left[entry] = 0.0;
        if self.drink.steps.len() > from {
            self.guess(from, "We worked this out from the volume in the vessel.");
        }
    }

    /// The entries that a doing is about, and how much of each.
    fn about(&self, doing: &Doing) -> Vec<(usize, f64)> {
        let mut all: Vec<(usize, f64)> = Vec::new();
        let mut add = |entry: usize, share: f64| {
            if !all.iter().any(|(known, _)| *known == entry) {
                all.push((entry, share));
            }
        };
        for one in &doing.uses {
            let Some(entry) = self.meant_by(one) else { continue };
            // "Add the hips to the boiling water": that is in the pan.
            let there = |at: &str| self.lies_in(at, |it| it.kind == Kind::Water);
            let is_water = self.kind(entry) == Some(Kind::Water);
            if one.goal
                && is_water
                && self.at.as_deref().is_some_and(|at| self.holds(at) && there(at))
            {
                continue;
            }
            let share = self.share_of(entry, &one.share, doing.each);
            // Less than a twentieth left over is a slip of the pen.
            add(entry, if self.left[entry] - share < 0.05 { self.left[entry] } else { share });
        }
        let open =
            |e: &usize| self.left[*e] > 0.0 && !self.item(*e).garnish && !self.item(*e).fills;
        let all_open = (0..self.entries.len()).filter(open);
        // "Steep the tea", where the list has a part "for the tea".
        if matches!(doing.verb, Verb::Steep | Verb::Boil(_) | Verb::Heat | Verb::Blend) {
            let named = |e: &usize| {
                let group = self.entries[*e].group.as_deref();
                let words = doing.uses.iter().flat_map(|u| &u.words);
                group.is_some_and(|group| words.into_iter().any(|w| w.text == group))
            };
            all_open.clone().filter(named).for_each(|entry| add(entry, self.left[entry]));
        }
        let takes_all = matches!(
            doing.verb,
            Verb::Put
                | Verb::Blend
                | Verb::Stir
                | Verb::Boil(_)
                | Verb::Heat
                | Verb::Steep
                | Verb::Pour
        );
        if doing.everything && takes_all {
            let grouped = (0..self.entries.len()).any(|e| is_of_part(&self.entries[e], doing));
            let now = |e: &usize| {
                let out = |f: &Found| self.item(*e).ingredient.as_ref() == Some(&f.id);
                !matches!(self.kind(*e), Some(Kind::Ice | Kind::Soda))
                    && !doing.except.iter().any(out)
                    // What a later sentence names waits for it.
                    && self.claims[*e].is_none_or(|last| last <= self.now)
                    && (!grouped || is_of_part(&self.entries[*e], doing))
            };
            all_open.filter(now).for_each(|entry| add(entry, self.left[entry]));
        }
        all
    }

    /// The entry that a sentence means, of those that haven't gone in wholly.
    fn meant_by(&self, one: &uses::Use) -> Option<usize> {
        let of = |e: &usize| {
            self.item(*e).ingredient.as_deref() == Some(one.found.id.as_str())
                && self.left[*e] > 0.0
                && !self.item(*e).garnish
        };
        // Of two litres of water that are told one after the other the one is meant that is told here.
        let here =
            |e: &usize| self.entries[*e].told && one.tells && self.item(*e).words == one.words;
        // Of two lots of sugar that of the syrup is meant where the syrup is made.
        let near = |e: &usize| {
            // "a" is in "lemonade" too.
            let in_it = |text: &str, g: &str| text.len() > 2 && g.contains(text);
            let group = self.entries[*e].group.as_deref();
            group.is_some_and(|g| one.words.iter().any(|w| in_it(&w.text, g)))
        };
        let mut open = (0..self.entries.len()).filter(of);
        let found = open.clone().find(here).or_else(|| open.clone().find(near));
        found.or_else(|| open.next())
    }

    /// How much of an entry is meant by a share of it, as a part of the whole.
    fn share_of(&self, entry: usize, share: &Share, each: bool) -> f64 {
        let left = self.left[entry];
        match share {
            Share::All | Share::Rest => left,
            Share::Part(part) => part.min(left),
            Share::Some => 0.3_f64.min(left),
            Share::Amount(amount) => {
                let whole = self.whole(entry).filter(|whole| *whole > 0.0);
                let Some((part, whole)) = self.weight(entry, amount).zip(whole) else {
                    return left;
                };
                // "Top each with 200 ml", where the list has 800 ml.
                let times = whole * left / part;
                let shared_out =
                    each && (1.5..24.5).contains(&times) && (times - times.round()).abs() < 0.02;
                if shared_out { left } else { (part / whole).min(left) }
            }
        }
    }

    fn weight(&self, entry: usize, amount: &Amount) -> Option<f64> {
        self.cupboard.weigh(self.ingredient(entry)?, amount).ok().map(|w| w.grams.0)
    }

    fn whole(&self, entry: usize) -> Option<f64> {
        self.weight(entry, self.item(entry).amount.as_ref()?)
    }

    /// What was cut goes in with what is worked on next, unless a later sentence names it.
    fn put_prepared(&mut self, vessel: &str, it: bool) {
        for entry in std::mem::take(&mut self.prepared) {
            // "Peel the tamarind, cook it": it is what was peeled, whatever a later sentence says of its pulp.
            if (it || self.claims[entry].is_none_or(|last| last <= self.now))
                && !self.item(entry).garnish
                && !self.item(entry).fills
            {
                self.put(entry, self.left[entry], vessel);
            }
        }
    }

    /// Puts in what a doing names. What fills up waits for its line, but some of it may be needed before.
    fn put_all(&mut self, doing: &Doing, vessel: &str, line: Option<&Amount>) {
        // "Grate the ginger. Stir with the sugar": what was prepared is what is begun with.
        let begins =
            matches!(doing.verb, Verb::Stir | Verb::Put | Verb::Pour) && self.holding.is_empty();
        if begins
            || matches!(
                doing.verb,
                Verb::Blend | Verb::Boil(_) | Verb::Heat | Verb::Steep | Verb::Rub | Verb::Macerate
            )
        {
            self.put_prepared(vessel, doing.it);
        }
        let millilitres = |per: &Option<Amount>| per.as_ref().and_then(Amount::as_millilitres);
        for (entry, share) in self.about(doing) {
            let told = millilitres(&doing.per).filter(|_| self.entries[entry].told);
            let by = told.or_else(|| millilitres(&self.item(entry).per));
            if let Some(times) = by.map(|by| self.level_of(vessel) / by).filter(|t| *t > 0.1) {
                self.put_by_what_is_there(entry, times, vessel);
            } else if !self.item(entry).fills {
                let from = self.drink.steps.len();
                let guessed = doing.uses.iter().any(|u| u.share == Share::Some);
                // Boiling water that is poured over is boiling, whatever the list says.
                let poured = doing.poured.filter(|_| self.kind(entry) == Some(Kind::Water));
                self.put(entry, share, vessel);
                if let Some(poured) = poured
                    && let Some(Action::Add { warmth, .. }) =
                        self.drink.steps.last_mut().map(|s| &mut s.action)
                    && !(poured == Warmth::Hot && *warmth == Warmth::Boiling)
                {
                    *warmth = poured;
                    self.hot = true;
                }
                if guessed && self.drink.steps.len() > from {
                    self.guess(from, "We read “some” as a third.");
                }
            } else if doing.verb != Verb::TopUp {
                // A part of the water that fills up later: as the text says, or a quarter of the whole.
                let said = doing.uses.iter().find_map(|u| match &u.share {
                    Share::Amount(amount) if amount.as_millilitres().is_some() => {
                        Some(amount.clone())
                    }
                    _ => None,
                });
                let whole = line.and_then(Amount::as_millilitres).unwrap_or(2000.0);
                let guessed = said.is_none();
                let amount =
                    said.unwrap_or_else(|| Amount::millilitres(kitchen_round(whole * 0.25)));
                let Some(id) = self.item(entry).ingredient.clone() else { continue };
                let on_the_ring = matches!(doing.verb, Verb::Boil(_) | Verb::Heat);
                let warmth = doing.poured.filter(|_| !on_the_ring).unwrap_or(Warmth::Usual);
                self.push(Action::Add {
                    into: vessel.into(),
                    ingredient: id,
                    amount,
                    warmth,
                    cut: keen_core::drink::Cut::Usual,
                    portions: 1,
                });
                self.now_holds(vessel);
                if guessed {
                    self.guess(
                        self.drink.steps.len() - 1,
                        "The recipe doesn't say how much of the water: we used a quarter.",
                    );
                }
            }
        }
    }
}
