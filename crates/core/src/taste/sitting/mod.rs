//! A sitting: what was set up to be tasted, and what was said in the tasting since.
//!
//! What is said is only ever added to, as in a batch; everything shown is read off the two. A blind
//! sitting has three stages: while it is poured the sheet says what goes under which code; from then on
//! the key is sealed for everybody, until it is broken; then it is shown with what it tells, and no more
//! answers are taken.

mod allows;
mod tells;

pub use tells::{Guess, IdealView, InOrder, LikedGlass, Tells, say_ratio};

use rand::rngs::StdRng;
use rand::seq::SliceRandom;
use rand::{Rng, SeedableRng};
use serde::{Deserialize, Serialize};

use super::compare::Method;
use super::design::{PAIRS, TRIANGLES, TRIOS, codes, codes_apart, order, served};
use super::find::Finding;
use super::ideal::Felt;
use super::ladder::{Ladder, Row};
use super::reference::Reference;
use super::tongue::{Staircase, Tried};
use crate::balance::Spot;
use crate::drink::Drink;
use crate::fault::FieldError;
use crate::journal::{Entry, Journal};

/// What was set up.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Sitting {
    /// The subject of the tasting.
    pub kind: Tasted,
    /// The ids of the tasters, in order.
    pub tasters: Vec<String>,
    /// Where codes and orders come from.
    pub seed: u64,
    /// The codes and orders themselves, from when it was set up.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub dealt: Option<Dealt>,
    /// Whether the contents are hidden from the tasters.
    pub blind: bool,
}

/// Codes and orders, as they were dealt once. They are kept, so that no version of the program ever deals a
/// finished tasting anew.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Dealt {
    /// What is on each glass of the row, from little to much.
    pub codes: Vec<String>,
    /// The order of the row for each who tastes.
    pub orders: Vec<Vec<usize>>,
    /// Of two drinks that are compared: for each who tastes, and each of their tastings, what is on each glass
    /// and which of the two is in it.
    pub sets: Vec<Vec<Vec<(String, usize)>>>,
}

impl Sitting {
    /// Deals codes and orders, unless they have been. The glasses get other names before they are put into the
    /// square that their orders come from: who sees all orders, and knows how such squares are made, still
    /// doesn't know which glass is which.
    pub fn deal(&mut self, secret: &mut impl Rng) {
        if self.dealt.is_some() {
            return;
        }
        self.deal_as_older();
        let Some(dealt) = &mut self.dealt else { return };
        let mut names: Vec<usize> = (0..dealt.codes.len()).collect();
        names.shuffle(secret);
        for glass in dealt.orders.iter_mut().flatten() {
            *glass = names[*glass];
        }
        let counts: Vec<usize> = dealt.sets.iter().flatten().map(Vec::len).collect();
        let mut codes = codes_apart(&counts, secret).into_iter().flatten();
        for (code, _) in dealt.sets.iter_mut().flatten().flatten() {
            if let Some(other) = codes.next() {
                *code = other;
            }
        }
    }

    /// Deals codes and orders of a tasting that was started when they were worked out of its seed each time.
    pub fn deal_as_older(&mut self) {
        if self.dealt.is_some() {
            return;
        }
        let table = Table::of(self, &[]);
        let seats = 0..self.tasters.len();
        let (codes, orders) = match table.ladder() {
            Some(ladder) => {
                let codes = table.row_codes(ladder);
                let orders = seats.clone().map(|seat| table.order_of(seat, codes.len())).collect();
                (codes, orders)
            }
            None => (Vec::new(), Vec::new()),
        };
        let sets = match &self.kind {
            Tasted::Compare(compared) => seats
                .map(|seat| {
                    let all = 0..compared.times as usize;
                    all.map(|nth| table.set(compared, seat, nth).glasses).collect()
                })
                .collect(),
            _ => Vec::new(),
        };
        self.dealt = Some(Dealt { codes, orders, sets });
    }
}

