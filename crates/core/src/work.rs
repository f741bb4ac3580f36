//! How much may be computed for one question.
//!
//! A question such as "where may it land?" runs a drink a thousand times. For a usual drink that is a
//! blink; for the largest that can be written it would be a minute. So each question brings its
//! [`Work`]: an allowance that every run is taken from, counted in what is run (steps, and the things
//! that lie in a vessel while it is worked on) and not in seconds, so that the same question has the
//! same answer on every machine. Whoever asked can also give up, and the next run is not begun.
//!
//! What runs a drink more than a few times takes a [`Worktop`]: the cupboard, and the work that may be
//! done with it. A plain `&Cupboard` is a worktop without a bound.
//!
//! ```
//! use keen_core::cupboard::Cupboard;
//! use keen_core::work::{Stopped, Work, Worktop};
//!
//! let work = Work::usual();
//! let worktop = Worktop::new(Cupboard::builtin(), &work);
//! assert!(worktop.ingredient("water").is_some());
//! work.give_up();
//! assert_eq!(worktop.spend(1), Err(Stopped::GivenUp));
//! ```

use std::ops::Deref;
use std::sync::atomic::{AtomicBool, AtomicU64, Ordering};

use crate::cupboard::Cupboard;
use crate::drink::FieldError;
use crate::trace::{Contents, Landing, Nudges, Prepared, Trace};

/// What one question may take, in steps and things that lie in the vessels they are done on. A drink of
/// twelve steps takes about 150 a run, the largest that can be written 1.5 million. Chosen so that
/// the dearest question stays under a second on a home computer: a run takes 0.03 to 0.1 µs a unit.
const USUAL: u64 = 16_000_000;

/// An allowance of work, which can be given up from outside.
#[derive(Debug)]
pub struct Work {
    left: AtomicU64,
    given_up: AtomicBool,
}

/// Why something was not computed to its end.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum Stopped {
    /// It would take more than one question may.
    #[error(
        "This drink has too many steps and ingredients to work that out. Try it with part of the drink."
    )]
    TooMuch,
    /// Nobody waits for the answer any more.
    #[error("This question was cancelled.")]
    GivenUp,
}

impl From<Stopped> for FieldError {
    fn from(stopped: Stopped) -> Self {
        Self { field: "drink".into(), message: stopped.to_string() }
    }
}

impl Work {
    /// What a question may usually take.
    #[must_use]
    pub fn usual() -> Self {
        Self::of(USUAL)
    }

    /// So much of it.
    #[must_use]
    pub fn of(units: u64) -> Self {
        Self { left: AtomicU64::new(units), given_up: AtomicBool::new(false) }
    }

    /// Says that nobody waits for the answer any more.
    pub fn give_up(&self) {
        self.given_up.store(true, Ordering::Relaxed);
    }

    /// Whether that has been said.
    #[must_use]
    pub fn is_given_up(&self) -> bool {
        self.given_up.load(Ordering::Relaxed)
    }

    fn spend(&self, units: u64) -> Result<(), Stopped> {
        if self.is_given_up() {
            return Err(Stopped::GivenUp);
        }
        // One thread works on a question, so that nobody takes from it in between.
        let left = self.left.load(Ordering::Relaxed);
        self.left.store(left.saturating_sub(units), Ordering::Relaxed);
        if left < units { Err(Stopped::TooMuch) } else { Ok(()) }
    }
}

/// A cupboard to take from, and the work that may be done with it.
#[derive(Debug, Clone, Copy)]
pub struct Worktop<'a> {
    cupboard: &'a Cupboard,
    work: Option<&'a Work>,
}

impl<'a> From<&'a Cupboard> for Worktop<'a> {
    fn from(cupboard: &'a Cupboard) -> Self {
        Self { cupboard, work: None }
    }
}

impl Deref for Worktop<'_> {
    type Target = Cupboard;

    fn deref(&self) -> &Cupboard {
        self.cupboard
    }
}

impl<'a> Worktop<'a> {
    /// A cupboard, and an allowance.
    #[must_use]
    pub fn new(cupboard: &'a Cupboard, work: &'a Work) -> Self {
        Self { cupboard, work: Some(work) }
    }

    /// The cupboard.
    #[must_use]
    pub fn cupboard(&self) -> &'a Cupboard {
        self.cupboard
    }

    /// Takes so much from the allowance.
    ///
    /// # Errors
    /// If there is not so much left, or nobody waits.
    pub fn spend(&self, units: u64) -> Result<(), Stopped> {
        self.work.map_or(Ok(()), |work| work.spend(units))
    }

    /// How often something that takes so much can still be done.
    pub(crate) fn times(&self, units: u64) -> u64 {
        self.work.map_or(u64::MAX, |work| work.left.load(Ordering::Relaxed) / units.max(1))
    }

    /// Runs a drink.
    pub(crate) fn trace(&self, drink: &crate::drink::Drink) -> Result<Trace, Stopped> {
        self.run(&Prepared::new(drink, self.cupboard), Nudges::default())
    }

    /// Runs a drink with a difference.
    pub(crate) fn run(
        &self,
        prepared: &Prepared<'_>,
        nudges: Nudges<'_>,
    ) -> Result<Trace, Stopped> {
        self.spend(0)?;
        let trace = prepared.run(nudges);
        self.spend(trace.work)?;
        Ok(trace)
    }

    /// Runs a drink for its end alone.
    pub(crate) fn land(
        &self,
        prepared: &Prepared<'_>,
        nudges: Nudges<'_>,
    ) -> Result<Landing, Stopped> {
        self.land_from(prepared, nudges, Vec::new())
    }

    /// Runs a drink from vessels that hold something already, for its end alone.
    pub(crate) fn land_from(
        &self,
        prepared: &Prepared<'_>,
        nudges: Nudges<'_>,
        start: Vec<(usize, Contents)>,
    ) -> Result<Landing, Stopped> {
        self.spend(0)?;
        let landing = prepared.land(nudges, start);
        self.spend(landing.work)?;
        Ok(landing)
    }
}
