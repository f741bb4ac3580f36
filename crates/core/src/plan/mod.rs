//! When to start: several drinks, one kitchen, backward from the moment of serving.
//!
//! A step of a drink is a **task**: some of it is hands-on work, the rest is waiting. How long each takes is
//! read off the trace, and so is how long what it leaves may *stand* before the next step: the contents
//! are let stand where they are until something is lost (the ice melts, the fizz goes, it turns bitter,
//! it is no longer safe). Between two tasks on one vessel lies a **window**, from no time at all to that.
//!
//! A task **holds** what it needs: hands, a ring of the stove while something is on it, the very vessel
//! of the kitchen that the drink's vessel stands for (from the first task on it to the last), room in the
//! refrigerator. Hands rest in the hours that are closed: the night, and what is spoken for. Waiting goes
//! on through them, but nobody leaves a pot on the ring alone.
//!
//! A [`Plan`] puts every task as late as it can be: fresh is better, and one sleeps longer. What can be
//! made earlier without loss is told as a [`AheadPart`], and whoever likes moves it to the evening before.
//!
//! There is no clock here: all times are minutes before (negative) or after the moment that the order
//! counts from, usually the serving. Which day and hour that is, is somebody else's business.

mod board;
mod follow;
mod helps;
mod kitchen;
mod schedule;
mod search;
mod standing;
mod strip;
mod tasks;
#[cfg(test)]
mod tests;
mod words;

use serde::{Deserialize, Serialize};

use crate::cupboard::VesselKind;
use crate::drink::{Drink, FieldError};
use crate::work::Worktop;

pub use follow::Fact;
pub use helps::{Help, PlanChange};
pub(crate) use standing::may_stand;
pub use strip::{AheadPart, Block, Busy, PlannedTask, Rest};
pub use tasks::TaskState;

use follow::follow;
use schedule::{Broken, Problem, Schedule};
use strip::read;
use tasks::{Laid, lay_out, minutes};

/// What is to be planned.
#[derive(Debug, Clone, Default)]
pub struct Order {
    /// The drinks, at the sizes that they are made in.
    pub drinks: Vec<Wanted>,
    /// What there is to make them with.
    pub means: Means,
    /// Times when nobody is free.
    pub closed: Vec<Closed>,
    /// The tasks that are pinned to a time.
    pub holds: Vec<Hold>,
    /// When tasks stood in the plan before its latest change: they stay there where that is nearly as good.
    pub stood: Vec<Hold>,
    /// The tasks that come after others.
    pub after: Vec<After>,
    /// Parts that are to be done by the evening before: the entry and the step that ends each.
    pub ahead: Vec<String>,
    /// The time that it is; without it nothing is in the past.
    pub now: Option<f64>,
    /// What was done or started already; none before any of the drinks was begun.
    pub facts: Option<Vec<Fact>>,
}

/// A drink that is to be ready.
#[derive(Debug, Clone)]
pub struct Wanted {
    /// Names it in the plan; the first part of its tasks' ids.
    pub id: String,
    /// The drink in the size to make.
    pub drink: Drink,
    /// When it is served, minutes from the moment that the order counts from.
    pub serve_at: f64,
    /// The ids of cooling steps to do in cold water, whatever the drink says.
    pub water_bath: Vec<String>,
}

/// The kitchen's means for a plan.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Means {
    /// Pairs of hands.
    pub cooks: u32,
    /// The number of burners.
    pub rings: u32,
    /// Room in the refrigerator, litres.
    pub refrigerator_l: f64,
}

impl Default for Means {
    /// One cook, four rings, and a refrigerator of which two shelves are cleared: about 30 l. Estimate of
    /// a home kitchen.
    fn default() -> Self {
        Self { cooks: 1, rings: 4, refrigerator_l: 30.0 }
    }
}

/// The most of each that a plan can have.
pub mod most {
    /// Drinks.
    pub const DRINKS: usize = 20;
    /// Pairs of hands.
    pub const COOKS: u32 = 12;
    /// Rings.
    pub const RINGS: u32 = 12;
    /// Litres of room in the refrigerator.
    pub const LITRES: f64 = 1000.0;
    /// Tasks in all.
    pub const TASKS: usize = 600;
}

