//! Several hands at once, and a database that goes away.

use std::process::Command;
use std::time::{Duration, Instant};

use serde_json::{Value, json};
use uuid::Uuid;

use restless_owl::error::ApiError;

use crate::support::{Cluster, Server, part, root};

#[tokio::test]
async fn one_part_is_added_once_by_many_hands() {
    let s = Server::empty().await;
    let t = s.ticket(&[]).await;
    let path = format!("/api/tickets/{}/say", t["id"].as_str().unwrap());
    let all = (0..12).map(|_| s.post(&path, json!({"text": "R5 270 10%", "key": Uuid::new_v4()})));
    let answers = join_all(all).await;
    let taken = answers.iter().filter(|(status, _)| *status == 200).count();
    assert_eq!(taken, 1, "{answers:?}");
    assert!(
        answers.iter().all(|(status, _)| [200, 422].contains(status)),
        "a change needs the version that was seen"
    );
    let (_, now) = s.whole(&format!("/api/tickets/{}", t["id"].as_str().unwrap())).await;
    assert_eq!(now["parts"].as_array().unwrap().len(), 1);
}

#[tokio::test]
async fn no_reading_of_many_is_lost() {
    let s = Server::empty().await;
    let t = s.ticket(&["R5 270 10%"]).await;
    let path = format!("/api/tickets/{}/say", t["id"].as_str().unwrap());
    // A bench that is too busy says 503, and the same is sent again, as the page does.
    let insist = async |n: i32| {
        let body = json!({"text": format!("R5 = {}", 260 + n), "key": Uuid::new_v4()});
        loop {
            match s.post(&path, body.clone()).await {
                (503, _) => tokio::time::sleep(Duration::from_millis(100)).await,
                other => break other,
            }
        }
    };
    let answers = join_all((0..20).map(&insist)).await;
    assert!(answers.iter().all(|(status, _)| *status == 200), "{answers:?}");
    let (_, now) = s.whole(&format!("/api/tickets/{}", t["id"].as_str().unwrap())).await;
    let mut values: Vec<f64> = part(&now, "R5")["readings"]
        .as_array()
        .unwrap()
        .iter()
        .map(|r| r["measured"]["value"].as_f64().unwrap())
        .collect();
    values.sort_by(f64::total_cmp);
    assert_eq!(values, (0..20).map(|n| f64::from(260 + n)).collect::<Vec<_>>());
}

#[tokio::test]
async fn of_two_decisions_on_the_same_view_one_is_taken() {
    let s = Server::empty().await;
    let t = s.ticket(&["R5 270 10% = 350 lifted"]).await;
    let p = part(&t, "R5");
    let path = format!("/api/parts/{}/decisions", p["id"].as_str().unwrap());
    let decide =
        |call: &str| json!({"key": Uuid::new_v4(), "version": p["version"], "decided": call, "why": "so"});
    let answers = join_all(["replace", "keep", "watch", "replace"].map(|c| s.post(&path, decide(c)))).await;
    assert_eq!(answers.iter().filter(|(status, _)| *status == 201).count(), 1, "{answers:?}");
    assert_eq!(answers.iter().filter(|(status, _)| *status == 409).count(), 3);
}

#[tokio::test]
async fn a_pair_is_both_ways_and_parts_cleanly() {
    let s = Server::empty().await;
    let t = s.ticket(&["R5 270 10%", "R6 270 10%", "R7 270 10%", "R5 pair R6"]).await;
    assert_eq!(
        (&part(&t, "R5")["pair"]["name"], &part(&t, "R6")["pair"]["name"]),
        (&json!("R6"), &json!("R5"))
    );
    let id = t["id"].as_str().unwrap();
    assert_eq!(s.say(id, "R7 pair R6").await.0, 200);
    let (_, now) = s.whole(&format!("/api/tickets/{id}")).await;
    assert!(part(&now, "R5")["pair"].is_null());
    assert_eq!(part(&now, "R6")["pair"]["name"], "R7");
    // Judged together: the one further off goes.
    for text in ["R6 = 268 lifted", "R7 = 285 lifted"] {
        s.say(id, text).await;
    }
    let (_, now) = s.whole(&format!("/api/tickets/{id}")).await;
    assert_eq!(part(&now, "R7")["judgement"]["verdict"], "replace");
    assert_eq!(part(&now, "R6")["judgement"]["verdict"], "keep");
}

#[tokio::test]
async fn without_a_database_it_says_so_soon_and_comes_back_by_itself() {
    let cluster = tokio::task::spawn_blocking(|| Cluster::start("away")).await.unwrap();
    let s = Server::on(&cluster.url).await;
    let t = s.ticket(&["R5 270 10%"]).await;
    let path = format!("/api/tickets/{}", t["id"].as_str().unwrap());
    let cluster_script = |command: &str, option: &str| {
        let mut c = Command::new(root().join("scripts/cluster.sh"));
        c.arg(command).arg(&cluster.dir).arg(option);
        tokio::task::spawn_blocking(move || assert!(c.output().unwrap().status.success()))
    };
    cluster_script("stop", "--now").await.unwrap();
    let asked = Instant::now();
    let response = s.client.get(format!("{}{path}", s.url)).send().await.unwrap();
    assert_eq!(response.status(), 503);
    assert!(
        asked.elapsed() < Duration::from_secs(20),
        "the page waits for nobody that long: {:?}",
        asked.elapsed()
    );
    assert_eq!(response.headers()["retry-after"], "2");
    assert_eq!(s.at_once().get("/api/health").await.0, 503);
    let (status, problem) = s.post("/api/decode", json!({"text": "2k2"})).await;
    assert_eq!(status, 200, "what needs no database goes on: {problem}");
    cluster_script("start", "--throw-away").await.unwrap();
    let (status, now) = s.get(&path).await;
    assert_eq!(status, 200, "{now}");
    assert_eq!(part(&now, "R5")["marked"]["value"], 270.0);
}

