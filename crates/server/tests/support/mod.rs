//! A database and a server for each test: a private cluster that is started once for each test
//! program, an empty database in it for each test, and the server on a free port.
#![allow(dead_code, clippy::unwrap_used, clippy::expect_used, clippy::panic)]

use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::OnceLock;

use restless_owl::database::{COMMAND, Database, PAGE, pool};
use restless_owl::door::{Door, Limits};
use restless_owl::guard::Hosts;
use restless_owl::people::Access;
use restless_owl::people::gate::Gate;
use restless_owl::picture_store::PictureStore;
use restless_owl::router::{Front, Page};
use restless_owl::serve::{Further, migrate, serve_on};
use serde_json::Value;
use sqlx::{Connection, PgConnection, PgPool};
use tokio::sync::OnceCell;
use uuid::Uuid;

pub fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").canonicalize().unwrap()
}

fn script() -> PathBuf {
    root().join("scripts/cluster.sh")
}

/// A private cluster. A watchdog that waits for the end of its input stops it when this program
/// ends, however it ends.
pub struct Cluster {
    pub url: String,
    pub dir: PathBuf,
    _watchdog: Child,
}

impl Cluster {
    /// Starts a cluster of its own; tests share [`cluster`].
    pub fn start(name: &str) -> Self {
        let dir = std::env::temp_dir().join(format!("owl-test-{}-{name}", std::process::id()));
        std::fs::create_dir_all(&dir).unwrap();
        let url = start_again(&dir);
        let watchdog = Command::new(script())
            .arg("until-eof")
            .arg(&dir)
            .stdin(Stdio::piped())
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .spawn()
            .unwrap();
        Self { url, dir, _watchdog: watchdog }
    }
}

fn start_again(dir: &Path) -> String {
    let out = Command::new(script()).arg("start").arg(dir).arg("--throw-away").output().unwrap();
    assert!(out.status.success(), "{}", String::from_utf8_lossy(&out.stderr));
    String::from_utf8(out.stdout).unwrap().trim().to_owned()
}

/// The cluster of this test program.
pub fn cluster() -> &'static Cluster {
    static CLUSTER: OnceLock<Cluster> = OnceLock::new();
    CLUSTER.get_or_init(|| Cluster::start("shared"))
}

/// With `OWL_POOLER` all servers on the shared cluster stand behind `PgBouncer` in transaction mode: its port.
async fn pooler(database: &str) -> Option<u16> {
    std::env::var_os("OWL_POOLER")?;
    let shared = tokio::task::spawn_blocking(|| cluster().url.rsplit_once('/').unwrap().0).await.unwrap();
    if !database.starts_with(shared) {
        return None;
    }
    Some(shared_pooler().await)
}

/// The port of the pooler before the shared cluster, which is started once.
async fn shared_pooler() -> u16 {
    static PORT: OnceCell<u16> = OnceCell::const_new();
    *PORT.get_or_init(|| async { tokio::task::spawn_blocking(start_pooler).await.unwrap() }).await
}

/// Starts a pooler before the cluster of this test program; its port.
fn start_pooler() -> u16 {
    let out = Command::new(script()).arg("pooler").arg(&cluster().dir).output().unwrap();
    assert!(out.status.success(), "{}", String::from_utf8_lossy(&out.stderr));
    String::from_utf8(out.stdout).unwrap().trim().parse().unwrap()
}

/// The same database at another port.
fn at_port(url: &str, port: u16) -> String {
    let mut url = url::Url::parse(url).unwrap();
    url.set_port(Some(port)).unwrap();
    url.to_string()
}

/// The URL of a new, empty database.
pub async fn database() -> String {
    let base = tokio::task::spawn_blocking(|| cluster().url.clone()).await.unwrap();
    copy(&base, "template1").await
}

/// The URL of a new database that holds what a template of the cluster does.
pub async fn copy(base: &str, template: &str) -> String {
    let name = format!("t{}", Uuid::new_v4().simple());
    let mut admin = PgConnection::connect(base).await.unwrap();
    let sql = format!("create database {name} template {template}");
    sqlx::query(sqlx::AssertSqlSafe(sql)).execute(&mut admin).await.unwrap();
    base.rsplit_once('/').map(|(head, _)| format!("{head}/{name}")).unwrap()
}

/// A copy of a database that is made once for each test program: the tables, and the demo workshop in them or not.
pub async fn prepared(demo: bool) -> String {
    static MADE: [OnceCell<String>; 2] = [OnceCell::const_new(), OnceCell::const_new()];
    let template = MADE[usize::from(demo)]
        .get_or_init(|| async {
            let url = database().await;
            let pool = up_to_date(&url).await;
            if demo {
                restless_owl::demo::load(&pool, false).await.unwrap();
            }
            // A database is copied while nobody is in it.
            pool.close().await;
            url
        })
        .await;
    copy(&cluster().url, template.rsplit_once('/').unwrap().1).await
}

