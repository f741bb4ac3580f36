//! In which units a kitchen is spoken to.

use serde::{Deserialize, Serialize};

/// The units for amounts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Units {
    /// As each amount was written.
    #[default]
    AsWritten,
    /// Grams for what is weighed, millilitres for what is poured.
    Metric,
    /// US cups and spoons.
    Us,
}

/// The scale for temperatures.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum Degrees {
    #[default]
    Celsius,
    Fahrenheit,
}

impl Degrees {
    /// A temperature, °C, as it is said: "80 °C", "176 °F".
    #[must_use]
    pub fn say(self, celsius: f64) -> String {
        match self {
            Self::Celsius => format!("{} °C", (celsius * 10.0).round() / 10.0),
            Self::Fahrenheit => format!("{} °F", (celsius * 1.8 + 32.0).round() + 0.0),
        }
    }

    /// The same to a whole degree.
    #[must_use]
    pub fn say_whole(self, celsius: f64) -> String {
        self.say(celsius.round())
    }
}

/// How a kitchen is spoken to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Saying {
    /// Amounts.
    pub units: Units,
    /// Temperatures.
    pub degrees: Degrees,
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn temperatures_are_said_in_the_kitchens_degrees() {
        assert_eq!(Degrees::Celsius.say(80.0), "80 °C");
        assert_eq!(Degrees::Celsius.say(104.26), "104.3 °C");
        assert_eq!(Degrees::Fahrenheit.say(80.0), "176 °F");
        assert_eq!(Degrees::Fahrenheit.say(-18.0), "0 °F");
        assert_eq!(Degrees::Celsius.say_whole(21.4), "21 °C");
    }
}
