//! The whole URL table on one page, and what every request passes through.

use std::sync::Arc;
use std::time::Duration;

use axum::body::Bytes;
use axum::extract::{DefaultBodyLimit, Request, State};
use axum::http::{HeaderName, HeaderValue, header};
use axum::middleware::{self, Next};
use axum::response::{IntoResponse, Response};
use axum::{Extension, Router};
use tower::ServiceBuilder;
use tower_http::CompressionLevel;
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::compression::CompressionLayer;
use tower_http::compression::predicate::{DefaultPredicate, NotForContentType, Predicate};
use tower_http::request_id::{MakeRequestUuid, PropagateRequestIdLayer, SetRequestIdLayer};
use tower_http::trace::TraceLayer;
use tower_sessions::cookie::SameSite;
use tower_sessions::{Expiry, SessionManagerLayer};
use utoipa::OpenApi;
use utoipa::openapi::{ContentBuilder, Ref, ResponseBuilder};
use utoipa_axum::router::{OpenApiRouter, UtoipaMethodRouterExt};
use utoipa_axum::routes;

use crate::app::App;
use crate::body::LARGEST_KB;
use crate::error::{ApiError, PROBLEM, Problem};
use crate::guard::{Hosts, guard};
use crate::people::Access;
use crate::people::gate::{Gate, Watch, watch};
use crate::people::store::Sessions;
use crate::{
    attachment, bank, cause, change, chart, closing, combine, decision, decode, deed, drawers, explanation,
    feed, find, first_power, fitting, health, instrument, judge, metrics, part, people, plan, policy, proof,
    reading, record, reform, remote, rulebook, safety, say, search, share, sites, socket, stage, substitute,
    supply, ticket, together, transistor, values, workshop,
};

#[derive(OpenApi)]
#[openapi(
    components(schemas(Problem)),
    info(
        title = "Restless Owl",
        description = "The bench's second pair of eyes. SI base units as plain numbers, tolerances as fractions, \
                   unknown is null, errors are RFC 9457 problem+json.",
        license(name = "MIT OR Apache-2.0", identifier = "MIT OR Apache-2.0")
    )
)]
struct Doc;

