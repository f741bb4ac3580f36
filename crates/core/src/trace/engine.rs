//! The engine: what the kitchen looks like while a drink is run, and which move each action is.

use super::clock::Clocks;
use super::contents::Contents;
use super::frames::{Frame, Line, Outcome, Touched, Trace};
use super::heat::MEASURED_AT;
use super::notice::{Notice, NoticeKind as Kind};
use super::nudge::Nudges;
use super::spent::{Place, Spent};
use super::weights::Weight;
use crate::chemistry::Mixture;
use crate::cupboard::{Cupboard, VesselKind};
use crate::drink::{Action, Drink, Precedence, Vessel};
use crate::quantity::{Amount, Celsius, Millilitres, Millimetres, Minutes};

/// What lies in a vessel while time passes is gone through in small parts of it: so much more [work] than what is only
/// added to it.
///
/// [work]: crate::work::Work
pub(super) const A_TIME: u64 = 7;

pub(super) struct Engine<'a> {
    pub(super) drink: &'a Drink,
    pub(super) cupboard: &'a Cupboard,
    pub(super) weights: &'a [Weight],
    precedence: &'a Precedence,
    clocks: Clocks,
    pub(super) nudges: Nudges<'a>,
    /// The step that is being done.
    pub(super) at: usize,
    pub(super) vessels: Vec<Contents>,
    /// How many alike each vessel stands for.
    pub(super) many: Vec<f64>,
    pub(super) lines: Vec<Line>,
    notices: Vec<Notice>,
    /// What was said of which vessel already, where once is enough.
    told: Vec<(usize, Kind)>,
    pub(super) gone: Mixture,
    pub(super) water_line: Option<Millimetres>,
    /// Lines that were marked on vessels.
    pub(super) marks: Vec<(usize, Millilitres)>,
    pub(super) served: Option<Served>,
    /// The vessels that were worked on, in order.
    worked_on: Vec<usize>,
    /// Whether only the end is wanted: nobody reads the notices then.
    pub(super) only_end: bool,
    pub(super) work: u64,
}

/// A step that has been done.
pub(super) struct Done {
    spent: Spent,
    /// The vessels that it changed, the main one last.
    touched: Vec<usize>,
}

/// How the drink was served.
pub(super) struct Served {
    pub(super) glass: usize,
    pub(super) from: usize,
    pub(super) size: Millilitres,
    /// What went into each.
    pub(super) each: Millilitres,
    pub(super) ready: Millilitres,
}

impl<'a> Engine<'a> {
    /// The engine before the first step of a drink, with what stands in its vessels already.
    pub(super) fn new(
        drink: &'a Drink,
        cupboard: &'a Cupboard,
        (weights, precedence): (&'a [Weight], &'a Precedence),
        nudges: Nudges<'a>,
        start: Vec<(usize, Contents)>,
    ) -> Self {
        let mut engine = Self {
            drink,
            cupboard,
            weights,
            precedence,
            clocks: Clocks::new(drink.vessels.len()),
            nudges,
            at: 0,
            vessels: drink.vessels.iter().map(|v| Contents::default().standing_in(v)).collect(),
            many: drink.vessels.iter().map(|v| f64::from(drink.glasses_in(&v.id))).collect(),
            lines: Vec::new(),
            notices: Vec::new(),
            told: Vec::new(),
            gone: Mixture::EMPTY,
            water_line: None,
            marks: Vec::new(),
            served: None,
            worked_on: Vec::with_capacity(drink.steps.len() + 1),
            only_end: false,
            work: 0,
        };
        for (vessel, contents) in start {
            engine.vessels[vessel] = contents.standing_in(&drink.vessels[vessel]);
            engine.worked_on.push(vessel);
        }
        engine
    }

    /// What the run leaves.
    pub(super) fn ended(self, frames: Vec<Frame>) -> Trace {
        Trace {
            frames,
            outcome: self.outcome(),
            lines: self.lines,
            many: self.many,
            minutes: self.clocks.whole(),
            work: self.work,
        }
    }

    /// Does a step, when its vessels and the cook are free for it.
    pub(super) fn step(&mut self, step: usize) -> Done {
        let begins = self.wait_for(step);
        self.carry_out(step, begins)
    }

