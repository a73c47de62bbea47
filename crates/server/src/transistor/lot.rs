//! Lots that are measured to find pairs: kept, drawn, labelled.

use std::fmt::Write;

use axum::Json;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use owl_core::quantity::{Quantity, read};
use serde::{Deserialize, Serialize};
use sqlx::{PgConnection, PgExecutor};
use utoipa::ToSchema;
use uuid::Uuid;

use super::pairs::{PairStage, PairsAnswer, PairsQuestion, PieceBody, answer};
use crate::amount::Amount;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::name::{GroupSizeName, Name};
use crate::router::App;
use crate::ticket::checked_text;

/// The most pieces of a lot.
const MOST: usize = 500;

/// A lot as it is typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct LotTyped {
    /// Its name.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// The type number.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub type_number: String,
    /// At which collector current it was measured, as typed.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub test_current: String,
    /// The resistor under each emitter of the stage, as typed.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub emitter_resistor: String,
    /// The idle current of each in the stage, as typed.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub idle_current: String,
    /// Its pieces.
    #[schema(max_items = 500)]
    pub pieces: Vec<PieceTyped>,
    /// The version that was seen; null of a new lot.
    pub version: Option<i32>,
}

/// A piece as it is typed.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct PieceTyped {
    /// Its label.
    #[schema(max_length = 20)]
    pub label: String,
    /// Its gain, as typed.
    #[schema(max_length = 20)]
    pub gain: String,
    /// Base to emitter, as typed: 0.612, or 612 for millivolt.
    #[schema(max_length = 20)]
    pub base_volts: String,
}

/// A lot.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct MatchLotView {
    /// Its id.
    pub id: Uuid,
    /// Its version.
    pub version: i32,
    /// Its name.
    pub name: String,
    /// The type number.
    pub type_number: String,
    /// At which collector current it was measured.
    pub test_current: Option<Amount>,
    /// The resistor under each emitter.
    pub emitter_resistor: Option<Amount>,
    /// The idle current of each.
    pub idle_current: Option<Amount>,
    /// Its pieces.
    pub pieces: Vec<MatchPieceView>,
}

/// A piece, with its place in the chart.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct MatchPieceView {
    /// Its label.
    pub label: String,
    /// Its gain.
    pub gain: f64,
    /// Base to emitter, volt.
    pub base_volts: f64,
    /// As it is written.
    pub text: String,
    /// Its place in the chart to the right, 0 to 1: gain.
    pub x: f64,
    /// Its place in the chart upwards, 0 to 1: base volts.
    pub y: f64,
}

/// A lot with its pairs.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct PairedLot {
    /// The lot.
    pub lot: MatchLotView,
    /// Its pairs or quads; null with fewer pieces than one of them needs.
    pub paired: Option<PairsAnswer>,
    /// Marks of the chart: gain.
    pub gain_marks: Vec<ChartMark>,
    /// Marks of the chart: base volts.
    pub volt_marks: Vec<ChartMark>,
}

/// A mark on an axis.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ChartMark {
    /// Where, 0 to 1.
    pub at: f64,
    /// What stands there.
    pub text: String,
}

/// How a lot is paired.
#[derive(Debug, Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct HowPaired {
    /// Pairs where it does not say.
    pub size: Option<GroupSizeName>,
    /// How many; all where it does not say.
    pub count: Option<usize>,
}

struct LotRow {
    id: Uuid,
    version: i32,
    name: String,
    type_number: String,
    test_amperes: Option<f64>,
    emitter_ohms: Option<f64>,
    idle_amperes: Option<f64>,
}

struct PieceRow {
    lot_id: Uuid,
    label: String,
    gain: f64,
    base_volts: f64,
}

async fn rows(db: &mut PgConnection, id: Option<Uuid>) -> Result<Vec<MatchLotView>, ApiError> {
    let lots = sqlx::query_as!(
        LotRow,
        "select id, version, name, type_number, test_amperes, emitter_ohms, idle_amperes from match_lot
         where $1::uuid is null or id = $1 order by lower(name)",
        id
    )
    .fetch_all(&mut *db)
    .await?;
    let pieces = sqlx::query_as!(
        PieceRow,
        "select lot_id, label, gain, base_volts from match_piece where $1::uuid is null or lot_id = $1
         order by lot_id, place",
        id
    )
    .fetch_all(db)
    .await?;
    Ok(lots.iter().map(|l| view(l, &pieces)).collect())
}

