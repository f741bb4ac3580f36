//! The application from outside: through its API, its command line and its screens.

mod api;
mod browser;
mod command;
mod hostile;
mod support;
