//! Fittings: what went in and what it measured; and their proof.

pub mod store;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::named::Named;
use owl_core::part::PartKind;
use owl_core::quantity::{Fraction, Ohm, Watt};
use owl_core::reading::ReadQuantity;
use owl_core::reading::doubt::doubt;
use owl_core::say::read_entry;
use serde::Deserialize;
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use self::store::FittingRow;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::name::FamilyName;
use crate::part::wire::PartView;
use crate::router::App;
use crate::ticket::checked_text;

/// What went in.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewFitting {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// The version of the part that was seen.
    pub version: i32,
    /// In words: `1 W metal film, 220 kΩ`.
    #[schema(min_length = 1, max_length = 200)]
    pub description: String,
    /// Its value as typed or chosen.
    #[schema(min_length = 1, max_length = 200)]
    pub value: String,
    /// Its tolerance as typed.
    #[schema(min_length = 1, max_length = 200)]
    pub tolerance: String,
    /// Its rated watts as typed; empty if not known.
    #[schema(max_length = 200)]
    pub watts: Option<String>,
    /// How it is made.
    pub family: FamilyName,
    /// What it measured before it went in, as typed.
    #[schema(min_length = 1, max_length = 200)]
    pub measured: String,
    /// A note.
    #[schema(max_length = 2000)]
    pub note: Option<String>,
    /// Takes a measured value far off that was asked about.
    #[serde(default)]
    pub confirmed: bool,
}

/// How a fitting was proven.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewProof {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// Whether it worked.
    pub worked: bool,
    /// What was seen and heard.
    #[schema(min_length = 1, max_length = 2000)]
    pub seen: String,
}

/// Records what was fitted in a part's place.
///
/// # Errors
/// 404, 409 when something changed since it was seen, 422 with the input to blame.
#[utoipa::path(post, path = "/api/parts/{id}/fittings", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewFitting, responses(
    (status = 201, body = PartView),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn fit(
    State(app): State<App>,
    Id(part_id): Id,
    Body(new): Body<NewFitting>,
) -> Result<(StatusCode, Json<PartView>), ApiError> {
    let row = fitting_row(part_id, &new)?;
    let mut tx = app.pool.begin().await?;
    let part = crate::part::store::lock(&mut tx, part_id).await?;
    if part.kind()? != PartKind::Resistor {
        let why = format!("{} is a {}: nothing can be fitted for it here yet", part.name, part.kind);
        return Err(ApiError::field("value", why));
    }
    if !store::known(&mut tx, new.key).await? {
        crate::part::unchanged_since(&mut tx, &part, new.version).await?;
        if store::insert(&mut tx, &row).await? {
            crate::part::store::touch(&mut tx, part_id).await?;
        }
    }
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(crate::part::view(&app, part_id).await?)))
}

fn fitting_row(part_id: Uuid, new: &NewFitting) -> Result<FittingRow, ApiError> {
    let description = checked_text("description", &new.description, 200)?;
    if description.is_empty() {
        return Err(ApiError::field("description", "say what went in"));
    }
    let value: Ohm = new.value.parse().map_err(|e| ApiError::field("value", e))?;
    if value == Ohm::ZERO {
        return Err(ApiError::field("value", "a value above zero is needed"));
    }
    let tolerance: Fraction = new.tolerance.parse().map_err(|e| ApiError::field("tolerance", e))?;
    if !(tolerance.fraction() > 0.0 && tolerance.fraction() < 1.0) {
        return Err(ApiError::field("tolerance", "a tolerance lies between 0 and 100 %"));
    }
    let watts = match new.watts.as_deref().map(str::trim) {
        None | Some("") => None,
        Some(text) => Some(text.parse::<Watt>().map_err(|e| ApiError::field("watts", e))?),
    };
    let of = ReadQuantity::Resistance;
    let entered = read_entry(of, &new.measured).map_err(|e| ApiError::field("measured", e))?;
    let Some(measured) = entered.value_si else {
        return Err(ApiError::field("measured", "a new part that shows nothing is open: do not fit it"));
    };
    if let (false, Some(d)) = (new.confirmed, doubt(of, measured, value.ohms())) {
        return Err(ApiError::Ask { question: d.question, field: "measured".to_owned() });
    }
    Ok(FittingRow {
        id: new.key,
        part_id,
        description,
        ohm: value.ohms(),
        tolerance: tolerance.fraction(),
        watts: watts.map(Watt::watts).filter(|w| *w > 0.0),
        family: new.family.0.name().to_owned(),
        measured_ohm: measured,
        note: checked_text("note", new.note.as_deref().unwrap_or(""), 2000)?,
        fitted_at: OffsetDateTime::UNIX_EPOCH,
        worked: None,
        seen: None,
        proven_at: None,
    })
}

/// Records the proof of a fitting.
///
/// # Errors
/// 404, 409 when it was proven already, 422 with the input to blame.
#[utoipa::path(post, path = "/api/fittings/{id}/proof", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewProof, responses(
    (status = 201, body = PartView),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn prove(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewProof>,
) -> Result<(StatusCode, Json<PartView>), ApiError> {
    let seen = checked_text("seen", &new.seen, 2000)?;
    if seen.is_empty() {
        return Err(ApiError::field(
            "seen",
            "say what you saw or heard: volts, sound, smell, how warm it is",
        ));
    }
    let mut tx = app.pool.begin().await?;
    let (part_id, _) = store::find(&mut tx, id).await?;
    crate::part::store::lock(&mut tx, part_id).await?;
    match store::find(&mut tx, id).await?.1 {
        Some(key) if key == new.key => {}
        Some(_) => {
            let detail = "this fitting was proven already".to_owned();
            return Err(ApiError::Conflict { detail, changed: vec![] });
        }
        None => {
            store::prove(&mut tx, new.key, id, new.worked, &seen).await?;
            crate::part::store::touch(&mut tx, part_id).await?;
        }
    }
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(crate::part::view(&app, part_id).await?)))
}
