//! Plans: kept as drinks are, and worked out whenever they are looked at, so that a change of a drink
//! shows in its plans. Days, hours and zones are brought in here; the core counts minutes.

use std::fmt::Write;

use actix_web::{HttpResponse, delete, get, post, put, web};
use jiff::civil::DateTime;
use jiff::tz::TimeZone;
use jiff::{Timestamp, ToSpan, Zoned};
use keen_core::balance::Profile;
use keen_core::drink::{Drink, FieldError};
use keen_core::plan::{Closed, Fact, Hold, Order, Plan, Wanted, plan, plan_with_help};
use keen_core::quantity::Units;
use keen_core::scale::{in_measures, resize};
use keen_core::trace::Trace;
use keen_core::work::Worktop;
use keen_formats::{CalendarEntry, PLAN, PlanFile, PlannedDrink, civil, plan_from_value};
use keen_store::{Draft, Found, Kept, Sought, StoreError};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::{IntoParams, ToSchema};

use super::body::SaidUnder;
use super::changes::Changed;
use super::desk::By;
use super::kept_drink::kept_drink;
use super::paging::Page;
use super::{Body, Problem, State, now};

/// A plan that is kept.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PlanView {
    /// The permanent id.
    pub(super) id: String,
    /// Its version; send it when saving.
    version: i64,
    /// When it was last changed, RFC 3339.
    changed_at: String,
    pub(super) plan: PlanFile,
}

/// A plan in the list.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PlanEntry {
    id: String,
    name: String,
    /// When it was last changed, RFC 3339.
    changed_at: String,
    /// When its drinks are served, local time.
    serving: String,
    /// The same as a moment, RFC 3339.
    serving_at: String,
    /// Its drinks.
    drinks: Vec<PlanEntryDrink>,
    /// Why it can't be read, if it can't.
    damaged: Option<String>,
}

/// A drink in the list of plans.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PlanEntryDrink {
    name: String,
    /// Its colour in the glass; missing if the drink was deleted.
    colour: Option<String>,
}

/// The list of plans, or the ones found.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Plans {
    /// The total number.
    total: usize,
    /// The plans of this page, last changed first.
    plans: Vec<PlanEntry>,
    /// The cursor for the next page.
    next: Option<usize>,
}

/// What to look for.
#[derive(Debug, Deserialize, IntoParams)]
pub(crate) struct PlansQuery {
    /// Part of the name.
    #[serde(default)]
    find: String,
    /// How many to skip: `next` of the page before.
    #[serde(default)]
    after: usize,
    /// How many to show at most, 1 to 500; 200 if left out.
    limit: Option<usize>,
}

/// A change to a plan.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct SavePlan {
    /// The version that the change was made on.
    version: i64,
    plan: PlanFile,
}

/// A plan that was worked out.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PlanAnswer {
    /// The plan. Its times are minutes from `zero`; missing while it has no drinks.
    plan: Option<Plan>,
    /// The moment of serving, RFC 3339.
    zero: String,
    /// The zone of the kitchen's clock, by its name in the zone database.
    zone: String,
    /// The present time, minutes from `zero`.
    now: f64,
    /// The drinks of the plan, in their order; [`keen_core::plan::PlannedTask::drink`] counts those that are there.
    drinks: Vec<DrinkInPlan>,
    /// The plan as a plain list, to be copied.
    list: String,
}

/// A drink of a plan, with its name and colour.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct DrinkInPlan {
    /// Its entry.
    id: String,
    /// The drink's id on the shelf.
    drink: String,
    name: String,
    /// Its colour in the glass.
    colour: Option<String>,
    /// The total, ml.
    volume_ml: f64,
    /// How many glasses or bottles it is.
    glasses: f64,
    /// When it is served, minutes from `zero`.
    serve_at: f64,
    /// Its position among the planned drinks; missing if it can't be planned.
    position: Option<usize>,
    /// Why it can't be planned.
    missing: Option<String>,
}

