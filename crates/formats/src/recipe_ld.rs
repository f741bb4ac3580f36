//! Recipes as the web marks them up (schema.org Recipe as JSON-LD), out and in.
//!
//! What comes in is turned into the text that a person would have pasted, and read as such: one way of reading
//! recipes is enough.

use keen_core::drink::Drink;
use keen_core::report::DrinkReport;
use serde_json::{Map, Value, json};

/// Values of a page that are looked at for a recipe.
const MOST_VALUES: usize = 20_000;
/// Letters of the text that comes of one.
const MOST_LETTERS: usize = 20_000;

/// A time as ISO 8601 writes a duration.
fn duration(minutes: f64) -> String {
    let whole = minutes.round().max(0.0) as u64;
    match (whole / 60, whole % 60) {
        (0, m) => format!("PT{m}M"),
        (h, 0) => format!("PT{h}H"),
        (h, m) => format!("PT{h}H{m}M"),
    }
}

/// A drink as a schema.org Recipe, with what a glass of it has in it.
#[must_use]
pub fn recipe_ld(drink: &Drink, report: &DrinkReport, changed_at: &str) -> String {
    let mut recipe = Map::new();
    let mut put = |key: &str, value: Value| drop(recipe.insert(key.to_owned(), value));
    put("@context", json!("https://schema.org"));
    put("@type", json!("Recipe"));
    put("name", json!(drink.name));
    put("recipeCategory", json!("Drink"));
    if !drink.note.trim().is_empty() {
        put("description", json!(drink.note));
    }
    if !changed_at.is_empty() {
        put("dateModified", json!(changed_at));
    }
    put("totalTime", json!(duration(report.minutes)));
    put("prepTime", json!(duration(report.hands_on_minutes)));
    let lines = report.lines.iter().map(|line| match line.is_fill_line {
        true => format!("{} to make {}", line.name.to_lowercase(), line.text),
        false => format!("{} {}", line.text, line.name.to_lowercase()),
    });
    put("recipeIngredient", lines.collect());
    let steps =
        report.frames.iter().map(|frame| json!({ "@type": "HowToStep", "text": frame.sentence }));
    put("recipeInstructions", steps.collect());
    if let Some(profile) = &report.profile {
        let glasses =
            format!("{:.0} glasses of {:.0} ml", profile.glasses.max(1.0), profile.glass_ml);
        let volume = format!("{:.1} litres", profile.volume_ml / 1000.0);
        put(
            "recipeYield",
            json!(if profile.served { vec![glasses, volume] } else { vec![volume] }),
        );
        put(
            "nutrition",
            json!({
                "@type": "NutritionInformation",
                "servingSize": format!("{:.0} ml", profile.glass_ml),
                "calories": format!("{:.0} calories", profile.glass_energy_kcal),
                "sugarContent": format!("{:.0} grams", profile.glass_sugar_g),
            }),
        );
    }
    serde_json::to_string_pretty(&Value::Object(recipe)).unwrap_or_default() + "\n"
}

/// The recipe in a text that is JSON-LD, or a saved web page with such in it, as a text that can be read; `None`
/// if there is none.
#[must_use]
pub fn recipe_in(text: &str) -> Option<String> {
    let trimmed = text.trim_start_matches('\u{feff}').trim_start();
    if trimmed.starts_with(['{', '[']) {
        return serde_json::from_str(trimmed).ok().as_ref().and_then(find).map(text_of);
    }
    if !trimmed.starts_with('<') && !trimmed.contains("<script") {
        return None;
    }
    scripts(text)
        .filter_map(|script| serde_json::from_str::<Value>(script.trim()).ok())
        .find_map(|v| find(&v).map(text_of))
}

/// What stands in the page's scripts of that type.
fn scripts(page: &str) -> impl Iterator<Item = &str> {
    let lower = page.to_ascii_lowercase();
    let mut from = 0;
    std::iter::from_fn(move || {
        loop {
            let tag = from + lower[from..].find("<script")?;
            let open = tag + lower[tag..].find('>')? + 1;
            let close = open + lower[open..].find("</script").unwrap_or(lower.len() - open);
            from = close;
            if lower[tag..open].contains("ld+json") {
                return Some((open, close));
            }
        }
    })
    .map(move |(open, close)| &page[open..close])
}

