//! The search for a better plan.
//!
//! In which order makings are placed decides how good a plan is: all moves of one making to another place in
//! the order are tried, and that each job gives way to what another making could do in its place; what is
//! better is kept. From there it wanders on, over plans that are a little worse, until enough has been tried.
//! What chance there is has a seed: the same problem has the same answer.

use rand::rngs::StdRng;
use rand::seq::SliceRandom;
use rand::{RngExt, SeedableRng};

use super::board::Time;
use super::schedule::{Ends, How, Job, Problem, Schedule};

/// How many orders are tried, by how many jobs there are: a placing takes about a microsecond a job.
const WORK: usize = 40_000;
/// What is better by less is no reason for another order of things, in seconds of the whole day's work.
const WORTH_ANOTHER_ORDER: f64 = 900.0;
/// So many tasks are few.
const FEW: usize = 12;
/// Among few tasks one order of them all may be the only best one: as long as what is found begins earlier than
/// it might, so many times as long is looked for it.
const LONGER: usize = 2;
/// So many makings are begun with in every order.
const ORDERS: usize = 4;

impl Problem {
    /// The best plan that was found. `thorough` below 1 tries fewer orders.
    pub(super) fn solve(&self, thorough: f64) -> Schedule {
        self.solve_from(self.first(), thorough)
    }

    /// The same, beginning with how another plan of these jobs was placed: what is changed a little needs no long
    /// search.
    pub(super) fn solve_after(&self, before: &Schedule, thorough: f64) -> Schedule {
        let first = self.first();
        let fits = before.how.ends.len() == self.jobs.len()
            && before.how.prefers.len() == self.stays.len()
            && before.how.order.len() == self.makings.len();
        self.solve_from(if fits { before.how.clone() } else { first }, thorough)
    }

    /// How these jobs stood before (when the hands-on work of each started), as far as they still can, where that is
    /// nearly as good as what was found. Nobody who moves a serving by five minutes wants to learn a new order.
    pub(super) fn nearly_as_before(&self, stood: &[Option<Time>], found: Schedule) -> Schedule {
        if stood.iter().all(Option::is_none) {
            return found;
        }
        let jobs = self.jobs.iter().zip(stood);
        let ends = jobs.map(|(job, at)| at.map_or(Time::MAX, |at| at - job.lead + job.length()));
        let ends: Vec<Time> = ends.collect();
        let last = |making: &usize| {
            let its = self.makings[*making].iter().map(|job| ends[*job]);
            its.filter(|end| *end < Time::MAX).max().unwrap_or(Time::MAX)
        };
        let mut latest_first: Vec<usize> = (0..self.makings.len()).collect();
        latest_first.sort_by_key(|making| std::cmp::Reverse(last(making)));
        let mut orders = vec![found.how.order.clone(), latest_first.clone()];
        latest_first.reverse();
        orders.push(latest_first);
        let links = Ends::of(self);
        let placed = orders.into_iter().map(|order| {
            let how = How { order, ends: ends.clone(), ranks: Vec::new(), ..found.how.clone() };
            let schedule = self.place_all(&links, &how);
            (self.cost(&schedule), Schedule { how, ..schedule })
        });
        let as_before = placed.min_by(|a, b| a.0.total_cmp(&b.0));
        let most = self.cost(&found) + WORTH_ANOTHER_ORDER;
        as_before.filter(|(cost, _)| *cost <= most).map_or(found, |(_, schedule)| schedule)
    }

    fn solve_from(&self, how: How, thorough: f64) -> Schedule {
        let most = (WORK as f64 * thorough) as usize / self.jobs.len().max(1);
        let mut search = Search::begin(self, how, most);
        while search.moves_makings() | search.gives_way() {}
        if self.jobs.len() <= FEW && (2..=ORDERS).contains(&self.makings.len()) {
            search.begins_with_every_order();
        }
        search.wanders();
        let found = (search.cost, Schedule { how: search.how, ..search.best });
        // In a drink of its own, and where there are few tasks, each is placed for itself: those that don't wait for
        // each other may be done in any order, and those of one making in between those of another.
        if self.jobs.len() > FEW && self.makings.len() > 1 {
            return found.1;
        }
        let mut together = self.clone();
        together.makings = vec![(0..self.jobs.len()).collect()];
        let mut latest: Vec<usize> = (0..self.jobs.len()).collect();
        latest.sort_by_key(|job| std::cmp::Reverse(found.1.starts[*job]));
        let begins = found.1.starts.iter().min().copied();
        let most = if begins < Some(self.latest_begin()) { LONGER * most } else { most };
        let mut search = Search::begin(&together, together.first(), most);
        search.how.ranks = vec![0; latest.len()];
        for (rank, job) in latest.into_iter().enumerate() {
            search.how.ranks[job] = rank;
        }
        search.wanders();
        let better = search.cost < found.0 - 1e-6;
        if better { Schedule { how: found.1.how, ..search.best } } else { found.1 }
    }
}

