use super::clock::{Clocks, Place};
use super::contents::{Coming, Contents};
use super::frames::{Frame, Landing, Line, Outcome, Touched, Trace};
use super::heat::{MEASURED_AT, kettle_time};
use super::notice::{Notice, NoticeKind as Kind};
use super::nudge::{Luck, Nudges};
use crate::chemistry::Mixture;
use crate::cupboard::{Cupboard, Form, Ingredient, MAX_LINE, VesselKind, Weighed};
use crate::drink::{Action, Cut, Drink, Step, Vessel, Warmth};
use crate::quantity::{Amount, Celsius, Grams, Millilitres, Millimetres, Minutes};

/// A drink with its amounts weighed, ready to be run again and again.
#[derive(Debug, Clone)]
pub struct Prepared<'a> {
    pub(super) drink: &'a Drink,
    pub(super) cupboard: &'a Cupboard,
    weights: Vec<Weight>,
    /// The vessels of each step, in the order in which things flow.
    paths: Vec<Vec<usize>>,
}

/// What a step's ingredient and amount come to.
#[derive(Debug, Clone, Default)]
struct Weight {
    ingredient: Option<usize>,
    weighed: Option<Result<Weighed, String>>,
}

pub(super) struct Engine<'a> {
    pub(super) drink: &'a Drink,
    pub(super) cupboard: &'a Cupboard,
    weights: &'a [Weight],
    paths: &'a [Vec<usize>],
    clocks: Clocks,
    nudges: Nudges<'a>,
    /// The step that is being done.
    pub(super) at: usize,
    pub(super) vessels: Vec<Contents>,
    /// How many alike each vessel stands for.
    pub(super) many: Vec<f64>,
    lines: Vec<Line>,
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
    only_end: bool,
    pub(super) work: u64,
}

/// A step that has been done.
struct Done {
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

/// How long a step takes, and how much of it is handwork.
pub(super) struct Spent {
    pub(super) minutes: Minutes,
    pub(super) hands_on: Minutes,
    /// Where its vessels stand afterwards, if not open on the worktop.
    pub(super) place: Option<Place>,
}

impl Spent {
    pub(super) fn by_hand(minutes: f64) -> Self {
        Self { minutes: Minutes(minutes), hands_on: Minutes(minutes), place: None }
    }

    /// The kettle boils first, by itself.
    fn after_the_kettle(self, boils: Minutes) -> Self {
        Self { minutes: self.minutes + boils, ..self }
    }

    pub(super) fn waiting(minutes: Minutes) -> Self {
        Self { minutes, hands_on: minutes.min(Minutes(1.0)), place: None }
    }

    pub(super) fn standing(self, place: Place) -> Self {
        Self { place: Some(place), ..self }
    }

    /// On the ring: someone stirs now and then, a fifth of the time. Estimate.
    pub(super) fn at_the_stove(minutes: Minutes) -> Self {
        let hands_on = (minutes * 0.2).max(Minutes(1.0)).min(minutes);
        Self { minutes, hands_on, place: None }
    }
}

impl<'a> Prepared<'a> {
    /// Looks up and weighs what the drink names.
    #[must_use]
    pub fn new(drink: &'a Drink, cupboard: &'a Cupboard) -> Self {
        let weights = drink
            .steps
            .iter()
            .map(|step| {
                let id = step.action.ingredient();
                let ingredient = id.and_then(|id| cupboard.position(id));
                let weighed = ingredient.zip(step.action.brings()).and_then(|(index, brought)| {
                    let amount = drink.without_parts(brought.amount.filter(|_| !brought.line)?);
                    let it = &cupboard.ingredients()[index];
                    Some(cupboard.weigh(it, &amount).map_err(|unknown| unknown.to_string()))
                });
                Weight { ingredient, weighed }
            })
            .collect();
        let path = |step: &Step| {
            step.action.path().into_iter().filter_map(|id| drink.vessel(id)).collect()
        };
        let paths = drink.steps.iter().map(path).collect();
        Self { drink, cupboard, weights, paths }
    }

    /// The drink.
    #[must_use]
    pub fn drink(&self) -> &'a Drink {
        self.drink
    }

