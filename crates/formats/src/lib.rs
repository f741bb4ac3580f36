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
mod card;
mod code;
mod drink_file;
mod envelope;
mod house;
mod json;
mod labels;
pub mod pasted;
mod plan_file;
mod recipe_ld;
mod shelf_file;
mod starts;
mod tables;

pub use calendar::{CalendarEntry, calendar};
pub use card::{CardStyle, card};
pub use code::{CodeError, code_bytes, code_drawing, code_modules, drink_of, read_codes};
pub use drink_file::{
    DRINK, EarlierDrink, drink_from_value, read_drink, read_earlier, write_drink, write_drink_with,
};
pub use envelope::Format;
pub use house::{
    HouseError, Manifest, Part, SHELF_PART, made_at, read_house, rewrite_house, write_house,
};
pub use json::{FormatError, from_value, read_json};
pub use keen_photo::MOST_BYTES as MOST_PICTURE_BYTES;
pub use labels::{LABEL_FORMATS, LabelFormat, LabelText, fits_on_label, label_pages};
pub use plan_file::{
    HeldTask, Night, PLAN, PlanFile, PlannedDrink, SpokenFor, civil, plan_from_value, read_plan,
};
pub use recipe_ld::{recipe_in, recipe_ld};
pub use shelf_file::{SHELF, ShelfFile};
pub use starts::{Start, lemonade_of, starting_points};
pub use tables::{
    BatchRow, batches_table, ingredients_table, read_batches, read_ingredients, read_readings,
    readings_table, shopping_table,
};
