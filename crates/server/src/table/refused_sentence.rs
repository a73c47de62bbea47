//! All SQL of the sentences that the line did not understand.

use sqlx::PgExecutor;
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::StoreError;

/// A sentence that was refused.
#[derive(Debug, Clone)]
pub struct RefusedRow {
    /// When.
    pub said_at: OffsetDateTime,
    /// Of which set; none where its ticket is gone.
    pub set_name: Option<String>,
    /// As typed.
    pub sentence: String,
    /// Why, in words.
    pub why: String,
}

/// The longest sentence and the longest reason that are kept, in characters.
const LONGEST: (usize, usize) = (200, 1000);

/// Keeps a sentence, as much of it as is read; one of nothing but blanks is none.
pub async fn keep(
    db: impl PgExecutor<'_>,
    ticket_id: Uuid,
    sentence: &str,
    why: &str,
) -> Result<(), StoreError> {
    let cut = |text: &str, most| text.chars().filter(|c| !c.is_control()).take(most).collect::<String>();
    let (sentence, why) = (cut(sentence.trim(), LONGEST.0), cut(why, LONGEST.1));
    if sentence.trim().is_empty() {
        return Ok(());
    }
    sqlx::query!(
        "insert into refused_sentence (ticket_id, sentence, why) values ($1, $2, $3)",
        ticket_id,
        sentence,
        why
    )
    .execute(db)
    .await?;
    Ok(())
}

/// The newest, `most` of them.
pub async fn newest(db: impl PgExecutor<'_>, most: i64) -> Result<Vec<RefusedRow>, StoreError> {
    Ok(sqlx::query_as!(
        RefusedRow,
        r#"select r.said_at, t.name as "set_name?", r.sentence, r.why
           from refused_sentence r left join ticket t on t.id = r.ticket_id
           order by r.said_at desc, r.id desc limit $1"#,
        most
    )
    .fetch_all(db)
    .await?)
}