fn is_recipe(value: &Value) -> bool {
    let named =
        |v: &Value| v.as_str().is_some_and(|s| s.rsplit(['/', ':']).next() == Some("Recipe"));
    match value.get("@type") {
        Some(Value::Array(types)) => types.iter().any(named),
        Some(one) => named(one),
        None => false,
    }
}

/// The first recipe anywhere in it.
fn find(value: &Value) -> Option<&Value> {
    let mut open = vec![value];
    let mut looked = 0;
    while let Some(value) = open.pop() {
        looked += 1;
        if looked > MOST_VALUES {
            return None;
        }
        match value {
            Value::Object(map) => {
                if is_recipe(value) {
                    return Some(value);
                }
                open.extend(map.values().rev());
            }
            Value::Array(all) => open.extend(all.iter().rev()),
            _ => {}
        }
    }
    None
}

/// The texts in a value: of a list each, of an object what it says.
fn texts(value: Option<&Value>, into: &mut Vec<String>) {
    match value {
        Some(Value::String(text)) => {
            into.extend(text.split('\n').map(clean).filter(|t| !t.is_empty()))
        }
        Some(Value::Number(number)) => into.push(number.to_string()),
        Some(Value::Array(all)) => all.iter().take(500).for_each(|v| texts(Some(v), into)),
        Some(Value::Object(map)) => {
            if let Some(inner) = map.get("itemListElement") {
                if let Some(Value::String(name)) = map.get("name") {
                    into.push(format!("{}:", clean(name)));
                }
                texts(Some(inner), into);
            } else {
                texts(map.get("text").or_else(|| map.get("name")), into);
            }
        }
        _ => {}
    }
}

/// Without tags, and with the letters that pages write in other ways.
fn clean(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    let mut inside = false;
    for c in text.chars() {
        match c {
            '<' => inside = true,
            '>' if inside => {
                inside = false;
                out.push(' ');
            }
            c if !inside => out.push(c),
            _ => {}
        }
    }
    for (entity, letter) in [
        ("&nbsp;", " "),
        ("&#160;", " "),
        ("&frac12;", "½"),
        ("&frac14;", "¼"),
        ("&frac34;", "¾"),
        ("&deg;", "°"),
        ("&quot;", "\""),
        ("&#39;", "'"),
        ("&#x27;", "'"),
        ("&rsquo;", "’"),
        ("&ndash;", "–"),
        ("&lt;", "<"),
        ("&gt;", ">"),
        ("&amp;", "&"),
    ] {
        if out.contains(entity) {
            out = out.replace(entity, letter);
        }
    }
    out.split_whitespace().collect::<Vec<_>>().join(" ")
}

