//! Puts tasks on the board, backward from serving.
//!
//! A [`Problem`] knows nothing of drinks: jobs with hands-on work and waiting, links between them with the
//! longest that may lie in between, and what each holds. Jobs of one making are placed together, the last
//! one first, each as late as hands, rings, vessels and what comes after it let it; so the makings placed
//! later fill the gaps of those placed before. Where something would then stand for longer than it may,
//! what comes after it is moved forward and the making is placed again.

use super::board::{Board, Cold, Lane, Time, latest_of};

/// A task as the schedule sees it: first what waits by itself (a kettle), then hands, then waiting.
#[derive(Debug, Clone, Default)]
pub(super) struct Job {
    pub(super) lead: Time,
    pub(super) hands: Time,
    pub(super) wait: Time,
    /// Somebody has to be awake and near while it waits.
    pub(super) attended: bool,
    pub(super) ring: bool,
    /// By when it has to be ended.
    pub(super) due: Time,
    /// It may not have ended by longer than that before it is due.
    pub(super) window: Option<Time>,
    /// When its hands-on work begins, if that was said.
    pub(super) held: Option<Time>,
    /// Litres that it stands in the refrigerator with until the next job takes them.
    pub(super) chills: f64,
}

impl Job {
    pub(super) fn length(&self) -> Time {
        self.lead + self.hands + self.wait
    }
}

/// One job comes after another.
#[derive(Debug, Clone, Default)]
pub(super) struct Link {
    pub(super) from: usize,
    pub(super) to: usize,
    /// The longest that may lie in between.
    pub(super) longest: Option<Time>,
    /// The longest without the refrigerator, where that is shorter.
    pub(super) outside: Option<Time>,
    /// Litres that stand in between.
    pub(super) litres: f64,
}

/// A vessel that is held from the first of some jobs to the last of them.
#[derive(Debug, Clone, Default)]
pub(super) struct Stay {
    pub(super) jobs: Vec<usize>,
    /// The vessels of the kitchen that would do, the best first; none if it doesn't matter.
    pub(super) vessels: Vec<usize>,
}

#[derive(Debug, Clone, Default)]
pub(super) struct Problem {
    pub(super) jobs: Vec<Job>,
    pub(super) links: Vec<Link>,
    pub(super) stays: Vec<Stay>,
    /// The jobs of each making.
    pub(super) makings: Vec<Vec<usize>>,
    pub(super) cooks: usize,
    pub(super) rings: usize,
    pub(super) vessels: usize,
    /// Litres of room in the refrigerator.
    pub(super) cold: f64,
    /// Times when nobody is free, in order.
    pub(super) closed: Vec<(Time, Time)>,
    /// Those of them that are nights: what is done before one is another day's work.
    pub(super) nights: Vec<(Time, Time)>,
    /// Nothing is started before.
    pub(super) horizon: Time,
    /// What something weighs that stands for as long as it may, as seconds of beginning earlier.
    pub(super) standing_weighs: f64,
}

/// What could not be had.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Broken {
    /// What stands between the two jobs of a link stands too long.
    Stands(usize),
    /// A last job ends too long before it is due.
    Early(usize),
    /// There are no hands, no ring or no vessel for a job.
    NoRoom(usize),
    /// A job can't be held to its time.
    Held(usize),
    /// The refrigerator is too full for what a link leaves standing.
    Cold(usize),
    /// It is too full for a job that nothing comes after.
    NoCold(usize),
}

#[derive(Debug, Clone, Default)]
pub(super) struct Schedule {
    pub(super) starts: Vec<Time>,
    /// Whose hands, on which ring.
    pub(super) cook: Vec<Option<usize>>,
    pub(super) ring: Vec<Option<usize>>,
    /// The vessel that each stay takes.
    pub(super) vessel: Vec<Option<usize>>,
    pub(super) board: Board,
    pub(super) broken: Vec<Broken>,
    /// How the search placed it.
    pub(super) how: How,
}

