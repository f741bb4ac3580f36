//! Numbers as they are written in a kitchen: `1 1/2`, `¾`, `2,5`, `half`.

const VULGAR: [(char, f64); 15] = [
    ('½', 1.0 / 2.0),
    ('⅓', 1.0 / 3.0),
    ('⅔', 2.0 / 3.0),
    ('¼', 1.0 / 4.0),
    ('¾', 3.0 / 4.0),
    ('⅕', 1.0 / 5.0),
    ('⅖', 2.0 / 5.0),
    ('⅗', 3.0 / 5.0),
    ('⅘', 4.0 / 5.0),
    ('⅙', 1.0 / 6.0),
    ('⅚', 5.0 / 6.0),
    ('⅛', 1.0 / 8.0),
    ('⅜', 3.0 / 8.0),
    ('⅝', 5.0 / 8.0),
    ('⅞', 7.0 / 8.0),
];

/// Fractions that a measuring set or a knife can make.
pub(super) const KITCHEN_FRACTIONS: [(u32, u32); 10] =
    [(1, 16), (1, 8), (1, 4), (1, 3), (3, 8), (1, 2), (5, 8), (2, 3), (3, 4), (7, 8)];

/// The value of a fraction that is one sign.
pub(super) fn vulgar(c: char) -> Option<f64> {
    VULGAR.iter().find(|(glyph, _)| *glyph == c).map(|(_, value)| *value)
}

/// The fraction nearest to `part` (0 to 1) when it agrees to within `tolerance`.
pub(super) fn as_fraction(part: f64, tolerance: f64) -> Option<(u32, u32)> {
    KITCHEN_FRACTIONS
        .into_iter()
        .find(|(over, under)| (f64::from(*over) / f64::from(*under) - part).abs() <= tolerance)
}

/// How many figures of a number are kept and written. A kitchen measures three.
const FIGURES: i32 = 9;

/// A number to so many figures: the one that is read again when it has been written with so many.
///
/// ```
/// use keen_core::quantity::to_figures;
/// assert_eq!(to_figures(2.0 / 3.0, 3), 0.667);
/// assert_eq!(to_figures(-123_456.0, 2), -120_000.0);
/// ```
///
/// At the ends of what a number can hold there is nothing to round it with: it stays as it is.
///
/// ```
/// use keen_core::quantity::to_figures;
/// assert_eq!(to_figures(3e-309, 6), 3e-309);
/// assert_eq!(to_figures(f64::MAX, 2), f64::MAX);
/// ```
#[must_use]
pub fn to_figures(value: f64, figures: i32) -> f64 {
    if value == 0.0 || !value.is_finite() {
        return value;
    }
    // A whole number over a power of ten, both exact, is rounded once: as when it is read.
    let places = figures - 1 - value.abs().log10().floor() as i32;
    let power = 10f64.powi(places.abs());
    let rounded =
        if places >= 0 { (value * power).round() / power } else { (value / power).round() * power };
    if rounded.is_finite() { rounded } else { value }
}

/// The number that is read again when `value` has been written.
pub(super) fn as_written(value: f64) -> f64 {
    to_figures(value, FIGURES)
}

/// A number that was worked out, as one would note it: a kitchen's fraction where it is one, else seven
/// figures.
pub(super) fn tidy(value: f64) -> f64 {
    let whole = value.floor();
    match as_fraction(value - whole, 1e-5) {
        Some((over, under)) => whole + f64::from(over) / f64::from(under),
        None => to_figures(value, 7),
    }
}

/// Writes `value`, in fractions where that is exact and wanted, else with up to nine figures.
/// Whatever is written is read again as the same number, to nine figures.
///
/// ```
/// use keen_core::quantity::format_number;
/// assert_eq!(format_number(1.5, true), "1 1/2");
/// assert_eq!(format_number(1.5, false), "1.5");
/// assert_eq!(format_number(220.0, false), "220");
/// ```
#[must_use]
pub fn format_number(value: f64, in_fractions: bool) -> String {
    if in_fractions {
        let whole = value.floor();
        // As near as nine figures of a third come to a third.
        if let Some((over, under)) = as_fraction(value - whole, 5e-9 * value.max(1.0)) {
            return if whole >= 1.0 {
                format!("{whole} {over}/{under}")
            } else {
                format!("{over}/{under}")
            };
        }
    }
    // The shortest text that is read as that number.
    format!("{}", as_written(value))
}
