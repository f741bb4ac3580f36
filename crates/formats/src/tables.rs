//! Tables that spreadsheets read and write (CSV, RFC 4180): shopping, ingredients, batches, readings.
//!
//! A spreadsheet computes a cell that begins like a formula, whoever wrote it. So what begins so is written with a
//! quotation mark in front, which says that it is text; it is taken off again when the table comes back.

use keen_core::cupboard::{Form, Kind, OwnIngredient, Reading};
use keen_core::drink::FieldError;
use keen_core::shop::ShoppingList;

/// Rows of a table that is read.
const MOST_ROWS: usize = 60_000;

fn begins_a_formula(text: &str) -> bool {
    text.starts_with(['=', '+', '-', '@', '\t', '\r', '\n'])
}

/// A cell that a spreadsheet takes as text.
fn cell(text: &str) -> String {
    let marked = text
        .strip_prefix('\'')
        .is_some_and(|rest| begins_a_formula(rest) || rest.starts_with('\''));
    if begins_a_formula(text) || marked { format!("'{text}") } else { text.to_owned() }
}

/// The text of a cell that was written by [`cell`].
fn text(cell: &str) -> &str {
    match cell.strip_prefix('\'') {
        Some(rest) if begins_a_formula(rest) || rest.starts_with('\'') => rest,
        _ => cell,
    }
}

/// Writes rows as CSV; every cell goes through [`cell`].
fn csv<const N: usize>(heads: [&str; N], rows: impl IntoIterator<Item = [String; N]>) -> String {
    let mut out = csv::Writer::from_writer(Vec::new());
    // Writing into memory has no way to fail.
    let _ = out.write_record(heads);
    for row in rows {
        let _ = out.write_record(row.iter().map(|text| cell(text)));
    }
    out.into_inner().ok().and_then(|bytes| String::from_utf8(bytes).ok()).unwrap_or_default()
}

/// A figure as it is read again.
fn figure(value: f64) -> String {
    format!("{value}")
}

fn maybe(value: Option<f64>) -> String {
    value.map_or_else(String::new, figure)
}

/// A shopping list as a table.
#[must_use]
pub fn shopping_table(list: &ShoppingList) -> String {
    let money = |m: Option<f64>| m.map_or_else(String::new, |m| format!("{m:.2}"));
    csv(
        ["where", "what", "needed", "buy", "chance", "price", "cost", "for"],
        list.items.iter().map(|item| {
            [
                item.aisle.name().to_owned(),
                item.name.clone(),
                item.need.clone(),
                item.buy.clone(),
                item.chance.as_ref().map_or_else(String::new, |c| c.message.clone()),
                money(item.price),
                money(item.cost),
                item.drinks.join("; "),
            ]
        }),
    )
}

/// A batch in a table.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct BatchRow {
    /// The drink's name.
    pub drink: String,
    /// When it was started, RFC 3339.
    pub begun_at: String,
    /// The whole time, minutes.
    pub minutes: f64,
    /// Its volume, ml.
    pub ml: f64,
    /// Where it ended: sweetness, g in 100 g.
    pub sweetness: Option<f64>,
    /// And acidity.
    pub acidity: Option<f64>,
    /// Its rating, 1 to 5.
    pub rating: Option<i64>,
    /// How many bottles it filled.
    pub bottles: Option<u32>,
    /// The place where it is kept.
    pub place: String,
    /// A note about the result.
    pub note: String,
}

const BATCHES: [&str; 10] = [
    "drink",
    "begun_at",
    "minutes",
    "ml",
    "sweetness",
    "acidity",
    "rating",
    "bottles",
    "place",
    "note",
];

/// Batches as a table.
#[must_use]
pub fn batches_table(rows: &[BatchRow]) -> String {
    csv(
        BATCHES,
        rows.iter().map(|row| {
            [
                row.drink.clone(),
                row.begun_at.clone(),
                figure(row.minutes),
                figure(row.ml),
                maybe(row.sweetness),
                maybe(row.acidity),
                row.rating.map_or_else(String::new, |r| r.to_string()),
                row.bottles.map_or_else(String::new, |b| b.to_string()),
                row.place.clone(),
                row.note.clone(),
            ]
        }),
    )
}