/// How often the placing of one making is started anew before what breaks is accepted.
const TRIES: usize = 80;
/// Something that stands for as long as it may weighs as much as beginning ten minutes earlier.
pub(super) const STANDING_WEIGHS: f64 = 600.0;
/// One more day on which one has to do with it weighs as much as six hours in the kitchen.
const ONE_MORE_DAY: Time = 6 * 3600;
/// Gaps between hands-on work that are shorter than this are spent in the kitchen.
const STAYS: Time = 1800;
/// Beginning a day earlier has to save more than an hour in the kitchen: what was made sooner is less fresh.
const EARLIER_WEIGHS: f64 = 0.05;
/// What those hours weigh beside those from the first to the last: they decide between plans that are about as
/// long, and never make one more than a twenty-fifth longer.
const STAYS_WEIGH: f64 = 0.04;

impl Problem {
    /// Each making as if it were alone in a kitchen with hands, rings and vessels enough: no plan begins
    /// later.
    pub(super) fn alone(&self) -> Vec<Time> {
        let mut free = self.clone();
        free.stays.iter_mut().for_each(|stay| stay.vessels.clear());
        free.cooks = self.jobs.len().max(1);
        free.rings = free.cooks;
        free.cold = f64::INFINITY;
        let links = Ends::of(&free);
        free.place_all(&links, &free.first()).starts
    }

    /// No plan begins later: not the longest drink alone, nor all hands-on work by all hands without a pause.
    pub(super) fn latest_begin(&self) -> Time {
        let alone = self.alone().into_iter().min().unwrap_or(0);
        let last = self.jobs.iter().map(|j| j.due).max().unwrap_or(0);
        let hands: Time = self.jobs.iter().map(|j| j.hands).sum();
        let mut left = (hands as f64 / self.cooks.max(1) as f64).floor() as Time;
        let mut at = last;
        // Back through the hours that are open.
        for (from, to) in self.closed.iter().rev().filter(|(from, _)| *from < last) {
            let open = (at - to).max(0);
            if left <= open {
                break;
            }
            left -= open;
            at = at.min(*from);
        }
        alone.min(at - left)
    }

    /// How it is placed at first.
    pub(super) fn first(&self) -> How {
        How {
            order: self.first_order(),
            ends: vec![Time::MAX; self.jobs.len()],
            prefers: vec![0; self.stays.len()],
            ranks: Vec::new(),
        }
    }

    /// Those that are held to a time first, then those that wait least well, then the longest.
    fn first_order(&self) -> Vec<usize> {
        let mut order: Vec<usize> = (0..self.makings.len()).collect();
        order.sort_by_key(|making| {
            let jobs = || self.makings[*making].iter().map(|j| &self.jobs[*j]);
            let held = jobs().any(|job| job.held.is_some());
            let window = jobs().filter_map(|job| job.window).min().unwrap_or(Time::MAX);
            let length: Time = jobs().map(Job::length).sum();
            (!held, window, -length, *making)
        });
        order
    }

    fn empty_board(&self) -> Board {
        let mut cook = Lane::default();
        for (from, to) in &self.closed {
            cook.take(*from, *to);
        }
        Board {
            cooks: vec![cook; self.cooks],
            rings: vec![Lane::default(); self.rings],
            vessels: vec![Lane::default(); self.vessels],
            cold: Cold::default(),
        }
    }

    pub(super) fn place_all(&self, links: &Ends, how: &How) -> Schedule {
        let n = self.jobs.len();
        let mut schedule = Schedule {
            starts: vec![0; n],
            cook: vec![None; n],
            ring: vec![None; n],
            vessel: vec![None; self.stays.len()],
            board: self.empty_board(),
            broken: Vec::new(),
            how: How::default(),
        };
        let mut placed = vec![false; n];
        let mut waiting = how.order.clone();
        let mut room = Room::default();
        while !waiting.is_empty() {
            // What other makings wait for is placed after them.
            let free = |making: &usize| {
                let mine = &self.makings[*making];
                mine.iter().all(|j| {
                    links.out[*j].iter().all(|l| {
                        let to = self.links[*l].to;
                        placed[to] || mine.contains(&to)
                    })
                })
            };
            let next = waiting.iter().position(free).unwrap_or(0);
            let making = waiting.remove(next);
            self.place(links, making, how, &mut placed, &mut schedule, &mut room);
        }
        schedule
    }

