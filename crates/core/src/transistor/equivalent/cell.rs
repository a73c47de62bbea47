//! Limit by limit: what is needed, what the candidate has, and by how much it is short.

use super::Fitness;
use super::limit::{LimitCheck, LimitName, LimitState, SLACK, cell, least, same};
use super::power::power;
use crate::quantity::Quantity;
use crate::quantity::format::format;
use crate::transistor::circuit::{CircuitNeed, Stage};
use crate::transistor::device::Device;
use crate::transistor::gain;
use crate::transistor::rule::{RuleNumber, number};

pub(super) fn fitness(cells: &[LimitCheck], need: &CircuitNeed) -> Fitness {
    let radio = need.stage.is_some_and(Stage::is_radio);
    let decides = |c: &LimitCheck| match c.name {
        LimitName::Vceo | LimitName::Transition => radio && c.hard,
        LimitName::Gain => c.hard,
        _ => false,
    };
    // Another package is a matter of the drawing of its leads; another speed or gain is one of the stage.
    let known = Fitness::of(cells.iter().map(|c| (c.state, c.hard, c.name != LimitName::Package)));
    let undecided = cells.iter().any(|c| c.state == LimitState::Unknown && decides(c));
    if undecided { known.max(Fitness::Undecided) } else { known }
}

/// Collector to emitter volts that count: with the base open, or with a resistor there where the stage has one (a radio
/// frequency power stage's choke), or where that alone is registered of the original and nothing is asked but its sheet.
pub(super) fn collector_emitter(wanted: &Device, need: &CircuitNeed, d: &Device) -> Option<f64> {
    let returned = need.stage.is_some_and(Stage::is_radio_power);
    let alike = need.supply_volts.is_none() && wanted.vceo_volts.is_none();
    // With the base open it stands no more than with a resistor there: too few are too few.
    let needed = need.volts().map(|a| a.si).or(wanted.collector_volts());
    let short = |v: f64| needed.is_some_and(|n| v < n);
    let with_a_resistor = d.vcer_volts.filter(|v| returned || alike || short(*v));
    d.vceo_volts.into_iter().chain(with_a_resistor).reduce(f64::max)
}

pub(super) fn cells(wanted: &Device, need: &CircuitNeed, d: &Device) -> Vec<LimitCheck> {
    let mut out = vec![
        same(LimitName::Kind, true, Some(wanted.kind), Some(d.kind)),
        same(LimitName::Polarity, true, Some(wanted.polarity), Some(d.polarity)),
    ];
    let mut material = same(LimitName::Material, !need.other_material, wanted.material, d.material);
    if need.other_material && material.state == LimitState::Short {
        material.why = "another material: the bias has to be changed".to_owned();
    }
    out.push(material);
    let volts = need.volts();
    let amperes = need.amperes();
    let of =
        |name, q, own: Option<f64>, asked: Option<&crate::transistor::circuit::Asked>, has: Option<f64>| {
            let (needed, why) = match asked {
                Some(a) => (Some(a.si), a.because.clone()),
                None => (own, String::new()),
            };
            least(name, true, q, has, needed, why)
        };
    use Quantity::{Current, Voltage};
    out.push(of(LimitName::Vcbo, Voltage, wanted.vcbo_volts, volts.as_ref(), d.vcbo_volts));
    let mut across = of(
        LimitName::Vceo,
        Voltage,
        wanted.collector_volts(),
        volts.as_ref(),
        collector_emitter(wanted, need, d),
    );
    if let (LimitState::Unknown, Some(v)) = (across.state, d.vcer_volts) {
        across.why = format!("{} only with a resistor at the base", format(Voltage, v));
    }
    out.push(across);
    out.push(least(LimitName::Vebo, false, Voltage, d.vebo_volts, wanted.vebo_volts, String::new()));
    out.push(of(LimitName::Ic, Current, wanted.ic_amperes, amperes.as_ref(), d.ic_amperes));
    out.push(power(wanted, need, d));
    out.push(transition(wanted, need, d));
    if wanted.kind.has_base() {
        out.push(gain_cell(wanted, need, d));
        out.push(capacitance(wanted, need, d));
    } else {
        out.push(idss(wanted, d));
        out.push(least(
            LimitName::Transconductance,
            false,
            Quantity::Ratio,
            d.gfs_siemens.map(|g| g * 1e3),
            wanted.gfs_siemens.map(|g| g * 1e3 * number(RuleNumber::GainWindow)),
            "mA per volt".to_owned(),
        ));
    }
    out.push(packages(wanted, d));
    if d.is_called(&wanted.type_number) {
        out.iter_mut().for_each(in_its_own_place);
    }
    out
}

