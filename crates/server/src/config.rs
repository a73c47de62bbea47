//! Sub-commands, flags and environment.

use std::net::{IpAddr, SocketAddr};
use std::path::PathBuf;

use clap::{Args, Parser, Subcommand, ValueEnum};
use ipnet::IpNet;
use url::Url;

use crate::picture_store::PictureStore;

/// The bench's second pair of eyes: reads the part, doubts the reading, judges it in its place,
/// finds what to put in, and remembers.
#[derive(Debug, Parser)]
#[command(
    name = "restless-owl",
    version,
    about,
    max_term_width = 100,
    after_help = "Every setting may stand in the environment, or as NAME=value in the file that OWL_CONFIG names; the \
                  environment counts before the file."
)]
pub struct Config {
    /// How the log is written, on standard error. RUST_LOG sets how much of it.
    #[arg(long, env = "OWL_LOG", value_enum, default_value = "text", global = true)]
    pub log: LogFormat,

    /// What to do.
    #[command(subcommand)]
    pub command: Command,
}

/// How the log is written.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum LogFormat {
    /// Lines for people.
    Text,
    /// One JSON object a line, for programs.
    Json,
}

/// What to do.
#[derive(Debug, Subcommand)]
pub enum Command {
    /// Bring the database up to date and serve the application.
    Serve(Serve),
    /// Bring the database up to date and stop.
    Migrate(Database),
    /// Load the demo workshop into an empty database.
    Demo(Demo),
    /// Simulate a bench of instruments on loopback, with a part on its clips.
    Bench(Bench),
    /// Print a link by which somebody chooses a new password: the way back for an owner who forgot it.
    Link(Link),
    /// Write everything of the workshop into one file, pictures too.
    Backup(Backup),
    /// Read a backup into an empty database.
    Restore(Restore),
    /// Look whether a database is what it says: its rules, its references, and each ticket's record. Changes nothing.
    Check(Database),
    /// Print the manual page.
    Manual,
    /// Print the OpenAPI document of the computing interface.
    Openapi,
}

/// Which database.
#[derive(Debug, Clone, Args)]
pub struct Database {
    /// The PostgreSQL database, such as postgres://owl@127.0.0.1:5432/owl.
    #[arg(long, env = "OWL_DATABASE_URL", hide_env_values = true)]
    pub database_url: String,
    /// The same database past a pooler in transaction mode (PgBouncer), where the first leads to one: what the servers tell
    /// each other, new versions and backups go this way.
    #[arg(long, env = "OWL_DIRECT_DATABASE_URL", hide_env_values = true, value_name = "DATABASE_URL")]
    pub direct_database_url: Option<String>,
    /// Keep the bytes of photographs and sheets in a store beside the database, such as file:///srv/owl/pictures; what lies in
    /// the database already stays there.
    #[arg(long, env = "OWL_PICTURE_STORE", value_name = "URL")]
    pub picture_store: Option<Url>,
}

impl Database {
    /// Where the bytes of pictures lie.
    ///
    /// # Errors
    /// In words, for an address that leads to no store.
    pub fn pictures(&self) -> anyhow::Result<PictureStore> {
        self.picture_store.as_ref().map_or_else(|| Ok(PictureStore::default()), PictureStore::at)
    }

    /// By which address it is reached with nothing between.
    #[must_use]
    pub fn direct(&self) -> &str {
        self.direct_database_url.as_deref().unwrap_or(&self.database_url)
    }
}