/// The span of some numbers, a little wider than they are.
fn span(all: impl Iterator<Item = f64> + Clone, least: f64) -> (f64, f64) {
    let (low, high) = all.fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)));
    if !low.is_finite() {
        return (0.0, 1.0);
    }
    let more = ((high - low) * 0.12).max(least);
    (low - more, high + more)
}

fn view(l: &LotRow, pieces: &[PieceRow]) -> MatchLotView {
    let mine: Vec<&PieceRow> = pieces.iter().filter(|p| p.lot_id == l.id).collect();
    let (g0, g1) = span(mine.iter().map(|p| p.gain), 2.0);
    let (v0, v1) = span(mine.iter().map(|p| p.base_volts), 0.004);
    let amount = |q, v: Option<f64>| v.map(|v| Amount::of(q, v));
    MatchLotView {
        id: l.id,
        version: l.version,
        name: l.name.clone(),
        type_number: l.type_number.clone(),
        test_current: amount(Quantity::Current, l.test_amperes),
        emitter_resistor: amount(Quantity::Resistance, l.emitter_ohms),
        idle_current: amount(Quantity::Current, l.idle_amperes),
        pieces: mine
            .iter()
            .map(|p| MatchPieceView {
                label: p.label.clone(),
                gain: p.gain,
                base_volts: p.base_volts,
                text: format!("{} · {:.0} mV", gain_text(p.gain), p.base_volts * 1e3),
                x: (p.gain - g0) / (g1 - g0),
                y: (p.base_volts - v0) / (v1 - v0),
            })
            .collect(),
    }
}

fn gain_text(gain: f64) -> String {
    if gain < 10.0 { format!("{gain:.1}") } else { format!("{gain:.0}") }
}

/// Round numbers between two ends, some five of them.
fn marks(low: f64, high: f64, text: impl Fn(f64) -> String) -> Vec<ChartMark> {
    let rough = (high - low) / 5.0;
    let decade = 10f64.powf(rough.log10().floor());
    let step = [1.0, 2.0, 5.0, 10.0].iter().map(|m| m * decade).find(|s| *s >= rough).unwrap_or(rough);
    let first = (low / step).ceil();
    (0..12)
        .map(|i| (first + f64::from(i)) * step)
        .take_while(|v| *v <= high)
        .map(|v| ChartMark { at: (v - low) / (high - low), text: text(v) })
        .collect()
}

/// All lots.
///
/// # Errors
/// 503 without a database.
#[utoipa::path(get, path = "/api/transistors/lots", tag = "transistors", operation_id = "list_match_lots",
    responses((status = 200, body = [MatchLotView])))]
pub async fn list(State(app): State<App>) -> Result<Json<Vec<MatchLotView>>, ApiError> {
    let mut tx = app.pool.begin_with("begin isolation level repeatable read read only").await?;
    Ok(Json(rows(&mut tx, None).await?))
}

async fn one(app: &App, id: Uuid) -> Result<MatchLotView, ApiError> {
    let mut tx = app.pool.begin_with("begin isolation level repeatable read read only").await?;
    rows(&mut tx, Some(id)).await?.pop().ok_or_else(|| ApiError::no_such("lot"))
}

fn question(lot: &MatchLotView, how: &HowPaired) -> PairsQuestion {
    let stage = match (&lot.test_current, &lot.emitter_resistor, &lot.idle_current) {
        (Some(t), Some(r), Some(i)) => {
            Some(PairStage { test_current: t.value, emitter_resistor: r.value, idle_current: i.value })
        }
        _ => None,
    };
    PairsQuestion {
        transistors: lot
            .pieces
            .iter()
            .map(|p| PieceBody { id: p.label.clone(), hfe: p.gain, vbe: p.base_volts })
            .collect(),
        count: how.count,
        size: how.size,
        stage,
    }
}

