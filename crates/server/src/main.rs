//! The program: `restless-owl serve`, `migrate`, `demo`, `bench`, `link`, `backup`, `restore`, `check`, `manual`, `openapi`.

mod assets;

use std::process::ExitCode;
use std::time::Duration;

use anyhow::bail;
use clap::{CommandFactory, Parser};
use restless_owl::config::{Command, Config, LogFormat};
use restless_owl::database::{COMMAND, pool};
use restless_owl::{backup, check, demo, router, serve, settings, stand_in};
use tracing_subscriber::filter::{LevelFilter, Targets};
use tracing_subscriber::layer::SubscriberExt;
use tracing_subscriber::util::SubscriberInitExt;

fn main() -> ExitCode {
    if let Err(e) = settings::from_file() {
        eprintln!("restless-owl: {e}");
        return ExitCode::FAILURE;
    }
    let config = Config::parse();
    let runtime = match tokio::runtime::Builder::new_multi_thread().enable_all().build() {
        Ok(runtime) => runtime,
        Err(e) => {
            eprintln!("restless-owl: no threads can be started: {e}");
            return ExitCode::FAILURE;
        }
    };
    let code = runtime.block_on(started(config));
    // Searches end at their next question; what asks none is not waited for.
    runtime.shutdown_timeout(Duration::from_secs(3));
    code
}

async fn started(config: Config) -> ExitCode {
    let asked = std::env::var("RUST_LOG").ok().and_then(|wanted| wanted.parse::<Targets>().ok());
    let usual = || Targets::new().with_default(LevelFilter::INFO).with_target("sqlx", LevelFilter::WARN);
    let log = tracing_subscriber::registry().with(asked.unwrap_or_else(usual));
    let lines = tracing_subscriber::fmt::layer().with_writer(std::io::stderr);
    match config.log {
        LogFormat::Text => log.with(lines).init(),
        LogFormat::Json => log.with(lines.json()).init(),
    }
    let log_format = config.log;
    match run(config.command).await {
        Ok(()) => ExitCode::SUCCESS,
        Err(e) => {
            match log_format {
                LogFormat::Text => eprintln!("restless-owl: {e:#}"),
                LogFormat::Json => tracing::error!(why = format!("{e:#}"), "ended"),
            }
            ExitCode::FAILURE
        }
    }
}

async fn run(command: Command) -> anyhow::Result<()> {
    match command {
        Command::Serve(config) => {
            let page = router::Page { file: assets::asset, build: assets::build() };
            serve::serve(&config, page).await
        }
        Command::Migrate(database) => serve::migrate(&pool(database.direct(), COMMAND)?).await,
        Command::Demo(config) => {
            let pool = pool(config.database.direct(), COMMAND)?;
            serve::migrate(&pool).await?;
            demo::load(&pool, config.reset).await
        }
        Command::Bench(config) => stand_in::serve(&config).await,
        Command::Link(config) => {
            let pool = pool(config.database.direct(), COMMAND)?;
            serve::migrate(&pool).await?;
            println!("{}", serve::link(&pool, config.name.as_deref()).await?);
            Ok(())
        }
        Command::Backup(config) => {
            let url = config.database.direct();
            let pictures = config.database.pictures()?;
            let pool = pool(url, COMMAND)?;
            serve::newer(&pool).await?;
            let (file, bytes) =
                backup::by_hand(&pool, &pictures, url, &config.to, config.recipient.as_deref()).await?;
            println!("{} ({bytes} bytes)", file.display());
            Ok(())
        }
        Command::Restore(config) => {
            let url = config.database.direct();
            let pictures = config.database.pictures()?;
            let pool = pool(url, COMMAND)?;
            backup::restore::restore(&pool, &pictures, url, &config.file, config.key.as_deref()).await?;
            serve::migrate(&pool).await?;
            println!("{}", check::check(&pool, &pictures).await?);
            Ok(())
        }
        Command::Check(database) => {
            let checked = check::check(&pool(database.direct(), COMMAND)?, &database.pictures()?).await?;
            println!("{checked}");
            if checked.wrong.is_empty() { Ok(()) } else { bail!("the database is not what it says") }
        }
        Command::Manual => {
            let all = Config::command();
            let mut page = std::io::stdout().lock();
            clap_mangen::Man::new(all.clone()).render(&mut page)?;
            // What is set most is said on the same page.
            if let Some(serve) = all.find_subcommand("serve") {
                clap_mangen::Man::new(serve.clone()).render_options_section(&mut page)?;
            }
            Ok(())
        }
        Command::Openapi => {
            println!("{}", router::openapi().to_pretty_json()?);
            Ok(())
        }
    }
}
