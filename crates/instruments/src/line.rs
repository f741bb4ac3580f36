//! What an instrument says, and what it is told.

use serde::{Deserialize, Serialize};

/// The kind of instrument.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(missing_docs, reason = "each is the plain word")]
pub enum InstrumentKind {
    Scale,
    Thermometer,
    Refractometer,
    PhMeter,
    AcidKit,
    Clock,
}

impl InstrumentKind {
    /// The unit in which it reads.
    #[must_use]
    pub fn unit(self) -> &'static str {
        match self {
            Self::Scale => "g",
            Self::Thermometer => "°C",
            Self::Refractometer => "°Bx",
            Self::PhMeter => "pH",
            Self::AcidKit => "% acid",
            Self::Clock => "min",
        }
    }

    /// The range in which a reading can lie at all.
    #[must_use]
    pub fn range(self) -> (f64, f64) {
        match self {
            Self::Scale => (-100_000.0, 100_000.0),
            Self::Thermometer => (-50.0, 300.0),
            Self::Refractometer => (-5.0, 95.0),
            Self::PhMeter => (-1.0, 15.0),
            Self::AcidKit => (0.0, 100.0),
            Self::Clock => (0.0, 1e9),
        }
    }
}

/// What an instrument tells: one line of JSON.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Line {
    /// Names the device: `scale-1`.
    pub instrument: String,
    /// The kind of instrument.
    pub kind: InstrumentKind,
    /// What it reads; none where it can't: overloaded, dry, or not ready.
    #[serde(default)]
    pub value: Option<f64>,
    /// In which unit; that of its kind.
    pub unit: String,
    /// Whether the reading has settled.
    #[serde(default)]
    pub stable: bool,
    /// What else there is to know: "overload", "the drop is too warm".
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub says: Option<String>,
}

/// Why a line is no line.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Unheard(pub String);

impl Line {
    /// Reads a line. What it names and says is kept short; a value that no such instrument shows is refused.
    ///
    /// # Errors
    /// Says what about it makes no sense.
    pub fn read(text: &str) -> Result<Self, Unheard> {
        let line: Self = serde_json::from_str(text)
            .map_err(|why| Unheard(format!("We couldn't read this line: {why}.")))?;
        let plain = |c: char| c.is_ascii_alphanumeric() || "-_.".contains(c);
        if line.instrument.is_empty()
            || line.instrument.len() > 40
            || !line.instrument.chars().all(plain)
        {
            return Err(Unheard("Enter an instrument name of up to 40 letters and digits.".into()));
        }
        if line.unit != line.kind.unit() {
            let (unit, known) = (short(&line.unit), line.kind.unit());
            return Err(Unheard(format!("This instrument reads in {known}, not in {unit}.")));
        }
        let (least, most) = line.kind.range();
        if line.value.is_some_and(|v| !(least..=most).contains(&v)) {
            return Err(Unheard(format!("Enter {least} to {most}.")));
        }
        Ok(Self { says: line.says.map(|says| short(&says)), ..line })
    }
}

fn short(text: &str) -> String {
    text.chars().filter(|c| !c.is_control()).take(120).collect()
}

/// What is before an instrument.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(default)]
pub struct Sample {
    /// How warm it is, °C.
    pub temperature: f64,
    /// What a refractometer without any error finds, °Bx.
    pub brix: f64,
    /// Its pH.
    pub ph: f64,
    /// Titratable acidity as citric, g in 100 g.
    pub acid: f64,
}

/// What an instrument is told. `tare` and `calibrate` are for every device that can; the rest is what hands do
/// to a stand-in.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "do", rename_all = "snake_case")]
pub enum Order {
    /// From now on a scale counts from what is on it.
    Tare,
    /// A pH meter stands in a buffer of that pH.
    Calibrate {
        /// pH of the buffer.
        with: f64,
    },
    /// Something is poured on a scale.
    Pour {
        /// How much, g.
        grams: f64,
    },
    /// Everything is taken off a scale, or out of an instrument.
    Lift,
    /// An instrument is dipped into something, or gets a drop of it.
    Dip {
        /// Into what.
        #[serde(flatten)]
        sample: Sample,
    },
    /// A refractometer reckons with the drop's temperature, or doesn't.
    Compensate {
        /// Whether it does.
        on: bool,
    },
    /// Drops of lye fall into an acid kit's sample.
    Drop {
        /// How many.
        count: u32,
    },
    /// A clock runs so many times as fast.
    Rate {
        /// How many times, 0 to 3600.
        times: f64,
    },
    /// A clock jumps ahead.
    Jump {
        /// So many minutes.
        minutes: f64,
    },
}

impl Order {
    /// Whether every number in it can be meant.
    #[must_use]
    pub fn makes_sense(&self) -> bool {
        let within = |v: f64, least: f64, most: f64| v.is_finite() && (least..=most).contains(&v);
        match self {
            Self::Tare | Self::Lift | Self::Compensate { .. } => true,
            Self::Calibrate { with } => within(*with, 1.0, 13.0),
            Self::Pour { grams } => within(*grams, -20_000.0, 20_000.0),
            Self::Dip { sample: s } => {
                within(s.temperature, -30.0, 200.0)
                    && within(s.brix, 0.0, 95.0)
                    && within(s.ph, 0.0, 14.0)
                    && within(s.acid, 0.0, 100.0)
            }
            Self::Drop { count } => (1..=200).contains(count),
            Self::Rate { times } => within(*times, 0.0, 3600.0),
            Self::Jump { minutes } => within(*minutes, 0.0, 100_000.0),
        }
    }
}
