//! Tables that spreadsheets read (CSV, RFC 4180).

use keen_core::shop::ShoppingList;

/// A cell that a spreadsheet takes as text. What begins like a formula would be computed when the table
/// is opened, and a name may begin like one; the quotation mark in front says that it is text.
fn cell(text: &str) -> String {
    match text.chars().next() {
        Some('=' | '+' | '-' | '@' | '\t' | '\r' | '\n') => format!("'{text}"),
        _ => text.to_owned(),
    }
}

/// Writes rows as CSV; every cell goes through [`cell`].
fn csv<const N: usize>(rows: impl IntoIterator<Item = [String; N]>) -> String {
    let mut out = csv::Writer::from_writer(Vec::new());
    for row in rows {
        // Writing into memory has no way to fail.
        let _ = out.write_record(row.iter().map(|text| cell(text)));
    }
    out.into_inner().ok().and_then(|bytes| String::from_utf8(bytes).ok()).unwrap_or_default()
}

/// A shopping list as a table.
#[must_use]
pub fn shopping_table(list: &ShoppingList) -> String {
    let heads = ["where", "what", "needed", "buy", "chance", "price", "cost", "for"];
    let money = |m: Option<f64>| m.map_or_else(String::new, |m| format!("{m:.2}"));
    csv(std::iter::once(heads.map(str::to_owned)).chain(list.items.iter().map(|item| {
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
    })))
}

#[cfg(test)]
mod tests {
    use super::*;

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
            let table = csv([[evil.to_owned(), "lime".to_owned()]]);
            let mut read =
                csv::ReaderBuilder::new().has_headers(false).from_reader(table.as_bytes());
            let row = read.records().next().unwrap().unwrap();
            assert_eq!(&row[0], format!("'{evil}"), "{table}");
            assert_eq!(&row[1], "lime");
        }
    }
}
