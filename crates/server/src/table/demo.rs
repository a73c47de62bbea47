//! All SQL of the demo's rows: which they are, and taking out those and no others.

use sqlx::{PgConnection, PgPool};
use uuid::Uuid;

use super::error::StoreError;

/// What is there before the demo is loaded, by id; everything else is the demo's afterwards.
pub struct Before(Vec<Uuid>);

/// Looks at what is there.
pub async fn before(pool: &PgPool) -> Result<Before, StoreError> {
    let ids = sqlx::query_scalar!(
        r#"select id as "id!" from ticket union all select id from instrument union all select id from policy
           union all select id from lot union all select id from match_lot union all select id from inspection
           union all select id from device"#
    );
    Ok(Before(ids.fetch_all(pool).await?))
}

/// Marks what has come since as the demo's.
pub async fn mark(db: &mut PgConnection, before: &Before) -> Result<(), StoreError> {
    let old = &before.0;
    demo_only(db).await?;
    sqlx::query!("update ticket set demo = true where id <> all($1)", old).execute(&mut *db).await?;
    sqlx::query!("update instrument set demo = true where id <> all($1)", old).execute(&mut *db).await?;
    sqlx::query!("update policy set demo = true where id <> all($1)", old).execute(&mut *db).await?;
    sqlx::query!("update lot set demo = true where id <> all($1)", old).execute(&mut *db).await?;
    sqlx::query!("update match_lot set demo = true where id <> all($1)", old).execute(&mut *db).await?;
    sqlx::query!("update inspection set demo = true where id <> all($1)", old).execute(&mut *db).await?;
    sqlx::query!("update device set demo = true where id <> all($1)", old).execute(db).await?;
    Ok(())
}

/// What is only ever added to lets the demo's rows be marked and go, until the transaction ends.
async fn demo_only(db: &mut PgConnection) -> Result<(), StoreError> {
    sqlx::query_scalar!("select set_config('owl.undoing', 'yes', true)").fetch_one(db).await?;
    Ok(())
}

/// Takes out the demo's rows, but for instruments, schools and lots that somebody's own work has come to hang on. Says how
/// many tickets are somebody's own and stay.
pub async fn clear(db: &mut PgConnection) -> Result<i64, StoreError> {
    demo_only(db).await?;
    sqlx::query!("delete from ticket where demo").execute(&mut *db).await?;
    sqlx::query!("delete from inspection where demo").execute(&mut *db).await?;
    sqlx::query!("delete from match_lot where demo").execute(&mut *db).await?;
    sqlx::query!("delete from device where demo").execute(&mut *db).await?;
    sqlx::query!(
        "delete from policy p where demo and not exists (select from ticket t where t.policy_id = p.id)"
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "delete from lot l where demo and not exists (select from fitting_piece f where f.lot_id = l.id)"
    )
    .execute(&mut *db)
    .await?;
    sqlx::query!(
        "delete from instrument i where demo and not exists (select from reading r where r.instrument_id = i.id)"
    )
    .execute(&mut *db)
    .await?;
    Ok(sqlx::query_scalar!("select count(*) as \"n!\" from ticket").fetch_one(db).await?)
}
