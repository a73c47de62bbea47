//! The program: `restless-owl serve`, `migrate`, `demo`, `bench`, `openapi`.

use std::process::ExitCode;

use clap::Parser;
use restless_owl::config::{Command, Config, LogFormat};
use restless_owl::{demo, router, serve, stand_in};
use tracing_subscriber::EnvFilter;

/// A tray of 500 parts is tens of thousands of small strings: the usual allocator takes a third of the time.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

#[tokio::main]
async fn main() -> ExitCode {
    let config = Config::parse();
    let filter = EnvFilter::try_from_default_env().unwrap_or_else(|_| EnvFilter::new("info,sqlx=warn"));
    let log = tracing_subscriber::fmt().with_env_filter(filter).with_writer(std::io::stderr);
    match config.log {
        LogFormat::Text => log.init(),
        LogFormat::Json => log.json().init(),
    }
    match run(config.command).await {
        Ok(()) => ExitCode::SUCCESS,
        Err(e) => {
            eprintln!("restless-owl: {e:#}");
            ExitCode::FAILURE
        }
    }
}

async fn run(command: Command) -> anyhow::Result<()> {
    match command {
        Command::Serve(config) => serve::serve(&config).await,
        Command::Migrate(database) => serve::migrate(&serve::pool(&database.database_url)?).await,
        Command::Demo(config) => {
            let pool = serve::pool(&config.database.database_url)?;
            serve::migrate(&pool).await?;
            demo::load(&pool, config.reset).await
        }
        Command::Bench(config) => stand_in::serve(&config).await,
        Command::Openapi => {
            println!("{}", router::openapi().to_pretty_json()?);
            Ok(())
        }
    }
}
