//! A database of an earlier release is brought up to date without losing what is in it.

use serde_json::json;
use sqlx::{Connection, PgConnection};

use crate::support::{Server, database, part};

const BENCH: &str = include_str!("../../migrations/0001_bench.sql");

/// What an earlier release wrote: a resistor with all its history.
const ROWS: &str = "
    insert into ticket (id, name, class, school) values
        ('00000000-0000-0000-0000-000000000001', 'Old ledger set', 'isolated', 'test first');
    insert into part (id, ticket_id, name, family, position, sheet_ohm, marked_ohm, tolerance, watts, marking, colours) values
        ('00000000-0000-0000-0000-000000000002', '00000000-0000-0000-0000-000000000001', 'R7', 'wirewound', 'feed',
         1800, 1800, 0.05, 5, '1K8J', '{}');
    insert into reading (id, part_id, ohm, overrange, state, hot, mode, typed) values
        ('00000000-0000-0000-0000-000000000003', '00000000-0000-0000-0000-000000000002', 1820, false, 'lifted', false, 'dc', '1.82k');
    update part set note = 'on stand-offs' where name = 'R7';
    insert into part (id, ticket_id, name, family, marked_ohm, tolerance) values
        ('00000000-0000-0000-0000-000000000004', '00000000-0000-0000-0000-000000000001', 'R8', 'carbon film', 470, 0.05),
        ('00000000-0000-0000-0000-000000000005', '00000000-0000-0000-0000-000000000001', 'R9', 'carbon film', 470, 0.05);
    update part set pair_id = case name when 'R8' then '00000000-0000-0000-0000-000000000005'::uuid
                                        else '00000000-0000-0000-0000-000000000004'::uuid end where name in ('R8', 'R9');
    insert into instrument (id, name, mode, of_reading, counts, display, finest_ohm, ceiling_ohm) values
        ('00000000-0000-0000-0000-000000000006', 'Old meter', 'dc', 0.008, 2, 2000, 0.1, 20e6);";

#[tokio::test]
async fn an_earlier_bench_is_kept() {
    let url = database().await;
    let mut db = PgConnection::connect(&url).await.unwrap();
    let mut migrator = sqlx::migrate!();
    // As far as the earlier release went.
    let first: Vec<_> = migrator.migrations.iter().take(1).cloned().collect();
    assert!(first[0].sql.as_str() == BENCH);
    migrator.migrations = first.into();
    migrator.run(&mut db).await.unwrap();
    sqlx::raw_sql(ROWS).execute(&mut db).await.unwrap();
    db.close().await.unwrap();

    let s = Server::on(&url).await;
    let (status, t) = s.whole("/api/tickets/00000000-0000-0000-0000-000000000001").await;
    assert_eq!(status, 200, "{t}");
    let r7 = part(&t, "R7");
    assert_eq!(
        (r7["kind"].as_str(), r7["family"].as_str(), r7["position"].as_str()),
        (Some("resistor"), Some("wirewound"), Some("feed"))
    );
    assert_eq!((r7["sheet"]["value"].as_f64(), r7["marked"]["value"].as_f64()), (Some(1800.0), Some(1800.0)));
    assert_eq!((r7["version"].as_i64(), r7["note"].as_str()), (Some(2), Some("on stand-offs")));
    assert_eq!(r7["readings"][0]["measured"]["value"], 1820.0);
    assert_eq!(r7["judgement"]["verdict"], "keep");
    assert!(r7["mark"].is_null() && r7["disagreement"].is_null());
    // A pair is a group of two, and one accuracy became a way with the ranges that the meter picked itself.
    assert_eq!(part(&t, "R8")["pair"]["name"], "R9");
    assert_eq!(part(&t, "R9")["group"][0]["name"], "R8");
    let (_, instruments) = s.get("/api/instruments").await;
    let ranges = instruments[0]["ways"][0]["ranges"].as_array().unwrap();
    assert_eq!((instruments[0]["kind"].as_str(), ranges.len()), (Some("multimeter"), 6), "{instruments}");
    assert_eq!((ranges[0]["up_to"].as_str(), ranges[5]["up_to"].as_str()), (Some("200 Ω"), Some("20 MΩ")));
    s.say("00000000-0000-0000-0000-000000000001", "R8 = 471 lifted").await;
    let (_, t) = s.whole("/api/tickets/00000000-0000-0000-0000-000000000001").await;
    // 0.8 % of 471 Ω and two counts of an ohm.
    assert_eq!(part(&t, "R8")["readings"][0]["accuracy"], "±5.8 Ω");
    // What was written under the old names is still told to whoever comes late.
    let path = "/api/parts/00000000-0000-0000-0000-000000000002";
    let (status, late) = s.patch(path, json!({"version": 1, "place": "by the choke"})).await;
    assert_eq!(status, 409, "{late}");
    assert!(late["changed"].as_array().unwrap().iter().any(|c| c["field"] == "note"), "{late}");
    assert_eq!(s.patch(path, json!({"version": 2, "sheet": "1.8k", "place": "by the choke"})).await.0, 200);
}

#[tokio::test]
async fn servers_that_start_at_once_bring_a_database_up_to_date_once() {
    let url = database().await;
    let pools: Vec<_> = (0..4)
        .map(|_| restless_owl::database::pool(&url, restless_owl::database::COMMAND).unwrap())
        .collect();
    let all = pools.iter().map(|p| {
        let p = p.clone();
        tokio::spawn(async move { restless_owl::serve::migrate(&p).await })
    });
    for one in all.collect::<Vec<_>>() {
        one.await.unwrap().unwrap();
    }
    let (steps, failed): (i64, i64) =
        sqlx::query_as("select count(*), count(*) filter (where not success) from _sqlx_migrations")
            .fetch_one(&pools[0])
            .await
            .unwrap();
    assert_eq!((steps, failed), (sqlx::migrate!().iter().count() as i64, 0));
}
