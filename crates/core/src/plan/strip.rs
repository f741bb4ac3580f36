//! A schedule as it is read: tasks by time, hands-on work in blocks, what rests in between, parts that can be
//! made ahead.

use serde::Serialize;

use super::board::Time;
use super::follow::{moved, ready};
use super::schedule::Schedule;
use super::tasks::{Laid, TaskState, minutes, part_id};
use super::words::tells;
use super::{Order, Plan, Stretch, VesselUse, say, told};
use crate::cupboard::VesselKind;

/// A step of a drink at its time.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct PlannedTask {
    /// The id, made of the entry, the round and the step.
    pub id: String,
    /// The position of its drink in the order.
    pub drink: usize,
    /// The round; the number after the last means once for all rounds.
    pub go: u32,
    /// The step's id.
    pub step: String,
    /// In a word or two.
    pub label: String,
    /// In a sentence.
    pub sentence: String,
    /// When it starts, minutes: for a kettle, when it is switched on.
    pub from: f64,
    /// When hands are needed, minutes.
    pub hands_from: f64,
    /// The time when hands are free again, minutes.
    pub hands_to: f64,
    /// When it is done, minutes.
    pub to: f64,
    /// The cook: 0 is the first.
    pub cook: Option<usize>,
    /// The burner.
    pub ring: Option<usize>,
    /// The drink's vessels that the task uses.
    pub vessels: Vec<String>,
    /// The latest time for the next step, minutes; missing if its result keeps.
    pub may_stand_until: Option<f64>,
    /// The reason for the limit.
    pub why: Option<String>,
    /// Whether it is pinned to its time.
    pub held: bool,
    /// The progress of the task.
    pub state: TaskState,
    /// The delay against the plan, minutes, because an earlier step took longer; below 0 if it has to be earlier,
    /// because an earlier step was done sooner and its result doesn't keep.
    pub moved: Option<f64>,
}

/// Hands-on work without a break.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Block {
    /// The position of its drink in the order.
    pub drink: usize,
    /// The round.
    pub go: u32,
    /// The cook: 0 is the first.
    pub cook: usize,
    /// From, minutes.
    pub from: f64,
    /// To, minutes.
    pub to: f64,
    /// The main steps: "simmer, strain".
    pub label: String,
    /// The kind of vessel in which the task ends.
    pub vessel: VesselKind,
    /// The ids of its tasks.
    pub tasks: Vec<String>,
    /// Whether all its tasks are done.
    pub done: bool,
}

/// The unattended time.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Rest {
    /// The position of its drink in the order.
    pub drink: usize,
    /// From, minutes.
    pub from: f64,
    /// To, minutes.
    pub to: f64,
    /// The wait and its place: "steep, on the worktop".
    pub label: String,
    /// The id of the task before it.
    pub task: String,
    /// Whether the time is needed, or only a wait for the next step.
    pub needed: bool,
}

/// A vessel, burner or place that is in use.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Busy {
    /// From, minutes.
    pub from: f64,
    /// To, minutes.
    pub to: f64,
    /// The position of the drink in the order.
    pub drink: usize,
}

/// A part that can be made ahead.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct AheadPart {
    /// The id, made of the entry and the last step.
    pub id: String,
    /// The position of its drink in the order.
    pub drink: usize,
    /// A label: "up to “strain”, in the jug".
    pub label: String,
    /// How long it keeps at this point, minutes.
    pub keeps_minutes: f64,
    /// The reason for the limit.
    pub why: String,
    /// Hands-on time, minutes.
    pub work_minutes: f64,
    /// Whether it is moved to the evening before.
    pub ahead: bool,
}

/// Pauses shorter than this are none, s.
const IN_A_ROW: Time = 90;
/// Stretches from which on one is free, s.
const FREE: Time = 1800;
/// Parts with less hands-on work than this aren't worth it, s.
const WORTH_IT: Time = 180;
/// Parts that keep for less are nothing to make ahead, s: ten hours.
const KEEPS: Time = 36_000;

