//! Batches: makings of a drink. What happens is only ever added to; what a screen shows is worked out from
//! it whenever it is looked at.

mod from_plan;
mod going;
mod of_plan;
mod practice;
mod say;
mod teach;

pub(super) use from_plan::make_from_plan;
pub(super) use going::list_going;
pub(super) use of_plan::{plan_calendar, work_out};
pub(super) use practice::{look_at, put_before, set_clock};
pub(super) use say::{say_happening, ways};
pub(super) use teach::teach_kitchen;

use actix_web::{HttpResponse, get, post, web};
use jiff::{SignedDuration, Timestamp};
use keen_core::balance::Spot;
use keen_core::batch::{BatchReport, Happening, Made, Said, Teaching, standing};
use keen_core::cupboard::{Cupboard, Kitchen};
use keen_core::drink::{Drink, FieldError};
use keen_core::history::PastBatch;
use keen_core::journal::Journal;
use keen_formats::Format;
use keen_instruments::Clock;
use keen_store::{KeptBatch, KeptHappening, Store, Wanted};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::{IntoParams, ToSchema};

use super::body::SaidUnder;
use super::changes::Changed;
use super::desk::{Asker, By};
use super::older;
use super::paging::Page;
use super::{Body, Problem, State, now, plans};
use practice::TruthView;

pub(crate) const BATCH: Format =
    Format { name: "keen-pitcher/batch", field: "batch", steps: &[older::batch_to_2] };
pub(crate) const HAPPENING: Format =
    Format { name: "keen-pitcher/happening", field: "happening", steps: &[] };

/// What a batch begins with: the drink and the kitchen as they were.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub(crate) struct Snapshot {
    pub(crate) drink: Drink,
    pub(crate) kitchen: Kitchen,
    /// What deals the luck of a practice batch; it is never told.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) seed: Option<u64>,
    /// The plan that it belongs to.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub(crate) plan: Option<OfPlan>,
}

/// The plan that a batch belongs to.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct OfPlan {
    /// The plan's id.
    pub(crate) id: String,
    /// The drink's entry in the plan.
    pub(crate) entry: String,
    /// When it is served, RFC 3339.
    pub(crate) serve_at: String,
}

/// A batch in the list.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct BatchEntry {
    pub(crate) id: String,
    /// The drink's id on the shelf.
    drink: String,
    pub(crate) name: String,
    /// When it was started, RFC 3339.
    pub(crate) begun_at: String,
    /// When it was finished, RFC 3339.
    finished_at: Option<String>,
    /// Whether it is a practice batch.
    practice: bool,
    /// Its rating, 1 to 5.
    pub(crate) rating: Option<i64>,
    /// When its picture was added, RFC 3339; missing if it has no picture.
    pub(crate) picture: Option<String>,
    /// The result, once the batch is finished.
    ending: Option<Ending>,
}

/// The end of a batch: figures as written and as made.
#[derive(Debug, Clone, Default, Serialize, Deserialize, ToSchema)]
pub(crate) struct Ending {
    /// The target on the map.
    pub(crate) written: Option<Spot>,
    /// Its estimated place.
    pub(crate) made: Option<Spot>,
    /// Its error, a standard deviation.
    pub(crate) doubt: Spot,
    /// The planned volume, ml.
    pub(crate) written_ml: f64,
    /// The volume, ml.
    pub(crate) made_ml: f64,
    /// The duration, minutes.
    pub(crate) minutes: f64,
    /// How many readings were taken.
    pub(crate) readings: usize,
    /// How many of them were within the expected range.
    pub(crate) inside: usize,
    /// The place where it is kept.
    pub(crate) place: String,
    /// A note about the result.
    pub(crate) note: String,
    /// How many bottles it filled.
    pub(crate) bottles: Option<u32>,
}

/// A page of batches.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Batches {
    /// The batches: those in progress first, then the most recent.
    batches: Vec<BatchEntry>,
    /// The cursor for the next page.
    next: Option<usize>,
    /// The readings of all finished batches, without practice batches.
    readings: i64,
    /// How many of them were within the expected range.
    inside: i64,
}