/// What is tasted, and what for.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
#[allow(clippy::large_enum_variant, reason = "there is one of it at a time")]
pub enum Tasted {
    /// A row of glasses that differ in one thing: where is it best?
    Ladder {
        /// What was wanted.
        row: Row,
        /// The row.
        ladder: Ladder,
    },
    /// A taster's own balance, glass by glass from three jugs.
    Find(Finding),
    /// Whether two drinks taste different.
    Compare(Compared),
    /// The smallest difference that a taster notices.
    Tongue(Staircase),
    /// Where a glass is on the map.
    Guess(Finding),
    /// A row of blind glasses, to be put in order.
    Order {
        /// What was wanted.
        row: Row,
        /// The row.
        ladder: Ladder,
    },
    /// A drink that is to be matched, in rounds.
    Match {
        /// The taster's own drink, as it was at first.
        drink: Drink,
        /// The other one.
        reference: Reference,
    },
    /// One pitcher for all who sit there.
    Pitcher {
        /// The drink.
        drink: Drink,
    },
}

/// Two drinks that are compared.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Compared {
    /// How.
    pub method: Method,
    /// The name of the first drink.
    pub first: String,
    /// The name of the second drink.
    pub second: String,
    /// The question for a pair: "sweeter".
    #[serde(default)]
    pub more: String,
    /// How often each taster tastes, 1 to 12.
    pub times: u32,
    /// The volume in a glass, ml.
    pub sample_ml: f64,
}

/// An answer in the tasting.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Utterance {
    /// All glasses are poured. From now on their contents are hidden.
    Poured,
    /// A taster's answer about a glass. For the same glass, the last answer counts.
    Answered {
        /// The taster.
        taster: String,
        /// The glass's label.
        code: String,
        /// In a word.
        #[serde(default)]
        felt: Option<Felt>,
        /// The mark for liking, 1 to 9.
        #[serde(default)]
        liked: Option<u8>,
    },
    /// A taster's word for a glass mixed from the three jugs.
    Mixed {
        /// The taster.
        taster: String,
        /// Teaspoons from each jug.
        spoons: [u32; 3],
        /// The logarithm of its ratio. Worked out, not entered.
        #[serde(default)]
        x: f64,
        /// In a word.
        felt: Felt,
    },
    /// The glass chosen in a comparison or in the staircase test.
    Chose {
        /// The taster.
        taster: String,
        /// The glass's label.
        code: String,
        /// The number of this taster's tasting, from 0. Worked out, not entered.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        nth: Option<u32>,
        /// For a staircase test: the level, and whether the answer was right. Worked out, not entered.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        tried: Option<Tried>,
    },
    /// A taster's order of a row.
    Ordered {
        /// The taster.
        taster: String,
        /// The codes, from the least to the most.
        codes: Vec<String>,
    },
    /// A guess at a glass's balance.
    Guessed {
        /// The taster.
        taster: String,
        /// The ratio that was guessed.
        ratio: f64,
        /// The true ratio. Worked out, not entered.
        #[serde(default)]
        is: f64,
    },
    /// The taster's own drink was changed and tasted beside the other one again.
    Round {
        /// The present place on the map.
        ours: Spot,
        /// The other drink's taste beside it.
        beside: Vec<crate::balance::Doubt>,
        /// In words.
        #[serde(default)]
        note: String,
    },
    /// A note, up to 500 characters.
    Remark {
        /// The taster.
        taster: String,
        /// The text of the note.
        text: String,
    },
    /// The glasses are revealed: no more answers.
    Broken,
    /// This answer belonged to a deleted taster.
    Gone,
    /// Undo the answer at this position.
    TakenBack {
        /// The place.
        of: usize,
    },
}

/// The stage of a tasting.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[derive(utoipa::ToSchema)]
pub enum Stage {
    /// Glasses are poured; the sheet is shown.
    Pouring,
    /// It is tasted, and the key is sealed.
    Sealed,
    /// It is tasted, and everybody may know what is in the glasses.
    Open,
    /// It is over.
    Over,
}

/// A taster's next glass.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Before {
    /// Its text.
    pub code: String,
    /// The answer.
    pub felt: Option<Felt>,
    /// The mark that they gave it.
    pub liked: Option<u8>,
}

