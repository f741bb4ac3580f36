use std::fmt;

use serde::{Deserialize, Serialize};

use super::measure::{Dimension, Measure};
use super::number::{as_written, format_number, tidy};
use super::units::Millilitres;

/// The longest text that is read as an amount.
pub(super) const MAX_TEXT: usize = 80;
/// The largest number in front of a unit: 100,000 g is a hundred kilos of one thing.
pub(super) const MAX_VALUE: f64 = 100_000.0;
/// The most in grams or millilitres: a tonne, a cubic metre.
pub(super) const MAX_TOTAL: f64 = 1e6;
/// The smallest: a thousandth of a gram is less than any scale in a kitchen shows.
pub(super) const MIN_VALUE: f64 = 0.001;

/// What was said of how much: one or more terms such as `2 tbsp + 1 tsp`.
///
/// A range ("1 to 3 tbsp") counts as its middle; its ends say how far a maker may go.
///
/// It is kept as it was said, so that a cook finds "3 limes" again and not 81 ml.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub struct Amount {
    pub(super) terms: Vec<Term>,
    /// The ends of "1 to 3 tbsp", in the measure of the only term, whose value is then the middle.
    pub(super) range: Option<(f64, f64)>,
}

/// A value and its measure.
#[derive(Debug, Clone, PartialEq)]
pub struct Term {
    /// How many.
    pub value: f64,
    /// The measure.
    pub measure: Measure,
}

/// Why a text is no amount.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum AmountError {
    /// Nothing was written.
    #[error("Enter an amount, such as 220 g, 1 1/2 cups or 3 limes.")]
    Empty,
    /// The text does not begin with a number.
    #[error("“{0}” has no number. Enter an amount, such as 220 g or 3 limes.")]
    NoNumber(String),
    /// The number can't be read.
    #[error("We couldn't read “{0}”. Enter an amount, such as 220 g, 1 1/2 cups or 0.5 l.")]
    Unreadable(String),
    /// Below zero.
    #[error("“{0}” is below zero. To leave an ingredient out, delete its step.")]
    Negative(String),
    /// Nothing at all.
    #[error("“{0}” adds nothing. To leave an ingredient out, delete its step.")]
    Zero(String),
    /// Less than can be measured, or written back.
    #[error("“{0}” is too little to measure. Enter at least 0.001.")]
    TooLittle(String),
    /// Far beyond any kitchen.
    #[error("“{0}” is too much for a kitchen. Enter up to 100 000, and up to 1000 kg or litres.")]
    TooMuch(String),
    /// A comma that may mean two things.
    #[error("“{0}” can be read two ways. Enter {whole} or {part}.",
        whole = without(.0), part = with_point(.0))]
    Ambiguous(String),
    /// A number that can't be meant in the unit that was there.
    #[error("{0} of what? Enter it with its unit, such as {0} g or {0} ml.")]
    NoUnit(String),
    /// Two measures that don't agree.
    #[error("“{0}” gives two different amounts. Enter one of them.")]
    Twice(String),
    /// A very long text.
    #[error("Enter up to {MAX_TEXT} characters.")]
    TooLong,
}

/// "1,500" as fifteen hundred.
pub(super) fn without(figures: &str) -> String {
    figures.replace([',', '.'], "")
}

/// "1,500" as one and a half.
pub(super) fn with_point(figures: &str) -> String {
    let plain = figures.replace(',', ".");
    plain.trim_end_matches('0').trim_end_matches('.').to_owned()
}

impl Amount {
    /// An amount of one term.
    #[must_use]
    pub fn of(value: f64, measure: Measure) -> Self {
        Self { terms: vec![Term { value: tidy(value), measure }], range: None }
    }

    /// So many grams.
    #[must_use]
    pub fn grams(value: f64) -> Self {
        Self::of(value, Measure::Gram)
    }

    /// So many millilitres.
    #[must_use]
    pub fn millilitres(value: f64) -> Self {
        Self::of(value, Measure::Millilitre)
    }

    /// Builds from terms; `None` if there are none.
    #[must_use]
    pub(crate) fn from_terms(terms: Vec<Term>) -> Option<Self> {
        (!terms.is_empty()).then_some(Self { terms, range: None })
    }

    /// For "1 to 3 tbsp" how many times the middle its ends are: 0.5 and 1.5.
    #[must_use]
    pub fn spread(&self) -> Option<(f64, f64)> {
        let middle = self.terms[0].value;
        self.range.map(|(low, high)| (low / middle, high / middle))
    }

    /// Whether it is said in parts of a drink.
    #[must_use]
    pub fn has_parts(&self) -> bool {
        self.terms.iter().any(|t| t.measure == Measure::Part)
    }

    /// With its parts said in millilitres.
    #[must_use]
    pub fn in_parts_of(&self, part: Millilitres) -> Self {
        let term = |t: &Term| match t.measure {
            Measure::Part => Term { value: t.value * part.0, measure: Measure::Millilitre },
            _ => t.clone(),
        };
        Self { terms: self.terms.iter().map(term).collect(), range: None }
    }

    /// The terms in the order they were said.
    #[must_use]
    pub fn terms(&self) -> &[Term] {
        &self.terms
    }