    /// Places the jobs of a making, again and again until nothing stands too long.
    fn place(
        &self,
        links: &Ends,
        making: usize,
        how: &How,
        placed: &mut [bool],
        schedule: &mut Schedule,
        Room { bounds, board, left }: &mut Room,
    ) {
        bounds.ends.clone_from(&how.ends);
        bounds.stays.clear();
        bounds.stays.resize(self.stays.len(), 0);
        board.clone_from(&schedule.board);
        let broken = schedule.broken.len();
        for attempt in 0..=TRIES {
            let last = attempt == TRIES;
            let mut try_it = Placing { problem: self, links, how, schedule, placed, last };
            if try_it.making(making, bounds, left) || last {
                return;
            }
            self.makings[making].iter().for_each(|j| placed[*j] = false);
            schedule.board.clone_from(board);
            schedule.broken.truncate(broken);
            for (stay, vessel) in self.stays.iter().zip(&mut schedule.vessel) {
                if stay.jobs.iter().all(|j| !placed[*j]) {
                    *vessel = None;
                }
            }
        }
    }

    /// What lies between the two jobs of a link.
    pub(super) fn gap(&self, link: &Link, starts: &[Time]) -> Time {
        let (from, to) = (&self.jobs[link.from], &self.jobs[link.to]);
        starts[link.to] + to.lead - (starts[link.from] + from.length())
    }

    /// Less is better: first whatever breaks, then what stands about, how early it begins, and how long
    /// one is in the kitchen.
    pub(super) fn cost(&self, schedule: &Schedule) -> f64 {
        let loses = |link: &Link| {
            let longest = link.longest.filter(|l| (1..43_200).contains(l))? as f64;
            Some(self.gap(link, &schedule.starts).max(0) as f64 / longest)
        };
        let standing: f64 = self.links.iter().filter_map(loses).sum();
        let stays: Time = self.stretches(schedule, STAYS).iter().map(|(from, to)| to - from).sum();
        let first = schedule.starts.iter().min().copied().unwrap_or(0);
        1e9 * schedule.broken.len() as f64
            + self.standing_weighs * standing
            + self.in_the_kitchen(schedule) as f64
            + STAYS_WEIGH * stays as f64
            - EARLIER_WEIGHS * first as f64
    }

    /// For how long one has to do with it on all days together: from when each day's first thing is started to
    /// the night, or to the last serving. Nobody is sent to the kitchen on one more day for a shorter one: that is
    /// for them to choose.
    fn in_the_kitchen(&self, schedule: &Schedule) -> Time {
        let last = self.jobs.iter().map(|job| job.due).max().unwrap_or(0);
        let mut first: Vec<Option<Time>> = vec![None; self.nights.len() + 1];
        for (job, start) in self.jobs.iter().zip(&schedule.starts) {
            let day = self.nights.partition_point(|(_, morning)| morning <= start);
            // What only waits through a night is begun by nobody.
            if job.hands > 0 || self.nights.is_empty() {
                first[day] = Some(first[day].map_or(*start, |f| f.min(*start)));
            }
        }
        let ends = self.nights.iter().map(|(evening, _)| *evening).chain([last]);
        first
            .into_iter()
            .zip(ends)
            .filter_map(|(from, to)| Some(ONE_MORE_DAY + (to.min(last) - from?).max(0)))
            .sum()
    }

