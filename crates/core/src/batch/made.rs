use std::collections::BTreeMap;

use super::{Happening, Said};
use crate::belief::{Measurement, Quantity};
use crate::cupboard::{Cupboard, VesselKind};
use crate::drink::{Action, Drink, FieldError, Maceration, Need, Portion, Precedence, Step};
use crate::drink::{Through, Vessel};
use crate::journal::{CantUndo, Journal};
use crate::quantity::Amount;
use crate::trace::Trace;

/// How far a step is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum StepState {
    /// Still to be done.
    Ahead,
    /// Its wait runs; since when, minutes.
    Running {
        /// When it was started.
        since: f64,
    },
    /// Done.
    Done {
        /// When it was started, if that was said.
        since: Option<f64>,
        /// When it was done.
        at: f64,
    },
}

/// A step of the drink as made.
#[derive(Debug, Clone, PartialEq)]
pub struct MadeStep {
    /// The step's id.
    pub id: String,
    /// The progress.
    pub state: StepState,
    /// Whether the drink doesn't say it: something put in besides, or poured away.
    pub besides: bool,
}

/// A drink as it was made so far, with what is ahead as it is written.
#[derive(Debug, Clone, PartialEq)]
pub struct Made {
    /// The drink, to be run.
    pub drink: Drink,
    /// One for each of its steps.
    pub steps: Vec<MadeStep>,
    /// What was read on the way.
    pub measurements: Vec<Measurement>,
    /// Whether it was said to be finished.
    pub finished: bool,
    /// What was read so far, while the story is still told.
    read: Vec<Read>,
    /// What steps gave, by their ids, while the story is still told.
    gave: BTreeMap<String, Amount>,
}

/// A reading, and the steps that its vessel had behind it then, the last first. By their ids: it stays where it was
/// taken when steps are moved, left out or added.
#[derive(Debug, Clone, PartialEq)]
struct Read {
    after: Vec<String>,
    measurement: Measurement,
}

/// What is poured away is poured into this vessel, which nobody looks at.
const AWAY: &str = "poured_away";
/// A wait that took within this share of what is written took as long as is written.
const AS_WRITTEN: f64 = 0.05;

impl Made {
    /// The drink as made from what was said, in its order. What was said of steps that are no longer there is
    /// passed over.
    #[must_use]
    pub fn of(drink: &Drink, said: &[Said], cupboard: &Cupboard) -> Self {
        let steps = drink.steps.iter().map(|step| MadeStep {
            id: step.id.clone(),
            state: StepState::Ahead,
            besides: false,
        });
        let mut made = Self {
            drink: drink.clone(),
            steps: steps.collect(),
            measurements: Vec::new(),
            finished: false,
            read: Vec::new(),
            gave: BTreeMap::new(),
        };
        for (id, said) in Journal::of(said).standing() {
            made.take(id, said, cupboard);
        }
        made.take_times();
        made.take_what_was_measured();
        made
    }

    /// A measurement counts, whatever else was said: juice that came out is what a step gave, however many fruits
    /// were used for it, and a reading is of its vessel at its place in the story, wherever the steps went since.
    fn take_what_was_measured(&mut self) {
        for (step, amount) in std::mem::take(&mut self.gave) {
            if let Some(i) = self.find(&step)
                && let Some(written) = self.drink.steps[i].action.amount_mut()
            {
                *written = amount;
            }
        }
        for Read { after, measurement } in std::mem::take(&mut self.read) {
            if let Some(step) = after.iter().find_map(|id| self.find(id)) {
                self.measurements.push(Measurement { step, ..measurement });
            }
        }
    }

    fn find(&self, step: &str) -> Option<usize> {
        self.steps.iter().position(|s| s.id == step)
    }

