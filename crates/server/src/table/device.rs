//! All SQL of the workshop's own types, and of the pieces of a type in the drawers.

use std::collections::HashMap;

use owl_core::drawers::Condition;
use owl_core::named::Named;
use owl_core::source::Source;
use owl_core::transistor::device::{CaseLead, PowerReference, Sure};
use owl_core::transistor::{Device, DeviceKind, Material, Polarity};
use sqlx::{PgConnection, PgExecutor, QueryBuilder};
use uuid::Uuid;

use super::error::{Row, StoreError};

/// A row of the workshop's own as stored.
#[derive(Debug, Clone, sqlx::FromRow)]
pub struct DeviceRow {
    /// Its id.
    pub id: Uuid,
    /// Its version.
    pub version: i32,
    type_number: String,
    kind: DeviceKind,
    polarity: Polarity,
    material: Option<Material>,
    vcbo: Option<f64>,
    vceo: Option<f64>,
    vcer: Option<f64>,
    vebo: Option<f64>,
    ic: Option<f64>,
    watts: Option<f64>,
    watts_ref: Option<PowerReference>,
    watts_at: Option<f64>,
    tj: Option<f64>,
    rth: Option<f64>,
    hfe_min: Option<f64>,
    hfe_max: Option<f64>,
    hfe_ic: Option<f64>,
    hfe_vce: Option<f64>,
    ft: Option<f64>,
    cob: Option<f64>,
    idss_min: Option<f64>,
    idss_max: Option<f64>,
    gfs: Option<f64>,
    package: String,
    pinout: Option<String>,
    leads_vary: bool,
    case_lead: Option<CaseLead>,
    usual_use: String,
    sure: Sure,
    source: String,
}

const COLUMNS: &str = "id, version, type_number, kind, polarity, material, vcbo, vceo, vcer, vebo, ic, watts, watts_ref, watts_at, \
     tj, rth, hfe_min, hfe_max, hfe_ic, hfe_vce, ft, cob, idss_min, idss_max, gfs, package, pinout, leads_vary, \
     case_lead, usual_use, sure, source";

impl DeviceRow {
    /// The type.
    ///
    /// # Errors
    /// [`StoreError::Broken`] for a row that cannot be.
    pub fn device(&self) -> Result<Device, StoreError> {
        let corrupt = |e: String| StoreError::broken(e);
        Ok(Device {
            type_number: self.type_number.clone(),
            kind: self.kind,
            polarity: self.polarity,
            material: self.material,
            vcbo_volts: self.vcbo,
            vceo_volts: self.vceo,
            vcer_volts: self.vcer,
            vebo_volts: self.vebo,
            ic_amperes: self.ic,
            power_watts: self.watts,
            power_reference: self.watts_ref,
            power_at_celsius: self.watts_at,
            junction_celsius: self.tj,
            rth_kelvin_per_watt: self.rth,
            gain_min: self.hfe_min,
            gain_max: self.hfe_max,
            gain_at_amperes: self.hfe_ic,
            gain_at_volts: self.hfe_vce,
            ft_hertz: self.ft,
            cob_farads: self.cob,
            idss_min_amperes: self.idss_min,
            idss_max_amperes: self.idss_max,
            gfs_siemens: self.gfs,
            package: self.package.clone(),
            pinout: self
                .pinout
                .as_ref()
                .map(|p| p.parse())
                .transpose()
                .map_err(|e| corrupt(format!("{e}")))?,
            leads_vary: self.leads_vary,
            case: self.case_lead,
            usual_use: self.usual_use.clone(),
            sure: self.sure,
            source: self.source.parse::<Source>().map_err(|e| corrupt(e.to_string()))?,
        })
    }
}

/// How often the types have changed.
pub async fn revision(db: impl PgExecutor<'_>) -> Result<i64, StoreError> {
    Ok(sqlx::query_scalar!("select revision from device_revision").fetch_one(db).await?)
}

/// The version of the workshop's row of a type, held until the transaction ends; `None` where there is none.
pub async fn version(db: &mut PgConnection, type_number: &str) -> Result<Option<i32>, StoreError> {
    Ok(sqlx::query_scalar!(
        "select version from device where upper(type_number) = upper($1) for update",
        type_number
    )
    .fetch_optional(db)
    .await?)
}

/// The workshop's own rows of the types that some prints may mean.
pub async fn called(db: &mut PgConnection, prints: &[String]) -> Result<Vec<Device>, StoreError> {
    let mut names: Vec<String> = Vec::new();
    for p in prints {
        let full = p.trim().to_ascii_uppercase();
        let shorter = full.trim_end_matches(|c: char| c.is_ascii_alphabetic() || c == '-').to_owned();
        for n in [&full, &shorter] {
            names.push(n.clone());
            names.push(format!("2S{n}"));
        }
    }
    let mut q = QueryBuilder::new(format!("select {COLUMNS} from device where upper(type_number) = any("));
    q.push_bind(names).push(")");
    let rows: Vec<DeviceRow> = q.build_query_as().fetch_all(db).await?;
    rows.iter().map(DeviceRow::device).collect()
}

/// Holds the types until the transaction ends. Whoever changes them does this first, so that two imports of the same
/// types wait for each other and never across.
pub async fn hold(db: &mut PgConnection) -> Result<(), StoreError> {
    sqlx::query!("select revision from device_revision for update").fetch_one(db).await?;
    Ok(())
}