/// The search for a better plan: what is best so far, and how it was placed.
struct Search<'a> {
    problem: &'a Problem,
    links: Ends,
    how: How,
    best: Schedule,
    cost: f64,
    tried: usize,
    most: usize,
}

impl<'a> Search<'a> {
    fn begin(problem: &'a Problem, how: How, most: usize) -> Self {
        let links = Ends::of(problem);
        let best = problem.place_all(&links, &how);
        let cost = problem.cost(&best);
        Self { problem, links, how, best, cost, tried: 1, most }
    }

    /// Looks from every order of the makings for what each job can give way to: where one order alone leads to
    /// the best plan, no move from a better one that leads elsewhere finds it.
    fn begins_with_every_order(&mut self) {
        for order in orders(self.problem.makings.len()) {
            let mut other = Search::begin(self.problem, self.problem.first(), self.most / 24);
            let how = How { order, ..other.how.clone() };
            other.cost = f64::INFINITY;
            other.is_better(how);
            while other.gives_way() {}
            if other.cost < self.cost - 1e-6 {
                (self.best, self.cost, self.how) = (other.best, other.cost, other.how);
            }
        }
    }

    /// Whether it is better so; if it is, it stays so.
    fn is_better(&mut self, how: How) -> bool {
        self.tried += 1;
        let schedule = self.problem.place_all(&self.links, &how);
        let cost = self.problem.cost(&schedule);
        let better = cost < self.cost - 1e-6;
        if better {
            (self.best, self.cost, self.how) = (schedule, cost, how);
        }
        better
    }

    fn is_over(&self) -> bool {
        self.tried >= self.most
    }

    /// Tries each making at every other place in the order.
    fn moves_makings(&mut self) -> bool {
        let mut better = false;
        let makings = self.how.order.len();
        for from in 0..makings {
            for to in 0..makings {
                if to == from || to + 1 == from || self.is_over() {
                    continue;
                }
                let mut next = self.how.clone();
                let moved = next.order.remove(from);
                next.order.insert(to, moved);
                if self.is_better(next) {
                    better = true;
                    break;
                }
            }
        }
        better
    }

    /// Tries to let each job end earlier by what another making's hands-on work would take in its place, and by
    /// what it gave way for before.
    fn gives_way(&mut self) -> bool {
        let mut better = false;
        let jobs = &self.problem.jobs;
        let mut lengths: Vec<Time> = jobs.iter().map(|j| j.hands).filter(|h| *h > 0).collect();
        lengths.extend(jobs.iter().filter(|j| j.ring).map(Job::length));
        lengths.sort_unstable();
        lengths.dedup();
        for (job, it) in jobs.iter().enumerate() {
            if self.how.ends[job] < Time::MAX && !self.is_over() {
                let mut next = self.how.clone();
                next.ends[job] = Time::MAX;
                better |= self.is_better(next);
            }
            for length in &lengths {
                if self.is_over() {
                    return better;
                }
                let now = self.best.starts[job] + it.length();
                let mut next = self.how.clone();
                next.ends[job] = now - length;
                if self.is_better(next) {
                    better = true;
                    break;
                }
            }
        }
        better
    }
}

/// All orders of so many things.
fn orders(many: usize) -> Vec<Vec<usize>> {
    if many == 0 {
        return vec![Vec::new()];
    }
    let fewer = orders(many - 1);
    let with = |at: usize| {
        fewer.iter().map(move |order| {
            let mut order = order.clone();
            order.insert(at, many - 1);
            order
        })
    };
    (0..many).flat_map(with).collect()
}

