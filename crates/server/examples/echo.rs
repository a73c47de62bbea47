//! A bare server that gives back the JSON it is sent: what the measurements of `bench/ratios.sh` are held against.

use axum::routing::post;
use axum::{Json, Router};
use serde_json::Value;

#[tokio::main]
async fn main() -> anyhow::Result<()> {
    let router = Router::new().route("/echo", post(async |Json(value): Json<Value>| Json(value)));
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await?;
    println!("http://{}", listener.local_addr()?);
    axum::serve(listener, router).await?;
    Ok(())
}
