//! A bottle or jug that stands somewhere, and what happens to it.

use serde::{Deserialize, Serialize};

use super::Keeping;
use crate::cupboard::{KeptMixture, VesselKind};
use crate::journal::{Entry, Journal};

/// The place where it is kept.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Place {
    /// At 4 °C.
    #[default]
    Refrigerator,
    /// At -18 °C.
    Freezer,
    /// At room temperature.
    Cupboard,
}

impl Place {
    /// Its name in a sentence.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Refrigerator => "refrigerator",
            Self::Freezer => "freezer",
            Self::Cupboard => "cupboard",
        }
    }
}

/// Something that was made and stands somewhere, as it was put there.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Bottle {
    /// Its name.
    pub name: String,
    /// The batch that it is from: its id.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub batch: Option<String>,
    /// The drink on the shelf that it is of: its id.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub drink: Option<String>,
    /// What it stands in.
    pub vessel: VesselKind,
    /// What that holds, ml.
    pub holds_ml: f64,
    /// What was in it when it was put there, ml.
    pub ml: f64,
    /// The place where it is kept.
    #[serde(default)]
    pub place: Place,
    /// How long it keeps.
    pub keeping: Keeping,
    /// The contents.
    pub mixture: KeptMixture,
    /// Its colour, `#rrggbb`.
    pub colour: String,
    /// How many parts of soda or water go to one of it at the glass, if it is to be thinned.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub thinned: Option<f64>,
    /// Its alcohol, % vol.
    #[serde(default)]
    pub alcohol: f64,
}

/// Why something was discarded.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Away {
    /// It had gone off: a reading of how long it keeps.
    WentOff,
    /// It was over its date.
    OverItsDate,
    /// Nobody liked it.
    NotLiked,
    /// It was spilt, or broke.
    Spilt,
}

/// An entry in a bottle's log.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub enum Move {
    /// The bottle was opened.
    Opened,
    /// Part of the bottle was poured; that opens it.
    Poured {
        /// How much, ml.
        ml: f64,
        /// The purpose.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        what_for: String,
    },
    /// The bottle was moved.
    Moved {
        /// The place.
        to: Place,
    },
    /// The bottle is empty.
    Emptied,
    /// The rest was discarded.
    Tipped {
        /// The reason.
        why: Away,
    },
    /// Undo an earlier entry: its position in the list, from 0.
    TakenBack {
        /// The id of the entry.
        of: usize,
    },
}

/// An entry in a bottle's log, with its time.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Happened {
    /// Days since it was added.
    pub at: f64,
    /// The quality or quantity.
    pub what: Move,
}

impl Entry for Happened {
    fn undoes(&self) -> Option<usize> {
        match self.what {
            Move::TakenBack { of } => Some(of),
            _ => None,
        }
    }
}

/// Once it is open it uses up its days so many times as fast. Estimate 1.5 to 3: each opening lets air and
/// spoons in; advice on opened juice and syrup is a half to a third of the closed time.
const OPENED: f64 = 2.0;
/// From so many days left on it is soon.
const SOON: f64 = 2.0;

/// State of a bottle.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct BottleState {
    /// The place.
    pub place: Place,
    /// The volume in the bottle, ml.
    pub ml: f64,
    /// The filled share of the bottle, 0 to 1.
    pub fill: f64,
    /// When it was opened, days since it was added.
    pub opened: Option<f64>,
    /// Days until its date; below zero once it is past.
    pub days_left: f64,
    /// Days it would still keep, closed, at 4 °C.
    pub days_in_the_cold: f64,
    /// Its date, days since it was added.
    pub use_by: f64,
    /// Whether it is past its date and to be discarded.
    pub over: bool,
    /// Whether it should be used soon, before its date.
    pub soon: bool,
    /// Whether it is used up.
    pub gone: bool,
    /// The reasons for its limit, and what to do, in sentences.
    pub why: Vec<String>,
}

impl Bottle {
    /// Its state so many days after it was put there. `days` is how long it was seen to keep here, if that is
    /// known; it only ever shortens what the table says.
    #[must_use]
    pub fn state(&self, moves: &[Happened], now: f64, days: Option<f64>) -> BottleState {
        let table = self.keeping.left;
        let days = days.map_or(table, |seen| seen.max(1.0).min(table));
        let Run { clock, ml, opened, gone } = self.run(moves, now, days);
        let left = clock.left(self, days);
        let mut why = self.keeping.reasons.clone();
        if days < table {
            why.insert(
                0,
                format!("In your kitchen it kept {days:.0} days; usually it keeps {table:.0}."),
            );
        }
        if clock.open && clock.place != Place::Freezer {
            why.push("It is open, so it spoils twice as fast.".into());
        }
        match clock.place {
            Place::Cupboard if !self.keeping.keeps_in_the_cupboard() => {
                why.push("This spoils at room temperature: put it in the refrigerator.".into());
            }
            Place::Cupboard => {
                why.push("Only very rich syrups and spirits keep in the cupboard. Discard it all at the first sign of gas, film or mould.".into());
            }
            Place::Freezer => why.push(
                "The freezer date is about taste. Once thawed, it keeps as long as it had left."
                    .into(),
            ),
            Place::Refrigerator => {}
        }
        let over = left <= 0.0;
        if over && !gone {
            why.insert(
                0,
                "Discard it: it is past its date, and can spoil before you see mould.".into(),
            );
        }
        BottleState {
            place: clock.place,
            ml,
            fill: (ml / self.holds_ml.max(1.0)).clamp(0.0, 1.0),
            opened,
            days_left: left,
            days_in_the_cold: if over { left.min(0.0) } else { (1.0 - clock.used) * days },
            use_by: now + left,
            over,
            soon: !over && left < SOON,
            gone,
            why,
        }
    }
}