pub(super) fn read(order: &Order, laid: &Laid, schedule: &Schedule) -> Plan {
    let problem = &laid.problem;
    let tasks = planned(order, laid, schedule);
    let begins = tasks.iter().map(|t| t.from).fold(f64::INFINITY, f64::min);
    let ends = tasks.iter().map(|t| t.to).fold(f64::NEG_INFINITY, f64::max);
    let of = |job: usize| laid.tasks[job].entry;
    let busy = |lane: usize, of_lane: &[Option<usize>], ring: bool| -> Vec<Busy> {
        let mut all: Vec<Busy> = (0..problem.jobs.len())
            .filter(|job| of_lane[*job] == Some(lane))
            .map(|job| {
                let it = &problem.jobs[job];
                let from = schedule.starts[job] + it.lead;
                let to = from + it.hands + if ring { it.wait } else { 0 };
                Busy { from: minutes(from), to: minutes(to), drink: of(job) }
            })
            .filter(|b| b.to > b.from)
            .collect();
        all.sort_by(|a, b| a.from.total_cmp(&b.from));
        in_a_row(all)
    };
    let mut troubles = laid.troubles.clone();
    troubles.extend(told(laid, schedule, order));
    let cold = schedule.board.cold.taken();
    let fullest = cold.iter().map(|(from, to, _)| schedule.board.cold.most(*from, *to));
    let mut plan = Plan {
        begins,
        ends,
        blocks: blocks(laid, schedule),
        rests: rests(laid, schedule),
        cooks: (0..problem.cooks).map(|c| busy(c, &schedule.cook, false)).collect(),
        rings: (0..problem.rings).map(|r| busy(r, &schedule.ring, true)).collect(),
        vessels: vessels(laid, schedule),
        refrigerator_l: fullest.fold(0.0, f64::max),
        work_minutes: minutes(problem.jobs.iter().map(|j| j.hands).sum()),
        free: free(laid, schedule),
        bound: minutes(problem.latest_begin()),
        goes: laid.goes.clone(),
        troubles,
        later_by: None,
        ready: Vec::new(),
        under_way: false,
        helps: Vec::new(),
        parts: parts(order, laid),
        closed: order.closed.clone(),
        tasks,
    };
    ready(order, &mut plan);
    plan
}

/// Things for the same drink that follow at once as one.
fn in_a_row(all: Vec<Busy>) -> Vec<Busy> {
    let mut joined: Vec<Busy> = Vec::new();
    for next in all {
        match joined.last_mut() {
            Some(last) if last.drink == next.drink && next.from - last.to <= minutes(IN_A_ROW) => {
                last.to = last.to.max(next.to);
            }
            _ => joined.push(next),
        }
    }
    joined
}

fn planned(order: &Order, laid: &Laid, schedule: &Schedule) -> Vec<PlannedTask> {
    let problem = &laid.problem;
    let mut all: Vec<PlannedTask> = laid
        .tasks
        .iter()
        .zip(&problem.jobs)
        .enumerate()
        .map(|(i, (task, job))| {
            let start = schedule.starts[i];
            let end = start + job.length();
            let links = problem.links.iter().filter(|l| l.from == i);
            let longest = links.filter_map(|l| l.longest).min().or(job.window);
            PlannedTask {
                id: task.id.clone(),
                drink: task.entry,
                go: task.go,
                step: task.step.clone(),
                label: task.label.to_owned(),
                sentence: task.sentence.clone(),
                from: minutes(start),
                hands_from: minutes(start + job.lead),
                hands_to: minutes(start + job.lead + job.hands),
                to: minutes(end),
                cook: schedule.cook[i],
                ring: schedule.ring[i],
                vessels: task.vessels.clone(),
                may_stand_until: longest.map(|l| minutes(end + l)),
                why: task.why.clone(),
                held: order.holds.iter().any(|h| h.task == task.id),
                state: task.state,
                moved: moved(task.planned, start),
            }
        })
        .collect();
    all.sort_by(|a, b| a.hands_from.total_cmp(&b.hands_from).then(a.to.total_cmp(&b.to)));
    all
}

