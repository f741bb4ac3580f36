//! One journal: a list of entries that is only ever added to.
//!
//! A batch, a tasting and a bottle are each a beginning and a list of what was said of it since. Nothing is edited
//! and nothing removed: a wrong entry is undone by another entry. So two screens can add at once, nothing that
//! was answered is lost, and what happened can be read for ever.
//!
//! An entry's **id** is its place in the list: it is given once, since nothing is ever taken out, and is what
//! [`Entry::undoes`] names. [`Journal::standing`] gives the entries that count, in their order, each with its id;
//! everything that is derived (a drink as made, what a table tells, what is left in a bottle) is a fold over
//! those. Nobody else looks for what was undone.
//!
//! ```
//! use keen_core::journal::{Entry, Journal};
//!
//! enum Word { Said(&'static str), Undo(usize) }
//! impl Entry for Word {
//!     fn undoes(&self) -> Option<usize> {
//!         match self { Self::Undo(of) => Some(*of), Self::Said(_) => None }
//!     }
//! }
//!
//! let said = [Word::Said("salt"), Word::Said("sugar"), Word::Undo(0)];
//! let stands: Vec<usize> = Journal::of(&said).standing().map(|(id, _)| id).collect();
//! assert_eq!(stands, [1]);
//! ```

/// What a journal is made of.
pub trait Entry {
    /// The id of the entry that this one undoes, if that is what it does.
    fn undoes(&self) -> Option<usize>;
}

/// Why an entry can't be undone.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum CantUndo {
    /// There is no such entry.
    NotThere,
    /// It undoes another one: that one is said again instead.
    IsAnUndo,
}

/// A list of entries, and which of them count.
#[derive(Debug)]
pub struct Journal<'a, E> {
    entries: &'a [E],
    undone: Vec<bool>,
}

impl<'a, E: Entry> Journal<'a, E> {
    /// Reads a list in its order. What undoes an entry that isn't there, or one that undoes itself, does nothing.
    #[must_use]
    pub fn of(entries: &'a [E]) -> Self {
        let mut undone = vec![false; entries.len()];
        for entry in entries {
            if let Some(of) = entry.undoes()
                && entries.get(of).is_some_and(|it| it.undoes().is_none())
            {
                undone[of] = true;
            }
        }
        Self { entries, undone }
    }

    /// The entries that count, in their order, with their ids.
    pub fn standing(&self) -> impl DoubleEndedIterator<Item = (usize, &'a E)> + '_ {
        self.entries
            .iter()
            .enumerate()
            .filter(|(id, entry)| !self.undone[*id] && entry.undoes().is_none())
    }

    /// The same without those that undo others.
    #[must_use]
    pub fn is_undone(&self, id: usize) -> bool {
        self.undone.get(id).copied().unwrap_or(false)
    }

    /// The ids of the entries that were undone.
    #[must_use]
    pub fn undone(&self) -> Vec<usize> {
        (0..self.entries.len()).filter(|id| self.undone[*id]).collect()
    }

    /// Whether an entry can be undone. One that was undone already may be undone again: it changes nothing.
    ///
    /// # Errors
    /// Says why not.
    pub fn may_undo(&self, id: usize) -> Result<&'a E, CantUndo> {
        match self.entries.get(id) {
            None => Err(CantUndo::NotThere),
            Some(entry) if entry.undoes().is_some() => Err(CantUndo::IsAnUndo),
            Some(entry) => Ok(entry),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[derive(Debug, Clone, PartialEq)]
    enum Word {
        Said(u8),
        Undo(usize),
    }

    impl Entry for Word {
        fn undoes(&self) -> Option<usize> {
            match self {
                Self::Undo(of) => Some(*of),
                Self::Said(_) => None,
            }
        }
    }

    fn words() -> impl Strategy<Value = Vec<Word>> {
        let word = prop_oneof![3 => any::<u8>().prop_map(Word::Said), 1 => (0..12_usize).prop_map(Word::Undo)];
        proptest::collection::vec(word, 0..12)
    }

    fn told(words: &[Word]) -> Vec<Word> {
        Journal::of(words).standing().map(|(_, word)| word.clone()).collect()
    }

    proptest! {
        #[test]
        fn saying_and_undoing_is_never_having_said(before in words(), extra in any::<u8>(), after in words()) {
            // Later undos that happen to name the place of the extra word would undo it as well.
            let at = before.len();
            let later: Vec<Word> = after.iter().filter(|w| matches!(w, Word::Said(_))).cloned().collect();
            let without = [before.clone(), later.clone()].concat();
            // An undo before it may name a place that is filled later; those are left out.
            prop_assume!(before.iter().all(|w| w.undoes().is_none_or(|of| of < at)));
            let mut with = [before, vec![Word::Said(extra)], later].concat();
            with.push(Word::Undo(at));
            prop_assert_eq!(told(&with), told(&without));
        }

        #[test]
        fn undoing_in_any_order_is_the_same(said in proptest::collection::vec(any::<u8>(), 1..8), first in 0..8_usize, second in 0..8_usize) {
            let all: Vec<Word> = said.into_iter().map(Word::Said).collect();
            let [one, other] = [[first, second], [second, first]].map(|undone| {
                let undos = undone.iter().map(|of| Word::Undo(*of));
                told(&all.iter().cloned().chain(undos).collect::<Vec<_>>())
            });
            prop_assert_eq!(one, other);
        }
    }

    #[test]
    fn what_undoes_cannot_be_undone() {
        let said = [Word::Said(1), Word::Undo(0), Word::Undo(1)];
        let journal = Journal::of(&said);
        assert_eq!(journal.may_undo(1), Err(CantUndo::IsAnUndo));
        assert_eq!(journal.may_undo(9), Err(CantUndo::NotThere));
        assert_eq!(journal.may_undo(0), Ok(&said[0]));
        assert_eq!((journal.standing().count(), journal.undone()), (0, vec![0]));
    }
}
