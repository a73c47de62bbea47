//! The program from outside: its sub-commands, what it says when something is missing, and the
//! private cluster that the two commands start for it.
#![allow(clippy::unwrap_used, clippy::panic, missing_docs)]

mod support;

use std::io::{BufRead, BufReader};
use std::net::TcpListener;
use std::process::{Command, Output, Stdio};

use support::{Cluster, root};

fn owl(arguments: &[&str], database: Option<&str>) -> Output {
    let mut c = Command::new(env!("CARGO_BIN_EXE_restless-owl"));
    c.args(arguments).env_remove("OWL_DATABASE_URL").env("RUST_LOG", "warn");
    if let Some(url) = database {
        c.env("OWL_DATABASE_URL", url);
    }
    c.output().unwrap()
}

fn said(o: &Output) -> String {
    format!("{}{}", String::from_utf8_lossy(&o.stdout), String::from_utf8_lossy(&o.stderr))
}

#[test]
fn help_explains_itself() {
    let all = owl(&["--help"], None);
    assert!(all.status.success());
    for word in ["serve", "migrate", "demo", "bench", "backup", "restore", "check", "openapi", "OWL_LOG"] {
        assert!(said(&all).contains(word), "{word}");
    }
    let serve = said(&owl(&["serve", "--help"], None));
    for word in ["OWL_DATABASE_URL", "OWL_LISTEN", "127.0.0.1:8750", "OWL_ALLOW_HOST"] {
        assert!(serve.contains(word), "{word}");
    }
    assert!(!owl(&["dance"], None).status.success());
}

#[test]
fn what_is_missing_is_said_in_one_sentence() {
    let no_url = owl(&["serve"], None);
    assert!(!no_url.status.success() && said(&no_url).contains("--database-url"));
    let no_sense = owl(&["migrate"], Some("this is no url"));
    assert!(said(&no_sense).contains("the database URL cannot be read"), "{}", said(&no_sense));
    let nobody = owl(&["migrate"], Some("postgres://owl:x@127.0.0.1:1/owl"));
    assert!(!nobody.status.success());
    assert_eq!(said(&nobody).trim().lines().count(), 1, "{}", said(&nobody));
    assert!(!said(&nobody).contains("x@"), "the password is not shown");
}

#[test]
fn the_openapi_document_is_printed() {
    let out = owl(&["openapi"], None);
    let document: serde_json::Value = serde_json::from_slice(&out.stdout).unwrap();
    assert!(
        document["paths"]["/api/decode"]["post"]["responses"]["422"]["content"]["application/problem+json"]
            .is_object()
    );
}

#[test]
fn a_taken_port_migrating_twice_and_stopping() {
    let cluster = Cluster::start("program");
    for _ in 0..2 {
        let done = owl(&["migrate"], Some(&cluster.url));
        assert!(done.status.success(), "{}", said(&done));
    }
    let taken = TcpListener::bind("127.0.0.1:0").unwrap();
    let port = taken.local_addr().unwrap().port();
    let refused = owl(&["serve", "--listen", &format!("127.0.0.1:{port}")], Some(&cluster.url));
    assert_eq!(refused.status.code(), Some(1));
    assert!(said(&refused).contains(&format!("port {port} is taken")), "{}", said(&refused));
    assert_eq!(said(&refused).trim().lines().count(), 1);

    let mut child = Command::new(env!("CARGO_BIN_EXE_restless-owl"))
        .args(["--log", "json", "serve", "--listen", "127.0.0.1:0"])
        .env("OWL_DATABASE_URL", &cluster.url)
        .env("RUST_LOG", "info")
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    let mut line = String::new();
    BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
    assert!(line.contains("stop it with Ctrl-C"), "{line}");
    Command::new("kill").args(["-TERM", &child.id().to_string()]).status().unwrap();
    let end = child.wait_with_output().unwrap();
    assert!(end.status.success(), "a clean end");
    for line in String::from_utf8_lossy(&end.stderr).lines() {
        let entry: serde_json::Value = serde_json::from_str(line).unwrap_or_else(|e| panic!("{e}: {line}"));
        assert!(entry["level"].is_string());
    }
}

/// Starts a server and waits for what it says first; what it says after that is dropped.
fn serving(database: &str, arguments: &[&str]) -> (std::process::Child, String) {
    let mut child = Command::new(env!("CARGO_BIN_EXE_restless-owl"))
        .arg("serve")
        .args(arguments)
        .env("OWL_DATABASE_URL", database)
        .stdout(Stdio::piped())
        .stderr(Stdio::null())
        .spawn()
        .unwrap();
    let mut line = String::new();
    BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
    (child, line)
}

fn stop(mut child: std::process::Child) -> bool {
    Command::new("kill").args(["-TERM", &child.id().to_string()]).status().unwrap();
    child.wait().unwrap().success()
}

