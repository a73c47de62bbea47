//! The curves of reforming of years long past: written out whole, then thinned to what a chart shows.

use std::fs;
use std::path::Path;

use flate2::Compression;
use flate2::write::GzEncoder;
use sqlx::PgPool;

use super::out::Out;
use crate::table::curves;

/// So many readings of each curve stay: as many as a chart has room for.
const POINTS: i32 = 400;

/// Writes out, sealed like the backups, and thins the curves of every year that lies further back than so many. The years that
/// were.
///
/// # Errors
/// When a file cannot be written or the database does not answer; what was not written is not thinned.
pub async fn archive(
    pool: &PgPool,
    folder: &Path,
    years: u16,
    recipient: Option<&str>,
) -> anyhow::Result<Vec<i32>> {
    let mut done = Vec::new();
    for year in curves::due(pool, years).await? {
        let name = format!("reform-curves-{year}.csv.gz{}", if recipient.is_some() { ".age" } else { "" });
        let (file, beside) = (folder.join(&name), folder.join(format!("{name}.part")));
        let out = Out::to(&beside, recipient)?;
        let settle = |packed: GzEncoder<Out>| -> anyhow::Result<()> {
            packed.finish()?.finish()?;
            fs::rename(&beside, &file)?;
            Ok(fs::File::open(folder)?.sync_all()?)
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
