//! Errors become problem+json (RFC 9457) here and nowhere else.

use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use serde::Serialize;
use utoipa::ToSchema;

use crate::dialect::said;
use crate::table::error::{Row, StoreError};

/// The media type of an error's body.
pub const PROBLEM: &str = "application/problem+json";

/// Everything that a handler can fail with.
#[derive(Debug, thiserror::Error)]
pub enum ApiError {
    /// The body is not JSON.
    #[error("{0}")]
    Malformed(String),
    /// The body is not announced as JSON.
    #[error("the body must be sent as application/json")]
    MediaType,
    /// The body is larger than is taken.
    #[error("the request is larger than {0} kilobytes")]
    TooLarge(usize),
    /// Nothing there.
    #[error("{0}")]
    NotFound(String),
    /// The method does not exist for this address.
    #[error("this address does not take that method")]
    Method,
    /// Someone else was faster.
    #[error("{detail}")]
    Conflict {
        /// In words.
        detail: String,
        /// What has changed since.
        changed: Vec<Changed>,
    },
    /// Understood, but not possible.
    #[error("{detail}")]
    Impossible {
        /// In words.
        detail: String,
        /// The input to blame.
        field: Option<String>,
    },
    /// Possible, but only after a question was answered.
    #[error("{question}")]
    Ask {
        /// The question.
        question: String,
        /// The input that it is about.
        field: String,
        /// What it can be answered with, beside a plain yes.
        choices: Vec<String>,
    },
    /// A request from a page or by a name that is not ours.
    #[error("{0}")]
    Foreign(String),
    /// Nobody is signed in.
    #[error("sign in first")]
    SignIn,
    /// Signed in, but not allowed to.
    #[error("{0}")]
    Forbidden(String),
    /// Allowed with somebody else's countersign.
    #[error("this needs the countersign of a technician or the owner")]
    Countersign,
    /// Too many tries.
    #[error("too many tries: wait {0} s, then try again")]
    TooOften(u64),
    /// The database does not answer.
    #[error("the database does not answer; what you typed is kept, try again in a moment")]
    Database,
    /// The store of the pictures does not answer.
    #[error("the store of the pictures does not answer; nothing is lost, try again in a moment")]
    PictureStore,
    /// No room left.
    #[error(
        "the disk of the server is full: nothing more can be kept until there is room; what you typed is kept"
    )]
    DiskFull,
    /// It took too long.
    #[error("this took too long and was given up")]
    Timeout,
    /// A fault of ours; the text goes to the log, not to the user.
    #[error("something went wrong in here; it was noted in the log")]
    Internal(String),
}

/// One thing that changed in the meantime.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct Changed {
    /// Which field, in the trade's words.
    pub field: String,
    /// What it was when it was last seen.
    pub before: String,
    /// What it is now.
    pub now: String,
}

/// The body of an error (RFC 9457).
#[derive(Debug, Serialize, ToSchema)]
pub struct Problem {
    /// A short name of the kind of error.
    pub title: &'static str,
    /// The HTTP status, again.
    pub status: u16,
    /// What is wrong, in the user's words.
    #[serde(serialize_with = "said")]
    pub detail: String,
    /// Which input is to blame, where one is.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub field: Option<String>,
    /// True when sending the same again with `confirmed` will be taken, or with one of `choices` where there are any.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub ask: Option<bool>,
    /// True when sending the same again with a countersign will be taken.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub countersign: bool,
    /// With what a question can be answered, beside a plain yes.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub choices: Vec<String>,
    /// What changed in the meantime, on a conflict.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub changed: Option<Vec<Changed>>,
}

impl ApiError {
    /// Understood but not possible, with the input to blame.
    pub fn field(field: impl Into<String>, why: impl std::fmt::Display) -> Self {
        Self::Impossible { detail: why.to_string(), field: Some(field.into()) }
    }

    /// Possible, but only after a question was answered with yes.
    pub fn ask(question: impl Into<String>, field: &str) -> Self {
        Self::Ask { question: question.into(), field: field.to_owned(), choices: vec![] }
    }

