//! A transistor by its junctions, its gain, what leaks and where it breaks down (rule R11).

use super::finding::{Finding, Findings};
use super::{Case, Limits, Outcome, Reason, Rule, Threshold, Verdict};
use crate::part::position::isolate;
use crate::part::{Fact, JunctionTest, Material, PartKind, Transistor};
use crate::quantity::Volt;
use crate::quantity::format::percent;
use crate::reading::ReadQuantity;
use crate::transistor::fellows::{Fellowship, Shared, compare};
use crate::transistor::gain::leak_limit;
use crate::transistor::identify::{Conditions, Health, What, identify};
use crate::transistor::pairs::Piece;
use crate::transistor::place::stage_at;
use crate::transistor::rule::{RuleNumber, number};

/// From this share of what may leak on it is watched (rule R1: 70 % of a limit).
const WATCH: f64 = 0.7;
/// Below this share of the sheet's least gain it goes; above, it is watched (practice).
const GAIN_GONE: f64 = 0.5;
/// Gain that is taken where nobody measured it, for what may leak with the base open (practice).
const USUAL_GAIN: f64 = 100.0;
/// From here on it was tested warm, °C (practice).
const WARM: f64 = 35.0;

/// Judges a transistor.
pub(super) fn judge(case: Case<'_>, part: &Transistor) -> Verdict {
    let mut found = Findings::default();
    if let Some(test) = &part.junctions {
        junctions(&mut found, case, part, test);
    }
    gain(&mut found, case, part);
    leak(&mut found, case, part);
    breakdown(&mut found, case, part);
    pair(&mut found, case, part);
    found.settle("test its junctions, then its gain")
}

/// Pairs share the work as far as gain and base volts agree, by the distance that lots are paired by (R11).
fn pair(found: &mut Findings, case: Case<'_>, part: &Transistor) {
    let Some((i, gain)) = case.newest(ReadQuantity::Gain).and_then(|(i, r)| Some((i, r.value_si()?))) else {
        return;
    };
    let base = case.newest(ReadQuantity::ForwardVoltage).and_then(|(_, r)| r.value_si());
    let shared = Shared {
        stage: case.position.and_then(stage_at),
        material: part.material,
        idle_amperes: case.circuit.get_si(Fact::RestCurrent),
        emitter_ohms: case.circuit.get_si(Fact::EmitterResistor),
        test_amperes: None,
    };
    for p in case.partners {
        let apart = (gain / p.measured_si).max(p.measured_si / gain) - 1.0;
        let volts = base.zip(p.base_volts.map(Volt::volts));
        let (mine, theirs) = volts.unwrap_or((0.0, 0.0));
        let mut text = format!(
            "pair with {}: gain {gain:.0} and {:.0}, {} apart",
            p.name,
            p.measured_si,
            percent(apart)
        );
        if let Some((a, b)) = volts {
            text.push_str(&format!(", base volts {} apart", Volt::computed((a - b).abs())));
        }
        let says = compare(
            Piece { gain, base_volts: mine },
            Piece { gain: p.measured_si, base_volts: theirs },
            volts.is_some(),
            &shared,
        );
        let call = match says.call {
            Fellowship::Passes => Outcome::Keep,
            Fellowship::Watched => Outcome::Watch,
            Fellowship::Apart => Outcome::Replace,
        };
        if call != Outcome::Keep {
            let most = number(RuleNumber::PairDistance);
            text = format!("{text}; {:.1} steps of a tenth in gain or 10 mV, {most:.0} pass", says.distance);
        }
        for means in says.means.iter().chain(&says.cares) {
            text = format!("{text}; {means}");
        }
        if volts.is_some() && shared.stage.is_none_or(|s| !s.is_in_a_row()) {
            [Fact::RestCurrent, Fact::EmitterResistor]
                .into_iter()
                .filter(|f| case.circuit.get_si(*f).is_none())
                .for_each(|f| found.ask(f));
        }
        let mut finding = Finding::new(call, Rule::Pair, text).by(i);
        if volts.is_none() && call == Outcome::Keep {
            finding = finding
                .certain(false)
                .next("measure the base volts of both, equally warm: 2 mV for each kelvin");
        }
        if call != Outcome::Keep {
            finding = finding.next(format!("fit a matched pair for this one and {}", p.name));
        }
        found.push(finding);
    }
}

