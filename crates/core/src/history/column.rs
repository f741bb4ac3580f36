//! One batch beside what was written for it.

use serde::Serialize;

use crate::balance::Spot;
use crate::batch::{BatchReport, Happening, Made, Said, standing};
use crate::belief::Quantity;
use crate::cupboard::Cupboard;
use crate::drink::{Action, Drink, Step};
use crate::quantity::Amount;
use crate::shop::{self, Shopping};
use crate::trace::Trace;

/// A line of a batch: as written and as made.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Cell {
    /// The key of the line, the same in every batch of a drink.
    pub key: String,
    /// Its name.
    pub label: String,
    /// The amount written for this batch; empty if there is none.
    pub written: String,
    /// The amount that was used.
    pub made: String,
    /// The ratio of the used amount to the written one, if both are figures.
    pub times: Option<f64>,
    /// Whether it differs clearly from the recipe.
    pub stands_out: bool,
}

/// A correction that was made to a batch.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct PutRight {
    /// The ingredient's id.
    pub ingredient: String,
    /// Its amount.
    pub amount: Amount,
}

/// A batch as a column of a table.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Column {
    /// Its lines, in the order of the steps.
    pub cells: Vec<Cell>,
    /// The target.
    pub written: Option<Spot>,
    /// The finished drink's place on the map.
    pub ended: Option<Spot>,
    /// Its volume, ml.
    pub ml: f64,
    /// The planned volume, ml.
    pub written_ml: f64,
    /// The whole time, minutes.
    pub minutes: f64,
    /// Notes by guests and makers.
    pub said: Vec<String>,
    /// The corrections.
    pub put_right: Vec<PutRight>,
    /// Readings, and how many were within the expected range.
    pub readings: usize,
    /// The readings within the expected range.
    pub inside: usize,
}

/// From so far off on a figure stands out.
const STANDS_OUT: f64 = 0.1;

fn cell(key: String, label: String, written: String, made: String, times: Option<f64>) -> Cell {
    let stands_out = times.is_some_and(|t| !(1.0 - STANDS_OUT..=1.0 + STANDS_OUT).contains(&t));
    Cell { key, label, written, made, times, stands_out }
}

fn ml(value: f64) -> String {
    if value >= 999.5 { format!("{:.2} l", value / 1000.0) } else { format!("{value:.0} ml") }
}

fn minutes(value: f64) -> String {
    match value {
        v if v >= 180.0 => format!("{:.1} h", v / 60.0),
        v => format!("{v:.0} min"),
    }
}

fn waits(action: &Action) -> Option<(&'static str, f64)> {
    Some(match action {
        Action::Infuse { minutes, .. } => ("steeped", *minutes),
        Action::Macerate { minutes, .. } => ("left under sugar", *minutes),
        Action::Boil { minutes, .. } => ("boiled", *minutes),
        _ => return None,
    })
    .filter(|(_, minutes)| *minutes > 0.0)
}

impl Column {
    /// Reads it off what was written and what was said.
    #[must_use]
    pub fn of(written: &Drink, said: &[Said], cupboard: &Cupboard) -> Self {
        let made = Made::of(written, said, cupboard);
        let end = said.last().map_or(0.0, |s| s.at);
        let report = BatchReport::of(written, &made, cupboard, end);
        let plain = Trace::run(written, cupboard);
        let beside = Beside { written, said, cupboard, made: &made.drink, plain, report };
        let put_right = beside.put_right();
        let there = beside.there();
        let ended = beside.ended();
        let mut cells = beside.steps();
        cells.extend(beside.readings());
        cells.extend(beside.put_right_cell(&put_right));
        cells.push(beside.volume_cell(there));
        cells.extend(beside.cost_cell());
        cells.extend(beside.ended_cell(ended));
        Self {
            cells,
            written: beside.report.written,
            ended,
            ml: there,
            written_ml: beside.report.written_ml,
            minutes: end,
            said: beside.remarks(),
            put_right,
            readings: beside.report.readings.len(),
            inside: beside.report.inside,
        }
    }
}

/// What was written beside what was made of it.
struct Beside<'a> {
    written: &'a Drink,
    said: &'a [Said],
    cupboard: &'a Cupboard,
    made: &'a Drink,
    /// The drink as it is written, run.
    plain: Trace,
    report: BatchReport,
}

