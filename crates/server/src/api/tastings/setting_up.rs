//! Setting a tasting up: what is poured is worked out once, and who may not have it is told before.

use actix_web::{HttpResponse, post, web};
use keen_core::drink::{Drink, FieldError};
use keen_core::taste::compare::Method;
use keen_core::taste::find::Finding;
use keen_core::taste::ladder::{MOST_TASTERS, Row, ladder};
use keen_core::taste::reference::Reference;
use keen_core::taste::sitting::{Compared, Sitting, Tasted};
use keen_core::taste::taster::Taster;
use keen_core::taste::tongue::Staircase;
use keen_core::work::Worktop;
use keen_store::KeptTasting;
use rand::SeedableRng;
use rand::rngs::StdRng;
use serde::Deserialize;
use utoipa::ToSchema;

use super::super::body::SaidUnder;
use super::super::changes::Changed;
use super::super::desk::{Asker, By};
use super::super::{Body, Problem, State, now};
use super::read::{ReadTasting, TASTING};
use super::tasters::TasterView;

/// The subject of a tasting.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[allow(clippy::large_enum_variant, reason = "there is one of it at a time")]
pub(crate) enum WhatToTaste {
    /// A row of glasses that differ in one thing.
    Ladder(Row),
    /// A taster's own balance.
    Find(Finding),
    /// Two drinks.
    Compare(CompareWanted),
    /// The smallest difference that a taster notices.
    Tongue(Staircase),
    /// Guess the balance of a glass.
    Guess(Finding),
    /// A row to sort.
    Order(Row),
    /// A drink to match.
    Match(MatchWanted),
    /// One pitcher for all.
    Pitcher(PitcherWanted),
}

/// Two drinks to be compared.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct CompareWanted {
    method: Method,
    first: SideWanted,
    second: SideWanted,
    /// The question for a pair: "sweeter".
    #[serde(default)]
    more: String,
    /// How often each taster tastes, 1 to 12.
    times: u32,
    /// The volume in a glass, ml.
    sample_ml: f64,
}

/// A drink in a comparison.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SideWanted {
    /// Its name.
    name: String,
    /// The id, if it is one of your drinks: its composition is then known.
    #[serde(default)]
    drink: Option<Drink>,
}

/// A drink to match.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct MatchWanted {
    drink: Drink,
    reference: Reference,
}

/// A drink for one pitcher for all.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PitcherWanted {
    drink: Drink,
}

/// The setup of a tasting.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SetUp {
    /// Its name.
    name: String,
    what: WhatToTaste,
    /// The ids of the tasters, in order.
    tasters: Vec<String>,
    /// Whether the contents are hidden from the tasters.
    #[serde(default)]
    blind: bool,
}

const NAME: usize = 120;

/// Those who sit there, in their order.
fn seated(ids: &[String], all: Vec<TasterView>) -> Result<Vec<Taster>, FieldError> {
    if ids.is_empty() {
        return Err(FieldError::new("tasters", "Choose the tasters."));
    }
    if ids.len() > MOST_TASTERS as usize {
        let message = format!("Choose up to {MOST_TASTERS} tasters.");
        return Err(FieldError::new("tasters", message));
    }
    let mut seated = Vec::new();
    for (i, id) in ids.iter().enumerate() {
        if ids[..i].contains(id) {
            return Err(FieldError::new("tasters", "Choose each taster once."));
        }
        let found = all.iter().find(|view| view.id == *id);
        let view = found.ok_or_else(|| {
            FieldError::new("tasters", "This taster was deleted. Choose another.")
        })?;
        seated.push(view.taster.clone());
    }
    Ok(seated)
}

/// Nobody is given what they don't take.
fn may_have(tasters: &[Taster], drinks: &[&Drink], worktop: Worktop<'_>) -> Result<(), FieldError> {
    for drink in drinks {
        for taster in tasters {
            let Some(first) = taster.objects_to(drink, worktop)?.into_iter().next() else {
                continue;
            };
            let what = first.name.to_lowercase();
            let message = if taster.child
                && matches!(first.avoids, keen_core::taste::taster::Avoid::Alcohol)
            {
                format!(
                    "{} is a child, and the drink contains {what}. Children taste without alcohol.",
                    taster.name
                )
            } else {
                format!(
                    "{} avoids {what}, which is in this drink. Choose other tasters, or another drink.",
                    taster.name
                )
            };
            return Err(FieldError::new("tasters", message));
        }
    }
    Ok(())
}

/// A name that can be shown.
fn named(field: &str, name: &str, most: usize) -> Result<(), FieldError> {
    if name.trim().is_empty() {
        return Err(FieldError::new(field, "Enter a name."));
    }
    if name.chars().count() > most || name.chars().any(char::is_control) {
        return Err(FieldError::new(field, format!("Enter a name of up to {most} characters.")));
    }
    Ok(())
}

fn first_fault(field: &str, drink: &Drink, worktop: Worktop<'_>) -> Result<(), FieldError> {
    match drink.check(worktop.cupboard()).into_iter().next() {
        Some(first) => Err(FieldError::new(&format!("{field}.{}", first.field), first.message)),
        None => Ok(()),
    }
}

