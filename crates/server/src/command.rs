//! What the command line does without serving.

use std::io::{Read, Write};
use std::path::{Path, PathBuf};

use anyhow::{Context, Result, bail};
use keen_core::cupboard::Cupboard;
use keen_core::drink::Drink;
use keen_core::report::DrinkReport;
use keen_store::Draft;

/// Prints a text; a reader that has had enough (`| head`) is no error.
pub(crate) fn print(text: &str) -> Result<()> {
    match writeln!(std::io::stdout(), "{}", text.trim_end()) {
        Err(error) if error.kind() != std::io::ErrorKind::BrokenPipe => Err(error.into()),
        _ => Ok(()),
    }
}

fn read(file: &Path, cupboard: &Cupboard) -> Result<Drink> {
    let mut text = Vec::new();
    if file == Path::new("-") {
        std::io::stdin().read_to_end(&mut text).context("standard input can't be read")?;
    } else {
        text = std::fs::read(file).with_context(|| format!("{} can't be read", file.display()))?;
    }
    keen_formats::read_drink(&text, cupboard)
        .with_context(|| format!("{} is no drink", file.display()))
}

/// Runs a drink and prints what it comes to.
pub(crate) fn trace(file: &Path, json: bool) -> Result<()> {
    let drink = read(file, Cupboard::builtin())?;
    let report = DrinkReport::of(&drink, Cupboard::builtin());
    if json {
        return print(&serde_json::to_string_pretty(&report)?);
    }
    print(&table(&drink, &report))
}

fn table(drink: &Drink, report: &DrinkReport) -> String {
    let mut out = format!("{}\n\n", drink.name);
    for (number, frame) in report.frames.iter().enumerate() {
        out += &format!("{:>2}. {} ({})\n", number + 1, frame.sentence, minutes(frame.minutes));
        for state in frame.states.iter().filter(|s| s.mass_g > 0.05) {
            out += &format!(
                "      {:<12} {:>7.0} ml  {:>5.1} °Bx  {:>5.2} % acid  pH {:>3}  {:>3.0} °C\n",
                state.vessel,
                state.level_ml,
                state.brix,
                state.acidity_percent,
                state.ph.map_or("–".to_owned(), |ph| format!("{ph:.1}")),
                state.temperature_c,
            );
        }
        for notice in &frame.notices {
            out += &format!("    ! {}\n", notice.message);
        }
    }
    let Some(profile) = &report.profile else {
        return out + "\nThere is nothing to drink yet.\n";
    };
    out += &format!(
        "\n{:.1} °Bx, {:.1} g sweetness and {:.2} g acid in 100 g",
        profile.brix, profile.sweetness_percent, profile.acidity_percent
    );
    if let Some(ratio) = profile.ratio {
        let band = report.map.point.as_ref().and_then(|p| p.band.clone()).unwrap_or_default();
        out += &format!(", ratio {ratio:.1} ({band})");
    }
    if let Some(ph) = profile.ph {
        out += &format!(", pH {ph:.1}");
    }
    out += &format!(
        "\n{:.0} ml in all; {} {:.0} ml has {:.0} g sugar and {:.0} kcal\n{} in all, {} of it \
         work\n",
        profile.volume_ml,
        if profile.served { "a glass of" } else { "each" },
        profile.glass_ml,
        profile.glass_sugar_g,
        profile.glass_energy_kcal,
        minutes(report.minutes),
        minutes(report.hands_on_minutes),
    );
    out
}

fn minutes(minutes: f64) -> String {
    match minutes.round() as u64 {
        m if m < 120 => format!("{m} min"),
        m => format!("{} h {} min", m / 60, m % 60),
    }
}

/// Prints a drink of the shelf in the open format.
pub(crate) fn export(drink: &str, data: Option<PathBuf>) -> Result<()> {
    let store = crate::server::open(&crate::server::folder(data, false)?)?;
    let kept = match store.read(drink) {
        Ok(kept) => kept,
        Err(_) => {
            let (total, mut found) = store.list(drink, 1)?;
            match total {
                0 => bail!("there is no drink “{drink}” on the shelf"),
                1 => found.swap_remove(0),
                many => bail!("“{drink}” is in the names of {many} drinks; say more of it"),
            }
        }
    };
    let drink: Drink = serde_json::from_str(&kept.body).context("the drink can't be read")?;
    print(&keen_formats::write_drink(&drink))
}

/// Puts drinks on the shelf: all of them, or none if one can't be read.
pub(crate) fn import(files: &[PathBuf], data: Option<PathBuf>) -> Result<()> {
    let store = crate::server::open(&crate::server::folder(data, false)?)?;
    let cupboard = Cupboard::of(&crate::api::kept_kitchen(&store)?.kitchen);
    let drinks = files.iter().map(|file| read(file, &cupboard)).collect::<Result<Vec<Drink>>>()?;
    let now = jiff::Timestamp::now().to_string();
    let bodies =
        drinks.iter().map(serde_json::to_string).collect::<serde_json::Result<Vec<String>>>()?;
    let rows: Vec<(String, Draft<'_>)> = drinks
        .iter()
        .zip(&bodies)
        .map(|(drink, body)| {
            (uuid::Uuid::now_v7().to_string(), Draft { name: &drink.name, body, now: &now })
        })
        .collect();
    store.fill(&rows)?;
    for ((id, _), drink) in rows.iter().zip(&drinks) {
        print(&format!("{id}  {}", drink.name))?;
    }
    Ok(())
}
