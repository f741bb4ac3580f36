//! Whether long lists open as fast as short ones: the first page of a shelf with 5,000 drinks and 50,000 batches
//! beside that of one with 50 and 50, asked in turns in one run.
//!
//!     lists target/release/keen-pitcher

use std::io::{BufRead, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

use anyhow::{Context, Result};
use clap::Parser;
use keen_formats::DRINK;
use keen_store::Store;
use rusqlite::{Connection, params};

/// Each page is asked for so many times.
const TURNS: usize = 300;
/// Drinks and batches of the short shelf and of the long one.
const SHELVES: [(usize, usize); 2] = [(50, 50), (5000, 50_000)];

#[derive(Parser)]
struct Cli {
    /// The application.
    binary: PathBuf,
}

struct Served {
    process: Child,
    address: String,
    _folder: tempfile::TempDir,
}

impl Drop for Served {
    fn drop(&mut self) {
        let _ = self.process.kill();
        let _ = self.process.wait();
    }
}

/// Fills a shelf in one transaction, as no kitchen ever would.
fn fill(path: &Path, (drinks, batches): (usize, usize)) -> Result<()> {
    drop(Store::open(path)?);
    let mut shelf = Connection::open(path)?;
    let work = shelf.transaction()?;
    let start = keen_formats::starting_points().swap_remove(3).drink;
    let time = |n: usize| {
        format!(
            "20{:02}-{:02}-{:02}T{:02}:{:02}:00Z",
            20 + n / 40_000,
            n / 3000 % 12 + 1,
            n / 100 % 28 + 1,
            n / 5 % 24,
            n % 60
        )
    };
    let ending = r#"{"written":null,"made":{"sweetness":9.1,"acidity":0.52},"doubt":{"sweetness":0.3,"acidity":0.02},"written_ml":2000,"made_ml":1980,"minutes":45,"readings":3,"inside":3,"place":"refrigerator","note":"good, a little sharp","bottles":3}"#;
    for n in 0..drinks {
        let mut drink = start.clone();
        drink.name = format!("Lemonade no {n}");
        work.execute(
            "INSERT INTO drinks (id, version, name, body, created_at, changed_at) VALUES (?1, 1, ?2, ?3, ?4, ?4)",
            params![format!("d{n}"), drink.name, DRINK.write(&drink), time(n)],
        )?;
    }
    for n in 0..batches {
        let (id, of) = (format!("b{n}"), format!("d{}", n % drinks));
        work.execute(
            "INSERT INTO batches (id, drink_id, name, body, practice, begun_at) VALUES (?1, ?2, ?3, '{}', 0, ?4)",
            params![id, of, format!("Lemonade no {}", n % drinks), time(n)],
        )?;
        work.execute(
            "UPDATE batches SET finished_at = begun_at, ending = ?2 WHERE id = ?1",
            params![id, ending],
        )?;
    }
    work.commit()?;
    Ok(())
}

fn serve(binary: &Path, size: (usize, usize)) -> Result<Served> {
    let folder = tempfile::tempdir()?;
    fill(&folder.path().join("keen-pitcher.db"), size)?;
    let mut process = Command::new(binary)
        .args(["--port", "0", "--data"])
        .arg(folder.path())
        .stdout(Stdio::piped())
        .spawn()?;
    let mut line = String::new();
    BufReader::new(process.stdout.take().context("no output")?).read_line(&mut line)?;
    let address = line.split_whitespace().last().context("no address")?.to_owned();
    Ok(Served { process, address, _folder: folder })
}

fn median(times: &mut [Duration]) -> f64 {
    times.sort();
    times[times.len() / 2].as_secs_f64() * 1e3
}

fn main() -> Result<()> {
    let cli = Cli::parse();
    let shelves: Vec<Served> =
        SHELVES.into_iter().map(|size| serve(&cli.binary, size)).collect::<Result<_>>()?;
    let agent = ureq::Agent::new_with_defaults();
    let ask = |served: &Served, path: &str| -> Result<Duration> {
        let start = Instant::now();
        agent.get(format!("{}{path}", served.address)).call()?.into_body().read_to_string()?;
        Ok(start.elapsed())
    };
    for path in [
        "/api/drinks?limit=50",
        "/api/drinks?limit=50&sort=name",
        "/api/drinks?limit=50&sort=made",
        "/api/drinks?limit=50&sort=rating",
        "/api/batches?limit=50",
        "/api/batches?limit=50&made=true",
    ] {
        let mut times = [Vec::new(), Vec::new()];
        for served in &shelves {
            ask(served, path)?;
        }
        for _ in 0..TURNS {
            for (served, times) in shelves.iter().zip(&mut times) {
                times.push(ask(served, path)?);
            }
        }
        let [short, long] = &mut times;
        let (short, long) = (median(short), median(long));
        println!(
            "{path}: {short:.2} ms with 50, {long:.2} ms with {:?}: {:.2} times",
            SHELVES[1],
            long / short
        );
    }
    Ok(())
}