fn api() -> OpenApiRouter<App> {
    OpenApiRouter::with_openapi(Doc::openapi())
        .routes(routes!(health::health))
        .routes(routes!(health::live))
        .routes(routes!(metrics::metrics))
        .routes(routes!(people::sign_in::read, people::sign_in::sign_in, people::sign_in::sign_out))
        .routes(routes!(people::sign_in::by_link))
        .routes(routes!(people::countersign::give))
        .routes(routes!(people::account::read))
        .routes(routes!(people::account::password))
        .routes(routes!(people::account::end_session))
        .routes(routes!(people::account::add_token))
        .routes(routes!(people::account::remove_token))
        .routes(routes!(people::list::list, people::list::add))
        .routes(routes!(people::list::change))
        .routes(routes!(people::list::link))
        .routes(routes!(people::list::end_session))
        .routes(routes!(people::story::of_part))
        .routes(routes!(people::story::of_ticket))
        .routes(routes!(together::events::events))
        .routes(routes!(workshop::workshop))
        .routes(routes!(workshop::words::choose))
        .routes(routes!(instrument::list, instrument::add))
        .routes(routes!(instrument::change))
        .routes(routes!(policy::list, policy::add))
        .routes(routes!(policy::change, policy::remove))
        .routes(routes!(decode::decode))
        .routes(routes!(decode::card::schemes))
        .routes(routes!(decode::card::read_card))
        .routes(routes!(judge::judge))
        .routes(routes!(values::values))
        .routes(routes!(combine::combine))
        .routes(routes!(combine::stream))
        .routes(routes!(share::share))
        .routes(routes!(feed::diagnose))
        .routes(routes!(substitute::substitute))
        .routes(routes!(supply::series))
        .routes(routes!(supply::rectifier))
        .routes(routes!(supply::discharge))
        .routes(routes!(supply::field_coil))
        .routes(routes!(supply::heaters))
        .routes(routes!(supply::chart))
        .routes(routes!(supply::touch))
        .routes(routes!(supply::ripple))
        .routes(routes!(supply::limiter))
        .routes(routes!(drawers::list, drawers::add))
        .routes(routes!(drawers::change, drawers::remove))
        .routes(routes!(drawers::count))
        .routes(routes!(drawers::export))
        .routes(routes!(drawers::labels))
        .routes(routes!(drawers::import::import).layer(DefaultBodyLimit::disable()))
        .routes(routes!(drawers::shopping::shopping))
        .routes(routes!(drawers::shopping::export))
        .routes(routes!(drawers::shopping::feasibility))
        .routes(routes!(ticket::list, ticket::open))
        .routes(routes!(ticket::read, ticket::change, ticket::remove))
        .routes(routes!(safety::read, safety::tick))
        .routes(routes!(first_power::log, first_power::add))
        .routes(routes!(chart::read))
        .routes(routes!(chart::put_point))
        .routes(routes!(chart::add_valve))
        .routes(routes!(chart::remove_point))
        .routes(routes!(chart::put_run))
        .routes(routes!(chart::put_reading))
        .routes(routes!(sites::list))
        .routes(routes!(attachment::mark))
        .routes(routes!(deed::read))
        .routes(routes!(deed::undo))
        .routes(routes!(feed::drawn::list, feed::drawn::put))
        .routes(routes!(feed::drawn::remove))
        .routes(routes!(feed::drawn::as_netlist))
        .routes(routes!(bank::list, bank::put))
        .routes(routes!(bank::remove))
        .routes(routes!(bank::all_go))
        .routes(routes!(change::list, change::begin))
        .routes(routes!(change::prove))
        .routes(routes!(change::undo))
        .routes(routes!(rulebook::all))
        .routes(routes!(rulebook::one))
        .routes(routes!(find::find))
        .routes(routes!(search::search))
        .routes(routes!(search::drift))
        .routes(routes!(attachment::list, attachment::add).layer(DefaultBodyLimit::disable()))
        .routes(routes!(attachment::read, attachment::remove))
        .routes(routes!(plan::plan))
        .routes(routes!(closing::read, closing::close))
        .routes(routes!(closing::begin))
        .routes(routes!(closing::check))
        .routes(routes!(record::export))
        .routes(routes!(record::archive))
        .routes(routes!(record::import).layer(DefaultBodyLimit::disable()))
        .routes(routes!(record::lists::parts))
        .routes(routes!(record::lists::readings))
        .routes(routes!(record::lists::voltages))
        .routes(routes!(record::report::for_owner))
        .routes(routes!(record::report::for_technician))
        .routes(routes!(socket::sockets))
        .routes(routes!(say::preview))
        .routes(routes!(say::say))
        .routes(routes!(say::set::preview))
        .routes(routes!(say::set::say))
        .routes(routes!(say::refused::speech))
        .routes(routes!(say::refused::list))
        .routes(routes!(say::refused::export))
        .routes(routes!(part::add))
        .routes(routes!(part::read, part::change))
        .routes(routes!(explanation::explain))
        .routes(routes!(reading::take))
        .routes(routes!(reading::foresee))
        .routes(routes!(reading::void))
        .routes(routes!(cause::answer))
        .routes(routes!(decision::decide))
        .routes(routes!(fitting::fit))
        .routes(routes!(fitting::prove))
        .routes(routes!(proof::hear))
        .routes(routes!(fitting::withdraw))
        .routes(routes!(substitute::of_part))
        .routes(routes!(stage::suspect::name))
        .routes(routes!(stage::choices, stage::fit))
        .routes(routes!(transistor::identify::identify))
        .routes(routes!(transistor::identify::two_leads))
        .routes(routes!(transistor::gain::correct))
        .routes(routes!(transistor::equivalents::find))
        .routes(routes!(transistor::pairs::pairs))
        .routes(routes!(transistor::types::list, transistor::types::put))
        .routes(routes!(transistor::types::packages))
        .routes(routes!(transistor::types::typed))
        .routes(routes!(transistor::types::export))
        .routes(routes!(transistor::types::import).layer(DefaultBodyLimit::disable()))
        .routes(routes!(transistor::types::remove))
        .routes(routes!(transistor::lot::list))
        .routes(routes!(
            transistor::lot::read_lot,
            transistor::lot::add,
            transistor::lot::change,
            transistor::lot::remove
        ))
        .routes(routes!(transistor::lot::labels))
        .routes(routes!(transistor::lot::export))
        .routes(routes!(transistor::inspection::judge))
        .routes(routes!(transistor::inspection::desk, transistor::inspection::keep))
        .routes(routes!(transistor::junction::keep))
        .routes(routes!(reform::plan))
        .routes(routes!(reform::simulate))
        .routes(routes!(reform::desk::desk))
        .routes(routes!(reform::desk::candidates))
        .routes(routes!(reform::desk::of_part))
        .routes(routes!(reform::prepare))
        .routes(routes!(reform::read, reform::remove))
        .routes(routes!(reform::start))
        .routes(routes!(reform::command))
        .routes(routes!(reform::meter))
        .routes(routes!(reform::live::live))
        .routes(routes!(reform::record::json))
        .routes(routes!(reform::record::csv))
        .routes(routes!(reform::record::chart))
        .routes(routes!(reform::record::leakage))
        .routes(routes!(remote::take))
        .routes(routes!(remote::supply))
        .routes(routes!(remote::piece))
        .routes(routes!(remote::identify))
}

