//! What is left on a ticket, grouped so that it can be done in one sitting: all readings that want the same valve pulled,
//! all that are heated, what waits for parts, what reforms overnight. With an estimate from the workshop's own past.

use crate::named::named;
use crate::quantity::Second;

named! {
    /// What a sitting is about.
    "kind of sitting" RoundKind {
        /// Readings with one valve out of its socket.
        ValvePulled = "valve pulled",
        /// Readings with one end lifted.
        Lifted = "one end lifted",
        /// Readings with the part warm.
        Warm = "to be warmed",
        /// Volts with the set on.
        Voltages = "set on: voltages",
        /// Verdicts to be decided.
        Decide = "to decide",
        /// Parts that lie in the drawers.
        Fit = "to fit",
        /// Parts that are not there.
        Waiting = "waiting for parts",
        /// Capacitors on the reforming bench.
        Reforming = "reforming",
        /// A change to be proven.
        Prove = "to prove",
    }
}

/// What is left to do on a part.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Left {
    /// To be measured; warm, where that was asked for.
    Measure {
        /// Whether it is to be tested warm.
        warm: bool,
        /// Whether a pulled valve frees it.
        by_valve: bool,
    },
    /// To be decided.
    Decide,
    /// To be fitted; whether it must be bought first.
    Fit {
        /// Nothing in the drawers fits.
        to_buy: bool,
    },
    /// To be proven.
    Prove,
    /// Being reformed.
    Reform,
}

/// A part with something left to do.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Item<'a> {
    /// Its name.
    pub name: &'a str,
    /// Where it is found, in words: `V3 grid, pin 5`.
    pub place: &'a str,
    /// What is left.
    pub left: Left,
}

/// How long things took in this workshop, for each; none where nothing was done yet.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Pace {
    /// A reading.
    pub reading: Option<Second>,
    /// From decision to fitting.
    pub fitting: Option<Second>,
    /// From fitting to proof.
    pub proof: Option<Second>,
}

/// One sitting.
#[derive(Debug, Clone, PartialEq)]
pub struct Round {
    /// What it is about.
    pub kind: RoundKind,
    /// The valve that is pulled, where it is one.
    pub valve: Option<String>,
    /// The parts or points, in the order in which they came.
    pub names: Vec<String>,
    /// How long it will take, by the workshop's own past.
    pub expected: Option<Second>,
}

/// The valve that a place names: `V3` in `V2 plate to V3 grid` is the last one, at whose pins the part is freed.
///
/// ```
/// use owl_core::plan::valve_of;
/// assert_eq!(valve_of("V3 cathode, pin 8"), Some("V3"));
/// assert_eq!(valve_of("AVC line"), None);
/// ```
#[must_use]
pub fn valve_of(place: &str) -> Option<&str> {
    let word = |w: &&str| {
        let digits = w.strip_prefix('V');
        digits.is_some_and(|d| !d.is_empty() && d.len() <= 3 && d.chars().all(|c| c.is_ascii_digit()))
    };
    place.split(|c: char| !c.is_ascii_alphanumeric()).rfind(word)
}

/// The rounds that are left, in the order in which they are best done: what is measured cold first, the set on last.
#[must_use]
pub fn rounds(items: &[Item<'_>], unread: &[&str], pace: Pace) -> Vec<Round> {
    let mut all: Vec<Round> = Vec::new();
    let mut put = |kind: RoundKind, valve: Option<&str>, name: &str| {
        let valve = valve.map(str::to_owned);
        match all.iter_mut().find(|s| s.kind == kind && s.valve == valve) {
            Some(s) => s.names.push(name.to_owned()),
            None => all.push(Round { kind, valve, names: vec![name.to_owned()], expected: None }),
        }
    };
    for i in items {
        match i.left {
            Left::Measure { warm: true, .. } => put(RoundKind::Warm, None, i.name),
            Left::Measure { by_valve, .. } => match valve_of(i.place).filter(|_| by_valve) {
                Some(v) => put(RoundKind::ValvePulled, Some(v), i.name),
                None => put(RoundKind::Lifted, None, i.name),
            },
            Left::Decide => put(RoundKind::Decide, None, i.name),
            Left::Fit { to_buy } => {
                put(if to_buy { RoundKind::Waiting } else { RoundKind::Fit }, None, i.name)
            }
            Left::Prove => put(RoundKind::Prove, None, i.name),
            Left::Reform => put(RoundKind::Reforming, None, i.name),
        }
    }
    for point in unread {
        put(RoundKind::Voltages, None, point);
    }
    all.sort_by_key(|s| order(s.kind));
    for s in &mut all {
        let each = match s.kind {
            RoundKind::ValvePulled | RoundKind::Lifted | RoundKind::Warm | RoundKind::Voltages => {
                pace.reading
            }
            RoundKind::Fit => pace.fitting,
            RoundKind::Prove => pace.proof,
            RoundKind::Decide | RoundKind::Waiting | RoundKind::Reforming => None,
        };
        s.expected = each.map(|e| e * s.names.len() as f64);
    }
    all
}

/// What is open is proven first; then cold readings, decisions, fittings, and the set on.
fn order(kind: RoundKind) -> u8 {
    match kind {
        RoundKind::Prove => 0,
        RoundKind::ValvePulled => 1,
        RoundKind::Lifted => 2,
        RoundKind::Warm => 3,
        RoundKind::Decide => 4,
        RoundKind::Fit => 5,
        RoundKind::Voltages => 6,
        RoundKind::Reforming => 7,
        RoundKind::Waiting => 8,
    }
}
