//! Reading JSON so that an error names the field it is about, in a cook's words.

use keen_core::drink::FieldError;
use serde::de::DeserializeOwned;

/// Why a text is not what it should be.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum FormatError {
    /// It isn't JSON at all.
    #[error("This isn't valid JSON: {0}.")]
    Malformed(String),
    /// A newer program wrote it.
    #[error(
        "This file has format version {found}; we read up to {newest}. Use a newer Keen Pitcher."
    )]
    TooNew {
        /// Its version.
        found: u64,
        /// The newest that is known.
        newest: u32,
    },
    /// Another kind of file.
    #[error("This is a “{found}”, not a “{wanted}”.")]
    OtherFormat {
        /// What it says that it is.
        found: String,
        /// What it should be.
        wanted: &'static str,
    },
    /// It is JSON, but not what it should be.
    #[error("{}", list(.0))]
    Faults(Vec<FieldError>),
}

fn list(faults: &[FieldError]) -> String {
    faults.iter().map(ToString::to_string).collect::<Vec<_>>().join("\n")
}

impl FormatError {
    pub(crate) fn fault(field: &str, message: &str) -> Self {
        Self::Faults(vec![FieldError { field: field.to_owned(), message: message.to_owned() }])
    }

    /// What is wrong with which field; one without a field for a text that is no JSON.
    #[must_use]
    pub fn faults(self) -> Vec<FieldError> {
        let field = match self {
            Self::Faults(faults) => return faults,
            Self::TooNew { .. } => "version",
            Self::OtherFormat { .. } => "format",
            Self::Malformed(_) => "",
        };
        vec![FieldError { field: field.into(), message: self.to_string() }]
    }
}

/// Reads any value from JSON; an error names the field that it is about.
///
/// # Errors
/// [`FormatError::Malformed`] or [`FormatError::Faults`].
pub fn read_json<T: DeserializeOwned>(text: &[u8]) -> Result<T, FormatError> {
    // First whether it is JSON at all: a number where a word should be is not malformed, but wrong.
    let value: serde_json::Value =
        serde_json::from_slice(text).map_err(|error| FormatError::Malformed(error.to_string()))?;
    from_value(value)
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
    FormatError::fault(&field, message)
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
        return format!("We don't know “{}”. Use {known}.", found.trim_matches('`'));
    }
    if let Some((found, _)) =
        text.strip_prefix("unknown field ").and_then(|rest| rest.split_once(", expected "))
    {
        return format!("We don't know “{}”.", found.trim_matches('`'));
    }
    if let Some((_, expected)) = text.split_once(", expected ") {
        let wanted = match expected {
            "a string" => "text, in quotation marks",
            "f64" => "a number",
            "u32" | "i64" => "a whole number, not below zero",
            "a sequence" => "a list, in square brackets",
            _ => "a different value; see the format description",
        };
        return format!("This should be {wanted}.");
    }
    let mut sentence = text.to_owned();
    if !sentence.ends_with('.') {
        sentence.push('.');
    }
    sentence
}