    /// When hands are wanted, in order; stretches with less than `apart` between them are one.
    pub(super) fn stretches(&self, schedule: &Schedule, apart: Time) -> Vec<(Time, Time)> {
        let mut spans: Vec<(Time, Time)> = self
            .jobs
            .iter()
            .zip(&schedule.starts)
            .filter(|(job, _)| job.hands > 0)
            .map(|(job, start)| (start + job.lead, start + job.lead + job.hands))
            .collect();
        spans.sort_unstable();
        let mut joined: Vec<(Time, Time)> = Vec::new();
        for (from, to) in spans {
            match joined.last_mut() {
                Some(last) if from - last.1 < apart => last.1 = last.1.max(to),
                _ => joined.push((from, to)),
            }
        }
        joined
    }
}

/// What decides a placing.
#[derive(Debug, Clone, Default)]
pub(super) struct How {
    /// In which order the makings are placed.
    pub(super) order: Vec<usize>,
    /// By when each job has to be ended so that another one has room after it.
    pub(super) ends: Vec<Time>,
    /// Which of its vessels each stay takes if it is free.
    pub(super) prefers: Vec<usize>,
    /// The jobs of a making in the order in which they are placed, as far as what comes after them allows;
    /// where it is empty, what can be latest is placed first.
    pub(super) ranks: Vec<usize>,
}

/// The links that leave each job, and the stays that it is part of.
pub(super) struct Ends {
    out: Vec<Vec<usize>>,
    stays: Vec<Vec<usize>>,
}

impl Ends {
    pub(super) fn of(problem: &Problem) -> Self {
        let mut out = vec![Vec::new(); problem.jobs.len()];
        for (i, link) in problem.links.iter().enumerate() {
            out[link.from].push(i);
        }
        let mut stays = vec![Vec::new(); problem.jobs.len()];
        for (i, stay) in problem.stays.iter().enumerate().filter(|(_, s)| !s.vessels.is_empty()) {
            stay.jobs.iter().for_each(|job| stays[*job].push(i));
        }
        Self { out, stays }
    }
}

/// What was learned from placings that broke.
#[derive(Default)]
struct Bounds {
    /// By when a job has to be ended so that nothing before it stands too long.
    ends: Vec<Time>,
    /// For how long a vessel will be held at least.
    stays: Vec<Time>,
}

/// Room that is used anew for each making.
#[derive(Default)]
struct Room {
    bounds: Bounds,
    /// The board as it was before the making.
    board: Board,
    /// The jobs that are yet to be placed.
    left: Vec<usize>,
}

/// The placing of one making.
struct Placing<'a> {
    problem: &'a Problem,
    links: &'a Ends,
    how: &'a How,
    schedule: &'a mut Schedule,
    placed: &'a mut [bool],
    /// What breaks now is accepted.
    last: bool,
}

