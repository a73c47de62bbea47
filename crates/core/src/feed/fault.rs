//! What can be wrong with a part of a feed.

use super::{Element, Feed, FeedKind};
use crate::named::named;
use crate::quantity::format::{CapacitanceStyle, format_as};
use crate::quantity::{Fraction, Ohm, Quantity};

/// A short in ohm: what a meter shows across one. Not zero, so that its current is a number.
pub(super) const SHORT: f64 = 0.1;

named! {
    /// What can be wrong with a part of a feed.
    "kind of fault" FaultKind {
        /// Passes nothing.
        Open = "open",
        /// Passes everything.
        Short = "short",
        /// Of another value than it should have.
        Drifted = "drifted",
        /// Passes what it should hold back.
        Leaking = "leaking",
        /// Draws nothing.
        MissingLoad = "missing load",
        /// A load that draws more than it should.
        Overdrawing = "drawing too much",
        /// A contact with a resistance: corroded, cracked, dirty.
        Risen = "resistance risen",
    }
}

/// What is wrong with a part.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Fault {
    /// Passes nothing.
    Open,
    /// Passes everything.
    Short,
    /// A resistor of so many times its value.
    Drifted(Fraction),
    /// A capacitor with a resistance across it.
    Leaking(Ohm),
    /// Draws nothing.
    MissingLoad,
    /// A load that draws as much as so many ohms would in its place.
    Overdrawing(Ohm),
    /// A track, a joint or a switch's contact with a resistance.
    Risen(Ohm),
}

impl Fault {
    /// Which kind, without its size.
    #[must_use]
    pub fn kind(self) -> FaultKind {
        match self {
            Self::Open => FaultKind::Open,
            Self::Short => FaultKind::Short,
            Self::Drifted(_) => FaultKind::Drifted,
            Self::Leaking(_) => FaultKind::Leaking,
            Self::MissingLoad => FaultKind::MissingLoad,
            Self::Overdrawing(_) => FaultKind::Overdrawing,
            Self::Risen(_) => FaultKind::Risen,
        }
    }

    /// Ohms of a leak or of a load, the factor of a drift; none where a fault has no size.
    #[must_use]
    pub fn estimate(self) -> Option<f64> {
        match self {
            Self::Drifted(k) => Some(k.fraction()),
            Self::Leaking(r) | Self::Risen(r) | Self::Overdrawing(r) => Some(r.ohms()),
            Self::Open | Self::Short | Self::MissingLoad => None,
        }
    }

    /// With its size, to about two digits: `leaking about 6.1 kΩ`, `drifted to 1.8 times (8.5 kΩ)`.
    #[must_use]
    pub fn says(self, element: Element) -> String {
        let short = |v: f64| format_as(Quantity::Resistance, v, 2, CapacitanceStyle::WithNano).to_string();
        match (self, element) {
            (Self::Open, _) => "open".to_owned(),
            (Self::Short, _) => "shorted".to_owned(),
            (Self::Drifted(k), Element::Resistor(r)) => {
                format!(
                    "drifted to {:.2} times its value, about {}",
                    k.fraction(),
                    short(k.fraction() * r.ohms())
                )
            }
            (Self::Drifted(k), _) => format!("drifted to {:.2} times its value", k.fraction()),
            (Self::Leaking(r), _) => format!("leaking, about {}", short(r.ohms())),
            (Self::MissingLoad, _) => "drawing nothing".to_owned(),
            (Self::Overdrawing(_), _) => "drawing too much".to_owned(),
            (Self::Risen(r), _) => format!("corroded or cracked, about {}", short(r.ohms())),
        }
    }

    /// The conductance in siemens that it leaves of a part.
    pub(super) fn conductance(self, element: Element) -> f64 {
        match (self, element) {
            (Self::Open | Self::MissingLoad, _) => 0.0,
            (Self::Short, _) => 1.0 / SHORT,
            (Self::Leaking(r) | Self::Risen(r) | Self::Overdrawing(r), _) => 1.0 / r.ohms().max(SHORT),
            (Self::Drifted(k), Element::Resistor(r)) => 1.0 / (k.fraction() * r.ohms()).max(SHORT),
            (Self::Drifted(_), _) => 0.0,
        }
    }
}

/// How far a resistor may be off at work that was read by itself (practice: a composition part is off by a twentieth once it
/// is warm, and the meter errs).
const READ: f64 = 0.06;

/// A part's number in its feed and what is wrong with it.
pub(super) type Faulty = (usize, Fault);

/// The faults of a size that is known beforehand.
pub(super) fn fixed(feed: &Feed) -> Vec<Faulty> {
    let mut all = Vec::new();
    for (i, p) in feed.parts.iter().enumerate().filter(|(i, _)| feed.matters(*i)) {
        match p.element.kind() {
            FeedKind::Resistor => all.extend([(i, Fault::Open), (i, Fault::Short)]),
            FeedKind::Capacitor => all.push((i, Fault::Short)),
            FeedKind::Load => all.push((i, Fault::MissingLoad)),
            FeedKind::Contact => all.push((i, Fault::Open)),
        }
    }
    all
}

/// The parts that can be off by any size: resistors drift, capacitors leak, contacts corrode, loads draw too much.
pub(super) fn sized(feed: &Feed) -> Vec<usize> {
    (0..feed.parts.len()).filter(|i| feed.matters(*i)).collect()
}

/// The least and the most of a drift that is named as one; beyond, the part is as good as shorted or open.
const DRIFT: (f64, f64) = (0.02, 50.0);
/// A leak above this, in ohm, is none that a direct voltage shows.
const LEAST_LEAK: f64 = 1e9;

/// The fault that leaves a conductance of a part; none where it would be within its tolerance or no resistor could.
pub(super) fn of_size(feed: &Feed, part: usize, siemens: f64) -> Option<Fault> {
    if !(siemens > 0.0 && siemens.is_finite()) {
        return None;
    }
    let ohms = 1.0 / siemens;
    match feed.parts[part].element {
        Element::Resistor(r) => {
            let k = ohms / r.ohms();
            let far = (k - 1.0).abs() > feed.tolerance(part);
            (far && (DRIFT.0..=DRIFT.1).contains(&k)).then(|| Fault::Drifted(Fraction::computed(k)))
        }
        Element::Capacitor(_) if (SHORT * 10.0..=LEAST_LEAK).contains(&ohms) => {
            Some(Fault::Leaking(Ohm::computed(ohms)))
        }
        Element::Contact if (SHORT * 10.0..=LEAST_LEAK).contains(&ohms) => {
            Some(Fault::Risen(Ohm::computed(ohms)))
        }
        Element::Current(_) | Element::Resistance(_) if ohms >= SHORT * 10.0 => {
            Some(Fault::Overdrawing(Ohm::computed(ohms)))
        }
        Element::Capacitor(_) | Element::Contact | Element::Current(_) | Element::Resistance(_) => None,
    }
}

impl Feed {
    /// Whether a fault of the part is sought: where it shows at any node, not between the rail and ground, and where the part
    /// was not read by itself.
    fn matters(&self, part: usize) -> bool {
        if self.read[part].is_some() {
            return false;
        }
        let (a, b) = self.ends[part];
        matches!(a, super::End::Node(_)) || matches!(b, super::End::Node(_))
    }

    /// How far a good part may be off.
    pub(super) fn tolerance(&self, part: usize) -> f64 {
        match self.read[part] {
            Some(_) => READ,
            None => self.parts[part].tolerance.map_or(super::TOLERANCE, Fraction::fraction),
        }
    }
}