/// A lot with its best pairs or quads.
///
/// # Errors
/// 404, 422 where more pairs are asked for than there can be.
#[utoipa::path(get, path = "/api/transistors/lots/{id}", tag = "transistors", operation_id = "read_match_lot",
    params(("id" = Uuid, Path), HowPaired), responses((status = 200, body = PairedLot), (status = 404, body = Problem)))]
pub async fn read_lot(
    State(app): State<App>,
    Id(id): Id,
    crate::body::Query(how): crate::body::Query<HowPaired>,
) -> Result<Json<PairedLot>, ApiError> {
    let lot = one(&app, id).await?;
    Ok(Json(paired(lot, how).await?))
}

async fn paired(lot: MatchLotView, how: HowPaired) -> Result<PairedLot, ApiError> {
    let quads = how.size == Some(Name(owl_core::transistor::pairs::GroupSize::Quads));
    let enough = lot.pieces.len() >= if quads { 4 } else { 2 };
    let q = question(&lot, &how);
    let found = if enough {
        let found = tokio::task::spawn_blocking(move || answer(&q))
            .await
            .map_err(|e| ApiError::Internal(e.to_string()))??;
        Some(found)
    } else {
        None
    };
    let (g0, g1) = span(lot.pieces.iter().map(|p| p.gain), 2.0);
    let (v0, v1) = span(lot.pieces.iter().map(|p| p.base_volts), 0.004);
    let none = lot.pieces.is_empty();
    Ok(PairedLot {
        gain_marks: if none { vec![] } else { marks(g0, g1, gain_text) },
        volt_marks: if none { vec![] } else { marks(v0, v1, |v| format!("{:.0}", v * 1e3)) },
        lot,
        paired: found,
    })
}

struct Typed {
    test: Option<f64>,
    emitter: Option<f64>,
    idle: Option<f64>,
    pieces: Vec<(String, f64, f64)>,
}

fn typed(l: &LotTyped) -> Result<Typed, ApiError> {
    let amount = |field: &str, q, text: &str, zero: bool| -> Result<Option<f64>, ApiError> {
        let text = text.trim();
        match text {
            "" => Ok(None),
            "0" if zero => Ok(Some(0.0)),
            _ => match read::best(q, text) {
                Ok(v) if v > 0.0 || (zero && v == 0.0) => Ok(Some(v)),
                Ok(_) => Err(ApiError::field(field, "a value above zero is needed")),
                Err(e) => Err(ApiError::field(field, e)),
            },
        }
    };
    if l.pieces.len() > MOST {
        return Err(ApiError::field("pieces", format!("at most {MOST} pieces in a lot")));
    }
    let mut pieces: Vec<(String, f64, f64)> = Vec::new();
    for (i, p) in l.pieces.iter().enumerate() {
        let at = |f: &str| format!("pieces[{i}].{f}");
        let label = checked_text(&at("label"), &p.label, 20)?;
        if label.is_empty() {
            return Err(ApiError::field(at("label"), "each piece needs a label, such as 1 or A"));
        }
        if pieces.iter().any(|(other, _, _)| *other == label) {
            return Err(ApiError::field(at("label"), format!("'{label}' stands there twice")));
        }
        let number = |text: &str| text.trim().replace(',', ".").parse::<f64>().ok();
        let gain = number(&p.gain).filter(|g| *g > 0.0 && *g < 1e6).ok_or_else(|| {
            ApiError::field(at("gain"), format!("'{}' is no gain such as 85", p.gain.trim()))
        })?;
        let volts = match number(&p.base_volts) {
            // A meter that shows 612 means millivolt.
            Some(v) if (50.0..=5000.0).contains(&v) => Some(v / 1000.0),
            Some(v) => Some(v),
            None => read::best(Quantity::Voltage, &p.base_volts).ok(),
        };
        let volts = volts.filter(|v| *v > 0.0 && *v <= 5.0).ok_or_else(|| {
            let why = format!("'{}' is no base voltage such as 0.612 or 612 mV", p.base_volts.trim());
            ApiError::field(at("base_volts"), why)
        })?;
        pieces.push((label, gain, volts));
    }
    Ok(Typed {
        test: amount("test_current", Quantity::Current, &l.test_current, false)?,
        emitter: amount("emitter_resistor", Quantity::Resistance, &l.emitter_resistor, true)?,
        idle: amount("idle_current", Quantity::Current, &l.idle_current, false)?,
        pieces,
    })
}

