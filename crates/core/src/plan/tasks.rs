//! What a drink asks of a kitchen: its steps as tasks, and what lies between them, read off the trace.

use std::collections::{HashMap, HashSet};

use serde::{Deserialize, Serialize};

use super::board::Time;
use super::kitchen::{Choice, Vessels, is_own, take_from};
use super::schedule::{Job, Link, Problem, STANDING_WEIGHS, Schedule, Stay};
use super::standing::{Limit, Waiting};
use super::words::label;
use super::{Order, Trouble, Wanted};
use crate::cupboard::{Cupboard, VesselKind};
use crate::drink::{Action, CoolingPlace, Drink, Maceration, Precedence, Preparation};
use crate::drink::{RestingPlace, Step, Through};
use crate::quantity::{Minutes, Units};
use crate::report::sentence;
use crate::scale::{fit_into, in_measures, keeps, need};
use crate::trace::{Frame, Trace};
use crate::work::{Stopped, Worktop};

/// The progress of a task in a plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum TaskState {
    /// Yet to come.
    #[default]
    Ahead,
    /// In progress.
    Running,
    /// Done.
    Done,
}

/// A step of a drink that is planned.
#[derive(Debug, Clone)]
pub(super) struct Task {
    /// `entry/go/step`.
    pub(super) id: String,
    pub(super) entry: usize,
    pub(super) go: u32,
    /// The step's id.
    pub(super) step: String,
    pub(super) label: &'static str,
    pub(super) sentence: String,
    /// Where what it makes waits, in words: "in the refrigerator".
    pub(super) waits: &'static str,
    /// Names of the drink's vessels that it works on.
    pub(super) vessels: Vec<String>,
    /// The vessel that it leaves something in, by its position in the drink.
    pub(super) into: Option<usize>,
    /// What kind of vessel that is; of a step that works on none, a pitcher.
    pub(super) kind: VesselKind,
    /// Why what it leaves may stand no longer, in the place where it may stand longest.
    pub(super) why: Option<String>,
    pub(super) state: TaskState,
    /// When it was planned to start, where what has happened was written into the schedule.
    pub(super) planned: Option<Time>,
}

/// Everything that is to be planned.
pub(super) struct Laid {
    pub(super) tasks: Vec<Task>,
    pub(super) problem: Problem,
    pub(super) vessels: Vessels,
    pub(super) troubles: Vec<Trouble>,
    /// How many goes each entry is made in.
    pub(super) goes: Vec<u32>,
}

impl Laid {
    /// The best plan that was found, or the one before, where that is nearly as good.
    pub(super) fn solve(&self, order: &Order) -> Schedule {
        let found = self.problem.solve(1.0);
        let at = |task: &Task| order.stood.iter().find(|stood| stood.task == task.id);
        let stood: Vec<Option<Time>> =
            self.tasks.iter().map(|task| at(task).map(|stood| seconds(stood.at))).collect();
        self.problem.nearly_as_before(&stood, found)
    }
}

pub(super) fn seconds(minutes: f64) -> Time {
    (minutes * 60.0).round() as Time
}

pub(super) fn minutes(seconds: Time) -> f64 {
    seconds as f64 / 60.0
}

/// Nobody plans for longer: two months and the night before.
const HORIZON: f64 = -62.0 * 1440.0;
/// Times when nobody is free shorter than this are nothing that one would move a part before.
const A_NIGHT: f64 = 4.0 * 60.0;

/// Lays out all drinks of an order.
pub(super) fn lay_out(order: &Order, worktop: Worktop<'_>) -> Result<Laid, Stopped> {
    let cupboard = worktop.cupboard();
    let mut left = cupboard.kitchen().vessels.clone();
    let mut troubles = Vec::new();
    let mut makings = Vec::new();
    for (entry, wanted) in order.drinks.iter().enumerate() {
        let drink = with_changes(wanted);
        let fits = fit_into(&drink, worktop, &left)?;
        for fit in &fits.fits {
            let vessel = drink.vessel(&fit.vessel).unwrap_or(0);
            if keeps(&drink, vessel) && !left.is_empty() {
                for taken in &fit.taken {
                    take_from(&mut left, &taken.name, taken.count);
                }
                if !fit.fits {
                    let taken = entry > 0 && left.len() < cupboard.kitchen().vessels.len();
                    troubles.push(Trouble::of_vessel(&drink.name, &fit.name, &fit.message, taken));
                }
            }
        }
        let whole = worktop.trace(&drink)?;
        let goes = fits.batches;
        let one = match goes {
            1 => drink.clone(),
            _ => in_measures(&fits.batch, worktop, Units::AsWritten)?,
        };
        let run = if goes > 1 { worktop.trace(&one)? } else { whole.clone() };
        makings.push(Making { entry, wanted, drink, whole, one, run, goes });
    }
    let goes = makings.iter().map(|m| m.goes).collect();
    let mut laying = Laying {
        order,
        cupboard,
        vessels: Vessels::of(left),
        tasks: Vec::new(),
        problem: Problem::default(),
        troubles,
    };
    for making in &makings {
        laying.making(making);
    }
    Ok(laying.done(goes))
}

