//! The kitchen's instruments, as this program hears them.
//!
//! Each bridge is an address on this machine that tells lines of JSON (`docs/instruments.md`). One thread
//! listens to each, and tries again when it goes away; what they read is passed on to the screens at most ten
//! times a second, however fast it comes. A line that makes no sense is told as such and otherwise passed
//! over. The practice kitchen's stand-ins are such a bridge, started when a practice batch first needs them.

use std::collections::BTreeMap;
use std::io::{BufRead, BufReader, Read, Write};
use std::net::{SocketAddr, TcpStream};
use std::sync::Arc;
use std::thread;
use std::time::{Duration, Instant};

use keen_instruments::{InstrumentKind, Line, Order, Stand, serve};
use parking_lot::Mutex;
use serde::Serialize;
use serde_json::json;
use utoipa::ToSchema;

/// What the simulated set is called.
pub(crate) const PRACTICE: &str = "practice";
/// Screens are told no more often than this.
const AT_MOST: Duration = Duration::from_millis(100);
/// Who hasn't said anything for so long has fallen silent.
const SILENT: Duration = Duration::from_secs(5);
/// The longest line.
const LONGEST: u64 = 2000;
/// Instruments of one bridge.
const MOST: usize = 16;

/// The condition of an instrument.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum Condition {
    /// It tells what it reads.
    Here,
    /// It hasn't said anything for some seconds.
    Silent,
    /// It has gone away; it is called again.
    Gone,
    /// What it says makes no sense.
    Garbled,
}

/// An instrument and its last reading.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub(crate) struct InstrumentView {
    /// Its id, the same in every batch.
    pub(crate) id: String,
    pub(crate) kind: InstrumentKind,
    /// The reading; missing if there is none.
    pub(crate) value: Option<f64>,
    pub(crate) unit: String,
    /// Whether the reading has settled.
    pub(crate) stable: bool,
    /// Any other message, such as a fault.
    pub(crate) says: Option<String>,
    pub(crate) condition: Condition,
    /// Whether it is a simulated instrument.
    pub(crate) practice: bool,
}

#[derive(Debug)]
struct Known {
    view: InstrumentView,
    heard: Instant,
    told: Option<InstrumentView>,
}

#[derive(Debug, Default)]
struct Shared {
    known: Mutex<BTreeMap<String, Known>>,
    /// Where each bridge is written to; none while it is away.
    bridges: Mutex<BTreeMap<String, Option<TcpStream>>>,
}

/// Who is told what they read.
pub(crate) type Tell = Box<dyn Fn(InstrumentView) + Send + Sync>;

/// All instruments.
#[derive(Debug)]
pub(crate) struct Instruments {
    shared: Arc<Shared>,
    /// What deals the stand-ins' errors.
    luck: u64,
}

impl Instruments {
    /// Listens to bridges on these addresses, and passes on what they tell.
    pub(crate) fn new(
        addresses: &[SocketAddr],
        luck: Option<u64>,
        tell: Tell,
    ) -> std::io::Result<Self> {
        let shared = Arc::new(Shared::default());
        let mine = Arc::clone(&shared);
        thread::Builder::new().name("instruments-news".into()).spawn(move || {
            loop {
                thread::sleep(AT_MOST);
                mine.news().into_iter().for_each(&tell);
            }
        })?;
        let all = Self { shared, luck: luck.unwrap_or_else(rand::random) };
        for (i, address) in addresses.iter().enumerate() {
            all.listen(format!("kitchen{}", i + 1), *address)?;
        }
        Ok(all)
    }

    fn listen(&self, set: String, address: SocketAddr) -> std::io::Result<()> {
        let mine = Arc::clone(&self.shared);
        mine.bridges.lock().insert(set.clone(), None);
        thread::Builder::new().name(format!("instruments-{set}")).spawn(move || {
            let mut wait = Duration::from_millis(200);
            loop {
                if let Ok(stream) = TcpStream::connect_timeout(&address, Duration::from_secs(2)) {
                    wait = Duration::from_millis(200);
                    mine.hear(&set, &stream);
                    mine.gone(&set);
                }
                thread::sleep(wait);
                wait = (wait * 2).min(Duration::from_secs(5));
            }
        })?;
        Ok(())
    }