fn blocks(laid: &Laid, schedule: &Schedule) -> Vec<Block> {
    let mut by_time: Vec<usize> =
        (0..laid.tasks.len()).filter(|i| laid.problem.jobs[*i].hands > 0).collect();
    let from = |i: usize| schedule.starts[i] + laid.problem.jobs[i].lead;
    by_time.sort_by_key(|i| (from(*i), *i));
    let mut blocks: Vec<(Block, Time)> = Vec::new();
    for i in by_time {
        let (task, job) = (&laid.tasks[i], &laid.problem.jobs[i]);
        let (begins, ends) = (from(i), from(i) + job.hands);
        let cook = schedule.cook[i].unwrap_or(0);
        let done = task.state == TaskState::Done;
        let row = blocks.iter_mut().rev().find(|(b, _)| b.cook == cook);
        match row {
            Some((block, to))
                if (block.drink, block.go, block.done) == (task.entry, task.go, done)
                    && begins - *to <= IN_A_ROW =>
            {
                block.tasks.push(task.id.clone());
                block.label = format!("{}, {}", block.label, task.label);
                block.vessel = task.kind;
                block.to = minutes(ends);
                *to = ends;
            }
            _ => blocks.push((
                Block {
                    drink: task.entry,
                    go: task.go,
                    cook,
                    from: minutes(begins),
                    to: minutes(ends),
                    label: task.label.to_owned(),
                    vessel: task.kind,
                    tasks: vec![task.id.clone()],
                    done,
                },
                ends,
            )),
        }
    }
    blocks
        .into_iter()
        .map(|(block, _)| Block { label: most_telling(&block.label), ..block })
        .collect()
}

/// Of things done in a row the two that tell most, in their order.
fn most_telling(labels: &str) -> String {
    let mut all: Vec<&str> = Vec::new();
    for label in labels.split(", ") {
        if !all.contains(&label) {
            all.push(label);
        }
    }
    let mut ranks: Vec<u8> = all.iter().map(|l| tells(l)).collect();
    ranks.sort_unstable_by(|a, b| b.cmp(a));
    let least = ranks.get(1).copied().unwrap_or(0);
    let best = ranks.first().copied().unwrap_or(0);
    // One thing that tells everything needs no other beside it that tells nothing.
    let least = if least == 0 { best } else { least };
    let named: Vec<&str> = all.into_iter().filter(|l| tells(l) >= least).take(2).collect();
    named.join(", ")
}

fn rests(laid: &Laid, schedule: &Schedule) -> Vec<Rest> {
    let problem = &laid.problem;
    let mut rests = Vec::new();
    for (i, (task, job)) in laid.tasks.iter().zip(&problem.jobs).enumerate() {
        let start = schedule.starts[i];
        let end = start + job.length();
        let mut rest = |from: Time, to: Time, label: String, needed: bool| {
            if to - from >= 60 {
                rests.push(Rest {
                    drink: task.entry,
                    from: minutes(from),
                    to: minutes(to),
                    label,
                    task: task.id.clone(),
                    needed,
                });
            }
        };
        rest(start, start + job.lead, "the kettle boils".into(), true);
        rest(end - job.wait, end, format!("{}, {}", task.label, task.waits), true);
        let next = problem.links.iter().filter(|l| l.from == i && l.litres > 0.0);
        for link in next {
            let begins = schedule.starts[link.to] + problem.jobs[link.to].lead;
            let cold = job.chills > 0.0 || link.outside.is_some_and(|o| begins - end > o);
            let place = if cold { "in the refrigerator" } else { "on the worktop" };
            rest(end, begins, format!("stands {place}"), false);
        }
    }
    rests.sort_by(|a, b| a.from.total_cmp(&b.from));
    rests
}

