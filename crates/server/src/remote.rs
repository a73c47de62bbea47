//! Taking a reading from an instrument that answers on the network. Only addresses that a person entered in
//! Instruments are asked; a request names an instrument, never an address. What comes in fills the form: a person looks
//! at it and takes it.

use axum::Json;
use axum::extract::State;
use owl_core::named::Named;
use owl_core::quantity::{Hertz, Quantity, Volt};
use owl_core::reading::{Mode, ReadQuantity, Setting, Shown, State as PartState};
use owl_instruments::address::Address;
use owl_instruments::meter::{self, Laid, Taken};
use owl_instruments::question::Measure;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::amount::typed_optional;
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::instrument::{InstrumentRow, WayRow, instruments, ways};

/// A reading to be taken from an instrument.
#[derive(Debug, Deserialize, ToSchema)]
pub struct TakeFrom {
    /// Which of the workshop's ways.
    pub way: Uuid,
    /// How the part sits.
    pub state: owl_core::reading::State,
    /// Whether it is hot.
    #[serde(default)]
    pub hot: bool,
    /// At which frequency, as typed; that of the way where it does not say.
    #[schema(max_length = 40)]
    pub test_frequency: Option<String>,
}

/// What an instrument showed, as it would be typed.
#[derive(Debug, Serialize, ToSchema)]
pub struct FromMeter {
    /// What it showed: `71.4 kΩ`, `OL`.
    pub typed: String,
    /// The way in which it says that it measured: another one of the same instrument where its switch stands otherwise.
    pub way: Uuid,
    /// At which voltage it says that it measured, as it would be typed.
    pub test_voltage: Option<String>,
    /// At which frequency it says that it measured, as it would be typed.
    pub test_frequency: Option<String>,
    /// How its switch stands.
    pub setting: Option<Setting>,
    /// What it calls itself.
    pub identity: String,
    /// What was taken, in a sentence.
    pub words: String,
}

/// What a reforming supply's meter showed, as it would be typed.
#[derive(Debug, Serialize, ToSchema)]
pub struct FromSupply {
    /// Volts across the part.
    pub volts: String,
    /// Current into it.
    pub current: String,
    /// What it calls itself.
    pub identity: String,
}

/// An instrument at the other end.
#[derive(Debug, Serialize, ToSchema)]
pub struct Identity {
    /// What it calls itself.
    pub identity: String,
}

/// Where an instrument is.
fn address_of(app: &App, i: &InstrumentRow) -> Result<Address, ApiError> {
    let text = i.address.as_deref().ok_or_else(|| {
        ApiError::field(
            "instrument",
            format!("{} has no address: enter it in the workshop's instruments", i.name),
        )
    })?;
    let address = text.parse().map_err(|e| ApiError::Internal(format!("stored address: {e}")))?;
    app.may_ask(address).map_err(|why| ApiError::field("instrument", why))?;
    Ok(address)
}

fn refused(name: &str, e: &meter::MeterError) -> ApiError {
    ApiError::field("instrument", format!("{name}: {e}"))
}

/// Takes a reading from an instrument, to be looked at: nothing is recorded.
///
/// # Errors
/// 404, 422 in words that say where to look.
#[utoipa::path(post, path = "/api/parts/{id}/meter", operation_id = "take_from_meter", tag = "parts",
    params(("id" = Uuid, Path)), request_body = TakeFrom,
    responses((status = 200, body = FromMeter), (status = 404, body = Problem)))]
