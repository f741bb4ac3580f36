//! Tastings: what was set up, and what is said in the tasting. What a screen shows is worked out from these
//! whenever it is looked at; what is sealed leaves this machine by no call until the key is broken.

mod compute;
mod read;
mod setting_up;
mod tasters;
mod view;

pub(super) use compute::{for_whom, pitchers, pour_row, prospect, where_it_lies};
pub(super) use read::deal_older;
pub(crate) use read::{ReadTasting, SEALED, TASTING, WORD};
pub(super) use setting_up::set_up;
pub(crate) use tasters::TASTER;
pub(super) use tasters::{add_taster, change_taster, delete_taster, list_tasters, taster_file};

use std::collections::BTreeMap;

use crate::phones::FromPhone;
use actix_web::{HttpResponse, delete, get, post, web};
use keen_core::cupboard::Cupboard;
use keen_core::drink::{Drink, FieldError};
use keen_core::taste::find::{Mixed, at_balance, next_ratio};
use keen_core::taste::ladder::{Glass, Ladder};
use keen_core::taste::sitting::{KeyLine, Seat, Stage, Tasted, Tells, Utterance};
use keen_core::taste::tongue::glass_to_guess;
use keen_core::work::{Work, Worktop};
use keen_store::{KeptTasting, Uttering};
use serde::{Deserialize, Serialize};
use serde_json::json;
use utoipa::ToSchema;

use super::body::SaidUnder;
use super::changes::Changed;
use super::desk::{Asker, By};
use super::paging::PageQuery;
use super::{Body, Problem, State, now};
use read::Summary;
use view::{TastingView, view};

/// A tasting in the list.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct TastingEntry {
    id: String,
    name: String,
    begun_at: String,
    /// "ladder", "find", "compare", "tongue", "guess", "order", "match", "pitcher".
    what: String,
    /// The stage: "pouring", "sealed", "open", "over".
    stage: String,
    /// The tasters, by id.
    tasters: Vec<String>,
    /// Tastings done, by all tasters.
    done: u32,
    /// The planned number, if any.
    of: Option<u32>,
    /// The result, in a sentence.
    tells: String,
}

/// Tastings.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Tastings {
    /// The newest first.
    tastings: Vec<TastingEntry>,
    /// The cursor for the next page.
    next: Option<usize>,
}

/// The pouring sheet.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct SheetView {
    /// A row: its base, jugs, glasses and everything it takes.
    ladder: Option<Ladder>,
    /// The code of each glass.
    key: Vec<KeyLine>,
    /// The serving order for each taster, as codes.
    orders: Vec<Vec<String>>,
    /// For a staircase test: each taster's plain glass and stronger glass.
    stairs: Vec<StairGlasses>,
    /// The glass to guess.
    guess: Option<Mixed>,
}

/// The two glasses of a taster in the staircase test.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct StairGlasses {
    taster: String,
    plain: Glass,
    stronger: Glass,
}

/// The glass that comes next.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct NextView {
    /// The amounts from each jug.
    mixed: Mixed,
    /// How many more glasses would settle it, this one included; 0 if it is settled.
    more: u32,
}

/// An answer in a tasting.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Utter {
    word: Utterance,
}

/// The taster who asks for a glass.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NextFor {
    taster: String,
}

impl State {
    async fn tasting(&self, id: &str) -> Result<ReadTasting, Problem> {
        let id = id.to_owned();
        ReadTasting::of(self.with_store(move |store| store.tasting(&id)).await?)
    }

    /// What a tasting tells, worked out at the desk: fitting a table of tasters is no work for a thread that
    /// answers others as well.
    async fn told(&self, read: ReadTasting) -> Result<(ReadTasting, Tells), Problem> {
        let question = move |_: &Work| {
            let tells = read.table().tells();
            Ok((read, tells))
        };
        self.desk.ask(Asker::default(), question).await
    }

    /// Keeps what lists show of a tasting, unless something more was said since it was read.
    async fn keep_summary(&self, read: &ReadTasting, tells: &Tells) -> Result<(), Problem> {
        let (id, text, said) = (read.kept.id.clone(), read.summary(tells), read.said.len());
        let said = i64::try_from(said).unwrap_or(i64::MAX);
        self.with_store(move |store| store.set_tasting_summary(&id, &text, said)).await
    }

