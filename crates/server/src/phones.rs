//! Phones in the kitchen: a second door, which is shut unless somebody opens it.
//!
//! The program listens on this machine only. *Let phones in* opens a second listener on the home network, and
//! shows its address and a code of six digits that is good for ten minutes. Who brings the code gets a token
//! of 256 random bits in a cookie; of that only the hash is kept. Without one, nothing but the page that asks
//! for the code is answered at that door. Codes are compared in constant time. After five wrong ones from one
//! address that address has to wait, longer each time, and others don't; after fifty from anywhere the code
//! changes. What strangers ask is counted apart from what phones ask that are connected, so that no flood of
//! theirs stands in a cook's way.
//!
//! There is no certificate: who can listen in the home network can read along, and the screen says so.

use std::collections::{HashMap, HashSet};
use std::net::{IpAddr, SocketAddr};
use std::sync::Arc;
use std::time::{Duration, Instant};

use governor::{DefaultDirectRateLimiter, Quota, RateLimiter};
use parking_lot::Mutex;
use rand::RngExt;
use sha2::{Digest, Sha256};
use subtle::ConstantTimeEq;
use tokio::sync::{mpsc, oneshot};

/// The cookie that holds a phone's token.
pub(crate) const COOKIE: &str = "keen-pitcher-phone";
/// How long a phone may come in.
pub(crate) const DAYS: i64 = 30;
/// How long a code is good.
const GOOD_FOR: Duration = Duration::from_secs(600);
/// So many wrong codes from one address make it wait.
const WRONG: u32 = 5;
/// So many from anywhere change the code.
const WRONG_IN_ALL: u32 = 50;
/// Addresses whose wrong codes are remembered.
const ADDRESSES: usize = 1000;
/// The wait after that, at first and at most; it doubles.
const WAIT: (Duration, Duration) = (Duration::from_secs(5), Duration::from_secs(300));
/// The port at that door if nothing else is said.
const PORT: u16 = 7341;
/// Requests a second of all phones that are connected: more is no kitchen.
const REQUESTS: u32 = 300;
/// And of all strangers.
const OF_STRANGERS: u32 = 300;

/// What the server is asked to do with the door.
#[derive(Debug)]
pub(crate) enum Order {
    /// Open it; where it then is, or why it can't be.
    Open(oneshot::Sender<Result<Vec<SocketAddr>, String>>),
    /// Shut it.
    Shut(oneshot::Sender<()>),
}

/// The door, as it stands.
#[derive(Debug)]
struct Door {
    addresses: Vec<SocketAddr>,
    code: String,
    since: Instant,
    /// Wrong ones since it was made.
    wrong: u32,
    /// What each address got wrong.
    tried: HashMap<IpAddr, Tried>,
}

/// What came from one address.
#[derive(Debug, Clone, Copy, Default)]
struct Tried {
    wrong: u32,
    waits: u32,
    closed_until: Option<Instant>,
}

/// Why a code isn't taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Refused {
    /// It isn't the code.
    Wrong,
    /// It was the code, and isn't any more.
    Old,
    /// Too many wrong ones: so many seconds have to pass.
    Wait(u64),
    /// The door is shut.
    Shut,
}

/// Who may come in from the home network.
#[derive(Debug)]
pub(crate) struct Phones {
    door: Mutex<Option<Door>>,
    orders: mpsc::UnboundedSender<Order>,
    limit: DefaultDirectRateLimiter,
    strangers: DefaultDirectRateLimiter,
    /// The hashes of tokens that were found good, so that a flood of bad ones is told apart without a look at
    /// the store.
    known: Mutex<HashSet<Vec<u8>>>,
}

/// What the server listens to, to open and shut the door.
pub(crate) type Orders = mpsc::UnboundedReceiver<Order>;

impl Phones {
    pub(crate) fn new() -> (Self, Orders) {
        let (orders, heard) = mpsc::unbounded_channel();
        let a_second = |many| {
            let each = std::num::NonZeroU32::new(many).unwrap_or(std::num::NonZeroU32::MIN);
            RateLimiter::direct(Quota::per_second(each))
        };
        let phones = Self {
            door: Mutex::new(None),
            orders,
            limit: a_second(REQUESTS),
            strangers: a_second(OF_STRANGERS),
            known: Mutex::default(),
        };
        (phones, heard)
    }

    /// Opens the door, if it isn't open.
    pub(crate) async fn open(&self) -> Result<(), String> {
        if self.door.lock().is_some() {
            return Ok(());
        }
        let (answer, answered) = oneshot::channel();
        let gone = || "Keen Pitcher is shutting down.".to_owned();
        self.orders.send(Order::Open(answer)).map_err(|_| gone())?;
        let addresses = answered.await.map_err(|_| gone())??;
        *self.door.lock() = Some(Door::at(addresses));
        Ok(())
    }