/// Which batches.
#[derive(Debug, Deserialize, IntoParams)]
pub(crate) struct BatchesQuery {
    /// Only batches of this drink, by its id.
    drink: Option<String>,
    /// Only finished batches, without practice batches.
    #[serde(default)]
    made: bool,
    /// Words in its name or in notes about it.
    #[serde(default)]
    find: String,
    /// Only batches started on that day or later: `2030-06-21`.
    from: Option<String>,
    /// Only batches started before that day.
    before: Option<String>,
    /// The lowest rating, 1 to 5.
    rating: Option<i64>,
    /// How many to skip: `next` of the page before.
    #[serde(default)]
    after: usize,
    /// How many to show at most, 1 to 500; 200 if left out.
    limit: Option<usize>,
}

/// A batch in its present state.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct BatchView {
    #[serde(flatten)]
    entry: BatchEntry,
    /// The plan that it belongs to.
    plan: Option<OfPlan>,
    /// When it should be ready, minutes since it started, if it is made for a plan.
    serve_at: Option<f64>,
    /// The present time, minutes since it started.
    now: f64,
    /// The speed of its clock: 1, except in a practice batch.
    rate: f64,
    /// Its state.
    stands: BatchReport,
    /// Its log, in order.
    said: Vec<Said>,
    /// The positions in that list that were undone.
    taken_back: Vec<usize>,
    /// The figures of a finished batch that can be saved to your kitchen.
    teaches: Vec<Teaching>,
    /// Whether it was saved to your kitchen; missing until it is decided.
    learned: Option<bool>,
    /// The true figures, at the end of a practice batch.
    truth: Option<TruthView>,
}

/// A batch to start.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct BeginBatch {
    /// The drink's id on the shelf.
    of: String,
    /// The drink in the size to make.
    drink: Drink,
    /// Whether to make a practice batch with simulated instruments.
    #[serde(default)]
    practice: bool,
}

/// A batch as it is kept, read.
pub(super) struct Read {
    kept: KeptBatch,
    drink: Drink,
    cupboard: Cupboard,
    seed: Option<u64>,
    plan: Option<OfPlan>,
    clock: Option<Clock>,
    said: Vec<Said>,
}

pub(crate) fn minutes_since(begun: &str, at: &str) -> f64 {
    let read = |text: &str| text.parse::<Timestamp>().ok();
    read(begun).zip(read(at)).map_or(0.0, |(a, b)| (b.as_millisecond() - a.as_millisecond()) as f64)
        / 60_000.0
}

/// So many minutes after a moment.
fn after(begun: &str, minutes: f64) -> String {
    let later = || {
        let begun: Timestamp = begun.parse().ok()?;
        begun.checked_add(SignedDuration::from_millis((minutes * 60_000.0) as i64)).ok()
    };
    later().map_or_else(|| begun.to_owned(), |at| at.to_string())
}

impl Read {
    pub(super) fn of((kept, happenings): (KeptBatch, Vec<KeptHappening>)) -> Result<Self, Problem> {
        let told = |why: keen_formats::FormatError| Problem::damaged_batch(&why.to_string());
        let Snapshot { drink, kitchen, seed, plan } = BATCH.read(&kept.body).map_err(told)?;
        let mut said: Vec<Said> = Vec::with_capacity(happenings.len());
        for happening in happenings {
            let what: Happening = HAPPENING.read(&happening.body).map_err(told)?;
            // A clock that was put back makes nothing happen before what was said before it.
            let at =
                minutes_since(&kept.begun_at, &happening.at).max(said.last().map_or(0.0, |s| s.at));
            said.push(Said { at, what });
        }
        let clock = kept.clock.as_deref().and_then(|text| serde_json::from_str(text).ok());
        Ok(Self { drink, cupboard: Cupboard::of(&kitchen), seed, plan, clock, said, kept })
    }

