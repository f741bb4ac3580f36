//! Who tastes: put down, changed, told with their ideals, handed out as a file, deleted for good.

use std::collections::BTreeMap;

use actix_web::{HttpResponse, delete, get, post, put, web};
use keen_core::balance::Spot;
use keen_core::drink::Family;
use keen_core::taste::ideal::{Ideal, Prior, Sip, Sureness, fit};
use keen_core::taste::ladder::{spot_at, usual_ratio};
use keen_core::taste::sitting::{Utterance, say_ratio};
use keen_core::taste::taster::Taster;
use keen_formats::Format;
use keen_store::KeptTaster;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use utoipa::{IntoParams, ToSchema};

use super::super::body::SaidUnder;
use super::super::changes::Changed;
use super::super::desk::{Asker, By};
use super::super::paging::Page;
use super::super::{Body, Problem, State, now};
use super::read::{Summary, WORD};

pub(crate) const TASTER: Format =
    Format { name: "keen-pitcher/taster", field: "taster", steps: &[] };

/// Most people who are kept.
const MOST: usize = 500;

/// A taster.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct TasterView {
    /// Their permanent id.
    pub(super) id: String,
    /// The taster's name, mark and settings.
    pub(super) taster: Taster,
    /// When they were added, RFC 3339.
    created_at: String,
    /// Their ideal in each family that they have tasted.
    pub(super) ideals: Vec<FamilyIdeal>,
}

/// A taster's ideal in a family of drinks.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct FamilyIdeal {
    pub(super) family: Family,
    /// The logarithm of the sugar–acid ratio.
    pub(super) ideal: Ideal,
    /// The ratio in the middle.
    ratio: f64,
    /// The lower end of the likely range, 8 times out of 10.
    low: f64,
    /// The upper end, 8 times out of 10.
    high: f64,
    /// The certainty.
    sureness: Sureness,
    /// In words.
    words: String,
    /// The ideal's place on the family's map, at the usual strength of these drinks.
    spot: Spot,
    /// The places of the lower and upper end on the map.
    ends: [Spot; 2],
    /// How many glasses that is based on.
    pub(super) glasses: usize,
}

/// All tasters.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Tasters {
    /// The tasters, in the order in which they were added.
    tasters: Vec<TasterView>,
    /// The cursor for the next page.
    next: Option<usize>,
}

/// Which family's map is looked at.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct TastersQuery {
    /// Only ideals of this family.
    family: Option<Family>,
    /// How many to skip: `next` of the page before.
    #[serde(default)]
    after: usize,
    /// How many to show at most, 1 to 500; 200 if left out.
    limit: Option<usize>,
}

/// What everybody said, by family and taster.
pub(super) type Heard = BTreeMap<&'static str, (Family, BTreeMap<String, Vec<Sip>>)>;

fn key(family: Family) -> &'static str {
    match family {
        Family::Lemonade => "lemonade",
        Family::FruitWater => "fruit_water",
        Family::Infusion => "infusion",
        Family::Soda => "soda",
        Family::Syrup => "syrup",
    }
}

/// What tastings say of ideals, taken together by family.
pub(super) fn heard(summaries: impl IntoIterator<Item = Summary>) -> Heard {
    let mut all = Heard::new();
    for Summary { family, sips, .. } in summaries {
        let Some(family) = family else { continue };
        let (_, by) = all.entry(key(family)).or_insert_with(|| (family, BTreeMap::new()));
        for (taster, said) in sips {
            by.entry(taster).or_default().extend(said);
        }
    }
    all
}

/// Each taster's ideals, all of a family fitted together.
pub(super) fn ideals(heard: &Heard) -> BTreeMap<String, Vec<FamilyIdeal>> {
    let mut found: BTreeMap<String, Vec<FamilyIdeal>> = BTreeMap::new();
    for (family, by) in heard.values() {
        let sips: Vec<Vec<Sip>> = by.values().cloned().collect();
        let fitted = fit(&sips, Prior::round(usual_ratio(*family)));
        for ((taster, said), ideal) in by.iter().zip(fitted.ideals) {
            if said.is_empty() {
                continue;
            }
            let (low, high) = ideal.range();
            let sureness = ideal.sureness();
            found.entry(taster.clone()).or_default().push(FamilyIdeal {
                family: *family,
                ideal,
                ratio: ideal.x.exp(),
                low,
                high,
                sureness,
                words: say_ratio(*family, low, high, sureness),
                spot: spot_at(*family, ideal.x.exp()),
                ends: [spot_at(*family, low), spot_at(*family, high)],
                glasses: said.len(),
            });
        }
    }
    found
}

impl State {
    /// All tasters, and what tastings say of them.
    pub(super) async fn tasters(&self) -> Result<(Vec<KeptTaster>, Heard), Problem> {
        let (tasters, tastings) =
            self.with_store(|store| Ok((store.tasters()?, store.tastings(0, 2000)?))).await?;
        let summaries =
            tastings.iter().filter_map(|kept| serde_json::from_str::<Summary>(&kept.summary).ok());
        Ok((tasters, heard(summaries)))
    }

    pub(super) async fn taster_views(&self, asker: Asker) -> Result<Vec<TasterView>, Problem> {
        let (kept, heard) = self.tasters().await?;
        let question = move |_: &_| {
            let mut ideals = ideals(&heard);
            let views = kept.into_iter().filter_map(|kept| {
                let taster = TASTER.read(&kept.body).ok()?;
                let ideals = ideals.remove(&kept.id).unwrap_or_default();
                Some(TasterView { id: kept.id, taster, created_at: kept.created_at, ideals })
            });
            Ok(views.collect())
        };
        self.desk.ask(asker, question).await
    }

