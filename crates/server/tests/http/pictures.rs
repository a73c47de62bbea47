//! Pictures and sheets: out and in with the record of their ticket, however large; and in a store beside the database, with
//! backups, `check` and the sweep.

use std::path::{Path, PathBuf};
use std::time::{Duration, SystemTime};

use restless_owl::backup::by_hand;
use restless_owl::backup::restore::restore;
use restless_owl::check::check;
use restless_owl::database::{COMMAND, Database, pool};
use restless_owl::picture_store::PictureStore;
use restless_owl::serve::{migrate, sweep_once};
use serde_json::{Value, json};
use tempfile::TempDir;
use url::Url;
use uuid::Uuid;

use crate::support::{Server, database, prepared};

const PNG: &[u8] = include_bytes!("../../../../docs/screenshots/prove.png");
const ONE_MB: usize = 1024 * 1024;

/// A sheet of so many megabytes, like no other.
fn sheet(mb: usize, seed: u8) -> Vec<u8> {
    let mut all = b"%PDF-1.7\n".to_vec();
    all.extend((0..mb * ONE_MB).map(|i| (i % 251) as u8 ^ seed));
    all
}

async fn add(s: &Server, ticket: &str, name: &str, bytes: Vec<u8>) -> String {
    let key = Uuid::new_v4();
    let path = format!("/api/tickets/{ticket}/attachments?key={key}&name={name}");
    let (status, said) = s.send_bytes(&path, bytes).await;
    assert_eq!(status, 201, "{said}");
    key.to_string()
}

async fn file(s: &Server, id: &str) -> Vec<u8> {
    s.bytes(&format!("/api/attachments/{id}")).await.1
}

fn id(ticket: &Value) -> &str {
    ticket["id"].as_str().unwrap()
}

#[tokio::test]
async fn a_ticket_with_large_files_goes_out_and_comes_in_as_one_container() {
    let (here, there) = (Server::empty().await, Server::empty().await);
    let ticket = here.ticket(&["R7 27k 5%"]).await;
    let mut given = vec![];
    for seed in 1..=7 {
        given.push(add(&here, id(&ticket), &format!("sheet{seed}"), sheet(18, seed)).await);
    }
    given.push(add(&here, id(&ticket), "chassis", PNG.to_vec()).await);
    let path = format!("/api/tickets/{}", id(&ticket));
    let (headers, whole) = here.bytes(&format!("{path}/record.tar")).await;
    assert_eq!(headers["content-type"], "application/x-tar");
    assert!(headers["content-disposition"].to_str().unwrap().ends_with(".tar\""));
    assert!(whole.len() > 7 * 18 * ONE_MB);

    // The rows alone say where the files are, and do not come in without them.
    let rows = here.get(&format!("{path}/record.json")).await.1;
    assert_eq!(rows["attachments"].as_array().unwrap().len(), 8);
    let (status, p) = there.post("/api/tickets/import", rows.clone()).await;
    assert_eq!(status, 422);
    assert!(p["detail"].as_str().unwrap().contains("take the .tar"), "{p}");
    // Broken off on its way, and with another file than it names.
    for (cut, words) in [(whole.len() - 19 * ONE_MB, "not in the container"), (700, "broke off")] {
        let (status, p) = there.send_bytes("/api/tickets/import", whole[..cut].to_vec()).await;
        assert_eq!((status, p["field"].as_str()), (422, Some("file")), "{p}");
        assert!(p["detail"].as_str().unwrap().contains(words), "{p}");
    }
    let mut other = whole.clone();
    let at = other.windows(8).position(|w| w == b"%PDF-1.7").unwrap();
    other[at..at + 4].copy_from_slice(b"<svg");
    let (status, p) = there.send_bytes("/api/tickets/import", other).await;
    assert_eq!((status, p["field"].as_str()), (422, Some("file")), "{p}");
    assert_eq!(there.get("/api/tickets").await.1, json!([]), "nothing was changed");

    let (status, taken) = there.send_bytes("/api/tickets/import", whole.clone()).await;
    assert_eq!((status, taken["id"].as_str()), (201, Some(id(&ticket))), "{taken}");
    assert_eq!(there.get(&format!("{path}/record.json")).await.1, rows);
    for id in &given {
        assert_eq!(file(&here, id).await, file(&there, id).await);
    }
    assert_eq!(there.send_bytes("/api/tickets/import", whole).await.0, 409);
}

/// Before version 9 the bytes of a file stood in its row.
#[tokio::test]
async fn a_record_of_the_eighth_version_comes_in_with_its_pictures() {
    let (here, there) = (Server::empty().await, Server::empty().await);
    let ticket = here.ticket(&["R7 27k 5%"]).await;
    let picture = add(&here, id(&ticket), "chassis", PNG.to_vec()).await;
    let mut doc = here.get(&format!("/api/tickets/{}/record.json", id(&ticket))).await.1;
    doc["version"] = json!(8);
    let row = doc["attachments"][0].as_object_mut().unwrap();
    row.remove("bytes");
    row.remove("sha256");
    let hex: String = file(&here, &picture).await.iter().map(|b| format!("{b:02x}")).collect();
    row.insert("content".to_owned(), format!("\\x{hex}").into());
    let (status, taken) = there.post("/api/tickets/import", doc).await;
    assert_eq!(status, 201, "{taken}");
    assert_eq!(file(&there, &picture).await, file(&here, &picture).await);
}