    /// When it is served by what the plan says now: that may have been moved since the batch was started.
    fn served_as_planned(mut self, store: &Store) -> Self {
        let serves = |of: &OfPlan| {
            let plan = plans::view(store.plans().read(&of.id).ok()?).ok()?.plan;
            let entry = plan.drinks.iter().find(|drink| drink.id == of.entry)?;
            plans::serving_of(&plan, entry).ok()
        };
        if let Some(of) = &mut self.plan
            && let Some(at) = serves(of)
        {
            of.serve_at = at;
        }
        self
    }

    fn made(&self) -> Made {
        Made::of(&self.drink, &self.said, &self.cupboard)
    }

    /// What time it is, minutes since it started: by its own clock, if it has one.
    fn now(&self) -> f64 {
        let real = minutes_since(&self.kept.begun_at, &now());
        let shown = self.clock.map_or(real, |clock| clock.shows(real));
        shown.max(self.said.last().map_or(0.0, |s| s.at))
    }

    /// That as a moment: the one on the wall, but in the practice kitchen.
    fn moment(&self) -> String {
        match self.clock {
            None => now(),
            Some(_) => after(&self.kept.begun_at, self.now()),
        }
    }

    fn learned(&self) -> Option<bool> {
        standing(&self.said).rev().find_map(|what| match what {
            Happening::Taught { learned } => Some(*learned),
            _ => None,
        })
    }

    fn report(&self) -> BatchReport {
        BatchReport::of(&self.drink, &self.made(), &self.cupboard, self.now())
    }

    pub(super) fn is_practice(&self) -> bool {
        self.kept.practice
    }

    /// As what is over, to be looked at beside others.
    pub(super) fn past(self) -> (BatchEntry, PastBatch) {
        let Self { kept, drink, cupboard, said, .. } = self;
        (entry(kept), PastBatch { written: drink, said, cupboard })
    }

    /// Its name and its drink's id on the shelf, the cupboard that it was made from, and the drink as made.
    pub(super) fn as_made(&self) -> ((String, String), Cupboard, Drink) {
        let name = (self.kept.name.clone(), self.kept.drink.clone());
        (name, self.cupboard.clone(), self.made().drink)
    }

    fn ending(&self) -> Option<Ending> {
        ending_of(&self.drink, &self.said, &self.cupboard)
    }

    fn view(self) -> BatchView {
        let finished = self.kept.finished_at.is_some();
        let practice = self.kept.practice;
        let teaches = if finished && !practice { self.teaches() } else { Vec::new() };
        BatchView {
            now: self.now(),
            rate: self.clock.map_or(1.0, |clock| clock.rate),
            stands: self.report(),
            taken_back: Journal::of(&self.said).undone(),
            teaches,
            learned: self.learned(),
            truth: if finished { self.truth_view() } else { None },
            serve_at: self
                .plan
                .as_ref()
                .map(|plan| minutes_since(&self.kept.begun_at, &plan.serve_at)),
            plan: self.plan,
            said: self.said,
            entry: entry(self.kept),
        }
    }
}

/// How a batch ended; nothing if it hasn't.
pub(crate) fn ending_of(drink: &Drink, said: &[Said], cupboard: &Cupboard) -> Option<Ending> {
    let (place, note, bottles) = standing(said).rev().find_map(|what| match what {
        Happening::Finished { place, note, bottles, .. } => {
            Some((place.clone(), note.clone(), *bottles))
        }
        _ => None,
    })?;
    let minutes = said.iter().find(|s| matches!(s.what, Happening::Finished { .. }))?.at;
    let report = BatchReport::of(drink, &Made::of(drink, said, cupboard), cupboard, minutes);
    let point = report.report.map.point.as_ref();
    Some(Ending {
        written: report.written,
        made: point.map(|p| p.spot()),
        doubt: report.doubt,
        written_ml: report.written_ml,
        made_ml: report.report.profile.as_ref().map_or(0.0, |p| p.volume_ml),
        minutes,
        readings: report.readings.len(),
        inside: report.inside,
        place,
        note,
        bottles,
    })
}