const READINGS: [&str; 7] = ["produce", "pieces", "juice_ml", "brix", "acidity", "day", "batch"];

/// What fruit gave, as a table.
#[must_use]
pub fn readings_table(readings: &[Reading]) -> String {
    csv(
        READINGS,
        readings.iter().map(|r| {
            [
                r.produce.clone(),
                figure(r.pieces),
                figure(r.juice_ml),
                maybe(r.brix),
                maybe(r.acidity),
                r.day.clone(),
                r.batch.clone().unwrap_or_default(),
            ]
        }),
    )
}

const INGREDIENTS: [&str; 9] =
    ["id", "name", "kind", "form", "sugar", "acid", "alcohol", "insoluble", "density"];

fn word<T: serde::Serialize>(value: &T) -> String {
    serde_json::to_value(value).ok().and_then(|v| v.as_str().map(str::to_owned)).unwrap_or_default()
}

/// Own ingredients as a table.
#[must_use]
pub fn ingredients_table(all: &[OwnIngredient]) -> String {
    csv(
        INGREDIENTS,
        all.iter().map(|it| {
            [
                it.id.clone(),
                it.name.clone(),
                word(&it.kind),
                word(&it.form),
                figure(it.sugar),
                figure(it.acid),
                figure(it.alcohol),
                figure(it.insoluble),
                maybe(it.density),
            ]
        }),
    )
}

/// A table that is read: its rows by the names of its columns.
struct Table {
    heads: Vec<String>,
    rows: Vec<csv::StringRecord>,
}

/// A row of it.
struct Row<'a> {
    table: &'a Table,
    at: usize,
}

impl Table {
    fn read(from: &str, needed: &[&str]) -> Result<Self, Vec<FieldError>> {
        let fault =
            |field: &str, message: String| vec![FieldError { field: field.into(), message }];
        let from = from.trim_start_matches('\u{feff}');
        // Spreadsheets of many countries part cells by semicolons.
        let first = from.lines().next().unwrap_or_default();
        let parted_by = [b',', b';', b'\t']
            .into_iter()
            .max_by_key(|by| first.bytes().filter(|b| b == by).count());
        let mut reader = csv::ReaderBuilder::new()
            .delimiter(parted_by.unwrap_or(b','))
            .flexible(true)
            .trim(csv::Trim::Headers)
            .from_reader(from.as_bytes());
        let heads = reader
            .headers()
            .map_err(|error| fault("", format!("We couldn't read this as a table: {error}.")))?;
        let heads: Vec<String> = heads.iter().map(|h| text(h).to_lowercase()).collect();
        for name in needed {
            if !heads.iter().any(|h| h == name) {
                return Err(fault(
                    name,
                    format!(
                        "The table has no column “{name}”. The first row must name the columns."
                    ),
                ));
            }
        }
        let mut rows = Vec::new();
        for (at, row) in reader.records().enumerate() {
            let row = row.map_err(|error| {
                fault(&format!("row {}", at + 2), format!("This row can't be read: {error}."))
            })?;
            if row.iter().all(|cell| cell.trim().is_empty()) {
                continue;
            }
            if rows.len() >= MOST_ROWS {
                return Err(fault(
                    &format!("row {}", at + 2),
                    format!("Use up to {MOST_ROWS} rows."),
                ));
            }
            rows.push(row);
        }
        Ok(Self { heads, rows })
    }

    fn rows(&self) -> impl Iterator<Item = Row<'_>> {
        (0..self.rows.len()).map(|at| Row { table: self, at })
    }
}

