//! Curves of reforming by years: a year long past is written out whole, then thinned; all others stay as they are.

use std::io::Read;

use restless_owl::backup::curves::archive;
use restless_owl::check::check;
use sqlx::PgPool;
use uuid::Uuid;

use crate::support::{Server, prepared};

/// A run of the demo once more, begun in another year, with so many readings.
async fn run_of(db: &PgPool, year: i32, readings: i64) -> Uuid {
    let id = Uuid::new_v4();
    let begun = format!("{year}-05-01 10:00:00Z");
    sqlx::query("select reform_year($1)").bind(year).execute(db).await.unwrap();
    sqlx::query(
        "insert into reform_run (id, part_id, section, way, school, phase, ending, state, bench, expected_s, samples, words, created_at, over_at)
         select $1, part_id, section, way, school, 'over', ending, state, bench, expected_s, $3, 0, $2::timestamptz, $2::timestamptz
         from reform_run where phase = 'over' order by ordinal limit 1",
    )
    .bind(id)
    .bind(begun)
    .bind(readings)
    .execute(db)
    .await
    .unwrap();
    sqlx::query(
        "insert into reform_sample select $1, n, n, 250, n / 100.0, 0.001 from generate_series(1, $2) n",
    )
    .bind(id)
    .bind(readings)
    .execute(db)
    .await
    .unwrap();
    id
}

#[tokio::test(flavor = "multi_thread")]
async fn a_year_long_past_is_written_out_whole_and_thinned() {
    let s = Server::on(&prepared(true).await).await;
    let folder = tempfile::tempdir().unwrap();
    let (old, fresh) = (run_of(&s.pool, 2015, 5000).await, run_of(&s.pool, 2024, 3000).await);
    let kept = async |run: Uuid| -> Vec<i64> {
        sqlx::query_scalar("select n from reform_sample where run_id = $1 order by n")
            .bind(run)
            .fetch_all(&s.pool)
            .await
            .unwrap()
    };

    // A file that cannot be written: nothing is thinned.
    let nowhere = folder.path().join("nowhere");
    let why = format!("{:#}", archive(&s.pool, &nowhere, 5, None).await.unwrap_err());
    assert!(why.contains("reform-curves-2015.csv.gz.part cannot be written"), "{why}");
    assert_eq!(kept(old).await.len(), 5000);

    assert_eq!(archive(&s.pool, folder.path(), 5, None).await.unwrap(), [2015]);
    let thin = kept(old).await;
    assert!((380..=402).contains(&thin.len()), "{}", thin.len());
    assert_eq!((thin[0], thin[thin.len() - 1]), (1, 5000));
    assert_eq!(kept(fresh).await.len(), 3000);

    let packed = std::fs::File::open(folder.path().join("reform-curves-2015.csv.gz")).unwrap();
    let mut text = String::new();
    flate2::read::GzDecoder::new(packed).read_to_string(&mut text).unwrap();
    let mut rows = csv::Reader::from_reader(text.as_bytes());
    assert_eq!(
        rows.headers().unwrap().iter().collect::<Vec<_>>(),
        ["set", "part", "section", "run", "begun_at", "seconds", "ordered_volts", "volts", "amperes"]
    );
    let rows: Vec<csv::StringRecord> = rows.records().map(Result::unwrap).collect();
    assert_eq!(rows.len(), 5000);
    assert_eq!((&rows[4999][3], &rows[4999][7]), (old.to_string().as_str(), "50"));

    // Sealed like the backups: it opens with its key.
    let older = run_of(&s.pool, 2014, 900).await;
    let (key, recipient) = crate::backup::key(folder.path(), "key.txt");
    assert_eq!(archive(&s.pool, folder.path(), 5, Some(&recipient)).await.unwrap(), [2014]);
    assert!(!folder.path().join("reform-curves-2014.csv.gz").exists() && kept(older).await.len() < 500);
    let opened = std::process::Command::new("age")
        .arg("--decrypt")
        .arg("--identity")
        .arg(key)
        .arg(folder.path().join("reform-curves-2014.csv.gz.age"))
        .output()
        .unwrap();
    let mut text = String::new();
    flate2::read::GzDecoder::new(&opened.stdout[..]).read_to_string(&mut text).unwrap();
    assert_eq!(text.lines().count(), 901);

    // Once; what is left is as unchangeable as before, and everything still holds together.
    assert!(archive(&s.pool, folder.path(), 5, None).await.unwrap().is_empty());
    let refused =
        sqlx::query("update reform_curve set volts = 0 where run_id = $1").bind(old).execute(&s.pool);
    assert!(refused.await.unwrap_err().to_string().contains("only ever added to"));
    assert_eq!(
        check(&s.pool, &restless_owl::picture_store::PictureStore::default()).await.unwrap().wrong,
        Vec::<String>::new()
    );
    // Whoever looks at the run is told where the rest is.
    let (_, run) = s.get(&format!("/api/reform/runs/{old}")).await;
    assert_eq!(run["thinned"], "reform-curves-2015.csv.gz");
    let (_, run) = s.get(&format!("/api/reform/runs/{fresh}")).await;
    assert_eq!(run["thinned"], serde_json::Value::Null);
}