/// The original fits its own place: where a sum says otherwise, the sum is looked at again.
fn in_its_own_place(c: &mut LimitCheck) {
    if c.hard && c.state != LimitState::Pass {
        c.hard = false;
        let again = "it is the original: look again at what its circuit is said to ask";
        c.why = if c.why.is_empty() { again.to_owned() } else { format!("{}; {again}", c.why) };
    }
}

fn transition(wanted: &Device, need: &CircuitNeed, d: &Device) -> LimitCheck {
    if let Some(asked) = need.transition() {
        return least(
            LimitName::Transition,
            true,
            Quantity::Frequency,
            d.ft_hertz,
            Some(asked.si),
            asked.because,
        );
    }
    let (low, high) = (number(RuleNumber::TransitionLow), number(RuleNumber::TransitionHigh));
    // Where radio frequency flows a slow one does not work at all.
    let radio = need.stage.is_some_and(Stage::is_radio);
    let mut c = least(
        LimitName::Transition,
        radio,
        Quantity::Frequency,
        d.ft_hertz,
        wanted.ft_hertz.map(|f| f * low),
        String::new(),
    );
    if let (Some(w), Some(h)) = (wanted.ft_hertz, d.ft_hertz)
        && h > w * high
    {
        (c.state, c.hard) = (LimitState::Short, false);
        c.why =
            format!("{:.0} times as fast: it may oscillate; a ferrite bead or a stopper at the base", h / w);
    }
    c
}

fn gain_cell(wanted: &Device, need: &CircuitNeed, d: &Device) -> LimitCheck {
    let at = super::current::common_current(
        need.gain_asked().and_then(|(_, i)| i).or(need.rest_amperes),
        wanted,
        d,
    );
    let mut c = cell(LimitName::Gain, need.gain_asked().is_some(), LimitState::Unknown);
    let span = |s: gain::Span| match (s.min, s.max) {
        (Some(a), Some(b)) => format!("{a:.0} to {b:.0}"),
        (Some(a), None) => format!("{a:.0} and more"),
        (None, Some(b)) => format!("up to {b:.0}"),
        (None, None) => String::new(),
    };
    c.has = span(gain::Span { min: d.gain_min, max: d.gain_max });
    c.needs = span(gain::Span { min: wanted.gain_min, max: wanted.gain_max });
    let Some(at) = at else {
        "not comparable: at which current gain is quoted is not known".clone_into(&mut c.why);
        return c;
    };
    let written = format(Quantity::Current, at);
    let has = match gain::at(d, at) {
        Ok(s) => s,
        Err(e) => {
            c.why = format!("not comparable at {written}: {e}");
            return c;
        }
    };
    (c.value_si, c.has) = (has.min, span(has));
    if let Some((least, _)) = need.gain_asked() {
        c.needed_si = Some(least);
        c.needs = format!("{least:.0} and more");
        (c.state, c.why) = match has.min {
            Some(g) if g >= least * (1.0 - SLACK) => (LimitState::Pass, format!("at {written}")),
            Some(g) => (LimitState::Short, format!("short by {:.0} at {written}", least - g)),
            None => (LimitState::Unknown, "its least gain is not known".to_owned()),
        };
        return c;
    }
    let wants = match gain::at(wanted, at) {
        Ok(s) => s,
        Err(e) => {
            c.why = format!("not comparable at {written}: of the original, {e}");
            return c;
        }
    };
    (c.needed_si, c.needs) = (wants.min, span(wants));
    (c.state, c.why) = neighbourhood(wants, has, &written.to_string());
    c
}

