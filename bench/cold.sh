#!/usr/bin/env bash
# How long a newcomer waits for a first build, beside a bare server of the same parts: Axum, SQLx with checked queries for
# PostgreSQL, utoipa, Tokio. Both are built from nothing, one after the other, with the libraries fetched already; prints
# both and how many times the one is of the other. Aim: below 1.3.
set -euo pipefail
cd "$(dirname "$0")/.."
work=$(mktemp -d "${TMPDIR:-/var/tmp}/owl-cold.XXXXXX")
trap 'rm -rf "$work"' EXIT
cargo fetch --locked --quiet

# The bare server, of the versions that are locked here.
version() { awk -v n="$1" '$1 == "name" && $3 == "\"" n "\"" { getline; gsub(/"/, "", $3); print $3; exit }' Cargo.lock; }
mkdir -p "$work/bare/src"
cp Cargo.lock "$work/bare/"
cat >"$work/bare/Cargo.toml" <<TOML
[package]
name = "bare"
version = "0.0.0"
edition = "2024"
[dependencies]
axum = "=$(version axum)"
serde = { version = "1", features = ["derive"] }
serde_json = "1"
sqlx = { version = "=$(version sqlx)", default-features = false, features = ["postgres", "runtime-tokio", "migrate", "macros", "uuid", "time", "json"] }
time = { version = "0.3", features = ["serde", "formatting", "parsing"] }
tokio = { version = "1", features = ["macros", "net", "rt-multi-thread", "signal"] }
tower-http = { version = "=$(version tower-http)", features = ["trace"] }
tracing-subscriber = "0.3"
utoipa = { version = "=$(version utoipa)", features = ["time", "uuid"] }
utoipa-axum = "=$(version utoipa-axum)"
uuid = { version = "1", features = ["v4", "serde"] }
TOML
cat >"$work/bare/src/main.rs" <<'RUST'
use axum::{Json, extract::State};
use serde::Serialize;
use sqlx::PgPool;
use utoipa::ToSchema;
use utoipa_axum::{router::OpenApiRouter, routes};

#[derive(Serialize, ToSchema, sqlx::FromRow)]
struct Row {
    id: uuid::Uuid,
    name: String,
    made: time::OffsetDateTime,
}

#[utoipa::path(get, path = "/rows", responses((status = 200, body = [Row])))]
async fn rows(State(pool): State<PgPool>) -> Json<Vec<Row>> {
    Json(sqlx::query_as("select id, name, made from row").fetch_all(&pool).await.unwrap_or_default())
}

#[tokio::main]
async fn main() {
    tracing_subscriber::fmt().init();
    let pool = PgPool::connect_lazy("postgres://localhost/x").expect("an address");
    let (router, api) = OpenApiRouter::new().routes(routes!(rows)).split_for_parts();
    println!("{}", api.to_json().expect("a document"));
    let router = router.with_state(pool).layer(tower_http::trace::TraceLayer::new_for_http());
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.expect("a port");
    axum::serve(listener, router).await.expect("to serve");
}
RUST
seconds() { local from; from=$(date +%s); "$@" >"$work/log" 2>&1 || { tail -n 20 "$work/log" >&2; exit 1; }; echo $(($(date +%s) - from)); }
bare=$(cd "$work/bare" && CARGO_TARGET_DIR=$work/t1 seconds cargo build --release --offline)
echo "a bare server: $bare s"
rm -rf "$work/t1" web/dist
ours=$(CARGO_TARGET_DIR=$work/t2 seconds scripts/build.sh)
echo "this one, front end and all: $ours s"
awk -v a="$ours" -v b="$bare" 'BEGIN { printf "%.2f times\n", a / b }'