impl Placing<'_> {
    fn start_of(&self, job: usize) -> Time {
        self.schedule.starts[job]
    }

    /// The latest that a job may end for what is already placed after it.
    fn latest_end(&self, job: usize, bounds: &Bounds) -> Time {
        let out = self.links.out[job].iter().map(|l| self.problem.links[*l].to);
        let after = out
            .filter(|to| self.placed[*to])
            .map(|to| self.start_of(to) + self.problem.jobs[to].lead)
            .min();
        self.problem.jobs[job].due.min(bounds.ends[job]).min(after.unwrap_or(Time::MAX))
    }

    /// Returns whether all could be had; if not, `bounds` know better than before.
    fn making(&mut self, making: usize, bounds: &mut Bounds, left: &mut Vec<usize>) -> bool {
        let jobs = &self.problem.makings[making];
        left.clone_from(jobs);
        let mut whole = true;
        while !left.is_empty() {
            let ready = |job: &usize| {
                self.links.out[*job].iter().all(|l| {
                    let to = self.problem.links[*l].to;
                    self.placed[to] || !jobs.contains(&to)
                })
            };
            let next = (0..left.len())
                .filter(|i| ready(&left[*i]))
                .max_by_key(|i| match self.how.ranks.get(left[*i]) {
                    Some(rank) => (-(*rank as Time), left[*i]),
                    None => (self.latest_end(left[*i], bounds), left[*i]),
                })
                .unwrap_or(0);
            let job = left.swap_remove(next);
            whole &= self.job(making, job, bounds);
            if !whole && !self.last {
                return false;
            }
        }
        whole
    }

    fn job(&mut self, making: usize, index: usize, bounds: &mut Bounds) -> bool {
        let job = &self.problem.jobs[index];
        let latest = self.latest_end(index, bounds) - job.length();
        let (start, mut whole) = match job.held {
            Some(hands) => {
                let start = hands - job.lead;
                (start, self.holds(index, start, latest, bounds))
            }
            None => match self.fit(index, latest, bounds) {
                Ok(start) => (start, true),
                Err(longer) => {
                    if !self.last && longer {
                        return false;
                    }
                    self.schedule.broken.push(Broken::NoRoom(index));
                    (latest, true)
                }
            },
        };
        self.take(index, start, bounds);
        whole &= self.stands(making, index, bounds);
        whole
    }

    /// Whether a job can begin at the time that it is held to: before what comes after it, with a hand, a ring and
    /// its vessels free.
    fn holds(&mut self, index: usize, start: Time, latest: Time, bounds: &Bounds) -> bool {
        let job = &self.problem.jobs[index];
        let board = &self.schedule.board;
        let (from, to) = (start + job.lead, start + job.length());
        let free = |lanes: &[Lane], to| lanes.iter().any(|lane| lane.is_free(from, to));
        let hands = job.hands == 0 || free(&board.cooks, from + job.hands);
        let ring = !job.ring || free(&board.rings, to);
        let opened = self.links.stays[index].iter().all(|stay| {
            let held = self.schedule.vessel[*stay].zip(self.held(*stay));
            held.is_none_or(|(vessel, (first, _))| {
                from >= first || board.vessels[vessel].is_free(from, first)
            })
        });
        let vessels = opened
            && self.choices(index, from, to, bounds).iter().all(|(_, vessel)| vessel.is_some());
        if start > latest || !hands || !ring || !vessels {
            self.schedule.broken.push(Broken::Held(index));
        }
        true
    }

    /// The latest start up to `latest` for which there is everything. `Err(true)` if it may be had when
    /// vessels are held for longer from the beginning.
    fn fit(&self, index: usize, latest: Time, bounds: &mut Bounds) -> Result<Time, bool> {
        let (problem, board) = (self.problem, &self.schedule.board);
        let job = &problem.jobs[index];
        let mut start = latest;
        loop {
            let before = start;
            if start < problem.horizon {
                return Err(false);
            }
            if job.hands > 0 {
                let hands = latest_of(&board.cooks, start + job.lead, job.hands);
                start = hands.ok_or(false)?.1 - job.lead;
            }
            if job.attended {
                // Through the night nobody watches a pot.
                let (from, to) = (start + job.lead, start + job.length());
                let night = problem.closed.iter().rev().find(|(a, b)| *a < to && *b > from);
                start = night.map_or(start, |(a, _)| a - job.length());
            }
            if job.ring {
                let length = job.hands + job.wait;
                let ring = latest_of(&board.rings, start + job.lead, length);
                start = ring.ok_or(false)?.1 - job.lead;
            }
            for stay in &self.links.stays[index] {
                start = self.fit_vessel(*stay, index, start, bounds)?;
            }
            if start == before {
                match self.told_apart(index, start, bounds)? {
                    None => return Ok(start),
                    Some(earlier) => start = earlier,
                }
            }
        }
    }

    /// The vessels that the stays of a job take which begin with it, each one of its own; `None` for those
    /// that find none at that time.
    fn choices(
        &self,
        index: usize,
        from: Time,
        to: Time,
        bounds: &Bounds,
    ) -> Vec<(usize, Option<usize>)> {
        let stays = &self.links.stays[index];
        let opened = stays.iter().filter_map(|stay| self.schedule.vessel[*stay]);
        let mut taken: Vec<usize> = opened.collect();
        let mut new: Vec<usize> =
            stays.iter().copied().filter(|s| self.schedule.vessel[*s].is_none()).collect();
        // Who has least to choose from chooses first.
        new.sort_by_key(|stay| self.problem.stays[*stay].vessels.len());
        new.into_iter()
            .map(|stay| {
                let vessels = &self.problem.stays[stay].vessels;
                let begins = from.min(to - bounds.stays[stay]);
                let liked = self.how.prefers[stay] % vessels.len();
                let mut in_turn = vessels[liked..].iter().chain(&vessels[..liked]);
                let lanes = &self.schedule.board.vessels;
                let free = in_turn.find(|v| !taken.contains(v) && lanes[**v].is_open(begins, to));
                taken.extend(free);
                (stay, free.copied())
            })
            .collect()
    }

    /// Whether a job's vessels can be told apart when it begins at that time; if not, the next time before
    /// at which they might.
    fn told_apart(&self, index: usize, start: Time, bounds: &Bounds) -> Result<Option<Time>, bool> {
        let job = &self.problem.jobs[index];
        let (from, to) = (start + job.lead, start + job.length());
        let choices = self.choices(index, from, to, bounds);
        let Some((stay, _)) = choices.iter().find(|(_, vessel)| vessel.is_none()) else {
            return Ok(None);
        };
        let own = self.links.stays[index].iter().filter_map(|s| self.schedule.vessel[*s]);
        let taken: Vec<usize> = own.chain(choices.iter().filter_map(|(_, v)| *v)).collect();
        let length = (to - from).max(bounds.stays[*stay]);
        let others = self.problem.stays[*stay].vessels.iter().filter(|v| !taken.contains(v));
        let latest = others
            .map(|v| self.schedule.board.vessels[*v].latest_open(to - length, length))
            .max()
            .ok_or(false)?;
        // One that is free just now would have been chosen.
        Ok(Some((latest + length - job.length()).min(start - 1)))
    }

    /// The latest start for which the vessel of a stay is there.
    fn fit_vessel(
        &self,
        stay: usize,
        index: usize,
        start: Time,
        bounds: &mut Bounds,
    ) -> Result<Time, bool> {
        let (problem, board) = (self.problem, &self.schedule.board);
        let job = &problem.jobs[index];
        let begins = start + job.lead;
        let held = self.held(stay);
        if let (Some(vessel), Some((from, to))) = (self.schedule.vessel[stay], held) {
            let lane = &board.vessels[vessel];
            if start + job.length() > to && !lane.is_free(to, start + job.length()) {
                return Ok(to - job.length());
            }
            if begins >= from || lane.is_free(begins, from) {
                return Ok(start);
            }
            // Another one, or the same one earlier: it is held for longer than was thought.
            bounds.stays[stay] = bounds.stays[stay].max(to - begins);
            return Err(true);
        }
        let ends = start + job.length();
        let length = (ends - begins).max(bounds.stays[stay]);
        let latest = problem.stays[stay]
            .vessels
            .iter()
            .map(|vessel| board.vessels[*vessel].latest_free(ends - length, length))
            .max()
            .ok_or(false)?;
        Ok(latest + length - job.length())
    }

    /// From when to when a vessel is held by what is placed already.
    fn held(&self, stay: usize) -> Option<(Time, Time)> {
        let placed = || self.problem.stays[stay].jobs.iter().filter(|j| self.placed[**j]);
        let from = placed().map(|j| self.start_of(*j) + self.problem.jobs[*j].lead).min()?;
        let to = placed().map(|j| self.start_of(*j) + self.problem.jobs[*j].length()).max()?;
        Some((from, to))
    }

    /// Writes a job on the board.
    fn take(&mut self, index: usize, start: Time, bounds: &Bounds) {
        let job = &self.problem.jobs[index];
        let (from, to) = (start + job.lead, start + job.length());
        let board = &mut self.schedule.board;
        if job.hands > 0
            && let Some((cook, at)) = latest_of(&board.cooks, from, job.hands)
        {
            // One that is held to its time where nobody is free is shown with the first.
            let cook = if at == from { cook } else { 0 };
            board.cooks[cook].take(from, from + job.hands);
            self.schedule.cook[index] = Some(cook);
        }
        if job.ring
            && let Some((ring, at)) = latest_of(&board.rings, from, to - from)
        {
            let ring = if at == from { ring } else { 0 };
            board.rings[ring].take(from, to);
            self.schedule.ring[index] = Some(ring);
        }
        self.schedule.starts[index] = start;
        let choices = self.choices(index, from, to, bounds);
        for stay in &self.links.stays[index] {
            let held = self.held(*stay);
            let lanes = &mut self.schedule.board.vessels;
            if let (Some(vessel), Some((before, after))) = (self.schedule.vessel[*stay], held) {
                lanes[vessel].take(from, before);
                lanes[vessel].take(after, to);
            }
        }
        for (stay, vessel) in choices {
            // Where there is none, what breaks is told of the job.
            let vessel = vessel.unwrap_or(self.problem.stays[stay].vessels[0]);
            self.schedule.board.vessels[vessel].open(from, to);
            self.schedule.vessel[stay] = Some(vessel);
        }
        self.placed[index] = true;
    }

    /// Sees to it that nothing stands too long between a job and what comes after it.
    fn stands(&mut self, making: usize, index: usize, bounds: &mut Bounds) -> bool {
        let problem = self.problem;
        let job = &problem.jobs[index];
        let ends = self.start_of(index) + job.length();
        let mut whole = true;
        if job.window.is_some_and(|window| ends < job.due - window) {
            // Nothing comes after it that could be moved.
            self.schedule.broken.push(Broken::Early(index));
        }
        if job.chills > 0.0 && self.links.out[index].is_empty() {
            let (from, cold) = (ends - job.wait, &mut self.schedule.board.cold);
            if cold.most(from, ends) + job.chills > problem.cold + 1e-9 {
                self.schedule.broken.push(Broken::NoCold(index));
            }
            cold.take(from, ends, job.chills);
        }
        for l in &self.links.out[index] {
            let link = &problem.links[*l];
            let next = &problem.jobs[link.to];
            let begins = self.start_of(link.to) + next.lead;
            let gap = begins - ends;
            let movable = next.held.is_none() && problem.makings[making].contains(&link.to);
            let mut pull = |bounds: &mut Bounds, to: Time| {
                let by = to - next.lead + next.length();
                let earlier = by < bounds.ends[link.to] && movable;
                bounds.ends[link.to] = bounds.ends[link.to].min(by);
                whole &= !earlier;
                earlier
            };
            if link.longest.is_some_and(|longest| gap > longest) {
                let pulled = pull(bounds, ends + link.longest.unwrap_or(0));
                if self.last || !pulled {
                    self.schedule.broken.push(Broken::Stands(*l));
                }
            }
            let into_cold = job.chills > 0.0 || link.outside.is_some_and(|outside| gap > outside);
            if into_cold && link.litres > 0.0 {
                let from = if job.chills > 0.0 { ends - job.wait } else { ends };
                let cold = &mut self.schedule.board.cold;
                if cold.most(from, begins) + link.litres > problem.cold + 1e-9 {
                    let first = cold.first_in(from, begins);
                    let pulled = first.is_some_and(|first| pull(bounds, first));
                    if self.last || !pulled {
                        self.schedule.broken.push(Broken::Cold(*l));
                    }
                }
                cold.take(from, begins, link.litres);
            }
        }
        whole
    }
}