/// The drink with what the plan changes in it: places where it is cooled.
fn with_changes(wanted: &Wanted) -> Drink {
    let mut drink = wanted.drink.clone();
    for step in &mut drink.steps {
        if wanted.water_bath.contains(&step.id)
            && let Action::Cool { place, .. } = &mut step.action
        {
            *place = CoolingPlace::WaterBath;
        }
    }
    drink
}

/// A drink that is made, in one go or several.
struct Making<'a> {
    entry: usize,
    wanted: &'a Wanted,
    drink: Drink,
    whole: Trace,
    /// One go of it.
    one: Drink,
    run: Trace,
    goes: u32,
}

/// A drink with its trace.
#[derive(Clone, Copy)]
struct Run<'a> {
    drink: &'a Drink,
    trace: &'a Trace,
}

impl Making<'_> {
    /// The drink that a go is a making of, and its run: what comes after the last go is of all of them together.
    fn run_of(&self, go: u32) -> Run<'_> {
        match go > self.goes {
            true => Run { drink: &self.drink, trace: &self.whole },
            false => Run { drink: &self.one, trace: &self.run },
        }
    }
}

/// The ids of steps that are done once for all goes: at the glass, and whatever follows in a vessel that one
/// of those has worked on.
fn shared(drink: &Drink) -> HashSet<String> {
    let mut vessels: HashSet<&str> = HashSet::new();
    let glasses = drink.vessels.iter().filter(|v| v.kind == VesselKind::Glass);
    vessels.extend(glasses.map(|v| v.id.as_str()));
    let mut shared = HashSet::new();
    for step in &drink.steps {
        let path = step.action.path();
        if path.iter().any(|id| vessels.contains(id)) {
            vessels.extend(path);
            shared.insert(step.id.clone());
        }
    }
    shared
}

/// Which stays of one making find no vessel while the others are held: those that are held at the same time, whatever
/// the plan, need vessels of their own.
fn without_vessel(stays: &[&Stay], links: &[Link]) -> Vec<usize> {
    let comes_after = |from: &[usize]| -> HashSet<usize> {
        let mut found: HashSet<usize> = from.iter().copied().collect();
        // Tasks are linked in the order in which they were laid out.
        for link in links {
            if found.contains(&link.from) {
                found.insert(link.to);
            }
        }
        found
    };
    let held_through = |a: &Stay, b: &Stay| {
        let after = comes_after(&a.jobs);
        let between: Vec<usize> =
            b.jobs.iter().copied().filter(|job| after.contains(job)).collect();
        let after_both = comes_after(&between);
        !between.is_empty() && a.jobs.iter().any(|job| after_both.contains(job))
    };
    let together = |a: usize, b: usize| {
        a != b && (held_through(stays[a], stays[b]) || held_through(stays[b], stays[a]))
    };
    let mut left: Vec<usize> = (0..stays.len()).filter(|s| !stays[*s].vessels.is_empty()).collect();
    // Who has more to choose from than others could take is never without.
    while let Some(at) = left
        .iter()
        .position(|a| stays[*a].vessels.len() > left.iter().filter(|b| together(*a, **b)).count())
    {
        left.remove(at);
    }
    let mut taken: Vec<(usize, usize)> = Vec::new();
    left.sort_by_key(|stay| stays[*stay].vessels.len());
    left.retain(|stay| {
        let free = stays[*stay].vessels.iter().find(|vessel| {
            taken.iter().all(|(other, held)| held != *vessel || !together(*stay, *other))
        });
        taken.extend(free.map(|vessel| (*stay, *vessel)));
        free.is_none()
    });
    left
}

