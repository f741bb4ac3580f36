//! What stands in the refrigerator, the freezer and the cupboard, and what happens to it.

use std::collections::BTreeMap;
use std::collections::btree_map::Entry;
use std::sync::Arc;

use actix_web::{HttpResponse, get, post, web};
use jiff::{Timestamp, ToSpan, tz::TimeZone};
use keen_core::balance::{BalanceMap, Profile};
use keen_core::cupboard::{Cupboard, KeptMixture, Kitchen, Larder, VesselKind};
use keen_core::drink::{Drink, FieldError};
use keen_core::journal::{CantUndo, Journal};
use keen_core::keep::{
    Bottle, BottleState, Happened, Keeping, Move, Place, Use, due, kept_of, learned_days, use_up,
};
use keen_core::trace::Trace;
use keen_core::work::{Work, Worktop};
use keen_formats::{
    CalendarEntry, Format, LABEL_FORMATS, LabelFormat, LabelText, calendar, code_bytes,
    fits_on_label, label_pages,
};
use keen_store::{KeptBottle, KeptMove, Store, StoreError, WholeBottle};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::batches::minutes_since;
use super::body::SaidUnder;
use super::changes::Changed;
use super::desk::{Asker, By};
use super::kept_drink::kept_drink;
use super::paging::{Page, PageQuery};
use super::{Body, Problem, State, now};
use crate::phones;

pub(crate) const BOTTLE: Format =
    Format { name: "keen-pitcher/bottle", field: "bottle", steps: &[super::older::bottle_to_2] };
/// Version 1 is the only one so far.
pub(crate) const MOVE: Format = Format { name: "keen-pitcher/move", field: "move", steps: &[] };

/// Bottles that are put down at once.
const MOST_BOTTLES: usize = 60;
/// Drinks of the shelf that a bottle is tried in.
const TRIED_IN: usize = 40;
const DAY: f64 = 1440.0;

/// A kept bottle.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct BottleView {
    id: String,
    name: String,
    batch: Option<String>,
    drink: Option<String>,
    /// When it was added, RFC 3339.
    put_at: String,
    vessel: VesselKind,
    colour: String,
    holds_ml: f64,
    /// °Brix of the contents.
    brix: f64,
    /// Its alcohol, % vol.
    alcohol: f64,
    /// Parts of water to one part, if it is diluted.
    thinned: Option<f64>,
    /// Its id as an ingredient.
    ingredient: String,
    /// Its state.
    state: BottleState,
    /// Its date, RFC 3339.
    use_by: String,
    /// The same in words, as the calendar counts here: "use by tomorrow", "2 days past its date".
    due: String,
    /// Its log, in order; an entry's position is its id.
    moves: Vec<Happened>,
    /// The ids of the entries that were undone.
    undone: Vec<usize>,
}

/// A bottle, with its uses.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct OpenBottle {
    #[serde(flatten)]
    bottle: BottleView,
    uses: Vec<Use>,
}

/// All bottles.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct KeptView {
    /// The bottles, the first to use first.
    bottles: Vec<BottleView>,
    /// Drinks that kept for a shorter time here than usual.
    learned: Vec<String>,
    /// The cursor for the next page.
    next: Option<usize>,
}

/// Bottles to add.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PutBottles {
    /// The batch that they were filled from or, if there is none, the drink.
    #[serde(default)]
    batch: Option<String>,
    /// The id of the drink in the bottles.
    #[serde(default)]
    drink: Option<String>,
    bottles: Vec<NewBottle>,
}

/// A bottle to add.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewBottle {
    #[serde(default = "a_bottle")]
    vessel: VesselKind,
    /// The volume in the bottle, ml.
    ml: f64,
    /// The size of the bottle, ml; a little more than its contents if left out.
    #[serde(default)]
    holds_ml: Option<f64>,
    #[serde(default)]
    place: Place,
}

fn a_bottle() -> VesselKind {
    VesselKind::Bottle
}

/// An entry for a bottle's log.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct MoveBottle {
    what: Move,
}