/// A pool on a database that is given the tables of today, as patient as a command that runs once.
async fn up_to_date(database: &str) -> PgPool {
    let pool = pool(database, COMMAND).unwrap();
    migrate(&pool).await.unwrap();
    pool
}

/// What stands before a server that listens there.
pub fn front(listener: &tokio::net::TcpListener, access: Access) -> Front {
    let hosts = Hosts::new(listener.local_addr().unwrap(), &[]);
    Front {
        hosts,
        gate: Gate::new(access, vec![]),
        encrypted: false,
        page: Page { file: no_page, build: None },
    }
}

/// How often a request is sent again while the database is too busy: half a minute on a loaded machine.
const PATIENCE: usize = 60;

/// A server on a free port with a database of its own.
#[derive(Clone)]
pub struct Server {
    pub url: String,
    pub pool: PgPool,
    pub client: reqwest::Client,
    patient: bool,
}

impl Server {
    /// An empty bench.
    pub async fn empty() -> Self {
        Self::on(&prepared(false).await).await
    }

    /// A workshop of several people, with the link of its first owner.
    pub async fn of_people(demo: bool) -> (Self, String) {
        let s = Self::with(&prepared(demo).await, Access::Accounts, Limits::default()).await;
        let link = restless_owl::serve::link(&s.pool, None).await.unwrap();
        (s, link.rsplit_once('#').unwrap().1.to_owned())
    }

    /// The same server with a browser of its own: nobody is signed in there.
    pub fn browser(&self) -> Self {
        let client = reqwest::Client::builder().cookie_store(true).build().unwrap();
        Self { client, ..self.clone() }
    }

    /// On a database that is there already.
    pub async fn on(database: &str) -> Self {
        Self::with(database, Access::Alone, Limits::default()).await
    }

    /// On a database that is there already, with its way in and its limits.
    pub async fn with(database: &str, access: Access, limits: Limits) -> Self {
        let pooler = pooler(database).await;
        Self::further(database, access, limits, PictureStore::default(), pooler).await
    }

    /// On a database that is there already, with its pictures in a store.
    pub async fn with_pictures(database: &str, pictures: PictureStore) -> Self {
        let pooler = pooler(database).await;
        Self::further(database, Access::Alone, Limits::default(), pictures, pooler).await
    }

    /// On a new database, with a pooler between.
    pub async fn behind_a_pooler() -> Self {
        let (database, pooler) = (prepared(false).await, Some(shared_pooler().await));
        Self::further(&database, Access::Alone, Limits::default(), PictureStore::default(), pooler).await
    }

    async fn further(
        database: &str,
        access: Access,
        limits: Limits,
        pictures: PictureStore,
        pooler: Option<u16>,
    ) -> Self {
        up_to_date(database).await.close().await;
        let pool = pool(database, PAGE).unwrap();
        let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
        let url = format!("http://{}", listener.local_addr().unwrap());
        let front = front(&listener, access);
        let door = Door { listener, limits, tls: None, proxies: vec![] };
        let instruments = (access == Access::Accounts).then(|| Vec::new().into());
        let db = match pooler {
            Some(port) => Database::behind_a_pooler(&at_port(database, port), PAGE).unwrap(),
            None => Database::direct(pool.clone()),
        };
        tokio::spawn(serve_on(
            door,
            db,
            pool.clone(),
            front,
            Further { instruments, backups: None, pictures },
            std::future::pending(),
        ));
        Self { url, pool, client: reqwest::Client::new(), patient: true }
    }

    /// Another server on the same database, at that address.
    pub fn at(&self, url: &str) -> Self {
        Self { url: url.to_owned(), ..self.clone() }
    }

    /// The demo workshop.
    pub async fn demo() -> Self {
        Self::on(&prepared(true).await).await
    }

    /// Sends a request as the page does: while the database is too busy to answer, the same again. A server that
    /// [`Server::at_once`] made is asked once.
    pub async fn patiently(&self, request: reqwest::RequestBuilder) -> reqwest::Response {
        for _ in 0..PATIENCE {
            let again = request.try_clone().expect("a body that can be sent again");
            let got = again.send().await.unwrap();
            if got.status() != 503 || !self.patient {
                return got;
            }
            tokio::time::sleep(std::time::Duration::from_millis(500)).await;
        }
        request.send().await.unwrap()
    }

    async fn send(&self, request: reqwest::RequestBuilder) -> (u16, Value) {
        answer(self.patiently(request).await).await
    }

    /// The same server, asked once: for what happens while the database is away.
    pub fn at_once(&self) -> Self {
        Self { patient: false, ..self.clone() }
    }

    pub async fn get(&self, path: &str) -> (u16, Value) {
        self.send(self.client.get(format!("{}{path}", self.url))).await
    }

    pub async fn post(&self, path: &str, body: Value) -> (u16, Value) {
        self.send(self.client.post(format!("{}{path}", self.url)).json(&body)).await
    }