/// A taster's present glasses and questions.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Seat {
    /// The taster.
    pub taster: String,
    /// The glasses, in the order in which they are tasted.
    pub glasses: Vec<Before>,
    /// How many tastings they have done.
    pub done: u32,
    /// The planned number, if any.
    pub of: Option<u32>,
    /// Whether they have finished.
    pub finished: bool,
    /// The order in which this taster sorted the glasses.
    pub ordered: Vec<String>,
    /// Their notes.
    pub remarks: Vec<String>,
}

/// The contents of a coded glass.
#[derive(Debug, Clone, PartialEq, Serialize, utoipa::ToSchema)]
pub struct KeyLine {
    /// The taster who gets it; all tasters if left out.
    pub taster: Option<String>,
    /// The number of this taster's tasting, from 0.
    pub nth: u32,
    /// Its text.
    pub code: String,
    /// The glass's position in the row; in a comparison 0 or 1.
    pub glass: usize,
    /// Its name.
    pub name: String,
}

/// What stands before somebody whose choice is asked.
struct Served {
    /// What stands on each glass, and which of the two is in it.
    glasses: Vec<(String, usize)>,
    /// So many of the first are known to be what they are.
    known: usize,
}

/// A sitting, and what was said: everything that is shown is read off here.
#[derive(Debug, Clone, Copy)]
pub struct Table<'a> {
    sitting: &'a Sitting,
    said: &'a [Utterance],
}

impl Entry for Utterance {
    fn undoes(&self) -> Option<usize> {
        match self {
            Self::TakenBack { of } => Some(*of),
            _ => None,
        }
    }
}

impl<'a> Table<'a> {
    /// Of a sitting and what was said, in order.
    #[must_use]
    pub fn of(sitting: &'a Sitting, said: &'a [Utterance]) -> Self {
        Self { sitting, said }
    }

