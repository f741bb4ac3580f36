//! The forms of steps, held against what a drink's schema says that a step takes.

use keen_core::drink::{Action, step_forms};
use serde_json::{Map, Value, json};

fn schema() -> Value {
    serde_json::from_str(include_str!("../../../../docs/drink.schema.json")).unwrap()
}

/// The parts of each action, by the action's name, as the schema has them.
fn parts(schema: &Value) -> Vec<(String, Map<String, Value>)> {
    let actions = schema["$defs"]["Action"]["oneOf"].as_array().unwrap();
    let part = |one: &Value| {
        let (name, of) = one["properties"].as_object().unwrap().iter().next().unwrap();
        (name.clone(), of["properties"].as_object().unwrap().clone())
    };
    actions.iter().map(part).collect()
}

/// A form as a screen gets it.
fn forms() -> Vec<Value> {
    step_forms().iter().map(|form| serde_json::to_value(form).unwrap()).collect()
}

fn sorted<'a>(words: impl Iterator<Item = &'a str>) -> Vec<&'a str> {
    let mut words: Vec<&str> = words.collect();
    words.sort_unstable();
    words
}

#[test]
fn every_part_of_every_step_is_asked_for_once() {
    let schema = schema();
    let parts = parts(&schema);
    let forms = forms();
    assert_eq!(
        sorted(forms.iter().map(|form| form["action"].as_str().unwrap())),
        sorted(parts.iter().map(|(name, _)| name.as_str()))
    );
    for (name, parts) in &parts {
        let form = forms.iter().find(|form| form["action"] == name.as_str()).unwrap();
        let fields = form["fields"].as_array().unwrap();
        let asked = sorted(fields.iter().map(|field| field["key"].as_str().unwrap()));
        assert_eq!(asked, sorted(parts.keys().map(String::as_str)), "{name}");
    }
}

#[test]
fn every_word_that_a_step_may_have_is_offered() {
    let schema = schema();
    let mut choices = 0;
    for (name, parts) in parts(&schema) {
        let forms = forms();
        let form = forms.iter().find(|form| form["action"] == name.as_str()).unwrap();
        for field in form["fields"].as_array().unwrap() {
            let Some(options) = field["takes"]["options"].as_array() else { continue };
            choices += 1;
            let of = parts[field["key"].as_str().unwrap()]["$ref"].as_str().unwrap();
            let kind = &schema["$defs"][of.rsplit('/').next().unwrap()];
            // Words that are described one by one are in a list of constants.
            let words: Vec<&str> = match kind["enum"].as_array() {
                Some(words) => words.iter().filter_map(Value::as_str).collect(),
                None => kind["oneOf"]
                    .as_array()
                    .unwrap()
                    .iter()
                    .flat_map(|one| one["enum"].as_array().unwrap())
                    .filter_map(Value::as_str)
                    .collect(),
            };
            let offered = options.iter().map(|option| option["value"].as_str().unwrap());
            assert_eq!(sorted(offered), sorted(words.into_iter()), "{name}, {field}");
        }
    }
    assert!(choices > 10, "{choices}");
}

/// The shortest step of a kind that says `parts`.
fn step(form: &Value, said: &[(&str, &str)]) -> Action {
    let mut parts = Map::new();
    for field in form["fields"].as_array().unwrap() {
        let value = match field["takes"]["kind"].as_str().unwrap() {
            _ if field["optional"] == true => continue,
            "vessel" | "ingredient" => json!("x"),
            "amount" => json!("100 ml"),
            "number" => json!(2),
            "reduction" => json!("mark"),
            // What is done to an ingredient beforehand has to be said.
            "choice" if form["action"] == "prepare" => {
                field["takes"]["options"][0]["value"].clone()
            }
            _ => continue,
        };
        parts.insert(field["key"].as_str().unwrap().into(), value);
    }
    for (key, value) in said {
        parts.insert((*key).into(), json!(value));
    }
    let mut action = Map::new();
    action.insert(form["action"].as_str().unwrap().into(), parts.into());
    serde_json::from_value(action.into()).unwrap()
}

#[test]
fn what_may_be_left_out_may_be_and_means_the_first_word() {
    let mut seen = 0;
    for form in forms() {
        let least = step(&form, &[]);
        for field in form["fields"].as_array().unwrap() {
            let Some(options) = field["takes"]["options"].as_array() else { continue };
            let first = options[0]["value"].as_str().unwrap();
            let said = step(&form, &[(field["key"].as_str().unwrap(), first)]);
            assert_eq!(said, least, "{field}");
            seen += 1;
        }
    }
    assert!(seen > 10, "{seen}");
}

#[test]
fn a_vessel_that_may_be_left_out_says_what_that_is_called() {
    let mut left_out = 0;
    for form in forms() {
        for field in form["fields"].as_array().unwrap() {
            let vessel = field["takes"]["kind"] == "vessel" && field["optional"] == true;
            assert_eq!(vessel, field["without"] != "", "{field}");
            left_out += usize::from(vessel);
        }
    }
    assert!(left_out > 0);
}

#[test]
fn steps_are_told_apart_by_name() {
    let forms = forms();
    let names = sorted(forms.iter().map(|form| form["name"].as_str().unwrap()));
    let mut once = names.clone();
    once.dedup();
    assert_eq!(names, once);
}

#[test]
fn a_step_is_called_what_files_call_it() {
    for form in forms() {
        assert_eq!(step(&form, &[]).key(), form["action"], "{form}");
    }
}
