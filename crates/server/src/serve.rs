//! Starting, serving and stopping.

use std::future::Future;
use std::io::Write;
use std::path::Path;
use std::sync::Arc;
use std::time::{Duration, Instant};

use anyhow::{Context, anyhow, bail};
use ipnet::IpNet;
use sqlx::PgPool;
use sqlx::migrate::MigrateError;
use tokio::net::TcpListener;
use tokio::sync::watch;
use tokio_rustls::TlsAcceptor;
use tokio_rustls::rustls;
use tokio_rustls::rustls::pki_types::pem::PemObject;
use tokio_rustls::rustls::pki_types::{CertificateDer, PrivateKeyDer};

use crate::app::App;
use crate::backup::schedule::{self, Plan};
use crate::config::Serve;
use crate::database::{Database, PAGE, pool};
use crate::door::{Door, Limits};
use crate::error::ApiError;
use crate::guard::Hosts;
use crate::people::gate::Gate;
use crate::people::list::welcome;
use crate::people::{Access, secret};
use crate::picture_store::PictureStore;
use crate::reform::drive::drive;
use crate::router::{Front, Page, router};
use crate::settings::Settings;
use crate::table::{attachment, person, structure};
use crate::together::ear::listen;

/// Brings the database up to date.
///
/// # Errors
/// When it does not answer, or holds something newer.
pub async fn migrate(pool: &PgPool) -> anyhow::Result<()> {
    sqlx::migrate!().run(pool).await.map_err(not_up_to_date)?;
    crate::table::curves::foresee(pool).await?;
    Ok(())
}

/// What keeps a database from being brought up to date, in words.
fn not_up_to_date(e: MigrateError) -> anyhow::Error {
    match e {
        MigrateError::VersionMissing(theirs) => {
            let ours = sqlx::migrate!().iter().map(|m| m.version).max().unwrap_or(0);
            anyhow!(
                "this database was written by a newer Restless Owl (its tables are of version {theirs}, this program knows up \
                 to {ours}): start the newer program; nothing was changed"
            )
        }
        MigrateError::VersionMismatch(theirs) => anyhow!(
            "step {theirs} by which this database was brought up to date is not the one of this program: it belongs to another \
             build; nothing was changed"
        ),
        other => anyhow::Error::new(other).context("the database could not be brought up to date"),
    }
}

/// Whether a database is one of this program, without changing it.
///
/// # Errors
/// When it is none, an older one, or was written by a newer program.
pub async fn newer(pool: &PgPool) -> anyhow::Result<()> {
    let theirs = structure::version(pool).await.context("the database does not answer")?;
    let Some(theirs) = theirs else { bail!("this database holds no workshop") };
    let ours = sqlx::migrate!().iter().map(|m| m.version).max().unwrap_or(0);
    match theirs.cmp(&ours) {
        std::cmp::Ordering::Equal => Ok(()),
        std::cmp::Ordering::Greater => Err(not_up_to_date(MigrateError::VersionMissing(theirs))),
        std::cmp::Ordering::Less => {
            bail!(
                "this database is of version {theirs}, this program of {ours}: bring it up to date first (restless-owl migrate)"
            )
        }
    }
}

/// How long a server waits at its start for a database that starts beside it.
const STARTING: Duration = Duration::from_secs(120);

/// Brings the database up to date; while it is only not up yet, waits for it.
async fn migrate_once_it_is_up(url: &str) -> anyhow::Result<()> {
    let begun = Instant::now();
    let pool = pool(url, PAGE)?;
    loop {
        let failed = match sqlx::migrate!().run(&pool).await {
            Ok(()) => return Ok(()),
            Err(e) => e,
        };
        let away = match &failed {
            MigrateError::Execute(e) => matches!(ApiError::from_database(e), ApiError::Database),
            _ => false,
        };
        if !away || begun.elapsed() > STARTING {
            return Err(not_up_to_date(failed));
        }
        tracing::warn!("the database does not answer yet: waiting for it");
        tokio::time::sleep(Duration::from_secs(1)).await;
    }
}

/// Serves until told to stop.
///
/// # Errors
/// When the settings do not hold together, the address is taken, or the database stays away.
pub async fn serve(config: &Serve, page: Page) -> anyhow::Result<()> {
    let settings = Settings::of(config).map_err(|wrong| anyhow!(wrong.join("\n")))?;
    let tls = settings.tls.as_ref().map(|(certificate, key)| acceptor(certificate, key)).transpose()?;
    let listener = match TcpListener::bind(settings.listen).await {
        Ok(listener) => listener,
        Err(e) if e.kind() == std::io::ErrorKind::AddrInUse => bail!(
            "port {} is taken: another program listens there. Stop it, or choose another with --listen \
             or OWL_LISTEN.",
            settings.listen.port()
        ),
        Err(e) => return Err(e).with_context(|| format!("cannot listen on {}", settings.listen)),
    };
    let url = config.database.direct();
    migrate_once_it_is_up(url).await?;
    let direct = pool(url, PAGE)?;
    let db = match &config.database.direct_database_url {
        Some(_) => Database::behind_a_pooler(&config.database.database_url, PAGE)?,
        None => Database::direct(direct.clone()),
    };
    let address = listener.local_addr()?;
    let stop = stop_signal()?;
    // A workshop that has people is never open to whoever reaches this machine, however it is started.
    let has_owner = person::has_owner(&direct).await?;
    let access = if has_owner { Access::Accounts } else { settings.access };
    let at = match settings.hosts.first() {
        Some(host) if settings.encrypted() => format!("https://{host}"),
        Some(host) if address.ip().is_unspecified() => format!("http://{host}"),
        _ if settings.tls.is_some() => format!("https://{address}"),
        _ => format!("http://{address}"),
    };
    // Scripts wait for this line; the log goes to standard error.
    say(&format!("Restless Owl is at {at} - stop it with Ctrl-C"));
    if access == Access::Accounts && !has_owner {
        let link = link(&direct, None).await?;
        say(&format!(
            "The workshop has no owner yet. Whoever opens this link within a day is it: {at}{link}"
        ));
    }
    let front = Front {
        hosts: Hosts::new(address, &settings.hosts),
        gate: Gate::new(access, settings.proxies.clone()),
        encrypted: settings.encrypted(),
        page,
    };
    let door = Door { listener, limits: Limits::default(), tls, proxies: settings.proxies };
    // Several people: only where the owner says; an address must not be a way to look round in the network.
    let instruments = (access == Access::Accounts).then(|| settings.instruments.into());
    let backups = settings.backups.map(|plan| (url.to_owned(), plan));
    let further = Further { instruments, backups, pictures: settings.pictures };
    serve_on(door, db, direct, front, further, stop).await
}

