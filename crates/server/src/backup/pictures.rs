//! The pictures of a workshop that keeps them in a store: beside the backups in `pictures`, each once, named by the sum of its
//! bytes, sealed like the backups. What is there already is not written again.

use std::collections::BTreeSet;
use std::fs::{self, File};
use std::io::Write;
use std::path::{Path, PathBuf};
use std::process::Stdio;

use anyhow::{Context, bail};
use sqlx::PgPool;

use super::out::Out;
use super::programs::program;
use crate::picture_store::{PictureStore, name, sum};
use crate::table::attachment;

/// Where they lie, beside the backup.
fn folder(backup: &Path) -> PathBuf {
    backup.parent().unwrap_or(Path::new("")).join("pictures")
}

/// Copies those of some sums that are not there yet.
///
/// # Errors
/// In words: a store that is away, a disk that is full.
pub(super) async fn copy(
    store: &PictureStore,
    sums: BTreeSet<Vec<u8>>,
    backup: &Path,
    recipient: Option<&str>,
) -> anyhow::Result<()> {
    let folder = folder(backup);
    if !sums.is_empty() {
        fs::create_dir_all(&folder).with_context(|| format!("{} cannot be written", folder.display()))?;
    }
    for sum in sums {
        let file = folder.join(format!("{}{}", name(&sum), if recipient.is_some() { ".age" } else { "" }));
        if file.exists() {
            continue;
        }
        let content = store.read(&sum).await.context("the pictures cannot be backed up")?;
        let recipient = recipient.map(str::to_owned);
        tokio::task::spawn_blocking(move || write(&file, &content, recipient.as_deref())).await??;
    }
    Ok(())
}

/// Writes one: beside its place first, moved there when it is whole and on the disk.
fn write(file: &Path, content: &[u8], recipient: Option<&str>) -> anyhow::Result<()> {
    let beside = file.with_extension("part");
    let mut out = Out::to(&beside, recipient)?;
    let given = out.write_all(content);
    // The sealing program's own word says more than that it does not listen.
    out.finish()?;
    given?;
    fs::rename(&beside, file).with_context(|| format!("{} cannot be written", file.display()))
}

/// Brings back those that the rows of a restored database want: into the store, or into their rows where there is none.
///
/// # Errors
/// In words: one that is missing beside the backup, or is not what it was.
pub(super) async fn bring_back(
    pool: &PgPool,
    store: &PictureStore,
    backup: &Path,
    key: Option<&Path>,
) -> anyhow::Result<()> {
    let folder = folder(backup);
    for wanted in attachment::stored(pool).await? {
        let (from, key) = (folder.join(name(&wanted)), key.map(Path::to_owned));
        let content = tokio::task::spawn_blocking(move || read(&from, key.as_deref())).await??;
        let found = sum(&content);
        if found.as_slice() != wanted {
            bail!("the picture {} is not what it was", folder.join(name(&wanted)).display());
        }
        if let Some(content) = store.keep(&found, &content).await? {
            attachment::put_content_of(pool, &found, content).await?;
        }
    }
    Ok(())
}

fn read(file: &Path, key: Option<&Path>) -> anyhow::Result<Vec<u8>> {
    let sealed = file.with_extension("age");
    if file.exists() {
        return fs::read(file).with_context(|| format!("{} cannot be read", file.display()));
    }
    let Ok(from) = File::open(&sealed) else {
        bail!("the picture {} is missing beside the backup", file.display());
    };
    let Some(key) = key else {
        bail!("{} is encrypted: say with --key where the key is that opens it", sealed.display());
    };
    let mut age = program("age", None)?;
    age.arg("--decrypt").arg("--identity").arg(key).stdin(from).stdout(Stdio::piped());
    let out = age.stderr(Stdio::piped()).spawn()?.wait_with_output()?;
    if !out.status.success() {
        bail!("age failed: {}", String::from_utf8_lossy(&out.stderr).lines().next().unwrap_or_default());
    }
    Ok(out.stdout)
}