async fn put_pieces(db: &mut PgConnection, id: Uuid, pieces: &[(String, f64, f64)]) -> Result<(), ApiError> {
    sqlx::query!("delete from match_piece where lot_id = $1", id).execute(&mut *db).await?;
    let labels: Vec<String> = pieces.iter().map(|p| p.0.clone()).collect();
    let gains: Vec<f64> = pieces.iter().map(|p| p.1).collect();
    let volts: Vec<f64> = pieces.iter().map(|p| p.2).collect();
    sqlx::query!(
        "insert into match_piece (lot_id, place, label, gain, base_volts)
         select $1, (n - 1)::integer, l, g, v
         from unnest($2::text[], $3::double precision[], $4::double precision[]) with ordinality as p (l, g, v, n)",
        id,
        &labels,
        &gains,
        &volts
    )
    .execute(db)
    .await?;
    Ok(())
}

fn named(e: sqlx::Error, name: &str) -> ApiError {
    match &e {
        sqlx::Error::Database(d) if d.is_unique_violation() => {
            ApiError::Conflict { detail: format!("there is a lot called '{name}' already"), changed: vec![] }
        }
        _ => ApiError::from(e),
    }
}

/// Keeps a new lot.
///
/// # Errors
/// 409 where the name is taken, 422 with the field to blame.
#[utoipa::path(post, path = "/api/transistors/lots/{id}", tag = "transistors", operation_id = "add_match_lot",
    params(("id" = Uuid, Path)), request_body = LotTyped,
    responses((status = 201, body = PairedLot), (status = 409, body = Problem)))]
pub async fn add(
    State(app): State<App>,
    Id(id): Id,
    Body(l): Body<LotTyped>,
) -> Result<(StatusCode, Json<PairedLot>), ApiError> {
    let name = lot_name(&l)?;
    let type_number = checked_text("type_number", &l.type_number, 40)?;
    let t = typed(&l)?;
    let mut tx = app.pool.begin().await?;
    let new = sqlx::query!(
        "insert into match_lot (id, name, type_number, test_amperes, emitter_ohms, idle_amperes)
         values ($1, $2, $3, $4, $5, $6) on conflict (id) do nothing",
        id,
        name,
        type_number,
        t.test,
        t.emitter,
        t.idle
    )
    .execute(&mut *tx)
    .await
    .map_err(|e| named(e, &name))?;
    if new.rows_affected() == 1 {
        put_pieces(&mut tx, id, &t.pieces).await?;
    }
    tx.commit().await?;
    let lot = one(&app, id).await?;
    Ok((StatusCode::CREATED, Json(paired(lot, HowPaired { size: None, count: None }).await?)))
}

fn lot_name(l: &LotTyped) -> Result<String, ApiError> {
    let name = checked_text("name", &l.name, 60)?;
    if name.is_empty() { Err(ApiError::field("name", "a lot needs a name")) } else { Ok(name) }
}

