//! The sentence that would make a part as it is: for reading it back, and for telling it to another tray.

use crate::named::Named;
use crate::part::{MadeOf, PartKind, Position, VisualSign};
use crate::quantity::format::{format, percent};
use crate::quantity::{Fraction, Ohm, Quantity, Watt};

/// A part as far as a sentence says it.
#[derive(Debug, Clone)]
pub struct Described<'a> {
    /// Its name.
    pub name: &'a str,
    /// What it is.
    pub kind: PartKind,
    /// What is printed on it as it was typed; of a resistor nothing.
    pub marking: &'a str,
    /// What is marked, in the base unit of its kind.
    pub marked_si: Option<f64>,
    /// The marked tolerance.
    pub tolerance: Option<Fraction>,
    /// Its rated watts.
    pub power: Option<Watt>,
    /// How it is made.
    pub family: Option<MadeOf>,
    /// What it does in the set.
    pub position: Option<Position>,
    /// Where it sits.
    pub place: &'a str,
    /// What is seen on it.
    pub looks: &'a [VisualSign],
    /// What the sheet says, in the base unit of its kind.
    pub sheet_si: Option<f64>,
    /// A winding's resistance by the sheet.
    pub winding: Option<Ohm>,
    /// The year in which it was made.
    pub made: Option<u16>,
    /// Plates of a selenium stack.
    pub plates: Option<u16>,
}

impl Described<'_> {
    /// The sentence; values as the screens write them, to their digits.
    #[must_use]
    pub fn sentence(&self) -> String {
        let mut said = vec![self.mark()];
        said.extend(self.family.map(|f| f.name().to_owned()));
        said.extend(self.position.map(|p| p.name().to_owned()));
        // A place that is no place of the grammar is in somebody's own words.
        said.push(if self.place.is_empty() {
            String::new()
        } else {
            format!("\"{}\"", self.place.replace('"', "'"))
        });
        said.extend(self.looks.iter().map(|l| l.name().to_owned()));
        said.extend(self.plates.filter(|n| *n > 1).map(|n| format!("plates {n}")));
        said.extend(self.made.map(|y| format!("made {y}")));
        let sheet = self
            .sheet_si
            .zip(self.kind.quantity())
            .map(|(v, q)| format!("sheet {}", tight(&format(q, v).to_string())));
        let winding = self.winding.map(|r| format!("sheet {}", tight(&r.to_string())));
        said.extend(winding.or(sheet));
        said.retain(|s| !s.is_empty());
        format!("{} {}", self.name, said.join(", "))
    }

    fn mark(&self) -> String {
        if self.kind != PartKind::Resistor {
            let value = self.marked_si.zip(self.kind.quantity());
            let mark = if self.marking.is_empty() {
                value.map_or_else(String::new, |(v, q)| tight(&format(q, v).to_string()))
            } else {
                self.marking.to_owned()
            };
            // A valve and its type alone go into the voltage chart.
            return if self.kind == PartKind::Valve { format!("valve {mark}") } else { mark };
        }
        let value = self.marked_si.map(|v| tight(&format(Quantity::Resistance, v).to_string()));
        let tolerance = self.tolerance.map(|t| tight(&percent(t.fraction()).to_string()));
        let power = self.power.map(|p| tight(&p.to_string()));
        [value, tolerance, power].into_iter().flatten().collect::<Vec<_>>().join(" ")
    }
}

/// A value without the space before its unit, so that it is one word.
fn tight(value: &str) -> String {
    value.chars().filter(|c| !c.is_whitespace()).collect()
}
