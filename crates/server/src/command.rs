//! What the command line does without serving.

use std::io::Read;
use std::path::{Path, PathBuf};

use anyhow::{Context, Result, bail};
use keen_core::cupboard::Cupboard;
use keen_core::drink::Drink;
use keen_core::report::DrinkReport;
use keen_formats::{DRINK, SHELF, ShelfFile};
use keen_store::{Draft, Store};

use crate::console::print;
use crate::shelf_place::{self, MAX_BODY};

/// A whole shelf in one file is as large as this at most.
const MAX_SHELF: usize = 64 * 1024 * 1024;

fn text_of(file: &Path) -> Result<Vec<u8>> {
    let mut text = Vec::new();
    let most = MAX_SHELF as u64 + 1;
    if file == Path::new("-") {
        let read = std::io::stdin().take(most).read_to_end(&mut text);
        read.context("standard input can't be read")?;
    } else {
        let read = std::fs::File::open(file).and_then(|f| f.take(most).read_to_end(&mut text));
        read.with_context(|| format!("{} can't be read", file.display()))?;
    }
    Ok(text)
}

fn drink_of(text: &[u8], file: &Path, cupboard: &Cupboard) -> Result<Drink> {
    if text.len() > MAX_BODY {
        bail!("{} is too large for a drink; 512 kB as text are the most", file.display());
    }
    keen_formats::read_drink(text, cupboard)
        .with_context(|| format!("{} is no drink", file.display()))
}

fn read(file: &Path, cupboard: &Cupboard) -> Result<Drink> {
    drink_of(&text_of(file)?, file, cupboard)
}

/// Serves stand-ins for a kitchen's instruments until it is stopped.
pub(crate) fn instruments(port: u16, seed: u64) -> Result<()> {
    let served = keen_instruments::serve(keen_instruments::Stand::new(seed), port)
        .with_context(|| format!("port {port} can't be had; choose another one with --port"))?;
    print(&format!("The instruments are at {}", served.address))?;
    loop {
        std::thread::park();
    }
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
        _ if minutes > 0.0 && minutes < 0.75 => format!("{:.0} s", (minutes * 6.0).ceil() * 10.0),
        m if m < 120 => format!("{m} min"),
        m => format!("{} h {} min", m / 60, m % 60),
    }
}

/// Prints a drink of the shelf in the open format.
pub(crate) fn export(drink: &str, data: Option<PathBuf>) -> Result<()> {
    let store = shelf_place::open(&shelf_place::folder(data, false)?)?;
    let kept = match store.drinks().read(drink) {
        Ok(kept) => kept,
        Err(_) => {
            let (total, mut found) = store.drinks().list(drink, 1)?;
            match total {
                0 => bail!("there is no drink “{drink}” on the shelf"),
                1 => found.swap_remove(0),
                many => bail!("“{drink}” is in the names of {many} drinks; say more of it"),
            }
        }
    };
    match crate::api::kept_drink(&kept.body) {
        Ok(drink) => print(&keen_formats::write_drink(&drink)),
        Err(why) => {
            eprintln!("“{}” can't be read and is written as it is kept: {why}", kept.name);
            print(&kept.body)
        }
    }
}

/// Puts drinks on the shelf: all of them, or none if one can't be read. Of a whole shelf in one file,
/// which may come from a damaged one, all that can be read.
pub(crate) fn import(files: &[PathBuf], data: Option<PathBuf>) -> Result<()> {
    let store = shelf_place::open(&shelf_place::folder(data, false)?)?;
    let mut drinks = Vec::new();
    for file in files {
        let text = text_of(file)?;
        let whole = std::str::from_utf8(&text).ok().and_then(|t| SHELF.read::<ShelfFile>(t).ok());
        match whole {
            Some(shelf) => drinks.extend(unpack(&store, shelf)?),
            None => {
                let cupboard = Cupboard::of(&crate::api::kept_kitchen(&store)?.kitchen);
                drinks.push(drink_of(&text, file, &cupboard)?);
            }
        }
    }
    let now = jiff::Timestamp::now().to_string();
    let rows: Vec<(String, String, &Drink)> = drinks
        .iter()
        .map(|drink| (uuid::Uuid::now_v7().to_string(), DRINK.write(drink), drink))
        .collect();
    let drafts: Vec<(String, Draft<'_>)> = rows
        .iter()
        .map(|(id, body, drink)| {
            (id.clone(), Draft { name: &drink.name, body, now: &now, key: None })
        })
        .collect();
    store.drinks().fill(&drafts)?;
    for (id, _, drink) in &rows {
        print(&format!("{id}  {}", drink.name))?;
    }
    Ok(())
}

/// The drinks of a whole shelf. Its kitchen is taken over where there is none yet; what can't be read is
/// told.
fn unpack(store: &Store, shelf: ShelfFile) -> Result<Vec<Drink>> {
    for (what, value) in shelf.documents {
        if what == "kitchen"
            && let Ok(kitchen) = crate::api::KITCHEN.read(&value.to_string())
        {
            crate::api::keep_kitchen(store, &kitchen)?;
        }
    }
    let cupboard = Cupboard::of(&crate::api::kept_kitchen(store)?.kitchen);
    let mut drinks = Vec::new();
    for (at, value) in shelf.drinks.into_iter().enumerate() {
        match keen_formats::drink_from_value(value, &cupboard) {
            Ok(drink) => drinks.push(drink),
            Err(why) => eprintln!("drink {} of the shelf is left out: {why}", at + 1),
        }
    }
    Ok(drinks)
}