struct Laying<'a> {
    order: &'a Order,
    cupboard: &'a Cupboard,
    vessels: Vessels,
    tasks: Vec<Task>,
    problem: Problem,
    troubles: Vec<Trouble>,
}

impl Laying<'_> {
    fn making(&mut self, making: &Making<'_>) {
        let mut of_step: HashMap<String, Vec<usize>> = HashMap::new();
        let precedence = Precedence::of(&making.drink, self.cupboard);
        let shared = if making.goes > 1 { shared(&making.drink) } else { HashSet::new() };
        for go in 1..=making.goes {
            let first = self.tasks.len();
            for step in 0..making.one.steps.len() {
                if shared.contains(&making.one.steps[step].id) {
                    continue;
                }
                let index = self.task(making, go, making.run_of(go), step);
                self.after(making, &making.one, &precedence, step, index, &mut of_step);
            }
            let jobs: Vec<usize> = (first..self.tasks.len()).collect();
            self.stays(making, making.run_of(go), &jobs, go);
            self.problem.makings.push(jobs);
        }
        if making.goes > 1 {
            let first = self.tasks.len();
            for step in 0..making.drink.steps.len() {
                if shared.contains(&making.drink.steps[step].id) {
                    let run = making.run_of(making.goes + 1);
                    let index = self.task(making, making.goes + 1, run, step);
                    self.after(making, &making.drink, &precedence, step, index, &mut of_step);
                }
            }
            self.problem.makings.push((first..self.tasks.len()).collect());
        }
        self.last_ones(making);
    }

    /// One step as a task.
    fn task(&mut self, making: &Making<'_>, go: u32, run: Run<'_>, step: usize) -> usize {
        let Run { drink, trace } = run;
        let frame = &trace.frames[step];
        let it = &drink.steps[step];
        let id = format!("{}/{go}/{}", making.wanted.id, it.id);
        let held = self.order.holds.iter().find(|h| h.task == id).map(|h| seconds(h.at));
        let job = Job {
            due: seconds(making.wanted.serve_at),
            held,
            chills: if in_the_cold(&it.action) == Some(Cold::Refrigerator) {
                litres(frame)
            } else {
                0.0
            },
            ..job(&it.action, frame)
        };
        let path = it.action.path();
        self.problem.jobs.push(job);
        self.tasks.push(Task {
            id,
            entry: making.entry,
            go,
            step: it.id.clone(),
            label: label(&it.action),
            sentence: sentence(drink, it, self.cupboard),
            waits: match in_the_cold(&it.action) {
                Some(Cold::Refrigerator) => "in the refrigerator",
                Some(Cold::Freezer) => "in the freezer",
                None => waits(&it.action),
            },
            vessels: path.iter().filter_map(|id| Some(drink.label(drink.vessel(id)?))).collect(),
            into: path.last().and_then(|id| drink.vessel(id)),
            kind: path
                .last()
                .and_then(|id| drink.vessel(id))
                .map_or(VesselKind::Pitcher, |at| drink.vessels[at].kind),
            why: None,
            state: TaskState::Ahead,
            planned: None,
        });
        self.tasks.len() - 1
    }

    /// Links a task to what has to be done before it, and remembers it for what comes.
    fn after(
        &mut self,
        making: &Making<'_>,
        drink: &Drink,
        precedence: &Precedence,
        step: usize,
        index: usize,
        of_step: &mut HashMap<String, Vec<usize>>,
    ) {
        let it = &drink.steps[step];
        let go = self.tasks[index].go;
        for need in precedence.needs(step) {
            let mut before = of_step.get(&drink.steps[need.step].id).cloned().unwrap_or_default();
            before.retain(|task| self.tasks[*task].go == go || go > making.goes);
            for from in before {
                let link = match need.through {
                    Through::Vessel(vessel) => {
                        let run = making.run_of(self.tasks[from].go);
                        self.between(run, need.step, from, index, vessel, Some(&it.action))
                    }
                    Through::Said => Link { from, to: index, ..Link::default() },
                    // Whichever use comes first, it comes after; but what is left of it may lie for longer.
                    Through::Fruit { first } => {
                        let lies = first.then(|| lies(&drink.steps[need.step])).flatten();
                        Link { from, to: index, longest: lies.map(seconds), ..Link::default() }
                    }
                };
                self.link(link);
            }
        }
        of_step.entry(it.id.clone()).or_default().push(index);
    }

    /// What lies between a task, which is the step `at` of a run, and the next one on a vessel.
    fn between(
        &mut self,
        run: Run<'_>,
        at: usize,
        from: usize,
        to: usize,
        vessel: usize,
        next: Option<&Action>,
    ) -> Link {
        let Run { drink, trace } = run;
        let mut link = Link { from, to, ..Link::default() };
        let Some(contents) = trace.after(at, vessel).filter(|c| !c.is_empty()) else { return link };
        let it = &drink.vessels[vessel];
        // The film in a vessel that was poured out goes with the washing-up, and hurries nobody.
        if drink.steps[at].action.empties() == Some(it.id.as_str()) {
            return link;
        }
        let waiting = Waiting { vessel: it, contents, drink, next, cupboard: self.cupboard };
        let said = drink.steps[at].may_stand;
        let limit = self.limit(&waiting, in_the_cold(&drink.steps[at].action), said);
        if let Some((limit, outside)) = limit {
            link.longest = Some(seconds(limit.minutes));
            link.outside = outside.map(seconds);
            let many = trace.many.get(vessel).copied().unwrap_or(1.0);
            link.litres = contents.level().0 * many / 1000.0;
            let task = &mut self.tasks[from];
            task.why.get_or_insert(limit.why);
        }
        link
    }

    /// How long something may stand in the best place for it, and how long of that without the
    /// refrigerator.
    fn limit(
        &self,
        waiting: &Waiting<'_>,
        cold: Option<Cold>,
        said: Option<f64>,
    ) -> Option<(Limit, Option<f64>)> {
        if let Some(minutes) = said {
            return Some((Limit { minutes, why: "As in the recipe.".into() }, None));
        }
        match cold {
            Some(Cold::Freezer) => return Some((Waiting::frozen(), None)),
            Some(Cold::Refrigerator) => {
                if let Some(limit) = waiting.in_the_cold() {
                    return Some((limit, None));
                }
            }
            None => {}
        }
        waiting.in_the_best_place()
    }

    fn link(&mut self, link: Link) {
        let known = self.problem.links.iter_mut().rev().take(64);
        for other in known {
            if (other.from, other.to) == (link.from, link.to) {
                // One task that leaves something in two vessels: the more patient one waits as well.
                other.outside = shorter(other.outside, link.outside);
                other.longest = shorter(other.longest, link.longest);
                other.litres += link.litres;
                return;
            }
        }
        self.problem.links.push(link);
    }

    /// The vessels that a go holds.
    fn stays(&mut self, making: &Making<'_>, run: Run<'_>, jobs: &[usize], go: u32) {
        let Run { drink, trace } = run;
        let mut stays: Vec<(usize, Stay)> = Vec::new();
        for (vessel, it) in drink.vessels.iter().enumerate() {
            if is_own(it.kind) || keeps(&making.drink, vessel) {
                continue;
            }
            let works_on = |job: &&usize| {
                let step = drink.steps.iter().find(|s| s.id == self.tasks[**job].step);
                step.is_some_and(|s| s.action.path().contains(&it.id.as_str()))
            };
            let mine: Vec<usize> = jobs.iter().filter(works_on).copied().collect();
            if mine.is_empty() {
                continue;
            }
            let vessels = match self.vessels.choice(drink, trace, vessel) {
                Choice::Of(vessels) => vessels,
                Choice::Any => Vec::new(),
                none => {
                    let too_small = matches!(none, Choice::TooSmall);
                    if go == 1 {
                        let name = drink.label(vessel);
                        let drink = &making.drink.name;
                        self.troubles.push(Trouble::no_vessel(drink, &name, it.kind, too_small));
                    }
                    Vec::new()
                }
            };
            stays.push((vessel, Stay { jobs: mine, vessels }));
        }
        let all: Vec<&Stay> = stays.iter().map(|(_, stay)| stay).collect();
        for short in without_vessel(&all, &self.problem.links) {
            let (vessel, stay) = &mut stays[short];
            // No time at all is one at which a single vessel is two: the plan takes it that another one is at hand.
            let named = std::mem::take(&mut stay.vessels);
            if go == 1 {
                let name = self.vessels.name(named[0]);
                let strains = drink.vessels[*vessel].kind.strainer().is_some();
                let litres = (!strains).then(|| need(drink, trace, *vessel).needed / 1000.0);
                let label = drink.label(*vessel);
                self.troubles.push(Trouble::in_use(&making.drink.name, &label, litres, name));
            }
        }
        self.problem.stays.extend(stays.into_iter().map(|(_, stay)| stay));
    }

    /// What comes last is ready when it is served, and no sooner than it can wait.
    fn last_ones(&mut self, making: &Making<'_>) {
        let due = seconds(making.wanted.serve_at);
        let followed: Vec<usize> = self.problem.links.iter().map(|l| l.from).collect();
        for index in 0..self.tasks.len() {
            if self.tasks[index].entry != making.entry || followed.contains(&index) {
                continue;
            }
            let Run { drink, trace } = making.run_of(self.tasks[index].go);
            let Some(step) = drink.steps.iter().position(|s| s.id == self.tasks[index].step) else {
                continue;
            };
            let Some(vessel) = self.tasks[index].into else { continue };
            let Some(contents) = trace.after(step, vessel).filter(|c| !c.is_empty()) else {
                continue;
            };
            // What stays in a strainer or a pot that was poured out is nobody's drink.
            if !is_drunk(drink, trace, vessel) {
                continue;
            }
            let waiting = Waiting {
                vessel: &drink.vessels[vessel],
                contents,
                drink,
                next: None,
                cupboard: self.cupboard,
            };
            let said = drink.steps[step].may_stand;
            let cold = in_the_cold(&drink.steps[step].action);
            if let Some((limit, _)) = self.limit(&waiting, cold, said) {
                let job = &mut self.problem.jobs[index];
                job.due = due;
                job.window = Some(seconds(limit.minutes));
                self.tasks[index].why = Some(limit.why);
            }
        }
    }

    fn done(mut self, goes: Vec<u32>) -> Laid {
        let find = |id: &str| self.tasks.iter().position(|t| t.id == id);
        for after in &self.order.after {
            if let (Some(to), Some(from)) = (find(&after.task), find(&after.after)) {
                self.problem.links.push(Link { from, to, ..Link::default() });
            }
        }
        join_circles(&mut self.problem);
        for part in &self.order.ahead {
            for (task, job) in self.tasks.iter().zip(&mut self.problem.jobs) {
                if part_id(self.order, task) == *part {
                    make_ahead(self.order, job);
                }
            }
        }
        self.problem.cooks = self.order.means.cooks as usize;
        self.problem.rings = self.order.means.rings as usize;
        self.problem.cold = self.order.means.refrigerator_l;
        self.problem.vessels = self.vessels.units.len();
        self.problem.closed = joined(self.order.closed.iter());
        self.problem.nights = joined(self.order.closed.iter().filter(|s| s.night));
        // Of the hours before the first night that is told nothing is known.
        let nights = self.order.closed.iter().filter(|s| s.night).map(|s| seconds(s.from));
        self.problem.horizon = seconds(HORIZON).max(nights.min().unwrap_or(Time::MIN));
        self.problem.standing_weighs = STANDING_WEIGHS;
        Laid {
            tasks: self.tasks,
            problem: self.problem,
            vessels: self.vessels,
            troubles: self.troubles,
            goes,
        }
    }
}