/// Nights are counted back so many days: as far as a plan reaches.
const NIGHTS: i64 = 63;
/// And on for so many, for what is served later than the rest.
const NIGHTS_AFTER: i64 = 3;

/// Where the kitchen's clock hangs.
fn zone() -> TimeZone {
    TimeZone::system()
}

/// A time on the wall as a moment. In the hour that a change of the clocks leaves out it is the hour after;
/// in the one that comes twice, the first.
fn moment(field: &str, text: &str, zone: &TimeZone) -> Result<Zoned, FieldError> {
    at(field, civil(field, text)?, zone)
}

fn at(field: &str, time: DateTime, zone: &TimeZone) -> Result<Zoned, FieldError> {
    time.to_zoned(zone.clone()).map_err(|_| FieldError {
        field: field.to_owned(),
        message: format!("{time} is too far away to plan. Choose a nearer time."),
    })
}

/// Minutes from one moment to another.
fn minutes(from: &Zoned, to: &Zoned) -> f64 {
    (to.timestamp().as_second() - from.timestamp().as_second()) as f64 / 60.0
}

/// The times when nobody is free, in minutes from the serving.
fn closed(plan: &PlanFile, zero: &Zoned) -> Result<Vec<Closed>, FieldError> {
    let mut closed = Vec::new();
    let zone = zero.time_zone();
    if let Some(night) = &plan.night {
        let (from, to) = night.times()?;
        for day in -NIGHTS..=NIGHTS_AFTER {
            let evening = zero.date().saturating_add(day.days());
            let morning = if to > from { evening } else { evening.saturating_add(1.day()) };
            let begins = at("night", evening.to_datetime(from), zone)?;
            let ends = at("night", morning.to_datetime(to), zone)?;
            let (from, to) = (minutes(zero, &begins), minutes(zero, &ends));
            closed.push(Closed { from, to, night: true });
        }
    }
    for (i, span) in plan.spoken_for.iter().enumerate() {
        let from = moment(&format!("spoken_for[{i}].from"), &span.from, zone)?;
        let to = moment(&format!("spoken_for[{i}].to"), &span.to, zone)?;
        let (from, to) = (minutes(zero, &from), minutes(zero, &to));
        closed.push(Closed { from, to, night: false });
    }
    Ok(closed)
}

/// A plan with its drinks from the shelf.
pub(super) struct Gathered {
    pub(super) file: PlanFile,
    pub(super) drinks: Vec<Result<Drink, String>>,
    /// What is made for it, or was.
    pub(super) made: Vec<MadeForIt>,
}

/// A batch that is made for a plan, or was.
pub(super) struct MadeForIt {
    /// The drink in the plan.
    pub(super) entry: String,
    /// When it was to be served when it was started, RFC 3339.
    pub(super) serve_at: String,
    /// When it was started, RFC 3339.
    pub(super) begun_at: String,
    /// What was done of it, in minutes since then.
    pub(super) facts: Vec<Fact>,
}

/// A plan that was moved by less is still the same day's, minutes.
const A_DAY: f64 = 1440.0;

impl MadeForIt {
    /// What was started of it, in minutes of the plan. One that was made for another day, before the plan was used
    /// again, says nothing.
    fn facts(&self, plan: &PlanFile, zero: &Zoned) -> Option<Vec<Fact>> {
        let moment = |text: &str| {
            let at: Timestamp = text.parse().ok()?;
            Some(at.to_zoned(zero.time_zone().clone()))
        };
        let entry = plan.drinks.iter().find(|drink| drink.id == self.entry)?;
        let serves = moment(&serving_of(plan, entry).ok()?)?;
        if minutes(&moment(&self.serve_at)?, &serves).abs() >= A_DAY {
            return None;
        }
        let begun = minutes(zero, &moment(&self.begun_at)?);
        let later =
            |fact: &Fact| Fact { from: fact.from + begun, to: fact.to + begun, ..fact.clone() };
        Some(self.facts.iter().map(later).collect())
    }
}