fn junctions(found: &mut Findings, case: Case<'_>, part: &Transistor, test: &JunctionTest) {
    let how = Conditions {
        in_circuit: test.in_circuit,
        celsius: test.celsius,
        further: test.further,
        ..Conditions::default()
    };
    let says = identify(&test.six, ["1", "2", "3"], how);
    let free = isolate(PartKind::Transistor, case.position, "");
    let finding = |call, text: &str| Finding::new(call, Rule::Transistor, text);
    let wrong = says.polarity.zip(part.polarity).filter(|(a, b)| a != b);
    let of_other = says.material.zip(part.material).filter(|(a, b)| a != b);
    match says.health {
        Health::Shorted | Health::Leaky if test.in_circuit => {
            let text =
                format!("junctions {} in the set: what lies across them may be what is read", says.health);
            found.push(finding(Outcome::MeasureAgain, &text).next(free));
        }
        Health::Shorted => {
            found.overloaded = true;
            found.push(finding(Outcome::Replace, "two of its leads are one: shorted"));
        }
        Health::Open if says.what == What::Unknown || says.what == What::Bipolar => {
            found.push(finding(Outcome::Replace, "a junction does not conduct: open"));
        }
        Health::Leaky => {
            found.push(finding(Outcome::Replace, "its junctions let something back: leaky"));
        }
        Health::Good | Health::Open => {
            found.push(finding(Outcome::Keep, &format!("its junctions are good: {}", says.what)));
        }
    }
    if says.health == Health::Good && !test.in_circuit {
        if let Some((is, should)) = wrong {
            let text = format!("it is {is}, and its type is {should}: wrong type, or wrong print");
            found.push(finding(Outcome::Replace, &text));
        }
        if let Some((is, should)) = of_other {
            let text =
                format!("its junctions drop as {is}, and its type is {should}: wrong type, or wrong print");
            found.push(finding(Outcome::Replace, &text));
        }
    }
}

fn gain(found: &mut Findings, case: Case<'_>, part: &Transistor) {
    let Some((i, r)) = case.newest(ReadQuantity::Gain) else {
        if part.junctions.is_some() {
            found.push(
                Finding::new(Outcome::Keep, Rule::Transistor, "its gain is not measured").certain(false),
            );
        }
        return;
    };
    if r.still_connected() {
        let text = format!("gain {} in the set is the stage's and not the transistor's", r.written());
        let next = isolate(PartKind::Transistor, case.position, "");
        found.push(Finding::new(Outcome::MeasureAgain, Rule::InCircuit, text).by(i).next(next));
        return;
    }
    let Some(v) = r.value_si() else { return };
    let shown = r.written();
    if v < 1.0 {
        found.push(Finding::new(Outcome::Replace, Rule::Transistor, "no gain").by(i));
        return;
    }
    let Some(least) = part.gain_min else {
        let text = format!("gain {shown}; what its type should have is not known");
        found.push(Finding::new(Outcome::Keep, Rule::Transistor, text).by(i).certain(false));
        return;
    };
    let high = part.gain_max;
    found.limits =
        Some(Limits { low_si: least, high_si: high.unwrap_or(f64::INFINITY) }).filter(|_| high.is_some());
    let most_tested = number(RuleNumber::TesterCurrent);
    if let Some(at) = part.gain_at.filter(|i| i.amperes() > most_tested) {
        let text = format!(
            "gain {shown} is a tester's, at a few milliampere; the sheet quotes its own at {at}: not judged by it"
        );
        let next = format!("measure its gain at {at}, or at the current of its stage");
        found.limits = None;
        found.push(Finding::new(Outcome::Keep, Rule::Transistor, text).by(i).certain(false).next(next));
        return;
    }
    let window = high.map_or_else(|| format!("{least:.0} and more"), |h| format!("{least:.0} to {h:.0}"));
    let (call, text) = if v < least * GAIN_GONE {
        (Outcome::Replace, format!("gain {shown} is far under the sheet's {window}"))
    } else if v < least {
        (
            Outcome::Watch,
            format!("gain {shown} is under the sheet's {window}, which are quoted at a current of their own"),
        )
    } else if high.is_some_and(|h| v > h) {
        let leaks = if case.newest_of(&ReadQuantity::LEAKAGE).is_none() {
            ": measure what leaks, leakage reads as gain"
        } else {
            ""
        };
        (Outcome::Watch, format!("gain {shown} is above the sheet's {window}{leaks}"))
    } else {
        (Outcome::Keep, format!("gain {shown} is within the sheet's {window}"))
    };
    found.push(Finding::new(call, Rule::Transistor, text).by(i));
    found.thresholds.extend(if call == Outcome::Keep {
        Threshold::new(Outcome::Watch, ReadQuantity::Gain, v, least, "under")
    } else {
        Threshold::new(Outcome::Keep, ReadQuantity::Gain, v, least, "from")
    });
}

