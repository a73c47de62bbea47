//! Diodes in series where none stands the volts alone: as many as share them in the worst case, with what keeps the shares
//! even (rules R7 and R9).

use super::assess::Offer;
use super::{Choice, ChoiceReason};
use crate::part::size::sizes;
use crate::preferred::{Series, neighbours};
use crate::quantity::{Farad, Ohm, Volt};
use crate::source::Source;
use crate::supply::diodes_in_series;
use crate::transistor::rule::{RuleNumber, number};

/// The most diodes that are strung (practice: beyond it a stick made for the volts is bought).
const MOST: u32 = 20;

/// A string of one type that stands `volts` the wrong way; `None` where one alone does, where more than can be strung are
/// needed, or where a drawer has too few.
pub(super) fn string(offer: &Offer, volts: f64) -> Option<Choice> {
    let piece = &offer.piece;
    let rated = piece.volts?;
    let n = diodes_in_series(Volt::computed(volts), rated).filter(|n| (2..=MOST).contains(n))?;
    if offer.count.is_some_and(|c| c < n) {
        return None;
    }
    let across = Equalising::of(rated);
    let source = || Source::handbook("rectifiers in series: equalising resistors and capacitors");
    let say = |text: String| ChoiceReason { rule: "R9", text, source: source() };
    let whole = Volt::computed(rated.volts() * f64::from(n));
    Some(Choice {
        description: format!(
            "{n} × {} in series, {} and {} across each",
            piece.type_number, across.ohms, across.farads
        ),
        value_si: None,
        deviation: None,
        volts: Some(whole),
        watts: None,
        network: None,
        pieces: (0..n).map(|_| offer.chosen()).collect(),
        passes: vec![say(format!(
            "{} the wrong way: {n} of {rated} share them, one of them a little more than its part",
            Volt::computed(volts)
        ))],
        cautions: vec![
            say(format!(
                "{} across each, as {} in a row for their volts; {} of {rated} or more across each",
                across.ohms, across.bodies, across.farads
            )),
            ChoiceReason::practice(
                "all of one type and one batch, on a board that stands the whole volts; kilovolts: one hand, the stick first",
                "high-voltage supplies",
            ),
        ],
        effects: vec![],
        margins: vec![],
        price_hundredths: offer.price_hundredths.map(|p| p * n),
    })
}

/// What goes across each diode.
struct Equalising {
    ohms: Ohm,
    /// How many bodies in a row stand the volts.
    bodies: u32,
    farads: Farad,
}

impl Equalising {
    fn of(rated: Volt) -> Self {
        let wanted = rated.volts() * number(RuleNumber::EqualisingOhms);
        let ohms = neighbours(Series::E12, wanted).map_or(wanted, |n| n.nearest);
        let half_watt = sizes().iter().find(|s| s.power.watts() >= 0.5).map_or(rated, |s| s.volts);
        Self {
            ohms: Ohm::computed(ohms),
            bodies: (rated.volts() / half_watt.volts()).ceil() as u32,
            farads: Farad::computed(number(RuleNumber::EqualisingFarads)),
        }
    }
}
