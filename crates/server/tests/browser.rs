//! The real interface: the real program with a database of its own, and Playwright driving
//! Debian's Chromium.
#![allow(clippy::unwrap_used, clippy::panic, missing_docs)]

mod support;

use std::io::{BufRead, BufReader};
use std::process::{Child, Command, Stdio};

use support::{Cluster, copy, root};

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

/// The simulated bench with a part of the browser's stories on its clips.
struct Bench {
    child: Child,
    multimeter: String,
    parts: std::path::PathBuf,
}

impl Bench {
    fn start(half: u8) -> Self {
        let parts = std::env::temp_dir().join(format!("owl-clips-{}-{half}.toml", std::process::id()));
        let text =
            "[[part]]\nset = \"Wired meter\"\nname = \"R6\"\nohms = 3412.0\nneighbours_ohms = 5000.0\n";
        std::fs::write(&parts, text).unwrap();
        let mut child = Command::new(env!("CARGO_BIN_EXE_restless-owl"))
            .args(["bench", "--port", "0", "--parts"])
            .arg(&parts)
            .stdout(Stdio::piped())
            .spawn()
            .unwrap();
        // All five lines: it must not write into a pipe that nobody holds.
        let said: Vec<String> =
            BufReader::new(child.stdout.take().unwrap()).lines().take(5).map(Result::unwrap).collect();
        assert!(said[0].contains("simulated multimeter"), "{said:?}");
        let multimeter = said[0].rsplit(' ').next().unwrap().to_owned();
        Self { child, multimeter, parts }
    }
}

impl Drop for Bench {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
        let _ = std::fs::remove_file(&self.parts);
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

/// The browser's stories, in two halves at the same time, each with a database, a server and a bench of its own.
#[test]
fn the_real_interface() {
    let playwright = root().join("e2e/node_modules/.bin/playwright");
    assert!(playwright.exists(), "Playwright is not installed: run `make setup-test` first");
    assert!(root().join("web/dist/index.html").exists(), "the front end is not built: run `make web` first");
    let half = |half: u8| {
        let cluster = Cluster::start(&format!("browser{half}"));
        load_demo(&cluster.url);
        let program = Program::serve(&cluster.url, "127.0.0.1:0");
        let bench = Bench::start(half);
        // For the workshop of several people, which starts a server of its own.
        let people = tokio::runtime::Runtime::new().unwrap().block_on(copy(&cluster.url, "template1"));
        let done = Command::new(&playwright)
            .args(["test", "--pass-with-no-tests", &format!("--shard={half}/2")])
            .arg(format!("--output=results/{half}"))
            .current_dir(root().join("e2e"))
            .env("OWL_METER", &bench.multimeter)
            .env("OWL_URL", &program.url)
            .env("OWL_PROGRAM", env!("CARGO_BIN_EXE_restless-owl"))
            .env("OWL_PEOPLE_DATABASE", people)
            .env("OWL_CLUSTER_DIR", &cluster.dir)
            .env("OWL_CLUSTER_SCRIPT", root().join("scripts/cluster.sh"))
            .status()
            .unwrap();
        assert!(done.success(), "Playwright, half {half}: {done}");
    };
    std::thread::scope(|scope| {
        let halves = [1, 2].map(|n| scope.spawn(move || half(n)));
        let failed: Vec<_> = halves.into_iter().filter_map(|h| h.join().err()).collect();
        assert!(failed.is_empty(), "see above");
    });
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
    // What every answer says, a page that was opened before the server was brought up to date compares with itself.
    let said = get("/api/live").await.unwrap().headers()["x-owl-build"].to_str().unwrap().to_owned();
    assert!(script.ends_with(&format!("/{said}")), "{script}, {said}");
    let file = get(script).await.unwrap();
    assert_eq!(file.headers()["cache-control"], "public, max-age=31536000, immutable");
    assert_eq!(file.headers()["content-encoding"], "gzip");
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
    let new = serde_json::json!({"name": "Storm set", "source": "battery", "devices": "valves", "school": "test first"});
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
        assert_eq!(part["reads"]["value"], f64::from(1700 + n));
    }
}

