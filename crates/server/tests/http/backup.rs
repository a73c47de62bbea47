//! Backups, really written and read back; and what `check` finds.

use std::path::Path;
use std::process::Command;
use std::time::Duration;

use restless_owl::backup::schedule::{Plan, keep};
use restless_owl::backup::{PASSING, by_hand, restore::restore};
use restless_owl::check::check;
use restless_owl::database::{COMMAND, pool};
use restless_owl::picture_store::PictureStore;
use restless_owl::serve::migrate;
use sqlx::{AssertSqlSafe, PgPool};

use crate::support::{Server, database, prepared};

/// What every table holds, as the database writes it.
async fn all_rows(db: &PgPool) -> Vec<(String, i64, Option<String>)> {
    let tables: Vec<String> = sqlx::query_scalar(
        "select relname::text from pg_class where relnamespace = 'public'::regnamespace and relkind in ('r', 'p') order by 1",
    )
    .fetch_all(db)
    .await
    .unwrap();
    let mut all = Vec::new();
    // The row of the backup itself is not in it as it ended.
    for t in tables.into_iter().filter(|t| t != "backup" && !PASSING.contains(&t.as_str())) {
        let sql =
            format!("select count(*), md5(string_agg(md5(t::text), '' order by md5(t::text))) from {t} t");
        let (n, sum) = sqlx::query_as(AssertSqlSafe(sql)).fetch_one(db).await.unwrap();
        all.push((t, n, sum));
    }
    all
}

async fn wrong(checked: &PgPool) -> Vec<String> {
    check(checked, &PictureStore::default()).await.unwrap().wrong
}

/// A picture on a ticket of the demo, so that pictures are among what comes back.
async fn demo_with_a_picture() -> (String, PgPool) {
    let url = prepared(true).await;
    let s = Server::on(&url).await;
    let (_, tickets) = s.get("/api/tickets").await;
    let png = include_bytes!("../../../../docs/screenshots/prove.png").to_vec();
    let path = format!(
        "/api/tickets/{}/attachments?key={}",
        tickets[0]["id"].as_str().unwrap(),
        uuid::Uuid::new_v4()
    );
    let (status, said) = s.send_bytes(&path, png).await;
    assert!(status < 300, "{said}");
    (url, s.pool)
}

#[tokio::test]
async fn a_backup_comes_back_into_an_empty_database_with_every_row_of_every_table() {
    let (url, db) = demo_with_a_picture().await;
    let folder = tempfile::tempdir().unwrap();
    let (file, bytes) = by_hand(&db, &PictureStore::default(), &url, folder.path(), None).await.unwrap();
    assert_eq!(std::fs::metadata(&file).unwrap().len(), bytes);
    let other = database().await;
    let back = pool(&other, COMMAND).unwrap();
    restore(&back, &PictureStore::default(), &other, &file, None).await.unwrap();
    // The bench of the first server goes on meanwhile; the other test has none.
    let still = async |db: &PgPool| {
        let all = all_rows(db).await;
        all.into_iter().filter(|(t, ..)| !t.starts_with("reform_")).collect::<Vec<_>>()
    };
    let (before, after) = (still(&db).await, still(&back).await);
    assert!(before.len() > 40 && before.iter().any(|(t, n, _)| t == "attachment" && *n > 0));
    assert_eq!(before, after);
    let checked = check(&back, &PictureStore::default()).await.unwrap();
    assert!(checked.wrong.is_empty() && checked.tickets > 3 && checked.references > 40, "{checked}");
    // It is a workshop that works on.
    migrate(&back).await.unwrap();
    let s = Server::on(&other).await;
    let ticket = s.ticket(&["R4 4k7 10%"]).await;
    assert_eq!(ticket["parts"][0]["name"], "R4");

    // Nothing is written over: no database that holds something, no file that is there.
    let refused =
        restore(&back, &PictureStore::default(), &other, &file, None).await.unwrap_err().to_string();
    assert!(refused.contains("holds something already"), "{refused}");
    let refused = by_hand(&db, &PictureStore::default(), &url, &file, None).await.unwrap_err().to_string();
    assert!(refused.contains("is there already"), "{refused}");
    let strange = folder.path().join("ledger.txt");
    std::fs::write(&strange, "R4 is 4k7").unwrap();
    let refused =
        restore(&back, &PictureStore::default(), &other, &strange, None).await.unwrap_err().to_string();
    assert!(refused.contains("is no backup"), "{refused}");
}

pub fn key(folder: &Path, name: &str) -> (std::path::PathBuf, String) {
    let file = folder.join(name);
    let made = Command::new("age-keygen").arg("-o").arg(&file).output().unwrap();
    assert!(made.status.success());
    let text = std::fs::read_to_string(&file).unwrap();
    let public = text.lines().find_map(|l| l.strip_prefix("# public key: ")).unwrap().to_owned();
    (file, public)
}