/// What names a part by its last task: the same in every go.
pub(super) fn part_id(order: &Order, task: &Task) -> String {
    format!("{}/{}", order.drinks[task.entry].id, task.step)
}

/// Puts a part's last task on the evening before: its hands-on work is done by then, and what it leaves goes on
/// by itself.
pub(super) fn make_ahead(order: &Order, job: &mut Job) {
    job.due = job.due.min(evening_before(order, job.due) + job.wait);
}

/// By when something is done that is done the evening before: when the last night begins.
fn evening_before(order: &Order, due: Time) -> Time {
    let nights = order.closed.iter().filter(|s| s.night && s.to - s.from >= A_NIGHT);
    let last = nights.map(|s| seconds(s.from)).filter(|from| *from < due).max();
    last.unwrap_or(due - seconds(14.0 * 60.0))
}

/// Closed hours in order, those that meet as one.
fn joined<'a>(closed: impl Iterator<Item = &'a super::Closed>) -> Vec<(Time, Time)> {
    let mut spans: Vec<(Time, Time)> =
        closed.map(|s| (seconds(s.from), seconds(s.to))).filter(|(a, b)| b > a).collect();
    spans.sort_unstable();
    let mut all: Vec<(Time, Time)> = Vec::new();
    for (from, to) in spans {
        match all.last_mut() {
            Some(last) if from <= last.1 => last.1 = last.1.max(to),
            _ => all.push((from, to)),
        }
    }
    all
}

