//! R4: what a leak does in its place. The same microampere is nothing across a supply and ruinous on a grid.
//!
//! The leak is taken as a resistance at the voltage of its test; one that grows with voltage or heat is worse than
//! its reading.

mod place;
mod sums;

pub use sums::{avc_loss, feed_drop, feed_power, grid_shift};

use self::place::in_place;
use super::finding::{Finding, Findings};
use super::{Case, Outcome, Policy, PolicyNumber, Rule};
use crate::part::{Capacitor, CapacitorFamily};
use crate::quantity::Quantity;
use crate::quantity::format::{CapacitanceStyle, format, format_as};
use crate::reading::{ReadQuantity, Reading};

/// Up to here a film part is judged by its insulation alone, in farad (IEC 60384-2, -16: memory).
const SMALL_FILM: f64 = 0.33e-6;

/// A leak as it was measured.
struct Leak {
    /// At the voltage of the test.
    ohms: f64,
    /// What flowed, where a current was read.
    amperes: Option<f64>,
    /// In words: `2.2 µA at 400 V`.
    said: String,
    /// The voltage of the test.
    tested_at: Option<f64>,
}

/// Judges the leakage of a paper, film, ceramic or mica part. Says whether it passed.
pub(in crate::verdict) fn judge(
    found: &mut Findings,
    case: Case<'_>,
    part: &Capacitor,
    policy: &Policy,
) -> bool {
    let Some((i, r)) = case.newest_of(&ReadQuantity::LEAKAGE) else { return false };
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
    let at = r.test_voltage.map(|v| v.volts().abs()).filter(|v| *v > 0.0);
    let at_text = at.map(|v| format!(" at {}", volts(v))).unwrap_or_default();
    let warm = if r.hot { ", warm" } else { "" };
    match r.quantity {
        ReadQuantity::LeakageResistance => {
            Some(Leak { ohms: v, amperes: None, said: format!("{}{at_text}{warm}", ohms(v)), tested_at: at })
        }
        ReadQuantity::LeakageCurrent => Some(Leak {
            // No current at all is an insulation beyond any meter.
            ohms: if v > 0.0 { at? / v } else { 1e15 },
            amperes: Some(v),
            said: format!("{}{at_text}{warm}", r.written()),
            tested_at: at,
        }),
        _ => None,
    }
}
/// Old paper that is finished whatever the place.
fn finished(part: &Capacitor, leak: &Leak, policy: &Policy) -> Option<String> {
    let seconds = leak.ohms * part.value.farads();
    let least = policy.number_si(PolicyNumber::FinishedSeconds);
    (part.family.is_some_and(is_paper) && seconds <= least).then(|| {
        format!(
            "{} × {} = {}: paper at {} or less is finished whatever the place",
            ohms(leak.ohms),
            part.value,
            time(seconds),
            time(least)
        )
    })
}

fn is_paper(family: CapacitorFamily) -> bool {
    matches!(
        family,
        CapacitorFamily::WaxPaper | CapacitorFamily::BitumenPaper | CapacitorFamily::MouldedPaper
    )
}

fn as_new(part: &Capacitor, leak: &Leak, policy: &Policy) -> bool {
    let by_time = leak.ohms * part.value.farads() >= policy.number_si(PolicyNumber::NewSeconds);
    let small = part.value.farads() <= SMALL_FILM;
    by_time || (small && leak.ohms >= policy.number_si(PolicyNumber::NewOhms))
}

fn insulation(part: &Capacitor, leak: &Leak) -> String {
    if part.value.farads() <= SMALL_FILM {
        ohms(leak.ohms)
    } else {
        format!("{} × {} = {}", ohms(leak.ohms), part.value, time(leak.ohms * part.value.farads()))
    }
}

fn ohms(v: f64) -> String {
    format(Quantity::Resistance, v).to_string()
}

/// Volts with three digits and no millivolts: what lifts a grid is compared with volts.
fn volts(v: f64) -> String {
    if (0.001..1.0).contains(&v.abs()) {
        let sign = if v < 0.0 { "−" } else { "" };
        let digits = (2.0 - v.abs().log10().floor()) as usize;
        let text = format!("{:.*}", digits, v.abs());
        return format!("{sign}{} V", text.trim_end_matches('0').trim_end_matches('.'));
    }
    format_as(Quantity::Voltage, v, 3, CapacitanceStyle::WithNano).to_string()
}

fn watts(v: f64) -> String {
    format(Quantity::Power, v).to_string()
}

fn time(v: f64) -> String {
    format(Quantity::Time, v).to_string()
}
