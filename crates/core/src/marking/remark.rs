//! A mark that is given to a part whose mark was known: it says what it was, and asks.

use crate::part::PartKind;
use crate::quantity::format::format;

/// Two values that are the same to the last figure that anybody marks.
const SAME: f64 = 1e-3;

/// What is known of a mark.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Marked<'a> {
    /// The value, in the base unit of the part's kind.
    pub value_si: Option<f64>,
    /// The type number.
    pub type_number: Option<&'a str>,
}

impl Marked<'_> {
    fn text(&self, kind: PartKind) -> Option<String> {
        let value = || Some(format(kind.quantity()?, self.value_si?).to_string());
        self.type_number.filter(|t| !t.is_empty()).map(str::to_owned).or_else(value)
    }
}

/// The question before `now` takes the place of `was`; `None` where nothing was known, or it is the same.
///
/// ```
/// use owl_core::marking::remark::{Marked, remarked};
/// use owl_core::part::PartKind;
/// let ohm = |v| Marked { value_si: Some(v), type_number: None };
/// assert!(remarked("R7", PartKind::Resistor, ohm(39e3), ohm(3900.0)).unwrap().contains("39 kΩ"));
/// assert!(remarked("R7", PartKind::Resistor, ohm(39e3), ohm(39e3)).is_none());
/// ```
#[must_use]
pub fn remarked(name: &str, kind: PartKind, was: Marked<'_>, now: Marked<'_>) -> Option<String> {
    let same = match (was.type_number, now.type_number, was.value_si, now.value_si) {
        (Some(a), Some(b), _, _) => a.eq_ignore_ascii_case(b),
        (_, _, Some(a), Some(b)) => (a / b - 1.0).abs() <= SAME,
        _ => false,
    };
    let (before, after) = (was.text(kind)?, now.text(kind)?);
    (!same).then(|| format!("{name} was read as {before}. Is it {after}, or is another part meant?"))
}
