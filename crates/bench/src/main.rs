//! Asks a running application to compute, again and again, and tells how long it takes.
//!
//!     keen-bench http://127.0.0.1:7340 demo

use std::time::{Duration, Instant};

use anyhow::{Context, Result, bail};
use clap::Parser;

/// Bounded: this many questions, one after the other.
const QUESTIONS: usize = 3000;

#[derive(Parser)]
struct Cli {
    /// Where the application is.
    address: String,
    /// A folder of drinks to ask for.
    drinks: std::path::PathBuf,
}

fn main() -> Result<()> {
    let cli = Cli::parse();
    if !cli.address.starts_with("http://127.0.0.1:") {
        bail!("only the application on this machine is asked");
    }
    let mut bodies = Vec::new();
    for entry in std::fs::read_dir(&cli.drinks).context("there are no drinks")? {
        let text = std::fs::read_to_string(entry?.path())?;
        // The kitchen lies among the drinks.
        if text.contains("\"keen-pitcher/drink\"") {
            bodies.push(text);
        }
    }
    let agent = ureq::Agent::new_with_defaults();
    let url = format!("{}/api/compute/trace", cli.address);
    let mut times: Vec<Duration> = Vec::with_capacity(QUESTIONS);
    for body in bodies.iter().cycle().take(QUESTIONS) {
        let start = Instant::now();
        let answer = agent.post(&url).header("content-type", "application/json").send(body)?;
        let text = answer.into_body().read_to_string()?;
        times.push(start.elapsed());
        if !text.contains("\"profile\":{") {
            bail!("an answer had no profile in it");
        }
    }
    times.sort();
    let at = |share: f64| times[((times.len() - 1) as f64 * share) as usize].as_secs_f64() * 1e3;
    println!(
        "compute/trace, {QUESTIONS} questions: median {:.2} ms, p99 {:.2} ms, worst {:.2} ms",
        at(0.5),
        at(0.99),
        at(1.0)
    );
    Ok(())
}
