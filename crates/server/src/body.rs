//! JSON in, with every refusal as problem+json and the field to blame.

use axum::body::Bytes;
use axum::extract::{FromRequest, FromRequestParts, Path, Request};
use axum::http::header;
use axum::http::request::Parts;
use serde::de::DeserializeOwned;
use uuid::Uuid;

use crate::error::ApiError;

/// The most that a request body may hold, in kilobytes.
pub const LARGEST_KB: usize = 64;

/// A JSON body.
pub struct Body<T>(pub T);

impl<T: DeserializeOwned, S: Send + Sync> FromRequest<S> for Body<T> {
    type Rejection = ApiError;

    async fn from_request(request: Request, state: &S) -> Result<Self, ApiError> {
        let json =
            request.headers().get(header::CONTENT_TYPE).and_then(|v| v.to_str().ok()).is_some_and(|v| {
                v.split(';').next().is_some_and(|m| m.trim().eq_ignore_ascii_case("application/json"))
            });
        if !json {
            return Err(ApiError::MediaType);
        }
        let bytes = Bytes::from_request(request, state).await.map_err(|_| ApiError::TooLarge(LARGEST_KB))?;
        let mut json = serde_json::Deserializer::from_slice(&bytes);
        let value = serde_path_to_error::deserialize(&mut json).map_err(refusal)?;
        json.end().map_err(|e| ApiError::Malformed(format!("this is not JSON: {e}")))?;
        Ok(Self(value))
    }
}

fn refusal(e: serde_path_to_error::Error<serde_json::Error>) -> ApiError {
    let path = e.path().to_string();
    let inner = e.into_inner();
    match inner.classify() {
        serde_json::error::Category::Data => {
            let text = inner.to_string();
            // "… at line 1 column 7" says nothing to a person.
            let detail = text.split(" at line ").next().unwrap_or(&text);
            let detail = detail
                .replace("expected f64", "a number is needed")
                .replace("expected i32", "a whole number is needed")
                .replace("missing field", "this is missing:")
                .replace("invalid type: ", "not ");
            ApiError::Impossible { detail, field: (path != ".").then_some(path) }
        }
        _ => ApiError::Malformed(format!("this is not JSON: {inner}")),
    }
}

/// What stands behind the question mark of the address.
pub struct Query<T>(pub T);

impl<T: DeserializeOwned, S: Send + Sync> FromRequestParts<S> for Query<T> {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, ApiError> {
        match axum::extract::Query::<T>::from_request_parts(parts, state).await {
            Ok(axum::extract::Query(value)) => Ok(Self(value)),
            Err(e) => Err(ApiError::Impossible { detail: e.body_text(), field: None }),
        }
    }
}

/// The id in the address.
pub struct Id(pub Uuid);

impl<S: Send + Sync> FromRequestParts<S> for Id {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, ApiError> {
        let Path(text) = Path::<String>::from_request_parts(parts, state)
            .await
            .map_err(|_| ApiError::NotFound("the address holds no id".to_owned()))?;
        text.parse().map(Self).map_err(|_| ApiError::NotFound("that is no id of ours".to_owned()))
    }
}
