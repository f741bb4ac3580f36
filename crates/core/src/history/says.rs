//! What the batches of a drink say together.

use serde::Serialize;

use super::column::{Column, is_far};
use crate::balance::Spot;
use crate::batch::{Learnt, Said, Teaching};
use crate::cupboard::{Cupboard, LotFigure};
use crate::drink::Drink;

/// A batch that is over: what was written, what was said, and the cupboard that it was made from.
#[derive(Debug, Clone)]
pub struct PastBatch {
    /// The drink as it was written for it.
    pub written: Drink,
    /// What was said of it.
    pub said: Vec<Said>,
    /// The cupboard as it was.
    pub cupboard: Cupboard,
}

/// Something that comes again and again.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Saying {
    /// In a sentence.
    pub message: String,
    /// From how many batches.
    pub of: usize,
    /// Where to aim instead, if that would help.
    pub aim: Option<Spot>,
    /// Which minutes to write instead.
    pub write_minutes: Option<WriteMinutes>,
}

/// Minutes that would better be written.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct WriteMinutes {
    /// The step's id.
    pub step: String,
    /// How many.
    pub minutes: f64,
}

/// Nothing is said from fewer.
const LEAST: usize = 3;
/// A habit is what happens in so many of them.
const OFTEN: f64 = 0.6;
/// A mean this far from what was reckoned with is worth a word.
const WORTH: f64 = 0.07;

fn times(count: usize, of: usize) -> String {
    let number = |n: usize| match n {
        1 => "once".to_owned(),
        2 => "two times".to_owned(),
        3 => "three times".to_owned(),
        n => format!("{n} times"),
    };
    if count == of {
        format!("every time, {} in all", number(of).replace("times", "batches"))
    } else {
        format!("{} in {of}", number(count))
    }
}

fn percent(factor: f64) -> String {
    let by = (100.0 * (factor - 1.0)).abs();
    match by {
        b if (28.0..38.0).contains(&b) => "a third".into(),
        b if (45.0..55.0).contains(&b) => "half".into(),
        b => format!("{b:.0} %"),
    }
}

impl PastBatch {
    /// It beside what was written for it.
    #[must_use]
    pub fn column(&self) -> Column {
        Column::of(&self.written, &self.said, &self.cupboard)
    }
}

/// What the batches say, the most often seen first, from their columns in the same order. Nothing from fewer than
/// three.
#[must_use]
pub fn what_they_say(batches: &[PastBatch], columns: &[Column]) -> Vec<Saying> {
    let mut all = Vec::new();
    all.extend(ends(columns));
    all.extend(corrections(batches, columns));
    all.extend(minutes(batches, columns));
    all.extend(fruit_and_pots(batches));
    all.sort_by_key(|saying| std::cmp::Reverse(saying.of));
    all
}

fn saying(message: String, of: usize) -> Saying {
    Saying { message, of, aim: None, write_minutes: None }
}

/// Where they end, against what was written.
fn ends(columns: &[Column]) -> Option<Saying> {
    let known: Vec<(Spot, Spot)> = columns.iter().filter_map(|c| c.ended.zip(c.written)).collect();
    if known.len() < LEAST {
        return None;
    }
    let far: Vec<f64> = known
        .iter()
        .filter(|(is, was)| is_far(*is, *was))
        .map(|(is, was)| is.ratio() / was.ratio())
        .filter(|r| r.is_finite())
        .collect();
    let sharper = far.iter().filter(|r| **r < 0.97).count();
    let sweeter = far.iter().filter(|r| **r > 1.03).count();
    let (count, word) =
        if sharper >= sweeter { (sharper, "sharper") } else { (sweeter, "sweeter") };
    if (count as f64) < OFTEN * known.len() as f64 || count < 2 {
        return None;
    }
    Some(saying(
        format!("It ends {word} than written, {}.", times(count, known.len())),
        known.len(),
    ))
}

/// Which way it is put right.
fn corrections(batches: &[PastBatch], columns: &[Column]) -> Option<Saying> {
    if columns.len() < LEAST {
        return None;
    }
    let towards = |batch: &PastBatch, column: &Column| -> (bool, bool, bool) {
        let mut found = (false, false, false);
        for right in &column.put_right {
            let Some(it) = batch.cupboard.ingredient(&right.ingredient) else { continue };
            let (sweet, sour) = (it.per_gram.sucrose_equivalent().0, it.per_gram.titratable_acid());
            if sour > 0.3 * sweet && sour > 0.01 {
                found.1 = true;
            } else if sweet > 0.2 {
                found.0 = true;
            } else if it.kind == crate::cupboard::Kind::Water {
                found.2 = true;
            }
        }
        found
    };
    let all: Vec<_> = batches.iter().zip(columns).map(|(b, c)| (towards(b, c), c)).collect();
    let count = |pick: fn(&(bool, bool, bool)) -> bool| all.iter().filter(|(t, _)| pick(t)).count();
    let (sweet, sharp, weak) = (count(|t| t.0), count(|t| t.1), count(|t| t.2));
    let (most, word, hint) = [
        (sweet, "sweet", "aim rounder"),
        (sharp, "sharp", "aim brighter"),
        (weak, "weak", "aim lighter"),
    ]
    .into_iter()
    .max_by_key(|(n, ..)| *n)?;
    if (most as f64) < OFTEN * columns.len() as f64 || most < 2 {
        return None;
    }
    let spots: Vec<Spot> = all
        .iter()
        .filter(|(t, _)| match word {
            "sweet" => t.0,
            "sharp" => t.1,
            _ => t.2,
        })
        .filter_map(|(_, c)| c.ended)
        .collect();
    let mean = |of: fn(&Spot) -> f64| spots.iter().map(of).sum::<f64>() / spots.len().max(1) as f64;
    let aim = (!spots.is_empty())
        .then(|| Spot { sweetness: mean(|s| s.sweetness), acidity: mean(|s| s.acidity) });
    let message =
        format!("You put it right towards {word}, {}: {hint}?", times(most, columns.len()));
    Some(Saying { aim, ..saying(message, columns.len()) })
}

