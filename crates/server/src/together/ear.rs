//! Hears what the database tells. A connection of its own; what it may have missed while it was broken is owned up to.

use std::sync::Arc;
use std::time::{Duration, Instant};

use sqlx::PgPool;
use sqlx::postgres::PgListener;
use tokio::sync::watch;

use super::hub::{Hub, Word};
use crate::database::Database;
use crate::table::here;

/// Where it is told.
pub const CHANNEL: &str = "owl";
/// How often a server says that it is there.
const BEAT: Duration = Duration::from_secs(5);
/// Without its own heartbeat for so long it is deaf: behind something that lets nothing through.
const DEAF: Duration = Duration::from_secs(16);

/// Listens until told to stop. `listening` reaches the database directly, `db` perhaps through something that does not
/// hand on what is told.
pub async fn listen(listening: PgPool, db: Database, hub: Arc<Hub>, mut stop: watch::Receiver<bool>) {
    tokio::select! {
        () = hear(&listening, &hub) => {}
        () = beat(&db, &hub) => {}
        _ = stop.changed() => {}
    }
    // Those who were here have left, as far as this server knows.
    let _away = here::leave_server(&db, hub.server).await;
}

async fn hear(listening: &PgPool, hub: &Hub) {
    loop {
        if let Ok(mut listener) = PgListener::connect_with(listening).await
            && listener.listen(CHANNEL).await.is_ok()
        {
            // Nobody knows what was told before.
            hub.missed();
            while let Ok(Some(told)) = listener.try_recv().await {
                if let Ok(word) = told.payload().parse() {
                    hub.hear(word);
                }
            }
        }
        tokio::time::sleep(Duration::from_millis(500)).await;
    }
}

/// Says that the server is there, for its pages too; whoever has not been heard of for long is taken for gone.
async fn beat(db: &Database, hub: &Hub) {
    let (_, mut told) = hub.since(None);
    let mut heard = Instant::now();
    let mut turn = tokio::time::interval(BEAT);
    turn.set_missed_tick_behavior(tokio::time::MissedTickBehavior::Delay);
    loop {
        tokio::select! {
            _ = turn.tick() => {
                if hub.pages() == 0 {
                    heard = Instant::now();
                    continue;
                }
                let _away = here::beat(db, hub.server).await;
                if heard.elapsed() > DEAF {
                    tracing::warn!("nothing is heard from the database: the pages look at everything every few seconds");
                    hub.missed();
                }
            }
            word = told.recv() => {
                if matches!(word, Ok((_, Word::Beat(server))) if server == hub.server) {
                    heard = Instant::now();
                }
            }
        }
    }
}
