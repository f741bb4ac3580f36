//! A plan while its drinks are made.
//!
//! What was done was done when it was, and what runs is over when it is. What is yet to come keeps the time that it
//! was planned for, as late as it can be; where that can't be had any more, it moves just as far back as it must: not
//! before now, not before what it needs is done, not before the same hands, burner or vessel are free, and not into
//! times when nobody is. (A repair by *right shift*: the order of the tasks stays, so that nobody is sent from one
//! thing to another for a delay of five minutes.) What is done early is followed sooner only as far as it can't stand:
//! fresh is better, and the rest is time to spare.

use super::board::Time;
use super::schedule::{Broken, Link, Schedule};
use super::tasks::{Laid, Task, TaskState, minutes, seconds};
use super::{Order, Plan};

/// A step of a drink that was started, all rounds of it.
#[derive(Debug, Clone, PartialEq)]
pub struct Fact {
    /// The drink in the order.
    pub drink: String,
    /// The step's id.
    pub step: String,
    /// When it was started, minutes from the moment that the order counts from.
    pub from: f64,
    /// When it was done, or will be if nobody ends it sooner.
    pub to: f64,
    /// Whether it is done.
    pub done: bool,
}

/// Less than that is no delay that anyone plans with, minutes.
const IN_TIME: f64 = 1.0;
/// Serving is moved in such steps, minutes.
const STEP: f64 = 5.0;

/// Moves a schedule to what has happened.
pub(super) fn follow(order: &Order, laid: &mut Laid, schedule: &mut Schedule) {
    let Some(facts) = &order.facts else { return };
    let now = order.now.map_or(Time::MIN / 4, seconds);
    happened(order, facts, laid, schedule, now);
    let (jobs, tasks) = (&laid.problem.jobs, &laid.tasks);
    let mut in_order: Vec<usize> = (0..jobs.len()).collect();
    in_order.sort_by_key(|job| (schedule.starts[*job] + jobs[*job].lead, *job));
    // From when on hands, burners and vessels are free; a vessel with what it was last taken for.
    let mut cooks = vec![Time::MIN; laid.problem.cooks];
    let mut rings = vec![Time::MIN; laid.problem.rings];
    let mut vessels: Vec<(Option<usize>, Time)> = vec![(None, Time::MIN); laid.problem.vessels];
    for job in in_order {
        let it = &jobs[job];
        let on: Vec<(usize, usize)> = (0..laid.problem.stays.len())
            .filter(|stay| laid.problem.stays[*stay].jobs.contains(&job))
            .filter_map(|stay| Some((stay, schedule.vessel[stay]?)))
            .collect();
        if tasks[job].state == TaskState::Ahead {
            let needs: Vec<&Link> = laid.problem.links.iter().filter(|l| l.to == job).collect();
            let ends = |l: &Link| schedule.starts[l.from] + jobs[l.from].length();
            let done = needs.iter().map(|l| ends(l)).max();
            let hands = schedule.cook[job].map(|cook| cooks[cook]);
            let ring = schedule.ring[job].map(|ring| rings[ring]);
            let free = on.iter().filter(|(stay, vessel)| vessels[*vessel].0 != Some(*stay));
            let free = free.map(|(_, vessel)| vessels[*vessel].1).max();
            // What can't stand for longer is gone on with before its time.
            let stands = needs.iter().filter(|l| tasks[l.from].state == TaskState::Done);
            let until = stands.filter_map(|l| Some(ends(l) + l.longest?));
            let planned = until.fold(schedule.starts[job] + it.lead, Time::min);
            let earliest =
                [done, hands, ring, free].into_iter().flatten().fold(now + it.lead, Time::max);
            let mut begins = planned.max(earliest);
            let wanted = it.hands + if it.attended { it.wait } else { 0 };
            // In order of time: out of one busy time it may come into the next.
            for (from, to) in &laid.problem.closed {
                if wanted > 0 && begins > planned && *from < begins + wanted && *to > begins {
                    begins = *to;
                }
            }
            schedule.starts[job] = begins - it.lead;
        }
        let (hands, ends) =
            (schedule.starts[job] + it.lead + it.hands, schedule.starts[job] + it.length());
        if let Some(cook) = schedule.cook[job].filter(|_| it.hands > 0) {
            cooks[cook] = cooks[cook].max(hands);
        }
        if let Some(ring) = schedule.ring[job] {
            rings[ring] = rings[ring].max(ends);
        }
        for (stay, vessel) in on {
            vessels[vessel] = (Some(stay), vessels[vessel].1.max(ends));
        }
    }
    stands_too_long(laid, schedule);
}

