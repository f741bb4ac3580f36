//! Small changes of a document: JSON Patch (RFC 6902). Two windows that change different things don't
//! stand in each other's way, and one that changes the same thing says what it took it for (`test`).

use json_patch::{Patch, PatchErrorKind};
use keen_core::drink::FieldError;
use keen_formats::{Format, from_value};
use keen_store::{Document, Store, StoreError};
use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::Value;

use super::{Problem, now};

/// Small changes at once.
const MOST_CHANGES: usize = 500;

/// Why a document was not changed.
pub(super) enum NotChanged {
    Problem(Problem),
    Store(StoreError),
}

impl From<StoreError> for NotChanged {
    fn from(error: StoreError) -> Self {
        Self::Store(error)
    }
}

impl From<NotChanged> for Problem {
    fn from(error: NotChanged) -> Self {
        match error {
            NotChanged::Problem(problem) => problem,
            NotChanged::Store(error) => error.into(),
        }
    }
}

/// With whole numbers written as such: a browser writes 2 for what is 2.0 here, and means the same.
fn plain(value: Value) -> Value {
    match value {
        Value::Number(n) => match n.as_f64() {
            Some(x) if x.fract() == 0.0 && x.abs() < 1e15 => Value::from(x as i64),
            _ => Value::Number(n),
        },
        Value::Array(items) => items.into_iter().map(plain).collect(),
        Value::Object(fields) => {
            fields.into_iter().map(|(key, field)| (key, plain(field))).collect()
        }
        other => other,
    }
}

/// A document with some changes made to it.
fn patched<T: Default + Serialize + DeserializeOwned>(
    format: &Format,
    kept: Option<&str>,
    patch: &Patch,
) -> Result<T, Problem> {
    let now: T = kept.and_then(|text| format.read(text).ok()).unwrap_or_default();
    let mut value = plain(serde_json::to_value(&now).unwrap_or_default());
    json_patch::patch(&mut value, patch).map_err(|error| match error.kind {
        PatchErrorKind::TestFailed => Problem::kitchen_changed(),
        _ => FieldError {
            field: error.path.to_string(),
            message: "There is no such place to change.".into(),
        }
        .into(),
    })?;
    Ok(from_value(value)?)
}

/// Makes some changes to a document, whatever else has changed in it since. `finish` looks it over
/// before it is kept.
pub(super) fn change<T: Default + Serialize + DeserializeOwned>(
    store: &Store,
    key: &str,
    format: &Format,
    patch: Value,
    mut finish: impl FnMut(&mut T) -> Result<(), NotChanged>,
) -> Result<(Document, T), NotChanged> {
    let patch: Patch =
        from_value(plain(patch)).map_err(|fault| NotChanged::Problem(fault.into()))?;
    if patch.0.len() > MOST_CHANGES {
        let message = format!("Make up to {MOST_CHANGES} changes at once.");
        return Err(NotChanged::Problem(FieldError { field: String::new(), message }.into()));
    }
    // Someone may be faster between reading and writing; then it is done on top of theirs.
    loop {
        let kept = store.document(key)?;
        let mut next: T = patched(format, kept.as_ref().map(|d| d.body.as_str()), &patch)
            .map_err(NotChanged::Problem)?;
        finish(&mut next)?;
        let version = kept.map_or(0, |d| d.version);
        match store.write_document(key, version, &format.write(&next), &now()) {
            Err(StoreError::StaleDocument(_)) => {}
            done => return Ok((done?, next)),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use keen_core::cupboard::Kitchen;
    use serde_json::json;

    const FORMAT: Format = super::super::kitchen::FORMAT;

    fn store() -> (tempfile::TempDir, Store) {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(&folder.path().join("kitchen.db")).unwrap();
        (folder, store)
    }

    fn make(store: &Store, patch: Value) -> Result<Kitchen, Problem> {
        Ok(change(store, "kitchen", &FORMAT, patch, |_: &mut Kitchen| Ok(()))?.1)
    }

    #[test]
    fn changes_of_different_things_go_on_top_of_one_another() {
        let (_folder, store) = store();
        let pot = json!({ "name": "Big pot", "kind": "pot", "capacity": "8 l" });
        make(&store, json!([{ "op": "add", "path": "/vessels/-", "value": pot }])).unwrap();
        // The other window knows nothing of the pot.
        let kitchen =
            make(&store, json!([{ "op": "add", "path": "/boil_off", "value": 2 }])).unwrap();
        assert_eq!((kitchen.vessels.len(), kitchen.boil_off), (1, Some(2.0)));
    }

    #[test]
    fn a_change_of_what_has_changed_is_refused() {
        let (_folder, store) = store();
        make(&store, json!([{ "op": "add", "path": "/boil_off", "value": 2 }])).unwrap();
        let on = |old: f64, new: f64| {
            json!([
                { "op": "test", "path": "/boil_off", "value": old },
                { "op": "replace", "path": "/boil_off", "value": new }
            ])
        };
        assert_eq!(make(&store, on(2.0, 1.5)).unwrap().boil_off, Some(1.5));
        let refused = make(&store, on(2.0, 1.2)).unwrap_err();
        assert!(refused.to_string().contains("changed in another window"), "{refused}");
        for nowhere in ["/pots/3", "/vessels/7", "/figures/lime_juice/acid"] {
            let refused = make(&store, json!([{ "op": "remove", "path": nowhere }])).unwrap_err();
            assert!(refused.to_string().contains("no such place"), "{refused}");
        }
    }
}
