//! The database as handlers reach it: directly, or through a pooler that gives a connection for one transaction only.

use std::time::Duration;

use anyhow::Context;
use futures_util::future::BoxFuture;
use futures_util::stream::{self, BoxStream};
use futures_util::{FutureExt, StreamExt, TryFutureExt, TryStreamExt};
use sqlx::postgres::{PgConnectOptions, PgPoolOptions, PgQueryResult, PgRow, PgStatement, PgTypeInfo};
use sqlx::{AssertSqlSafe, Either, Execute, Executor, PgPool, PgTransaction, Postgres, SqlStr};

/// How long a page waits for the database before it hears that it is away.
pub const PAGE: Duration = Duration::from_millis(1500);
/// How long a command that runs once waits for it: on a loaded machine a new connection takes its time.
pub const COMMAND: Duration = Duration::from_secs(20);

/// Nothing holds the database longer than this, neither a statement nor a transaction that waits for its next one.
const LIMITS: [(&str, &str); 2] =
    [("statement_timeout", "15s"), ("idle_in_transaction_session_timeout", "30s")];

/// The database of this server. A statement of its own is asked as with a pool of SQLx.
#[derive(Debug, Clone)]
pub struct Database {
    pool: PgPool,
    /// A pooler in transaction mode stands between (`PgBouncer`): what belongs to one statement is kept together only inside a
    /// transaction, and nothing outlives it.
    pooler: bool,
}

impl Database {
    /// With nothing between.
    #[must_use]
    pub const fn direct(pool: PgPool) -> Self {
        Self { pool, pooler: false }
    }

    /// Behind a pooler in transaction mode.
    ///
    /// # Errors
    /// When the URL is none.
    pub fn behind_a_pooler(url: &str, patience: Duration) -> anyhow::Result<Self> {
        // A statement that was prepared is gone with its transaction: none is remembered. Poolers refuse options at the start;
        // each transaction says them itself.
        let options = options(url)?.statement_cache_capacity(0);
        Ok(Self { pool: pooled(options, patience), pooler: true })
    }

    /// Begins to write.
    ///
    /// # Errors
    /// When the database does not answer.
    pub async fn begin(&self) -> Result<PgTransaction<'static>, sqlx::Error> {
        self.begin_with("begin".to_owned()).await
    }

    /// Begins to look: all that is read is of one moment, and nothing can be written.
    ///
    /// # Errors
    /// When the database does not answer.
    pub async fn snapshot(&self) -> Result<PgTransaction<'static>, sqlx::Error> {
        self.begin_with("begin isolation level repeatable read read only".to_owned()).await
    }

    /// Begins with statements of its own, `begin` the first of them.
    ///
    /// # Errors
    /// When the database does not answer.
    pub async fn begin_with(&self, mut begin: String) -> Result<PgTransaction<'static>, sqlx::Error> {
        if self.pooler {
            for (what, most) in LIMITS {
                begin.push_str(&format!("; set local {what} = '{most}'"));
            }
        }
        self.pool.begin_with(AssertSqlSafe(begin)).await
    }

    /// How many connections there are, and how many of them are free.
    #[must_use]
    pub fn connections(&self) -> (u32, usize) {
        (self.pool.size(), self.pool.num_idle())
    }

    /// Ends all connections.
    pub async fn close(&self) {
        self.pool.close().await;
    }
}

impl<'c> Executor<'c> for &'c Database {
    type Database = Postgres;

    fn fetch_many<'e, 'q: 'e, E>(
        self,
        query: E,
    ) -> BoxStream<'e, Result<Either<PgQueryResult, PgRow>, sqlx::Error>>
    where
        'c: 'e,
        E: 'q + Execute<'q, Postgres>,
    {
        if !self.pooler {
            return self.pool.fetch_many(query);
        }
        let all = async move {
            let mut tx = self.begin().await?;
            let rows: Vec<_> = tx.fetch_many(query).try_collect().await?;
            tx.commit().await?;
            Ok(stream::iter(rows.into_iter().map(Ok)))
        };
        all.try_flatten_stream().boxed()
    }

    fn fetch_optional<'e, 'q: 'e, E>(self, query: E) -> BoxFuture<'e, Result<Option<PgRow>, sqlx::Error>>
    where
        'c: 'e,
        E: 'q + Execute<'q, Postgres>,
    {
        if !self.pooler {
            return self.pool.fetch_optional(query);
        }
        let one = async move {
            let mut tx = self.begin().await?;
            let row = tx.fetch_optional(query).await?;
            tx.commit().await?;
            Ok(row)
        };
        one.boxed()
    }

    fn prepare_with<'e>(
        self,
        sql: SqlStr,
        parameters: &'e [PgTypeInfo],
    ) -> BoxFuture<'e, Result<PgStatement, sqlx::Error>>
    where
        'c: 'e,
    {
        self.pool.prepare_with(sql, parameters)
    }

    fn describe<'e>(self, sql: SqlStr) -> BoxFuture<'e, Result<sqlx::Describe<Postgres>, sqlx::Error>>
    where
        'c: 'e,
    {
        self.pool.describe(sql)
    }
}

/// A pool that reaches the database directly and waits so long for a connection before it gives up.
///
/// # Errors
/// When the URL is none.
pub fn pool(url: &str, patience: Duration) -> anyhow::Result<PgPool> {
    // Ending a transaction that is none is not worth a word.
    let options = options(url)?.options(LIMITS).options([("client_min_messages", "error")]);
    Ok(pooled(options, patience))
}

fn options(url: &str) -> anyhow::Result<PgConnectOptions> {
    let options: PgConnectOptions = url
        .parse()
        .context("the database URL cannot be read; it looks like postgres://user@host:port/name")?;
    Ok(options.application_name("restless-owl"))
}

fn pooled(options: PgConnectOptions, patience: Duration) -> PgPool {
    // A page that is closed while its request begins a transaction leaves the connection in it, unknown to the pool: the next
    // one's writes would be refused, or acknowledged and never kept. No connection comes back in a transaction.
    let pool =
        PgPoolOptions::new().max_connections(16).acquire_timeout(patience).after_release(|connection, _| {
            Box::pin(async { connection.execute("rollback").await.map(|_| true) })
        });
    pool.connect_lazy_with(options)
}
