//! What a sitting tells of what isn't sealed: ideals, verdicts, orders, guesses.

use serde::Serialize;

use super::super::compare::{Method, Verdict};
use super::super::find::{self, before, next_ratio};
use super::super::ideal::{Ideal, Prior, Sip, Sureness, fit, next_glass};
use super::super::ladder::{Ladder, Moves, usual_ratio};
use super::super::taster::Notices;
use super::super::tongue::pairs_right;
use super::{Before, Compared, Served, Table, Tasted, Utterance};
use crate::balance::{BalanceMap, Palate};
use crate::drink::Family;

/// A taster's ideal, in words.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct IdealView {
    /// The taster's id.
    pub taster: String,
    /// It.
    pub ideal: Ideal,
    /// The most likely figure.
    pub middle: f64,
    /// The lower end of the likely range, 8 times out of 10.
    pub low: f64,
    /// The upper end, 8 times out of 10.
    pub high: f64,
    /// The certainty.
    pub sureness: Sureness,
    /// In words: "between bright and round, likely 15 to 18 to 1".
    pub words: String,
    /// How many more glasses would settle it.
    pub more: u32,
}

/// The results of a tasting, without hidden contents.
#[derive(Debug, Clone, PartialEq, Default, Serialize, utoipa::ToSchema)]
pub struct Tells {
    /// The ideal of each taster.
    pub ideals: Vec<IdealView>,
    /// The ideal of the group.
    pub group: Option<IdealView>,
    /// The liking for each glass: its position, the mean mark, the number of marks.
    pub liked: Vec<LikedGlass>,
    /// The result of a comparison.
    pub verdict: Option<Verdict>,
    /// How many pairs of the row each taster had in the right order.
    pub in_order: Vec<InOrder>,
    /// The difference that is just noticed.
    pub notices: Option<Notices>,
    /// Guesses, in the order in which they were made.
    pub guesses: Vec<Guess>,
}

/// The liking for a glass.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LikedGlass {
    /// Its position in the row.
    pub glass: usize,
    /// The mean mark.
    pub mean: f64,
    /// How many marks were given.
    pub many: u32,
}

/// A taster's result in sorting a row.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct InOrder {
    /// The taster.
    pub taster: String,
    /// The number of pairs in the right order.
    pub right: u32,
    /// The number of pairs.
    pub of: u32,
}

/// A guess.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Guess {
    /// The ratio that was guessed.
    pub ratio: f64,
    /// The true ratio of the glass.
    pub is: f64,
    /// The distance between the guess and the glass, in noticeable steps.
    pub off: f64,
}