#[tokio::test]
async fn an_encrypted_backup_opens_with_its_key_and_with_no_other() {
    let url = prepared(true).await;
    let db = pool(&url, COMMAND).unwrap();
    let folder = tempfile::tempdir().unwrap();
    let (right, recipient) = key(folder.path(), "right.txt");
    let (other_key, _) = key(folder.path(), "other.txt");
    let (file, _) =
        by_hand(&db, &PictureStore::default(), &url, folder.path(), Some(&recipient)).await.unwrap();
    assert!(file.to_str().unwrap().ends_with(".dump.age"));
    assert!(std::fs::read(&file).unwrap().starts_with(b"age-encryption.org/v1"));
    let other = database().await;
    let back = pool(&other, COMMAND).unwrap();
    let refused =
        restore(&back, &PictureStore::default(), &other, &file, None).await.unwrap_err().to_string();
    assert!(refused.contains("is encrypted"), "{refused}");
    let refused = restore(&back, &PictureStore::default(), &other, &file, Some(&other_key))
        .await
        .unwrap_err()
        .to_string();
    assert!(refused.contains("age failed") && refused.contains("no identity matched"), "{refused}");
    assert!(all_rows(&back).await.is_empty(), "nothing came in by the wrong key");
    restore(&back, &PictureStore::default(), &other, &file, Some(&right)).await.unwrap();
    assert_eq!(all_rows(&db).await, all_rows(&back).await);
    // A key that is none leaves no file behind that looks like a backup.
    let none = folder.path().join("none");
    std::fs::create_dir(&none).unwrap();
    let refused = by_hand(&db, &PictureStore::default(), &url, &none, Some("age1nonsense"))
        .await
        .unwrap_err()
        .to_string();
    assert!(refused.contains("age failed"), "{refused}");
    assert_eq!(std::fs::read_dir(&none).unwrap().count(), 0);
    let failed: String =
        sqlx::query_scalar("select failed from backup order by n desc limit 1").fetch_one(&db).await.unwrap();
    assert!(failed.contains("age failed"), "{failed}");
}

#[tokio::test]
async fn what_is_wrong_with_a_database_is_found() {
    let url = prepared(true).await;
    let db = pool(&url, COMMAND).unwrap();
    assert_eq!(wrong(&db).await, [""; 0]);
    let run = async |sql: &str| {
        sqlx::raw_sql(AssertSqlSafe(sql.to_owned())).execute(&db).await.unwrap();
    };
    run("alter table soak drop constraint soak_ticket_id_fkey;
         insert into soak (id, ticket_id, planned_s, every_s) values (gen_random_uuid(), gen_random_uuid(), 3600, 600);
         alter table soak add constraint soak_ticket_id_fkey foreign key (ticket_id) references ticket not valid")
    .await;
    let found = wrong(&db).await;
    assert_eq!(found.len(), 2, "{found:?}");
    assert!(
        found.iter().any(|w| w.contains("soak: 1 rows refer to a ticket that is not there")),
        "{found:?}"
    );
    assert!(
        found.iter().any(|w| w.contains("soak_ticket_id_fkey was never held against its rows")),
        "{found:?}"
    );
}

#[tokio::test]
async fn a_newer_database_is_refused_in_words() {
    let url = prepared(false).await;
    let db = pool(&url, COMMAND).unwrap();
    sqlx::query("insert into _sqlx_migrations (version, description, success, checksum, execution_time) values (9999, 'later', true, '', 0)")
        .execute(&db)
        .await
        .unwrap();
    for refused in [migrate(&db).await.unwrap_err(), check(&db, &PictureStore::default()).await.unwrap_err()]
    {
        let said = format!("{refused:#}");
        assert!(said.contains("written by a newer Restless Owl") && said.contains("9999"), "{said}");
    }
    // A refused migration keeps its lock as long as its connection.
    db.close().await;
    let started = Command::new(env!("CARGO_BIN_EXE_restless-owl"))
        .args(["serve", "--listen", "127.0.0.1:0"])
        .env("OWL_DATABASE_URL", &url)
        .output()
        .unwrap();
    let said = String::from_utf8_lossy(&started.stderr).into_owned();
    assert!(!started.status.success() && said.contains("start the newer program"), "{said}");
    let nothing = check(&pool(&database().await, COMMAND).unwrap(), &PictureStore::default())
        .await
        .unwrap_err()
        .to_string();
    assert!(nothing.contains("holds no workshop"), "{nothing}");
}

#[tokio::test]
async fn of_several_servers_one_writes_the_backup_that_is_due() {
    let url = prepared(true).await;
    let db = pool(&url, COMMAND).unwrap();
    let folder = tempfile::tempdir().unwrap();
    let plan = Plan {
        folder: folder.path().to_owned(),
        every: Duration::from_secs(86_400),
        keep: 2,
        recipient: None,
        curves_years: None,
    };
    let (stop, _) = tokio::sync::watch::channel(false);
    let all: Vec<_> = (0..3)
        .map(|_| {
            tokio::spawn(keep(
                db.clone(),
                PictureStore::default(),
                url.clone(),
                plan.clone(),
                stop.subscribe(),
            ))
        })
        .collect();
    let written = async || -> Vec<Option<i64>> {
        sqlx::query_scalar("select bytes from backup order by n").fetch_all(&db).await.unwrap()
    };
    while !written().await.iter().any(Option::is_some) {
        tokio::time::sleep(Duration::from_millis(100)).await;
    }
    assert_eq!(written().await.len(), 1);
    assert_eq!(std::fs::read_dir(folder.path()).unwrap().count(), 1);
    stop.send_replace(true);
    for one in all {
        one.await.unwrap();
    }
}