#[test]
fn beyond_this_machine_it_does_not_start_without_accounts_and_says_all_that_is_missing() {
    let refused = owl(&["serve", "--listen", "0.0.0.0:0"], Some("postgres://owl:x@127.0.0.1:1/owl"));
    assert_eq!(refused.status.code(), Some(1));
    for word in ["--accounts", "--tls-certificate", "--allow-host"] {
        assert!(said(&refused).contains(word), "{word}: {}", said(&refused));
    }
    let odd = Command::new(env!("CARGO_BIN_EXE_restless-owl"))
        .args(["serve", "--database-url", "postgres://owl@127.0.0.1:1/owl"])
        .env("OWL_ACOUNTS", "true")
        .output()
        .unwrap();
    assert!(
        said(&odd).contains("OWL_ACOUNTS is no setting; perhaps OWL_ACCOUNTS was meant"),
        "{}",
        said(&odd)
    );
}

#[test]
fn a_server_waits_for_a_database_that_starts_beside_it() {
    let cluster = Cluster::start("late");
    let script = |arguments: &[&str]| {
        assert!(
            Command::new(root().join("scripts/cluster.sh"))
                .args(arguments)
                .output()
                .unwrap()
                .status
                .success()
        );
    };
    let dir = cluster.dir.to_str().unwrap().to_owned();
    script(&["stop", &dir, "--now"]);
    let url = cluster.url.clone();
    let started = std::thread::spawn(move || serving(&url, &["--listen", "127.0.0.1:0"]));
    std::thread::sleep(std::time::Duration::from_millis(1500));
    script(&["start", &dir, "--throw-away"]);
    let (child, line) = started.join().unwrap();
    assert!(line.contains("stop it with Ctrl-C"), "{line}");
    assert!(stop(child));
}

#[tokio::test]
async fn it_serves_encrypted_with_its_own_certificate_and_prints_the_owners_link() {
    use std::sync::Arc;
    use tokio::io::{AsyncReadExt, AsyncWriteExt};
    use tokio_rustls::rustls::{ClientConfig, RootCertStore, pki_types::ServerName};

    let cluster = tokio::task::spawn_blocking(|| Cluster::start("tls")).await.unwrap();
    let dir = tempfile::tempdir().unwrap();
    let made = rcgen::generate_simple_self_signed(vec!["localhost".to_owned()]).unwrap();
    let (certificate, key) = (dir.path().join("certificate.pem"), dir.path().join("key.pem"));
    std::fs::write(&certificate, made.cert.pem()).unwrap();
    std::fs::write(&key, made.signing_key.serialize_pem()).unwrap();
    let files = [certificate.to_str().unwrap(), key.to_str().unwrap()];
    let (child, line) = serving(
        &cluster.url,
        &["--listen", "127.0.0.1:0", "--accounts", "--tls-certificate", files[0], "--tls-key", files[1]],
    );
    let at = line.split("https://").nth(1).unwrap().split(' ').next().unwrap().to_owned();
    let mut roots = RootCertStore::empty();
    roots.add(made.cert.der().clone()).unwrap();
    let client = ClientConfig::builder().with_root_certificates(roots).with_no_client_auth();
    let stream = tokio::net::TcpStream::connect(&at).await.unwrap();
    let name = ServerName::try_from("localhost").unwrap();
    let mut stream = tokio_rustls::TlsConnector::from(Arc::new(client)).connect(name, stream).await.unwrap();
    let ask = format!("GET /api/tickets HTTP/1.1\r\nhost: {at}\r\nconnection: close\r\n\r\n");
    stream.write_all(ask.as_bytes()).await.unwrap();
    let mut answer = Vec::new();
    let _closed = stream.read_to_end(&mut answer).await;
    let answer = String::from_utf8_lossy(&answer).to_lowercase();
    assert!(answer.starts_with("http/1.1 401") && answer.contains("strict-transport-security"), "{answer}");
    // A workshop that has people asks who it is, however it is started.
    let owner = restless_owl::people::secret::of_password("tern kettle slate".to_owned()).await.unwrap();
    let pool = restless_owl::database::pool(&cluster.url, restless_owl::database::COMMAND).unwrap();
    sqlx::query(
        "insert into person (id, name, role, password) values (gen_random_uuid(), 'Sunniva Ek', 'owner', $1)",
    )
    .bind(owner)
    .execute(&pool)
    .await
    .unwrap();
    let (alone, line) = serving(&cluster.url, &["--listen", "127.0.0.1:0"]);
    let url = line.split_whitespace().find(|w| w.starts_with("http://")).unwrap().to_owned();
    assert_eq!(reqwest::get(format!("{url}/api/tickets")).await.unwrap().status(), 401);
    assert!(tokio::task::spawn_blocking(|| stop(alone)).await.unwrap());
    sqlx::query("delete from person").execute(&pool).await.unwrap();
    // The link of the first owner, and none for somebody who is not there.
    let link = owl(&["link"], Some(&cluster.url));
    assert!(said(&link).trim().starts_with("/welcome#"), "{}", said(&link));
    assert!(said(&owl(&["link", "Nobody"], Some(&cluster.url))).contains("nobody called 'Nobody'"));
    assert!(tokio::task::spawn_blocking(|| stop(child)).await.unwrap());
}

