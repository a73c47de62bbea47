//! The curves of reforming of years long past: written out whole, then thinned to what a chart shows.

use std::fs;
use std::path::Path;

use anyhow::Context;
use flate2::Compression;
use flate2::write::GzEncoder;
use sqlx::PgPool;

use super::private;
use crate::table::curves;

/// So many readings of each curve stay: as many as a chart has room for.
const POINTS: i32 = 400;

/// Writes out and thins the curves of every year that lies further back than so many. The years that were.
///
/// # Errors
/// When a file cannot be written or the database does not answer; what was not written is not thinned.
pub async fn archive(pool: &PgPool, folder: &Path, years: u16) -> anyhow::Result<Vec<i32>> {
    let mut done = Vec::new();
    for year in curves::due(pool, years).await? {
        let name = format!("reform-curves-{year}.csv.gz");
        let (file, beside) = (folder.join(&name), folder.join(format!("{name}.part")));
        let out = private(&beside).with_context(|| format!("{} cannot be written", beside.display()))?;
        let settle = |packed: GzEncoder<fs::File>| {
            packed.finish()?.sync_all()?;
            fs::rename(&beside, &file)?;
            fs::File::open(folder)?.sync_all()
        };
        let written =
            curves::archive(pool, year, POINTS, &name, GzEncoder::new(out, Compression::default()), settle);
        match written.await {
            Ok(Some(readings)) => {
                tracing::info!(file = %file.display(), readings, "the curves of a year were written out and thinned");
                done.push(year);
            }
            Ok(None) => {}
            Err(e) => {
                let _gone = fs::remove_file(&beside);
                return Err(e.context(format!("the curves of {year} stay as they are")));
            }
        }
    }
    Ok(done)
}