pub async fn take(
    State(app): State<App>,
    Id(part_id): Id,
    Body(q): Body<TakeFrom>,
) -> Result<Json<FromMeter>, ApiError> {
    let part = crate::table::part::find(&app.db, part_id).await?;
    let ticket = crate::table::ticket::find(&app.db, part.ticket_id).await?;
    let all = ways(&app.db).await?;
    let row = all
        .iter()
        .find(|w| w.id == q.way)
        .ok_or_else(|| ApiError::field("way", "the workshop has no such way to measure"))?;
    let instrument = instruments(&app.db)
        .await?
        .into_iter()
        .find(|i| i.id == row.instrument_id)
        .ok_or_else(|| ApiError::no_such("instrument"))?;
    let way = row.way()?;
    let typed = typed_optional(Quantity::Frequency, q.test_frequency.as_deref())
        .and_then(|v| v.map(Hertz::new).transpose().map_err(|e| e.to_string()))
        .map_err(|e| ApiError::field("test_frequency", e))?;
    let measure =
        Measure::Part { quantity: way.quantity, mode: way.mode, frequency: typed.or(way.test_frequency) };
    let laid =
        Laid { part: format!("{}/{}", ticket.name, part.name), state: connection(q.state), hot: q.hot };
    let address = address_of(&app, &instrument)?;
    let taken =
        meter::read(address, measure, Some(&laid)).await.map_err(|e| refused(&instrument.name, &e))?;
    Ok(Json(FromMeter::of(&taken, &way, row, &all, &instrument.name)?))
}

fn connection(state: PartState) -> &'static str {
    match state {
        PartState::InCircuit => "CIRC",
        PartState::ValvePulled => "PULL",
        PartState::Lifted => "LIFT",
        PartState::OutOfCircuit => "OUT",
    }
}

impl FromMeter {
    fn of(
        taken: &Taken,
        way: &owl_core::reading::MeterFunction,
        row: &WayRow,
        all: &[WayRow],
        instrument: &str,
    ) -> Result<Self, ApiError> {
        let typed = match taken.shown {
            Shown::Value { si } => plain(way.quantity, si),
            Shown::Overrange { .. } => "OL".to_owned(),
        };
        // Its switch decides, not what somebody thought that it was.
        let same = |w: &&WayRow| {
            w.instrument_id == row.instrument_id
                && w.quantity == row.quantity
                && taken.setting.is_some_and(|s| w.setting == Some(s))
        };
        let as_it_stands = all.iter().find(same).map_or(row.id, |w| w.id);
        let mode = row.mode;
        let volts = taken.voltage.map(|v| v.to_string());
        let hertz = taken.frequency.map(|f| f.to_string());
        let at = [hertz.clone(), volts.clone(), taken.setting.map(|s| format!("switch on {s}"))];
        let how: Vec<String> = at.into_iter().flatten().collect();
        let how = if how.is_empty() { mode.name().to_owned() } else { how.join(", ") };
        Ok(Self {
            words: format!("{instrument} shows {typed} ({how}). Look at it, then take it."),
            typed,
            way: as_it_stands,
            test_voltage: volts,
            test_frequency: hertz,
            setting: taken.setting,
            identity: taken.identity.clone(),
        })
    }
}

/// A value as it is written and can be typed again.
fn plain(quantity: ReadQuantity, si: f64) -> String {
    quantity.written(si).replace('\u{202f}', "").replace('−', "-")
}

/// A piece of a lot that lies in the transistor tester.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PieceInTester {
    /// The lot's name.
    #[schema(max_length = 60)]
    pub lot: String,
    /// The piece's label.
    #[schema(max_length = 20)]
    pub label: String,
}

/// What the transistor tester showed of a piece, as it would be typed.
#[derive(Debug, Serialize, ToSchema)]
pub struct FromTester {
    /// Its gain.
    pub gain: String,
    /// Base to emitter.
    pub base_volts: String,
    /// What the tester calls itself.
    pub identity: String,
}

/// Reads gain and base volts of a piece of a lot from the transistor tester, to be looked at: nothing is recorded.
///
/// # Errors
/// 422 in words that say where to look.
#[utoipa::path(post, path = "/api/transistors/measure", operation_id = "measure_piece", tag = "transistors",
    request_body = PieceInTester, responses((status = 200, body = FromTester)))]
