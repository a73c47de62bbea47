//! All SQL of the people: who they are, their passwords, the links that set them, tokens and countersigns.

use owl_core::people::{Role, Scope};
use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::{Row, StoreError};

/// Somebody of the workshop.
#[derive(Debug, Clone)]
pub struct PersonRow {
    /// Its key.
    pub id: Uuid,
    /// The name.
    pub name: String,
    /// What this person is.
    pub role: Role,
    /// The password as it is kept; none until one was chosen.
    pub password: Option<String>,
    /// Wrong passwords in a row.
    pub wrong: i32,
    /// Until when nobody comes in by this name.
    pub locked_until: Option<OffsetDateTime>,
    /// Whether this person may come in at all.
    pub blocked: bool,
}

/// A token of somebody's scripts.
#[derive(Debug, Clone)]
pub struct TokenRow {
    /// Its key.
    pub id: Uuid,
    /// What it is for.
    pub name: String,
    /// How far it reaches.
    pub scope: Scope,
    /// Since when.
    pub created_at: OffsetDateTime,
    /// When it was last used.
    pub seen_at: Option<OffsetDateTime>,
    /// Until when it works.
    pub expires_at: OffsetDateTime,
}

/// Everybody, in the order in which they came.
pub async fn all(db: impl PgExecutor<'_>) -> Result<Vec<PersonRow>, StoreError> {
    Ok(sqlx::query_as!(
        PersonRow,
        r#"select id, name, role as "role: _", password, wrong, locked_until, blocked from person order by created_at, name"#
    )
    .fetch_all(db)
    .await?)
}

/// Somebody by key.
pub async fn find(db: impl PgExecutor<'_>, id: Uuid) -> Result<PersonRow, StoreError> {
    sqlx::query_as!(
        PersonRow,
        r#"select id, name, role as "role: _", password, wrong, locked_until, blocked from person where id = $1"#,
        id
    )
    .fetch_optional(db)
    .await?
    .ok_or(StoreError::Gone(Row::Person))
}

/// Somebody by name, upper and lower case alike.
pub async fn named(db: impl PgExecutor<'_>, name: &str) -> Result<Option<PersonRow>, StoreError> {
    Ok(sqlx::query_as!(
        PersonRow,
        r#"select id, name, role as "role: _", password, wrong, locked_until, blocked from person
           where lower(name) = lower($1)"#,
        name
    )
    .fetch_optional(db)
    .await?)
}

/// Whether there is an owner who can come in.
pub async fn has_owner(db: impl PgExecutor<'_>) -> Result<bool, StoreError> {
    Ok(sqlx::query_scalar!(
        r#"select exists (select from person where role = 'owner' and not blocked and password is not null) as "there!""#
    )
    .fetch_one(db)
    .await?)
}

/// Somebody new.
pub async fn insert(db: impl PgExecutor<'_>, id: Uuid, name: &str, role: Role) -> Result<(), StoreError> {
    let done = sqlx::query!("insert into person (id, name, role) values ($1, $2, $3)", id, name, role as _)
        .execute(db)
        .await;
    match done {
        Err(sqlx::Error::Database(e)) if e.is_unique_violation() => {
            Err(StoreError::Taken(Row::Person, name.to_owned()))
        }
        other => Ok(other.map(|_| ())?),
    }
}

/// Gives somebody another role, shuts him out or lets him in. The workshop keeps an owner (`None` where it would not).
pub async fn change(
    db: &mut PgConnection,
    id: Uuid,
    role: Role,
    blocked: bool,
) -> Result<Option<PersonRow>, StoreError> {
    // Two owners who shut each other out at once: the second finds the first one's word.
    sqlx::query_scalar!("select id from person where role = 'owner' order by id for update")
        .fetch_all(&mut *db)
        .await?;
    sqlx::query!("update person set role = $2, blocked = $3 where id = $1", id, role as _, blocked)
        .execute(&mut *db)
        .await?;
    if !has_owner(&mut *db).await? {
        return Ok(None);
    }
    if blocked {
        sqlx::query!("delete from session where person_id = $1", id).execute(&mut *db).await?;
        sqlx::query!("delete from token where person_id = $1", id).execute(&mut *db).await?;
    }
    find(db, id).await.map(Some)
}

/// Sets a password and forgets what was wrong before.
pub async fn set_password(db: impl PgExecutor<'_>, id: Uuid, password: &str) -> Result<(), StoreError> {
    sqlx::query!(
        "update person set password = $2, wrong = 0, locked_until = null where id = $1",
        id,
        password
    )
    .execute(db)
    .await?;
    Ok(())
}

