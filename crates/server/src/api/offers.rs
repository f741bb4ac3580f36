//! What can be made from what is there.

use std::collections::BTreeSet;
use std::sync::Arc;

use actix_web::{post, web};
use keen_core::balance::Spot;
use keen_core::cupboard::Cupboard;
use keen_core::drink::{Drink, FieldError};
use keen_core::offer::{Have, Offer, Source, Wish, likeliest_first, offers};
use keen_core::quantity::Amount;
use keen_core::work::Worktop;
use keen_formats::pasted::{ClockTime, StockRead, read_stock};
use keen_formats::starting_points;
use keen_store::{Order, Sought, Store, StoreError};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::desk::Asker;
use super::kept_drink::kept_drink;
use super::{Body, Problem, State};

/// Drinks of the shelf that are looked through: those changed last.
const MOST_DRINKS: usize = 200;
/// A bottle that keeps no longer than this goes first, days.
const SOON: f64 = 3.0;

/// The stock and the wishes.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct WhatCanIMake {
    /// The stock and wishes: "8 limes going hard, half a bottle of ginger syrup, mint; six people at four, no nuts".
    text: String,
    /// The number of glasses of 250 ml, 1 to 400; if missing, as the text says, or as many as the stock makes.
    #[serde(default)]
    glasses: Option<u32>,
    /// The wanted place on the map.
    #[serde(default)]
    balance: Option<Spot>,
    /// Ingredients to avoid: "milk", "almonds", "coconut", "alcohol", "caffeine", "honey".
    #[serde(default)]
    without: Vec<String>,
    /// The time until it has to be ready, minutes; if missing, as the text says, or no limit.
    #[serde(default)]
    within: Option<f64>,
    /// Whether to include the bottles in Kept.
    #[serde(default)]
    kept: bool,
    /// The most drinks to look at, 1 to 400, those closest to the stock first: for a quick first answer.
    #[serde(default)]
    look_at: Option<usize>,
}

/// A bottle that is included.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct KeptThing {
    /// The contents.
    name: String,
    /// How much, ml.
    ml: f64,
    /// Days that it keeps.
    days: f64,
}

/// The stock that was understood, and the drinks that it makes.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct CanMake {
    read: StockRead,
    /// The time by which the drink should be ready, RFC 3339.
    by: Option<String>,
    /// The bottles that are included.
    kept: Vec<KeptThing>,
    /// The drinks, the best first: up to eight.
    offers: Vec<Offer>,
    /// How many drinks and starting points were looked at.
    looked_at: usize,
    /// The number of drinks and starting points to look at.
    there_are: usize,
}

/// What can I make?
///
/// Reads the stock, and works out drinks that use it, from your drinks and the starting points. Missing ingredients are
/// replaced by similar ones. The size follows from the number of people, or uses up what must be used soon.
#[utoipa::path(operation_id = "what_can_i_make", tag = "compute", request_body = WhatCanIMake, responses(
    (status = 200, body = CanMake), (status = 422, body = Problem)))]
#[post("/api/compute/offers")]
pub(super) async fn what_can_i_make(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<CanMake>, Problem> {
    let asked: WhatCanIMake = keen_formats::from_value(body.json()?)?;
    asked.check()?;
    let cupboard = state.cupboard();
    let here = Arc::clone(&cupboard);
    let (drinks, bottles) = state
        .with_store(move |store| {
            let bottles = if asked.kept { super::kept::standing_now(store)? } else { Vec::new() };
            Ok((known_drinks(store, &here)?, bottles))
        })
        .await?;
    let told = move |work: &_| {
        let read = read_stock(&asked.text, &cupboard, clock_now());
        let mut have: Vec<Have> = read.have.iter().map(|thing| thing.have()).collect();
        let mut kept = Vec::new();
        for bottle in bottles {
            let soon = bottle.days <= SOON;
            let amount = Amount::millilitres(bottle.ml);
            have.push(Have { ingredient: bottle.ingredient, amount, soon, some: false });
            kept.push(KeptThing { name: bottle.name, ml: bottle.ml, days: bottle.days });
        }
        let people = read.people.map(|people| people.min(200));
        let without: BTreeSet<String> = read.without.iter().cloned().chain(asked.without).collect();
        let wish = Wish {
            have,
            glasses: asked.glasses.or(people),
            balance: asked.balance,
            without: without.into_iter().collect(),
            within: asked.within.or(read.within),
        };
        let sources = drinks.iter().map(|(id, drink)| Source { id, drink }).collect();
        let mut sources: Vec<Source<'_>> = likeliest_first(sources, &wish, &cupboard);
        let there_are = sources.len();
        sources.truncate(asked.look_at.unwrap_or(there_are));
        let offers = offers(&sources, &wish, Worktop::new(&cupboard, work))?;
        let by = wish.within.and_then(|minutes| {
            let seconds = jiff::SignedDuration::from_secs((minutes * 60.0) as i64);
            Some(jiff::Timestamp::now().checked_add(seconds).ok()?.to_string())
        });
        Ok(CanMake { read, by, kept, offers, looked_at: sources.len(), there_are })
    };
    state.desk.ask(asker, told).await.map(web::Json)
}

/// The time on the kitchen's clock: "at four" is read by it.
pub(crate) fn clock_now() -> ClockTime {
    let now = jiff::Zoned::now();
    let minute = f64::from(now.hour()) * 60.0 + f64::from(now.minute());
    ClockTime { weekday: now.weekday().to_monday_zero_offset() as u8, minute }
}

/// What may be made or changed: the starting points, and the drinks of the shelf that were changed last.
pub(crate) fn known_drinks(
    store: &Store,
    cupboard: &Cupboard,
) -> Result<Vec<(String, Drink)>, StoreError> {
    let sought = Sought {
        name_has: "",
        tag: None,
        ingredients: &[],
        order: Order::Changed,
        after: 0,
        most: MOST_DRINKS,
    };
    let shelf = store.drinks().search(&sought)?.first;
    let starts = starting_points().into_iter();
    let starts = starts.map(|start| (format!("start/{}", start.id), start.drink));
    let mine = shelf
        .into_iter()
        .filter_map(|(kept, _)| Some((format!("drink/{}", kept.id), kept_drink(&kept.body).ok()?)));
    Ok(starts.chain(mine.filter(|(_, drink)| drink.check(cupboard).is_empty())).collect())
}

impl WhatCanIMake {
    fn check(&self) -> Result<(), FieldError> {
        let wrong = |field: &str, message: &str| Err(FieldError::new(field, message));
        if self.text.chars().count() > 1000 {
            return wrong("text", "Enter up to 1000 characters.");
        }
        if self.glasses.is_some_and(|g| !(1..=400).contains(&g)) {
            return wrong("glasses", "Enter 1 to 400 glasses.");
        }
        let odd =
            |s: &Spot| !(0.5..=40.0).contains(&s.sweetness) || !(0.02..=5.0).contains(&s.acidity);
        if self.balance.as_ref().is_some_and(odd) {
            return wrong("balance", "Enter a sweetness of 0.5 to 40 and an acidity of 0.02 to 5.");
        }
        if self.look_at.is_some_and(|many| !(1..=400).contains(&many)) {
            return wrong("look_at", "Enter 1 to 400 drinks.");
        }
        if self.within.is_some_and(|m| !(1.0..=20_160.0).contains(&m)) {
            return wrong("within", "Enter 1 minute to 2 weeks.");
        }
        Ok(())
    }
}
