//! The workshop's instruments: what each measures, in which ways and ranges, and when it was last checked.

pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::reading::MeterFunction;
use owl_instruments::address::Address;
use time::format_description::well_known::Iso8601;
use time::{Date, OffsetDateTime};
use uuid::Uuid;

use self::wire::{InstrumentBody, InstrumentView};
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::instrument::InstrumentRow;
use crate::text::checked_text;

/// All instruments.
///
/// # Errors
/// 503 without a database.
#[utoipa::path(get, path = "/api/instruments", operation_id = "list_instruments", tag = "workshop", responses(
    (status = 200, body = Vec<InstrumentView>)))]
pub async fn list(State(app): State<App>) -> Result<Json<Vec<InstrumentView>>, ApiError> {
    Ok(Json(views(&app).await?))
}

/// All instruments as they are sent.
///
/// # Errors
/// 503 without a database.
pub async fn views(app: &App) -> Result<Vec<InstrumentView>, ApiError> {
    let rows = crate::table::instrument::instruments(&app.db).await?;
    let ways = crate::table::instrument::ways(&app.db).await?;
    let today = OffsetDateTime::now_utc().date();
    rows.iter().map(|r| InstrumentView::of(r, &ways, today)).collect()
}

/// Adds an instrument.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/instruments", operation_id = "add_instrument", tag = "workshop",
    request_body = InstrumentBody, responses((status = 201, body = Vec<InstrumentView>)))]
pub async fn add(
    State(app): State<App>,
    Body(body): Body<InstrumentBody>,
) -> Result<(StatusCode, Json<Vec<InstrumentView>>), ApiError> {
    let id = body.id.unwrap_or_else(Uuid::now_v7);
    let (row, ways) = checked(&app, id, &body)?;
    let mut tx = app.begin().await?;
    if crate::table::instrument::insert(&mut tx, &row).await? {
        crate::table::instrument::replace_ways(&mut tx, id, &ways).await?;
    }
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(views(&app).await?)))
}

/// Changes an instrument that has not been changed by someone else since `version`. Readings that were taken
/// with it keep the accuracy that it had.
///
/// # Errors
/// 404, 409 when it was changed, 422 with the input to blame.
#[utoipa::path(patch, path = "/api/instruments/{id}", operation_id = "change_instrument", tag = "workshop",
    params(("id" = Uuid, Path)), request_body = InstrumentBody, responses(
    (status = 200, body = Vec<InstrumentView>),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn change(
    State(app): State<App>,
    Id(id): Id,
    Body(body): Body<InstrumentBody>,
) -> Result<Json<Vec<InstrumentView>>, ApiError> {
    let (row, ways) = checked(&app, id, &body)?;
    let mut tx = app.begin().await?;
    let there = crate::table::instrument::instruments(&mut *tx).await?.iter().any(|i| i.id == id);
    if !there {
        return Err(ApiError::no_such("instrument"));
    }
    if !crate::table::instrument::update(&mut tx, &row).await? {
        return Err(crate::tray::conflict(&row.name, vec![]));
    }
    crate::table::instrument::replace_ways(&mut tx, id, &ways).await?;
    tx.commit().await?;
    Ok(Json(views(&app).await?))
}

fn checked(
    app: &App,
    id: Uuid,
    body: &InstrumentBody,
) -> Result<(InstrumentRow, Vec<MeterFunction>), ApiError> {
    let name = checked_text("name", &body.name, 80)?;
    if name.is_empty() {
        return Err(ApiError::field("name", "an instrument needs a name"));
    }
    let checked_on =
        match body.checked_on.as_deref().map(str::trim) {
            None | Some("") => None,
            Some(text) => Some(Date::parse(text, &Iso8601::DATE).map_err(|_| {
                ApiError::field("checked_on", format!("'{text}' is no date such as 2031-05-17"))
            })?),
        };
    let typed = body.address.as_deref().map(str::trim).filter(|a| !a.is_empty());
    let address = typed
        .map(|a| {
            let address: Address = a.parse().map_err(|e| ApiError::field("address", e))?;
            app.may_ask(address).map_err(|why| ApiError::field("address", why))?;
            Ok::<_, ApiError>(address.to_string())
        })
        .transpose()?;
    let ways: Vec<MeterFunction> =
        body.ways.iter().enumerate().map(|(i, w)| w.way(&format!("ways[{i}]"))).collect::<Result<_, _>>()?;
    for (i, w) in ways.iter().enumerate() {
        if ways[..i].iter().any(|other| other.name == w.name) {
            return Err(ApiError::field(format!("ways[{i}].name"), format!("'{}' is there twice", w.name)));
        }
    }
    let row = InstrumentRow {
        id,
        version: body.version.unwrap_or(1),
        name,
        kind: body.kind,
        checked_on,
        retired: body.retired,
        address,
    };
    Ok((row, ways))
}
