//! What the batches of a drink say together.
//!
//! Batches differ by chance, and three that went one way are no habit yet. Something is said when the chance that it
//! is so, and large enough to be noticed, is 95 %: of figures by the model of [`crate::cupboard::Pooled`] over the
//! batches, each counting by how well it was measured; of habits by how often they were seen (a Beta distribution).
//! What is advised follows the latest batches.

use std::cmp::Ordering;
use std::collections::BTreeMap;
use std::ops::Range;

use serde::Serialize;
use statrs::distribution::{Beta, ContinuousCDF};

use super::column::Column;
use crate::balance::Spot;
use crate::batch::{Learnt, Said, Teaching};
use crate::cupboard::{Cupboard, Levels, Lot, LotFigure, Pooled, Reading, of_lots};
use crate::drink::{Action, Drink};

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

/// A finding that several batches share.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Saying {
    /// In a sentence.
    pub message: String,
    /// The number of batches that it is based on.
    pub of: usize,
    /// A better target, if one would help.
    pub aim: Option<Spot>,
    /// The minutes to write instead.
    pub write_minutes: Option<WriteMinutes>,
}

/// A better time for the recipe, minutes.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct WriteMinutes {
    /// The step's id.
    pub step: String,
    /// How many.
    pub minutes: f64,
}

/// Nothing is said from fewer.
const LEAST: usize = 3;
/// Something is said when it is so likely.
const SURE: f64 = 0.95;
/// A figure that is off by less than this isn't worth a word.
const WORTH: f64 = 0.07;
/// How far the balance of one batch lies from what was written, as a standard deviation of its logarithm. Estimate.
const ENDS: f64 = 0.15;
/// What is noticed of a balance, as a share.
const NOTICED_RATIO: f64 = 0.10;
/// Waits that are longer or shorter than written by less than this are as written.
const WAITS: f64 = 0.15;

/// How likely something that happened `count` times in `of` happens more often than not, from knowing nothing.
fn habit(count: usize, of: usize) -> f64 {
    let (is, not) = (count as f64 + 1.0, (of - count) as f64 + 1.0);
    Beta::new(is, not).map_or(0.0, |often| often.sf(0.5))
}

/// Whether what this kitchen does on average is surely above what would be noticed, or below it.
fn surely(known: &Pooled, noticed: Range<f64>) -> Option<Ordering> {
    if known.chance_of_mean(noticed.end) >= SURE {
        Some(Ordering::Greater)
    } else if known.chance_of_mean(noticed.start) <= 1.0 - SURE {
        Some(Ordering::Less)
    } else {
        None
    }
}

