//! Two readings that contradict each other: open once, and then a value. A part that does so is intermittent, and goes.

use super::{Case, Outcome, Reason, Rule, Verdict};
use crate::part::Part;
use crate::reading::{ReadQuantity, Reading, Shown};

/// Lets a contradiction of readings count. A mistaken one of the two is voided; then it is none.
pub(super) fn weigh(verdict: &mut Verdict, case: Case<'_>) {
    let of = match case.part {
        Part::Resistor(_) | Part::Coil(_) => ReadQuantity::Resistance,
        Part::Capacitor(_) => ReadQuantity::Capacitance,
        Part::Diode(_)
        | Part::Transistor(_)
        | Part::Ic(_)
        | Part::Valve(_)
        | Part::Fuse(_)
        | Part::Switch
        | Part::Loudspeaker(_) => return,
    };
    let free = case.readings.iter().enumerate().filter(|(_, r)| r.quantity == of && !r.still_connected());
    let (mut open, mut value) = (None, None);
    for (i, r) in free {
        if is_open(r) {
            open = Some(i);
        } else if let Some(v) = r.value_si() {
            value = Some((i, v));
        }
    }
    let (Some(_), Some((_, v))) = (open, value) else { return };
    let text = format!(
        "open once, and {} another time: intermittent. Void the reading that was a slip, if one was",
        of.written(v)
    );
    verdict.reasons.insert(0, Reason::new(Rule::Method, text));
    if verdict.call != Outcome::Replace {
        verdict.call = Outcome::Replace;
        verdict.certain = false;
        verdict.next = vec!["find what fits".to_owned()];
        verdict.asks.clear();
        verdict.thresholds.clear();
    }
}

/// Open is beyond the range of an ohmmeter, and nothing at all on a capacitance meter.
fn is_open(r: &Reading) -> bool {
    match (r.quantity, r.shown) {
        (ReadQuantity::Resistance, Shown::Overrange { .. }) => true,
        (ReadQuantity::Capacitance, Shown::Value { si }) => si == 0.0,
        _ => false,
    }
}