impl Means {
    /// What no kitchen can be.
    #[must_use]
    pub fn check(&self) -> Vec<FieldError> {
        let fault = |field: &str, message: String| FieldError { field: field.into(), message };
        let mut faults = Vec::new();
        if self.cooks == 0 || self.cooks > most::COOKS {
            let message = format!("Enter 1 to {} cooks.", most::COOKS);
            faults.push(fault("means.cooks", message));
        }
        if self.rings > most::RINGS {
            let message = format!("Enter 0 to {} burners.", most::RINGS);
            faults.push(fault("means.rings", message));
        }
        if !(0.0..=most::LITRES).contains(&self.refrigerator_l) {
            let message = format!("Enter 0 to {} l.", most::LITRES);
            faults.push(fault("means.refrigerator_l", message));
        }
        faults
    }
}

/// Times when nobody is free.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Closed {
    /// From, minutes.
    pub from: f64,
    /// To, minutes.
    pub to: f64,
    /// Whether it is a night, before which parts can be made.
    pub night: bool,
}

/// A task that is pinned to a time.
#[derive(Debug, Clone, PartialEq)]
pub struct Hold {
    /// Its id.
    pub task: String,
    /// When its hands-on work begins, minutes.
    pub at: f64,
}

/// A task that comes after another one.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct After {
    /// Its id.
    pub task: String,
    /// The id of the earlier task.
    pub after: String,
}

/// When everything is done.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Plan {
    /// When to start, minutes.
    pub begins: f64,
    /// When the last thing is done, minutes.
    pub ends: f64,
    /// All tasks, in order of time.
    pub tasks: Vec<PlannedTask>,
    /// Hands-on work without a break, as it is drawn: one drink, one cook, no pause.
    pub blocks: Vec<Block>,
    /// The unattended time in between.
    pub rests: Vec<Rest>,
    /// The work of each cook, in order of time.
    pub cooks: Vec<Vec<Busy>>,
    /// The use of each burner.
    pub rings: Vec<Vec<Busy>>,
    /// The use of the kitchen's vessels.
    pub vessels: Vec<VesselUse>,
    /// The largest volume in the refrigerator at once, litres.
    pub refrigerator_l: f64,
    /// Hands-on time of all cooks together, minutes.
    pub work_minutes: f64,
    /// Breaks of half an hour or more during the plan, outside closed hours, in which no work is needed.
    pub free: Vec<Stretch>,
    /// The latest possible start, minutes: by the longest chain of steps in a drink, and the hands-on work of all
    /// cooks.
    pub bound: f64,
    /// The number of rounds for each drink, in the order of the drinks.
    pub goes: Vec<u32>,
    /// The conflicts and gaps.
    pub troubles: Vec<Trouble>,
    /// The delay of serving if you start now or, in a plan in progress, go on now, minutes; missing if there is time.
    pub later_by: Option<f64>,
    /// When each drink is ready, minutes, in the order of the drinks.
    pub ready: Vec<f64>,
    /// Whether a batch of it was started.
    pub under_way: bool,
    /// The changes that would help, the most effective first.
    pub helps: Vec<Help>,
    /// The parts that can be made ahead.
    pub parts: Vec<AheadPart>,
    /// The times when nobody is free.
    pub closed: Vec<Closed>,
}

/// A span of time.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Stretch {
    /// From, minutes.
    pub from: f64,
    /// To, minutes.
    pub to: f64,
}

/// The use of one of the kitchen's vessels.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct VesselUse {
    /// Its name.
    pub name: String,
    /// The steps that use it, in order of time.
    pub by: Vec<Busy>,
}

/// A conflict or gap in the plan.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct Trouble {
    /// Whether it makes the plan impossible; otherwise it is only a note.
    pub stops: bool,
    /// In words.
    pub message: String,
    /// The id of the task.
    pub task: Option<String>,
}

impl Trouble {
    fn of_vessel(drink: &str, vessel: &str, why: &str, taken: bool) -> Self {
        let taken = if taken { " The other drinks of the plan have the rest." } else { "" };
        let vessel = vessel.to_lowercase();
        Self { stops: true, message: format!("{drink}, {vessel}: {why}{taken}"), task: None }
    }

    fn no_vessel(drink: &str, vessel: &str, kind: VesselKind, too_small: bool) -> Self {
        let kind = kind.name().to_lowercase();
        let message = if too_small {
            format!("{drink}: no {kind} of the cupboard is large enough for “{vessel}”.")
        } else {
            format!(
                "{drink}: there is no {kind} in the cupboard. The plan takes it that one is at hand."
            )
        };
        Self { stops: too_small, message, task: None }
    }