fn vessels(laid: &Laid, schedule: &Schedule) -> Vec<VesselUse> {
    let problem = &laid.problem;
    (0..problem.vessels)
        .filter_map(|vessel| {
            let stays = problem.stays.iter().zip(&schedule.vessel);
            let mut by: Vec<Busy> = stays
                .filter(|(_, taken)| **taken == Some(vessel))
                .filter_map(|(stay, _)| {
                    let from = |j: &usize| schedule.starts[*j] + problem.jobs[*j].lead;
                    let to = |j: &usize| schedule.starts[*j] + problem.jobs[*j].length();
                    Some(Busy {
                        from: minutes(stay.jobs.iter().map(from).min()?),
                        to: minutes(stay.jobs.iter().map(to).max()?),
                        drink: laid.tasks[*stay.jobs.first()?].entry,
                    })
                })
                .collect();
            by.sort_by(|a, b| a.from.total_cmp(&b.from));
            let name = laid.vessels.name(vessel).to_owned();
            (!by.is_empty()).then_some(VesselUse { name, by })
        })
        .collect()
}

/// Stretches between two pieces of hands-on work, with no night in between: one waits, and may go.
fn free(laid: &Laid, schedule: &Schedule) -> Vec<Stretch> {
    let hands = laid.problem.stretches(schedule, FREE);
    let between = hands.windows(2).map(|pair| (pair[0].1, pair[1].0));
    let meets =
        |from: Time, to: Time| laid.problem.closed.iter().any(|(a, b)| *a < to && *b > from);
    between
        .filter(|(from, to)| !meets(*from, *to))
        .map(|(from, to)| Stretch { from: minutes(from), to: minutes(to) })
        .collect()
}

/// What can be made ahead: of each drink the latest part that keeps overnight, and an earlier one if that
/// keeps much longer.
fn parts(order: &Order, laid: &Laid) -> Vec<AheadPart> {
    let problem = &laid.problem;
    let mut parts: Vec<AheadPart> = Vec::new();
    for drink in 0..order.drinks.len() {
        let mut found: Vec<(usize, AheadPart)> = Vec::new();
        for (index, task) in laid.tasks.iter().enumerate() {
            if task.entry != drink || task.go > 1 || task.into.is_none() {
                continue;
            }
            let out = problem.links.iter().filter(|l| l.from == index);
            let longest = out.filter_map(|l| l.longest).min().or(problem.jobs[index].window);
            let Some(longest) = longest.filter(|l| *l >= KEEPS) else { continue };
            let before = ancestors(problem, index);
            let work: Time = before.iter().map(|j| problem.jobs[*j].hands).sum();
            if work < WORTH_IT {
                continue;
            }
            let id = part_id(order, task);
            let vessel = task.vessels.last().map_or_else(String::new, |v| lower(v));
            let goes = i64::from(laid.goes[drink]);
            found.push((
                before.len(),
                AheadPart {
                    drink,
                    label: format!("up to “{}”, in the {vessel}", task.label),
                    keeps_minutes: minutes(longest),
                    why: task.why.clone().unwrap_or_default(),
                    work_minutes: minutes(work * goes),
                    ahead: order.ahead.contains(&id),
                    id,
                },
            ));
        }
        // The latest first; an earlier one only if it keeps twice as long.
        found.sort_by_key(|(before, _)| std::cmp::Reverse(*before));
        let mut longest = 0.0;
        for (_, part) in found {
            if part.keeps_minutes >= 2.0 * longest || part.ahead {
                longest = part.keeps_minutes;
                parts.push(part);
            }
        }
    }
    parts
}

fn lower(name: &str) -> String {
    let mut letters = name.chars();
    letters.next().map_or_else(String::new, |c| c.to_lowercase().chain(letters).collect())
}

/// A task and everything that has to be done before it.
pub(super) fn ancestors(problem: &super::Problem, task: usize) -> Vec<usize> {
    let mut all = vec![task];
    let mut at = 0;
    while at < all.len() {
        let task = all[at];
        for link in problem.links.iter().filter(|l| l.to == task) {
            if !all.contains(&link.from) {
                all.push(link.from);
            }
        }
        at += 1;
    }
    all
}

/// A span for a sentence about parts.
pub(super) fn keeps_for(part: &AheadPart) -> String {
    say(part.keeps_minutes)
}
