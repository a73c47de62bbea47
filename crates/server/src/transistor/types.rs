//! The types: looked up, added, corrected, imported and exported. A row of the table is never changed; a correction
//! stands before it, and goes again when it is removed.

use axum::Json;
use axum::body::Body as HttpBody;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use owl_core::transistor::Device;
use owl_core::transistor::csv::{COLUMNS, header as types_header, read_fields, read_row, write_row};
use owl_core::transistor::device::device;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, HashMap};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use super::sheet::{OutlineView, TypeView};
use crate::app::App;
use crate::aside::aside;
use crate::body::{Body, Id, Query};
use crate::csv_file::{ImportView, Refusal, Rows, rows, whole};
use crate::error::{ApiError, Problem};
use crate::table::device::{self, stock};

/// The outlines that can be drawn, with their leads numbered.
///
/// # Errors
/// None of its own.
#[utoipa::path(get, path = "/api/transistors/packages", tag = "transistors", operation_id = "list_packages",
    responses((status = 200, body = [OutlineView])))]
pub async fn packages() -> Json<Vec<OutlineView>> {
    Json(owl_core::transistor::package::packages().iter().map(OutlineView::numbered).collect())
}

/// Which types.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct TypesQuestion {
    /// The beginning of a number, or words of the usual use.
    #[serde(default)]
    pub search: String,
    /// Only the workshop's own.
    #[serde(default)]
    pub own: bool,
}

/// Types that fit.
#[derive(Debug, Serialize, ToSchema)]
pub struct TypesView {
    /// The first fifty.
    pub types: Vec<TypeView>,
    /// How many there are in all.
    pub in_all: usize,
    /// How many rows are the workshop's own.
    pub own: usize,
}

/// The most types that are listed.
const MOST_LISTED: usize = 50;

/// Lists types by the beginning of their number, then by words of their use.
///
/// # Errors
/// 503 without a database.
#[utoipa::path(get, path = "/api/transistors/types", tag = "transistors", operation_id = "list_types",
    params(TypesQuestion), responses((status = 200, body = TypesView)))]
pub async fn list(
    State(app): State<App>,
    Query(q): Query<TypesQuestion>,
) -> Result<Json<TypesView>, ApiError> {
    let types = app.types.all(&app.db).await?;
    let stocked = stock(&app.db).await?;
    let words: Vec<String> = q
        .search
        .chars()
        .take(60)
        .collect::<String>()
        .to_lowercase()
        .split_whitespace()
        .map(str::to_owned)
        .collect();
    let fits = |d: &Device| {
        let text = format!(
            "{} {} {} {} {}",
            d.type_number,
            d.polarity,
            d.material.map_or("", owl_core::named::Named::name),
            d.package,
            d.usual_use
        )
        .to_lowercase();
        words.iter().all(|w| text.contains(w.as_str()))
    };
    let own = types.devices().iter().filter(|d| types.own(&d.type_number).is_some()).count();
    let mut found: Vec<&Device> = types
        .devices()
        .iter()
        .filter(|d| !q.own || types.own(&d.type_number).is_some())
        .filter(|d| fits(d))
        .collect();
    let begins =
        |d: &Device| words.first().is_some_and(|w| d.type_number.to_lowercase().starts_with(w.as_str()));
    found.sort_by(|a, b| begins(b).cmp(&begins(a)).then_with(|| a.type_number.cmp(&b.type_number)));
    let in_all = found.len();
    let none = vec![];
    let types = found
        .into_iter()
        .take(MOST_LISTED)
        .map(|d| {
            TypeView::of(d, Some(&types), stocked.get(&d.type_number.to_ascii_uppercase()).unwrap_or(&none))
        })
        .collect();
    Ok(Json(TypesView { types, in_all, own }))
}

/// A row of the workshop's own, field by field as it is typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct TypeRow {
    /// By the column of the CSV: `type`, `kind`, `polarity`, `material`, `vcbo`, `vceo`, `vcer`, `vebo`, `ic`, `p`, `p_ref`,
    /// `p_at`, `tj`, `rth`, `hfe_min`, `hfe_max`, `hfe_ic`, `hfe_vce`, `ft`, `cob`, `idss_min`, `idss_max`, `gfs`,
    /// `package`, `pinout`, `leads_vary`, `case`, `use`, `sure`, `source`. Empty is unknown.
    pub fields: BTreeMap<String, String>,
    /// The version of the own row that was seen; null where there was none.
    pub version: Option<i32>,
}

/// The columns of a type as they are typed.
#[derive(Debug, Serialize, ToSchema)]
pub struct TypeFields {
    /// By the column of the CSV.
    pub fields: BTreeMap<String, String>,
    /// As the table has it, where it has that type.
    pub table: Option<BTreeMap<String, String>>,
    /// The version of the own row; null where there is none.
    pub version: Option<i32>,
    /// The id of the own row; null where there is none.
    pub id: Option<Uuid>,
}

fn fields(d: &Device) -> BTreeMap<String, String> {
    COLUMNS.iter().copied().map(str::to_owned).zip(write_row(d)).collect()
}

/// Which type.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct WhichType {
    /// Its number.
    #[serde(rename = "type")]
    pub type_number: String,
}

/// A type as it can be typed: for a form that corrects it.
///
/// # Errors
/// 404 for a type that nobody knows.
#[utoipa::path(get, path = "/api/transistors/types/fields", tag = "transistors", operation_id = "type_fields",
    params(WhichType), responses((status = 200, body = TypeFields), (status = 404, body = Problem)))]
