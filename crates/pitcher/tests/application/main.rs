//! The application from outside: through its API, its command line and its screens.

#![allow(clippy::unwrap_used, reason = "a test that cannot go on fails")]

mod api;
mod backups;
mod batches;
mod browser;
mod command;
mod described;
mod faults;
mod firm;
mod generated;
mod hostile;
mod phones;
mod plans;
mod practice;
mod record;
mod support;
mod tastings;