fn entry(kept: KeptBatch) -> BatchEntry {
    BatchEntry {
        id: kept.id,
        drink: kept.drink,
        name: kept.name,
        begun_at: kept.begun_at,
        finished_at: kept.finished_at,
        practice: kept.practice,
        rating: kept.rating,
        picture: kept.picture,
        ending: kept.ending.as_deref().and_then(|text| serde_json::from_str(text).ok()),
    }
}

/// Batches, those in progress first.
#[utoipa::path(tag = "batches", params(BatchesQuery), responses((status = 200, body = Batches)))]
#[get("/api/batches")]
pub(super) async fn list_batches(
    state: web::Data<State>,
    query: web::Query<BatchesQuery>,
) -> Result<web::Json<Batches>, Problem> {
    let asked = query.into_inner();
    let page = Page::new(asked.after, asked.limit);
    let (mut found, predicted) = state
        .with_store(move |store| {
            let wanted = Wanted {
                drink: asked.drink.as_deref(),
                going: false,
                made: asked.made,
                words: &asked.find,
                from: asked.from.as_deref(),
                before: asked.before.as_deref(),
                rating: asked.rating,
                after: page.after,
            };
            let found = store.batches(&wanted, page.sought())?;
            Ok((found, store.predicted(asked.drink.as_deref())?))
        })
        .await?;
    let next = page.cut(&mut found);
    Ok(web::Json(Batches {
        batches: found.into_iter().map(entry).collect(),
        next,
        readings: predicted.readings,
        inside: predicted.inside,
    }))
}

/// Start a batch. Sent twice with the same `Idempotency-Key`, it starts once.
#[utoipa::path(tag = "batches", request_body = inline(BeginBatch), responses(
    (status = 201, body = BatchView)))]
#[post("/api/batches")]
pub(super) async fn begin_batch(
    state: web::Data<State>,
    asker: Asker,
    key: SaidUnder,
    by: By,
    body: Body,
) -> Result<HttpResponse, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Parts {
        of: String,
        drink: Value,
        #[serde(default)]
        practice: bool,
    }
    let Parts { of, drink, practice } = body.json()?;
    if of.chars().count() > 100 {
        let message = "Choose a drink from your list.".into();
        return Err(FieldError { field: "of".into(), message }.into());
    }
    let drink = keen_formats::drink_from_value(drink, &state.cupboard())?;
    let seed = practice.then(|| state.luck.unwrap_or_else(rand::random));
    state.begin(Beginning { of, drink, seed, plan: None }, asker, key, by).await
}

/// What a batch is started with.
pub(super) struct Beginning {
    of: String,
    drink: Drink,
    seed: Option<u64>,
    plan: Option<OfPlan>,
}

impl State {
    pub(super) async fn batch(&self, id: &str) -> Result<Read, Problem> {
        let id = id.to_owned();
        let read = move |store: &Store| {
            let found = store.batch(&id)?;
            Ok(Read::of(found).map(|read| read.served_as_planned(store)))
        };
        let mut read = self.with_store(read).await??;
        // Of what was used then is spoken as the kitchen is spoken to now.
        read.cupboard = read.cupboard.said_in(self.cupboard().saying());
        Ok(read)
    }

