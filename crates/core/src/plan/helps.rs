//! What would help, found by planning again with it; and when it could be served if one began now.

use serde::Serialize;

use super::schedule::{Problem, Schedule};
use super::strip::keeps_for;
use super::tasks::{Laid, lay_out, make_ahead, minutes, part_id, seconds};
use super::{Order, Plan, say};
use crate::drink::{Action, CoolingPlace, FieldError};
use crate::work::Worktop;

/// A change that would help.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Help {
    /// A title: "A second burner".
    pub title: String,
    /// Its effect: "start 20 minutes later".
    pub message: String,
    /// The time that it saves before the start on the day, minutes.
    pub gain_minutes: f64,
    /// The conflicts that it removes.
    pub mends: u32,
    /// The change to the plan.
    pub change: PlanChange,
}

/// A change to the plan that would help.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum PlanChange {
    /// One more cook.
    Cook,
    /// One more burner.
    Ring,
    /// A cooling step is done in cold water: the id of its task.
    WaterBath(String),
    /// The name of another vessel like one that several drinks need. It has to be borrowed, not ticked.
    Vessel(String),
    /// A part is made the evening before: the entry, and its last step.
    Ahead(String),
}

/// Less than this is nothing that one would change a plan for, minutes.
const WORTH_IT: f64 = 5.0;
/// What is tried for a help begins with how the plan itself was placed, so that it needs fewer orders to be as good.
const QUICKLY: f64 = 0.15;
/// How many cooling steps are tried in cold water.
const BATHS: usize = 4;
/// A cooling step shorter than this isn't worth it, s.
const LONG_COOLING: i64 = 1200;
/// Serving is put off by steps of so many minutes, and for two days at the most.
const PUT_OFF: f64 = 5.0;
/// How much of the search for a plan is spent on each time that it might be put off to: as much as on the plan itself.
const PUT_OFF_TRIES: f64 = 1.0;
/// After so many times that don't fit the steps are doubled, so that a large plan is answered soon.
const FINELY: i32 = 6;
const MOST_PUT_OFF: f64 = 2.0 * 1440.0;

/// Adds to a plan what would help, and by how much later it could be served.
pub(super) fn add(
    order: &Order,
    worktop: Worktop<'_>,
    laid: &Laid,
    schedule: &Schedule,
    plan: &mut Plan,
) -> Result<(), FieldError> {
    plan.later_by = order.now.filter(|now| *now > plan.begins).and_then(|now| {
        let ready = plan.troubles.iter().all(|t| t.task.is_none());
        ready.then(|| put_off(laid, plan.begins, now)).flatten()
    });
    let mut changes = Changes { order, laid, schedule, all: Vec::new() };
    changes.one_more();
    changes.another_vessel();
    changes.parts_ahead(plan);
    changes.cold_water(worktop)?;
    let mut helps = tried(&changes.all, order, laid, schedule);
    helps.sort_by(|a, b| b.mends.cmp(&a.mends).then(b.gain_minutes.total_cmp(&a.gain_minutes)));
    helps.truncate(6);
    plan.helps = helps;
    Ok(())
}

/// A change that might help, and the problem that it makes of the plan.
struct Candidate {
    title: String,
    problem: Problem,
    /// The order and its tasks, where the change makes other ones.
    other: Option<(Order, Laid)>,
    change: PlanChange,
}

impl Candidate {
    /// What it brings, if that is worth a change. `begins`: when the day begins without it, minutes.
    fn help(&self, order: &Order, laid: &Laid, before: &Schedule, begins: f64) -> Option<Help> {
        let (order, laid) =
            self.other.as_ref().map_or((order, laid), |(order, laid)| (order, laid));
        let solved = self.problem.solve_after(before, QUICKLY);
        let gain = minutes(seconds(day_begins(order, laid, &solved) - begins));
        let (was, broken) = (before.broken.len() as u32, solved.broken.len() as u32);
        let mends = was.saturating_sub(broken);
        if broken > was || (gain < WORTH_IT && mends == 0) {
            return None;
        }
        let mut told = Vec::new();
        if mends > 0 {
            let all = if mends == was { "then everything fits" } else { "then more fits" };
            told.push(all.to_owned());
        }
        if gain >= WORTH_IT {
            told.push(format!("start {} later", say(gain)));
        }
        Some(Help {
            title: self.title.clone(),
            message: told.join("; "),
            gain_minutes: gain.max(0.0),
            mends,
            change: self.change.clone(),
        })
    }
}

