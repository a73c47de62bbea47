//! Why a row of colours cannot be read, in words for whoever clicked them.

use super::{Turn, fitted, taken};
use crate::marking::scheme::{Layout, Role, Scheme, layouts};
use crate::marking::{Colour, Hints, MarkingError};
use crate::part::PartKind;

/// Why this layout cannot be read from these colours; `None` where it can.
pub(super) fn refusal(layout: &Layout, colours: &[Colour]) -> Option<String> {
    for (place, colour) in colours.iter().enumerate() {
        let role = layout.places.get(place)?;
        let first = ["first", "second", "third"]
            .get(layout.places[..place].iter().filter(|r| **r == Role::Digit).count());
        if layout.cells(place, *colour).is_empty() {
            return Some(match role {
                Role::Digit => format!("{colour} cannot be a {} digit", first.unwrap_or(&"further")),
                Role::Multiplier => format!("{colour} is no multiplier"),
                Role::Tolerance => format!("{colour} is no tolerance"),
                Role::Temperature => format!("{colour} is no temperature coefficient"),
                Role::FailureRate => format!("{colour} is no failure rate"),
                Role::Voltage => format!("{colour} stands for no voltage"),
                Role::Characteristic => format!("{colour} stands for no characteristic"),
                _ => format!("{colour} has no meaning as {role}"),
            });
        }
        if place == 0 && *colour == Colour::Black && layout.part == PartKind::Resistor && *role == Role::Digit
        {
            return Some("black cannot be the first digit: no value begins with 0".to_owned());
        }
    }
    None
}

/// Why nothing can be read from these colours, in words for whoever clicked them.
pub(in crate::marking) fn refused(colours: &[Colour], hints: &Hints) -> MarkingError {
    // The code that is meant: the one that was named, or one of the part's own with as many colours.
    let of_part = |l: &&Layout| hints.part.is_some_and(|p| p == l.part);
    let likely = layouts()
        .iter()
        .find(|l| of_part(l) && l.scheme != Scheme::BodyEndDot && fitted(l, colours).is_some())
        .or(layouts().iter().find(of_part));
    let scheme = hints.scheme.or(likely.map(|l| l.scheme)).unwrap_or(Scheme::Bands);
    // The link's single band is black or it is none.
    let of_scheme: Vec<&Layout> =
        layouts().iter().filter(|l| l.scheme == scheme && l.places[0] != Role::Link).collect();
    let fitting = of_scheme.iter().find(|l| fitted(l, colours).is_some());
    let Some(layout) = fitting else {
        let mut counts: Vec<usize> = of_scheme.iter().map(|l| l.places.len()).collect();
        counts.sort_unstable();
        counts.dedup();
        let known = counts.iter().map(ToString::to_string).collect::<Vec<_>>().join(", ");
        return MarkingError::ColourCount { given: colours.len(), scheme, known };
    };
    let ahead = refusal(layout, &taken(layout, Turn::None, colours));
    let back = layout.turns.then(|| refusal(layout, &taken(layout, Turn::OtherEnd, colours))).flatten();
    MarkingError::Order(match (ahead, back) {
        (Some(a), Some(b)) if a == b => format!("{a}, from either end"),
        (Some(a), Some(b)) => format!("{a}; perhaps you are reading from the wrong end, but there {b}"),
        (Some(a), None) => a,
        (None, _) => "these colours are no value that is made".to_owned(),
    })
}