    /// There is one vessel where two are held at once.
    fn in_use(drink: &str, vessel: &str, litres: Option<f64>, own: &str) -> Self {
        let size = litres.map(|litres| format!(" of {litres:.1} l")).unwrap_or_default();
        let message = format!(
            "{drink}: “{vessel}” needs a second one{size} while your “{own}” is in use. Borrow one, or make less \
             at a time. The plan assumes you have one."
        );
        Self { stops: false, message, task: None }
    }
}

/// Plans an order.
///
/// Tasks lie within their windows, nothing is held by two at once, hands rest in closed hours; where that
/// can't be had, [`Plan::troubles`] says what breaks. Up to ten drinks of fifteen steps take some tens of
/// milliseconds.
///
/// # Errors
/// If the drinks are too large to be run for one question, or there are too many tasks.
pub fn plan<'a>(order: &Order, worktop: impl Into<Worktop<'a>>) -> Result<Plan, FieldError> {
    let mut laid = laid(order, worktop.into())?;
    let mut schedule = laid.solve(order);
    follow(order, &mut laid, &mut schedule);
    Ok(read(order, &laid, &schedule))
}

/// How far a quick search goes.
const QUICKLY: f64 = 0.05;

/// A drink by itself, with the usual hands and burners and this kitchen's vessels: when to start so that it is ready
/// at 0, in how many rounds, and what stands in the way. Found by a short search: a choice among drinks needs no
/// better.
///
/// # Errors
/// As [`plan`].
pub fn alone<'a>(drink: &Drink, worktop: impl Into<Worktop<'a>>) -> Result<Plan, FieldError> {
    let wanted =
        Wanted { id: "a".into(), drink: drink.clone(), serve_at: 0.0, water_bath: Vec::new() };
    let order = Order { drinks: vec![wanted], ..Order::default() };
    let laid = laid(&order, worktop.into())?;
    let schedule = laid.problem.solve(QUICKLY);
    Ok(read(&order, &laid, &schedule))
}

/// [`plan`], with what would help and when it could be served at the earliest. What is being made already isn't planned
/// anew: then it is [`plan`] alone.
///
/// # Errors
/// As [`plan`].
pub fn plan_with_help<'a>(
    order: &Order,
    worktop: impl Into<Worktop<'a>>,
) -> Result<Plan, FieldError> {
    let worktop = worktop.into();
    if order.facts.is_some() {
        return plan(order, worktop);
    }
    let laid = laid(order, worktop)?;
    let schedule = laid.solve(order);
    let mut plan = read(order, &laid, &schedule);
    helps::add(order, worktop, &laid, &schedule, &mut plan)?;
    Ok(plan)
}

fn laid(order: &Order, worktop: Worktop<'_>) -> Result<Laid, FieldError> {
    let fault = |field: &str, message: String| FieldError { field: field.into(), message };
    if order.drinks.is_empty() {
        return Err(fault("drinks", "There is no drink in this plan yet. Add one.".into()));
    }
    if order.drinks.len() > most::DRINKS {
        let message =
            format!("You chose {} drinks. Choose up to {}.", order.drinks.len(), most::DRINKS);
        return Err(fault("drinks", message));
    }
    let steps: usize = order.drinks.iter().map(|d| d.drink.steps.len()).sum();
    if steps == 0 {
        return Err(fault("drinks", "These drinks have no steps yet.".into()));
    }
    let laid = lay_out(order, worktop)?;
    if laid.tasks.len() > most::TASKS {
        let message = format!(
            "These drinks need {} tasks. We can plan up to {}. Make less at once, or use larger vessels.",
            laid.tasks.len(),
            most::TASKS
        );
        return Err(fault("drinks", message));
    }
    if let Some((task, after)) = in_a_circle(&laid) {
        let message = format!("“{task}” can't come after “{after}”: that already comes after it.");
        return Err(fault("after", message));
    }
    Ok(laid)
}

