//! Keen Pitcher's server: the API, who may ask it, and the command line.
//!
//! [`main`] is the whole program but for the screens, which it is given: so this crate is compiled beside
//! the one that it rests on and beside the front end. The drink model is `keen-core`; nothing of it is
//! computed here.

#![warn(missing_docs)]

mod answers;
mod api;
mod assets;
mod calm;
mod command;
mod console;
mod demo;
mod gate;
mod guard;
mod house;
mod instruments;
mod once;
mod phones;
mod sealing;
mod server;
mod shelf_place;

use std::net::SocketAddr;
use std::path::PathBuf;
use std::process::ExitCode;

pub use assets::Screens;
use clap::{Args, CommandFactory, Parser, Subcommand, ValueEnum};

use tracing::level_filters::LevelFilter;
use tracing_subscriber::Layer;
use tracing_subscriber::filter::Targets;
use tracing_subscriber::layer::SubscriberExt;
use tracing_subscriber::util::SubscriberInitExt;

/// Measure, run and keep the drinks that you make at home.
#[derive(Debug, Parser)]
#[command(name = "keen-pitcher", version, args_conflicts_with_subcommands = true)]
struct Cli {
    #[command(subcommand)]
    command: Option<Command>,
    #[command(flatten)]
    serve: Serve,
}

/// Where to serve and where to keep things.
#[derive(Debug, Clone, Args)]
struct Serve {
    /// Port on this machine; 0 takes a free one.
    #[arg(long, default_value_t = 7340)]
    port: u16,
    /// Folder that the shelf is kept in; your data folder if left out.
    #[arg(long, value_name = "DIR")]
    data: Option<PathBuf>,
    /// A bridge to instruments on this machine, as 127.0.0.1:7350; may be said several times.
    #[arg(long, value_name = "ADDRESS", value_parser = on_this_machine)]
    instruments: Vec<SocketAddr>,
    /// Let phones in from the home network; at this address, or at those that this machine has there.
    #[arg(long, value_name = "ADDRESS", num_args = 0..=1, require_equals = true)]
    kitchen: Option<Option<SocketAddr>>,
    /// Another name that phones reach this machine by, as kitchen.home; may be given several times.
    #[arg(long, value_name = "NAME")]
    kitchen_name: Vec<String>,
    /// Open the browser on it.
    #[arg(long)]
    open: bool,
    /// Deals every practice batch and every blind row the same luck, so that it can be had again.
    #[arg(long, value_name = "SEED")]
    luck: Option<u64>,
}

/// Instruments are spoken to on this machine only.
fn on_this_machine(text: &str) -> Result<SocketAddr, String> {
    let address: SocketAddr =
        text.parse().map_err(|_| "write it like 127.0.0.1:7350".to_owned())?;
    if address.ip().is_loopback() {
        Ok(address)
    } else {
        Err("instruments can only be on this computer: 127.0.0.1".to_owned())
    }
}

