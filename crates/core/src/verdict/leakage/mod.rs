//! R4: what a leak does in its place. The same microampere is nothing across a supply and ruinous on a grid.
//!
//! The leak is taken as a resistance at the voltage of its test; one that grows with voltage or heat is worse than
//! its reading.

mod eye;
mod place;
mod sums;

pub(in crate::verdict) use eye::eye;
pub use sums::{avc_loss, feed_drop, feed_power, grid_shift};

use self::place::in_place;
use super::finding::{Finding, Findings};
use super::{Case, Outcome, Policy, PolicyNumber, Rule};
use crate::part::{Capacitor, CapacitorFamily, Position};
use crate::quantity::format::{CapacitanceStyle, format_as};
use crate::quantity::{Ampere, Farad, Ohm, Quantity, Second, Volt};
use crate::reading::{ReadQuantity, Reading};

/// Up to here a film part is judged by its insulation alone (IEC 60384-2, -16: memory).
const SMALL_FILM: Farad = Farad::computed(0.33e-6);

/// From here on paper is judged by insulation times capacitance (practice).
const SMALL_PAPER: Farad = Farad::computed(1e-9);
/// Up to here no current flows at all, in ampere, and the insulation is beyond any meter.
const LEAST_CURRENT: f64 = 1e-15;
const BEYOND_ANY_METER: Ohm = Ohm::computed(1e15);

/// A leak as it was measured.
struct Leak {
    /// At the voltage of the test.
    resistance: Ohm,
    /// What flowed, where a current was read.
    current: Option<Ampere>,
    /// In words: `2.2 µA at 400 V`.
    said: String,
    /// The voltage of the test.
    tested_at: Option<Volt>,
}

/// Judges the leakage of a paper, film, ceramic or mica part. Says whether it passed.
pub(in crate::verdict) fn judge(
    found: &mut Findings,
    case: Case<'_>,
    part: &Capacitor,
    policy: &Policy,
) -> bool {
    let Some((i, r)) = case.newest_of(&ReadQuantity::LEAKAGE) else { return false };
    if r.quantity == ReadQuantity::LeakageEye {
        return eye(found, case, part, (i, r), policy);
    }
    if r.quantity == ReadQuantity::LeakagePercent {
        let text = format!("{} by a percent scale says nothing of such a part", r.written());
        let finding = Finding::new(Outcome::MeasureAgain, Rule::Method, text).by(i);
        found.push(finding.next("measure its leakage current at its working voltage"));
        return false;
    }
    let bars: Vec<_> = case.pitfalls(r, policy).into_iter().filter(|w| w.bars).collect();
    let Some(leak) = leak_of(r) else {
        match r.value_si() {
            // Nothing shown on an insulation range is as good as it gets.
            None if r.quantity == ReadQuantity::LeakageResistance && bars.is_empty() => {
                let text = "no leakage up to the end of the range";
                found.push(Finding::new(Outcome::Keep, Rule::Leakage, text).by(i));
                return true;
            }
            None if r.quantity == ReadQuantity::LeakageCurrent => {
                let text = "the leakage is beyond the meter";
                found.push(Finding::new(Outcome::Replace, Rule::Leakage, text).by(i));
            }
            _ => {
                let bar = bars.first().map_or_else(
                    || Finding::new(Outcome::MeasureAgain, Rule::Method, "the leakage cannot be told"),
                    Finding::trap,
                );
                found.push(bar.by(i));
            }
        }
        return false;
    };
    if r.still_connected() {
        found.extend_first(bars.first().map(Finding::trap), i);
        return false;
    }
    let consequence = in_place(case, part, &leak, policy);
    for fact in &consequence.asks {
        found.ask(*fact);
    }
    found.thresholds.extend(consequence.thresholds);
    let mut finding = Finding::new(consequence.call, Rule::Leakage, consequence.text).by(i);
    finding.next = consequence.next;
    finding.certain = consequence.asks.is_empty();
    if finding.call == Outcome::Keep && leaks_more_warm(case, part, &leak, r) {
        finding.call = Outcome::Watch;
        finding.reason.text.push_str("; paper leaks about ten times more when it is warm");
        finding.next.push("warm it and test its leakage again".to_owned());
        found.thresholds.retain(|t| t.to != Outcome::Watch);
    }
    let passes = matches!(consequence.call, Outcome::Keep | Outcome::Watch);
    if passes && !bars.is_empty() {
        for bar in &bars {
            found.push(Finding::trap(bar).by(i));
        }
        finding.call = Outcome::Keep;
        finding.certain = false;
    }
    found.push(finding);
    let finished = finished(part, &leak, policy);
    if let Some(text) = &finished {
        found.push(Finding::new(Outcome::Replace, Rule::Leakage, text).by(i));
        // No place would change it.
        found.thresholds.retain(|f| !f.of.is_leakage());
    }
    passes && bars.is_empty() && finished.is_none()
}

