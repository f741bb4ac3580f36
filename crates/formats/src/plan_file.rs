//! Plans as they are kept: which drinks, for when, with whom. Times are those of the kitchen's clock on the
//! wall, as `2030-06-22T15:00`; which moment that is, is known where the zone is.

use std::collections::HashSet;

use jiff::ToSpan;
use jiff::civil::{DateTime, Time};
use keen_core::drink::FieldError;
use keen_core::plan::{After, Means, most};
use keen_core::scale::Size;
use serde::{Deserialize, Serialize};

use crate::envelope::Format;
use crate::json::{FormatError, from_value, read_json};

/// The format of a plan.
pub const PLAN: Format = Format { name: "keen-pitcher/plan", field: "plan", steps: &[] };

/// The drinks, their serving time and the kitchen's means.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct PlanFile {
    /// Its name.
    pub name: String,
    /// A note.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
    /// When the drinks are served, local time: `2030-06-22T15:00`.
    pub serving: String,
    /// The drinks.
    #[serde(default)]
    pub drinks: Vec<PlannedDrink>,
    /// Cooks, burners and room in the refrigerator.
    #[serde(default)]
    pub means: Means,
    /// Times of every day when nobody is free; empty if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub night: Option<Night>,
    /// Other times when nobody is free.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub spoken_for: Vec<SpokenFor>,
    /// The tasks that are pinned to a time.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub holds: Vec<HeldTask>,
    /// When the tasks were planned before the latest change: they stay there where that is nearly as good.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub stood: Vec<HeldTask>,
    /// The tasks that come after others.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub after: Vec<After>,
    /// The parts to make the evening before: the entry and the last step of each, `b/s9`.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub ahead: Vec<String>,
    /// The ids of the invited tasters; all tasters if left out.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub guests: Vec<String>,
}

/// A drink of a plan.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct PlannedDrink {
    /// Its id within the plan.
    pub id: String,
    /// The drink's id on the shelf.
    pub drink: String,
    /// Its name when it was added to the plan, in case the drink is deleted.
    #[serde(default)]
    pub name: String,
    /// The size to make; as written if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub size: Option<Size>,
    /// When it is served, if not with the others.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub serving: Option<String>,
    /// The ids of cooling steps to do in cold water, whatever the drink says.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub water_bath: Vec<String>,
}

/// Times of every day: from one local time to another, which may be on the next day.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct Night {
    /// `22:00`.
    pub from: String,
    /// `07:00`.
    pub to: String,
}

/// Busy times.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct SpokenFor {
    /// Start, local time.
    pub from: String,
    /// To.
    pub to: String,
    /// The reason: "school run".
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub what: String,
}

/// A task that is pinned to a time.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[derive(utoipa::ToSchema)]
pub struct HeldTask {
    /// Its id in the plan.
    pub task: String,
    /// When its hands-on work starts, local time.
    pub at: String,
}

/// Sizes of a plan beyond which something is surely a slip.
mod limits {
    pub(super) const NAME: usize = 120;
    pub(super) const NOTE: usize = 2000;
    pub(super) const LIST: usize = 200;
    pub(super) const ID: usize = 140;
}

/// A time on the wall.
///
/// # Errors
/// Names the field.
pub fn civil(field: &str, text: &str) -> Result<DateTime, FieldError> {
    let read: Option<DateTime> = text.parse().ok();
    // Far enough from the ends of the calendar that days can be counted from it.
    read.filter(|t| (1970..=2200).contains(&t.year())).ok_or_else(|| FieldError {
        field: field.to_owned(),
        message: format!(
            "We couldn't read “{}”. Enter a date and time such as 2030-06-22T15:00.",
            text.chars().take(40).collect::<String>()
        ),
    })
}

impl Night {
    /// The two times on the wall.
    ///
    /// # Errors
    /// Names the field.
    pub fn times(&self) -> Result<(Time, Time), FieldError> {
        let read = |field: &str, text: &str| {
            text.parse::<Time>().map_err(|_| FieldError {
                field: format!("night.{field}"),
                message: format!(
                    "We couldn't read “{}”. Enter a time such as 22:00.",
                    text.chars().take(20).collect::<String>()
                ),
            })
        };
        let (from, to) = (read("from", &self.from)?, read("to", &self.to)?);
        if from == to {
            return Err(FieldError {
                field: "night".into(),
                message: format!(
                    "Quiet hours from {} to {} leave no time to work. Choose shorter ones.",
                    self.from, self.to
                ),
            });
        }
        Ok((from, to))
    }
}

