//! What may be said in a tasting, and when.

use super::{Stage, Table, Tasted, Utterance};
use crate::fault::FieldError;
use crate::journal::Journal;

/// Characters in a remark.
const REMARK: usize = 500;

impl Table<'_> {
    /// Whether that can be said now.
    ///
    /// # Errors
    /// In a sentence, with the field.
    pub fn allows(self, word: &Utterance) -> Result<(), FieldError> {
        let stage = self.stage();
        let not_now = |message: &str| Err(FieldError::new("word", message));
        match (word, stage) {
            (Utterance::Poured, Stage::Pouring) => Ok(()),
            (Utterance::Poured, _) => not_now("The glasses are already poured."),
            (Utterance::Broken, Stage::Over) => not_now("The glasses are already revealed."),
            (Utterance::Broken, Stage::Sealed | Stage::Open) => Ok(()),
            (Utterance::Gone, _) => not_now("Choose one of the offered words."),
            (Utterance::Remark { taster, text }, _) => {
                self.seat_of(taster)?;
                if text.trim().is_empty() {
                    return Err(FieldError::new("word.text", too_long()));
                }
                no_longer_than_a_remark("word.text", text)
            }
            (_, Stage::Pouring) => not_now("Pour the glasses first."),
            (_, Stage::Over) => not_now(
                "The glasses are revealed, so it takes no more answers. Set up a new tasting.",
            ),
            (_, Stage::Sealed | Stage::Open) => self.allows_answer(word),
        }
    }

    /// Whether that is an answer to what this tasting asks.
    fn allows_answer(self, word: &Utterance) -> Result<(), FieldError> {
        match (word, &self.sitting.kind) {
            (Utterance::Answered { taster, code, felt, liked }, Tasted::Ladder { row, .. }) => {
                let seat = self.seat_of(taster)?;
                if !self.glasses_before(seat).iter().any(|b| b.code == *code) {
                    let message = format!("This tasting has no glass {code}.");
                    return Err(FieldError::new("word.code", message));
                }
                if liked.is_some_and(|mark| !(1..=9).contains(&mark)) {
                    return Err(FieldError::new("word.liked", "Enter 1 to 9."));
                }
                if felt.is_some() && row.moves.words().is_none() {
                    return Err(FieldError::new("word.felt", "Rate each glass from 1 to 9."));
                }
                if felt.is_none() && liked.is_none() {
                    return Err(FieldError::new("word", "Enter a word or a rating."));
                }
            }
            (Utterance::Mixed { taster, .. }, Tasted::Find(_)) => {
                self.seat_of(taster)?;
            }
            (Utterance::Guessed { taster, ratio, .. }, Tasted::Guess(_)) => {
                self.seat_of(taster)?;
                if !ratio.is_finite() || !(1.0..=200.0).contains(ratio) {
                    return Err(FieldError::new("word.ratio", "Enter a ratio of 1 to 200."));
                }
            }
            (Utterance::Chose { taster, code, .. }, Tasted::Compare(_) | Tasted::Tongue(_)) => {
                let seat = self.seat_of(taster)?;
                let Some(served) = self.served_to(seat) else {
                    return Err(FieldError::new("word", "This taster has finished."));
                };
                if !served.glasses.iter().skip(served.known).any(|(its, _)| its == code) {
                    let message = format!("Glass {code} isn't this taster's next glass.");
                    return Err(FieldError::new("word.code", message));
                }
            }
            (Utterance::Ordered { taster, codes }, Tasted::Order { ladder, .. }) => {
                let seat = self.seat_of(taster)?;
                let there = self.glasses_before(seat);
                let each = there.iter().all(|b| codes.contains(&b.code));
                if codes.len() != ladder.glasses.len() || !each {
                    return Err(FieldError::new("word.codes", "Place every glass once."));
                }
            }
            (Utterance::Round { ours, note, .. }, Tasted::Match { .. }) => {
                let fine = |v: f64, most: f64| v.is_finite() && (0.0..=most).contains(&v);
                if !fine(ours.sweetness, 70.0) || !fine(ours.acidity, 10.0) {
                    return Err(FieldError::new("word.ours", "Choose a point on the map."));
                }
                no_longer_than_a_remark("word.note", note)?;
            }
            (Utterance::TakenBack { of }, _) => {
                let answer = Journal::of(self.said).may_undo(*of).is_ok_and(|w| {
                    !matches!(w, Utterance::Poured | Utterance::Broken | Utterance::Gone)
                });
                if !answer {
                    return Err(FieldError::new("word.of", "There is nothing to undo."));
                }
            }
            (_, kind) => {
                let message = format!("In this tasting, {}.", asks(kind));
                return Err(FieldError::new("word", message));
            }
        }
        Ok(())
    }
}

/// What a tasting of a kind asks for.
fn asks(kind: &Tasted) -> &'static str {
    match kind {
        Tasted::Ladder { .. } => "tasters answer one glass after another",
        Tasted::Find(_) => "the taster mixes a glass and answers with a word",
        Tasted::Compare(_) | Tasted::Tongue(_) => "the taster chooses one glass",
        Tasted::Order { .. } => "the taster puts the glasses in order",
        Tasted::Guess(_) => "the taster guesses the balance of a glass",
        Tasted::Match { .. } | Tasted::Pitcher { .. } => "tasters don't answer",
    }
}

fn no_longer_than_a_remark(field: &str, text: &str) -> Result<(), FieldError> {
    if text.chars().count() > REMARK {
        return Err(FieldError::new(field, too_long()));
    }
    Ok(())
}

fn too_long() -> String {
    format!("Enter up to {REMARK} characters.")
}
