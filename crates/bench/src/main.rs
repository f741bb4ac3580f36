//! Asks a running application to compute, again and again, and tells how long it takes: a usual drink, the
//! dearest one, and whether others are kept waiting meanwhile.
//!
//!     keen-bench http://127.0.0.1:7340 demo

use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

use anyhow::{Context, Result, bail};
use clap::Parser;

/// Bounded: this many questions, one after the other.
const QUESTIONS: usize = 3000;
/// Who asks the dearest questions at once, and how often meanwhile others are heard.
const CROWD: usize = 8;
const HEARD: usize = 300;

const DEAREST: &str = include_str!("../dearest.json");

#[derive(Parser)]
struct Cli {
    /// Where the application is.
    address: String,
    /// A folder of drinks to ask for.
    drinks: std::path::PathBuf,
}

struct Application {
    agent: ureq::Agent,
    address: String,
}

impl Application {
    /// Sends a body and returns how long the answer took, and the answer.
    fn post(&self, path: &str, body: &str) -> Result<(Duration, String)> {
        let start = Instant::now();
        let url = format!("{}{path}", self.address);
        let answer = self.agent.post(&url).header("content-type", "application/json").send(body)?;
        let text = answer.into_body().with_config().limit(60_000_000).read_to_string()?;
        Ok((start.elapsed(), text))
    }

    fn health(&self) -> Result<Duration> {
        let start = Instant::now();
        let answer = self.agent.get(format!("{}/api/health", self.address)).call()?;
        answer.into_body().read_to_string()?;
        Ok(start.elapsed())
    }
}

fn ms(times: &mut [Duration], share: f64) -> f64 {
    times.sort();
    times[((times.len() - 1) as f64 * share) as usize].as_secs_f64() * 1e3
}

fn main() -> Result<()> {
    let cli = Cli::parse();
    if !cli.address.starts_with("http://127.0.0.1:") {
        bail!("only the application on this machine is asked");
    }
    let app = Application { agent: ureq::Agent::new_with_defaults(), address: cli.address };
    usual(&app, &cli.drinks)?;
    dearest(&app)?;
    beside_the_dearest(&app)
}

/// A drag asks this: how much longer than the shortest answer that there is.
fn usual(app: &Application, drinks: &std::path::Path) -> Result<()> {
    let mut bodies = Vec::new();
    for entry in std::fs::read_dir(drinks).context("there are no drinks")? {
        let text = std::fs::read_to_string(entry?.path())?;
        // The kitchen lies among the drinks.
        if text.contains("\"keen-pitcher/drink\"") {
            bodies.push(text);
        }
    }
    let (mut traces, mut healths) = (Vec::new(), Vec::new());
    for body in bodies.iter().cycle().take(QUESTIONS) {
        let (time, text) = app.post("/api/compute/trace", body)?;
        traces.push(time);
        healths.push(app.health()?);
        if !text.contains("\"profile\":{") {
            bail!("an answer had no profile in it");
        }
    }
    let (trace, health) = (ms(&mut traces, 0.5), ms(&mut healths, 0.5));
    println!(
        "compute/trace, {QUESTIONS} questions: median {trace:.2} ms, p99 {:.2} ms; health {health:.2} ms; \
         {:.1} round trips",
        ms(&mut traces, 0.99),
        trace / health
    );
    Ok(())
}

/// Every question of the dearest drink that can be written.
fn dearest(app: &Application) -> Result<()> {
    let of_drink = |more: &str| format!("{{\"drink\":{DEAREST}{more}}}");
    let party = r#"{"name":"party","size":{"glasses":{"glasses":48,"size":"200 ml"}}}"#;
    for (question, body) in [
        ("trace", DEAREST.to_owned()),
        ("spread", of_drink("")),
        ("vessels", of_drink("")),
        ("glass", of_drink("")),
        ("size", of_drink(r#","size":{"glasses":{"glasses":48,"size":"200 ml"}}"#)),
        ("sheet", of_drink(&format!(r#","sizes":[{party},{party},{party}]"#))),
        ("solve", of_drink(r#","aim":{"target":{"sweetness":9,"acidity":0.5}}"#)),
        ("swap", of_drink(r#","step":"s102","ingredient":"honey""#)),
        ("steeping", of_drink(r#","step":"s198""#)),
        ("shopping", format!(r#"{{"drinks":[{}]}}"#, vec![DEAREST; 20].join(","))),
    ] {
        let (time, text) = app.post(&format!("/api/compute/{question}"), &body)?;
        println!(
            "dearest drink, {question}: {:.0} ms, {} kB",
            time.as_secs_f64() * 1e3,
            text.len() / 1000
        );
    }
    Ok(())
}

/// Whether others are kept waiting by eight who ask the dearest questions.
fn beside_the_dearest(app: &Application) -> Result<()> {
    let made = app
        .post("/api/drinks", r#"{"name":"Beside","family":"lemonade","vessels":[],"steps":[]}"#)?;
    let made: serde_json::Value = serde_json::from_str(&made.1)?;
    let path = format!("{}/api/drinks/{}", app.address, made["id"].as_str().context("no id")?);
    let heavy = format!("{{\"drink\":{DEAREST}}}");
    let done = AtomicBool::new(false);
    let (mut healths, mut saves) = (Vec::new(), Vec::new());
    std::thread::scope(|scope| -> Result<()> {
        for _ in 0..CROWD {
            scope.spawn(|| {
                while !done.load(Ordering::Relaxed) {
                    for question in ["spread", "glass", "vessels"] {
                        let _ = app.post(&format!("/api/compute/{question}"), &heavy);
                    }
                }
            });
        }
        std::thread::sleep(Duration::from_millis(500));
        let mut drink = made["drink"].clone();
        for i in 0..HEARD {
            healths.push(app.health()?);
            drink["note"] = format!("{i}").into();
            let body = serde_json::json!({ "version": i + 1, "drink": drink }).to_string();
            let start = Instant::now();
            app.agent.put(&path).header("content-type", "application/json").send(&body)?;
            saves.push(start.elapsed());
        }
        done.store(true, Ordering::Relaxed);
        Ok(())
    })?;
    for (name, times) in [("health", &mut healths), ("saves", &mut saves)] {
        println!(
            "{name} beside eight of the dearest questions: median {:.1} ms, p99 {:.1} ms",
            ms(times, 0.5),
            ms(times, 0.99)
        );
    }
    Ok(())
}