/// Writes what has happened over what was planned.
fn happened(order: &Order, facts: &[Fact], laid: &mut Laid, schedule: &mut Schedule, now: Time) {
    let planned = schedule.starts.clone();
    for fact in facts {
        let is_it =
            |task: &Task| order.drinks[task.entry].id == fact.drink && task.step == fact.step;
        let rounds: Vec<usize> =
            (0..planned.len()).filter(|task| is_it(&laid.tasks[*task])).collect();
        let (from, to) = (seconds(fact.from), seconds(fact.to).max(seconds(fact.from)));
        if let [one] = rounds[..] {
            // What is over time is over when somebody looks.
            let to = if fact.done { to } else { to.max(now) };
            let job = &mut laid.problem.jobs[one];
            laid.tasks[one].state = if fact.done { TaskState::Done } else { TaskState::Running };
            schedule.starts[one] = from;
            job.lead = 0;
            job.hands = job.hands.min(to - from);
            job.wait = to - from - job.hands;
            continue;
        }
        // Nobody says which round it is: they are as far apart as planned, the last done when all are.
        let ends = |task: usize| planned[task] + laid.problem.jobs[task].length();
        let by = match fact.done {
            true => rounds.iter().map(|task| ends(*task)).max().map(|last| to - last),
            false => rounds.iter().map(|task| planned[*task]).min().map(|first| from - first),
        };
        for round in rounds {
            let (start, end) = (planned[round] + by.unwrap_or(0), ends(round) + by.unwrap_or(0));
            laid.tasks[round].state = match (fact.done || end <= now, start < now) {
                (true, _) => TaskState::Done,
                (false, true) => TaskState::Running,
                (false, false) => continue,
            };
            schedule.starts[round] = start;
        }
    }
    for (task, planned) in laid.tasks.iter_mut().zip(planned) {
        task.planned = Some(planned).filter(|_| task.state == TaskState::Ahead);
    }
}

/// What would now stand for longer than it may before what is yet to come.
fn stands_too_long(laid: &Laid, schedule: &mut Schedule) {
    for (index, link) in laid.problem.links.iter().enumerate() {
        let (broken, gap) = (Broken::Stands(index), laid.problem.gap(link, &schedule.starts));
        let moved = laid.tasks[link.to].planned.is_some_and(|at| at != schedule.starts[link.to]);
        let too_long = link.longest.is_some_and(|longest| gap > longest);
        if moved && too_long && !schedule.broken.contains(&broken) {
            schedule.broken.push(broken);
        }
    }
}

/// When each drink is ready, minutes, and by how much later all would have to be served for the last one.
pub(super) fn ready(order: &Order, plan: &mut Plan) {
    plan.ready = (0..order.drinks.len())
        .map(|drink| {
            let mine = plan.tasks.iter().filter(|task| task.drink == drink);
            mine.map(|task| task.to).fold(f64::NEG_INFINITY, f64::max)
        })
        .collect();
    plan.under_way = order.facts.is_some();
    if plan.under_way {
        let late = order.drinks.iter().zip(&plan.ready).map(|(drink, at)| at - drink.serve_at);
        let late = late.fold(0.0, f64::max);
        plan.later_by = (late > IN_TIME).then(|| (late / STEP).ceil() * STEP);
    }
}

/// By how much later (or, below 0, earlier) than planned a task is started, minutes, where that is worth a word.
pub(super) fn moved(planned: Option<Time>, start: Time) -> Option<f64> {
    planned.map(|at| minutes(start - at)).filter(|by| by.abs() >= IN_TIME)
}