/// One row, held until the transaction ends.
pub async fn lock(db: &mut PgConnection, id: Uuid) -> Result<DeviceRow, StoreError> {
    let mut q = QueryBuilder::new(format!("select {COLUMNS} from device where id = "));
    q.push_bind(id).push(" for update");
    q.build_query_as().fetch_optional(db).await?.ok_or_else(|| StoreError::Gone(Row::Device))
}

/// All rows of the workshop's own.
pub async fn own(db: impl PgExecutor<'_>) -> Result<Vec<DeviceRow>, StoreError> {
    let mut q = QueryBuilder::new(format!("select {COLUMNS} from device order by type_number"));
    Ok(q.build_query_as().fetch_all(db).await?)
}

/// Adds rows or, where there is one of that type, changes it; says how many were new.
pub async fn put(db: &mut PgConnection, types: &[Device]) -> Result<u64, StoreError> {
    let mut added = 0;
    // PostgreSQL takes 65,535 values in a statement.
    for some in types.chunks(2000) {
        let mut q = QueryBuilder::new(
            "insert into device (id, type_number, kind, polarity, material, vcbo, vceo, vcer, vebo, ic, watts, watts_ref, \
             watts_at, tj, rth, hfe_min, hfe_max, hfe_ic, hfe_vce, ft, cob, idss_min, idss_max, gfs, package, pinout, \
             leads_vary, case_lead, usual_use, sure, source) ",
        );
        q.push_values(some, |mut row, d| {
            row.push_bind(Uuid::now_v7())
                .push_bind(d.type_number.clone())
                .push_bind(d.kind)
                .push_bind(d.polarity)
                .push_bind(d.material)
                .push_bind(d.vcbo_volts)
                .push_bind(d.vceo_volts)
                .push_bind(d.vcer_volts)
                .push_bind(d.vebo_volts)
                .push_bind(d.ic_amperes)
                .push_bind(d.power_watts)
                .push_bind(d.power_reference)
                .push_bind(d.power_at_celsius)
                .push_bind(d.junction_celsius)
                .push_bind(d.rth_kelvin_per_watt)
                .push_bind(d.gain_min)
                .push_bind(d.gain_max)
                .push_bind(d.gain_at_amperes)
                .push_bind(d.gain_at_volts)
                .push_bind(d.ft_hertz)
                .push_bind(d.cob_farads)
                .push_bind(d.idss_min_amperes)
                .push_bind(d.idss_max_amperes)
                .push_bind(d.gfs_siemens)
                .push_bind(d.package.clone())
                .push_bind(d.pinout.map(|p| p.to_string()))
                .push_bind(d.leads_vary)
                .push_bind(d.case)
                .push_bind(d.usual_use.clone())
                .push_bind(d.sure)
                .push_bind(format!("{}: {}", d.source.kind.name(), d.source.clause));
        });
        q.push(
            " on conflict (upper(type_number)) do update set type_number = excluded.type_number, \
             kind = excluded.kind, polarity = excluded.polarity, material = excluded.material, vcbo = excluded.vcbo, \
             vceo = excluded.vceo, vcer = excluded.vcer, vebo = excluded.vebo, ic = excluded.ic, watts = excluded.watts, \
             watts_ref = excluded.watts_ref, watts_at = excluded.watts_at, tj = excluded.tj, rth = excluded.rth, \
             hfe_min = excluded.hfe_min, hfe_max = excluded.hfe_max, hfe_ic = excluded.hfe_ic, \
             hfe_vce = excluded.hfe_vce, ft = excluded.ft, cob = excluded.cob, idss_min = excluded.idss_min, \
             idss_max = excluded.idss_max, gfs = excluded.gfs, package = excluded.package, \
             pinout = excluded.pinout, leads_vary = excluded.leads_vary, case_lead = excluded.case_lead, usual_use = excluded.usual_use, \
             sure = excluded.sure, source = excluded.source returning (xmax = 0)",
        );
        let new: Vec<bool> = q.build_query_scalar().fetch_all(&mut *db).await?;
        added += new.iter().filter(|n| **n).count() as u64;
    }
    Ok(added)
}

/// Takes a row away; the table's own, where there is one, counts again.
pub async fn remove(db: &mut PgConnection, id: Uuid) -> Result<(), StoreError> {
    sqlx::query!("delete from device where id = $1", id).execute(db).await?;
    Ok(())
}

/// How many of each type lie in the drawers, and where; by the type number in capitals.
pub async fn stock(db: impl PgExecutor<'_>) -> Result<HashMap<String, Vec<Stocked>>, StoreError> {
    let rows = sqlx::query_as!(
        Stocked,
        r#"select id as lot, upper(type_number) as "type_number!", count, place, condition from lot
           where kind in ('transistor', 'diode', 'integrated circuit') and count > 0 and type_number <> ''
           order by condition in ('new', 'old stock, tested') desc, count desc"#
    )
    .fetch_all(db)
    .await?;
    let mut out: HashMap<String, Vec<Stocked>> = HashMap::new();
    for row in rows {
        out.entry(row.type_number.clone()).or_default().push(row);
    }
    Ok(out)
}

/// Pieces of a type in a drawer.
#[derive(Debug, Clone)]
pub struct Stocked {
    /// The lot.
    pub lot: Uuid,
    /// The type number in capitals.
    pub type_number: String,
    /// How many.
    pub count: i32,
    /// Where.
    pub place: String,
    /// In which condition.
    pub condition: Condition,
}