impl State {
    /// Fetches the drinks of a plan as they are now.
    pub(super) async fn gather(&self, file: PlanFile) -> Result<Gathered, Problem> {
        let ids: Vec<String> = file.drinks.iter().map(|d| d.drink.clone()).collect();
        let kept = self
            .with_store(move |store| {
                let read = |id: &String| match store.drinks().read(id) {
                    Ok(kept) => Ok(Some(kept)),
                    Err(StoreError::NotFound) => Ok(None),
                    Err(other) => Err(other),
                };
                ids.iter().map(read).collect::<Result<Vec<_>, _>>()
            })
            .await?;
        let drinks =
            kept.into_iter()
                .map(|kept| match kept {
                    None => Err("This drink was deleted. Restore it, or remove it from the plan."
                        .to_owned()),
                    Some(kept) => kept_drink(&kept.body).map_err(|why| why.to_string()),
                })
                .collect();
        Ok(Gathered { file, drinks, made: Vec::new() })
    }
}

impl Gathered {
    /// The order that the plan is, at the sizes that it says, and what each of its drinks is.
    fn order(
        &self,
        worktop: Worktop<'_>,
        zero: &Zoned,
        now: f64,
    ) -> Result<(Order, Vec<DrinkInPlan>), FieldError> {
        let mut wanted = Vec::new();
        let mut shown = Vec::new();
        for (i, (entry, drink)) in self.file.drinks.iter().zip(&self.drinks).enumerate() {
            let serve_at = match &entry.serving {
                Some(text) => {
                    let field = format!("drinks[{i}].serving");
                    minutes(zero, &moment(&field, text, zero.time_zone())?)
                }
                None => 0.0,
            };
            let mut told = DrinkInPlan {
                id: entry.id.clone(),
                drink: entry.drink.clone(),
                name: entry.name.clone(),
                colour: None,
                volume_ml: 0.0,
                glasses: 0.0,
                serve_at,
                position: None,
                missing: None,
            };
            match drink.as_ref().map_err(Clone::clone).and_then(|d| sized(d, entry, worktop)) {
                Ok(drink) => {
                    let trace = Trace::run(&drink, worktop.cupboard());
                    let profile = trace.outcome().and_then(Profile::of);
                    told.name = drink.name.clone();
                    told.volume_ml = profile.as_ref().map_or(0.0, |p| p.volume_ml);
                    told.glasses = profile.as_ref().map_or(0.0, |p| p.glasses);
                    told.colour = profile.map(|p| p.colour);
                    if drink.steps.is_empty() {
                        told.missing = Some("It has no steps yet.".into());
                    } else {
                        told.position = Some(wanted.len());
                        wanted.push(Wanted {
                            id: entry.id.clone(),
                            drink,
                            serve_at,
                            water_bath: entry.water_bath.clone(),
                        });
                    }
                }
                Err(why) => told.missing = Some(why),
            }
            shown.push(told);
        }
        let mut holds = Vec::new();
        for (i, held) in self.file.holds.iter().enumerate() {
            let time = moment(&format!("holds[{i}].at"), &held.at, zero.time_zone())?;
            holds.push(Hold { task: held.task.clone(), at: minutes(zero, &time) });
        }
        // When it was planned is only a wish: what is no time, or isn't there, is passed over.
        let stood = self.file.stood.iter().filter_map(|stood| {
            let time = moment("stood", &stood.at, zero.time_zone()).ok()?;
            Some(Hold { task: stood.task.clone(), at: minutes(zero, &time) })
        });
        let stood = stood.collect();
        let made: Vec<Vec<Fact>> =
            self.made.iter().filter_map(|made| made.facts(&self.file, zero)).collect();
        let facts = (!made.is_empty()).then(|| made.concat());
        let order = Order {
            drinks: wanted,
            means: self.file.means,
            closed: closed(&self.file, zero)?,
            holds,
            stood,
            after: self.file.after.clone(),
            ahead: self.file.ahead.clone(),
            // What has been served can't be begun in time any more.
            now: Some(now).filter(|now| *now < 0.0 || facts.is_some()),
            facts,
        };
        Ok((order, shown))
    }