/// One more wrong password.
pub async fn wrong(db: impl PgExecutor<'_>, id: Uuid) -> Result<i32, StoreError> {
    Ok(sqlx::query_scalar!("update person set wrong = wrong + 1 where id = $1 returning wrong", id)
        .fetch_one(db)
        .await?)
}

/// Locks somebody out for so many seconds; 0 opens and forgets what was wrong.
pub async fn lock(db: impl PgExecutor<'_>, id: Uuid, seconds: f64) -> Result<(), StoreError> {
    sqlx::query!(
        "update person set locked_until = case when $2 > 0.0::float8 then now() + make_interval(secs => $2::float8) end,
             wrong = case when $2 > 0.0::float8 then wrong else 0 end
         where id = $1 and ($2 > 0.0::float8 or wrong > 0 or locked_until is not null)",
        id,
        seconds
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Keeps a link's hash: for somebody, or for the first owner. Earlier ones of the same end.
pub async fn put_link(
    db: &mut PgConnection,
    hash: &[u8],
    person: Option<Uuid>,
    hours: i32,
) -> Result<(), StoreError> {
    sqlx::query!("delete from link where person_id is not distinct from $1 or expires_at < now()", person)
        .execute(&mut *db)
        .await?;
    sqlx::query!(
        "insert into link (hash, person_id, expires_at) values ($1, $2, now() + make_interval(hours => $3))",
        hash,
        person,
        hours
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Uses a link up: whose it was. The outer `None` is none, or one that is over.
pub async fn use_link(db: impl PgExecutor<'_>, hash: &[u8]) -> Result<Option<Option<Uuid>>, StoreError> {
    Ok(sqlx::query_scalar!(
        "delete from link where hash = $1 and expires_at > now() returning person_id",
        hash
    )
    .fetch_optional(db)
    .await?)
}

/// Keeps a countersign for two minutes.
pub async fn put_countersign(
    db: impl PgExecutor<'_>,
    hash: &[u8],
    by: Uuid,
    for_whom: Uuid,
) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into countersign (hash, by_id, for_id, expires_at) values ($1, $2, $3, now() + interval '2 minutes')",
        hash,
        by,
        for_whom
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Uses a countersign up: who gave it.
pub async fn use_countersign(
    db: impl PgExecutor<'_>,
    hash: &[u8],
    for_whom: Uuid,
) -> Result<Option<String>, StoreError> {
    Ok(sqlx::query_scalar!(
        "with used as (delete from countersign where hash = $1 and for_id = $2 and expires_at > now() returning by_id)
         select name from person p join used on used.by_id = p.id where not p.blocked",
        hash,
        for_whom
    )
    .fetch_optional(db)
    .await?)
}

/// Somebody's tokens.
pub async fn tokens(db: impl PgExecutor<'_>, person: Uuid) -> Result<Vec<TokenRow>, StoreError> {
    Ok(sqlx::query_as!(
        TokenRow,
        r#"select id, name, scope as "scope: _", created_at, seen_at, expires_at from token
           where person_id = $1 order by created_at"#,
        person
    )
    .fetch_all(db)
    .await?)
}

/// A new token.
pub async fn insert_token(
    db: impl PgExecutor<'_>,
    (id, person): (Uuid, Uuid),
    name: &str,
    hash: &[u8],
    scope: Scope,
    days: i32,
) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into token (id, person_id, name, hash, scope, expires_at)
         values ($1, $2, $3, $4, $5, now() + make_interval(days => $6))",
        id,
        person,
        name,
        hash,
        scope as _,
        days
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Ends a token of somebody's.
pub async fn remove_token(db: impl PgExecutor<'_>, person: Uuid, id: Uuid) -> Result<(), StoreError> {
    let gone =
        sqlx::query!("delete from token where id = $1 and person_id = $2", id, person).execute(db).await?;
    if gone.rows_affected() == 0 { Err(StoreError::Gone(Row::Token)) } else { Ok(()) }
}

/// Whose a token is that works still, and how far it reaches; the use is noted.
pub async fn by_token(
    db: impl PgExecutor<'_>,
    hash: &[u8],
) -> Result<Option<(Uuid, Scope, String)>, StoreError> {
    let row = sqlx::query!(
        r#"update token set seen_at = now() where hash = $1 and expires_at > now()
           returning person_id, scope as "scope: Scope", name"#,
        hash
    )
    .fetch_optional(db)
    .await?;
    Ok(row.map(|r| (r.person_id, r.scope, r.name)))
}
