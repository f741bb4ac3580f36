use serde::{Deserialize, Serialize};

/// The source of a figure.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Evidence {
    /// Read in a published table, or a chemical identity.
    Table,
    /// A considered guess; its range stands beside it where one is known.
    Estimate,
    /// Measured in this kitchen.
    Measured,
}

impl Evidence {
    /// What a source amounts to, by its own words.
    #[must_use]
    pub fn of_source(source: &str) -> Self {
        if source.contains("estimated") { Self::Estimate } else { Self::Table }
    }
}

/// An unpublished figure, with its likely range (4 times out of 5).
#[derive(Debug, Clone, Copy, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Estimated {
    /// The figure that the calculation uses.
    pub value: f64,
    /// The lower end of the likely range.
    pub low: f64,
    /// The upper end of the likely range.
    pub high: f64,
    /// An estimate, or measured in this kitchen.
    pub evidence: Evidence,
}

impl Estimated {
    pub(super) const fn within(value: f64, low: f64, high: f64) -> Self {
        Self { value, low, high, evidence: Evidence::Estimate }
    }

    /// What this kitchen has measured: a tenth either way is as good as a kitchen measures.
    pub(super) fn measured(value: f64) -> Self {
        Self { value, low: value * 0.9, high: value * 1.1, evidence: Evidence::Measured }
    }

    /// Its spread as the standard deviation of its logarithm: the range is the middle four fifths.
    pub(crate) fn log_spread(&self) -> f64 {
        if self.low <= 0.0 { 0.0 } else { (self.high / self.low).ln() / 2.563 }
    }
}

/// A figure's source, as in the table.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct FigureSource {
    /// The figures that it covers: "sugars", "acids", "density".
    pub of: String,
    /// The source, or the reasons for an estimate.
    pub source: String,
    /// The evidence for them.
    pub evidence: Evidence,
}

/// Splits a table's source text, `what: where; what: where`, into single figures. What stands in
/// brackets belongs together.
pub(super) fn split_sources(text: &str) -> Vec<FigureSource> {
    let mut depth = 0_i32;
    let parts = text.split(|c| {
        depth += i32::from(c == '(') - i32::from(c == ')');
        c == ';' && depth <= 0
    });
    let mut found: Vec<FigureSource> = Vec::new();
    for part in parts.map(str::trim).filter(|part| !part.is_empty()) {
        let (of, source) = part.split_once(": ").unwrap_or(("", part));
        let evidence = Evidence::of_source(source);
        match found.last_mut() {
            // "acids: citric …; malic …": more of the same figure.
            Some(last) if of.is_empty() => {
                last.source = format!("{}; {source}", last.source);
                last.evidence = last.evidence.max(evidence);
            }
            _ => found.push(FigureSource {
                of: if of.is_empty() { "all figures".into() } else { of.into() },
                source: source.into(),
                evidence,
            }),
        }
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_figure_keeps_its_own_source() {
        let found = split_sources("water, fat: USDA, “Lemon juice”; acids: estimated 3 to 6");
        assert_eq!((found[0].of.as_str(), found[0].evidence), ("water, fat", Evidence::Table));
        assert_eq!((found[1].of.as_str(), found[1].evidence), ("acids", Evidence::Estimate));
        assert_eq!(found[1].source, "estimated 3 to 6");
    }

    #[test]
    fn what_stands_in_brackets_and_more_of_the_same_stay_together() {
        let found = split_sources("sugars: a split (b; c); acids: a; malic estimated");
        assert_eq!(found.len(), 2);
        assert_eq!(found[0].source, "a split (b; c)");
        assert_eq!(
            (found[1].source.as_str(), found[1].evidence),
            ("a; malic estimated", Evidence::Estimate)
        );
    }

    /// Marks, numbers of entries and names of columns are for whoever keeps the tables, not for a reader.
    #[test]
    fn sources_read_like_sources() {
        let jargon = ["EST", "REC", "LIT", "CHEM", "SR2", "IFCT", "FDC", "meq", "column", "_"];
        let cupboard = crate::cupboard::Cupboard::builtin();
        let sources = cupboard.ingredients().iter().flat_map(|i| &i.sources);
        let odd: Vec<&str> = sources
            .map(|s| s.source.as_str())
            .filter(|source| jargon.iter().any(|mark| source.contains(mark)))
            .collect();
        assert!(odd.is_empty(), "{odd:#?}");
    }
}
