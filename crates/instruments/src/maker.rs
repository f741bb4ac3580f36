//! Makers by a script: one who follows the drink as it is written, and one who measures.

use keen_core::balance::{Spot, differences};
use keen_core::batch::{
    BatchReport, Happening, Made as AsMade, Progress, Said, Truth, WayOn, ways_on,
};
use keen_core::belief::Quantity;
use keen_core::cupboard::Cupboard;
use keen_core::drink::{Action, Drink};
use keen_core::quantity::Amount;
use keen_core::work::{Work, Worktop};
use rand::SeedableRng;
use rand::rngs::StdRng;
use rand_distr::{Distribution, Normal};

/// How somebody makes a drink.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Maker {
    /// Does each step as it is written, and nothing else.
    Follows,
    /// Holds the juice against the marks, measures where it is said to be worth it, and takes the first way
    /// that is offered.
    Measures,
}

/// A drink that was a practice batch.
#[derive(Debug, Clone)]
pub struct Made {
    /// What was said of it.
    pub said: Vec<Said>,
    /// Where it was to end; none if there is nothing to drink.
    pub aim: Option<Spot>,
    /// Where it really ended.
    pub end: Option<Spot>,
    /// Its state, as its maker sees it.
    pub report: BatchReport,
}

impl Made {
    /// How far it ended from where it was to, in just-noticeable differences.
    #[must_use]
    pub fn distance(&self) -> Option<f64> {
        Some(differences(self.end?, self.aim?))
    }
}

/// Readings of one batch: nobody washes up more often.
const MOST_READINGS: usize = 8;
/// Corrections of one batch.
const MOST_WAYS: usize = 4;
/// Steps and orders of one batch, lest a script goes round in a circle.
const MOST: usize = 400;

impl Maker {
    /// Makes a drink with the luck that a seed deals.
    #[must_use]
    pub fn makes(self, drink: &Drink, cupboard: &Cupboard, seed: u64) -> Made {
        let mut script = Script {
            drink,
            cupboard,
            seed,
            said: Vec::new(),
            now: 0.0,
            chance: StdRng::seed_from_u64(seed ^ 0x9e37_79b9_7f4a_7c15),
        };
        let (mut readings, mut ways) = (0, 0);
        for _ in 0..MOST {
            let report = script.report();
            let running = report.steps.iter().find(|s| s.state == Progress::Running);
            let next = report.next.clone();
            if self == Self::Measures && !script.said.is_empty() && running.is_none() {
                if readings < MOST_READINGS && script.measures(&report) {
                    readings += 1;
                    continue;
                }
                if ways < MOST_WAYS && script.takes_a_way(next.is_none()) {
                    ways += 1;
                    continue;
                }
            }
            match (next, running) {
                (Some(step), _) => script.does(self, &report, &step),
                (None, Some(step)) => {
                    script.now = script.now.max(step.until.unwrap_or(0.0));
                    let step = step.id.clone();
                    script.say(Happening::Done { step });
                }
                (None, None) => break,
            }
        }
        script.say(Happening::Finished {
            place: String::new(),
            note: String::new(),
            bottles: None,
            volume: None,
        });
        let report = script.report();
        Made { aim: report.written, end: script.truth().end(), said: script.said, report }
    }
}

struct Script<'a> {
    drink: &'a Drink,
    cupboard: &'a Cupboard,
    seed: u64,
    said: Vec<Said>,
    now: f64,
    chance: StdRng,
}

impl Script<'_> {
    fn made(&self) -> AsMade {
        AsMade::of(self.drink, &self.said, self.cupboard)
    }

    fn report(&self) -> BatchReport {
        BatchReport::of(self.drink, &self.made(), self.cupboard, self.now)
    }

    fn truth(&self) -> Truth {
        Truth::of(self.drink, &self.said, self.cupboard, self.seed, self.now)
    }

    /// Says what can be said; what can't is not.
    fn say(&mut self, what: Happening) -> bool {
        let made = self.made();
        let fine = made.allows(&what, &self.said, self.now, self.now, self.cupboard).is_ok();
        if fine {
            self.said.push(Said { at: self.now, what });
        }
        fine
    }

    fn noise(&mut self, error: f64) -> f64 {
        Normal::new(0.0, error).map_or(0.0, |n| n.sample(&mut self.chance))
    }

    fn does(&mut self, maker: Maker, report: &BatchReport, id: &str) {
        let step = report.steps.iter().find(|s| s.id == id);
        let waits = step.map_or(0.0, |s| s.waits);
        let frame = report.report.frames.iter().find(|f| f.step == id);
        let takes = frame.map_or(1.0, |f| f.minutes);
        if waits >= 1.0 {
            self.say(Happening::Began { step: id.to_owned() });
            self.now += (takes - waits).max(0.5);
            return;
        }
        self.now += takes.max(0.5);
        self.say(Happening::Done { step: id.to_owned() });
        let squeezed = self
            .drink
            .steps
            .iter()
            .any(|s| s.id == id && matches!(s.action, Action::Squeeze { .. }));
        if maker == Maker::Measures
            && squeezed
            && let Some(gave) = self.truth().gave(id)
        {
            let read = gave + self.noise(Quantity::Volume.usual_error(gave));
            let amount = Amount::millilitres(read.max(1.0).round());
            self.say(Happening::CameOut { step: id.to_owned(), amount });
        }
    }

    /// Measures what would tell most; whether anything was.
    fn measures(&mut self, report: &BatchReport) -> bool {
        let Some(told) = &report.measure else { return false };
        let Some(exact) = self.truth().reads(&told.vessel, told.quantity) else { return false };
        let error = told.quantity.usual_error(exact);
        let (least, most) = told.quantity.range();
        let value = (exact + self.noise(error)).clamp(least, most);
        self.now += 1.0;
        let (vessel, quantity) = (told.vessel.clone(), told.quantity);
        self.say(Happening::Reading { vessel, quantity, value, error: None })
    }

    /// Takes the first way that is offered: at the end whatever it is, before only one that gets there with as
    /// many glasses as are wanted.
    fn takes_a_way(&mut self, last: bool) -> bool {
        let work = Work::usual();
        let worktop = Worktop::new(self.cupboard, &work);
        let ways = ways_on(self.drink, &self.made(), &[], worktop).unwrap_or_default();
        let enough = 0.9 * self.report().written_ml;
        let fine = |w: &WayOn| last || (w.reached && w.volume_ml >= enough);
        let Some(way) = ways.into_iter().next().filter(fine) else {
            return false;
        };
        self.now += 2.0;
        // All of it, one after the other.
        let said = way.does.into_iter().filter(|what| self.say(what.clone())).count();
        said > 0
    }
}