pub async fn typed(State(app): State<App>, Query(q): Query<WhichType>) -> Result<Json<TypeFields>, ApiError> {
    let types = app.types.all(&app.db).await?;
    let d = types
        .meant(&q.type_number)
        .ok_or_else(|| ApiError::NotFound(format!("{} is not in the table", q.type_number)))?;
    let own = types.own(&d.type_number);
    Ok(Json(TypeFields {
        fields: fields(d),
        table: device(&d.type_number).map(fields),
        version: own.map(|(_, v)| v),
        id: own.map(|(id, _)| id),
    }))
}

/// Adds a type, or corrects one; the table's own row is kept.
///
/// # Errors
/// 409 when somebody else changed it since, 422 with the field to blame.
#[utoipa::path(post, path = "/api/transistors/types", tag = "transistors", operation_id = "put_type",
    request_body = TypeRow, responses((status = 200, body = TypeView), (status = 409, body = Problem)))]
pub async fn put(State(app): State<App>, Body(row): Body<TypeRow>) -> Result<Json<TypeView>, ApiError> {
    let get = |column: &'static str| row.fields.get(column).map_or("", String::as_str);
    if let Some(unknown) = row.fields.keys().find(|k| !COLUMNS.contains(&k.as_str())) {
        return Err(ApiError::field(format!("fields.{unknown}"), "there is no such column"));
    }
    let d = read_fields(get).map_err(|e| ApiError::field(format!("fields.{}", e.column), e.why))?;
    let mut tx = app.begin().await?;
    device::hold(&mut tx).await?;
    let now = device::version(&mut tx, &d.type_number).await?;
    if now != row.version {
        let detail = match now {
            Some(_) => format!("the row of {} was changed by someone else: look at it again", d.type_number),
            None => format!("the row of {} was removed by someone else", d.type_number),
        };
        return Err(ApiError::Conflict { detail, changed: vec![] });
    }
    device::put(&mut tx, std::slice::from_ref(&d)).await?;
    tx.commit().await?;
    let types = app.types.all(&app.db).await?;
    let stocked = stock(&app.db).await?;
    let d = types.called(&d.type_number).ok_or_else(|| ApiError::no_such("type"))?;
    let lies = stocked.get(&d.type_number.to_ascii_uppercase()).cloned().unwrap_or_default();
    Ok(Json(TypeView::of(d, Some(&types), &lies)))
}

/// Takes a row of the workshop's own away; the table's, where there is one, counts again.
///
/// # Errors
/// 404.
#[utoipa::path(delete, path = "/api/transistors/types/{id}", tag = "transistors", operation_id = "remove_type",
    params(("id" = Uuid, Path)), responses((status = 204), (status = 404, body = Problem)))]
pub async fn remove(State(app): State<App>, Id(id): Id) -> Result<StatusCode, ApiError> {
    let mut tx = app.begin().await?;
    device::hold(&mut tx).await?;
    device::lock(&mut tx, id).await?;
    device::remove(&mut tx, id).await?;
    tx.commit().await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Takes a file of CSV. A type that is there already among the workshop's own is changed, any other added.
///
/// # Errors
/// 413 for a file that is too large, 422 for one without our header.
#[utoipa::path(post, path = "/api/transistors/types/import", tag = "transistors", operation_id = "import_types",
    request_body(content = String, content_type = "text/csv"), responses((status = 200, body = ImportView)))]
pub async fn import(State(app): State<App>, body: HttpBody) -> Result<Json<ImportView>, ApiError> {
    let bytes = whole(body).await?;
    let read = aside(move || read(&bytes)).await??;
    let mut tx = app.begin().await?;
    device::hold(&mut tx).await?;
    let added = device::put(&mut tx, &read.taken).await?;
    tx.commit().await?;
    Ok(Json(ImportView {
        added,
        changed: read.taken.len() as u64 - added,
        refused: read.refused,
        refused_in_all: read.refused_in_all,
    }))
}

fn read(bytes: &[u8]) -> Result<Rows<Device>, ApiError> {
    let mut seen: HashMap<String, u64> = HashMap::new();
    rows(
        bytes,
        |first| types_header(first.iter().copied()).map_err(|e| e.to_string()),
        |header, fields, line| {
            let d = read_row(header, fields)
                .map_err(|e| Refusal { column: Some(e.column.to_owned()), why: e.why })?;
            match seen.insert(d.type_number.to_ascii_uppercase(), line) {
                Some(first) => Err(Refusal {
                    column: Some("type".to_owned()),
                    why: format!("{} stands on line {first} already", d.type_number),
                }),
                None => Ok(d),
            }
        },
    )
}

/// All types as CSV, or the workshop's own alone.
///
/// # Errors
/// 503 without a database.
#[utoipa::path(get, path = "/api/transistors/types/export", tag = "transistors", operation_id = "export_types",
    params(TypesQuestion), responses((status = 200, content_type = "text/csv", body = String)))]
pub async fn export(State(app): State<App>, Query(q): Query<TypesQuestion>) -> Result<Response, ApiError> {
    let devices: Vec<Device> = if q.own {
        device::own(&app.db).await?.iter().map(device::DeviceRow::device).collect::<Result<_, _>>()?
    } else {
        app.types.all(&app.db).await?.devices().to_vec()
    };
    let internal = |e: String| ApiError::Internal(e);
    let mut writer = csv::Writer::from_writer(vec![]);
    writer.write_record(COLUMNS).map_err(|e| internal(e.to_string()))?;
    for d in &devices {
        writer.write_record(write_row(d)).map_err(|e| internal(e.to_string()))?;
    }
    let bytes = writer.into_inner().map_err(|e| internal(e.to_string()))?;
    let headers = [
        (header::CONTENT_TYPE, "text/csv; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"transistors.csv\""),
    ];
    Ok((headers, bytes).into_response())
}
