use serde::{Deserialize, Serialize};
use serde_json::Value;

use crate::envelope::Format;

/// The format of a whole shelf in one file, as it is handed out of a damaged one.
pub const SHELF: Format = Format { name: "keen-pitcher/shelf", field: "shelf", steps: &[] };

/// A whole shelf: each text as it was kept, as JSON where it is some, else as a string.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct ShelfFile {
    /// The drinks, each in its own format.
    pub drinks: Vec<Value>,
    /// The kitchen and the remembered choices, by what they are.
    #[serde(default)]
    pub documents: Vec<(String, Value)>,
    /// How many more things are known to have been there and could not be read.
    #[serde(default)]
    pub lost: usize,
}

impl ShelfFile {
    /// A kept text, for the file.
    #[must_use]
    pub fn text(kept: String) -> Value {
        serde_json::from_str(&kept).unwrap_or(Value::String(kept))
    }
}