impl PlanFile {
    /// What can't be planned; empty if it can be tried.
    #[must_use]
    pub fn check(&self) -> Vec<FieldError> {
        let mut faults = self.means.check();
        let mut fault = |field: &str, message: &str| {
            faults.push(FieldError { field: field.to_owned(), message: message.to_owned() });
        };
        if self.name.trim().is_empty() {
            fault("name", "Enter a name for the plan.");
        }
        if long(&self.name, limits::NAME) || odd(&self.name) {
            fault("name", "Enter a name of up to 120 characters.");
        }
        if long(&self.note, limits::NOTE) || odd(&self.note) {
            fault("note", "Enter a note of up to 2000 characters.");
        }
        if self.drinks.len() > most::DRINKS {
            let message =
                format!("You chose {} drinks. Choose up to {}.", self.drinks.len(), most::DRINKS);
            fault("drinks", &message);
        }
        let lists = [
            self.spoken_for.len(),
            self.holds.len(),
            self.after.len(),
            self.ahead.len(),
            self.guests.len(),
        ];
        if lists.iter().any(|n| *n > limits::LIST) {
            fault("plan", "Enter up to 200 of each.");
        }
        if self.stood.len() > most::TASKS {
            fault("stood", "Enter up to 600 tasks.");
        }
        self.check_ids(&mut fault);
        self.check_times(&mut faults);
        self.check_busy_times(&mut faults);
        faults
    }

    fn check_ids(&self, fault: &mut impl FnMut(&str, &str)) {
        let ids = self
            .holds
            .iter()
            .chain(&self.stood)
            .map(|h| &h.task)
            .chain(self.after.iter().flat_map(|a| [&a.task, &a.after]))
            .chain(&self.ahead)
            .chain(&self.guests)
            .chain(self.drinks.iter().flat_map(|d| [&d.drink, &d.name]))
            .chain(self.drinks.iter().flat_map(|d| &d.water_bath));
        if ids.into_iter().any(|id| long(id, limits::ID) || odd(id)) {
            fault("plan", "One of the names is too long or has control characters. Shorten it.");
        }
        let mut seen = HashSet::new();
        for (i, drink) in self.drinks.iter().enumerate() {
            let plain = |c: char| c.is_ascii_alphanumeric() || "_-".contains(c);
            if drink.id.is_empty() || drink.id.len() > 40 || !drink.id.chars().all(plain) {
                fault(
                    &format!("drinks[{i}].id"),
                    "Enter an id of up to 40 letters, digits, “-” or “_”.",
                );
            } else if !seen.insert(&drink.id) {
                fault(&format!("drinks[{i}].id"), "Two entries have the same id.");
            }
        }
    }

    /// Times that can be read, none of them months from the serving.
    fn check_times(&self, faults: &mut Vec<FieldError>) {
        let mut times: Vec<(String, &str)> = vec![("serving".into(), &self.serving)];
        for (i, drink) in self.drinks.iter().enumerate() {
            times.extend(drink.serving.as_deref().map(|t| (format!("drinks[{i}].serving"), t)));
        }
        for (i, held) in self.holds.iter().enumerate() {
            times.push((format!("holds[{i}].at"), &held.at));
        }
        let serving = civil("serving", &self.serving).ok();
        for (field, text) in times {
            match (civil(&field, text), serving) {
                (Err(wrong), _) => faults.push(wrong),
                // A plan that is pulled apart by months is two plans.
                (Ok(at), Some(serving)) if far(at, serving) => faults.push(FieldError {
                    field,
                    message: format!(
                        "{text} is more than two months before serving. Choose a later time."
                    ),
                }),
                _ => {}
            }
        }
    }

    fn check_busy_times(&self, faults: &mut Vec<FieldError>) {
        for (i, span) in self.spoken_for.iter().enumerate() {
            let at = |end: &str| format!("spoken_for[{i}].{end}");
            match (civil(&at("from"), &span.from), civil(&at("to"), &span.to)) {
                (Ok(from), Ok(to)) if from >= to => faults.push(FieldError {
                    field: at("to"),
                    message: "Choose an end after the start.".into(),
                }),
                (from, to) => faults.extend(from.err().into_iter().chain(to.err())),
            }
            if long(&span.what, limits::NAME) {
                faults.push(FieldError {
                    field: at("what"),
                    message: "Enter up to 120 characters.".into(),
                });
            }
        }
        if let Some(Err(wrong)) = self.night.as_ref().map(Night::times) {
            faults.push(wrong);
        }
    }
}

