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
pub(super) struct Done<'a> {
    spent: Spent,
    /// The vessels that it changed, the main one last.
    touched: &'a [usize],
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
        weights: &'a [Weight],
        precedence: &'a Precedence,
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
    pub(super) fn step(&mut self, step: usize) -> Done<'a> {
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

    pub(super) fn carry_out(&mut self, step: usize, begins: Minutes) -> Done<'a> {
        let drink = self.drink;
        let action = &drink.steps[step].action;
        let spent = self.act(step, action);
        let touched = if spent.is_some() { self.precedence.path(step) } else { &[] };
        let spent = spent.unwrap_or(Spent::by_hand(0.0));
        // Serving and bottling are told for all glasses and bottles together.
        let told_for_all =
            matches!(action, Action::Serve { .. } | Action::Dress { .. } | Action::Bottle { .. });
        let spent = match touched.last() {
            Some(vessel) if !told_for_all => spent.for_alike(self.many[*vessel]),
            _ => spent,
        };
        let times = if spent.minutes > spent.hands_on { A_TIME } else { 1 };
        for vessel in touched {
            self.work += times * self.vessels[*vessel].parts() as u64;
            if !self.only_end {
                self.watch(*vessel);
            }
        }
        self.work += 4;
        self.worked_on.extend(touched);
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

    pub(super) fn frame(&mut self, step: usize, Done { spent, touched }: Done<'_>) -> Frame {
        Frame {
            step,
            touched: touched
                .iter()
                .map(|&vessel| Touched {
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

    /// Does one action on the vessels of its step, the main one last. Returns the time it took; nothing if there is
    /// nothing to do it with.
    fn act(&mut self, step: usize, action: &Action) -> Option<Spent> {
        let path = self.precedence.path(step);
        let (first, main) = (|| path.first().copied(), || path.last().copied());
        Some(match action {
            Action::Add { portions, .. } => {
                let pared = self.add(step, main()?)?;
                let portions = 0.5 * f64::from((*portions).max(1));
                Spent::by_hand(0.5 + portions + pared).after_the_kettle(self.kettle(step))
            }
            Action::Squeeze { .. } => {
                let (vessel, bowl) = path.split_last()?;
                self.squeeze(step, *vessel, bowl.first().copied())?
            }
            Action::Prepare { how, minutes, .. } => Self::prepare(*how, *minutes),
            Action::Macerate { minutes, how, place, .. } => {
                self.macerate(main()?, Minutes(*minutes), *how, *place)
            }
            Action::Dissolve { how, .. } => self.dissolve(main()?, *how),
            Action::Stir { until, .. } => self.stir(main()?, *until),
            Action::Mark { .. } => self.mark(main()?),
            Action::Heat { to_c, minutes, lid, until_clear, .. } => {
                let vessel = main()?;
                let clear = self.vessels[vessel].clear_at().filter(|_| *until_clear);
                let to = clear.map_or(Celsius(*to_c), |t| t.min(Celsius(*to_c)));
                self.heat(vessel, to, Minutes(*minutes), *lid)
            }
            Action::Boil { minutes, how, lid, .. } => {
                self.boil(main()?, Minutes(*minutes), *how, *lid)
            }
            Action::Reduce { to, how, .. } => self.reduce(step, main()?, to, *how),
            Action::Infuse { minutes, place, covered, .. } => {
                let place = Place { surrounding: (*place).into(), lid: *covered };
                self.infuse(main()?, Minutes(*minutes), place)
            }
            Action::Lift { .. } => {
                let ingredient = self.weights[step].ingredient?;
                self.lift(first()?, ingredient, main()?)
            }
            Action::Blend { seconds, .. } => {
                self.blend(main()?, *seconds);
                Spent::by_hand(1.0 + seconds / 60.0)
            }
            Action::Strain { press, .. } => {
                let &[from, through, into] = path else { return None };
                self.strain(from, through, into, *press)
            }
            Action::Rinse { press, .. } => {
                let &[vessel, ref through @ .., into] = path else { return None };
                self.rinse(step, vessel, through.first().copied(), into, *press)?
            }
            Action::Pour { portion, .. } => {
                self.pour(step, first()?, main()?, portion);
                Spent::by_hand(0.5)
            }
            Action::TopUp { to, .. } => {
                self.top_up(step, main()?, to)?;
                Spent::by_hand(0.5).after_the_kettle(self.kettle(step))
            }
            Action::Cover { above_mm, .. } => {
                self.cover(step, main()?, Millimetres(*above_mm))?;
                Spent::by_hand(0.5).after_the_kettle(self.kettle(step))
            }
            Action::Lengthen { parts, .. } => {
                let vessel = main()?;
                self.lengthen(step, vessel, *parts)?;
                Spent::by_hand(0.25 * self.many[vessel])
            }
            Action::Cool { to_c, place, covered, .. } => {
                self.cool(main()?, Celsius(*to_c), *place, *covered)
            }
            Action::Bottle { headspace, .. } => self.bottle(first()?, main()?, headspace),
            Action::Serve { glasses, size, .. } => {
                self.serve(first()?, main()?, Millilitres(size.as_millilitres()?));
                Spent::by_hand(0.25 * f64::from(*glasses))
            }
            Action::Dress { .. } => Spent::by_hand(0.3 * self.many[main()?]),
        })
    }

    fn mark(&mut self, vessel: usize) -> Spent {
        self.marks.push((vessel, self.vessels[vessel].level_at(MEASURED_AT)));
        Spent::by_hand(0.3)
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