    /// Lets the vessels of a step stand until it begins, and tells when that is.
    pub(super) fn wait_for(&mut self, step: usize) -> Minutes {
        self.at = step;
        let path = self.precedence.path(step);
        let begins = self.clocks.begin(path);
        for vessel in path {
            self.stand_aside(*vessel, begins);
        }
        begins
    }

    pub(super) fn carry_out(&mut self, step: usize, begins: Minutes) -> Done {
        let drink = self.drink;
        let action = &drink.steps[step].action;
        let (spent, touched) = self.act(step, action).unwrap_or((Spent::by_hand(0.0), Vec::new()));
        // Serving and bottling are told for all glasses and bottles together.
        let told_for_all =
            matches!(action, Action::Serve { .. } | Action::Dress { .. } | Action::Bottle { .. });
        let spent = match touched.last() {
            Some(vessel) if !told_for_all => spent.for_alike(self.many[*vessel]),
            _ => spent,
        };
        let times = if spent.minutes > spent.hands_on { A_TIME } else { 1 };
        for vessel in &touched {
            self.work += times * self.vessels[*vessel].parts() as u64;
            if !self.only_end {
                self.watch(*vessel);
            }
        }
        self.work += 4;
        self.worked_on.extend(&touched);
        self.clocks.done(step, self.precedence, begins, &spent);
        Done { spent, touched }
    }

    /// Lets a vessel stand where it is until a step begins on it.
    fn stand_aside(&mut self, vessel: usize, begins: Minutes) {
        let (minutes, place) = self.clocks.stood(vessel, begins);
        if minutes.0 <= 0.0 || self.vessels[vessel].is_empty() {
            return;
        }
        let it = self.vessel(vessel);
        let lid = place.lid || it.kind == VesselKind::Bottle;
        let surrounding = place.surrounding.slower(self.cooling_luck());
        self.work += A_TIME * self.vessels[vessel].parts() as u64;
        let gone = self.vessels[vessel].stand(it, surrounding, minutes, lid);
        self.goes_off(vessel, &gone);
    }

    pub(super) fn frame(&mut self, step: usize, Done { spent, touched }: Done) -> Frame {
        Frame {
            step,
            touched: touched
                .into_iter()
                .map(|vessel| Touched {
                    vessel,
                    contents: self.vessels[vessel].clone(),
                    many: self.many[vessel],
                })
                .collect(),
            gone: std::mem::take(&mut self.gone),
            minutes: spent.minutes,
            hands_on: spent.hands_on,
            water_line: self.water_line.take(),
            notices: std::mem::take(&mut self.notices),
        }
    }

    pub(super) fn notice(&mut self, kind: Kind, message: String) {
        if !self.only_end {
            self.notices.push(Notice::new(kind, message));
        }
    }

    /// Says something of a vessel, but not twice.
    pub(super) fn notice_once(&mut self, vessel: usize, kind: Kind, message: String) {
        if !self.told.contains(&(vessel, kind)) {
            self.told.push((vessel, kind));
            self.notice(kind, message);
        }
    }

    /// Whether that has been said of any vessel.
    pub(super) fn has_told(&self, kind: Kind) -> bool {
        self.told.iter().any(|(_, told)| *told == kind)
    }