fn leak_of(r: &Reading) -> Option<Leak> {
    let v = r.value_si()?;
    let at = r.test_voltage.map(Volt::abs).filter(|v| *v > Volt::ZERO);
    let at_text = at.map(|v| format!(" at {}", volts(v))).unwrap_or_default();
    let warm = if r.hot { ", warm" } else { "" };
    match r.quantity {
        ReadQuantity::LeakageResistance => {
            let said = format!("{}{at_text}{warm}", r.written());
            Some(Leak { resistance: Ohm::new(v).ok()?, current: None, said, tested_at: at })
        }
        ReadQuantity::LeakageCurrent => Some(Leak {
            resistance: if v > LEAST_CURRENT { at? / Ampere::computed(v) } else { BEYOND_ANY_METER },
            current: Some(Ampere::computed(v)),
            said: format!("{}{at_text}{warm}", r.written()),
            tested_at: at,
        }),
        _ => None,
    }
}
/// Old paper that is finished whatever the place.
fn finished(part: &Capacitor, leak: &Leak, policy: &Policy) -> Option<String> {
    part.family.filter(|f| is_paper(*f))?;
    // A part of a few picofarad has too little paper for the law: it is judged by its ohms, as one of 1 nF.
    let seconds = leak.resistance * part.value.max(SMALL_PAPER);
    let least: Second = policy.get(PolicyNumber::FinishedSeconds);
    if part.value < SMALL_PAPER && seconds <= least {
        return Some(format!("{}: so little is finished whatever the place", leak.resistance));
    }
    (seconds <= least).then(|| {
        format!(
            "{} × {} = {}: paper at {} or less is finished whatever the place",
            leak.resistance, part.value, seconds, least
        )
    })
}

/// Whether a cold test of that leak proves too little: paper on a grid or an AVC line, with a leak that can be measured
/// (R4, practice).
fn leaks_more_warm(case: Case<'_>, part: &Capacitor, leak: &Leak, r: &Reading) -> bool {
    let on_a_grid = matches!(case.position, Some(Position::Coupling | Position::Avc));
    on_a_grid && !r.hot && part.family.is_some_and(is_paper) && leak.resistance < BEYOND_ANY_METER
}

fn is_paper(family: CapacitorFamily) -> bool {
    matches!(
        family,
        CapacitorFamily::WaxPaper
            | CapacitorFamily::BitumenPaper
            | CapacitorFamily::MouldedPaper
            | CapacitorFamily::MetallisedPaper
    )
}

fn as_new(part: &Capacitor, leak: &Leak, policy: &Policy) -> bool {
    let by_time = leak.resistance * part.value >= policy.get(PolicyNumber::NewSeconds);
    by_time || (part.value <= SMALL_FILM && leak.resistance >= policy.get(PolicyNumber::NewOhms))
}

fn insulation(part: &Capacitor, leak: &Leak) -> String {
    if part.value <= SMALL_FILM {
        leak.resistance.to_string()
    } else {
        format!("{} × {} = {}", leak.resistance, part.value, leak.resistance * part.value)
    }
}

/// Volts with three digits and no millivolts: what lifts a grid is compared with volts.
fn volts(v: Volt) -> String {
    let v = v.volts();
    if (0.001..1.0).contains(&v.abs()) {
        let sign = if v < 0.0 { "−" } else { "" };
        let digits = (2.0 - v.abs().log10().floor()) as usize;
        let text = format!("{:.*}", digits, v.abs());
        return format!("{sign}{} V", text.trim_end_matches('0').trim_end_matches('.'));
    }
    format_as(Quantity::Voltage, v, 3, CapacitanceStyle::WithNano).to_string()
}