    /// What counts of what was said.
    fn standing(self) -> impl DoubleEndedIterator<Item = &'a Utterance> {
        let journal = Journal::of(self.said);
        let stands: Vec<&'a Utterance> = journal.standing().map(|(_, word)| word).collect();
        stands.into_iter()
    }

    /// Whether there is a row or a pair that has to be poured before anybody comes.
    fn is_poured_first(self) -> bool {
        !matches!(
            self.sitting.kind,
            Tasted::Find(_) | Tasted::Match { .. } | Tasted::Pitcher { .. }
        )
    }

    /// The stage.
    #[must_use]
    pub fn stage(self) -> Stage {
        let is = |wanted: &Utterance| self.standing().any(|word| word == wanted);
        if is(&Utterance::Broken) {
            Stage::Over
        } else if !self.is_poured_first() {
            Stage::Open
        } else if !is(&Utterance::Poured) {
            Stage::Pouring
        } else if self.sitting.blind {
            Stage::Sealed
        } else {
            Stage::Open
        }
    }

    /// Whether there is something that those who taste mustn't know yet: what is in glasses that chance chose.
    #[must_use]
    pub fn is_secret(self) -> bool {
        let by_chance = match self.sitting.kind {
            Tasted::Find(_) | Tasted::Match { .. } | Tasted::Pitcher { .. } => false,
            Tasted::Ladder { .. } => self.sitting.blind,
            Tasted::Compare(_) | Tasted::Tongue(_) | Tasted::Guess(_) | Tasted::Order { .. } => {
                true
            }
        };
        by_chance && self.stage() != Stage::Over
    }

    /// Whether those who taste may know what is in the glasses.
    fn is_shown(self) -> bool {
        matches!(self.stage(), Stage::Open | Stage::Over)
    }

    fn seat_of(self, taster: &str) -> Result<usize, FieldError> {
        self.sitting
            .tasters
            .iter()
            .position(|id| id == taster)
            .ok_or_else(|| FieldError::new("word.taster", "That person isn't in this tasting."))
    }

    /// Codes of the row's glasses, from little to much.
    fn row_codes(self, ladder: &Ladder) -> Vec<String> {
        match &self.sitting.dealt {
            Some(dealt) => dealt.codes.clone(),
            None => codes(ladder.glasses.len(), &mut StdRng::seed_from_u64(self.sitting.seed)),
        }
    }

    /// In which order somebody tastes the row.
    fn order_of(self, seat: usize, glasses: usize) -> Vec<usize> {
        let dealt = self.sitting.dealt.as_ref().and_then(|dealt| dealt.orders.get(seat).cloned());
        dealt.unwrap_or_else(|| {
            let mut rng = StdRng::seed_from_u64(self.sitting.seed ^ 0x0a0a);
            order(glasses, seat, &mut rng)
        })
    }

    fn ladder(self) -> Option<&'a Ladder> {
        match &self.sitting.kind {
            Tasted::Ladder { ladder, .. } | Tasted::Order { ladder, .. } => Some(ladder),
            _ => None,
        }
    }

    /// The row before somebody, in their order, with what they said of each.
    fn glasses_before(self, seat: usize) -> Vec<Before> {
        let Some(ladder) = self.ladder() else { return Vec::new() };
        let codes = self.row_codes(ladder);
        let who = &self.sitting.tasters[seat];
        self.order_of(seat, codes.len())
            .into_iter()
            .map(|glass| {
                let mut before = Before { code: codes[glass].clone(), felt: None, liked: None };
                for word in self.standing() {
                    if let Utterance::Answered { taster, code, felt, liked } = word
                        && taster == who
                        && *code == before.code
                    {
                        before.felt = felt.or(before.felt);
                        before.liked = liked.or(before.liked);
                    }
                }
                before
            })
            .collect()
    }

    /// What somebody chose, each with which of their tastings it was. A choice belongs to the tasting that it was
    /// made in, whatever was undone since; where that isn't kept, it is the first that has such a glass.
    fn chosen_by(self, seat: usize) -> Vec<(usize, &'a str)> {
        let who = &self.sitting.tasters[seat];
        let mut chosen: Vec<(usize, &str)> = Vec::new();
        for word in self.standing() {
            let Utterance::Chose { taster, code, nth, .. } = word else { continue };
            if taster != who {
                continue;
            }
            let free = |nth: &usize| !chosen.iter().any(|(taken, _)| taken == nth);
            let nth = match (nth, &self.sitting.kind) {
                (Some(nth), _) => *nth as usize,
                (None, Tasted::Compare(compared)) => {
                    let has_it = |nth: &usize| {
                        let set = self.set(compared, seat, *nth);
                        set.glasses.iter().skip(set.known).any(|(its, _)| its == code)
                    };
                    let all = 0..compared.times as usize;
                    all.clone()
                        .filter(free)
                        .find(has_it)
                        .or_else(|| all.clone().find(free))
                        .unwrap_or(chosen.len())
                }
                (None, _) => chosen.len(),
            };
            chosen.push((nth, code));
        }
        chosen
    }

    /// How the stairs were walked by somebody.
    fn tried(self, stairs: &Staircase, seat: usize) -> Vec<Tried> {
        let who = &self.sitting.tasters[seat];
        let mut tried: Vec<Tried> = Vec::new();
        let choices = self.standing().filter_map(|word| match word {
            Utterance::Chose { taster, code, tried, .. } if taster == who => Some((code, tried)),
            _ => None,
        });
        for (nth, (code, kept)) in choices.enumerate() {
            if let Some(kept) = kept {
                tried.push(*kept);
                continue;
            }
            let Some(stair) = stairs.stair(&tried) else { break };
            let trial = stairs.trial(stair, nth, self.sitting.seed ^ seat as u64);
            tried.push(Tried { stair, right: trial.codes[trial.answer] == *code });
        }
        tried
    }

    /// The first of somebody's tastings that has no answer yet.
    fn next_of(self, seat: usize) -> usize {
        let chosen = self.chosen_by(seat);
        match &self.sitting.kind {
            // On the stairs no trial comes twice, so that no code does.
            Tasted::Tongue(_) => chosen.iter().map(|(nth, _)| nth + 1).max().unwrap_or(0),
            _ => (0..).find(|nth| !chosen.iter().any(|(taken, _)| taken == nth)).unwrap_or(0),
        }
    }

    /// What is kept of a choice besides what was said: which of their tastings it was, and on the stairs what
    /// was tried.
    #[must_use]
    pub fn as_kept(self, word: Utterance) -> Utterance {
        let Utterance::Chose { taster, code, .. } = &word else { return word };
        let Ok(seat) = self.seat_of(taster) else { return word };
        let nth = self.next_of(seat);
        let tried = match &self.sitting.kind {
            Tasted::Tongue(stairs) => stairs.stair(&self.tried(stairs, seat)).map(|stair| {
                let trial = stairs.trial(stair, nth, self.sitting.seed ^ seat as u64);
                Tried { stair, right: trial.codes[trial.answer] == *code }
            }),
            _ => None,
        };
        let (taster, code) = (taster.clone(), code.clone());
        Utterance::Chose { taster, code, nth: u32::try_from(nth).ok(), tried }
    }

    /// The choices that don't yet keep which tasting they were made in, with their ids, as they are to be kept.
    #[must_use]
    pub fn choices_to_keep(self) -> Vec<(usize, Utterance)> {
        let journal = Journal::of(self.said);
        let mut all = Vec::new();
        for (seat, who) in self.sitting.tasters.iter().enumerate() {
            let theirs = journal.standing().filter_map(|(id, word)| match word {
                Utterance::Chose { taster, code, nth, .. } if taster == who => {
                    Some((id, code, nth.is_some()))
                }
                _ => None,
            });
            let tried = match &self.sitting.kind {
                Tasted::Tongue(stairs) => self.tried(stairs, seat),
                _ => Vec::new(),
            };
            for (at, ((id, code, is_kept), (nth, _))) in
                theirs.zip(self.chosen_by(seat)).enumerate()
            {
                if !is_kept {
                    let (taster, code) = (who.clone(), code.clone());
                    let nth = u32::try_from(nth).ok();
                    let tried = tried.get(at).copied();
                    all.push((id, Utterance::Chose { taster, code, nth, tried }));
                }
            }
        }
        all
    }

    /// What is served to somebody as their `nth` tasting of two drinks.
    fn set(self, compared: &Compared, seat: usize, nth: usize) -> Served {
        let place = nth * self.sitting.tasters.len() + seat;
        let mut rng = StdRng::seed_from_u64(self.sitting.seed);
        let (which, known): (Vec<usize>, usize) = match compared.method {
            Method::Triangle => (served(&TRIANGLES, place, &mut rng).to_vec(), 0),
            Method::Pairs => (served(&PAIRS, place, &mut rng).to_vec(), 0),
            Method::DuoTrio => (served(&TRIOS, place, &mut rng).to_vec(), 1),
        };
        let dealt = self.sitting.dealt.as_ref();
        if let Some(glasses) = dealt.and_then(|dealt| dealt.sets.get(seat)?.get(nth)) {
            return Served { glasses: glasses.clone(), known };
        }
        let own = self.sitting.seed ^ (place as u64 + 1).wrapping_mul(0x2545_f491);
        let codes = codes(which.len(), &mut StdRng::seed_from_u64(own));
        Served { glasses: codes.into_iter().zip(which).collect(), known }
    }

    /// What stands before somebody now; nothing when they are through.
    fn served_to(self, seat: usize) -> Option<Served> {
        let nth = self.next_of(seat);
        match &self.sitting.kind {
            Tasted::Compare(compared) => {
                (nth < compared.times as usize).then(|| self.set(compared, seat, nth))
            }
            Tasted::Tongue(stairs) => {
                let stair = stairs.stair(&self.tried(stairs, seat))?;
                let trial = stairs.trial(stair, nth, self.sitting.seed ^ seat as u64);
                let stronger = trial.stronger.iter().map(|s| usize::from(*s));
                Some(Served { glasses: trial.codes.into_iter().zip(stronger).collect(), known: 0 })
            }
            _ => None,
        }
    }

    /// The stair that somebody stands on, for the one who pours; none when it is over.
    #[must_use]
    pub fn stair(self, seat: usize) -> Option<usize> {
        match &self.sitting.kind {
            Tasted::Tongue(stairs) if seat < self.sitting.tasters.len() => {
                stairs.stair(&self.tried(stairs, seat))
            }
            _ => None,
        }
    }

    /// Each taster's present glasses and questions.
    #[must_use]
    pub fn seats(self) -> Vec<Seat> {
        (0..self.sitting.tasters.len()).map(|seat| self.seat(seat)).collect()
    }

    fn seat(self, seat: usize) -> Seat {
        let who = &self.sitting.tasters[seat];
        let remarks = self.standing().filter_map(|word| match word {
            Utterance::Remark { taster, text } if taster == who => Some(text.clone()),
            _ => None,
        });
        let mut ordered = self.standing().filter_map(|word| match word {
            Utterance::Ordered { taster, codes } if taster == who => Some(codes.clone()),
            _ => None,
        });
        let mut it = Seat {
            taster: who.clone(),
            glasses: self.glasses_before(seat),
            done: 0,
            of: None,
            finished: false,
            ordered: ordered.next_back().unwrap_or_default(),
            remarks: remarks.collect(),
        };
        match &self.sitting.kind {
            Tasted::Ladder { .. } => {
                let said = |b: &&Before| b.felt.is_some() || b.liked.is_some();
                it.done = it.glasses.iter().filter(said).count() as u32;
                it.of = Some(it.glasses.len() as u32);
                it.finished = it.done as usize == it.glasses.len();
            }
            Tasted::Order { .. } => {
                it.of = Some(1);
                it.finished = !it.ordered.is_empty();
                it.done = u32::from(it.finished);
            }
            Tasted::Compare(_) | Tasted::Tongue(_) => {
                it.done = self.chosen_by(seat).len() as u32;
                if let Tasted::Compare(compared) = &self.sitting.kind {
                    it.of = Some(compared.times);
                }
                let served = self.served_to(seat);
                it.finished = served.is_none();
                let plain = |(code, _)| Before { code, felt: None, liked: None };
                it.glasses = served.into_iter().flat_map(|s| s.glasses).map(plain).collect();
            }
            Tasted::Find(_) => it.done = self.sips()[seat].len() as u32,
            Tasted::Guess(_) => it.done = self.guesses(Some(who)).len() as u32,
            Tasted::Match { .. } | Tasted::Pitcher { .. } => {}
        }
        it
    }

    /// What is under which code: for the one who pours while it is poured, and for all once it is shown.
    #[must_use]
    pub fn key(self) -> Vec<KeyLine> {
        let line = |taster: Option<&String>, nth: u32, code: String, glass: usize, name: String| {
            KeyLine { taster: taster.cloned(), nth, code, glass, name }
        };
        match &self.sitting.kind {
            Tasted::Ladder { ladder, .. } | Tasted::Order { ladder, .. } => self
                .row_codes(ladder)
                .into_iter()
                .zip(&ladder.glasses)
                .enumerate()
                .map(|(i, (code, glass))| line(None, 0, code, i, glass.name.clone()))
                .collect(),
            Tasted::Compare(compared) => {
                let mut all = Vec::new();
                for nth in 0..compared.times {
                    for (seat, taster) in self.sitting.tasters.iter().enumerate() {
                        for (code, which) in self.set(compared, seat, nth as usize).glasses {
                            let name = [&compared.first, &compared.second][which.min(1)].clone();
                            all.push(line(Some(taster), nth, code, which, name));
                        }
                    }
                }
                all
            }
            Tasted::Tongue(_) => {
                let mut all = Vec::new();
                for (seat, taster) in self.sitting.tasters.iter().enumerate() {
                    let nth = self.next_of(seat) as u32;
                    let served = self.served_to(seat).into_iter().flat_map(|s| s.glasses);
                    for (code, which) in served {
                        let name = ["plain", "stronger"][which.min(1)].to_owned();
                        all.push(line(Some(taster), nth, code, which, name));
                    }
                }
                all
            }
            _ => Vec::new(),
        }
    }
}
