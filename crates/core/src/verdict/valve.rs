//! Valves (rule R23): the heater, shorts and leaks, gas, and how much of it is left, by what that means in its place.

use super::finding::{Finding, Findings};
use super::{Case, Outcome, Rule, Verdict};
use crate::part::{Position, Valve};
use crate::quantity::format::percent;
use crate::quantity::{Ampere, Ohm, Siemens, Volt};
use crate::reading::{ReadQuantity, Reading};
use crate::socket::{self, Electrode};
use crate::valve::ValveType;
use crate::valve::limit::{PlaceLimit, limit};

/// Cold, a heater is between these shares of what is reckoned, or it is another valve's (practice).
const HEATER: std::ops::RangeInclusive<f64> = 0.5..=2.0;
/// Below this between two electrodes it counts as a short (practice: what testers show by a lamp).
const SHORT: Ohm = Ohm::computed(100e3);
/// Below this between two electrodes a grid's leak notices it (practice).
const LEAK: Ohm = Ohm::computed(10e6);
/// Below this from heater to cathode a set hums (practice).
const HUM: Ohm = Ohm::computed(1e6);
/// A grid that stands higher than this against the chassis has current in its leak (practice).
const GRID_UP: Volt = Volt::computed(0.2);
/// What stays of that with the coupling capacitor lifted, where the capacitor made it (practice).
const STAYS: f64 = 0.3;
/// Halves of a push-pull stage further apart than this are changed for two alike (practice).
const HALVES: f64 = 0.2;

/// Judges a valve by what was read of it, out of the set and in it.
pub(super) fn judge(case: Case<'_>, part: &Valve) -> Verdict {
    let mut found = Findings::default();
    let limit = limit(case.position.or(part.of.map(|t| t.usual)));
    heater(&mut found, case, part);
    electrodes(&mut found, case);
    heater_to_cathode(&mut found, case, part);
    if let Some(limit) = limit {
        gas(&mut found, case, limit);
        strength(&mut found, case, part, limit);
    }
    if let Some(of) = part.of {
        grid_volts(&mut found, case, of);
        current(&mut found, case, of);
    }
    still_to_read(&mut found, case, limit);
    found.settle("test it: its heater, then shorts warm, then emission or transconductance")
}

/// How much of a valve is left as a share of a good one: by the newest emission, else by its transconductance.
pub(crate) fn left(part: &Valve, readings: &[Reading]) -> Option<f64> {
    let newest = |of| readings.iter().rfind(|r| r.quantity == of)?.value_si();
    newest(ReadQuantity::Emission).or_else(|| {
        let sheet = part.of?.transconductance?;
        Some(Siemens::computed(newest(ReadQuantity::Transconductance)?) / sheet)
    })
}

fn heater(found: &mut Findings, case: Case<'_>, part: &Valve) {
    let Some((i, r)) = case.newest(ReadQuantity::Resistance) else { return };
    let rule = Rule::Valve;
    let Some(ohms) = r.ohms() else {
        let text = "nothing flows through its heater: it is open";
        let next =
            "heat its heater pins with the iron once: where the joint in a pin is bad, it lights again";
        return found.push(Finding::new(Outcome::Replace, rule, text).by(i).next(next));
    };
    if r.still_connected() {
        let text = format!("{ohms} at its heater, in the set: the winding or the other heaters lie across");
        let next = "pull it and read its heater alone";
        return found.push(Finding::new(Outcome::MeasureAgain, rule, text).by(i).certain(false).next(next));
    }
    let Some(h) = part.of.and_then(|t| t.heater) else {
        let text = format!("its heater conducts: {ohms} cold");
        return found.push(Finding::new(Outcome::Keep, rule, text).by(i));
    };
    // Of a heater with a tap either half may have been read.
    let reckoned = if h.tapped { vec![h.cold(), h.cold() * 0.5] } else { vec![h.cold()] };
    let text = format!("heater {ohms} cold; {h} hot is about {} cold", h.cold());
    let fits = reckoned.iter().any(|c| HEATER.contains(&(ohms / *c)));
    found.push(if fits || r.hot {
        Finding::new(Outcome::Keep, rule, text).by(i)
    } else {
        let next = "compare the number on its glass, and read it again when it is quite cold";
        Finding::new(Outcome::Watch, rule, text).by(i).certain(false).next(next)
    });
}

/// A short that comes with heat is not there cold.
fn only_cold(found: &mut Findings, i: usize, r: &Reading) {
    if !r.hot {
        let next = "read it again warm, while it is tapped: some shorts come with heat";
        let text = "read cold: some shorts come with heat";
        found.push(Finding::new(Outcome::Keep, Rule::Valve, text).by(i).certain(false).next(next));
    }
}

