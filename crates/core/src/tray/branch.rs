//! What a tray knows of connections: parts that were said to be fed by a resistor, as a supply branch told a part a
//! line.

use super::{Tray, TrayPart};
use crate::feed::RAIL;
use crate::part::{Fact, PartKind};
use crate::quantity::format::format;
use crate::quantity::{Ohm, Quantity, Volt};
use crate::reading::ReadQuantity;

/// A supply branch as the tray knows it.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Branch {
    /// A part a line, as the branch is typed.
    pub lines: Vec<String>,
    /// The rail, where a part says it.
    pub rail: Option<Volt>,
    /// Nodes with the volts that they should have.
    pub nodes: Vec<(String, Volt)>,
}

/// The resistors of the tray as they were read with an end free. Not of places in which something was fitted: the volts may be
/// of what sat there before.
#[must_use]
pub fn as_read(tray: &Tray) -> Vec<(String, Ohm)> {
    let as_found = tray.parts().iter().filter(|p| p.kind == PartKind::Resistor && p.fitting().is_none());
    as_found.filter_map(|p| Some((p.name.clone(), p.read_free(ReadQuantity::Resistance)?.ohms()?))).collect()
}

/// The node behind a resistor.
fn behind(resistor: &TrayPart) -> String {
    format!("behind {}", resistor.name)
}

fn typed(of: Quantity, value_si: f64) -> String {
    format(of, value_si).to_string().replace(' ', "")
}

/// The branch of a tray; empty where nothing was said of connections.
#[must_use]
pub fn branch(tray: &Tray) -> Branch {
    let mut found = Branch::default();
    let volts =
        |p: &TrayPart, f: Fact| p.said.known().find(|(k, _)| *k == f).and_then(|(_, v)| Volt::new(v).ok());
    let parts = tray.parts();
    for r in parts.iter().filter(|r| parts.iter().any(|p| p.fed_by == Some(r.id))) {
        let from = r.fed_by.and_then(|id| tray.part(id)).map_or_else(|| RAIL.to_owned(), behind);
        let Some(value) = r.sheet_si.or(r.marked_si) else { continue };
        let watts = r.power.map(|w| format!(" {}", typed(Quantity::Power, w.watts()))).unwrap_or_default();
        let ohms = typed(Quantity::Resistance, value);
        found.lines.push(format!("{} from {from} to {} {ohms}{watts}", r.name, behind(r)));
        let mut node = None;
        for p in parts.iter().filter(|p| p.fed_by == Some(r.id)) {
            found.rail = found.rail.or(volts(p, Fact::Rail));
            if p.kind != PartKind::Capacitor {
                continue;
            }
            node = node.or(volts(p, Fact::Voltage));
            let value = p.sheet_si.or(p.marked_si);
            let value = value.map(|v| format!(" {}", typed(Quantity::Capacitance, v))).unwrap_or_default();
            found.lines.push(format!("{} from {} to ground{value}", p.name, behind(r)));
        }
        // What the node feeds draws what the sheet's volts leave over.
        if let Some(v) = node {
            let digits: String = r.name.chars().filter(char::is_ascii_digit).collect();
            found.lines.push(format!("X{digits} from {} to ground", behind(r)));
            found.nodes.push((behind(r), v));
        }
    }
    found
}
