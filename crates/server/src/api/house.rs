//! The whole house: saved as one file, put back, and tables in and out.

use std::collections::{HashMap, HashSet};
use std::io::Write;
use std::sync::Arc;
use std::time::Duration;

use actix_web::{HttpResponse, delete, get, post, web};
use futures_util::StreamExt;
use keen_core::cupboard::{Kitchen, OwnIngredient, Reading};
use keen_core::drink::FieldError;
use keen_formats::{
    BatchRow, batches_table, ingredients_table, read_batches, read_ingredients, read_readings,
    readings_table,
};
use keen_store::{KeptBatch, KeptHappening, Store, StoreError, Wanted, WholeBatch};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::batches::{BATCH, Ending, HAPPENING, Snapshot};
use super::body::read_file;
use super::desk::By;
use super::kept_drink::kept_drink;
use super::{Problem, State, kept_kitchen};
use crate::house::{self, BackupView, NotPutBack};

/// The largest archive that is taken: a house of fifty thousand batches is a tenth of it.
const MOST_ARCHIVE: u64 = 1024 * 1024 * 1024;
/// The largest table.
const MOST_TABLE: usize = 16 * 1024 * 1024;
/// Between two pieces of a file no more than this may pass.
const PATIENCE: Duration = Duration::from_secs(20);

/// The restored entries.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct PutBackView {
    /// The file in the data folder that holds the previous data.
    aside: String,
}

fn refused(why: NotPutBack) -> Problem {
    match why {
        NotPutBack::House(keen_formats::HouseError::Io(error)) | NotPutBack::Io(error) => {
            if error.kind() == std::io::ErrorKind::StorageFull {
                return StoreError::Full.into();
            }
            FieldError::new(
                "file",
                format!("We couldn't read this backup: {error}. Nothing was changed."),
            )
            .into()
        }
        NotPutBack::House(why) => FieldError::new("file", why.to_string()).into(),
        NotPutBack::Store(why @ (StoreError::NoCopy(_) | StoreError::TooNew(_))) => {
            let why = match why {
                StoreError::TooNew(_) => {
                    "This backup needs a newer Keen Pitcher. Nothing was changed.".to_owned()
                }
                why => why.to_string(),
            };
            FieldError::new("file", why).into()
        }
        NotPutBack::Store(why) => why.into(),
    }
}

fn download(path: &std::path::Path, name: &str) -> Result<HttpResponse, Problem> {
    let told = |error: std::io::Error| {
        Problem::from(FieldError::new("file", format!("We couldn't read this backup: {error}.")))
    };
    let mut file = std::fs::File::open(path).map_err(told)?;
    // Sent piece by piece: a house may be larger than the memory of a small machine.
    let pieces = std::iter::from_fn(move || {
        use std::io::Read;
        let mut piece = vec![0; 64 * 1024];
        match file.read(&mut piece) {
            Ok(0) => None,
            Ok(n) => {
                piece.truncate(n);
                Some(Ok::<_, std::io::Error>(web::Bytes::from(piece)))
            }
            Err(error) => Some(Err(error)),
        }
    });
    Ok(HttpResponse::Ok()
        .content_type("application/zip")
        .insert_header(("content-disposition", format!("attachment; filename=\"{name}\"")))
        .streaming(futures_util::stream::iter(pieces)))
}

/// The backups on this machine.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Backups {
    /// The newest first.
    backups: Vec<BackupView>,
}

impl State {
    async fn backups(&self) -> Result<Backups, Problem> {
        let data = self.store.folder();
        let kept = web::block(move || house::kept(&data)).await.map_err(|_| Problem::busy())?;
        Ok(Backups { backups: kept })
    }

    /// Does something with the store that may fail in its own way, on a thread that may wait.
    async fn with_house<T: Send + 'static, E: Send + 'static>(
        &self,
        work: impl FnOnce(&Store) -> Result<T, E> + Send + 'static,
    ) -> Result<Result<T, E>, Problem> {
        let store = Arc::clone(&self.store);
        web::block(move || work(&store)).await.map_err(|_| Problem::busy())
    }
}

/// Save everything as one file.
#[utoipa::path(operation_id = "download_everything", tag = "house", responses(
    (status = 200, body = String, content_type = "application/zip")))]
