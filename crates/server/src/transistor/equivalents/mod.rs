//! What goes in for a transistor, a diode or a circuit: `POST /api/transistors/equivalents`.

mod asked;
mod diode;
mod show;
pub mod wire;

use axum::Json;
use axum::extract::State;
use owl_core::part::PartKind;
use owl_core::transistor::diode_device::device as diode_device;
use owl_core::transistor::equivalent::MOST_SHOWN;

use self::asked::{circuit, ratings};
use self::diode::of_diode;
use self::show::{of_circuit, of_transistor};
use self::wire::{EquivalentsAnswer, EquivalentsQuestion};
use crate::app::App;
use crate::aside::aside;
use crate::body::Body;
use crate::error::ApiError;
use crate::table::device::stock;

/// Finds what goes in for a transistor or a diode; of a circuit, where the same one lies.
///
/// # Errors
/// 404 for a type that nobody knows, 422 with the input to blame.
#[utoipa::path(post, path = "/api/transistors/equivalents", tag = "transistors", operation_id = "find_equivalents",
    request_body = EquivalentsQuestion, responses(
    (status = 200, body = EquivalentsAnswer), (status = 404, body = crate::error::Problem)))]
pub async fn find(
    State(app): State<App>,
    Body(q): Body<EquivalentsQuestion>,
) -> Result<Json<EquivalentsAnswer>, ApiError> {
    let limit = q.limit.unwrap_or(40);
    if !(1..=MOST_SHOWN).contains(&limit) {
        return Err(ApiError::field("limit", format!("1 to {MOST_SHOWN} candidates can be listed")));
    }
    let asked = q.type_number.as_deref().map(str::trim).filter(|t| !t.is_empty()).map(str::to_owned);
    let body = q.circuit.unwrap_or_default();
    let need = circuit(&body)?;
    let types = app.types.all(&app.db).await?;
    let stocked = stock(&app.db).await?;
    let kind = q.kind;
    if kind == Some(PartKind::Ic) {
        let name =
            asked.ok_or_else(|| ApiError::field("type", "a circuit is found by its type number alone"))?;
        return Ok(Json(of_circuit(&name, &stocked)));
    }
    let (wanted, read_as) = match (&asked, &q.wanted) {
        (Some(name), _) => match types.meant(name) {
            Some(d) => {
                let other = !d.is_called(name);
                (d.clone(), other.then(|| format!("{name} is read as {}", d.type_number)))
            }
            None => match diode_device(name) {
                Some(d) => return Ok(Json(of_diode(d, &body, &stocked, limit)?)),
                None => {
                    return Err(ApiError::NotFound(format!(
                        "{name} is not in the table: add its row, or say its ratings or what its circuit asks for"
                    )));
                }
            },
        },
        (None, Some(w)) => (ratings(w)?, None),
        (None, None) => {
            return Err(ApiError::field("type", "say the original's type, or its ratings"));
        }
    };
    let answer = aside(move || of_transistor(&wanted, read_as, &need, &types, &stocked, limit)).await?;
    Ok(Json(answer))
}