/// How to serve.
#[derive(Debug, Args)]
pub struct Serve {
    /// Which database.
    #[command(flatten)]
    pub database: Database,
    /// The address to listen on; port 0 takes a free one.
    #[arg(long, env = "OWL_LISTEN", default_value = "127.0.0.1:8750")]
    pub listen: SocketAddr,
    /// A further name, with its port, under which this server may be asked; others are refused.
    #[arg(long, env = "OWL_ALLOW_HOST", value_delimiter = ',', value_name = "HOST:PORT")]
    pub allow_host: Vec<String>,
    /// Everybody signs in. Needed where others than this machine reach the server; the first start prints the link by
    /// which the owner chooses a password.
    #[arg(long, env = "OWL_ACCOUNTS", value_parser = clap::builder::BoolishValueParser::new(), num_args = 0..=1,
        default_missing_value = "true", default_value = "false")]
    pub accounts: bool,
    /// The certificate to serve encrypted with, and those that vouch for it (PEM).
    #[arg(long, env = "OWL_TLS_CERTIFICATE", value_name = "FILE")]
    pub tls_certificate: Option<PathBuf>,
    /// The key of the certificate (PEM).
    #[arg(long, env = "OWL_TLS_KEY", value_name = "FILE")]
    pub tls_key: Option<PathBuf>,
    /// The address of a proxy that encrypts in front of this server; nobody else is let in then.
    #[arg(long, env = "OWL_PROXY", value_delimiter = ',', value_name = "ADDRESS")]
    pub proxy: Vec<IpAddr>,
    /// Networks in which instruments may be asked, beside this machine.
    #[arg(long, env = "OWL_INSTRUMENT_NETWORK", value_delimiter = ',', value_name = "NETWORK")]
    pub instrument_network: Vec<IpNet>,
    /// Write backups into this folder by itself, and warn on the bench when none was written for long.
    #[arg(long, env = "OWL_BACKUP_FOLDER", value_name = "FOLDER")]
    pub backup_folder: Option<PathBuf>,
    /// How often, in hours.
    #[arg(long, env = "OWL_BACKUP_HOURS", default_value_t = 24, value_parser = clap::value_parser!(u32).range(1..=720))]
    pub backup_hours: u32,
    /// How many of the newest are kept.
    #[arg(long, env = "OWL_BACKUP_KEEP", default_value_t = 14, value_parser = clap::value_parser!(u16).range(1..))]
    pub backup_keep: u16,
    /// Encrypt them for this key, as 'age-keygen' printed it.
    #[arg(long, env = "OWL_BACKUP_RECIPIENT", value_name = "AGE-KEY")]
    pub backup_recipient: Option<String>,
    /// Write the reforming curves of years further back than this many out into that folder, and leave 400 readings of each.
    #[arg(long, env = "OWL_CURVES_YEARS", value_name = "YEARS", requires = "backup_folder",
        value_parser = clap::value_parser!(u16).range(1..=100))]
    pub curves_years: Option<u16>,
}

/// What to write where.
#[derive(Debug, Args)]
pub struct Backup {
    /// Which database.
    #[command(flatten)]
    pub database: Database,
    /// Into which file or folder; in a folder it is named after the time.
    pub to: PathBuf,
    /// Encrypt it for this key, as 'age-keygen' printed it; the key that opens it does not lie on the server.
    #[arg(long, env = "OWL_BACKUP_RECIPIENT", value_name = "AGE-KEY")]
    pub recipient: Option<String>,
}

/// What to read.
#[derive(Debug, Args)]
pub struct Restore {
    /// Which database: an empty one.
    #[command(flatten)]
    pub database: Database,
    /// The backup.
    pub file: PathBuf,
    /// The file with the key that opens an encrypted one.
    #[arg(long, value_name = "FILE")]
    pub key: Option<PathBuf>,
}

/// Whose link.
#[derive(Debug, Args)]
pub struct Link {
    /// Which database.
    #[command(flatten)]
    pub database: Database,
    /// The name; without one the link makes the first owner.
    pub name: Option<String>,
}

/// What to do with the demo data.
#[derive(Debug, Args)]
pub struct Demo {
    /// Which database.
    #[command(flatten)]
    pub database: Database,
    /// Take out the demo's own rows first, then load the demo workshop again. Your own work is never touched.
    #[arg(long)]
    pub reset: bool,
}

/// The simulated bench.
#[derive(Debug, Args)]
pub struct Bench {
    /// The port of the first instrument; the others follow. Port 0 takes free ones.
    #[arg(long, env = "OWL_BENCH_PORT", default_value_t = 8761)]
    pub port: u16,
    /// What the parts truly are, as a TOML file; the demo's where none is given.
    #[arg(long, value_name = "FILE")]
    pub parts: Option<std::path::PathBuf>,
    /// Which instruments of their kind these are: the same seed gives the same readings.
    #[arg(long, default_value_t = 1)]
    pub seed: u64,
}