/// A bottle as it is kept, read.
struct Read {
    kept: KeptBottle,
    bottle: Bottle,
    moves: Vec<Happened>,
}

impl Read {
    fn of((kept, moves): WholeBottle) -> Option<Self> {
        let bottle: Bottle = BOTTLE.read(&kept.body).ok()?;
        let moves = moves.into_iter().map(|m| {
            // One that can't be read keeps its place, by which others name it, and does nothing.
            let what = MOVE.read(&m.body).unwrap_or(Move::TakenBack { of: usize::MAX });
            Happened { at: (minutes_since(&kept.put_at, &m.at) / DAY).max(0.0), what }
        });
        Some(Self { moves: moves.collect(), bottle, kept })
    }

    fn days(&self) -> f64 {
        (minutes_since(&self.kept.put_at, &now()) / DAY).max(0.0)
    }

    fn state(&self, seen: Option<f64>) -> BottleState {
        self.bottle.state(&self.moves, self.days(), seen)
    }

    fn date(&self, days: f64) -> Timestamp {
        let put: Timestamp = self.kept.put_at.parse().unwrap_or(Timestamp::UNIX_EPOCH);
        put.checked_add(((days * DAY * 60.0).clamp(-1e10, 1e10) as i64).seconds()).unwrap_or(put)
    }

    /// When it is due, as the calendar of this kitchen counts.
    fn due(&self, state: &BottleState) -> String {
        let day = |at: Timestamp| at.to_zoned(TimeZone::system()).date();
        let days = day(Timestamp::now()).until(day(self.date(state.use_by)));
        due(days.map_or(0, |span| i64::from(span.get_days())), state.over)
    }

    fn view(self, seen: Option<f64>) -> BottleView {
        let state = self.state(seen);
        BottleView {
            use_by: self.date(state.use_by).to_string(),
            due: self.due(&state),
            brix: self.bottle.mixture.mixture().soluble_solids(),
            id: self.kept.id,
            name: self.bottle.name,
            batch: self.bottle.batch,
            drink: self.bottle.drink,
            put_at: self.kept.put_at,
            vessel: self.bottle.vessel,
            colour: self.bottle.colour,
            holds_ml: self.bottle.holds_ml,
            alcohol: self.bottle.alcohol,
            thinned: self.bottle.thinned,
            ingredient: self.bottle.mixture.id,
            state,
            undone: Journal::of(&self.moves).undone(),
            moves: self.moves,
        }
    }
}

/// How long bottles of a drink were seen to keep here, shortest and longest, and how many they were.
fn seen_to_keep(store: &Store, drink: &str) -> Result<Option<(f64, f64, usize)>, StoreError> {
    let all = store.bottles_of(drink)?;
    let off: Vec<f64> = all
        .into_iter()
        .filter_map(Read::of)
        .filter_map(|r| r.bottle.went_off_after(&r.moves))
        .collect();
    Ok(learned_days(&off).map(|(shortest, longest)| (shortest, longest, off.len())))
}

/// A bottle, and how long such were seen to keep here.
type Seen = (Read, Option<f64>);

/// A bottle, and how long such were seen to keep here: what every screen, label and date is told by.
fn seen_of(store: &Store, whole: WholeBottle) -> Result<Seen, StoreError> {
    let read = Read::of(whole).ok_or(StoreError::NotFound)?;
    let seen = match &read.bottle.drink {
        Some(drink) => seen_to_keep(store, drink)?.map(|(shortest, ..)| shortest),
        None => None,
    };
    Ok((read, seen))
}

