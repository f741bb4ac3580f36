//! Where questions are worked out, apart from the threads that answer.
//!
//! A question may take half a second of a core; a save must not wait for that. So computing has a few
//! threads of its own and a short queue. Each question brings an allowance of [`Work`]. It is given up
//! when its asker has gone, when the same screen has asked a newer question, and when it has taken too long:
//! nobody waits for the answer any more.
//!
//! What a cook at the stove asks for (what to do now, what is in the pot, what a glass tastes of) is worked out
//! in a blink, and has threads of its own: however many plans are being made, *Make* goes on.

use std::collections::HashMap;
use std::future::{Ready, ready};
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::atomic::{AtomicUsize, Ordering};
use std::sync::{Arc, Weak, mpsc};
use std::time::Duration;

use actix_web::dev::Payload;
use actix_web::{FromRequest, HttpRequest};
use keen_core::work::Work;
use parking_lot::Mutex;
use tokio::sync::oneshot;

use super::Problem;

/// Questions of a lane that may wait; with more nobody would get an answer in time.
const QUEUE: usize = 64;
/// No question is worked on, or waited for, longer than this.
const LONGEST: Duration = Duration::from_secs(25);
/// The header in which a screen says who it is, as `window/screen`. What it asked on the same path before is
/// given up; a window that names no screen may well ask of several things at once.
const ASKER: &str = "x-asker";

/// Who asks: a screen, and what it asks for (none where it doesn't say); and whose threads work it out.
#[derive(Debug, Clone, Default)]
pub(crate) struct Asker {
    screen: Option<String>,
    lane: Lane,
}

/// Which threads work a question out.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
enum Lane {
    /// What is asked at the stove, and what takes no longer.
    #[default]
    Quick,
    /// What may take a second: solving, spreading, planning, looking through all batches.
    Heavy,
}

impl Lane {
    fn of(path: &str) -> Self {
        let quick = ["trace", "next-steps", "syrup", "read", "line"];
        let heavy = match path.strip_prefix("/api/compute/") {
            Some(question) => !quick.contains(&question),
            None => path.starts_with("/api/plans") || path.ends_with("/history"),
        };
        if heavy { Self::Heavy } else { Self::Quick }
    }
}

/// The screen that asks for a change, as it calls itself, so that it isn't told of its own change.
#[derive(Debug)]
pub(crate) struct By(pub(crate) Option<String>);

impl FromRequest for By {
    type Error = Problem;
    type Future = Ready<Result<Self, Problem>>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        ready(Ok(Self(said(request).map(|who| {
            // A screen of a window says `window/screen`.
            who.split('/').next().unwrap_or_default().to_owned()
        }))))
    }
}

fn said(request: &HttpRequest) -> Option<&str> {
    let said = request.headers().get(ASKER).and_then(|v| v.to_str().ok());
    said.filter(|s| !s.is_empty() && s.len() <= 80)
}

impl FromRequest for Asker {
    type Error = Problem;
    type Future = Ready<Result<Self, Problem>>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let screen = said(request).filter(|who| who.contains('/'));
        ready(Ok(Self {
            screen: screen.map(|who| format!("{who} {}", request.path())),
            lane: Lane::of(request.path()),
        }))
    }
}

/// Gives the work up when its asker goes: the answer's future is dropped then.
struct Waiting(Arc<Work>);

impl Drop for Waiting {
    fn drop(&mut self) {
        self.0.give_up();
    }
}

/// Something to be worked out, and how its answer is brought.
type Question = Box<dyn FnOnce() + Send>;

/// The threads that compute, and what they are asked.
#[derive(Debug)]
pub(crate) struct Desk {
    quick: Threads,
    heavy: Threads,
    /// The newest question of each screen.
    newest: Mutex<HashMap<String, Weak<Work>>>,
}

/// The threads of a lane, and their queue.
#[derive(Debug)]
struct Threads {
    questions: mpsc::Sender<Question>,
    waiting: Arc<AtomicUsize>,
}

impl Threads {
    fn start(name: &str, many: usize) -> anyhow::Result<Self> {
        let (questions, next) = mpsc::channel::<Question>();
        let next = Arc::new(Mutex::new(next));
        for nth in 0..many {
            let next = Arc::clone(&next);
            let computing = move || {
                loop {
                    // Held only until there is one; it ends with the desk.
                    let question = next.lock().recv();
                    match question {
                        Ok(question) => question(),
                        Err(_) => return,
                    }
                }
            };
            std::thread::Builder::new().name(format!("{name}-{nth}")).spawn(computing)?;
        }
        Ok(Self { questions, waiting: Arc::default() })
    }
}

impl Desk {
    pub(crate) fn new() -> anyhow::Result<Self> {
        let cores = std::thread::available_parallelism().map_or(2, usize::from).clamp(2, 8);
        Ok(Self {
            quick: Threads::start("quick", 2)?,
            heavy: Threads::start("heavy", cores)?,
            newest: Mutex::default(),
        })
    }

    /// Takes the place of the screen's question before.
    fn take_place(&self, asker: Asker, work: &Arc<Work>) {
        let Some(asker) = asker.screen else { return };
        let mut newest = self.newest.lock();
        if newest.len() > 500 {
            newest.retain(|_, work| work.strong_count() > 0);
        }
        let older = newest.insert(asker, Arc::downgrade(work));
        if let Some(older) = older.and_then(|w| w.upgrade()) {
            older.give_up();
        }
    }

