//! Integrated circuits by the volts at their pins (rule R21): what feeds it first, then its ground, then what hangs on a pin
//! that is off; the circuit itself comes last.

use super::finding::{Finding, Findings};
use super::{Case, Outcome, Rule, Verdict};
use crate::ic::expected::Feeding;
use crate::ic::{Device, Function, Pin};
use crate::part::Ic;
use crate::quantity::Volt;
use crate::reading::{ReadQuantity, Reading};

/// A lifted pin's feed is back from this share of the least supply on (practice).
const FED_AGAIN: f64 = 0.9;

/// Judges a circuit by what was read at its pins.
pub(super) fn judge(case: Case<'_>, part: &Ic) -> Verdict {
    let mut found = Findings::default();
    let Some(device) = part.device else {
        if let Some((i, r)) = case.newest(ReadQuantity::PinVoltage) {
            let text = format!("{} at pin {}: no table knows this type", r.written(), r.pin.unwrap_or(0));
            let next = "hold each pin against the sheet; what hangs on a pin that is off comes first";
            found.push(
                Finding::new(Outcome::MeasureAgain, Rule::Circuit, text).by(i).next(next).certain(false),
            );
        }
        return found.settle("read the volts at its pins and hold them against the sheet");
    };
    let pins = Pins { case, device };
    supply(&mut found, &pins);
    if let Some(feeding) = pins.feeding()
        && found.all.is_empty()
    {
        for pin in device.in_probing_order() {
            one_pin(&mut found, &pins, pin, feeding);
        }
        still_to_read(&mut found, &pins);
    }
    let first = device.in_probing_order().first().map_or(0, |p| p.number);
    found.settle(&format!("read the volts at pin {first} first: it feeds the circuit"))
}

/// The readings of a circuit, pin by pin.
struct Pins<'a> {
    case: Case<'a>,
    device: &'static Device,
}

impl Pins<'_> {
    /// The newest reading at a pin, in the set as it is or with what hangs on it lifted.
    fn read(&self, pin: u8, lifted: bool) -> Option<(usize, &Reading)> {
        self.case.readings.iter().enumerate().rfind(|(_, r)| r.is_at_pin(pin, lifted))
    }

    fn volts(&self, pin: u8) -> Option<Volt> {
        self.read(pin, false)?.1.value_si().map(Volt::computed)
    }

    fn feeding(&self) -> Option<Feeding> {
        self.device.feeding(|pin| self.volts(pin))
    }
}

/// What feeds it: too little is no fault of the circuit until its pin was freed, too much is what killed it.
fn supply(found: &mut Findings, pins: &Pins<'_>) {
    let device = pins.device;
    let Some(pin) = device.pins().find(|p| p.function == Function::Supply) else { return };
    let Some((i, _)) = pins.read(pin.number, false) else { return };
    let Some(feeding) = pins.feeding() else { return };
    let (n, has, range) = (pin.number, feeding.volts(), device.supply_in_words());
    if has > device.supply_most {
        let text = format!("pin {n} feeds it {has}, made for {range}: it does not stand that");
        let next = "find what lifted the supply before another goes in";
        return found.push(Finding::new(Outcome::Replace, Rule::Circuit, text).by(i).next(next));
    }
    if has >= device.supply_least {
        return;
    }
    let alone = pins.read(n, true).and_then(|(i, r)| Some((i, Volt::computed(r.value_si()?))));
    let finding = match alone {
        Some((i, v)) if v >= device.supply_least * FED_AGAIN => {
            let text =
                format!("pin {n}: {has} with the circuit, {v} with the pin free: it draws its own feed down");
            Finding::new(Outcome::Replace, Rule::Circuit, text).by(i)
        }
        Some((i, v)) => {
            let text = format!(
                "pin {n}: {has}, and {v} with the pin free: what feeds it is at fault, not the circuit"
            );
            Finding::new(Outcome::Keep, Rule::Circuit, text).by(i).next(format!("look at {}", pin.hangs))
        }
        None => {
            let text = format!(
                "pin {n} feeds it {has}, and it needs {range}: nothing else at its pins tells anything"
            );
            let next = format!(
                "power off, free pin {n}, and read its feed as 'lifted': right then, the circuit draws too much; still \
                 low, look at {}",
                pin.hangs
            );
            Finding::new(Outcome::MeasureAgain, Rule::Circuit, text).by(i).next(next)
        }
    };
    found.push(finding);
}

fn one_pin(found: &mut Findings, pins: &Pins<'_>, pin: &Pin, feeding: Feeding) {
    if matches!(pin.function, Function::Supply | Function::NegativeSupply) {
        let Some((i, _)) = pins.read(pin.number, false) else { return };
        if pin.function == Function::Supply {
            let text = format!(
                "pin {} feeds it {}, made for {}",
                pin.number,
                feeding.volts(),
                pins.device.supply_in_words()
            );
            found.push(Finding::new(Outcome::Keep, Rule::Circuit, text).by(i));
        }
        return;
    }
    let Some(expected) = pin.expected(feeding) else { return };
    let Some((i, r)) = pins.read(pin.number, false) else { return };
    let Some(has) = r.value_si().map(Volt::computed) else { return };
    let (n, name, hangs) = (pin.number, &pin.name, &pin.hangs);
    let should = format!("{} ±{}", expected.volts, expected.within);
    if expected.fits(has) {
        found.push(
            Finding::new(Outcome::Keep, Rule::Circuit, format!("pin {n}, {name}: {has} for {should}")).by(i),
        );
        return;
    }
    if pin.function == Function::Ground {
        let text = format!("pin {n} stands {has} off the chassis: its ground is open");
        let next = format!("mend {hangs}, and read all pins anew");
        found.push(Finding::new(Outcome::MeasureAgain, Rule::Circuit, text).by(i).next(next));
        return;
    }
    let off = format!("pin {n}, {name}: {has} for {should}");
    let alone = pins.read(n, true).and_then(|(i, r)| Some((i, Volt::computed(r.value_si()?))));
    found.push(match alone {
        Some((i, v)) if expected.fits(v) => {
            let text = format!("{off}; {v} with it lifted: {hangs} pulls it off, not the circuit");
            Finding::new(Outcome::Watch, Rule::Circuit, text)
                .by(i)
                .next(format!("mend {hangs}, then read pin {n} again"))
        }
        Some((i, v)) => {
            Finding::new(Outcome::Replace, Rule::Circuit, format!("{off}, and {v} with nothing on it")).by(i)
        }
        None => {
            let next = format!("power off, lift {hangs} at pin {n}, and read it as 'lifted'");
            Finding::new(Outcome::MeasureAgain, Rule::Circuit, off).by(i).next(next)
        }
    });
}

/// Pins that tell something and were not read.
fn still_to_read(found: &mut Findings, pins: &Pins<'_>) {
    let left: Vec<String> = pins
        .device
        .in_probing_order()
        .into_iter()
        .filter(|p| p.is_known() && pins.read(p.number, false).is_none())
        .map(|p| p.number.to_string())
        .collect();
    if !left.is_empty() {
        let text = format!("not read yet: pin {}", left.join(", "));
        let next = format!("read pin {}", left.join(", "));
        found.push(Finding::new(Outcome::MeasureAgain, Rule::Circuit, text).next(next));
    }
}
