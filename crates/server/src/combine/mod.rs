//! `POST /api/combine`: what a value can be made of; at once, or streamed while it is searched for.

pub mod string;
pub mod wire;

use std::ops::ControlFlow;
use std::time::{Duration, Instant};

use axum::Json;
use axum::body::Body as HttpBody;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use owl_core::network::search::{MOST_VALUES, check};
use owl_core::network::{Drive, Found, Kind, Stock, Wanted, search_while};
use owl_core::part::PartKind;
use owl_core::preferred::{Series, between};
use owl_core::quantity::{Ampere, Fraction, Volt, Watt};
use tokio_stream::wrappers::ReceiverStream;

use self::wire::{BuildFrom, CombineAnswer, CombineQuestion, Load, NetworkView, StockBody};
use crate::app::App;
use crate::aside::{AT_ONCE, search, streamed};
use crate::body::Body;
use crate::error::ApiError;
use crate::table::drawers::{Source, stock_of};

/// How long a stream waits before it shows the best so far, and between two of them.
const EVERY: Duration = Duration::from_millis(500);

/// Searches networks of one to four parts.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/combine", tag = "tools", request_body = CombineQuestion, responses(
    (status = 200, body = CombineAnswer, description = "networks, least error first")))]
pub async fn combine(
    State(app): State<App>,
    Body(q): Body<CombineQuestion>,
) -> Result<Json<CombineAnswer>, ApiError> {
    let asked = Asked::of(&app, &q).await?;
    // Whoever goes away stops it; what is not found in time is answered with the best so far.
    let found = search(AT_ONCE, move |asker| asked.search(&mut |_| go_on(asker.waits()))).await??;
    Ok(Json(found))
}

/// The same as lines of JSON: the best so far every half second, the whole answer last. Closing the connection stops
/// the search.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/combine/stream", operation_id = "combine_stream", tag = "tools", request_body = CombineQuestion, responses(
    (status = 200, body = CombineAnswer, content_type = "application/x-ndjson",
     description = "one answer on each line, the last one complete")))]
pub async fn stream(State(app): State<App>, Body(q): Body<CombineQuestion>) -> Result<Response, ApiError> {
    let asked = Asked::of(&app, &q).await?;
    let (send, receive) = tokio::sync::mpsc::channel::<Result<Vec<u8>, std::io::Error>>(4);
    streamed(move |asker| {
        let mut shown = Instant::now();
        let searched = asked.clone();
        let found = searched.search(&mut |best| {
            if send.is_closed() || !asker.waits() {
                return ControlFlow::Break(());
            }
            if shown.elapsed() >= EVERY {
                shown = Instant::now();
                let answer = asked.answer(&best(), 0, false);
                // A reader that is slow gets the next one.
                let _full = line(&answer).map(|l| send.try_send(Ok(l)));
            }
            ControlFlow::Continue(())
        });
        let last = match found {
            Ok(answer) => line(&answer),
            // The question was checked before: nothing is left to refuse.
            Err(_) => None,
        };
        if let Some(last) = last {
            let _gone = send.blocking_send(Ok(last));
        }
    });
    let body = HttpBody::from_stream(ReceiverStream::new(receive));
    Ok(([(header::CONTENT_TYPE, "application/x-ndjson")], body).into_response())
}

fn line(answer: &CombineAnswer) -> Option<Vec<u8>> {
    let mut line = serde_json::to_vec(answer).ok()?;
    line.push(b'\n');
    Some(line)
}

fn go_on(waited_for: bool) -> ControlFlow<()> {
    if waited_for { ControlFlow::Continue(()) } else { ControlFlow::Break(()) }
}

/// A question that makes sense.
#[derive(Clone)]
struct Asked {
    wanted: Wanted,
    stock: Vec<Stock>,
    sources: Vec<Source>,
}