/// Everything that stands there, what must be used first, first; and what was learned of how long things keep.
fn standing(store: &Store) -> Result<(Vec<Seen>, Vec<String>), StoreError> {
    let all: Vec<Read> = store.standing_bottles()?.into_iter().filter_map(Read::of).collect();
    let mut seen: BTreeMap<String, Option<(f64, f64, usize)>> = BTreeMap::new();
    for drink in all.iter().filter_map(|r| r.bottle.drink.clone()) {
        if let Entry::Vacant(place) = seen.entry(drink) {
            let days = seen_to_keep(store, place.key())?;
            place.insert(days);
        }
    }
    let mut learned = Vec::new();
    for (drink, days) in &seen {
        let Some(of) = all.iter().find(|r| r.bottle.drink.as_ref() == Some(drink)) else {
            continue;
        };
        let table = of.bottle.keeping.days;
        if let Some((shortest, longest, bottles)) = days
            && *shortest < f64::from(table)
        {
            learned.push(format!(
                "{} kept {shortest:.0} to {longest:.0} days in your kitchen ({bottles} bottles); usually it keeps {table}. We now use your figure for dates.",
                of.bottle.name
            ));
        }
    }
    let days = |r: &Read| {
        r.bottle.drink.as_ref().and_then(|d| seen.get(d).copied().flatten()).map(|(s, ..)| s)
    };
    let mut found: Vec<Seen> =
        all.into_iter().map(|r| (days(&r), r)).map(|(d, r)| (r, d)).collect();
    found.sort_by(|(a, x), (b, y)| a.state(*x).days_left.total_cmp(&b.state(*y).days_left));
    Ok((found, learned))
}

/// What stands there, as something to make a drink from.
pub(super) struct Standing {
    pub(super) ingredient: String,
    pub(super) name: String,
    pub(super) ml: f64,
    pub(super) days: f64,
}

/// What stands there and isn't past its date.
pub(super) fn standing_now(store: &Store) -> Result<Vec<Standing>, StoreError> {
    let (found, _) = standing(store)?;
    let all = found.into_iter().map(|(read, seen)| {
        let state = read.state(seen);
        let Bottle { mixture, name, .. } = read.bottle;
        Standing { ingredient: mixture.id, name, ml: state.ml, days: state.days_left }
    });
    Ok(all.filter(|it| it.days > 0.0 && it.ml >= 20.0).collect())
}

/// All bottles in the refrigerator, the freezer and the cupboard, the first to use first.
#[utoipa::path(tag = "kept", params(PageQuery), responses((status = 200, body = KeptView)))]
#[get("/api/kept")]
pub(super) async fn list_kept(
    state: web::Data<State>,
    query: web::Query<PageQuery>,
) -> Result<web::Json<KeptView>, Problem> {
    state.kept(query.page()).await.map(web::Json)
}

impl State {
    /// What is kept, a page of it.
    async fn kept(&self, page: Page) -> Result<KeptView, Problem> {
        let (found, learned) = self.with_store(standing).await?;
        let (found, next) = page.of(found);
        let bottles = found.into_iter().map(|(read, seen)| read.view(seen)).collect();
        Ok(KeptView { bottles, learned, next })
    }
}

/// A bottle, with its uses.
#[utoipa::path(tag = "kept", responses(
    (status = 200, body = OpenBottle), (status = 404, body = Problem)))]
#[get("/api/kept/{id}")]
pub(super) async fn read_bottle(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
) -> Result<web::Json<OpenBottle>, Problem> {
    let (read, seen, others) = state
        .with_store(move |store| {
            let (read, seen) = seen_of(store, store.bottle(&id)?)?;
            let (_, drinks) = store.drinks().list("", TRIED_IN)?;
            let others = drinks.into_iter().filter_map(|k| Some((k.id, kept_drink(&k.body).ok()?)));
            Ok((read, seen, others.collect::<Vec<_>>()))
        })
        .await?;
    let cupboard = state.cupboard();
    let told = move |work: &Work| {
        let uses = use_up(&read.bottle, &read.state(seen), &others, Worktop::new(&cupboard, work));
        Ok(OpenBottle { bottle: read.view(seen), uses })
    };
    state.desk.ask(asker, told).await.map(web::Json)
}