fn long(text: &str, most: usize) -> bool {
    text.chars().count() > most
}

fn odd(text: &str) -> bool {
    text.chars().any(|c| c.is_control() && c != '\n')
}

fn far(a: DateTime, b: DateTime) -> bool {
    let reach = 62.days();
    a.checked_add(reach).is_ok_and(|end| end < b) || b.checked_add(reach).is_ok_and(|end| end < a)
}

/// Reads a plan, alone or in its file, and checks it.
///
/// # Errors
/// [`FormatError`], with every fault that was found.
pub fn read_plan(text: &[u8]) -> Result<PlanFile, FormatError> {
    plan_from_value(read_json(text)?)
}

/// The same, from JSON that is already parsed.
///
/// # Errors
/// [`FormatError`], with every fault that was found.
pub fn plan_from_value(value: serde_json::Value) -> Result<PlanFile, FormatError> {
    let plan: PlanFile = from_value(PLAN.unwrap(value)?)?;
    let faults = plan.check();
    if faults.is_empty() { Ok(plan) } else { Err(FormatError::Faults(faults)) }
}

#[cfg(test)]
mod tests {
    use super::*;

    const WHOLE: &str = r#"{"format":"keen-pitcher/plan","version":1,"plan":{
        "name":"Open day","serving":"2030-06-22T15:00",
        "drinks":[{"id":"a","drink":"x","size":{"factor":2.0}},
                  {"id":"b","drink":"y","serving":"2030-06-22T16:00"}],
        "means":{"cooks":2,"rings":2,"refrigerator_l":40},
        "night":{"from":"22:00","to":"07:00"},
        "spoken_for":[{"from":"2030-06-22T12:00","to":"2030-06-22T13:00","what":"lunch"}],
        "holds":[{"task":"a/1/s1","at":"2030-06-22T09:00"}],
        "after":[{"task":"a/1/s2","after":"b/1/s1"}],"ahead":["a/s4"],
        "guests":["wren"]}}"#;

    #[test]
    fn what_is_kept_is_read_again() {
        let plan = read_plan(WHOLE.as_bytes()).unwrap();
        assert_eq!(plan.means.cooks, 2);
        assert_eq!(plan.guests, ["wren"]);
        assert_eq!(read_plan(PLAN.write(&plan).as_bytes()).unwrap(), plan);
        // What is left out is as usual.
        let least = read_plan(br#"{"name":"A","serving":"2030-06-22T15:00"}"#).unwrap();
        assert_eq!((least.means, least.night), (Means::default(), None));
        assert!(least.guests.is_empty(), "everybody who is known");
    }

    #[test]
    fn each_fault_names_its_field() {
        for (from, to, field) in [
            ("2030-06-22T15:00\"", "three o'clock\"", "serving"),
            ("2030-06-22T15:00\"", "9999-06-22T15:00\"", "serving"),
            ("\"cooks\":2", "\"cooks\":0", "means.cooks"),
            ("\"rings\":2", "\"rings\":99", "means.rings"),
            ("\"refrigerator_l\":40", "\"refrigerator_l\":-1", "means.refrigerator_l"),
            ("22:00", "25:00", "night.from"),
            ("07:00", "22:00", "night"),
            ("T13:00", "T11:00", "spoken_for[0].to"),
            ("T16:00", "T26:00", "drinks[1].serving"),
            ("22T09:00", "22T9 o'clock", "holds[0].at"),
            ("2030-06-22T09:00", "2030-01-01T09:00", "holds[0].at"),
            ("\"id\":\"b\"", "\"id\":\"a\"", "drinks[1].id"),
            ("\"id\":\"b\"", "\"id\":\"b/1\"", "drinks[1].id"),
            ("Open day", " ", "name"),
            ("wren", "a\\u0007b", "plan"),
            ("\"drink\":\"x\"", "\"dirnk\":\"x\"", "drinks[0].dirnk"),
        ] {
            assert!(WHOLE.contains(from), "{from}");
            let faults = read_plan(WHOLE.replacen(from, to, 1).as_bytes()).unwrap_err().faults();
            assert!(
                faults.iter().any(|f| f.field.starts_with(field.split(".dirnk").next().unwrap())),
                "{field}: {faults:?}"
            );
        }
    }
}
