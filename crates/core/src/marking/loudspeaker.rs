//! What is printed on a loudspeaker: its impedance, and the watts that it takes.

use super::{Code, Meaning, Value};
use crate::part::PartKind;
use crate::quantity::{Ohm, Quantity, Watt, parse};
use crate::source::Source;

/// `4 ohm`, `3.2Ω 5W`, `8R`; `None` for anything else.
#[must_use]
pub fn meaning(text: &str) -> Option<Meaning> {
    let text = text.to_lowercase().replace("ohms", "ohm").replace(" ohm", "ohm").replace(" w", "w");
    let (mut ohms, mut watts) = (None, None);
    for word in text.split_whitespace() {
        let unit = word.trim_start_matches(|c: char| c.is_ascii_digit() || "./,".contains(c));
        match parse::quantity_of_unit(unit) {
            Some(Quantity::Power) => watts = parse::best(Quantity::Power, word).ok(),
            _ => ohms = Some(parse::best(Quantity::Resistance, word).ok()?),
        }
    }
    let impedance = Ohm::new(ohms?).ok().filter(|r| *r > Ohm::ZERO)?;
    let source = Source::practice("impedance and watts as printed");
    let mut m = Meaning::new(PartKind::Loudspeaker, Code::PlainText, Value::Resistance(impedance), source);
    m.power = watts.and_then(|w| Watt::new(w).ok());
    m.because.push("impedance as printed; its copper reads about four fifths of that".to_owned());
    Some(m)
}