/// Whether two spans of gain lie in the same neighbourhood.
fn neighbourhood(wants: gain::Span, has: gain::Span, at: &str) -> (LimitState, String) {
    let window = number(RuleNumber::GainWindow);
    match (wants.min, has.min) {
        (Some(w), Some(h)) if has.max.is_some_and(|m| m < w) => {
            (LimitState::Short, format!("less gain at {at}: {h:.0} and more for {w:.0} and more"))
        }
        (Some(w), Some(h)) if h < w * window && has.max.is_none_or(|m| m < w / window) => {
            (LimitState::Short, format!("less gain at {at}: short by {:.0}", w - h))
        }
        (_, Some(h)) if wants.max.is_some_and(|m| h > m) => {
            (LimitState::Pass, format!("more gain at {at}: the stage gets louder; check that it stays quiet"))
        }
        (Some(_), Some(_)) => (LimitState::Pass, format!("at {at}")),
        _ => (LimitState::Unknown, "least gain is not known".to_owned()),
    }
}

fn capacitance(wanted: &Device, need: &CircuitNeed, d: &Device) -> LimitCheck {
    let radio = need.stage.is_some_and(Stage::is_radio);
    let most = wanted.cob_farads.map(|c| c * number(RuleNumber::CapacitanceFactor));
    let text = |v: Option<f64>| v.map_or_else(String::new, |v| format(Quantity::Capacitance, v).to_string());
    let (state, why) = match (d.cob_farads, most) {
        (Some(h), Some(m)) if h <= m => (LimitState::Pass, String::new()),
        (Some(h), Some(m)) if radio => (
            LimitState::Short,
            format!("{} more than the trimmer takes up: realign", format(Quantity::Capacitance, h - m)),
        ),
        (Some(_), Some(_)) => (LimitState::Pass, "more, which matters only at radio frequency".to_owned()),
        (None, _) => (LimitState::Unknown, "not known of this type".to_owned()),
        (_, None) => (LimitState::Unknown, "not known of the original".to_owned()),
    };
    LimitCheck {
        value_si: d.cob_farads,
        needed_si: most,
        has: text(d.cob_farads),
        needs: text(most),
        why,
        ..cell(LimitName::Capacitance, false, state)
    }
}

fn idss(wanted: &Device, d: &Device) -> LimitCheck {
    let span = |d: &Device| match (d.idss_min_amperes, d.idss_max_amperes) {
        (Some(a), Some(b)) => Some((a, b)),
        _ => None,
    };
    let text = |s: Option<(f64, f64)>| {
        s.map_or_else(String::new, |(a, b)| {
            format!("{} to {}", format(Quantity::Current, a), format(Quantity::Current, b))
        })
    };
    let (w, h) = (span(wanted), span(d));
    let (state, why) = match (w, h) {
        (Some((a, b)), Some((x, y))) if x <= b && y >= a => (LimitState::Pass, String::new()),
        (Some(_), Some(_)) => {
            (LimitState::Short, "another spread: the source resistor has to be found anew".to_owned())
        }
        _ => (LimitState::Unknown, "not known".to_owned()),
    };
    LimitCheck {
        value_si: h.map(|(x, _)| x),
        needed_si: w.map(|(a, _)| a),
        has: text(h),
        needs: text(w),
        why,
        ..cell(LimitName::Idss, false, state)
    }
}

fn packages(wanted: &Device, d: &Device) -> LimitCheck {
    let known = |p: &str| !p.is_empty();
    let state = match (known(&wanted.package), known(&d.package)) {
        (true, true) if wanted.package.eq_ignore_ascii_case(&d.package) => LimitState::Pass,
        (true, true) => LimitState::Short,
        _ => LimitState::Unknown,
    };
    let why = if state == LimitState::Short {
        "another package: see the drawing".to_owned()
    } else {
        String::new()
    };
    LimitCheck {
        has: d.package.clone(),
        needs: wanted.package.clone(),
        why,
        ..cell(LimitName::Package, false, state)
    }
}
