//! Starting, serving and stopping.

use std::future::Future;
use std::time::Duration;

use anyhow::{Context, bail};
use sqlx::Executor;
use sqlx::PgPool;
use sqlx::postgres::{PgConnectOptions, PgPoolOptions};
use tokio::net::TcpListener;

use crate::app::App;
use crate::config::Serve;
use crate::guard::Hosts;
use crate::reform::drive::drive;
use crate::router::{Page, router};

/// How long a page waits for the database before it hears that it is away.
pub const PAGE: Duration = Duration::from_millis(1500);
/// How long a command that runs once waits for it: on a loaded machine a new connection takes its time.
pub const COMMAND: Duration = Duration::from_secs(20);

/// A pool that waits so long for a connection before it gives up.
///
/// # Errors
/// When the URL is none.
pub fn pool(url: &str, patience: Duration) -> anyhow::Result<PgPool> {
    let options: PgConnectOptions = url
        .parse()
        .context("the database URL cannot be read; it looks like postgres://user@host:port/name")?;
    let options = options.application_name("restless-owl").options([
        ("statement_timeout", "15s"),
        ("idle_in_transaction_session_timeout", "30s"),
        // Ending a transaction that is none is not worth a word.
        ("client_min_messages", "error"),
    ]);
    // A page that is closed while its request begins a transaction leaves the connection in it, unknown to the pool: the next
    // one's writes would be refused, or acknowledged and never kept. No connection comes back in a transaction.
    let pool =
        PgPoolOptions::new().max_connections(16).acquire_timeout(patience).after_release(|connection, _| {
            Box::pin(async { connection.execute("rollback").await.map(|_| true) })
        });
    Ok(pool.connect_lazy_with(options))
}

/// Brings the database up to date.
///
/// # Errors
/// When it does not answer, or holds something newer.
pub async fn migrate(pool: &PgPool) -> anyhow::Result<()> {
    sqlx::migrate!().run(pool).await.context("the database could not be brought up to date")
}

/// Serves until told to stop.
///
/// # Errors
/// When the address is taken or the database is away at the start.
pub async fn serve(config: &Serve, page: Page) -> anyhow::Result<()> {
    migrate(&pool(&config.database.database_url, COMMAND)?).await?;
    let pool = pool(&config.database.database_url, PAGE)?;
    let listener = match TcpListener::bind(config.listen).await {
        Ok(listener) => listener,
        Err(e) if e.kind() == std::io::ErrorKind::AddrInUse => bail!(
            "port {} is taken: another program listens there. Stop it, or choose another with --listen \
             or OWL_LISTEN.",
            config.listen.port()
        ),
        Err(e) => return Err(e).with_context(|| format!("cannot listen on {}", config.listen)),
    };
    let address = listener.local_addr()?;
    let stop = stop_signal()?;
    // Scripts wait for this line; the log goes to standard error.
    println!("Restless Owl is at http://{address} - stop it with Ctrl-C");
    serve_on(listener, pool, &config.allow_host, page, stop).await
}

/// Serves on a listener that is bound already.
///
/// # Errors
/// When the listener fails.
pub async fn serve_on(
    listener: TcpListener,
    pool: PgPool,
    allowed: &[String],
    page: Page,
    stop: impl Future<Output = ()> + Send + 'static,
) -> anyhow::Result<()> {
    let hosts = Hosts::new(listener.local_addr()?, allowed);
    let app = App::new(pool.clone());
    let station = app.station.clone();
    let driving = tokio::spawn(drive(pool.clone(), station.id, station.stopping()));
    let stopping = station.clone();
    let stop = async move {
        stop.await;
        // Streams would keep the server waiting for ever.
        stopping.stop();
    };
    axum::serve(listener, router(app, hosts, page)).with_graceful_shutdown(stop).await?;
    station.stop();
    driving.await?;
    pool.close().await;
    tracing::info!("stopped");
    Ok(())
}

/// Ctrl-C or a polite request to end. The handlers are in place when this returns, so that neither
/// is missed between the start and the first request.
fn stop_signal() -> anyhow::Result<impl Future<Output = ()> + Send + 'static> {
    use tokio::signal::unix::{SignalKind, signal};
    let mut interrupt = signal(SignalKind::interrupt())?;
    let mut terminate = signal(SignalKind::terminate())?;
    Ok(async move {
        tokio::select! { _ = interrupt.recv() => {}, _ = terminate.recv() => {} }
        tracing::info!("stopping: requests under way are finished first");
    })
}