/// The OpenAPI document, from the code.
#[must_use]
pub fn openapi() -> utoipa::openapi::OpenApi {
    document(api().split_for_parts().1)
}

/// Adds to every operation the refusals that can come from what all requests pass through, and
/// names the media type of errors.
fn document(mut api: utoipa::openapi::OpenApi) -> utoipa::openapi::OpenApi {
    let problem = || {
        ResponseBuilder::new()
            .description("a problem, in words")
            .content(PROBLEM, ContentBuilder::new().schema(Some(Ref::from_schema_name("Problem"))).build())
            .build()
    };
    for item in api.paths.paths.values_mut() {
        let operations = [&mut item.get, &mut item.put, &mut item.post, &mut item.patch, &mut item.delete];
        for operation in operations.into_iter().flatten() {
            let with_body: &[&str] =
                if operation.request_body.is_some() { &["400", "413", "415", "422"] } else { &[] };
            let all = ["401", "403", "500", "503", "504"];
            let responses = &mut operation.responses.responses;
            for status in with_body.iter().chain(&all) {
                responses.insert((*status).to_owned(), problem().into());
            }
            for (_, response) in responses.iter_mut().filter(|(status, _)| status.starts_with(['4', '5'])) {
                *response = problem().into();
            }
        }
    }
    api
}

/// The front end.
#[derive(Debug)]
pub struct Page {
    /// Serves its files.
    pub file: fn(&Request) -> Response,
    /// What tells it from another one: a page that was opened before the server was brought up to date says so.
    pub build: Option<HeaderValue>,
}

/// What stands before everything that is served.
pub struct Front {
    /// By which names the server is called.
    pub hosts: Hosts,
    /// Who comes in.
    pub gate: Gate,
    /// Whether browsers reach it encrypted: then the cookie goes no other way.
    pub encrypted: bool,
    /// The files of the front end.
    pub page: Page,
}

