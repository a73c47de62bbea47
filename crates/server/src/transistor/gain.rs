//! Gain corrected for leakage, and leakage against what may leak: `POST /api/transistors/gain`.

use axum::Json;
use axum::extract::State;
use owl_core::quantity::{Quantity, parse};
use owl_core::transistor::Material;
use owl_core::transistor::gain::{GainError, corrected, leak_cold, leak_limit};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::amount::Amount;
use crate::app::App;
use crate::body::Body;
use crate::error::ApiError;

/// A gain that was measured by two currents, or by a tester and the leakage.
#[derive(Debug, Deserialize, ToSchema)]
pub struct GainQuestion {
    /// Collector current with the base fed, as typed.
    #[schema(max_length = 40)]
    pub collector_current: String,
    /// Base current, as typed.
    #[schema(max_length = 40)]
    pub base_current: String,
    /// Collector current with the base open, as typed; empty where it was not measured.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub leakage_current: String,
    /// How warm it is, °C; 25 where it does not say.
    pub celsius: Option<f64>,
    /// Its material, where that is known.
    pub material: Option<Material>,
    /// Its type number, where that is known.
    #[serde(rename = "type")]
    #[schema(max_length = 40)]
    pub type_number: Option<String>,
}

/// The gain, and what leaks.
#[derive(Debug, Serialize, ToSchema)]
pub struct GainAnswer {
    /// The gain.
    pub hfe: f64,
    /// What it would seem without the correction.
    pub seems: f64,
    /// What leaks at 25 °C, where the material is known.
    pub leakage_cold: Option<Amount>,
    /// What may leak at this temperature, where the material is known.
    pub leakage_limit: Option<Amount>,
    /// In words, one line each.
    pub lines: Vec<String>,
    /// Where the limit comes from.
    pub source: Option<String>,
}

/// Corrects a gain for leakage and holds the leakage against its limit.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/transistors/gain", tag = "transistors", operation_id = "correct_gain",
    request_body = GainQuestion, responses((status = 200, body = GainAnswer)))]
pub async fn correct(
    State(app): State<App>,
    Body(q): Body<GainQuestion>,
) -> Result<Json<GainAnswer>, ApiError> {
    let amperes = |field: &str, text: &str| -> Result<f64, ApiError> {
        match parse::best(Quantity::Current, text) {
            Ok(v) if v >= 0.0 => Ok(v),
            Ok(_) => Err(ApiError::field(field, "a current of 0 or more is needed")),
            Err(e) => Err(ApiError::field(field, e)),
        }
    };
    let collector = amperes("collector_current", &q.collector_current)?;
    let base = amperes("base_current", &q.base_current)?;
    let measured = !q.leakage_current.trim().is_empty();
    let leak = if measured { amperes("leakage_current", &q.leakage_current)? } else { 0.0 };
    let celsius = q.celsius.unwrap_or(25.0);
    if !(-40.0..=150.0).contains(&celsius) {
        return Err(ApiError::field("celsius", "a part is between −40 and 150 °C"));
    }
    let hfe = corrected(collector, leak, base).map_err(|e| match e {
        GainError::NoBase => ApiError::field("base_current", e),
        GainError::AllLeak => ApiError::field("leakage_current", e),
    })?;
    let types = app.types.all(&app.db).await?;
    let device = q.type_number.as_deref().and_then(|t| types.meant(t));
    let material = device.and_then(|d| d.material).or(q.material);
    let power = device.is_some_and(owl_core::transistor::Device::is_power);
    let limit = material.and_then(|m| leak_limit(m, power, hfe, celsius));
    let seems = collector / base;
    let text = |v: f64| Amount::of(Quantity::Current, v).text;
    let mut lines = vec![format!("({} − {}) / {} = {hfe:.0}", text(collector), text(leak), text(base))];
    if measured && seems > 1.1 * hfe {
        lines.push(format!("without the correction it would seem {seems:.0}"));
    }
    if !measured && material != Some(Material::Silicon) {
        lines.push("leakage was not measured: of germanium the gain seems higher than it is".to_owned());
    }
    let mut cold = None;
    if let (Some(l), true) = (&limit, measured) {
        lines.push(if leak > l.open_base_amperes {
            format!(
                "{} leak, at most {} may at {celsius:.0} °C: leaky",
                text(leak),
                text(l.open_base_amperes)
            )
        } else {
            format!("{} leak, {} may at {celsius:.0} °C", text(leak), text(l.open_base_amperes))
        });
        cold = material.and_then(|m| leak_cold(m, leak, celsius)).map(|v| Amount::of(Quantity::Current, v));
    }
    if let Some((low, high)) = device.and_then(|d| d.gain_min.zip(d.gain_max)) {
        lines.push(format!("the sheet says {low:.0} to {high:.0}"));
    }
    Ok(Json(GainAnswer {
        hfe,
        seems,
        leakage_cold: cold,
        leakage_limit: limit.as_ref().map(|l| Amount::of(Quantity::Current, l.open_base_amperes)),
        lines,
        source: limit.map(|l| l.source.to_string()),
    }))
}
