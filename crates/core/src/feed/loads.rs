//! What a load draws, where only the sheet's volts are known: what flows into its node must flow out of it.

use super::fault::SHORT;
use super::{Element, FeedError, FeedPart, RAIL};
use crate::quantity::{Ampere, Volt};

/// The current of the load `wanted` (its number in `parts`), by the sheet's volts and the other parts of its node.
///
/// # Errors
/// [`FeedError::LoadUnknown`] where the sheet does not give the volts of its node and of those beside it, or where
/// another load of that node is not known either; [`FeedError::LoadFeeds`] where it would have to feed.
pub fn from_sheet(
    parts: &[FeedPart],
    unknown: &[usize],
    wanted: usize,
    rail: Volt,
    ground: &str,
    sheet: &[(String, Volt)],
) -> Result<Ampere, FeedError> {
    let name = parts[wanted].name.clone();
    let missing = |why: String| FeedError::LoadUnknown { part: wanted, name: name.clone(), why };
    let volts = |node: &str| match node {
        n if n == ground => Ok(0.0),
        RAIL => Ok(rail.volts()),
        n => sheet
            .iter()
            .find(|(k, _)| k == n)
            .map(|(_, v)| v.volts())
            .ok_or_else(|| missing(format!("{n} is missing"))),
    };
    let (node, other) = (&parts[wanted].a, &parts[wanted].b);
    let (node, sign) = if node == ground || node == RAIL { (other, -1.0) } else { (node, 1.0) };
    let here = volts(node)?;
    let mut into = 0.0;
    for (i, p) in parts.iter().enumerate().filter(|(i, _)| *i != wanted) {
        let (far, away) = match (&p.a == node, &p.b == node) {
            (true, false) => (&p.b, 1.0),
            (false, true) => (&p.a, -1.0),
            (true, true) | (false, false) => continue,
        };
        if unknown.contains(&i) {
            return Err(missing(format!("{} on the same node is not known either", p.name)));
        }
        into += match p.element {
            Element::Resistor(r) | Element::Resistance(r) => (volts(far)? - here) / r.ohms(),
            Element::Current(a) => -away * a.amperes() * rail.volts().signum(),
            Element::Contact => (volts(far)? - here) / SHORT,
            Element::Capacitor(_) => 0.0,
        };
    }
    let draws = sign * into * rail.volts().signum();
    if draws < 0.0 {
        return Err(FeedError::LoadFeeds { part: wanted, name, volts: Volt::computed(here) });
    }
    Ok(Ampere::computed(draws))
}
