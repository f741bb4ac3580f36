//! What the command line does without serving.

use std::io::Read;
use std::path::{Path, PathBuf};

use anyhow::{Context, Result, bail};
use keen_core::cupboard::Cupboard;
use keen_core::drink::{Drink, FieldError};
use keen_core::offer::{Source, Wish, offers};
use keen_core::report::DrinkReport;
use keen_formats::pasted::{StockThing, read_stock};
use keen_formats::{CardStyle, DRINK, SHELF, ShelfFile};
use keen_store::{Draft, KeptVersion, Store, StoreError};

use crate::ExportAs;
use crate::api::house::{self, TableOf, table_text};
use crate::api::{earlier_of, kept_drink, whole_file};

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
        bail!("{} is too large: a drink can have up to 512 kB of text", file.display());
    }
    keen_formats::read_drink(text, cupboard)
        .with_context(|| format!("{} isn't a drink", file.display()))
}

fn read(file: &Path, cupboard: &Cupboard) -> Result<Drink> {
    drink_of(&text_of(file)?, file, cupboard)
}

/// Serves stand-ins for a kitchen's instruments until it is stopped.
pub(crate) fn instruments(port: u16, seed: u64) -> Result<()> {
    let served = keen_instruments::serve(keen_instruments::Stand::new(seed), port)
        .with_context(|| format!("port {port} is in use; choose another with --port"))?;
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
        "\n{:.0} ml in all; {} {:.0} ml has {:.0} g sugar and {:.0} kcal\n{} in all, {} hands-on\n",
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
        m if m % 60 == 0 => format!("{} h", m / 60),
        m => format!("{} h {} min", m / 60, m % 60),
    }
}

/// The drink of that id or name.
fn find(store: &Store, drink: &str) -> Result<keen_store::Kept> {
    if let Ok(kept) = store.drinks().read(drink) {
        return Ok(kept);
    }
    let (total, mut found) = store.drinks().list(drink, 1)?;
    match total {
        0 => bail!("you have no drink called “{drink}”"),
        1 => Ok(found.swap_remove(0)),
        many => bail!("{many} drinks are called “{drink}”; enter more of the name"),
    }
}

/// Prints what can be made from what is there.
pub(crate) fn make_from(text: &str, data: Option<PathBuf>) -> Result<()> {
    let store = shelf_place::open(&shelf_place::folder(data, false)?)?;
    let cupboard = crate::api::kept_cupboard(&store)?;
    let read = read_stock(text, &cupboard, crate::api::clock_now());
    for part in &read.unread {
        eprintln!("we didn't understand “{part}”");
    }
    let drinks = crate::api::known_drinks(&store, &cupboard)?;
    let sources: Vec<Source<'_>> = drinks.iter().map(|(id, drink)| Source { id, drink }).collect();
    let wish = Wish {
        have: read.have.iter().map(StockThing::have).collect(),
        glasses: read.people,
        without: read.without,
        within: read.within,
        ..Wish::default()
    };
    let found = offers(&sources, &wish, &cupboard)?;
    if found.is_empty() {
        bail!("no drink can be made from that; add a fruit, a syrup or a herb");
    }
    let mut out = String::new();
    for offer in found {
        let uses: Vec<&str> = offer.uses.iter().map(|u| u.text.as_str()).collect();
        out += &format!(
            "{} ({:.0} ml, {} hands-on, ready in {})\n    uses {}\n",
            offer.drink.name,
            offer.volume_ml,
            minutes(offer.hands_on_minutes),
            minutes(offer.minutes),
            uses.join(", ")
        );
        if !offer.in_time {
            out += "    not ready by then\n";
        }
        if offer.rounds > 1 {
            out += &format!("    in {} rounds\n", offer.rounds);
        }
        for lack in &offer.lacks {
            out += &format!("    {lack}\n");
        }
        if !offer.missing.is_empty() {
            out += &format!("    buy {}\n", offer.missing.join(", "));
        }
        if !offer.changes.is_empty() {
            out += &format!("    {}: {}\n", offer.source_name, offer.changes.join("; "));
        }
    }
    print(out.trim_end())
}

