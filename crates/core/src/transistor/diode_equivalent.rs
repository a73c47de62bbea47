//! What goes in for a rectifier or a signal diode, cell by cell: reverse volts, current, surge, drop, speed.

use super::diode_device::{Device, DiodeJob};
use super::equivalent::{Fitness, LimitState};
use crate::named::named;
use crate::part::DiodeFamily;
use crate::quantity::Quantity;
use crate::quantity::format::format;

named! {
    /// Which limit or property of a diode.
    "diode cell" DiodeLimitName {
        /// What it is made of.
        Material = "material",
        /// Supply or signal.
        Job = "job",
        /// Repetitive reverse volts.
        Reverse = "reverse",
        /// Average current.
        Current = "current",
        /// One surge.
        Surge = "surge",
        /// Forward drop.
        Drop = "drop",
        /// Speed.
        Speed = "speed",
        /// Package.
        Package = "package",
    }
}

/// A limit or property of a candidate.
#[derive(Debug, Clone, PartialEq)]
pub struct DiodeCell {
    /// Which.
    pub name: DiodeLimitName,
    /// Whether it must pass.
    pub hard: bool,
    /// How it stands.
    pub state: LimitState,
    /// What the candidate has, in the base unit, where it is a number.
    pub value_si: Option<f64>,
    /// What is needed, in the base unit, where it is a number.
    pub needed_si: Option<f64>,
    /// What the candidate has, as it is written.
    pub has: String,
    /// What is needed, as it is written.
    pub needs: String,
    /// By how much it is short, or why it is unknown.
    pub why: String,
}

/// What the circuit asks of a diode; `None` is not known.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct DiodeNeed {
    /// Reverse volts.
    pub reverse_volts: Option<f64>,
    /// Average amperes.
    pub amperes: Option<f64>,
    /// Whether another material is taken.
    pub other_material: bool,
}

/// A candidate held against what is wanted.
#[derive(Debug, Clone, PartialEq)]
pub struct DiodeCandidate {
    /// Which.
    pub device: &'static Device,
    /// Against the circuit's needs where they are known, otherwise the original's.
    pub fitness: Fitness,
    /// How near it comes, 0 to 1.
    pub score: f64,
    /// How many lie in the drawers.
    pub in_drawers: u32,
    /// Limit by limit.
    pub cells: Vec<DiodeCell>,
    /// What changes with it.
    pub notes: Vec<String>,
}

/// Up to this many times the old drop a signal diode does the same (practice).
const DROP: f64 = 1.3;

fn number(name: DiodeLimitName, hard: bool, q: Quantity, has: Option<f64>, needs: Option<f64>) -> DiodeCell {
    let text = |v: Option<f64>| v.map_or_else(String::new, |v| format(q, v).to_string());
    let (state, why) = match (has, needs) {
        (Some(h), Some(n)) if h >= n * (1.0 - 1e-9) => (LimitState::Pass, String::new()),
        (Some(h), Some(n)) => (LimitState::Short, format!("short by {}", format(q, n - h))),
        (None, Some(_)) => (LimitState::Unknown, "not known of this type".to_owned()),
        (_, None) => (LimitState::Unknown, "not known of the original".to_owned()),
    };
    DiodeCell { name, hard, state, value_si: has, needed_si: needs, has: text(has), needs: text(needs), why }
}

fn word(name: DiodeLimitName, hard: bool, ok: bool, has: &str, needs: &str, why: &str) -> DiodeCell {
    DiodeCell {
        name,
        hard,
        state: if ok { LimitState::Pass } else { LimitState::Short },
        value_si: None,
        needed_si: None,
        has: has.to_owned(),
        needs: needs.to_owned(),
        why: if ok { String::new() } else { why.to_owned() },
    }
}