/// What a drink comes to as a bottle.
pub(crate) fn bottled(
    name: &str,
    drink: &Drink,
    cupboard: &Cupboard,
    of: (&str, Option<&str>, Option<&str>),
) -> Option<Bottle> {
    let (mixture, batch, shelf) = of;
    let trace = Trace::run(drink, cupboard);
    let contents = kept_of(drink, &trace)?;
    let profile = trace.outcome().and_then(Profile::of);
    let map = BalanceMap::of(drink.family, profile.as_ref());
    Some(Bottle {
        name: name.to_owned(),
        batch: batch.map(str::to_owned),
        drink: shelf.map(str::to_owned),
        vessel: VesselKind::Bottle,
        holds_ml: 0.0,
        ml: 0.0,
        place: Place::Refrigerator,
        keeping: Keeping::of(drink, cupboard, &trace)?,
        mixture: KeptMixture::of(mixture, name, contents, drink, cupboard)?,
        colour: contents.colour().to_string(),
        thinned: map.point.and_then(|p| p.thinned_with).filter(|parts| *parts > 0.4),
        alcohol: contents.liquid.alcohol_percent(),
    })
}

/// Add bottles: of a batch, or of a drink. Sent twice with the same `Idempotency-Key`, they are added once.
#[utoipa::path(tag = "kept", request_body = inline(PutBottles), responses(
    (status = 201, body = KeptView), (status = 404, body = Problem)))]
#[post("/api/kept")]
pub(super) async fn put_bottles(
    state: web::Data<State>,
    asker: Asker,
    key: SaidUnder,
    by: By,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let asked: PutBottles = body.json()?;
    if asked.bottles.is_empty() || asked.bottles.len() > MOST_BOTTLES {
        return Err(FieldError::new("bottles", "Enter 1 to 60 bottles.").into());
    }
    for (n, new) in asked.bottles.iter().enumerate() {
        let fine = |ml: f64| ml.is_finite() && (1.0..=100_000.0).contains(&ml);
        if !fine(new.ml) || new.holds_ml.is_some_and(|ml| !fine(ml)) {
            let field = format!("bottles[{n}].ml");
            return Err(FieldError::new(&field, "Enter 1 ml to 100 l.").into());
        }
        if !matches!(
            new.vessel,
            VesselKind::Bottle | VesselKind::Jug | VesselKind::Pitcher | VesselKind::Bowl
        ) {
            let field = format!("bottles[{n}].vessel");
            return Err(
                FieldError::new(&field, "Choose a bottle, a jug, a pitcher or a bowl.").into()
            );
        }
    }
    let mixture = format!("kept_{}", uuid::Uuid::now_v7().simple());
    let ((title, of), drink, cupboard) = match (&asked.batch, &asked.drink) {
        (Some(batch), _) => {
            let (name, cupboard, made) = state.batch(batch).await?.as_made();
            (name, made, cupboard)
        }
        (None, Some(id)) => {
            let of = id.clone();
            let kept = state.with_store(move |store| store.drinks().read(&of)).await?;
            let drink =
                kept_drink(&kept.body).map_err(|why| Problem::damaged_drink(&why.to_string()))?;
            ((drink.name.clone(), id.clone()), drink, (*state.cupboard()).clone())
        }
        (None, None) => {
            return Err(FieldError::new("batch", "Choose a batch or a drink.").into());
        }
    };
    let batch = asked.batch.clone();
    let made = move |_: &Work| {
        Ok(bottled(&title, &drink, &cupboard, (&mixture, batch.as_deref(), Some(&of))))
    };
    let Some(pattern) = state.desk.ask(asker, made).await? else {
        return Err(FieldError::new("bottles", "This drink has nothing to keep.").into());
    };
    let put_at = now();
    let rows: Vec<KeptBottle> = asked
        .bottles
        .iter()
        .map(|new| {
            let bottle = Bottle {
                vessel: new.vessel,
                ml: new.ml,
                holds_ml: new.holds_ml.unwrap_or(new.ml * 1.06).max(new.ml),
                place: new.place,
                ..pattern.clone()
            };
            KeptBottle {
                id: uuid::Uuid::now_v7().to_string(),
                batch: bottle.batch.clone(),
                drink: bottle.drink.clone(),
                name: bottle.name.clone(),
                body: BOTTLE.write(&bottle),
                put_at: put_at.clone(),
                gone_at: None,
            }
        })
        .collect();
    state.with_store(move |store| store.put_bottles(&rows, key.0.as_deref())).await?;
    state.bottles_are(by).await?;
    let kept = state.kept(Page::new(0, None)).await?;
    Ok(HttpResponse::Created().insert_header(("location", "/api/kept")).json(kept))
}

