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

/// Work out, make and keep a record of the drinks you make at home.
#[derive(Debug, Parser)]
#[command(name = "keen-pitcher", version, args_conflicts_with_subcommands = true)]
struct Cli {
    #[command(subcommand)]
    command: Option<Command>,
    #[command(flatten)]
    serve: Serve,
}

/// Where to serve, and where to store data.
#[derive(Debug, Clone, Args)]
struct Serve {
    /// Port on this computer; 0 picks a free one.
    #[arg(long, default_value_t = 7340)]
    port: u16,
    /// Folder for the data. Default: your user data folder.
    #[arg(long, value_name = "DIR")]
    data: Option<PathBuf>,
    /// Bridge to instruments on this computer, such as 127.0.0.1:7350. Can be given several times.
    #[arg(long, value_name = "ADDRESS", value_parser = on_this_machine)]
    instruments: Vec<SocketAddr>,
    /// Let phones on your home network connect, at this address or, without one, at all addresses of this computer.
    #[arg(long, value_name = "ADDRESS", num_args = 0..=1, require_equals = true)]
    kitchen: Option<Option<SocketAddr>>,
    /// Another name for this computer on your network, such as kitchen.home. Can be given several times.
    #[arg(long, value_name = "NAME")]
    kitchen_name: Vec<String>,
    /// Open it in the browser.
    #[arg(long)]
    open: bool,
    /// Seed for the luck of practice batches and blind tastings, to repeat them exactly.
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
    /// Start the application (the default).
    Serve(Serve),
    /// Start it with demo drinks, in a data folder of their own.
    Demo(Serve),
    /// Start simulated instruments: scale, thermometer, refractometer, pH meter, acid kit, clock.
    Instruments {
        /// Port on this computer; 0 picks a free one.
        #[arg(long, default_value_t = keen_instruments::LOOPBACK_PORT)]
        port: u16,
        /// Seed for their errors, to repeat them exactly.
        #[arg(long, default_value_t = 1)]
        seed: u64,
    },
    /// Work out a drink: print each step and its profile.
    Trace {
        /// A drink file (JSON); `-` for standard input.
        file: PathBuf,
        /// Print the whole report as JSON.
        #[arg(long)]
        json: bool,
    },
    /// List the drinks you can make from what you have.
    MakeFrom {
        /// What you have: "8 limes, 500 g sugar, mint; six people, no nuts".
        have: String,
        /// Folder with the data.
        #[arg(long, value_name = "DIR")]
        data: Option<PathBuf>,
    },
    /// Print a drink or a table to standard output.
    Export {
        /// The drink's id, or its name; or `ingredients`, `batches` or `readings` with `--as csv`.
        drink: String,
        /// The format.
        #[arg(long = "as", value_enum, default_value_t = ExportAs::Json)]
        style: ExportAs,
        /// Folder with the data.
        #[arg(long, value_name = "DIR")]
        data: Option<PathBuf>,
    },
    /// Import files: drinks, a rescued data file, recipes (text, JSON-LD or a saved web page), and tables (CSV) of
    /// ingredients, batches or readings.
    Import {
        /// The files; `-` for standard input.
        #[arg(required = true)]
        files: Vec<PathBuf>,
        /// Folder with the data.
        #[arg(long, value_name = "DIR")]
        data: Option<PathBuf>,
    },
    /// Back up everything to one file. Works while Keen Pitcher is running, too.
    Backup {
        /// The file to write.
        file: PathBuf,
        /// Folder with the data.
        #[arg(long, value_name = "DIR")]
        data: Option<PathBuf>,
    },
    /// Restore a backup. It is checked first, and the current data is kept under another name.
    Restore {
        /// The file that `backup` wrote.
        file: PathBuf,
        /// Folder with the data.
        #[arg(long, value_name = "DIR")]
        data: Option<PathBuf>,
    },
    /// Print the manual page.
    #[command(hide = true)]
    Manual,
    /// Make the demo's batches with simulated instruments, and print them.
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

/// Errors go to standard error; `KEEN_PITCHER_LOG=debug` shows more.
fn log_to_standard_error() {
    let wanted = std::env::var("KEEN_PITCHER_LOG").ok().and_then(|level| level.parse().ok());
    let levels = Targets::new()
        .with_default(wanted.unwrap_or(LevelFilter::WARN))
        // Every refused request is a line there; what matters is told by the handler itself.
        .with_target("tracing_actix_web", wanted.unwrap_or(LevelFilter::OFF));
    let lines = tracing_subscriber::fmt::layer().with_writer(std::io::stderr);
    tracing_subscriber::registry().with(lines.with_filter(levels)).init();
}

/// Carries out the command line, with these screens where it starts the application.
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