/// What happened to a bottle, up to some moment.
struct Run {
    clock: Clock,
    ml: f64,
    opened: Option<f64>,
    gone: bool,
}

impl Bottle {
    /// Runs through what happened, and on to `now`; `days` is how long it keeps in the refrigerator, closed.
    fn run(&self, moves: &[Happened], now: f64, days: f64) -> Run {
        let mut clock = Clock {
            place: self.place,
            open: false,
            at: 0.0,
            used: 0.0,
            // What was past keeping when it was put there is that from the beginning.
            over_at: (days <= 0.0).then_some(0.0),
            frozen: 0.0,
        };
        let (mut ml, mut opened, mut gone) = (self.ml.max(0.0), None, self.ml <= 0.0);
        for (_, Happened { at, what }) in Journal::of(moves).standing() {
            clock.run_to(*at, self, days);
            match what {
                Move::Opened | Move::Poured { .. } => {
                    opened.get_or_insert(*at);
                    clock.open = true;
                    if let Move::Poured { ml: poured, .. } = what {
                        ml = (ml - poured).max(0.0);
                        gone = ml < 1.0;
                    }
                }
                Move::Moved { to } => {
                    clock.place = *to;
                }
                Move::Emptied | Move::Tipped { .. } => (ml, gone) = (0.0, true),
                Move::TakenBack { .. } => {}
            }
        }
        clock.run_to(now, self, days);
        Run { clock, ml, opened, gone }
    }
}

/// How much of its days a bottle has used up.
struct Clock {
    place: Place,
    open: bool,
    at: f64,
    /// Of those in the refrigerator, 0 to 1 and beyond.
    used: f64,
    /// When the last of those was used up.
    over_at: Option<f64>,
    /// Of those in the freezer.
    frozen: f64,
}

impl Clock {
    fn rate(&self, bottle: &Bottle, days: f64) -> f64 {
        let times = match self.place {
            Place::Refrigerator => 1.0,
            Place::Cupboard => bottle.keeping.warm_day,
            Place::Freezer => return 1.0 / f64::from(bottle.keeping.frozen_days.max(1)),
        };
        times * if self.open { OPENED } else { 1.0 } / days.max(0.01)
    }

    fn run_to(&mut self, at: f64, bottle: &Bottle, days: f64) {
        let rate = self.rate(bottle, days);
        let by = (at - self.at).max(0.0) * rate;
        match self.place {
            Place::Freezer => self.frozen += by,
            _ => {
                if self.used <= 1.0 && self.used + by > 1.0 {
                    self.over_at = Some(self.at + (1.0 - self.used) / rate);
                }
                self.used += by;
            }
        }
        self.at = self.at.max(at);
    }

    /// Days until its date. What was over before it was frozen stays over since then.
    fn left(&self, bottle: &Bottle, days: f64) -> f64 {
        if let Some(over_at) = self.over_at {
            return over_at - self.at;
        }
        let used = if self.place == Place::Freezer { self.frozen } else { self.used };
        (1.0 - used) / self.rate(bottle, days)
    }
}

/// How long bottles of one drink kept here before they went off, from the days at which each did: the shortest
/// of three or more, and the longest. Fewer say nothing.
#[must_use]
pub fn learned_days(went_off_after: &[f64]) -> Option<(f64, f64)> {
    const LEAST: usize = 3;
    if went_off_after.len() < LEAST {
        return None;
    }
    let shortest = went_off_after.iter().copied().fold(f64::INFINITY, f64::min);
    let longest = went_off_after.iter().copied().fold(0.0, f64::max);
    Some((shortest.max(1.0), longest.max(1.0)))
}