    /// Works it out.
    pub(super) fn worked_out(
        &self,
        worktop: Worktop<'_>,
        help: bool,
    ) -> Result<PlanAnswer, FieldError> {
        let zone = zone();
        let zero = moment("serving", &self.file.serving, &zone)?;
        let now = minutes(&zero, &Zoned::new(Timestamp::now(), zone.clone()));
        let (order, drinks) = self.order(worktop, &zero, now)?;
        let found = match (order.drinks.is_empty(), help) {
            (true, _) => None,
            (false, true) => Some(plan_with_help(&order, worktop)?),
            (false, false) => Some(plan(&order, worktop)?),
        };
        let list = found.as_ref().map_or_else(String::new, |p| list(&self.file, p, &drinks, &zero));
        Ok(PlanAnswer {
            plan: found,
            zero: zero.timestamp().to_string(),
            zone: zone.iana_name().unwrap_or("UTC").to_owned(),
            now,
            drinks,
            list,
        })
    }
}

/// When a drink of a plan is served, RFC 3339.
pub(super) fn serving_of(plan: &PlanFile, drink: &PlannedDrink) -> Result<String, FieldError> {
    let text = drink.serving.as_ref().unwrap_or(&plan.serving);
    Ok(moment("serving", text, &zone())?.timestamp().to_string())
}

/// A drink at the size that the plan says, in measures that there are.
pub(super) fn sized(
    drink: &Drink,
    entry: &PlannedDrink,
    worktop: Worktop<'_>,
) -> Result<Drink, String> {
    let Some(size) = &entry.size else { return Ok(drink.clone()) };
    let large = resize(drink, worktop, size).map_err(|e| e.message)?;
    let large = in_measures(&large, worktop, Units::AsWritten).map_err(|e| e.to_string())?;
    match large.check(&worktop).into_iter().next() {
        Some(fault) => Err(fault.message),
        None => Ok(large),
    }
}

/// To the minute.
fn later(zero: &Zoned, minutes: f64) -> Zoned {
    let minutes = minutes.round() as i64;
    zero.checked_add(minutes.minutes()).unwrap_or_else(|_| zero.clone())
}

/// The plan as a plain list that one can cook from: when, which drink, and what is done, with its amounts.
fn list(file: &PlanFile, plan: &Plan, drinks: &[DrinkInPlan], zero: &Zoned) -> String {
    let name = |position: usize| {
        drinks.iter().find(|d| d.position == Some(position)).map_or("", |d| d.name.as_str())
    };
    let mut text = format!("{}\nServing {}\n", file.name, zero.strftime("%A %-d %B, %H:%M"));
    let mut day = String::new();
    for block in &plan.blocks {
        let from = later(zero, block.from);
        let today = from.strftime("%A %-d %B").to_string();
        if today != day {
            let _ = write!(text, "\n{today}\n");
            day = today;
        }
        let to = later(zero, block.to);
        let who = if plan.cooks.len() > 1 {
            format!(" (cook {})", block.cook + 1)
        } else {
            String::new()
        };
        let _ = writeln!(
            text,
            "{} to {}  {}: {}{who}",
            from.strftime("%H:%M"),
            to.strftime("%H:%M"),
            name(block.drink),
            block.label,
        );
        for task in plan.tasks.iter().filter(|task| block.tasks.contains(&task.id)) {
            let _ = writeln!(text, "    {}", task.sentence);
            if task.to - task.hands_to >= 1.0 {
                let done = later(zero, task.to);
                let _ = writeln!(text, "    Then wait until {}.", done.strftime("%H:%M"));
            }
        }
    }
    text
}

pub(super) fn view(kept: Kept) -> Result<PlanView, Problem> {
    let plan = PLAN.read(&kept.body).map_err(|why| Problem::damaged_plan(&why.to_string()))?;
    Ok(PlanView { id: kept.id, version: kept.version, changed_at: kept.changed_at, plan })
}

