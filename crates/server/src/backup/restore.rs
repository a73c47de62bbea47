//! A backup back into an empty database.

use std::fs::File;
use std::io::Read;
use std::path::{Path, PathBuf};
use std::process::Stdio;

use anyhow::{Context, bail};
use sqlx::PgPool;

use super::pictures;
use super::programs::{Ended, ended, program};
use crate::picture_store::PictureStore;
use crate::table::structure;

/// How a file begins that `age` has sealed.
const SEALED: &[u8] = b"age-encryption.org/v1";
/// How a file of `pg_dump` begins.
const DUMP: &[u8] = b"PGDMP";

/// Reads a backup into an empty database, whole or not at all.
///
/// # Errors
/// In words: a database that holds something, a file that is none of ours, a key that does not open it.
pub async fn restore(
    pool: &PgPool,
    store: &PictureStore,
    url: &str,
    file: &Path,
    key: Option<&Path>,
) -> anyhow::Result<()> {
    let sealed = is_sealed(file)?;
    if sealed && key.is_none() {
        bail!("{} is encrypted: say with --key where the key is that opens it", file.display());
    }
    let held = structure::tables(pool).await.context("the database does not answer")?;
    if held > 0 {
        bail!(
            "this database holds something already: a backup goes into an empty one, so that nothing is lost"
        );
    }
    let (url, from, with) = (url.to_owned(), file.to_owned(), key.map(Path::to_owned));
    tokio::task::spawn_blocking(move || read(&url, &from, with.filter(|_| sealed))).await??;
    let brought = pictures::bring_back(pool, store, file, key).await;
    brought.context("the rows are back, but not all pictures: empty the database before the next try")
}

fn is_sealed(file: &Path) -> anyhow::Result<bool> {
    let mut start = Vec::new();
    let open = File::open(file).with_context(|| format!("{} cannot be read", file.display()))?;
    open.take(SEALED.len() as u64).read_to_end(&mut start)?;
    match start {
        s if s == SEALED => Ok(true),
        s if s.starts_with(DUMP) => Ok(false),
        _ => bail!("{} is no backup of a workshop", file.display()),
    }
}

fn read(url: &str, file: &Path, key: Option<PathBuf>) -> anyhow::Result<()> {
    let mut restore = program("pg_restore", Some(url))?;
    restore.args(["--single-transaction", "--exit-on-error", "--no-owner", "--no-privileges"]);
    restore.stderr(Stdio::piped()).stdout(Stdio::null());
    let plain = File::open(file)?;
    let ends: Vec<Ended> = match key {
        None => vec![ended("pg_restore", restore.stdin(plain).spawn()?)],
        Some(key) => {
            let mut age = program("age", None)?;
            age.arg("--decrypt").arg("--identity").arg(key).stdin(plain);
            let mut opening = age.stdout(Stdio::piped()).stderr(Stdio::piped()).spawn()?;
            let opened = opening.stdout.take().map_or_else(Stdio::null, Stdio::from);
            let restoring = restore.stdin(opened).spawn()?;
            // Nobody else holds the pipe: whoever writes into it hears that its reader is gone.
            drop(restore);
            let (restored, opened) = (ended("pg_restore", restoring), ended("age", opening));
            // A file that does not open is the reason for what did not come.
            vec![opened, restored]
        }
    };
    ends.into_iter().collect::<anyhow::Result<()>>()
}