/// How long things really stand.
fn minutes(batches: &[PastBatch], columns: &[Column]) -> Vec<Saying> {
    let mut keys: Vec<&str> = columns
        .iter()
        .flat_map(|c| &c.cells)
        .map(|c| c.key.as_str())
        .filter(|k| k.starts_with("minutes/"))
        .collect();
    keys.sort_unstable();
    keys.dedup();
    let mut all = Vec::new();
    for key in keys {
        let cells: Vec<_> =
            columns.iter().flat_map(|c| &c.cells).filter(|c| c.key == key).collect();
        let ratios: Vec<f64> = cells.iter().filter_map(|c| c.times).collect();
        if ratios.len() < LEAST {
            continue;
        }
        let (long, short) = (
            ratios.iter().filter(|r| **r > 1.15).count(),
            ratios.iter().filter(|r| **r < 0.87).count(),
        );
        let count = long.max(short);
        if (count as f64) < OFTEN * ratios.len() as f64 || count < 2 {
            continue;
        }
        let mean = ratios.iter().sum::<f64>() / ratios.len() as f64;
        let step = key.trim_start_matches("minutes/").to_owned();
        let last = cells[cells.len() - 1];
        let written = batches.iter().rev().find_map(|b| {
            let step = b.written.steps.iter().find(|s| s.id == step)?;
            match &step.action {
                crate::drink::Action::Infuse { minutes, .. }
                | crate::drink::Action::Macerate { minutes, .. }
                | crate::drink::Action::Boil { minutes, .. } => Some(*minutes),
                _ => None,
            }
        });
        let Some(written) = written else { continue };
        let really = written * mean;
        let rounded =
            if really >= 20.0 { (really / 5.0).round() * 5.0 } else { really.round().max(1.0) };
        let word = if long >= short { "longer" } else { "shorter" };
        let message = format!(
            "It {} {word} than the {written:.0} min that are written, {}.",
            match last.label.as_str() {
                "boiled" => "boils",
                "under sugar" => "lies under sugar",
                _ => "stands",
            },
            times(count, ratios.len())
        );
        all.push(Saying {
            write_minutes: Some(WriteMinutes { step, minutes: rounded }),
            ..saying(message, ratios.len())
        });
    }
    all
}

/// What fruit gives, and how pots and pieces behave, against what was reckoned with.
fn fruit_and_pots(batches: &[PastBatch]) -> Vec<Saying> {
    let mut found: Vec<(String, f64)> = Vec::new();
    for batch in batches {
        for teaching in Teaching::of(&batch.written, &batch.said, &batch.cupboard, ("", "")) {
            match teaching.taught {
                Learnt::Reading(reading) => {
                    let table = Cupboard::builtin();
                    let Some((produce, size)) = table.size_named(&reading.produce) else {
                        continue;
                    };
                    let Some(usual) = size.juice_yield() else { continue };
                    let factor = reading.juice_ml / (reading.pieces * usual.mean()).max(1e-9);
                    found.push((format!("Your {} give", produce.plural), factor));
                }
                Learnt::Lot(lot) => {
                    let name = |id: &str| {
                        batch
                            .cupboard
                            .ingredient(id)
                            .map_or_else(|| id.to_owned(), |it| it.name.to_lowercase())
                    };
                    let words = match &lot.figure {
                        LotFigure::Acid(id) => format!("The acid of your {} is", name(id)),
                        LotFigure::Sugar(id) => format!("The sugar of your {} is", name(id)),
                        LotFigure::Drawing(id) => format!("Your {} draws", name(id)),
                        LotFigure::Hold => "What you strain keeps back".into(),
                        LotFigure::BoilOff => "Your pots boil away".into(),
                        LotFigure::Cooling => "Things cool for".into(),
                    };
                    found.push((words, lot.factor));
                }
            }
        }
    }
    let mut words: Vec<&String> = found.iter().map(|(w, _)| w).collect();
    words.sort_unstable();
    words.dedup();
    let mut all = Vec::new();
    for word in words {
        let factors: Vec<f64> = found.iter().filter(|(w, _)| w == word).map(|(_, f)| *f).collect();
        if factors.len() < LEAST {
            continue;
        }
        let mean =
            (factors.iter().map(|f| f.max(1e-3).ln()).sum::<f64>() / factors.len() as f64).exp();
        if (mean - 1.0).abs() < WORTH {
            continue;
        }
        let way = if mean > 1.0 { "more" } else { "less" };
        all.push(saying(
            format!(
                "{word} {} {way} than the tables say, by {} batches.",
                percent(mean),
                factors.len()
            ),
            factors.len(),
        ));
    }
    all
}