/// The recipe as a person would have pasted it.
fn text_of(recipe: &Value) -> String {
    let of = |key: &str| {
        let mut all = Vec::new();
        texts(recipe.get(key), &mut all);
        all
    };
    let mut out = of("name").into_iter().next().unwrap_or_else(|| "A recipe".into());
    out.push('\n');
    for makes in of("recipeYield").into_iter().take(3) {
        let plain = makes.parse::<f64>().is_ok();
        let starts = makes.to_lowercase();
        let said = ["serves", "makes", "yield"].iter().any(|w| starts.starts_with(w));
        out += &if plain {
            format!("Serves {makes}\n")
        } else if said {
            format!("{makes}\n")
        } else {
            format!("Makes {makes}\n")
        };
    }
    out += "\nIngredients:\n";
    let listed = [of("recipeIngredient"), of("ingredients")].concat();
    listed.iter().for_each(|line| out += &format!("- {line}\n"));
    out += "\nMethod:\n";
    of("recipeInstructions").iter().for_each(|line| out += &format!("{line}\n"));
    let notes = of("description");
    if !notes.is_empty() {
        out += &format!("\nNotes:\n{}\n", notes.join("\n"));
    }
    out.chars().take(MOST_LETTERS).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::pasted::read_recipe;
    use keen_core::cupboard::Cupboard;

    /// The terms of schema.org's Recipe that are used, with what each may be.
    #[test]
    fn what_goes_out_is_a_recipe_by_the_terms() {
        for start in crate::starting_points() {
            let report = DrinkReport::of(&start.drink, Cupboard::builtin());
            let value: Value =
                serde_json::from_str(&recipe_ld(&start.drink, &report, "2030-01-01T10:00:00Z"))
                    .unwrap();
            assert_eq!(
                (value["@context"].as_str(), value["@type"].as_str()),
                (Some("https://schema.org"), Some("Recipe"))
            );
            for (key, it) in value.as_object().unwrap() {
                let fine = match key.as_str() {
                    "@context" | "@type" | "name" | "description" | "recipeCategory"
                    | "dateModified" => it.is_string(),
                    "totalTime" | "prepTime" => {
                        let text = it.as_str().unwrap();
                        text.starts_with("PT")
                            && text.ends_with(['M', 'H'])
                            && text[2..].starts_with(|c: char| c.is_ascii_digit())
                    }
                    "recipeIngredient" | "recipeYield" => {
                        it.as_array().unwrap().iter().all(Value::is_string)
                    }
                    "recipeInstructions" => it
                        .as_array()
                        .unwrap()
                        .iter()
                        .all(|s| s["@type"] == "HowToStep" && s["text"].is_string()),
                    "nutrition" => {
                        it["@type"] == "NutritionInformation"
                            && it["calories"].as_str().unwrap().ends_with(" calories")
                            && it["sugarContent"].as_str().unwrap().ends_with(" grams")
                    }
                    other => panic!("{other} is no term that is used"),
                };
                assert!(fine, "{key}: {it}");
            }
        }
    }

    #[test]
    fn a_recipe_is_found_in_a_saved_page() {
        let page = r#"<!doctype html><html><head><script>var x = "<script>";</script>
            <SCRIPT type="application/ld+json">{"@graph":[{"@type":"WebPage","name":"no"},
            {"@type":["Thing","http://schema.org/Recipe"],"name":"Pink &amp; sharp","recipeYield":"6",
             "recipeIngredient":["1&frac12; cups sugar","<b>4</b> lemons, juiced","water to make 2 l"],
             "recipeInstructions":[{"@type":"HowToSection","name":"First","itemListElement":[
               {"@type":"HowToStep","text":"Stir the sugar into the juice."}]},"Top up with the water."]}]}</script>"#;
        let text = recipe_in(page).unwrap();
        assert!(text.starts_with("Pink & sharp\nServes 6\n"), "{text}");
        let read = read_recipe(&text, &[], Cupboard::builtin());
        let amounts: Vec<String> =
            read.things.iter().map(|t| t.amount.as_ref().unwrap().to_string()).collect();
        assert_eq!(amounts, ["1 1/2 cups", "4 lemons", "2 l"]);
        assert_eq!(read.drink.name, "Pink & sharp");
    }

    #[test]
    fn what_goes_out_comes_in_again() {
        for start in crate::starting_points() {
            let report = DrinkReport::of(&start.drink, Cupboard::builtin());
            let text = recipe_in(&recipe_ld(&start.drink, &report, "")).unwrap();
            let read = read_recipe(&text, &[], Cupboard::builtin());
            assert_eq!(read.drink.name, start.drink.name);
            assert!(read.things.len() + 1 >= report.lines.len(), "{text}");
        }
    }

    #[test]
    fn what_holds_no_recipe_is_none() {
        let deep = format!("{}{}", "[".repeat(100), "]".repeat(100));
        let wide = format!("[{}]", vec!["{\"a\":1}"; 30_000].join(","));
        for text in [
            "",
            "{",
            "[]",
            "{\"@type\":\"Person\"}",
            "<html></html>",
            "<script type=ld+json>{</script>",
            "4 lemons",
            &deep,
            &wide,
            "<script",
            "<scriptİ>ld+json",
        ] {
            assert_eq!(recipe_in(text), None, "{}", &text[..text.len().min(40)]);
        }
    }
}
