//! What is spoken for: the hands, rings and vessels of a kitchen along the time, and the room in its
//! refrigerator. All times are whole seconds before or after the moment that a plan counts from.

/// Seconds before (negative) or after the moment that a plan counts from.
pub(super) type Time = i64;

/// One pair of hands, one burner, one vessel: what it is busy with, in order of time and never twice at once.
#[derive(Debug, Default, PartialEq)]
pub(super) struct Lane {
    busy: Vec<(Time, Time)>,
    /// When something begins that takes no time yet: it is held for longer by what is placed before it.
    moments: Vec<Time>,
}

/// A board is copied for every making that is placed, a hundred thousand times a plan: into the room that it had.
impl Clone for Lane {
    fn clone(&self) -> Self {
        Self { busy: self.busy.clone(), moments: self.moments.clone() }
    }

    fn clone_from(&mut self, other: &Self) {
        self.busy.clone_from(&other.busy);
        self.moments.clone_from(&other.moments);
    }
}

impl Lane {
    /// The latest time up to `latest` from which it is free for so long.
    pub(super) fn latest_free(&self, latest: Time, length: Time) -> Time {
        let mut at = latest;
        let behind = self.busy.partition_point(|(from, _)| *from < at + length.max(1));
        for (from, to) in self.busy[..behind].iter().rev() {
            if *to <= at {
                break;
            }
            if *from < at + length.max(1) {
                at = from - length;
            }
        }
        at
    }

    pub(super) fn is_free(&self, from: Time, to: Time) -> bool {
        self.latest_free(from, to - from) == from
    }

    pub(super) fn take(&mut self, from: Time, to: Time) {
        if to > from {
            let at = self.busy.partition_point(|(begins, _)| *begins < from);
            self.busy.insert(at, (from, to));
        }
    }

    /// Takes it for something new, which may be no more than a moment so far.
    pub(super) fn open(&mut self, from: Time, to: Time) {
        if to > from {
            self.take(from, to);
        } else {
            self.moments.push(from);
        }
    }

    /// The latest time up to `latest` from which something new may be on it for so long. Two that only touch in a
    /// moment would both be held from there backwards, so a moment is kept apart from whatever else begins or ends
    /// there.
    pub(super) fn latest_open(&self, latest: Time, length: Time) -> Time {
        let mut at = latest;
        loop {
            at = self.latest_free(at, length);
            let met = self.moments.iter().copied().filter(|m| (at..=at + length).contains(m)).min();
            let touched = || self.busy.iter().find(|(a, b)| *a <= at && at <= *b).map(|(a, _)| *a);
            match met.or_else(|| touched().filter(|_| length <= 0)) {
                Some(in_the_way) => at = in_the_way - length - 1,
                None => return at,
            }
        }
    }

    /// Whether something new may begin on it.
    pub(super) fn is_open(&self, from: Time, to: Time) -> bool {
        self.latest_open(from, to - from) == from
    }

    /// Whether something begins just at that time: hands stay with what they are at.
    pub(super) fn begins_at(&self, time: Time) -> bool {
        self.busy.binary_search_by_key(&time, |(from, _)| *from).is_ok()
    }
}

/// The refrigerator: who stands in it from when to when, with how many litres.
#[derive(Debug, Clone, Default, PartialEq)]
pub(super) struct Cold(Vec<(Time, Time, f64)>);

impl Cold {
    pub(super) fn take(&mut self, from: Time, to: Time, litres: f64) {
        if to > from && litres > 0.0 {
            self.0.push((from, to, litres));
        }
    }

    /// The most that ever stands in it in that time.
    pub(super) fn most(&self, from: Time, to: Time) -> f64 {
        let meets = |(a, b, _): &&(Time, Time, f64)| *a < to && *b > from;
        // It is fullest when something has just been put in.
        let moments = self.0.iter().filter(meets).map(|(a, ..)| (*a).max(from)).chain([from]);
        let full = |at: Time| -> f64 {
            self.0.iter().filter(|(a, b, _)| *a <= at && *b > at).map(|(.., l)| l).sum()
        };
        moments.map(full).fold(0.0, f64::max)
    }

