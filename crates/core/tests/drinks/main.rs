//! Drinks run from end to end: worked out by hand, and at random.

#![allow(clippy::unwrap_used, reason = "a test that cannot go on fails")]

mod bounds;
mod common;
mod figures;
mod hand_worked;
mod other_way_round;
mod party;
mod practice;
mod promises;
mod properties;
mod time;