impl Beside<'_> {
    fn name(&self, id: &str) -> String {
        self.cupboard.ingredient(id).map_or_else(|| id.to_owned(), |it| it.name.to_lowercase())
    }

    /// Of each step what went in, what came out, and how long it took.
    fn steps(&self) -> Vec<Cell> {
        let now = |step: &Step| self.made.steps.iter().find(|s| s.id == step.id);
        self.written
            .steps
            .iter()
            .enumerate()
            .filter_map(|(at, step)| Some((at, step, now(step)?)))
            .flat_map(|(at, step, now)| {
                [self.amount(step, now), self.came_out(at, step), self.waited(step, now)]
            })
            .flatten()
            .collect()
    }

    fn amount(&self, step: &Step, now: &Step) -> Option<Cell> {
        let brought = step.action.brings()?;
        let amount = brought.amount?;
        let really = match &step.action {
            // What the fruit gave has a line of its own.
            Action::Squeeze { .. } => used(self.said, &step.id).unwrap_or(amount),
            _ => now.action.brings().and_then(|b| b.amount).unwrap_or(amount),
        };
        let weighs = |amount| weight(self.cupboard, brought.ingredient, amount);
        let times = weighs(really).zip(weighs(amount)).map(|(a, b)| a / b.max(1e-9));
        let to = if brought.line { "to " } else { "" };
        Some(cell(
            format!("amount/{}", step.id),
            self.name(brought.ingredient),
            format!("{to}{amount}"),
            format!("{to}{really}"),
            times,
        ))
    }

    fn came_out(&self, at: usize, step: &Step) -> Option<Cell> {
        let mut all = standing(self.said).filter_map(|what| match what {
            Happening::CameOut { step: of, amount } if *of == step.id => amount.as_millilitres(),
            _ => None,
        });
        let gave = all.next_back()?;
        let expected = self.expected_ml(at, step);
        let label = match &step.action {
            Action::Squeeze { ingredient, .. } => {
                let it = self.cupboard.ingredient(ingredient);
                let fruit =
                    it.and_then(|it| self.cupboard.produce_of(it).next()).map(|p| p.plural.clone());
                format!("{} gave", fruit.unwrap_or_else(|| self.name(ingredient)))
            }
            Action::Strain { .. } => "after straining".into(),
            Action::Reduce { .. } => "boiled down to".into(),
            _ => "came out".into(),
        };
        Some(cell(
            format!("gave/{}", step.id),
            label,
            expected.map_or_else(String::new, ml),
            ml(gave),
            expected.map(|e| gave / e.max(1e-9)),
        ))
    }

    /// How much a step gives as it is written.
    fn expected_ml(&self, at: usize, step: &Step) -> Option<f64> {
        if let Action::Squeeze { ingredient, .. } = &step.action {
            let line = self.plain.lines.iter().find(|l| l.step == at && !l.left_over)?;
            let it = self.cupboard.ingredient(ingredient)?;
            return Some(line.grams.0 / it.per_gram.density_at_20());
        }
        let vessel = self.written.vessel(step.action.path().last()?)?;
        self.plain.after(at, vessel).map(|contents| contents.level().0)
    }

    fn waited(&self, step: &Step, now: &Step) -> Option<Cell> {
        let (label, was) = waits(&step.action)?;
        let is = waits(&now.action).map_or(was, |(_, minutes)| minutes);
        Some(cell(
            format!("minutes/{}", step.id),
            label.into(),
            minutes(was),
            minutes(is),
            Some(is / was),
        ))
    }

    /// The last of what was measured of a vessel stands; a juice and the drink that it went into are two things.
    fn readings(&self) -> Vec<Cell> {
        let mut seen: Vec<(Quantity, &str)> = Vec::new();
        let mut cells = Vec::new();
        for reading in self.report.readings.iter().rev() {
            let (quantity, vessel) = (reading.quantity, reading.vessel.as_str());
            if quantity == Quantity::Temperature || seen.contains(&(quantity, vessel)) {
                continue;
            }
            seen.push((quantity, vessel));
            let places = quantity.places(reading.expected);
            let (what, unit) = match quantity {
                Quantity::Brix => ("sugar", ", °Bx"),
                Quantity::Ph => ("pH", ""),
                Quantity::Acidity => ("acid", ", %"),
                Quantity::Volume => ("volume", ", ml"),
                Quantity::Weight => ("weight", ", g"),
                _ => ("depth", ", mm"),
            };
            cells.push(Cell {
                key: format!("reading/{what}/{vessel}"),
                label: format!("{what} in the {}{unit}", vessel.to_lowercase()),
                written: format!("{:.places$}", reading.expected),
                made: format!("{:.places$}", reading.value),
                times: Some(reading.value / reading.expected.max(1e-9)),
                stands_out: !reading.inside,
            });
        }
        cells
    }

    fn put_right(&self) -> Vec<PutRight> {
        let added = standing(self.said).filter_map(|what| match what {
            Happening::Added { ingredient, amount, .. } => {
                Some(PutRight { ingredient: ingredient.clone(), amount: amount.clone() })
            }
            _ => None,
        });
        added.collect()
    }

    fn put_right_cell(&self, with: &[PutRight]) -> Option<Cell> {
        let words = with
            .iter()
            .map(|PutRight { ingredient, amount }| format!("{amount} {}", self.name(ingredient)));
        let made = words.collect::<Vec<_>>().join(", ");
        (!with.is_empty())
            .then(|| cell("right".into(), "corrected with".into(), String::new(), made, None))
    }

    /// How much there was, ml. Of what nobody has made yet the middle of what may be differs from what is written by a
    /// hair.
    fn there(&self) -> f64 {
        match self.said.is_empty() {
            true => self.report.written_ml,
            false => self.report.report.profile.as_ref().map_or(0.0, |p| p.volume_ml),
        }
    }

    fn volume_cell(&self, there: f64) -> Cell {
        let written = self.report.written_ml;
        let times = (written > 0.0).then(|| there / written);
        cell("volume".into(), "volume".into(), ml(written), ml(there), times)
    }

    /// At the prices that the cupboard of that day knew.
    fn cost_cell(&self) -> Option<Cell> {
        let costs = |drink: &Drink| {
            let list = shop::shop(std::slice::from_ref(drink), self.cupboard, Shopping::default());
            list.drinks.first().and_then(|one| one.cost)
        };
        let (was, is) = (costs(self.written)?, costs(self.made)?);
        let sign = &self.cupboard.kitchen().currency;
        let told = |cost: f64| format!("{cost:.2} {sign}").trim_end().to_owned();
        Some(cell("cost".into(), "cost".into(), told(was), told(is), Some(is / was)))
    }

    fn ended(&self) -> Option<Spot> {
        match self.said.is_empty() {
            true => self.report.written,
            false => self.report.report.map.point.as_ref().map(|p| p.spot()),
        }
    }

    fn ended_cell(&self, ended: Option<Spot>) -> Option<Cell> {
        let (is, was) = (ended?, self.report.written?);
        let mut end = cell("ended".into(), "ended at".into(), place(was), place(is), None);
        end.times = Some(is.ratio() / was.ratio()).filter(|t| t.is_finite());
        end.stands_out = is_far(is, was);
        Some(end)
    }

    /// Notes by guests and makers.
    fn remarks(&self) -> Vec<String> {
        let remarks = standing(self.said).filter_map(|what| match what {
            Happening::Note { text, by } if !text.trim().is_empty() => Some(match by.as_str() {
                "" => text.clone(),
                by => format!("{by}: {text}"),
            }),
            Happening::Finished { note, .. } if !note.trim().is_empty() => Some(note.clone()),
            _ => None,
        });
        remarks.collect()
    }
}

/// What was said that really went in.
fn used<'a>(said: &'a [Said], step: &str) -> Option<&'a Amount> {
    standing(said)
        .filter_map(|what| match what {
            Happening::Used { step: of, amount } if of == step => Some(amount),
            _ => None,
        })
        .next_back()
}

/// A place on the map in words: the ratio, or where there is no acid the sweetness.
fn place(spot: Spot) -> String {
    if spot.acidity > 0.02 {
        format!("{:.0} to 1", spot.ratio())
    } else {
        format!("{:.1} g sweet", spot.sweetness)
    }
}

/// Whether most people notice the difference.
pub(super) fn is_far(now: Spot, then: Spot) -> bool {
    crate::balance::differences(now, then) >= 1.0
}

fn weight(cupboard: &Cupboard, ingredient: &str, amount: &Amount) -> Option<f64> {
    amount
        .as_millilitres()
        .or_else(|| {
            cupboard.weigh(cupboard.ingredient(ingredient)?, amount).ok().map(|w| w.grams.0)
        })
        .filter(|w| *w > 0.0)
}