/// The plans.
#[utoipa::path(tag = "plans", params(PlansQuery), responses((status = 200, body = Plans)))]
#[get("/api/plans")]
pub(super) async fn list_plans(
    state: web::Data<State>,
    query: web::Query<PlansQuery>,
) -> Result<web::Json<Plans>, Problem> {
    let PlansQuery { find, after, limit } = query.into_inner();
    let page = Page::new(after, limit);
    let mine = state.clone();
    let plans = state
        .with_store(move |store| {
            let wanted = Sought {
                name_has: &find,
                after: page.after,
                most: page.sought(),
                ..Sought::default()
            };
            let Found { total, first: mut found } = store.plans().search(&wanted)?;
            let next = page.cut(&mut found);
            let plans = found.into_iter().map(|(kept, _)| mine.plan_entry(store, kept)).collect();
            Ok(Plans { total, plans, next })
        })
        .await?;
    Ok(web::Json(plans))
}

impl State {
    fn plan_entry(&self, store: &keen_store::Store, kept: Kept) -> PlanEntry {
        let read = PLAN.read::<PlanFile>(&kept.body);
        let damaged = read.as_ref().err().map(ToString::to_string);
        let plan = read.ok();
        let drinks = plan.iter().flat_map(|plan| &plan.drinks).map(|entry| {
            let known = store.drinks().read(&entry.drink).ok();
            match known.and_then(|kept| self.summary(&kept).ok()) {
                Some(summary) => {
                    PlanEntryDrink { name: summary.name.clone(), colour: summary.colour }
                }
                None => PlanEntryDrink { name: entry.name.clone(), colour: None },
            }
        });
        let serving_at = plan.as_ref().and_then(|p| moment("serving", &p.serving, &zone()).ok());
        PlanEntry {
            drinks: drinks.collect(),
            serving_at: serving_at.map_or_else(String::new, |z| z.timestamp().to_string()),
            serving: plan.map_or_else(String::new, |p| p.serving),
            id: kept.id,
            name: kept.name,
            changed_at: kept.changed_at,
            damaged,
        }
    }
}

/// Save a plan. Sent twice with the same `Idempotency-Key`, it is saved once.
#[utoipa::path(tag = "plans", request_body = PlanFile, responses((status = 201, body = PlanView)))]
#[post("/api/plans")]
pub(super) async fn create_plan(
    state: web::Data<State>,
    key: SaidUnder,
    by: By,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let plan = plan_from_value(body.json()?)?;
    let text = PLAN.write(&plan);
    let id = uuid::Uuid::now_v7().to_string();
    let kept = state
        .with_store(move |store| {
            let key = key.0.as_deref();
            store.plans().create(&id, Draft { name: &plan.name, body: &text, now: &now(), key })
        })
        .await?;
    state.changes.tell_kept(Changed::Plan, &kept.id, Some(kept.version), by.0);
    Ok(HttpResponse::Created()
        .insert_header(("location", format!("/api/plans/{}", kept.id)))
        .json(view(kept)?))
}

/// A plan.
#[utoipa::path(tag = "plans", responses(
    (status = 200, body = PlanView), (status = 404, body = Problem)))]
#[get("/api/plans/{id}")]
pub(super) async fn read_plan(
    state: web::Data<State>,
    id: web::Path<String>,
) -> Result<web::Json<PlanView>, Problem> {
    let kept = state.with_store(move |store| store.plans().read(&id)).await?;
    view(kept).map(web::Json)
}

/// Save a change to a plan. If it was changed since, nothing is saved.
#[utoipa::path(tag = "plans", request_body = inline(SavePlan), responses(
    (status = 200, body = PlanView), (status = 409, body = Problem)))]