pub async fn piece(
    State(app): State<App>,
    Body(q): Body<PieceInTester>,
) -> Result<Json<FromTester>, ApiError> {
    let kind = owl_core::reading::InstrumentKind::TransistorTester;
    let instrument = with_address(&app, kind).await?;
    let address = address_of(&app, &instrument)?;
    let laid = Laid { part: format!("{}/{}", q.lot.trim(), q.label.trim()), state: "OUT", hot: false };
    let mut identity = String::new();
    let mut shown = Vec::new();
    for quantity in [ReadQuantity::Gain, ReadQuantity::ForwardVoltage] {
        let what = Measure::Part { quantity, mode: Mode::Dc, frequency: None };
        let taken =
            meter::read(address, what, Some(&laid)).await.map_err(|e| refused(&instrument.name, &e))?;
        match taken.shown {
            Shown::Value { si } => shown.push(plain(quantity, si)),
            Shown::Overrange { .. } => {
                let why = format!("{} shows nothing: is {} in its socket?", instrument.name, q.label.trim());
                return Err(ApiError::field("label", why));
            }
        }
        identity = taken.identity;
    }
    let base_volts = shown.pop().unwrap_or_default();
    Ok(Json(FromTester { gain: shown.pop().unwrap_or_default(), base_volts, identity }))
}

/// The first instrument of a kind that is in use and has an address.
async fn with_address(app: &App, kind: owl_core::reading::InstrumentKind) -> Result<InstrumentRow, ApiError> {
    instruments(&app.db)
        .await?
        .into_iter()
        .find(|i| i.kind == kind && !i.retired && i.address.is_some())
        .ok_or_else(|| {
            let why = format!("no {kind} has an address: enter it in the workshop's instruments");
            ApiError::field("instrument", why)
        })
}

/// Reads volts and current from the reforming supply, to be looked at: nothing is recorded. It is never set.
///
/// # Errors
/// 404, 422 in words that say where to look.
#[utoipa::path(post, path = "/api/reform/runs/{id}/supply", operation_id = "read_supply", tag = "reforming",
    params(("id" = Uuid, Path)), responses((status = 200, body = FromSupply), (status = 404, body = Problem)))]
pub async fn supply(State(app): State<App>, Id(id): Id) -> Result<Json<FromSupply>, ApiError> {
    let run = crate::table::reform::find(&app.db, id).await?;
    let instrument = with_address(&app, owl_core::reading::InstrumentKind::ReformingSupply).await?;
    let laid = Laid { part: format!("{}/{}", run.set, run.part), state: "OUT", hot: false };
    let address = address_of(&app, &instrument)?;
    let ask = async |what| {
        let taken =
            meter::read(address, what, Some(&laid)).await.map_err(|e| refused(&instrument.name, &e))?;
        match taken.shown {
            Shown::Value { si } => Ok((si, taken.identity)),
            Shown::Overrange { .. } => {
                Err(ApiError::field("instrument", format!("{} is beyond its range", instrument.name)))
            }
        }
    };
    let (volts, identity) = ask(Measure::Volts).await?;
    let (amperes, _) = ask(Measure::Current).await?;
    let text = |v: String| v.replace('−', "-");
    Ok(Json(FromSupply {
        volts: text(Volt::new(volts).map_err(|e| ApiError::field("volts", e))?.to_string()),
        current: text(owl_core::quantity::format::format(Quantity::Current, amperes).to_string()),
        identity,
    }))
}

/// Asks an instrument what it calls itself: whether its address is right.
///
/// # Errors
/// 404, 422 in words that say where to look.
#[utoipa::path(post, path = "/api/instruments/{id}/identify", operation_id = "identify_instrument", tag = "workshop",
    params(("id" = Uuid, Path)), responses((status = 200, body = Identity), (status = 404, body = Problem)))]
pub async fn identify(State(app): State<App>, Id(id): Id) -> Result<Json<Identity>, ApiError> {
    let instrument = instruments(&app.db)
        .await?
        .into_iter()
        .find(|i| i.id == id)
        .ok_or_else(|| ApiError::no_such("instrument"))?;
    let identity =
        meter::identify(address_of(&app, &instrument)?).await.map_err(|e| refused(&instrument.name, &e))?;
    Ok(Json(Identity { identity }))
}