/// Changes a lot.
///
/// # Errors
/// 404, 409 when somebody else changed it since, 422 with the field to blame.
#[utoipa::path(patch, path = "/api/transistors/lots/{id}", tag = "transistors", operation_id = "change_match_lot",
    params(("id" = Uuid, Path)), request_body = LotTyped,
    responses((status = 200, body = PairedLot), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn change(
    State(app): State<App>,
    Id(id): Id,
    Body(l): Body<LotTyped>,
) -> Result<Json<PairedLot>, ApiError> {
    let name = lot_name(&l)?;
    let type_number = checked_text("type_number", &l.type_number, 40)?;
    let t = typed(&l)?;
    let mut tx = app.pool.begin().await?;
    let now = sqlx::query_scalar!("select version from match_lot where id = $1 for update", id)
        .fetch_optional(&mut *tx)
        .await?
        .ok_or_else(|| ApiError::no_such("lot"))?;
    if Some(now) != l.version {
        let detail = "this lot was changed by someone else: look at it again".to_owned();
        return Err(ApiError::Conflict { detail, changed: vec![] });
    }
    sqlx::query!(
        "update match_lot set name = $2, type_number = $3, test_amperes = $4, emitter_ohms = $5, idle_amperes = $6,
                              version = version + 1, updated_at = now() where id = $1",
        id,
        name,
        type_number,
        t.test,
        t.emitter,
        t.idle
    )
    .execute(&mut *tx)
    .await
    .map_err(|e| named(e, &name))?;
    put_pieces(&mut tx, id, &t.pieces).await?;
    tx.commit().await?;
    let lot = one(&app, id).await?;
    Ok(Json(paired(lot, HowPaired { size: None, count: None }).await?))
}

/// Takes a lot away.
///
/// # Errors
/// 404.
#[utoipa::path(delete, path = "/api/transistors/lots/{id}", tag = "transistors", operation_id = "remove_match_lot",
    params(("id" = Uuid, Path)), responses((status = 204), (status = 404, body = Problem)))]
pub async fn remove(State(app): State<App>, Id(id): Id) -> Result<StatusCode, ApiError> {
    match delete(&app.pool, id).await? {
        0 => Err(ApiError::no_such("lot")),
        _ => Ok(StatusCode::NO_CONTENT),
    }
}

async fn delete(db: impl PgExecutor<'_>, id: Uuid) -> Result<u64, ApiError> {
    Ok(sqlx::query!("delete from match_lot where id = $1", id).execute(db).await?.rows_affected())
}

/// A sheet of labels, as SVG to print and cut: each piece with its numbers and its fellow.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/transistors/lots/{id}/labels", tag = "transistors", operation_id = "match_lot_labels",
    params(("id" = Uuid, Path), HowPaired), responses((status = 200, content_type = "image/svg+xml", body = String),
    (status = 404, body = Problem)))]
pub async fn labels(
    State(app): State<App>,
    Id(id): Id,
    crate::body::Query(how): crate::body::Query<HowPaired>,
) -> Result<Response, ApiError> {
    let found = paired(one(&app, id).await?, how).await?;
    let fellow = |label: &str| -> String {
        let Some(p) = &found.paired else { return String::new() };
        let pair = p.pairs.iter().find(|x| x.a == label || x.b == label);
        let pair = pair.map(|x| format!("with {}", if x.a == label { &x.b } else { &x.a }));
        let quad = p.quads.iter().find(|q| q.members.iter().any(|m| m == label));
        pair.or_else(|| quad.map(|q| format!("quad {}", q.members.join(", ")))).unwrap_or_default()
    };
    let lines: Vec<[String; 3]> = found
        .lot
        .pieces
        .iter()
        .map(|p| {
            let title = format!("{} {}", p.label, found.lot.type_number);
            [title, p.text.clone(), format!("{} {}", fellow(&p.label), found.lot.name)]
        })
        .collect();
    let headers = [
        (header::CONTENT_TYPE, "image/svg+xml; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "inline; filename=\"pairs.svg\""),
    ];
    Ok((headers, crate::drawers::label::labels(&lines)).into_response())
}

/// A lot as CSV.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/transistors/lots/{id}/csv", tag = "transistors", operation_id = "match_lot_csv",
    params(("id" = Uuid, Path)), responses((status = 200, content_type = "text/csv", body = String),
    (status = 404, body = Problem)))]
pub async fn export(State(app): State<App>, Id(id): Id) -> Result<Response, ApiError> {
    let lot = one(&app, id).await?;
    let mut text = "label,gain,base_volts\n".to_owned();
    for p in &lot.pieces {
        let _written = writeln!(text, "\"{}\",{},{}", p.label.replace('"', "\"\""), p.gain, p.base_volts);
    }
    let headers = [
        (header::CONTENT_TYPE, "text/csv; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"lot.csv\""),
    ];
    Ok((headers, text).into_response())
}
