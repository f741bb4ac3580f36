//! Notes the figures that drinks have, so that it can be told once when better tables give others.

use std::sync::OnceLock;

use actix_web::{HttpResponse, delete, web};
use keen_core::cupboard::Cupboard;
use keen_core::history::Figures;
use keen_core::trace::Trace;
use keen_store::KnownFigures;
use sha2::{Digest, Sha256};

use super::changes::Changed;
use super::desk::By;
use super::{Problem, State};

/// What names this program's tables and laws: the figures that they give for all starting points. So a table that is
/// mended and a law that is bettered both count, and nobody has to remember a number.
fn tables() -> &'static str {
    static TABLES: OnceLock<String> = OnceLock::new();
    TABLES.get_or_init(|| {
        let mut all = Sha256::new();
        let cupboard = Cupboard::builtin();
        for start in keen_formats::starting_points() {
            let trace = Trace::run(&start.drink, cupboard);
            let Some(it) = Figures::of(&start.drink, cupboard, &trace) else { continue };
            let Figures { sweetness, acidity, volume_ml, days } = it;
            all.update(format!("{sweetness:.2} {acidity:.3} {volume_ml:.0} {days:?};"));
        }
        data_encoding::HEXLOWER.encode(&all.finalize()[..8])
    })
}

/// The figures that a drink has now.
pub(super) struct HasNow {
    pub(super) drink: String,
    pub(super) version: i64,
    pub(super) figures: Figures,
}

/// What is to be noted beside what is known: nothing if that is the same.
fn to_note(known: Option<KnownFigures>, now: HasNow, by: &str) -> Option<KnownFigures> {
    let HasNow { drink, version, figures } = now;
    let body = serde_json::to_string(&figures).ok()?;
    let Some(known) = known else {
        return Some(KnownFigures { drink, version, by: by.to_owned(), body, told: None });
    };
    if known.version == version && known.by == by && known.body == body {
        return None;
    }
    // Another version is another drink; the same one by the same tables has other figures by the kitchen's own.
    let told = if known.version != version {
        None
    } else if known.by == by {
        known.told
    } else {
        let was: Option<Figures> = serde_json::from_str(&known.body).ok();
        was.and_then(|was| figures.changed_from(&was)).or(known.told)
    };
    Some(KnownFigures { drink, version, by: by.to_owned(), body, told })
}

impl State {
    /// Notes the figures of drinks. What can't be noted now, on a full disk, is noted another time.
    pub(super) async fn note_figures(&self, all: Vec<HasNow>) {
        if all.is_empty() {
            return;
        }
        let noted = self
            .with_store(move |store| {
                let mut changed = Vec::new();
                for now in all {
                    let known = store.known_figures(&now.drink)?;
                    changed.extend(to_note(known, now, tables()));
                }
                if changed.is_empty() { Ok(()) } else { store.note_figures(&changed) }
            })
            .await;
        if let Err(why) = noted {
            tracing::debug!("figures weren't noted: {why:?}");
        }
    }
}

/// Confirm that a change in a drink's figures was read.
#[utoipa::path(tag = "drinks", responses((status = 204)))]
#[delete("/api/drinks/{id}/figures-changed")]
pub(super) async fn figures_read(
    state: web::Data<State>,
    id: web::Path<String>,
    by: By,
) -> Result<HttpResponse, Problem> {
    let of = id.clone();
    state.with_store(move |store| store.figures_read(&id)).await?;
    state.changes.tell_kept(Changed::Drink, &of, None, by.0);
    Ok(HttpResponse::NoContent().finish())
}

#[cfg(test)]
mod tests {
    use super::*;

    fn now(version: i64, sweetness: f64) -> HasNow {
        let figures = Figures { sweetness, acidity: 0.6, volume_ml: 1000.0, days: Some(3) };
        HasNow { drink: "d".into(), version, figures }
    }

    #[test]
    fn only_other_tables_and_the_same_drink_are_told() {
        let first = to_note(None, now(1, 10.0), "old").unwrap();
        assert_eq!(first.told, None);
        assert_eq!(to_note(Some(first.clone()), now(1, 10.0), "old"), None);
        // The cook's own figures, and the cook's own change of the drink.
        assert_eq!(to_note(Some(first.clone()), now(1, 14.0), "old").unwrap().told, None);
        assert_eq!(to_note(Some(first.clone()), now(2, 14.0), "new").unwrap().told, None);
        let told = to_note(Some(first), now(1, 14.0), "new").unwrap();
        assert!(told.told.as_deref().is_some_and(|t| t.contains("14.0")), "{told:?}");
        // It stays until it was read, also when tables change again.
        assert_eq!(to_note(Some(told.clone()), now(1, 14.1), "newer").unwrap().told, told.told);
    }
}