    fn take(&mut self, place: usize, Said { at, what }: &Said, cupboard: &Cupboard) {
        match what {
            Happening::Began { step } => {
                if let Some(i) = self.find(step)
                    && self.steps[i].state == StepState::Ahead
                {
                    self.steps[i].state = StepState::Running { since: *at };
                    self.waits_before_end(i, *at);
                }
            }
            Happening::Done { step } => {
                let Some(i) = self.find(step) else { return };
                let since = match self.steps[i].state {
                    StepState::Done { .. } => return,
                    StepState::Running { since } => Some(since),
                    StepState::Ahead => None,
                };
                self.steps[i].state = StepState::Done { since, at: *at };
                self.waits_before_end(i, *at);
            }
            Happening::Again { step } => {
                if let Some(i) = self.find(step) {
                    self.steps[i].state = StepState::Ahead;
                }
            }
            Happening::Used { step, amount } => {
                if let Some(i) = self.find(step)
                    && let Some(written) = self.drink.steps[i].action.amount_mut()
                {
                    *written = amount.clone();
                }
            }
            Happening::CameOut { step, amount } => self.came_out(step, amount),
            Happening::Reading { vessel, quantity, value, error } => {
                if let Some(measurement) = self.reading(vessel, *quantity, *value, *error) {
                    self.was_read(measurement);
                }
            }
            Happening::Added { vessel, ingredient, amount } => {
                if cupboard.ingredient(ingredient).is_some() {
                    let add = Action::add(vessel.clone(), ingredient.clone(), amount.clone());
                    self.besides(place, *at, vessel, add);
                }
            }
            Happening::PouredAway { vessel, volume } => {
                if self.drink.vessel(AWAY).is_none() {
                    let away = Vessel {
                        name: Some("the discarded volume".into()),
                        capacity: Some(Amount::millilitres(100_000.0)),
                        ..Vessel::new(AWAY, VesselKind::Bowl)
                    };
                    self.drink.vessels.push(away);
                }
                let portion = Portion::Volume(volume.clone());
                let pour = Action::Pour { from: vessel.clone(), into: AWAY.into(), portion };
                self.besides(place, *at, vessel, pour);
            }
            Happening::LeftOut { step } => {
                if let Some(i) = self.find(step) {
                    self.remove(i);
                }
            }
            Happening::Moved { step, before } => {
                if let (Some(from), Some(to)) = (self.find(step), self.find(before))
                    && to < from
                {
                    let (step, made) = (self.drink.steps.remove(from), self.steps.remove(from));
                    self.drink.steps.insert(to, step);
                    self.steps.insert(to, made);
                }
            }
            Happening::Finished { .. } => self.finished = true,
            Happening::Tasted { .. }
            | Happening::Note { .. }
            | Happening::TakenBack { .. }
            | Happening::Taught { .. } => {}
        }
    }

    /// With so much taken out of a vessel now.
    pub(super) fn without(&self, vessel: &str, volume: &Amount, cupboard: &Cupboard) -> Self {
        let mut less = self.clone();
        let what = Happening::PouredAway { vessel: vessel.to_owned(), volume: volume.clone() };
        less.take(usize::MAX, &Said { at: 0.0, what }, cupboard);
        less
    }

    /// Who goes on with a vessel has ended what waited in it.
    fn waits_before_end(&mut self, step: usize, at: f64) {
        let path = self.drink.steps[step].action.path();
        for (earlier, made) in self.drink.steps[..step].iter().zip(&mut self.steps) {
            let shares = earlier.action.path().iter().any(|v| path.contains(v));
            if let StepState::Running { since } = made.state
                && shares
            {
                made.state = StepState::Done { since: Some(since), at };
            }
        }
    }

    fn remove(&mut self, at: usize) {
        self.drink.steps.remove(at);
        self.steps.remove(at);
    }

    /// Notes a reading, and which steps of its vessel were done by then.
    fn was_read(&mut self, measurement: Measurement) {
        let vessel = self.drink.vessels[measurement.vessel].id.as_str();
        let on_it = |i: &usize| self.drink.steps[*i].action.path().contains(&vessel);
        let after: Vec<String> = (0..=measurement.step)
            .rev()
            .filter(|i| *i == measurement.step || on_it(i))
            .map(|i| self.drink.steps[i].id.clone())
            .collect();
        self.read.push(Read { after, measurement });
    }

