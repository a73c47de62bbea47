//! Loudspeakers (rule R26): the voice coil by its copper.

use super::finding::{Finding, Findings};
use super::{Case, Outcome, Rule, Verdict};
use crate::part::Loudspeaker;
use crate::quantity::format::percent;
use crate::reading::ReadQuantity;

/// Between these shares of its impedance lies a voice coil's copper (practice: about four fifths).
const COPPER: std::ops::RangeInclusive<f64> = 0.55..=1.05;

/// Judges a loudspeaker by the direct-current resistance of its voice coil.
pub(super) fn judge(case: Case<'_>, part: &Loudspeaker) -> Verdict {
    let mut found = Findings::default();
    let rule = Rule::Loudspeaker;
    if let Some((i, r)) = case.newest(ReadQuantity::Resistance) {
        found.push(
            match r.ohms() {
                None => Finding::new(Outcome::Replace, rule, "its voice coil is open").next(
                    "look at the braids from the terminals to the cone first: they break and can be renewed",
                ),
                Some(ohms) if r.still_connected() => {
                    let text =
                        format!("{ohms} in the set: the output transformer's secondary lies across it");
                    Finding::new(Outcome::MeasureAgain, rule, text)
                        .certain(false)
                        .next("take one lead off, and read it again")
                }
                Some(ohms) => {
                    let (share, of) = (ohms / part.impedance, part.impedance);
                    let text = format!("{ohms} of copper for {of}: {}", percent(share));
                    if COPPER.contains(&share) {
                        Finding::new(Outcome::Keep, rule, text)
                            .next("push the cone straight in and out: it must not scrape")
                    } else if share < *COPPER.start() {
                        Finding::new(
                            Outcome::Watch,
                            rule,
                            format!("{text}, too little: shorted turns, or made for less"),
                        )
                    } else {
                        Finding::new(
                            Outcome::Watch,
                            rule,
                            format!("{text}, too much: made for more, or a poor joint"),
                        )
                    }
                }
            }
            .by(i),
        );
    }
    found.settle("read its voice coil in ohms, one lead off")
}