impl Bottle {
    /// After how many days it had gone off, as days in the refrigerator, if it had.
    #[must_use]
    pub fn went_off_after(&self, moves: &[Happened]) -> Option<f64> {
        let journal = Journal::of(moves);
        let stands = || journal.standing().map(|(_, happened)| happened);
        let end = stands().find(|m| matches!(m.what, Move::Tipped { why: Away::WentOff }))?;
        let before: Vec<Happened> = stands()
            .filter(|m| m.at <= end.at && !matches!(m.what, Move::Tipped { .. }))
            .cloned()
            .collect();
        let table = self.keeping.left;
        let Run { clock, .. } = self.run(&before, end.at, table);
        // In the freezer nothing goes off.
        (clock.place != Place::Freezer).then_some((clock.used * table).max(0.5))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::chemistry::Component;
    use crate::cupboard::KeptPast;
    use crate::keep::Class;

    fn bottle(days: u32, class: Class) -> Bottle {
        Bottle {
            name: "Ginger syrup".into(),
            batch: None,
            drink: None,
            vessel: VesselKind::Bottle,
            holds_ml: 750.0,
            ml: 700.0,
            place: Place::Refrigerator,
            keeping: Keeping {
                class,
                days,
                left: f64::from(days),
                warm_day: if class == Class::Spirit { 1.5 } else { 12.0 },
                frozen_days: 90,
                words: String::new(),
                reasons: vec!["A syrup.".into()],
            },
            mixture: KeptMixture {
                id: "kept_1".into(),
                name: "Ginger syrup".into(),
                per_gram: [(Component::Water, 0.5), (Component::Sucrose, 0.5)]
                    .into_iter()
                    .collect(),
                past: KeptPast::default(),
                allergens: Vec::new(),
                gone: false,
            },
            colour: "#aa8800".into(),
            thinned: None,
            alcohol: 0.0,
        }
    }

    fn at(at: f64, what: Move) -> Happened {
        Happened { at, what }
    }

    #[test]
    fn days_go_by_where_it_stands() {
        let syrup = bottle(28, Class::Syrup);
        let state = |moves: &[Happened], now: f64| syrup.state(moves, now, None);
        assert!((state(&[], 10.0).days_left - 18.0).abs() < 1e-9);
        assert!(!state(&[], 27.9).over && state(&[], 28.1).over);
        // Opened on the eighth day it has twenty closed days left, or ten open ones.
        let open = [at(8.0, Move::Opened)];
        assert!((state(&open, 8.0).days_left - 10.0).abs() < 1e-9);
        assert!((state(&open, 12.0).days_left - 6.0).abs() < 1e-9);
        // In the freezer the days count anew, and thawed it has what it had left.
        let frozen = [at(20.0, Move::Moved { to: Place::Freezer })];
        assert!((state(&frozen, 20.0).days_left - 90.0).abs() < 1e-9);
        let thawed = [frozen[0].clone(), at(70.0, Move::Moved { to: Place::Refrigerator })];
        assert!((state(&thawed, 70.0).days_left - 8.0).abs() < 1e-9);
        // What is off isn't made good by freezing it.
        assert!(state(&[at(30.0, Move::Moved { to: Place::Freezer })], 31.0).over);
        // At room temperature a syrup uses twelve days in one.
        let out = state(&[at(4.0, Move::Moved { to: Place::Cupboard })], 4.0);
        assert!((out.days_left - 2.0).abs() < 1e-9, "{}", out.days_left);
        assert!(out.why.iter().any(|w| w.contains("refrigerator")));
        let spirit = bottle(120, Class::Spirit);
        assert!(
            spirit.state(&[at(0.0, Move::Moved { to: Place::Cupboard })], 0.0, None).days_left
                > 70.0
        );
    }

    #[test]
    fn what_is_poured_and_taken_back_adds_up() {
        let syrup = bottle(28, Class::Syrup);
        let poured = |ml: f64| Move::Poured { ml, what_for: String::new() };
        let moves =
            [at(1.0, poured(300.0)), at(2.0, poured(250.0)), at(2.1, Move::TakenBack { of: 1 })];
        let state = syrup.state(&moves, 3.0, None);
        assert_eq!((state.ml, state.gone, state.opened), (400.0, false, Some(1.0)));
        let emptied = [at(1.0, poured(900.0))];
        assert!(syrup.state(&emptied, 1.0, None).gone);
        assert!(syrup.state(&[at(1.0, Move::Tipped { why: Away::Spilt })], 1.0, None).gone);
        assert!(
            !syrup
                .state(&[at(1.0, Move::Emptied), at(1.0, Move::TakenBack { of: 0 })], 1.0, None)
                .gone
        );
    }

    #[test]
    fn three_that_went_off_shorten_the_days_and_none_lengthens_them() {
        let syrup = bottle(14, Class::ThinSyrup);
        let off = |day: f64| syrup.went_off_after(&[at(day, Move::Tipped { why: Away::WentOff })]);
        assert!((off(10.0).unwrap() - 10.0).abs() < 1e-9);
        // Open for its last three days it has stood for thirteen as it counts.
        let opened = [at(7.0, Move::Opened), at(10.0, Move::Tipped { why: Away::WentOff })];
        assert!((syrup.went_off_after(&opened).unwrap() - 13.0).abs() < 1e-9);
        assert_eq!(syrup.went_off_after(&[at(10.0, Move::Tipped { why: Away::NotLiked })]), None);
        assert_eq!(learned_days(&[10.0, 11.0]), None);
        assert_eq!(learned_days(&[10.0, 12.0, 11.0]), Some((10.0, 12.0)));
        assert!((syrup.state(&[], 0.0, Some(10.0)).days_left - 10.0).abs() < 1e-9);
        assert!((syrup.state(&[], 0.0, Some(40.0)).days_left - 14.0).abs() < 1e-9);
    }
}