    pub async fn put(&self, path: &str, body: Value) -> (u16, Value) {
        self.send(self.client.put(format!("{}{path}", self.url)).json(&body)).await
    }

    pub async fn patch(&self, path: &str, body: Value) -> (u16, Value) {
        self.send(self.client.patch(format!("{}{path}", self.url)).json(&body)).await
    }

    /// A ticket, each of its parts with everything that is known of it.
    pub async fn whole(&self, path: &str) -> (u16, Value) {
        let (status, mut ticket) = self.get(path).await;
        for strip in ticket["parts"].as_array_mut().into_iter().flatten() {
            let part = self.get(&format!("/api/parts/{}", strip["id"].as_str().unwrap())).await.1;
            for (name, value) in strip.as_object().unwrap() {
                assert_eq!(&part[name], value, "strip and part say another {name} of {}", part["name"]);
            }
            *strip = part;
        }
        (status, ticket)
    }

    pub async fn delete(&self, path: &str) -> u16 {
        self.client.delete(format!("{}{path}", self.url)).send().await.unwrap().status().as_u16()
    }

    /// Sends a file of CSV to the drawers.
    pub async fn import(&self, csv: impl Into<reqwest::Body>) -> (u16, Value) {
        let request = self.client.post(format!("{}/api/drawers/import", self.url));
        self.send(request.header("content-type", "text/csv").body(csv)).await
    }

    /// Sends text as JSON.
    pub async fn send_text(&self, path: &str, text: String) -> (u16, Value) {
        let request =
            self.client.post(format!("{}{path}", self.url)).header("content-type", "application/json");
        self.send(request.body(text)).await
    }

    /// Sends bytes as they are.
    pub async fn send_bytes(&self, path: &str, bytes: Vec<u8>) -> (u16, Value) {
        self.send(self.client.post(format!("{}{path}", self.url)).body(bytes)).await
    }

    /// Bytes with their headers.
    pub async fn bytes(&self, path: &str) -> (reqwest::header::HeaderMap, Vec<u8>) {
        let got = self.patiently(self.client.get(format!("{}{path}", self.url))).await;
        assert_eq!(got.status(), 200, "{path}");
        (got.headers().clone(), got.bytes().await.unwrap().to_vec())
    }

    /// A page with its headers.
    pub async fn page(&self, path: &str) -> (reqwest::header::HeaderMap, String) {
        let got = self.patiently(self.client.get(format!("{}{path}", self.url))).await;
        assert_eq!(got.status(), 200, "{path}");
        (got.headers().clone(), got.text().await.unwrap())
    }

    /// The text of an address.
    pub async fn text(&self, path: &str) -> String {
        self.patiently(self.client.get(format!("{}{path}", self.url))).await.text().await.unwrap()
    }

    /// Opens a ticket and says sentences in it; the ticket as it stands then.
    pub async fn ticket(&self, sentences: &[&str]) -> Value {
        let new = serde_json::json!({"name": "Fell Farm table set", "source": "mains transformer", "devices": "valves", "school": "test first"});
        let (status, ticket) = self.post("/api/tickets", new).await;
        assert_eq!(status, 201, "{ticket}");
        let id = ticket["id"].as_str().unwrap().to_owned();
        for text in sentences {
            let (status, said) = self.say(&id, text).await;
            assert_eq!(status, 200, "{text}: {said}");
        }
        self.whole(&format!("/api/tickets/{id}")).await.1
    }

    /// Says a sentence with the version of the part as it stands.
    pub async fn say(&self, ticket: &str, text: &str) -> (u16, Value) {
        let (_, now) = self.get(&format!("/api/tickets/{ticket}")).await;
        let name = text.split([' ', '=']).next().unwrap_or("").to_uppercase();
        let part = now["parts"].as_array().and_then(|p| p.iter().find(|p| p["name"] == name.as_str()));
        let body = serde_json::json!({
            "text": text, "key": Uuid::new_v4(), "version": part.map(|p| p["version"].clone()),
        });
        self.post(&format!("/api/tickets/{ticket}/say"), body).await
    }
}

/// Status and JSON; every error must be problem+json.
async fn answer(response: reqwest::Response) -> (u16, Value) {
    let status = response.status().as_u16();
    let kind = response.headers().get("content-type").and_then(|v| v.to_str().ok()).unwrap_or("").to_owned();
    let text = response.text().await.unwrap();
    if status >= 400 {
        assert_eq!(kind, "application/problem+json", "{status}: {text}");
    }
    (status, serde_json::from_str(&text).unwrap_or(Value::Null))
}

/// The part of that name.
pub fn part<'a>(ticket: &'a Value, name: &str) -> &'a Value {
    ticket["parts"].as_array().unwrap().iter().find(|p| p["name"] == name).unwrap()
}

/// The computing interface alone.
fn no_page(_: &axum::extract::Request) -> axum::response::Response {
    axum::response::IntoResponse::into_response(axum::http::StatusCode::NOT_FOUND)
}