impl Row<'_> {
    fn field(&self, name: &str) -> String {
        // Counted as a spreadsheet does, with the heads as the first.
        format!("row {}, {name}", self.at + 2)
    }

    fn text(&self, name: &str) -> &str {
        let column = self.table.heads.iter().position(|h| h == name);
        column.and_then(|c| self.table.rows[self.at].get(c)).map_or("", text)
    }

    fn number(&self, name: &str, errors: &mut Vec<FieldError>) -> Option<f64> {
        let said = self.text(name).trim();
        if said.is_empty() {
            return None;
        }
        match said.replace(',', ".").parse::<f64>() {
            Ok(value) if value.is_finite() => Some(value),
            _ => {
                errors.push(FieldError {
                    field: self.field(name),
                    message: format!("“{}” isn't a number.", short(said)),
                });
                None
            }
        }
    }

    fn needed(&self, name: &str, errors: &mut Vec<FieldError>) -> f64 {
        let before = errors.len();
        let value = self.number(name, errors);
        if value.is_none() && errors.len() == before {
            errors.push(FieldError {
                field: self.field(name),
                message: "This cell is empty. Enter a value.".into(),
            });
        }
        value.unwrap_or_default()
    }
}

fn short(text: &str) -> String {
    text.chars().take(40).collect()
}

/// Reads batches from a table; every fault is told with its row.
///
/// # Errors
/// What is wrong in which row.
pub fn read_batches(table: &str) -> Result<Vec<BatchRow>, Vec<FieldError>> {
    let table = Table::read(table, &["drink", "begun_at"])?;
    let mut errors = Vec::new();
    let mut all = Vec::new();
    for row in table.rows() {
        let mut fault = |name: &str, message: &str| {
            errors.push(FieldError { field: row.field(name), message: message.into() });
        };
        let begun = row.text("begun_at").trim();
        let day = begun.parse::<jiff::civil::Date>().ok();
        let at = begun.parse::<jiff::Timestamp>().ok().or_else(|| {
            // A day alone is one at noon.
            day?.at(12, 0, 0, 0).to_zoned(jiff::tz::TimeZone::UTC).ok().map(|z| z.timestamp())
        });
        if at.is_none() {
            fault("begun_at", "Enter a time such as 2030-06-21 or 2030-06-21T12:00:00Z.");
        }
        if row.text("drink").trim().is_empty() {
            fault("drink", "Enter the drink's name.");
        }
        for name in ["drink", "place", "note"] {
            if row.text(name).chars().count() > 2000 {
                fault(name, "Enter up to 2000 characters.");
            }
        }
        let mut within = |name: &str, from: f64, to: f64| {
            let value = row.number(name, &mut errors);
            if value.is_some_and(|v| !(from..=to).contains(&v)) {
                errors.push(FieldError {
                    field: row.field(name),
                    message: format!("Enter {from} to {to}."),
                });
            }
            value
        };
        let (minutes, ml) = (within("minutes", 0.0, 200_000.0), within("ml", 0.0, 1e6));
        let (sweetness, acidity) = (within("sweetness", 0.0, 100.0), within("acidity", 0.0, 20.0));
        let (rating, bottles) = (within("rating", 1.0, 5.0), within("bottles", 0.0, 1000.0));
        all.push(BatchRow {
            drink: row.text("drink").trim().to_owned(),
            begun_at: at.map_or_else(String::new, |t| t.to_string()),
            minutes: minutes.unwrap_or_default(),
            ml: ml.unwrap_or_default(),
            sweetness,
            acidity,
            rating: rating.map(|r| r.round() as i64),
            bottles: bottles.map(|b| b.round() as u32),
            place: row.text("place").to_owned(),
            note: row.text("note").to_owned(),
        });
    }
    if errors.is_empty() { Ok(all) } else { Err(first(errors)) }
}