    async fn begin(
        &self,
        Beginning { of, drink, seed, plan }: Beginning,
        asker: Asker,
        key: SaidUnder,
        by: By,
    ) -> Result<HttpResponse, Problem> {
        if drink.steps.is_empty() {
            let message = "This drink has no steps yet.".into();
            return Err(FieldError { field: "drink.steps".into(), message }.into());
        }
        let clock = seed.map(|_| serde_json::to_string(&Clock::default()).unwrap_or_default());
        let name = drink.name.clone();
        let kitchen = self.cupboard().kitchen().clone();
        let new = KeptBatch {
            id: uuid::Uuid::now_v7().to_string(),
            drink: of,
            name,
            practice: seed.is_some(),
            body: BATCH.write(&Snapshot { drink, kitchen, seed, plan }),
            begun_at: now(),
            finished_at: None,
            clock,
            ending: None,
            rating: None,
            picture: None,
        };
        let (of, made) = (new.drink.clone(), seed.is_none());
        let kept = self.with_store(move |store| store.begin_batch(&new, key.0.as_deref())).await?;
        if made {
            // What it was begun on is kept among the drink's versions.
            self.with_store(move |store| store.mark_made(&of)).await?;
        }
        self.changes.tell_kept(Changed::Batch, &kept.id, None, by.0);
        if kept.practice {
            self.clear_practice_scale();
        }
        let read = self.batch(&kept.id).await?;
        let view = self.desk.ask(asker, move |_| Ok(read.view())).await?;
        Ok(HttpResponse::Created()
            .insert_header(("location", format!("/api/batches/{}", kept.id)))
            .json(view))
    }

    /// A batch in its present state, worked out at the desk.
    async fn batch_view(&self, id: &str, asker: Asker) -> Result<web::Json<BatchView>, Problem> {
        let read = self.batch(id).await?;
        self.desk.ask(asker, move |_| Ok(read.view())).await.map(web::Json)
    }
}

/// A batch in its present state.
#[utoipa::path(tag = "batches", responses(
    (status = 200, body = BatchView), (status = 404, body = Problem)))]
#[get("/api/batches/{id}")]
pub(super) async fn read_batch(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
) -> Result<web::Json<BatchView>, Problem> {
    state.batch_view(&id, asker).await
}

#[cfg(test)]
mod tests {
    use super::*;

    const LEMONADE: &str = include_str!("../../../../../demo/lemon-verbena-lemonade.json");

    fn read(happenings: &[(&str, &str)], clock: Option<&str>) -> Read {
        let drink = keen_formats::read_drink(LEMONADE.as_bytes(), Cupboard::builtin()).unwrap();
        let kitchen = Kitchen::default();
        let kept = KeptBatch {
            id: "b".into(),
            drink: "d".into(),
            name: drink.name.clone(),
            body: BATCH.write(&Snapshot { drink, kitchen, seed: None, plan: None }),
            begun_at: "2001-06-21T10:00:00Z".into(),
            finished_at: None,
            practice: clock.is_some(),
            clock: clock.map(str::to_owned),
            ending: None,
            rating: None,
            picture: None,
        };
        let said = happenings.iter().enumerate().map(|(place, (at, step))| KeptHappening {
            place: place as i64,
            at: (*at).to_owned(),
            body: HAPPENING.write(&Happening::Done { step: (*step).to_owned() }),
        });
        Read::of((kept, said.collect())).unwrap()
    }

    #[test]
    fn a_clock_that_was_put_back_or_forward_loses_nothing() {
        let told = [
            ("2001-06-21T10:05:00Z", "s1"),
            ("2001-06-21T09:00:00Z", "s2"),
            ("2001-06-21T10:09:00Z", "s3"),
        ];
        let read = read(&told, None);
        let at: Vec<f64> = read.said.iter().map(|s| s.at).collect();
        assert_eq!(at, [5.0, 5.0, 9.0], "nothing happens before what was said before it");
        let done = |s: &&keen_core::batch::MadeStep| {
            matches!(s.state, keen_core::batch::StepState::Done { .. })
        };
        assert_eq!(read.made().steps.iter().filter(done).count(), 3);
        // Said in what is by now the future: it isn't earlier than that.
        let ahead = super::tests::read(&[("2999-01-01T00:00:00Z", "s1")], None);
        assert!(ahead.now() >= ahead.said[0].at);
    }

    #[test]
    fn a_batch_with_a_clock_of_its_own_goes_by_it() {
        let clock = r#"{"rate":0.0,"showed":42.0,"set_at":0.0}"#;
        let read = read(&[], Some(clock));
        assert!((read.now() - 42.0).abs() < 1e-9);
        assert_eq!(read.moment(), "2001-06-21T10:42:00Z");
    }
}
