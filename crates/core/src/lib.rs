//! The drink model of Keen Pitcher.
//!
//! One idea carries it: **a drink is run, step by step, and everything is read off the trace.**
//!
//! - [`quantity`] is how a kitchen says how much: "1 1/2 cups", "3 limes".
//! - [`chemistry`] is what a liquid is made of and what follows: volume, °Brix, pH, sweetness, colour.
//! - [`cupboard`] knows the ingredients, with the source of each figure.
//! - [`drink`] is the recipe: vessels, steps, amounts.
//! - [`trace`] runs it, and is the only place where anything is poured, heated or drawn.
//! - [`balance`] reads the profile off the trace and places it on the map.
//! - [`journal`] is what batches, tastings and bottles are: entries that are only added to, and undone by others.
//! - [`keep`] says how long it keeps, what to be careful about, and how what stands there ages.
//! - [`belief`] is what is uncertain of it, and how each reading narrows that.
//! - [`batch`] is a making of it: the drink as made, from what happened.
//! - [`history`] tells two states of a drink apart, and what its batches say.
//! - [`chance`] runs it with fruit that went differently.
//! - [`study`] asks of one step: how long, how far, and what does a measurement teach.
//! - [`scale`] finds the amounts for another size, by running the trace.
//! - [`shop`] says what to buy, with the chance that it suffices; [`serving`] what is done at the glass.
//! - [`offer`] says what can be made from what is there.
//! - [`plan`] says when to start, for several drinks in one kitchen, backward from serving.
//! - [`taste`] finds where a drink tastes best to whom, and whether two taste different.
//! - [`luck`] deals the same luck again.
//! - [`work`] bounds how much is run for one question.
//! - [`report`] puts what a screen or a table shows of a trace into one plain structure.
//!
//! Nothing here reads a file, a clock or a network, or starts a thread; where chance comes in, the
//! caller brings it.

#![warn(missing_docs)]

pub mod balance;
pub mod batch;
pub mod belief;
pub mod chance;
pub mod chemistry;
pub mod cupboard;
pub mod drink;
mod fault;
pub mod history;
pub mod journal;
pub mod keep;
pub mod luck;
mod normal;
pub mod offer;
pub mod plan;
pub mod quantity;
pub mod report;
mod root;
pub mod scale;
pub mod serving;
pub mod shop;
pub mod study;
pub mod taste;
pub mod trace;
pub mod work;