#[put("/api/plans/{id}")]
pub(super) async fn save_plan(
    state: web::Data<State>,
    id: web::Path<String>,
    key: SaidUnder,
    by: By,
    body: Body,
) -> Result<web::Json<PlanView>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Parts {
        version: i64,
        plan: Value,
    }
    let parts: Parts = body.json()?;
    let plan = plan_from_value(parts.plan)?;
    let text = PLAN.write(&plan);
    let kept = state
        .with_store(move |store| {
            let key = key.0.as_deref();
            let draft = Draft { name: &plan.name, body: &text, now: &now(), key };
            store.plans().save(&id, parts.version, draft)
        })
        .await
        .map_err(Problem::of_plan)?;
    state.changes.tell_kept(Changed::Plan, &kept.id, Some(kept.version), by.0);
    view(kept).map(web::Json)
}

/// Delete a plan. It can be restored for thirty days.
#[utoipa::path(tag = "plans", responses((status = 204), (status = 404, body = Problem)))]
#[delete("/api/plans/{id}")]
pub(super) async fn remove_plan(
    state: web::Data<State>,
    id: web::Path<String>,
    by: By,
) -> Result<HttpResponse, Problem> {
    let gone = id.clone();
    state.with_store(move |store| store.plans().delete(&id, &now())).await?;
    state.changes.tell_kept(Changed::Plan, &gone, None, by.0);
    Ok(HttpResponse::NoContent().finish())
}

/// Restore a deleted plan.
#[utoipa::path(tag = "plans", responses(
    (status = 200, body = PlanView), (status = 404, body = Problem)))]
#[post("/api/plans/{id}/restore")]
pub(super) async fn restore_plan(
    state: web::Data<State>,
    id: web::Path<String>,
    by: By,
) -> Result<web::Json<PlanView>, Problem> {
    let back = state.with_store(move |store| store.plans().restore(&id)).await?;
    state.changes.tell_kept(Changed::Plan, &back.id, Some(back.version), by.0);
    view(back).map(web::Json)
}

/// What of a plan goes into a calendar: hands-on work in a row, and the serving.
pub(super) fn entries(id: &str, file: &PlanFile, answer: &PlanAnswer) -> Vec<CalendarEntry> {
    let Some(plan) = &answer.plan else { return Vec::new() };
    let zero: Timestamp = answer.zero.parse().unwrap_or(Timestamp::UNIX_EPOCH);
    // To the minute: nobody sets an alarm by seconds.
    let at = |minutes: f64| {
        let minutes = minutes.round() as i64;
        zero.checked_add(minutes.minutes()).unwrap_or(zero)
    };
    let name = |position: usize| {
        answer.drinks.iter().find(|d| d.position == Some(position)).map_or("", |d| d.name.as_str())
    };
    let mut entries: Vec<CalendarEntry> = plan
        .blocks
        .iter()
        .map(|block| {
            let done = |id: &String| plan.tasks.iter().find(|t| t.id == *id);
            let sentences = block.tasks.iter().filter_map(done).map(|t| t.sentence.as_str());
            CalendarEntry {
                uid: format!(
                    "{}/{id}@keen-pitcher",
                    block.tasks.first().map_or("", String::as_str)
                ),
                title: format!("{}: {}", name(block.drink), block.label),
                text: sentences.collect::<Vec<_>>().join("\n"),
                from: at(block.from),
                to: at(block.to),
                remind: 5,
            }
        })
        .collect();
    entries.push(CalendarEntry {
        uid: format!("serving/{id}@keen-pitcher"),
        title: format!("{}: serving", file.name),
        text: file.note.clone(),
        from: zero,
        to: at(15.0),
        remind: 5,
    });
    entries
}

impl State {
    /// The drinks of a plan that can be made, each at its size.
    pub(super) async fn drinks_of_plan(
        &self,
        plan: Value,
    ) -> Result<impl FnOnce(Worktop<'_>) -> Vec<Drink> + Send + use<>, Problem> {
        let gathered = self.gather(plan_from_value(plan)?).await?;
        Ok(move |worktop: Worktop<'_>| {
            let there = gathered.file.drinks.iter().zip(&gathered.drinks);
            there
                .filter_map(|(entry, drink)| sized(drink.as_ref().ok()?, entry, worktop).ok())
                .collect()
        })
    }
}