#[test]
fn the_cluster_is_private_and_comes_back_where_it_was() {
    let cluster = Cluster::start("private");
    let script = |arguments: &[&str]| {
        let o = Command::new(root().join("scripts/cluster.sh")).args(arguments).output().unwrap();
        (o.status.success(), said(&o).trim().to_owned())
    };
    let dir = cluster.dir.to_str().unwrap();
    assert_eq!(
        script(&["start", dir, "--throw-away"]),
        (true, cluster.url.clone()),
        "started twice, one cluster"
    );
    assert!(cluster.url.contains("@127.0.0.1:"));
    let wrong = cluster.url.replace("postgres://owl:", "postgres://owl:0");
    let refused = owl(&["migrate"], Some(&wrong));
    assert!(said(&refused).contains("password"), "{}", said(&refused));
    assert!(script(&["stop", dir, "--now"]).0);
    assert!(script(&["stop", dir, "--now"]).0, "stopping twice does no harm");
    assert_eq!(script(&["start", dir, "--throw-away"]), (true, cluster.url.clone()), "on the port it had");
    assert!(!script(&["dance", dir]).0);
    assert!(!script(&[]).0);
}

#[test]
fn settings_stand_in_a_file_and_the_environment_counts_before_it() {
    let dir = tempfile::tempdir().unwrap();
    let file = dir.path().join("owl.conf");
    let asked = |text: &str, environment: &[(&str, &str)]| {
        std::fs::write(&file, text).unwrap();
        let mut c = Command::new(env!("CARGO_BIN_EXE_restless-owl"));
        c.arg("serve").env_remove("OWL_DATABASE_URL").env("OWL_CONFIG", &file);
        said(&c.envs(environment.iter().copied()).output().unwrap())
    };
    let usual = "# the workshop\nOWL_DATABASE_URL=postgres://owl:x@127.0.0.1:1/owl\nOWL_LISTEN=0.0.0.0:0\n";
    let refused = asked(usual, &[]);
    assert!(refused.contains("lets every neighbour in") && refused.contains("--allow-host"), "{refused}");
    let misspelt = asked(&format!("{usual}OWL_ACOUNTS=true\n"), &[]);
    assert!(
        misspelt.contains("OWL_ACOUNTS is no setting") && misspelt.contains("lets every neighbour in"),
        "{misspelt}"
    );
    let other = asked(usual, &[("OWL_LISTEN", "nowhere")]);
    assert!(other.contains("nowhere"), "{other}");
    let line = asked("OWL_LISTEN 0.0.0.0:0\n", &[]);
    assert!(line.contains("'OWL_LISTEN 0.0.0.0:0' is no setting"), "{line}");
    std::fs::remove_file(&file).unwrap();
    let gone = Command::new(env!("CARGO_BIN_EXE_restless-owl"))
        .arg("serve")
        .env("OWL_CONFIG", &file)
        .output()
        .unwrap();
    assert!(said(&gone).contains("cannot be read"), "{}", said(&gone));
}

#[test]
fn the_package_holds_what_a_server_needs_and_its_settings_hold_together() {
    let out = tempfile::tempdir().unwrap();
    let made = Command::new(root().join("scripts/deb.sh"))
        .arg(env!("CARGO_BIN_EXE_restless-owl"))
        .env("CARGO_TARGET_DIR", out.path())
        .output()
        .unwrap();
    assert!(made.status.success(), "{}", said(&made));
    let file = String::from_utf8(made.stdout).unwrap().trim().to_owned();
    let deb = |option: &str| said(&Command::new("dpkg-deb").args([option, &file]).output().unwrap());
    let contents = deb("--contents");
    for path in [
        "./usr/bin/restless-owl",
        "./lib/systemd/system/restless-owl.service",
        "./etc/restless-owl/restless-owl.conf",
        "./usr/share/man/man1/restless-owl.1.gz",
        "./usr/share/doc/restless-owl/copyright",
    ] {
        assert!(contents.lines().any(|l| l.ends_with(path) && l.contains("root/root")), "{path}: {contents}");
    }
    let info = deb("--info");
    assert!(info.contains("Recommends: postgresql, postgresql-client, age"), "{info}");
    // The settings that it brings are read, and ask for nothing but their database.
    let start = Command::new(env!("CARGO_BIN_EXE_restless-owl"))
        .args(["serve", "--backup-folder", out.path().to_str().unwrap(), "--listen", "127.0.0.1:0"])
        .args(["--database-url", "nowhere"])
        .env("OWL_CONFIG", root().join("packaging/restless-owl.conf"))
        .output()
        .unwrap();
    let start = said(&start);
    assert!(
        start.contains("the database URL cannot be read") && start.trim().lines().count() == 1,
        "{start}"
    );
    let manual = said(&owl(&["manual"], None));
    for word in [".TH restless", "backup", r"\-\-listen"] {
        assert!(manual.contains(word), "{word}: {manual}");
    }
}