#[get("/api/house")]
pub(super) async fn save_house(state: web::Data<State>) -> Result<HttpResponse, Problem> {
    // Each of them reads everything: more at once would only make all of them slower.
    let _turn = state.saving.try_acquire().map_err(|_| Problem::busy())?;
    let saved = state
        .with_house(|store| -> anyhow::Result<_> {
            let folder = tempfile::tempdir()?;
            let path = folder.path().join("house.zip");
            house::save(store, &path)?;
            Ok((folder, path))
        })
        .await?;
    let (_folder, path) = saved.map_err(|why| not_saved(&why))?;
    let day = jiff::Zoned::now().strftime("%Y-%m-%d").to_string();
    download(&path, &format!("keen-pitcher-{day}.zip"))
}

fn not_saved(why: &anyhow::Error) -> Problem {
    let full = why.chain().any(|cause| {
        let of_disk = cause.downcast_ref::<std::io::Error>();
        of_disk.is_some_and(|e| e.kind() == std::io::ErrorKind::StorageFull)
            || matches!(cause.downcast_ref::<StoreError>(), Some(StoreError::Full))
    });
    if full {
        return StoreError::Full.into();
    }
    let waits = |cause: &&(dyn std::error::Error + 'static)| {
        matches!(
            cause.downcast_ref::<StoreError>(),
            Some(StoreError::Locked | StoreError::BeingRestored)
        )
    };
    if why.chain().any(|cause| waits(&cause)) {
        return Problem::busy();
    }
    FieldError::new("file", format!("We couldn't make the backup: {why:#}.")).into()
}

/// Restore everything from a data file. The file is checked as a whole first, and the present data is saved aside.
#[utoipa::path(operation_id = "restore_file", tag = "house",
    request_body(content = String, content_type = "application/zip"),
    responses((status = 200, body = PutBackView), (status = 422, body = Problem)))]
#[post("/api/house")]
pub(super) async fn put_back(
    state: web::Data<State>,
    mut body: web::Payload,
) -> Result<web::Json<PutBackView>, Problem> {
    let full = |error: std::io::Error| refused(NotPutBack::Io(error));
    let mut file = keen_store::unfinished(&state.store.folder()).map_err(full)?;
    let mut bytes = 0;
    loop {
        match actix_web::rt::time::timeout(PATIENCE, body.next()).await {
            Ok(None) => break,
            Ok(Some(Ok(piece))) => {
                bytes += piece.len() as u64;
                if bytes > MOST_ARCHIVE {
                    return Err(FieldError::new(
                        "file",
                        "This file is too large for a Keen Pitcher backup. Nothing was changed.",
                    )
                    .into());
                }
                file.write_all(&piece).map_err(full)?;
            }
            Ok(Some(Err(_))) => return Err(Problem::cut_off()),
            Err(_) => return Err(Problem::too_slow()),
        }
    }
    let put = state.with_house(move |store| house::put_back(store, file.path())).await?;
    put_back_done(&state, put).await
}

async fn put_back_done(
    state: &State,
    put: Result<std::path::PathBuf, NotPutBack>,
) -> Result<web::Json<PutBackView>, Problem> {
    let aside = put.map_err(refused)?;
    state.shelf_is_another().await?;
    let aside = aside.file_name().map_or_else(String::new, |n| n.to_string_lossy().into_owned());
    Ok(web::Json(PutBackView { aside }))
}

/// The backups on this machine, newest first. One is made automatically each day.
#[utoipa::path(tag = "house", responses((status = 200, body = Backups)))]
#[get("/api/house/backups")]
pub(super) async fn list_backups(state: web::Data<State>) -> Result<web::Json<Backups>, Problem> {
    state.backups().await.map(web::Json)
}

/// Make a backup now, beside those of each day.
#[utoipa::path(tag = "house", responses((status = 200, body = Backups)))]
#[post("/api/house/backups")]
pub(super) async fn back_up_now(state: web::Data<State>) -> Result<web::Json<Backups>, Problem> {
    let made = state.with_house(|store| house::daily(store, true)).await?;
    made.map_err(|why| not_saved(&why))?;
    state.backups().await.map(web::Json)
}

/// Restore from a backup on this machine.
#[utoipa::path(operation_id = "restore_backup", tag = "house", responses((status = 200, body = PutBackView), (status = 404, body = Problem)))]
#[post("/api/house/backups/{name}")]
pub(super) async fn put_back_kept(
    state: web::Data<State>,
    name: web::Path<String>,
) -> Result<web::Json<PutBackView>, Problem> {
    let put = state
        .with_house(move |store| {
            // Only what is in the list is a name of one.
            let data = store.folder();
            let known = house::kept(&data).into_iter().find(|known| known.name == *name);
            let Some(known) = known else {
                return Err(NotPutBack::Store(StoreError::NotFound));
            };
            house::put_back(store, &house::path_of(&data, &known))
        })
        .await?;
    put_back_done(&state, put).await
}

