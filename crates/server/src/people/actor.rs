//! Whoever a request comes from, known to everything that answers it: what it may do, and in whose name it writes.

use std::future::Future;
use std::sync::Arc;

use owl_core::people::{May, Permission, Role, Scope};
use serde::Serialize;
use uuid::Uuid;

use crate::error::ApiError;

tokio::task_local! {
    static ACTOR: Arc<Actor>;
}

/// Whoever a request comes from.
#[derive(Debug, Clone)]
pub struct Actor {
    /// Who signed in; nobody where one person works alone.
    pub person: Option<Person>,
    /// At which bench.
    pub bench: String,
    /// What the token reaches that it came with.
    pub scope: Option<Scope>,
    /// Who countersigned this one request.
    pub countersigned: Option<String>,
    /// The page that it comes from, which need not be told what it did itself.
    pub page: Option<Uuid>,
}

/// Somebody of the workshop.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Person {
    /// Its key.
    pub id: Uuid,
    /// The name.
    pub name: String,
    /// What this person is.
    pub role: Role,
}

/// What stands beside a row that was written.
#[derive(Serialize)]
struct Signature<'a> {
    id: Option<Uuid>,
    name: &'a str,
    countersigned: Option<&'a str>,
    bench: &'a str,
}

impl Actor {
    /// The one person of a bench on which nobody signs in.
    #[must_use]
    pub fn alone() -> Self {
        Self { person: None, bench: "this bench".to_owned(), scope: None, countersigned: None, page: None }
    }

    /// Whether it may do something.
    ///
    /// # Errors
    /// 403, saying what would be needed.
    pub fn needs(&self, needed: Permission) -> Result<(), ApiError> {
        let Some(person) = &self.person else { return Ok(()) };
        if self.scope.is_some_and(|s| !s.reaches(needed)) {
            return Err(ApiError::Forbidden(format!("this token does not reach that far: '{needed}'")));
        }
        match person.role.may(needed) {
            May::Alone => Ok(()),
            May::Countersigned if self.countersigned.is_some() => Ok(()),
            May::Countersigned => Err(ApiError::Countersign),
            May::Not => Err(ApiError::Forbidden(match needed {
                Permission::Own => "this is for the owner of the workshop".to_owned(),
                Permission::Keep => "this is for a technician or the owner".to_owned(),
                _ => format!("{} only looks: ask the owner for another role", person.name),
            })),
        }
    }

    /// How a transaction in its name begins: every row that it writes carries the name.
    pub(crate) fn begin(&self) -> String {
        let signature = Signature {
            id: self.person.as_ref().map(|p| p.id),
            name: self.person.as_ref().map_or("", |p| &p.name),
            countersigned: self.countersigned.as_deref(),
            bench: &self.bench,
        };
        // Names hold no NUL, and JSON escapes control characters: only the quotation mark is left.
        let json = serde_json::to_string(&signature).unwrap_or_default().replace('\'', "''");
        let page = self.page.map_or_else(String::new, |p| p.to_string());
        format!("begin; set local owl.actor = '{json}'; set local owl.page = '{page}'")
    }
}

/// Answers a request in somebody's name.
pub async fn acting<T>(actor: Arc<Actor>, answer: impl Future<Output = T>) -> T {
    ACTOR.scope(actor, answer).await
}

/// Whoever the request under way comes from; `None` in the server's own work.
#[must_use]
pub fn now() -> Option<Arc<Actor>> {
    ACTOR.try_with(Arc::clone).ok()
}

/// Whether whoever asks may do something that only shows itself on the way.
///
/// # Errors
/// 403, saying what would be needed.
pub fn needs(needed: Permission) -> Result<(), ApiError> {
    now().map_or(Ok(()), |actor| actor.needs(needed))
}

/// What stands as the name beside what is ticked: whoever asks, and who countersigned; `None` where nobody signs in.
#[must_use]
pub fn signature() -> Option<String> {
    let actor = now()?;
    let person = actor.person.as_ref()?;
    Some(owl_core::people::story::by(&person.name, "", actor.countersigned.as_deref()))
}