/// Say that something happened to a bottle: it was opened, poured from, moved, emptied or discarded. Said twice
/// under one `Idempotency-Key` it counts once.
#[utoipa::path(tag = "kept", request_body = inline(MoveBottle), responses(
    (status = 200, body = BottleView), (status = 404, body = Problem)))]
#[post("/api/kept/{id}/moves")]
pub(super) async fn move_bottle(
    state: web::Data<State>,
    id: web::Path<String>,
    key: SaidUnder,
    by: By,
    body: Body,
) -> Result<web::Json<BottleView>, Problem> {
    let MoveBottle { what } = body.json()?;
    state.say_of_bottle(&id, what, key.0).await?;
    state.bottles_are(by).await?;
    let (read, seen) = state.with_store(move |store| seen_of(store, store.bottle(&id)?)).await?;
    Ok(web::Json(read.view(seen)))
}

impl State {
    async fn say_of_bottle(
        &self,
        id: &str,
        what: Move,
        key: Option<String>,
    ) -> Result<Read, Problem> {
        let _turn = self.turns.of(id).await;
        let of = id.to_owned();
        let found = self.with_store(move |store| store.bottle(&of)).await?;
        let after = found.1.len();
        let mut read = Read::of(found).ok_or(StoreError::NotFound)?;
        allows(&read, &what)?;
        let mut moves = read.moves.clone();
        moves.push(Happened { at: read.days(), what: what.clone() });
        let gone = read.bottle.state(&moves, read.days(), None).gone;
        let (of, text) = (id.to_owned(), MOVE.write(&what));
        let said = self.with_store(move |store| {
            let at = now();
            let what = KeptMove { at: at.clone(), body: text };
            store.move_bottle(&of, &what, (after, gone.then_some(at.as_str())), key.as_deref())
        });
        if !said.await? {
            return Err(Problem::busy());
        }
        read.moves = moves;
        Ok(read)
    }

    /// What stands there is what can be used: the kitchen's mixtures follow, and every screen is told.
    async fn bottles_are(&self, by: By) -> Result<(), Problem> {
        let (mixtures, needed) = self
            .with_store(|store| {
                let mixtures = standing_mixtures(store)?;
                // Which of those that are gone a drink still needs.
                let before = super::kept_kitchen(store)?.kitchen.mixtures;
                let mut needed: Vec<String> = Vec::new();
                store.drinks().for_each_body(|body| {
                    for m in &before {
                        if !needed.contains(&m.id) && body.contains(&format!("\"{}\"", m.id)) {
                            needed.push(m.id.clone());
                        }
                    }
                })?;
                Ok((mixtures, needed))
            })
            .await?;
        let follow = move |kitchen: &mut Kitchen| {
            let mut next: Vec<KeptMixture> = Vec::new();
            kitchen.larder.retain(|id, _| !id.starts_with("kept_"));
            for (mixture, grams) in &mixtures {
                next.push(mixture.clone());
                let have = (grams * 10.0).round() / 10.0;
                kitchen.larder.insert(mixture.id.clone(), Larder { have, ..Larder::default() });
            }
            for gone in kitchen.mixtures.drain(..) {
                if needed.contains(&gone.id) && !next.iter().any(|m| m.id == gone.id) {
                    next.push(KeptMixture { gone: true, ..gone });
                }
            }
            kitchen.mixtures = next;
        };
        self.changes.tell_document(Changed::Kept, None);
        self.change_kitchen(Arc::clone(&self.store), by, follow).await
    }

