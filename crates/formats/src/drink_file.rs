use keen_core::cupboard::Cupboard;
use keen_core::drink::{Drink, limits};
use serde::{Deserialize, Serialize};
use serde_json::Value;

use crate::envelope::Format;
use crate::json::{FormatError, from_value, read_json};

/// The format of a drink.
pub const DRINK: Format =
    Format { name: "keen-pitcher/drink", field: "drink", steps: &[to_2, to_3] };

/// Version 2 can say how warm and how cut something comes, stirs, marks a line, counts the glasses that a
/// drink is made in, and measures in parts, quarts and ranges. All of that may be left out, and what
/// version 1 says means the same; so nothing is changed.
fn to_2(drink: Value) -> Value {
    drink
}

/// Version 3 can say how long something may stand after a step, and which steps of other vessels come before
/// it. What version 2 says means the same.
fn to_3(drink: Value) -> Value {
    drink
}

/// A file of today's version.
#[derive(Deserialize)]
struct Wrapped {
    format: String,
    version: u32,
    drink: Drink,
}

/// Reads a drink, alone or in a file of the open format, and checks that it can be carried out.
///
/// # Errors
/// [`FormatError`], with every fault that was found.
pub fn read_drink(text: &[u8], cupboard: &Cupboard) -> Result<Drink, FormatError> {
    // Most texts are a drink and nothing else: that is read in one go. What isn't is read slowly, so
    // that it can be said what is wrong with it.
    if let Ok(drink) = serde_json::from_slice::<Drink>(text) {
        return checked(drink, cupboard);
    }
    match serde_json::from_slice::<Wrapped>(text) {
        Ok(file) if file.format == DRINK.name && file.version == DRINK.version() => {
            checked(file.drink, cupboard)
        }
        _ => drink_from_value(read_json(text)?, cupboard),
    }
}

/// A drink that can be carried out, with all its steps named.
fn checked(mut drink: Drink, cupboard: &Cupboard) -> Result<Drink, FormatError> {
    drink.name_steps();
    let faults = drink.check(cupboard);
    if faults.is_empty() { Ok(drink) } else { Err(FormatError::Faults(faults)) }
}

/// As [`read_drink`], from JSON that is already parsed.
///
/// # Errors
/// [`FormatError`], with every fault that was found.
pub fn drink_from_value(value: Value, cupboard: &Cupboard) -> Result<Drink, FormatError> {
    checked(from_value(DRINK.unwrap(value)?)?, cupboard)
}

/// Writes a drink as a file of the open format.
#[must_use]
pub fn write_drink(drink: &Drink) -> String {
    // Writing plain data into memory has no way to fail.
    let mut text = serde_json::to_string_pretty(&DRINK.wrap(drink)).unwrap_or_default();
    text.push('\n');
    text
}

/// An earlier state of a drink, as it stands in its file beside the present one.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct EarlierDrink {
    /// Its version.
    pub version: i64,
    /// When it was saved, RFC 3339.
    pub since: String,
    /// What it was called as a version.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub name: String,
    /// How many batches were started on it.
    #[serde(default)]
    pub made: i64,
    /// The drink as it was.
    pub drink: Value,
}

/// Earlier states in one file.
const MOST_EARLIER: usize = 1000;
/// The highest version, and the most batches, that anybody gets to.
const MOST_COUNT: i64 = 1_000_000_000;

/// Writes a drink with its earlier states, as a file of the open format.
#[must_use]
pub fn write_drink_with(drink: &Drink, earlier: &[EarlierDrink]) -> String {
    if earlier.is_empty() {
        return write_drink(drink);
    }
    let mut file = serde_json::to_value(DRINK.wrap(drink)).unwrap_or_default();
    file["earlier"] = serde_json::to_value(earlier).unwrap_or_default();
    serde_json::to_string_pretty(&file).unwrap_or_default() + "\n"
}