fn electrodes(found: &mut Findings, case: Case<'_>) {
    let Some((i, r)) = case.newest(ReadQuantity::LeakageResistance) else { return };
    let Some(ohms) = r.ohms() else {
        found.push(Finding::new(Outcome::Keep, Rule::Valve, "nothing between its electrodes").by(i));
        return only_cold(found, i, r);
    };
    let text = format!("{ohms} between electrodes");
    if ohms < SHORT {
        let text = format!("{text}: a short, here below {SHORT}");
        found.push(Finding::new(Outcome::Replace, Rule::Valve, text).by(i));
    } else if ohms < LEAK {
        let text = format!("{text}: a grid's leak of a megohm notices it");
        let next = "clean between its pins and the socket's, and read it again";
        found.push(Finding::new(Outcome::Watch, Rule::Valve, text).by(i).next(next));
    } else {
        found.push(Finding::new(Outcome::Keep, Rule::Valve, text).by(i));
        only_cold(found, i, r);
    }
}

fn heater_to_cathode(found: &mut Findings, case: Case<'_>, part: &Valve) {
    let Some((i, r)) = case.newest(ReadQuantity::HeaterCathode) else { return };
    let Some(ohms) = r.ohms().filter(|o| *o < HUM) else {
        let text = format!("heater to cathode {}", r.written());
        return found.push(Finding::new(Outcome::Keep, Rule::Valve, text).by(i));
    };
    let text = format!("heater to cathode {ohms}, below {HUM}: it hums");
    found.push(if ohms < SHORT || part.in_chain {
        let text = if part.in_chain {
            format!("{text}, and in a chain of heaters the whole chain's volts stand there")
        } else {
            text
        };
        Finding::new(Outcome::Replace, Rule::Valve, text).by(i)
    } else {
        let next = "in a stage whose cathode lies at the chassis it may stay";
        Finding::new(Outcome::Watch, Rule::Valve, text).by(i).next(next)
    });
}

fn gas(found: &mut Findings, case: Case<'_>, limit: &PlaceLimit) {
    let Some((i, r)) = case.newest(ReadQuantity::GridCurrent) else { return };
    let Some(current) = r.value_si().map(Ampere::computed) else {
        let text = "grid current beyond the meter's range: gas";
        return found.push(Finding::new(Outcome::Replace, Rule::Valve, text).by(i));
    };
    let at = limit.position;
    let finding = match (limit.gas_gone, limit.gas_watch) {
        (Some(gone), _) if current >= gone => {
            let text = format!("grid current {current}: gas; as {at} from {gone} on it runs away");
            Finding::new(Outcome::Replace, Rule::Valve, text)
        }
        (_, Some(watch)) if current >= watch => {
            let text =
                format!("grid current {current}: a trace of gas; as {at} from {watch} on it is watched");
            let next = "a smaller grid leak bears it, where the sheet of the valve allows no more";
            Finding::new(Outcome::Watch, Rule::Valve, text).next(next)
        }
        _ => Finding::new(Outcome::Keep, Rule::Valve, format!("grid current {current}")),
    };
    found.push(finding.by(i));
}

/// How much of it is left: as the tester shows it, or its transconductance against the published one.
fn strength(found: &mut Findings, case: Case<'_>, part: &Valve, limit: &PlaceLimit) {
    let emission = case.newest(ReadQuantity::Emission).and_then(|(i, r)| {
        let share = r.value_si()?;
        Some((i, share, format!("emission {}", percent(share))))
    });
    let sheet = part.of.and_then(|t| t.transconductance);
    let steep = case.newest(ReadQuantity::Transconductance).and_then(|(i, r)| {
        let (has, of) = (Siemens::computed(r.value_si()?), sheet?);
        let share = has / of;
        Some((i, share, format!("transconductance {has} of {of}: {}", percent(share))))
    });
    let (weak, gone) = (limit.weak_below, limit.gone_below);
    for (i, share, text) in emission.iter().chain(&steep) {
        let at = limit.position;
        let (i, share) = (*i, *share);
        found.push(if share < gone.fraction() {
            let text =
                format!("{text}; as {at} it goes below {}: {}", percent(gone.fraction()), limit.consequence);
            Finding::new(Outcome::Replace, Rule::Valve, text).by(i)
        } else if share < weak.fraction() {
            let text = format!(
                "{text}; as {at} it is weak below {}: {}",
                percent(weak.fraction()),
                limit.consequence
            );
            Finding::new(Outcome::Watch, Rule::Valve, text)
                .by(i)
                .next("keep one at hand, and say so on the report")
        } else {
            Finding::new(Outcome::Keep, Rule::Valve, text.clone()).by(i)
        });
        halves(found, case, i, share);
    }
    if let (Some((i, r)), None) = (case.newest(ReadQuantity::Transconductance), sheet) {
        let text = format!("transconductance {}: no table knows what it should be", r.written());
        let next = "look it up, and say it in percent of the sheet's as emission";
        found.push(Finding::new(Outcome::MeasureAgain, Rule::Valve, text).by(i).certain(false).next(next));
    }
}

