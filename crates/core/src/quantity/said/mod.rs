//! What people type, say and paste, as numbers, measures and times.
//!
//! A number that is read wrongly and looks right is the worst that a calculator can do. So there is one reader, for
//! pasted recipes as for every field on a screen: a text is cut into [`Word`]s, and [`number`], [`measure`] and
//! [`time`] each say what the words begin with and how many of them that takes. What is typed into a field is all of
//! it the answer, so that nothing may be left over: those readers are stricter, and say what they would understand.
//!
//! ```
//! use keen_core::quantity::{Amount, Degrees};
//! use keen_core::quantity::said::{Kind, read};
//!
//! let amount: Amount = "two and a half cups".parse().unwrap();
//! assert_eq!(amount.to_string(), "2 1/2 cups");
//! let wait = read(Kind::Minutes, "1 1/2 hours", None, Degrees::Celsius).unwrap();
//! assert_eq!(wait.number, Some(90.0));
//! let more = read(Kind::Amount, "30 g more", Some("190 g"), Degrees::Celsius).unwrap();
//! assert_eq!(more.text, "220 g");
//! assert!(read(Kind::Amount, "1,500 g", None, Degrees::Celsius).is_err());
//! ```

mod amounts;
mod change;
mod counted;
mod field;
mod numbers;
mod time;
mod words;

pub use counted::{Counted, Fullness, measure, measure_word};
pub use field::{Kind, Read, Unread, read};
pub use numbers::{Many, and_a_part, number};
pub use time::time;
pub use words::{Word, says, stem, together, words};
