//! Drinks run from end to end: worked out by hand, and at random.

#![allow(clippy::unwrap_used, reason = "a test that cannot go on fails")]

mod believing;
mod bounds;
mod common;
mod figures;
mod forms;
mod going_on;
mod hand_worked;
mod journals;
mod keeping;
mod laws;
mod looking_back;
mod making;
mod offers;
mod other_way_round;
mod party;
mod planning;
mod pot;
mod practice;
mod promises;
mod properties;
mod safe;
mod sittings;
mod tasting;
mod time;
