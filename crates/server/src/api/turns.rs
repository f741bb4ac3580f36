//! Who speaks when several speak of one thing at once.
//!
//! What is said of a batch, a tasting or a bottle is judged by what was said before it, and then added. Two who
//! speak at the same moment would each judge by what the other one hasn't seen yet; so they take turns, by the id of
//! what they speak of. They wait in the order in which they came, and nobody is refused for being second. (What
//! another program adds to the data file meanwhile is still noticed by the store, which then refuses.)

use std::collections::HashMap;
use std::sync::Arc;

use parking_lot::Mutex;
use tokio::sync::{Mutex as Waiting, OwnedMutexGuard};

/// One turn after the other, for each id.
#[derive(Debug, Default)]
pub(super) struct Turns(Mutex<HashMap<String, Arc<Waiting<()>>>>);

/// Whoever holds it speaks.
#[must_use]
#[derive(Debug)]
pub(super) struct Turn {
    _held: OwnedMutexGuard<()>,
}

impl Turns {
    /// Waits until everybody who came before has spoken of it.
    pub(super) async fn of(&self, id: &str) -> Turn {
        let waiting = {
            let mut all = self.0.lock();
            // Those that nobody holds or waits for are let go.
            all.retain(|_, turn| Arc::strong_count(turn) > 1);
            Arc::clone(all.entry(id.to_owned()).or_default())
        };
        Turn { _held: waiting.lock_owned().await }
    }
}

#[cfg(test)]
mod tests {
    use std::sync::atomic::{AtomicUsize, Ordering};

    use futures_util::future::join_all;

    use super::*;

    #[actix_web::test]
    async fn one_speaks_at_a_time_of_a_thing_and_nobody_waits_for_another_thing() {
        let turns = Turns::default();
        let (speaking, spoke) = (AtomicUsize::new(0), Mutex::new(Vec::new()));
        join_all((0..20).map(|nth| {
            let (turns, speaking, spoke) = (&turns, &speaking, &spoke);
            async move {
                let _turn = turns.of("a batch").await;
                assert_eq!(speaking.fetch_add(1, Ordering::Relaxed), 0);
                tokio::task::yield_now().await;
                speaking.fetch_sub(1, Ordering::Relaxed);
                spoke.lock().push(nth);
            }
        }))
        .await;
        assert_eq!(*spoke.lock(), (0..20).collect::<Vec<_>>(), "in the order in which they came");
        let _held = turns.of("a batch").await;
        let _other = turns.of("a bottle").await;
        assert_eq!(turns.0.lock().len(), 2);
    }
}