/// Delete a backup on this machine.
#[utoipa::path(tag = "house", responses((status = 204), (status = 404, body = Problem)))]
#[delete("/api/house/backups/{name}")]
pub(super) async fn delete_backup(
    state: web::Data<State>,
    name: web::Path<String>,
) -> Result<HttpResponse, Problem> {
    let data = state.store.folder();
    state.with_store(move |_| house::delete(&data, &name)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// The tables that go out and come in.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum TableOf {
    /// Ingredients of one's own.
    Ingredients,
    /// Finished batches.
    Batches,
    /// What fruit gave.
    Readings,
}

/// A table for a spreadsheet: `ingredients`, `batches` or `readings`.
#[utoipa::path(tag = "house", params(("of" = String, Path, description = "`ingredients`, `batches` or `readings`")), responses(
    (status = 200, body = String, content_type = "text/csv")))]
#[get("/api/house/tables/{of}")]
pub(super) async fn write_table(
    state: web::Data<State>,
    of: web::Path<TableOf>,
) -> Result<HttpResponse, Problem> {
    let of = of.into_inner();
    let text = state.with_store(move |store| table_text(store, of)).await?;
    Ok(HttpResponse::Ok()
        .content_type("text/csv; charset=utf-8")
        .insert_header(("content-disposition", "attachment; filename=\"table.csv\""))
        .body(text))
}

/// A table as text.
pub(crate) fn table_text(store: &Store, of: TableOf) -> Result<String, StoreError> {
    Ok(match of {
        TableOf::Ingredients => ingredients_table(&kept_kitchen(store)?.kitchen.ingredients),
        TableOf::Readings => readings_table(&kept_kitchen(store)?.kitchen.readings),
        TableOf::Batches => {
            let wanted = Wanted { made: true, ..Wanted::default() };
            let rows = store.batches(&wanted, 60_000)?.into_iter().map(|kept| {
                let ending: Option<Ending> =
                    kept.ending.as_deref().and_then(|t| serde_json::from_str(t).ok());
                let ending = ending.unwrap_or_default();
                BatchRow {
                    drink: kept.name,
                    begun_at: kept.begun_at,
                    minutes: ending.minutes,
                    ml: ending.made_ml,
                    sweetness: ending.made.map(|m| m.sweetness),
                    acidity: ending.made.map(|m| m.acidity),
                    rating: kept.rating,
                    bottles: ending.bottles,
                    place: ending.place,
                    note: ending.note,
                }
            });
            batches_table(&rows.collect::<Vec<_>>())
        }
    })
}

/// The number of entries that were imported.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct ReadTableView {
    /// How many rows are new.
    added: usize,
    /// How many were there already.
    known: usize,
}

impl ReadTableView {
    pub(crate) fn added(&self) -> usize {
        self.added
    }
}

/// Read a table from a spreadsheet. All its rows are added, or none; existing entries stay as they are.
#[utoipa::path(tag = "house", params(("of" = String, Path, description = "`ingredients`, `batches` or `readings`")),
    request_body(content = String, content_type = "text/csv"),
    responses((status = 200, body = ReadTableView), (status = 422, body = Problem)))]
#[post("/api/house/tables/{of}")]
pub(super) async fn read_table(
    state: web::Data<State>,
    of: web::Path<TableOf>,
    by: By,
    body: web::Payload,
) -> Result<web::Json<ReadTableView>, Problem> {
    let large = FieldError::new("file", "Choose a table of up to 16 MB.");
    let bytes = read_file(body, MOST_TABLE, large).await?;
    let text = String::from_utf8(bytes).map_err(|_| {
        FieldError::new("file", "This isn't a text table (UTF-8). Choose another file.")
    })?;
    let told = Problem::invalid;
    let read = match of.into_inner() {
        TableOf::Ingredients => {
            let rows = read_ingredients(&text).map_err(told)?;
            let before = state.cupboard().kitchen().ingredients.len();
            let count = rows.len();
            state
                .change_kitchen(Arc::clone(&state.store), by, move |k| add_ingredients(k, &rows))
                .await?;
            let added = state.cupboard().kitchen().ingredients.len() - before;
            ReadTableView { added, known: count - added }
        }
        TableOf::Readings => {
            let rows = read_readings(&text).map_err(told)?;
            let before = state.cupboard().kitchen().readings.len();
            let count = rows.len();
            state
                .change_kitchen(Arc::clone(&state.store), by, move |k| add_readings(k, &rows))
                .await?;
            let added = state.cupboard().kitchen().readings.len() - before;
            ReadTableView { added, known: count - added }
        }
        TableOf::Batches => {
            let rows = read_batches(&text).map_err(told)?;
            let kitchen = state.cupboard().kitchen().clone();
            let read = state.with_house(move |store| add_batches(store, &rows, &kitchen)).await??;
            state.changes.tell_everything();
            read
        }
    };
    Ok(web::Json(read))
}

