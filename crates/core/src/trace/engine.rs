use super::contents::Contents;
use super::heat::{MEASURED_AT, ROOM, Surrounding, evaporation, heating_time};
use super::notice::{Notice, NoticeKind as Kind, say_grams, say_ml};
use crate::chemistry::{Component, boiling_point_elevation};
use crate::cupboard::{Cupboard, Ingredient, Weighed};
use crate::drink::{Action, Drink, Portion, Press, Vessel};
use crate::quantity::{Amount, Celsius, Grams, Millilitres, Minutes};

/// A drink that has been run.
#[derive(Debug, Clone, PartialEq)]
pub struct Trace {
    /// One for each step, in order.
    pub frames: Vec<Frame>,
    /// What each step that brings something came to.
    pub lines: Vec<Line>,
    outcome: Option<Outcome>,
}

/// The state of things after a step.
#[derive(Debug, Clone, PartialEq)]
pub struct Frame {
    /// The step's position.
    pub step: usize,
    /// The vessels that the step changed, as they are after it.
    pub touched: Vec<Touched>,
    /// Water that left as steam.
    pub steam: Grams,
    /// How long the step takes.
    pub minutes: Minutes,
    /// How much of that a person is busy with it.
    pub hands_on: Minutes,
    /// What the cook should know.
    pub notices: Vec<Notice>,
}

/// A vessel after a step.
#[derive(Debug, Clone, PartialEq)]
pub struct Touched {
    /// The vessel's position in the drink.
    pub vessel: usize,
    /// What is in it.
    pub contents: Contents,
}

/// What a line of the recipe came to.
#[derive(Debug, Clone, PartialEq)]
pub struct Line {
    /// The step's position.
    pub step: usize,
    /// The ingredient's position in the cupboard.
    pub ingredient: usize,
    /// What went in.
    pub grams: Grams,
    /// In how many pieces it was said, if it was.
    pub pieces: Option<f64>,
}

/// What the drink ends as.
#[derive(Debug, Clone, PartialEq)]
pub struct Outcome {
    /// The glass that it is served in, or the vessel that was last worked on.
    pub vessel: usize,
    /// What one of them holds.
    pub contents: Contents,
    /// How many glasses were asked for; 1 if it isn't served.
    pub glasses: u32,
    /// How many of them it fills, the last one perhaps in part.
    pub filled: f64,
    /// What all of them hold together, at 20 °C.
    pub volume: Millilitres,
    /// What one was to hold.
    pub size: Option<Millilitres>,
    /// The vessel that it is served from.
    pub from: Option<usize>,
    /// Whether it was served.
    pub served: bool,
}

struct Engine<'a> {
    drink: &'a Drink,
    cupboard: &'a Cupboard,
    vessels: Vec<Contents>,
    lines: Vec<Line>,
    notices: Vec<Notice>,
    steam: Grams,
    outcome: Option<Outcome>,
}

/// How long a step takes, and how much of it is handwork.
struct Spent {
    minutes: Minutes,
    hands_on: Minutes,
}

impl Spent {
    fn by_hand(minutes: f64) -> Self {
        Self { minutes: Minutes(minutes), hands_on: Minutes(minutes) }
    }

    fn waiting(minutes: Minutes) -> Self {
        Self { minutes, hands_on: minutes.min(Minutes(1.0)) }
    }
}

impl Trace {
    /// Runs a drink. Steps that name what isn't there do nothing; [`Drink::check`] finds those.
    #[must_use]
    pub fn run(drink: &Drink, cupboard: &Cupboard) -> Self {
        let mut engine = Engine {
            drink,
            cupboard,
            vessels: vec![Contents::default(); drink.vessels.len()],
            lines: Vec::new(),
            notices: Vec::new(),
            steam: Grams(0.0),
            outcome: None,
        };
        let frames: Vec<Frame> = (0..drink.steps.len()).map(|step| engine.step(step)).collect();
        let outcome = engine.outcome.take().or_else(|| last_worked_on(drink, &frames));
        Self { frames, lines: engine.lines, outcome }
    }

    /// What the drink ends as; `None` while nothing is in any vessel.
    #[must_use]
    pub fn outcome(&self) -> Option<&Outcome> {
        self.outcome.as_ref()
    }

    /// A vessel's contents at its fullest moment, with the step that filled it so. Of moments that
    /// are as full but for a few hundredths, the last: what stood and drew is shown as it was then.
    #[must_use]
    pub fn fullest(&self, vessel: usize) -> Option<(usize, &Contents)> {
        let most = self.states_of(vessel).map(|(_, c)| c.level().0).fold(0.0, f64::max);
        self.states_of(vessel).filter(|(_, c)| c.level().0 >= most * 0.97).last()
    }