/// A store in a folder of its own.
fn store() -> (TempDir, PictureStore) {
    let folder = tempfile::tempdir().unwrap();
    let at = Url::from_file_path(folder.path()).unwrap();
    (folder, PictureStore::at(&at).unwrap())
}

/// Every object in a store.
fn objects(folder: &Path) -> Vec<PathBuf> {
    let mut all = vec![];
    for entry in std::fs::read_dir(folder).unwrap() {
        let path = entry.unwrap().path();
        if path.is_dir() { all.extend(objects(&path)) } else { all.push(path) }
    }
    all.sort();
    all
}

#[tokio::test]
async fn pictures_lie_in_a_store_and_are_what_they_were() {
    let (folder, pictures) = store();
    let s = Server::with_pictures(&prepared(false).await, pictures.clone()).await;
    let t = s.ticket(&["R7 27k 5%"]).await;
    let picture = add(&s, id(&t), "chassis", PNG.to_vec()).await;
    let pdf = add(&s, id(&t), "sheet", sheet(1, 9)).await;
    assert_eq!(objects(folder.path()).len(), 2);
    let in_rows: i64 = sqlx::query_scalar("select count(*) from attachment where content is not null")
        .fetch_one(&s.pool)
        .await
        .unwrap();
    assert_eq!(in_rows, 0);
    assert_eq!(file(&s, &pdf).await, sheet(1, 9));
    assert!(file(&s, &picture).await.starts_with(b"\x89PNG"));
    let small = s.bytes(&format!("/api/attachments/{picture}?small=true")).await.1;
    assert!(small.starts_with(&[0xff, 0xd8]), "the small copy stays in its row");
    let checked = check(&s.pool, &pictures).await.unwrap();
    assert!(checked.wrong.is_empty(), "{checked}");

    // The record of a ticket carries them, and another workshop takes them into its rows.
    let whole = s.bytes(&format!("/api/tickets/{}/record.tar", id(&t))).await.1;
    let there = Server::empty().await;
    assert_eq!(there.send_bytes("/api/tickets/import", whole).await.0, 201);
    assert_eq!(file(&there, &pdf).await, sheet(1, 9));

    // Taken away: it lies there for a day, and then goes; what has a row stays.
    assert_eq!(s.delete(&format!("/api/attachments/{pdf}")).await, 200);
    let db = Database::direct(s.pool.clone());
    sweep_once(&pictures, &db).await.unwrap();
    assert_eq!(objects(folder.path()).len(), 2);
    for object in objects(folder.path()) {
        let file = std::fs::File::options().write(true).open(object).unwrap();
        file.set_modified(SystemTime::now() - Duration::from_secs(90_000)).unwrap();
    }
    sweep_once(&pictures, &db).await.unwrap();
    let left = objects(folder.path());
    assert_eq!(left.len(), 1);
    assert!(file(&s, &picture).await.starts_with(b"\x89PNG"));

    // Damaged, and away.
    let whole = std::fs::read(&left[0]).unwrap();
    std::fs::write(&left[0], &whole[1..]).unwrap();
    let checked = check(&s.pool, &pictures).await.unwrap();
    assert!(checked.wrong[0].contains("is not what it was"), "{checked}");
    std::fs::remove_file(&left[0]).unwrap();
    let (status, p) = s.get(&format!("/api/attachments/{picture}")).await;
    assert_eq!((status, p["title"].as_str()), (502, Some("no store")), "{p}");
}

#[tokio::test]
async fn a_backup_brings_the_pictures_of_a_store_back_into_another_one_or_into_the_rows() {
    let (_folder, pictures) = store();
    let url = prepared(false).await;
    let s = Server::with_pictures(&url, pictures.clone()).await;
    let t = s.ticket(&["R7 27k 5%"]).await;
    let pdf = add(&s, id(&t), "sheet", sheet(1, 5)).await;
    let folder = tempfile::tempdir().unwrap();
    let (backup, _) = by_hand(&s.pool, &pictures, &url, folder.path(), None).await.unwrap();
    let copies = folder.path().join("pictures");
    assert_eq!(objects(&copies).len(), 1);
    // A second one does not write them again.
    let before = objects(&copies)[0].metadata().unwrap().modified().unwrap();
    by_hand(&s.pool, &pictures, &url, &folder.path().join("second.dump"), None).await.unwrap();
    assert_eq!(objects(&copies)[0].metadata().unwrap().modified().unwrap(), before);

    let (other_folder, other) = store();
    for (store, objects_then) in [(other, 1), (PictureStore::default(), 1)] {
        let empty = database().await;
        let back = pool(&empty, COMMAND).unwrap();
        restore(&back, &store, &empty, &backup, None).await.unwrap();
        migrate(&back).await.unwrap();
        assert!(check(&back, &store).await.unwrap().wrong.is_empty());
        let there = Server::with_pictures(&empty, store).await;
        assert_eq!(file(&there, &pdf).await, sheet(1, 5));
        assert_eq!(objects(other_folder.path()).len(), objects_then);
    }
    std::fs::remove_file(&objects(&copies)[0]).unwrap();
    let empty = database().await;
    let back = pool(&empty, COMMAND).unwrap();
    let missing = restore(&back, &pictures, &empty, &backup, None).await.unwrap_err();
    let missing = format!("{missing:#}");
    assert!(
        missing.contains("empty the database") && missing.contains("is missing beside the backup"),
        "{missing}"
    );
}