/// Reads what fruit gave from a table. Whether that can be is for the kitchen to say.
///
/// # Errors
/// What is wrong in which row.
pub fn read_readings(table: &str) -> Result<Vec<Reading>, Vec<FieldError>> {
    let table = Table::read(table, &["produce", "pieces", "juice_ml"])?;
    let mut errors = Vec::new();
    let all = table
        .rows()
        .map(|row| Reading {
            produce: row.text("produce").trim().to_owned(),
            pieces: row.needed("pieces", &mut errors),
            juice_ml: row.needed("juice_ml", &mut errors),
            brix: row.number("brix", &mut errors),
            acidity: row.number("acidity", &mut errors),
            day: row.text("day").trim().to_owned(),
            batch: Some(row.text("batch").trim().to_owned()).filter(|b| !b.is_empty()),
        })
        .collect();
    if errors.is_empty() { Ok(all) } else { Err(first(errors)) }
}

/// Reads own ingredients from a table. Whether they can be is for the kitchen to say.
///
/// # Errors
/// What is wrong in which row.
pub fn read_ingredients(table: &str) -> Result<Vec<OwnIngredient>, Vec<FieldError>> {
    let table = Table::read(table, &["name", "kind", "form"])?;
    let mut errors = Vec::new();
    let mut all = Vec::new();
    for row in table.rows() {
        let of_words = |name: &str| serde_json::Value::String(row.text(name).trim().to_lowercase());
        let kind: Option<Kind> = serde_json::from_value(of_words("kind")).ok();
        let form: Option<Form> = serde_json::from_value(of_words("form")).ok();
        let mut unknown = |name: &str, known: &str| {
            let message = format!("We don't know “{}”. Use {known}.", short(row.text(name)));
            errors.push(FieldError { field: row.field(name), message });
        };
        if kind.is_none() {
            unknown("kind", "juice, fruit, herb, spice, sweetener, syrup, acid");
        }
        if form.is_none() {
            unknown("form", "liquid, crystals, pieces, ice");
        }
        let name = row.text("name").trim().to_owned();
        let plain = |c: char| if c.is_ascii_alphanumeric() { c.to_ascii_lowercase() } else { '_' };
        let id = match row.text("id").trim() {
            "" => format!("own_{}", name.chars().map(plain).take(50).collect::<String>()),
            id => id.to_owned(),
        };
        let mut number = |name: &str| row.number(name, &mut errors);
        let [sugar, acid, alcohol, insoluble] =
            ["sugar", "acid", "alcohol", "insoluble"].map(|name| number(name).unwrap_or_default());
        let density = number("density");
        if let (Some(kind), Some(form)) = (kind, form) {
            all.push(OwnIngredient {
                id,
                name,
                kind,
                form,
                sugar,
                acid,
                alcohol,
                insoluble,
                density,
                kept_for_drinks: false,
            });
        }
    }
    if errors.is_empty() { Ok(all) } else { Err(first(errors)) }
}