    /// The most room that was ever needed in a vessel.
    #[must_use]
    pub fn highest_level(&self, vessel: usize) -> Millilitres {
        Millilitres(self.states_of(vessel).map(|(_, c)| c.level().0).fold(0.0, f64::max))
    }

    /// A vessel's contents at the end.
    #[must_use]
    pub fn last(&self, vessel: usize) -> Option<(usize, &Contents)> {
        self.states_of(vessel).last()
    }

    fn states_of(&self, vessel: usize) -> impl Iterator<Item = (usize, &Contents)> {
        self.frames.iter().flat_map(move |frame| {
            frame
                .touched
                .iter()
                .filter(move |t| t.vessel == vessel)
                .map(|t| (frame.step, &t.contents))
        })
    }
}

/// Where the drink is when no step serves it: the vessel that last had liquid put into it.
fn last_worked_on(drink: &Drink, frames: &[Frame]) -> Option<Outcome> {
    let holds = |t: &&Touched| {
        drink.vessels[t.vessel].kind.strainer().is_none() && t.contents.liquid.mass().0 > 0.0
    };
    let touched = frames.iter().rev().find_map(|f| f.touched.iter().rev().find(holds))?;
    Some(Outcome {
        vessel: touched.vessel,
        contents: touched.contents.clone(),
        glasses: 1,
        filled: 1.0,
        volume: touched.contents.liquid.volume(MEASURED_AT),
        size: None,
        from: None,
        served: false,
    })
}

impl<'a> Engine<'a> {
    fn step(&mut self, step: usize) -> Frame {
        let drink = self.drink;
        let (spent, touched) =
            self.act(step, &drink.steps[step].action).unwrap_or((Spent::by_hand(0.0), Vec::new()));
        for vessel in &touched {
            self.watch(*vessel);
        }
        Frame {
            step,
            touched: touched
                .into_iter()
                .map(|vessel| Touched { vessel, contents: self.vessels[vessel].clone() })
                .collect(),
            steam: std::mem::take(&mut self.steam),
            minutes: spent.minutes,
            hands_on: spent.hands_on,
            notices: std::mem::take(&mut self.notices),
        }
    }

    fn notice(&mut self, kind: Kind, message: String) {
        self.notices.push(Notice::new(kind, message));
    }