/// What leaks, with the base open and with the emitter open, each against what such a device may.
fn leak(found: &mut Findings, case: Case<'_>, part: &Transistor) {
    for of in [ReadQuantity::LeakageCurrent, ReadQuantity::CutOffCurrent] {
        leaks(found, case, part, of);
    }
}

fn leaks(found: &mut Findings, case: Case<'_>, part: &Transistor, of: ReadQuantity) {
    let Some((i, r)) = case.newest(of) else { return };
    let shown = r.written();
    if r.still_connected() {
        let text = format!("{shown} in the set is what lies across it");
        found.push(Finding::new(Outcome::MeasureAgain, Rule::InCircuit, text).by(i).next("take it out"));
        return;
    }
    let Some(material) = part.material else {
        let text = format!("{shown} leak; what is usual depends on its material, which is not known");
        found.push(Finding::new(Outcome::Keep, Rule::Transistor, text).by(i).certain(false));
        return;
    };
    let gain = case.newest(ReadQuantity::Gain).and_then(|(_, g)| g.value_si());
    let celsius = part.junctions.map_or(25.0, |j| j.celsius);
    let Some(limit) = leak_limit(material, part.power, gain.unwrap_or(USUAL_GAIN), celsius) else { return };
    let (most, how) = if of == ReadQuantity::CutOffCurrent {
        (limit.cut_off_amperes, "from collector to base with the emitter open")
    } else {
        (limit.open_base_amperes, "with the base open")
    };
    let Some(v) = r.value_si() else {
        let text = format!("more leaks {how} than the meter shows");
        found.push(Finding::new(Outcome::Replace, Rule::Transistor, text).by(i));
        return;
    };
    let written = of.written(most);
    let cold = material == Material::Germanium && !r.hot && celsius < WARM;
    let leak = format!("{shown} leak {how}");
    let (call, text) = if v > most {
        (Outcome::Replace, format!("{leak}, at most {written} at {celsius:.0} °C"))
    } else if v > most * WATCH {
        (Outcome::Watch, format!("{leak}, near the {written} that may at {celsius:.0} °C"))
    } else {
        (Outcome::Keep, format!("{leak}, {written} may at {celsius:.0} °C"))
    };
    // What germanium leaks on a cool bench is not what it leaks in the set.
    let (call, text) = if cold && call == Outcome::Keep && v > 0.0 {
        (Outcome::Watch, format!("{text}; germanium leaks far more in a warm set"))
    } else {
        (call, text)
    };
    let mut finding = Finding::new(call, Rule::Transistor, "").by(i);
    if cold && call == Outcome::Watch {
        finding = finding.next("test its leakage again, warmed between two fingers");
    }
    finding.reason = Reason::from(Rule::Transistor, text, limit.source);
    found.push(finding);
}

fn breakdown(found: &mut Findings, case: Case<'_>, part: &Transistor) {
    let Some((i, r)) = case.newest(ReadQuantity::BreakdownVoltage) else { return };
    let (Some(v), Some(rated)) = (r.value_si(), part.vceo) else { return };
    let (call, text) = if v < rated.volts() {
        (Outcome::Replace, format!("it breaks down at {}, rated {rated}", r.written()))
    } else {
        (Outcome::Keep, format!("it stands {}, rated {rated}", r.written()))
    };
    found.push(Finding::new(call, Rule::Transistor, text).by(i));
}