/// Nobody reads more than some faults at once.
fn first(mut errors: Vec<FieldError>) -> Vec<FieldError> {
    errors.truncate(20);
    errors
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn a_list_has_a_row_for_each_thing() {
        let start = crate::starting_points().swap_remove(0).drink;
        let list = keen_core::shop::shop(
            &[start],
            keen_core::cupboard::Cupboard::builtin(),
            keen_core::shop::Shopping::default(),
        );
        let table = shopping_table(&list);
        assert!(table.starts_with("where,what,needed,buy,chance,price,cost,for\n"), "{table}");
        let rows = csv::Reader::from_reader(table.as_bytes()).into_records().count();
        assert_eq!(rows, list.items.len());
    }

    #[test]
    fn no_cell_is_a_formula() {
        for evil in ["=1+1", "+cmd", "-2+3", "@SUM(A1)", "\t=1", "\r=1", "=HYPERLINK(\"x\")"] {
            let table = csv(["a", "b"], [[evil.to_owned(), "lime".to_owned()]]);
            let mut read = csv::Reader::from_reader(table.as_bytes());
            let row = read.records().next().unwrap().unwrap();
            assert_eq!(&row[0], format!("'{evil}"), "{table}");
            assert_eq!((text(&row[0]), &row[1]), (evil, "lime"));
        }
    }

    fn batch() -> impl Strategy<Value = BatchRow> {
        let text = "[ -~äß🍋'=+@-]{0,30}";
        let amount = || proptest::option::of((0..20_000_i32).prop_map(|n| f64::from(n) / 1000.0));
        (
            ("[a-z=+@'-][ -~é]{0,20}[a-z]", 0..4_000_000_000_i64, 0..9999_i32, amount()),
            (
                amount(),
                proptest::option::of(1..=5_i64),
                proptest::option::of(0..99_u32),
                text,
                text,
            ),
        )
            .prop_map(
                |((drink, at, ml, sweetness), (acidity, rating, bottles, place, note))| BatchRow {
                    drink: drink.trim().to_owned(),
                    begun_at: jiff::Timestamp::from_second(at).unwrap().to_string(),
                    minutes: f64::from(ml) / 8.0,
                    ml: f64::from(ml),
                    sweetness,
                    acidity,
                    rating,
                    bottles,
                    place,
                    note,
                },
            )
    }

    proptest! {
        #[test]
        fn batches_come_back_as_they_went(rows in proptest::collection::vec(batch(), 0..12)) {
            prop_assert_eq!(read_batches(&batches_table(&rows)), Ok(rows));
        }

        #[test]
        fn any_table_is_read_or_told_about(table in "(drink|name|kind|form|begun_at|produce|pieces|juice_ml|[,;\n\"'=]|\\PC){0,60}") {
            let _ = (read_batches(&table), read_readings(&table), read_ingredients(&table));
        }
    }

    #[test]
    fn readings_and_ingredients_come_back_as_they_went() {
        let readings = vec![
            Reading {
                produce: "lemon/medium".into(),
                pieces: 4.0,
                juice_ml: 181.5,
                brix: Some(8.1),
                acidity: None,
                day: "2030-06-21".into(),
                batch: Some("b1".into()),
            },
            Reading {
                produce: "lime/large".into(),
                pieces: 0.5,
                juice_ml: 12.0,
                brix: None,
                acidity: Some(6.2),
                day: String::new(),
                batch: None,
            },
        ];
        assert_eq!(read_readings(&readings_table(&readings)), Ok(readings));
        let own = vec![OwnIngredient {
            id: "own_x".into(),
            name: "=Woodruff, \"syrup\"".into(),
            kind: Kind::Syrup,
            form: Form::Liquid,
            sugar: 60.5,
            acid: 0.2,
            alcohol: 0.0,
            insoluble: 0.0,
            density: Some(1.28),
            kept_for_drinks: false,
        }];
        assert_eq!(read_ingredients(&ingredients_table(&own)), Ok(own));
    }

    #[test]
    fn tables_of_other_hands_are_understood_and_faults_named() {
        let german = "\u{feff}Drink;Begun_at;ml;rating\nLimonade;2030-06-21;1500,5;4\n\n";
        let read = read_batches(german).unwrap();
        assert_eq!(
            (read[0].drink.as_str(), read[0].ml, read[0].rating),
            ("Limonade", 1500.5, Some(4))
        );
        assert_eq!(read[0].begun_at, "2030-06-21T12:00:00Z");
        let fault = |table: &str| read_batches(table).unwrap_err().swap_remove(0);
        assert_eq!(fault("a,b\n1,2").field, "drink");
        let odd = fault("drink,begun_at,ml\nLime,2030-06-21,1\nLime,yesterday,much");
        assert_eq!(
            (odd.field.as_str(), odd.message.contains("2030-06-21")),
            ("row 3, begun_at", true)
        );
        assert_eq!(fault("drink,begun_at,rating\nLime,2030-06-21,9").field, "row 2, rating");
        assert_eq!(
            read_ingredients("name,kind,form\nX,gold,liquid").unwrap_err()[0].field,
            "row 2, kind"
        );
        assert_eq!(
            read_readings("produce,pieces,juice_ml\nlemon,,3").unwrap_err()[0].message,
            "This cell is empty. Enter a value."
        );
    }
}