    /// Lets the kitchen's mixtures follow their bottles where these have grown older since.
    pub(crate) async fn bottles_grew_older(&self) -> Result<(), Problem> {
        let differ = self
            .with_store(|store| {
                let known = super::kept_kitchen(store)?.kitchen.mixtures;
                let now = standing_mixtures(store)?;
                let as_told = |m: &KeptMixture| known.iter().find(|k| k.id == m.id);
                Ok(now
                    .iter()
                    .any(|(m, _)| as_told(m).is_some_and(|known| known.past.left != m.past.left)))
            })
            .await?;
        if differ { self.bottles_are(By(None)).await } else { Ok(()) }
    }

    /// What a finished batch took from bottles is drawn from them, the first that was put there first.
    pub(super) async fn draw_from_bottles(&self, batch: &str, by: By) -> Result<(), Problem> {
        let read = self.batch(batch).await?;
        let ((name, _), cupboard, made) = read.as_made();
        let mut drawn = false;
        let trace = Trace::run(&made, &cupboard);
        for line in &trace.lines {
            let it = &cupboard.ingredients()[line.ingredient];
            if !it.id.starts_with("kept_") {
                continue;
            }
            let (before, after) = (format!("{batch}/"), format!("/{}", made.steps[line.step].id));
            let of = (before.clone(), after.clone());
            let done = self.with_store(move |store| store.moves_under(&of.0, &of.1)).await?;
            let poured = done.iter().filter_map(|body| match MOVE.read(body) {
                Ok(Move::Poured { ml, .. }) => Some(ml),
                _ => None,
            });
            let mut ml = line.grams.0 / it.per_gram.density_at_20().max(0.1) - poured.sum::<f64>();
            if ml < 0.5 {
                continue;
            }
            let mixture = it.id.clone();
            let bottles = self.with_store(Store::standing_bottles).await?;
            for read in
                bottles.into_iter().filter_map(Read::of).filter(|r| r.bottle.mixture.id == mixture)
            {
                let takes = ml.min(read.state(None).ml);
                if takes < 0.5 {
                    continue;
                }
                let what = Move::Poured { ml: takes, what_for: name.clone() };
                let key = format!("{before}{}{after}", read.kept.id);
                self.say_of_bottle(&read.kept.id, what, Some(key)).await?;
                ml -= takes;
                drawn = true;
            }
        }
        if drawn { self.bottles_are(by).await } else { Ok(()) }
    }
}

/// What stands there as ingredients, as old as the bottles are now, and how many grams there are of each.
fn standing_mixtures(store: &Store) -> Result<Vec<(KeptMixture, f64)>, StoreError> {
    let mut mixtures: Vec<(KeptMixture, f64)> = Vec::new();
    for read in store.standing_bottles()?.into_iter().filter_map(Read::of) {
        let stands = read.state(None);
        let grams = stands.ml * read.bottle.mixture.density();
        let mut mixture = read.bottle.mixture;
        let left = round_quarter(stands.days_in_the_cold);
        match mixtures.iter_mut().find(|(m, _)| m.id == mixture.id) {
            // Nobody knows which of them is taken: as long as the oldest.
            Some((known, there)) => {
                *there += grams;
                known.past.left = Some(known.past.left.map_or(left, |known| known.min(left)));
            }
            None => {
                mixture.past.left = Some(left);
                mixtures.push((mixture, grams));
            }
        }
    }
    Ok(mixtures)
}

/// To a quarter of a day, so that a kitchen isn't another one every hour.
fn round_quarter(days: f64) -> f64 {
    (days * 4.0).floor() / 4.0
}