/// Holds a diode against what is wanted. Hard: material unless another is taken, job, reverse volts, current, speed where
/// the old one was fast, and of signal diodes the drop.
#[must_use]
pub fn compare(wanted: &Device, need: &DiodeNeed, d: &'static Device, in_drawers: u32) -> DiodeCandidate {
    let fast = |f: bool| if f { "fast" } else { "slow" };
    let signal = wanted.job == DiodeJob::Signal;
    // A rectifier carries a signal as badly as a signal diode a supply.
    let same_job = d.job == wanted.job;
    let mut cells = vec![
        word(
            DiodeLimitName::Material,
            !need.other_material,
            d.family == wanted.family,
            crate::named::Named::name(d.family),
            crate::named::Named::name(wanted.family),
            "another material, another drop",
        ),
        word(
            DiodeLimitName::Job,
            true,
            same_job,
            crate::named::Named::name(d.job),
            crate::named::Named::name(wanted.job),
            "made for another job",
        ),
        number(
            DiodeLimitName::Reverse,
            true,
            Quantity::Voltage,
            Some(d.reverse_volts),
            need.reverse_volts.or(Some(wanted.reverse_volts)),
        ),
        number(DiodeLimitName::Current, true, Quantity::Current, d.amperes, need.amperes.or(wanted.amperes)),
        number(DiodeLimitName::Surge, false, Quantity::Current, d.surge_amperes, wanted.surge_amperes),
    ];
    cells.push(drop_cell(wanted, d, signal && !need.other_material));
    cells.push(word(
        DiodeLimitName::Speed,
        true,
        d.fast || !wanted.fast,
        fast(d.fast),
        fast(wanted.fast),
        "too slow: it still conducts when the wave has turned",
    ));
    let mut package = word(
        DiodeLimitName::Package,
        false,
        d.package == wanted.package,
        &d.package,
        &wanted.package,
        "another size: look at the holes",
    );
    if d.package.is_empty() || wanted.package.is_empty() {
        package.state = LimitState::Unknown;
    }
    cells.push(package);
    let fitness = Fitness::of(cells.iter().map(|c| (c.state, c.hard, c.name != DiodeLimitName::Package)));
    let near = |a: Option<f64>, b: Option<f64>| match (a, b) {
        (Some(a), Some(b)) if a > 0.0 && b > 0.0 => (-(b / a).ln().abs() / 2.0).exp(),
        _ => 0.5,
    };
    let same = d.type_number.eq_ignore_ascii_case(&wanted.type_number);
    let score = if same {
        1.0
    } else {
        0.4 * near(Some(wanted.reverse_volts), Some(d.reverse_volts))
            + 0.3 * near(wanted.amperes, d.amperes)
            + 0.15 * near(wanted.drop, d.drop)
            + if d.package == wanted.package { 0.1 } else { 0.0 }
    };
    DiodeCandidate { device: d, fitness, score, in_drawers, notes: notes(wanted, d, same), cells }
}

fn drop_cell(wanted: &Device, d: &Device, hard: bool) -> DiodeCell {
    let text = |v: Option<f64>| v.map_or_else(String::new, |v| format(Quantity::Voltage, v).to_string());
    let most = wanted.drop.map(|v| v * DROP);
    let (state, why) = match (d.drop, most) {
        (Some(h), Some(m)) if h <= m => (LimitState::Pass, String::new()),
        (Some(h), Some(m)) => (LimitState::Short, format!("{} more", format(Quantity::Voltage, h - m))),
        _ => (LimitState::Unknown, "not known".to_owned()),
    };
    DiodeCell {
        name: DiodeLimitName::Drop,
        // The material says more of a drop than one quoted at another current.
        hard: hard && state != LimitState::Unknown && d.family != wanted.family,
        state,
        value_si: d.drop,
        needed_si: most,
        has: text(d.drop),
        needs: text(most),
        why,
    }
}

fn notes(wanted: &Device, d: &Device, same: bool) -> Vec<String> {
    let mut notes = Vec::new();
    if same {
        notes.push("the same type".to_owned());
    }
    match (wanted.family, d.family) {
        (DiodeFamily::Germanium, DiodeFamily::Silicon) => notes.push(
            "silicon drops 0.4 V more: a detector loses weak stations unless it is given a little bias"
                .to_owned(),
        ),
        (DiodeFamily::Selenium, DiodeFamily::Silicon) => notes.push(
            "silicon drops less than the stack did: the rail rises; the rectifier sheet finds the resistor"
                .to_owned(),
        ),
        _ => {}
    }
    notes.push("the ring is the cathode".to_owned());
    notes
}

/// The candidates of the table, best first: those that pass, the drawers first, then the nearest.
#[must_use]
pub fn equivalents(
    wanted: &Device,
    need: &DiodeNeed,
    devices: &'static [Device],
    in_drawers: impl Fn(&str) -> u32,
    limit: usize,
) -> Vec<DiodeCandidate> {
    let mut all: Vec<DiodeCandidate> =
        devices.iter().map(|d| compare(wanted, need, d, in_drawers(&d.type_number))).collect();
    all.sort_by(|a, b| {
        let key = |c: &DiodeCandidate| {
            let short = c.fitness == Fitness::Short;
            let other = !c.device.type_number.eq_ignore_ascii_case(&wanted.type_number);
            (short, c.in_drawers == 0, other, c.fitness)
        };
        key(a)
            .cmp(&key(b))
            .then(b.score.total_cmp(&a.score))
            .then_with(|| a.device.type_number.cmp(&b.device.type_number))
    });
    all.truncate(limit);
    all
}
