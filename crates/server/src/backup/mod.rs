//! Everything of the workshop in one file as it stood at one moment, beside it the pictures that lie in a store: written by
//! PostgreSQL's own `pg_dump` in its custom format, read by its own `pg_restore`, and encrypted, where that is wanted, by
//! `age` for a key that does not lie on the server.

pub mod curves;
mod out;
mod pictures;
mod programs;
pub mod restore;
pub mod schedule;

use std::collections::BTreeSet;
use std::fs::{self, File};
use std::io;
use std::path::{Path, PathBuf};
use std::process::Stdio;

use anyhow::{Context, bail};
use sqlx::PgPool;
use time::OffsetDateTime;
use time::macros::format_description;

use self::out::Out;
use self::programs::{ended, program};
use crate::picture_store::PictureStore;
use crate::table::{attachment, backup};

/// What is kept by no backup: who is signed in or looks at what. A restored workshop signs in anew.
pub const PASSING: [&str; 4] = ["here", "session", "link", "countersign"];

/// What a backup is called that is written now.
#[must_use]
pub fn name_now(encrypted: bool) -> String {
    let shape = format_description!("[year]-[month]-[day]T[hour][minute][second]Z");
    let now = OffsetDateTime::now_utc().format(&shape).unwrap_or_default();
    format!("restless-owl-{now}.dump{}", if encrypted { ".age" } else { "" })
}

/// Writes a backup by hand and notes it in the database; where it is and how large.
///
/// # Errors
/// In words: a file that is there already, a program that is missing, a disk that is full.
pub async fn by_hand(
    pool: &PgPool,
    store: &PictureStore,
    url: &str,
    to: &Path,
    recipient: Option<&str>,
) -> anyhow::Result<(PathBuf, u64)> {
    let file = if to.is_dir() { to.join(name_now(recipient.is_some())) } else { to.to_owned() };
    if file.exists() {
        bail!("{} is there already: a backup writes over nothing", file.display());
    }
    let n = backup::begin(pool, &file.display().to_string()).await?;
    let bytes = noted(pool, store, n, url, &file, recipient).await?;
    Ok((file, bytes))
}

/// Writes a backup whose beginning is noted, and notes its end.
async fn noted(
    pool: &PgPool,
    store: &PictureStore,
    n: i64,
    url: &str,
    file: &Path,
    recipient: Option<&str>,
) -> anyhow::Result<u64> {
    let done = whole(pool, store, url, file, recipient).await;
    let told = done.as_ref().map(|b| i64::try_from(*b).unwrap_or(i64::MAX)).map_err(|e| format!("{e:#}"));
    backup::end(pool, n, told).await?;
    done
}

/// The rows, and then the pictures that lie in a store: they are never changed, and lie there for a day after they were taken
/// away.
async fn whole(
    pool: &PgPool,
    store: &PictureStore,
    url: &str,
    file: &Path,
    recipient: Option<&str>,
) -> anyhow::Result<u64> {
    let mut sums: BTreeSet<_> = attachment::stored(pool).await?.into_iter().collect();
    let (url, to, key) = (url.to_owned(), file.to_owned(), recipient.map(str::to_owned));
    let bytes = tokio::task::spawn_blocking(move || write(&url, &to, key.as_deref())).await??;
    sums.extend(attachment::stored(pool).await?);
    let copied = pictures::copy(store, sums, file, recipient).await;
    if copied.is_err() {
        // Without its pictures it is no backup.
        let _gone = fs::remove_file(file);
    }
    copied.map(|()| bytes)
}

/// Writes a backup: beside its place first, moved there when it is whole and on the disk.
fn write(url: &str, file: &Path, recipient: Option<&str>) -> anyhow::Result<u64> {
    let beside = file.with_extension("part");
    let done = write_beside(url, &beside, recipient).and_then(|bytes| {
        fs::rename(&beside, file).with_context(|| format!("{} cannot be written", file.display()))?;
        if let Some(folder) = file.parent().filter(|f| !f.as_os_str().is_empty()) {
            File::open(folder).and_then(|f| f.sync_all()).context("the folder cannot be written")?;
        }
        Ok(bytes)
    });
    if done.is_err() {
        let _gone = fs::remove_file(&beside);
    }
    done
}

fn write_beside(url: &str, beside: &Path, recipient: Option<&str>) -> anyhow::Result<u64> {
    let mut out = Out::to(beside, recipient)?;
    let mut dump = program("pg_dump", Some(url))?;
    dump.args(["--format=custom", "--no-owner", "--no-privileges"]);
    dump.args(PASSING.iter().map(|t| format!("--exclude-table-data={t}")));
    let mut dumping = dump.stdout(Stdio::piped()).stderr(Stdio::piped()).stdin(Stdio::null()).spawn()?;
    let written = dumping.stdout.take().map_or(Ok(0), |mut rows| io::copy(&mut rows, &mut out));
    // All are heard to their end. What seals says more than that it does not listen; a disk that is full more than a
    // program that nobody listens to.
    let (sealed, dumped) = (out.finish(), ended("pg_dump", dumping));
    let bytes = sealed?;
    written?;
    dumped?;
    Ok(bytes)
}