/// What is set up, worked out.
fn kind(
    what: WhatToTaste,
    tasters: &[Taster],
    blind: bool,
    worktop: Worktop<'_>,
) -> Result<(Tasted, bool), FieldError> {
    let within = |at: &str, error: FieldError| {
        FieldError::new(&format!("what.{at}.{}", error.field), error.message)
    };
    let poured = |at: &str, mut row: Row| {
        first_fault(&format!("what.{at}.drink"), &row.drink, worktop)?;
        row.seat(tasters);
        let found = ladder(&row, worktop).map_err(|error| within(at, error))?;
        let drinks: Vec<&Drink> = found.glasses.iter().map(|g| &g.drink).collect();
        may_have(tasters, &drinks, worktop)?;
        Ok::<_, FieldError>((row, found))
    };
    Ok(match what {
        WhatToTaste::Ladder(row) => {
            let (row, ladder) = poured("ladder", row)?;
            (Tasted::Ladder { row, ladder }, blind)
        }
        WhatToTaste::Order(row) => {
            if row.moves.words().is_none() {
                return Err(FieldError::new(
                    "what.order.moves",
                    "Different kinds have no order. Rate them instead.",
                ));
            }
            let (row, ladder) = poured("order", row)?;
            (Tasted::Order { row, ladder }, true)
        }
        WhatToTaste::Find(finding) => {
            finding.jugs(worktop).map_err(|error| within("find", error))?;
            (Tasted::Find(finding), false)
        }
        WhatToTaste::Guess(finding) => {
            finding.jugs(worktop).map_err(|error| within("guess", error))?;
            (Tasted::Guess(finding), false)
        }
        WhatToTaste::Compare(wanted) => {
            (Tasted::Compare(compared(wanted, tasters, worktop)?), true)
        }
        WhatToTaste::Tongue(stairs) => {
            if tasters.len() > 1 {
                return Err(FieldError::new("tasters", "Choose one taster."));
            }
            if stairs.method == Method::DuoTrio {
                return Err(FieldError::new("what.tongue.method", "Choose pairs or triangles."));
            }
            (Tasted::Tongue(stairs), true)
        }
        WhatToTaste::Match(MatchWanted { drink, reference }) => {
            first_fault("what.match.drink", &drink, worktop)?;
            reference.check().map_err(|error| within("match", error))?;
            named("what.match.reference.name", &reference.name, NAME)?;
            (Tasted::Match { drink, reference }, false)
        }
        WhatToTaste::Pitcher(PitcherWanted { drink }) => {
            first_fault("what.pitcher.drink", &drink, worktop)?;
            (Tasted::Pitcher { drink }, false)
        }
    })
}

/// Two drinks that are told apart by their names.
fn compared(
    wanted: CompareWanted,
    tasters: &[Taster],
    worktop: Worktop<'_>,
) -> Result<Compared, FieldError> {
    let CompareWanted { method, first, second, more, times, sample_ml } = wanted;
    for (field, side) in [("first", &first), ("second", &second)] {
        named(&format!("what.compare.{field}.name"), &side.name, NAME)?;
        if let Some(drink) = &side.drink {
            first_fault(&format!("what.compare.{field}.drink"), drink, worktop)?;
            may_have(tasters, &[drink], worktop)?;
        }
    }
    if first.name.trim() == second.name.trim() {
        let message = "Give the two drinks different names.";
        return Err(FieldError::new("what.compare.second.name", message));
    }
    if !(1..=12).contains(&times) {
        return Err(FieldError::new("what.compare.times", "Enter 1 to 12 times each."));
    }
    if method == Method::Pairs {
        named("what.compare.more", &more, 40)?;
    }
    if !(20.0..=250.0).contains(&sample_ml) {
        return Err(FieldError::new("what.compare.sample_ml", "Enter 20 to 250 ml."));
    }
    let (first, second) = (first.name, second.name);
    Ok(Compared { method, first, second, more, times, sample_ml })
}

/// Set up a tasting. Sent twice with the same `Idempotency-Key`, it is set up once.
#[utoipa::path(operation_id = "begin_tasting", tag = "tasting", request_body = SetUp, responses(
    (status = 201, body = super::view::TastingView)))]
#[post("/api/tastings")]
pub(in crate::api) async fn set_up(
    state: web::Data<State>,
    asker: Asker,
    key: SaidUnder,
    by: By,
    body: Body,
) -> Result<HttpResponse, Problem> {
    let SetUp { name, what, tasters, blind } = body.json()?;
    named("name", &name, NAME)?;
    let seated = seated(&tasters, state.taster_views(Asker::default()).await?)?;
    let cupboard = state.cupboard();
    let seed = state.luck.unwrap_or_else(rand::random);
    // Not out of the seed, which others can try out.
    let secret = state.luck.unwrap_or_else(rand::random);
    let question = move |work: &keen_core::work::Work| {
        let worktop = Worktop::new(&cupboard, work);
        let (kind, blind) = kind(what, &seated, blind, worktop)?;
        let mut sitting = Sitting { kind, tasters, seed, dealt: None, blind };
        sitting.deal(&mut StdRng::seed_from_u64(secret));
        Ok(sitting)
    };
    let sitting = state.desk.ask(asker.clone(), question).await?;
    let mut new = KeptTasting {
        id: uuid::Uuid::now_v7().to_string(),
        name: name.trim().to_owned(),
        body: TASTING.write(&sitting),
        begun_at: now(),
        summary: String::new(),
    };
    let (read, tells) = state.told(ReadTasting::of((new.clone(), Vec::new()))?).await?;
    new.summary = read.summary(&tells);
    let id = state.with_store(move |store| store.begin_tasting(&new, key.0.as_deref())).await?;
    state.changes.tell_kept(Changed::Tasting, &id, None, by.0);
    // Said twice it is the first one that is there.
    let told = state.told(state.tasting(&id).await?).await?;
    let view = state.shown(told, asker).await?;
    Ok(HttpResponse::Created()
        .insert_header(("location", format!("/api/tastings/{id}")))
        .json(view))
}
