//! Readings: what a meter said of a part. They are only ever added to.

pub mod store;
pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::named::Named;
use owl_core::part::PartKind;
use owl_core::quantity::Ohm;
use owl_core::reading::doubt::doubt;
use owl_core::reading::{Mode, State as PartState};
use owl_core::say::read_entry;
use sqlx::PgConnection;
use uuid::Uuid;

use self::store::ReadingRow;
use self::wire::NewReading;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::part::store::PartRow;
use crate::part::wire::PartView;
use crate::router::App;
use crate::workshop::store::{MeterRow, meters};

/// Takes a reading of a part.
///
/// # Errors
/// 404, 422 with the input to blame; 422 with `ask` for a value far off, to be sent again
/// with `confirmed`.
#[utoipa::path(post, path = "/api/parts/{id}/readings", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewReading, responses(
    (status = 201, body = PartView),
    (status = 404, body = Problem)))]
pub async fn take(
    State(app): State<App>,
    Id(part_id): Id,
    Body(new): Body<NewReading>,
) -> Result<(StatusCode, Json<PartView>), ApiError> {
    let mut tx = app.pool.begin().await?;
    let part = crate::part::store::lock(&mut tx, part_id).await?;
    if part.kind()? != PartKind::Resistor {
        let why = format!("{} is a {}: it cannot be measured here yet", part.name, part.kind);
        return Err(ApiError::field("typed", why));
    }
    let (value, _) = read_entry(&new.typed).map_err(|e| ApiError::field("typed", e))?;
    if !new.confirmed {
        ask_if_doubtful(&part, value)?;
    }
    let taking = Taking {
        key: new.key,
        value,
        state: new.state.0,
        hot: new.hot,
        mode: new.mode.map(|m| m.0),
        meter: new.instrument,
        typed: new.typed.trim(),
    };
    record(&mut tx, &part, &taking).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(crate::part::view(&app, part_id).await?)))
}

fn ask_if_doubtful(part: &PartRow, value: Option<Ohm>) -> Result<(), ApiError> {
    let expected = part.marked.or(part.sheet).and_then(|v| Ohm::new(v).ok());
    match value.zip(expected).and_then(|(v, e)| doubt(v, e)) {
        Some(d) => Err(ApiError::Ask { question: d.question, field: "typed".to_owned() }),
        None => Ok(()),
    }
}

/// A reading about to be recorded.
pub struct Taking<'a> {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// `None` beyond the meter's range.
    pub value: Option<Ohm>,
    /// How the part sat.
    pub state: PartState,
    /// Whether it was hot.
    pub hot: bool,
    /// How the meter measured; the meter's own way where it was not said.
    pub mode: Option<Mode>,
    /// The meter; the one last used on the ticket where it was not said.
    pub meter: Option<Uuid>,
    /// What was typed.
    pub typed: &'a str,
}

/// Records a reading with its meter's accuracy as it is now.
pub async fn record(db: &mut PgConnection, part: &PartRow, t: &Taking<'_>) -> Result<(), ApiError> {
    let meter = meter(db, part.ticket_id, t.meter).await?;
    let mut row = ReadingRow {
        id: t.key,
        part_id: part.id,
        ohm: t.value.map(Ohm::ohms),
        ceiling_ohm: None,
        state: t.state.name().to_owned(),
        hot: t.hot,
        mode: t.mode.unwrap_or(Mode::Dc).name().to_owned(),
        instrument_id: None,
        instrument: String::new(),
        of_reading: None,
        counts: None,
        resolution_ohm: None,
        typed: t.typed.replace('\0', "").chars().take(200).collect(),
        taken_at: time::OffsetDateTime::UNIX_EPOCH,
    };
    if let Some(m) = meter {
        let known = m.meter()?;
        if t.mode.is_none() {
            row.mode.clone_from(&m.mode);
        }
        match t.value {
            Some(v) if v > known.ceiling => {
                let why = format!("{} ends at {}; say OL if it showed overrange", m.name, known.ceiling);
                return Err(ApiError::field("typed", why));
            }
            Some(v) => {
                let a = known.accuracy_at(v);
                row.of_reading = Some(a.of_reading.fraction());
                row.counts = Some(a.counts);
                row.resolution_ohm = Some(a.resolution.ohms());
            }
            None => row.ceiling_ohm = Some(m.ceiling_ohm),
        }
        row.instrument_id = Some(m.id);
        row.instrument = m.name;
    }
    if store::insert(db, &row).await? {
        crate::part::store::touch(db, part.id).await?;
    }
    Ok(())
}

async fn meter(
    db: &mut PgConnection,
    ticket_id: Uuid,
    asked: Option<Uuid>,
) -> Result<Option<MeterRow>, ApiError> {
    let all = meters(&mut *db).await?;
    let wanted = match asked {
        Some(id) => Some(id),
        None => store::last_meter(db, ticket_id).await?,
    };
    match wanted {
        Some(id) => match all.iter().find(|m| m.id == id) {
            Some(m) => Ok(Some(m.clone())),
            None if asked.is_some() => Err(ApiError::field("instrument", "the workshop has no such meter")),
            None => Ok(all.into_iter().next()),
        },
        None => Ok(all.into_iter().next()),
    }
}
