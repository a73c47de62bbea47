//! What has pins, put into the chart by its type: each in the order in which it is probed, and a whole board at once.

use crate::ic;
use crate::named::Named;
use crate::socket::valve;
use crate::transistor::device::{Device, device, meant};
use crate::transistor::package::Lead;

/// A place at which volts are read.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Probe {
    /// Its pin; `None` of a lead whose place nobody knows.
    pub pin: Option<u8>,
    /// What it is, where that is said beside it.
    pub what: String,
    /// Whether heater volts stand there.
    pub heater: bool,
}

/// The type as its table writes it, and where it is read, in probing order: what is fed with the most volts first. `None`
/// for what no table has.
///
/// ```
/// use owl_core::chart::board::probes;
/// let (name, pins) = probes("tba810s").expect("a circuit of the table");
/// assert!(name.starts_with("TBA810") && pins.iter().all(|p| p.pin.is_some() && !p.what.is_empty()));
/// assert_eq!(probes("no such type"), None);
/// ```
#[must_use]
pub fn probes(typed: &str) -> Option<(String, Vec<Probe>)> {
    if let Some(d) = device(typed) {
        return Some((d.type_number.clone(), of_device(d)));
    }
    if let Some(v) = valve(typed) {
        let probe = |(pin, role): (u8, &crate::socket::PinRole)| Probe {
            pin: Some(pin),
            what: String::new(),
            heater: role.is_heater(),
        };
        return Some((v.name.clone(), v.in_probing_order().into_iter().map(probe).collect()));
    }
    if let Some(c) = ic::device(typed) {
        let all = c.in_probing_order().into_iter();
        let probe = |p: &ic::Pin| Probe { pin: Some(p.number), what: p.name.clone(), heater: false };
        return Some((c.type_number.clone(), all.map(probe).collect()));
    }
    let d = meant(typed, device)?;
    Some((d.type_number.clone(), of_device(d)))
}

/// A transistor's leads: the collector first, which shows whether it is fed, then base and emitter (practice). A lead whose
/// place is not known, or that is the case, is read by its name.
fn of_device(d: &Device) -> Vec<Probe> {
    let order = if d.kind.has_base() {
        [Lead::Collector, Lead::Base, Lead::Emitter]
    } else {
        [Lead::Drain, Lead::Gate, Lead::Source]
    };
    let leads: &[Lead] = d.pinout.as_ref().map_or(&[], |p| p.leads());
    let pin = |lead: Lead| leads.iter().position(|l| *l == lead).and_then(|i| u8::try_from(i + 1).ok());
    order.map(|lead| Probe { pin: pin(lead), what: lead.name().to_owned(), heater: false }).to_vec()
}

/// Something of a board: what it is called and its type.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct OnBoard {
    /// What it is called: `V3`.
    pub at: String,
    /// Its type.
    pub typed: String,
}

/// Why a board is not read.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum BoardError {
    /// Not a name and a type.
    #[error("'{0}': say a name and its type, such as V3 EF89, one after the other")]
    Entry(String),
    /// A name that stands there twice.
    #[error("{0} stands there twice")]
    Twice(String),
}

/// A whole board as it is told, in the order in which it is gone through: `V1 ECH81, V2 EF89, Q1 AF126`, a line or a comma
/// between them.
///
/// # Errors
/// [`BoardError`] with what it is about.
///
/// ```
/// use owl_core::chart::board::told;
/// assert_eq!(told("V4 EL84,Q2 AC126").map(|b| b.len()), Ok(2));
/// assert!(told("V4").is_err());
/// ```
pub fn told(text: &str) -> Result<Vec<OnBoard>, BoardError> {
    let mut all: Vec<OnBoard> = Vec::new();
    for entry in text.split(['\n', ',', ';']).map(str::trim).filter(|e| !e.is_empty()) {
        let wrong = || BoardError::Entry(entry.chars().take(30).collect());
        let (at, typed) = entry.split_once(char::is_whitespace).ok_or_else(wrong)?;
        let found = OnBoard { at: at.trim_end_matches(':').to_owned(), typed: typed.trim().to_owned() };
        if all.iter().any(|b| b.at.eq_ignore_ascii_case(&found.at)) {
            return Err(BoardError::Twice(found.at));
        }
        all.push(found);
    }
    Ok(all)
}