#[tokio::test]
async fn the_same_types_brought_by_several_at_once_wait_for_each_other() {
    let s = Server::empty().await;
    let file = |from: usize| {
        let mut rows: Vec<String> =
            (0..3000).map(|i| format!("Z{i},bipolar,npn,{} V", 10 + (i + from) % 50)).collect();
        // Each in another order.
        if from % 2 == 1 {
            rows.reverse();
        }
        format!("type,kind,polarity,vceo\n{}\n", rows.join("\n"))
    };
    let path = format!("{}/api/transistors/types/import", s.url);
    let all = join_all((0..6).map(|from| {
        let request = s.client.post(&path).header("content-type", "text/csv").body(file(from));
        let s = s.clone();
        async move {
            let answer = s.patiently(request).await;
            (answer.status().as_u16(), answer.json::<Value>().await.unwrap())
        }
    }))
    .await;
    assert!(all.iter().all(|(status, _)| *status == 200), "{all:?}");
    let added: u64 = all.iter().map(|(_, a)| a["added"].as_u64().unwrap()).sum();
    assert_eq!(added, 3000);
    let (_, list) = s.get("/api/transistors/types?own=true").await;
    assert_eq!(list["own"], 3000);
}

async fn join_all<F>(all: impl IntoIterator<Item = F>) -> Vec<(u16, Value)>
where
    F: std::future::Future<Output = (u16, Value)>,
{
    let mut pending: Vec<_> = all.into_iter().map(Box::pin).collect();
    let mut done: Vec<Option<(u16, Value)>> = pending.iter().map(|_| None).collect();
    std::future::poll_fn(|cx| {
        for (f, slot) in pending.iter_mut().zip(&mut done).filter(|(_, slot)| slot.is_none()) {
            if let std::task::Poll::Ready(answer) = f.as_mut().poll(cx) {
                *slot = Some(answer);
            }
        }
        if done.iter().all(Option::is_some) { std::task::Poll::Ready(()) } else { std::task::Poll::Pending }
    })
    .await;
    done.into_iter().flatten().collect()
}

/// A request that ends while it begins a transaction (its page is closed, the answer is not waited for) leaves no connection
/// in it: what the next one writes is kept.
#[tokio::test]
async fn no_connection_comes_back_in_a_transaction() {
    use sqlx::{Connection, Executor};
    let s = Server::empty().await;
    for begin in ["begin", "begin read only"] {
        // More than the pool has, so that each of them has been left so.
        for _ in 0..40 {
            let mut connection = s.pool.acquire().await.unwrap();
            connection.execute(begin).await.unwrap();
        }
        let ticket = s.ticket(&["R1 1k"]).await;
        let id = ticket["id"].as_str().unwrap();
        assert_eq!(s.say(id, "R1 = 1.02k").await.0, 200);
    }
    s.pool.close().await;
    let kept: i64 = {
        let mut other = sqlx::PgConnection::connect_with(&s.pool.connect_options()).await.unwrap();
        sqlx::query_scalar("select count(*) from reading").fetch_one(&mut other).await.unwrap()
    };
    assert_eq!(kept, 2);
}

/// What passes by itself is answered so that the page tries again: a connection that the database cut because its clock
/// jumped, a node that follows another one now.
#[tokio::test]
async fn what_passes_is_said_to_pass() {
    let s = Server::empty().await;
    let failed = async |first: &str, then: &'static str, wait: u64| {
        let mut tx = s.pool.begin_with(sqlx::AssertSqlSafe(first.to_owned())).await.unwrap();
        tokio::time::sleep(Duration::from_millis(wait)).await;
        let e = sqlx::query(then).execute(&mut *tx).await.unwrap_err();
        ApiError::from_database(&e)
    };
    let cut = "begin; set local idle_in_transaction_session_timeout = 30";
    assert!(matches!(failed(cut, "select 1", 300).await, ApiError::Database));
    let follows = failed("begin read only", "delete from policy", 0).await;
    assert!(matches!(follows, ApiError::Database), "{follows}");
}

/// With four connections for all of them: nobody who holds one asks for a second, and nothing outlives its transaction.
#[tokio::test]
async fn thirty_hands_work_through_a_pooler_in_transaction_mode() {
    let s = Server::behind_a_pooler().await;
    let tickets = join_all((0..30).map(|i| {
        let s = s.clone();
        async move {
            let mark = format!("R{i} {}k 5% plate load", 10 + i);
            let t = s.ticket(&[&mark, &format!("R{i} = {}k lifted", 11 + i)]).await;
            let path = format!("/api/tickets/{}", t["id"].as_str().unwrap());
            let fit = json!({"key": Uuid::new_v4(), "version": part(&t, &format!("R{i}"))["version"], "confirmed": true,
                             "description": format!("{}k 1W metal film", 10 + i), "despite": "as the sheet has it",
                             "over_open": "as the sheet has it"});
            let id = part(&t, &format!("R{i}"))["id"].as_str().unwrap().to_owned();
            let (status, fitted) = s.post(&format!("/api/parts/{id}/fittings"), fit).await;
            assert_eq!(status, 201, "{fitted}");
            assert_eq!(s.get(&format!("{path}/plan")).await.0, 200);
            s.whole(&path).await
        }
    }))
    .await;
    for (i, (_, t)) in tickets.iter().enumerate() {
        let part = part(t, &format!("R{i}"));
        assert_eq!(
            part["readings"][0]["measured"]["value"].as_f64(),
            Some(1000.0 * (11 + i) as f64),
            "{part}"
        );
    }
}