#[derive(Debug, Subcommand)]
enum Command {
    /// Serve the application (what happens without a command).
    Serve(Serve),
    /// Serve it with the demo's drinks, on a shelf of its own.
    Demo(Serve),
    /// Serve stand-ins for a kitchen's instruments: scale, thermometer, refractometer, pH meter, acid kit, clock.
    Instruments {
        /// Port on this machine; 0 takes a free one.
        #[arg(long, default_value_t = keen_instruments::LOOPBACK_PORT)]
        port: u16,
        /// Deals their errors; the same seed the same ones.
        #[arg(long, default_value_t = 1)]
        seed: u64,
    },
    /// Run a drink and print each step and the profile.
    Trace {
        /// A drink as JSON; `-` for standard input.
        file: PathBuf,
        /// Print the whole report as JSON.
        #[arg(long)]
        json: bool,
    },
    /// Say what can be made from what is there.
    MakeFrom {
        /// What is there: "8 limes, 500 g sugar, mint; six people, no nuts".
        have: String,
        /// Folder that the shelf is kept in.
        #[arg(long, value_name = "DIR")]
        data: Option<PathBuf>,
    },
    /// Write a drink of the shelf, or a table, to standard output.
    Export {
        /// The drink's id, or its name; or `ingredients`, `batches` or `readings` with `--as csv`.
        drink: String,
        /// How it is written.
        #[arg(long = "as", value_enum, default_value_t = ExportAs::Json)]
        style: ExportAs,
        /// Folder that the shelf is kept in.
        #[arg(long, value_name = "DIR")]
        data: Option<PathBuf>,
    },
    /// Put drinks from files on the shelf: drink files, a rescued shelf, recipes as text, as JSON-LD or in a saved
    /// web page, and tables (CSV) of ingredients, batches or readings.
    Import {
        /// The files; `-` for standard input.
        #[arg(required = true)]
        files: Vec<PathBuf>,
        /// Folder that the shelf is kept in.
        #[arg(long, value_name = "DIR")]
        data: Option<PathBuf>,
    },
    /// Save the whole house as one file, also while Keen Pitcher runs on it.
    Backup {
        /// The file to write.
        file: PathBuf,
        /// Folder that the shelf is kept in.
        #[arg(long, value_name = "DIR")]
        data: Option<PathBuf>,
    },
    /// Put a saved house in the place of this one. It is checked as a whole first, and what is there is set aside.
    Restore {
        /// The file that `backup` wrote.
        file: PathBuf,
        /// Folder that the shelf is kept in.
        #[arg(long, value_name = "DIR")]
        data: Option<PathBuf>,
    },
    /// Print the manual page.
    #[command(hide = true)]
    Manual,
    /// Make the demo's batches in the practice kitchen, and print them.
    #[command(hide = true)]
    DemoBatches,
    /// Print the description of the API.
    Openapi,
    /// Print the JSON Schema of the drink format.
    Schema,
}

/// How a drink is written.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum ExportAs {
    /// The drink's file, with all versions of it.
    Json,
    /// A card as plain text.
    Text,
    /// A card as Markdown.
    Markdown,
    /// A schema.org Recipe.
    JsonLd,
    /// A table of ingredients, batches or readings.
    Csv,
}

/// What goes wrong is told on standard error; `KEEN_PITCHER_LOG=debug` tells more.
fn log_to_standard_error() {
    let wanted = std::env::var("KEEN_PITCHER_LOG").ok().and_then(|level| level.parse().ok());
    let levels = Targets::new()
        .with_default(wanted.unwrap_or(LevelFilter::WARN))
        // Every refused request is a line there; what matters is told by the handler itself.
        .with_target("tracing_actix_web", wanted.unwrap_or(LevelFilter::OFF));
    let lines = tracing_subscriber::fmt::layer().with_writer(std::io::stderr);
    tracing_subscriber::registry().with(lines.with_filter(levels)).init();
}

/// Does what the command line says; with these screens, where it says to serve.
#[must_use]
pub fn main(screens: Screens) -> ExitCode {
    log_to_standard_error();
    let cli = Cli::parse();
    let done = match cli.command {
        None => server::run(&cli.serve, false, screens),
        Some(Command::Serve(serve)) => server::run(&serve, false, screens),
        Some(Command::Demo(serve)) => server::run(&serve, true, screens),
        Some(Command::Instruments { port, seed }) => command::instruments(port, seed),
        Some(Command::Trace { file, json }) => command::trace(&file, json),
        Some(Command::MakeFrom { have, data }) => command::make_from(&have, data),
        Some(Command::Export { drink, style, data }) => command::export(&drink, style, data),
        Some(Command::Import { files, data }) => command::import(&files, data),
        Some(Command::Backup { file, data }) => command::backup(&file, data),
        Some(Command::Restore { file, data }) => command::restore(&file, data),
        Some(Command::Manual) => command::manual(&Cli::command()),
        Some(Command::DemoBatches) => demo::batches_text().and_then(|text| console::print(&text)),
        Some(Command::Openapi) => console::print(&api::document_text()),
        Some(Command::Schema) => console::print(&api::drink_schema_text()),
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("{error:#}");
            ExitCode::FAILURE
        }
    }
}