fn shorter(a: Option<Time>, b: Option<Time>) -> Option<Time> {
    match (a, b) {
        (Some(a), Some(b)) => Some(a.min(b)),
        (a, b) => a.or(b),
    }
}

/// Whether what is in a vessel at the end is what the drink ends as.
fn is_drunk(drink: &Drink, trace: &Trace, vessel: usize) -> bool {
    let served = drink.vessels[vessel].kind == VesselKind::Glass;
    served || trace.outcome().is_some_and(|o| o.vessel == vessel || o.from == Some(vessel))
}

/// Makings that wait for one another in a circle are placed together.
fn join_circles(problem: &mut Problem) {
    let n = problem.makings.len();
    let of: HashMap<usize, usize> = problem
        .makings
        .iter()
        .enumerate()
        .flat_map(|(m, jobs)| jobs.iter().map(move |j| (*j, m)))
        .collect();
    let mut reaches = vec![vec![false; n]; n];
    for link in &problem.links {
        reaches[of[&link.from]][of[&link.to]] = true;
    }
    for via in 0..n {
        for from in 0..n {
            if reaches[from][via] {
                let onward = reaches[via].clone();
                reaches[from].iter_mut().zip(onward).for_each(|(r, o)| *r |= o);
            }
        }
    }
    let mut joined: Vec<Vec<usize>> = Vec::new();
    let mut into: Vec<Option<usize>> = vec![None; n];
    for making in 0..n {
        let with = (0..making).find(|other| reaches[making][*other] && reaches[*other][making]);
        match with.and_then(|other| into[other]) {
            Some(place) => {
                joined[place].extend(problem.makings[making].iter().copied());
                into[making] = Some(place);
            }
            None => {
                into[making] = Some(joined.len());
                joined.push(problem.makings[making].clone());
            }
        }
    }
    problem.makings = joined;
}