/// Two tasks that wait for each other, if there are any.
fn in_a_circle(laid: &Laid) -> Option<(String, String)> {
    let n = laid.tasks.len();
    let mut waits_for = vec![0; n];
    for link in &laid.problem.links {
        waits_for[link.to] += 1;
    }
    let mut free: Vec<usize> = (0..n).filter(|t| waits_for[*t] == 0).collect();
    let mut done = 0;
    while let Some(task) = free.pop() {
        done += 1;
        for link in laid.problem.links.iter().filter(|l| l.from == task) {
            waits_for[link.to] -= 1;
            if waits_for[link.to] == 0 {
                free.push(link.to);
            }
        }
    }
    if done == n {
        return None;
    }
    // The links that were said last are those of the order.
    let stuck = laid.problem.links.iter().rev().find(|l| waits_for[l.to] > 0)?;
    Some((laid.tasks[stuck.to].label.to_owned(), laid.tasks[stuck.from].label.to_owned()))
}

/// What broke, in words.
fn told(laid: &Laid, schedule: &Schedule, order: &Order) -> Vec<Trouble> {
    let problem = &laid.problem;
    let name = |task: usize| &order.drinks[laid.tasks[task].entry].drink.name;
    let mut troubles: Vec<Trouble> = Vec::new();
    for broken in &schedule.broken {
        let (task, message) = match *broken {
            Broken::Stands(l) | Broken::Cold(l) if problem.links[l].longest.is_none() => {
                let task = problem.links[l].from;
                (task, format!("{}: the refrigerator is too full for it.", name(task)))
            }
            Broken::Stands(l) => {
                let link = &problem.links[l];
                let gap = problem.gap(link, &schedule.starts);
                let why = laid.tasks[link.from].why.as_deref().unwrap_or("It stands too long.");
                let message = format!(
                    "{}: after “{}” it would have to stand for {}, and {} is the most. {why}",
                    name(link.from),
                    laid.tasks[link.from].label,
                    say(minutes(gap)),
                    say(minutes(link.longest.unwrap_or(0))),
                );
                (link.from, message)
            }
            Broken::Cold(l) => {
                let link = &problem.links[l];
                (link.from, no_room_in_the_cold(name(link.from), link.litres, problem.cold))
            }
            Broken::NoCold(task) => {
                let litres = problem.jobs[task].chills;
                (task, no_room_in_the_cold(name(task), litres, problem.cold))
            }
            Broken::Early(task) => {
                let job = &problem.jobs[task];
                let ends = schedule.starts[task] + job.length();
                let why = laid.tasks[task].why.as_deref().unwrap_or("It stands too long.");
                let message = format!(
                    "{}: “{}” is done {} before it is wanted. {why}",
                    name(task),
                    laid.tasks[task].label,
                    say(minutes(job.due - ends)),
                );
                (task, message)
            }
            Broken::NoRoom(task) => {
                let job = &problem.jobs[task];
                let stretch = job.hands + if job.attended { job.wait } else { 0 };
                let lacks = if job.ring && problem.rings == 0 {
                    "a burner, and there is none".to_owned()
                } else {
                    format!(
                        "somebody for {} at a stretch, and what it is done with; there is no such time \
                         in two months",
                        say(minutes(stretch))
                    )
                };
                let label = laid.tasks[task].label;
                (task, format!("{}: “{label}” needs {lacks}.", name(task)))
            }
            Broken::Held(task) => {
                let label = laid.tasks[task].label;
                let message = format!(
                    "{}: “{label}” can't be pinned there: a later step starts sooner, nobody is free, or the \
                     burner or vessel that it takes is in use.",
                    name(task)
                );
                (task, message)
            }
        };
        let id = laid.tasks[task].id.clone();
        if !troubles.iter().any(|t| t.task.as_ref() == Some(&id)) {
            troubles.push(Trouble { stops: true, message, task: Some(id) });
        }
    }
    troubles
}

fn no_room_in_the_cold(name: &str, litres: f64, cold: f64) -> String {
    format!(
        "{name}: there is no room in the refrigerator for its {litres:.1} l when it is wanted; \
         {cold:.1} l are all there is."
    )
}

/// A span as one speaks of it.
fn say(minutes: f64) -> String {
    let whole = minutes.round() as i64;
    match whole {
        ..1 => "a moment".into(),
        1 => "a minute".into(),
        2..90 => format!("{whole} minutes"),
        90..2880 => {
            let (hours, rest) = (whole / 60, whole % 60);
            let plural = if hours == 1 { "" } else { "s" };
            match rest {
                0 => format!("{hours} hour{plural}"),
                _ => format!("{hours} h {rest} min"),
            }
        }
        _ => format!("{} days", whole / 1440),
    }
}