/// Prints a drink of the shelf, or a table.
pub(crate) fn export(drink: &str, style: ExportAs, data: Option<PathBuf>) -> Result<()> {
    let store = shelf_place::open(&shelf_place::folder(data, false)?)?;
    if style == ExportAs::Csv {
        let of = match drink {
            "ingredients" => TableOf::Ingredients,
            "batches" => TableOf::Batches,
            "readings" => TableOf::Readings,
            other => {
                bail!("there is no table “{other}”; use ingredients, batches or readings")
            }
        };
        return print(table_text(&store, of)?.trim_end());
    }
    let kept = find(&store, drink)?;
    let read = match kept_drink(&kept.body) {
        Ok(drink) => drink,
        Err(why) => {
            eprintln!("“{}” can't be read, so we export its text unchanged: {why}", kept.name);
            return print(&kept.body);
        }
    };
    let cupboard = crate::api::kept_cupboard(&store)?;
    let report = || DrinkReport::of(&read, &cupboard);
    let text = match style {
        ExportAs::Text => keen_formats::card(&read, &report(), CardStyle::Text),
        ExportAs::Markdown => keen_formats::card(&read, &report(), CardStyle::Markdown),
        ExportAs::JsonLd => keen_formats::recipe_ld(&read, &report(), &kept.changed_at),
        _ => whole_file(&store.versions(&kept.id)?).unwrap_or(kept.body),
    };
    print(text.trim_end())
}

/// What a file holds.
enum Holds {
    Drinks(Vec<(Drink, Vec<KeptVersion>)>),
    Ingredients(Vec<keen_core::cupboard::OwnIngredient>),
    Readings(Vec<keen_core::cupboard::Reading>),
    Batches(Vec<keen_formats::BatchRow>),
}

fn faults(file: &Path) -> impl Fn(Vec<FieldError>) -> anyhow::Error + '_ {
    move |errors| {
        let each: Vec<String> = errors.iter().map(ToString::to_string).collect();
        anyhow::anyhow!("{}:\n{}", file.display(), each.join("\n"))
    }
}

/// What a file holds, by its first letters and its name.
fn holds(store: &Store, file: &Path) -> Result<Holds> {
    let bytes = text_of(file)?;
    if bytes.starts_with(b"PK") {
        bail!("{} is a backup; restore it with `keen-pitcher restore`", file.display());
    }
    let cupboard = crate::api::kept_cupboard(store)?;
    if bytes.starts_with(&[0xff, 0xd8, 0xff]) || bytes.starts_with(b"\x89PNG") {
        let codes = keen_formats::read_codes(&bytes);
        let drink = codes.and_then(|codes| keen_formats::drink_of(&codes, &cupboard));
        let drink = drink.with_context(|| format!("{} can't be read", file.display()))?;
        return Ok(Holds::Drinks(vec![(drink, Vec::new())]));
    }
    let text =
        std::str::from_utf8(&bytes).with_context(|| format!("{} isn't text", file.display()))?;
    if let Ok(shelf) = SHELF.read::<ShelfFile>(text) {
        let drinks = unpack(store, shelf)?.into_iter().map(|drink| (drink, Vec::new()));
        return Ok(Holds::Drinks(drinks.collect()));
    }
    let named = |ending: &str| file.extension().is_some_and(|e| e.eq_ignore_ascii_case(ending));
    if named("csv") {
        let heads = text.lines().next().unwrap_or_default().to_lowercase();
        return Ok(if heads.contains("begun_at") {
            Holds::Batches(keen_formats::read_batches(text).map_err(faults(file))?)
        } else if heads.contains("produce") {
            Holds::Readings(keen_formats::read_readings(text).map_err(faults(file))?)
        } else {
            Holds::Ingredients(keen_formats::read_ingredients(text).map_err(faults(file))?)
        });
    }
    if let Some(recipe) = keen_formats::recipe_in(text) {
        return Ok(Holds::Drinks(vec![(pasted(&recipe, &cupboard), Vec::new())]));
    }
    let json = text.trim_start().starts_with(['{', '[']);
    if !json && (named("txt") || named("md") || file == Path::new("-")) {
        return Ok(Holds::Drinks(vec![(pasted(text, &cupboard), Vec::new())]));
    }
    Ok(Holds::Drinks(vec![(drink_of(&bytes, file, &cupboard)?, earlier_of(&bytes))]))
}

/// A recipe as it was read; what is guessed is told.
fn pasted(text: &str, cupboard: &Cupboard) -> Drink {
    let read = keen_formats::pasted::read_recipe(text, &[], cupboard);
    for thing in &read.things {
        let name = thing.name.as_deref().unwrap_or("not known");
        let amount = thing.amount.as_ref().map_or_else(String::new, |a| format!(", {a}"));
        for why in &thing.why {
            eprintln!("“{}” was read as {name}{amount}. {why}", thing.words);
        }
    }
    read.drink
}