    /// Juice that was squeezed is what the step then says; what any other step gave is a reading.
    fn came_out(&mut self, step: &str, amount: &Amount) {
        let Some(i) = self.find(step) else { return };
        let (volume, weight) = (amount.as_millilitres(), amount.as_grams());
        if matches!(self.drink.steps[i].action, Action::Squeeze { .. }) {
            if volume.is_some() || weight.is_some() {
                self.gave.insert(step.to_owned(), amount.clone());
            }
            return;
        }
        let path = self.drink.steps[i].action.path();
        let Some(vessel) = path.last().and_then(|id| self.drink.vessel(id)) else { return };
        let read = volume
            .map(|ml| (Quantity::Volume, ml))
            .or(weight.map(|grams| (Quantity::Weight, grams)));
        if let Some((quantity, value)) = read {
            self.was_read(Measurement::new(i, vessel, quantity, value));
        }
    }

    /// The last step that was started or done on a vessel.
    pub(super) fn last_on(&self, vessel: usize) -> Option<usize> {
        let id = &self.drink.vessels[vessel].id;
        (0..self.steps.len()).rev().find(|i| {
            self.steps[*i].state != StepState::Ahead
                && self.drink.steps[*i].action.path().contains(&id.as_str())
        })
    }

    /// Puts something in that the drink doesn't say: after the last thing that was done on the vessel, or
    /// before everything else.
    fn besides(&mut self, place: usize, at: f64, vessel: &str, action: Action) {
        let Some(index) = self.drink.vessel(vessel) else { return };
        let to = self.last_on(index).map_or(0, |i| i + 1);
        let id = format!("said-{place}");
        self.drink.steps.insert(to, Step::new(id.clone(), action));
        let state = StepState::Done { since: None, at };
        self.steps.insert(to, MadeStep { id, state, besides: true });
    }

    /// Waits that are over took as long as they took.
    fn take_times(&mut self) {
        for (made, step) in self.steps.iter().zip(&mut self.drink.steps) {
            let StepState::Done { since: Some(since), at } = made.state else { continue };
            let took = (at - since).max(0.0);
            if let Action::Infuse { minutes, .. }
            | Action::Macerate { minutes, how: Maceration::Left, .. } = &mut step.action
                && (took - *minutes).abs() > AS_WRITTEN * *minutes
            {
                *minutes = took;
            }
        }
    }

    /// A reading as it would be believed now; `None` for a vessel in which nothing has been done, or
    /// something is going on.
    #[must_use]
    pub fn reading(
        &self,
        vessel: &str,
        quantity: Quantity,
        value: f64,
        error: Option<f64>,
    ) -> Option<Measurement> {
        let vessel = self.drink.vessel(vessel)?;
        let step = self.last_on(vessel)?;
        // While it draws or cools, what is run is how it will be at the end of that.
        if matches!(self.steps[step].state, StepState::Running { .. }) {
            return None;
        }
        let usual = Measurement::new(step, vessel, quantity, value);
        Some(Measurement { error: error.unwrap_or(usual.error), ..usual })
    }

    /// The first step that is still to be done.
    #[must_use]
    pub fn next(&self) -> Option<usize> {
        self.steps.iter().position(|s| s.state == StepState::Ahead)
    }

