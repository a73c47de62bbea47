//! `POST /api/values`: what was typed into the fields of a form, read as the bench reads it.

use std::collections::BTreeMap;

use axum::Json;
use owl_core::quantity::{Quantity, parse};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::amount::Amount;
use crate::body::Body;
use crate::error::ApiError;

/// The most fields that are read at once.
const MOST_FIELDS: usize = 700;

/// Fields by name.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ValuesQuestion {
    /// What each field holds, and what it is a value of.
    pub fields: BTreeMap<String, TypedField>,
}

/// A field as typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct TypedField {
    /// What it is a value of.
    pub quantity: Quantity,
    /// As typed.
    #[schema(max_length = 200)]
    pub text: String,
}

/// What was read, and what could not be.
#[derive(Debug, Serialize, ToSchema)]
pub struct ValuesAnswer {
    /// The fields that hold a value.
    pub values: BTreeMap<String, Amount>,
    /// What is wrong with the others; empty fields are in neither.
    pub wrong: BTreeMap<String, String>,
}

/// Reads the fields of a form.
///
/// # Errors
/// 422 for too many fields.
#[utoipa::path(post, path = "/api/values", tag = "tools", request_body = ValuesQuestion, responses(
    (status = 200, body = ValuesAnswer)))]
pub async fn values(Body(q): Body<ValuesQuestion>) -> Result<Json<ValuesAnswer>, ApiError> {
    if q.fields.len() > MOST_FIELDS {
        return Err(ApiError::field("fields", format!("at most {MOST_FIELDS} fields are read at once")));
    }
    let mut out = ValuesAnswer { values: BTreeMap::new(), wrong: BTreeMap::new() };
    for (name, field) in q.fields {
        if field.text.trim().is_empty() {
            continue;
        }
        match parse::typed(field.quantity, &field.text) {
            Ok(v) => {
                out.values.insert(name, Amount::of(field.quantity, v));
            }
            Err(e) => {
                out.wrong.insert(name, e.to_string());
            }
        }
    }
    Ok(Json(out))
}