    async fn taster_view(&self, id: &str, asker: Asker) -> Result<TasterView, Problem> {
        let all = self.taster_views(asker).await?;
        let found = all.into_iter().find(|view| view.id == id);
        found.ok_or_else(|| keen_store::StoreError::NotFound.into())
    }
}

/// All tasters, with what they like best on each map.
#[utoipa::path(tag = "tasting", params(TastersQuery), responses((status = 200, body = Tasters)))]
#[get("/api/tasters")]
pub(in crate::api) async fn list_tasters(
    state: web::Data<State>,
    asker: Asker,
    query: web::Query<TastersQuery>,
) -> Result<web::Json<Tasters>, Problem> {
    let TastersQuery { family, after, limit } = query.into_inner();
    let (mut tasters, next) = Page::new(after, limit).of(state.taster_views(asker).await?);
    if let Some(family) = family {
        for view in &mut tasters {
            view.ideals.retain(|ideal| ideal.family == family);
        }
    }
    Ok(web::Json(Tasters { tasters, next }))
}

fn checked(mut taster: Taster) -> Result<Taster, Problem> {
    taster.check()?;
    taster.name = taster.name.trim().to_owned();
    Ok(taster)
}

/// Add a taster. Sent twice with the same `Idempotency-Key`, they are added once.
#[utoipa::path(tag = "tasting", request_body = Taster, responses(
    (status = 201, body = TasterView)))]
#[post("/api/tasters")]
pub(in crate::api) async fn add_taster(
    state: web::Data<State>,
    asker: Asker,
    said: SaidUnder,
    by: By,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let taster = checked(body.json()?)?;
    let new = KeptTaster {
        id: uuid::Uuid::now_v7().to_string(),
        body: TASTER.write(&taster),
        created_at: now(),
        changed_at: now(),
    };
    let there = state.with_store(|store| store.tasters()).await?.len();
    if there >= MOST {
        let message = format!("You have {MOST} tasters. Delete some first.");
        return Err(keen_core::drink::FieldError { field: "name".into(), message }.into());
    }
    let id = state.with_store(move |store| store.add_taster(&new, said.0.as_deref())).await?;
    state.changes.tell_kept(Changed::Tasting, &id, None, by.0);
    Ok(HttpResponse::Created()
        .insert_header(("location", format!("/api/tasters/{id}/file")))
        .json(state.taster_view(&id, asker).await?))
}

/// Change a taster.
#[utoipa::path(tag = "tasting", request_body = Taster, responses(
    (status = 200, body = TasterView), (status = 404, body = Problem)))]
#[put("/api/tasters/{id}")]
pub(in crate::api) async fn change_taster(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
    by: By,
    body: Body,
) -> Result<web::Json<TasterView>, Problem> {
    let text = TASTER.write(&checked(body.json()?)?);
    let of = id.clone();
    state.with_store(move |store| store.change_taster(&of, &text, &now())).await?;
    state.changes.tell_kept(Changed::Tasting, &id, None, by.0);
    Ok(web::Json(state.taster_view(&id, asker).await?))
}

/// The traces that a deleted taster leaves.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct DeletedTaster {
    /// The file names of backups that still contain the taster, because they can't be read or written.
    still_in: Vec<String>,
}

/// Delete a taster permanently, with all their answers, also from the backups on this machine. This can't be undone.
#[utoipa::path(tag = "tasting", responses(
    (status = 200, body = DeletedTaster), (status = 404, body = Problem)))]
#[delete("/api/tasters/{id}")]
pub(in crate::api) async fn delete_taster(
    state: web::Data<State>,
    id: web::Path<String>,
    by: By,
) -> Result<web::Json<DeletedTaster>, Problem> {
    let gone = WORD.write(&Utterance::Gone);
    let (of, word) = (id.clone(), gone.clone());
    let touched = state.with_store(move |store| store.delete_taster(&of, &word)).await?;
    for tasting in touched {
        state.renew_summary(&tasting).await?;
    }
    state.changes.tell_kept(Changed::Tasting, &id, None, by.0);
    let data = state.store.folder();
    let still_in = web::block(move || crate::house::wipe_out(&data, &id, &gone)).await;
    Ok(web::Json(DeletedTaster { still_in: still_in.map_err(|_| Problem::busy())? }))
}

/// Everything saved about a taster, as a file.
#[utoipa::path(tag = "tasting", responses(
    (status = 200, body = String, content_type = "application/json"),
    (status = 404, body = Problem)))]
#[get("/api/tasters/{id}/file")]
pub(in crate::api) async fn taster_file(
    state: web::Data<State>,
    asker: Asker,
    id: web::Path<String>,
) -> Result<HttpResponse, Problem> {
    let view = state.taster_view(&id, asker).await?;
    let of = id.into_inner();
    let words = state.with_store(move |store| store.words_of(&of)).await?;
    let said: Vec<Value> = words
        .into_iter()
        .map(|(tasting, word)| {
            let what: Option<Utterance> = WORD.read(&word.body).ok();
            json!({ "tasting": tasting, "at": word.at, "said": what })
        })
        .collect();
    let file = json!({
        "format": TASTER.name,
        "version": TASTER.version(),
        "taster": view.taster,
        "since": view.created_at,
        "ideals": view.ideals,
        "said": said,
    });
    let text = serde_json::to_string_pretty(&file).unwrap_or_default();
    Ok(super::super::shelf::file("taster.json", text))
}