    /// The cupboard that it is made from.
    #[must_use]
    pub fn cupboard(&self) -> &'a Cupboard {
        self.cupboard
    }

    /// Runs the drink, with a difference.
    #[must_use]
    pub fn run(&self, nudges: Nudges<'_>) -> Trace {
        self.run_from(nudges, Vec::new())
    }

    /// Runs it from vessels that hold something already.
    #[must_use]
    pub(crate) fn run_from(&self, nudges: Nudges<'_>, start: Vec<(usize, Contents)>) -> Trace {
        let mut engine = self.engine(nudges, start);
        let frames: Vec<Frame> = (0..self.drink.steps.len())
            .map(|step| {
                let done = engine.step(step);
                engine.frame(step, done)
            })
            .collect();
        let outcome = engine.outcome();
        Trace {
            frames,
            lines: engine.lines,
            many: engine.many,
            outcome,
            minutes: engine.clocks.whole(),
            work: engine.work,
        }
    }

    /// Runs it from vessels that hold something already, for its end alone. It is the same run; only
    /// the frames are not kept, which take longer than the steps.
    pub(crate) fn land(&self, nudges: Nudges<'_>, start: Vec<(usize, Contents)>) -> Landing {
        let mut engine = self.engine(nudges, start);
        engine.only_end = true;
        for step in 0..self.drink.steps.len() {
            engine.step(step);
        }
        Landing { outcome: engine.outcome(), work: engine.work }
    }

    fn engine<'b>(&'b self, nudges: Nudges<'b>, start: Vec<(usize, Contents)>) -> Engine<'b> {
        let mut engine = Engine {
            drink: self.drink,
            cupboard: self.cupboard,
            weights: &self.weights,
            paths: &self.paths,
            clocks: Clocks::new(self.drink.vessels.len()),
            nudges,
            at: 0,
            vessels: vec![Contents::default(); self.drink.vessels.len()],
            many: self
                .drink
                .vessels
                .iter()
                .map(|v| f64::from(self.drink.glasses_in(&v.id)))
                .collect(),
            lines: Vec::new(),
            notices: Vec::new(),
            told: Vec::new(),
            gone: Mixture::EMPTY,
            water_line: None,
            marks: Vec::new(),
            served: None,
            worked_on: Vec::with_capacity(self.drink.steps.len() + 1),
            only_end: false,
            work: 0,
        };
        for (vessel, contents) in start {
            engine.vessels[vessel] = contents;
            engine.worked_on.push(vessel);
        }
        engine
    }
}

impl Trace {
    /// Runs a drink. Steps that name what isn't there do nothing; [`Drink::check`] finds those.
    #[must_use]
    pub fn run(drink: &Drink, cupboard: &Cupboard) -> Self {
        Prepared::new(drink, cupboard).run(Nudges::default())
    }
}

impl<'a> Engine<'a> {
    /// Does a step, when its vessels and the cook are free for it.
    fn step(&mut self, step: usize) -> Done {
        self.at = step;
        let (drink, path) = (self.drink, &self.paths[step]);
        let begins = self.clocks.begin(path);
        for vessel in path {
            self.stand_aside(*vessel, begins);
        }
        let (spent, touched) =
            self.act(step, &drink.steps[step].action).unwrap_or((Spent::by_hand(0.0), Vec::new()));
        for vessel in &touched {
            self.work += self.vessels[*vessel].parts() as u64;
            if !self.only_end {
                self.watch(*vessel);
            }
        }
        self.work += 4;
        self.worked_on.extend(&touched);
        self.clocks.done(step, path, begins, &spent);
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
        let gone = self.vessels[vessel].stand(it, place.surrounding, minutes, lid);
        self.goes_off(vessel, &gone);
    }

    fn frame(&mut self, step: usize, Done { spent, touched }: Done) -> Frame {
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
        let text = self.drink.in_sentence(index);
        let mut letters = text.chars();
        letters.next().map_or_else(String::new, |c| c.to_uppercase().chain(letters).collect())
    }

    /// Says that there is nothing to do something with, if there isn't.
    pub(super) fn is_empty(&mut self, vessel: usize, to_do: &str) -> bool {
        let empty = self.vessels[vessel].is_empty();
        if empty {
            let the = self.subject(vessel);
            self.notice(
                Kind::NothingThere,
                format!("{the} is empty; there is nothing to {to_do}."),
            );
        }
        empty
    }

    pub(super) fn hold_luck(&self) -> f64 {
        self.nudges.hold.filter(|_| self.at >= self.nudges.hold_from).unwrap_or(1.0)
    }