    /// The practice kitchen's stand-ins, which are started if they aren't there yet.
    pub(crate) fn practice(&self) -> std::io::Result<()> {
        if self.shared.bridges.lock().contains_key(PRACTICE) {
            return Ok(());
        }
        let served = serve(Stand::new(self.luck), 0)?;
        self.listen(PRACTICE.into(), served.address)
    }

    /// All of them.
    pub(crate) fn all(&self) -> Vec<InstrumentView> {
        self.shared.known.lock().values().map(Known::now).collect()
    }

    /// Tells one of them something; whether it could be told.
    pub(crate) fn order(&self, id: &str, order: &Order) -> bool {
        let Some((set, name)) = id.split_once('.') else { return false };
        if !self.shared.known.lock().contains_key(id) {
            return false;
        }
        let mut text = json!(order);
        text["instrument"] = name.into();
        let mut bridges = self.shared.bridges.lock();
        let Some(Some(stream)) = bridges.get_mut(set) else { return false };
        stream.write_all(format!("{text}\n").as_bytes()).is_ok()
    }
}

impl Known {
    fn now(&self) -> InstrumentView {
        let mut view = self.view.clone();
        if view.condition == Condition::Here && self.heard.elapsed() > SILENT {
            view.condition = Condition::Silent;
        }
        view
    }
}

impl Shared {
    /// What has changed since it was told.
    fn news(&self) -> Vec<InstrumentView> {
        let mut news = Vec::new();
        for known in self.known.lock().values_mut() {
            let now = known.now();
            if known.told.as_ref() != Some(&now) {
                known.told = Some(now.clone());
                news.push(now);
            }
        }
        news
    }

    fn gone(&self, set: &str) {
        self.bridges.lock().insert(set.to_owned(), None);
        for (id, known) in self.known.lock().iter_mut() {
            if id.split_once('.').is_some_and(|(of, _)| of == set) {
                known.view.condition = Condition::Gone;
                known.view.value = None;
                known.view.says = Some("It stopped answering. Trying again…".into());
            }
        }
    }

    /// Hears one bridge until it goes away.
    fn hear(&self, set: &str, stream: &TcpStream) {
        let Ok(writer) = stream.try_clone() else { return };
        if writer.set_write_timeout(Some(Duration::from_millis(500))).is_err() {
            return;
        }
        self.bridges.lock().insert(set.to_owned(), Some(writer));
        let mut reader = BufReader::new(stream);
        loop {
            let mut text = Vec::new();
            match reader.by_ref().take(LONGEST).read_until(b'\n', &mut text) {
                Ok(0) | Err(_) => return,
                Ok(_) => self.line(set, String::from_utf8_lossy(&text).trim()),
            }
        }
    }

