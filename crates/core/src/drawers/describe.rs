//! A piece in a line: `0.022 µF ±10 % 630 V polyester`.

use std::fmt;

use super::Piece;
use crate::named::Named;
use crate::part::PartKind;
use crate::quantity::format::{format, percent};

impl Piece {
    /// Its value as it is written; its type number where it has no value.
    #[must_use]
    pub fn value_text(&self) -> String {
        match (self.kind.quantity(), self.value_si) {
            (Some(q), Some(v)) => format(q, v).to_string(),
            _ => self.type_number.clone(),
        }
    }
}

impl Piece {
    /// What there is to say of it beside its value: `±10 % 630 V polyester`.
    #[must_use]
    pub fn rest_text(&self) -> String {
        let mut words = Vec::new();
        if !self.type_number.is_empty() && self.type_number != self.value_text() {
            words.push(self.type_number.clone());
        }
        words.extend(self.tolerance.map(|t| format!("±{}", percent(t.fraction()))));
        words.extend(self.watts.map(|w| w.to_string()));
        words.extend(
            self.volts
                .filter(|_| self.kind != PartKind::Resistor)
                .map(|v| if self.safety.is_some() { format!("{v} AC") } else { v.to_string() }),
        );
        words.extend(self.amperes.map(|a| a.to_string()));
        words.extend(self.winding.map(|r| format!("{r} winding")));
        words.extend(self.safety.map(|s| format!("class {s}")));
        match self.family {
            Some(family) => words.push(family.name().to_owned()),
            None => words.push(self.kind.name().to_owned()),
        }
        words.extend(self.celsius.map(|c| format!("{c} °C")));
        words.join(" ")
    }
}

impl fmt::Display for Piece {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let (value, rest) = (self.value_text(), self.rest_text());
        if value.is_empty() { f.write_str(&rest) } else { write!(f, "{value} {rest}") }
    }
}
