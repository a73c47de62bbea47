//! The sockets of a ticket's set with the parts at their pins, and what was read there.

pub mod wire;

use axum::Json;
use axum::extract::State;
use owl_core::chart::spoken::Standing;
use owl_core::site::SocketPoint;
use owl_core::tray::TrayPart;
use owl_core::tray::sockets::{AtPoint, Socket, sockets};
use owl_core::tray::verdict::judged;
use owl_core::verdict::Policy;

use self::wire::{PartOnPin, PinOnBoard, SocketOnBoard, SocketsOnBoard};
use crate::app::App;
use crate::body::Id;
use crate::chart::view::{at, chart_view};
use crate::chart::wire::{VoltageChartView, WhichRuns};
use crate::error::{ApiError, Problem};
use crate::table::chart::{ChartRows, PointRow};
use crate::tray::load::{Loaded, of_ticket};
use crate::tray::uuid;

/// The sockets of the set, valve by valve, each with its parts and the volts that were read last.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/sockets", operation_id = "list_sockets", tag = "chart", params(("id" = Uuid, Path)), responses(
    (status = 200, body = SocketsOnBoard), (status = 404, body = Problem)))]
pub async fn list(State(app): State<App>, Id(id): Id) -> Result<Json<SocketsOnBoard>, ApiError> {
    let mut tx = app.db.snapshot().await?;
    let ticket = crate::table::ticket::find(&mut *tx, id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let chart = crate::table::chart::of_ticket(&mut tx, id).await?;
    let loaded = of_ticket(&mut tx, id).await?;
    let read = chart_view(&ticket, &chart, &WhichRuns::default(), &policy)?;
    let names: Vec<String> = chart.points.iter().map(at).collect();
    let (all, elsewhere) = sockets(&loaded.tray, &standing(&chart, &names));
    let part = |p: &TrayPart| part_on_pin(p, &loaded, &policy);
    Ok(Json(SocketsOnBoard {
        sockets: all.iter().map(|s| socket_view(s, &chart, &read, &part)).collect(),
        elsewhere: elsewhere.into_iter().map(part).collect(),
    }))
}

/// The points of a chart as the core places volts and parts at them; `names` are what each is at.
#[must_use]
pub fn standing<'a>(chart: &'a ChartRows, names: &'a [String]) -> Vec<Standing<'a>> {
    let of = |(p, at): (&'a PointRow, &'a String)| Standing {
        name: &p.name,
        at,
        pin: p.pin.and_then(|n| u8::try_from(n).ok()),
        valve: &p.valve,
        heater: p.heater,
    };
    chart.points.iter().zip(names).map(of).collect()
}

fn socket_view(
    s: &Socket<'_>,
    chart: &ChartRows,
    read: &VoltageChartView,
    part: &dyn Fn(&TrayPart) -> PartOnPin,
) -> SocketOnBoard {
    let pin = |p: &AtPoint<'_>| {
        let row = p.charted.and_then(|i| chart.points.get(i));
        let cell = row.and_then(|r| read.points.iter().find(|v| v.id == r.id));
        let newest = cell.and_then(|v| v.after.as_ref().or(v.before.as_ref()));
        PinOnBoard {
            pin: match p.point {
                SocketPoint::Pin(n) => Some(n),
                SocketPoint::Cap => None,
            },
            role: p.role.map_or_else(String::new, |r| r.name.clone()),
            place: place(&s.at, p),
            heater: p.heater,
            point: row.map(|r| r.id),
            sheet: cell.and_then(|v| v.sheet.clone()),
            volts: newest.map(|c| c.volts.clone()),
            status: newest.map(|c| c.status),
            parts: p.parts.iter().map(|x| part(x)).collect(),
        }
    };
    SocketOnBoard {
        at: s.at.clone(),
        type_number: s.type_number.clone(),
        drawn: s.valve.map(|v| v.name.clone()),
        pins: s.points.iter().map(pin).collect(),
        unplaced: s.unplaced.iter().map(|x| part(x)).collect(),
    }
}

/// What a part at a point is said to sit at: `V3 grid pin 5`.
fn place(at: &str, p: &AtPoint<'_>) -> String {
    let electrode = p.role.and_then(|r| r.electrode).map(|e| e.to_string());
    let pin = match p.point {
        SocketPoint::Pin(n) => Some(format!("pin {n}")),
        SocketPoint::Cap => Some("top cap".to_owned()),
    };
    [Some(at.to_owned()), electrode, pin].into_iter().flatten().collect::<Vec<_>>().join(" ")
}

fn part_on_pin(p: &TrayPart, loaded: &Loaded, policy: &Policy) -> PartOnPin {
    let judged = judged(&loaded.tray, p, policy);
    let amount = |v: Option<f64>| p.kind.quantity().zip(v).map(|(q, v)| crate::amount::Amount::of(q, v));
    PartOnPin {
        id: uuid(p.id),
        name: p.name.clone(),
        kind: p.kind,
        position: p.position,
        place: p.place.clone(),
        marked: amount(p.marked_si.or(p.sheet_si)),
        says: judged.says(),
        status: judged.status.progress.status().0,
        to_measure: judged.to_measure(),
    }
}