    /// The same about an input that lies within another.
    #[must_use]
    pub fn within(self, outer: &str) -> Self {
        match self {
            Self::Impossible { detail, field: Some(field) } => {
                Self::Impossible { detail, field: Some(format!("{outer}.{field}")) }
            }
            Self::Ask { question, field, choices } => {
                Self::Ask { question, field: format!("{outer}.{field}"), choices }
            }
            other => other,
        }
    }

    /// The same refusal beside another input.
    #[must_use]
    pub fn moved_to(self, input: &str) -> Self {
        match self {
            Self::Impossible { detail, .. } => Self::field(input, detail),
            Self::Ask { question, choices, .. } => Self::Ask { question, field: input.to_owned(), choices },
            other => other,
        }
    }

    /// Nothing of that kind with that id.
    #[must_use]
    pub fn no_such(what: &str) -> Self {
        Self::NotFound(format!("this {what} is not there; it may have been removed"))
    }

    fn status(&self) -> (StatusCode, &'static str) {
        match self {
            Self::Malformed(_) => (StatusCode::BAD_REQUEST, "not JSON"),
            Self::MediaType => (StatusCode::UNSUPPORTED_MEDIA_TYPE, "not announced as JSON"),
            Self::TooLarge(_) => (StatusCode::PAYLOAD_TOO_LARGE, "too large"),
            Self::NotFound(_) => (StatusCode::NOT_FOUND, "not there"),
            Self::Method => (StatusCode::METHOD_NOT_ALLOWED, "no such method"),
            Self::Conflict { .. } => (StatusCode::CONFLICT, "changed in the meantime"),
            Self::Impossible { .. } => (StatusCode::UNPROCESSABLE_ENTITY, "not possible"),
            Self::Ask { .. } => (StatusCode::UNPROCESSABLE_ENTITY, "to be confirmed"),
            Self::SignIn => (StatusCode::UNAUTHORIZED, "not signed in"),
            Self::Forbidden(_) => (StatusCode::FORBIDDEN, "not allowed"),
            Self::Countersign => (StatusCode::FORBIDDEN, "to be countersigned"),
            Self::TooOften(_) => (StatusCode::TOO_MANY_REQUESTS, "too often"),
            Self::Foreign(_) => (StatusCode::FORBIDDEN, "foreign request"),
            Self::Database => (StatusCode::SERVICE_UNAVAILABLE, "no database"),
            Self::PictureStore => (StatusCode::BAD_GATEWAY, "no store"),
            Self::DiskFull => (StatusCode::INSUFFICIENT_STORAGE, "disk full"),
            Self::Timeout => (StatusCode::GATEWAY_TIMEOUT, "too slow"),
            Self::Internal(_) => (StatusCode::INTERNAL_SERVER_ERROR, "our fault"),
        }
    }
}

impl IntoResponse for ApiError {
    fn into_response(self) -> Response {
        if let Self::Internal(why) = &self {
            tracing::error!(%why, "internal error");
        }
        let (status, title) = self.status();
        let wait = match self {
            Self::TooOften(seconds) => Some(seconds),
            Self::Database => Some(2),
            _ => None,
        };
        let detail = self.to_string();
        let mut problem = Problem {
            title,
            status: status.as_u16(),
            detail,
            field: None,
            ask: None,
            countersign: matches!(self, Self::Countersign),
            choices: vec![],
            changed: None,
        };
        match self {
            Self::Impossible { field, .. } => problem.field = field,
            Self::Ask { field, choices, .. } => {
                (problem.field, problem.ask, problem.choices) = (Some(field), Some(true), choices);
            }
            Self::Conflict { changed, .. } => problem.changed = Some(changed),
            _ => {}
        }
        let mut response = (status, axum::Json(problem)).into_response();
        let headers = response.headers_mut();
        headers.insert(header::CONTENT_TYPE, HeaderValue::from_static(PROBLEM));
        if let Some(seconds) = wait {
            headers.insert(header::RETRY_AFTER, HeaderValue::from(seconds));
        }
        response
    }
}