/// Whether that can happen to a bottle as it stands.
fn allows(read: &Read, what: &Move) -> Result<(), FieldError> {
    let state = read.state(None);
    let fault = |field: &str, message: String| Err(FieldError { field: field.into(), message });
    match what {
        Move::TakenBack { of } => match Journal::of(&read.moves).may_undo(*of) {
            Ok(_) => Ok(()),
            Err(CantUndo::NotThere) => fault("what.of", "There is no such entry.".into()),
            Err(CantUndo::IsAnUndo) => {
                fault("what.of", "This entry was undone. Add it again instead.".into())
            }
        },
        _ if state.gone => fault("what", "This bottle is empty.".into()),
        Move::Poured { ml, what_for } => {
            if !ml.is_finite() || *ml < 0.5 {
                return fault("what.ml", "Enter how much you poured, in ml.".into());
            }
            if *ml > state.ml * 1.02 + 1.0 {
                return fault(
                    "what.ml",
                    format!("It holds only {0:.0} ml. Enter {0:.0} ml or less.", state.ml),
                );
            }
            if what_for.chars().count() > 200 {
                return fault("what.what_for", "Enter up to 200 characters.".into());
            }
            Ok(())
        }
        Move::Moved { to } if *to == state.place => {
            fault("what.to", format!("It is already in the {}.", to.name()))
        }
        _ => Ok(()),
    }
}

/// The dates of all bottles as a calendar file, with a reminder the day before.
#[utoipa::path(tag = "kept", responses(
    (status = 200, body = String, content_type = "text/calendar")))]
#[get("/api/kept/calendar.ics")]
pub(super) async fn kept_calendar(state: web::Data<State>) -> Result<HttpResponse, Problem> {
    let (found, _) = state.with_store(standing).await?;
    let zone = TimeZone::system();
    let entries: Vec<CalendarEntry> = found
        .iter()
        .map(|(read, seen)| {
            let stands = read.state(*seen);
            let day = read.date(stands.use_by).to_zoned(zone.clone()).date();
            let nine = day.at(9, 0, 0, 0).to_zoned(zone.clone()).map(|z| z.timestamp());
            let from = nine.unwrap_or_else(|_| read.date(stands.use_by));
            CalendarEntry {
                uid: format!("kept/{}@keen-pitcher", read.kept.id),
                title: match stands.over {
                    true => format!("Discard: {}", read.bottle.name),
                    false => format!("Use up: {}", read.bottle.name),
                },
                text: format!("{:.0} ml in the {}.", stands.ml, stands.place.name()),
                from,
                to: from.checked_add(15.minutes()).unwrap_or(from),
                remind: 1440,
            }
        })
        .collect();
    let moves: usize = found.iter().map(|(read, _)| read.moves.len()).sum();
    let text = calendar("Kept", &entries, i64::try_from(moves).unwrap_or(0), Timestamp::now());
    Ok(HttpResponse::Ok()
        .content_type("text/calendar; charset=utf-8")
        .insert_header(("content-disposition", "attachment; filename=\"kept.ics\""))
        .body(text))
}

/// The formats of label sheets.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct LabelFormats {
    formats: Vec<LabelFormat>,
}

/// The formats of label sheets.
#[utoipa::path(operation_id = "list_label_formats", tag = "kept", responses((status = 200, body = inline(LabelFormats))))]
#[get("/api/labels")]
pub(super) async fn label_formats() -> web::Json<LabelFormats> {
    web::Json(LabelFormats { formats: LABEL_FORMATS.to_vec() })
}

/// The labels to draw.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct AskLabels {
    /// The bottles' ids.
    bottles: Vec<String>,
    /// The format of the label sheet.
    format: String,
    /// The first unused place on the sheet, from 0.
    #[serde(default)]
    start_at: usize,
    /// The contents of the QR codes.
    #[serde(default)]
    code: LabelCode,
}

/// The contents of a label's QR code.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum LabelCode {
    /// The address of the bottle, for a phone in the kitchen's network.
    #[default]
    Bottle,
    /// The whole drink: a photo of the label gives it back, with no network.
    Drink,
}

/// Pages of labels.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct LabelsView {
    /// One SVG for each page, in the size of the paper.
    pages: Vec<String>,
}

/// Draw labels for bottles: name, dates, how to dilute it, allergens, strength, and a picture code that opens the
/// bottle on a phone in the kitchen's network, or holds the whole drink.
#[utoipa::path(operation_id = "lay_out_labels", tag = "kept", request_body = inline(AskLabels), responses(
    (status = 200, body = inline(LabelsView)), (status = 404, body = Problem)))]