    /// `factor` times as much, said in a way that fits the new size (16 × "1 tbsp" is "1 cup").
    #[must_use]
    pub fn scaled(&self, factor: f64) -> Self {
        if (factor - 1.0).abs() < 1e-12 {
            return self.clone();
        }
        let terms: Vec<Term> = self
            .terms
            .iter()
            .map(|t| Term { value: (t.value * factor).max(MIN_VALUE), measure: t.measure.clone() })
            .collect();
        let settled = terms.into_iter().flat_map(settle);
        let terms: Vec<Term> = settled.map(|t| Term { value: tidy(t.value), ..t }).collect();
        let range = self
            .spread()
            .filter(|_| terms.len() == 1)
            .map(|(low, high)| (tidy(terms[0].value * low), tidy(terms[0].value * high)));
        Self { terms, range }.with_middle()
    }

    /// The middle that is read again when the ends have been written.
    fn with_middle(mut self) -> Self {
        if let Some((low, high)) = self.range {
            self.terms[0].value = middle(low, high);
        }
        self
    }

    /// Whether every term is a cup or a spoon, so that they can be changed for one another.
    #[must_use]
    pub fn spoons_only(&self) -> bool {
        self.terms
            .iter()
            .all(|t| matches!(t.measure, Measure::Cup | Measure::Tablespoon | Measure::Teaspoon))
    }

    /// Whether it is an amount that can be written down and read again: no more than a kitchen holds,
    /// no less than can be measured.
    #[must_use]
    pub(crate) fn is_sensible(&self) -> bool {
        self.terms.iter().all(|t| {
            (MIN_VALUE..=MAX_VALUE).contains(&t.value) && t.value * t.measure.factor() <= MAX_TOTAL
        })
    }

    /// The sum in grams or millilitres; meaningful when all terms share one dimension.
    #[must_use]
    pub fn total(&self) -> f64 {
        self.terms.iter().map(|t| t.value * t.measure.factor()).sum()
    }

    /// The volume in millilitres, if every term is a volume.
    #[must_use]
    pub fn as_millilitres(&self) -> Option<f64> {
        self.terms.iter().all(|t| t.measure.dimension() == Dimension::Volume).then(|| self.total())
    }

    /// The weight in grams, if every term is a weight.
    #[must_use]
    pub fn as_grams(&self) -> Option<f64> {
        self.terms.iter().all(|t| t.measure.dimension() == Dimension::Mass).then(|| self.total())
    }
}

/// Changes to a larger or smaller unit where a cook would.
fn settle(term: Term) -> Vec<Term> {
    let Term { value, measure } = &term;
    let per = |other: Measure| {
        vec![Term { value: value * measure.factor() / other.factor(), measure: other }]
    };
    match measure {
        Measure::Gram if *value >= 2000.0 => per(Measure::Kilogram),
        Measure::Kilogram if *value < 0.5 => per(Measure::Gram),
        Measure::Millilitre if *value >= 2000.0 => per(Measure::Litre),
        Measure::Litre if *value < 0.5 => per(Measure::Millilitre),
        Measure::Teaspoon if *value >= 3.0 => {
            let spoons = per(Measure::Tablespoon);
            spoons.into_iter().flat_map(settle).collect()
        }
        Measure::Tablespoon if *value >= 4.0 => per(Measure::Cup),
        Measure::Tablespoon if *value < 0.5 => per(Measure::Teaspoon),
        Measure::Cup if *value < 0.25 => {
            let spoons = per(Measure::Tablespoon);
            spoons.into_iter().flat_map(settle).collect()
        }
        Measure::Pinch if *value >= 4.0 => per(Measure::Teaspoon),
        _ => vec![term],
    }
}

fn middle(low: f64, high: f64) -> f64 {
    as_written((low + high) / 2.0)
}

impl TryFrom<String> for Amount {
    type Error = AmountError;
    fn try_from(text: String) -> Result<Self, AmountError> {
        text.parse()
    }
}

impl From<Amount> for String {
    fn from(amount: Amount) -> Self {
        amount.to_string()
    }
}

/// Writes the amount so that reading it again gives the same amount.
impl fmt::Display for Amount {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if let (Some((low, high)), [Term { measure, .. }]) = (self.range, self.terms.as_slice()) {
            let [low, high] =
                [low, high].map(|v| (v, format_number(v, measure.spoken_in_fractions())));
            let name = measure.name(high.0);
            let gap = if name.is_empty() { "" } else { " " };
            return write!(f, "{} to {}{gap}{name}", low.1, high.1);
        }
        for (i, term) in self.terms.iter().enumerate() {
            if i > 0 {
                f.write_str(" + ")?;
            }
            write!(f, "{term}")?;
        }
        Ok(())
    }
}

impl fmt::Display for Term {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let number = format_number(self.value, self.measure.spoken_in_fractions());
        let name = self.measure.name(self.value);
        if name.is_empty() { f.write_str(&number) } else { write!(f, "{number} {name}") }
    }
}

#[cfg(feature = "described")]
impl utoipa::PartialSchema for Amount {
    fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
        use utoipa::openapi::schema::{ObjectBuilder, Type};
        ObjectBuilder::new()
            .schema_type(Type::String)
            .description(Some(
                "An amount in kitchen language: a number or a range, a measure, and more of the same after “+”.",
            ))
            .min_length(Some(1))
            .max_length(Some(MAX_TEXT))
            .examples(["1 1/2 cups", "3 limes", "220 g", "2 tbsp + 1 tsp", "1 to 3 tbsp"])
            .into()
    }
}

#[cfg(feature = "described")]
impl utoipa::ToSchema for Amount {}
