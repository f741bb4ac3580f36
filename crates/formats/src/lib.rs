//! Open formats in and out: pure functions from text to the model and back.
//!
//! A drink is written as JSON that a person can read and write by hand. Amounts are text in kitchen
//! language; vessels are called by name. A file wraps the drink with the format's name and version:
//!
//! ```
//! let text = r#"{
//!   "format": "keen-pitcher/drink",
//!   "version": 1,
//!   "drink": {
//!     "name": "Quick limeade",
//!     "family": "lemonade",
//!     "vessels": [{ "id": "jug", "kind": "jug" }],
//!     "steps": [
//!       { "do": { "squeeze": { "into": "jug", "ingredient": "lime_juice", "amount": "3 limes" } } },
//!       { "do": { "add": { "into": "jug", "ingredient": "white_sugar", "amount": "1/4 cup" } } },
//!       { "do": { "top_up": { "vessel": "jug", "ingredient": "water", "to": "0.6 l" } } }
//!     ]
//!   }
//! }"#;
//! let cupboard = keen_core::cupboard::Cupboard::builtin();
//! let drink = keen_formats::read_drink(text.as_bytes(), cupboard).unwrap();
//! assert_eq!(drink.name, "Quick limeade");
//! let file = keen_formats::write_drink(&drink);
//! let again = keen_formats::read_drink(file.as_bytes(), cupboard).unwrap();
//! assert_eq!(drink, again);
//! ```

#![warn(missing_docs)]

mod calendar;
mod drink_file;
mod envelope;
mod json;
mod plan_file;
mod shelf_file;
mod starts;
mod table;

pub use calendar::{CalendarEntry, calendar};
pub use drink_file::{DRINK, drink_from_value, read_drink, write_drink};
pub use envelope::Format;
pub use json::{FormatError, from_value, read_json};
pub use plan_file::{
    HeldTask, Night, PLAN, PlanFile, PlannedDrink, SpokenFor, civil, plan_from_value, read_plan,
};
pub use shelf_file::{SHELF, ShelfFile};
pub use starts::{Start, starting_points};
pub use table::shopping_table;
