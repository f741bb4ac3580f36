//! A making of a drink, from what happened.
//!
//! A batch is no second kind of thing: it is a drink as it was written when one began, and a list of
//! [`Happening`]s that is only ever added to. From both follows the drink **as made** ([`Made`]): amounts that
//! were really used, minutes that were really taken, what was put in besides and poured away, with the steps
//! that are still ahead as they are written. It is run by the same engine; so at any moment it is known what
//! should be in each vessel now, and where the drink will end.
//!
//! A wrong entry is taken back by another happening, never edited away. There is no clock here: every
//! happening comes with its time, in minutes since the batch started.

mod end;
mod happening;
mod in_time;
mod lessons;
mod made;
mod practice;
mod ready;
mod view;
mod ways;

pub use happening::{Happening, Said, standing};
pub use lessons::{Learnt, Teaching};
pub use made::{Made, MadeStep, StepState};
pub use practice::{LuckWas, Truth};
pub use view::{
    BatchReport, Progress, ReadingReport, StepReport, Suggestion, doubtful, facts,
    would_have_told_most,
};
pub use ways::{AdviceOn, WayOn, advice_on, ways_on};