/// What conducts and does not leak may still be worn out; a regulator has nothing that wears so.
fn still_to_read(found: &mut Findings, case: Case<'_>, limit: Option<&PlaceLimit>) {
    let read = case.newest_of(&[ReadQuantity::Emission, ReadQuantity::Transconductance]).is_some();
    let decides = found.all.iter().any(|f| f.call != Outcome::Keep);
    if !read && !decides && !found.all.is_empty() && limit.is_some() {
        let text = "nothing says yet how much of it is left";
        let next = "read its emission or its transconductance";
        found.push(Finding::new(Outcome::MeasureAgain, Rule::Valve, text).next(next));
    }
}

fn halves(found: &mut Findings, case: Case<'_>, i: usize, share: f64) {
    if case.position != Some(Position::PushPull) {
        return;
    }
    for p in
        case.partners.iter().filter(|p| (p.measured_si - share).abs() > HALVES * share.max(p.measured_si))
    {
        let text = format!(
            "{} against {} of {}: one half does the work",
            percent(share),
            percent(p.measured_si),
            p.name
        );
        let next = "put in two that are alike, and set the bias by the current of each";
        found.push(Finding::new(Outcome::Watch, Rule::Pair, text).by(i).next(next));
    }
}

/// A control grid that stands up has current in its leak: its own, from gas, or the coupling capacitor's. Lifting the
/// capacitor tells which.
fn grid_volts(found: &mut Findings, case: Case<'_>, of: &ValveType) {
    let Some(pins) = socket::valve(&of.name) else { return };
    let newest = |pin: u8, lifted: bool| {
        let all = case.readings.iter().enumerate();
        let (i, r) = all.into_iter().rfind(|(_, r)| r.is_at_pin(pin, lifted))?;
        Some((i, Volt::computed(r.value_si()?)))
    };
    for (pin, role) in pins.pins.iter().filter(|(_, r)| r.electrode == Some(Electrode::Grid)) {
        let Some((i, up)) = newest(*pin, false).filter(|(_, v)| *v > GRID_UP) else { continue };
        let name = &role.name;
        found.push(match newest(*pin, true) {
            None => {
                let text = format!("{name}, pin {pin}, stands at {up}: gas in it, or its coupling capacitor leaks");
                let next = format!(
                    "lift the coupling capacitor's grid end and read pin {pin} again as 'lifted': gone, it was the \
                     capacitor; still there, it is gas"
                );
                Finding::new(Outcome::MeasureAgain, Rule::Valve, text).by(i).certain(false).next(next)
            }
            Some((i, alone)) if alone.volts() > STAYS * up.volts() => {
                let text = format!("{name}, pin {pin}: {up}, and {alone} with the coupling capacitor lifted: gas");
                Finding::new(Outcome::Replace, Rule::Valve, text).by(i)
            }
            Some((i, alone)) => {
                let text = format!(
                    "{name}, pin {pin}: {up}, and {alone} with the coupling capacitor lifted: the capacitor leaks, the \
                     valve is not to blame"
                );
                let next = "replace the coupling capacitor, whatever it reads on a low-voltage meter";
                Finding::new(Outcome::Keep, Rule::Valve, text).by(i).next(next)
            }
        });
    }
}

/// What its cathode gives, against what it is made for; with the volts across it, what its plate takes up.
fn current(found: &mut Findings, case: Case<'_>, of: &ValveType) {
    let Some((i, r)) = case.newest(ReadQuantity::CathodeCurrent) else { return };
    let Some(current) = r.value_si().map(Ampere::computed) else { return };
    let mut well = true;
    if let Some(most) = of.cathode_most.filter(|m| current > *m) {
        let text = format!("its cathode gives {current}, made for {most}");
        over(found, i, text);
        well = false;
    }
    let across = case.working();
    if let (Some(volts), Some(most)) = (across, of.dissipation_most) {
        let watts = volts * current;
        let text = format!("{volts} · {current} = {watts} at its plate, made for {most}");
        if watts > most {
            over(found, i, text);
        } else {
            found.push(Finding::new(Outcome::Keep, Rule::Valve, text).by(i));
        }
        well = false;
    }
    if let (true, Some(usual)) = (well, of.at.and_then(|p| p.plate_current)) {
        let text = format!("its cathode gives {current}; {usual} flow in its plate at the published point");
        found.push(Finding::new(Outcome::Keep, Rule::Valve, text).by(i).certain(false));
    }
}

fn over(found: &mut Findings, i: usize, text: String) {
    found.overloaded = true;
    let next = "read its grid's volts first: no bias comes from a leaking coupling capacitor or from gas";
    found.push(Finding::new(Outcome::Watch, Rule::Valve, text).by(i).next(next));
}
