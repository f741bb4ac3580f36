//! How what an older program kept is brought up to date when it is read.
//!
//! Version 2 of a bottle, a kitchen and a batch knows how a kept mixture was made: how much of it is raw and how
//! much was heated, in place of a plain yes or no; and how long a bottle keeps to the hour. What an older one
//! says is read on the careful side: what was called raw is raw as a whole, and a bottle keeps no longer than
//! it said, nor longer than what is in it would be given today.

use serde_json::{Value, json};

/// A kept mixture of version 1 said whether something raw was in it.
fn mixture(it: &mut Value) {
    let Some(fields) = it.as_object_mut() else { return };
    if let Some(raw) = fields.remove("raw") {
        let share = if raw == Value::Bool(true) { 1.0 } else { 0.0 };
        fields.insert("past".into(), json!({ "raw": share, "juice": share }));
    }
}

fn mixtures(kitchen: &mut Value) {
    if let Some(all) = kitchen.get_mut("mixtures").and_then(Value::as_array_mut) {
        all.iter_mut().for_each(mixture);
    }
}

/// A kitchen with its mixtures.
pub(crate) fn kitchen_to_2(mut kitchen: Value) -> Value {
    mixtures(&mut kitchen);
    kitchen
}

/// A batch has the kitchen as it was when it was started.
pub(crate) fn batch_to_2(mut batch: Value) -> Value {
    if let Some(kitchen) = batch.get_mut("kitchen") {
        mixtures(kitchen);
    }
    batch
}

/// A bottle said whole days, and its class decided whether it keeps in the cupboard.
pub(crate) fn bottle_to_2(mut bottle: Value) -> Value {
    if let Some(it) = bottle.get_mut("mixture") {
        mixture(it);
    }
    if let Some(keeping) = bottle.get_mut("keeping").and_then(Value::as_object_mut) {
        let days = keeping.get("days").and_then(Value::as_f64).unwrap_or(1.0);
        let rich = ["rich_syrup", "spirit"].map(Value::from);
        let steady = keeping.get("class").is_some_and(|class| rich.contains(class));
        keeping.insert("left".into(), json!(days));
        keeping.insert("warm_day".into(), json!(if steady { 1.5 } else { 11.76 }));
    }
    bottle
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_was_called_raw_is_raw_as_a_whole() {
        let old = json!({ "mixtures": [{ "id": "kept_1", "raw": true }, { "id": "kept_2" }] });
        let new = kitchen_to_2(old.clone());
        assert_eq!(new["mixtures"][0]["past"]["raw"], 1.0);
        assert!(
            new["mixtures"][0].get("raw").is_none() && new["mixtures"][1].get("past").is_none()
        );
        assert_eq!(batch_to_2(json!({ "kitchen": old }))["kitchen"], new);
    }

    #[test]
    fn a_bottle_keeps_the_days_that_it_had() {
        let of = |class: &str| bottle_to_2(json!({ "keeping": { "class": class, "days": 9 } }));
        assert_eq!(of("syrup")["keeping"]["left"], 9.0);
        assert_eq!(of("syrup")["keeping"]["warm_day"], 11.76);
        assert_eq!(of("spirit")["keeping"]["warm_day"], 1.5);
    }
}