    pub(super) fn boil_off_nudge(&self) -> Option<f64> {
        self.nudges.boil_off
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

    /// How long a kettle needs for what the step has just brought.
    fn kettle(&self, step: usize) -> Minutes {
        let boiling = self.drink.steps[step].action.warmth() == Warmth::Boiling;
        let brought = self.lines.iter().rev().take_while(|l| l.step == step);
        let grams: f64 = brought.map(|l| l.grams.0).sum();
        if boiling { kettle_time(Grams(grams)) } else { Minutes(0.0) }
    }

    fn luck(&self, ingredient: usize) -> Option<&Luck> {
        self.nudges.luck.iter().find(|l| l.ingredient == ingredient)
    }

    /// What a step's amount weighs.
    pub(super) fn weighed(&mut self, step: usize) -> Option<(usize, Weighed)> {
        let weight = &self.weights[step];
        let ingredient = weight.ingredient?;
        let weighed = match weight.weighed.as_ref()? {
            Ok(weighed) => *weighed,
            Err(unknown) => {
                self.notice(Kind::UnknownMeasure, unknown.clone());
                Weighed { grams: Grams(0.0), by_pieces: Grams(0.0), pieces: None }
            }
        };
        let yields = self.luck(ingredient).map_or(1.0, |l| l.yields);
        let by_luck = weighed.grams + weighed.by_pieces * (yields - 1.0);
        let nudge = self.nudge(step);
        Some((
            ingredient,
            Weighed {
                grams: by_luck * nudge,
                by_pieces: weighed.by_pieces * nudge,
                pieces: weighed.pieces.map(|p| p * nudge),
            },
        ))
    }

    /// The ingredient of a step whose amount follows from what is in the vessel.
    pub(super) fn ingredient_of(&self, step: usize) -> Option<(usize, &'a Ingredient)> {
        let index = self.weights[step].ingredient?;
        Some((index, &self.cupboard.ingredients()[index]))
    }

    /// So many grams of an ingredient as it turned out.
    pub(super) fn portion_of(&self, ingredient: usize, grams: Grams) -> Mixture {
        let per_gram = &self.cupboard.ingredients()[ingredient].per_gram;
        match self.luck(ingredient) {
            Some(luck) => luck.change(per_gram).share(grams.0),
            None => per_gram.share(grams.0),
        }
    }

    /// How a step's ingredient comes.
    pub(super) fn coming(&self, step: usize, ingredient: usize) -> Coming {
        let action = &self.drink.steps[step].action;
        let cut = if let Action::Add { cut, .. } = action { *cut } else { Cut::Usual };
        let drawing = self.luck(ingredient).map_or(1.0, |l| l.drawing);
        Coming { warmth: action.warmth(), cut, drawing }
    }

    /// Puts so many grams into each of what a vessel stands for, and books the line.
    pub(super) fn put(
        &mut self,
        step: usize,
        vessel: usize,
        ingredient: usize,
        grams: Grams,
        pieces: Option<f64>,
    ) {
        let it = &self.cupboard.ingredients()[ingredient];
        let grams = self.what_a_house_holds(vessel, it, grams);
        let before = &self.vessels[vessel];
        let (liquid, t) = (before.liquid.mass().0, before.temperature);
        let brix = before.liquid.soluble_solids();
        let mixture = self.portion_of(ingredient, grams);
        let coming = self.coming(step, ingredient);
        let lost = self.vessels[vessel].put(step, ingredient, it, mixture, coming);
        self.goes_off(vessel, &lost);
        self.book(step, vessel, ingredient, grams, pieces, false);
        self.mind((step, vessel), it, grams, liquid, t, brix);
        // Ice that brings a hot syrup to its volume is meant to melt.
        if it.form == Form::Ice && liquid > 1.0 && t.0 > 30.0 && brix < 25.0 {
            self.mind_ice(vessel, t);
        }
    }

    /// As much of it as there can be in a vessel, or in all that it stands for: a tonne in all. What
    /// doubles again and again is soon more than a lake.
    fn what_a_house_holds(&mut self, vessel: usize, it: &Ingredient, grams: Grams) -> Grams {
        let room = (MAX_LINE.0 / self.many[vessel] - self.vessels[vessel].mass().0).max(0.0);
        if grams.0 <= room {
            return grams;
        }
        let message = format!(
            "That is more {} than any house holds: a tonne in one place is the most that is \
             reckoned with.",
            it.name.to_lowercase()
        );
        self.notice(Kind::MoreThanAHouseHolds, message);
        Grams(room)
    }

    /// Ice in something hot: none of it is left.
    fn mind_ice(&mut self, vessel: usize, was: Celsius) {
        if self.vessels[vessel].ice_mass().0 < 0.5 {
            let message = format!(
                "In a drink of {:.0} °C all of this ice melts. Cool the drink first.",
                was.0
            );
            self.notice(Kind::IceMeltsAway, message);
        }
    }

    pub(super) fn book(
        &mut self,
        step: usize,
        vessel: usize,
        ingredient: usize,
        grams: Grams,
        pieces: Option<f64>,
        left_over: bool,
    ) {
        let many = self.many[vessel];
        self.lines.push(Line {
            step,
            ingredient,
            grams: grams * many,
            pieces: pieces.map(|p| p * many),
            left_over,
        });
    }

    /// What the drink has become, seen from its end.
    fn outcome(&self) -> Option<Outcome> {
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
                && self.vessels[*v].liquid.mass().0 > 0.0
        };
        let vessel = self
            .worked_on
            .iter()
            .rev()
            .copied()
            .find(holds)
            .filter(|v| !self.vessels[*v].is_empty())?;
        let contents = self.vessels[vessel].clone();
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