/// Everything that is served.
pub fn router(app: App, front: Front) -> Router {
    let Front { hosts, gate, encrypted, page: Page { file, build } } = front;
    let (routes, described) = api().split_for_parts();
    // Written once: it is long.
    let document = Bytes::from(serde_json::to_vec(&document(described)).unwrap_or_default());
    let request_id = HeaderName::from_static("x-request-id");
    let router = routes
        .route("/api/openapi.json", axum::routing::get(move || async move { served_json(document) }))
        .route(
            "/api/{*rest}",
            axum::routing::any(|| async { ApiError::NotFound("no such address".to_owned()) }),
        )
        .method_not_allowed_fallback(|| async { ApiError::Method })
        .fallback(async move |request: Request| file(&request))
        .with_state(app.clone());
    let sessions = (gate.access() == Access::Accounts).then(|| carrier(&app, encrypted));
    // The fastest: on loopback the time to compress is most of the time to send. Pictures are packed already.
    let packed = DefaultPredicate::new().and(NotForContentType::const_new("application/x-tar"));
    // In one stack: each layer of the router's own would be one more thing that every request takes a copy of.
    router.layer(
        ServiceBuilder::new()
            .layer(SetRequestIdLayer::new(request_id.clone(), MakeRequestUuid))
            .layer(TraceLayer::new_for_http().make_span_with(span))
            .layer(PropagateRequestIdLayer::new(request_id))
            .layer(middleware::from_fn_with_state(said_always(encrypted, build), with_headers))
            .layer(CompressionLayer::new().quality(CompressionLevel::Fastest).compress_when(packed))
            .layer(CatchPanicLayer::custom(|_: Box<dyn std::any::Any + Send>| {
                ApiError::Internal("a handler panicked".to_owned()).into_response()
            }))
            .layer(middleware::from_fn_with_state(hosts, guard))
            .layer(DefaultBodyLimit::max(LARGEST_KB * 1024))
            .layer(middleware::from_fn(in_time))
            .layer(middleware::from_fn_with_state(app.clone(), metrics::timed))
            .option_layer(sessions)
            .layer(Extension(gate.clone()))
            .layer(middleware::from_fn_with_state(Watch { gate, db: app.db.clone() }, watch))
            .layer(middleware::from_fn_with_state(app, workshop::words::in_the_workshops_words)),
    )
}

/// What every answer says, unless it says something stricter itself.
fn said_always(encrypted: bool, build: Option<HeaderValue>) -> Arc<[(HeaderName, HeaderValue)]> {
    const ALWAYS: [(&str, &str); 7] = [
        (
            "content-security-policy",
            "default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; \
             frame-ancestors 'none'; form-action 'self'",
        ),
        ("x-content-type-options", "nosniff"),
        ("x-frame-options", "DENY"),
        ("referrer-policy", "no-referrer"),
        ("cross-origin-opener-policy", "same-origin"),
        ("cross-origin-resource-policy", "same-origin"),
        ("permissions-policy", "camera=(), geolocation=(), microphone=()"),
    ];
    let further = encrypted.then_some(("strict-transport-security", "max-age=31536000"));
    let said = ALWAYS.into_iter().chain(further);
    let said = said.map(|(name, value)| (HeaderName::from_static(name), HeaderValue::from_static(value)));
    said.chain(build.map(|build| (HeaderName::from_static("x-owl-build"), build))).collect()
}

/// Says it; and that what the bench says now is not what it says in a minute.
async fn with_headers(
    State(said): State<Arc<[(HeaderName, HeaderValue)]>>,
    request: Request,
    next: Next,
) -> Response {
    let api = request.uri().path().starts_with("/api/");
    let mut response = next.run(request).await;
    let headers = response.headers_mut();
    for (name, value) in said.iter() {
        headers.entry(name.clone()).or_insert_with(|| value.clone());
    }
    if api {
        headers.insert(header::CACHE_CONTROL, HeaderValue::from_static("no-store"));
    }
    response
}

/// Carries sessions in a cookie that scripts do not see, that other sites do not send, and that ends with the browser.
fn carrier(app: &App, encrypted: bool) -> SessionManagerLayer<Sessions> {
    SessionManagerLayer::new(Sessions(app.db.clone()))
        // The prefix: browsers take it from an encrypted page of this very host only.
        .with_name(if encrypted { "__Host-owl" } else { "owl" })
        .with_http_only(true)
        .with_same_site(SameSite::Strict)
        .with_secure(encrypted)
        .with_path("/")
        .with_expiry(Expiry::OnSessionEnd)
}

fn served_json(text: Bytes) -> Response {
    ([(header::CONTENT_TYPE, HeaderValue::from_static("application/json"))], text).into_response()
}

fn span(request: &Request) -> tracing::Span {
    let id = request.headers().get("x-request-id").and_then(|v| v.to_str().ok()).unwrap_or("");
    tracing::info_span!("request", method = %request.method(), path = request.uri().path(), id)
}

/// A record with its pictures may be long on its way; all else is answered soon.
async fn in_time(request: Request, next: Next) -> Response {
    let most = Duration::from_secs(if request.uri().path() == "/api/tickets/import" { 900 } else { 20 });
    match tokio::time::timeout(most, next.run(request)).await {
        Ok(response) => response,
        Err(_) => ApiError::Timeout.into_response(),
    }
}