    /// What lists show of a tasting, worked out anew.
    pub(super) async fn renew_summary(&self, id: &str) -> Result<(), Problem> {
        let (read, tells) = self.told(self.tasting(id).await?).await?;
        self.keep_summary(&read, &tells).await
    }

    async fn shown(
        &self,
        (read, tells): (ReadTasting, Tells),
        asker: Asker,
    ) -> Result<TastingView, Problem> {
        let all = self.taster_views(Asker::default()).await?;
        let cupboard = self.cupboard();
        self.desk.ask(asker, move |work| view(&read, tells, all, &cupboard, work)).await
    }
}

/// Tastings, the newest first.
#[utoipa::path(tag = "tasting", params(PageQuery), responses((status = 200, body = Tastings)))]
#[get("/api/tastings")]
pub(super) async fn list_tastings(
    state: web::Data<State>,
    query: web::Query<PageQuery>,
) -> Result<web::Json<Tastings>, Problem> {
    let page = query.page();
    let found = state.with_store(move |store| store.tastings(page.after, page.sought())).await;
    let mut kept = found?;
    let next = page.cut(&mut kept);
    let entry = |kept: KeptTasting| {
        let summary: Summary = serde_json::from_str(&kept.summary).unwrap_or_default();
        TastingEntry {
            id: kept.id,
            name: kept.name,
            begun_at: kept.begun_at,
            what: summary.what,
            stage: summary.stage,
            tasters: summary.tasters,
            done: summary.done,
            of: summary.of,
            tells: summary.tells,
        }
    };
    Ok(web::Json(Tastings { tastings: kept.into_iter().map(entry).collect(), next }))
}

/// A tasting in its present state.
#[utoipa::path(tag = "tasting", responses(
    (status = 200, body = TastingView), (status = 404, body = Problem)))]
#[get("/api/tastings/{id}")]
pub(super) async fn read_tasting(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
) -> Result<web::Json<TastingView>, Problem> {
    let told = state.told(state.tasting(&id).await?).await?;
    state.shown(told, asker).await.map(web::Json)
}

/// Add an answer in a tasting. Once confirmed it is on disk; sent twice with the same `Idempotency-Key`, it counts
/// once.
#[utoipa::path(operation_id = "add_word", tag = "tasting", request_body = Utter, responses(
    (status = 200, body = TastingView), (status = 404, body = Problem)))]
#[post("/api/tastings/{id}/words")]
pub(super) async fn utter(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
    key: SaidUnder,
    by: By,
    phone: Option<web::ReqData<FromPhone>>,
    body: Body,
) -> Result<web::Json<TastingView>, Problem> {
    let Utter { word } = body.json()?;
    // Whoever reveals the glasses does it where everybody sees it.
    if word == Utterance::Broken && phone.is_some() {
        return Err(Problem::here_only());
    }
    state.utter(&id, key, word).await?;
    let (read, tells) = state.told(state.tasting(&id).await?).await?;
    state.keep_summary(&read, &tells).await?;
    state.changes.tell_kept(Changed::Tasting, &id, None, by.0);
    state.shown((read, tells), asker).await.map(web::Json)
}

impl State {
    async fn utter(&self, id: &str, key: SaidUnder, word: Utterance) -> Result<(), Problem> {
        let _turn = self.turns.of(id).await;
        if let Some(key) = key.0.clone() {
            let of = id.to_owned();
            if self.with_store(move |store| store.was_uttered(&of, &key)).await? {
                return Ok(());
            }
        }
        let read = self.tasting(id).await?;
        read.table().allows(&word)?;
        let word = worked_out(&read, word, &self.cupboard())?;
        let taster = match &word {
            Utterance::Answered { taster, .. }
            | Utterance::Mixed { taster, .. }
            | Utterance::Chose { taster, .. }
            | Utterance::Ordered { taster, .. }
            | Utterance::Guessed { taster, .. }
            | Utterance::Remark { taster, .. } => Some(taster.clone()),
            _ => None,
        };
        let after = i64::try_from(read.said.len()).unwrap_or(i64::MAX);
        let (of, text, key, at) = (id.to_owned(), WORD.write(&word), key.0, now());
        let said = self.with_store(move |store| {
            let (taster, key) = (taster.as_deref(), key.as_deref());
            store.utter(&of, Uttering { body: &text, taster, at: &at, key, after })
        });
        said.await?.map(|_| ()).ok_or_else(Problem::busy)
    }
}