    /// The time before which what is in the way hasn't been put in yet.
    pub(super) fn first_in(&self, from: Time, to: Time) -> Option<Time> {
        self.0.iter().filter(|(a, b, _)| *a < to && *b > from).map(|(a, ..)| *a).max()
    }

    pub(super) fn taken(&self) -> &[(Time, Time, f64)] {
        &self.0
    }
}

/// Everything together.
#[derive(Debug, Default, PartialEq)]
pub(super) struct Board {
    pub(super) cooks: Vec<Lane>,
    pub(super) rings: Vec<Lane>,
    pub(super) vessels: Vec<Lane>,
    pub(super) cold: Cold,
}

impl Clone for Board {
    fn clone(&self) -> Self {
        let Self { cooks, rings, vessels, cold } = self;
        let (cooks, rings, vessels) = (cooks.clone(), rings.clone(), vessels.clone());
        Self { cooks, rings, vessels, cold: cold.clone() }
    }

    fn clone_from(&mut self, other: &Self) {
        self.cooks.clone_from(&other.cooks);
        self.rings.clone_from(&other.rings);
        self.vessels.clone_from(&other.vessels);
        self.cold.0.clone_from(&other.cold.0);
    }
}

/// The lane on which something can be done latest, and when; of lanes that are alike the one that is busy
/// just afterwards.
pub(super) fn latest_of(lanes: &[Lane], latest: Time, length: Time) -> Option<(usize, Time)> {
    let mut best: Option<(usize, Time)> = None;
    for (i, lane) in lanes.iter().enumerate() {
        let at = lane.latest_free(latest, length);
        let better = best.is_none_or(|(other, its)| {
            let busy = |lane: &Lane| lane.begins_at(at + length);
            at > its || at == its && busy(lane) && !busy(&lanes[other])
        });
        if better {
            best = Some((i, at));
        }
    }
    best
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_latest_gap_is_found() {
        let mut lane = Lane::default();
        lane.take(-100, -50);
        lane.take(-30, 0);
        assert_eq!(lane.latest_free(-10, 10), -40);
        assert_eq!(lane.latest_free(-10, 20), -50);
        assert_eq!(lane.latest_free(-10, 21), -121);
        assert_eq!(lane.latest_free(10, 5), 10);
        assert!(lane.is_free(-50, -30) && !lane.is_free(-51, -30) && !lane.is_free(-50, -29));
        assert!(lane.is_free(0, 5) && lane.begins_at(-30) && !lane.begins_at(-50));
    }

    #[test]
    fn a_moment_is_kept_apart_from_what_begins_or_ends_there() {
        let mut lane = Lane::default();
        lane.open(-50, -50);
        assert!(!lane.is_open(-50, -50) && !lane.is_open(-80, -50) && !lane.is_open(-50, -20));
        assert!(lane.is_open(-80, -51) && lane.is_open(-49, -20));
        assert_eq!((lane.latest_open(-60, 20), lane.latest_open(-50, 0)), (-71, -51));
        lane.take(-10, 0);
        assert!(!lane.is_open(-10, -10) && !lane.is_open(0, 0) && lane.is_open(-20, -10));
    }

    #[test]
    fn the_refrigerator_is_as_full_as_at_its_fullest() {
        let mut cold = Cold::default();
        cold.take(0, 100, 2.0);
        cold.take(50, 150, 3.0);
        cold.take(100, 200, 1.0);
        assert!((cold.most(0, 40) - 2.0).abs() < 1e-9);
        assert!((cold.most(0, 200) - 5.0).abs() < 1e-9);
        assert!((cold.most(100, 120) - 4.0).abs() < 1e-9);
        assert_eq!(cold.most(300, 400), 0.0);
        assert_eq!(cold.first_in(60, 90), Some(50));
    }
}
