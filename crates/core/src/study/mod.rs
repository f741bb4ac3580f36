//! Questions about a single step or a syrup, answered by running the drink.

mod measured;
mod next_steps;
mod steeping;
mod syrup;

pub use measured::{Learned, Lesson, Taught, learn};
pub use next_steps::{Beginning, NextSteps, next_steps};
pub use steeping::{Steeping, SteepingPoint, steeping};
pub use syrup::{Dilution, Proportion, Syrup, SyrupAsked, SyrupLevel, syrup};