/// A word with what isn't said but worked out: where a glass stands.
fn worked_out(
    read: &ReadTasting,
    word: Utterance,
    cupboard: &Cupboard,
) -> Result<Utterance, Problem> {
    Ok(match (word, &read.sitting.kind) {
        (Utterance::Mixed { taster, spoons, felt, .. }, Tasted::Find(finding)) => {
            let mixed = finding
                .glass_of(spoons, cupboard)
                .map_err(|error| FieldError { field: "word.spoons".into(), ..error })?;
            let x = mixed.glass.x.ok_or_else(|| FieldError {
                field: "word.spoons".into(),
                message: "Choose something sour.".into(),
            })?;
            Utterance::Mixed { taster, spoons, x, felt }
        }
        (Utterance::Guessed { taster, ratio, .. }, Tasted::Guess(finding)) => {
            let nth = guesses_so_far(read);
            let mixed = glass_to_guess(finding, nth, read.sitting.seed, cupboard)?;
            Utterance::Guessed { taster, ratio, is: mixed.glass.x.map_or(1.0, f64::exp) }
        }
        (word, _) => read.table().as_kept(word),
    })
}

fn guesses_so_far(read: &ReadTasting) -> usize {
    read.said.iter().filter(|word| matches!(word, Utterance::Guessed { .. })).count()
}

/// The next glass that tells most about a taster's balance.
#[utoipa::path(tag = "tasting", request_body = inline(NextFor), responses(
    (status = 200, body = NextView), (status = 404, body = Problem)))]
#[post("/api/tastings/{id}/next")]
pub(super) async fn next_glass(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
    body: Body,
) -> Result<web::Json<NextView>, Problem> {
    let NextFor { taster } = body.json()?;
    let read = state.tasting(&id).await?;
    let cupboard = state.cupboard();
    let question = move |_: &Work| {
        let fault = |field: &str, message: &str| FieldError {
            field: field.into(),
            message: message.into(),
        };
        let Tasted::Find(finding) = &read.sitting.kind else {
            return Err(fault("taster", "This kind of tasting has no next glass.").into());
        };
        let seat = read.sitting.tasters.iter().position(|it| *it == taster);
        let seat = seat
            .ok_or_else(|| Problem::from(fault("taster", "That person isn't in this tasting.")))?;
        let (ratio, more) = next_ratio(&read.table().sips(), seat);
        Ok(NextView { mixed: finding.glass_at(ratio, cupboard.as_ref())?, more })
    };
    state.desk.ask(asker, question).await.map(web::Json)
}

/// A drink to save.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct AtBalance {
    drink: Drink,
}

/// A lemonade at a taster's balance, as far as this tasting has found it. It isn't saved.
#[utoipa::path(tag = "tasting", request_body = inline(NextFor), responses(
    (status = 200, body = inline(AtBalance)), (status = 404, body = Problem)))]
#[post("/api/tastings/{id}/lemonade")]
pub(super) async fn lemonade_at_balance(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
    body: Body,
) -> Result<web::Json<AtBalance>, Problem> {
    let NextFor { taster } = body.json()?;
    let read = state.tasting(&id).await?;
    let cupboard = state.cupboard();
    let question = move |work: &Work| {
        let fault = |message: &str| FieldError { field: "taster".into(), message: message.into() };
        let Tasted::Find(finding) = &read.sitting.kind else {
            return Err(fault("Use a tasting that finds a balance.").into());
        };
        let ideals = read.table().tells().ideals;
        let ideal = ideals.iter().find(|ideal| ideal.taster == taster);
        let ratio = ideal.ok_or_else(|| fault("That person isn't in this tasting."))?.middle;
        let worktop = Worktop::new(&cupboard, work);
        let drink = keen_formats::lemonade_of(&finding.sour, worktop)?;
        Ok(AtBalance { drink: at_balance(&drink, ratio, worktop)? })
    };
    state.desk.ask(asker, question).await.map(web::Json)
}

