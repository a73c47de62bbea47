//! `POST /api/combine`: what a value can be made of.

pub mod wire;

use axum::Json;
use owl_core::network::{Drive, Kind, Search, Stock, Wanted, search};
use owl_core::preferred::between;
use owl_core::quantity::{Ampere, Volt, Watt};

use self::wire::{BuildFrom, CombineAnswer, CombineQuestion, Load, NetworkView};
use crate::body::Body;
use crate::error::ApiError;

/// Searches networks of one to three parts.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/combine", tag = "tools", request_body = CombineQuestion, responses(
    (status = 200, body = CombineAnswer, description = "networks, least error first")))]
pub async fn combine(Body(q): Body<CombineQuestion>) -> Result<Json<CombineAnswer>, ApiError> {
    let (kind, wanted, stock) = question(&q)?;
    // A search over a fine series takes a good part of a second: not on the threads that serve.
    let found = tokio::task::spawn_blocking(move || search(&wanted, &stock))
        .await
        .map_err(|e| ApiError::Internal(e.to_string()))?
        .map_err(|e| ApiError::field("target", e))?;
    Ok(Json(answer(kind, &found)))
}

fn question(q: &CombineQuestion) -> Result<(Kind, Wanted, Vec<Stock>), ApiError> {
    let kind = q.kind.0;
    let stock: Vec<Stock> = match &q.from {
        BuildFrom::Series { series, low, high } => {
            between(series.0, *low, *high).into_iter().map(|value| Stock { value, count: None }).collect()
        }
        BuildFrom::Values { values } => {
            values.iter().map(|v| Stock { value: v.value, count: v.count }).collect()
        }
    };
    if stock.is_empty() {
        return Err(ApiError::field("from", "there is no value to build from in that range"));
    }
    let drive = match &q.load {
        Some(Load::Voltage { voltage }) => {
            Some(Drive::Voltage(Volt::new(*voltage).map_err(|e| ApiError::field("load.voltage", e))?))
        }
        Some(Load::Current { current }) => {
            Some(Drive::Current(Ampere::new(*current).map_err(|e| ApiError::field("load.current", e))?))
        }
        None => None,
    };
    let rating = q.rating.as_ref();
    let power = rating
        .and_then(|r| r.power)
        .map(Watt::new)
        .transpose()
        .map_err(|e| ApiError::field("rating.power", e))?;
    let voltage = rating
        .and_then(|r| r.voltage)
        .map(Volt::new)
        .transpose()
        .map_err(|e| ApiError::field("rating.voltage", e))?;
    let wanted = Wanted {
        kind,
        target: q.target,
        within: q.within,
        max_parts: q.max_parts.unwrap_or(3),
        drive,
        power,
        voltage,
        limit: q.limit.unwrap_or(10),
    };
    Ok((kind, wanted, stock))
}

fn answer(kind: Kind, found: &Search) -> CombineAnswer {
    CombineAnswer {
        networks: found.networks.iter().map(|n| NetworkView::of(n, kind)).collect(),
        searched: found.searched,
    }
}
