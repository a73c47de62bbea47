//! The sockets of a set with the parts at their pins: which parts hang on a valve, and on which of its pins.

use super::{Tray, TrayPart};
use crate::chart::spoken::Standing;
use crate::say::sites;
use crate::site::{Site, SocketPoint};
use crate::socket::{PinRole, Valve, valve};

/// A socket with what hangs on it.
#[derive(Debug, Clone)]
pub struct Socket<'a> {
    /// The valve or the transistor: `V3`.
    pub at: String,
    /// Its type as the chart has it, or else as the transistor on the tray; empty where nobody said it.
    pub type_number: String,
    /// Its drawing, where the type is in the table.
    pub valve: Option<&'static Valve>,
    /// Its points in the order in which they are probed.
    pub points: Vec<AtPoint<'a>>,
    /// Parts that hang on it at a point that nobody said.
    pub unplaced: Vec<&'a TrayPart>,
}

/// A point of a socket with what hangs on it.
#[derive(Debug, Clone)]
pub struct AtPoint<'a> {
    /// Which.
    pub point: SocketPoint,
    /// What it is, where the type is known.
    pub role: Option<&'static PinRole>,
    /// Whether it is looked at last: a heater.
    pub heater: bool,
    /// Its place in what was charted.
    pub charted: Option<usize>,
    /// The parts.
    pub parts: Vec<&'a TrayPart>,
}

/// The sockets of a set, valve by valve, and the parts that hang on none.
#[must_use]
pub fn sockets<'a>(tray: &'a Tray, charted: &[Standing<'_>]) -> (Vec<Socket<'a>>, Vec<&'a TrayPart>) {
    let placed: Vec<(&TrayPart, Vec<Site>)> =
        tray.parts().iter().map(|p| (p, sites(p.kind, &p.place, p.position))).collect();
    let named = placed.iter().flat_map(|(_, s)| s).filter_map(|s| s.valve_and_half()).map(|(v, _)| v);
    let mut names: Vec<String> =
        charted.iter().filter(|c| c.pin.is_some()).map(|c| c.at.to_uppercase()).collect();
    names.extend(named.map(str::to_owned));
    names.sort_by_key(|n| Site { valve: Some(n.clone()), electrode: None, pin: None }.order_key());
    names.dedup();
    let all = names.into_iter().map(|at| socket(at, tray, &placed, charted)).collect();
    let elsewhere = placed.iter().filter(|(_, s)| s.is_empty()).map(|(p, _)| *p).collect();
    (all, elsewhere)
}

fn socket<'a>(
    at: String,
    tray: &'a Tray,
    placed: &[(&'a TrayPart, Vec<Site>)],
    charted: &[Standing<'_>],
) -> Socket<'a> {
    let in_chart = || charted.iter().enumerate().filter(|(_, c)| c.at.eq_ignore_ascii_case(&at));
    let on_tray = || tray.parts().iter().find(|p| p.name == at).and_then(TrayPart::installed_type);
    let of_chart = in_chart().map(|(_, c)| c.valve).find(|t| !t.is_empty());
    let type_number = of_chart.or_else(on_tray).unwrap_or_default().to_owned();
    let kind = valve(&type_number);
    let mut points: Vec<AtPoint<'a>> = Vec::new();
    let mut point = |which: SocketPoint, role: Option<&'static PinRole>| {
        let there = points.iter().position(|p| p.point == which);
        there.unwrap_or_else(|| {
            let pin = match which {
                SocketPoint::Pin(n) => Some(n),
                SocketPoint::Cap => None,
            };
            let charted = in_chart().find(|(_, c)| c.pin == pin);
            let heater = charted.map_or_else(|| role.is_some_and(PinRole::is_heater), |(_, c)| c.heater);
            let charted = charted.map(|(i, _)| i);
            points.push(AtPoint { point: which, role, heater, charted, parts: vec![] });
            points.len() - 1
        })
    };
    for (pin, role) in kind.map(Valve::in_probing_order).unwrap_or_default() {
        point(SocketPoint::Pin(pin), Some(role));
    }
    if let Some(cap) = kind.and_then(|v| v.cap) {
        point(SocketPoint::Cap, Some(cap));
    }
    for (_, c) in in_chart() {
        if let Some(pin) = c.pin {
            point(SocketPoint::Pin(pin), kind.and_then(|v| v.role(pin)));
        }
    }
    let mut hangs: Vec<(usize, &'a TrayPart)> = Vec::new();
    let mut unplaced = Vec::new();
    for (part, sites) in placed {
        for site in sites.iter().filter(|s| s.is_at(&at)) {
            let on = kind.and_then(|v| site.on(v)).or(site.pin.map(SocketPoint::Pin));
            match on {
                Some(which) => hangs.push((point(which, None), part)),
                None => unplaced.push(*part),
            }
        }
    }
    for (i, part) in hangs {
        points[i].parts.push(part);
    }
    Socket { at, type_number, valve: kind, points, unplaced }
}
