//! Serves a set of stand-ins over TCP, as a bridge to real ones would.

use std::collections::HashMap;
use std::io::{self, BufRead, BufReader, Read, Write};
use std::net::{Ipv4Addr, SocketAddr, TcpListener, TcpStream};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::thread;
use std::time::Duration;

use serde::Deserialize;

use crate::line::{Line, Order};
use crate::stand::Stand;

/// Where `keen-pitcher instruments` serves if nothing else is said.
pub const LOOPBACK_PORT: u16 = 7350;
/// How often time passes for them.
const TICK: Duration = Duration::from_millis(100);
/// So many ticks without news a line is told again, so that who listens knows that it is still there.
const STILL_HERE: u32 = 10;
/// The longest order.
const LONGEST: u64 = 2000;

/// Stand-ins that are served. They go on until the program ends.
#[derive(Debug)]
pub struct Served {
    /// The address.
    pub address: SocketAddr,
}

#[derive(Debug, Deserialize)]
struct Told {
    /// For which; the only one that can do it, if left out.
    instrument: Option<String>,
    #[serde(flatten)]
    order: Order,
}

#[derive(Debug)]
struct Shared {
    stand: Stand,
    listeners: Vec<TcpStream>,
}

fn lock(shared: &Mutex<Shared>) -> MutexGuard<'_, Shared> {
    // What a thread broke on was an order; the stand-ins are as they were.
    shared.lock().unwrap_or_else(PoisonError::into_inner)
}

/// Serves a set on a port of this machine; 0 takes a free one.
///
/// # Errors
/// If the port can't be had.
pub fn serve(stand: Stand, port: u16) -> io::Result<Served> {
    let listener = TcpListener::bind((Ipv4Addr::LOCALHOST, port))?;
    let address = listener.local_addr()?;
    let shared = Arc::new(Mutex::new(Shared { stand, listeners: Vec::new() }));
    let ticking = Arc::clone(&shared);
    thread::Builder::new().name("instruments".into()).spawn(move || tick(&ticking))?;
    thread::Builder::new().name("instruments-door".into()).spawn(move || {
        for stream in listener.incoming().flatten() {
            let mine = Arc::clone(&shared);
            // Who can't be heard is told nothing either.
            let _ = thread::Builder::new()
                .name("instrument-orders".into())
                .spawn(move || hear(&mine, &stream));
        }
    })?;
    Ok(Served { address })
}

fn tick(shared: &Mutex<Shared>) {
    let mut told: HashMap<String, (Line, u32)> = HashMap::new();
    loop {
        thread::sleep(TICK);
        let mut now = lock(shared);
        now.stand.pass(TICK.as_secs_f64());
        let mut text = String::new();
        for line in now.stand.lines() {
            let (before, since) =
                told.get(&line.instrument).map_or((None, 0), |(l, s)| (Some(l), *s));
            let news = before != Some(&line) || since >= STILL_HERE;
            if news {
                text += &serde_json::to_string(&line).unwrap_or_default();
                text.push('\n');
            }
            told.insert(line.instrument.clone(), (line, if news { 0 } else { since + 1 }));
        }
        now.listeners.retain_mut(|to| to.write_all(text.as_bytes()).is_ok());
    }
}

/// Hears one connection's orders, and tells it what all of them read at once.
fn hear(shared: &Mutex<Shared>, stream: &TcpStream) {
    let Ok(mut writer) = stream.try_clone() else { return };
    // Who doesn't listen doesn't keep the others waiting.
    if writer.set_write_timeout(Some(Duration::from_millis(200))).is_err() {
        return;
    }
    {
        let mut now = lock(shared);
        for line in now.stand.lines() {
            let text = serde_json::to_string(&line).unwrap_or_default() + "\n";
            if writer.write_all(text.as_bytes()).is_err() {
                return;
            }
        }
        now.listeners.push(writer);
    }
    let mut reader = BufReader::new(stream);
    loop {
        let mut text = Vec::new();
        match reader.by_ref().take(LONGEST).read_until(b'\n', &mut text) {
            Ok(0) | Err(_) => return,
            Ok(_) => {}
        }
        let Ok(Told { instrument, order }) = serde_json::from_slice(&text) else { continue };
        let name = instrument.unwrap_or_else(|| usual_for(&order).to_owned());
        lock(shared).stand.hear(&name, &order);
    }
}

fn usual_for(order: &Order) -> &'static str {
    match order {
        Order::Tare | Order::Pour { .. } | Order::Lift => "scale-1",
        Order::Calibrate { .. } => "ph-meter-1",
        Order::Compensate { .. } => "refractometer-1",
        Order::Dip { .. } => "thermometer-1",
        Order::Drop { .. } => "acid-kit-1",
        Order::Rate { .. } | Order::Jump { .. } => "clock-1",
    }
}