impl Search<'_> {
    /// Goes on from the best by moves at random: one that is no worse than where it was some moves ago is
    /// made (late acceptance), so that it gets out of a plan that no single move betters.
    fn wanders(&mut self) {
        const AGO: usize = 24;
        const ANEW: usize = 250;
        if self.problem.makings.len() < 2 && self.how.ranks.is_empty() {
            return;
        }
        let Some(mut moves) = Moves::of(self.problem) else { return };
        let mut how = self.how.clone();
        let mut starts = self.best.starts.clone();
        let mut cost = self.cost;
        let mut ago = [cost; AGO];
        let mut at = 0;
        while !self.is_over() {
            let mut next = how.clone();
            // From time to time it begins somewhere else.
            let anew = at % ANEW == ANEW - 1;
            if anew {
                moves.begins_anew(&mut next)
            } else {
                moves.makes_one(&mut next, &starts)
            }
            self.tried += 1;
            let schedule = self.problem.place_all(&self.links, &next);
            let found = self.problem.cost(&schedule);
            if anew {
                ago.fill(found);
            }
            // Half an hour worse is no reason not to look on from there.
            let near = found <= self.cost + 1800.0 && moves.chance.random_range(0..4) == 0;
            if near || found <= cost || found <= ago[at % AGO] {
                (how, cost) = (next, found);
                starts.clone_from(&schedule.starts);
                if found < self.cost - 1e-6 {
                    (self.best, self.cost) = (schedule, found);
                    self.how = how.clone();
                }
            }
            ago[at % AGO] = cost;
            at += 1;
        }
    }
}

/// Moves at random.
struct Moves<'a> {
    problem: &'a Problem,
    chance: StdRng,
    /// How long jobs take, and their handwork.
    lengths: Vec<Time>,
    /// Stays that have vessels to choose from.
    choosy: Vec<usize>,
}

impl<'a> Moves<'a> {
    /// None where nothing takes any time.
    fn of(problem: &'a Problem) -> Option<Self> {
        let jobs = problem.jobs.iter();
        let mut lengths: Vec<Time> =
            jobs.flat_map(|j| [j.hands, j.length()]).filter(|l| *l > 0).collect();
        lengths.sort_unstable();
        lengths.dedup();
        let stays = problem.stays.iter().enumerate();
        let choosy = stays.filter(|(_, s)| s.vessels.len() > 1).map(|(i, _)| i).collect();
        let chance = StdRng::seed_from_u64(1);
        (!lengths.is_empty()).then_some(Self { problem, chance, lengths, choosy })
    }

    fn any(&mut self, many: usize) -> usize {
        self.chance.random_range(0..many)
    }

    fn begins_anew(&mut self, how: &mut How) {
        how.order.shuffle(&mut self.chance);
        how.ranks.shuffle(&mut self.chance);
        how.ends.fill(Time::MAX);
    }

    fn makes_one(&mut self, how: &mut How, starts: &[Time]) {
        let ranked = !how.ranks.is_empty();
        let jobs = &self.problem.jobs;
        let job = self.any(jobs.len());
        match self.any(8) {
            0..2 if ranked => {
                let other = self.any(jobs.len());
                how.ranks.swap(job, other);
            }
            2..4 if ranked => {
                let to = self.any(jobs.len());
                comes_in_at(&mut how.ranks, job, to);
            }
            0 | 1 => {
                let moved = how.order.remove(self.any(how.order.len()));
                let to = self.any(how.order.len() + 1);
                how.order.insert(to, moved);
            }
            2 | 3 => how.ends[job] = Time::MAX,
            4 if !self.choosy.is_empty() => {
                let at = self.any(self.choosy.len());
                let stay = self.choosy[at];
                how.prefers[stay] = self.any(self.problem.stays[stay].vessels.len());
            }
            // Its handwork ends so long before another's begins as a third one takes.
            _ => {
                let other = self.any(jobs.len());
                let third = self.any(self.lengths.len());
                let room = if self.any(3) == 0 { 0 } else { self.lengths[third] };
                let begins = starts[other] + jobs[other].lead;
                how.ends[job] = begins - room + jobs[job].wait;
            }
        }
    }
}

/// A job comes in just before or behind another one.
fn comes_in_at(ranks: &mut [usize], job: usize, to: usize) {
    let from = ranks[job];
    for rank in ranks {
        match *rank {
            r if r == from => *rank = to,
            r if from < r && r <= to => *rank = r - 1,
            r if to <= r && r < from => *rank = r + 1,
            _ => {}
        }
    }
}