    pub(super) fn vessel(&self, index: usize) -> &'a Vessel {
        &self.drink.vessels[index]
    }

    /// A vessel at the beginning of a sentence.
    pub(super) fn subject(&self, index: usize) -> String {
        self.drink.at_start(index)
    }

    /// Says that there is nothing to do something with, if there isn't.
    pub(super) fn is_empty(&mut self, vessel: usize, to_do: &str) -> bool {
        let empty = self.vessels[vessel].is_empty();
        if empty {
            let the = self.subject(vessel);
            self.notice(
                Kind::NothingThere,
                format!("{the} is empty, so there is nothing to {to_do}."),
            );
        }
        empty
    }

    pub(super) fn hold_luck(&self) -> f64 {
        self.nudges.hold.filter(|_| self.at >= self.nudges.hold_from).unwrap_or(1.0)
    }

    /// How many times as long cooling takes.
    pub(super) fn cooling_luck(&self) -> f64 {
        self.nudges.cooling.unwrap_or(1.0) * self.cupboard.cooling()
    }

    pub(super) fn boil_off_nudge(&self) -> Option<f64> {
        self.nudges.boil_off
    }

    /// A temperature as the kitchen is told it.
    pub(super) fn say_warmth(&self, t: Celsius) -> String {
        self.cupboard.saying().degrees.say_whole(t.0)
    }

    /// What goes off, from all glasses or bottles that a vessel stands for.
    pub(super) fn goes_off(&mut self, vessel: usize, gone: &Mixture) {
        self.gone += gone.share(self.many[vessel]);
    }

    /// Does one action. Returns the time it took and the vessels it changed, the main one last.
    fn act(&mut self, step: usize, action: &Action) -> Option<(Spent, Vec<usize>)> {
        let find = |id: &str| self.drink.vessel(id);
        match action {
            Action::Add { into, portions, .. } => {
                let vessel = find(into)?;
                let pared = self.add(step, vessel)?;
                let portions = 0.5 * f64::from((*portions).max(1));
                let spent = Spent::by_hand(0.5 + portions + pared);
                Some((spent.after_the_kettle(self.kettle(step)), vec![vessel]))
            }
            Action::Squeeze { into, halves_into, .. } => {
                let vessel = find(into)?;
                let bowl = halves_into.as_deref().and_then(find);
                let spent = self.squeeze(step, vessel, bowl)?;
                Some((spent, bowl.into_iter().chain([vessel]).collect()))
            }
            Action::Prepare { how, minutes, .. } => {
                Some((Self::prepare(*how, *minutes), Vec::new()))
            }
            Action::Macerate { vessel, minutes, how, place } => {
                let vessel = find(vessel)?;
                Some((self.macerate(vessel, Minutes(*minutes), *how, *place), vec![vessel]))
            }
            Action::Dissolve { vessel, how } => {
                let vessel = find(vessel)?;
                Some((self.dissolve(vessel, *how), vec![vessel]))
            }
            Action::Stir { vessel, until } => {
                let vessel = find(vessel)?;
                Some((self.stir(vessel, *until), vec![vessel]))
            }
            Action::Mark { vessel } => {
                let vessel = find(vessel)?;
                self.marks.push((vessel, self.vessels[vessel].level_at(MEASURED_AT)));
                Some((Spent::by_hand(0.3), vec![vessel]))
            }
            Action::Heat { vessel, to_c, minutes, lid, until_clear } => {
                let vessel = find(vessel)?;
                let clear = self.vessels[vessel].clear_at().filter(|_| *until_clear);
                let to = clear.map_or(Celsius(*to_c), |t| t.min(Celsius(*to_c)));
                Some((self.heat(vessel, to, Minutes(*minutes), *lid), vec![vessel]))
            }
            Action::Boil { vessel, minutes, how, lid } => {
                let vessel = find(vessel)?;
                Some((self.boil(vessel, Minutes(*minutes), *how, *lid), vec![vessel]))
            }
            Action::Reduce { vessel, to, how } => {
                let vessel = find(vessel)?;
                Some((self.reduce(step, vessel, to, *how), vec![vessel]))
            }
            Action::Infuse { vessel, minutes, place, covered } => {
                let vessel = find(vessel)?;
                let place = Place { surrounding: (*place).into(), lid: *covered };
                Some((self.infuse(vessel, Minutes(*minutes), place), vec![vessel]))
            }
            Action::Lift { from, into, .. } => {
                let (from, into) = (find(from)?, find(into)?);
                let ingredient = self.weights[step].ingredient?;
                Some((self.lift(from, ingredient, into), vec![from, into]))
            }
            Action::Blend { vessel, seconds } => {
                let vessel = find(vessel)?;
                self.blend(vessel, *seconds);
                Some((Spent::by_hand(1.0 + seconds / 60.0), vec![vessel]))
            }
            Action::Strain { from, through, into, press } => {
                let (from, through, into) = (find(from)?, find(through)?, find(into)?);
                Some((self.strain(from, through, into, *press), vec![from, through, into]))
            }
            Action::Rinse { vessel, through, into, press, .. } => {
                let (vessel, into) = (find(vessel)?, find(into)?);
                let through = through.as_deref().and_then(find);
                let spent = self.rinse(step, vessel, through, into, *press)?;
                Some((spent, [vessel].into_iter().chain(through).chain([into]).collect()))
            }
            Action::Pour { from, into, portion } => {
                let (from, into) = (find(from)?, find(into)?);
                self.pour(step, from, into, portion);
                Some((Spent::by_hand(0.5), vec![from, into]))
            }
            Action::TopUp { vessel, to, .. } => {
                let vessel = find(vessel)?;
                self.top_up(step, vessel, to)?;
                let spent = Spent::by_hand(0.5);
                Some((spent.after_the_kettle(self.kettle(step)), vec![vessel]))
            }
            Action::Cover { vessel, above_mm, .. } => {
                let vessel = find(vessel)?;
                self.cover(step, vessel, Millimetres(*above_mm))?;
                let spent = Spent::by_hand(0.5);
                Some((spent.after_the_kettle(self.kettle(step)), vec![vessel]))
            }
            Action::Lengthen { vessel, parts, .. } => {
                let vessel = find(vessel)?;
                self.lengthen(step, vessel, *parts)?;
                Some((Spent::by_hand(0.25 * self.many[vessel]), vec![vessel]))
            }
            Action::Cool { vessel, to_c, place, covered } => {
                let vessel = find(vessel)?;
                Some((self.cool(vessel, Celsius(*to_c), *place, *covered), vec![vessel]))
            }
            Action::Bottle { from, bottle, headspace } => {
                let (from, bottle) = (find(from)?, find(bottle)?);
                Some((self.bottle(from, bottle, headspace), vec![from, bottle]))
            }
            Action::Serve { from, glass, glasses, size } => {
                let (from, glass) = (find(from)?, find(glass)?);
                self.serve(from, glass, Millilitres(size.as_millilitres()?));
                Some((Spent::by_hand(0.25 * f64::from(*glasses)), vec![from, glass]))
            }
            Action::Dress { glass, .. } => {
                let glass = find(glass)?;
                Some((Spent::by_hand(0.3 * self.many[glass]), vec![glass]))
            }
        }
    }

    /// How many times the amount of a step is meant.
    pub(super) fn nudge(&self, step: usize) -> f64 {
        self.nudges.amounts.get(step).copied().unwrap_or(1.0)
    }

    /// A volume that a step speaks of.
    pub(super) fn said(&self, step: usize, amount: &Amount) -> Option<Millilitres> {
        Some(Millilitres(self.drink.without_parts(amount).as_millilitres()?) * self.nudge(step))
    }

    /// What the drink has become, seen from its end.
    pub(super) fn outcome(&self) -> Option<Outcome> {
        if let Some(served) = &self.served {
            let contents = self.vessels[served.glass].clone();
            if contents.is_empty() {
                return None;
            }
            let glasses = self.many[served.glass];
            return Some(Outcome {
                vessel: served.glass,
                glasses,
                volume: contents.as_drunk().volume(MEASURED_AT) * glasses,
                size: Some(served.size),
                from: Some(served.from),
                ready: served.ready,
                served: true,
                contents,
            });
        }
        // Where the drink is when no step serves it: the vessel that last had liquid put into it.
        let holds = |v: &usize| {
            self.drink.vessels[*v].kind.strainer().is_none()
                && (self.vessels[*v].liquid.mass().0 > 0.0 || self.vessels[*v].is_frozen_through())
        };
        let vessel = self
            .worked_on
            .iter()
            .rev()
            .copied()
            .find(holds)
            .filter(|v| !self.vessels[*v].is_empty())?;
        // What is frozen hard is told as it will be once it has thawed.
        let contents = match &self.vessels[vessel] {
            frozen if frozen.is_frozen_through() => frozen.thawed(),
            contents => contents.clone(),
        };
        let glasses = self.many[vessel];
        let each = contents.as_drunk().volume(MEASURED_AT);
        let volume = each * glasses;
        // A drink that is made in the glass is served as it stands.
        let in_glass = self.drink.vessels[vessel].kind == VesselKind::Glass;
        Some(Outcome {
            vessel,
            glasses,
            volume,
            size: in_glass.then_some(each),
            from: None,
            ready: volume,
            served: in_glass,
            contents,
        })
    }
}