/// What isn't noticed of a factor that is known by its logarithm.
fn factor_within(share: f64) -> Range<f64> {
    let far = (1.0 + share).ln();
    -far..far
}

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
/// three, and nothing that isn't likely.
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
    let ratios: Vec<f64> =
        known.iter().map(|(is, was)| is.ratio() / was.ratio()).filter(|r| r.is_finite()).collect();
    let before = Pooled::before(0.0, ENDS, Levels::LOTS);
    let seen = ratios.iter().filter(|r| **r > 0.0);
    let ends = seen.fold(before, |known, ratio| known.after(ratio.ln(), 0.0));
    let word = match surely(&ends, factor_within(NOTICED_RATIO))? {
        Ordering::Greater => "sweeter",
        _ => "more sour",
    };
    let there = |r: &&f64| if word == "sweeter" { **r > 1.0 } else { **r < 1.0 };
    let count = ratios.iter().filter(there).count();
    Some(saying(
        format!("It turned out {word} than the recipe {}.", times(count, known.len())),
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
        (sweet, "sweet", "set a sweeter target"),
        (sharp, "sharp", "set a more sour target"),
        (weak, "weak", "set a lighter target"),
    ]
    .into_iter()
    .max_by_key(|(n, ..)| *n)?;
    if habit(most, columns.len()) < SURE {
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
    let did = match word {
        "sweet" => "added something sweet",
        "sharp" => "added something sour",
        _ => "diluted it",
    };
    let message = format!("You {did} {}: {hint}?", times(most, columns.len()));
    Some(Saying { aim, ..saying(message, columns.len()) })
}

/// How long things really stand: advice only where the latest batches go the same way.
fn minutes(batches: &[PastBatch], columns: &[Column]) -> Vec<Saying> {
    let mut keys: Vec<&str> = columns
        .iter()
        .flat_map(|c| &c.cells)
        .map(|c| c.key.as_str())
        .filter(|k| k.starts_with("minutes/"))
        .collect();
    keys.sort_unstable();
    keys.dedup();
    keys.into_iter().filter_map(|key| wait(batches, columns, key)).collect()
}

/// The minutes that a step is written with.
fn minutes_of(drink: &Drink, step: &str) -> Option<f64> {
    match &drink.steps.iter().find(|s| s.id == step)?.action {
        Action::Infuse { minutes, .. }
        | Action::Macerate { minutes, .. }
        | Action::Boil { minutes, .. } => Some(*minutes),
        _ => None,
    }
}

/// How long one step really takes, if that is surely another time than is written now.
fn wait(batches: &[PastBatch], columns: &[Column], key: &str) -> Option<Saying> {
    let step = key.trim_start_matches("minutes/");
    let written = batches.iter().rev().find_map(|b| minutes_of(&b.written, step))?;
    // So many minutes each time, the latest last.
    let mut took = Vec::new();
    let mut label = "";
    for (batch, column) in batches.iter().zip(columns) {
        let Some(cell) = column.cells.iter().find(|c| c.key == key) else { continue };
        let Some((times, then)) = cell.times.zip(minutes_of(&batch.written, step)) else {
            continue;
        };
        took.push(times * then);
        label = cell.label.as_str();
    }
    if took.len() < LEAST {
        return None;
    }
    let way = |minutes: f64| match minutes / written {
        r if r > 1.0 + WAITS => 1,
        r if r < 1.0 - WAITS => -1,
        _ => 0,
    };
    let last = way(*took.last()?);
    let count = took.iter().filter(|m| way(**m) == last).count();
    if last == 0 || way(took[took.len() - 2]) != last || habit(count, took.len()) < SURE {
        return None;
    }
    // Each batch counts for half of the one after it.
    let weight = |i: usize| 0.5_f64.powi((took.len() - 1 - i) as i32);
    let all: f64 = (0..took.len()).map(weight).sum();
    let really = took.iter().enumerate().map(|(i, m)| weight(i) * m).sum::<f64>() / all;
    let rounded =
        if really >= 20.0 { (really / 5.0).round() * 5.0 } else { really.round().max(1.0) };
    let word = if last > 0 { "longer" } else { "shorter" };
    let does = match label {
        "boiled" => "boil it",
        "left under sugar" => "leave it under sugar",
        _ => "leave it",
    };
    let message = format!(
        "You {does} {word} than the {written:.0} min in the recipe, {}.",
        times(count, took.len())
    );
    Some(Saying {
        write_minutes: Some(WriteMinutes { step: step.to_owned(), minutes: rounded }),
        ..saying(message, took.len())
    })
}

/// What fruit gives, and how pots and pieces behave, against what the tables say.
fn fruit_and_pots(batches: &[PastBatch]) -> Vec<Saying> {
    let mut readings: BTreeMap<String, Vec<Reading>> = BTreeMap::new();
    let mut lots: Vec<Lot> = Vec::new();
    for (i, batch) in batches.iter().enumerate() {
        let of = i.to_string();
        for teaching in Teaching::of(&batch.written, &batch.said, &batch.cupboard, &of, "") {
            match teaching.taught {
                Learnt::Reading(reading) => {
                    readings.entry(reading.produce.clone()).or_default().push(reading);
                }
                Learnt::Lot(lot) => lots.push(lot),
            }
        }
    }
    let mut all = Vec::new();
    for (key, readings) in &readings {
        let Some((produce, size)) = Cupboard::builtin().size_named(key) else { continue };
        let Some(known) = size.yield_by(readings).filter(|_| readings.len() >= LEAST) else {
            continue;
        };
        let usual = size.juice_yield().map_or(known.mean(), |usual| usual.mean());
        let noticed = usual * (1.0 - WORTH)..usual * (1.0 + WORTH);
        let Some(way) = surely(known.of_one(), noticed) else { continue };
        let way = if way == Ordering::Greater { "more" } else { "less" };
        let by = percent(known.mean() / usual);
        let message = format!(
            "Your {} gave {by} {way} juice than usual ({} batches).",
            produce.plural,
            readings.len()
        );
        all.push(saying(message, readings.len()));
    }
    let mut figures: Vec<&LotFigure> = Vec::new();
    for lot in &lots {
        if !figures.contains(&&lot.figure) {
            figures.push(&lot.figure);
        }
    }
    for figure in figures {
        let of: Vec<&Lot> = lots.iter().filter(|lot| lot.figure == *figure).collect();
        let Some(known) = of_lots(of.iter().copied()).filter(|_| of.len() >= LEAST) else {
            continue;
        };
        let Some(way) = surely(&known, factor_within(WORTH)) else { continue };
        let more = way == Ordering::Greater;
        let message = figure_in_words(figure, &percent(known.mean.exp()), more, batches);
        all.push(saying(format!("{message} ({} batches).", of.len()), of.len()));
    }
    all
}

fn figure_in_words(figure: &LotFigure, by: &str, more: bool, batches: &[PastBatch]) -> String {
    let way = if more { "more" } else { "less" };
    let name = |id: &str| {
        let known = batches.iter().find_map(|b| b.cupboard.ingredient(id));
        known.map_or_else(|| id.to_owned(), |it| it.name.to_lowercase())
    };
    match figure {
        LotFigure::Acid(id) => format!("Your {} had {by} {way} acid than usual", name(id)),
        LotFigure::Sugar(id) => format!("Your {} had {by} {way} sugar than usual", name(id)),
        LotFigure::Drawing(id) => {
            let way = if more { "faster" } else { "slower" };
            format!("Your {} extracted {by} {way} than usual", name(id))
        }
        LotFigure::Hold => format!("What you strain holds {by} {way} liquid than usual"),
        LotFigure::BoilOff => format!("Your pots boil away {by} {way} water than expected"),
        LotFigure::Cooling => {
            let way = if more { "longer" } else { "less" };
            format!("Cooling takes {by} {way} in your kitchen than expected")
        }
    }
}
