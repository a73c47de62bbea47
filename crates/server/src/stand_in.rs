//! `restless-owl bench`: the simulated bench.

use anyhow::{Context, bail};
use owl_instruments::stand_in::{Clips, StandIn, read_parts};

use crate::config::Bench;

const DEMO: &str = include_str!("../../../data/demo/clips.toml");

/// Simulates a bench of instruments until it is stopped.
///
/// # Errors
/// When the file of parts makes no sense, or a port is taken.
pub async fn serve(config: &Bench) -> anyhow::Result<()> {
    let text = match &config.parts {
        Some(path) => {
            std::fs::read_to_string(path).with_context(|| format!("cannot read {}", path.display()))?
        }
        None => DEMO.to_owned(),
    };
    let clips = Clips::new(read_parts(&text)?, config.seed);
    let bench = match StandIn::start(config.port, clips).await {
        Ok(bench) => bench,
        Err(e) if e.kind() == std::io::ErrorKind::AddrInUse => bail!(
            "one of the ports from {} on is taken: stop what listens there, or choose others with --port",
            config.port
        ),
        Err(e) => return Err(e).context("the simulated bench cannot listen on loopback"),
    };
    for (kind, address) in &bench.instruments {
        println!("simulated {} at {address}", kind.called());
    }
    tokio::select! {
        () = bench.forever() => {}
        _ = tokio::signal::ctrl_c() => {}
    }
    Ok(())
}
