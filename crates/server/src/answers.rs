//! The answers that were given under keys, as they are remembered in memory.

use std::collections::HashMap;
use std::sync::Arc;

use keen_store::Answer;
use parking_lot::Mutex;

/// Answers that are remembered in memory; as many are in the data file.
const MOST: usize = 500;

/// The answers that were given under keys.
#[derive(Debug, Default)]
pub(crate) struct Answers(Mutex<HashMap<String, Given>>);

#[derive(Debug, Clone)]
enum Given {
    /// It is being worked on; what was asked has that hash.
    Not(Vec<u8>),
    Yes(Arc<Answer>),
}

/// What is to be done with a request under a key.
pub(crate) enum Turn {
    Do,
    Wait,
    Same(Arc<Answer>),
    Other,
}

impl Answers {
    /// Remembers what was answered.
    pub(crate) fn was_given(&self, key: &str, answer: Arc<Answer>) {
        self.0.lock().insert(key.to_owned(), Given::Yes(answer));
    }

    /// What is to be done with a request of that hash; `kept` looks into the data file.
    pub(crate) fn turn(
        &self,
        key: &str,
        hash: &[u8],
        kept: impl FnOnce() -> Option<Answer>,
    ) -> Turn {
        let mut all = self.0.lock();
        let given = all.get(key).cloned().or_else(|| kept().map(|a| Given::Yes(Arc::new(a))));
        match given {
            Some(Given::Not(of)) if of == hash => Turn::Wait,
            Some(Given::Yes(answer)) if answer.hash == hash => Turn::Same(answer),
            Some(_) => Turn::Other,
            None => {
                if all.len() >= MOST {
                    let older = all.iter().filter_map(|(key, given)| match given {
                        Given::Yes(answer) => Some((answer.at.clone(), key.clone())),
                        Given::Not(_) => None,
                    });
                    if let Some((_, oldest)) = older.min() {
                        all.remove(&oldest);
                    }
                }
                all.insert(key.to_owned(), Given::Not(hash.to_vec()));
                Turn::Do
            }
        }
    }
}

/// Takes the turn back if the request ends without an answer that is worth remembering.
pub(crate) struct Held<'a> {
    pub(crate) answers: &'a Answers,
    pub(crate) key: &'a str,
}

impl Drop for Held<'_> {
    fn drop(&mut self) {
        let mut all = self.answers.0.lock();
        if matches!(all.get(self.key), Some(Given::Not(_))) {
            all.remove(self.key);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn answer(hash: &[u8]) -> Answer {
        Answer {
            hash: hash.to_vec(),
            status: 201,
            location: None,
            kind: None,
            body: b"made".to_vec(),
            at: "2030-06-21T12:00:00Z".into(),
        }
    }

    #[test]
    fn the_same_waits_another_is_refused_and_what_failed_may_be_tried_again() {
        let answers = Answers::default();
        assert!(matches!(answers.turn("key", b"one", || None), Turn::Do));
        assert!(matches!(answers.turn("key", b"one", || None), Turn::Wait));
        assert!(matches!(answers.turn("key", b"two", || None), Turn::Other));
        drop(Held { answers: &answers, key: "key" });
        assert!(matches!(answers.turn("key", b"two", || None), Turn::Do));
        answers.0.lock().insert("key".into(), Given::Yes(Arc::new(answer(b"two"))));
        drop(Held { answers: &answers, key: "key" });
        assert!(matches!(answers.turn("key", b"two", || None), Turn::Same(_)));
        // After a restart the data file remembers.
        let anew = Answers::default();
        assert!(matches!(anew.turn("key", b"two", || Some(answer(b"two"))), Turn::Same(_)));
        assert!(matches!(anew.turn("key", b"three", || Some(answer(b"two"))), Turn::Other));
    }

    #[test]
    fn no_more_are_remembered_than_there_may_be() {
        let answers = Answers::default();
        for n in 0..2 * MOST {
            let key = format!("key {n}");
            assert!(matches!(answers.turn(&key, b"x", || None), Turn::Do));
            let given = Answer { at: format!("{n:06}"), ..answer(b"x") };
            answers.0.lock().insert(key, Given::Yes(Arc::new(given)));
        }
        assert_eq!(answers.0.lock().len(), MOST);
        assert!(matches!(answers.turn("key 999", b"x", || None), Turn::Same(_)));
    }
}