/// Puts what is in files on the shelf: all of it, or nothing if one can't be read. Of a whole shelf in one file,
/// which may come from a damaged one, all that can be read.
pub(crate) fn import(files: &[PathBuf], data: Option<PathBuf>) -> Result<()> {
    let store = shelf_place::open(&shelf_place::folder(data, false)?)?;
    let all = files.iter().map(|file| holds(&store, file)).collect::<Result<Vec<_>>>()?;
    let mut kitchen = crate::api::kept_kitchen(&store)?;
    let mut drinks: Vec<(Drink, Vec<KeptVersion>)> = Vec::new();
    let mut batches = Vec::new();
    let mut changed = false;
    for holds in all {
        match holds {
            Holds::Drinks(found) => drinks.extend(found),
            Holds::Ingredients(rows) => {
                house::add_ingredients(&mut kitchen.kitchen, &rows);
                changed = true;
            }
            Holds::Readings(rows) => {
                house::add_readings(&mut kitchen.kitchen, &rows);
                changed = true;
            }
            Holds::Batches(rows) => batches.extend(rows),
        }
    }
    if let Some(fault) = kitchen.kitchen.check().first() {
        bail!("{fault}");
    }
    let now = jiff::Timestamp::now().to_string();
    if changed {
        store.write_document(
            "kitchen",
            kitchen.version,
            &crate::api::KITCHEN.write(&kitchen.kitchen),
            &now,
        )?;
        print("Your kitchen has no figures of its own.")?;
    }
    let rows: Vec<_> = drinks
        .iter()
        .map(|(drink, earlier)| {
            (uuid::Uuid::now_v7().to_string(), DRINK.write(drink), drink, earlier)
        })
        .collect();
    let drafts: Vec<_> = rows
        .iter()
        .map(|(id, body, drink, earlier)| {
            let draft = Draft { name: &drink.name, body, now: &now, key: None };
            (id.clone(), draft, earlier.as_slice())
        })
        .collect();
    store.drinks().fill_with(&drafts)?;
    for (id, _, drink, _) in &rows {
        print(&format!("{id}  {}", drink.name))?;
    }
    if !batches.is_empty() {
        let read = house::add_batches(&store, &batches, &kitchen.kitchen)
            .map_err(|problem| anyhow::anyhow!("{problem}"))?;
        print(&format!("{} batches", read.added()))?;
    }
    Ok(())
}

/// Saves the whole house as one file.
pub(crate) fn backup(file: &Path, data: Option<PathBuf>) -> Result<()> {
    let store = shelf_place::open(&shelf_place::folder(data, false)?)?;
    let manifest = crate::house::save(&store, file)?;
    let drinks = manifest.parts.len().saturating_sub(1);
    print(&format!(
        "{} is saved and checked. It holds everything, including {drinks} drinks.",
        file.display()
    ))
}

/// Puts a saved house in the place of what is there.
pub(crate) fn restore(file: &Path, data: Option<PathBuf>) -> Result<()> {
    let folder = shelf_place::folder(data, false)?;
    // A server would go on with what it had read: it is asked to do it itself.
    let store = match Store::open_to_serve(&shelf_place::shelf_in(&folder)) {
        Err(running @ StoreError::AlreadyServed(_)) => {
            return Err(running)
                .context("while Keen Pitcher runs, restore in its window: open Backup");
        }
        opened => opened?,
    };
    let aside = crate::house::put_back(&store, file)?;
    print(&format!("Restored. Your previous data was saved as {}.", aside.display()))
}

/// Prints the manual page, from what the command line says of itself.
pub(crate) fn manual(command: &clap::Command) -> Result<()> {
    let mut page = Vec::new();
    clap_mangen::Man::new(command.clone()).render(&mut page)?;
    print(String::from_utf8(page)?.trim_end())
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
    let cupboard = crate::api::kept_cupboard(store)?;
    let mut drinks = Vec::new();
    for (at, value) in shelf.drinks.into_iter().enumerate() {
        match keen_formats::drink_from_value(value, &cupboard) {
            Ok(drink) => drinks.push(drink),
            Err(why) => eprintln!("we left out drink {}: {why}", at + 1),
        }
    }
    Ok(drinks)
}