    /// Works a question out.
    pub(crate) async fn ask<T: Send + 'static>(
        &self,
        asker: Asker,
        question: impl FnOnce(&Work) -> Result<T, Problem> + Send + 'static,
    ) -> Result<T, Problem> {
        let work = Arc::new(Work::usual());
        let lane = match asker.lane {
            Lane::Quick => &self.quick,
            Lane::Heavy => &self.heavy,
        };
        self.take_place(asker, &work);
        if lane.waiting.fetch_add(1, Ordering::Relaxed) >= QUEUE {
            lane.waiting.fetch_sub(1, Ordering::Relaxed);
            return Err(Problem::busy());
        }
        let waiting = Arc::clone(&lane.waiting);
        let (answer, answered) = oneshot::channel();
        let mine = Arc::clone(&work);
        let question: Question = Box::new(move || {
            waiting.fetch_sub(1, Ordering::Relaxed);
            if !mine.is_given_up() {
                let found = catch_unwind(AssertUnwindSafe(|| question(&mine)));
                // Who has gone in the meantime doesn't hear it.
                let _ = answer.send(found);
            }
        });
        if lane.questions.send(question).is_err() {
            return Err(Problem::busy());
        }
        let waiting = Waiting(work);
        let Ok(answered) = actix_web::rt::time::timeout(LONGEST, answered).await else {
            return Err(Problem::too_long());
        };
        match answered {
            Ok(Ok(found)) if found.is_ok() || !waiting.0.is_given_up() => found,
            // What a thread broke on is told as any other panic of a handler is.
            Ok(Err(panic)) => std::panic::resume_unwind(panic),
            _ => Err(Problem::superseded()),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn asker(name: &str) -> Asker {
        Asker { screen: Some(name.into()), lane: Lane::Heavy }
    }

    #[actix_web::test]
    async fn a_newer_question_of_the_same_screen_gives_the_older_up() {
        let desk = Arc::new(Desk::new().unwrap());
        let (begun, begins) = mpsc::channel();
        let first = actix_web::rt::spawn({
            let desk = Arc::clone(&desk);
            async move {
                desk.ask(asker("balance"), move |work| {
                    begun.send(()).unwrap();
                    while !work.is_given_up() {
                        std::thread::sleep(Duration::from_millis(1));
                    }
                    Err::<(), _>(Problem::busy())
                })
                .await
            }
        });
        actix_web::rt::task::yield_now().await;
        begins.recv_timeout(Duration::from_secs(5)).unwrap();
        assert_eq!(desk.ask(asker("steps"), |_| Ok(1)).await.unwrap(), 1);
        assert!(!first.is_finished(), "another screen's question changes nothing");
        assert_eq!(desk.ask(asker("balance"), |_| Ok(2)).await.unwrap(), 2);
        let told = first.await.unwrap().unwrap_err();
        assert!(told.to_string().contains("newer question"), "{told}");
    }

    #[actix_web::test]
    async fn of_a_window_that_names_no_screen_no_question_takes_anothers_place() {
        let of = |who: &str| {
            let request = actix_web::test::TestRequest::with_uri("/api/compute/for-whom")
                .insert_header((ASKER, who))
                .to_http_request();
            Asker::from_request(&request, &mut Payload::None).into_inner().unwrap().screen
        };
        assert_eq!(of("w1"), None);
        assert_eq!(of("w1/balance").as_deref(), Some("w1/balance /api/compute/for-whom"));
    }

    #[actix_web::test]
    async fn who_has_gone_is_not_worked_for() {
        let desk = Desk::new().unwrap();
        let (begun, begins) = mpsc::channel();
        let (ended, ends) = mpsc::channel();
        let asking = desk.ask(Asker::default(), move |work| {
            begun.send(()).unwrap();
            while !work.is_given_up() {
                std::thread::sleep(Duration::from_millis(1));
            }
            ended.send(()).unwrap();
            Ok(())
        });
        let gone = actix_web::rt::time::timeout(Duration::from_millis(50), asking).await;
        assert!(gone.is_err());
        begins.recv_timeout(Duration::from_secs(5)).unwrap();
        ends.recv_timeout(Duration::from_secs(5)).unwrap();
    }

    #[actix_web::test]
    async fn what_is_asked_at_the_stove_waits_for_no_plan() {
        let desk = Arc::new(Desk::new().unwrap());
        let over = Arc::new(std::sync::atomic::AtomicBool::new(false));
        for _ in 0..20 {
            let (desk, over) = (Arc::clone(&desk), Arc::clone(&over));
            actix_web::rt::spawn(async move {
                let plan = Asker { screen: None, lane: Lane::of("/api/plans/solve") };
                let question = move |_: &Work| {
                    while !over.load(Ordering::Relaxed) {
                        std::thread::sleep(Duration::from_millis(1));
                    }
                    Ok(())
                };
                desk.ask(plan, question).await
            });
        }
        actix_web::rt::task::yield_now().await;
        let at_the_stove = Asker { screen: None, lane: Lane::of("/api/batches/b1") };
        let answer = desk.ask(at_the_stove, |_| Ok(7));
        let answer = actix_web::rt::time::timeout(Duration::from_secs(5), answer).await;
        over.store(true, Ordering::Relaxed);
        assert_eq!(answer.unwrap().unwrap(), 7);
        assert_eq!(Lane::of("/api/compute/trace"), Lane::Quick);
        assert_eq!(Lane::of("/api/compute/spread"), Lane::Heavy);
    }
}
