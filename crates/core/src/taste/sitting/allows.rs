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
        let over = "The glasses are revealed, so it takes no more answers. Set up a new tasting.";
        match word {
            Utterance::Poured if stage != Stage::Pouring => {
                return Err(FieldError::new("word", "The glasses are already poured."));
            }
            Utterance::Broken if stage == Stage::Over => {
                return Err(FieldError::new("word", "The glasses are already revealed."));
            }
            Utterance::Broken if stage == Stage::Pouring => {
                return Err(FieldError::new("word", "Pour the glasses first."));
            }
            Utterance::Poured | Utterance::Broken => return Ok(()),
            Utterance::Gone => {
                return Err(FieldError::new("word", "Choose one of the offered words."));
            }
            Utterance::Remark { taster, text } => {
                self.seat_of(taster)?;
                let many = text.chars().count();
                if text.trim().is_empty() || many > REMARK {
                    let message = format!("Enter up to {REMARK} characters.");
                    return Err(FieldError::new("word.text", message));
                }
                return Ok(());
            }
            _ => {}
        }
        match stage {
            Stage::Over => return Err(FieldError::new("word", over)),
            Stage::Pouring => {
                return Err(FieldError::new("word", "Pour the glasses first."));
            }
            Stage::Sealed | Stage::Open => {}
        }
        let other = |what: &str| Err(FieldError::new("word", format!("In this tasting, {what}.")));
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
                if note.chars().count() > REMARK {
                    let message = format!("Enter up to {REMARK} characters.");
                    return Err(FieldError::new("word.note", message));
                }
            }
            (Utterance::TakenBack { of }, _) => {
                let answer = Journal::of(self.said).may_undo(*of).is_ok_and(|w| {
                    !matches!(w, Utterance::Poured | Utterance::Broken | Utterance::Gone)
                });
                if !answer {
                    return Err(FieldError::new("word.of", "There is nothing to undo."));
                }
            }
            (_, Tasted::Ladder { .. }) => return other("tasters answer one glass after another"),
            (_, Tasted::Find(_)) => {
                return other("the taster mixes a glass and answers with a word");
            }
            (_, Tasted::Compare(_) | Tasted::Tongue(_)) => {
                return other("the taster chooses one glass");
            }
            (_, Tasted::Order { .. }) => return other("the taster puts the glasses in order"),
            (_, Tasted::Guess(_)) => return other("the taster guesses the balance of a glass"),
            (_, Tasted::Match { .. } | Tasted::Pitcher { .. }) => {
                return other("tasters don't answer");
            }
        }
        Ok(())
    }
}