/// What helps of all that might, in the same order. Each is planned for itself, so all of the machine's cores work.
fn tried(all: &[Candidate], order: &Order, laid: &Laid, schedule: &Schedule) -> Vec<Help> {
    let begins = day_begins(order, laid, schedule);
    let help = |candidate: &Candidate| candidate.help(order, laid, schedule, begins);
    let cores = std::thread::available_parallelism().map_or(1, usize::from).min(all.len()).max(1);
    let share = all.len().div_ceil(cores).max(1);
    std::thread::scope(|threads| {
        let shares = all
            .chunks(share)
            .map(|some| threads.spawn(move || some.iter().filter_map(help).collect::<Vec<Help>>()));
        let begun: Vec<_> = shares.collect();
        let ended = begun.into_iter().map(|thread| thread.join());
        ended.flat_map(|some| some.unwrap_or_else(|fell| std::panic::resume_unwind(fell))).collect()
    })
}

/// The plan as it is, and the changes to it that might help.
struct Changes<'a> {
    order: &'a Order,
    laid: &'a Laid,
    schedule: &'a Schedule,
    all: Vec<Candidate>,
}

impl Changes<'_> {
    /// One more that leaves the tasks as they are.
    fn with(&mut self, title: String, problem: Problem, change: PlanChange) {
        self.all.push(Candidate { title, problem, other: None, change });
    }

    /// One more cook, and one more burner.
    fn one_more(&mut self) {
        let problem = &self.laid.problem;
        if self.order.drinks.len() + problem.cooks > 1 {
            let mut more = problem.clone();
            more.cooks += 1;
            self.with(format!("{} person", nth(more.cooks)), more, PlanChange::Cook);
        }
        if problem.jobs.iter().any(|j| j.ring) {
            let mut more = problem.clone();
            more.rings += 1;
            self.with(format!("{} burner", nth(more.rings)), more, PlanChange::Ring);
        }
    }

    /// Another one like each vessel that two drinks take.
    fn another_vessel(&mut self) {
        let problem = &self.laid.problem;
        for vessel in 0..problem.vessels {
            let uses = problem.stays.iter().zip(&self.schedule.vessel);
            let mut drinks: Vec<usize> = uses
                .filter(|(_, taken)| **taken == Some(vessel))
                .filter_map(|(stay, _)| Some(self.laid.tasks[*stay.jobs.first()?].entry))
                .collect();
            drinks.dedup();
            if drinks.len() < 2 {
                continue;
            }
            let mut more = problem.clone();
            more.vessels += 1;
            for stay in more.stays.iter_mut().filter(|s| s.vessels.contains(&vessel)) {
                stay.vessels.push(problem.vessels);
            }
            let name = self.laid.vessels.name(vessel).to_owned();
            let title = format!("Another one like “{name}”");
            self.with(title, more, PlanChange::Vessel(name));
        }
    }

    /// Each part the evening before.
    fn parts_ahead(&mut self, plan: &Plan) {
        for part in plan.parts.iter().filter(|p| !p.ahead) {
            let mut more = self.laid.problem.clone();
            for (task, job) in self.laid.tasks.iter().zip(&mut more.jobs) {
                if part_id(self.order, task) == part.id {
                    make_ahead(self.order, job);
                }
            }
            let name = &self.order.drinks[part.drink].drink.name;
            let keeps = keeps_for(part);
            let title = format!("{name} the evening before, {}: it keeps {keeps}", part.label);
            self.with(title, more, PlanChange::Ahead(part.id.clone()));
        }
    }

    /// Each long cooling in cold water.
    fn cold_water(&mut self, worktop: Worktop<'_>) -> Result<(), FieldError> {
        for (task, drink, step) in long_coolings(self.order, self.laid) {
            let mut changed = self.order.clone();
            changed.drinks[drink].water_bath.push(step);
            let other = lay_out(&changed, worktop)?;
            let title = format!("Cold water for {}", self.order.drinks[drink].drink.name);
            self.all.push(Candidate {
                title,
                problem: other.problem.clone(),
                other: Some((changed, other)),
                change: PlanChange::WaterBath(task),
            });
        }
        Ok(())
    }
}