impl Asked {
    async fn of(app: &App, q: &CombineQuestion) -> Result<Self, ApiError> {
        let kind = q.kind;
        let own = |t: Option<f64>| -> Result<Option<Fraction>, ApiError> {
            match t {
                None => Ok(None),
                Some(t) if t > 0.0 && t < 1.0 => Ok(Fraction::new(t).ok()),
                Some(_) => Err(ApiError::field("tolerance", "a tolerance is between 0 and 1: 0.1 is 10 %")),
            }
        };
        let tolerance = own(q.tolerance)?;
        let mut sources = Vec::new();
        let mut stock: Vec<Stock> = match &q.from {
            BuildFrom::Series { series, low, high } => {
                let usual = Fraction::new(usual(*series)).ok();
                let of = |value| Stock { tolerance: tolerance.or(usual), ..Stock::plenty(value) };
                between(*series, *low, *high).into_iter().map(of).collect()
            }
            BuildFrom::Values { values } => {
                values.iter().enumerate().map(|(i, v)| of_value(i, v, tolerance)).collect::<Result<_, _>>()?
            }
            BuildFrom::Drawers { drawers: true } => {
                let of = match kind {
                    Kind::Resistor => PartKind::Resistor,
                    Kind::Capacitor => PartKind::Capacitor,
                };
                let (stock, from) = stock_of(&app.db, of, q.target, MOST_VALUES - 1).await?;
                if stock.is_empty() {
                    return Err(ApiError::field("from", format!("there is no {of} in the drawers")));
                }
                sources = from;
                stock
            }
            BuildFrom::Drawers { drawers: false } => vec![],
        };
        if stock.is_empty() {
            return Err(ApiError::field("from", "there is no value to build from in that range"));
        }
        let pinned = match q.pinned {
            Some(v) if v > 0.0 && v.is_finite() => {
                let least = |a: f64, b: f64| ((a / v).ln().abs()).total_cmp(&(b / v).ln().abs());
                let like = stock.iter().copied().min_by(|a, b| least(a.value, b.value));
                stock.push(Stock { tolerance: like.and_then(|l| l.tolerance), ..Stock::of(v, 1) });
                Some(stock.len() - 1)
            }
            Some(_) => return Err(ApiError::field("pinned", "a value above zero is needed")),
            None => None,
        };
        let rating = q.rating.as_ref();
        let watts = |w: f64| Watt::new(w).map_err(|e| ApiError::field("rating.power", e));
        let volts = |v: f64| Volt::new(v).map_err(|e| ApiError::field("rating.voltage", e));
        let wanted = Wanted {
            kind,
            target: q.target,
            within: q.within,
            max_parts: q.max_parts.unwrap_or(3),
            pinned,
            drive: q.load.as_ref().map(|l| drive(l, "load")).transpose()?,
            power: rating.and_then(|r| r.power).map(watts).transpose()?,
            voltage: rating.and_then(|r| r.voltage).map(volts).transpose()?,
            limit: q.limit.unwrap_or(10),
        };
        // Refused before anything is sent.
        check(&wanted, &stock).map_err(refused)?;
        Ok(Self { wanted, stock, sources })
    }

    fn search(&self, go_on: &mut owl_core::network::search::GoOn<'_>) -> Result<CombineAnswer, ApiError> {
        let found = search_while(&self.wanted, &self.stock, go_on).map_err(refused)?;
        Ok(self.answer(&found.networks, found.searched, found.complete))
    }

    fn answer(&self, networks: &[Found], searched: u64, complete: bool) -> CombineAnswer {
        let of = |n| NetworkView::of(n, self.wanted.kind, self.wanted.drive, |i| self.sources.get(i));
        CombineAnswer { networks: networks.iter().map(of).collect(), searched, complete }
    }
}

fn refused(e: owl_core::network::SearchError) -> ApiError {
    use owl_core::network::SearchError as E;
    let field = match e {
        E::Target => "target",
        E::Parts(_) => "max_parts",
        E::NoValues | E::Value | E::TooMany(_) => "from",
        E::Pinned => "pinned",
        E::Within => "within",
        E::Limit(_) => "limit",
        E::RatingWithoutLoad => "load",
    };
    ApiError::field(field, e)
}

fn of_value(i: usize, v: &StockBody, tolerance: Option<Fraction>) -> Result<Stock, ApiError> {
    let field = |name: &str| format!("from.values[{i}].{name}");
    let own = match v.tolerance {
        Some(t) if t > 0.0 && t < 1.0 => Fraction::new(t).ok(),
        Some(_) => return Err(ApiError::field(field("tolerance"), "a tolerance is between 0 and 1")),
        None => tolerance,
    };
    Ok(Stock {
        value: v.value,
        count: v.count,
        tolerance: own,
        power: v.power.map(Watt::new).transpose().map_err(|e| ApiError::field(field("power"), e))?,
        voltage: v.voltage.map(Volt::new).transpose().map_err(|e| ApiError::field(field("voltage"), e))?,
    })
}

/// The tolerance that goes with a series (IEC 60063).
fn usual(series: Series) -> f64 {
    match series {
        Series::E3 => 0.4,
        Series::E6 => 0.2,
        Series::E12 => 0.1,
        Series::E24 => 0.05,
        Series::E48 => 0.02,
        Series::E96 => 0.01,
        Series::E192 => 0.005,
    }
}

/// What drives a whole.
///
/// # Errors
/// 422 for a number that cannot be.
pub(crate) fn drive(load: &Load, field: &str) -> Result<Drive, ApiError> {
    match load {
        Load::Voltage { voltage } => Volt::new(*voltage)
            .map(Drive::Voltage)
            .map_err(|e| ApiError::field(format!("{field}.voltage"), e)),
        Load::Current { current } => Ampere::new(*current)
            .map(Drive::Current)
            .map_err(|e| ApiError::field(format!("{field}.current"), e)),
    }
}