/// Says something on standard output; nobody has to listen.
fn say(line: &str) {
    let _nobody = writeln!(std::io::stdout(), "{line}");
}

/// A link by which somebody chooses a password; of nobody it makes the first owner. Good for a day.
///
/// # Errors
/// When there is nobody of that name, or an owner already.
pub async fn link(pool: &PgPool, name: Option<&str>) -> anyhow::Result<String> {
    let mut tx = pool.begin().await?;
    let whose = match name {
        Some(name) => {
            let row = person::named(&mut *tx, name).await?;
            Some(row.ok_or_else(|| anyhow!("there is nobody called '{name}' in this workshop"))?.id)
        }
        None if person::has_owner(&mut *tx).await? => {
            bail!("this workshop has an owner already: say whose link it is to be")
        }
        None => None,
    };
    let secret = secret::fresh();
    person::put_link(&mut tx, &secret::hash(&secret), whose, 24).await?;
    tx.commit().await?;
    Ok(welcome(&secret))
}

/// What encrypts with a certificate and its key.
fn acceptor(certificate: &Path, key: &Path) -> anyhow::Result<TlsAcceptor> {
    let chain = CertificateDer::pem_file_iter(certificate)
        .and_then(Iterator::collect::<Result<Vec<_>, _>>)
        .with_context(|| format!("the certificate {} cannot be read", certificate.display()))?;
    let key_der = PrivateKeyDer::from_pem_file(key)
        .with_context(|| format!("the key {} cannot be read", key.display()))?;
    let config = rustls::ServerConfig::builder()
        .with_no_client_auth()
        .with_single_cert(chain, key_der)
        .context("the certificate and its key do not belong together")?;
    Ok(TlsAcceptor::from(Arc::new(config)))
}

/// What only some servers have.
#[derive(Debug, Default)]
pub struct Further {
    /// Where instruments may be asked; see [`App::instruments`].
    pub instruments: Option<Arc<[IpNet]>>,
    /// The backups that the server writes itself, of the database at this URL.
    pub backups: Option<(String, Plan)>,
    /// Where the bytes of pictures lie.
    pub pictures: PictureStore,
}

/// Serves at a door that is there already. `direct` reaches the database without a pooler between, to hear
/// what is told and to write backups.
///
/// # Errors
/// When the bench's own work broke down.
pub async fn serve_on(
    door: Door,
    db: Database,
    direct: PgPool,
    front: Front,
    further: Further,
    stop: impl Future<Output = ()> + Send + 'static,
) -> anyhow::Result<()> {
    let backups_every = further.backups.as_ref().map(|(_, plan)| plan.every);
    let app = App {
        instruments: further.instruments,
        backups_every,
        pictures: further.pictures.clone(),
        ..App::on(db.clone())
    };
    let station = app.station.clone();
    let pictures = further.pictures;
    let sweeping = tokio::spawn(sweep(pictures.clone(), db.clone(), station.stopping()));
    let driving = tokio::spawn(drive(db.clone(), station.id, station.stopping()));
    let listening = tokio::spawn(listen(direct.clone(), db.clone(), app.hub.clone(), station.stopping()));
    let writing = further.backups.map(|(url, plan)| {
        tokio::spawn(schedule::keep(direct.clone(), pictures.clone(), url, plan, station.stopping()))
    });
    let stopping = station.clone();
    let stop = async move {
        stop.await;
        // Streams would keep the server waiting for ever.
        stopping.stop();
    };
    door.serve(router(app, front), stop).await;
    station.stop();
    driving.await?;
    sweeping.await?;
    listening.await?;
    if let Some(writing) = writing {
        writing.await?;
    }
    // A request that was cut may hold a connection still.
    let _cut = tokio::time::timeout(Duration::from_secs(2), db.close()).await;
    tracing::info!("stopped");
    Ok(())
}

/// Takes out of the store of pictures, every hour, what no row refers to any more.
async fn sweep(pictures: PictureStore, db: Database, mut stop: watch::Receiver<bool>) {
    let mut turn = tokio::time::interval(Duration::from_secs(3600));
    while pictures.is_set() {
        tokio::select! {
            _ = turn.tick() => {}
            _ = stop.changed() => return,
        }
        if let Err(e) = sweep_once(&pictures, &db).await {
            tracing::warn!(why = %e, "the store of the pictures could not be swept");
        }
    }
}

/// Takes out of the store what no row refers to, once it has lain there for a day.
///
/// # Errors
/// When the store or the database does not answer.
pub async fn sweep_once(pictures: &PictureStore, db: &Database) -> Result<(), ApiError> {
    for sum in pictures.old().await? {
        if !attachment::is_stored(db, &sum).await? {
            pictures.take_out(&sum).await?;
        }
    }
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