    /// Shuts it.
    pub(crate) async fn shut(&self) {
        *self.door.lock() = None;
        let (answer, answered) = oneshot::channel();
        if self.orders.send(Order::Shut(answer)).is_ok() {
            let _ = answered.await;
        }
    }

    /// Where the door is; nothing while it is shut.
    pub(crate) fn addresses(&self) -> Vec<SocketAddr> {
        self.door.lock().as_ref().map(|d| d.addresses.clone()).unwrap_or_default()
    }

    /// The code, and how many seconds it is still good; a new one where the old is too old.
    pub(crate) fn code(&self) -> Option<(String, u64)> {
        let mut door = self.door.lock();
        let door = door.as_mut()?;
        if door.since.elapsed() >= GOOD_FOR {
            door.renew();
        }
        Some((door.code.clone(), (GOOD_FOR - door.since.elapsed().min(GOOD_FOR)).as_secs()))
    }

    /// Another code.
    pub(crate) fn renew(&self) {
        if let Some(door) = self.door.lock().as_mut() {
            door.renew();
        }
    }

    /// Whether a code is the one.
    pub(crate) fn tries(&self, code: &str, from: IpAddr) -> Result<(), Refused> {
        self.door.lock().as_mut().ok_or(Refused::Shut)?.tries(code, from, Instant::now())
    }

    /// Whether one more request may be answered at that door now, by the token that it brings.
    pub(crate) fn may_ask(&self, token: Option<&str>) -> bool {
        let known = token.is_some_and(|token| self.known.lock().contains(&hash(token)));
        if known { self.limit.check().is_ok() } else { self.strangers.check().is_ok() }
    }

    /// Remembers that a token is good.
    pub(crate) fn is_good(&self, token: &str) {
        let mut known = self.known.lock();
        if known.len() < ADDRESSES {
            known.insert(hash(token));
        }
    }

    /// Remembers none any more: a phone was disconnected.
    pub(crate) fn forget(&self) {
        self.known.lock().clear();
    }
}

fn new_code() -> String {
    format!("{:06}", rand::rng().random_range(0..1_000_000))
}

impl Door {
    fn at(addresses: Vec<SocketAddr>) -> Self {
        Self { addresses, code: new_code(), since: Instant::now(), wrong: 0, tried: HashMap::new() }
    }

    fn renew(&mut self) {
        self.code = new_code();
        self.since = Instant::now();
        self.wrong = 0;
    }

    fn tries(&mut self, code: &str, from: IpAddr, now: Instant) -> Result<(), Refused> {
        if self.tried.len() >= ADDRESSES {
            self.tried.retain(|_, it| it.closed_until.is_some_and(|until| until > now));
        }
        let tried = self.tried.entry(from).or_default();
        if let Some(until) = tried.closed_until.filter(|until| *until > now) {
            return Err(Refused::Wait((until - now).as_secs() + 1));
        }
        let right: bool = code.as_bytes().ct_eq(self.code.as_bytes()).into();
        if now.saturating_duration_since(self.since) >= GOOD_FOR {
            return Err(Refused::Old);
        }
        if right {
            // Each code lets one phone in.
            self.tried.remove(&from);
            self.renew();
            return Ok(());
        }
        tried.wrong += 1;
        if tried.wrong.is_multiple_of(WRONG) {
            let wait = (WAIT.0 * 2_u32.saturating_pow(tried.waits)).min(WAIT.1);
            tried.waits = (tried.waits + 1).min(10);
            tried.closed_until = Some(now + wait);
        }
        self.wrong += 1;
        if self.wrong >= WRONG_IN_ALL {
            self.renew();
        }
        Err(Refused::Wrong)
    }
}

/// A token, and what of it is kept.
pub(crate) fn new_token() -> (String, Vec<u8>) {
    let bits: [u128; 2] = [rand::random(), rand::random()];
    let token = format!("{:032x}{:032x}", bits[0], bits[1]);
    let kept = hash(&token);
    (token, kept)
}

pub(crate) fn hash(token: &str) -> Vec<u8> {
    Sha256::digest(token.as_bytes()).to_vec()
}

/// Where the door may be: what was said, or this machine's addresses in the home network.
pub(crate) fn places(said: Option<SocketAddr>) -> Result<Vec<SocketAddr>, String> {
    if let Some(said) = said {
        return Ok(vec![said]);
    }
    let all = if_addrs::get_if_addrs().map_err(|why| format!("No network can be found: {why}."))?;
    let home = all.into_iter().map(|i| i.ip()).filter(|ip| match ip {
        IpAddr::V4(v4) => !v4.is_loopback() && !v4.is_link_local(),
        IpAddr::V6(_) => false,
    });
    let places: Vec<SocketAddr> = home.map(|ip| SocketAddr::new(ip, PORT)).collect();
    if places.is_empty() {
        return Err("This computer isn't on any network, so no phone can reach it.".into());
    }
    Ok(places)
}

/// Through which door a request has come.
#[derive(Debug, Clone)]
pub(crate) enum Entrance {
    /// On this machine.
    Here,
    /// From the home network, by these names: each address with its port, or a name of this machine with it.
    Kitchen(Arc<Vec<String>>),
}