pub(crate) fn add_ingredients(kitchen: &mut Kitchen, rows: &[OwnIngredient]) {
    for row in rows {
        if !kitchen.ingredients.iter().any(|it| it.id == row.id) {
            kitchen.ingredients.push(row.clone());
        }
    }
}

pub(crate) fn add_readings(kitchen: &mut Kitchen, rows: &[Reading]) {
    for row in rows {
        if !kitchen.readings.contains(row) {
            kitchen.readings.push(row.clone());
        }
    }
}

/// Puts batches from a table beside the others; each names a drink of the shelf. All of them, or none.
pub(crate) fn add_batches(
    store: &Store,
    rows: &[BatchRow],
    kitchen: &Kitchen,
) -> Result<ReadTableView, Problem> {
    let (_, drinks) = store.drinks().list("", 10_000)?;
    let mut known: HashSet<(String, String)> =
        store.batch_names()?.into_iter().map(|(name, at)| (name.to_lowercase(), at)).collect();
    // What is made of a drink again and again is read once.
    let mut bodies: HashMap<String, Option<(&str, String)>> = HashMap::new();
    let mut errors = Vec::new();
    let mut new = Vec::new();
    for (at, row) in rows.iter().enumerate() {
        let name = row.drink.to_lowercase();
        if !known.insert((name.clone(), row.begun_at.clone())) {
            continue;
        }
        let body = bodies.entry(name.clone()).or_insert_with(|| {
            let kept = drinks.iter().find(|d| d.name.to_lowercase() == name)?;
            let drink = kept_drink(&kept.body).ok()?;
            let snapshot = Snapshot { drink, kitchen: kitchen.clone(), seed: None, plan: None };
            Some((kept.id.as_str(), BATCH.write(&snapshot)))
        });
        match body {
            Some((drink, body)) => new.push(whole_batch(row, drink, body)),
            None => errors.push(FieldError {
                field: format!("row {}, drink", at + 2),
                message: format!(
                    "You have no drink called “{}”.",
                    row.drink.chars().take(60).collect::<String>()
                ),
            }),
        }
    }
    if !errors.is_empty() {
        return Err(Problem::invalid(errors));
    }
    let added = new.len();
    store.fill_batches(&new)?;
    Ok(ReadTableView { added, known: rows.len() - added })
}

/// A finished batch as a table tells of it.
fn whole_batch(row: &BatchRow, drink: &str, body: &str) -> WholeBatch {
    let finished = keen_core::batch::Happening::Finished {
        place: row.place.clone(),
        note: row.note.clone(),
        bottles: row.bottles,
        volume: None,
    };
    let begun: jiff::Timestamp = row.begun_at.parse().unwrap_or(jiff::Timestamp::UNIX_EPOCH);
    let took = jiff::SignedDuration::from_secs_f64(row.minutes * 60.0);
    let finished_at = begun.checked_add(took).unwrap_or(begun).to_string();
    let spot = row
        .sweetness
        .zip(row.acidity)
        .map(|(sweetness, acidity)| keen_core::balance::Spot { sweetness, acidity });
    let ending = Ending {
        made: spot,
        made_ml: row.ml,
        written_ml: row.ml,
        minutes: row.minutes,
        place: row.place.clone(),
        note: row.note.clone(),
        bottles: row.bottles,
        ..Ending::default()
    };
    WholeBatch {
        happening: KeptHappening {
            place: 0,
            at: finished_at.clone(),
            body: HAPPENING.write(&finished),
        },
        batch: KeptBatch {
            id: uuid::Uuid::now_v7().to_string(),
            drink: drink.to_owned(),
            name: row.drink.clone(),
            body: body.to_owned(),
            begun_at: row.begun_at.clone(),
            finished_at: Some(finished_at),
            practice: false,
            clock: None,
            ending: serde_json::to_string(&ending).ok(),
            rating: row.rating,
            picture: None,
        },
    }
}