/// A run at the bench while the database is away for twenty seconds, and after the server got a SIGKILL while it fed
/// and while it emptied: no reading is missing, and nobody is told that it is safe.
#[tokio::test]
async fn a_run_outlives_the_database_and_never_says_safe_after_a_kill() {
    let cluster = tokio::task::spawn_blocking(|| Cluster::start("reform")).await.unwrap();
    load_demo(&cluster.url);
    let mut program = Program::serve(&cluster.url, "127.0.0.1:0");
    let client = reqwest::Client::new();
    let get = async |url: &str, path: &str| -> serde_json::Value {
        client.get(format!("{url}{path}")).send().await.unwrap().json().await.unwrap()
    };
    let until = async |url: &str, path: &str, what: &dyn Fn(&serde_json::Value) -> bool| {
        for _ in 0..200 {
            let run = get(url, path).await;
            if what(&run) {
                return run;
            }
            tokio::time::sleep(std::time::Duration::from_millis(150)).await;
        }
        panic!("it never came: {}", get(url, path).await)
    };
    let desk = get(&program.url, "/api/reform/desk").await;
    let run = format!("/api/reform/runs/{}", desk["queue"][0]["id"].as_str().unwrap());
    let record = format!("{run}/record.json");
    let begun = until(&program.url, &run, &|r| r["phase"] == "feeding").await;
    let script = |what: &str, more: &str| {
        let done =
            Command::new(root().join("scripts/cluster.sh")).arg(what).arg(&cluster.dir).arg(more).output();
        assert!(done.unwrap().status.success());
    };
    script("stop", "--now");
    tokio::time::sleep(std::time::Duration::from_secs(20)).await;
    script("start", "--throw-away");
    let far = begun["at_s"].as_f64().unwrap() + 210.0;
    let back = until(&program.url, &run, &|r| r["at_s"].as_f64().is_some_and(|t| t > far)).await;
    assert_eq!(back["phase"], "feeding", "it went on: {back}");
    let times = |record: &serde_json::Value| -> Vec<f64> {
        record["samples"].as_array().unwrap().iter().map(|s| s["at_s"].as_f64().unwrap()).collect()
    };
    let seen = times(&get(&program.url, &record).await);
    assert!(seen.windows(2).all(|w| w[1] - w[0] < 1.5), "a reading is missing");

    program.kill();
    let mut program = Program::serve(&cluster.url, "127.0.0.1:0");
    let first = get(&program.url, &run).await;
    assert_eq!(first["touch"]["safe"], false);
    let stopped = until(&program.url, &run, &|r| r["ending"] == "interrupted").await;
    assert_eq!(
        (&stopped["touch"]["safe"], &stopped["ordered"]),
        (&serde_json::json!(false), &serde_json::Value::Null)
    );
    let kept = times(&get(&program.url, &record).await);
    assert!(kept.starts_with(&seen), "what was stored is there");

    // While it empties.
    let discharge = serde_json::json!({"command": "discharge"});
    let slow = serde_json::json!({"command": "speed", "speed": 1});
    for command in [slow, discharge.clone()] {
        client.post(format!("{}{run}/command", program.url)).json(&command).send().await.unwrap();
    }
    program.kill();
    let program = Program::serve(&cluster.url, "127.0.0.1:0");
    let may_be =
        |r: &serde_json::Value| r["sentence"].as_str().is_some_and(|s| s.contains("It may be charged"));
    let stopped = until(&program.url, &run, &|r| may_be(r) && r["adrift"] == false).await;
    assert_eq!(stopped["touch"]["safe"], false);
    client.post(format!("{}{run}/command", program.url)).json(&discharge).send().await.unwrap();
    let over = until(&program.url, &run, &|r| r["phase"] == "over").await;
    assert_eq!(
        (&over["touch"]["safe"], &over["ending"]),
        (&serde_json::json!(true), &serde_json::json!("interrupted"))
    );
}
