use keen_core::cupboard::Cupboard;
use keen_core::drink::{Drink, FieldError};
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};

/// The format's name, as it stands in every file.
pub const FORMAT: &str = "keen-pitcher/drink";
/// The version that is written. Older ones are read.
pub const VERSION: u32 = 1;

/// Why a text is no drink.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum FormatError {
    /// It isn't JSON at all.
    #[error("This is not well-formed JSON: {0}.")]
    Malformed(String),
    /// A newer program wrote it.
    #[error("This file has version {0} of the format; {VERSION} is the newest known here.")]
    TooNew(u32),
    /// Another kind of file.
    #[error("This file is a “{0}”, not a “{FORMAT}”.")]
    OtherFormat(String),
    /// It is JSON, but not a drink that can be carried out.
    #[error("{}", list(.0))]
    Faults(Vec<FieldError>),
}

fn list(faults: &[FieldError]) -> String {
    faults.iter().map(ToString::to_string).collect::<Vec<_>>().join("\n")
}

impl FormatError {
    /// What is wrong with which field; one without a field for a text that is no JSON.
    #[must_use]
    pub fn faults(self) -> Vec<FieldError> {
        match self {
            Self::Faults(faults) => faults,
            Self::TooNew(_) => {
                vec![FieldError { field: "version".into(), message: self.to_string() }]
            }
            Self::OtherFormat(_) => {
                vec![FieldError { field: "format".into(), message: self.to_string() }]
            }
            Self::Malformed(_) => {
                vec![FieldError { field: String::new(), message: self.to_string() }]
            }
        }
    }
}

#[derive(Serialize)]
struct DrinkFile<'a> {
    format: &'static str,
    version: u32,
    drink: &'a Drink,
}

#[derive(Deserialize)]
struct Envelope {
    #[serde(default)]
    format: Option<String>,
    #[serde(default)]
    version: Option<u32>,
}

/// Reads any value from JSON; an error names the field that it is about.
///
/// # Errors
/// [`FormatError::Malformed`] or [`FormatError::Faults`].
pub fn read_json<T: DeserializeOwned>(text: &[u8]) -> Result<T, FormatError> {
    let mut json = serde_json::Deserializer::from_slice(text);
    let value = serde_path_to_error::deserialize(&mut json).map_err(|error| {
        let inner = error.inner();
        if inner.is_data() {
            fault_at(&error.path().to_string(), &plain(inner))
        } else {
            FormatError::Malformed(inner.to_string())
        }
    })?;
    json.end().map_err(|error| FormatError::Malformed(error.to_string()))?;
    Ok(value)
}

/// Reads any value from JSON that is already parsed; an error names the field that it is about.
///
/// # Errors
/// [`FormatError::Faults`].
pub fn from_value<T: DeserializeOwned>(value: serde_json::Value) -> Result<T, FormatError> {
    serde_path_to_error::deserialize(value)
        .map_err(|error| fault_at(&error.path().to_string(), &plain(error.inner())))
}

fn fault_at(path: &str, message: &str) -> FormatError {
    let field = if path == "." { String::new() } else { path.to_owned() };
    FormatError::Faults(vec![FieldError { field, message: message.to_owned() }])
}

/// The parser's message without its place in the text, and in a cook's words where they are known.
fn plain(error: &serde_json::Error) -> String {
    let text = error.to_string();
    let text = text.split(" at line ").next().unwrap_or(&text);
    if let Some(field) = text.strip_prefix("missing field ") {
        return format!("{} is missing.", field.trim_matches('`'));
    }
    if let Some((found, known)) =
        text.strip_prefix("unknown variant ").and_then(|rest| rest.split_once(", expected "))
    {
        let known = known.trim_start_matches("one of ").replace('`', "");
        return format!("“{}” is not known here; {known} would be.", found.trim_matches('`'));
    }
    if let Some((found, _)) =
        text.strip_prefix("unknown field ").and_then(|rest| rest.split_once(", expected "))
    {
        return format!("“{}” is not known here.", found.trim_matches('`'));
    }
    if let Some((_, expected)) = text.split_once(", expected ") {
        let wanted = match expected {
            "a string" => "text, in quotation marks",
            "f64" => "a number",
            "u32" | "i64" => "a whole number, not below zero",
            "a sequence" => "a list, in square brackets",
            _ => "something else; see the format's description",
        };
        return format!("This should be {wanted}.");
    }
    let mut sentence = text.to_owned();
    if !sentence.ends_with('.') {
        sentence.push('.');
    }
    sentence
}

/// Reads a drink, alone or in a file of the open format, and checks that it can be carried out.
///
/// # Errors
/// [`FormatError`], with every fault that was found.
pub fn read_drink(text: &[u8], cupboard: &Cupboard) -> Result<Drink, FormatError> {
    drink_from_value(read_json(text)?, cupboard)
}

/// As [`read_drink`], from JSON that is already parsed.
///
/// # Errors
/// [`FormatError`], with every fault that was found.
pub fn drink_from_value(
    mut value: serde_json::Value,
    cupboard: &Cupboard,
) -> Result<Drink, FormatError> {
    if value.get("drink").is_some() {
        let envelope: Envelope = from_value(value.clone())?;
        if let Some(other) = envelope.format.filter(|format| format != FORMAT) {
            return Err(FormatError::OtherFormat(other));
        }
        if let Some(newer) = envelope.version.filter(|version| *version > VERSION) {
            return Err(FormatError::TooNew(newer));
        }
        value = value["drink"].take();
    }
    let mut drink: Drink = from_value(value)?;
    drink.name_steps();
    let faults = drink.check(cupboard);
    if faults.is_empty() { Ok(drink) } else { Err(FormatError::Faults(faults)) }
}

/// Writes a drink as a file of the open format.
#[must_use]
pub fn write_drink(drink: &Drink) -> String {
    let file = DrinkFile { format: FORMAT, version: VERSION, drink };
    // Serialising strings and numbers into memory has no way to fail.
    let mut text = serde_json::to_string_pretty(&file).unwrap_or_default();
    text.push('\n');
    text
}

#[cfg(test)]
mod tests {
    use super::*;

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
                "can't be read",
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
            (r#"{"do":{"conjure":{}}}"#, "steps[0].do", "not known here"),
            (
                r#"{"do":{"add":{"into":"sieve","ingredient":"water","amount":"1 l"}}}"#,
                "steps[0].do.add.into",
                "holds no liquid",
            ),
            (
                r#"{"do":{"pour":{"from":"jug","into":"jug"}}}"#,
                "steps[0].do.pour.into",
                "into itself",
            ),
            (
                r#"{"do":{"heat":{"vessel":"jug","to_c":80}}}"#,
                "steps[0].do.heat.vessel",
                "use a pot",
            ),
        ] {
            let found = fault(&with_steps(steps));
            assert_eq!(found.field, field, "{}", found.message);
            assert!(found.message.contains(words), "{}", found.message);
        }
    }

    #[test]
    fn texts_that_are_no_drink_are_told_apart() {
        let read = |text: &str| read_drink(text.as_bytes(), Cupboard::builtin()).unwrap_err();
        assert!(matches!(read("{"), FormatError::Malformed(_)));
        assert!(matches!(read("[] []"), FormatError::Malformed(_)));
        assert!(matches!(read(r#"{"format":"x/y","drink":{}}"#), FormatError::OtherFormat(_)));
        assert!(matches!(
            read(r#"{"format":"keen-pitcher/drink","version":9,"drink":{}}"#),
            FormatError::TooNew(9)
        ));
        assert_eq!(fault("{}").message, "name is missing.");
    }
}