/// The pouring sheet. Not available while the contents are hidden; never on phones.
#[utoipa::path(tag = "tasting", responses(
    (status = 200, body = SheetView), (status = 404, body = Problem), (status = 409, body = Problem)))]
#[get("/api/tastings/{id}/sheet")]
pub(super) async fn pouring_sheet(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
) -> Result<web::Json<SheetView>, Problem> {
    let read = state.tasting(&id).await?;
    let cupboard = state.cupboard();
    let question = move |_: &Work| {
        let table = read.table();
        // On the stairs, and where a glass is guessed, each glass is poured while the table is tasting.
        let glass_by_glass = matches!(read.sitting.kind, Tasted::Tongue(_) | Tasted::Guess(_));
        if table.stage() == Stage::Sealed && !glass_by_glass {
            return Err(Problem::sealed());
        }
        let ladder = match &read.sitting.kind {
            Tasted::Ladder { ladder, .. } | Tasted::Order { ladder, .. } => Some(ladder.clone()),
            _ => None,
        };
        let codes = |seat: Seat| seat.glasses.into_iter().map(|g| g.code).collect();
        let mut stairs = Vec::new();
        if let Tasted::Tongue(it) = &read.sitting.kind {
            for (seat, taster) in read.sitting.tasters.iter().enumerate() {
                if let Some(stair) = table.stair(seat) {
                    let [plain, stronger] = it.glasses(stair, cupboard.as_ref())?;
                    stairs.push(StairGlasses { taster: taster.clone(), plain, stronger });
                }
            }
        }
        let guess = match &read.sitting.kind {
            Tasted::Guess(finding) => {
                let nth = guesses_so_far(&read);
                Some(glass_to_guess(finding, nth, read.sitting.seed, cupboard.as_ref())?)
            }
            _ => None,
        };
        Ok(SheetView {
            ladder,
            key: table.key(),
            orders: table.seats().into_iter().map(codes).collect(),
            stairs,
            guess,
        })
    };
    state.desk.ask(asker, question).await.map(web::Json)
}

/// A tasting as a file: its set-up and its answers, with names. Not available before the glasses are revealed.
#[utoipa::path(tag = "tasting", responses(
    (status = 200, body = String, content_type = "application/json"),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
#[get("/api/tastings/{id}/file")]
pub(super) async fn tasting_file(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
) -> Result<HttpResponse, Problem> {
    let read = state.tasting(&id).await?;
    if matches!(read.table().stage(), Stage::Pouring | Stage::Sealed) {
        return Err(Problem::sealed());
    }
    let all = state.taster_views(asker).await?;
    let name = |id: &String| all.iter().find(|view| view.id == *id).map(|view| &view.taster.name);
    let names: BTreeMap<&String, _> =
        read.sitting.tasters.iter().map(|id| (id, name(id))).collect();
    let table = read.table();
    let file = json!({
        "format": TASTING.name,
        "version": TASTING.version(),
        "name": read.kept.name,
        "begun_at": read.kept.begun_at,
        "tasters": names,
        "tasting": read.sitting,
        "said": read.said,
        "key": table.key(),
        "tells": table.tells(),
    });
    let text = serde_json::to_string_pretty(&file).unwrap_or_default();
    Ok(super::shelf::file("tasting.json", text))
}

/// Delete a tasting, with all its answers. This can't be undone.
#[utoipa::path(tag = "tasting", responses((status = 204), (status = 404, body = Problem)))]
#[delete("/api/tastings/{id}")]
pub(super) async fn remove_tasting(
    state: web::Data<State>,
    id: web::Path<String>,
    by: By,
) -> Result<HttpResponse, Problem> {
    let of = id.clone();
    state.with_store(move |store| store.remove_tasting(&of)).await?;
    state.changes.tell_kept(Changed::Tasting, &id, None, by.0);
    Ok(HttpResponse::NoContent().finish())
}