impl ApiError {
    /// What an error of the database is to people.
    #[must_use]
    pub fn from_database(e: &sqlx::Error) -> Self {
        match e {
            sqlx::Error::PoolTimedOut
            | sqlx::Error::PoolClosed
            | sqlx::Error::Io(_)
            | sqlx::Error::Tls(_)
            | sqlx::Error::WorkerCrashed => Self::Database,
            // The server is starting, stopping, or cut the connection (classes 57 and 08; 25P03 where its clock jumped); it
            // follows another one now (25006); two that waited for each other (class 40). All of it passes.
            sqlx::Error::Database(d)
                if d.code().is_some_and(|c| {
                    ["57", "08", "40"].contains(&c.get(..2).unwrap_or_default())
                        || ["25P03", "25006"].contains(&c.as_ref())
                }) =>
            {
                Self::Database
            }
            sqlx::Error::Database(d) if d.code().is_some_and(|c| c == "OW002") || d.is_unique_violation() => {
                Self::Conflict {
                    detail:
                        "this was sent under a key under which something else is kept: nothing was changed"
                            .to_owned(),
                    changed: vec![],
                }
            }
            // 53100: no room left for what is written.
            sqlx::Error::Database(d) if d.code().is_some_and(|c| c == "53100") => Self::DiskFull,
            // Too many connections or too little memory pass.
            sqlx::Error::Database(d) if d.code().is_some_and(|c| c.starts_with("53")) => Self::Database,
            // 22021: a character that the database holds not; 22003, 22008: a number or a time beyond all bounds.
            sqlx::Error::Database(d)
                if d.code().is_some_and(|c| ["22021", "22003", "22008"].contains(&c.as_ref())) =>
            {
                Self::Impossible {
                    detail: "a character, a number or a time in it is one that cannot be kept".to_owned(),
                    field: None,
                }
            }
            // A check constraint is the last line of defence: the value was not possible.
            sqlx::Error::Database(d) if d.is_check_violation() => Self::Impossible {
                detail: format!("that value is not possible ({})", d.constraint().unwrap_or("limits")),
                field: None,
            },
            sqlx::Error::RowNotFound => Self::no_such("thing"),
            _ => Self::Internal(e.to_string()),
        }
    }
}

impl From<sqlx::Error> for ApiError {
    fn from(e: sqlx::Error) -> Self {
        Self::from_database(&e)
    }
}

impl Row {
    /// What people call one.
    fn called(self) -> &'static str {
        match self {
            Self::Ticket => "ticket",
            Self::Part => "part",
            Self::Change => "change",
            Self::Fitting => "fitting",
            Self::Point => "point",
            Self::ChartRun => "set of readings",
            Self::Feed => "feed",
            Self::ReformRun => "reforming run",
            Self::Bank => "bank",
            Self::Soak => "soak test",
            Self::Attachment => "attachment",
            Self::Lot | Self::MatchLot => "lot",
            Self::Device => "type",
            Self::Instrument => "instrument",
            Self::Policy => "copy",
            Self::Person => "person",
            Self::Session => "session",
            Self::Token => "token",
        }
    }
}

impl From<StoreError> for ApiError {
    fn from(e: StoreError) -> Self {
        let conflict = |detail: String| Self::Conflict { detail, changed: vec![] };
        match e {
            StoreError::Gone(row) => Self::no_such(row.called()),
            StoreError::Taken(Row::Part, name) => conflict(format!("there is a {name} on this tray already")),
            StoreError::Taken(Row::MatchLot, name) => {
                conflict(format!("there is a lot called '{name}' already"))
            }
            StoreError::Taken(Row::Point, name) => {
                Self::field("name", format!("'{name}' stands in the chart already"))
            }
            StoreError::Taken(row, name) => {
                let article = if row == Row::Instrument { "an" } else { "a" };
                Self::field("name", format!("there is {article} {} called '{name}' already", row.called()))
            }
            StoreError::Changed(row) => conflict(format!(
                "this {} was changed in the meantime: look at it as it is now, then change it",
                row.called()
            )),
            StoreError::OnTheReformingBench => conflict(
                "this part lies on the reforming bench already; finish or remove that run first".to_owned(),
            ),
            // The database's own message, without its quotation marks and at a length that can be read.
            StoreError::Refused(message) => {
                let message: String = message.replace('"', "").chars().take(200).collect();
                Self::field("file", format!("this file does not hold together: {message}"))
            }
            StoreError::Broken(_) => Self::Internal(e.to_string()),
            StoreError::Database(e) => e.into(),
        }
    }
}