    fn vessel(&self, index: usize) -> &'a Vessel {
        &self.drink.vessels[index]
    }

    fn the(&self, index: usize) -> String {
        self.vessel(index).in_sentence()
    }

    fn subject(&self, index: usize) -> String {
        let text = self.the(index);
        let mut letters = text.chars();
        letters.next().map_or_else(String::new, |c| c.to_uppercase().chain(letters).collect())
    }

    /// Does one action. Returns the time it took and the vessels it changed, the main one last.
    fn act(&mut self, step: usize, action: &Action) -> Option<(Spent, Vec<usize>)> {
        let find = |id: &str| self.drink.vessel(id);
        match action {
            Action::Add { into, ingredient, amount } => {
                let vessel = find(into)?;
                self.add(step, vessel, ingredient, amount)?;
                Some((Spent::by_hand(1.0), vec![vessel]))
            }
            Action::Squeeze { into, ingredient, amount } => {
                let vessel = find(into)?;
                let weighed = self.add(step, vessel, ingredient, amount)?;
                // About forty seconds a lemon, halving and pips included; estimate.
                let pieces = weighed.pieces.unwrap_or(weighed.grams.0 / 45.0);
                Some((Spent::by_hand(1.0 + 0.7 * pieces), vec![vessel]))
            }
            Action::Heat { vessel, to_c, minutes, lid } => {
                let vessel = find(vessel)?;
                Some((self.heat(vessel, Celsius(*to_c), Minutes(*minutes), *lid), vec![vessel]))
            }
            Action::Infuse { vessel, minutes, place } => {
                let vessel = find(vessel)?;
                let time = Minutes(*minutes);
                let (cupboard, kind) = (self.cupboard, self.vessel(vessel));
                self.vessels[vessel].stand(cupboard, kind, Surrounding::from(*place), time);
                Some((Spent::waiting(time), vec![vessel]))
            }
            Action::Blend { vessel, seconds } => {
                let vessel = find(vessel)?;
                self.blend(vessel);
                Some((Spent::by_hand(1.0 + seconds / 60.0), vec![vessel]))
            }
            Action::Strain { from, through, into, press } => {
                let (from, through, into) = (find(from)?, find(through)?, find(into)?);
                Some((self.strain(from, through, into, *press), vec![from, through, into]))
            }
            Action::Pour { from, into, portion } => {
                let (from, into) = (find(from)?, find(into)?);
                self.pour(from, into, portion);
                Some((Spent::by_hand(0.5), vec![from, into]))
            }
            Action::TopUp { vessel, ingredient, to } => {
                let vessel = find(vessel)?;
                self.top_up(step, vessel, ingredient, to)?;
                Some((Spent::by_hand(0.5), vec![vessel]))
            }
            Action::Cool { vessel, to_c, place } => {
                let vessel = find(vessel)?;
                Some((self.cool(vessel, Celsius(*to_c), (*place).into()), vec![vessel]))
            }
            Action::Serve { from, glass, glasses, size } => {
                let (from, glass) = (find(from)?, find(glass)?);
                self.serve(from, glass, *glasses, Millilitres(size.as_millilitres()?));
                Some((Spent::by_hand(0.25 * f64::from(*glasses)), vec![from, glass]))
            }
        }
    }

    /// Weighs an amount and puts it in.
    fn add(
        &mut self,
        step: usize,
        vessel: usize,
        ingredient: &str,
        amount: &Amount,
    ) -> Option<Weighed> {
        let (index, it) = self.find_ingredient(ingredient)?;
        let weighed = self.cupboard.weigh(it, amount).unwrap_or_else(|unknown| {
            self.notice(Kind::UnknownMeasure, unknown.to_string());
            Weighed { grams: Grams(0.0), pieces: None }
        });
        self.put(step, vessel, index, it, weighed);
        Some(weighed)
    }

    fn find_ingredient(&self, id: &str) -> Option<(usize, &'a Ingredient)> {
        let index = self.cupboard.position(id)?;
        Some((index, &self.cupboard.ingredients()[index]))
    }

    fn put(&mut self, step: usize, vessel: usize, index: usize, it: &Ingredient, weighed: Weighed) {
        use crate::cupboard::{Form, Kind as Sort};
        let contents = &mut self.vessels[vessel];
        let (liquid, t) = (contents.liquid.mass().0, contents.temperature);
        contents.put(step, index, it, weighed.grams);
        self.lines.push(Line {
            step,
            ingredient: index,
            grams: weighed.grams,
            pieces: weighed.pieces,
        });
        if it.form == Form::Crystals
            && it.kind == Sort::Sweetener
            && weighed.grams.0 > 20.0
            && liquid > 1.0
            && t.0 < 15.0
        {
            self.notice(
                Kind::SlowToDissolve,
                format!(
                    "At {:.0} °C sugar takes some minutes of stirring. Syrup would mix at once.",
                    t.0
                ),
            );
        }
        if it.kind == Sort::Juice && liquid > 1.0 && t.0 > 50.0 {
            self.notice(
                Kind::JuiceIntoHot,
                format!(
                    "{} goes into liquid of {:.0} °C and loses its freshness. Let it cool under \
                     50 °C first.",
                    it.name, t.0
                ),
            );
        }
    }

    fn heat(&mut self, vessel: usize, to: Celsius, hold: Minutes, lid: bool) -> Spent {
        let (cupboard, pot) = (self.cupboard, self.vessel(vessel));
        if self.vessels[vessel].is_empty() {
            let the = self.subject(vessel);
            self.notice(Kind::NothingThere, format!("{the} is empty; there is nothing to heat."));
            return Spent::by_hand(0.0);
        }
        let contents = &mut self.vessels[vessel];
        let boils = Celsius(100.0 + boiling_point_elevation(&contents.liquid));
        let target = to.min(boils);
        let start = contents.temperature;
        let up = heating_time(contents.heat_capacity(), target.0 - start.0);
        contents
            .draw(cupboard, up, |t| Celsius(start.0 + (target.0 - start.0) * t / up.0.max(1e-9)));
        contents.temperature = target.max(start);
        contents.settle();
        let there = contents.temperature;
        contents.draw(cupboard, hold, |_| there);
        let halfway = Celsius((start.0 + there.0) / 2.0);
        let steam = evaporation(pot, halfway, lid) * up.0 + evaporation(pot, there, lid) * hold.0;
        let water = contents.liquid[Component::Water];
        // A pot is taken off before the last spoonful of water has gone.
        let most = water * 0.97;
        let gone = Grams(steam.0.min(most));
        contents.steam_off(gone);
        contents.settle();
        self.steam = gone;
        if to.0 > boils.0 + 0.5 {
            self.notice(
                Kind::BoilsFirst,
                format!("It boils at {:.1} °C and gets no hotter.", boils.0),
            );
        }
        if steam.0 > most && water > 0.0 {
            let the = self.subject(vessel);
            self.notice(
                Kind::BoilsDry,
                format!("{the} boils dry. Use a lid, a lower heat or less time."),
            );
        }
        let minutes = up + hold;
        // Someone stirs now and then: a fifth of the time, estimate.
        Spent { minutes, hands_on: (minutes * 0.2).max(Minutes(1.0)).min(minutes) }
    }

    fn blend(&mut self, vessel: usize) {
        let t = self.vessels[vessel].temperature;
        if self.vessels[vessel].is_empty() {
            let the = self.subject(vessel);
            self.notice(Kind::NothingThere, format!("{the} is empty; there is nothing to blend."));
        } else if self.vessel(vessel).kind.hottest().is_some_and(|most| t > most) {
            self.notice(
                Kind::HotInBlender,
                format!(
                    "At {:.0} °C steam can throw the lid off and burn you. Let it cool, or fill the \
                     blender to a third and leave the lid's vent open.",
                    t.0
                ),
            );
        }
        self.vessels[vessel].blend();
    }

    fn strain(&mut self, from: usize, through: usize, into: usize, press: Press) -> Spent {
        let Some(strainer) = self.vessel(through).kind.strainer() else {
            return Spent::by_hand(0.0);
        };
        let kind = self.vessel(from).kind;
        let mut all = self.vessels[from].pour_out(kind);
        let before = all.liquid.mass();
        let run = all.strain(strainer, press, self.cupboard);
        if before.0 < 1e-6 {
            let the = self.subject(from);
            self.notice(
                Kind::NothingThere,
                format!("{the} has no liquid in it; nothing runs through."),
            );
        } else if run.liquid.mass().0 < 0.02 * before.0 {
            self.notice(
                Kind::AllAbsorbed,
                format!(
                    "What lies in it has taken up nearly all the liquid: {} run through. Add water, \
                     or press harder.",
                    say_grams(run.liquid.mass().0)
                ),
            );
        }
        self.vessels[through].pour_in(all);
        self.vessels[into].pour_in(run);
        // Three minutes to drain; pressing and wringing are work. Estimate.
        match press {
            Press::Drained => Spent { minutes: Minutes(4.0), hands_on: Minutes(1.0) },
            Press::Pressed => Spent::by_hand(3.0),
            Press::Wrung => Spent::by_hand(4.0),
        }
    }

    fn pour(&mut self, from: usize, into: usize, portion: &Portion) {
        if self.vessels[from].is_empty() {
            let the = self.subject(from);
            self.notice(Kind::NothingThere, format!("{the} is empty; nothing is poured."));
            return;
        }
        let kind = self.vessel(from).kind;
        let out = match portion {
            Portion::All => self.vessels[from].pour_out(kind),
            Portion::Share(share) => self.vessels[from].take(*share),
            Portion::Volume(volume) => {
                let there = self.vessels[from].level();
                let wanted = Millilitres(volume.as_millilitres().unwrap_or(0.0));
                if wanted.0 > there.0 + 0.5 {
                    let the = self.subject(from);
                    self.notice(
                        Kind::FallsShort,
                        format!("{the} holds only {}; all of it is poured.", say_ml(there.0)),
                    );
                }
                self.vessels[from].take(wanted / there)
            }
        };
        self.vessels[into].pour_in(out);
    }

    fn top_up(&mut self, step: usize, vessel: usize, ingredient: &str, to: &Amount) -> Option<()> {
        let (index, it) = self.find_ingredient(ingredient)?;
        let line = to.as_millilitres()?;
        let level = self.vessels[vessel].level().0;
        if level > line + 0.5 {
            let message = format!(
                "{} already stands at {}, which is over the line of {}; nothing is added.",
                self.subject(vessel),
                say_ml(level),
                say_ml(line)
            );
            self.notice(Kind::TopUpExceeded, message);
        }
        let mut needed = Grams(0.0);
        if line > level {
            // Volumes don't quite add up, so the amount is trued until the line is met.
            needed = Grams((line - level) * it.per_gram.density_at_20());
            for _ in 0..4 {
                let mut tried = self.vessels[vessel].clone();
                tried.put(step, index, it, needed);
                let miss = line - tried.level().0;
                if miss.abs() < 1e-3 {
                    break;
                }
                needed = Grams((needed.0 + miss * it.per_gram.density_at_20()).max(0.0));
            }
        }
        self.put(step, vessel, index, it, Weighed { grams: needed, pieces: None });
        Some(())
    }

    fn cool(&mut self, vessel: usize, to: Celsius, place: Surrounding) -> Spent {
        let (cupboard, shape) = (self.cupboard, self.vessel(vessel));
        let contents = &mut self.vessels[vessel];
        if contents.is_empty() {
            let the = self.subject(vessel);
            self.notice(Kind::NothingThere, format!("{the} is empty; there is nothing to cool."));
            return Spent::by_hand(0.0);
        }
        let start = contents.temperature;
        if start <= to {
            return Spent::by_hand(0.0);
        }
        // Newton's curve never quite arrives: within half a degree counts as there.
        let reached = to.max(Celsius(place.temperature.0 + 0.5));
        let tau = place.time_constant(shape, contents.heat_capacity(), contents.level().0);
        let minutes = if start > reached {
            let end = place.temperature.0;
            Minutes(tau * ((start.0 - end) / (reached.0 - end)).ln())
        } else {
            Minutes(0.0)
        };
        contents.stand(cupboard, shape, place, minutes);
        if reached.0 > to.0 + 0.6 {
            self.notice(
                Kind::StaysWarmer,
                format!(
                    "It gets no colder than {:.0} °C there; {:.0} °C needs a colder place.",
                    reached.0, to.0
                ),
            );
        }
        Spent::waiting(minutes)
    }

    fn serve(&mut self, from: usize, glass: usize, glasses: u32, size: Millilitres) {
        let there = self.vessels[from].level_at(MEASURED_AT);
        let wanted = size * f64::from(glasses);
        // Nobody sees a hundredth missing in a glass.
        let nearly = there.0 >= wanted.0 * 0.99;
        if self.vessels[from].is_empty() {
            let the = self.subject(from);
            self.notice(Kind::NothingThere, format!("{the} is empty; there is nothing to serve."));
        } else if !nearly {
            let full = (there / size + 1e-6).floor();
            let rest = there.0 - full * size.0;
            let tail = if rest > 1.0 { format!(" and {}", say_ml(rest)) } else { String::new() };
            self.notice(
                Kind::FallsShort,
                format!(
                    "{} holds {}: {full} of {glasses} glasses{tail}.",
                    self.subject(from),
                    say_ml(there.0),
                ),
            );
        }
        let share = if there.0 > 0.0 { (wanted / there).min(1.0) } else { 0.0 };
        let mut poured = self.vessels[from].take(share);
        let volume = poured.liquid.volume(MEASURED_AT);
        // Each glass gets the same; a last one that stays half empty is said in the notice.
        let filled = if nearly {
            f64::from(glasses)
        } else {
            (poured.level_at(MEASURED_AT) / size).max(1.0)
        };
        let one = poured.take(1.0 / filled);
        self.vessels[glass] = one.clone();
        self.outcome = (!one.is_empty()).then_some(Outcome {
            vessel: glass,
            contents: one,
            glasses,
            filled,
            volume,
            size: Some(size),
            from: Some(from),
            served: true,
        });
    }

    /// Looks at a vessel after a step and says what is amiss with it.
    fn watch(&mut self, vessel: usize) {
        let contents = &self.vessels[vessel];
        let it = self.vessel(vessel);
        if it.kind.strainer().is_some() {
            return;
        }
        let over = contents.level().0 - it.capacity().0;
        if over > 0.5 {
            let message = format!(
                "{} holds {} and would have to hold {}: {} too much.",
                self.subject(vessel),
                say_ml(it.capacity().0),
                say_ml(contents.level().0),
                say_ml(over)
            );
            self.notice(Kind::OverBrim, message);
        }
        let contents = &self.vessels[vessel];
        let left = contents.undissolved().0;
        if left > 0.5 && contents.liquid[Component::Water] > 1.0 {
            let hot = contents
                .dissolves_at()
                .map_or_else(String::new, |t| format!(" at {:.0} °C, or", t.0));
            let message = format!(
                "{} stays undissolved at {:.0} °C. All of it would dissolve{hot} with {} more \
                 water.",
                say_grams(left),
                contents.temperature.0,
                say_ml(contents.water_to_dissolve().0)
            );
            self.notice(Kind::Undissolved, message);
        } else if contents.is_supersaturated() && contents.temperature <= ROOM {
            let message = format!(
                "At {:.0} °C it holds more sugar than stays dissolved for long: crystals will form.",
                contents.temperature.0
            );
            self.notice(Kind::WillCrystallise, message);
        }
    }
}
