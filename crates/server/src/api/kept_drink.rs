//! A drink as it is kept, read: with its versions, and as the API shows it.

use keen_core::drink::{Drink, FieldError, limits};
use keen_formats::{DRINK, FormatError};
use keen_store::{Kept, KeptVersion};
use serde::Serialize;
use utoipa::ToSchema;

/// A drink in your list.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct DrinkView {
    /// The permanent id.
    id: String,
    /// Its version; send it when saving.
    version: i64,
    /// When it was saved first, RFC 3339.
    created_at: String,
    /// When it was last changed, RFC 3339.
    changed_at: String,
    /// The drink.
    drink: Drink,
}

/// The drink of a kept text. It is not checked against the cupboard: what can't be made any more can
/// still be looked at.
pub(crate) fn kept_drink(body: &str) -> Result<Drink, FormatError> {
    let drink: Drink = DRINK.read(body)?;
    if drink.is_within_limits() {
        return Ok(drink);
    }
    let message = format!("This drink is too large. Use up to {} steps.", limits::STEPS);
    Err(FormatError::Faults(vec![FieldError::new("drink", message)]))
}

pub(super) fn view(kept: &Kept) -> Result<DrinkView, FormatError> {
    Ok(DrinkView {
        id: kept.id.clone(),
        version: kept.version,
        created_at: kept.created_at.clone(),
        changed_at: kept.changed_at.clone(),
        drink: kept_drink(&kept.body)?,
    })
}

/// The earlier states that stand in a drink's file, to be kept beside it.
pub(crate) fn earlier_of(text: &[u8]) -> Vec<KeptVersion> {
    let each = keen_formats::read_earlier(text).into_iter();
    each.map(|e| KeptVersion {
        version: e.version,
        body: keen_formats::DRINK.write(&e.drink),
        since: e.since,
        name: e.name,
        made: e.made,
        now: false,
    })
    .collect()
}

/// A drink with all versions of it that are kept, as a file.
pub(crate) fn whole_file(versions: &[KeptVersion]) -> Option<String> {
    let drink = kept_drink(&versions.first()?.body).ok()?;
    let earlier = versions.iter().filter(|v| !v.now).filter_map(|v| {
        Some(keen_formats::EarlierDrink {
            version: v.version,
            since: v.since.clone(),
            name: v.name.clone(),
            made: v.made,
            drink: serde_json::to_value(kept_drink(&v.body).ok()?).ok()?,
        })
    });
    Some(keen_formats::write_drink_with(&drink, &earlier.collect::<Vec<_>>()))
}
