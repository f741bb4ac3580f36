//! When each step is done.
//!
//! Waits of different vessels overlap: while peels lie under sugar in a bowl, a pot is boiled and cools. Each
//! vessel therefore has a clock of its own, and those that things have been poured between share one. Where
//! two clocks meet, the one is set by the other:
//!
//! - What is joined is ready together, if it can be: nobody puts ice into a glass three hours before the
//!   pitcher is cold.
//! - But steps are begun in the order in which they are written. A pot that was boiled before a syrup was
//!   begun stands aside until that is ready, where it cools, draws and loses its fizz like any other.
//!
//! The **whole time** is the longest chain of steps that must follow one another (see `drink::Precedence`),
//! and never less than all hands-on work together: what it takes when each thing is started in time.

use super::spent::{Place, Spent};
use crate::drink::Precedence;
use crate::quantity::Minutes;

/// The times of one vessel.
#[derive(Debug, Clone, Copy)]
struct Times {
    /// Which clock it goes by.
    clock: usize,
    /// By that clock it is free from here on.
    free: Minutes,
    place: Place,
}

/// When a step was started, by the clock of its vessels, and when the cook had hands free again.
#[derive(Debug, Clone, Copy)]
struct Begun {
    step: usize,
    at: Minutes,
    hands_free: Minutes,
}

/// The clocks of a run.
#[derive(Debug)]
pub(super) struct Clocks {
    vessels: Vec<Times>,
    /// For each clock what was started by it, in the order of the steps.
    begun: Vec<Vec<Begun>>,
    /// For each step the longest chain that ends with it.
    chains: Vec<Minutes>,
    hands_on: Minutes,
    longest: Minutes,
}

impl Clocks {
    pub(super) fn new(vessels: usize) -> Self {
        let times = |clock| Times { clock, free: Minutes(0.0), place: Place::worktop(false) };
        Self {
            vessels: (0..vessels).map(times).collect(),
            begun: vec![Vec::new(); vessels],
            chains: Vec::new(),
            hands_on: Minutes(0.0),
            longest: Minutes(0.0),
        }
    }

    /// When a step on these vessels begins, by the clock that they then share.
    pub(super) fn begin(&mut self, path: &[usize]) -> Minutes {
        let Some((first, others)) = path.split_first() else { return Minutes(0.0) };
        for other in others {
            self.set_by(*first, *other);
        }
        path.iter().map(|v| self.vessels[*v].free).fold(self.vessels[*first].free, Minutes::max)
    }

    /// Brings the clock of `other` into step with that of `vessel`.
    fn set_by(&mut self, vessel: usize, other: usize) {
        let (mine, its) = (self.vessels[vessel].clock, self.vessels[other].clock);
        if mine == its {
            return;
        }
        let together = self.vessels[vessel].free - self.vessels[other].free;
        let shift = in_order(&self.begun[mine], &self.begun[its], together);
        for times in self.vessels.iter_mut().filter(|t| t.clock == its) {
            times.clock = mine;
            times.free += shift;
        }
        for mut begun in std::mem::take(&mut self.begun[its]) {
            begun.at += shift;
            begun.hands_free += shift;
            self.begun[mine].push(begun);
        }
        self.begun[mine].sort_unstable_by_key(|b| b.step);
    }

    /// How long a vessel has stood aside when that step begins, and where.
    pub(super) fn stood(&self, vessel: usize, begins: Minutes) -> (Minutes, Place) {
        (begins - self.vessels[vessel].free, self.vessels[vessel].place)
    }

    /// A step has been done.
    pub(super) fn done(
        &mut self,
        step: usize,
        precedence: &Precedence,
        begins: Minutes,
        spent: &Spent,
    ) {
        let ends = begins + spent.minutes;
        let path = precedence.path(step);
        let before = precedence.needs(step).iter().map(|need| self.chains[need.step]);
        let chain = before.fold(Minutes(0.0), Minutes::max) + spent.minutes;
        self.chains.push(chain);
        for vessel in path {
            let times = &mut self.vessels[*vessel];
            times.free = ends;
            times.place = spent.place.unwrap_or(Place::worktop(false));
        }
        if let Some(first) = path.first() {
            let begun = Begun { step, at: begins, hands_free: begins + spent.hands_on };
            self.begun[self.vessels[*first].clock].push(begun);
        }
        self.hands_on += spent.hands_on;
        self.longest = self.longest.max(chain);
    }

    /// The whole time.
    pub(super) fn whole(&self) -> Minutes {
        self.longest.max(self.hands_on)
    }
}

/// By how much the second clock is set on so that the steps of both begin in their order; as near to
/// `wanted` as may be. Where both can't be had, no step begins before one that is written earlier.
fn in_order(mine: &[Begun], its: &[Begun], wanted: Minutes) -> Minutes {
    let (mut least, mut most) = (f64::NEG_INFINITY, f64::INFINITY);
    let mut before = mine.iter().peekable();
    let mut last_before = None;
    for theirs in its {
        while let Some(earlier) = before.next_if(|b| b.step < theirs.step) {
            last_before = Some(earlier);
        }
        if let Some(earlier) = last_before {
            least = least.max(earlier.hands_free.0 - theirs.at.0);
        }
        if let Some(later) = before.peek() {
            most = most.min(later.at.0 - theirs.hands_free.0);
        }
    }
    Minutes(wanted.0.min(most).max(least))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn begun(step: usize, at: f64, hands: f64) -> Begun {
        Begun { step, at: Minutes(at), hands_free: Minutes(at + hands) }
    }

    #[test]
    fn what_is_joined_is_ready_together_unless_the_order_forbids_it() {
        // A pitcher that chills for three hours; then ice into a glass, half a minute.
        let shift = in_order(&[begun(0, 0.0, 1.0)], &[begun(1, 0.0, 0.5)], Minutes(179.5));
        assert_eq!(shift, Minutes(179.5));
        // A pot of ten minutes, then a syrup of thirty: the pot was begun first.
        let shift = in_order(&[begun(0, 0.0, 2.0)], &[begun(1, 0.0, 6.0)], Minutes(-20.0));
        assert_eq!(shift, Minutes(2.0));
        // The same with the syrup's clock set by hand the other way round.
        let shift = in_order(&[begun(1, 0.0, 6.0)], &[begun(0, 0.0, 2.0)], Minutes(20.0));
        assert_eq!(shift, Minutes(-2.0));
    }
}