/// When hands-on work begins on the day of serving, minutes: after the last night before the last serving, or from
/// the first begin where there is none.
fn day_begins(order: &Order, laid: &Laid, schedule: &Schedule) -> f64 {
    let due = laid.problem.jobs.iter().map(|j| j.due).max().unwrap_or(0);
    let nights = order.closed.iter().filter(|s| s.night).map(|s| seconds(s.to));
    let morning = nights.filter(|to| *to < due).max().unwrap_or(i64::MIN);
    let hands = laid.problem.jobs.iter().zip(&schedule.starts).filter(|(j, _)| j.hands > 0);
    let on_the_day = hands.map(|(j, s)| s + j.lead).filter(|from| *from >= morning).min();
    minutes(on_the_day.unwrap_or(due))
}

/// Cooling steps on the worktop or in the refrigerator that take long.
fn long_coolings(order: &Order, laid: &Laid) -> Vec<(String, usize, String)> {
    let mut found: Vec<(i64, usize)> = Vec::new();
    for (i, (task, job)) in laid.tasks.iter().zip(&laid.problem.jobs).enumerate() {
        let wanted = &order.drinks[task.entry];
        let step = wanted.drink.steps.iter().find(|s| s.id == task.step);
        let warm = step.is_some_and(|s| {
            // Cold water is about 12 °C; what must be colder goes on in the refrigerator.
            matches!(&s.action, Action::Cool { place, to_c, .. }
                if matches!(place, CoolingPlace::Worktop | CoolingPlace::Refrigerator)
                    && *to_c >= 15.0)
        });
        let known = wanted.water_bath.contains(&task.step);
        if warm && !known && task.go == 1 && job.wait >= LONG_COOLING {
            found.push((-job.wait, i));
        }
    }
    found.sort_unstable();
    found
        .into_iter()
        .take(BATHS)
        .map(|(_, i)| {
            let task = &laid.tasks[i];
            (task.id.clone(), task.entry, task.step.clone())
        })
        .collect()
}

/// By how much everything has to be served later if one can't begin before now; none if not within two days.
fn put_off(laid: &Laid, begins: f64, now: f64) -> Option<f64> {
    let (now, begins) = (seconds(now), seconds(begins));
    // At least by what is missing now; then in larger steps until it fits, and back in small ones.
    let fits = |later: f64| {
        let mut problem = laid.problem.clone();
        for job in &mut problem.jobs {
            job.due += seconds(later);
        }
        // As thoroughly as what it would change, or a day that is long enough looks too short.
        let schedule = problem.solve(PUT_OFF_TRIES);
        let begins = schedule.starts.iter().copied().min().unwrap_or(0);
        (begins >= now && schedule.broken.is_empty(), minutes(now - begins))
    };
    // The plan that there is, put off as it is, needs what is missing; no less is tried.
    let mut later = (minutes(now - begins) / PUT_OFF).ceil().max(1.0) * PUT_OFF;
    for tried in 1.. {
        if later > MOST_PUT_OFF {
            break;
        }
        let (ready, missing) = fits(later);
        if ready {
            return Some(later);
        }
        let least = f64::from(1 << (tried - FINELY).clamp(0, 8));
        later += (missing / PUT_OFF).ceil().max(least) * PUT_OFF;
    }
    None
}

fn nth(number: usize) -> String {
    match number {
        1 => "A".into(),
        2 => "A second".into(),
        3 => "A third".into(),
        4 => "A fourth".into(),
        _ => "One more".into(),
    }
}
