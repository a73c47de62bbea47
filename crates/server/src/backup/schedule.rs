//! Backups by the server itself, and whether they are overdue.

use std::path::{Path, PathBuf};
use std::time::Duration;

use serde::Serialize;
use sqlx::PgPool;
use time::OffsetDateTime;
use tokio::sync::watch;
use utoipa::ToSchema;

use super::{curves, name_now, noted};
use crate::picture_store::PictureStore;
use crate::table::backup::{self, Standing};

/// How often it is asked whether a backup is due.
const ASK: Duration = Duration::from_secs(60);

/// How a server writes backups.
#[derive(Debug, Clone)]
pub struct Plan {
    /// Into which folder.
    pub folder: PathBuf,
    /// How often.
    pub every: Duration,
    /// So many of the newest are kept.
    pub keep: usize,
    /// For whose key they are encrypted.
    pub recipient: Option<String>,
    /// The curves of years further back than so many are written out beside them, and thinned.
    pub curves_years: Option<u16>,
}

/// How the backups of the workshop stand.
#[derive(Debug, PartialEq, Eq, Serialize, ToSchema)]
pub struct BackupView {
    /// When the last good one was begun; none yet where it is missing.
    #[serde(with = "time::serde::rfc3339::option")]
    pub last: Option<OffsetDateTime>,
    /// What is wrong with that, in words; nothing where all is well.
    pub warning: Option<String>,
}

impl BackupView {
    /// How they stand, where one is to be written every so often.
    #[must_use]
    pub fn of(s: &Standing, every: Duration) -> Self {
        let begun = s.last.or(s.since).unwrap_or(s.now);
        let age = s.now - begun;
        let overdue = age > 2 * every;
        let since = match s.last {
            Some(_) => format!("the last backup is {} old", spoken(age)),
            None => "no backup of this workshop was ever written".to_owned(),
        };
        let why = s.failed.as_ref().map(|w| format!(": {w}")).unwrap_or_default();
        Self { last: s.last, warning: overdue.then(|| format!("{since}{why}")) }
    }
}

/// `3 days`, `5 hours`.
fn spoken(age: time::Duration) -> String {
    let (n, unit) = match age.whole_hours() {
        h if h >= 48 => (age.whole_days(), "day"),
        h if h >= 1 => (h, "hour"),
        _ => (age.whole_minutes(), "minute"),
    };
    format!("{n} {unit}{}", if n == 1 { "" } else { "s" })
}

/// Writes backups until told to stop; of several servers on one database one does.
pub async fn keep(
    pool: PgPool,
    store: PictureStore,
    url: String,
    plan: Plan,
    mut stop: watch::Receiver<bool>,
) {
    let mut turn = tokio::time::interval(ASK);
    turn.set_missed_tick_behavior(tokio::time::MissedTickBehavior::Delay);
    loop {
        tokio::select! {
            _ = turn.tick() => {}
            _ = stop.changed() => return,
        }
        if let Some(years) = plan.curves_years
            && let Err(e) = curves::archive(&pool, &plan.folder, years, plan.recipient.as_deref()).await
        {
            tracing::error!(why = format!("{e:#}"), "curves could not be written out");
        }
        let file = plan.folder.join(name_now(plan.recipient.is_some()));
        let due = backup::take_turn(&pool, &file.display().to_string(), plan.every.as_secs_f64()).await;
        let Ok(Some(n)) = due else { continue };
        // The end of the server does not wait for it: what is cut off is no backup, and is written anew.
        let done = tokio::select! {
            done = noted(&pool, &store, n, &url, &file, plan.recipient.as_deref()) => done,
            _ = stop.changed() => return,
        };
        match done {
            Ok(bytes) => {
                tracing::info!(file = %file.display(), bytes, "a backup was written");
                thin(&plan.folder, plan.keep);
            }
            Err(e) => tracing::error!(why = format!("{e:#}"), "the backup failed"),
        }
    }
}

/// Takes the oldest away until so many are left.
fn thin(folder: &Path, keep: usize) {
    let ours = |name: &str| {
        name.starts_with("restless-owl-") && (name.ends_with(".dump") || name.ends_with(".dump.age"))
    };
    let all = std::fs::read_dir(folder).into_iter().flatten().flatten();
    let mut all: Vec<PathBuf> =
        all.filter(|e| e.file_name().to_str().is_some_and(ours)).map(|e| e.path()).collect();
    // The time is in the name.
    all.sort_unstable();
    for old in all.iter().rev().skip(keep) {
        if let Err(e) = std::fs::remove_file(old) {
            tracing::warn!(file = %old.display(), why = %e, "an old backup could not be taken away");
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const DAY: Duration = Duration::from_secs(86_400);

    fn warning(last: Option<i64>, since: Option<i64>, failed: Option<&str>) -> Option<String> {
        let now = OffsetDateTime::UNIX_EPOCH + time::Duration::days(100);
        let before = |hours: Option<i64>| hours.map(|h| now - time::Duration::hours(h));
        let failed = failed.map(str::to_owned);
        BackupView::of(&Standing { last: before(last), failed, since: before(since), now }, DAY).warning
    }

    #[test]
    fn a_backup_is_overdue_after_twice_its_time() {
        assert_eq!(warning(Some(47), Some(900), None), None);
        assert_eq!(warning(Some(73), Some(900), None).unwrap(), "the last backup is 3 days old");
        let full = warning(Some(49), Some(900), Some("the disk is full")).unwrap();
        assert_eq!(full, "the last backup is 2 days old: the disk is full");
        // A failure that the next night mended is no warning.
        assert_eq!(warning(Some(30), Some(900), Some("the disk is full")), None);
        // A new workshop has time for its first.
        assert_eq!(warning(None, Some(30), None), None);
        assert_eq!(warning(None, None, None), None);
        assert_eq!(warning(None, Some(50), None).unwrap(), "no backup of this workshop was ever written");
    }

    #[test]
    fn the_newest_are_kept_and_nothing_else_is_touched() {
        let folder = tempfile::tempdir().unwrap();
        let names = [
            "restless-owl-2026-01-01T000000Z.dump",
            "restless-owl-2026-01-03T000000Z.dump.age",
            "restless-owl-2026-01-02T000000Z.dump",
            "restless-owl-by-hand.txt",
            "ledger.dump",
        ];
        for n in names {
            std::fs::write(folder.path().join(n), "x").unwrap();
        }
        thin(folder.path(), 1);
        let mut left: Vec<String> = std::fs::read_dir(folder.path())
            .unwrap()
            .map(|e| e.unwrap().file_name().into_string().unwrap())
            .collect();
        left.sort();
        assert_eq!(
            left,
            ["ledger.dump", "restless-owl-2026-01-03T000000Z.dump.age", "restless-owl-by-hand.txt"]
        );
    }
}
