//! Drinks run from end to end: worked out by hand, and at random.

mod common;
mod hand_worked;
mod properties;