    /// Whether a happening can be said now, at that time; if not, why.
    ///
    /// # Errors
    /// Names the field: a step or vessel that isn't there, one whose turn it isn't, a time that has not come, a
    /// reading that no instrument can give.
    pub fn allows(
        &self,
        what: &Happening,
        so_far: &[Said],
        at: f64,
        now: f64,
        cupboard: &Cupboard,
    ) -> Result<(), FieldError> {
        if !at.is_finite() || at > now + 1.0 {
            return Err(FieldError::new("at", "That time is in the future. Check the clock."));
        }
        let afterwards = matches!(
            what,
            Happening::Note { .. } | Happening::TakenBack { .. } | Happening::Taught { .. }
        );
        if self.finished && !afterwards {
            return Err(FieldError::new("what", "This batch is finished. Undo that first."));
        }
        match what {
            Happening::Began { step } | Happening::Done { step } => {
                self.allows_doing(step, cupboard)
            }
            Happening::Again { step } => self.step_of(step).map(|_| ()),
            Happening::LeftOut { step } => match self.steps[self.step_of(step)?].state {
                StepState::Ahead => Ok(()),
                _ => Err(FieldError::new("what.step", "This step is done. Undo it first.")),
            },
            Happening::Moved { step, before } => {
                let (from, to) = (self.step_of(step)?, self.step_of(before)?);
                if to < from && self.steps[to].state == StepState::Ahead {
                    return Ok(());
                }
                let message = "You can only move it before a step that isn't done yet.";
                Err(FieldError::new("what.before", message))
            }
            Happening::Used { step, amount } => self.allows_use(step, amount, cupboard),
            Happening::CameOut { step, amount } => {
                let found = amount.as_millilitres().or(amount.as_grams());
                let some = found.is_some_and(|v| (0.0..=500_000.0).contains(&v));
                self.step_of(step)?;
                some.then_some(()).ok_or_else(|| {
                    FieldError::new("what.amount", "Enter a volume or a weight, such as 180 ml.")
                })
            }
            Happening::Reading { vessel, quantity, value, error } => {
                self.allows_reading(vessel, *quantity, *value, *error, cupboard)
            }
            Happening::Added { vessel, ingredient, amount } => {
                let index = self.vessel_of(vessel)?;
                let mut tried = self.clone();
                let add = Action::add(vessel.clone(), ingredient.clone(), amount.clone());
                tried.besides(usize::MAX, at, &self.drink.vessels[index].id, add);
                first(tried.drink.check(cupboard), "what.amount")
            }
            Happening::PouredAway { vessel, volume } => {
                self.vessel_of(vessel)?;
                if volume.as_millilitres().is_some_and(|ml| ml > 0.0 && ml <= 500_000.0) {
                    return Ok(());
                }
                Err(FieldError::new("what.volume", "Enter a volume, such as 100 ml."))
            }
            Happening::Tasted { vessel, words } => {
                self.vessel_of(vessel)?;
                text("what.words", words)
            }
            Happening::Note { text: note, by } => {
                text("what.text", note)?;
                text("what.by", by)
            }
            Happening::TakenBack { of } => may_undo(*of, so_far),
            Happening::Finished { place, note, bottles, volume } => {
                allows_end(place, note, *bottles, volume.as_ref())
            }
            Happening::Taught { .. } if self.finished => Ok(()),
            Happening::Taught { .. } => Err(FieldError::new("what", "Finish the batch first.")),
        }
    }

    /// A step is done after what it needs.
    fn allows_doing(&self, step: &str, cupboard: &Cupboard) -> Result<(), FieldError> {
        let Some(before) = self.in_the_way(self.step_of(step)?, cupboard) else { return Ok(()) };
        let first = crate::report::sentence(&self.drink, &self.drink.steps[before], cupboard);
        Err(FieldError::new("what.step", format!("Do this first: {first}")))
    }

    /// A step by its id, or that there is none.
    fn step_of(&self, id: &str) -> Result<usize, FieldError> {
        let message = || format!("There is no step “{}” in this batch.", short(id));
        self.find(id).ok_or_else(|| FieldError::new("what.step", message()))
    }

    /// A vessel by its id, or that there is none.
    fn vessel_of(&self, id: &str) -> Result<usize, FieldError> {
        let message = || format!("There is no vessel “{}” in this batch.", short(id));
        self.drink.vessel(id).ok_or_else(|| FieldError::new("what.vessel", message()))
    }

    /// Another amount of a step's ingredient is one that the drink could have.
    fn allows_use(
        &self,
        step: &str,
        amount: &Amount,
        cupboard: &Cupboard,
    ) -> Result<(), FieldError> {
        let mut tried = self.drink.clone();
        let place = tried.steps[self.step_of(step)?].action.amount_mut();
        *place.ok_or_else(|| FieldError::new("what.step", "This step has no amount."))? =
            amount.clone();
        first(tried.check(cupboard), "what.amount")
    }