impl Entrance {
    /// The kitchen's door, at these addresses of a machine that is called so, too.
    pub(crate) fn kitchen(at: &[SocketAddr], names: &[String]) -> Self {
        let by_address = at.iter().map(SocketAddr::to_string);
        let by_name = names.iter().flat_map(|name| {
            let name = name.to_ascii_lowercase();
            at.iter().map(move |a| format!("{name}:{}", a.port()))
        });
        Self::Kitchen(Arc::new(by_address.chain(by_name).collect()))
    }

    /// Whether a `Host` is one of this door's names.
    pub(crate) fn knows(&self, authority: &str) -> bool {
        match self {
            Self::Here => {
                let host = match authority.rsplit_once(':') {
                    Some((host, port)) if port.bytes().all(|b| b.is_ascii_digit()) => host,
                    _ => authority,
                };
                ["127.0.0.1", "localhost", "[::1]"].contains(&host)
            }
            Self::Kitchen(names) => names.iter().any(|name| name == authority),
        }
    }
}

/// The phone that a request comes from, by its id.
#[derive(Debug, Clone)]
pub(crate) struct FromPhone(pub(crate) String);

#[cfg(test)]
mod tests {
    use super::*;

    const HERE: IpAddr = IpAddr::V4(std::net::Ipv4Addr::new(192, 0, 2, 7));
    const THERE: IpAddr = IpAddr::V4(std::net::Ipv4Addr::new(192, 0, 2, 8));

    fn wrong(door: &Door) -> &'static str {
        if door.code == "000000" { "000001" } else { "000000" }
    }

    #[test]
    fn who_sends_five_wrong_codes_waits_longer_each_time_and_others_do_not() {
        let mut door = Door::at(Vec::new());
        let mut now = Instant::now();
        let mut waits = Vec::new();
        for _ in 0..4 {
            for _ in 0..WRONG {
                assert_eq!(door.tries(wrong(&door), THERE, now), Err(Refused::Wrong));
            }
            let code = door.code.clone();
            let Err(Refused::Wait(seconds)) = door.tries(&code, THERE, now) else {
                panic!("no wait")
            };
            waits.push(seconds);
            now += Duration::from_secs(seconds);
        }
        assert_eq!(waits, [6, 11, 21, 41]);
        let code = door.code.clone();
        assert_eq!(door.tries(&code, HERE, now), Ok(()));
        assert_eq!(door.tries(&code, HERE, now), Err(Refused::Wrong), "a code lets one phone in");
    }

    #[test]
    fn many_wrong_codes_from_anywhere_change_the_code() {
        let mut door = Door::at(Vec::new());
        let before = door.code.clone();
        for n in 0..WRONG_IN_ALL {
            let from = IpAddr::V4(std::net::Ipv4Addr::from(0xC000_0200 + n));
            assert_eq!(door.tries(wrong(&door), from, Instant::now()), Err(Refused::Wrong));
        }
        assert_ne!(door.code, before, "one in a million fails here");
    }

    #[test]
    fn a_flood_of_strangers_takes_nothing_from_a_phone_that_is_connected() {
        let (phones, _orders) = Phones::new();
        let (token, _) = new_token();
        phones.is_good(&token);
        let strangers = (0..5000).filter(|_| phones.may_ask(Some("no token"))).count();
        assert!(strangers <= 2 * OF_STRANGERS as usize, "{strangers}");
        assert!((0..100).all(|_| phones.may_ask(Some(&token))));
        // One that was disconnected is a stranger.
        phones.forget();
        assert!((0..5000).any(|_| !phones.may_ask(Some(&token))));
    }

    #[test]
    fn a_code_is_good_for_ten_minutes() {
        let mut door = Door::at(Vec::new());
        let code = door.code.clone();
        assert_eq!(door.tries(&code, HERE, Instant::now() + GOOD_FOR), Err(Refused::Old));
        assert_eq!(door.tries(&code, HERE, Instant::now() + GOOD_FOR / 2), Ok(()));
        assert_eq!(code.len(), 6);
    }

    #[test]
    fn of_a_token_only_the_hash_is_kept() {
        let (token, kept) = new_token();
        assert_eq!((token.len(), kept.len()), (64, 32));
        assert_eq!(hash(&token), kept);
        assert_ne!(new_token().0, token);
    }

    #[test]
    fn each_door_has_its_own_names() {
        let kitchen =
            Entrance::kitchen(&["192.0.2.7:7341".parse().unwrap()], &["kitchen.home".into()]);
        assert!(kitchen.knows("192.0.2.7:7341"));
        for other in ["127.0.0.1:7341", "192.0.2.7", "192.0.2.7:80", "kitchen.example:7341"] {
            assert!(!kitchen.knows(other), "{other}");
        }
        assert!(!Entrance::Here.knows("192.0.2.7:7340"));
    }
}