impl Table<'_> {
    /// The family that the row belongs to, if it goes along the ratio: it then tells of every drink of it.
    #[must_use]
    pub fn family(self) -> Option<Family> {
        match &self.sitting.kind {
            Tasted::Ladder { row, .. } if row.moves.is_ratio() => Some(row.drink.family),
            Tasted::Find(_) => Some(find::FAMILY),
            _ => None,
        }
    }

    /// What each seat said of glasses, as far as it may be known where these stand.
    #[must_use]
    pub fn sips(self) -> Vec<Vec<Sip>> {
        let nothing = || vec![Vec::new(); self.sitting.tasters.len()];
        if !self.is_shown() {
            return nothing();
        }
        match &self.sitting.kind {
            Tasted::Find(_) => {
                let of = |who: &String| {
                    let mixed = |word: &Utterance| match word {
                        Utterance::Mixed { taster, x, felt, .. } if taster == who => {
                            Some(Sip { x: *x, felt: Some(*felt), liked: None })
                        }
                        _ => None,
                    };
                    self.standing().filter_map(mixed).collect()
                };
                self.sitting.tasters.iter().map(of).collect()
            }
            Tasted::Ladder { ladder, .. } => {
                let codes = self.row_codes(ladder);
                let of = |seat: usize| {
                    let sip = |before: Before| {
                        let glass = codes.iter().position(|code| *code == before.code)?;
                        let said = before.felt.is_some() || before.liked.is_some();
                        let x = ladder.glasses[glass].x.filter(|_| said)?;
                        Some(Sip { x, felt: before.felt, liked: before.liked })
                    };
                    self.glasses_before(seat).into_iter().filter_map(sip).collect()
                };
                (0..self.sitting.tasters.len()).map(of).collect()
            }
            _ => nothing(),
        }
    }

    pub(super) fn guesses(self, who: Option<&str>) -> Vec<Guess> {
        let guess = |word: &Utterance| match word {
            Utterance::Guessed { taster, ratio, is } if who.is_none_or(|who| who == taster) => {
                let off = ((ratio / is).ln() / (1.0 + Palate::USUAL.sweetness).ln()).abs();
                Some(Guess { ratio: *ratio, is: *is, off })
            }
            _ => None,
        };
        self.standing().filter_map(guess).collect()
    }

    /// Where the ideals are looked for before anybody tastes.
    fn prior(self) -> Option<Prior> {
        match &self.sitting.kind {
            Tasted::Find(_) => Some(before()),
            Tasted::Ladder { row, .. } if row.moves.is_ratio() => {
                Some(Prior::round(usual_ratio(row.drink.family)))
            }
            // For want of anything better: round the glass in the middle, which was the drink.
            Tasted::Ladder { ladder, .. } => {
                let places: Vec<f64> = ladder.glasses.iter().filter_map(|g| g.x).collect();
                let middle = places.get(places.len() / 2)?;
                Some(Prior::round(middle.exp()))
            }
            _ => None,
        }
    }

    /// The results, without hidden contents.
    #[must_use]
    pub fn tells(self) -> Tells {
        let mut tells = Tells::default();
        if !self.is_shown() {
            return tells;
        }
        let sips = self.sips();
        if let Some(prior) = self.prior() {
            let found = fit(&sips, prior);
            let within = (prior.mean - 1.4, prior.mean + 1.4);
            for (seat, ideal) in found.ideals.iter().enumerate() {
                let more = match &self.sitting.kind {
                    Tasted::Find(_) => next_ratio(&sips, seat).1,
                    _ if self.sitting.tasters.len() > 8 => 0,
                    _ => next_glass(&sips, seat, prior, within).more,
                };
                let taster = &self.sitting.tasters[seat];
                tells.ideals.push(self.told(taster, *ideal, more, sips[seat].is_empty()));
            }
            let anybody = sips.iter().any(|s| !s.is_empty());
            tells.group = (anybody && sips.len() > 1).then(|| self.told("", found.group, 0, false));
        }
        if let Some(ladder) =
            self.ladder().filter(|_| matches!(self.sitting.kind, Tasted::Ladder { .. }))
        {
            tells.liked = self.liked(ladder);
        }
        match &self.sitting.kind {
            Tasted::Compare(compared) => tells.verdict = Some(self.verdict(compared)),
            Tasted::Order { ladder, .. } => tells.in_order = self.in_order(ladder),
            Tasted::Tongue(stairs) => {
                tells.notices = Some(stairs.notices(&self.tried(stairs, 0)));
            }
            Tasted::Guess(_) => tells.guesses = self.guesses(None),
            _ => {}
        }
        tells
    }

    fn liked(self, ladder: &Ladder) -> Vec<LikedGlass> {
        let codes = self.row_codes(ladder);
        let before: Vec<Before> =
            (0..self.sitting.tasters.len()).flat_map(|seat| self.glasses_before(seat)).collect();
        codes
            .iter()
            .enumerate()
            .map(|(glass, code)| {
                let marks: Vec<f64> = before
                    .iter()
                    .filter(|b| b.code == *code)
                    .filter_map(|b| b.liked.map(f64::from))
                    .collect();
                let mean = marks.iter().sum::<f64>() / marks.len().max(1) as f64;
                LikedGlass { glass, mean, many: marks.len() as u32 }
            })
            .collect()
    }

    /// Whether a choice is right: the odd one of three, the one that is the same; of a pair the first drink.
    fn is_right(method: Method, Served { glasses, known }: &Served, code: &str) -> bool {
        let Some((_, chosen)) = glasses.iter().skip(*known).find(|(its, _)| its == code) else {
            return false;
        };
        match method {
            Method::Triangle => glasses.iter().filter(|(_, which)| which == chosen).count() == 1,
            Method::DuoTrio => glasses[0].1 == *chosen,
            Method::Pairs => *chosen == 0,
        }
    }

    fn verdict(self, compared: &Compared) -> Verdict {
        let (mut right, mut all) = (0, 0);
        for seat in 0..self.sitting.tasters.len() {
            for (nth, code) in self.chosen_by(seat) {
                let set = self.set(compared, seat, nth);
                right += u64::from(Self::is_right(compared.method, &set, code));
                all += 1;
            }
        }
        compared.method.verdict(right, all)
    }

    fn in_order(self, ladder: &Ladder) -> Vec<InOrder> {
        let codes = self.row_codes(ladder);
        let of = |seat: usize| {
            let it = self.seat(seat);
            let places: Vec<usize> =
                it.ordered.iter().filter_map(|code| codes.iter().position(|c| c == code)).collect();
            let (right, of) = pairs_right(&places);
            (of > 0).then_some(InOrder { taster: it.taster, right, of })
        };
        (0..self.sitting.tasters.len()).filter_map(of).collect()
    }

    fn told(self, taster: &str, ideal: Ideal, more: u32, silent: bool) -> IdealView {
        let (low, high) = ideal.range();
        let sureness = if silent { Sureness::CantTell } else { ideal.sureness() };
        let words = match &self.sitting.kind {
            Tasted::Ladder { row, .. } if !row.moves.is_ratio() => {
                say_figure(&row.moves, low, high, sureness)
            }
            _ => say_ratio(self.family().unwrap_or(find::FAMILY), low, high, sureness),
        };
        let taster = taster.to_owned();
        IdealView { taster, ideal, middle: ideal.x.exp(), low, high, sureness, words, more }
    }
}

/// Where on a family's map an ideal lies, in words.
#[must_use]
pub fn say_ratio(family: Family, low: f64, high: f64, sureness: Sureness) -> String {
    if sureness == Sureness::CantTell {
        return "We can't tell yet.".into();
    }
    let bands = BalanceMap::of(family, None).bands;
    let band = |ratio: f64| {
        bands.iter().rev().find(|band| ratio >= band.ratio_from).map_or("tart", |b| b.name.as_str())
    };
    let (from, to) = (band(low), band(high));
    let place = if from == to { from.to_owned() } else { format!("between {from} and {to}") };
    let range = if (low.round() - high.round()).abs() < 0.5 {
        format!("{low:.0} to 1")
    } else {
        format!("{low:.0} to {high:.0} to 1")
    };
    match sureness {
        Sureness::Settled => format!("{place}, {range}"),
        _ => format!("{place}, likely {range}"),
    }
}

fn say_figure(moves: &Moves, low: f64, high: f64, sureness: Sureness) -> String {
    if sureness == Sureness::CantTell {
        return "We can't tell yet.".into();
    }
    match moves {
        Moves::Strength => format!("likely a sweetness of {low:.1} to {high:.1} g in 100 g"),
        Moves::Steep => format!("likely {low:.1} to {high:.1} times as much as in the drink"),
        Moves::Spirit => format!("likely {low:.1} to {high:.1} % vol"),
        _ => String::new(),
    }
}
