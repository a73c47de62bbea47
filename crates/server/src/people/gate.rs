//! Before every request: whom it comes from, and whether that person may ask for it.

use std::net::IpAddr;
use std::num::NonZeroU32;
use std::sync::Arc;

use axum::extract::{MatchedPath, Request, State};
use axum::http::{HeaderMap, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use governor::{DefaultKeyedRateLimiter, Quota, RateLimiter};
use owl_core::people::Scope;
use tower_sessions::Session;
use uuid::Uuid;

use super::Access;
use super::actor::{Actor, Person, acting};
use super::permission::{Needs, needed};
use super::secret;
use crate::database::Database;
use crate::door::Peer;
use crate::error::ApiError;
use crate::table::person;

/// The header that carries a countersign.
pub const COUNTERSIGN: &str = "x-countersign";
/// The header in which a page says its key.
pub const PAGE: &str = "x-owl-page";
/// The key of the person in a session.
pub(super) const PERSON: &str = "person";
/// The key of the bench in a session.
pub(super) const BENCH: &str = "bench";
/// The key of the address from which a session began.
pub(super) const ADDRESS: &str = "address";

/// So many passwords a minute from one address, whoever's they are.
const TRIES: NonZeroU32 = NonZeroU32::new(30).unwrap();

/// What the gate knows.
#[derive(Debug, Clone)]
pub struct Gate(Arc<Inner>);

#[derive(Debug)]
struct Inner {
    access: Access,
    proxies: Vec<IpAddr>,
    tries: DefaultKeyedRateLimiter<IpAddr>,
}

/// Where a request comes from: behind a trusted proxy, the address that it names.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Origin(pub IpAddr);

impl Gate {
    /// A gate that lets in everybody or asks who it is; `proxies` are believed when they name an address.
    #[must_use]
    pub fn new(access: Access, proxies: Vec<IpAddr>) -> Self {
        Self(Arc::new(Inner { access, proxies, tries: RateLimiter::keyed(Quota::per_minute(TRIES)) }))
    }

    /// How people come in.
    #[must_use]
    pub fn access(&self) -> Access {
        self.0.access
    }

    /// One more try of a password from an address.
    ///
    /// # Errors
    /// 429 when there were too many.
    pub fn one_try(&self, from: Origin) -> Result<(), ApiError> {
        self.0.tries.retain_recent();
        self.0.tries.check_key(&from.0).map_err(|_| ApiError::TooOften(60))
    }

    /// The address of whoever asks: the peer's; of a trusted proxy the last one that it names and that is no proxy itself.
    fn address(&self, peer: Option<&Peer>, headers: &HeaderMap) -> IpAddr {
        let peer = peer.map_or(IpAddr::from([127, 0, 0, 1]), |p| p.address.ip().to_canonical());
        if !self.0.proxies.contains(&peer) {
            return peer;
        }
        let named = headers.get_all("x-forwarded-for").iter().filter_map(|v| v.to_str().ok());
        let named: Vec<&str> = named.flat_map(|v| v.split(',')).map(str::trim).collect();
        let before = named.iter().rev().map_while(|a| a.parse::<IpAddr>().ok()).map(|a| a.to_canonical());
        before.into_iter().find(|a| !self.0.proxies.contains(a)).unwrap_or(peer)
    }
}

/// What the gate is made of.
#[derive(Debug, Clone)]
pub struct Watch {
    /// What it knows.
    pub gate: Gate,
    /// Where the people stand.
    pub db: Database,
}

/// Lets a request through to what answers it, in somebody's name, or refuses it.
pub async fn watch(State(w): State<Watch>, mut request: Request, next: Next) -> Response {
    let from = Origin(w.gate.address(request.extensions().get::<Peer>(), request.headers()));
    request.extensions_mut().insert(from);
    let path = request.extensions().get::<MatchedPath>().map(|p| p.as_str().to_owned());
    // The page itself holds nothing of the workshop.
    let Some(path) = path.filter(|p| p.starts_with("/api/")) else { return next.run(request).await };
    let needs = needed(request.method(), &path);
    let session = request.extensions().get::<Session>().cloned();
    match passes(&w, request.headers(), session, needs).await {
        Ok(Some(actor)) => acting(Arc::new(actor), next.run(request)).await,
        Ok(None) => next.run(request).await,
        Err(e) => e.into_response(),
    }
}

/// In whose name a request is answered; `None` where that does not matter.
async fn passes(
    w: &Watch,
    headers: &HeaderMap,
    session: Option<Session>,
    needs: Needs,
) -> Result<Option<Actor>, ApiError> {
    if w.gate.access() == Access::Alone {
        return Ok(Some(Actor { page: page(headers), ..Actor::alone() }));
    }
    if needs == Needs::Nobody {
        return Ok(None);
    }
    let mut actor = match bearer(headers) {
        Some(token) => by_token(&w.db, token).await?,
        None => by_session(&w.db, session.ok_or(ApiError::SignIn)?).await?,
    };
    match needs {
        Needs::Permission(permission) => {
            if let (Some(person), Some(signed)) = (&actor.person, headers.get(COUNTERSIGN)) {
                let hash = secret::hash(signed.to_str().unwrap_or_default());
                actor.countersigned = person::use_countersign(&w.db, &hash, person.id).await?;
            }
            actor.needs(permission)?;
        }
        // An account is for its person, not for a script.
        Needs::Somebody if actor.scope.is_some() => {
            return Err(ApiError::Forbidden("an account is not for scripts".to_owned()));
        }
        Needs::Somebody | Needs::Nobody => {}
    }
    actor.page = page(headers);
    Ok(Some(actor))
}

fn page(headers: &HeaderMap) -> Option<Uuid> {
    headers.get(PAGE)?.to_str().ok()?.parse().ok()
}

fn bearer(headers: &HeaderMap) -> Option<&str> {
    headers.get(header::AUTHORIZATION)?.to_str().ok()?.strip_prefix("Bearer ").map(str::trim)
}

async fn by_token(db: &Database, token: &str) -> Result<Actor, ApiError> {
    let known = person::by_token(db, &secret::hash(token)).await?;
    let (id, scope, name): (_, Scope, _) = known.ok_or(ApiError::SignIn)?;
    let person = somebody(db, id).await?;
    Ok(Actor {
        person: Some(person),
        bench: format!("script {name}"),
        scope: Some(scope),
        countersigned: None,
        page: None,
    })
}

async fn by_session(db: &Database, session: Session) -> Result<Actor, ApiError> {
    let id = session.get(PERSON).await.map_err(away)?.ok_or(ApiError::SignIn)?;
    let bench = session.get::<String>(BENCH).await.map_err(away)?.unwrap_or_default();
    Ok(Actor { person: Some(somebody(db, id).await?), bench, ..Actor::alone() })
}

/// Somebody who may come in.
async fn somebody(db: &Database, id: Uuid) -> Result<Person, ApiError> {
    match person::find(db, id).await {
        Ok(p) if !p.blocked => Ok(Person { id: p.id, name: p.name, role: p.role }),
        Ok(_) | Err(crate::table::error::StoreError::Gone(_)) => Err(ApiError::SignIn),
        Err(e) => Err(e.into()),
    }
}

/// A session that cannot be read: the database is away.
pub(super) fn away(e: tower_sessions::session::Error) -> ApiError {
    match e {
        tower_sessions::session::Error::Store(tower_sessions::session_store::Error::Backend(why)) => {
            tracing::warn!(%why, "the sessions cannot be read");
            ApiError::Database
        }
        other => ApiError::Internal(other.to_string()),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn address(proxies: &[&str], peer: &str, named: &[&str]) -> String {
        let gate = Gate::new(Access::Accounts, proxies.iter().map(|p| p.parse().unwrap()).collect());
        let mut headers = HeaderMap::new();
        for n in named {
            headers.append("x-forwarded-for", n.parse().unwrap());
        }
        let peer = Peer { address: format!("{peer}:40000").parse().unwrap(), encrypted: false };
        gate.address(Some(&peer), &headers).to_string()
    }

    #[test]
    fn an_address_is_believed_from_a_trusted_proxy_only() {
        // Addresses that are nobody's: RFC 5737.
        assert_eq!(address(&[], "192.0.2.7", &["198.51.100.1"]), "192.0.2.7", "said by anybody");
        assert_eq!(address(&["192.0.2.7"], "192.0.2.7", &["198.51.100.1"]), "198.51.100.1");
        // What stands before the last address that is no proxy was said by whoever asked.
        assert_eq!(address(&["192.0.2.7"], "192.0.2.7", &["127.0.0.1, 198.51.100.1"]), "198.51.100.1");
        assert_eq!(
            address(&["192.0.2.7", "192.0.2.8"], "192.0.2.7", &["203.0.113.5", "192.0.2.8"]),
            "203.0.113.5"
        );
        assert_eq!(address(&["192.0.2.7"], "192.0.2.7", &["nonsense"]), "192.0.2.7");
        assert_eq!(address(&["192.0.2.7"], "192.0.2.7", &[]), "192.0.2.7");
    }

    #[test]
    fn passwords_are_tried_so_often_from_one_address_and_no_more() {
        let gate = Gate::new(Access::Accounts, vec![]);
        let (one, two) = (Origin([192, 0, 2, 7].into()), Origin([192, 0, 2, 8].into()));
        assert_eq!((0..100).filter(|_| gate.one_try(one).is_ok()).count(), 30);
        assert!(gate.one_try(two).is_ok());
    }
}
