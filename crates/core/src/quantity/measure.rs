/// What a measure measures.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Dimension {
    /// A weight; factors are grams.
    Mass,
    /// A volume; factors are millilitres.
    Volume,
    /// Single pieces, whose weight only the cupboard knows.
    Count,
}

/// A unit that a cook may use.
///
/// Spoons and cups are the US customary ones (1 cup = 236.588 ml = 16 tbsp = 48 tsp); the metric
/// cup of 250 ml is a measure of its own.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Measure {
    /// 0.001 g.
    Milligram,
    /// 1 g.
    Gram,
    /// 1000 g.
    Kilogram,
    /// The avoirdupois ounce, 28.3495 g.
    Ounce,
    /// The avoirdupois pound, 453.592 g.
    Pound,
    /// 1 ml.
    Millilitre,
    /// 10 ml.
    Centilitre,
    /// 100 ml.
    Decilitre,
    /// 1000 ml.
    Litre,
    /// US teaspoon, 4.92892 ml.
    Teaspoon,
    /// US tablespoon, 14.7868 ml.
    Tablespoon,
    /// US fluid ounce, 29.5735 ml.
    FluidOunce,
    /// US cup, 236.588 ml.
    Cup,
    /// Metric cup, 250 ml.
    MetricCup,
    /// US pint, 473.176 ml.
    Pint,
    /// US quart, 946.353 ml.
    Quart,
    /// US gallon, 3785.41 ml.
    Gallon,
    /// One of the parts that a drink is written in; 30 ml where the drink doesn't say.
    Part,
    /// Between two fingers: 1/16 tsp, the size of the smallest spoon of common sets.
    Pinch,
    /// A shake of a bottle: 1/8 tsp.
    Dash,
    /// A drop from a dropper: 0.05 ml.
    Drop,
    /// So many of the thing itself, in the words used for it ("large limes"; empty for a bare number).
    Piece(String),
}

pub(crate) const US_CUP_ML: f64 = 236.588;

impl Measure {
    /// Reads a unit's name; `None` for words that are no unit of weight or volume.
    #[must_use]
    pub fn from_words(words: &str) -> Option<Self> {
        let bare = words.trim().trim_end_matches('.').to_lowercase();
        Some(match bare.as_str() {
            "mg" | "milligram" | "milligrams" => Self::Milligram,
            "g" | "gr" | "gram" | "grams" | "gramme" | "grammes" => Self::Gram,
            "kg" | "kilo" | "kilos" | "kilogram" | "kilograms" => Self::Kilogram,
            "oz" | "ounce" | "ounces" => Self::Ounce,
            "lb" | "lbs" | "pound" | "pounds" => Self::Pound,
            "ml" | "millilitre" | "millilitres" | "milliliter" | "milliliters" | "cc" => {
                Self::Millilitre
            }
            "cl" | "centilitre" | "centilitres" => Self::Centilitre,
            "dl" | "decilitre" | "decilitres" => Self::Decilitre,
            "l" | "litre" | "litres" | "liter" | "liters" => Self::Litre,
            "tsp" | "tsps" | "teaspoon" | "teaspoons" => Self::Teaspoon,
            "tbsp" | "tbsps" | "tbs" | "tablespoon" | "tablespoons" => Self::Tablespoon,
            "fl oz" | "fl. oz" | "floz" | "fluid ounce" | "fluid ounces" => Self::FluidOunce,
            "cup" | "cups" | "us cup" | "us cups" => Self::Cup,
            "metric cup" | "metric cups" => Self::MetricCup,
            "pint" | "pints" | "pt" | "pts" => Self::Pint,
            "quart" | "quarts" | "qt" | "qts" => Self::Quart,
            "gallon" | "gallons" | "gal" => Self::Gallon,
            "part" | "parts" => Self::Part,
            "pinch" | "pinches" => Self::Pinch,
            "dash" | "dashes" => Self::Dash,
            "drop" | "drops" => Self::Drop,
            _ => return None,
        })
    }

    /// What it measures.
    #[must_use]
    pub fn dimension(&self) -> Dimension {
        match self {
            Self::Milligram | Self::Gram | Self::Kilogram | Self::Ounce | Self::Pound => {
                Dimension::Mass
            }
            Self::Piece(_) => Dimension::Count,
            _ => Dimension::Volume,
        }
    }

    /// Grams, millilitres or pieces in one of it.
    #[must_use]
    pub fn factor(&self) -> f64 {
        match self {
            Self::Milligram => 0.001,
            Self::Gram | Self::Millilitre | Self::Piece(_) => 1.0,
            Self::Kilogram | Self::Litre => 1000.0,
            Self::Ounce => 28.349_523,
            Self::Pound => 453.592_37,
            Self::Centilitre => 10.0,
            Self::Decilitre => 100.0,
            Self::Teaspoon => US_CUP_ML / 48.0,
            Self::Tablespoon => US_CUP_ML / 16.0,
            Self::FluidOunce => US_CUP_ML / 8.0,
            Self::Cup => US_CUP_ML,
            Self::MetricCup => 250.0,
            Self::Pint => US_CUP_ML * 2.0,
            Self::Quart => US_CUP_ML * 4.0,
            Self::Gallon => US_CUP_ML * 16.0,
            Self::Part => 30.0,
            Self::Pinch => US_CUP_ML / 48.0 / 16.0,
            Self::Dash => US_CUP_ML / 48.0 / 8.0,
            Self::Drop => 0.05,
        }
    }

    /// Whether a cook says it in fractions (half a cup) and not in decimals (0.5 l).
    #[must_use]
    pub(crate) fn spoken_in_fractions(&self) -> bool {
        matches!(
            self,
            Self::Teaspoon
                | Self::Tablespoon
                | Self::Cup
                | Self::MetricCup
                | Self::Pint
                | Self::Quart
                | Self::Gallon
                | Self::Part
                | Self::FluidOunce
                | Self::Pinch
                | Self::Dash
                | Self::Drop
                | Self::Piece(_)
        )
    }

    /// Its name beside a value.
    #[must_use]
    pub fn name(&self, value: f64) -> &str {
        let many = value > 1.0 + 1e-9;
        match self {
            Self::Milligram => "mg",
            Self::Gram => "g",
            Self::Kilogram => "kg",
            Self::Ounce => "oz",
            Self::Pound => "lb",
            Self::Millilitre => "ml",
            Self::Centilitre => "cl",
            Self::Decilitre => "dl",
            Self::Litre => "l",
            Self::Teaspoon => "tsp",
            Self::Tablespoon => "tbsp",
            Self::FluidOunce => "fl oz",
            Self::Cup if many => "cups",
            Self::Cup => "cup",
            Self::MetricCup if many => "metric cups",
            Self::MetricCup => "metric cup",
            Self::Pint if many => "pints",
            Self::Pint => "pint",
            Self::Quart if many => "quarts",
            Self::Quart => "quart",
            Self::Gallon if many => "gallons",
            Self::Gallon => "gallon",
            Self::Part if many => "parts",
            Self::Part => "part",
            Self::Pinch if many => "pinches",
            Self::Pinch => "pinch",
            Self::Dash if many => "dashes",
            Self::Dash => "dash",
            Self::Drop if many => "drops",
            Self::Drop => "drop",
            Self::Piece(words) => words,
        }
    }
}
