//! What a tray knows of connections: parts that were said to be fed by a resistor, told as a feed.

use owl_core::feed::RAIL;
use owl_core::named::Named;
use owl_core::part::{Fact, PartKind};
use owl_core::quantity::Quantity;

use super::drawn::wire::FeedNodeView;
use crate::amount::Amount;
use crate::error::ApiError;
use crate::part::store::{PartRow, TrayRows};

/// A feed as the tray knows it.
#[derive(Debug, Default)]
pub struct Known {
    /// A part a line.
    pub told: Vec<String>,
    /// The rail, in volt.
    pub rail: Option<f64>,
    /// Nodes with the volts that they should have.
    pub nodes: Vec<FeedNodeView>,
}

/// The node behind a resistor.
fn behind(resistor: &PartRow) -> String {
    format!("behind {}", resistor.name)
}

/// The feed of a tray; empty where nothing was said of connections.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub fn from_tray(tray: &TrayRows) -> Result<Known, ApiError> {
    let mut known = Known::default();
    let fact = |p: &PartRow, f: Fact| p.facts.get(f.name()).and_then(serde_json::Value::as_f64);
    let find = |id| tray.parts.iter().find(|p| p.id == id);
    let feeds: Vec<&PartRow> =
        tray.parts.iter().filter(|r| tray.parts.iter().any(|p| p.feed_id == Some(r.id))).collect();
    for r in &feeds {
        let from = r.feed_id.and_then(find).map_or_else(|| RAIL.to_owned(), behind);
        let Some(value) = r.sheet.or(r.marked) else { continue };
        let watts = r.watts.map(|w| format!(" {}", plain(Quantity::Power, w))).unwrap_or_default();
        known.told.push(format!(
            "{} from {from} to {} {}{watts}",
            r.name,
            behind(r),
            plain(Quantity::Resistance, value)
        ));
        let mut volts = None;
        for p in tray.parts.iter().filter(|p| p.feed_id == Some(r.id)) {
            known.rail = known.rail.or(fact(p, Fact::Rail));
            if p.kind()? != PartKind::Capacitor {
                continue;
            }
            volts = volts.or(fact(p, Fact::Voltage));
            let value = p.sheet.or(p.marked).map(|v| format!(" {}", plain(Quantity::Capacitance, v)));
            known.told.push(format!("{} from {} to ground{}", p.name, behind(r), value.unwrap_or_default()));
        }
        // What the node feeds draws what the sheet's volts leave over.
        if let Some(v) = volts {
            let digits: String = r.name.chars().filter(char::is_ascii_digit).collect();
            known.told.push(format!("X{digits} from {} to ground", behind(r)));
            let sheet = Some(Amount::of(Quantity::Voltage, v));
            known.nodes.push(FeedNodeView {
                node: behind(r),
                sheet,
                measured: None,
                from_chart: false,
                sheet_from_chart: false,
                off: false,
            });
        }
    }
    Ok(known)
}

fn plain(of: Quantity, value: f64) -> String {
    Amount::of(of, value).text.replace(' ', "")
}
