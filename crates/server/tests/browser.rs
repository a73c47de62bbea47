//! The real interface: the real program with a database of its own, and Playwright driving
//! Debian's Chromium.
#![allow(clippy::unwrap_used, clippy::panic, missing_docs)]

mod support;

use std::io::{BufRead, BufReader};
use std::process::{Child, Command, Stdio};

use support::{Cluster, root};

/// The program, serving; killed when it goes out of scope.
struct Program {
    child: Child,
    url: String,
}

impl Program {
    /// Starts it on a free port and waits for the line that says where it is.
    fn serve(database: &str, listen: &str) -> Self {
        let mut child = Command::new(env!("CARGO_BIN_EXE_restless-owl"))
            .args(["serve", "--listen", listen])
            .env("OWL_DATABASE_URL", database)
            .env("RUST_LOG", "warn")
            .stdout(Stdio::piped())
            .spawn()
            .unwrap();
        let mut line = String::new();
        BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
        let url = line.split_whitespace().find(|w| w.starts_with("http://")).map(str::to_owned);
        Self { child, url: url.unwrap_or_else(|| panic!("it does not say where it is: {line}")) }
    }

    fn kill(&mut self) {
        self.child.kill().unwrap();
        self.child.wait().unwrap();
    }
}

impl Drop for Program {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

fn load_demo(database: &str) {
    let done = Command::new(env!("CARGO_BIN_EXE_restless-owl"))
        .arg("demo")
        .env("OWL_DATABASE_URL", database)
        .env("RUST_LOG", "warn")
        .status()
        .unwrap();
    assert!(done.success());
}

#[test]
fn the_real_interface() {
    let playwright = root().join("e2e/node_modules/.bin/playwright");
    assert!(playwright.exists(), "Playwright is not installed: run `make setup-test` first");
    assert!(root().join("web/dist/index.html").exists(), "the front end is not built: run `make web` first");
    let cluster = Cluster::start("browser");
    load_demo(&cluster.url);
    let program = Program::serve(&cluster.url, "127.0.0.1:0");
    let done = Command::new(playwright)
        .arg("test")
        .current_dir(root().join("e2e"))
        .env("OWL_URL", &program.url)
        .env("OWL_CLUSTER_DIR", &cluster.dir)
        .env("OWL_CLUSTER_SCRIPT", root().join("scripts/cluster.sh"))
        .status()
        .unwrap();
    assert!(done.success(), "Playwright: {done}");
}

/// The page's files: named by their content and kept for ever, the page itself asked for each time.
#[tokio::test]
async fn static_files_are_compressed_and_kept() {
    let cluster = tokio::task::spawn_blocking(|| Cluster::start("files")).await.unwrap();
    let program = Program::serve(&cluster.url, "127.0.0.1:0");
    let client = reqwest::Client::new();
    let get = |path: &str| {
        client.get(format!("{}{path}", program.url)).header("accept-encoding", "br, gzip").send()
    };
    let page = client.get(format!("{}/some-ticket/R3", program.url)).send().await.unwrap();
    assert_eq!(
        (page.status().as_u16(), page.headers()["cache-control"].to_str().unwrap()),
        (200, "no-cache")
    );
    let tag = page.headers()["etag"].clone();
    let html = page.text().await.unwrap();
    let script = html.split('"').find(|p| p.starts_with("/assets/") && p.ends_with(".js")).unwrap();
    let file = get(script).await.unwrap();
    assert_eq!(file.headers()["cache-control"], "public, max-age=31536000, immutable");
    assert_eq!(file.headers()["content-encoding"], "br");
    assert!(file.bytes().await.unwrap().len() < 200_000);
    let same = client.get(format!("{}/", program.url)).header("if-none-match", tag).send().await.unwrap();
    assert_eq!(same.status(), 304);
    assert_eq!(get("/assets/none.js").await.unwrap().status(), 404);
    assert_eq!(get("/../Cargo.toml").await.unwrap().status(), 404);
}

/// What was acknowledged is there after the program got a SIGKILL in the middle of its work.
#[tokio::test]
async fn a_killed_program_loses_nothing_that_was_acknowledged() {
    let cluster = tokio::task::spawn_blocking(|| Cluster::start("kill")).await.unwrap();
    let mut program = Program::serve(&cluster.url, "127.0.0.1:0");
    let client = reqwest::Client::new();
    let new = serde_json::json!({"name": "Storm set", "class": "battery", "school": "test first"});
    let ticket: serde_json::Value = client
        .post(format!("{}/api/tickets", program.url))
        .json(&new)
        .send()
        .await
        .unwrap()
        .json()
        .await
        .unwrap();
    let say = format!("/api/tickets/{}/say", ticket["id"].as_str().unwrap());
    let mut acknowledged = Vec::new();
    let killer = {
        let pid = program.child.id();
        tokio::spawn(async move {
            tokio::time::sleep(std::time::Duration::from_millis(900)).await;
            Command::new("kill").args(["-KILL", &pid.to_string()]).status().unwrap();
        })
    };
    for n in 1..2000 {
        let body =
            serde_json::json!({"text": format!("R{n} 1.8k 10% = {}", 1700 + n), "key": uuid::Uuid::new_v4()});
        match client.post(format!("{}{say}", program.url)).json(&body).send().await {
            Ok(r) if r.status() == 200 => acknowledged.push(n),
            Ok(r) => panic!("{}", r.text().await.unwrap()),
            Err(_) => break,
        }
    }
    killer.await.unwrap();
    program.kill();
    assert!(acknowledged.len() > 10, "only {} before the kill", acknowledged.len());
    let again = Program::serve(&cluster.url, "127.0.0.1:0");
    let path = format!("{}/api/tickets/{}", again.url, ticket["id"].as_str().unwrap());
    let now: serde_json::Value = client.get(path).send().await.unwrap().json().await.unwrap();
    for n in acknowledged {
        let part = support::part(&now, &format!("R{n}"));
        assert_eq!(part["readings"][0]["measured"]["value"], f64::from(1700 + n));
    }
}