#[post("/api/compute/labels")]
pub(super) async fn labels(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<LabelsView>, Problem> {
    let AskLabels { bottles, format, start_at, code } = body.json()?;
    let Some(format) = LABEL_FORMATS.iter().find(|f| f.id == format) else {
        return Err(FieldError::new("format", "Choose one of the label sheets.").into());
    };
    if bottles.is_empty() || bottles.len() > 300 {
        return Err(FieldError::new("bottles", "Enter 1 to 300 labels.").into());
    }
    // Through the kitchen's door, if it is open; else where it would be.
    let addresses = state.phones.addresses();
    let door = addresses.first().copied().or_else(|| phones::places(None).ok()?.first().copied());
    let found = state
        .with_store(move |store| {
            let of = |id: &String| {
                let (read, seen) = seen_of(store, store.bottle(id)?)?;
                let drink = read.bottle.drink.as_ref().filter(|_| code == LabelCode::Drink);
                let drink = drink.and_then(|id| store.drinks().read(id).ok());
                Ok((read, seen, drink.map(|kept| kept.body)))
            };
            bottles.iter().map(of).collect::<Result<Vec<_>, _>>()
        })
        .await?;
    let texts = found.iter().map(|(read, seen, drink)| {
        let held = match code {
            LabelCode::Drink => Some(drink_code(&read.bottle.name, drink.as_deref(), format)?),
            LabelCode::Bottle => {
                door.map(|at| format!("http://{at}/kept/{}", read.kept.id).into_bytes())
            }
        };
        Ok(label(read, *seen, held))
    });
    let texts = texts.collect::<Result<Vec<LabelText>, Problem>>()?;
    Ok(web::Json(LabelsView { pages: label_pages(&texts, format, start_at) }))
}

/// The picture code that holds the drink of a bottle.
fn drink_code(name: &str, drink: Option<&str>, format: &LabelFormat) -> Result<Vec<u8>, Problem> {
    let fault = |message: String| Problem::from(FieldError::new("code", message));
    let drink = drink.and_then(|body| kept_drink(body).ok()).ok_or_else(|| {
        fault(format!("{name} has no recipe on your list. Choose the code that opens the bottle."))
    })?;
    let code = code_bytes(&drink).filter(|codes| codes.len() == 1).and_then(|mut c| c.pop());
    code.filter(|code| fits_on_label(code, format)).ok_or_else(|| {
        fault(format!("The recipe of {name} is too long for this label. Choose a larger one."))
    })
}

fn label(read: &Read, seen: Option<f64>, code: Option<Vec<u8>>) -> LabelText {
    let zone = TimeZone::system();
    let day = |at: Timestamp| at.to_zoned(zone.clone()).strftime("%-d %b %Y").to_string();
    let stands = read.state(seen);
    let put: Timestamp = read.kept.put_at.parse().unwrap_or(Timestamp::UNIX_EPOCH);
    let mut lines = vec![format!("made {}", day(put))];
    lines.push(match stands.place {
        _ if stands.over => "DISCARD: past its date".to_owned(),
        Place::Freezer => format!("frozen: until {}", day(read.date(stands.use_by))),
        _ => format!("use by {}", day(read.date(stands.use_by))),
    });
    if let Some(parts) = read.bottle.thinned {
        lines.push(format!("1 to {} with water", (parts * 2.0).round() / 2.0));
    }
    let mut warnings = Vec::new();
    if read.bottle.alcohol >= 0.5 {
        warnings.push(format!("For adults: {:.1} % vol", read.bottle.alcohol));
    }
    let allergens: Vec<&str> = read.bottle.mixture.allergens.iter().map(|a| a.name()).collect();
    if !allergens.is_empty() {
        warnings.push(format!("Contains {}", allergens.join(", ")));
    }
    LabelText { name: read.bottle.name.clone(), lines, warnings, code }
}