/// Places colder than the worktop.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Cold {
    Refrigerator,
    Freezer,
}

/// The cold place that a step puts something in, where it then stays.
fn in_the_cold(action: &Action) -> Option<Cold> {
    match action {
        Action::Cool { place: CoolingPlace::Refrigerator, .. }
        | Action::Infuse { place: RestingPlace::Refrigerator, .. }
        | Action::Macerate { place: RestingPlace::Refrigerator, .. } => Some(Cold::Refrigerator),
        Action::Cool { place: CoolingPlace::Freezer, .. } => Some(Cold::Freezer),
        _ => None,
    }
}

fn waits(action: &Action) -> &'static str {
    match action {
        Action::Cool { place: CoolingPlace::WaterBath, .. } => "in cold water",
        Action::Heat { .. } | Action::Boil { .. } | Action::Reduce { .. } => "on the burner",
        _ => "on the worktop",
    }
}

fn litres(frame: &Frame) -> f64 {
    frame.touched.last().map_or(0.0, |t| t.contents.level().0 * t.many / 1000.0)
}

/// How long something that was prepared may lie until it is used, minutes. Estimates: washed fruit dries and
/// keeps for the morning (2–8 h), what is soaked or crushed is used within the hour, cut fruit browns and
/// dries within one (half to two).
fn lies(step: &Step) -> Option<f64> {
    let Action::Prepare { how, .. } = &step.action else { return None };
    Some(step.may_stand.unwrap_or(match how {
        Preparation::Wash | Preparation::Inspect => 240.0,
        Preparation::Soak | Preparation::Peel | Preparation::Chop | Preparation::Crush => 60.0,
    }))
}

/// The times of a step: a kettle boils before hands are needed, everything else waits after.
fn job(action: &Action, frame: &Frame) -> Job {
    let Minutes(all) = frame.minutes;
    let hands = frame.hands_on.0.min(all);
    let rest = seconds(all) - seconds(hands);
    let kettle = action.brings().is_some();
    let on_ring =
        matches!(action, Action::Heat { .. } | Action::Boil { .. } | Action::Reduce { .. });
    let rubbed = matches!(action, Action::Macerate { how: Maceration::Rubbed, .. });
    debug_assert!(!rubbed || rest == 0, "rubbing is hands-on from start to finish");
    Job {
        lead: if kettle { rest } else { 0 },
        hands: seconds(hands),
        wait: if kettle { 0 } else { rest },
        attended: on_ring,
        ring: on_ring && all > 0.0,
        ..Job::default()
    }
}
