//! What every kept thing and every file is wrapped in: the format's name, its version, and the thing.
//!
//! A thing that was written by an older program is brought up to date when it is read, by written steps
//! from each version to the next, so that nothing that was ever kept becomes unreadable.

use serde::de::DeserializeOwned;
use serde::ser::SerializeMap;
use serde::{Serialize, Serializer};
use serde_json::Value;

use crate::json::{FormatError, from_value, read_json};

/// A format of the application's own.
#[derive(Debug, Clone, Copy)]
pub struct Format {
    /// Its name, as it stands in every file: `keen-pitcher/drink`.
    pub name: &'static str,
    /// The field that the thing stands in.
    pub field: &'static str,
    /// What was changed from each version to the next, the first from version 1 to 2. Only ever append.
    pub steps: &'static [fn(Value) -> Value],
}

impl Format {
    /// The version that is written.
    #[must_use]
    pub const fn version(&self) -> u32 {
        self.steps.len() as u32 + 1
    }

    /// Takes the thing out of its wrapping and brings it up to date. A thing without a wrapping is taken
    /// as one of the first version, which was kept so.
    ///
    /// # Errors
    /// If it is of another format, or of a newer version.
    pub fn unwrap(&self, mut value: Value) -> Result<Value, FormatError> {
        let mut version = 1;
        if let Some(name) = value.get("format") {
            if name.as_str() != Some(self.name) {
                let found = name.as_str().map_or_else(|| name.to_string(), str::to_owned);
                return Err(FormatError::OtherFormat { found, wanted: self.name });
            }
            let newest = self.version();
            version = match value.get("version").map(Value::as_u64) {
                None => 1,
                Some(Some(version @ 1..)) if version <= u64::from(newest) => version as usize,
                Some(Some(found @ 1..)) => return Err(FormatError::TooNew { found, newest }),
                Some(_) => {
                    return Err(FormatError::fault("version", "Enter a version of 1 or more."));
                }
            };
        }
        if let Some(thing) = value.get_mut(self.field) {
            value = thing.take();
        }
        Ok(self.steps[version - 1..].iter().fold(value, |thing, step| step(thing)))
    }

    /// Reads a kept thing.
    ///
    /// # Errors
    /// [`FormatError`] if it is none.
    pub fn read<T: DeserializeOwned>(&self, text: &str) -> Result<T, FormatError> {
        from_value(self.unwrap(read_json(text.as_bytes())?)?)
    }

    /// A thing in its wrapping, to be written.
    pub fn wrap<'a>(&'a self, thing: &'a impl Serialize) -> impl Serialize + 'a {
        Wrapped { format: self, thing }
    }

    /// Writes a thing to be kept.
    #[must_use]
    pub fn write(&self, thing: &impl Serialize) -> String {
        // Writing plain data into memory has no way to fail.
        serde_json::to_string(&self.wrap(thing)).unwrap_or_default()
    }
}

struct Wrapped<'a, T> {
    format: &'a Format,
    thing: &'a T,
}

impl<T: Serialize> Serialize for Wrapped<'_, T> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        let mut map = serializer.serialize_map(Some(3))?;
        map.serialize_entry("format", self.format.name)?;
        map.serialize_entry("version", &self.format.version())?;
        map.serialize_entry(self.format.field, self.thing)?;
        map.end()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    /// A format that has been changed twice: glasses were called cups, then counted from 1.
    const GLASSES: Format = Format {
        name: "keen-pitcher/glasses",
        field: "glasses",
        steps: &[
            |mut v| {
                let cups = v["cups"].take();
                json!({ "count": cups })
            },
            |v| json!({ "count": v["count"].as_i64().unwrap_or(0) + 1 }),
        ],
    };

    #[test]
    fn what_older_programs_wrote_is_brought_up_to_date() {
        let read = |text: &str| GLASSES.read::<Value>(text);
        assert_eq!(read(r#"{"cups":3}"#).unwrap(), json!({ "count": 4 }));
        let wrapped = |version: u32, thing: &str| {
            format!(r#"{{"format":"keen-pitcher/glasses","version":{version},"glasses":{thing}}}"#)
        };
        assert_eq!(read(&wrapped(1, r#"{"cups":3}"#)).unwrap(), json!({ "count": 4 }));
        assert_eq!(read(&wrapped(2, r#"{"count":3}"#)).unwrap(), json!({ "count": 4 }));
        assert_eq!(read(&wrapped(3, r#"{"count":3}"#)).unwrap(), json!({ "count": 3 }));
        assert_eq!(read(&GLASSES.write(&json!({ "count": 8 }))).unwrap(), json!({ "count": 8 }));
        let newer = read(&wrapped(4, "{}")).unwrap_err();
        assert_eq!(newer, FormatError::TooNew { found: 4, newest: 3 });
        for odd in ["0", "-1", "\"1\"", "1.5"] {
            let text = format!(r#"{{"format":"keen-pitcher/glasses","version":{odd}}}"#);
            assert_eq!(read(&text).unwrap_err().faults()[0].field, "version", "{odd}");
        }
        assert!(matches!(read(r#"{"format":"else"}"#), Err(FormatError::OtherFormat { .. })));
    }
}