    /// A reading is one that an instrument can give, of something that is there.
    fn allows_reading(
        &self,
        vessel: &str,
        quantity: Quantity,
        value: f64,
        error: Option<f64>,
        cupboard: &Cupboard,
    ) -> Result<(), FieldError> {
        let index = self.vessel_of(vessel)?;
        let (least, most) = quantity.range();
        if !(least..=most).contains(&value) {
            let unit = quantity.unit();
            let message = format!("{value} {unit} isn't possible. Enter {least} to {most} {unit}.");
            return Err(FieldError::new("what.value", message));
        }
        if error.is_some_and(|e| !e.is_finite() || e <= 0.0) {
            return Err(FieldError::new("what.error", "Enter an error above 0."));
        }
        let there = match self.reading(vessel, quantity, value, error) {
            Some(m) => m.in_run(&self.drink, &Trace::run(&self.drink, cupboard)),
            // What is going on is kept, and not believed.
            None => self.last_on(index).map(|_| value),
        };
        if there.is_some() {
            return Ok(());
        }
        let the = self.drink.in_sentence(index);
        Err(FieldError::new("what.vessel", format!("There is nothing in {the} to measure yet.")))
    }

    /// What has to be done on its vessels before a step, and is still ahead. Fruit that nobody said was washed stops
    /// nobody.
    fn in_the_way(&self, step: usize, cupboard: &Cupboard) -> Option<usize> {
        let precedence = Precedence::of(&self.drink, cupboard);
        let ahead = |need: &&Need| {
            matches!(need.through, Through::Vessel(_))
                && self.steps[need.step].state == StepState::Ahead
        };
        precedence.needs(step).iter().filter(ahead).map(|need| need.step).min()
    }

    /// Whether a step is ahead, and all that comes before it is done.
    pub(super) fn is_ready(&self, step: usize, precedence: &Precedence) -> bool {
        let undone = |at: usize| !matches!(self.steps[at].state, StepState::Done { .. });
        // Glasses are for when all the rest is done: nobody puts ice into them the evening before.
        let glass = |vessel: &usize| self.drink.vessels[*vessel].kind == VesselKind::Glass;
        let in_glasses = precedence.path(step).iter().any(glass);
        self.steps[step].state == StepState::Ahead
            && !precedence.needs(step).iter().any(|need| undone(need.step))
            && !(in_glasses && (0..step).any(undone))
    }
}

/// What is undone is there, and is no undoing.
fn may_undo(of: usize, so_far: &[Said]) -> Result<(), FieldError> {
    let why = match Journal::of(so_far).may_undo(of) {
        Ok(_) => return Ok(()),
        Err(CantUndo::NotThere) => "There is no such entry in this batch.",
        Err(CantUndo::IsAnUndo) => "This entry was undone. Add it again instead.",
    };
    Err(FieldError::new("what.of", why))
}

fn allows_end(
    place: &str,
    note: &str,
    bottles: Option<u32>,
    volume: Option<&Amount>,
) -> Result<(), FieldError> {
    text("what.place", place)?;
    text("what.note", note)?;
    if bottles.is_some_and(|b| b == 0 || b > 1000) {
        return Err(FieldError::new("what.bottles", "Enter 1 to 1000 bottles."));
    }
    let ml = volume.map(Amount::as_millilitres);
    if ml.is_some_and(|ml| !ml.is_some_and(|ml| (1.0..=500_000.0).contains(&ml))) {
        return Err(FieldError::new("what.volume", "Enter a volume, such as 1.2 l."));
    }
    Ok(())
}

fn first(faults: Vec<FieldError>, field: &str) -> Result<(), FieldError> {
    faults.into_iter().next().map_or(Ok(()), |f| Err(FieldError::new(field, f.message)))
}

fn text(field: &str, text: &str) -> Result<(), FieldError> {
    if text.chars().count() > 2000 || text.chars().any(|c| c.is_control() && c != '\n') {
        return Err(FieldError::new(
            field,
            "Enter up to 2000 characters, without control characters.",
        ));
    }
    Ok(())
}

fn short(text: &str) -> String {
    text.chars().take(60).collect()
}