    fn line(&self, set: &str, text: &str) {
        let mut all = self.known.lock();
        match Line::read(text) {
            Ok(line) => {
                let id = format!("{set}.{}", line.instrument);
                let of_set = all.keys().filter(|k| k.starts_with(&format!("{set}."))).count();
                if !all.contains_key(&id) && of_set >= MOST {
                    return;
                }
                let view = InstrumentView {
                    id: id.clone(),
                    kind: line.kind,
                    value: line.value,
                    unit: line.unit,
                    stable: line.stable,
                    says: line.says,
                    condition: Condition::Here,
                    practice: set == PRACTICE,
                };
                let told = all.remove(&id).and_then(|known| known.told);
                all.insert(id, Known { view, heard: Instant::now(), told });
            }
            // Whose it was nobody can tell, unless it has said before who it is.
            Err(why) => {
                let named = serde_json::from_str::<serde_json::Value>(text).ok();
                let named = named.and_then(|v| v["instrument"].as_str().map(str::to_owned));
                for (id, known) in all.iter_mut() {
                    let Some((of, name)) = id.split_once('.') else { continue };
                    if of == set && named.as_deref().is_none_or(|n| n == name) {
                        known.view.condition = Condition::Garbled;
                        known.view.value = None;
                        known.view.says = Some(format!("We can't read what it sends. {}", why.0));
                    }
                }
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::net::TcpListener;
    use std::sync::mpsc;

    const LINE: &str = "{\"instrument\":\"scale-1\",\"kind\":\"scale\",\"value\":V,\"unit\":\"g\",\"stable\":true}\n";

    fn until<T>(what: &str, mut found: impl FnMut() -> Option<T>) -> T {
        let began = Instant::now();
        loop {
            if let Some(found) = found() {
                return found;
            }
            assert!(began.elapsed() < Duration::from_secs(20), "{what} never came");
            thread::sleep(Duration::from_millis(20));
        }
    }

    #[test]
    fn a_bridge_may_send_rubbish_flood_go_away_and_come_back() {
        let listener = TcpListener::bind("127.0.0.1:0").unwrap();
        let address = listener.local_addr().unwrap();
        let (told, heard) = mpsc::channel();
        let told = Mutex::new(told);
        let all = Instruments::new(&[address], None, Box::new(move |v| drop(told.lock().send(v))))
            .unwrap();
        let (mut bridge, _) = listener.accept().unwrap();
        bridge.write_all(b"\xff\xfe garbage\n").unwrap();
        bridge.write_all(LINE.replace('V', "512").as_bytes()).unwrap();
        let scale = until("the scale", || all.all().pop());
        assert_eq!((scale.id.as_str(), scale.value), ("kitchen1.scale-1", Some(512.0)));
        // It is told of only so often, and then of the last.
        for grams in 0..5000 {
            bridge.write_all(LINE.replace('V', &grams.to_string()).as_bytes()).unwrap();
        }
        until("the last of it", || all.all().pop().filter(|s| s.value == Some(4999.0)));
        thread::sleep(AT_MOST * 3);
        let news: Vec<InstrumentView> = heard.try_iter().collect();
        assert!(news.len() < 100, "{} words to the screens", news.len());
        assert_eq!(news.last().unwrap().value, Some(4999.0));
        // Nonsense is told, and over with the next good line.
        bridge
            .write_all(b"{\"instrument\":\"scale-1\",\"kind\":\"scale\",\"unit\":\"oz\"}\n")
            .unwrap();
        let garbled =
            until("a word of it", || all.all().pop().filter(|s| s.condition == Condition::Garbled));
        assert!(garbled.says.unwrap().contains("reads in g"));
        bridge.write_all(LINE.replace('V', "7").as_bytes()).unwrap();
        until("sense", || all.all().pop().filter(|s| s.condition == Condition::Here));
        // Orders reach it.
        assert!(all.order("kitchen1.scale-1", &Order::Tare));
        let mut order = String::new();
        BufReader::new(&bridge).read_line(&mut order).unwrap();
        let order: serde_json::Value = serde_json::from_str(&order).unwrap();
        assert_eq!((&order["do"], &order["instrument"]), (&json!("tare"), &json!("scale-1")));
        // After a while without a word it is told that it is silent.
        until("a word that it is silent", || {
            all.all().pop().filter(|s| s.condition == Condition::Silent)
        });
        drop(bridge);
        until("a word that it is gone", || {
            all.all().pop().filter(|s| s.condition == Condition::Gone && s.value.is_none())
        });
        assert!(!all.order("kitchen1.scale-1", &Order::Tare));
        let (mut back, _) = listener.accept().unwrap();
        back.write_all(LINE.replace('V', "33").as_bytes()).unwrap();
        until("the scale again", || all.all().pop().filter(|s| s.value == Some(33.0)));
    }
}
