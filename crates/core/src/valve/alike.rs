//! Which valve takes another's place, and what becomes different; and the adapter between two bases, pin by pin.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::named;
use crate::socket::names::{bare, names_of, without_bulb};
use crate::socket::{self, PinRole};
use crate::source::Source;
use crate::table::rows;

named! {
    /// How far two types are alike.
    "likeness of valves" Likeness {
        /// Alike but for the heater.
        Heater = "heater",
        /// Alike but for the base: an adapter, or another socket.
        Base = "base",
        /// The same pins, and something in the stage becomes different.
        Characteristics = "characteristics",
        /// It looks as if, and must not.
        Never = "never",
    }
}

/// That one valve may take another's place, or must not.
#[derive(Debug, Clone, PartialEq, Deserialize)]
pub struct Alike {
    /// The one that goes.
    #[serde(rename = "type")]
    pub old: String,
    /// The one that would go in.
    pub other: String,
    /// How far they are alike.
    pub how: Likeness,
    /// What becomes different.
    pub changes: String,
    /// Where that comes from.
    pub source: Source,
}

static ALL: LazyLock<Vec<Alike>> =
    LazyLock::new(|| rows("valve_alike.csv", include_str!("../../data/valve_alike.csv")));

/// Every row.
#[must_use]
pub fn alike() -> &'static [Alike] {
    &ALL
}

/// What is known of `new` in the place of `old`, under any of their names; `None` where no row says anything.
#[must_use]
pub fn between(old: &str, new: &str) -> Option<&'static Alike> {
    let all = |typed: &str| {
        let short = without_bulb(typed);
        let mut names = vec![bare(typed), short.clone()];
        names.extend(names_of(&short).into_iter().map(str::to_owned));
        names
    };
    let (old, new) = (all(old), all(new));
    let row = |a: &&Alike| old.contains(&a.old) && new.contains(&a.other);
    ALL.iter().find(row)
}

/// What may take the place of `old`, under its other names first; what must not stands among it.
#[must_use]
pub fn others(old: &str) -> Vec<&'static str> {
    let short = without_bulb(old);
    let mut names = names_of(&short);
    let mut olds: Vec<&str> = vec![&short];
    olds.extend(names.iter().copied());
    names.extend(ALL.iter().filter(|a| olds.contains(&a.old.as_str())).map(|a| a.other.as_str()));
    let mut seen = std::collections::HashSet::new();
    names.retain(|n| seen.insert(*n));
    names
}

/// One wire of an adapter.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Wire {
    /// What it leads to.
    pub role: &'static str,
    /// The pin of the socket in the set; none for the cap's wire.
    pub socket: Option<u8>,
    /// The pin of the valve that goes in; none for its cap.
    pub valve: Option<u8>,
}

/// The wires from the old valve's socket to the new valve's pins; `None` where the pins of either are not known, or one
/// of them needs what the other does not have.
///
/// ```
/// use owl_core::valve::alike::adapter;
/// let wires = adapter("6V6", "6AQ5").unwrap();
/// assert!(wires.iter().any(|w| w.role == "cathode" && w.socket == Some(8) && w.valve == Some(2)));
/// ```
#[must_use]
pub fn adapter(old: &str, new: &str) -> Option<Vec<Wire>> {
    let (old, new) = (socket::valve(old)?, socket::valve(new)?);
    let led = |v: &socket::Valve| -> Vec<(Option<u8>, &'static PinRole)> {
        let reads = |r: &PinRole| !matches!(r.code.as_str(), "ic" | "s");
        let pins = v.pins.iter().filter(|(_, r)| reads(r)).map(|(n, r)| (Some(*n), *r));
        pins.chain(v.cap.map(|r| (None, r))).collect()
    };
    let mut left = led(old);
    let mut wires = Vec::new();
    for (pin, role) in led(new) {
        let at = left.iter().position(|(_, r)| r.code == role.code);
        match at {
            Some(at) => {
                let (socket, _) = left.remove(at);
                wires.push(Wire { role: &role.name, socket, valve: pin });
            }
            // A second pin of what is led already: the same point of the socket.
            None if wires.iter().any(|w| w.role == role.name) => {
                let socket = wires.iter().find(|w| w.role == role.name).and_then(|w| w.socket);
                wires.push(Wire { role: &role.name, socket, valve: pin });
            }
            // A suppressor that the old one joined to its cathode inside.
            None if role.code == "g3" => {
                let socket = led(old).iter().find(|(_, r)| r.code == "k").and_then(|(n, _)| *n);
                wires.push(Wire { role: &role.name, socket, valve: pin });
            }
            None => return None,
        }
    }
    // What the old one had besides is left free only where it is no electrode of its own.
    let doubles = |role: &PinRole| wires.iter().any(|w| w.role == role.name);
    left.iter().all(|(_, r)| doubles(r) || r.code == "g3").then_some(wires)
}