/// The earlier states that stand in a drink's file, each held to the same limits as the drink itself; what isn't a
/// drink that can be read is passed over.
#[must_use]
pub fn read_earlier(text: &[u8]) -> Vec<EarlierDrink> {
    #[derive(Deserialize)]
    struct File {
        #[serde(default)]
        version: Option<u32>,
        #[serde(default)]
        earlier: Vec<Value>,
    }
    let Ok(file) = serde_json::from_slice::<File>(text) else { return Vec::new() };
    let each = file.earlier.into_iter().take(MOST_EARLIER);
    each.filter_map(|one| {
        let mut one: EarlierDrink = serde_json::from_value(one).ok()?;
        // They were written with the file, in its version.
        let wrapped = serde_json::json!({
            "format": DRINK.name, "version": file.version.unwrap_or(1), "drink": one.drink,
        });
        let drink: Drink = from_value(DRINK.unwrap(wrapped).ok()?).ok()?;
        let counts =
            (1..=MOST_COUNT).contains(&one.version) && (0..=MOST_COUNT).contains(&one.made);
        if !counts || !drink.is_within_limits() || one.name.chars().count() > limits::NAME {
            return None;
        }
        one.drink = serde_json::to_value(drink).ok()?;
        Some(one)
    })
    .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use keen_core::drink::FieldError;

    fn fault(text: &str) -> FieldError {
        read_drink(text.as_bytes(), Cupboard::builtin()).unwrap_err().faults().swap_remove(0)
    }

    fn with_steps(steps: &str) -> String {
        format!(
            r#"{{"name":"A","family":"lemonade","vessels":[{{"id":"jug","kind":"jug"}},
            {{"id":"sieve","kind":"sieve"}}],"steps":[{steps}]}}"#
        )
    }

    #[test]
    fn faults_name_the_field_and_speak_plainly() {
        for (steps, field, words) in [
            (
                r#"{"do":{"add":{"into":"jug","ingredient":"water","amount":"-3 g"}}}"#,
                "steps[0].do.add.amount",
                "below zero",
            ),
            (
                r#"{"do":{"add":{"into":"jug","ingredient":"water","amount":"1e9 g"}}}"#,
                "steps[0].do.add.amount",
                "read “1e9 g”",
            ),
            (
                r#"{"do":{"add":{"into":"jug","ingredient":"moondust","amount":"3 g"}}}"#,
                "steps[0].do.add.ingredient",
                "no ingredient “moondust”",
            ),
            (
                r#"{"do":{"add":{"into":"tub","ingredient":"water","amount":"3 g"}}}"#,
                "steps[0].do.add.into",
                "no vessel “tub”",
            ),
            (
                r#"{"do":{"add":{"into":"jug","ingredient":"water"}}}"#,
                "steps[0].do.add",
                "amount is missing",
            ),
            (r#"{"do":{"conjure":{}}}"#, "steps[0].do", "We don't know"),
            (
                r#"{"do":{"add":{"into":"sieve","ingredient":"water","amount":"1 l"}}}"#,
                "steps[0].do.add.into",
                "hold liquid",
            ),
            (
                r#"{"do":{"pour":{"from":"jug","into":"jug"}}}"#,
                "steps[0].do.pour.into",
                "into itself",
            ),
            (
                r#"{"do":{"heat":{"vessel":"jug","to_c":80}}}"#,
                "steps[0].do.heat.vessel",
                "Use a pot",
            ),
        ] {
            let found = fault(&with_steps(steps));
            assert_eq!(found.field, field, "{}", found.message);
            assert!(found.message.contains(words), "{}", found.message);
        }
    }

    /// Files as versions before this one wrote them.
    #[test]
    fn what_earlier_versions_wrote_still_reads() {
        let mut read = [0; 2];
        for (count, version) in read.iter_mut().zip(1..) {
            let folder = format!("{}/tests/drink-{version}", env!("CARGO_MANIFEST_DIR"));
            for file in std::fs::read_dir(folder).unwrap() {
                let text = std::fs::read_to_string(file.unwrap().path()).unwrap();
                assert!(text.contains(&format!(r#""version": {version}"#)));
                let drink = read_drink(text.as_bytes(), Cupboard::builtin()).unwrap();
                assert!(!drink.steps.is_empty());
                let again = write_drink(&drink);
                assert!(again.contains(&format!(r#""version": {}"#, DRINK.version())), "{again}");
                assert_eq!(read_drink(again.as_bytes(), Cupboard::builtin()).unwrap(), drink);
                *count += 1;
            }
        }
        assert!(read[0] >= 8 && read[1] >= 2, "{read:?}");
    }

    #[test]
    fn texts_that_are_no_drink_are_told_apart() {
        let read = |text: &str| read_drink(text.as_bytes(), Cupboard::builtin()).unwrap_err();
        assert!(matches!(read("{"), FormatError::Malformed(_)));
        assert!(matches!(read("[] []"), FormatError::Malformed(_)));
        assert!(matches!(read(r#"{"format":"x/y","drink":{}}"#), FormatError::OtherFormat { .. }));
        assert!(matches!(
            read(r#"{"format":"keen-pitcher/drink","version":9,"drink":{}}"#),
            FormatError::TooNew { found: 9, .. }
        ));
        assert_eq!(fault("{}").message, "name is missing.");
    }

    #[test]
    fn earlier_states_go_out_and_come_in_again() {
        let drink = crate::starting_points().swap_remove(0).drink;
        let earlier = |version: i64, name: &str| EarlierDrink {
            version,
            since: "2030-01-01T10:00:00Z".into(),
            name: name.into(),
            made: version,
            drink: serde_json::to_value(&drink).unwrap(),
        };
        let all = vec![earlier(1, ""), earlier(4, "for the fête")];
        let file = write_drink_with(&drink, &all);
        assert_eq!(read_drink(file.as_bytes(), Cupboard::builtin()).unwrap(), drink);
        assert_eq!(read_earlier(file.as_bytes()), all);
        assert_eq!(read_earlier(b"{}"), []);
        // One that can't be read spoils no other.
        let odd = file.replacen("\"steps\"", "\"stops\"", 1);
        assert!(read_earlier(odd.as_bytes()).len() < 3);
    }
}
