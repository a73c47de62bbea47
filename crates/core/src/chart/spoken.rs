//! Volts that were said of a valve, brought to the points of the chart.

use crate::quantity::Volt;
use crate::site::{Site, SocketPoint};
use crate::socket::valve;

/// Volts at the pins of a valve.
#[derive(Debug, Clone, PartialEq)]
pub enum Volts {
    /// In the order in which they are probed; `None` is passed over.
    InOrder(Vec<Option<Volt>>),
    /// Each with its electrode or pin.
    At(Vec<(Site, Volt)>),
}

/// A point of the chart, as far as its place goes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Standing<'a> {
    /// What it is called: `V2 pin 7`.
    pub name: &'a str,
    /// The valve or the node: `V2`.
    pub at: &'a str,
    /// The pin.
    pub pin: Option<u8>,
    /// The type of the valve there.
    pub valve: &'a str,
    /// Whether heater volts stand there.
    pub heater: bool,
}

/// Why volts find no point.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum Astray {
    /// A valve that is not in the chart.
    #[error("{0} is not in the chart yet: say its type first, such as {0} EF89")]
    NoValve(String),
    /// More volts than the valve has pins that are read.
    #[error("{said} numbers for {at}, and it has {} pins that are read: {}", .pins.len(), .pins.join(", "))]
    TooMany {
        /// The valve.
        at: String,
        /// How many were said.
        said: usize,
        /// Its pins in the order in which they are probed.
        pins: Vec<String>,
    },
    /// A place that it does not have, or two of.
    #[error("which pin of {at} is its {place}? Say the pin; read are {}", .pins.join(", "))]
    WhichPin {
        /// The valve.
        at: String,
        /// As it was said.
        place: String,
        /// Its pins.
        pins: Vec<String>,
    },
}

impl Standing<'_> {
    /// What it is, with its pin: `plate, pin 7`.
    fn called(&self) -> String {
        let role = self.pin.and_then(|pin| Some(valve(self.valve)?.role(pin)?.name.clone()));
        match (role, self.pin) {
            (Some(role), Some(pin)) => format!("{role} at pin {pin}"),
            _ => self.name.to_owned(),
        }
    }
}

/// The places in `points` at which volts that were said of the valve `at` belong, each with its volts. Those in a row go to
/// what is read of it in the chart's order, heaters left out.
///
/// # Errors
/// [`Astray`] in words.
pub fn placed(points: &[Standing<'_>], at: &str, volts: &Volts) -> Result<Vec<(usize, Volt)>, Astray> {
    let own: Vec<(usize, &Standing<'_>)> =
        points.iter().enumerate().filter(|(_, p)| p.at.eq_ignore_ascii_case(at)).collect();
    let read: Vec<_> = own.iter().filter(|(_, p)| !p.heater).collect();
    let pins = || read.iter().map(|(_, p)| p.called()).collect();
    if own.is_empty() {
        return Err(Astray::NoValve(at.to_owned()));
    }
    match volts {
        Volts::InOrder(all) if all.len() > read.len() => {
            Err(Astray::TooMany { at: at.to_owned(), said: all.len(), pins: pins() })
        }
        Volts::InOrder(all) => Ok(read.iter().zip(all).filter_map(|((i, _), v)| Some((*i, (*v)?))).collect()),
        Volts::At(all) => all
            .iter()
            .map(|(site, v)| {
                let of_type = own.iter().find_map(|(_, p)| valve(p.valve)).and_then(|t| site.on(t));
                let point = of_type.or(site.pin.map(SocketPoint::Pin));
                let found = own.iter().find(|(_, p)| match point {
                    Some(SocketPoint::Pin(n)) => p.pin == Some(n),
                    Some(SocketPoint::Cap) => p.pin.is_none(),
                    None => false,
                });
                let place = || {
                    let pin = site.pin.map(|n| format!("pin {n}"));
                    site.electrode.map(|e| e.to_string()).or(pin).unwrap_or_default()
                };
                found.map(|(i, _)| (*i, *v)).ok_or_else(|| Astray::WhichPin {
                    at: at.to_owned(),
                    place: place(),
                    pins: pins(),
                })
            })
            .collect(),
    }
}
